"""Charge: does the right current reach the cell, at the right voltage, and does it ever end?"""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Remedy
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import amps, engineering, hours, ohms, percent, volts

# Above this many C a cell without a data sheet is certainly mistreated; up to it the policy has its say.
UNKNOWN_CELL_MOST_C = 1.2

# What makers have measured past the rating of a 1 A board (common practice, no source).
PAST_RATING = (
    "Measured on 1 A boards: about 1.4 A at 900 Ω and 1.7 A at 800 Ω, with a heat sink and a fan; no more than about "
    "2 A whatever the resistor."
)


def fit_suggested(chain: Chain) -> Remedy | None:
    """Fit the preferred value that keeps under every limit, unless it is fitted already."""
    wanted = chain.suggested_r_ohm
    if chain.build.r_prog_ohm == wanted and chain.build.record.r_measured_ohm is None:
        return None
    edits = {f"{chain.at}.r_prog_ohm": wanted, f"{chain.at}.record.r_measured_ohm": None}
    return remedy(f"Fit {ohms(wanted)}", edits)


def spread_working(chain: Chain) -> str:
    """K over R with its tolerances, as worked."""
    charger, spread = chain.charger, chain.spread
    return (
        f"K {charger.k_volts:.0f} V -+ {percent(charger.k_tolerance)} / {ohms(chain.r_prog_ohm)} "
        f"-+ {percent(chain.build.r_tolerance)}, {chain.r_origin}: {amps(spread.least_a)} to {amps(spread.most_a)}"
    )


@rule("charge.no_charger", station="charge", source="common practice, no source")
def no_charger(chain: Chain) -> Iterator[Judgement]:
    """A build needs a charger made for one lithium cell; in a cell swap the gadget brings it."""
    if chain.is_swap and chain.chargers:
        yield caution(
            "2 chargers on one cell: a cell swap keeps the gadget's own, so leave this board out",
            working="Or cut the gadget's own charge path and build it inside.",
        )
    elif chain.is_swap:
        return
    elif not chain.chargers:
        yield note("0 charger boards chosen: pick one whose float voltage suits the cell")
    elif len(chain.chargers) > 1:
        yield caution(f"{len(chain.chargers)} charger boards: only {chain.charger_board.name} is reckoned with")


@rule("charge.float_high", station="charge", source="full voltage of the cell's class (handbooks, from memory)")
def float_high(chain: Chain) -> Iterator[Judgement]:
    """A float voltage above the class's full voltage over-charges the cell."""
    facts, float_v = chain.cell.facts, chain.charger.float_v
    over_v = float_v - facts.full_v
    if over_v > 0.005:
        yield stop(
            f"{volts(float_v)} into a cell that is full at {volts(facts.full_v)}: over-charged by {volts(over_v)}",
            working=f"a {facts.label} cell needs a charger of its own class",
        )
    elif over_v > -0.005:
        yield passed(f"{volts(float_v)} float suits this {facts.label} cell")


@rule("charge.float_low", station="charge", source="open-circuit curve of the class")
def float_low(chain: Chain) -> Iterator[Judgement]:
    """A float voltage below the class's full voltage is safe and leaves a share of the label unused."""
    facts, float_v = chain.cell.facts, chain.charger.float_v
    if float_v > facts.full_v - 0.005:
        return
    reached = float(chain.curve.soc_at(float_v))
    headline = (
        f"{percent(1 - reached)} of the label stays unused: charged to {volts(float_v)}, full at {volts(facts.full_v)}"
    )
    yield caution(
        headline, working=f"the open-circuit curve reaches {percent(reached)} at {volts(float_v)}; safe, and gentle"
    )


@rule("charge.over_cell", station="charge", source="the cell's own stated maximum, else 1C as label practice")
def over_cell(chain: Chain) -> Iterator[Judgement]:
    """The highest possible current against what the cell may take."""
    stated = chain.cell.charge_max_a
    capacity_ah, most_a = chain.capacity_ah, chain.spread.most_a
    limit_a = stated * chain.build.cell_count if stated is not None else UNKNOWN_CELL_MOST_C * capacity_ah
    takes = amps(limit_a if stated is not None else capacity_ah)
    rests_on = (f"{chain.at}.cell.charge_max_a",)
    if most_a <= limit_a * 1.001:
        yield passed(
            f"{amps(most_a)} at most into a cell that takes {takes}", working=spread_working(chain), rests_on=rests_on
        )
        return
    yield stop(
        f"{amps(most_a)} ({most_a / capacity_ah:.1f}C) may flow into a cell that takes {takes}",
        working=spread_working(chain),
        rests_on=rests_on,
        remedy=fit_suggested(chain),
    )


