"""The shipped library of generic parts: data files, validated as they load."""

from pocketspark.parts.library import Library, Part, library

__all__ = ["Library", "Part", "library"]
