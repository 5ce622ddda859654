"""What is on the simulated bench, and what may be wrong with it: the faults that makers meet."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.instruments.cell_model import SteppedCell

InstrumentKind = Literal["cell_meters", "usb_meter", "cell_tester", "bench_load"]
Fault = Literal[
    "worn_cell",
    "thin_cable",
    "hot_box",
    "load_left_on",
    "pad_starts_and_stops",
    "wrong_resistor",
    "protection_trips",
    "self_discharge",
    "swapped_leads",
    "warm_cell",
    "over_charge",
]


@dataclass(frozen=True)
class FaultFacts:
    """The code under which the analysis names a fault, what it is, and which instruments' runs show it."""

    code: str
    says: str
    shown_by: tuple[InstrumentKind, ...]


_CHARGES: tuple[InstrumentKind, ...] = ("cell_meters", "usb_meter")
FAULTS: Mapping[Fault, FaultFacts] = {
    "worn_cell": FaultFacts("log.long_tail", "a worn cell: high resistance stretches the tail", ("cell_meters",)),
    "thin_cable": FaultFacts("log.cable_sags", "a thin cable: too little is left of the 5 V", ("usb_meter",)),
    "hot_box": FaultFacts("log.folds_back", "a hot closed box: the chip holds itself back", _CHARGES),
    "load_left_on": FaultFacts("log.never_ends", "a load left on the cell: the end never comes", _CHARGES),
    "pad_starts_and_stops": FaultFacts("log.interrupted", "a pad charger that starts and stops", _CHARGES),
    "wrong_resistor": FaultFacts("log.plateau_off", "another resistor than the planned one", _CHARGES),
    "protection_trips": FaultFacts(
        "log.trips_at_peak", "a protection that trips when the gadget starts up", ("bench_load",)
    ),
    "self_discharge": FaultFacts("log.sinks_at_rest", "a cell that discharges itself", ("cell_meters",)),
    "swapped_leads": FaultFacts("log.swapped", "plus and minus swapped", ("cell_meters", "cell_tester")),
    "warm_cell": FaultFacts("log.too_warm", "a cell that gets too warm", ("cell_meters",)),
    "over_charge": FaultFacts("log.over_voltage", "a charger that goes on too high", ("cell_meters",)),
}


@dataclass(frozen=True)
class Bench:
    """What is on the bench."""

    capacity_ah: float = 0.9
    r_ohm: float = 0.12
    i_prog_a: float = 0.4
    float_v: float = 4.20
    load_a: float = 0.15
    peak_a: float = 0.45
    source_v: float = 5.0
    cable_ohm: float = 0.1
    path_ohm: float = 0.0  # leads and protection between charger and cell
    cell_class: str = "li_4v20"
    empty_v: float = 3.0

    def cell_at(self, soc: float) -> SteppedCell:
        return SteppedCell(self.cell_class, self.capacity_ah, self.r_ohm, soc)

    def with_fault(self, fault: Fault | None) -> "Bench":
        if fault == "worn_cell":
            return replace(self, r_ohm=self.r_ohm * 8)
        if fault == "wrong_resistor":
            return replace(self, i_prog_a=self.i_prog_a * 0.6)
        if fault == "over_charge":
            return replace(self, float_v=self.float_v + 0.08)
        if fault == "thin_cable":
            # So thin that the plan's current leaves 4.2 V of the 5.
            return replace(self, cable_ohm=0.8 / self.i_prog_a)
        return self


def bench_of(chain: Chain) -> Bench:
    """This very build on the bench, as planned. Raises MissingPart."""
    charging = chain.required_charging()
    modes, heaviest = chain.gadget.modes, chain.heaviest
    return Bench(
        capacity_ah=charging.chosen.capacity_ah,
        r_ohm=charging.chosen.r_ohm + 0.03,
        i_prog_a=charging.current.spread.nominal_a,
        float_v=charging.charger.float_v,
        path_ohm=charging.path_ohm,
        load_a=heaviest.current_a if heaviest else 0.1,
        peak_a=max(mode.most_a for mode in modes) if modes else 0.3,
        cell_class=charging.cell.cell_class,
        empty_v=charging.cell.facts.empty_v,
    )
