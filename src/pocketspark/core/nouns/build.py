"""A build: one complete choice of cell, boards, resistor and source. A project may hold several."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field, model_validator

from pocketspark.core.nouns.board import Board, Shaper
from pocketspark.core.nouns.cell import Cell
from pocketspark.core.nouns.noun import Amps, Noun, Ohms, ProgramOhms, Share, Title, Volts

Policy = Literal["gentle", "label", "data_sheet"]
UseWhileCharging = Literal["off", "on_cell", "two_diodes", "load_sharing", "change_over"]

# Label and explanation of each choice. Makers hold with all three policies; gentle is the default and the ceiling
# for salvaged cells, because a small cell in a closed case is seldom in a hurry.
POLICIES: Mapping[Policy, tuple[str, str]] = {
    "gentle": ("Gentle", "half the capacity an hour, 0.5C"),
    "label": ("As labelled", "the capacity in an hour, 1C"),
    "data_sheet": ("Data sheet", "the cell's own stated maximum"),
}
USES_WHILE_CHARGING: Mapping[UseWhileCharging, tuple[str, str]] = {
    "off": ("Switched off", "nothing runs while it charges; printed on the sheet"),
    "on_cell": ("Load on the cell", "the charger feeds cell and gadget together"),
    "two_diodes": ("Two diodes", "5 V or cell, whichever is higher"),
    "load_sharing": ("Load-sharing board", "the board feeds the gadget from 5 V"),
    "change_over": ("Change-over switch", "the gadget hangs on one or the other"),
}


@dataclass(frozen=True)
class SourceFacts:
    """What a kind of 5 V source may give."""

    label: str
    limit_a: float


# USB 2.0, USB 3, Battery Charging 1.2 and Type-C current advertisements, from memory.
SOURCES: Mapping[str, SourceFacts] = {
    "usb2": SourceFacts("USB 2 port", 0.5),
    "usb3": SourceFacts("USB 3 port", 0.9),
    "charging_port": SourceFacts("USB charging port", 1.5),
    "type_c_1a5": SourceFacts("Type-C, 1.5 A", 1.5),
    "type_c_3a": SourceFacts("Type-C, 3 A", 3.0),
}


class Source(Noun):
    """Where the 5 V comes from. A kind outside the table is taken as a maker's own, with the limit stated."""

    kind: Title = "usb2"
    volts: Volts = 5.0
    limit_a: Amps = 0.5
    r_cable_ohm: Ohms = 0.15

    @model_validator(mode="before")
    @classmethod
    def _usual_limit(cls, value: Any) -> Any:
        if isinstance(value, dict) and value.get("limit_a") is None and value.get("kind") in SOURCES:
            return {**value, "limit_a": SOURCES[value["kind"]].limit_a}
        return value

    @property
    def label(self) -> str:
        return SOURCES[self.kind].label if self.kind in SOURCES else self.kind.replace("_", " ")


class Build(Noun):
    """One choice. A missing part is None: the assessment says what is still to be chosen."""

    name: Title = "First build"
    cell: Cell | None = None
    cell_count: int = Field(1, ge=1, le=6)  # like cells in parallel
    boards: tuple[Board, ...] = Field((), max_length=8)
    shaper: Shaper | None = None  # one that is on no board
    r_program_ohm: ProgramOhms | None = None  # None: as the board was delivered
    r_measured_ohm: ProgramOhms | None = None  # read on the board; replaces the marking
    r_tolerance: Share = 0.01
    policy: Policy = "gentle"
    source: Source = Source()
    use_while_charging: UseWhileCharging = "off"
