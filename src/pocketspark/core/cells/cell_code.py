"""The code on the label of one own cell: its number with a check character, so that a slip of a finger is told.

Digits weigh 3^i modulo 31, a prime of which 3 is a primitive root: any one wrong character and any two that changed
places are found (arithmetic of check characters, as in ISO/IEC 7064). I, L, O, S and U are left out: they are misread.
"""

import re

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say

_CHARACTERS = "0123456789ABCDEFGHJKMNPQRTVWXYZ"
_WRITTEN = re.compile(r"\s*C?\s*[-.]?\s*(\d{1,10})\s*[-. ]?\s*([0-9A-Z])\s*", re.IGNORECASE)


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
        raise NoSuchCode(say("a label's code is written as it is printed: C, a number, a hyphen, one character more"))
    number, check = written[1], written[2].upper()
    if check != _check(number):
        raise NoSuchCode(say("a character of this code is wrong: look at the label again"))
    return int(number)


def _check(text: str) -> str:
    total = 0
    for character in text:
        total = (total + _CHARACTERS.index(character)) * 3 % len(_CHARACTERS)
    return _CHARACTERS[-total % len(_CHARACTERS)]
