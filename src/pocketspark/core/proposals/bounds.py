"""What a draft comes to at best, for all drafts at once: hours of use, price, time to full, boards; what cannot be.

Every bound is on the safe side: no build comes to more hours, or is full sooner. What is struck out here a rule would
stop as well.
"""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.chain import WIRES_OHM, Chain
from pocketspark.core.chain.charging import TAIL_H
from pocketspark.core.chain.chosen_cell import (
    AGED_CAPACITY,
    AGED_RESISTANCE,
    COLD_CAPACITY,
    COLD_RESISTANCE,
    fine_curve,
)
from pocketspark.core.chain.running import SCHOTTKY
from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.limits import LEAST_FULL, SAME_V
from pocketspark.core.models import Board, Build, Cell, Charger, Mode, Project, Regulator
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge, discharge
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import Floats, Numbers, curve_of
from pocketspark.core.physics.regulators import BehindDiode, RegulatorLaw
from pocketspark.core.proposals.offer import COUNTS, POLICIES, Drafts, Offered, OnOffer

# Of a volt over the window: less may be made good by what a bound leaves out.
SURELY_V = 0.05
# Rounding in the batch is made good by this share.
SURELY_SHARE = 0.999
_POLICY_C = {"gentle": 0.5, "label": 1.0, "data_sheet": 1.0}


@dataclass(frozen=True)
class Bounds:
    """A row for each draft. `fell`: the reason that strikes it out, an index into REASONS, or -1."""

    hours: Floats
    price: Floats
    full_h: Floats
    boards: Floats
    fell: NDArray[np.intp]

    def only(self, chosen: NDArray[np.bool_]) -> "Bounds":
        hours, price, full_h, boards = (column[chosen] for column in (self.hours, self.price, self.full_h, self.boards))
        return Bounds(hours, price, full_h, boards, self.fell[chosen])


REASONS = (
    "charger and cell do not suit each other",
    "more volts than the gadget stands",
    "it would not run",
    "its charger has no socket, and none is planned",
)


def bounds_of(project: Project, mode: Mode, offer: OnOffer, drafts: Drafts) -> Bounds:
    """`mode`: the one whose hours count."""
    paths = _paths(offer, drafts)
    hours, most_v = _running(project, mode, offer, paths)
    suits = np.array([[_suit(c.body, h.body) for h in offer.chargers] for c in offer.cells], dtype=bool)
    per_run = paths.of, drafts.regulator
    window = Chain(project, 0).window
    fell = np.full(len(drafts), -1, dtype=np.intp)
    fell[hours[per_run] <= 0] = 2
    fell[most_v[per_run] > window.v_abs_max + SURELY_V] = 1
    socketless = np.array([isinstance(h.body, Board) and h.body.socket is None for h in offer.chargers], dtype=bool)
    if project.builds[0].input.facts.on_board:
        fell[socketless[drafts.charger]] = 3
    fell[~suits[drafts.cell, drafts.charger]] = 0
    counts = np.array(COUNTS)[drafts.count]
    price = _prices(offer.cells)[drafts.cell] * counts + _prices(offer.chargers)[drafts.charger]
    price += np.append(_prices(offer.protections), 0.0)[drafts.protection]
    price += np.array([part.price if part else 0.0 for part in offer.regulators])[drafts.regulator]
    boards = (
        1.0 + (drafts.protection >= 0) + np.array([part is not None for part in offer.regulators])[drafts.regulator]
    )
    return Bounds(hours[per_run], np.round(price, 2), _full_hours(project, offer, drafts), boards, fell)


def _prices(parts: Sequence[Offered]) -> Floats:
    return np.array([part.price for part in parts], dtype=np.float64)


def _suit(cell: Cell | Board, charger: Cell | Board) -> bool:
    assert isinstance(cell, Cell)
    assert isinstance(charger, Board)
    if charger.charger is None:
        return False
    float_v = charger.charger.float_v
    return float_v <= cell.facts.full_v + SAME_V and float(curve_of(cell.cell_class).soc_at(float_v)) > LEAST_FULL


