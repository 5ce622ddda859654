"""Every language has every text, with the names that stand in it, and a reader of it meets no other."""

import ast
import json
import re
from string import Formatter

import pytest
from babel.messages.pofile import read_po
from fastapi.testclient import TestClient

from catalogue import PAGES
from pocketspark.core.message import FACTS, say, say_of
from pocketspark.core.models.load_line import read_load, written
from pocketspark.core.models.supply import Supply
from pocketspark.core.refusal import SENTENCES
from pocketspark.core.units.figures import days
from pocketspark.core.units.reading import read_as
from pocketspark.parts import library
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.wording import language_of, languages, reader_named
from pocketspark.wording.catalogues import LANGUAGES
from sentences import SOURCE, counted_sentences, sentences

OTHERS = [code for code in languages() if code != "en"]
GERMAN = reader_named("comma.de")
GIVEN = re.compile(r"\{(\w+)\}")


def catalogue(code):
    with (LANGUAGES / f"{code}.po").open("rb") as file:
        return read_po(file, locale=code)


def names_in(text):
    return {name for _, name, _, _ in Formatter().parse(text) if name is not None}


@pytest.mark.parametrize("code", OTHERS)
def test_every_sentence_of_the_sources_is_there_and_none_that_is_gone(code):
    counted = {pair.one: pair.many for pair in counted_sentences()}
    single = {one.template for one in sentences()} - {""} - counted.keys() - set(counted.values())
    held = {entry.id if isinstance(entry.id, str) else entry.id[0]: entry for entry in catalogue(code) if entry.id}
    assert single | counted.keys() <= held.keys()
    constants = {
        " ".join(node.value.split())
        for path in SOURCE.rglob("*.py")
        for node in ast.walk(ast.parse(path.read_text()))
        if isinstance(node, ast.Constant) and isinstance(node.value, str)
    }
    shipped = {(part.board or part.cell).name for part in library().parts}
    left = {" ".join(text.split()) for text in held} - {" ".join(text.split()) for text in (*single, *counted)}
    assert left <= constants | shipped
    assert set(SENTENCES.values()) <= held.keys()


@pytest.mark.parametrize("code", OTHERS)
def test_a_translation_has_the_names_of_its_sentence_and_says_something(code):
    checked = 0
    for entry in catalogue(code):
        ids = [entry.id] if isinstance(entry.id, str) else [*entry.id]
        strings = [entry.string] if isinstance(entry.string, str) else [*entry.string]
        if not ids[0]:
            continue
        assert len(strings) == len(ids)
        for text, translation in zip(ids, strings, strict=True):
            assert translation.strip(), text
            assert names_in(translation) == names_in(text), text
            checked += 1
    assert checked > 3000


@pytest.mark.parametrize("file", sorted(PAGES.glob("*.json")), ids=lambda file: file.stem)
def test_the_pages_catalogue_is_whole(file):
    texts = json.loads(file.read_text())
    assert len(texts) > 1000
    for text, translation in texts.items():
        assert translation.strip(), text
        assert sorted(set(GIVEN.findall(translation))) == sorted(set(GIVEN.findall(text))), text


def test_page_and_core_have_the_same_languages():
    assert {file.stem for file in PAGES.glob("*.json")} == set(OTHERS)


def test_whoever_asks_for_what_there_is_not_reads_english():
    assert language_of(["fr-CA", "de-AT", "en"]) == "de"
    assert language_of(["xx"]) == "en"
    assert reader_named("in.F").language == "en"
    assert str(say("nothing known says this")) == say("nothing known says this").text(GERMAN)


def test_counts_and_figures_are_as_a_german_has_them():
    # Words by hand, from the language and not from the catalogue.
    one, three = (say_of(count, "one joint", "{count} joints").text(GERMAN) for count in (1, 3))
    assert (one, three) == ("eine Lötstelle", "3 Lötstellen")
    assert days(3.25).text(GERMAN) == "3,2 Tage"
    assert Supply(battery="AAA", series=3).label.text(GERMAN) == "3 x AAA, Alkali"


@pytest.mark.parametrize(
    ("typed", "english"),
    [
        ("62 mA, 3 h jeden Abend", "62 mA, 3 h each evening"),
        ("18 mA für 2 s jede Minute, 60 μA im Schlaf", "18 mA for 2 s every minute, 60 μA asleep"),
        ("62 mA, 3 h am Tag; April bis Oktober", "62 mA, 3 h a day; April to October"),
        ("900 mA für 1 s, 20 Mal am Tag", "900 mA for 1 s, 20 times a day"),
        ("0,5 A den ganzen Tag", "0.5 A all day"),
    ],
)
def test_a_load_is_typed_in_german_or_english_and_means_the_same(typed, english):
    with read_as(GERMAN):
        meant = read_load(typed)
        assert read_load(english) == meant
        again = str(written(meant.drawn, meant.asleep_a or 0, meant.months or ()))
        assert read_load(again) == meant
    assert read_load(english) == meant


def test_an_answer_is_in_the_language_of_whoever_asks_and_what_is_stored_in_none(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=True)), base_url="http://127.0.0.1") as client:
        english = client.get("/api/projects").json()
        german = client.get("/api/projects", headers={"Accept-Language": "de-DE,de;q=0.9,en;q=0.8"}).json()
        picked = client.get("/api/projects", headers={"Cookie": "units=mm.C.comma.de"}).json()
        assert client.get("/api/projects").json() == english
        by_browser, by_cookie, said = (one[0]["summary"]["supply"] for one in (german, picked, english))
        assert "Alkali" in by_browser
        assert by_browser == by_cookie != said
        asked = {"line": "12 V", "document": {"gadget": {"name": "lamp"}}}
        refused = client.post("/api/questions/load", headers={"Accept-Language": "de"}, json=asked)
        assert "Schreibe die Einheit" in refused.text


def test_a_label_is_stored_as_the_sources_have_it():
    with read_as(GERMAN):
        from pocketspark.core.models.tools import CALIPERS
        from pocketspark.server.reference import reference

        tables = reference()
        assert tables.model_dump(mode="json")["calipers"][2]["label"] == "ein Lineal"
        assert tables.model_dump(mode="json", context=FACTS)["calipers"][2]["label"] == CALIPERS["ruler"].label
