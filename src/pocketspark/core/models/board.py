"""Boards, and what may be on one: charger, protection, regulator, load sharing, socket, in any combination."""

from collections.abc import Mapping
from typing import Annotated, Literal, Protocol, Self

from pydantic import Field, model_validator

from pocketspark.core.message import Message
from pocketspark.core.models.kinds import KeyOf
from pocketspark.core.models.model import (
    Amps,
    Celsius,
    CelsiusPerWatt,
    Hertz,
    Hours,
    Millimetres,
    Model,
    Ohms,
    Plain,
    ProgOhms,
    Row,
    RowNumber,
    Share,
    Title,
    Tolerance,
    Volts,
    Watts,
    named_rows,
    refusal,
)
from pocketspark.core.units.quantity import Quantity

SocketKind = Literal["type_c", "micro_b", "mini_b"]
SOCKETS: Mapping[SocketKind, str] = {"type_c": "Type-C", "micro_b": "Micro-B", "mini_b": "Mini-B"}


# The cell drives the transistors that protect it: R_on is stated at 3.6 V and moves by about a quarter a volt
# (from memory of such transistors' data sheets).
R_ON_AT_V, R_ON_PER_VOLT = 3.6, 0.25
PROTECTION_SPAN_V = (3.0, 4.2)


# From each CC pin to ground of a Type-C socket that is fed (USB Type-C, Rd).
CC_OHM = 5100.0


class ResistorReading(Row):
    """What a charger really gives with this charge-current resistor."""

    r_ohm: ProgOhms
    current_a: Amps


class Charger(Model):
    """A small linear constant-current, constant-voltage charger set by one resistor: I = K / R."""

    k_volts: Plain = 1200.0
    k_tolerance: Tolerance = 0.10
    rated_a: Amps = 1.0
    float_v: Volts = 4.20
    termination_share: Share = 0.10  # of the set current, where the charge ends
    precharge_v: Volts = 2.9
    precharge_share: Share = 0.10
    fold_back_c: Celsius = 120.0  # the chip holds its junction here by giving less
    theta_ja_c_per_w: CelsiusPerWatt | None = None  # None: not known, no fold-back computed
    pass_ohm: Ohms = 0.35  # input to output when it can regulate no more
    back_leak_a: Amps = 2e-6
    r_prog_ohm: ProgOhms | None = None  # as delivered
    least_a: Amps = 0.02  # under this current its K holds no longer, usual of such chips
    v_in_max: Volts = 6.0  # most stand 6 V and few more
    timer_h: Hours | None = None  # its safety timer ends the charge after this long; None: it has none
    temperature_input: Literal["none", "tied off", "thermistor", "open"] = "none"
    # Measured on this very board, ohms rising. Inside it counts, outside it K / R does.
    r_table: Annotated[tuple[ResistorReading, ...], named_rows("reading"), Field(max_length=40)] = ()

    @model_validator(mode="after")
    def _has_a_constant(self) -> Self:
        if self.k_volts < 1:
            raise refusal("K is 1000 or 1200 on the common boards; it cannot be next to nothing")
        if self.float_v < 2.5:
            raise refusal("a charger for one lithium cell stops at 3.65, 4.20 or 4.35 V, not under 2.5 V")
        ohms, currents = [row.r_ohm for row in self.r_table], [row.current_a for row in self.r_table]
        if len(ohms) == 1 or ohms != sorted(set(ohms)) or currents != sorted(set(currents), reverse=True):
            raise refusal("a table of measured currents has two rows or more: ohms rising, amps falling")
        if any(current <= 0 for current in currents):
            raise refusal("a measured charge current is above 0")
        return self

    @property
    def readings(self) -> list[tuple[float, float]]:
        """The measured table as (ohm, A) pairs."""
        return [(row.r_ohm, row.current_a) for row in self.r_table]


class Protection(Model):
    """Protection of one cell: two transistors in series, watched by a small chip.

    Trips when the drop over both transistors reaches `v_trip`.
    """

    name: Title = "protection"
    v_trip: Volts = 0.15
    trip_tolerance: Tolerance = 0.20
    r_on_ohm: Ohms = 0.025  # each transistor
    cut_v: Volts = 2.5
    release_v: Volts = 3.0
    over_charge_v: Volts = 4.28
    drain_a: Amps = 3e-6

    @model_validator(mode="after")
    def _has_transistors(self) -> Self:
        if self.r_on_ohm < 0.001:
            raise refusal("a protection's transistors have some resistance: 5 to 50 mohm each is usual")
        return self

    @property
    def trip_current_a(self) -> float:
        return self.v_trip / (2 * self.r_on_ohm)

    @property
    def trip_least_a(self) -> float:
        """With an empty cell, which drives the transistors least, at the low end of the tolerance."""
        return self.trip_at(PROTECTION_SPAN_V[0]) * (1 - self.trip_tolerance)

    @property
    def trip_most_a(self) -> float:
        """With a full cell, at the high end of the tolerance."""
        return self.trip_at(PROTECTION_SPAN_V[1]) * (1 + self.trip_tolerance)

    def trip_at(self, cell_v: float) -> float:
        """V_trip / (2 R_on), with R_on as it is at this cell voltage."""
        return self.trip_current_a / (1 + R_ON_PER_VOLT * (R_ON_AT_V - cell_v))


