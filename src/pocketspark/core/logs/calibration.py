"""What a measured run can teach the plan: each figure with the edits that put it there.

A figure is offered only where this log tells it; whether it is taken is the maker's choice.
"""

import itertools
import math
from collections.abc import Iterator

from pocketspark.core.chain import Chain, Charging, ChosenCell, GivenCharging, Running
from pocketspark.core.logs.analysis import LogAnalysis
from pocketspark.core.message import NOTHING, Message, as_message, say
from pocketspark.core.models import Charger, Mode, Project, paths
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import amp_hours, amps, ohms, percent, whole_volts

# Further off than this it is another resistor, not this board's own constant (common practice, no source).
OTHER_RESISTOR = 0.30
# A gadget's current is looked for within this factor of the surveyed one.
_FACTOR = 20.0


class CalibrationOffer(Model):
    """One figure that may be adopted. `edits` set it, with its basis; `off`: its uncertainty in words, where known."""

    what: Message
    text: Message
    off: Message = NOTHING
    edits: tuple[Edit, ...]
    taken: bool = False  # the document says so already


def calibration_offers(chain: Chain, seen: LogAnalysis) -> tuple[CalibrationOffer, ...]:
    """Everything this run tells of cell, charger and gadget. Empty before a cell is chosen."""
    if chain.running is None:
        return ()
    charger = _charger(chain.charging, seen) if chain.charging else ()
    offers = (*_cell(chain.running.chosen, seen), *charger, *_gadget(chain.running, seen))
    return tuple(offer.model_copy(update={"taken": _is_taken(chain.project, offer)}) for offer in offers)


def _is_taken(project: Project, offer: CalibrationOffer) -> bool:
    document = project.model_dump(mode="json")
    said = {edit.path: edit.value for edit in offer.edits}
    return all(
        project.basis_of(path.removeprefix("basis.")) == value
        if path.startswith("basis.")
        else paths.value_at(document, path) == value
        for path, value in said.items()
    )


def _measured(path: str, value: object) -> tuple[Edit, ...]:
    return Edit(path=path, value=value), Edit(path=f"basis.{path}", value="measured")


def _cell(chosen: ChosenCell, seen: LogAnalysis) -> Iterator[CalibrationOffer]:
    """Of like cells in parallel each holds its share, and each has as many times the resistance.

    The uncertainty is that of the fit alone, and never told finer than 1 mAh and 1 mohm.
    """
    alike, path = chosen.count, chosen.path
    if seen.capacity_ah:
        each = _digits(seen.capacity_ah / alike, 4)
        off = (
            say("± {off}", off=amp_hours(max(seen.capacity_off_ah / alike, 0.001))) if seen.capacity_off_ah else NOTHING
        )
        edits = _measured(f"{path}.measured_capacity_ah", each)
        yield CalibrationOffer(what=say("capacity"), text=as_message(amp_hours(each)), off=off, edits=edits)
    if seen.resistance_ohm:
        each = _digits(seen.resistance_ohm * alike, 3)
        off = (
            say("± {off}", off=ohms(max(seen.resistance_off_ohm * alike, 0.001)))
            if seen.resistance_off_ohm
            else NOTHING
        )
        yield CalibrationOffer(
            what=say("resistance"), text=as_message(ohms(each)), off=off, edits=_measured(f"{path}.r_ohm", each)
        )


# Charger ---------------------------------------------------------------------------------------------------------


