"""Every figure of every answer: the same number of the same unit reads the same, wherever it stands.

Forms are made to say what they wrote, so that nothing is left out that an answer tells: findings, tables, steps, files.
All demos, and `chances.EXAMPLES` / 25 random builds, two dozen in a run of CI.
"""

import re
from collections import defaultdict

import pytest
from any_build import random_build

from chances import EXAMPLES, dice
from every_question import MORE, QUESTIONS
from pocketspark.core.units import figures
from pocketspark.demo import demo_projects

BUILDS, TURNS = min(EXAMPLES // 25, 200), 4
# Papers are packed, and have tests of their own; the causes of a log take long, and are asked of the demos alone.
ASKED = [path for path in QUESTIONS if not re.search("export/(sheet|certificate|drill)", path)]
SOON = [path for path in ASKED if "log-explained" not in path]
# Written for another purpose: as a meter showed it, a small difference, a change with its sign, a tolerance as printed,
# hours as a field that counts in hours takes them. Bare numbers have their unit in the words around them.
FORMS_APART = {
    *("apart", "read_volts", "millivolts", "signed_percent", "exact_percent", "exact_hours", "warmer", "bare_length")
}
OPENS, PARTS, CLOSES = "\ue000", "\ue001", "\ue002"
WRITTEN = re.compile(OPENS + f"([^{PARTS}]*){PARTS}" * 3 + f"([^{CLOSES}]*){CLOSES}")


def saying_what_it_wrote(write):
    def written(figure, reader):
        text = write(figure, reader)
        # More digits than usual: two currents are told apart there of which one is over the other.
        form = "apart" if figure.form == "engineering" and (figure.digits or 0) > 3 else figure.form
        return f"{OPENS}{form}{PARTS}{figure.unit}{PARTS}{figure.value:.9g}{PARTS}{text}{CLOSES}"

    return written


@pytest.fixture(autouse=True)
def forms(monkeypatch):
    monkeypatch.setattr(figures, "FORMS", {key: saying_what_it_wrote(write) for key, write in figures.FORMS.items()})


def figures_of(client, project, asked):
    """(form, unit, number, text) of everything that is answered about the first build."""
    body = {"document": project.model_dump(mode="json"), "build": "0"}
    for path in asked:
        answer = client.post(path, json=body | MORE.get(path, {}))
        if answer.headers["content-type"].startswith(("application/json", "application/problem+json", "text/")):
            text = answer.text
            yield from (match.groups() for match in WRITTEN.finditer(text))


def read_differently(client, project, asked=ASKED):
    texts, seen = defaultdict(set), 0
    for form, unit, number, text in figures_of(client, project, asked):
        seen += 1
        if unit and form not in FORMS_APART and float(number):
            texts[unit, number].add(text)
    assert seen > 100, project.gadget.name
    return {key: read for key, read in texts.items() if len(read) > 1}


@pytest.mark.parametrize("project", [one for one in demo_projects() if one.builds[0].cell])
def test_every_figure_of_a_demo_reads_the_same_everywhere(client, project):
    assert read_differently(client, project) == {}


@pytest.mark.parametrize("turn", range(TURNS))
def test_every_figure_of_any_build_reads_the_same_everywhere(client, turn):
    chance = dice("every figure", turn)
    for _ in range(BUILDS // TURNS):
        assert read_differently(client, random_build(chance), SOON) == {}
