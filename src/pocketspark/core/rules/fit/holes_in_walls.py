"""What shows in a wall, its hole, and what is behind it."""

from collections.abc import Iterator

from pocketspark.core.finding import Judgement
from pocketspark.core.fit.allowances import STOP_MM
from pocketspark.core.fit.build_in_bay import IN_BAY, FittedBuild
from pocketspark.core.fit.openings import WEB_MM, meeting
from pocketspark.core.fit.plug_way import BEHIND_MM
from pocketspark.core.message import say
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule
from pocketspark.core.units.figures import as_typed, millimetres, sizes


@rule(
    "fit.socket_deep",
    station="fit",
    source="plug bodies of Type-C and Micro-B, from memory",
    limits=say("{most}", most=millimetres(0.5)),
    advice=say("Cut the hole for the plug's body, or bring the socket to the wall."),
)
def socket_deep(fitted: FittedBuild) -> Iterator[Judgement]:
    """A socket that lies deep needs a hole for the plug's plastic body, or the plug does not seat."""
    for hole in fitted.answer.openings:
        if hole.for_plug:
            size = sizes(hole.width_mm, hole.height_mm)
            yield note(
                say(
                    "The {side} wall needs a {size} opening: the whole plug has to enter, the socket sits too deep.",
                    side=hole.side,
                    size=size,
                ),
                working=say("{part}: {hole}", part=hole.part, hole=hole.says),
                subjects=(hole.part, hole.side),
            )


@rule(
    "fit.holes_meet",
    station="fit",
    source="common practice, no source",
    limits=say("{web_mm} of wall between two", web_mm=as_typed(WEB_MM)),
    advice=say("Move one of the two, or make them one long opening."),
)
def holes_meet(fitted: FittedBuild) -> Iterator[Judgement]:
    """Two holes side by side must leave some wall between them, or they become one."""
    for first, second in meeting(fitted.answer.openings) if fitted.goes_in else ():
        yield caution(
            say(
                "In the {side} wall the {what} hole of {part} and the {what_2} hole of {part_2} would run "
                "into one: less than {web_mm} is left between them.",
                side=first.side,
                what=first.what,
                part=first.part,
                what_2=second.what,
                part_2=second.part,
                web_mm=millimetres(WEB_MM),
            ),
            limit=millimetres(WEB_MM),
            working=say("Hold one of them elsewhere along the wall, or open another wall."),
            rests_on=IN_BAY,
            subjects=(first.part, second.part, first.side),
        )


@rule(
    "fit.lamp_unseen",
    station="fit",
    source="geometry of the wall that may be opened",
    advice=say("Give the build a lamp on wires, or lead the board's light through a light pipe."),
)
def lamp_unseen(fitted: FittedBuild) -> Iterator[Judgement]:
    """The lamp beside a socket tells when the cell is full; without a hole nobody sees it."""
    answer = fitted.answer
    if not fitted.goes_in or any(one.kind == "lamp" for one in answer.placements):
        return
    seen = {hole.part for hole in answer.openings if hole.what == "lamp"}
    for one in answer.placements:
        if one.kind == "board" and one.face_side and one.part not in seen:
            yield note(
                say("No hole for the lamp of {part}: its wall has no room for one beside the socket.", part=one.part),
                working=say("The lamp shows when the charge has ended."),
                rests_on=IN_BAY,
                subjects=(one.part, one.face_side),
            )


@rule(
    "fit.socket_unsupported",
    station="fit",
    source="common practice, no source",
    advice=say("Glue a block or rib behind the board, against something that does not move."),
)
def socket_unsupported(fitted: FittedBuild) -> Iterator[Judgement]:
    """Something behind the board must take the push of the plug."""
    for placement in fitted.answer.placements if fitted.goes_in else ():
        if not placement.face_side or placement.kind not in ("board", "socket"):
            continue
        if placement.stop_mm:
            thick = millimetres(placement.stop_mm)
            yield fine(
                say("Behind {part} there is {thick} for a stop.", part=placement.part, thick=thick),
                figure=thick,
                subjects=(placement.part,),
            )
        else:
            yield note(
                say(
                    "Put a stop behind {part}: a glued block or rib carries the push of the plug.", part=placement.part
                ),
                working=say("Without it the socket is pushed in after a month. The fit keeps no room for one yet."),
                remedy=remedy(
                    say("Keep {stop_mm} for it", stop_mm=millimetres(STOP_MM)),
                    {f"{fitted.chain.path}.socket_stop_mm": STOP_MM},
                ),
                subjects=(placement.part,),
            )


@rule(
    "fit.cell_behind_plug",
    station="fit",
    source="common practice, no source",
    limits=say("{behind_mm} behind the hole", behind_mm=as_typed(BEHIND_MM)),
    advice=say("Glue a stiff strip between the hole and the cell, or open another wall."),
)
def cell_behind_plug(fitted: FittedBuild) -> Iterator[Judgement]:
    """A plug that is pushed in askew must not reach a cell."""
    for name in fitted.answer.behind_plugs if fitted.goes_in else ():
        yield caution(
            say("{cell} lies right behind the hole for the plug.", cell=name),
            limit=millimetres(BEHIND_MM),
            working=say("A plug that misses its socket pushes on the cell. No other place was found for it."),
            rests_on=IN_BAY,
            subjects=(name,),
        )
