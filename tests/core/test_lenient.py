"""A document that is still being typed: what is refused counts as last stored, and nothing else of it is touched."""

import copy
import itertools

import pytest

from builders import plan
from chances import dice
from pocketspark.core.models.lenient import read_leniently
from pocketspark.demo import demo_projects

WORDS = "about ten"
DEMO = {project.gadget.name: project for project in demo_projects()}


def numbers_in(branch, path=()):
    """The place of every number, by the JSON alone."""
    if isinstance(branch, bool):
        return
    if isinstance(branch, int | float):
        yield path
    elif isinstance(branch, dict | list):
        for key, below in branch.items() if isinstance(branch, dict) else enumerate(branch):
            yield from numbers_in(below, (*path, key))


def typed(document, places):
    document = copy.deepcopy(document)
    for *above, last in places:
        branch = document
        for key in above:
            branch = branch[key]
        branch[last] = WORDS
    return document


def sets_of_places(places):
    """Every one alone, every two neighbours (figures of one measure, or of one row), and many at once."""
    thrown = dice("places")
    yield from ([place] for place in places)
    yield from itertools.pairwise(places)
    for share in (0.05, 0.2, 0.5, 0.9):
        yield [place for place in places if thrown.random() < share] or places[:1]
    yield places


@pytest.mark.parametrize("name", DEMO)
def test_words_in_any_numbers_leave_the_document_as_it_was_stored(name):
    stored = DEMO[name]
    document = stored.model_dump(mode="json")
    places = [place for place in numbers_in(document) if place != ("format",)]
    assert len(places) > 15
    for those in sets_of_places(places):
        read = read_leniently(typed(document, those), stored)
        assert read.project == stored, those
        assert read.refused


def test_a_group_of_which_three_places_are_refused_goes_and_nothing_above_it():
    document = plan().model_dump(mode="json")
    document["gadget"]["bay"]["tube"] = {"kind": "ldo"}
    read = read_leniently(document)
    assert read.project.gadget.name == document["gadget"]["name"]
    assert read.project.gadget.bay is not None
    assert {one.field for one in read.refused} >= {"gadget.bay.tube.diameter_mm", "gadget.bay.tube.length_mm"}
