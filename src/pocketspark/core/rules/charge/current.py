"""Charge: does the right current reach the cell, at the right voltage?"""

from collections.abc import Iterator, Mapping

from pocketspark.core.chain import BoardCharging, Chain, Charging
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.limits import LEAST_FULL, RESISTOR_OFF, SAME_V
from pocketspark.core.message import Message, _, say
from pocketspark.core.models.board import CC_OHM
from pocketspark.core.models.build import Policy
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, amps_apart, fixed, hours, ohms, percent, times, volts, whole_volts

# Above this many C a cell without a data sheet is certainly mistreated; up to it the policy has its say.
UNKNOWN_CELL_MOST_C = 1.2

# Closer than this two currents are the same.
SAME = 1.001

# A charge that takes longer is no remedy for anything (our judgement, no source).
SENSIBLE_H = 24.0

# A resistor of over so many times the suggested one charges needlessly slowly (our judgement, no source).
NEEDLESSLY_SLOW = 2.0
# Charged to this share and more, a cell is treated gently: a 4.35 V cell on a 4.20 V charger (from memory, 85 to 92 %).
MILDLY_LOW = 0.85
# Closer than this to the trip of a protection, its tolerance with temperature decides (common practice, no source).
NEAR_THE_TRIP = 0.15

# What makers have measured past the rating of a 1 A board (common practice, no source).
PAST_RATING = say(
    "Measured on 1 A boards: about {at_900} at 900 Ω and {at_800} at 800 Ω, with a heat sink and a fan; no more than "
    "about 2 A whatever the resistor.",
    at_900=amps(1.4),
    at_800=amps(1.7),
)

_POLICIES: Mapping[Policy, str] = {
    "gentle": _("Up to {most} can flow; gentle charging is {policy}, half the capacity per hour."),
    "label": _("Up to {most} can flow; the whole capacity per hour is {policy}."),
    "data_sheet": _("Up to {most} can flow; the cell's data sheet allows {policy}."),
}


def fit_suggested(charging: BoardCharging) -> Remedy | None:
    """Fit the preferred value that keeps under every limit, unless it is fitted already, or would charge for days."""
    wanted, build = charging.current.suggested_r_ohm, charging.build
    if build.r_prog_ohm == wanted and build.record.r_measured_ohm is None:
        return None
    if hours_at(charging, wanted) > SENSIBLE_H:
        return None
    path = charging.chain.path
    edits = {f"{path}.r_prog_ohm": wanted, f"{path}.record.r_measured_ohm": None}
    return remedy(say("Fit {wanted}", wanted=ohms(wanted)), edits)


def hours_at(charging: BoardCharging, r_ohm: float) -> float:
    """Hours that a full charge takes at least with this resistor."""
    return charging.chosen.capacity_ah / charging.current.spread_at(r_ohm).nominal_a


def spread_working(charging: BoardCharging) -> Message:
    """How the current follows from the resistor: K over R, or the board's own measured table, with tolerances."""
    charger, current = charging.charger, charging.current
    spread, r_ohm = current.spread, ohms(current.r_prog_ohm)
    reach = say("{least_a} to {most_a}", least_a=amps(spread.least_a), most_a=amps(spread.most_a))
    by_table = len(charger.readings) > 1 and charger.readings[0][0] <= current.r_prog_ohm <= charger.readings[-1][0]
    if by_table:
        return say(
            "this board's own table at {r_ohm} {r_origin}: {nominal_a} ± {k_tolerance}, resistor ± "
            "{r_tolerance}: {reach}",
            r_ohm=r_ohm,
            r_origin=current.r_origin,
            nominal_a=amps(spread.nominal_a),
            k_tolerance=percent(charger.k_tolerance),
            r_tolerance=percent(charging.build.r_tolerance),
            reach=reach,
        )
    return say(
        "K {k_volts} ± {k_tolerance} / {r_ohm} ± {r_tolerance}, {r_origin}: {nominal_a}, {reach}",
        k_volts=whole_volts(charger.k_volts),
        k_tolerance=percent(charger.k_tolerance),
        r_ohm=r_ohm,
        r_tolerance=percent(charging.build.r_tolerance),
        r_origin=current.r_origin,
        nominal_a=amps(spread.nominal_a),
        reach=reach,
    )


