"""Every step that a build may have, in the order that is safe, with limits made from this very build.

Order and limits are common practice, no source. The cell comes last, one lead insulated until then.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.quantity import amps, ohms, volts
from pocketspark.core.rules.fit import fit_in_bay
from pocketspark.core.steps.model import Grade, Hold, Step

RESISTOR_OFF, SHAPER_OFF, CURRENT_OFF = 0.02, 0.03, 0.12
RAIL_OHM = 1000.0
CELL_V = (3.0, 4.2)
FULL_V = (4.15, 4.22)
WARM_C = 45.0
REST_DROP_V = 0.050


@dataclass(frozen=True)
class _Maker:
    """A step, and when it belongs to a build."""

    when: Callable[[Chain], bool]
    make: Callable[[Chain], Step]


def steps_of(chain: Chain) -> Iterator[Step]:
    for maker in _ORDER:
        try:
            if maker.when(chain):
                yield maker.make(chain)
        except MissingPart:
            continue


def _step(key: str, title: str, why: str, minutes: int, **more: object) -> Step:
    return Step.model_validate({"key": key, "title": title, "why": why, "minutes": minutes, **more})


def _always(_chain: Chain) -> bool:
    return True


def _photograph(_chain: Chain) -> Step:
    return _step("photograph", "Photograph everything as it is", "Afterwards nobody knows which wire was where.", 5)


def _prove_old(chain: Chain) -> Step:
    return _step(
        "prove_old",
        f"Prove that it works on {chain.gadget.supply.label}",
        "A gadget that was dead before is not mended by lithium.",
        5,
        caution="Alkaline cells hold caustic electrolyte: gloves and goggles for leaked ones, never open one.",
    )


def _measure_current(chain: Chain) -> Step:
    mode = chain.heaviest
    return _step(
        "current",
        f"Measure what it draws {mode.name}",
        "Everything that was planned rests on this number.",
        10,
        tools="multimeter on its current range",
        hold=_hold(
            "current",
            "A",
            mode.current_a * 0.8,
            mode.current_a * 1.2,
            "in series with the old batteries' plus",
            "caution",
            "the survey's figure was a guess: put this one into it",
            "another mode was on",
            "the meter's fuse or range",
        ),
    )


def _polarity(_chain: Chain) -> Step:
    return _step(
        "polarity",
        "Mark plus and minus at the gadget's terminals",
        "Found by meter, not by colour; a reversed board is dead at once.",
        5,
        tools="multimeter, marker",
    )


def _terminals(chain: Chain) -> Step:
    kept = chain.build.style in ("dummy_cell", "stand_in", "rebuilt_shell")
    if kept:
        return _step("terminals", "Clean the old terminals, leave them in", "This style uses them again.", 5)
    return _step(
        "terminals",
        "Take out the terminals and springs that are in the way",
        "Their room is needed, and nothing of them may touch the new wires.",
        15,
        tools="flush cutter, pliers",
        caution="Goggles: springs jump.",
    )


def _cut_path(chain: Chain) -> Step:
    fate = chain.gadget.inlet.fate
    words = {"diode": "Put the blocking diode in", "moved": "Move the old jack's wires to the charger board"}
    return _step(
        "old_path",
        words.get(fate, "Cut the old charge path"),
        "It has no voltage limit: one old adapter over-charges the cell.",
        10,
        hold=_hold(
            "resistance from the jack to the terminals",
            "ohm",
            100_000.0,
            None,
            "the jack's centre pin to the gadget's battery plus, unpowered",
            "stop",
            "a second track still joins them",
            "the diode is the other way round",
        ),
    )


def _resistor(chain: Chain) -> Step:
    wanted = chain.build.r_program_ohm or chain.suggested_r_ohm
    return _step(
        "resistor",
        f"Set the program resistor to {ohms(wanted)}",
        f"As delivered it gives what it was made for, not {amps(chain.spread_at(wanted).nominal_a)} as planned.",
        20,
        tools="fine iron, flux, wick, tweezers, tape",
        caution="Solder fumes: air. Board taped down; no force on a pad that is still cold.",
        hold=_hold(
            "resistance at the program pin",
            "ohm",
            wanted * (1 - RESISTOR_OFF),
            wanted * (1 + RESISTOR_OFF),
            "program pin to ground on the board: unpowered, no cell, no USB",
            "stop",
            "a cell or USB is connected and falsifies it",
            "another value was fitted: read its code",
            "one end is not soldered",
        ),
    )


def _board_alone(chain: Chain) -> Step:
    float_v = chain.charger.float_v
    return _step(
        "board_alone",
        "Prove the charger board alone on USB",
        "A dead board is found now, not in a closed case; it also shows which pads are which.",
        5,
        hold=_hold(
            "volts at the open B pads",
            "V",
            float_v - 0.4,
            float_v + 0.15,
            "B+ to B-, nothing connected to them",
            "stop",
            "5 V went to the USB out pads",
            "a Type-C socket without its resistors on a C-to-C cable",
            "a dead board",
        ),
    )


def _set_shaper(chain: Chain) -> Step:
    setting = chain.shaper.v_set or 0.0
    return _step(
        "shaper",
        f"Set and prove the {chain.shaper.name}",
        "Before it sees the gadget: an adjustable one may come set to anything.",
        10,
        hold=_hold(
            "volts at its output",
            "V",
            setting * (1 - SHAPER_OFF),
            setting * (1 + SHAPER_OFF),
            "OUT+ to OUT-, fed from a bench supply at 3.7 V, with a small load",
            "stop",
            "its trimmer is not set yet",
            "the input is below what it needs",
            "it is another type than its label says",
        ),
    )


def _dry_fit(_chain: Chain) -> Step:
    return _step(
        "dry_fit",
        "Dry-fit everything with the cable plugged in, and close the case",
        "Before cutting plastic. Does the lid lie flat, and does the plug seat?",
        15,
    )


def _open_wall(chain: Chain) -> Step:
    answer = fit_in_bay(chain)
    holes = [hole for hole in answer.openings if hole.what == "socket"] if answer else []
    where = f" in the {holes[0].side}" if holes else ""
    size = f", {holes[0].width_mm:.1f} x {holes[0].height_mm:.1f} mm" if holes else ""
    return _step(
        "open_wall",
        f"Open the wall{where} from the drill template{size}",
        "Small first, then filed to the line; after every pass the case still closes.",
        25,
        tools="printed template at 100 %, pilot drill, files",
        caution="Goggles; the shell in a vice with soft jaws, never in the hand.",
    )


def _mount(_chain: Chain) -> Step:
    return _step(
        "mount",
        "Mount the boards, support the socket from behind",
        "Without a stop behind it the socket is pushed in after a month.",
        20,
        caution="Rub plastic with alcohol before glue; no hot glue straight on a pouch.",
    )


def _wires(_chain: Chain) -> Step:
    return _step(
        "wires",
        "Wire all but the cell, as drawn at Wire",
        "The cell is the one part that cannot be switched off.",
        30,
        tools="iron, cut list, heat shrink",
        caution="Solder fumes: air. Tape or glue over wires where the solder ends: they break there.",
    )


def _short_check(_chain: Chain) -> Step:
    return _step(
        "short_check",
        "Short check: each rail to ground, cell leads apart",
        "A short found with the cell on is found by smoke.",
        5,
        hold=_hold(
            "resistance of the supply rail",
            "ohm",
            RAIL_OHM,
            None,
            "gadget plus to minus, switched on, no cell; wait until the reading has settled",
            "stop",
            "a whisker of solder",
            "plus and minus crossed at the gadget",
            "the gadget itself draws this much: compare with its current",
        ),
    )


def _cell_volts(chain: Chain) -> Step:
    facts = chain.cell.facts
    return _step(
        "cell_volts",
        "Measure the cell and its plug's polarity before it goes on",
        "Connectors are not standardised: the plug that fits may be the wrong way round.",
        5,
        caution="Lithium: never puncture, bend, heat or short. Sand or a fire-proof bag within reach.",
        hold=_hold(
            "volts of the cell",
            "V",
            max(CELL_V[0], facts.empty_v) if facts.full_v > 4 else facts.empty_v,
            max(CELL_V[1], facts.full_v),
            "at its own leads, red on plus",
            "stop",
            "a minus sign: it is the other way round",
            "under 3.0 V: see its intake",
            "its own guard has tripped: a charger wakes it",
        ),
    )


def _cell_last(_chain: Chain) -> Step:
    return _step(
        "cell_last",
        "Cell last: minus first, plus lead taped until then",
        "One lead insulated, so that nothing slips.",
        10,
        caution="Never solder on a bare can or pouch: tabs only.",
    )


def _output_volts(chain: Chain) -> Step:
    window = chain.window
    return _step(
        "output",
        "Measure the volts at the gadget's terminals in its heaviest mode",
        "Inside the window, under load, is what was planned.",
        5,
        hold=_hold(
            "volts at the gadget",
            "V",
            window.v_run_min,
            window.v_abs_max,
            "at the gadget's own terminals, heaviest mode on",
            "stop",
            "the shaper is not set",
            "a weak joint or a thin wire",
            "the guard has tripped: charge it for a moment",
        ),
    )


def _first_charge(chain: Chain) -> Step:
    planned = chain.spread.nominal_a
    return _step(
        "first_charge",
        "First charge, attended",
        "Stay with it, on a surface that does not burn; feel the cell every few minutes.",
        60,
        tools="USB meter in line",
        caution="Unplug at once when the cell is over 45 °C, smells, or swells.",
        hold=_hold(
            "charge current",
            "A",
            planned * (1 - CURRENT_OFF),
            planned * (1 + CURRENT_OFF),
            "USB meter in line, cell half empty",
            "caution",
            "another resistor is fitted than planned",
            "the board holds itself back: heat, or a thin cable",
            "the cell is nearly full",
        ),
    )


def _warmth(_chain: Chain) -> Step:
    return _step(
        "warmth",
        "Temperature of the cell after half an hour of charging",
        "Under 45 °C, better under 40.",
        30,
        wait_s=1800,
        hold=_hold(
            "temperature of the cell",
            "C",
            None,
            WARM_C,
            "probe on the flat of the cell",
            "stop",
            "the board or pad lies against it",
            "too much current for it",
            "a worn cell",
        ),
    )


def _full(chain: Chain) -> Step:
    float_v = chain.charger.float_v
    return _step(
        "full",
        "End of charge",
        "The lamp changes, and the cell stands at its float voltage.",
        10,
        hold=_hold(
            "volts of the cell",
            "V",
            float_v - (4.20 - FULL_V[0]),
            float_v + (FULL_V[1] - 4.20),
            "at the cell, right after the lamp changes",
            "stop",
            "the lamp changed early: the guard tripped, or a weak joint",
            f"over {volts(float_v)}: a wrong board for this cell, take it off",
        ),
    )


def _rest(_chain: Chain) -> Step:
    return _step(
        "rest",
        "Drop after an hour of rest",
        "A healthy cell settles and then stands.",
        5,
        wait_s=3600,
        hold=_hold(
            "drop in an hour",
            "V",
            None,
            REST_DROP_V,
            "at the cell, gadget off, nothing plugged in",
            "caution",
            "something still draws: see the drains at Power",
            "a cell that discharges itself: watch it for a day",
        ),
    )


def _close(_chain: Chain) -> Step:
    return _step(
        "close", "Close the case", "Foam where it rattles, nothing where it presses, no wire over the pouch.", 10
    )


def _run_down(chain: Chain) -> Step:
    run = chain.most_used
    planned = run.hours if run else 0.0
    return _step(
        "run_down",
        "Run it down once, and note how long it ran",
        "What was learnt goes back into the numbers.",
        15,
        hold=_hold(
            "hours until it stopped",
            "h",
            planned * 0.8,
            None,
            "a clock; or a log read at Prove",
            "caution",
            "the cell holds less than its label",
            "the gadget draws more than was measured",
            "it gives up at higher volts than surveyed",
        ),
    )


def _hold(
    quantity: str, unit: str, low: float | None, high: float | None, probes: str, grade: Grade, *likely: str
) -> Hold:
    return Hold(quantity=quantity, unit=unit, low=low, high=high, probes=probes, grade=grade, likely=likely)


def _has_modes(chain: Chain) -> bool:
    return any(mode.current_a > 0 for mode in chain.gadget.modes)


def _has_old_path(chain: Chain) -> bool:
    return chain.gadget.inlet.kind not in ("none", "lithium_charger") and chain.gadget.inlet.fate != "never_plugged_in"


def _has_charger(chain: Chain) -> bool:
    return bool(chain.chargers)


def _opens_a_wall(chain: Chain) -> bool:
    answer = fit_in_bay(chain)
    return answer is not None and bool(answer.openings)


def _goes_into_the_gadget(chain: Chain) -> bool:
    return chain.build.style not in ("outside_pack", "stand_alone", "dummy_cell")


_ORDER: Sequence[_Maker] = (
    _Maker(_always, _photograph),
    _Maker(_always, _prove_old),
    _Maker(_has_modes, _measure_current),
    _Maker(_always, _polarity),
    _Maker(_goes_into_the_gadget, _terminals),
    _Maker(_has_old_path, _cut_path),
    _Maker(_has_charger, _resistor),
    _Maker(_has_charger, _board_alone),
    _Maker(lambda chain: bool(chain.shaper.v_set), _set_shaper),
    _Maker(_goes_into_the_gadget, _dry_fit),
    _Maker(_opens_a_wall, _open_wall),
    _Maker(_always, _mount),
    _Maker(_always, _wires),
    _Maker(_always, _short_check),
    _Maker(_always, _cell_volts),
    _Maker(_always, _cell_last),
    _Maker(_has_modes, _output_volts),
    _Maker(_has_charger, _first_charge),
    _Maker(_has_charger, _warmth),
    _Maker(_has_charger, _full),
    _Maker(_always, _rest),
    _Maker(_always, _close),
    _Maker(lambda chain: chain.most_used is not None, _run_down),
)
