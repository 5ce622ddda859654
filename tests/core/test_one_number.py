"""One quantity is one text: on page, paper, terminal and shelf, of every demo and of random builds.

Two ways. Blind: two figures of one unit that are the same number to nine digits read the same, wherever they stand. By
meaning: what a quantity is told as elsewhere is found by the words around it, and is what the assessment has.
`chances.EXAMPLES` / 50: how many random builds.
"""

import re
from collections import defaultdict

from any_build import random_build

from chances import EXAMPLES, dice
from figures_in_words import AMPS, TIME, VOLTS, at
from offers import proposed, small_library
from pocketspark.cli import in_words
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.message import Listed, Message
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.candidates import candidates
from pocketspark.core.questions.compare import compare
from pocketspark.core.questions.scenarios import scenarios
from pocketspark.core.questions.sheet import sheet_of
from pocketspark.core.questions.summary import summary_of
from pocketspark.core.units.figures import Figure, shown
from pocketspark.demo import demo_projects

BUILDS = max(8, EXAMPLES // 50)

# By what the assessment has: where else it stands, and the words around it there.
MEANINGS = {
    "charging.current_a": [
        ("terminal", rf"Charge: (?:\S+ k?M?Ω, )?{AMPS}"),
        ("sheet", rf"{AMPS}, full in about"),
        ("compared", rf"^charge current: {AMPS}"),
        ("finding", rf"The board is set to {AMPS}"),
    ],
    "charge.current_most_a": [
        ("terminal", rf"\(\S+ \S+ to {AMPS}\)"),
        ("finding", rf"^Up to {AMPS} can flow"),
        ("finding", rf"charging current of {AMPS} through"),
    ],
    "charging.hours": [
        ("terminal", rf"full in about {TIME}"),
        ("sheet", rf"full in about {TIME}"),
        ("compared", rf"^full in about: {TIME}"),
        ("shelf", rf"^charges in {TIME}"),
        ("finding", rf"^The charge ends by itself after about {TIME}\."),
    ],
    "run.served_days": [
        ("terminal", rf"Lasts:  {TIME} as used"),
        ("terminal", rf"It lasts {TIME} on a charge"),
        ("sheet", rf"{TIME} as used"),
        ("compared", rf"^days as you use it: {TIME}"),
        ("shelf", rf"^lasts {TIME}"),
        ("cell list", rf"^days: {TIME}"),
        ("now", rf"^days: {TIME}"),
    ],
    "run.standby_days": [
        ("terminal", rf", {TIME} switched off"),
        ("sheet", rf", {TIME} switched off"),
        ("compared", rf"^switched off, lasts: {TIME}"),
        ("finding", rf"Switched off, a charge lasts {TIME}\."),
    ],
    "run.modes.0.hours": [
        ("terminal", rf"^Runs:   {TIME} lit[ ,]"),
        ("finding", rf"^A charge gives {TIME} of “lit”"),
    ],
    "cell.capacity_ah": [("compared", r"^cell holds: (.+)")],
    "gadget_v.max": [
        ("terminal", rf"Gadget: {VOLTS} to"),
        ("sheet", rf"{VOLTS} to \S+ V at the gadget"),
        ("compared", rf"^most at the gadget: {VOLTS}"),
    ],
    "gadget_v.min": [
        ("terminal", rf"Gadget: \S+ V to {VOLTS}"),
        ("sheet", rf"to {VOLTS} at the gadget"),
        ("compared", rf"^least at the gadget: {VOLTS}"),
    ],
    "run.protection.trip_least_a": [("finding", rf"opens at {AMPS} or more")],
    "run.protection.peak_a": [("finding", rf"^The {AMPS} peak passes")],
    "charge.r_prog_ohm": [
        ("terminal", r"Charge: (\S+ k?M?Ω)"),
        ("sheet", r"^(\S+ k?M?Ω), \d"),
        ("compared", r"^charge-current resistor: (\S+ k?M?Ω)"),
    ],
    "charge.junction_c_most": [("compared", r"^chip at most: (\d.*)")],
}


def surfaces(project):
    """(where, text) of everything that is read of the first build besides the assessment itself."""
    seen = assess(project)
    for line in in_words(seen).splitlines():
        yield "terminal", re.sub(r"^(PASS|NOTE|CAUTION|STOP) +", "", line)
    for finding in seen.findings:
        yield "finding", str(finding.headline)
    for line in sheet_of(project, 0).sections[0].lines:
        for part in str(line.text).split("; "):
            yield "sheet", part
    for row in compare(project, [0, 0]).rows:
        yield "compared", f"{row.label}: {row.texts[0]}"
    summary = summary_of(project)
    yield from (("shelf", str(summary.charges)), ("shelf", str(summary.runs)))
    [candidate] = candidates(project, 0, [project.builds[0].cell])
    now = scenarios(project, 0).conditions[0]
    for where, one in (("cell list", candidate), ("now", now)):
        if one.days is not None:
            yield where, f"days: {one.model_dump(mode='json')['days']['text']}"


def differing(project, found):
    """What stands elsewhere is noted in `found`, and yielded where it is another text."""
    seen = assess(project).model_dump(mode="json")
    everywhere = list(surfaces(project))
    for meaning, places in MEANINGS.items():
        for where, words in places:
            for one, text in everywhere:
                match = re.search(words, text) if one == where else None
                if match:
                    found.add((where, words))
                    if match[1] != at(seen, meaning):
                        yield project.gadget.name, meaning, at(seen, meaning), where, text


def figures_in(answer):
    """Every figure of an answer, also those within its texts."""
    if isinstance(answer, Figure):
        yield answer
    elif isinstance(answer, Message):
        yield from figures_in([value for _, value in answer.values])
    elif isinstance(answer, Listed):
        yield from figures_in(answer.items)
    elif isinstance(answer, dict):
        yield from figures_in(list(answer.values()))
    elif isinstance(answer, list | tuple):
        for one in answer:
            yield from figures_in(one)
    elif hasattr(answer, "model_fields_set"):
        yield from figures_in([getattr(answer, name) for name in type(answer).model_fields])


def some_builds():
    chance = dice("one number")
    return [project for project in demo_projects() if project.builds[0].cell] + [
        random_build(chance) for _ in range(BUILDS)
    ]


def test_what_is_told_of_a_quantity_is_the_same_everywhere():
    found = set()
    assert [one for project in some_builds() for one in differing(project, found)] == []
    # None of these words has fallen out of use.
    assert {(where, words) for places in MEANINGS.values() for where, words in places} - found == set()


# Where the same number is two things: a length of wire and of a wall, a limit that is written as it is stated.
FORMS_APART = {"bare_length", "exact_hours", "exact_percent", "millivolts", "fixed", "significant", "signed_percent"}


def test_figures_that_are_the_same_number_read_the_same():
    for project in some_builds():
        texts = defaultdict(set)
        answers = assess(project), compare(project, [0, 0]), scenarios(project, 0), build_steps(project, 0)
        for one in figures_in(answers):
            # More digits than usual tell two currents apart of which one is over the other.
            if one.form not in FORMS_APART and one.value and (one.digits or 0) <= 3:
                texts[one.unit, f"{one.value:.9g}"].add(shown(one).text)
        assert texts
        assert {key: read for key, read in texts.items() if len(read) > 1} == {}, project.gadget.name


def test_the_verdict_counts_the_holes_that_the_fit_cuts():
    for project in demo_projects():
        if project.builds[0].cell:
            cut = len(fit_of(project, 0).openings)
            said = str(assess(project).worth.reasons[-1].title)
            assert said == ("One hole that stays" if cut == 1 else f"{cut} holes that stay"), project.gadget.name


def test_a_proposal_costs_what_the_build_costs_that_it_becomes():
    project = demo_projects()[0]
    for one in proposed(project, small_library(3)).front[:8]:
        taken = project.apply(one.edits).model_copy(update={"builds": (one.plan,)})
        assert one.price == assess(taken).payback.parts_cost, one.name
