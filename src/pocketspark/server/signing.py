"""The key by which recipes of this computer are signed: made when first asked for, readable by its owner alone."""

import os
from pathlib import Path

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

NAME = "recipe-signing.key"


def signing_key(folder: Path) -> Ed25519PrivateKey:
    """The key in this folder, and a new one where there is none."""
    file = folder / NAME
    if file.exists():
        return Ed25519PrivateKey.from_private_bytes(file.read_bytes())
    key = Ed25519PrivateKey.generate()
    handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "wb") as out:
        out.write(key.private_bytes_raw())
    return key
