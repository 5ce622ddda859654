"""Putting it together: wall, boards, wires, and the cell last, one lead insulated until then."""

from collections.abc import Iterable, Iterator

from pocketspark.core.chain import Chain, ChosenCell
from pocketspark.core.fit.answer import Placement, StandsOn
from pocketspark.core.fit.build_in_bay import FittedBuild, fitted_build
from pocketspark.core.fit.openings import Opening
from pocketspark.core.fit.standing import TAPE_MM, foam_in_words
from pocketspark.core.fit.styles import places_to_bridge
from pocketspark.core.kinds.wires import gauge
from pocketspark.core.limits import JOINED_OHM, RAIL_OHM
from pocketspark.core.message import Message, all_of, row_of, say, say_of
from pocketspark.core.steps.making import hold, step
from pocketspark.core.steps.probing import across
from pocketspark.core.steps.step import Step
from pocketspark.core.units.figures import amps, bare_length, fixed, length_unit, millimetres, ohms, sizes
from pocketspark.core.wiring.cutlist import cut_list

BRIDGES = ("fuse", "link")


def dry_fit(_chain: Chain) -> Step:
    return step(
        "dry_fit",
        say("Dry-fit everything, and lay the lid on"),
        say("Before cutting plastic: does it all go in, and does the lid lie flat?"),
        15,
    )


def open_wall(fitted: FittedBuild) -> Step:
    openings = fitted.answer.openings
    sockets = [hole for hole in openings if hole.what == "socket"]
    wall = say("{side} wall", side=sockets[0].side) if sockets else "wall"
    size = say(", {sizes}", sizes=sizes(sockets[0].width_mm, sockets[0].height_mm)) if sockets else ""
    return step(
        "open_wall",
        say("Open the {wall} from the drill template{size}", wall=wall, size=size),
        say("Small first, then filed to the line; after every pass the case still closes."),
        25,
        tools=(say("printed template at 100 %"), say("pilot drill"), say("files")),
        how=tuple(_where(hole) for hole in openings),
        caution=say("Goggles; the shell in a vice with soft jaws, never in the hand."),
    )


def plug_in(fitted: FittedBuild) -> Step:
    """Only now is there a hole for the plug."""
    through = "the hole" if len(fitted.answer.openings) == 1 else "its hole"
    return step(
        "plug_in",
        say("Close the case with everything in it, and plug the cable in through {through}", through=through),
        say("Does the plug seat to its end, and does the lid still lie flat?"),
        10,
    )


def _where(hole: Opening) -> Message:
    size = (
        say("{width_mm} round", width_mm=millimetres(hole.width_mm))
        if hole.round
        else sizes(hole.width_mm, hole.height_mm)
    )
    middle = say(
        "{across_mm} from the left edge, {up_mm} up",
        across_mm=millimetres(hole.across_mm),
        up_mm=bare_length(hole.up_mm),
    )
    return say(
        "{what}, {part}: {size} in the {side} wall, its middle {middle}; {hole}.",
        what=hole.what.capitalize(),
        part=hole.part,
        size=size,
        side=hole.side,
        middle=middle,
        hole=hole.says,
    )


# Glue and foam of the step before hold by then (common practice, no source).
GLUE_SETS_S = 1800


def comes_out(_chain: Chain) -> Step:
    """A cell that is taken out again and again."""
    return step(
        "comes_out",
        say("Make the cell go in one way only"),
        say("It is put back in the dark, and the wrong way round it kills what it feeds."),
        10,
        materials=(
            say("a plug that fits one way, or a rib beside one end"),
            say("a mark for plus, inside the lid too"),
        ),
        caution=say("Carried loose it needs a pouch or box of its own: keys short it."),
    )


