"""Charge: does the right current reach the cell, at the right voltage, and does it ever end?"""

from collections.abc import Iterator, Mapping

import numpy as np

from pocketspark.core.chain import BoardCharging, Chain, Charging
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.limits import LEAST_FULL, RESISTOR_OFF, SAME_V
from pocketspark.core.models.build import Policy
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, amps_apart, celsius, fixed, hours, ohms, percent, times, volts

# Above this many C a cell without a data sheet is certainly mistreated; up to it the policy has its say.
UNKNOWN_CELL_MOST_C = 1.2
# Closer than this two currents are the same.
SAME = 1.001
# A charge longer than this is longer than a night.
NIGHT_H = 10.0
# A resistor of over so many times the suggested one charges needlessly slowly (our judgement, no source).
NEEDLESSLY_SLOW = 2.0

# What makers have measured past the rating of a 1 A board (common practice, no source).
PAST_RATING = (
    "Measured on 1 A boards: about 1.4 A at 900 Ω and 1.7 A at 800 Ω, with a heat sink and a fan; no more than about "
    "2 A whatever the resistor."
)


_POLICY_WORDS: Mapping[Policy, str] = {
    "gentle": "gentle charging is {}, half the capacity in an hour",
    "label": "the whole capacity in an hour is {}",
    "data_sheet": "the cell's data sheet allows {}",
}


def fit_suggested(charging: BoardCharging) -> Remedy | None:
    """Fit the preferred value that keeps under every limit, unless it is fitted already."""
    wanted, build = charging.current.suggested_r_ohm, charging.build
    if build.r_prog_ohm == wanted and build.record.r_measured_ohm is None:
        return None
    path = charging.chain.path
    edits = {f"{path}.r_prog_ohm": wanted, f"{path}.record.r_measured_ohm": None}
    return remedy(f"Fit {ohms(wanted)}", edits)


def spread_working(charging: BoardCharging) -> str:
    """How the current follows from the resistor: K over R, or the board's own measured table, with tolerances."""
    charger, current = charging.charger, charging.current
    spread, r_ohm = current.spread, ohms(current.r_prog_ohm)
    reach = f"{amps(spread.least_a)} to {amps(spread.most_a)}"
    by_table = len(charger.readings) > 1 and charger.readings[0][0] <= current.r_prog_ohm <= charger.readings[-1][0]
    if by_table:
        how = f"this board's own table at {r_ohm} {current.r_origin}: {amps(spread.nominal_a)} ± "
        return f"{how}{percent(charger.k_tolerance)}, resistor ± {percent(charging.build.r_tolerance)}: {reach}"
    return (
        f"K {charger.k_volts:.0f} V ± {percent(charger.k_tolerance)} / {r_ohm} ± "
        f"{percent(charging.build.r_tolerance)}, {current.r_origin}: {amps(spread.nominal_a)}, {reach}"
    )


def current_working(charging: Charging) -> str:
    """Where the charge current comes from."""
    if isinstance(charging, BoardCharging):
        return spread_working(charging)
    return f"the {charging.board.name} gives {amps(charging.current.spread.nominal_a)}"


@rule("charge.no_charger", station="charge", source="common practice, no source")
def no_charger(chain: Chain) -> Iterator[Judgement]:
    """A build needs a charger made for one lithium cell; where another charges it, a board of ours is one too many."""
    boards = chain.charger_boards
    if chain.keeps_own_charger and boards:
        yield caution(
            "Two chargers would work on one cell: the gadget keeps its own, so leave this board out.",
            working="Or cut the gadget's own charge path and let the board charge.",
            remedy=remedy("Let the board charge", {f"{chain.path}.who_charges": "board"}),
            subjects=(boards[0].name,),
        )
    elif chain.build.who_charges == "external" and boards:
        yield note(
            "The cell is charged outside, so this charger board has nothing to do in the gadget.",
            remedy=remedy("Let the board charge", {f"{chain.path}.who_charges": "board"}),
            subjects=(boards[0].name,),
        )
    elif chain.build.who_charges != "board":
        return
    elif not boards:
        yield note("No charger board is chosen yet: pick one whose end voltage suits the cell.")
    elif len(boards) > 1:
        yield caution(f"Only the {boards[0].name} is computed with; this build has {len(boards)} charger boards.")


