"""The batteries a gadget may take: their sizes, and what each chemistry gives from fresh to empty.

Dimensions are the maxima of IEC 60086-2 (from memory); voltages and capacities are from memory.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

BatteryForm = Literal["stick", "block", "button", "coin"]
Chemistry = Literal["alkaline", "zinc_carbon", "lithium_iron", "nimh", "lithium_manganese", "silver"]


@dataclass(frozen=True)
class Battery:
    """One size of primary battery. `size_mm` is (diameter, height), or (length, width, height) for a block."""

    iec: str
    common: str
    form: BatteryForm
    nominal_v: float
    size_mm: tuple[float, ...]
    capacity_ah: float  # light drain, in the size's usual chemistry
    chemistries: tuple[Chemistry, ...]  # the usual one first
    cells_inside: int = 1
    nimh_ah: float | None = None  # of a bought NiMH cell that keeps its charge (from memory); None: as usual


@dataclass(frozen=True)
class ChemistryFacts:
    """Volts of one cell: fresh without load, under light load, called empty, and where gadgets give up."""

    label: str
    fresh_v: float
    working_v: float
    empty_v: float
    gadget_empty_v: float
    capacity_factor: float  # of the alkaline figure for the same size
    nominal_v: float = 1.5  # printed


_STICK: tuple[Chemistry, ...] = ("alkaline", "zinc_carbon", "nimh")
_STICK_LITHIUM: tuple[Chemistry, ...] = ("alkaline", "zinc_carbon", "lithium_iron", "nimh")

BATTERIES: Mapping[str, Battery] = {
    battery.iec: battery
    for battery in (
        Battery("LR8D425", "AAAA", "stick", 1.5, (8.3, 42.5), 0.600, ("alkaline",)),
        Battery("LR03", "AAA", "stick", 1.5, (10.5, 44.5), 1.100, _STICK_LITHIUM, nimh_ah=0.75),
        Battery("LR1", "N", "stick", 1.5, (12.0, 30.2), 0.900, ("alkaline", "nimh")),
        Battery("LR6", "AA", "stick", 1.5, (14.5, 50.5), 2.600, _STICK_LITHIUM, nimh_ah=1.9),
        Battery("LR14", "C", "stick", 1.5, (26.2, 50.0), 7.500, _STICK, nimh_ah=4.0),
        Battery("LR20", "D", "stick", 1.5, (34.2, 61.5), 14.000, _STICK, nimh_ah=8.0),
        Battery("6LR61", "9 V block", "block", 9.0, (48.5, 26.5, 17.5), 0.550, _STICK, cells_inside=6, nimh_ah=0.2),
        Battery("8LR932", "12 V stick", "stick", 12.0, (10.3, 28.5), 0.055, ("alkaline",), cells_inside=8),
        Battery("LR41", "LR41", "button", 1.5, (7.9, 3.6), 0.040, ("alkaline", "silver")),
        Battery("LR44", "LR44", "button", 1.5, (11.6, 5.4), 0.130, ("alkaline", "silver")),
        Battery("CR1632", "CR1632", "coin", 3.0, (16.0, 3.2), 0.130, ("lithium_manganese",)),
        Battery("CR2016", "CR2016", "coin", 3.0, (20.0, 1.6), 0.085, ("lithium_manganese",)),
        Battery("CR2025", "CR2025", "coin", 3.0, (20.0, 2.5), 0.160, ("lithium_manganese",)),
        Battery("CR2032", "CR2032", "coin", 3.0, (20.0, 3.2), 0.225, ("lithium_manganese",)),
        Battery("CR2450", "CR2450", "coin", 3.0, (24.5, 5.0), 0.600, ("lithium_manganese",)),
        Battery("CR17345", "2/3 A lithium", "stick", 3.0, (17.0, 34.5), 1.500, ("lithium_manganese",)),
    )
}

# Gadgets on alkaline give up between 1.0 and 1.1 V a cell (common practice, no source): 1.05 is taken.
CHEMISTRIES: Mapping[Chemistry, ChemistryFacts] = {
    "alkaline": ChemistryFacts("alkaline", 1.60, 1.50, 0.90, 1.05, 1.0),
    "zinc_carbon": ChemistryFacts("zinc-carbon", 1.60, 1.50, 0.90, 1.05, 0.4),
    "lithium_iron": ChemistryFacts("lithium iron disulfide", 1.80, 1.60, 1.00, 1.05, 1.15),
    "nimh": ChemistryFacts("NiMH or NiCd", 1.40, 1.25, 1.00, 1.00, 0.75, 1.2),
    "lithium_manganese": ChemistryFacts("lithium manganese", 3.20, 3.00, 2.00, 2.00, 1.0, 3.0),
    "silver": ChemistryFacts("silver oxide", 1.58, 1.55, 1.10, 1.10, 1.2),
}

# Alkaline buttons run at the voltages of silver oxide ones for this purpose (from memory).
_BUTTON = ChemistryFacts("alkaline button", 1.58, 1.55, 1.10, 1.10, 1.0)

_COMMON_NAMES = {battery.common.upper(): iec for iec, battery in BATTERIES.items()}


def facts_of(battery: Battery, chemistry: Chemistry) -> ChemistryFacts:
    """The voltages of one cell inside this battery."""
    return _BUTTON if battery.form == "button" and chemistry == "alkaline" else CHEMISTRIES[chemistry]


def iec_name(name: str) -> str | None:
    """The IEC name for an IEC or common name ("aa" -> "LR6"), or None."""
    upper = name.strip().upper()
    return upper if upper in BATTERIES else _COMMON_NAMES.get(upper)
