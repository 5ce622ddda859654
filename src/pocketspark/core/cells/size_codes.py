"""Reading what is printed on a cell: pouch codes, round codes, the names of IEC 61960-3, volts and capacity beside."""

import re

from pocketspark.core.cells.credibility import credible_capacity_ah
from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import Message, row_of, say
from pocketspark.core.models import Cell
from pocketspark.core.models.cell import CellClassKey, CellForm
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import ShownAmpHours, as_typed, bare_length, millimetres, sizes

POUCH = "pouch code, thickness width length; common practice, no source"
ROUND = "round code, diameter and height; common practice, no source"
IEC = "IEC 61960-3, from memory"

LONGEST = 60
# Bodies that a code plausibly means, mm (common practice, no source).
_PLAUSIBLE_THICKNESS = (1.5, 20.0)
_PLAUSIBLE_LENGTH = 200.0
_ROUND_LENGTH_OVER, _ROUND_DIAMETER_OVER = 5.0, 0.4
_POSITIVE = {"C": "cobalt", "N": "nickel", "M": "manganese", "F": "iron", "V": "vanadium", "T": "titanium"}


class NotASizeCode(PocketSparkError, ValueError):
    """The text is no size code; the message says what would be."""


class SizeReading(Model):
    """One way to read a code. `size_mm` as a Cell has it."""

    form: CellForm
    size_mm: tuple[float, ...]
    says: Message
    source: str
    cell_class: CellClassKey = "li_4v20"
    capacity_ah: ShownAmpHours = 0.0  # what a good cell of this volume holds
    printed_ah: ShownAmpHours | None = None


def read_size_code(text: str) -> list[SizeReading]:
    """Every plausible reading, the most plausible first: of the code alone, or of a whole label ("LP 503040 3.7V
    600mAh"). Raises NotASizeCode.
    """
    if len(text) > LONGEST:
        raise NotASizeCode(_unread(f"{text[:LONGEST]} …"))
    volts, capacity = VOLTS.search(text), CAPACITY.search(text)
    code = _ENERGY.sub(" ", CAPACITY.sub(" ", VOLTS.sub(" ", text)))
    printed = {
        "cell_class": _class_of(_figure(volts[1])) if volts else None,
        "printed_ah": _figure(capacity[1]) * (0.001 if capacity[2] else 1.0) if capacity else None,
    }
    stated = {key: value for key, value in printed.items() if value is not None}
    return [_with_capacity(reading.model_copy(update=stated)) for reading in _readings(code)]


# Nominal volts as they are printed, and the class that they mean (common practice, no source).
_CLASS_OF_VOLTS: tuple[tuple[float, CellClassKey], ...] = ((3.2, "lfp"), (3.65, "li_4v20"), (3.8, "li_4v35"))
VOLTS = re.compile(r"(?<![\d.,])([1-5](?:[.,]\d{1,2})?)\s?V(?![A-Za-z])", re.ASCII | re.IGNORECASE)
CAPACITY = re.compile(r"(?<![\d.,])(\d{1,5}(?:[.,]\d{1,3})?)\s?(m?)Ah(?![A-Za-z])", re.ASCII | re.IGNORECASE)
_ENERGY = re.compile(r"(?<![\d.,])(\d{1,3}(?:[.,]\d{1,3})?)\s?Wh(?![A-Za-z])", re.ASCII | re.IGNORECASE)


def _figure(text: str) -> float:
    return float(text.replace(",", "."))


def _class_of(volts: float) -> CellClassKey:
    return min(_CLASS_OF_VOLTS, key=lambda row: abs(row[0] - volts))[1]


def _with_capacity(reading: SizeReading) -> SizeReading:
    """A cell of under a milliamp-hour is no cell, so it stays at what a Cell can be."""
    if min(reading.size_mm) < 0.1:
        return reading
    if reading.printed_ah is not None and not 0.001 <= reading.printed_ah <= 100:
        reading = reading.model_copy(update={"printed_ah": None})
    body = Cell(form=reading.form, size_mm=reading.size_mm, capacity_ah=1, cell_class=reading.cell_class)
    capacity_ah = credible_capacity_ah(body) or 0.0
    return reading.model_copy(update={"capacity_ah": round(min(max(capacity_ah, 0.001), 100), 3)})