@rule("charge.float_high", station="charge", source="full voltage of the cell's class (handbooks, from memory)")
def float_high(charging: BoardCharging) -> Iterator[Judgement]:
    """An end voltage above the class's full voltage over-charges the cell."""
    facts = charging.cell.facts
    ends, full = volts(charging.charger.float_v), volts(facts.full_v)
    over_v = ends.value - full.value
    if over_v > SAME_V:
        yield stop(
            f"This charger over-charges the cell: it stops at {ends}, and the cell is full at {full}.",
            figure=ends,
            limit=full,
            working=f"a {facts.label} cell needs a charger of its own class",
        )
    elif over_v > -SAME_V:
        yield fine(f"The charger stops at {ends}, where this cell is full.", figure=ends)


@rule("charge.float_low", station="charge", source="open-circuit curve of the class")
def float_low(charging: BoardCharging) -> Iterator[Judgement]:
    """An end voltage below the class's full voltage is safe and leaves a share of the label unused; most of it where
    the charger is made for another class."""
    ends, full = volts(charging.charger.float_v), volts(charging.cell.facts.full_v)
    if ends.value > full.value - SAME_V:
        return
    reached = float(charging.chosen.curve.soc_at(ends.value))
    unused = percent(1 - reached)
    if reached <= LEAST_FULL:
        yield stop(
            f"This charger is made for another class of cell: it stops at {ends}, at {percent(reached)} of this one.",
            figure=ends,
            limit=full,
            working=f"a {charging.cell.facts.label} cell is full at {full}",
        )
        return
    yield caution(
        f"{unused} of the label stays unused: the charger stops at {ends}, and the cell is full at {full}.",
        figure=unused,
        limit=full,
        working=f"the open-circuit curve reaches {percent(reached)} at {ends}; safe, and gentle",
    )


@rule("charge.over_cell", station="charge", source="the cell's own stated maximum, else 1C as label practice")
def over_cell(charging: BoardCharging) -> Iterator[Judgement]:
    """The highest possible current against what the cell may take."""
    stated = charging.chosen.charge_max_a
    capacity_ah = charging.chosen.capacity_ah
    limit_a = stated if stated is not None else UNKNOWN_CELL_MOST_C * capacity_ah
    most, takes = amps_apart(charging.current.spread.most_a, limit_a)
    facts = {
        "figure": most,
        "limit": takes,
        "working": spread_working(charging),
        "rests_on": (f"{charging.chosen.path}.charge_max_a",),
    }
    text = f"takes {takes}" if stated is not None else f"should not get over {takes}, with no data sheet"
    if most.value <= limit_a * SAME:
        yield fine(f"Up to {most} may flow into a cell that {text}.", **facts)
        return
    yield stop(
        f"Up to {most} ({fixed(most.value / capacity_ah, 1)}C) may flow into a cell that {text}: it swells and ages.",
        remedy=fit_suggested(charging),
        **facts,
    )


@rule("charge.over_policy", station="charge", source="schools of charging: 0.5C, 1C, data sheet; common practice")
def over_policy(charging: BoardCharging) -> Iterator[Judgement]:
    """The highest possible current against the policy chosen for this build."""
    most, policy = amps_apart(charging.current.spread.most_a, charging.current.policy_a)
    facts = {"figure": most, "limit": policy, "working": spread_working(charging)}
    sentence = f"Up to {most} may flow; {_POLICY_WORDS[charging.current.policy].format(policy)}."
    if most.value <= policy.value * SAME:
        yield fine(sentence, **facts)
        return
    yield caution(sentence, remedy=fit_suggested(charging), **facts)


@rule(
    "charge.over_source",
    station="charge",
    node="source",
    source="USB 2.0, USB 3, BC 1.2 and Type-C currents, from memory",
    formula="I_source = I_charge + I_gadget: a linear charger passes its current through",
)
def over_source(charging: Charging) -> Iterator[Judgement]:
    """A linear charger takes from the source what it gives the cell, plus the load on the same input."""
    if not charging.in_the_gadget:
        return
    current = charging.current
    drawn, gives = amps_apart(current.spread.most_a + current.source_load_a, current.source_limit_a)
    working = f"{amps(current.spread.most_a)} charging + {amps(current.source_load_a)} for the gadget"
    if drawn.value <= gives.value * SAME:
        yield fine(
            f"It takes up to {drawn} from a {current.source_label} that gives {gives}.",
            figure=drawn,
            limit=gives,
            working=working,
        )
        return
    yield caution(
        f"The {current.source_label} gives {gives}, and up to {drawn} may be asked of it: it may sag or switch off.",
        figure=drawn,
        limit=gives,
        working=working,
        remedy=fit_suggested(charging) if isinstance(charging, BoardCharging) else None,
    )


