"""What powers the gadget today: loose batteries, a sealed pack known by its volts, or already a lithium pack."""

from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, Field, field_validator, model_validator

from pocketspark.core.message import Message, say
from pocketspark.core.models.battery import (
    BATTERIES,
    CHEMISTRIES,
    Battery,
    Chemistry,
    ChemistryFacts,
    facts_of,
    iec_name,
)
from pocketspark.core.models.cell import CellClassKey
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.models.model import AmpHours, Amps, Hours, Model, Volts, refusal
from pocketspark.core.units.figures import bare, volts

SupplyKind = Literal["cells", "pack", "lithium"]

SUPPLY_KINDS: dict[SupplyKind, tuple[str, str]] = {
    "cells": ("Loose batteries", "sticks, blocks, buttons, coins: picked from the table"),
    "pack": ("Sealed pack", "known by the volts printed on it"),
    "lithium": ("Lithium pack", "the gadget has a lithium cell already, and perhaps its charger"),
}


class OwnCharger(Model):
    """The lithium charger that the gadget itself carries. What is not known is None."""

    current_a: Amps | None = None
    float_v: Volts | None = None
    timer_h: Hours | None = None  # its safety timer ends the charge after this long
    reads_thermistor: bool = False


def known_battery(name: str) -> str:
    """Its IEC name. Raises the refusal that says what would be one."""
    if (known := iec_name(name)) is None:
        raise refusal(
            "there is no battery called '{name}' in the table; IEC names like LR6 or CR2032 are known", name=name
        )
    return known


# Its IEC name, or one that is known to mean it.
BatteryName = Annotated[str, AfterValidator(known_battery), Field(json_schema_extra={"enum": list(BATTERIES)})]


class Supply(Model):
    """The old batteries: `series` of them add their volts, `parallel` strings add their capacity.

    A sealed pack is told by `pack_v`, a lithium pack by `lithium_class`; both may state `pack_capacity_ah`.
    """

    kind: SupplyKind = "cells"
    battery: str = Field("LR6", json_schema_extra={"enum": list(BATTERIES)})
    chemistry: Chemistry = "alkaline"
    series: int = Field(1, ge=1, le=12)
    parallel: int = Field(1, ge=1, le=6)
    pack_v: Volts | None = None
    pack_capacity_ah: AmpHours | None = None
    lithium_class: CellClassKey = "li_4v20"
    own_charger: OwnCharger | None = None

    @model_validator(mode="before")
    @classmethod
    def _usual_chemistry(cls, value: Any) -> Any:
        if not isinstance(value, dict) or value.get("chemistry") is not None:
            return value
        if value.get("kind") == "pack":
            return {**value, "chemistry": "nimh"}
        name = iec_name(str(value.get("battery", "LR6")))
        return {**value, "chemistry": BATTERIES[name].chemistries[0] if name else "alkaline"}

    @field_validator("battery")
    @classmethod
    def _known_battery(cls, name: str) -> str:
        return known_battery(name)

    @model_validator(mode="after")
    def _exists(self) -> Self:
        if self.kind == "cells" and self.chemistry not in self.size.chemistries:
            made = ", ".join(self.size.chemistries)
            raise refusal(
                "{battery} is not made as {chemistry}; it comes as {made}",
                battery=self.battery,
                chemistry=self.chemistry,
                made=made,
            )
        if self.kind == "pack" and self.pack_v is None:
            raise refusal("a sealed pack is known by the volts printed on it: fill them in, 3.6 V for example")
        if self.kind == "pack" and self.pack_v is not None and self.pack_v < 1:
            raise refusal("a pack has at least one cell, so 1.2 V or more is printed on it")
        return self

    @property
    def size(self) -> Battery:
        return BATTERIES[self.battery]

    @property
    def facts(self) -> ChemistryFacts:
        return facts_of(self.size, self.chemistry) if self.kind == "cells" else CHEMISTRIES[self.chemistry]

    @property
    def count(self) -> int:
        """Pieces a maker takes out."""
        return self.series * self.parallel if self.kind == "cells" else 1

    @property
    def label(self) -> Message:
        """In words: "3 x AAA, alkaline"."""
        if self.kind == "lithium":
            return say("lithium pack, {full} full", full=volts(CELL_CLASSES[self.lithium_class].full_v))
        if self.kind == "pack":
            return say("{printed} V pack, {chemistry}", printed=bare(self.pack_v or 0.0), chemistry=self.facts.label)
        return say("{count} x {size}, {chemistry}", count=self.count, size=self.size.common, chemistry=self.facts.label)

    @property
    def cells_in_series(self) -> int:
        if self.kind == "lithium":
            return 1
        if self.kind == "pack":
            return max(1, round((self.pack_v or 0) / self.facts.nominal_v))
        return self.series * self.size.cells_inside

    @property
    def fresh_v(self) -> float:
        if self.kind == "lithium":
            return CELL_CLASSES[self.lithium_class].full_v
        return self.cells_in_series * self.facts.fresh_v

    @property
    def slot_v(self) -> float:
        """Fresh volts of the highest that goes in: where rechargeables lie today, alkalines of their size have lain."""
        fits_alkaline = self.kind == "cells" and self.chemistry == "nimh" and "alkaline" in self.size.chemistries
        if not fits_alkaline:
            return self.fresh_v
        return max(self.fresh_v, self.cells_in_series * facts_of(self.size, "alkaline").fresh_v)

    @property
    def working_v(self) -> float:
        if self.kind == "lithium":
            return CELL_CLASSES[self.lithium_class].nominal_v
        return self.cells_in_series * self.facts.working_v

    @property
    def called_empty_v(self) -> float:
        """Where the batteries themselves are called empty."""
        if self.kind == "lithium":
            return CELL_CLASSES[self.lithium_class].empty_v
        return self.cells_in_series * self.facts.empty_v

    @property
    def empty_v(self) -> float:
        """Where a gadget made for these batteries gives up."""
        if self.kind == "lithium":
            return CELL_CLASSES[self.lithium_class].empty_v
        return self.cells_in_series * self.facts.gadget_empty_v

    @property
    def capacity_ah(self) -> float:
        """Light-drain capacity of the whole set; of an unlabelled pack, that of AA-sized cells."""
        if self.kind == "cells":
            usual_ah = self.size.capacity_ah * self.facts.capacity_factor
            return self.parallel * (self.size.nimh_ah or usual_ah if self.chemistry == "nimh" else usual_ah)
        if self.pack_capacity_ah is not None:
            return self.pack_capacity_ah
        return 1.0 if self.kind == "lithium" else BATTERIES["LR6"].capacity_ah * self.facts.capacity_factor
