"""Fields that are filled by measuring: what is typed there was read off something, unless the maker says otherwise."""

from collections.abc import Sequence

# Places in a document; a star stands for any row. Everything inside a place belongs to it.
MEASURING: Sequence[str] = (
    "gadget.bay",
    "gadget.modes.*.current_a",
    "gadget.modes.*.peak_a",
    "gadget.off_current_a",
    "gadget.shell.outer_mm",
    "builds.*.cell.measured_capacity_ah",
    "builds.*.cell.intake",
    "builds.*.record",
)


def is_measured_at(path: str) -> bool:
    """Is this place, or one that it lies in, one of them?"""
    steps = path.split(".")
    return any(_leads_into(steps, place.split(".")) for place in MEASURING)


def _leads_into(steps: Sequence[str], place: Sequence[str]) -> bool:
    return len(steps) >= len(place) and all(one in ("*", step) for one, step in zip(place, steps, strict=False))