@rule("charge.over_board", station="charge", source="the board's rating; past it, common practice, no source")
def over_board(charging: BoardCharging) -> Iterator[Judgement]:
    """A resistor below the board's rating overheats it in a closed gadget."""
    set_to, rated = amps_apart(charging.current.spread.nominal_a, charging.charger.rated_a)
    if set_to.value > rated.value * 1.02:
        closed = charging.chain.gadget.shell.closed
        say = stop if closed else caution
        where = " in a closed gadget" if closed else ""
        yield say(
            f"The board overheats{where}: it is set to {set_to} and made for {rated}.",
            figure=set_to,
            limit=rated,
            working=f"{spread_working(charging)}. {PAST_RATING}",
            remedy=fit_suggested(charging),
        )
    else:
        yield fine(f"The board is set to {set_to} and made for {rated}.", figure=set_to, limit=rated)


@rule(
    "charge.resistor",
    station="charge",
    source="I = K / R, common practice; preferred values IEC 60063",
    formula="R >= K (1 + tol_K) / I_target / (1 - tol_R), next of E24 above",
    limits="the least of policy, cell, board, source, heat and cable",
)
def resistor_to_fit(charging: BoardCharging) -> Iterator[Judgement]:
    """Which charge-current resistor (the one at the PROG pin) to fit, and whether that is what the board carries."""
    current = charging.current
    wanted, limit = ohms(current.suggested_r_ohm), current.limits[0]
    gives = amps(current.spread_at(wanted.value).nominal_a)
    working = (
        f"{limit.label} {amps(limit.current_a)} is the lowest limit; K (1 + {percent(charging.charger.k_tolerance)}) / "
        f"{amps(limit.current_a)} / (1 - {percent(charging.build.r_tolerance)}), next of E24 above"
    )
    facts = {"figure": wanted, "working": working, "remedy": fit_suggested(charging)}
    if current.r_origin in ("suggested", "as delivered"):
        yield note(f"Fit a charge-current resistor of {wanted}, for {gives}.", **facts)
    elif current.r_prog_ohm > wanted.value * NEEDLESSLY_SLOW:
        faster = current.r_prog_ohm / wanted.value
        yield note(
            f"It could charge {times(faster)} as fast: {wanted} instead of the {ohms(current.r_prog_ohm)} fitted.",
            **facts,
        )


@rule("charge.measured_resistor_off", station="charge", source="checkpoint of 2 %, common practice")
def measured_resistor_off(charging: BoardCharging) -> Iterator[Judgement]:
    """A resistor read in circuit should agree with its marking; a cell or USB left connected spoils the reading."""
    marked_ohm, read_ohm = charging.build.r_prog_ohm, charging.build.record.r_measured_ohm
    if marked_ohm is None or read_ohm is None:
        return
    off = percent(abs(read_ohm / marked_ohm - 1))
    if off.value > RESISTOR_OFF:
        yield caution(
            f"The charge-current resistor reads {ohms(read_ohm)} where {ohms(marked_ohm)} is marked, {off} off.",
            figure=off,
            limit=percent(RESISTOR_OFF),
            working="Read it unpowered, no cell and no USB connected. The numbers follow what was read.",
        )


@rule(
    "charge.never_ends",
    station="charge",
    source="end current of linear chargers, common practice",
    formula="ends where the charger gives I_prog / 10: cell current + load",
    limits="load over I_prog / 10: never ends; over I_prog: empties while plugged in",
)
def never_ends(charging: Charging) -> Iterator[Judgement]:
    """A load on the cell hides the end of the charge, or eats the whole current."""
    run, current = charging.run, charging.current
    float_v = charging.charger.float_v
    load, ends_at = amps(float(charging.load_while_charging.current(float_v))), amps(current.termination_a)
    comes_in = amps(current.spread.nominal_a)
    working = f"load {load}, the charger stops at {ends_at}, charge current {comes_in}"
    if load.value >= comes_in.value:
        yield stop(
            f"The cell empties while it is plugged in: the gadget draws {load}, and {comes_in} comes in.",
            figure=load,
            limit=comes_in,
            working=working,
        )
    elif bool(run.never_ends):
        yield caution(
            f"The charge never ends: the gadget's {load} hides the {ends_at} at which the charger would stop.",
            figure=load,
            limit=ends_at,
            working=f"{working}. The cell is held at {volts(float_v)} for ever, and the lamp never changes; switch the "
            "gadget off while it charges, or share the load.",
        )
    elif bool(run.stalls):
        has = volts(charging.build.source.volts)
        yield stop(
            f"The cell never fills: {has} from the source is too little for this charger.", figure=has, working=working
        )
    else:
        taken = hours(float(run.hours.flat[0]))
        yield fine(f"The charge ends by itself after about {taken}.", figure=taken, working=working)


