"""What has been chosen for one build: its parts, the window in force, and what each mode draws.

A part that is not chosen yet is not there: `cell` and `charging_board` are then None, so that nothing can be asked of
them.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import TypeVar, cast

from pocketspark.core.chosen.given_charger import given_charger, own_charger_ends_v
from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Board, Build, Cell, Gadget, Mode, Project, Protection, Regulator
from pocketspark.core.models.project import SOFT, Basis
from pocketspark.core.physics.load import Load, load_from_reading

T = TypeVar("T")


class MissingPart(PocketSparkError, LookupError):
    """What was asked for needs a part that is not chosen yet."""

    status = 409

    def __init__(self, part: str) -> None:
        super().__init__(say("choose a {part} first", part=part))


def load_of_mode(gadget: Gadget, mode: Mode, current_a: float | None = None) -> Load:
    """What a mode of this gadget draws, as a law of the volts; with `current_a` the same law at another current."""
    drawn_a = mode.current_a if current_a is None else current_a
    return load_from_reading(gadget.law_of(mode), drawn_a, gadget.volts_of(mode), gadget.led_forward_v)


@dataclass(frozen=True)
class EffectiveWindow:
    """The window in force, and where its two ends come from. `v_start_min` is never under `v_run_min`."""

    v_run_min: float
    v_start_min: float
    v_abs_max: float
    min_basis: Basis
    max_basis: Basis


@dataclass(frozen=True)
class ChosenParts:
    """One build of a project, part by part."""

    project: Project
    build_number: int

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
        runs_from_v = self.gadget.supply.empty_v if v_run_min is None else v_run_min
        return EffectiveWindow(
            runs_from_v,
            max(runs_from_v, (stated.v_start_min if stated else None) or 0.0),
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
        return load_of_mode(self.gadget, mode, current_a)

    @property
    def off_load(self) -> Load:
        """What the switched-off gadget draws through the regulator."""
        return Load(steady_a=self.gadget.off_current_a if self.gadget.off_path == "after_regulator" else 0.0)

    @property
    def heaviest(self) -> Mode | None:
        """The mode that draws most; None where nobody has measured one."""
        return max(self.gadget.modes, key=lambda mode: mode.current_a, default=None)