def dummies(chain: Chain) -> Step:
    """What is shaped like one battery takes one place of several."""
    empty = places_to_bridge(chain.gadget, chain.build)
    common = chain.gadget.supply.size.common
    return step(
        "dummies",
        say_of(
            empty,
            "Put a dummy {common} into the other place",
            "Put a dummy {common} into each of the {count} other places",
            common=common,
        ),
        say("The old places are in a row: through each that stays empty the current has to pass."),
        10,
        materials=(say("dowel of the battery's length and width, two brass screws, thin wire, for each"),),
        how=(
            say("Put a screw into each end of the dowel, and join both by a wire."),
            say("Measure from end to end: under {joined}.", joined=ohms(JOINED_OHM)),
        ),
        caution=say("Take every old battery out first: beside the new cell it adds its volts."),
    )


def mount(chain: Chain) -> Step:
    fitted = fitted_build(chain)
    lying = fitted.answer.placements if fitted and fitted.goes_in else ()
    order = (*fitted.answer.order, *fitted.answer.stuck) if fitted else ()
    stands = {one.part: one for one in fitted.answer.stands} if fitted and lying else {}
    foam = sorted({one.foam_mm for one in stands.values() if one.foam_mm > TAPE_MM})
    thick = say("{thicknesses} {unit}", thicknesses=row_of(map(bare_length, foam)), unit=length_unit())
    return step(
        "mount",
        say("Mount the boards, support the socket from behind"),
        say("Without a stop behind it, the socket gets pushed in after a month."),
        20,
        materials=(
            say("double-sided foam, {thick}", thick=thick) if foam else say("double-sided foam"),
            say("glue"),
            say("a rib, block or printed cradle behind the socket"),
        ),
        how=(
            *(_laid(part, stands.get(name)) for name in order for part in lying if part.part == name),
            *_held_down(stands.values()),
        ),
        caution=say("Rub plastic with alcohol before glue; no hot glue straight on a pouch."),
    )


def _held_down(stands: Iterable[StandsOn]) -> Iterator[Message]:
    """What lies under the lid alone is held by foam on it: it would rattle otherwise."""
    for one in stands:
        if one.under_lid_mm is not None and one.under_lid_mm > TAPE_MM:
            room = millimetres(one.under_lid_mm)
            yield say(
                "Soft foam on the lid over {part}, where {room} are left; it holds and does not press.",
                part=one.part,
                room=room,
            )


def _laid(part: Placement, stands: StandsOn | None) -> Message:
    """In the order in which they go in, so that nothing has to come out again."""
    x, y, z = part.min_mm
    under = say("; {foam_in_words}", foam_in_words=foam_in_words(stands)) if stands else ""
    place = say(
        "{x} from the left wall, {y} from the front, {z} over the floor",
        x=millimetres(x),
        y=bare_length(y),
        z=bare_length(z),
    )
    return say("{part}: {turned}; {place}{under}.", part=part.part, turned=part.turned, place=place, under=under)


def bridged(chain: Chain) -> Step:
    """What was cut, or opens for good, and is reached round by something else."""
    names = all_of(extra.name for extra in chain.build.wiring.extra if extra.kind in BRIDGES)
    return step(
        "bridged",
        say("Join both sides of the {names}", names=names),
        say("A link that was taken out leaves two ends: one of them is easily forgotten."),
        10,
        tools=(say("fine soldering iron"), say("multimeter")),
        materials=(say("the fuse or link itself"), say("wire")),
        hold=hold(
            say("resistance across it"),
            "ohm",
            None,
            JOINED_OHM,
            say("from the one side's pad to the other's, unpowered, no cell"),
            "stop",
            say("one side is not joined"),
            say("the fuse has blown: find out why first"),
            picture=across("fuse or link", "one side", "other side", "Ω"),
        ),
    )


def sleeves(_chain: Chain) -> Step:
    return step(
        "sleeves",
        say("Shrink a sleeve over every bare joint of a lead"),
        say("A probe or a strand that joins two of them is then no short."),
        10,
        tools=(say("hot air, or the side of the iron"),),
        materials=(say("heat shrink"),),
        caution=say("No hot air at a pouch: tape there."),
    )