def current_working(charging: Charging) -> Message:
    """Where the charge current comes from."""
    if isinstance(charging, BoardCharging):
        return spread_working(charging)
    return say(
        "the {board} gives {nominal_a}", board=charging.board.name, nominal_a=amps(charging.current.spread.nominal_a)
    )


@rule(
    "charge.no_charger",
    station="charge",
    source="common practice, no source",
    advice=say("Choose a charger board at Charge whose end voltage suits the cell."),
)
def no_charger(chain: Chain) -> Iterator[Judgement]:
    """A build needs a charger made for one lithium cell; where another charges it, a board of ours is one too many."""
    boards = chain.charger_boards
    if chain.keeps_own_charger and boards:
        yield caution(
            say("Two chargers would charge one cell. The gadget keeps its own, so leave this board out."),
            working=say("Or cut the gadget's own charge path and let this board charge."),
            remedy=remedy(say("Let the board charge"), {f"{chain.path}.who_charges": "board"}),
            subjects=(boards[0].name,),
        )
    elif chain.build.who_charges == "external" and boards:
        yield note(
            say("The cell is charged outside, so this charger board has nothing to do in the gadget."),
            remedy=remedy(say("Let the board charge"), {f"{chain.path}.who_charges": "board"}),
            subjects=(boards[0].name,),
        )
    elif chain.build.who_charges != "board":
        return
    elif not boards:
        yield note(say("No charger board is chosen yet. Choose one whose end voltage suits the cell."))
    elif len(boards) > 1:
        yield stop(
            say(
                "One cell takes one charger, and this build has {count}. Take all but the {first} out.",
                count=len(boards),
                first=boards[0].name,
            ),
            working=say("Their currents add, and neither knows when the other has filled it. All figures are for one."),
            subjects=tuple(board.name for board in boards[1:]),
        )
    elif chain.gadget.supply.kind == "lithium" and chain.gadget.supply.own_charger:
        yield stop(
            say("Two chargers on one cell: the gadget's own stays connected beside the {board}.", board=boards[0].name),
            working=say("Let the gadget's own charge and leave the board out, or cut it and take its figures out."),
            remedy=remedy(say("Let the gadget charge"), {f"{chain.path}.who_charges": "gadget"}),
            subjects=(boards[0].name,),
        )


@rule(
    "charge.float_high",
    station="charge",
    source="full voltage of the cell's class (handbooks, from memory)",
    advice=say("Choose a charger that ends at the cell's own full voltage, never higher."),
)
def float_high(charging: BoardCharging) -> Iterator[Judgement]:
    """An end voltage above the class's full voltage over-charges the cell."""
    facts = charging.cell.facts
    ends, full = volts(charging.charger.float_v), volts(facts.full_v)
    over_v = ends.value - full.value
    if over_v > SAME_V:
        yield stop(
            say(
                "This charger over-charges the cell: it stops at {ends}, but the cell is full at {full}.",
                ends=ends,
                full=full,
            ),
            figure=ends,
            limit=full,
            working=say("a {facts} cell needs a charger of its own class", facts=facts.label),
        )
    elif over_v > -SAME_V:
        yield fine(say("The charger stops at {ends}, where this cell is full.", ends=ends), figure=ends)


