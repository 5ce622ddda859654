"""JSON that comes from outside, before any model reads it: no deeper than a document is, and in real characters."""

from collections.abc import Iterator
from typing import Annotated, Any

from pydantic import BeforeValidator

from pocketspark.core.models.model import refusal

# A document is some eight levels deep.
DEEPEST = 40


def sound(value: Any) -> Any:
    """The same value. Refuses one that is nested for its own sake, and halves of characters, which no file can hold."""
    level = [value]
    for _ in range(DEEPEST):
        for text in (entry for entry in level if isinstance(entry, str)):
            _require_real_characters(text)
        level = [inner for entry in level for inner in _inside(entry)]
        if not level:
            return value
    raise refusal("This is nested too deeply")


def _inside(value: Any) -> Iterator[Any]:
    if isinstance(value, dict):
        yield from value
        yield from value.values()
    elif isinstance(value, list):
        yield from value


def _require_real_characters(text: str) -> None:
    if text.isascii():
        return
    try:
        text.encode()
    except UnicodeEncodeError:
        raise refusal("This text has broken characters") from None


Document = Annotated[dict[str, Any], BeforeValidator(sound)]
AnyJson = Annotated[Any, BeforeValidator(sound)]
