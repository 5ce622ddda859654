"""In which order wires are soldered, and the letter that each has everywhere: all else first, the cell last.

At the cell minus goes on first: while only one lead is on, no slip of the iron can short it (common practice).
"""

from collections.abc import Mapping
from string import ascii_uppercase

from pocketspark.core.hookup.hookup import HookUp
from pocketspark.core.models.wiring import Wire


def in_order(hookup: HookUp) -> list[Wire]:
    """The wires that are to be soldered."""
    roles = hookup.parts.roles

    def place(wire: Wire) -> int:
        ends = {wire.start, wire.end}
        if not goes_to_a_cell(wire, hookup):
            return 0
        return 1 if ends & set(roles.cell_minus) else 2

    return sorted((wire for wire in hookup.wires if not wire.present), key=place)


def goes_to_a_cell(wire: Wire, hookup: HookUp) -> bool:
    return bool({pad.split(".")[0] for pad in (wire.start, wire.end)} & set(hookup.parts.cells))


def letters(hookup: HookUp) -> Mapping[tuple[str, str], str]:
    """Of each wire by its two ends: A to Z, then AA, AB."""
    many = [*ascii_uppercase, *(first + second for first in ascii_uppercase for second in ascii_uppercase)]
    return {(wire.start, wire.end): letter for wire, letter in zip(in_order(hookup), many, strict=False)}
