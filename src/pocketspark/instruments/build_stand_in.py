"""A stand-in for one build between a supply and a load, as each test of it has them connected; with a fault, if asked.

What it gives follows the build's own laws: a test in a practice copy shows what a maker will see, and proves nothing.
"""

from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.kinds.regulators import law_of_regulators
from pocketspark.core.physics.load import Load, or_zero
from pocketspark.instruments.cell_model import SteppedCell
from pocketspark.instruments.load_stand_in import LoadStandIn, SimulatedLoad
from pocketspark.instruments.supply_stand_in import SimulatedSupply, SupplyStandIn

BuildFault = Literal["weak_joint", "wrong_resistor", "opens_early", "never_opens", "not_set", "over_charge"]
# By so much (invented: a stand-in is for practice).
WEAK_OHM, WRONG_TIMES, EARLY_TIMES, UNSET_TIMES, OVER_V = 1.5, 0.6, 0.5, 1.25, 0.08
# A cell that is being charged on a bench: where it begins, for a current and for an end.
HALF, NEARLY = 0.5, 0.93
CHIP_A = 0.0002


@dataclass
class BuildOnBench(SimulatedLoad):
    """The load, and what lies before it. `test`: by which the leads lie where they do."""

    chain: Chain | None = None
    test: str = "output"
    fault: BuildFault | None = None
    opened: bool = False

    @property
    def build(self) -> Chain:
        assert self.chain is not None  # set by `on_the_bench`
        return self.chain

    def given_a(self, volts: float) -> float:
        """What the supply has to give at these volts."""
        if self.test in _CHARGING:
            return self._charged_a(volts)
        if self.test == "regulator":
            return CHIP_A
        return self._drawn(volts)[1]

    @property
    def flows_a(self) -> float:
        return self._charged_a(self._supply_v) if self.test in _CHARGING else 0.0

    @property
    def sees_v(self) -> float:
        if self.test in _CHARGING:
            return self.cell.source_v + self.flows_a * self.cell.ohmic_ohm
        return self._drawn(self._supply_v)[0]

    @property
    def _supply_v(self) -> float:
        return self.supply.volts if self.supply and self.supply.on and not self.supply.tripped else 0.0

    def _drawn(self, volts: float) -> tuple[float, float]:
        """Volts at the load and amperes from the supply."""
        if volts <= 0:
            return 0.0, 0.0
        if self.test == "protection":
            return self._through_protection(volts)
        running = self.build.required_running()
        alone = self.test == "regulator"
        law = law_of_regulators(self.build.regulators) if alone else running.chosen.regulator_law
        path_ohm = 0.0 if alone else running.chosen.path_ohm + (WEAK_OHM if self.fault == "weak_joint" else 0.0)
        point = law.operating_point(volts, path_ohm, Load(steady_a=self.draws_a))
        unset = UNSET_TIMES if self.fault == "not_set" else 1.0
        return float(or_zero(point.gadget_v)) * unset, float(or_zero(point.cell_a))

    def _through_protection(self, volts: float) -> tuple[float, float]:
        protection = next(board.protection for board in self.build.build.boards if board.protection)
        trips_a = protection.trip_current_a * (EARLY_TIMES if self.fault == "opens_early" else 1.0)
        self.opened = self.draws_a > 0 and (self.opened or self.draws_a > trips_a) and self.fault != "never_opens"
        if self.opened:
            return 0.0, 0.0
        return volts - self.draws_a * 2 * protection.r_on_ohm, self.draws_a

    def _charged_a(self, volts: float) -> float:
        charging = self.build.required_charging()
        charger = charging.charger
        set_a = charging.current.spread.nominal_a * (WRONG_TIMES if self.fault == "wrong_resistor" else 1.0)
        over_v = OVER_V if self.fault == "over_charge" else 0.0
        to_full_a = (charger.float_v + over_v - self.cell.source_v) / (self.cell.ohmic_ohm + charging.path_ohm)
        dropped_a = (volts - self.cell.source_v) / charger.pass_ohm
        flows_a = max(min(set_a, to_full_a, dropped_a), 0.0)
        return flows_a if flows_a > charging.current.termination_a else 0.0


_CHARGING = ("charge_current", "end_of_charge")


@dataclass(frozen=True)
class BenchDevices:
    """Where its supply and its load answer, and both as they stand."""

    supply: str
    load: str
    device: BuildOnBench


@contextmanager
def on_the_bench(
    chain: Chain, test: str, fault: BuildFault | None = None, speed_up: float = 1.0
) -> Iterator[BenchDevices]:
    """A supply and a load that answer, with this build between them. Raises MissingPart."""
    cell, charging = chain.build.cell, chain.charging
    capacity_ah, r_ohm = (cell.planning_capacity_ah, cell.resistance_ohm) if cell else (0.9, 0.1)
    soc = NEARLY if test == "end_of_charge" else HALF
    load = BuildOnBench(
        SteppedCell(cell.cell_class if cell else "li_4v20", capacity_ah, r_ohm, soc), speed_up if charging else 1.0
    )
    load.chain, load.test, load.fault = chain, test, fault
    drawn: Callable[[float], float] = load.given_a
    load.supply = SimulatedSupply(drawn)
    with ExitStack() as served:
        supply_at = served.enter_context(SupplyStandIn(load.supply)).address
        load_at = served.enter_context(LoadStandIn(load)).address
        yield BenchDevices(supply_at, load_at, load)
