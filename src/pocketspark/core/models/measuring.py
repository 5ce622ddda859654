"""Fields that are filled by measuring: what is typed there was read off something, unless the maker says otherwise."""

import re
from collections.abc import Sequence

# Places in a document; a star stands for any row. Everything inside a place belongs to it.
MEASURING: Sequence[str] = (
    "gadget.bay",
    "gadget.modes.*.current_a",
    "gadget.modes.*.peak_a",
    "gadget.modes.*.readings",
    "gadget.off_current_a",
    "gadget.existing_charging.adapter_v",
    "gadget.existing_charging.current_a",
    "gadget.shell.outer_mm",
    "builds.*.cell.measured_capacity_ah",
    "builds.*.cell.intake",
    "builds.*.record",
)


def is_measured_at(path: str) -> bool:
    """Is this place, or one that it lies in, one of them?"""
    return _INSIDE_ONE.match(path) is not None


_PLACES = "|".join(re.escape(place).replace(r"\*", "[^.]+") for place in MEASURING)
_INSIDE_ONE = re.compile(rf"(?:{_PLACES})(?:\.|$)")
