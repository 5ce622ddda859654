"""A recipe as one JSON file, with a hash of its content, and the signature of whoever made it, if they want one.

The hash is SHA-256 over the JSON of everything else, keys sorted, no spaces; the signature is Ed25519 over that hash.
"""

import hashlib
import json
from base64 import b64decode, b64encode
from typing import Any

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey
from pydantic import ValidationError

from pocketspark.core.message import Message, as_message, say
from pocketspark.core.models.upgrade import UnknownFormat, upgraded
from pocketspark.core.photographs.marks import Picture
from pocketspark.core.recipe import MOST_PICTURE_CHARACTERS, Recipe, RecipePicture
from pocketspark.core.refusal import Refusal, refusals
from pocketspark.formats import photograph
from pocketspark.formats.project_json import UnreadableProject

# A document as large as a project's at most, and its pictures.
LARGEST_BYTES = 4_000_000
FORMAT = "pocket-spark-recipe/1"
_SEAL = ("sha256", "public_key", "signature")


def dumps(recipe: Recipe, key: Ed25519PrivateKey | None = None) -> str:
    """The file; signed where a key is given."""
    document: dict[str, Any] = {"format": FORMAT, **recipe.model_dump(mode="json")}
    digest = _digest(document)
    document["sha256"] = digest.hex()
    if key is not None:
        document["public_key"] = b64encode(key.public_key().public_bytes_raw()).decode()
        document["signature"] = b64encode(key.sign(digest)).decode()
    return json.dumps(document, indent=2, ensure_ascii=False) + "\n"


def is_recipe(text: bytes) -> bool:
    """By its first lines: what it is otherwise is found when it is read."""
    return FORMAT.encode() in text[:200]


def loads(text: bytes) -> Recipe:
    """Read, with its hash and signature looked at. Raises UnreadableProject."""
    if len(text) > LARGEST_BYTES:
        raise _unreadable(say("the file is over {most} MB: that is no recipe", most=LARGEST_BYTES // 1000000))
    try:
        document = json.loads(text)
    except (ValueError, RecursionError):
        raise _unreadable(say("the file is not JSON")) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise _unreadable(say("a recipe begins with format {format}", format=FORMAT))
    seal = {name: document.pop(name, None) for name in _SEAL}
    digest = _digest(document)
    unchanged = seal["sha256"] == digest.hex()
    signed_by = _signed_by(seal, digest) if unchanged else ""
    document.pop("format")
    try:
        recipe = Recipe.model_validate(_in_this_format(document))
    except ValidationError as error:
        raise UnreadableProject(refusals(error)) from None
    found = {"digest": digest.hex(), "unchanged": unchanged, "signed_by": signed_by}
    return recipe.model_copy(update={"origin": recipe.origin.model_copy(update=found)})


def _in_this_format(document: dict[str, Any]) -> dict[str, Any]:
    """Fields of an earlier format are brought up to date, as in a project."""
    as_project = {"format": "pocket-spark/2", "gadget": document.get("gadget"), "builds": [document.get("plan")]}
    try:
        renewed = upgraded(as_project)
    except UnknownFormat as error:
        raise _unreadable(as_message(str(error))) from None
    return document | {"gadget": renewed.get("gadget"), "plan": (renewed.get("builds") or [None])[0]}


def _digest(document: dict[str, Any]) -> bytes:
    plain = json.dumps(document, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(plain.encode("utf-8", "surrogatepass")).digest()


def _signed_by(seal: dict[str, Any], digest: bytes) -> str:
    """The key's fingerprint; empty where nothing is signed. Raises UnreadableProject for a signature that is wrong."""
    if not seal["signature"] and not seal["public_key"]:
        return ""
    try:
        public = b64decode(str(seal["public_key"]), validate=True)
        Ed25519PublicKey.from_public_bytes(public).verify(b64decode(str(seal["signature"]), validate=True), digest)
    except (ValueError, InvalidSignature):
        raise _unreadable(say("its signature is wrong: ask whoever made it for the file again")) from None
    return hashlib.sha256(public).hexdigest()[:16]


def _unreadable(why: Message) -> UnreadableProject:
    return UnreadableProject([Refusal("", str(why))])


# Narrower and narrower, until it is small enough to go along.
_WIDTHS_PX = (800, 600, 400, 240)


def packed_picture(jpeg: bytes, caption: str) -> RecipePicture:
    """A kept photograph, small enough to go along."""
    for width_px in _WIDTHS_PX:
        text = b64encode(photograph.at_most(jpeg, width_px)).decode()
        if len(text) <= MOST_PICTURE_CHARACTERS:
            break
    return RecipePicture(caption=caption, jpeg=text)


def unpacked_picture(packed: RecipePicture) -> Picture:
    """Read as any picture that somebody adds. Raises UnreadablePhotograph."""
    try:
        data = b64decode(packed.jpeg, validate=True)
    except ValueError:
        raise photograph.UnreadablePhotograph(say("a picture of this recipe is damaged")) from None
    return photograph.read_picture(data)
