"""The code on the label of one own cell: its number with a check character, so that a slip of a finger is told.

ISO/IEC 7064, MOD 37-2, from memory: any one wrong character and any two that changed places are found.
"""

import re

from pocketspark.core.error import PocketSparkError

_CHARACTERS = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ*"
_WRITTEN = re.compile(r"\s*C?\s*[-.]?\s*(\d{1,10})\s*[-. ]?\s*([0-9A-Z*])\s*", re.IGNORECASE)


class NoSuchCode(PocketSparkError, ValueError):
    """No label has this code; the message says how one is written, or that a character is wrong."""

    status = 422


def code_of(number: int) -> str:
    """12 is C12-4, say."""
    return f"C{number}-{_check(str(number))}"


def number_of(code: str) -> int:
    """Raises NoSuchCode."""
    written = _WRITTEN.fullmatch(code)
    if written is None:
        raise NoSuchCode(f"a label's code is written like {code_of(12)}")
    number, check = written[1], written[2].upper()
    if check != _check(number):
        raise NoSuchCode("a character of this code is wrong: look at the label again")
    return int(number)


def _check(text: str) -> str:
    product = 0
    for character in text:
        product = (product + _CHARACTERS.index(character)) * 2 % 37
    return _CHARACTERS[(38 - product) % 37]
