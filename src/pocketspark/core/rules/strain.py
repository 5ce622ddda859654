"""Strain: heat of the regulator, cold of the cell, peaks, plugs, and what nobody has measured of a motor."""

from collections.abc import Iterator, Mapping

from pocketspark.core.chain import Chain, ChosenCell, Running
from pocketspark.core.chain.charging import BoardCharging, Charging
from pocketspark.core.chain.strain import RESISTOR_W, first_peak_reset, regulator_heat
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import CHARGE_COLD_C, CHARGE_FROZEN_C
from pocketspark.core.models.build import CELL_LEADS, CellLead
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, celsius, fixed, ohms, percent, volts, watts

# A small regulator in a closed case: warm enough to soften print and glue, and where its chip shuts down (common
# practice, no source).
REGULATOR_WARM_C, REGULATOR_DEAD_C = 85.0, 125.0
# A cell that nobody says more of gives so many times its capacity in an hour (common practice, no source).
UNKNOWN_CELL_WARM_C, UNKNOWN_CELL_MOST_C = 2.0, 5.0
# Contacts of plugs on cells' leads, A, from memory of such connectors' drawings.
PLUG_A: Mapping[CellLead, float] = {"small_plug": 1.0, "common_plug": 2.0}
# Charge left where a peak resets the gadget, as a share, that is worth a caution (our judgement, no source).
RESET_NOTE, RESET_CAUTION = 0.10, 0.30
# The charger's end current is this uncertain (its comparator beside its K, common practice, no source).
END_CURRENT_OFF = 0.30


@rule(
    "charge.cold",
    station="charge",
    node="cell",
    source="charging temperatures of lithium cells' data sheets, 0 or 10 to 45 C, from memory",
    limits=lambda: f"caution under {celsius(CHARGE_COLD_C)}, never under {celsius(CHARGE_FROZEN_C)}",
)
def cold(charging: Charging) -> Iterator[Judgement]:
    """Lithium plates out where a cell is charged cold: slowly under 10 C, at once under 0 C."""
    room_c = min(charging.chain.gadget.shell.room_c, CHARGE_FROZEN_C if charging.build.cold else 100.0)
    air, coldest = celsius(room_c), celsius(CHARGE_FROZEN_C)
    facts = {"figure": air, "rests_on": ("gadget.shell.room_c",)}
    if room_c < CHARGE_FROZEN_C:
        yield stop(
            f"Never charge it at {air}: under {coldest} lithium plates out, and the cell may short later.",
            limit=coldest,
            working="It may run in the cold. Bring it indoors, let it warm up for an hour, then charge it.",
            **facts,
        )
    elif room_c < CHARGE_COLD_C:
        yield caution(
            f"Charging at {air} wears the cell: warm it to {celsius(CHARGE_COLD_C)} first, or charge at a tenth of its "
            "capacity an hour.",
            limit=celsius(CHARGE_COLD_C),
            working="Running in the cold does no harm. Charge indoors.",
            **facts,
        )
    else:
        yield fine(f"It is charged at {air}, warm enough for the cell.", **facts)


