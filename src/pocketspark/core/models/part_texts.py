"""An own part as a maker types it, field by field in text, and back again: nothing else reads such a text."""

import re
from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import Any

from pocketspark.core.models import Cell, paths
from pocketspark.core.models.inventory_item import InventoryKind, InventoryModel, Resistor
from pocketspark.core.models.part_fields import PartField, part_kinds
from pocketspark.core.units.figures import amp_hours, engineering, percent, plain
from pocketspark.core.units.quantity import PREFIXES

_BARE = re.compile(r"[+-]?[\d.,]{1,20}(\s*/\s*[\d.,]{1,20})?")
_PREFIXED_UNIT = re.compile(r"([μmkM])(A|V|Ah|Ω|W)")
# "3k 390 mA": what stands before and after the gap between two numbers.
_OHMS_AND_AMPS = re.compile(r"\s*(\S{1,20}(?:\s[kM]?(?:Ω|ohm))?)\s*(.{0,20})")


def texts_of(kind: InventoryKind, part: InventoryModel) -> dict[str, str]:
    """Every field of the part as it stands in the editor."""
    document = part.model_dump(mode="json")
    return {field.path: _text(field, paths.value_at(document, field.path)) for field in part_kinds()[kind].fields}


def body_from(kind: InventoryKind, old: Mapping[str, Any], texts: Mapping[str, str]) -> dict[str, Any]:
    """The part's body with these texts in it, to be read by its model. A field that is not typed in stays as it was."""
    body: dict[str, Any] = {**old}
    for field in part_kinds()[kind].fields:
        if field.path in texts:
            _put(body, field.path, _value(field, texts[field.path].strip()))
    loads = (body.get("intake") or {}).get("loads")
    if loads:
        body["intake"]["loads"] = [load for load in loads if load.get("volts") is not None]
    return body


def in_short(part: Cell | Resistor) -> str:
    """One line that tells the part from its neighbours."""
    if isinstance(part, Cell):
        measured = f"measured {amp_hours(part.measured_capacity_ah)}" if part.measured_capacity_ah else ""
        return _joined(_size(part.size_mm), f"label {amp_hours(part.capacity_ah)}", measured)
    return _joined(str(engineering(part.r_ohm, "ohm")), str(percent(part.tolerance)), part.mounting)


def _joined(*texts: str) -> str:
    return ", ".join(text for text in texts if text)


def _size(mm: tuple[float, ...] | None) -> str:
    return f"{' x '.join(str(plain(length)) for length in mm)} mm" if mm else ""


def _text(field: PartField, value: Any) -> str:
    if value is None:
        return ""
    if field.kind == "yes":
        return "yes" if value else ""
    if field.kind == "readings":
        return "; ".join(f"{engineering(row['r_ohm'], 'ohm')} {engineering(row['current_a'], 'A')}" for row in value)
    if isinstance(value, list):
        return (" x " if field.kind == "size" else ", ").join(
            str(plain(row)) if field.kind == "size" else row for row in value
        )
    return str(plain(value / unit_size(field.unit), 4)) if isinstance(value, int | float) else str(value)


def _value(field: PartField, text: str) -> Any:
    if field.kind == "yes":
        return text == "yes"
    if not text:
        return [] if field.kind in ("words", "readings") else None
    if field.kind in _LISTS:
        return _LISTS[field.kind](text)
    return f"{text} {field.unit}" if field.unit and _BARE.fullmatch(text) else text


def _reading(text: str) -> dict[str, str]:
    found = _OHMS_AND_AMPS.fullmatch(text)
    return {"r_ohm": found[1], "current_a": found[2].strip()} if found else {"r_ohm": text.strip(), "current_a": ""}


_LISTS: dict[str, Callable[[str], list[Any]]] = {
    "size": lambda text: [part for part in re.split(r"[x×,\s]+", text.lower().replace("mm", "")) if part],
    "words": lambda text: [word for word in re.split(r"[,\s]+", text) if word],
    "readings": lambda text: [_reading(row) for row in text.split(";") if row.strip()],
}


def unit_size(unit: str) -> float:
    """How many base units one of this unit is: "mA" is 0.001."""
    if unit == "%":
        return 0.01
    found = _PREFIXED_UNIT.fullmatch(unit)
    return PREFIXES[found[1]] if found else 1.0


def _put(body: dict[str, Any], path: str, value: Any) -> None:
    """Put it there; a group or row comes into being with its first filled field."""
    steps = path.split(".")
    last = steps[-1]
    branch: Any = body
    for step, after in pairwise(steps):
        below = paths.value_at(branch, step)
        if below is None:
            if value in (None, [], False):
                return
            below = [] if after.isdigit() else {}
            if isinstance(branch, list):
                branch.extend({} for _ in range(int(step) + 1 - len(branch)))
                below = branch[int(step)]
            else:
                branch[step] = below
        branch = below
    if value is None and last not in branch:
        return
    branch[last] = value
