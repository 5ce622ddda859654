"""A cell's label as it was read off a photograph, its lines in any order: what of it is a size, and what that means."""

import re
from collections.abc import Iterator, Sequence

from pocketspark.core.cells.size_codes import CAPACITY, LONGEST, VOLTS, NotASizeCode, SizeReading, read_size_code
from pocketspark.core.models.model import Model

# Figures of a size code that stand by themselves, letters and a dash of a maker's own name apart; or an IEC name.
_CODE = re.compile(r"[A-Z]{3}T?\d{1,3}/T?\d{1,3}(?:/T?\d{1,3})?|(?<![\d.,])\d{5,7}(?![\d.,])", re.ASCII)


class PrintedSize(Model):
    """One size code of a label, with what stands beside it, and every plausible reading of it."""

    code: str
    readings: tuple[SizeReading, ...]


class PrintedLabel(Model):
    """What was read, as it was read, and the sizes in it; of a maker's own name none."""

    lines: tuple[str, ...]
    sizes: tuple[PrintedSize, ...]


def read_label(lines: Sequence[str]) -> PrintedLabel:
    """Each code among these lines, read beside the volts and the capacity that are printed with it."""
    kept = tuple(line.strip()[:LONGEST] for line in lines if line.strip())
    return PrintedLabel(lines=kept, sizes=tuple(_sizes(" ".join(kept))))


def _sizes(text: str) -> Iterator[PrintedSize]:
    beside = [found[0] for pattern in (VOLTS, CAPACITY) if (found := pattern.search(text))]
    for code in dict.fromkeys(_CODE.findall(text.upper())):
        printed = " ".join((code, *beside))
        try:
            yield PrintedSize(code=printed, readings=tuple(read_size_code(printed)))
        except NotASizeCode:
            continue
