"""Routes of a cell's test with an electronic load: begun for one of the maker's own, told as it goes on, kept."""

from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Annotated

import numpy as np
from fastapi import APIRouter, HTTPException, Query, Request
from pydantic import BaseModel, Field

from pocketspark.core.cells.cell_history import with_changes_noted
from pocketspark.core.cells.cell_test import STORE_S, CellTested, CellTestPlan, cell_test_plan, cell_tested
from pocketspark.core.cells.grading import grade
from pocketspark.core.message import Message, say
from pocketspark.core.models import Cell
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.model import Model, RowNumber
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.units.figures import ShownAmpHours, ShownCelsius, ShownOhms, ShownVolts, amps, volts
from pocketspark.instruments.cell_test_run import CellTestRun
from pocketspark.server.live import LiveStarted, live_runs_of
from pocketspark.server.live_runs import LiveRun, LiveRuns
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory
from pocketspark.store import Inventory, InventoryPart

router = APIRouter(prefix="/api/instruments/cell-test", tags=["instruments"], responses=PROBLEM_RESPONSES)


@dataclass
class CellTests:
    """Which cell is on which load, and until when at the latest: the bench clock counts with it."""

    on_load: dict[int, tuple[int, datetime]] = field(default_factory=dict)

    def begun(self, part_id: int, run_id: int, lasts_s: float) -> None:
        self.on_load[part_id] = (run_id, datetime.now(UTC) + timedelta(seconds=lasts_s))

    def run_of(self, part_id: int) -> int | None:
        return self.on_load.get(part_id, (None,))[0]

    def on_test(self, runs: LiveRuns) -> frozenset[int]:
        """Cells that are on a load now."""
        return frozenset(part_id for part_id, (run_id, _) in self.on_load.items() if not runs.get(run_id).finished)

    def minutes_left(self, part_id: int, runs: LiveRuns) -> float | None:
        """Of its test; None where none goes on."""
        run_id, ends = self.on_load.get(part_id, (None, None))
        if run_id is None or ends is None or runs.get(run_id).finished:
            return None
        return max((ends - datetime.now(UTC)).total_seconds() / 60, 0.0)


Address = Annotated[str, Field(max_length=200), ON_ONE_LINE]


class CellToTest(BaseModel):
    """Which of the maker's own cells, and where the load answers. `speed_up`: of a stand-in's time.

    `supply`: beside the load, brings the cell back to half; `thermometer`: on it. Empty without one.
    """

    part_id: RowNumber
    address: Annotated[Address, Field(min_length=1)]
    supply: Address = ""
    thermometer: Address = ""
    speed_up: Annotated[float, Field(ge=1, le=20_000)] = 1.0


class CellTestTold(Model):
    """What a test has told so far; None: not yet, or not at all."""

    says: Message
    finished: bool
    failure: str
    remarks: tuple[str, ...]
    simulated: bool
    celsius: ShownCelsius | None
    rest_v: ShownVolts | None
    r_soon_ohm: ShownOhms | None
    r_minute_ohm: ShownOhms | None
    capacity_ah: ShownAmpHours | None
    may_be_kept: bool


@router.post("", status_code=201)
def start_cell_test(request: Request, wanted: CellToTest, inventory: OurInventory) -> LiveStarted:
    """Connects, and begins with a rest. It draws gently, and never under the cell's last volts."""
    _part, cell = _own_cell(inventory, wanted.part_id)
    if grade(cell).word == "recycle":
        raise HTTPException(409, say("this cell is to be recycled: nothing is drawn from it"))
    plan = cell_test_plan(cell)
    run = CellTestRun(
        f"test of {cell.name}"[:120],
        wanted.address,
        plan,
        wanted.speed_up,
        supply=wanted.supply,
        thermometer=wanted.thermometer,
    )
    try:
        started = live_runs_of(request).start(run, None)
    except Exception:
        run.close()
        raise
    lasts_s = sum(lasts_s for _, _, lasts_s in plan.phases()) + (STORE_S if wanted.supply else 0.0)
    tests_of(request).begun(wanted.part_id, started.id, lasts_s)
    return LiveStarted(id=started.id, name=run.name, seconds=lasts_s)


class CellOnLoad(BaseModel):
    """The newest test of a cell since the server was started; None: there was none."""

    run_id: RowNumber | None


