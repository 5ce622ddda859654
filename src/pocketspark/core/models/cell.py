"""The single lithium cell."""

import math
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BeforeValidator, Field, model_validator

from pocketspark.core.models.board import Protection
from pocketspark.core.models.cell_class import CELL_CLASSES, CellClass
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.kinds import KeyOf
from pocketspark.core.models.model import (
    AmpHours,
    Amps,
    Millimetres,
    Model,
    Ohms,
    Plain,
    Row,
    RowNumber,
    Title,
    Volts,
    Years,
    named_rows,
    refusal,
)
from pocketspark.core.units.figures import bare
from pocketspark.core.units.quantity import Quantity

CellClassKey = Annotated[str, KeyOf(CELL_CLASSES)]
CellForm = Literal["pouch", "round", "block"]


def _usual_where_only_yes(value: Any) -> Any:
    """Yes: the usual circuit on the end of a cell. No: none."""
    if value is True:
        return Protection(name="on the cell")
    return None if value is False else value


ORIGINS: dict[str, tuple[str, str]] = {
    "new": ("new", ""),
    "salvaged": ("salvaged", "gentle charge only"),
}
OwnProtection = Annotated[
    Protection | None, BeforeValidator(_usual_where_only_yes, json_schema_input_type=Protection | bool | None)
]

# Resistance of a new small cell falls as its capacity grows (common practice, no source).
TYPICAL_OHM_AH = 0.08
# Tabs, current collectors and the protection on its end do not shrink with it (common practice, no source).
LEAST_TYPICAL_OHM = 0.04


# Lithium cells have been sold since 1991 (from memory), so that none is older.
OLDEST_YEARS = 40.0


def _as_an_age(years: float) -> float:
    if years > OLDEST_YEARS:
        raise refusal("Enter how many years old it is, {most} at most, and not the year", most=bare(OLDEST_YEARS))
    return years


AgeYears = Annotated[float, Quantity("years", 0, 3000), AfterValidator(_as_an_age)]


class CellTest(Row):
    """What a test of the cell found, so many years after it was put to use here. None: not measured then."""

    after_years: Years
    capacity_ah: AmpHours | None = None
    r_ohm: Ohms | None = None


class Cell(Model):
    """One cell. `size_mm` is (thickness, width, length), or (diameter, length) when round: the bare body."""

    name: Title = "cell"
    cell_class: CellClassKey = "li_4v20"
    form: CellForm = "pouch"
    size_mm: Annotated[tuple[Millimetres, ...], Field(max_length=6)] | None = None  # how many it has: below
    capacity_ah: AmpHours
    measured_capacity_ah: AmpHours | None = None
    r_ohm: Ohms | None = None
    charge_max_a: Amps | None = None
    discharge_max_a: Amps | None = None
    cut_v: Volts | None = None
    origin: Literal["new", "salvaged"] = "new"
    own_protection: OwnProtection = None
    thermistor_lead: bool = False  # a thermistor or identification lead beside plus and minus
    polarity_measured: bool = False  # its plug was held against the socket with a meter
    intake: Intake | None = None
    age_years: AgeYears | None = None  # when it is put to use; None: new
    tests: Annotated[tuple[CellTest, ...], named_rows("test"), Field(max_length=40)] = ()  # of its later years
    price: Plain | None = None
    inventory_id: RowNumber | None = None  # the part of the maker's own inventory that this is a copy of

    @model_validator(mode="after")
    def _as_many_sizes_as_the_form_has(self) -> Self:
        wanted = 2 if self.form == "round" else 3
        if self.size_mm is not None and len(self.size_mm) != wanted:
            parts = "diameter and length" if self.form == "round" else "thickness, width and length"
            raise refusal(
                "a {form} cell has {parts}: {wanted} figures, not {count}",
                form=self.form,
                parts=parts,
                wanted=wanted,
                count=len(self.size_mm),
            )
        return self

    @property
    def facts(self) -> CellClass:
        return CELL_CLASSES[self.cell_class]

    @property
    def planning_capacity_ah(self) -> float:
        """What to plan with: measured where known, else the label."""
        return self.measured_capacity_ah or self.capacity_ah

    @property
    def resistance_ohm(self) -> float:
        """Stated or measured, else typical of a new cell of this capacity."""
        return self.r_ohm if self.r_ohm is not None else self.typical_ohm

    @property
    def typical_ohm(self) -> float:
        """Of a new cell of this capacity: the measured one where that is known."""
        return max(TYPICAL_OHM_AH / self.planning_capacity_ah, LEAST_TYPICAL_OHM)

    @property
    def stop_v(self) -> float:
        return self.cut_v if self.cut_v is not None else self.facts.cut_v

    @property
    def protection(self) -> Protection | None:
        return self.own_protection

    @property
    def volume_l(self) -> float | None:
        """Volume of the bare body in litres, or None where the size is not known."""
        if self.size_mm is None:
            return None
        if self.form == "round":
            diameter, length = self.size_mm
            return math.pi / 4 * diameter**2 * length * 1e-6
        return math.prod(self.size_mm) * 1e-6
