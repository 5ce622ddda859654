"""What a draft comes to at best, for all drafts at once: hours of use, price, time to full, work, months switched off.

Every bound is on the safe side: no build comes to more hours, or is full sooner. What is struck out here a rule would
stop as well.
"""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from functools import cache, cached_property

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.chain import WIRES_OHM, Chain
from pocketspark.core.chain.charging import TAIL_H
from pocketspark.core.chain.chosen_cell import fine_curve, wear_of
from pocketspark.core.chain.states import FED_FROM_5V, THROUGH_A_DIODE
from pocketspark.core.chosen.prices import price_of_way
from pocketspark.core.chosen.service import light_share, service_share
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.kinds.board_features import circuit_of
from pocketspark.core.kinds.regulators import SCHOTTKY, law_of_regulator
from pocketspark.core.limits import LEAST_FULL, SAME_V
from pocketspark.core.message import Message, say
from pocketspark.core.models import Board, Build, Cell, Charger, Mode, Project, Regulator
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge, discharge
from pocketspark.core.physics.load import Load, or_zero
from pocketspark.core.physics.ocv import Floats, Numbers, curve_of
from pocketspark.core.physics.regulator_laws import BehindDiode, RegulatorLaw, behind_diodes
from pocketspark.core.physics.self_discharge import self_discharge_a
from pocketspark.core.proposals.objectives import Steps, Work, room_mm, weighed, work_of
from pocketspark.core.proposals.offer import (
    COUNTS,
    POLICIES,
    Drafts,
    Offered,
    OnOffer,
    build_of,
    with_build,
)
from pocketspark.core.proposals.outlines import cells_that_go_in

# Of a volt over the window: less may be made good by what a bound leaves out.
SURELY_V = 0.05
# Rounding in the batch is made good by this share.
SURELY_SHARE = 0.999
_POLICY_C = {"gentle": 0.5, "label": 1.0, "data_sheet": np.inf}
TOO_MANY_VOLTS = say("it gives the gadget more volts than it can take")
WOULD_NOT_RUN = say("it would not run")
OVERLOADS_CELL = say("it draws more from its cell than that can supply")


@dataclass(frozen=True)
class Bounds:
    """A row for each draft: what it comes to at best. Joints and holes are exact, the rest is never better."""

    hours: Floats
    price: Floats
    full_h: Floats
    joints: Floats
    holes: Floats
    off_days: Floats
    light: Floats  # exact; 1 where nothing glows

    def only(self, chosen: NDArray[np.bool_] | NDArray[np.intp]) -> "Bounds":
        return Bounds(*(getattr(self, field.name)[chosen] for field in fields(self)))

    def weighed(self, build: Build) -> Steps:
        """The seven figures, with as much room as this way of building may have."""
        work = self.joints + self.holes
        return weighed(self.hours, self.price, self.full_h, work, self.off_days, self.light, room_mm(build))


