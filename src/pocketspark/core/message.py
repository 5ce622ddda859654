"""A text as facts: one literal English template, and what stands for the names in it.

What is computed, stored and kept for later holds messages. They become text in the units and the language of whoever
reads, at the edge: when an answer is written as JSON, on paper, on a terminal.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal, get_args

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler, PlainSerializer, SerializationInfo
from pydantic_core import CoreSchema, core_schema

from pocketspark.core.units.figures import FACTS, Figure, Lengths, UnitName
from pocketspark.core.units.reading import METRIC, ReadersUnits, reading

Joint = Literal["and", "or", ",", ";", " + ", " ‖ ", " x ", " ", "Aa"]


@dataclass(frozen=True)
class Listed:
    """Several things in one text: "a, b and c". Of one thing, "Aa" makes the beginning of a sentence."""

    items: tuple[Value, ...]
    joint: Joint = "and"

    def text(self, reader: ReadersUnits) -> str:
        texts = [text_of(item, reader) for item in self.items]
        if self.joint == "Aa":
            return f"{texts[0][:1].upper()}{texts[0][1:]}"
        if self.joint not in ("and", "or") or len(texts) < 2:
            return (f"{self.joint} " if self.joint in (",", ";") else self.joint).join(texts)
        return f"{', '.join(texts[:-1])} {reader.translate(self.joint)} {texts[-1]}"

    def __str__(self) -> str:
        return self.text(reading())


@dataclass(frozen=True)
class Message:
    """`template` is found in the catalogues by itself; `many` is used in its place where `count` is not 1."""

    template: str
    values: tuple[tuple[str, Value], ...] = ()
    many: str = ""
    count: int = 1

    def text(self, reader: ReadersUnits) -> str:
        """As this reader has it. Names of a template that nobody gave a value are an error of ours: KeyError."""
        if not self.template:
            return ""
        if self.many:
            template = reader.plural(self.template, self.many, self.count)
        else:
            template = reader.translate(self.template)
        return template.format_map({name: text_of(value, reader) for name, value in self.values})

    def __str__(self) -> str:
        return self.text(reading())

    def __bool__(self) -> bool:
        return bool(self.template)

    def __getitem__(self, name: str) -> Value:
        """What stands for this name."""
        return dict(self.values)[name]

    # As a field of a model: text for whoever reads, facts where it is stored ------------------------------------

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(
            _message, serialization=core_schema.plain_serializer_function_ser_schema(_written, info_arg=True)
        )

    @classmethod
    def __get_pydantic_json_schema__(cls, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"type": "string"}


Value = Figure | Lengths | UnitName | Message | Listed | str | int
NOTHING = Message("")


def _(template: str) -> str:
    """Marks a template that stands apart from its `say`, so that it is found for the catalogues."""
    return template


def say(template: str, /, **values: Value) -> Message:
    """A message of this template. The template is a literal, so that catalogues can be made from the sources."""
    return Message(template, tuple(values.items()))


def say_of(count: int, one: str, many: str, /, **values: Value) -> Message:
    """One template for a count of 1 and one for all others; both may name {count}."""
    return Message(one, (("count", count), *values.items()), many, count)


def once(messages: Iterable[Message]) -> tuple[Message, ...]:
    """Each once, as it reads: figures that are rounded to the same text are one, however they were computed."""
    seen: dict[str, Message] = {}
    for message in messages:
        seen.setdefault(message.text(METRIC), message)
    return tuple(seen.values())


def verbatim(text: str) -> Message:
    """What somebody typed or a part is called: the same in every language."""
    return Message(text.replace("{", "{{").replace("}", "}}"))


def as_message(value: Value) -> Message:
    """A figure, a name or a list by itself as a message."""
    if isinstance(value, Message):
        return value
    return verbatim(str(value)) if isinstance(value, str | int) else Message("{value}", (("value", value),))


def all_of(items: Iterable[Value]) -> Message:
    """ "a, b and c"."""
    return _list_of(items, "and")


def any_of(items: Iterable[Value]) -> Message:
    """ "a, b or c"."""
    return _list_of(items, "or")


def row_of(items: Iterable[Value], joint: Joint = ",") -> Message:
    """ "a, b, c"; or with another sign between them."""
    return _list_of(items, joint)


def _list_of(items: Iterable[Value], joint: Joint) -> Message:
    kept = tuple(item for item in items if item)
    return Message("{items}", (("items", Listed(kept, joint)),)) if kept else NOTHING


def capitalised(message: Message) -> Message:
    """The same, as the beginning of a sentence."""
    return Message("{begins}", (("begins", Listed((message,), "Aa")),))


def text_of(value: Value, reader: ReadersUnits) -> str:
    """A name that is one of ours (of a wall, a kind, a part) is translated; whatever else was typed stays as it is."""
    if isinstance(value, str):
        return reader.translate(value) if value else value
    return str(value) if isinstance(value, int) else value.text(reader)


def _label(text: str, info: SerializationInfo) -> str:
    return text if info.context is FACTS or not text else reading().translate(text)


# The name of a choice or a kind, in English in the sources: whoever reads an answer has it in their own language.
Label = Annotated[str, PlainSerializer(_label, when_used="json")]


def messages_in(value: Any) -> Iterator[Message]:
    """Every message in an answer, at any depth, those within other messages after them."""
    if isinstance(value, Message):
        yield value
        yield from messages_in([inner for _, inner in value.values])
    elif isinstance(value, Listed):
        yield from messages_in(value.items)
    elif isinstance(value, Mapping):
        yield from messages_in(list(value.values()))
    elif isinstance(value, list | tuple):
        for inner in value:
            yield from messages_in(inner)
    elif hasattr(value, "__dict__"):
        yield from messages_in(vars(value))


# Facts as they are stored -----------------------------------------------------------------------------------------


def _written(message: Message | str, info: core_schema.SerializationInfo) -> Any:
    if info.mode == "python":
        return message
    if isinstance(message, str):  # put there past the validator
        return message
    return to_facts(message) if info.context is FACTS else str(message)


def _message(value: Any) -> Message:
    """As an answer that was stored has it: facts, or a text of before there were any."""
    if isinstance(value, Message):
        return value
    if isinstance(value, str):
        return verbatim(value)
    if isinstance(value, dict):
        read = from_facts(value)
        if isinstance(read, Message):
            return read
    raise ValueError("a message, or its facts, belongs here")


def to_facts(value: Value) -> Any:
    """As JSON that names no reader."""
    match value:
        case Message(template, values, many, count):
            facts: dict[str, Any] = {"says": template, "with": {name: to_facts(inner) for name, inner in values}}
            return facts | ({"many": many, "count": count} if many else {})
        case Listed(items, joint):
            return {"list": [to_facts(item) for item in items], "joint": joint}
        case Figure(amount, unit, form, digits):
            return {"value": amount, "unit": unit, "form": form, "digits": digits}
        case Lengths(lengths, digits, with_unit):
            return {"lengths": list(lengths), "digits": digits, "with_unit": with_unit}
        case UnitName(quantity):
            return {"unit_of": quantity}
    return value


def _whole(number: Any) -> int:
    return number if isinstance(number, int) else 1


def from_facts(facts: object) -> Value:
    """The value again. Raises ValueError where these are no facts of ours."""
    match facts:
        case str() | int():
            return facts
        case {"says": str(template), "with": dict(values), **rest}:
            pairs = tuple((str(name), from_facts(inner)) for name, inner in values.items())
            return Message(template, pairs, str(rest.get("many", "")), _whole(rest.get("count", 1)))
        case {"list": list(items), "joint": joint} if joint in get_args(Joint):
            return Listed(tuple(from_facts(item) for item in items), joint)
        case {"value": int() | float() as amount, "unit": str(unit), "form": str(form), "digits": digits}:
            return Figure(float(amount), unit, form, digits)
        case {"lengths": list(lengths), "digits": digits, "with_unit": bool(with_unit)}:
            return Lengths(tuple(map(float, lengths)), digits, with_unit)
        case {"unit_of": str(quantity)}:
            return UnitName(quantity)
    raise ValueError("these are no facts of a text")
