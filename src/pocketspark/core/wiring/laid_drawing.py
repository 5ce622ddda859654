"""The hook-up as it lies in the bay, seen from above: parts where the fit has put them, wires from pad to pad.

Lengths are mm from the bay's left and back; y grows downwards, so that the back is at the top.
"""

from pocketspark.core.chain import Chain
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.hookup.hookup import HookUp
from pocketspark.core.models.model import Model
from pocketspark.core.wiring.laid import Spot, laid_wires


class LyingPart(Model):
    """One part, the highest last."""

    name: str
    kind: str
    x: float
    y: float
    width: float
    height: float


class LyingPad(Model):
    """A pad that something is soldered to."""

    name: str
    label: str
    x: float
    y: float


class LyingWire(Model):
    """One wire of the cut list, from spot to spot."""

    letter: str
    start_x: float
    start_y: float
    end_x: float
    end_y: float


class LaidDrawing(Model):
    """Everything at once."""

    width: float
    height: float
    parts: tuple[LyingPart, ...]
    pads: tuple[LyingPad, ...]
    wires: tuple[LyingWire, ...]


def draw_as_laid(chain: Chain, hookup: HookUp, answer: FitAnswer | None) -> LaidDrawing | None:
    """None where nothing has a place yet, or all of it lies in a tube: from above that is one line."""
    if answer is None or not answer.placements or answer.tube_mm:
        return None
    length, width = answer.size_mm[:2]

    def seen(spot: Spot) -> Spot:
        return spot[0], width - spot[1]

    wires = laid_wires(chain, hookup, answer)

    def lying(letter: str, start: Spot, end: Spot) -> LyingWire:
        return LyingWire(letter=letter, start_x=start[0], start_y=start[1], end_x=end[0], end_y=end[1])

    spots = {pad: at for wire in wires for pad, at in ((wire.wire.start, wire.start), (wire.wire.end, wire.end))}
    return LaidDrawing(
        width=length,
        height=width,
        parts=tuple(
            LyingPart(
                name=one.part,
                kind=one.kind,
                x=one.min_mm[0],
                y=width - one.max_mm[1],
                width=one.max_mm[0] - one.min_mm[0],
                height=one.max_mm[1] - one.min_mm[1],
            )
            for one in sorted(answer.placements, key=lambda one: one.max_mm[2])
        ),
        pads=tuple(
            LyingPad(name=pad, label=pad.split(".")[1], x=seen(at)[0], y=seen(at)[1]) for pad, at in spots.items()
        ),
        wires=tuple(lying(w.wire.letter, seen(w.start), seen(w.end)) for w in wires),
    )