class Tables:
    """What is worked out once for a gadget and an offer, and holds for every way of building that does not touch it."""

    def __init__(self, mode: Mode, offer: OnOffer) -> None:
        """`mode`: the one whose hours count."""
        self.mode, self.offer = mode, offer
        self._runs: dict[bool, _Runs] = {}
        self._shapes: dict[str, list[list[list[int]]]] = {}
        self._charges: dict[tuple[object, ...], _Charges] = {}

    @cached_property
    def paths(self) -> "_Paths":
        return _paths(self.offer)

    def shapes(self, project: Project, known: KnownFits) -> list[list[list[int]]]:
        """By cell and count, those of its shapes that go in alone. Its switch hangs on a regulator: not there yet."""
        elsewhere = project.builds[0].model_copy(update={"switch_place": "gadget"})
        key = with_build(project, elsewhere).model_dump_json()
        if key not in self._shapes:
            self._shapes[key] = cells_that_go_in(self.offer, project, known)
        return self._shapes[key]

    def per_run(self, drafts: Drafts) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Where each draft stands in the table of runs."""
        row = self.paths.row[drafts.cell, drafts.count, drafts.charger, drafts.protection + 1]
        return row, drafts.regulator

    def runs(self, project: Project) -> "_Runs":
        diode = _behind_a_diode(project)
        if diode not in self._runs:
            self._runs[diode] = _running(project, self.mode, self.offer, self.paths)
        return self._runs[diode]

    def charges(self, project: Project, beside_a: float) -> "_Charges":
        build = project.builds[0]
        key = build.source, build.input.facts.over_a_gap, build.input.pad_efficiency, beside_a
        if key not in self._charges:
            self._charges[key] = _charges(project, self.offer, beside_a)
        return self._charges[key]


def surely_falls(project: Project, drafts: Drafts, tables: Tables) -> dict[Message, NDArray[np.bool_]]:
    """Drafts that cannot work, by why, each under the first reason that there is: soon told of many."""
    running, offer = tables.runs(project), tables.offer
    per_run = tables.per_run(drafts)
    bodies = [part.body for part in offer.cells if isinstance(part.body, Cell)]
    supplies_a = _supplies_a(bodies)[drafts.cell] * np.array(COUNTS)[drafts.count]
    found: dict[Message, NDArray[np.bool_]] = {}
    left = np.ones(len(drafts), dtype=bool)
    for reason, falls in (
        (WOULD_NOT_RUN, running.hours[per_run] <= 0),
        (OVERLOADS_CELL, running.most_a[per_run] * SURELY_SHARE > supplies_a),
        (TOO_MANY_VOLTS, running.most_v[per_run] > Chain(project, 0).window.v_abs_max + SURELY_V),
    ):
        found[reason] = left & falls
        left = left & ~falls
    return found


def bounds_of(project: Project, drafts: Drafts, tables: Tables) -> Bounds:
    """What every draft comes to at best in this way of building."""
    offer = tables.offer
    running = tables.runs(project)
    per_run = tables.per_run(drafts)
    counts = np.array(COUNTS)[drafts.count]
    price = _prices(offer.cells)[drafts.cell] * counts + _prices(offer.chargers)[drafts.charger]
    price += np.append(_prices(offer.protections), 0.0)[drafts.protection]
    price += np.array([part.price if part else 0.0 for part in offer.regulators])[drafts.regulator]
    bodies = [part.body for part in offer.cells if isinstance(part.body, Cell)]
    capacity_ah = np.array(_worn(project.gadget.shell.used_at_c, project.builds[0], bodies)[0])
    off_a = _gadget_off_a(project, offer, running)[per_run] + _drains(offer, drafts)
    off_a += self_discharge_a(capacity_ah[drafts.cell] * counts, project.gadget.shell.used_at_c)
    joints, holes = _works(project, offer, drafts).T
    return Bounds(
        hours=running.hours[per_run],
        price=np.round(price + price_of_way(project.builds[0]), 2),
        full_h=_full_hours(project, drafts, tables),
        joints=joints,
        holes=holes,
        off_days=running.charge_ah[per_run] / np.maximum(off_a, 1e-12) / 24 / SURELY_SHARE,
        light=running.light[per_run],
    )


def suited(offer: OnOffer) -> NDArray[np.bool_]:
    """By cell and charger: whether the one may be charged by the other, and comes near to full."""
    matrix = [[_suit(cell.body, charger.body) for charger in offer.chargers] for cell in offer.cells]
    return np.array(matrix, dtype=bool).reshape(len(offer.cells), len(offer.chargers))


def _supplies_a(cells: Sequence[Cell]) -> Floats:
    """What one of each is rated for; inf where that is not known."""
    return np.array([np.inf if cell.discharge_max_a is None else cell.discharge_max_a for cell in cells])


def _prices(parts: Sequence[Offered]) -> Floats:
    return np.array([part.price for part in parts], dtype=np.float64)


def _suit(cell: Cell | Board, charger: Cell | Board) -> bool:
    assert isinstance(cell, Cell)
    assert isinstance(charger, Board)
    return charger.charger is not None and _comes_near_to_full(cell.cell_class, charger.charger.float_v)


@cache
def _comes_near_to_full(cell_class: str, float_v: float) -> bool:
    full_v = CELL_CLASSES[cell_class].full_v
    return float_v <= full_v + SAME_V and float(curve_of(cell_class).soc_at(float_v)) > LEAST_FULL


def _drains(offer: OnOffer, drafts: Drafts) -> Floats:
    """What protections and charger take from the cell all day."""
    cells = np.array([_drain(part.body) for part in offer.cells])
    boards = np.array([_drain(part.body) + _leak(part.body) for part in offer.chargers])
    separate = np.array([*(_drain(part.body) for part in offer.protections), 0.0])
    return np.asarray(cells[drafts.cell] + boards[drafts.charger] + separate[drafts.protection])


def _drain(body: Cell | Board) -> float:
    return body.protection.drain_a if body.protection else 0.0


def _leak(body: Cell | Board) -> float:
    return body.charger.back_leak_a if isinstance(body, Board) and body.charger else 0.0


def _works(project: Project, offer: OnOffer, drafts: Drafts) -> Floats:
    """Joints and holes, which are the same for boards with the same pads: one of each is asked."""
    alike: dict[tuple[object, ...], Work] = {}
    pads_of = [_pads(part) for part in offer.chargers], [_pads(part) for part in offer.regulators]
    h, r, k = drafts.charger, drafts.regulator, drafts.count
    keys = ((h * len(offer.regulators) + r) * len(COUNTS) + k) * 2 + (drafts.protection >= 0)
    # Of each key the last draft that has it.
    example = np.full(len(offer.chargers) * len(offer.regulators) * len(COUNTS) * 2, -1, dtype=np.intp)
    example[keys] = np.arange(len(keys))
    works = np.zeros((len(example), 2))
    for key in np.flatnonzero(example >= 0).tolist():
        draft = [int(column[example[key]]) for column in drafts.columns()]
        signature = (pads_of[0][draft[2]], pads_of[1][draft[5]], draft[1], draft[4] >= 0)
        if signature not in alike:
            alike[signature] = work_of(Chain(with_build(project, build_of(draft, offer, project.builds[0])), 0))
        works[key] = alike[signature]
    return np.asarray(works[keys])


def _pads(part: Offered | None) -> object:
    if part is None or not isinstance(part.body, Board):
        return None
    regulator = part.body.regulator
    return tuple(circuit_of(part.body).pads), part.body.socket is not None, regulator.kind if regulator else ""


@dataclass(frozen=True)
class _Paths:
    """The different ones of (cell, count, what lies between cell and regulator, where the charger leaves the cell).

    A row each; `row`: which one it is, by cell, count, charger, and protection, of which the first is none.
    """

    cell: NDArray[np.intp]
    count: NDArray[np.intp]
    path_ohm: Floats
    cut_v: Floats
    full_v: Floats
    row: NDArray[np.intp]


def _paths(offer: OnOffer) -> _Paths:
    """Of every cell, charger and protection that may stand together; a protection is added where there is none."""
    row = np.zeros((len(offer.cells), len(COUNTS), len(offer.chargers), len(offer.protections) + 1), dtype=np.intp)
    rows: dict[tuple[int, int, tuple[float, float, float]], int] = {}
    for c, h in np.argwhere(suited(offer)).tolist():
        is_protected = offer.cells[c].body.protection or offer.chargers[h].body.protection
        for g in (-1,) if is_protected else range(len(offer.protections)):
            path = _path(offer, c, h, g)
            row[c, :, h, g + 1] = [rows.setdefault((c, k, path), len(rows)) for k in range(len(COUNTS))]
    cells, counts = (np.array([one[n] for one in rows], dtype=np.intp) for n in (0, 1))
    path_ohm, cut_v, full_v = np.array([one[2] for one in rows]).reshape(-1, 3).T
    return _Paths(cells, counts, path_ohm, cut_v, full_v, row)


def _path(offer: OnOffer, c: int, h: int, g: int) -> tuple[float, float, float]:
    """Ohm of wires and protections, volts at which the first of these cuts, and at which the charger ends."""
    cell, charger = offer.cells[c].body, offer.chargers[h].body
    separate = offer.protections[g].body.protection if g >= 0 else None
    protections = [one for one in (cell.protection, charger.protection, separate) if one is not None]
    float_v = charger.charger.float_v if isinstance(charger, Board) and charger.charger else 0.0
    path_ohm = WIRES_OHM + sum(2 * one.r_on_ohm for one in protections)
    return path_ohm, max((one.cut_v for one in protections), default=0.0), float_v


@dataclass(frozen=True)
class _Runs:
    """By path and regulator: hours of service in the mode, the charge it gets, the most volts, the most that some use
    draws at least, what flows with the gadget off behind a regulator that is on, light; and the share of the hours that
    is service."""

    hours: Floats
    charge_ah: Floats
    most_v: Floats
    most_a: Floats
    off_a: Floats
    light: Floats
    service_share: Floats


def _running(project: Project, mode: Mode, offer: OnOffer, paths: _Paths) -> _Runs:
    chain = Chain(project, 0)
    hours, charge_ah, most_v, most_a, off_a, light = np.zeros((6, len(paths.cell), len(offer.regulators)))
    before_a = chain.gadget.off_current_a if chain.gadget.off_path == "before_regulator" else 0.0
    for (indices, cells), (r, option) in itertools.product(_by_class(offer), enumerate(offer.regulators)):
        regulator = _regulator_on(option)
        law = _law_behind(project, regulator)
        rows = np.flatnonzero(np.isin(paths.cell, indices))
        if len(rows):
            one = _of_one_class(chain, law, mode, dict(zip(indices, cells, strict=True)), paths, rows)
            rest_h = (1 - mode.duty) * (one.off_a + before_a) / np.maximum(one.charge_ah, 1e-9)
            steady_h = np.maximum(one.hours, 1e-12)
            hours[rows, r] = np.where(one.hours > 0, 1 / (mode.duty / steady_h + rest_h), 0.0) * one.service_share
            charge_ah[rows, r], most_v[rows, r], light[rows, r] = one.charge_ah, one.most_v, one.light
            most_a[rows, r] = one.most_a
            off_a[rows, r] = np.maximum(one.off_a, float(chain.off_load.steady_a))
    return _Runs(hours, charge_ah, most_v, most_a, off_a, light, np.ones_like(hours))


def _gadget_off_a(project: Project, offer: OnOffer, runs: _Runs) -> Floats:
    """By path and regulator: what gadget and regulator take while it is off, as its switch stands."""
    gadget, place = project.gadget, project.builds[0].switch_place
    before_a = gadget.off_current_a if gadget.off_path == "before_regulator" else 0.0
    if place == "gadget":
        awake_a: Floats = runs.off_a + before_a
        return awake_a
    asleep_a = [_regulator_on(option).iq_off_a if place == "enable" else 0.0 for option in offer.regulators]
    return np.asarray(np.zeros_like(runs.off_a) + np.array(asleep_a) + before_a)


def _regulator_on(option: Offered | None) -> Regulator:
    board = option.body if option else None
    return board.regulator if isinstance(board, Board) and board.regulator else Regulator(name="none")


def _law_behind(project: Project, regulator: Regulator) -> RegulatorLaw:
    """With the diode before it, where this way of building has one in the run path."""
    inner = law_of_regulator(regulator)
    return BehindDiode(SCHOTTKY, inner) if _behind_a_diode(project) else inner


def _behind_a_diode(project: Project) -> bool:
    treatment = project.gadget.existing_charging.treatment
    return treatment == "diode" or project.builds[0].use_while_charging == "two_diodes"


def _of_one_class(
    chain: Chain,
    law: RegulatorLaw,
    mode: Mode,
    cells: Mapping[int, Cell],
    paths: _Paths,
    rows: NDArray[np.intp],
) -> _Runs:
    first = next(iter(cells.values()))
    capacity, r_ohm = _worn(chain.gadget.shell.used_at_c, chain.build, list(cells.values()))
    place = {index: number for number, index in enumerate(cells)}
    which = np.array([place[index] for index in paths.cell[rows].tolist()])
    counts = np.array(COUNTS, dtype=float)[paths.count[rows]]
    group = CellGroup(
        fine_curve(first.cell_class),
        (np.array(capacity)[which] * counts).reshape(-1, 1),
        (np.array(r_ohm)[which] / counts).reshape(-1, 1),
        rises=True,
    )
    path_ohm, cut_v, full_v = (x[rows].reshape(-1, 1) for x in (paths.path_ohm, paths.cut_v, paths.full_v))
    full_v = np.minimum(full_v, float(group.curve.volts[-1]))
    cuts: dict[str, Numbers] = {"cell": first.stop_v, "protection": cut_v}
    run = discharge(
        group, path_ohm, law, chain.load_of(mode), v_run_min=chain.stops_at_v, cell_cuts=cuts, full_v=full_v
    )
    all_ohm = np.asarray(group.r_ohm) + path_ohm
    most_v = law.operating_point(full_v, all_ohm, _lightest(chain)).gadget_v
    half_v = float(group.curve.at(0.5))
    off_a = law.operating_point(half_v, all_ohm, chain.off_load).cell_a
    light = _light_half(chain, law, half_v, all_ohm)
    most_a = _most_drawn_a(chain, law, group, path_ohm, (first.facts.empty_v, full_v))
    figures = run.hours, run.charge_ah, most_v, most_a, off_a, light, service_share(chain.gadget, mode, run)
    return _Runs(*(np.nan_to_num(figure).ravel() for figure in figures))


def _most_drawn_a(
    chain: Chain, law: RegulatorLaw, group: CellGroup, path_ohm: Floats, rest_v: Sequence[Numbers]
) -> Floats:
    """The most that leaves the cell at one of these voltages at rest, in a mode or its peak; 0: it carries none."""
    modes = [mode for mode in chain.gadget.modes if mode.current_a > 0]
    loads = [chain.load_of(mode, drawn_a) for mode in modes for drawn_a in {mode.current_a, mode.most_a}]
    drawn_a = [
        np.nan_to_num(law.operating_point(volts, group.r_at(volts) + path_ohm, load).cell_a)
        for load in loads
        for volts in rest_v
    ]
    return np.asarray(np.max(np.broadcast_arrays(*drawn_a), axis=0))


def _light_half(chain: Chain, law: RegulatorLaw, half_v: float, all_ohm: Floats) -> Floats:
    drawing = [mode for mode in chain.gadget.modes if mode.current_a > 0]
    brightest = chain.load_of(max(drawing, key=lambda mode: mode.current_a))
    share = light_share(chain.gadget, np.nan_to_num(law.operating_point(half_v, all_ohm, brightest).gadget_v))
    return np.ones_like(all_ohm) if share is None else share


def _lightest(chain: Chain) -> Load:
    """What is drawn at the least: then the gadget sees most volts. The same choice as when one build is judged."""
    asleep = chain.off_load.steady_a and chain.build.switch_place == "gadget"
    modes = [] if asleep else [chain.load_of(mode) for mode in chain.gadget.modes]
    return max(modes, key=lambda load: -float(load.current(3.7)), default=chain.off_load)


def _hangs_on_the_charger(project: Project, offer: OnOffer) -> Floats:
    """By charger and regulator: amperes that the gadget in use takes beside the cell at the charger's end voltage."""
    chain = Chain(project, 0)
    drawn_a = np.zeros((len(offer.chargers), len(offer.regulators)))
    if chain.build.use_while_charging != "on_cell" or chain.heaviest is None:
        return drawn_a
    load = chain.load_of(chain.heaviest)
    float_v = [
        part.body.charger.float_v for part in offer.chargers if isinstance(part.body, Board) and part.body.charger
    ]
    for r, option in enumerate(offer.regulators):
        point = _law_behind(project, _regulator_on(option)).operating_point(np.array(float_v), 0.0, load)
        drawn_a[:, r] = np.nan_to_num(np.broadcast_to(point.cell_a, len(float_v)))
    return drawn_a