def _charger(charging: Charging, seen: LogAnalysis) -> Iterator[CalibrationOffer]:
    """I = K / R turned round: what flows on the plateau tells K of this very board, or one more row of its table."""
    held_back = any(finding.code == "log.folds_back" for finding in seen.findings)
    if seen.kind != "charge" or held_back:
        return
    if isinstance(charging, GivenCharging):
        yield from _given_charger(charging, seen)
        return
    measured_a, r_ohm = _digits(seen.plateau_a, 4), charging.current.r_prog_ohm
    planned_a = charging.current.spread.nominal_a
    if planned_a <= 0 or abs(measured_a / planned_a - 1) > OTHER_RESISTOR:
        return
    path = charging.charger_path
    if charging.charger.r_table:
        yield from _table_row(charging.charger, path, r_ohm, measured_a)
        return
    k_volts = _digits(measured_a * r_ohm, 4)
    meter_share = charging.chain.project.meter_share
    edits = _measured(f"{path}.k_volts", k_volts) + _measured(f"{path}.k_tolerance", meter_share)
    yield CalibrationOffer(
        what=say("charge current"),
        text=say("{measured_a} at {r_ohm}", measured_a=amps(measured_a), r_ohm=ohms(r_ohm)),
        off=say(
            "K of this board is {k_volts}, to {meter_share}",
            k_volts=whole_volts(k_volts),
            meter_share=percent(meter_share),
        ),
        edits=edits,
    )


def _given_charger(charging: GivenCharging, seen: LogAnalysis) -> Iterator[CalibrationOffer]:
    """What a charger that is there gives is what flowed."""
    gives_a, own = _digits(seen.plateau_a, 4), charging.chain.keeps_own_charger
    place = "gadget.supply.own_charger" if own else f"{charging.chain.path}.external_charger"
    yield CalibrationOffer(
        what=say("charge current"),
        text=say("{gives_a} from the {board}", gives_a=amps(gives_a), board=charging.board.name),
        edits=_measured(f"{place}.current_a", gives_a),
    )


def _table_row(charger: Charger, path: str, r_ohm: float, current_a: float) -> Iterator[CalibrationOffer]:
    """The row takes the place of one measured with the same resistor. Not offered where currents would not fall."""
    rows = {row.r_ohm: row.current_a for row in charger.r_table} | {r_ohm: current_a}
    table = sorted(rows.items())
    if all(more > less for (_, more), (_, less) in itertools.pairwise(table)):
        edits = _measured(f"{path}.r_table", [{"r_ohm": r, "current_a": a} for r, a in table])
        text = say("{current_a} at {r_ohm}", current_a=amps(current_a), r_ohm=ohms(r_ohm))
        yield CalibrationOffer(
            what=say("charge current"), text=text, off=say("a row of this board's own table"), edits=edits
        )


# Gadget ----------------------------------------------------------------------------------------------------------


def _gadget(running: Running, seen: LogAnalysis) -> Iterator[CalibrationOffer]:
    """What the gadget draws, told from what its cell gave: the current with which the chain draws just that."""
    run = running.most_used
    if seen.kind != "discharge" or run is None or run.mode.duty < 1 or seen.charge_ah <= 0:
        return
    mean_v = seen.energy_wh / seen.charge_ah
    current_a = _current_behind(running, run.mode, mean_v, seen.usual_a)
    if current_a is not None:
        yield CalibrationOffer(
            what=say("gadget's current"),
            text=say("{current_a} in “{mode}”", current_a=amps(current_a), mode=run.mode.name),
            off=say("from {usual_a} out of the cell; only if it was the gadget that ran", usual_a=amps(seen.usual_a)),
            edits=_measured(f"gadget.modes.{run.mode.id}.current_a", _digits(current_a, 3)),
        )


def _current_behind(running: Running, mode: Mode, cell_v: float, cell_a: float) -> float | None:
    """By halves: the cell's current grows with the gadget's. None where no likely one explains it."""

    def drawn_a(current_a: float) -> float:
        load = running.chain.load_of(mode, current_a)
        drawn = float(running.chosen.regulator_law.operating_point(cell_v, running.chosen.path_ohm, load).cell_a)
        return math.inf if math.isnan(drawn) else drawn  # NaN: the source cannot carry it

    low, high = mode.current_a / _FACTOR, mode.current_a * _FACTOR
    if not drawn_a(low) <= cell_a <= drawn_a(high):
        return None
    while high - low > 1e-4 * mode.current_a:
        middle = (low + high) / 2
        low, high = (middle, high) if drawn_a(middle) < cell_a else (low, middle)
    return (low + high) / 2


def _digits(value: float, count: int) -> float:
    return float(f"{value:.{count}g}")