class RegulatorFacts(Protocol):
    """What the models have to know of a kind of regulator; the whole of it is in `kinds/regulators.py`."""

    def fault(self, regulator: "Regulator") -> Message | None:
        """What is wrong with the figures of this one; None where nothing is."""
        ...


# Filled in by `kinds/regulators.py`, which is imported with the core.
REGULATORS: dict[str, RegulatorFacts] = {}


class Regulator(Model):
    """What stands between protection and gadget. Which figures count depends on the kind."""

    kind: Annotated[str, KeyOf(REGULATORS)] = "none"
    name: Title = "regulator"
    v_set: Volts | None = None  # regulators and converters
    i_set_a: Amps | None = None  # LED drivers: the current they hold, up to v_set
    drop_ohm: Ohms = 0.5  # ldo and buck when they regulate no more
    drop_v: Volts = 0.0  # fixed headroom on top, 1.1 V in old three-terminal regulators
    series_ohm: Ohms | None = None  # dropping resistor
    iq_a: Amps = 0.0  # drawn from the cell as long as it is connected
    rated_a: Amps | None = None
    switch_a: Amps | None = None  # step-up: what its switch can take on the input side
    theta_ja_c_per_w: CelsiusPerWatt | None = None  # None: usual for its kind
    v_in_max: Volts | None = None
    v_in_min: Volts = 2.5  # where a converter stops
    efficiency: Share = 0.88  # converters, at their best
    fixed_loss_w: Watts = 0.0  # converters: burnt for switching, so light loads are served badly
    switching_hz: Hertz | None = None  # converters; None: usual of small ones
    input_ohm: Ohms = 0.0  # converters: switch and coil in the way, so low inputs are served badly
    has_enable: bool = False  # an enable pin that the gadget's switch may pull to its off level
    iq_off_a: Amps = 0.0  # still drawn then
    auto_off_a: Amps | None = None  # power-bank kind: switches itself off below this load
    n: Plain = 1.05  # diode: Shockley's emission coefficient,
    is_a: Amps = 2.5e-6  # saturation current
    rs_ohm: Ohms = 0.04  # and series resistance

    @model_validator(mode="after")
    def _regulators_have_a_setting(self) -> Self:
        fault = REGULATORS[self.kind].fault(self)
        if fault:
            raise refusal("{fault}", fault=fault)
        return self


class Socket(Model):
    """A socket on a board. `cc_resistors`: 5.1 kohm on each CC pin, which a Type-C needs to be fed from Type-C.

    `nose_mm`: how far its shell stands out over the board's edge; the outline's length counts it.
    """

    kind: SocketKind = "type_c"
    cc_resistors: bool = True
    nose_mm: Annotated[float, Quantity("mm", 0, 5)] = 0.0


PlaceOnBoard = Annotated[float, Quantity("mm", 0, 1000)]


class PadPlace(Row):
    """A pad by the name that is printed beside it, and where its middle is.

    `at_mm`: from the board's left and front edge, with its parts up and its socket, or its input, to the left.
    """

    name: Title
    at_mm: Annotated[tuple[PlaceOnBoard, ...], Field(min_length=2, max_length=2)]


class Board(Row):
    """One board with whatever is on it. `outline_mm` is (length, width, height over everything).

    `pads`: where they are; none where that is not known.
    """

    name: Title = "board"
    outline_mm: Annotated[tuple[Millimetres, ...], Field(min_length=3, max_length=3)] | None = None
    pcb_mm: Millimetres = 1.0  # the bare board
    above_mm: Millimetres | None = None  # tallest part over the upper face; None: from the outline
    charger: Charger | None = None
    protection: Protection | None = None
    regulator: Regulator | None = None
    load_sharing: bool = False
    usb_out_pads: bool = False  # 5 V pads that give, beside those that take
    socket: Socket | None = None
    pads: Annotated[tuple[PadPlace, ...], named_rows("pad"), Field(max_length=40)] = ()
    price: Plain | None = None
    inventory_id: RowNumber | None = None  # the part of the maker's own inventory that this is a copy of