def _full_hours(project: Project, drafts: Drafts, tables: Tables) -> Floats:
    """Hours to full; inf where the gadget in use takes so much beside the cell that the charger never ends."""
    hangs_a = _hangs_on_the_charger(project, tables.offer)[drafts.charger, drafts.regulator]
    beside_a = _source_loads_a(project, tables.offer)
    full_h = np.full(len(drafts), np.inf)
    for least_a in np.unique(beside_a):
        rows = np.flatnonzero(beside_a[drafts.regulator] == least_a)
        charges = tables.charges(project, float(least_a))
        of = tuple(column[rows] for column in (drafts.cell, drafts.count, drafts.charger, drafts.policy))
        ends = hangs_a[rows] * SURELY_SHARE < charges.end_a[of]
        full_h[rows] = np.where(ends, charges.hours[of], np.inf)
    return full_h


# What the gadget takes beside the charger is rounded down to this, so that one table serves several regulators.
_SOURCE_LOAD_STEP_A = 0.05


def _source_loads_a(project: Project, offer: OnOffer) -> Floats:
    """By regulator: what the gadget in use takes of the 5 V beside the charger, at least; 0: it hangs elsewhere."""
    chain = Chain(project, 0)
    if chain.build.use_while_charging not in FED_FROM_5V or chain.heaviest is None:
        return np.zeros(len(offer.regulators))
    source, load = chain.build.source, chain.load_of(chain.heaviest)
    diodes = int(chain.build.use_while_charging in THROUGH_A_DIODE)
    laws = (behind_diodes(diodes, SCHOTTKY, law_of_regulator(_regulator_on(option))) for option in offer.regulators)
    drawn_a = [or_zero(law.operating_point(source.volts, source.r_cable_ohm, load).cell_a) for law in laws]
    return np.floor(np.array(drawn_a) / _SOURCE_LOAD_STEP_A) * _SOURCE_LOAD_STEP_A


