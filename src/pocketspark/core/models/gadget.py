"""The gadget as surveyed: what feeds it, what it draws, and between which volts it works."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, Field, field_validator, model_validator

from pocketspark.core.models.band import BANDS
from pocketspark.core.models.bay import Arrangement, Bay
from pocketspark.core.models.climate import CLIMATES
from pocketspark.core.models.kinds import KeyOf
from pocketspark.core.models.load_line import read_load
from pocketspark.core.models.load_words import UnreadableLoad
from pocketspark.core.models.model import (
    Amps,
    Celsius,
    Days,
    Farads,
    Hours,
    LongMillimetres,
    Model,
    Ohms,
    Row,
    Seconds,
    Share,
    Times,
    Title,
    Volts,
    WireGauge,
    named_rows,
    refusal,
)
from pocketspark.core.models.supply import BatteryName, Supply
from pocketspark.core.units.figures import bare
from pocketspark.core.units.quantity import Quantity

FrontEnd = Literal["led_resistor", "lamp", "motor", "heater", "logic", "regulator", "converter"]
LoadLaw = Literal["current", "resistance", "power", "led", "lamp"]

# What a use of the gadget is for, so that hours in which it does too little of that are none.
Job = Literal["light", "speed", "heat", "sound", "volts"]
Purpose = Literal["ordinary", "life_safety", "medical", "small_children", "intrinsically_safe", "aviation"]
ExistingChargingKind = Literal["none", "jack", "contacts", "dock", "lithium_charger"]
Treatment = Literal["untouched", "cut", "moved", "diode", "kept", "never_plugged_in"]
OffPath = Literal["after_regulator", "before_regulator"]

# Whether it can be heard that a converter switches. None: not said.
Sound = Literal["none", "speaker", "radio"]
SOUNDS: Mapping[Sound, tuple[str, str]] = {
    "none": ("Nothing", "no sound comes from it"),
    "speaker": ("Loudspeaker, earphone", "a converter may whistle in it"),
    "radio": ("Radio, coil, sensitive input", "a converter may hum in it"),
}

# What moves it about.
Moved = Literal["still", "carried", "driven"]
MOVED: Mapping[Moved, tuple[str, str]] = {
    "still": ("Stands or hangs still", "nothing works its joints loose"),
    "carried": ("Carried", "in a pocket or a bag, and dropped"),
    "driven": ("Driven", "on a vehicle, a bicycle, a machine"),
}

# Asked once. Everything but the first is not converted at all: a fault there hurts somebody who never chose the risk.
PURPOSES: Mapping[Purpose, tuple[str, str]] = {
    "ordinary": ("An ordinary gadget", "nobody is hurt when it fails"),
    "life_safety": ("Warns of fire, gas, falls", "life safety: never converted"),
    "medical": ("Medical", "on or in a patient: never converted"),
    "small_children": ("Toy for small children", "swallowed, chewed, thrown: never converted"),
    "intrinsically_safe": ("Marked for explosive air", "its batteries are part of its approval: never converted"),
    "aviation": ("Flies, or rides in an aircraft", "its batteries are part of its approval: never converted"),
}


@dataclass(frozen=True)
class ExistingChargingFacts:
    """One way in which a gadget may already push charge at its batteries. `called` is its name in a sentence."""

    label: str
    detail: str
    called: str = ""


EXISTING_CHARGING: Mapping[ExistingChargingKind, ExistingChargingFacts] = {
    "none": ExistingChargingFacts("Nothing", "batteries are taken out"),
    "jack": ExistingChargingFacts("Jack", "for NiMH or NiCd: no voltage limit", "old charging jack"),
    "contacts": ExistingChargingFacts("Contacts", "a base or stand pushes charge in", "charging contacts"),
    "dock": ExistingChargingFacts("Dock", "for NiMH or NiCd: no voltage limit", "old dock"),
    "lithium_charger": ExistingChargingFacts(
        "A real lithium charger", "constant current, then its end voltage", "lithium charger"
    ),
}
TREATMENTS: Mapping[Treatment, tuple[str, str]] = {
    "untouched": ("Nothing yet", ""),
    "cut": ("Cut", "the track or wire is opened"),
    "moved": ("Moved", "the jack now feeds the charger board"),
    "diode": ("Blocked by a diode", "costs its forward voltage on the way to the gadget"),
    "kept": ("Stored", "only for a real lithium charger"),
    "never_plugged_in": ("Never plugged in", "printed on the sheet: somebody else will"),
}
OFF_PATHS: Mapping[OffPath, tuple[str, str]] = {
    "after_regulator": ("through the regulator", "the gadget's own standby"),
    "before_regulator": ("straight from the cell", "something that hangs before the regulator"),
}

JOBS: Mapping[Job, tuple[str, str]] = {
    "light": ("light", "it counts while there is enough of it"),
    "speed": ("speed", "a motor's follows the volts"),
    "heat": ("heat", "follows the square of the volts"),
    "sound": ("sound", "its loudest follows the volts"),
    "volts": ("it works or it does not", "enough volts are all it needs"),
}

LOAD_LAWS: Mapping[LoadLaw, tuple[str, str]] = {
    "current": ("same current", "at any voltage: regulators, logic"),
    "resistance": ("like a resistor", "less voltage, less current: heaters"),
    "power": ("same power", "less voltage, more current: switching converters"),
    "led": ("LEDs and their resistor", "only the volts over those of the LEDs count: (V - Vf) / R"),
    "lamp": ("filament lamp", "hotter, it lets less through: the current follows the volts to the power 0.55"),
}


@dataclass(frozen=True)
class FrontEndFacts:
    """How a kind of front end draws, and what volts beyond its design do to it."""

    label: str
    law: LoadLaw
    too_much: str
    too_little: str


# Common practice of such circuits.
FRONT_ENDS: Mapping[FrontEnd, FrontEndFacts] = {
    "led_resistor": FrontEndFacts("LED and resistor", "led", "brighter and hotter", "dims, then goes dark"),
    "lamp": FrontEndFacts("filament lamp", "lamp", "its life collapses", "dim and yellow"),
    "motor": FrontEndFacts(
        "brushed motor", "resistance", "runs fast and hot, wears its brushes", "slow, can fail to start"
    ),
    "heater": FrontEndFacts("resistive heater", "resistance", "power grows with the square of the volts", "weak"),
    "logic": FrontEndFacts("logic straight on the battery", "current", "its parts can be destroyed", "resets, forgets"),
    "regulator": FrontEndFacts("own linear regulator", "current", "the excess becomes heat", "drops out"),
    "converter": FrontEndFacts("own switching converter", "power", "over its input range", "draws more current"),
}


class Window(Model):
    """The volts the gadget works at, as far as measured or stated. None: to be inferred from the old batteries.

    `v_start_min`: switched on it needs so much, where it takes more than to go on running; None: as much as that.
    """

    v_run_min: Volts | None = None
    v_start_min: Volts | None = None
    v_abs_max: Volts | None = None

    @model_validator(mode="after")
    def _right_way_up(self) -> Self:
        if self.v_run_min is not None and self.v_abs_max is not None and self.v_run_min >= self.v_abs_max:
            raise refusal(
                "The lowest volts, {low} V, must be under the highest, {high} V",
                low=bare(self.v_run_min),
                high=bare(self.v_abs_max),
            )
        if self.v_start_min is not None and self.v_abs_max is not None and self.v_start_min >= self.v_abs_max:
            raise refusal(
                "It starts at {start} V: that must be under the highest, {high} V",
                start=bare(self.v_start_min),
                high=bare(self.v_abs_max),
            )
        return self


# Where nobody has said how long a peak lasts (common practice, no source).
USUAL_PEAK_S = 0.1


class DrawnReading(Row):
    """What it draws at these volts, both read at one moment; None: not read yet."""

    volts: Annotated[float, Quantity("V", 0.1, 60)] | None = None
    current_a: Amps | None = None


class Mode(Row):
    """One way the gadget is used. `current_a` was read at `at_v` (the old batteries' working volts if None)."""

    name: Title = "on"
    current_a: Amps
    at_v: Volts | None = None
    law: LoadLaw | None = None  # None: the usual law of the front end
    hours_per_day: Hours = 1.0
    peak_a: Amps | None = None
    peak_s: Seconds | None = None  # how long a peak lasts; None: usual
    job: Job | None = None  # what it is for; None: what such front ends are for
    least_share: Share | None = None  # of its light, speed, heat or sound that still counts; None: half
    starts_per_day: Times | None = None  # how often the peak comes; None: too seldom to count
    on_s: Seconds | None = None  # draws its current for on_s out of every_s; None: all the time
    every_s: Seconds | None = None
    # At several volts: they tell by which law it draws.
    readings: Annotated[tuple[DrawnReading, ...], named_rows("reading"), Field(max_length=40)] = ()

    @field_validator("at_v")
    @classmethod
    def _some_volts(cls, value: float | None) -> float | None:
        if value is not None and value < 0.1:
            raise refusal("Enter the voltage at which the current was measured, over 0 V")
        return value

    @model_validator(mode="after")
    def _pulses_fit_their_period(self) -> Self:
        if self.on_s is not None and self.every_s is not None and not 0 < self.on_s <= self.every_s:
            raise refusal(
                "On for {on} s of every {every} s: the first must be the shorter one",
                on=bare(self.on_s),
                every=bare(self.every_s),
            )
        if (self.on_s is None) != (self.every_s is None):
            raise refusal("a duty cycle has two figures: on for so many seconds, of every so many seconds")
        return self

    @property
    def duty(self) -> float:
        """Share of the time in this mode that it really draws its current."""
        return 1.0 if self.on_s is None or self.every_s is None else self.on_s / self.every_s

    @property
    def most_a(self) -> float:
        return max(self.current_a, self.peak_a or 0.0)

    @property
    def lasts_s(self) -> float:
        """At most so long at a time; inf where it draws without a pause."""
        return math.inf if self.on_s is None else self.on_s

    @property
    def start_s_per_day(self) -> float:
        """Seconds a day at its peak."""
        return (self.starts_per_day or 0.0) * (USUAL_PEAK_S if self.peak_s is None else self.peak_s)

    @property
    def starts_ah(self) -> float:
        """What its starts draw in a day over its own current."""
        return self.start_s_per_day / 3600 * (self.most_a - self.current_a)

    def average_a(self, between_a: float) -> float:
        """Over the hours in this mode, with so much flowing between its pulses."""
        return self.current_a * self.duty + between_a * (1 - self.duty)


class Behind(Model):
    """Figures of what sits behind the terminals. Which count depends on the front end; None: a usual value."""

    design_v: Volts | None = None  # what it was made for; None: the old batteries' working volts
    led_v: Volts | None = None  # forward voltage of the LEDs
    winding_ohm: Ohms | None = None  # motor winding: its stall current is V / R
    kick_diode: bool = False  # across the motor, against the volts of its coil when it is switched off
    logic_max_v: Volts | None = None  # lowest absolute maximum among the parts
    regulated_v: Volts | None = None  # what its own regulator gives
    input_max_v: Volts | None = None  # of its own regulator or converter
    input_min_v: Volts | None = None


class Gauge(Model):
    """The gadget's own battery warning. None: inferred from the batteries it was made for."""

    warn_v: Volts | None = None
    stop_v: Volts | None = None

    @model_validator(mode="after")
    def _warns_before_it_stops(self) -> Self:
        if self.warn_v is not None and self.stop_v is not None and self.warn_v < self.stop_v:
            raise refusal(
                "It warns at {warn} V and stops at {stop} V: a warning comes first",
                warn=bare(self.warn_v),
                stop=bare(self.stop_v),
            )
        return self


class ExistingCharging(Model):
    """What pushes charge at the battery terminals today, and what the maker does about it."""

    kind: ExistingChargingKind = "none"
    treatment: Treatment = "untouched"
    current_a: Amps | None = None
    adapter_v: Volts | None = None  # at the jack, with nothing on it


class SecondSupply(Model):
    """A battery of its own that the gadget keeps: a coin cell behind its clock, say."""

    battery: BatteryName = "CR2032"
    keeps: Title = "its memory or clock"


MonthCelsius = Annotated[float, Quantity("C", -50, 70)]  # the mean of a month
Month = Annotated[int, Field(ge=1, le=12)]


def _twelve(months_c: tuple[float, ...]) -> tuple[float, ...]:
    if len(months_c) != 12:
        raise refusal("A year has 12 months, from January on; these are {count} figures", count=len(months_c))
    return months_c


def _some_month(months: tuple[int, ...]) -> tuple[int, ...]:
    if not months:
        raise refusal("Name at least one month in which it is used, or leave it out: then it is all of them")
    return tuple(sorted(set(months)))


class Shell(Model):
    """The gadget's outside: its size lets heat out, a closed one keeps some in; and where it lives through the year."""

    outer_mm: Annotated[tuple[LongMillimetres, ...], Field(min_length=3, max_length=3)] | None = None
    closed: bool = True
    room_c: Celsius = 25.0  # where it is charged
    use_c: Celsius | None = None  # where it is used; None: as where it is charged
    metal: bool = False
    moved: Moved | None = None  # None: as it usually is where it lives
    store_c: Celsius | None = None  # where it lies when nobody uses it; None: as it is used
    climate: Annotated[str, KeyOf(CLIMATES)] | None = None  # None: the same all year, as above
    months_c: Annotated[tuple[MonthCelsius, ...], Field(max_length=40), AfterValidator(_twelve)] | None = None
    months_used: Annotated[tuple[Month, ...], Field(max_length=40), AfterValidator(_some_month)] | None = None

    @property
    def is_shaken(self) -> bool:
        """As it is said, else as what lives there usually is."""
        if self.moved is not None:
            return self.moved != "still"
        return self.climate is not None and CLIMATES[self.climate].shaken

    @property
    def frozen_months(self) -> tuple[int, ...]:
        """Months of use whose mean is under 0 C where it lives, from 1."""
        return tuple(month for month in self.used_in if self.year_c[month - 1] < 0) if self.has_seasons else ()

    @property
    def used_in(self) -> tuple[int, ...]:
        """The months of the year in which it is used, from 1."""
        return self.months_used or tuple(range(1, 13))

    @property
    def year_c(self) -> tuple[float, ...]:
        """January to December, where it lives: its own figures, else those of its climate, else the same all year."""
        if self.months_c is not None:
            return self.months_c
        return (self.constant_c,) * 12 if self.climate is None else CLIMATES[self.climate].months_c

    @property
    def constant_c(self) -> float:
        """Where it is used, as long as nobody says how that changes with the year."""
        return self.room_c if self.use_c is None else self.use_c

    @property
    def has_seasons(self) -> bool:
        return self.climate is not None or self.months_c is not None

    @property
    def used_at_c(self) -> float:
        """Where it is used: what is typed, else the mean of the months in which it is used."""
        if self.use_c is not None or not self.has_seasons:
            return self.constant_c
        return sum(self.year_c[month - 1] for month in self.used_in) / len(self.used_in)


def _a_day_has_24_hours(modes: tuple[Mode, ...]) -> tuple[Mode, ...]:
    total = sum(mode.hours_per_day for mode in modes)
    if total > 24.001:
        raise refusal("They add up to {total} h a day; there are 24. Shorten one.", total=bare(total))
    return modes


def _only_alone(text: str) -> str:
    """A line that could be read was taken in the place of modes: what still stands there is neither."""
    try:
        read_load(text)
    except UnreadableLoad as error:
        raise refusal("{why}", why=str(error)) from None
    raise refusal("Modes stand beside this line. Keep one of the two.")


_USUAL_JOBS: Mapping[FrontEnd, Job] = {"led_resistor": "light", "lamp": "light", "motor": "speed", "heater": "heat"}


class Gadget(Model):
    """The thing being converted.

    `load` is read from files alone: one line, "18 mA for 2 s every minute, 60 uA asleep", in the place of `modes` and
    `off_current_a`.
    """

    name: Title
    purpose: Purpose | None = None  # None: not asked yet
    supply: Supply = Supply()
    window: Window | None = None
    front_end: FrontEnd = "regulator"
    behind: Behind = Behind()
    sound: Sound | None = None
    receives: Annotated[str, KeyOf(BANDS)] | None = None  # the band of its receiver
    modes: Annotated[
        tuple[Mode, ...], named_rows("mode"), Field(max_length=12), AfterValidator(_a_day_has_24_hours)
    ] = ()
    load: Annotated[str, AfterValidator(_only_alone)] | None = Field(default=None, exclude=True)
    off_current_a: Amps = 0.0
    off_path: OffPath = "after_regulator"
    capacitance_f: Farads | None = None  # across its terminals; None: not looked for
    wires_awg: WireGauge | None = None  # of the thinnest wire from its terminals to its board; None: not looked at
    gauge: Gauge | None = None  # None: it has none
    existing_charging: ExistingCharging = ExistingCharging()
    second_supply: SecondSupply | None = None  # None: it has none
    shell: Shell = Shell()
    wanted_days: Days | None = None  # a charge is to last so long; None: half of what it does when new
    bay: Bay | None = None  # None: as the old batteries must have had it
    arrangement: Arrangement = "side_by_side"

    @model_validator(mode="before")
    @classmethod
    def _load_as_modes(cls, fields: Any) -> Any:
        """A load in one line becomes modes. One that cannot be read stays, and is refused at its own place."""
        if not isinstance(fields, dict) or not isinstance(fields.get("load"), str) or fields.get("modes"):
            return fields
        try:
            line = read_load(fields["load"])
        except UnreadableLoad:
            return fields
        others_said: dict[str, Any] = {} if line.asleep_a is None else {"off_current_a": line.asleep_a}
        shell = fields.get("shell", {})
        if line.months is not None and isinstance(shell, dict) and not shell.get("months_used"):
            others_said["shell"] = {**shell, "months_used": line.months}
        others = {key: of for key, of in fields.items() if key not in ("load", "modes")}
        return others | {"modes": [drawn.fields() for drawn in line.drawn]} | others_said

    @property
    def has_lithium_charger(self) -> bool:
        """It charges a lithium cell by itself, properly, today."""
        return self.supply.kind == "lithium" or self.existing_charging.kind == "lithium_charger"

    @property
    def design_v(self) -> float:
        """The volts it was made for."""
        return self.behind.design_v or self.supply.working_v

    @property
    def led_forward_v(self) -> float:
        """As known; else 3.0 V (white, blue, ultraviolet) where the design leaves room for it, 2.0 V below."""
        return self.behind.led_v or (3.0 if self.design_v >= 3.6 else 2.0)

    def law_of(self, mode: Mode) -> LoadLaw:
        return mode.law or FRONT_ENDS[self.front_end].law

    def job_of(self, mode: Mode) -> Job:
        """As it is said, else what is seen or heard of such a front end; one that keeps its own volts needs no more."""
        heard = self.sound == "speaker" and self.front_end == "logic"
        return mode.job or ("sound" if heard else _USUAL_JOBS.get(self.front_end, "volts"))

    def volts_of(self, mode: Mode) -> float:
        """The voltage at which the mode's current was read."""
        return mode.at_v or self.supply.working_v

    @property
    def hours_on_per_day(self) -> float:
        return sum(mode.hours_per_day for mode in self.modes)

    @property
    def daily_ah(self) -> float:
        """Of a whole day as it is used: asleep whenever nothing else flows, between pulses too, and every start."""
        used_ah = sum(mode.starts_ah + mode.average_a(self.off_current_a) * mode.hours_per_day for mode in self.modes)
        return used_ah + self.off_current_a * max(24 - self.hours_on_per_day, 0.0)
