"""Figures that mean the same are the same: what they mean is learnt from where they agree.

Each figure and each count of each answer has a place: the question, the field, and the sentence round it without its
numbers. Places whose figures agree in nearly all builds, though they differ from build to build, are taken to mean the
same; and where they do not agree in one, it is a fault or has its reason below. All demos, and 50 random builds.
"""

import json
import re
from collections import defaultdict
from itertools import combinations

import pytest
from any_build import random_build

from chances import EXAMPLES, dice
from every_question import MORE, QUESTIONS
from pocketspark.core.units import figures
from pocketspark.demo import demo_projects

BUILDS = min(EXAMPLES // 12, 400)
OPENS, PARTS, CLOSES = "\ue000", "\ue001", "\ue002"
WRITTEN = re.compile(f"{OPENS}([^{PARTS}]*){PARTS}([^{PARTS}]*){PARTS}[^{CLOSES}]*{CLOSES}")
NUMBERS, NAMES = re.compile(r"\d[\d.]*"), re.compile("“[^”]*”")
# A whole number that is no part of a name, a decimal number or a figure: so many joints, wires, holes.
COUNTS = re.compile(r"(?<![\w.,-])\d+(?![\w-]|[.,]\d)")
# What tells the things of a list apart.
KEYS = ("code", "key", "name", "title", "label", "kind", "id")
# Of many parts at once, or of a log that is not of the build; files are held by number (test_every_figure.py).
OF_OTHERS = re.compile("regulators|candidates|/log|/load|cell_volts|resistor|nonsense|/export/|/printed/")
ASKED = [question for question in QUESTIONS if not OF_OTHERS.search(question)]
# What two places may differ in, by words of the one and of the other.
REASONS = [
    ("charge.r_prog_ohm|full in about", "resistor|fitted", "as measured on the board, and as it is bought"),
    ("charge.suggested", "resistor", "what would be chosen, and what the maker has chosen"),
    ("run.days|run_time", "served_days|reasons|sections|lasting|as new", "until it is dark, and while it does its job"),
    ("Up to # can flow", "AWG", "what charges it, and all that a wire may have to carry"),
    ("wire.thin", "of wire in", "the wire that loses most, and the thickest that is needed"),
    ("under_window", "used", "what is left in the cell where it is much, else what is used of it"),
    ("off_drain.working", "charge_ah", "drained while switched off, and used in a mode"),
    ("peak_at_empty", "protection", "a peak from a nearly empty cell, and the highest from any"),
    ("links|nodes", "at the gadget|nodes", "behind one part, and all that reach the gadget"),
    ("At its worst", "protection", "what flows on, and the peak of a cold filament"),
    ("two_regulators|regulators in a row", "under_window|gadget_v|in about", "as it is set, and at the end of a run"),
    ("[Pp]lugged|shared_window", "over_window|gadget_v|In use|worst|nodes|in about", "plugged in, and from the cell"),
    ("In use|nodes", "At its worst", "halfway through a charge, and in the worst state"),
    ("scenarios.*uses", "", "used otherwise while it charges"),
]


@pytest.fixture(autouse=True)
def forms(monkeypatch):
    def saying_what_it_wrote(write):
        def written(figure, reader):
            return f"{OPENS}{figure.unit}{PARTS}{figure.value:.6g}{PARTS}{write(figure, reader)}{CLOSES}"

        return written

    monkeypatch.setattr(figures, "FORMS", {key: saying_what_it_wrote(write) for key, write in figures.FORMS.items()})


def leaves_of(answer, path=""):
    """(place, text or whole number) of everything in an answer."""
    if isinstance(answer, dict):
        for name, value in answer.items():
            yield from leaves_of(value, f"{path}.{name}")
    elif isinstance(answer, list):
        for value in answer:
            yield from leaves_of(value, f"{path}.{key_of(value)}")
    elif isinstance(answer, str | int) and not isinstance(answer, bool):
        yield path, answer


def key_of(thing):
    keys = [thing[name] for name in KEYS if isinstance(thing.get(name), str)] if isinstance(thing, dict) else []
    return without_numbers(keys[0]) if keys else "*"


def without_numbers(text):
    return NAMES.sub("“”", NUMBERS.sub("#", WRITTEN.sub("#", text)))


def figures_in(leaf):
    """(words, which of their figures, unit, number) of a text, or of a whole number."""
    if isinstance(leaf, int):
        yield "", 0, "count", float(leaf)
        return
    words = without_numbers(leaf)
    for at, figure in enumerate(WRITTEN.finditer(leaf)):
        unit, number = figure.groups()
        yield words, at, unit or "count", float(number)
    for at, count in enumerate(COUNTS.finditer(NAMES.sub("“”", WRITTEN.sub("@", leaf)))):
        yield words, f"count {at}", "count", float(count[0])


def figures_by_place(client, project, asked=ASKED):
    """Of this build: the one figure that stands at each place; places where several stand are left out."""
    found = defaultdict(set)
    body = {"document": project.model_dump(mode="json"), "build": "0"}
    for question in asked:
        name = question.rsplit("/", 1)[-1]
        answer = client.post(question, json=body | MORE.get(question, {}))
        for path, leaf in leaves_of(json.loads(answer.text)):
            for words, at, unit, number in figures_in(leaf):
                found[name, path, words, at, unit].add(number)
    return {place: next(iter(values)) for place, values in found.items() if len(values) == 1}


def has_a_reason(*places):
    one, other = (" ".join(map(str, place)) for place in places)
    return any(
        (re.search(first, one) and re.search(second, other)) or (re.search(first, other) and re.search(second, one))
        for first, second, _ in REASONS
    )


def alike_and_differing(builds, least, share, values):
    """How many pairs of places mean the same, and those of them that differ in some build without a reason.

    They mean the same if they are met in at least `least` builds, agree in at least `share` of those, and do so with
    at least so many `values`.
    """
    by_place = defaultdict(dict)
    for name, figures_of_build in builds.items():
        for place, number in figures_of_build.items():
            by_place[place][name] = number
    often = sorted((place for place, by_build in by_place.items() if len(by_build) >= least), key=str)
    alike, differ = 0, []
    for one, other in combinations(often, 2):
        if one[-1] != other[-1]:
            continue
        first, second = by_place[one], by_place[other]
        both = first.keys() & second.keys()
        agree = [first[name] for name in both if first[name] == second[name]]
        if len(both) < least or len(agree) < share * len(both) or len(set(agree)) < values:
            continue
        alike += 1
        if len(agree) < len(both) and not has_a_reason(one, other):
            differ.append((one, other, next((first[n], second[n], n) for n in both if first[n] != second[n])))
    return alike, differ


def test_what_means_the_same_is_the_same_in_every_demo(client):
    demos = {one.gadget.name: figures_by_place(client, one) for one in demo_projects() if one.builds[0].cell}
    alike, differ = alike_and_differing(demos, least=4, share=0.75, values=3)
    print(*differ, sep="\n")
    assert differ == []
    assert alike > 100


# What would be measured next takes long.
SOON = [question for question in ASKED if "measure-next" not in question]


def test_what_means_the_same_is_the_same_in_any_build(client):
    chance = dice("same meaning")
    builds = {at: figures_by_place(client, random_build(chance), SOON) for at in range(BUILDS)}
    alike, differ = alike_and_differing(builds, least=15, share=0.85, values=5)
    print(*differ, sep="\n")
    assert differ == []
    assert alike > 80