@dataclass(frozen=True)
class _Paths:
    """The different ones of (cell, count, what lies between cell and regulator, where the charger leaves the cell).

    A row each; `of`: which row is each draft's.
    """

    cell: NDArray[np.intp]
    count: NDArray[np.intp]
    path_ohm: Floats
    cut_v: Floats
    full_v: Floats
    of: NDArray[np.intp]


def _paths(offer: OnOffer, drafts: Drafts) -> _Paths:
    """By one whole number for each combination, since rows of numbers sort slowly."""
    boards, protections = len(offer.chargers), len(offer.protections) + 1
    triples, triple_of = np.unique(
        (drafts.cell * boards + drafts.charger) * protections + drafts.protection + 1, return_inverse=True
    )
    places: dict[tuple[float, float, float], int] = {}
    split = (
        (key // protections // boards, key // protections % boards, key % protections - 1) for key in triples.tolist()
    )
    path_of = np.array([places.setdefault(_path(offer, *one), len(places)) for one in split], dtype=np.intp)
    figures = np.array(list(places)).reshape(-1, 3)
    keys = (drafts.cell * len(COUNTS) + drafts.count) * len(places) + path_of[triple_of]
    rows, of = np.unique(keys, return_inverse=True)
    path, pair = rows % len(places), rows // len(places)
    path_ohm, cut_v, full_v = figures[path].T
    return _Paths(pair // len(COUNTS), pair % len(COUNTS), path_ohm, cut_v, full_v, of)


def _path(offer: OnOffer, c: int, h: int, g: int) -> tuple[float, float, float]:
    """Ohm of wires and protections, volts at which the first of these cuts, and at which the charger ends."""
    cell, charger = offer.cells[c].body, offer.chargers[h].body
    separate = offer.protections[g].body.protection if g >= 0 else None
    protections = [one for one in (cell.protection, charger.protection, separate) if one is not None]
    float_v = charger.charger.float_v if isinstance(charger, Board) and charger.charger else 0.0
    path_ohm = WIRES_OHM + sum(2 * one.r_on_ohm for one in protections)
    return path_ohm, max((one.cut_v for one in protections), default=0.0), float_v


def _running(project: Project, mode: Mode, offer: OnOffer, paths: _Paths) -> tuple[Floats, Floats]:
    """Hours in the mode, and the most volts at the gadget, of every path and regulator."""
    chain = Chain(project, 0)
    hours, most_v = np.zeros((2, len(paths.cell), len(offer.regulators)))
    diode = project.gadget.existing_charging.treatment == "diode" or chain.build.use_while_charging == "two_diodes"
    for (indices, cells), (r, option) in itertools.product(_by_class(offer), enumerate(offer.regulators)):
        board = option.body if option else None
        regulator = board.regulator if isinstance(board, Board) and board.regulator else Regulator(name="none")
        inner = law_of_regulator(regulator)
        law: RegulatorLaw = BehindDiode(SCHOTTKY, inner) if diode else inner
        rows = np.flatnonzero(np.isin(paths.cell, indices))
        if len(rows):
            run, volts = _of_one_class(
                chain, law, chain.load_of(mode), dict(zip(indices, cells, strict=True)), paths, rows
            )
            hours[rows, r], most_v[rows, r] = run / mode.duty, volts
    return hours, most_v


def _of_one_class(
    chain: Chain,
    law: RegulatorLaw,
    load: Load,
    cells: Mapping[int, Cell],
    paths: _Paths,
    rows: NDArray[np.intp],
) -> tuple[Floats, Floats]:
    first = next(iter(cells.values()))
    capacity, r_ohm = _worn(chain.build, list(cells.values()))
    place = {index: number for number, index in enumerate(cells)}
    which = np.array([place[index] for index in paths.cell[rows].tolist()])
    counts = np.array(COUNTS, dtype=float)[paths.count[rows]]
    group = CellGroup(
        fine_curve(first.cell_class),
        (np.array(capacity)[which] * counts).reshape(-1, 1),
        (np.array(r_ohm)[which] / counts).reshape(-1, 1),
    )
    path_ohm, cut_v, full_v = (x[rows].reshape(-1, 1) for x in (paths.path_ohm, paths.cut_v, paths.full_v))
    full_v = np.minimum(full_v, float(group.curve.volts[-1]))
    cuts: dict[str, Numbers] = {"cell": first.stop_v, "protection": cut_v}
    run = discharge(group, path_ohm, law, load, v_run_min=chain.window.v_run_min, cell_cuts=cuts, full_v=full_v)
    most = law.operating_point(full_v, np.asarray(group.r_ohm) + path_ohm, _lightest(chain)).gadget_v
    return run.hours.ravel(), np.where(np.isnan(most), 0.0, most).ravel()


def _lightest(chain: Chain) -> Load:
    """What is drawn at the least: then the gadget sees most volts. The same choice as when one build is judged."""
    asleep = chain.off_load.steady_a and chain.build.switch_place == "gadget"
    modes = [] if asleep else [chain.load_of(mode) for mode in chain.gadget.modes]
    return max(modes, key=lambda load: -float(load.current(3.7)), default=chain.off_load)


def _full_hours(project: Project, offer: OnOffer, drafts: Drafts) -> Floats:
    """Hours to full with nothing on the cell meanwhile, a batch for each charger and class of cell."""
    hours = np.full((len(offer.cells), len(COUNTS), len(offer.chargers), len(POLICIES)), np.inf)
    for h, part in enumerate(offer.chargers):
        assert isinstance(part.body, Board)
        if part.body.charger is not None:
            for indices, cells in _by_class(offer):
                hours[indices, :, h, :] = _charged_by(project, part.body.charger, cells)
    return np.asarray(hours[drafts.cell, drafts.count, drafts.charger, drafts.policy])


def _charged_by(project: Project, charger: Charger, cells: Sequence[Cell]) -> Floats:
    """Hours of each cell, count and policy with the resistor that is suggested: no charge is faster."""
    build, source = project.builds[0], project.builds[0].source
    curve = fine_curve(cells[0].cell_class)
    counts = np.array(COUNTS, dtype=float)[None, :, None]
    capacity, r_ohm = (np.array(column)[:, None, None] for column in _worn(build, cells))
    salvaged = np.array([cell.origin == "salvaged" for cell in cells])[:, None, None]
    share = np.where(salvaged, _POLICY_C["gentle"], np.array([_POLICY_C[policy] for policy in POLICIES])[None, None, :])
    most = np.array([cell.charge_max_a or np.inf for cell in cells])[:, None, None] * counts
    over_air = build.input.facts.over_a_gap
    target = np.minimum(np.minimum(capacity * counts * share, most), charger.rated_a)
    target = np.minimum(target, source.limit_a * (build.input.pad_efficiency if over_air else 1.0))
    burn_w = heat.burn_limit_w(charger, heat.surroundings_of(project.gadget.shell))
    if charger.theta_ja_c_per_w is not None:
        target = np.minimum(target, burn_w / max(source.volts - float(curve.at(0.5)), 0.1))
    current = _nominal_a(charger, target / (1 + charger.k_tolerance), build.r_tolerance)
    shape = (len(cells), len(COUNTS), len(POLICIES))
    flat = (np.broadcast_to(x, shape).reshape(-1, 1) for x in (capacity * counts, r_ohm / counts, current))
    capacity, r_ohm, current = flat
    setting = ChargerSetting(
        i_prog_a=current,
        float_v=charger.float_v,
        termination_share=charger.termination_share,
        precharge_v=charger.precharge_v,
        precharge_share=charger.precharge_share,
        pass_ohm=charger.pass_ohm,
        burn_w=burn_w,
        source_v=source.volts,
        cable_ohm=0.0 if over_air else source.r_cable_ohm,
    )
    run = charge(CellGroup(curve, capacity, r_ohm), setting, tail_h=TAIL_H)
    return np.asarray(run.hours.reshape(shape)) * SURELY_SHARE


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


def _worn(build: Build, cells: Sequence[Cell]) -> tuple[list[float], list[float]]:
    """Capacity and resistance as they are judged, of one cell each."""
    capacity = (AGED_CAPACITY if build.aged else 1.0) * (COLD_CAPACITY if build.cold else 1.0)
    resistance = (AGED_RESISTANCE if build.aged else 1.0) * (COLD_RESISTANCE if build.cold else 1.0)
    return [c.planning_capacity_ah * capacity for c in cells], [c.resistance_ohm * resistance for c in cells]