@dataclass(frozen=True)
class _Charges:
    """By cell, count, charger and policy: hours to full with nothing on the cell meanwhile, and the current at which
    the charger ends the charge."""

    hours: Floats
    end_a: Floats


def _charges(project: Project, offer: OnOffer, beside_a: float) -> _Charges:
    """A batch for each charger and class of cell. `beside_a`: what the gadget takes from the source meanwhile."""
    shape = len(offer.cells), len(COUNTS), len(offer.chargers), len(POLICIES)
    hours, end_a = np.full(shape, np.inf), np.zeros(shape)
    for h, part in enumerate(offer.chargers):
        assert isinstance(part.body, Board)
        if part.body.charger is not None:
            for indices, cells in _by_class(offer):
                hours[indices, :, h, :], end_a[indices, :, h, :] = _charged_by(
                    project, part, cells, _least_path_ohm(offer, indices, h), beside_a
                )
    return _Charges(hours, end_a)


def _least_path_ohm(offer: OnOffer, cells: Sequence[int], h: int) -> Floats:
    """Between this charger and each cell: a protection of its own that a build adds only makes the way longer."""
    board_ohm = 2 * one.r_on_ohm if (one := offer.chargers[h].body.protection) else 0.0
    own = [offer.cells[c].body.protection for c in cells]
    own_ohm = np.array([2 * one.r_on_ohm if one else 0.0 for one in own])
    separate = [2 * part.body.protection.r_on_ohm for part in offer.protections if part.body.protection]
    # Without one of either, a build has to add one.
    added_ohm = np.where((board_ohm == 0) & (own_ohm == 0), min(separate, default=0.0), 0.0)
    return np.asarray(WIRES_OHM + board_ohm + own_ohm + added_ohm)


