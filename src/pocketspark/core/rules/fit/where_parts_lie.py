"""What is wrong with where parts lie, where nothing better was found."""

from collections.abc import Iterator

from pocketspark.core.finding import Judgement
from pocketspark.core.fit.build_in_bay import IN_BAY, FittedBuild
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM
from pocketspark.core.message import all_of, say
from pocketspark.core.rules.rule import caution, note, rule
from pocketspark.core.units.figures import as_typed, millimetres


@rule(
    "fit.no_way_in",
    station="fit",
    source="geometry: each part straight down, or down and then aside",
    advice=say("Cut the wall or rib in the way, or choose a part that can be turned while it goes in."),
)
def no_way_in(fitted: FittedBuild) -> Iterator[Judgement]:
    """A place for everything is worth nothing where it cannot be reached."""
    stuck = fitted.answer.stuck
    if fitted.goes_in and stuck:
        parts = all_of(stuck)
        yield caution(
            say(
                "No way in was found for {parts}: something lies above its place, straight down from the lid.",
                parts=parts,
            ),
            working=say(
                "Each part was tried straight down, and down and then sideways, the last one out first. It can "
                "still go in tilted, or with a rib trimmed. Try it before you solder anything, or place a part "
                "elsewhere."
            ),
            rests_on=IN_BAY,
            subjects=stuck,
        )


@rule(
    "fit.hot_side",
    station="fit",
    source="common practice, no source",
    limits=say("{least}", least=as_typed(3)),
    advice=say("Turn the board over, or put card or heat-proof tape between them."),
)
def hot_side(fitted: FittedBuild) -> Iterator[Judgement]:
    """A charger's warm face lies on the cell where no other place was found."""
    if fitted.answer.hot_against_cell:
        yield caution(
            say("The charger's warm side faces the cell: no other place was found for it."),
            working=say("A millimetre of air and a sheet of card between them, and a gentler current."),
        )


@rule(
    "fit.tips",
    station="fit",
    source="geometry: its middle over what carries it",
    advice=say("Glue a spacer under its free end, as high as what carries the rest of it."),
)
def tips(fitted: FittedBuild) -> Iterator[Judgement]:
    """What lies with its middle over nothing tips when it is pressed, or when the gadget is turned over."""
    for one in fitted.answer.stands if fitted.goes_in else ():
        if not one.middle_carried:
            yield note(
                say("{part} stands on {on} with its middle beyond it, so it tips.", part=one.part, on=one.on),
                working=say("No place was found in which it is carried better."),
                rests_on=IN_BAY,
                subjects=(one.part,),
            )


@rule(
    "fit.pads_shut_in",
    station="fit",
    source="common practice, no source; wire of 28 AWG with silicone, from memory",
    formula=say("the room left by all solids grown by half a wire is in one piece from pads to pads"),
    limits=say("{hook_up_wire_mm} of wire", hook_up_wire_mm=as_typed(HOOK_UP_WIRE_MM)),
    advice=say("Solder the wires before the board goes in, or leave room beside the pads."),
)
def pads_shut_in(fitted: FittedBuild) -> Iterator[Judgement]:
    """A part may fit where no wire can be led to its pads."""
    for name in fitted.answer.shut_in if fitted.goes_in else ():
        yield caution(
            say(
                "Where {name} lies, no wire of {hook_up_wire_mm} can reach its pads.",
                hook_up_wire_mm=millimetres(HOOK_UP_WIRE_MM),
                name=name,
            ),
            limit=millimetres(HOOK_UP_WIRE_MM),
            working=say(
                "Solder its wires before it goes in and lead them through a notch, or use a flat insulated strip "
                "where a wire is too thick. Or give it room: trim what shuts it in, move it, or put it outside."
            ),
            rests_on=IN_BAY,
            subjects=(name,),
        )