@router.get("")
def newest_cell_test(request: Request, part_id: Annotated[RowNumber, Query()]) -> CellOnLoad:
    """It goes on for hours: whatever device looks finds it again."""
    return CellOnLoad(run_id=tests_of(request).run_of(part_id))


def tests_of(request: Request) -> CellTests:
    tests: CellTests = request.app.state.cell_tests
    return tests


@router.get("/{run_id}")
def look_at_cell_test(
    request: Request, run_id: RowNumber, inventory: OurInventory, part_id: Annotated[RowNumber, Query()]
) -> CellTestTold:
    _part, cell = _own_cell(inventory, part_id)
    run = live_runs_of(request).get(run_id)
    plan = cell_test_plan(cell)
    tested = _told(run, plan)
    return CellTestTold(
        says=_says(run, plan, tested),
        finished=run.finished,
        failure=run.failure,
        remarks=tuple(run.remarks),
        simulated=run.simulated,
        celsius=run.samples[-1].celsius if run.samples else None,
        rest_v=tested.rest_v,
        r_soon_ohm=tested.r_soon_ohm,
        r_minute_ohm=tested.r_minute_ohm,
        capacity_ah=tested.capacity_ah,
        may_be_kept=_may_be_kept(run, tested),
    )


class CellToKeep(BaseModel):
    """The cell that was tested."""

    part_id: RowNumber


@router.post("/{run_id}/kept", status_code=204)
def keep_cell_test(request: Request, run_id: RowNumber, kept: CellToKeep, inventory: OurInventory) -> None:
    """What it told goes to the cell, with a line in its history. 409 for a stand-in's, or before it is over."""
    part, cell = _own_cell(inventory, kept.part_id)
    run = live_runs_of(request).get(run_id)
    tested = _told(run, cell_test_plan(cell))
    if not _may_be_kept(run, tested):
        raise HTTPException(409, say("there is nothing to keep: the test goes on, told nothing, or was a stand-in's"))
    intake = (cell.intake or Intake()).model_copy(update={"rest_v": tested.rest_v})
    updates: dict[str, object] = {"intake": intake}
    if tested.capacity_ah is not None:
        updates["measured_capacity_ah"] = round(tested.capacity_ah, 4)
    if tested.r_minute_ohm is not None:
        updates["r_ohm"] = round(tested.r_minute_ohm, 4)
    body = with_changes_noted(cell, cell.model_copy(update=updates), f"{datetime.now(UTC):%Y-%m-%d}")
    inventory.change(part.id, body, part.stock, based_on=part.revision)


def _own_cell(inventory: Inventory, part_id: int) -> tuple[InventoryPart, Cell]:
    part = inventory.get(part_id)
    if not isinstance(part.body, Cell):
        raise HTTPException(409, say("only a cell can be tested with a load"))
    return part, part.body


def _told(run: LiveRun, plan: CellTestPlan) -> CellTested:
    rows = list(run.samples)
    columns = [np.array([row[at] for row in rows], dtype=float) for at in range(3)]
    if not rows:
        return CellTested(None, None, None, None, was_full=False, ended_at_cut=False)
    return cell_tested(plan, columns[0], columns[1], -columns[2])


def _may_be_kept(run: LiveRun, tested: CellTested) -> bool:
    return run.finished and not run.simulated and tested.r_minute_ohm is not None


def _says(run: LiveRun, plan: CellTestPlan, tested: CellTested) -> Message:
    if not run.finished:
        with suppress(IndexError):
            last = run.samples[-1]
            return say(
                "{volts}, {amps} drawn; it ends at {cut}, or when you stop it.",
                volts=volts(last.volts),
                amps=amps(-last.amps),
                cut=volts(plan.cut_v),
            )
        return say("It rests for a minute first.")
    if tested.capacity_ah is not None:
        if any(sample.amps > 0 for sample in run.samples):
            return say("Full to empty, and counted; then charged back to half, as it keeps best.")
        return say("Full to empty, and counted. Charge it half full before it is put away.")
    if tested.rest_v is not None and not tested.was_full:
        return say("It was not full, so its charge was not counted: charge it full, and test it again.")
    return say("It did not get to its end, so its charge was not counted.")