@rule("charge.slow", station="charge", source="common practice, no source", limits=f"{NIGHT_H:.0f} h")
def slow(charging: Charging) -> Iterator[Judgement]:
    """A charge that takes longer than a night is worth a word."""
    taken = hours(float(charging.run.hours.flat[0]))
    if np.isfinite(taken.value) and taken.value > NIGHT_H:
        working = current_working(charging)
        yield note(f"A full charge takes {taken}: longer than a night.", figure=taken, working=working)


@rule(
    "charge.folds_back",
    station="charge",
    source="thermal fold-back of linear chargers, common practice",
    formula="I <= (T_fold - T_room) / ((theta + 1 / (h A)) (V_in - V_cell))",
)
def folds_back(charging: BoardCharging) -> Iterator[Judgement]:
    """A linear charger that gets too hot gives less until the cell's voltage has risen."""
    charger, run = charging.charger, charging.run
    if charger.theta_ja_c_per_w is None:
        return
    in_cc = run.cell_v < charger.float_v - 1e-3
    above_precharge = run.cell_v > charger.precharge_v + 0.01
    held = amps(float(np.min(run.charger_a, initial=np.inf, where=in_cc & above_precharge)))
    set_to = amps(charging.current.spread.nominal_a)
    if held.value < set_to.value * 0.98:
        yield note(
            f"The hot charger holds itself back at first: {held} flow where {set_to} is set.",
            figure=held,
            limit=set_to,
            working=f"theta {charger.theta_ja_c_per_w:.0f} °C/W, folds back at {celsius(charger.fold_back_c)}: slower",
            rests_on=(f"{charging.charger_path}.theta_ja_c_per_w",),
            assumed=True,
        )


@rule(
    "charge.shared_window",
    station="charge",
    node="gadget",
    source="two-diode selector; Schottky drop by Shockley's law",
    formula="V_gadget = V_source - I R_cable - V_diode, through the regulator",
)
def shared_window(charging: BoardCharging) -> Iterator[Judgement]:
    """Used while plugged in, the gadget sees the source less a diode, which its window must allow."""
    build, window = charging.build, charging.chain.window
    how = build.use_while_charging
    if how == "load_sharing" and not any(board.load_sharing for board in build.boards):
        yield caution("The build counts on a load-sharing board, and has none.")
    plugged_v = charging.plugged_gadget_v()
    if plugged_v is None or how == "on_cell":
        return
    plugged, takes = volts(plugged_v), volts(window.v_abs_max)
    less = "" if how == "change_over" else " less one Schottky diode"
    working = f"{volts(build.source.volts)}{less}, regulator: {charging.chain.regulator.name}; it takes {takes}"
    facts = {"figure": plugged, "limit": takes, "working": working}
    if plugged.value > takes.value:
        yield caution(
            f"Plugged in, the gadget sees {plugged}, and takes {takes}.",
            assumed=window.max_basis == "inferred",
            **facts,
        )
    else:
        yield fine(f"Plugged in, the gadget sees {plugged}; it takes {takes}.", **facts)


@rule("charge.type_c_dead", station="charge", node="source", source="USB Type-C: 5.1 kohm from each CC to ground")
def type_c_dead(charging: BoardCharging) -> Iterator[Judgement]:
    """A Type-C socket without its two resistors stays dead on a Type-C to Type-C cable."""
    socket = charging.board.socket
    if socket and socket.kind == "type_c" and not socket.cc_resistors:
        yield caution(
            "It stays dead on a C-to-C cable: this socket lacks its two 5.1 kΩ resistors.",
            working="It charges from an A-to-C cable. Add 5.1 kΩ from each of CC1 and CC2 to ground to mend it.",
            subjects=(charging.board.name,),
        )
