"""Builds that travel: a recipe made of a proven build, followed by somebody else, changed on the way, and hostile ones.

The hash and the signature are worked out here from the format's words in docs/formats.md, by the standard library and
`cryptography`, not by the module that writes them.
"""

import hashlib
import io
import json
from base64 import b64decode

import pytest
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PublicKey
from fastapi.testclient import TestClient
from PIL import Image

from builders import CELL, plan
from core.test_verdict import changed, proven
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.recipe import recipe_of
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

SEAL = ("sha256", "public_key", "signature")


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        yield client


def kept(client, project):
    return client.post("/api/projects", json=project.model_dump(mode="json")).json()["id"]


def exported(client, project, **asked):
    answer = client.get(f"/api/projects/{kept(client, project)}/recipe.json", params={"author": "Ada"} | asked)
    assert answer.status_code == 200, answer.text
    return answer.json()


def taken_in(client, document):
    text = document if isinstance(document, bytes) else json.dumps(document).encode()
    return client.post("/api/projects/import", content=text)


def followed(client, document):
    answer = taken_in(client, document)
    assert answer.status_code == 201, answer.text
    return Project.model_validate(answer.json()["project"])


def digest_of(document):
    rest = {key: value for key, value in document.items() if key not in SEAL}
    return hashlib.sha256(json.dumps(rest, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode())


MEASURED = {"measured_capacity_ah": 0.83, "inventory_id": 7, "intake": {"rest_v": 3.7}}


def test_a_proven_build_becomes_a_conversion_that_asks_what_differs(client):
    mine = proven(cell=CELL | MEASURED)
    mine = mine.model_copy(update={"notes": "my address", "tags": ("private",)})
    document = exported(client, mine)
    assert "my address" not in json.dumps(document)
    theirs = followed(client, document)
    build = theirs.builds[0]
    assert (theirs.notes, theirs.tags, theirs.gadget.name) == ("", (), mine.gadget.name)
    # the plan is the same, but of the cell nobody has measured anything, and nothing is done
    assert build.r_prog_ohm == mine.builds[0].r_prog_ohm
    assert (build.cell.measured_capacity_ah, build.cell.inventory_id, build.cell.intake) == (None, None, None)
    assert not any(step.done for step in build.record.steps)
    assert build.recipe.author == "Ada"
    assert (build.recipe.unchanged, build.recipe.signed_by) == (True, "")
    # what its author measured is guessed here: it is asked for again
    assert mine.basis_of("gadget.modes.0.current_a") == "measured"
    assert theirs.basis_of("gadget.modes.0.current_a") == "inferred"
    assert "measured" not in theirs.basis.values()
    assert "After a recipe by Ada" in theirs.logbook[0].text


def test_its_authors_readings_stand_beside_the_checkpoints_and_prove_nothing(client):
    theirs = followed(client, exported(client, proven()))
    assert not theirs.builds[0].recipe.proven  # it came here in a file: finished with that reservation
    assert recipe_of(proven(), 0, "Ada", "2026-12-01T00:00:00Z").origin.proven
    steps = {step.key: step for step in build_steps(theirs, 0).steps}
    assert str(steps["first_charge"].theirs).startswith("Ada read ")
    assert steps["first_charge"].value is None
    assert steps["first_charge"].state != "done"
    assert build_steps(theirs, 0).verdict.kind == "unproven"
    assert [one.code for one in assess(theirs, 0).findings]  # it is judged like any other


def test_the_hash_is_that_of_the_content_and_the_signature_that_of_the_hash(client):
    document = exported(client, proven(), signed=True)
    digest = digest_of(document)
    assert document["sha256"] == digest.hexdigest()
    public = b64decode(document["public_key"])
    Ed25519PublicKey.from_public_bytes(public).verify(b64decode(document["signature"]), digest.digest())
    recipe = followed(client, document).builds[0].recipe
    assert recipe.signed_by == hashlib.sha256(public).hexdigest()[:16]
    again = exported(client, proven(), signed=True)
    assert again["public_key"] == document["public_key"]  # the same computer, the same key


def test_one_that_was_changed_on_the_way_says_so(client):
    document = exported(client, proven(), signed=True)
    document["plan"]["r_prog_ohm"] = 2000
    recipe = followed(client, document).builds[0].recipe
    assert (recipe.unchanged, recipe.signed_by) == (False, "")
    forged = exported(client, proven(), signed=True)
    forged["origin"]["author"] = "Eve"
    forged["sha256"] = digest_of(forged).hexdigest()
    refused = taken_in(client, forged)
    assert refused.status_code == 422
    assert "signature is wrong" in refused.text


def test_only_what_was_measured_to_its_end_is_handed_on(client):
    unfinished = kept(client, plan())
    answer = client.get(f"/api/projects/{unfinished}/recipe.json")
    assert answer.status_code == 409
    assert "proven" in answer.text
    practice = kept(client, changed(proven()).with_build_copied(0, "again", practice=True))
    assert client.get(f"/api/projects/{practice}/recipe.json?build=1").status_code == 409
    assert client.get(f"/api/projects/{practice}/recipe.json?build=9").status_code == 404


@pytest.mark.parametrize(
    "spoilt",
    [
        lambda one: one | {"plan": None},
        lambda one: one | {"plan": one["plan"] | {"boards": [one["plan"]["boards"][0]] * 100_000}},
        lambda one: one | {"origin": one["origin"] | {"readings": [{"step": "x", "value": 1e400}]}},
        lambda one: one | {"origin": one["origin"] | {"went_wrong": ["x"] * 1000}},
        lambda one: one | {"basis": {"gadget.modes.mode1.current_a": "sworn"}},
        lambda one: one | {"surprise": 1},
        lambda one: {"format": one["format"]},
    ],
)
def test_hostile_recipes_are_refused_and_nothing_is_kept(client, spoilt):
    document = spoilt(exported(client, proven()))
    before = len(client.get("/api/projects").json())
    answer = taken_in(client, document)
    assert answer.status_code in (413, 422), answer.text[:200]
    assert len(client.get("/api/projects").json()) == before


def test_control_characters_are_left_out_of_names(client):
    document = exported(client, proven())
    theirs = followed(client, document | {"gadget": document["gadget"] | {"name": "Lamp\x00\x1b[31m"}})
    assert theirs.gadget.name == "Lamp[31m"


def test_odd_bytes_are_refused(client):
    for text in (
        b'{"format": "pocket-spark-recipe/1"',
        b'["pocket-spark-recipe/1"]',
        b"[" * 5000 + b"pocket-spark-recipe/1",
    ):
        assert taken_in(client, text).status_code == 422


# Pictures ----------------------------------------------------------------------------------------------------------


def photographed(client, project_id, colour, width=1600):
    out = io.BytesIO()
    Image.effect_noise((width, width * 3 // 4), 60).convert("RGB").save(out, "JPEG", exif=WHERE, quality=95)
    answer = client.post(f"/api/projects/{project_id}/photos", params={"caption": colour}, content=out.getvalue())
    assert answer.status_code == 201, answer.text
    return answer.json()["id"]


WHERE = Image.Exif()
WHERE[0x010E] = "taken at home"


def test_pictures_go_along_only_where_they_were_picked(client):
    project_id = kept(client, proven())
    first, second = (photographed(client, project_id, name) for name in ("the lid", "my kitchen"))
    address = f"/api/projects/{project_id}/recipe.json"
    assert client.get(address).json()["pictures"] == []
    document = client.get(address, params={"pictures": [first]}).json()
    [picture] = document["pictures"]
    assert picture["caption"] == "the lid"
    with Image.open(io.BytesIO(b64decode(picture["jpeg"]))) as seen:
        assert max(seen.size) <= 800
        assert not seen.getexif()
    assert digest_of(document).hexdigest() == document["sha256"]  # the hash covers them
    theirs = taken_in(client, document).json()["id"]
    [photo] = client.get(f"/api/projects/{theirs}/photos").json()
    assert photo["caption"] == "the lid"
    assert client.get(address, params={"pictures": [second + 99]}).status_code == 404
    assert client.get(address, params={"pictures": [first] * 7}).status_code == 422


@pytest.mark.parametrize("jpeg", ["", "AAAA", "not base64 %%", "R0lGODlhAQABAAAAACw="])
def test_a_picture_that_is_none_is_refused_and_nothing_is_kept(client, jpeg):
    document = exported(client, proven())
    document["pictures"] = [{"caption": "x", "jpeg": jpeg}]
    before = len(client.get("/api/projects").json())
    answer = taken_in(client, document)
    assert answer.status_code in (400, 415, 422)
    assert answer.json()["detail"]
    assert len(client.get("/api/projects").json()) == before
