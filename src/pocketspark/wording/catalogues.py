"""Catalogues of templates: `languages/de.po` makes German one of the languages, and nothing else names it.

A template without a translation is read in English, which is what the sources say.
"""

from collections.abc import Iterable
from dataclasses import replace
from functools import cache, partial
from gettext import GNUTranslations
from io import BytesIO
from pathlib import Path

from pocketspark.core.units.reading import ReadersUnits, reading_named

LANGUAGES = Path(__file__).parent / "languages"
SOURCE_LANGUAGE = "en"


@cache
def languages() -> tuple[str, ...]:
    """Codes of ISO 639-1, English first: "en", "de"."""
    return (SOURCE_LANGUAGE, *sorted(file.stem for file in LANGUAGES.glob("*.po")))


def language_of(wanted: Iterable[str]) -> str:
    """The first of these that there is, English where there is none. "de-AT" is content with "de"."""
    codes = (name.partition("-")[0].strip().lower() for name in wanted)
    return next((code for code in codes if code in languages()), SOURCE_LANGUAGE)


def in_language(reader: ReadersUnits, language: str) -> ReadersUnits:
    """The same reader in this language. What there is no catalogue of is read in English."""
    if language == SOURCE_LANGUAGE or language not in languages():
        return reader
    # By name: a reader goes to other processes, and a catalogue stays where it is.
    return replace(
        reader, language=language, translate=partial(_translated, language), plural=partial(_of_count, language)
    )


def reader_named(names: str, accepted: Iterable[str] = ()) -> ReadersUnits:
    """Of units and a language with points between: "in.F.comma.de"; without a language the first accepted one."""
    return in_language(reading_named(names), language_of([*names.split("."), *accepted]))


def _translated(language: str, template: str) -> str:
    return _catalogue(language).gettext(template)


def _of_count(language: str, one: str, many: str, count: int) -> str:
    return _catalogue(language).ngettext(one, many, count)


@cache
def _catalogue(language: str) -> GNUTranslations:
    from babel.messages.mofile import write_mo
    from babel.messages.pofile import read_po

    compiled = BytesIO()
    write_mo(compiled, read_po((LANGUAGES / f"{language}.po").open("rb"), locale=language))
    compiled.seek(0)
    return GNUTranslations(compiled)
