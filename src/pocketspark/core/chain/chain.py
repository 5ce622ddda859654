"""What there is in the chain of one build: its parts, the window in force, and what each mode draws.

A part that is not chosen yet is not there: `cell`, `charger`, `running` and `charging` are then None, so that nothing
can be asked of them.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, TypeVar, cast

from pocketspark.core.chain.as_wired import READERS, AsWired
from pocketspark.core.chain.given_charger import given_charger, own_charger_ends_v
from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Board, Build, Cell, Gadget, Mode, Project, Protection, Regulator
from pocketspark.core.models.project import SOFT, Basis
from pocketspark.core.physics.load import Load, load_from_reading

if TYPE_CHECKING:
    from pocketspark.core.chain.charging import BoardCharging, Charging
    from pocketspark.core.chain.chosen_cell import ChosenCell
    from pocketspark.core.chain.running import Running


T = TypeVar("T")


class MissingPart(PocketSparkError, LookupError):
    """What was asked for needs a part that is not chosen yet."""

    status = 409

    def __init__(self, part: str) -> None:
        super().__init__(say("choose a {part} first", part=part))


class UnknownCharger(MissingPart):
    """A charger that is there is counted on, and nobody has said what it gives."""

    def __init__(self) -> None:
        PocketSparkError.__init__(self, "say first what the charger that is there gives, at Charge")


@dataclass(frozen=True)
class EffectiveWindow:
    """The window in force, and where its two ends come from."""

    v_run_min: float
    v_abs_max: float
    min_basis: Basis
    max_basis: Basis


@dataclass(frozen=True)
class Chain:
    """One build of a project, part by part. `advises`: whether what would help against a finding is worked out."""

    project: Project
    build_number: int
    advises: bool = True

    @cached_property
    def build(self) -> Build:
        return self.project.builds[self.build_number]

    @property
    def gadget(self) -> Gadget:
        return self.project.gadget

    @property
    def path(self) -> str:
        """The build's own path in the document."""
        return f"builds.{self.build.id or self.build_number}"

    @property
    def keeps_own_charger(self) -> bool:
        """The gadget's own lithium charger goes on charging, and only the cell behind it changes."""
        return self.build.who_charges == "gadget" and self.gadget.has_lithium_charger

    def kept(self, kind: type[T], work_out: Callable[[], T]) -> T:
        """What others work out of this chain, once: asked again it is the same. Nobody of them is known here."""
        if kind not in self._kept:
            self._kept[kind] = work_out()
        return cast(T, self._kept[kind])

    @cached_property
    def _kept(self) -> dict[type, object]:
        return {}

    # Parts -------------------------------------------------------------------------------------------------------

    @property
    def cell(self) -> Cell | None:
        return self.build.cell

    @cached_property
    def charging_board(self) -> Board | None:
        """What charges the cell: our board, or one that stands for the charger there is. None: not known."""
        if self.build.who_charges == "board":
            return self.charger_boards[0] if self.charger_boards else None
        return given_charger(self.gadget, self.build)

    @property
    def charge_ends_v(self) -> float | None:
        """Where the cell is left by what charges it; None while that is not known."""
        if self.keeps_own_charger:
            return own_charger_ends_v(self.gadget)
        board = self.charging_board
        return board.charger.float_v if board and board.charger else None

    @cached_property
    def charger_boards(self) -> list[Board]:
        return [board for board in self.build.boards if board.charger]

    @cached_property
    def protections(self) -> list[Protection]:
        on_cell = [self.build.cell.protection] if self.build.cell and self.build.cell.protection else []
        return on_cell + [board.protection for board in self.build.boards if board.protection]

    @cached_property
    def first_to_trip(self) -> Protection | None:
        """The protection that lets the least current by."""
        return min(self.protections, key=lambda protection: protection.trip_least_a, default=None)

    @cached_property
    def regulators(self) -> list[Regulator]:
        """In a row, the one nearest to the cell first: those on boards, then the one that is on none."""
        found = [*(board.regulator for board in self.build.boards), self.build.regulator]
        return [regulator for regulator in found if regulator is not None and regulator.kind != "none"]

    @property
    def regulator(self) -> Regulator:
        """The one that feeds the gadget, the last of them."""
        return self.regulators[-1] if self.regulators else Regulator(name="none")

    @cached_property
    def as_wired(self) -> AsWired | None:
        """What the maker's own wires make of it; None where the tool made them, or they lead nowhere."""
        if self.build.wiring.wires is None or self.build.cell is None or not READERS:
            return None
        wired = READERS[0](self)
        return wired if wired.joined else None

    @property
    def regulators_in_the_way(self) -> list[Regulator]:
        """The regulators that the gadget is really fed through."""
        wired = self.as_wired
        return self.regulators if wired is None or wired.through_regulator else []

    @property
    def regulator_in_the_way(self) -> Regulator:
        """The last of them, whose output the gadget hangs on."""
        return self.regulators_in_the_way[-1] if self.regulators_in_the_way else Regulator(name="none")

    # Built on them -----------------------------------------------------------------------------------------------

    @cached_property
    def chosen_cell(self) -> "ChosenCell | None":
        """The cell as it is to be judged; None while none is chosen."""
        from pocketspark.core.chain.chosen_cell import ChosenCell

        return ChosenCell(self, self.build.cell) if self.build.cell else None

    @cached_property
    def running(self) -> "Running | None":
        """The build in use; None while no cell is chosen."""
        from pocketspark.core.chain.running import Running

        return Running(self.chosen_cell) if self.chosen_cell else None

    @cached_property
    def charging(self) -> "Charging | None":
        """The build on its charger; None while cell or charger is not chosen."""
        from pocketspark.core.chain.charging import BoardCharging, GivenCharging

        if self.running is None or self.charging_board is None:
            return None
        kind = BoardCharging if self.build.who_charges == "board" else GivenCharging
        return kind(self.running, self.charging_board)

    @property
    def board_charging(self) -> "BoardCharging | None":
        """The build on a charger board of ours, whose resistor is to be chosen; None where another charges."""
        from pocketspark.core.chain.charging import BoardCharging

        return self.charging if isinstance(self.charging, BoardCharging) else None

    def required_running(self) -> "Running":
        """Raises MissingPart."""
        if self.running is None:
            raise MissingPart("cell")
        return self.running

    def required_charging(self) -> "Charging":
        """Raises MissingPart."""
        self.required_running()
        if self.charging is None:
            raise MissingPart("charger") if self.build.who_charges == "board" else UnknownCharger
        return self.charging

    # Where numbers come from ---------------------------------------------------------------------------------------

    def basis_of(self, path: str) -> Basis:
        return self.project.basis_of(path)

    def is_assumed(self, *paths: str) -> bool:
        """Does any of these fields rest on something inferred or default?"""
        return any(self.basis_of(path) in SOFT for path in paths)

    @cached_property
    def window(self) -> EffectiveWindow:
        stated = self.gadget.window
        v_run_min = stated.v_run_min if stated else None
        v_abs_max = stated.v_abs_max if stated else None
        return EffectiveWindow(
            self.gadget.supply.empty_v if v_run_min is None else v_run_min,
            self.gadget.supply.slot_v if v_abs_max is None else v_abs_max,
            "inferred" if v_run_min is None else self.basis_of("gadget.window.v_run_min"),
            "inferred" if v_abs_max is None else self.basis_of("gadget.window.v_abs_max"),
        )

    @property
    def stops_at_v(self) -> float:
        """Volts at the gadget where a run ends: its lowest, or where its own gauge stops it before."""
        gauge = self.gadget.gauge
        return max(self.window.v_run_min, (gauge.stop_v or 0.0) if gauge else 0.0)

    # Loads ---------------------------------------------------------------------------------------------------------

    def load_of(self, mode: Mode, current_a: float | None = None) -> Load:
        """The mode as a load law; with `current_a`, the same law at another current (its peak, say)."""
        drawn_a = mode.current_a if current_a is None else current_a
        gadget = self.gadget
        return load_from_reading(gadget.law_of(mode), drawn_a, gadget.volts_of(mode), gadget.led_forward_v)

    @property
    def off_load(self) -> Load:
        """What the switched-off gadget draws through the regulator."""
        return Load(steady_a=self.gadget.off_current_a if self.gadget.off_path == "after_regulator" else 0.0)

    @property
    def heaviest(self) -> Mode | None:
        """The mode that draws most; None where nobody has measured one."""
        return max(self.gadget.modes, key=lambda mode: mode.current_a, default=None)

    @property
    def hours_on_per_day(self) -> float:
        return sum(mode.hours_per_day for mode in self.gadget.modes)