@rule("charge.over_policy", station="charge", source="schools of charging: 0.5C, 1C, data sheet; common practice")
def over_policy(chain: Chain) -> Iterator[Judgement]:
    """The highest possible current against the policy chosen for this build."""
    most_a, policy_a = chain.spread.most_a, chain.policy_a
    label = next(limit.label for limit in chain.limits if limit.name == "policy")
    if most_a <= policy_a * 1.001:
        yield passed(f"{amps(most_a)} at most, under the {amps(policy_a)} of {label}", working=spread_working(chain))
        return
    headline = f"{amps(most_a)} possible: over the {amps(policy_a)} of {label}"
    yield caution(headline, working=spread_working(chain), remedy=fit_suggested(chain))


@rule(
    "charge.over_source",
    station="charge",
    source="USB 2.0, USB 3, BC 1.2 and Type-C currents, from memory",
    formula="I_source = I_charge + I_gadget: a linear charger passes its current through",
)
def over_source(chain: Chain) -> Iterator[Judgement]:
    """A linear charger takes from the source what it gives the cell, plus the load on the same input."""
    chain.require_cell()
    source = chain.build.source
    drawn_a, limit_a = chain.spread.most_a + chain.source_load_a, chain.source_limit_a
    working = f"{amps(chain.spread.most_a)} charging + {amps(chain.source_load_a)} for the gadget"
    if drawn_a <= limit_a * 1.001:
        yield passed(f"{amps(drawn_a)} at most from a {source.label} of {amps(limit_a)}", working=working)
        return
    headline = f"{amps(drawn_a)} possible from a {chain.source_label} that gives {amps(limit_a)}"
    yield caution(headline, working=working + "; it may sag or switch off", remedy=fit_suggested(chain))


@rule("charge.over_board", station="charge", source="the board's rating; past it, common practice, no source")
def over_board(chain: Chain) -> Iterator[Judgement]:
    """A resistor below the board's rating overheats it in a closed gadget."""
    chain.require_cell()
    nominal_a, rated_a = chain.spread.nominal_a, chain.charger.rated_a
    if nominal_a > rated_a * 1.02:
        say = stop if chain.gadget.shell.closed else caution
        yield say(
            f"{amps(nominal_a)} set on a board made for {amps(rated_a)}: not in a closed gadget",
            working=f"{spread_working(chain)}. {PAST_RATING}",
            remedy=fit_suggested(chain),
        )
    else:
        yield passed(f"{amps(nominal_a)} set on a board made for {amps(rated_a)}")


@rule(
    "charge.resistor",
    station="charge",
    source="I = K / R, common practice; preferred values IEC 60063",
    formula="R >= K (1 + tol_K) / I_target / (1 - tol_R), next of E24 above",
    limits="the least of policy, cell, board, source, heat and cable",
)
def resistor_to_fit(chain: Chain) -> Iterator[Judgement]:
    """Which charge-current resistor to fit, and whether that is what the board carries."""
    wanted = chain.suggested_r_ohm
    current_a = chain.spread_at(wanted).nominal_a
    limit = chain.limits[0]
    working = (
        f"{limit.label} {amps(limit.current_a)} is the lowest limit; K (1 + {percent(chain.charger.k_tolerance)}) / "
        f"{engineering(limit.current_a, 'A')} / (1 - {percent(chain.build.r_tolerance)}), next of E24 above"
    )
    if chain.r_origin in ("suggested", "as delivered"):
        headline = f"Fit {ohms(wanted)} for {amps(current_a)}"
        yield note(headline, working=working, remedy=fit_suggested(chain))
    elif chain.r_prog_ohm > wanted * 2:
        faster = chain.r_prog_ohm / wanted
        headline = f"{ohms(chain.r_prog_ohm)} is cautious: {ohms(wanted)} charges {faster:.1f} times as fast"
        yield note(headline, working=working, remedy=fit_suggested(chain))


@rule("charge.measured_resistor_off", station="charge", source="hold limit of 2 %, common practice")
def measured_resistor_off(chain: Chain) -> Iterator[Judgement]:
    """A resistor read in circuit should agree with its marking; a cell or USB left connected falsifies it."""
    marked, read = chain.build.r_prog_ohm, chain.build.record.r_measured_ohm
    if marked is None or read is None:
        return
    off = read / marked - 1
    if abs(off) > 0.02:
        yield caution(
            f"{ohms(read)} read where {ohms(marked)} is marked: {percent(abs(off))} off",
            working="Read it unpowered, no cell and no USB connected. The numbers follow what was read.",
        )