def _charged_by(
    project: Project, part: Offered, cells: Sequence[Cell], path_ohm: Floats, beside_a: float
) -> tuple[Floats, Floats]:
    """Hours of each cell, count and policy with the resistor that is suggested, and the end current: no charge is
    faster, and no lower current ends it.

    `path_ohm`: what lies at least between the charger and each cell.
    """
    assert isinstance(part.body, Board)
    assert part.body.charger
    build, source, charger = project.builds[0], project.builds[0].source, part.body.charger
    burn_w = heat.burn_limit_w(charger, heat.surroundings_of(project.gadget.shell))
    curve = fine_curve(cells[0].cell_class)
    counts = np.array(COUNTS, dtype=float)[None, :, None]
    capacity, r_ohm = (np.array(column)[:, None, None] for column in _worn(project.gadget.shell.room_c, build, cells))
    if part.who_charges == "board":
        current = _suggested_a(build, charger, cells, capacity * counts, beside_a, burn_w)
    else:
        # It is what it is, and what its chip does with heat is not known.
        current, burn_w = np.array(charger.rated_a), np.inf
    shape = (len(cells), len(COUNTS), len(POLICIES))
    columns = capacity * counts, r_ohm / counts, current, path_ohm[:, None, None]
    capacity, r_ohm, current, path_ohm = (np.broadcast_to(x, shape).reshape(-1, 1) for x in columns)
    setting = ChargerSetting(
        i_prog_a=current,
        float_v=charger.float_v,
        termination_share=charger.termination_share,
        precharge_v=charger.precharge_v,
        precharge_share=charger.precharge_share,
        pass_ohm=charger.pass_ohm,
        burn_w=burn_w,
        source_v=source.volts,
        cable_ohm=0.0 if build.input.facts.over_a_gap else source.r_cable_ohm,
    )
    run = charge(CellGroup(curve, capacity, r_ohm, rises=True), setting, path_ohm=path_ohm, tail_h=TAIL_H)
    return np.asarray(run.hours.reshape(shape)) * SURELY_SHARE, current.reshape(shape) * charger.termination_share


