"""Texts that a maker writes, without what no pen writes: control characters, and what XML cannot hold.

Names end up in netlists, drawings and sheets, where a line break would begin a new command. They are cleaned rather
than refused: such characters come along when something is pasted, and nobody misses them.
"""

import unicodedata

from pydantic import BeforeValidator

# Cc: controls; Cf: marks that turn or hide text; Co, Cn: no characters at all.
_NO_CHARACTERS = frozenset({"Cc", "Cf", "Co", "Cn"})
_BREAKS = frozenset("\t\n\v\f\r\x1c\x1d\x1e\x85\u2028\u2029")
# Joins letters of some scripts and parts of some signs: written on purpose.
_JOINERS = frozenset("\u200c\u200d")


def on_one_line(text: object) -> object:
    """A line break or tab becomes a space, any other control character goes. What is no text stays as it is."""
    return _cleaned(text, "") if isinstance(text, str) else text


def on_lines(text: object) -> object:
    """The same for a text of several lines, which keeps its line breaks and tabs."""
    return _cleaned(text.replace("\r\n", "\n"), "\n\t") if isinstance(text, str) else text


def _cleaned(text: str, kept: str) -> str:
    if text.isascii() and text.isprintable():
        return text
    return "".join(letter if letter in kept else _written(letter) for letter in text)


def _written(letter: str) -> str:
    if letter in _BREAKS:
        return " "
    return letter if letter in _JOINERS or unicodedata.category(letter) not in _NO_CHARACTERS else ""


# Put last among a text's marks, so that its length is taken of what is left.
ON_ONE_LINE = BeforeValidator(on_one_line)
ON_LINES = BeforeValidator(on_lines)
