"""The shipped library of generic parts: data files, validated as they load."""

from pocketspark.parts.library import Library, LibraryPart, library

__all__ = ["Library", "LibraryPart", "library"]
