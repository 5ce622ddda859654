"""How whoever asks wants numbers written. What is computed and stored stays mm, Celsius and a decimal point."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Literal, get_args

MM_PER_INCH = 25.4  # exact: International Yard and Pound Agreement, 1959
Length = Literal["mm", "in"]
Temperature = Literal["C", "F"]
Decimals = Literal["point", "comma"]


def _of_count(one: str, many: str, count: int) -> str:
    return one if count == 1 else many


@dataclass(frozen=True)
class ReadersUnits:
    """Units, decimal mark and language of what is written; numbers that are typed may be in any.

    `translate` finds a template of ours in the catalogue of this reader's language, `plural` that of a count; English
    is what the sources say.
    """

    length: Length = "mm"
    temperature: Temperature = "C"
    decimals: Decimals = "point"
    language: str = "en"
    translate: Callable[[str], str] = field(default=str, compare=False)
    plural: Callable[[str, str, int], str] = field(default=_of_count, compare=False)


METRIC = ReadersUnits()
_reading: ContextVar[ReadersUnits] = ContextVar("reading", default=METRIC)


def reading_named(names: str) -> ReadersUnits:
    """Of units with points between, in any order: "in.F.comma". What is no unit of ours is left aside."""
    named = names.split(".")
    lengths: list[Length] = [unit for unit in get_args(Length) if unit in named]
    temperatures: list[Temperature] = [unit for unit in get_args(Temperature) if unit in named]
    marks: list[Decimals] = [mark for mark in get_args(Decimals) if mark in named]
    return ReadersUnits(
        length=lengths[0] if lengths else METRIC.length,
        temperature=temperatures[0] if temperatures else METRIC.temperature,
        decimals=marks[0] if marks else METRIC.decimals,
    )


def reading() -> ReadersUnits:
    """As asked for in this context: of this request, this command, this test."""
    return _reading.get()


@contextmanager
def read_as(wanted: ReadersUnits) -> Iterator[None]:
    before = _reading.set(wanted)
    try:
        yield
    finally:
        _reading.reset(before)