def _suggested_a(
    build: Build, charger: Charger, cells: Sequence[Cell], capacity_ah: Floats, beside_a: float, burn_w: float
) -> Floats:
    """By cell, count and policy: what the suggested resistor lets flow. `capacity_ah`: by cell and count."""
    source, curve, counts = build.source, fine_curve(cells[0].cell_class), np.array(COUNTS, dtype=float)[None, :, None]
    salvaged = np.array([cell.origin == "salvaged" for cell in cells])[:, None, None]
    share = np.where(salvaged, _POLICY_C["gentle"], np.array([_POLICY_C[policy] for policy in POLICIES])[None, None, :])
    most = np.array([cell.charge_max_a or np.inf for cell in cells])[:, None, None] * counts
    target = np.minimum(np.minimum(capacity_ah * share, most), charger.rated_a)
    limit_a = source.limit_a * (build.input.pad_efficiency if build.input.facts.over_a_gap else 1.0)
    target = np.minimum(target, max(limit_a - beside_a * SURELY_SHARE, 0.001))
    if charger.theta_ja_c_per_w is not None:
        target = np.minimum(target, burn_w / max(source.volts - float(curve.at(0.5)), 0.1))
    return _nominal_a(charger, target / (1 + charger.k_tolerance), build.r_tolerance)


