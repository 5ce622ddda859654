"""The shipped library of generic parts: data files, validated as they load."""

from pocketspark.parts.library import Library, LibraryPart, library
from pocketspark.parts.packs import PackFile, PartsPack, UnreadablePack, packs_in, parts_of, read_pack

__all__ = [
    "Library",
    "LibraryPart",
    "PackFile",
    "PartsPack",
    "UnreadablePack",
    "library",
    "packs_in",
    "parts_of",
    "read_pack",
]
