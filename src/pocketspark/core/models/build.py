"""A build: a plan (cell, boards, resistor, source ...) and the record of its making. A project may hold several."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from pocketspark.core.models.bay import Pin, SmallLength
from pocketspark.core.models.board import Board, Regulator
from pocketspark.core.models.cell import Cell
from pocketspark.core.models.fed_gadget import FedGadget
from pocketspark.core.models.input_kind import INPUTS, InputKind
from pocketspark.core.models.kinds import KeyOf
from pocketspark.core.models.model import (
    Amps,
    LongMillimetres,
    Model,
    Ohms,
    Plain,
    ProgOhms,
    Row,
    Share,
    Title,
    Tolerance,
    Volts,
    named_rows,
)
from pocketspark.core.models.origin import RecipeOrigin
from pocketspark.core.models.record import Record
from pocketspark.core.models.small_part import SmallPart
from pocketspark.core.models.wiring import Wiring

PluggedIn = Literal["until_full", "overnight", "always"]
Policy = Literal["gentle", "label", "data_sheet"]
UseWhileCharging = Literal["off", "on_cell", "two_diodes", "load_sharing", "change_over"]

SwitchPlace = Literal["gadget", "before_regulator", "enable"]
CellLead = Literal["soldered", "small_plug", "common_plug"]
Style = Literal["inside", "rebuilt_shell", "stand_in", "dummy_cell", "outside_pack", "stand_alone"]
WhoCharges = Literal["board", "gadget", "external"]

SWITCH_PLACES: Mapping[SwitchPlace, tuple[str, str]] = {
    "gadget": ("In the gadget", "after the regulator, which stays on for ever"),
    "before_regulator": ("Before the regulator", "off is really off"),
    "enable": ("On the regulator's enable pin", "pulled to its off level, usually ground"),
}
CENTRES: Mapping[str, tuple[str, str]] = {
    "unknown": ("not measured yet", ""),
    "positive": ("positive", ""),
    "negative": ("negative", ""),
}
# Sizes of a mated plug and socket in core/fit/blocks.py.
CELL_LEADS: Mapping[CellLead, tuple[str, str]] = {
    "soldered": ("Soldered", "nothing to come loose, nothing to unplug"),
    "small_plug": ("Plug, 1.25 mm pitch", "under 1 A; polarity is not standardised"),
    "common_plug": ("Plug, 2.0 mm pitch", "under 2 A; polarity is not standardised"),
}


@dataclass(frozen=True)
class StyleFacts:
    """Where it all sits. `reversible`: the old batteries can go back in; `keeps_terminals`: it works through them."""

    label: str
    detail: str
    reversible: bool = False
    keeps_terminals: bool = False
    in_the_gadget: bool = True  # its case is opened and filled
    own_box: bool = False
    like_a_battery: bool = False  # in the outline of an old one


# Three questions are asked apart: where it sits, who charges, how the 5 V comes in.
STYLES: Mapping[Style, StyleFacts] = {
    "inside": StyleFacts("Inside", "for good, in the battery bay"),
    "rebuilt_shell": StyleFacts(
        "Rebuilt pack shell", "the old pack's case and contacts", reversible=True, keeps_terminals=True
    ),
    "stand_in": StyleFacts(
        "Cell and charger shaped like one battery",
        "goes in where a battery went",
        reversible=True,
        keeps_terminals=True,
        like_a_battery=True,
    ),
    "dummy_cell": StyleFacts(
        "Removable insert",
        "the gadget stays as it is",
        reversible=True,
        keeps_terminals=True,
        in_the_gadget=False,
        like_a_battery=True,
    ),
    "outside_pack": StyleFacts(
        "Outside pack", "own box, lead with a plug", reversible=True, in_the_gadget=False, own_box=True
    ),
    "stand_alone": StyleFacts(
        "Stand-alone pack",
        "a box with switch and terminals for anything",
        reversible=True,
        in_the_gadget=False,
        own_box=True,
    ),
}
WHO_CHARGES: Mapping[WhoCharges, tuple[str, str]] = {
    "board": ("A charger board", "chosen and set here"),
    "gadget": ("The gadget's own lithium charger", "it stays; only the cell behind it changes"),
    "external": ("An external charger", "the cell is taken out, and needs its own protection"),
}

# How long it hangs on its charger.
PLUGGED_IN: Mapping[PluggedIn, tuple[str, str]] = {
    "until_full": ("Taken off when full", "charged when it is empty"),
    "overnight": ("Charged overnight", "full for some hours each time"),
    "always": ("Left plugged in", "full all year; the cell serves while it is carried about"),
}

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
    "usb_unasked": SourceFacts("USB port that gives 100 mA", 0.1),
    "usb2": SourceFacts("USB 2 port", 0.5),
    "usb3": SourceFacts("USB 3 port", 0.9),
    "charging_port": SourceFacts("USB charging port", 1.5),
    "type_c_1a5": SourceFacts("Type-C, 1.5 A", 1.5),
    "type_c_3a": SourceFacts("Type-C, 3 A", 3.0),
}


class Source(Model):
    """Where the 5 V comes from. A kind outside the table is taken as a maker's own, with the limit stated."""

    kind: Title = "usb2"
    volts: Volts = 5.0
    limit_a: Amps = 0.5
    r_cable_ohm: Ohms = 0.15
    cable_mm: LongMillimetres | None = None  # how long; None: the usual metre

    @model_validator(mode="before")
    @classmethod
    def _usual_limit(cls, value: Any) -> Any:
        if isinstance(value, dict) and value.get("limit_a") is None and value.get("kind") in SOURCES:
            return {**value, "limit_a": SOURCES[value["kind"]].limit_a}
        return value

    @property
    def label(self) -> str:
        return SOURCES[self.kind].label if self.kind in SOURCES else self.kind.replace("_", " ")