@rule(
    "charge.float_low",
    station="charge",
    source="open-circuit curve of the class",
    advice=say("Do nothing if the loss is acceptable. Otherwise choose a charger made for this class."),
)
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
            say(
                "This charger is made for another class of cell. It stops at {ends}, with this one {reached} full.",
                ends=ends,
                reached=percent(reached),
            ),
            figure=ends,
            limit=full,
            working=say("a {facts} cell is full at {full}", facts=charging.cell.facts.label, full=full),
        )
        return
    level = note if reached >= MILDLY_LOW else caution
    yield level(
        say(
            "{unused} of the capacity stays unused: the charger stops at {ends}, but the cell is full at {full}.",
            unused=unused,
            ends=ends,
            full=full,
        ),
        figure=unused,
        limit=full,
        working=say(
            "the open-circuit curve reaches {reached} at {ends}; safe, and gentle", reached=percent(reached), ends=ends
        ),
    )


@rule(
    "charge.over_cell",
    station="charge",
    source="the cell's own stated maximum, else 1C as label practice",
    advice=say("Fit a larger charge-current resistor before the cell is connected."),
)
def over_cell(charging: BoardCharging) -> Iterator[Judgement]:
    """The highest possible current against what the cell may take."""
    stated = charging.chosen.charge_max_a
    capacity_ah = charging.chosen.capacity_ah
    limit_a = stated if stated is not None else UNKNOWN_CELL_MOST_C * capacity_ah
    most, takes = amps_apart(charging.current.spread.most_a, limit_a)
    facts: Facts = {
        "figure": most,
        "limit": takes,
        "working": spread_working(charging),
        "rests_on": (f"{charging.chosen.path}.charge_max_a",),
    }
    figures = {"most": most, "takes": takes, "rate": fixed(most.value / capacity_ah, 1)}
    if most.value <= limit_a * SAME:
        known = _("The charger can push {most} at most into a cell rated for {takes}.")
        unknown = _("The charger can push {most} at most. Without a data sheet, this cell should get {takes} or less.")
        yield fine(say(unknown if stated is None else known, **figures), **facts)
        return
    known = _("The charger can push {most} ({rate}C) into a cell rated for {takes}. The cell will swell and wear out.")
    unknown = _(
        "The charger can push {most} ({rate}C) into a cell that, without a data sheet, should get {takes} or less. "
        "The cell will swell and wear out."
    )
    yield stop(say(unknown if stated is None else known, **figures), remedy=fit_suggested(charging), **facts)


@rule(
    "charge.over_policy",
    station="charge",
    source="schools of charging: 0.5C, 1C, data sheet; common practice",
    advice=say("Fit a larger charge-current resistor, or choose a faster policy and accept its price."),
    follows=("charge.over_cell", "charge.over_board"),
)
def over_policy(charging: BoardCharging) -> Iterator[Judgement]:
    """The highest possible current against the policy chosen for this build."""
    most, policy = amps_apart(charging.current.spread.most_a, charging.current.policy_a)
    facts: Facts = {"figure": most, "limit": policy, "working": spread_working(charging)}
    sentence = say(_POLICIES[charging.current.policy], most=most, policy=policy)
    if most.value <= policy.value * SAME:
        yield fine(sentence, **facts)
        return
    yield caution(sentence, remedy=fit_suggested(charging), **facts)


@rule(
    "charge.over_source",
    station="charge",
    node="source",
    source="USB 2.0, USB 3, BC 1.2 and Type-C currents, from memory",
    formula=say("I_source = I_charge + I_gadget: a linear charger passes its current through"),
    advice=say("Fit a larger charge-current resistor, or use a source that supplies as much."),
    follows=("charge.over_cell", "charge.over_policy", "charge.over_board"),
)
def over_source(charging: Charging) -> Iterator[Judgement]:
    """A linear charger takes from the source what it gives the cell, plus the load on the same input."""
    if not charging.in_the_gadget:
        return
    current = charging.current
    drawn, gives = amps_apart(current.spread.most_a + current.source_load_a, current.source_limit_a)
    working = say(
        "{most_a} charging + {source_load_a} for the gadget",
        most_a=amps(current.spread.most_a),
        source_load_a=amps(current.source_load_a),
    )
    if drawn.value <= gives.value * SAME:
        yield fine(
            say(
                "It draws up to {drawn} from a {source_label} that supplies {gives}.",
                drawn=drawn,
                source_label=current.source_label,
                gives=gives,
            ),
            figure=drawn,
            limit=gives,
            working=working,
        )
        return
    yield caution(
        say(
            "The {source_label} supplies {gives}, but up to {drawn} is drawn from it. Its voltage can sag, or "
            "it switches off.",
            source_label=current.source_label,
            gives=gives,
            drawn=drawn,
        ),
        figure=drawn,
        limit=gives,
        working=working,
        remedy=fit_suggested(charging) if isinstance(charging, BoardCharging) else None,
    )


