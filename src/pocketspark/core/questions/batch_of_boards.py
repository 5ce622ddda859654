"""What a batch of boards really gives: the K of its chargers and their end volts, from builds that hold one of it."""

import statistics
from collections.abc import Iterable, Iterator
from typing import NamedTuple

from pocketspark.core.message import NOTHING, Message, row_of, say
from pocketspark.core.models import Board, Build
from pocketspark.core.models.model import Model
from pocketspark.core.steps import counts
from pocketspark.core.units.figures import exact_percent, plain, volts

# A meter and a resistor are wrong by so much together, however alike the boards are (common practice, no source).
LEAST_OFF = 0.03
# Of one board nobody knows how the others differ: half of what chips of this kind are sold with.
OFF_OF_ONE = 0.05
# A K further from what such chips have is a wrong reading.
SENSIBLE_K = (300.0, 5000.0)


class BatchOfBoards(Model):
    """Of `boards` that were measured. `k_volts` with its give-or-take as a share, `float_v`; None: not measured."""

    boards: int
    k_volts: float | None
    k_off: float | None
    float_v: float | None
    says: Message
    changes: bool  # the part as it lies there says something else


class _Measured(NamedTuple):
    k_volts: float | None
    float_v: float | None


def batch_of_boards(board: Board, part_id: int, builds: Iterable[Build]) -> BatchOfBoards | None:
    """From every build that was measured with a board of this part; None where none was, or it charges nothing."""
    if board.charger is None:
        return None
    measured = [one for build in builds for one in _measured(build, part_id)]
    if not measured:
        return None
    k_volts = [one.k_volts for one in measured if one.k_volts is not None]
    float_v = [one.float_v for one in measured if one.float_v is not None]
    found = _middle_and_off(k_volts) if k_volts else None
    ends_v = round(statistics.mean(float_v), 3) if float_v else None
    charger = board.charger
    changes = (found is not None and found != (charger.k_volts, charger.k_tolerance)) or (
        ends_v is not None and ends_v != charger.float_v
    )
    return BatchOfBoards(
        boards=len(measured),
        k_volts=found[0] if found else None,
        k_off=found[1] if found else None,
        float_v=ends_v,
        says=_says(len(measured), found, ends_v),
        changes=changes,
    )


def with_batch(board: Board, batch: BatchOfBoards) -> Board:
    """The next board of it is planned with what the others gave."""
    assert board.charger is not None  # a batch is of chargers
    learnt: dict[str, object] = {}
    if batch.k_volts is not None:
        learnt |= {"k_volts": batch.k_volts, "k_tolerance": batch.k_off}
    if batch.float_v is not None:
        learnt["float_v"] = batch.float_v
    return board.model_copy(update={"charger": board.charger.model_copy(update=learnt)})


def _measured(build: Build, part_id: int) -> Iterator[_Measured]:
    """I = K / R: K is what flowed times the resistor that was on the board."""
    if build.practice or all(board.inventory_id != part_id for board in build.boards if board.charger):
        return
    read = {one.step: one.value for one in build.record.steps if counts(one, build) and one.value is not None}
    flowed_a, r_ohm = read.get("first_charge"), build.record.r_measured_ohm or read.get("resistor") or build.r_prog_ohm
    k_volts = flowed_a * r_ohm if flowed_a and r_ohm else None
    if k_volts is not None and not SENSIBLE_K[0] <= k_volts <= SENSIBLE_K[1]:
        k_volts = None
    if k_volts is not None or "full" in read:
        yield _Measured(k_volts, read.get("full"))


def _middle_and_off(k_volts: list[float]) -> tuple[float, float]:
    """Twice their spread covers 95 of 100; one board tells nothing of the others."""
    middle = statistics.mean(k_volts)
    off = 2 * statistics.stdev(k_volts) / middle if len(k_volts) > 1 else OFF_OF_ONE
    return float(f"{middle:.4g}"), round(max(off, LEAST_OFF), 3)


def _says(boards: int, found: tuple[float, float] | None, float_v: float | None) -> Message:
    figures = [
        say("K is {k}, give or take {off}", k=plain(found[0]), off=exact_percent(found[1])) if found else NOTHING,
        say("it ends at {volts}", volts=volts(float_v)) if float_v is not None else NOTHING,
    ]
    return say("{count} measured: {what}", count=boards, what=row_of([one for one in figures if one]))
