"""What may lie behind a run that differs from its prediction: causes tried against the log, one figure each.

Each cause is a change of one figure of the plan. The figure is varied until the predicted run lies as near to the log
as it can; what is then left tells how well that cause explains it. Causes that leave equally much cannot be told apart
by this log, and each says which measurement would decide.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import product
from typing import Literal

import numpy as np

from pocketspark.core.chain import BoardCharging, Chain
from pocketspark.core.error import PocketSparkError
from pocketspark.core.logs.analysis import Kind, kind_of
from pocketspark.core.logs.log import Log
from pocketspark.core.logs.predicted_run import PredictedRun, predicted
from pocketspark.core.message import NOTHING, Message, row_of, say
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import Figure, ShownVolts, amp_hours, amps, days, hours, ohms, percent
from pocketspark.core.units.reading import METRIC

# By so much curves and meters differ anyway (common practice, no source): then a cause explains all there is.
USUAL_V, USUAL_SHARE = 0.03, 0.05
WELL, ROUGHLY = 1.2, 2.5
# Points in time at which the two runs are held against each other.
POINTS = 160
# A cause is told where it leaves clearly less than there was. Two at once fit always better: they are tried where none
# fits by itself.
CLEARLY = 0.8
# A figure is looked for among so many values, and so many times more closely round the best of them; two at once by so
# many steps, the first so large.
VALUES, TIMES = 9, 4
TRIES, STEP = 50, 0.25

# Where the plan says there is none (from memory of cables of half a metre; makes differ).
SHORT_CABLE_OHM = 0.15
# With worn contacts: what still charges at all (common practice, no source).
WORST_CABLE_OHM = 6.0

Fits = Literal["well", "roughly", "badly"]


class Explanation(Model):
    """One cause with the figure that fits best. `left_v`: what still lies between the two runs, in the mean.

    `then`: what it does to the predictions. `edits` take it over; empty where it is of this run alone.
    """

    cause: Message
    fits: Fits
    left_v: ShownVolts
    decides: Message
    then: Message
    edits: tuple[Edit, ...]


class Explained(Model):
    """Every cause that was tried, the best first, and how far the plan as it stands is from the log."""

    as_planned: Fits
    left_v: ShownVolts
    explanations: tuple[Explanation, ...]


class NothingToExplain(PocketSparkError, ValueError):
    """The plan predicts no such run."""

    status = 409


def explained(chain: Chain, log: Log) -> Explained:
    """Raises NothingToExplain where nothing is predicted that the log could be held against."""
    kind = kind_of(log)
    run = predicted(chain, kind)
    if run is None or len(run.hours) < 2:
        raise NothingToExplain(say("nothing is predicted yet that this log could be held against"))
    trial = _Trial(chain, kind, _LoggedRun(log))
    now = trial.held.against(run)
    singly = sorted((trial.fitted(cause) for cause in _causes(chain, kind)), key=lambda fit: fit.off)
    tried = [fit for fit in singly if fit.off < CLEARLY * now.off]
    if _fits(min(fit.off for fit in (now, *tried))) == "badly":
        jointly = (trial.fitted_together(pair, run) for pair in _pairs([fit.causes[0] for fit in singly]))
        tried += [fit for fit in jointly if _fits(fit.off) != "badly"]
    tried.sort(key=lambda fit: fit.off)
    return Explained(
        as_planned=_fits(now.off), left_v=now.left_v, explanations=tuple(_explanation(chain, fit) for fit in tried)
    )


def _pairs(causes: Sequence[_Cause]) -> Iterator[tuple[_Cause, _Cause]]:
    """How much there was to go, and how fast it went: what is wrong of one may hide what is wrong of the other."""
    amounts, flows = ([cause for cause in causes if cause.changes == what] for what in ("amount", "flow"))
    return product(amounts, flows)


# How far two runs lie apart ----------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Fit:
    """`off`: 1 where the runs differ as much as curves and meters do anyway. Each cause has the factor beside it."""

    off: float
    left_v: float
    causes: tuple[_Cause, ...] = ()
    factors: tuple[float, ...] = ()


@dataclass(frozen=True)
class _LoggedRun:
    """A log, to be held against predicted runs."""

    log: Log

    def beside(self, run: PredictedRun) -> tuple[float, float]:
        """How many times as much flows in it as in this run, and has flowed by its end."""
        (flows, flowed), (would_flow, would_have) = (
            (np.median(np.abs(amps)), np.trapezoid(np.abs(amps), hours))
            for amps, hours in ((self.log.amps, self.log.hours), (np.array(run.amps), np.array(run.hours)))
        )
        return float(flows / max(would_flow, 1e-9)), float(flowed / max(would_have, 1e-9))

    def against(self, run: PredictedRun, started_h: float = 0.0) -> _Fit:
        """`started_h`: by so much of the predicted run it had gone on when the log began."""
        run_h = np.array(run.hours) - started_h
        until_h = max(float(self.log.hours[-1]), float(run_h[-1]))
        at_h = np.linspace(0, until_h, POINTS)
        apart_v = np.interp(at_h, self.log.hours, self.log.volts) - np.interp(at_h, run_h, run.volts)
        if self.log.is_usb_side:
            apart_v = np.zeros(POINTS)
        usual_a = float(np.median(np.abs(self.log.amps[self.log.amps != 0]))) if np.any(self.log.amps) else 1.0
        # Over is over: nothing flows any more.
        logged_a = np.interp(at_h, self.log.hours, np.abs(self.log.amps), right=0.0)
        apart_a = (logged_a - np.interp(at_h, run_h, np.abs(run.amps), right=0.0)) / usual_a
        off = np.sqrt(np.mean((apart_v / USUAL_V) ** 2) / 2 + np.mean((apart_a / USUAL_SHARE) ** 2) / 2)
        return _Fit(float(off), float(np.sqrt(np.mean(apart_v**2))))


def _fits(off: float) -> Fits:
    return "well" if off <= WELL else "roughly" if off <= ROUGHLY else "badly"


# The causes --------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Cause:
    """One figure of the plan, varied by a factor from `low` to `high`.

    No path: the run had begun before the log, or `mode` was on and not the one that is used most.
    """

    says: Callable[[float], Message]
    decides: Message
    low: float
    high: float
    now: float = 1.0
    path: str = ""
    mode: str = ""
    changes: Literal["amount", "flow", "loss"] = "loss"

    def edits(self, factor: float) -> tuple[Edit, ...]:
        if not self.path:
            return ()
        value = float(f"{self.now * factor:.3g}")
        return Edit(path=self.path, value=value), Edit(path=f"basis.{self.path}", value="inferred")


def _causes(chain: Chain, kind: Kind) -> Iterator[_Cause]:
    chosen = chain.chosen_cell
    if chosen is None:
        return
    capacity_ah, r_ohm = chosen.cell.planning_capacity_ah, chosen.cell.resistance_ohm
    yield _Cause(
        lambda factor: say(
            "The cell holds {it}, not {planned}.", it=amp_hours(capacity_ah * factor), planned=amp_hours(capacity_ah)
        ),
        say("A run-down from full at a fifth of the capacity an hour, with a meter that counts."),
        0.3,
        2.0,
        capacity_ah,
        f"{chosen.path}.measured_capacity_ah",
        changes="amount",
    )
    yield _Cause(
        lambda factor: say("The cell has {it}, not {planned}.", it=ohms(r_ohm * factor), planned=ohms(r_ohm)),
        say("Two loads at the cell's own tabs: the difference in volts over that in amperes."),
        0.3,
        8.0,
        r_ohm,
        f"{chosen.path}.r_ohm",
    )
    yield from _of_the_gadget(chain) if kind == "discharge" else _of_the_charge(chain)
    total_h = getattr(predicted(chain, kind), "total_hours", None)
    if total_h:
        full = say("Charge it to its end, let it rest an hour, and read its volts before the run.")
        empty = say("Run it down to its end before the charge.")
        yield _Cause(
            lambda factor: say(
                "The cell was not full: {share} of the run had gone."
                if kind == "discharge"
                else "The cell was not empty: {share} of the charge was in it.",
                share=percent(factor),
            ),
            full if kind == "discharge" else empty,
            0.001,
            0.8,
            total_h,
            changes="amount",
        )


def _of_the_gadget(chain: Chain) -> Iterator[_Cause]:
    used = chain.running.most_used if chain.running else None
    if used is None:
        return
    mode = used.mode
    yield _Cause(
        lambda factor: say(
            "The gadget draws {it} in “{mode}”, not {planned}.",
            it=amps(mode.current_a * factor),
            mode=mode.name,
            planned=amps(mode.current_a),
        ),
        say("A multimeter on its current range, in series with the gadget."),
        0.4,
        3.0,
        mode.current_a,
        f"gadget.modes.{mode.id}.current_a",
        changes="flow",
    )
    for other in chain.gadget.modes:
        if other.id != mode.id and other.current_a > 0:
            is_on = say("It was in “{mode}”, not in “{planned}”.", mode=other.name, planned=mode.name)
            noted = say("Another run, with the mode noted.")
            yield _Cause(partial(_as_it_is, is_on), noted, 1.0, 1.0, mode=other.id, changes="flow")


def _as_it_is(says: Message, _factor: float) -> Message:
    return says


def _of_the_charge(chain: Chain) -> Iterator[_Cause]:
    charging = chain.board_charging
    if not isinstance(charging, BoardCharging):
        return
    k_volts, cable_ohm = charging.charger.k_volts, chain.build.source.r_cable_ohm or SHORT_CABLE_OHM
    planned_a = charging.current.spread.nominal_a
    if not charging.charger.r_table:
        yield _Cause(
            lambda factor: say(
                "The board charges with {it}, not {planned}.", it=amps(planned_a * factor), planned=amps(planned_a)
            ),
            say("A USB meter before the board, half an hour after the start."),
            0.4,
            1.6,
            k_volts,
            f"{charging.charger_path}.k_volts",
            changes="flow",
        )
    yield _Cause(
        lambda factor: say(
            "Cable and connectors have {it}, not {planned}.",
            it=ohms(cable_ohm * factor), planned=ohms(chain.build.source.r_cable_ohm),
        ),
        say("The volts at the board while it charges, beside those at the source."),
        0.2, WORST_CABLE_OHM / cable_ohm, cable_ohm, f"{chain.path}.source.r_cable_ohm",
    )  # fmt: skip


@dataclass(frozen=True)
class _Trial:
    """A plan and a log that causes are tried between."""

    chain: Chain
    kind: Kind
    held: _LoggedRun

    def fitted(self, cause: _Cause) -> _Fit:
        """With the factor by which the predicted run lies nearest to the log: looked for more and more closely."""
        low, high = cause.low, cause.high
        best = self._with((cause,), (low,))
        for _ in range(TIMES if low < high else 0):
            factors = np.geomspace(low, high, VALUES).tolist()
            fits = [self._with((cause,), (factor,)) for factor in factors]
            place = min(range(VALUES), key=lambda number: fits[number].off)
            best = min(best, fits[place], key=lambda fit: fit.off)
            low, high = factors[max(place - 1, 0)], factors[min(place + 1, VALUES - 1)]
        return best

    def fitted_together(self, causes: tuple[_Cause, _Cause], run: PredictedRun) -> _Fit:
        """The same for an amount and a flow: downhill in both at once, from what the log reads of each. (One after the
        other stops in the valley of all that lasts as long.)"""
        # Half of what all imports take together: only here, where seconds go by anyway.
        from scipy.optimize import minimize

        flows, flowed = self.held.beside(run)
        low, high = np.array([(cause.low, cause.high) for cause in causes]).T
        begin = np.log(np.clip([flowed if causes[0].path else 0.3, flows], low, high))
        found = minimize(
            lambda logs: self._with(causes, np.exp(logs)).off,
            begin,
            method="Nelder-Mead",
            bounds=np.log([low, high]).T,
            options={"initial_simplex": [begin, *(begin - STEP * np.eye(2))], "maxfev": TRIES},
        )
        return self._with(causes, np.exp(found.x))

    def _with(self, causes: tuple[_Cause, ...], by_cause: Iterable[float]) -> _Fit:
        factors = tuple(float(factor) for factor in by_cause)
        edits = _edits(causes, factors)
        started_h = sum(
            cause.now * factor
            for cause, factor in zip(causes, factors, strict=True)
            if not cause.path and not cause.mode
        )
        run = predicted(
            _changed(self.chain, edits) if edits else self.chain,
            self.kind,
            next((cause.mode for cause in causes if cause.mode), ""),
        )
        if run is None or len(run.hours) < 2:
            return _Fit(np.inf, np.inf, causes, factors)
        return replace(self.held.against(run, started_h), causes=causes, factors=factors)


def _edits(causes: Sequence[_Cause], factors: Sequence[float]) -> tuple[Edit, ...]:
    return tuple(edit for cause, factor in zip(causes, factors, strict=True) for edit in cause.edits(factor))


def _changed(chain: Chain, edits: tuple[Edit, ...]) -> Chain:
    return Chain(chain.project.apply(edits), chain.build_number, advises=False)


def _explanation(chain: Chain, fit: _Fit) -> Explanation:
    edits = _edits(fit.causes, fit.factors)
    says = [cause.says(factor) for cause, factor in zip(fit.causes, fit.factors, strict=True)]
    return Explanation(
        cause=row_of(says, " "),
        fits=_fits(fit.off),
        left_v=fit.left_v,
        decides=row_of([cause.decides for cause in fit.causes], " "),
        then=_then(chain, _changed(chain, edits)) if edits else NOTHING,
        edits=edits,
    )


def _then(now: Chain, then: Chain) -> Message:
    """What each prediction would be with it."""
    was, would = dict(_predictions(now)), dict(_predictions(then))
    changes = [
        say("{what} {value} (now {was})", what=what, value=would[what], was=was[what])
        for what in was
        if what in would and was[what].text(METRIC) != would[what].text(METRIC)
    ]
    return say("With it: {changes}.", changes=row_of(changes, ";")) if changes else NOTHING


def _predictions(chain: Chain) -> Iterator[tuple[Message, Figure]]:
    if chain.running is not None:
        yield from ((say("“{mode}”", mode=run.mode.name), hours(run.hours)) for run in chain.running.runs)
        if chain.running.served_days is not None:
            yield say("as used"), days(chain.running.served_days)
        yield say("switched off"), days(chain.running.standby_days)
    if chain.charging is not None:
        yield say("full after"), hours(float(chain.charging.run.hours.flat[0]))
        yield say("charged with"), amps(chain.charging.current.spread.nominal_a)