def _nominal_a(charger: Charger, most_a: Floats, r_tolerance: float) -> Floats:
    """What the smallest preferred resistor lets flow that keeps to this; of a measured table at most this itself."""
    if charger.readings:
        return most_a * (1 - r_tolerance)
    least_ohm = charger.k_volts / np.maximum(most_a, 1e-3) / (1 - r_tolerance)
    series = _series()
    fitted = series[np.searchsorted(series, least_ohm * (1 - 1e-9)).clip(0, len(series) - 1)]
    return np.asarray(charger.k_volts / fitted)


@cache
def _series() -> Floats:
    return np.array(resistors.preferred_between(1.0, 2e6))


def _by_class(offer: OnOffer) -> list[tuple[list[int], list[Cell]]]:
    """The cells of each class that stop at the same volts, with their places."""
    groups: dict[tuple[str, float], list[tuple[int, Cell]]] = {}
    for place, part in enumerate(offer.cells):
        if isinstance(part.body, Cell):
            groups.setdefault((part.body.cell_class, part.body.stop_v), []).append((place, part.body))
    return [([place for place, _ in group], [cell for _, cell in group]) for group in groups.values()]


def _worn(at_c: float, build: Build, cells: Sequence[Cell]) -> tuple[list[float], list[float]]:
    """Capacity and resistance as they are judged, of one cell each."""
    capacity, resistance = wear_of(at_c, build)
    return [c.planning_capacity_ah * capacity for c in cells], [c.resistance_ohm * resistance for c in cells]
