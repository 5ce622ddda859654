"""What a guide to one measurement is: its steps, its picture as data, and the fields it fills."""

import itertools
from typing import Annotated, Literal

from pydantic import Field

from pocketspark.core.message import NOTHING, Message
from pocketspark.core.models.model import Model

Place = Annotated[tuple[float, ...], Field(min_length=2, max_length=2)]

SymbolKind = Literal[
    "battery", "meter", "gadget", "resistor", "capacitor", "bench_supply", "jack", "dummy", "caliper", "block", "strip"
]


class Symbol(Model):
    """One thing in the picture: its middle at x, y; `says` stands in or under it. `wide`, `high`: of a box."""

    kind: SymbolKind
    x: float
    y: float
    says: Message = NOTHING
    wide: float = 64
    high: float = 40


class Lead(Model):
    """A wire through these points. `role`: plus is red and whole, minus black and dashed, arrow shows a length."""

    points: tuple[Place, ...]
    role: Literal["plus", "minus", "arrow"] = "plus"
    says: Message = NOTHING


class GuideDrawing(Model):
    """Drawn on a sheet of 320 x 150."""

    symbols: tuple[Symbol, ...]
    leads: tuple[Lead, ...] = ()


class Guide(Model):
    """One measurement. `fields`: the last steps of the paths of the fields that it fills."""

    key: str
    title: Message
    gives: Message
    needs: Message
    steps: tuple[Message, ...]
    beware: Message
    fields: tuple[str, ...]
    picture: GuideDrawing


def loop(*symbols: Symbol, top: float = 40, bottom: float = 118) -> GuideDrawing:
    """Things in a row, joined to one loop: plus from the first over the top to the last, minus back below."""
    plus = [
        Lead(points=((one.x + one.wide / 2, top), (two.x - two.wide / 2, top)))
        for one, two in itertools.pairwise(symbols)
    ]
    first, last = symbols[0], symbols[-1]
    back = Lead(
        points=(
            (last.x, last.y + last.high / 2),
            (last.x, bottom),
            (first.x, bottom),
            (first.x, first.y + first.high / 2),
        ),
        role="minus",
    )
    return GuideDrawing(symbols=symbols, leads=(*plus, back))