class Input(Model):
    """How the 5 V gets to the charger board. Which figures count depends on the kind."""

    kind: Annotated[str, KeyOf(INPUTS)] = "board_socket"
    centre: Literal["unknown", "positive", "negative"] = "unknown"  # old jack: measured with the adapter in
    regulated: bool = True  # the adapter holds its voltage without load
    open_v: Volts | None = None  # what the adapter shows unloaded
    pad_efficiency: Share = 0.70  # wireless, from the pad's 5 V to the receiver's
    pad_ferrite: bool = True  # a sheet between coil and cell
    pad_against_cell: bool = False
    damped: bool = False  # an electrolytic capacitor or a clamp across the 5 V, at the board
    sealed: bool = False  # what was opened for it has a cap or a seal, and faces down

    @property
    def facts(self) -> InputKind:
        return INPUTS[self.kind]


class ExternalCharger(Model):
    """A charger that the cell is taken out to. What nobody has read from it is None, and so is the price of one that
    is there already."""

    current_a: Amps | None = None
    float_v: Volts | None = None
    price: Plain | None = None


# Switches that the hook-up adds by itself.
MAIN_SWITCH, CHANGE_OVER_SWITCH = "main switch", "change-over switch"


class ParallelCell(Cell, Row):
    """A cell beside the first that is not like it: with readings of its own."""


class Plan(Row):
    """What is to be made: one choice of everything. What is not chosen yet is None: the assessment says so."""

    name: Title = "First build"
    cell: Cell | None = None
    cell_count: int = Field(1, ge=1, le=6)  # like cells in parallel
    unlike_cells: Annotated[tuple[ParallelCell, ...], named_rows("cell"), Field(max_length=5)] = ()  # beside those
    cells_in_series: int = Field(1, ge=1, le=4)  # more than one is judged, and refused
    style: Style = "inside"
    who_charges: WhoCharges = "board"
    external_charger: ExternalCharger = ExternalCharger()
    boards: Annotated[tuple[Board, ...], named_rows("board"), Field(max_length=8)] = ()
    regulator: Regulator | None = None  # one that is on no board
    r_prog_ohm: ProgOhms | None = None  # None: as the board was delivered
    r_tolerance: Tolerance = 0.01
    policy: Policy = "gentle"
    source: Source = Source()
    input: Input = Input()
    use_while_charging: UseWhileCharging = "off"
    switch_place: SwitchPlace = "gadget"
    switch_a: Amps | None = None  # rating of a switch that this build adds; None: usual of small ones
    fuse_a: Amps | None = None  # fuse or polyfuse in the cell's lead, the current it holds; None: there is none
    contacts_a: Amps | None = None  # rating of spring contacts on the way; None: usual of small ones
    outside: tuple[Title, ...] = Field((), max_length=8)  # parts that stay out of the bay, by name
    shell_off: tuple[Title, ...] = Field((), max_length=8)  # boards whose socket comes off, by name
    cell_any_way: bool = False  # a pouch may stand on its edge
    socket_stop_mm: SmallLength = 0.0  # how thick a rib or block stands behind the board, or plate, with the socket
    cradle_mm: SmallLength = 0.0  # wall of a printed cradle under and beside the charger board; 0: none
    cell_lead: CellLead = "soldered"
    small_parts: Annotated[tuple[SmallPart, ...], named_rows("part"), Field(max_length=8)] = ()
    pins: Annotated[tuple[Pin, ...], named_rows("pin"), Field(max_length=12)] = ()
    wiring: Wiring = Wiring()
    plugged_in: PluggedIn = "until_full"
    aged: bool = False  # judge it after some 300 cycles
    cold: bool = False  # judge it at 0 C
    recipe: RecipeOrigin | None = None  # the recipe that it follows
    also_feeds: Annotated[tuple[FedGadget, ...], named_rows("gadget"), Field(max_length=8)] = ()  # one pack for several

    @model_validator(mode="before")
    @classmethod
    def _three_questions_once_were_one(cls, value: Any) -> Any:
        """Until November 2026 a style called cell_swap said who charges."""
        if isinstance(value, dict) and value.get("style") == "cell_swap":
            return {"who_charges": "gadget"} | value | {"style": "inside"}
        return value

    @property
    def cells(self) -> tuple[Cell, ...]:
        """Every cell of the group in parallel."""
        return () if self.cell is None else (*(self.cell,) * self.cell_count, *self.unlike_cells)

    @property
    def facts_of_style(self) -> StyleFacts:
        return STYLES[self.style]

    @property
    def cell_comes_out(self) -> bool:
        """The cell is taken out to be charged."""
        return self.style == "dummy_cell" or self.who_charges == "external"

    @property
    def small_parts_in_all(self) -> tuple[SmallPart, ...]:
        """The maker's, and the switch that this build's wiring adds unless one of that name has its own size."""
        regulated = self.regulator is not None or any(board.regulator for board in self.boards)
        added = [CHANGE_OVER_SWITCH] if self.use_while_charging == "change_over" else []
        added += [MAIN_SWITCH] if regulated and self.switch_place == "before_regulator" else []
        own = {part.name for part in self.small_parts}
        return (*self.small_parts, *(SmallPart(kind="switch", name=name) for name in added if name not in own))


class Build(Plan):
    """A plan, and the record of the one gadget that was soldered after it.

    `practice`: nothing is soldered; simulated readings may be kept, and whatever is printed of it says so.
    """

    practice: bool = False
    record: Record = Record()

    def copied_plan(self, name: str, *, practice: bool = False) -> "Build":
        """Another build of the same plan. What was done and measured stays with the one that was soldered."""
        return self.model_copy(update={"id": "", "name": name, "practice": practice, "record": Record()})
