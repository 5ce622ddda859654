"""Figures that mean the same are the same: what they mean is learnt from where they agree.

Each figure of each answer has a place: the question, the field, and the sentence round it without its numbers. Places
whose figures agree in all demos but one, though they differ from demo to demo, are taken to mean the same; and where
they do not agree in that one, it is a fault or has its reason below.
"""

import json
import re
from collections import defaultdict
from itertools import combinations

import pytest

from every_question import MORE, QUESTIONS
from pocketspark.core.units import figures
from pocketspark.demo import demo_projects

OPENS, PARTS, CLOSES = "\ue000", "\ue001", "\ue002"
WRITTEN = re.compile(f"{OPENS}([^{PARTS}]*){PARTS}([^{PARTS}]*){PARTS}[^{CLOSES}]*{CLOSES}")
NUMBERS, NAMES = re.compile(r"\d[\d.]*"), re.compile("“[^”]*”")
# Of many parts at once, or of a log that is not of the build.
OF_OTHERS = (
    "regulators",
    "candidates",
    "log",
    "log-explained",
    "load",
    "load-log",
    "cell_volts",
    "resistor",
    "nonsense",
)
# What two places may differ in, by words of the one and of the other.
REASONS = [
    ("charge.r_prog_ohm|full in about", "resistor|fitted", "as measured on the board, and as it is bought"),
    ("charge.suggested", "resistor", "what would be chosen, and what the maker has chosen"),
    ("run.days", "served_days|reasons|sections", "days until it is dark, and days in which it does its job"),
    ("Up to # can flow", "AWG", "what charges it, and all that a wire may have to carry"),
]


@pytest.fixture(autouse=True)
def forms(monkeypatch):
    def saying_what_it_wrote(write):
        def written(figure, reader):
            return f"{OPENS}{figure.unit}{PARTS}{figure.value:.6g}{PARTS}{write(figure, reader)}{CLOSES}"

        return written

    monkeypatch.setattr(figures, "FORMS", {key: saying_what_it_wrote(write) for key, write in figures.FORMS.items()})


def texts_in(answer, path=""):
    if isinstance(answer, dict):
        for name, value in answer.items():
            yield from texts_in(value, f"{path}.{name}")
    elif isinstance(answer, list):
        for value in answer:
            yield from texts_in(value, f"{path}.*")
    elif isinstance(answer, str):
        yield path, answer


def figures_by_place(client, project):
    """Of this build: the one figure that stands at each place; places where several stand are left out."""
    found = defaultdict(set)
    body = {"document": project.model_dump(mode="json"), "build": "0"}
    for question in QUESTIONS:
        name = question.rsplit("/", 1)[-1]
        answer = client.post(question, json=body | MORE.get(question, {}))
        if name in OF_OTHERS or not answer.headers["content-type"].startswith("application/json"):
            continue
        for path, text in texts_in(json.loads(answer.text)):
            for at, figure in enumerate(WRITTEN.finditer(text)):
                words = NAMES.sub("“”", NUMBERS.sub("#", WRITTEN.sub("#", text)))
                unit, number = figure.groups()
                found[name, path, words, at, unit].add(float(number))
    return {place: next(iter(values)) for place, values in found.items() if len(values) == 1 and place[-1]}


def has_a_reason(*places):
    one, other = (" ".join(map(str, place)) for place in places)
    return any(
        (re.search(first, one) and re.search(second, other)) or (re.search(first, other) and re.search(second, one))
        for first, second, _ in REASONS
    )


def test_what_means_the_same_is_the_same_in_every_demo(client):
    demos = {one.gadget.name: figures_by_place(client, one) for one in demo_projects() if one.builds[0].cell}
    places = {place for by_place in demos.values() for place in by_place}
    assert len(places) > 400
    differ, alike = [], 0
    for one, other in combinations(sorted(places), 2):
        if one[-1] != other[-1]:
            continue
        both = [(of[one], of[other], name) for name, of in demos.items() if one in of and other in of]
        agree = [first for first, second, _ in both if first == second]
        if len(both) < 4 or len(set(agree)) < 3 or len(agree) < len(both) - 1:
            continue
        alike += 1
        if len(agree) < len(both) and not has_a_reason(one, other):
            differ.append((one, other, next(row for row in both if row[0] != row[1])))
    print(*differ, sep="\n")
    assert differ == []
    assert alike > 100
