"""Where it lives: water at a hole that was cut, heat of a parked car, and what is shaken."""

from collections.abc import Iterator

from pocketspark.core.chain import ChosenParts, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.models.climate import CLIMATES, Climate
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule
from pocketspark.core.units.figures import celsius, millimetres

# No lithium cell of this kind may be kept warmer (data sheets, from memory).
KEPT_MOST_C = 60.0
# Metal so near an aerial is heard in its range (common practice, no source).
AERIAL_CLEAR_MM = 20.0


def _lives_in(chain: ChosenParts) -> Climate | None:
    place = chain.gadget.shell.climate
    return None if place is None else CLIMATES[place]


@rule(
    "survey.wet_hole",
    station="survey",
    node="source",
    source="common practice, no source",
    advice=say("Let the hole face down and give it a cap with a seal, or charge it by contacts or a pad."),
)
def wet_hole(running: Running) -> Iterator[Judgement]:
    """A socket's hole in what stands in rain or steam lets water at the cell and its board."""
    chain, lives = running.chain, _lives_in(running.chain)
    way_in = chain.build.input.facts
    if lives is None or not lives.wet or chain.build.who_charges != "board":
        return
    if not way_in.opens_a_wall:
        yield fine(say("It lives where it gets wet, and no hole is cut for a socket."))
    elif chain.build.input.sealed:
        yield fine(say("The socket's hole has a cap or a seal."))
    else:
        yield caution(
            say("It lives where it gets wet, and the hole for its socket lets water in."),
            working=say("Water on a socket with 5 V eats its contacts; on the cell's board it is a short."),
            remedy=remedy(say("It gets a cap with a seal, facing down"), {f"{chain.path}.input.sealed": True}),
            subjects=("gadget.shell.climate",),
        )


@rule(
    "survey.damp_inside",
    station="survey",
    source="common practice, no source",
    advice=say("Lacquer the boards, not their sockets and contacts; leave a small hole at the lowest place."),
)
def damp_inside(running: Running) -> Iterator[Judgement]:
    """Warm days and cold nights draw damp air in, and it condenses on what is cold."""
    lives = _lives_in(running.chain)
    if lives is not None and lives.wet:
        yield note(
            say("Damp air condenses inside it: bare joints corrode within a winter or two."),
            subjects=("gadget.shell.climate",),
        )


@rule(
    "survey.parked_hot",
    station="survey",
    node="cell",
    source="storage temperature of data sheets; cars parked in the sun, from memory",
    limits=say("{kept}", kept=celsius(KEPT_MOST_C)),
    advice=say("Take it out of the car in summer, keep it in the shade, or leave it with batteries."),
)
def parked_hot(running: Running) -> Iterator[Judgement]:
    """On its worst day it may get hotter than a lithium cell may be kept."""
    lives = _lives_in(running.chain)
    if lives is None or lives.hottest_c is None:
        return
    hottest, kept = celsius(lives.hottest_c), celsius(KEPT_MOST_C)
    if lives.hottest_c > KEPT_MOST_C:
        yield caution(
            say(
                "On its worst day it gets {hottest} where it lives; its cell may be kept at {kept}.",
                hottest=hottest,
                kept=kept,
            ),
            figure=hottest,
            limit=kept,
            working=say("Hot and full it swells, and ages by a year in a summer."),
            subjects=("gadget.shell.climate",),
        )
    else:
        yield fine(say("It gets {hottest} at most where it lives.", hottest=hottest), figure=hottest, limit=kept)


@rule(
    "survey.shaken",
    station="survey",
    node="gadget",
    source="common practice, no source",
    advice=say("Use flexible wire, glue it down beside each joint, and strap the cell down."),
)
def shaken(running: Running) -> Iterator[Judgement]:
    """What is carried or driven about breaks its wires where the solder ends, and works a heavy cell loose."""
    if running.gadget.shell.is_shaken:
        yield note(
            say("It is shaken where it lives: wires break where the solder ends, and a heavy cell works loose."),
            subjects=("gadget.shell.moved",),
        )


@rule(
    "survey.aerial",
    station="survey",
    node="gadget",
    source="common practice, no source",
    limits=say("{apart}", apart=millimetres(AERIAL_CLEAR_MM, 0)),
    advice=say("Lay cell and boards at the far end from the aerial, and try its range before the case is closed."),
)
def aerial(running: Running) -> Iterator[Judgement]:
    """Metal beside an aerial, a cell's can or foil most of all, puts it out of tune."""
    gadget = running.gadget
    if gadget.receives is None or not running.chain.build.facts_of_style.in_the_gadget:
        return
    apart = millimetres(AERIAL_CLEAR_MM, 0)
    pad = running.chain.build.input.facts.over_a_gap
    yield note(
        say(
            "Keep the cell, its boards and the wireless pad {apart} from the aerial: metal puts it out of tune.",
            apart=apart,
        )
        if pad
        else say("Keep the cell and its boards {apart} from the aerial: metal puts it out of tune.", apart=apart),
        subjects=("gadget.receives",),
    )
