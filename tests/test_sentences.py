"""Sentences are whole: one literal template each, a value for every name, in the words of docs/writing.md."""

import ast
import re
from pathlib import Path
from string import Formatter

from pocketspark.core.message import all_of, any_of, row_of, say, say_of, to_facts
from pocketspark.core.message import from_facts as read_again
from pocketspark.core.units.figures import amps, hours, millimetres, sizes
from pocketspark.core.units.reading import ReadersUnits
from sentences import SOURCE, sentences, spliced

INCHES = ReadersUnits("in", "F", "comma")
# Where a text that names a figure is no sentence of an answer: refusals of a model, which are read at once where they
# are typed, names of the document, and programs for other programs.
NOT_SENTENCES = (
    *("models/", "units/", "refusal.py", "merging.py", "kinds/regulators.py", "physics/", "proposals/judging.py"),
    "cells/sizes_sold.py",
)
# Words of ours that a maker would not use so.
NOT_OURS = re.compile(
    r"\bis computed with\b|\bmay be asked of\b|\bmay flow\b|\bcannot be meant\b|\bbelongs here\b|\bas it is meant\b"
    r"|\bno further than you dare\b|\bbears\b|\bmended\b|\bnobody has (said|measured|tried)\b|\bis told\b"
)


def names_in(template):
    return {name for _, name, _, _ in Formatter().parse(template) if name is not None}


def calls():
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("say", "say_of"):
                yield f"{path.relative_to(SOURCE)}:{node.lineno}", node


def test_every_sentence_is_a_literal_and_every_name_in_it_has_a_value():
    assert list(spliced()) == []
    seen = 0
    for place, call in calls():
        given = {keyword.arg for keyword in call.keywords}
        if None in given:  # shared figures are handed on as one
            continue
        counted = {"count"} if call.func.id == "say_of" else set()
        for template in call.args:
            if isinstance(template, ast.Constant) and isinstance(template.value, str):
                assert names_in(template.value) <= given | counted, place
                seen += 1
    assert seen > 700


def test_no_sentence_is_put_together_in_the_core():
    """A figure in an f-string would be written for one reader, and be found in no catalogue."""
    core = SOURCE / "core"
    for path in core.rglob("*.py"):
        if str(path.relative_to(core)).startswith(NOT_SENTENCES):
            continue
        tree = ast.parse(path.read_text())
        raised = {id(inner) for node in ast.walk(tree) if isinstance(node, ast.Raise) for inner in ast.walk(node)}
        for node in ast.walk(tree):
            if isinstance(node, ast.JoinedStr) and id(node) not in raised:
                words = "".join(part.value for part in node.values if isinstance(part, ast.Constant))
                assert len(re.findall(r"[A-Za-z]{2,}", words)) < 3 or " " not in words.strip(), (path.name, words)


def test_sentences_use_the_words_of_the_guide():
    for sentence in sentences():
        assert not NOT_OURS.search(sentence.template), sentence
    assert len({sentence.template for sentence in sentences()}) > 600
    assert "docs/writing.md" in (Path(__file__).parents[1] / "CONTRIBUTING.md").read_text()


def test_no_figure_that_readers_write_differently_stands_in_a_template():
    """A decimal mark, a length and a temperature are values; "UN 38.3" is a name, whoever reads."""
    for sentence in sentences():
        text = sentence.template.replace("UN 38.3", "")
        assert not re.search(r"\d\.\d|[\d}] (mm|cm)\b|[\d}] ?°[CF](?!/)", text), sentence


def test_one_message_reads_in_the_units_of_whoever_reads_it():
    message = say("{length} at {current}", length=millimetres(25.4), current=amps(0.0125))
    assert str(message) == "25.4 mm at 12.5 mA"
    assert message.text(INCHES) == "1 in at 12,5 mA"
    assert message == say("{length} at {current}", length=millimetres(25.4), current=amps(0.0125))


def test_lists_and_counts_are_the_librarys_business():
    assert str(say("{all}", all=all_of(["a", "b", "c"]))) == "a, b and c"
    assert str(any_of(["a", "b"])) == "a or b"
    assert str(row_of(["a", "", "b"])) == "a, b"
    assert not row_of(["", ""])
    assert [str(say_of(n, "1 wire", "{count} wires")) for n in (1, 2)] == ["1 wire", "2 wires"]


def test_what_is_stored_is_facts_and_comes_back_as_it_was():
    message = say_of(
        3, "one of {parts}", "{count} of {parts} in {h}", parts=row_of([sizes(1, 2), "x {y}"]), h=hours(4.3)
    )
    facts = to_facts(message)
    assert "4 h 20" not in str(facts)
    assert read_again(facts) == message
    assert str(read_again(facts)) == "3 of 1 x 2 mm, x {y} in 4 h 20"


def test_a_reader_of_another_language_gets_their_template():
    catalogue = {"{n} of it": "davon {n}", "and": "und"}
    german = ReadersUnits(translate=lambda template: catalogue.get(template, template))
    assert say("{n} of it", n=all_of(["a", "b"])).text(german) == "davon a und b"