def _readings(text: str) -> list[SizeReading]:
    code = text.strip().upper().replace(" ", "")
    if found := re.fullmatch(r"([A-Z]{3})?(T?\d+)/(T?\d+)(?:/(T?\d+))?", code, re.ASCII):
        return [_iec(found, text)]
    digits = re.sub(r"^[A-Z]{1,4}", "", code)
    if not (digits.isascii() and digits.isdigit()):
        raise NotASizeCode(_unread(text))
    if len(digits) == 5:
        return [_round(digits)]
    if len(digits) == 6:
        return [_pouch(digits, 2, 2)]
    if len(digits) == 7:
        readings = [_pouch(digits, 3, 2), _pouch(digits, 2, 2)]
        plausible = [reading for reading in readings if _is_plausible(reading)]
        return sorted(plausible or readings, key=lambda reading: not _in_order(reading))
    raise NotASizeCode(_unread(text))


def _unread(text: str) -> Message:
    return say(
        "'{text}' is no size code; 503759, 1203048, 18650 and ICP9/35/48 are of the kinds that are", text=text.strip()
    )


def _pouch(digits: str, thickness_digits: int, width_digits: int) -> SizeReading:
    split = thickness_digits + width_digits
    thickness, width = int(digits[:thickness_digits]) / 10, int(digits[thickness_digits:split])
    length = int(digits[split:])
    says = say(
        "{thickness} thick, {width} wide, {length} long; tabs, fold and protection add {least} to {most}",
        thickness=millimetres(thickness),
        width=as_typed(width),
        length=as_typed(length),
        least=bare_length(1.0, None),
        most=as_typed(3.0),
    )
    return SizeReading(form="pouch", size_mm=(thickness, float(width), float(length)), says=says, source=POUCH)


def _is_plausible(reading: SizeReading) -> bool:
    thickness, width, length = reading.size_mm
    low, high = _PLAUSIBLE_THICKNESS
    return low <= thickness <= high and thickness <= width and width >= 5 and 8 <= length <= _PLAUSIBLE_LENGTH


def _in_order(reading: SizeReading) -> bool:
    """Width up to length, thickness up to width: how most cells are written."""
    thickness, width, length = reading.size_mm
    return thickness <= width <= length


def _round(digits: str) -> SizeReading:
    diameter, length = float(digits[:2]), int(digits[2:]) / 10
    says = say(
        "{diameter} across, {length} high; real ones run to {round_diameter_over} more "
        "across, and up to {round_length_over} longer with a protection on the end",
        diameter=as_typed(diameter),
        length=millimetres(length),
        round_diameter_over=as_typed(_ROUND_DIAMETER_OVER),
        round_length_over=as_typed(_ROUND_LENGTH_OVER),
    )
    return SizeReading(form="round", size_mm=(diameter, length), says=says, source=ROUND)


def _iec(found: re.Match[str], text: str) -> SizeReading:
    letters, *figures = found.groups()
    size_mm = [int(f[1:]) / 10 if f.startswith("T") else float(f) for f in figures if f]
    shape = letters[2] if letters else ("R" if len(size_mm) == 2 else "P")
    if shape not in "RP" or len(size_mm) != (2 if shape == "R" else 3) or any(mm <= 0 for mm in size_mm):
        raise NotASizeCode(_unread(text))
    positive = _POSITIVE.get(letters[1], "") if letters else ""
    kind = "round" if shape == "R" else "prismatic"
    words = say("lithium, {made}; {size}, rounded up", made=row_of((positive, kind)), size=sizes(*size_mm, digits=None))
    return SizeReading(
        form="round" if shape == "R" else "block",
        size_mm=tuple(size_mm),
        says=words,
        source=IEC,
        cell_class="lfp" if positive == "iron" else "li_4v20",
    )