@rule(
    "charge.over_board",
    station="charge",
    source="the board's rating; past it, common practice, no source",
    advice=say("Fit a larger charge-current resistor."),
    follows=("charge.over_cell",),
)
def over_board(charging: BoardCharging) -> Iterator[Judgement]:
    """A resistor below the board's rating overheats it in a closed gadget."""
    set_to, rated = amps_apart(charging.current.spread.nominal_a, charging.charger.rated_a)
    if set_to.value > rated.value * 1.02:
        closed = charging.chain.gadget.shell.closed
        level = stop if closed else caution
        closed_in = _("In the closed gadget the board overheats: it is set to {set_to} and rated for {rated}.")
        open_air = _("The board overheats: it is set to {set_to} and rated for {rated}.")
        yield level(
            say(closed_in if closed else open_air, set_to=set_to, rated=rated),
            figure=set_to,
            limit=rated,
            working=say(
                "{spread_working}. {past_rating}", spread_working=spread_working(charging), past_rating=PAST_RATING
            ),
            remedy=fit_suggested(charging),
        )
    else:
        yield fine(
            say("The board is set to {set_to} and rated for {rated}.", set_to=set_to, rated=rated),
            figure=set_to,
            limit=rated,
        )


@rule(
    "charge.protection_trips",
    station="charge",
    node="protection",
    source="I_trip = V_trip / (2 R_on); the charging current flows through both transistors too, common practice",
    limits=say("the low end of the trip current; caution within {near} of it", near=percent(NEAR_THE_TRIP)),
    advice=say("Fit a larger charge-current resistor, or choose a protection that trips later."),
    follows=("charge.over_cell", "charge.over_policy", "charge.over_board"),
)
def protection_trips(charging: Charging) -> Iterator[Judgement]:
    """The charging current flows through the protection, which opens on over-current in either direction."""
    protection = charging.chain.first_to_trip
    if protection is None:
        return
    most, least = amps_apart(charging.current.spread.most_a, protection.trip_least_a)
    facts: Facts = {"figure": most, "limit": least}
    given = fit_suggested(charging) if isinstance(charging, BoardCharging) else None
    if most.value >= least.value:
        yield stop(
            say(
                "Charging with {most} opens the protection, which can trip at {least}. The charge starts and stops.",
                most=most,
                least=least,
            ),
            working=current_working(charging),
            remedy=given,
            **facts,
        )
    elif most.value > least.value * (1 - NEAR_THE_TRIP):
        yield caution(
            say(
                "The charging current of {most} is close to the {least} at which the protection can open.",
                most=most,
                least=least,
            ),
            working=current_working(charging),
            **facts,
        )
    else:
        yield fine(
            say(
                "The protection lets the charging current of {most} through: it opens at {least} or more.",
                most=most,
                least=least,
            ),
            **facts,
        )