@rule(
    "charge.never_ends",
    station="charge",
    source="end current of linear chargers, common practice",
    formula="ends where the charger gives I_prog / 10: cell current + load",
    limits="load over I_prog / 10: never ends; over I_prog: empties while plugged in",
)
def never_ends(chain: Chain) -> Iterator[Judgement]:
    """A load on the cell hides the end of the charge, or eats the whole current."""
    run = chain.charge_run
    load_a = float(chain.load_while_charging.current(chain.charger.float_v))
    end_a = chain.end_current_a
    figures = f"load {amps(load_a)}, end current {amps(end_a)}, charge current {amps(chain.spread.nominal_a)}"
    if load_a >= chain.spread.nominal_a:
        headline = (
            f"{amps(load_a)} drawn while {amps(chain.spread.nominal_a)} comes in: the cell empties while plugged in"
        )
        yield stop(headline, working=figures)
    elif bool(run.never_ends):
        headline = (
            f"{amps(load_a)} of load hides the {amps(end_a)} end: held at {volts(chain.charger.float_v)} for ever"
        )
        yield caution(headline, working=figures + "; switch off while charging, or share the load")
    elif bool(run.stalls):
        short_v = chain.build.source.volts
        yield stop(f"{volts(short_v)} at the source is too little to fill the cell", working=figures)
    else:
        taken = hours(float(run.hours.flat[0]))
        yield passed(f"Ends by itself after about {taken}", working=figures)


@rule("charge.slow", station="charge", source="common practice, no source")
def slow(chain: Chain) -> Iterator[Judgement]:
    """A charge that takes longer than a night is worth a word."""
    taken_h = float(chain.charge_run.hours.flat[0])
    if np.isfinite(taken_h) and taken_h > 10:
        yield note(f"{hours(taken_h)} to full: longer than a night", working=spread_working(chain))


@rule(
    "charge.folds_back",
    station="charge",
    source="thermal fold-back of linear chargers, common practice",
    formula="I <= (T_fold - T_room) / ((theta + 1 / (h A)) (V_in - V_cell))",
)
def folds_back(chain: Chain) -> Iterator[Judgement]:
    """A linear charger that gets too hot gives less until the cell's voltage has risen."""
    theta = chain.charger.theta_ja_c_per_w
    if theta is None:
        return
    run = chain.charge_run
    in_cc = run.cell_v < chain.charger.float_v - 1e-3
    above_precharge = run.cell_v > chain.charger.precharge_v + 0.01
    held_a = np.min(run.charger_a, initial=np.inf, where=in_cc & above_precharge)
    if held_a < chain.spread.nominal_a * 0.98:
        yield note(
            f"{amps(float(held_a))} instead of {amps(chain.spread.nominal_a)} at first: the hot chip holds itself back",
            working=f"theta {theta:.0f} C/W, folds back at {chain.charger.fold_back_c:.0f} C; harmless, slower",
            rests_on=(f"{chain.charger_path}.theta_ja_c_per_w",),
            assumed=True,
        )


@rule(
    "charge.shared_window",
    station="charge",
    source="two-diode selector; Schottky drop by Shockley's law",
    formula="V_gadget = V_source - I R_cable - V_diode, through the regulator",
)
def shared_window(chain: Chain) -> Iterator[Judgement]:
    """Used while plugged in, the gadget sees the source less a diode, which its window must allow."""
    how = chain.build.use_while_charging
    if how == "load_sharing" and not any(board.load_sharing for board in chain.build.boards):
        yield caution("0 load-sharing boards in this build, though it counts on one")
    plugged_v = chain.plugged_gadget_v()
    if plugged_v is None or how == "on_cell":
        return
    window = chain.window
    less = "" if how == "change_over" else " less one Schottky diode"
    source_v = volts(chain.build.source.volts)
    working = f"{source_v}{less}, through {chain.regulator.kind}; it takes {volts(window.v_abs_max)}"
    if plugged_v > window.v_abs_max:
        yield caution(
            f"{volts(plugged_v)} reaches the gadget when plugged in; it takes {volts(window.v_abs_max)}",
            working=working,
            assumed=window.max_basis == "inferred",
        )
    else:
        yield passed(f"{volts(plugged_v)} at the gadget when plugged in", working=working)


@rule("charge.type_c_dead", station="charge", source="USB Type-C: 5.1 kohm from each CC to ground")
def type_c_dead(chain: Chain) -> Iterator[Judgement]:
    """A Type-C socket without its two resistors stays dead on a Type-C to Type-C cable."""
    socket = chain.charger_board.socket
    if socket and socket.kind == "type_c" and not socket.cc_resistors:
        yield caution(
            "0 V on a C-to-C cable: this socket lacks its two 5.1 kΩ resistors",
            working="It charges from an A-to-C cable. Add 5.1 kΩ from each of CC1 and CC2 to ground to mend it.",
        )
