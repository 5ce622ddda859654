"""A load in the words of another language, said in those of this grammar: "3 h jeden Abend" is "3 h each evening"."""

import re

from pocketspark.core.message import _
from pocketspark.core.models.climate import MONTHS
from pocketspark.core.units.reading import reading

# What a catalogue has words for; the longer one is looked for first, where one is within another.
SPOKEN = (
    _("a day"),
    _("all day"),
    _("always"),
    _("and"),
    _("asleep"),
    _("at night"),
    _("at start"),
    _("daily"),
    _("each evening"),
    _("each morning"),
    _("each night"),
    _("every"),
    _("every day"),
    _("every hour"),
    _("every minute"),
    _("every second"),
    _("for"),
    _("hours"),
    _("minutes"),
    _("of every"),
    _("seconds"),
    _("times a day"),
    _("to"),
)


def in_english(text: str) -> str:
    """As the grammar reads it. English is understood in every language, so what is none of its words stays."""
    reader = reading()
    if reader.language == "en":
        return text
    said = {reader.translate(phrase): phrase for phrase in (*SPOKEN, *MONTHS)}
    for theirs in sorted(said, key=len, reverse=True):
        text = re.sub(rf"(?<!\w){re.escape(theirs)}(?!\w)", said[theirs], text, flags=re.IGNORECASE)
    return text
