"""The gadget as surveyed: what feeds it, what it draws, and between which volts it works."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, Self

from pydantic import Field, field_validator, model_validator

from pocketspark.core.nouns.battery import BATTERIES, Battery, Chemistry, ChemistryFacts, facts_of, iec_name
from pocketspark.core.nouns.noun import Amps, Hours, Noun, Title, Volts, refusal

FrontEnd = Literal["led_resistor", "lamp", "motor", "heater", "logic", "regulator", "converter"]
LoadLaw = Literal["current", "resistance", "power"]

LOAD_LAWS: Mapping[LoadLaw, tuple[str, str]] = {
    "current": ("same current", "at any voltage: regulators, logic"),
    "resistance": ("like a resistor", "less voltage, less current: heaters, LEDs with a resistor"),
    "power": ("same power", "less voltage, more current: switching converters"),
}


@dataclass(frozen=True)
class FrontEndFacts:
    """How a kind of front end draws, and what volts beyond its design do to it."""

    label: str
    law: LoadLaw
    too_much: str
    too_little: str


# Common practice of such circuits; a lamp's I ~ V^0.55 lies between the resistance and current laws.
FRONT_ENDS: Mapping[FrontEnd, FrontEndFacts] = {
    "led_resistor": FrontEndFacts("LED and resistor", "resistance", "brighter and hotter", "dims, then goes dark"),
    "lamp": FrontEndFacts("filament lamp", "resistance", "its life collapses", "dim and yellow"),
    "motor": FrontEndFacts("brushed motor", "current", "runs fast and hot, wears its brushes", "slow, may not start"),
    "heater": FrontEndFacts("resistive heater", "resistance", "power grows with the square of the volts", "weak"),
    "logic": FrontEndFacts("logic straight on the battery", "current", "its parts may die", "resets, forgets"),
    "regulator": FrontEndFacts("own linear regulator", "current", "the excess becomes heat", "drops out"),
    "converter": FrontEndFacts("own switching converter", "power", "over its input range", "draws more current"),
}


class Supply(Noun):
    """The old batteries: `series` of them add their volts, `parallel` strings add their capacity."""

    battery: str = Field("LR6", json_schema_extra={"enum": list(BATTERIES)})
    chemistry: Chemistry = "alkaline"
    series: int = Field(1, ge=1, le=12)
    parallel: int = Field(1, ge=1, le=6)

    @model_validator(mode="before")
    @classmethod
    def _usual_chemistry(cls, value: Any) -> Any:
        if isinstance(value, dict) and value.get("chemistry") is None:
            name = iec_name(str(value.get("battery", "LR6")))
            return {**value, "chemistry": BATTERIES[name].chemistries[0] if name else "alkaline"}
        return value

    @field_validator("battery")
    @classmethod
    def _known_battery(cls, name: str) -> str:
        if (known := iec_name(name)) is None:
            raise refusal(f"there is no battery called '{name}' in the table; IEC names like LR6 or CR2032 are known")
        return known

    @model_validator(mode="after")
    def _chemistry_exists(self) -> Self:
        if self.chemistry not in self.size.chemistries:
            made = ", ".join(self.size.chemistries)
            raise refusal(f"{self.battery} is not made as {self.chemistry}; it comes as {made}")
        return self

    @property
    def size(self) -> Battery:
        return BATTERIES[self.battery]

    @property
    def facts(self) -> ChemistryFacts:
        return facts_of(self.size, self.chemistry)

    @property
    def cells_in_series(self) -> int:
        return self.series * self.size.cells_inside

    @property
    def fresh_v(self) -> float:
        return self.cells_in_series * self.facts.fresh_v

    @property
    def working_v(self) -> float:
        return self.cells_in_series * self.facts.working_v

    @property
    def empty_v(self) -> float:
        """Where a gadget made for these batteries gives up."""
        return self.cells_in_series * self.facts.gadget_empty_v

    @property
    def capacity_ah(self) -> float:
        """Light-drain capacity of the whole set."""
        return self.parallel * self.size.capacity_ah * self.facts.capacity_factor


class Window(Noun):
    """The volts the gadget works at, as far as measured or stated. None: to be inferred from the old batteries."""

    v_run_min: Volts | None = None
    v_abs_max: Volts | None = None

    @model_validator(mode="after")
    def _right_way_up(self) -> Self:
        if self.v_run_min is not None and self.v_abs_max is not None and self.v_run_min >= self.v_abs_max:
            raise refusal(
                f"the window is upside down: works from {self.v_run_min:g} V, may not have over {self.v_abs_max:g} V"
            )
        return self


class Mode(Noun):
    """One way the gadget is used. `current_a` was read at `at_v` (the old batteries' working volts if None)."""

    name: Title = "on"
    current_a: Amps
    at_v: Volts | None = None
    law: LoadLaw | None = None  # None: the usual law of the front end
    hours_per_day: Hours = 1.0
    peak_a: Amps | None = None

    @field_validator("at_v")
    @classmethod
    def _some_volts(cls, value: float | None) -> float | None:
        if value is not None and value < 0.1:
            raise refusal("a current is read at some voltage: 0 V cannot be meant")
        return value

    @property
    def most_a(self) -> float:
        return max(self.current_a, self.peak_a or 0.0)


class Gadget(Noun):
    """The thing being converted."""

    name: Title
    supply: Supply = Supply()
    window: Window | None = None
    front_end: FrontEnd = "regulator"
    modes: tuple[Mode, ...] = Field((), max_length=12)
    off_current_a: Amps = 0.0

    @model_validator(mode="after")
    def _a_day_has_24_hours(self) -> Self:
        if (total := sum(mode.hours_per_day for mode in self.modes)) > 24.001:
            raise refusal(f"the modes add up to {total:g} hours a day; there are 24")
        return self

    def law_of(self, mode: Mode) -> LoadLaw:
        return mode.law or FRONT_ENDS[self.front_end].law

    def volts_of(self, mode: Mode) -> float:
        """The voltage at which the mode's current was read."""
        return mode.at_v or self.supply.working_v