@rule(
    "power.regulator_hot",
    station="power",
    node="regulator",
    source="P = V_in I_in - V_out I_out; theta of small packages, from memory",
    formula="T = T_room + P (theta + 1 / (h A)), full cell",
    limits=lambda: (
        f"warm {celsius(REGULATOR_WARM_C)}, shuts down {celsius(REGULATOR_DEAD_C)}; resistor {watts(RESISTOR_W)}"
    ),
)
def regulator_hot(running: Running) -> Iterator[Judgement]:
    """What a regulator, a diode or a dropping resistor turns to heat, by its package."""
    heat = regulator_heat(running)
    if heat is None or heat.watts < 0.005:
        return
    regulator, burnt = running.chain.regulator, watts(heat.watts)
    own = regulator.theta_ja_c_per_w is not None
    facts = {"figure": burnt, "subjects": (heat.mode.name,)}
    if regulator.kind == "resistor":
        if heat.watts > RESISTOR_W:
            yield stop(
                f"The dropping resistor burns {burnt}: a usual one stands {watts(RESISTOR_W)}.",
                limit=watts(RESISTOR_W),
                working="Take one of twice that rating, in free air, or two in series.",
                **facts,
            )
        elif heat.watts > RESISTOR_W / 2:
            yield caution(f"The dropping resistor burns {burnt}: take one made for twice as much.", **facts)
        return
    hot = celsius(heat.hottest_c)
    working = f"“{heat.mode.name}”, full cell: {burnt}, {'its own' if own else 'a usual'} package"
    if heat.hottest_c > REGULATOR_DEAD_C:
        yield stop(
            f"The {regulator.name} shuts down or dies: {burnt} would heat it to {hot}.",
            limit=celsius(REGULATOR_DEAD_C),
            working=f"{working}. A step-down converter burns a fraction; or a larger package on a patch of copper.",
            assumed=not own,
            **facts,
        )
    elif heat.hottest_c > REGULATOR_WARM_C:
        yield caution(
            f"The {regulator.name} gets hot: {burnt} heat it to about {hot}. Keep it off cell and printed parts.",
            limit=celsius(REGULATOR_WARM_C),
            working=working,
            assumed=not own,
            **facts,
        )


@rule(
    "power.resets_on_peak",
    station="power",
    node="gadget",
    source="the gadget's window and peak; open-circuit curve and resistances",
    limits=f"note from {percent(RESET_NOTE)} of the charge left, caution from {percent(RESET_CAUTION)}",
)
def resets_on_peak(running: Running) -> Iterator[Judgement]:
    """A peak may pull the gadget under its lowest volts long before the cell is empty."""
    reset = first_peak_reset(running)
    if reset is None or reset.left < RESET_NOTE:
        return
    needs, peak, left = volts(running.chain.window.v_run_min), amps(reset.mode.most_a), percent(reset.left)
    facts = {
        "figure": left,
        "limit": needs,
        "subjects": (reset.mode.name,),
        "working": f"“{reset.mode.name}”: {volts(reset.cell_v)} in the cell, through {ohms(running.chosen.all_ohm)}, "
        f"at {peak} leave the gadget {needs}",
        "rests_on": ("gadget.window.v_run_min",),
        "assumed": running.chain.window.min_basis == "inferred",
    }
    if reset.left >= 0.98:
        yield stop(f"It resets at once: the {peak} peak pulls even a full cell under the {needs} it needs.", **facts)
        return
    say = caution if reset.left >= RESET_CAUTION else note
    yield say(f"It resets with {left} of the charge left: its {peak} peak then leaves it less than {needs}.", **facts)


@rule("power.motor_unknown", station="power", node="gadget", source="stall current V / R, common practice")
def motor_unknown(chain: Chain) -> Iterator[Judgement]:
    """A stalled motor takes V / R; without its winding nobody knows whether protection and cell bear that."""
    if chain.gadget.front_end == "motor" and not chain.gadget.behind.winding_ohm:
        yield note(
            "Nobody has measured the motor's winding, so what it takes when it is held fast cannot be said.",
            working="Unhook the motor, turn its shaft a little between readings, and take the lowest ohms.",
            subjects=("gadget.behind.winding_ohm",),
        )


