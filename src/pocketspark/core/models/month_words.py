"""Months of the year as makers write them: "May to September", "in July", "Nov - Feb"; read and written."""

import re
from collections.abc import Sequence

from pocketspark.core.message import Message, row_of
from pocketspark.core.models.climate import MONTHS

_BY_LETTERS = {name[:3].lower(): number for number, name in enumerate(MONTHS, start=1)}
_NAMES = "|".join(f"{name}|{name[:3]}" for name in MONTHS)
# A month alone, or the first and the last of a row; with the word or the comma that leads to it.
_SPAN = re.compile(
    rf"(?:\b(?:in|from|and|only)\s+)*\b(?P<first>{_NAMES})\b\.?"
    rf"(?:\s*(?:to|until|till|through|[-–—])\s*(?P<last>{_NAMES})\b\.?)?",
    re.IGNORECASE,
)


def parted_from_months(text: str) -> tuple[str, tuple[int, ...] | None]:
    """The text without its months, and which they are, from 1; None where it names none."""
    found: set[int] = set()
    for span in _SPAN.finditer(text):
        first = _BY_LETTERS[span["first"][:3].lower()]
        last = _BY_LETTERS[(span["last"] or span["first"])[:3].lower()]
        found |= {(first - 1 + step) % 12 + 1 for step in range((last - first) % 12 + 1)}
    if not found:
        return text, None
    return re.sub(r"^[\s,;]+|[\s,;]+$", "", re.sub(r"[,;]\s*(?=[,;])", "", _SPAN.sub("", text))), tuple(sorted(found))


def months_in_words(months: Sequence[int]) -> list[Message]:
    """Rows of months as they are read again: "April to October"."""
    inside = set(months)
    begins = [month for month in sorted(inside) if (month - 2) % 12 + 1 not in inside]
    return [_row_from(month, inside) for month in begins]


def _row_from(first: int, inside: set[int]) -> Message:
    last = first
    while last % 12 + 1 in inside:
        last = last % 12 + 1
    ends = [MONTHS[first - 1]] if last == first else [MONTHS[first - 1], "to", MONTHS[last - 1]]
    return row_of(ends, " ")