@rule(
    "charge.resistor",
    station="charge",
    source="I = K / R, common practice; preferred values IEC 60063",
    formula=say("R >= K (1 + tol_K) / I_target / (1 - tol_R), next of E24 above"),
    limits=say("the least of policy, cell, board, source, heat and cable"),
    advice=say("Unsolder the board's resistor, measure the one you fit, and check it in place without cell and USB."),
    follows=("charge.over_cell", "charge.over_policy", "charge.over_source", "charge.over_board"),
)
def resistor_to_fit(charging: BoardCharging) -> Iterator[Judgement]:
    """Which charge-current resistor (the one at the PROG pin) to fit, and whether that is what the board carries."""
    current = charging.current
    wanted, limit = ohms(current.suggested_r_ohm), current.limits[0]
    gives = amps(current.spread_at(wanted.value).nominal_a)
    working = say(
        "{limit} {current_a} is the lowest limit; K (1 + {k_tolerance}) / {current_a} / (1 - "
        "{r_tolerance}), next of E24 above",
        limit=limit.label,
        current_a=amps(limit.current_a),
        k_tolerance=percent(charging.charger.k_tolerance),
        r_tolerance=percent(charging.build.r_tolerance),
    )
    facts: Facts = {"figure": wanted, "working": working, "remedy": fit_suggested(charging)}
    if (taken_h := hours_at(charging, wanted.value)) > SENSIBLE_H:
        yield caution(
            say(
                "Only {left} is left to charge with: a full charge would take {taken}.",
                left=amps(limit.current_a),
                taken=hours(taken_h),
            ),
            figure=amps(limit.current_a),
            limit=hours(SENSIBLE_H),
            working=say(
                "The limit is {limit}. A stronger port, a larger board, or a smaller load while it charges would help.",
                limit=limit.label,
            ),
        )
        return
    if current.r_origin in ("suggested", "as delivered"):
        yield note(
            say("Fit a charge-current resistor of {wanted}: it sets {gives}.", wanted=wanted, gives=gives), **facts
        )
    elif current.r_prog_ohm > wanted.value * NEEDLESSLY_SLOW:
        faster = current.r_prog_ohm / wanted.value
        yield note(
            say(
                "It could charge {faster} as fast with {wanted} instead of the {r_prog_ohm} fitted.",
                faster=times(faster),
                wanted=wanted,
                r_prog_ohm=ohms(current.r_prog_ohm),
            ),
            **facts,
        )


@rule(
    "charge.measured_resistor_off",
    station="charge",
    source="checkpoint of 2 %, common practice",
    advice=say("Disconnect cell and USB and measure it again. If the value stays, measure the new part alone."),
)
def measured_resistor_off(charging: BoardCharging) -> Iterator[Judgement]:
    """A resistor read in circuit should agree with its marking; a cell or USB left connected spoils the reading."""
    marked_ohm, read_ohm = charging.build.r_prog_ohm, charging.build.record.r_measured_ohm
    if marked_ohm is None or read_ohm is None:
        return
    off = percent(abs(read_ohm / marked_ohm - 1))
    if off.value > RESISTOR_OFF:
        yield caution(
            say(
                "The charge-current resistor measures {read_ohm} but is marked {marked_ohm}, {off} off.",
                read_ohm=ohms(read_ohm),
                marked_ohm=ohms(marked_ohm),
                off=off,
            ),
            figure=off,
            limit=percent(RESISTOR_OFF),
            working=say(
                "Measure it unpowered, with no cell and no USB connected. The calculations use the measured value."
            ),
        )


@rule(
    "charge.type_c_dead",
    station="charge",
    node="source",
    source="USB Type-C: 5.1 kohm from each CC to ground",
    advice=say("Solder {cc} from each CC contact to ground, or charge it from a Type-A socket.", cc=ohms(CC_OHM)),
)
def type_c_dead(charging: BoardCharging) -> Iterator[Judgement]:
    """A Type-C socket without its two resistors stays dead on a Type-C to Type-C cable, where 5 V comes in there."""
    socket, in_use = charging.board.socket, charging.build.input.facts.on_board
    if in_use and socket and socket.kind == "type_c" and not socket.cc_resistors:
        yield caution(
            say("It stays dead on a C-to-C cable: this socket lacks its two {cc} resistors.", cc=ohms(CC_OHM)),
            working=say(
                "It charges from an A-to-C cable. To fix it, add {cc} from each of CC1 and CC2 to ground.",
                cc=ohms(CC_OHM),
            ),
            subjects=(charging.board.name,),
        )