@rule(
    "cell.discharge_unstated",
    station="cell",
    source="common practice, no source",
    limits=f"{UNKNOWN_CELL_WARM_C:.0f}C caution, {UNKNOWN_CELL_MOST_C:.0f}C stop",
)
def discharge_unstated(running: Running) -> Iterator[Judgement]:
    """Without a data sheet, a peak of several times the capacity an hour is more than a small cell should give."""
    if running.chosen.discharge_max_a is not None or not running.runs:
        return
    peak, rate = amps(running.peak_cell_a), running.peak_cell_a / running.chosen.capacity_ah
    warm = amps(UNKNOWN_CELL_WARM_C * running.chosen.capacity_ah)
    facts = {"figure": peak, "limit": warm, "rests_on": (f"{running.chosen.path}.discharge_max_a",), "assumed": True}
    so_fast = f"{fixed(rate, 1)}C"
    if rate > UNKNOWN_CELL_MOST_C:
        yield stop(f"The gadget's peak takes {peak} ({so_fast}) from a cell of which nothing is stated.", **facts)
    elif rate > UNKNOWN_CELL_WARM_C:
        yield caution(
            f"The gadget's peak takes {peak} ({so_fast}); without a data sheet a small cell should give {warm}.",
            working="Look for its discharge rating, or take a larger cell, or two in parallel.",
            **facts,
        )


@rule("wire.plug_rating", station="wire", node="cell", source="drawings of such connectors, from memory")
def plug_rating(running: Running) -> Iterator[Judgement]:
    """A plug on the cell's lead has contacts of an ampere or two."""
    rated_a = PLUG_A.get(running.build.cell_lead)
    if rated_a is None or not running.runs:
        return
    peak, stands = amps(running.peak_cell_a), amps(rated_a)
    if peak.value > stands.value:
        yield caution(
            f"The cell's plug is made for {stands}, and {peak} may flow: its contacts get hot.",
            figure=peak,
            limit=stands,
            working=f"{CELL_LEADS[running.build.cell_lead][0]}. Solder the leads, or take the larger plug.",
            remedy=remedy("Solder the cell's leads", {f"{running.chain.path}.cell_lead": "soldered"}),
        )
    else:
        yield fine(f"The cell's plug stands {stands}; {peak} flow at most.", figure=peak, limit=stands)


@rule("cell.dummy_unprotected", station="cell", source="common practice, no source")
def dummy_unprotected(chosen: ChosenCell) -> Iterator[Judgement]:
    """A cell that is taken out to be charged has left every board behind: it needs its own protection."""
    if chosen.chain.build.cell_comes_out and chosen.cell.own_protection is None:
        yield stop(
            "This cell is taken out to be charged, and has no protection of its own.",
            working="Loose in a pocket it may be shorted by a key. Take one with its own protection on its end.",
            remedy=remedy("It has its own protection", {f"{chosen.path}.own_protection": True}),
        )


@rule(
    "charge.end_near_load",
    station="charge",
    source="end current of linear chargers, common practice",
    limits=f"the load under the end current less {percent(END_CURRENT_OFF)}",
)
def end_near_load(charging: BoardCharging) -> Iterator[Judgement]:
    """A load that comes near to the charger's end current hides it on some boards and not on others."""
    ends, load = charging.current.termination_a, float(charging.load_while_charging.current(charging.charger.float_v))
    least = ends * (1 - END_CURRENT_OFF)
    if least < load < ends:
        yield caution(
            f"The charge may never end: the gadget's {amps(load)} come near to the {amps(ends)} at which it stops.",
            figure=amps(load),
            limit=amps(least),
            working="The end current of such boards is off by a third either way. Switch it off while it charges.",
        )


@rule("charge.no_socket", station="charge", node="source", source="common practice, no source")
def no_socket(chain: Chain) -> Iterator[Judgement]:
    """5 V through the board's own socket needs a board that has one."""
    boards = chain.charger_boards
    if chain.build.who_charges != "board" or not boards:
        return
    if not chain.build.input.facts.on_board or boards[0].socket is not None:
        return
    if boards[0].name in chain.build.shell_off:
        return
    yield stop(
        f"No 5 V can come in: {boards[0].name} has pads and no socket.",
        working="A Type-C socket on a plate of its own has 5100 ohm from each CC pin to ground, a hole and a stop.",
        remedy=remedy("Wire a socket of its own to it", {f"{chain.path}.input.kind": "wired_socket"}),
        subjects=(boards[0].name,),
    )