def wires(chain: Chain) -> Step:
    return step(
        "wires",
        say("Wire all but the cell, as drawn at Wire"),
        say("The cell is the one part that cannot be switched off."),
        30,
        wait_s=GLUE_SETS_S,
        tools=(say("fine soldering iron"), say("wire strippers")),
        materials=(_wire_wanted(chain), say("heat shrink")),
        caution=say(
            "Solder fumes: air. Tug each joint: one that moves is none. Tape or glue over wires where the solder ends: "
            "they break there."
        ),
    )


def seal(_chain: Chain) -> Step:
    return step(
        "seal",
        say("Seal it: lacquer on the boards, a cap or a seal at what was opened"),
        say("Where it lives, damp gets in and condenses; bare joints corrode."),
        15,
        materials=(say("lacquer for boards"), say("cap with a seal, or silicone")),
        caution=say("Lacquer and its fumes: air, and no flame. Not on the socket, the contacts, or the cell."),
    )


def fuse(chain: Chain) -> Step:
    return step(
        "fuse",
        say("Put the {holds} polyfuse into the cell's plus lead, in a sleeve", holds=amps(chain.build.fuse_a or 0.0)),
        say("Right at the cell: in front of it a short is still a short."),
        10,
        tools=(say("fine soldering iron"),),
        materials=(say("polyfuse"), say("heat shrink")),
        caution=say("Never solder on a bare can or pouch: on its lead alone, the other lead taped."),
    )


def _wire_wanted(chain: Chain) -> Message:
    cuts = cut_list(chain)
    metres = sum(cut.length_mm for cut in cuts) / 1000
    thickest = min((cut.awg for cut in cuts), default=0)
    return say(
        "{metres} m of wire in {len} lengths, {gauge} or thicker, as on the cut list",
        metres=fixed(metres, 2),
        len=len(cuts),
        gauge=gauge(thickest),
    )


def short_check(_chain: Chain) -> Step:
    return step(
        "short_check",
        say("Short check: each rail to ground, cell leads apart"),
        say("A short found with the cell on is found by smoke."),
        5,
        hold=hold(
            say("resistance of the supply rail"),
            "ohm",
            RAIL_OHM,
            None,
            say("between the wires to the gadget, its plus lead unhooked; no cell; wait until the reading has settled"),
            "stop",
            say("a whisker of solder"),
            say("plus and minus crossed on a board"),
            say("the gadget is still hooked on: a motor or a lamp reads as a short"),
            picture=across("wires to gadget", "plus wire", "minus wire", "Ω"),
        ),
    )


def case_check(_chain: Chain) -> Step:
    return step(
        "case_check",
        say("Metal case: no contact to the cell's side of the protection"),
        say("What touches the case and B- goes round the protection, and nothing shows it."),
        5,
        hold=hold(
            say("resistance from the case to B-"),
            "ohm",
            RAIL_OHM,
            None,
            say("one probe on bare metal of the case, the other on B-; no cell; all screwed in"),
            "stop",
            say("the shell of the socket touches its hole: widen it, or put tape round it"),
            say("the end of a wire touches the case"),
            say("the board lies on metal"),
            picture=across("case and board", "bare metal", "B-", "Ω"),
        ),
    )


def cell_volts(chosen: ChosenCell) -> Step:
    facts = chosen.cell.facts
    return step(
        "cell_volts",
        say("Measure the cell and its plug's polarity before it goes on"),
        say("Connectors are not standardised: a plug that fits can have the wrong polarity."),
        5,
        caution=say("Lithium: never puncture, bend, heat or short. Sand or a fire-proof bag within reach."),
        hold=hold(
            say("volts of the cell"),
            "V",
            facts.empty_v,
            facts.full_v,
            say("at its own leads, red on plus"),
            "stop",
            say("a minus sign: it is the other way round"),
            say("under its lowest: see its intake"),
            say("its own protection has tripped: a charger wakes it"),
            picture=across("cell", "plus lead", "minus lead"),
        ),
    )


def cell_last(_chain: Chain) -> Step:
    return step(
        "cell_last",
        say("Cell last: minus first, plus lead taped until then"),
        say("One lead insulated, so that nothing slips."),
        10,
        materials=(say("tape"),),
        caution=say("Never solder on a bare can or pouch: tabs only."),
    )
