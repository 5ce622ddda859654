"""Where the probes go at a checkpoint, as a picture made of data: the same kind of picture as the guide's."""

from pocketspark.core.guide import GuideDrawing, Lead, Symbol
from pocketspark.core.message import NOTHING, Value, as_message, say


def across(part: Value, red: Value, black: Value, shows: Value = "V") -> GuideDrawing:
    """Both probes at one part: red at this pad of it, black at that."""
    return GuideDrawing(
        symbols=(
            Symbol(kind="block", x=72, y=72, says=as_message(part), wide=120, high=96),
            Symbol(kind="meter", x=276, y=72, says=as_message(shows), wide=56),
        ),
        leads=(
            Lead(points=((132, 44), (136, 44), (276, 44), (276, 52)), says=say("red: {red}", red=red)),
            Lead(
                points=((132, 104), (136, 104), (276, 104), (276, 92)),
                role="minus",
                says=say("black: {black}", black=black),
            ),
        ),
    )


def between(one: Value, red: Value, other: Value, black: Value, shows: Value) -> GuideDrawing:
    """A probe at each of two things."""
    return GuideDrawing(
        symbols=(
            Symbol(kind="block", x=50, y=104, says=as_message(one), wide=92),
            Symbol(kind="block", x=270, y=104, says=as_message(other), wide=92),
            Symbol(kind="meter", x=160, y=40, says=as_message(shows), wide=56),
        ),
        leads=(
            Lead(points=((50, 84), (50, 40), (132, 40)), says=as_message(red)),
            Lead(points=((270, 84), (270, 40), (188, 40)), role="minus", says=as_message(black)),
        ),
    )


def in_series(source: Value, load: Value, shows: Value = "A") -> GuideDrawing:
    """The meter in the plus line, so that all that flows goes through it."""
    return GuideDrawing(
        symbols=(
            Symbol(kind="battery", x=48, y=72, says=as_message(source), wide=84),
            Symbol(kind="meter", x=160, y=40, says=as_message(shows), wide=56),
            Symbol(kind="gadget", x=272, y=72, says=as_message(load), wide=84),
        ),
        leads=(
            Lead(points=((48, 52), (48, 40), (132, 40))),
            Lead(points=((188, 40), (272, 40), (272, 52))),
            Lead(points=((272, 92), (272, 118), (48, 118), (48, 92)), role="minus"),
        ),
    )


def on_the_flat(part: Value) -> GuideDrawing:
    """A probe for degrees, taped to the middle of a part."""
    return GuideDrawing(
        symbols=(
            Symbol(kind="block", x=84, y=78, says=NOTHING, wide=136, high=72),
            Symbol(kind="strip", x=84, y=70, says=as_message(part), wide=48, high=16),
            Symbol(kind="meter", x=270, y=72, says=say("°C"), wide=56),
        ),
        leads=(Lead(points=((84, 70), (84, 24), (270, 24), (270, 52)), says=say("tape over the tip")),),
    )
