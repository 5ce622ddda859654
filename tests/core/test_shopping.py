"""The shopping list: what is at hand is not bought, what is bought is told from what looks like it."""

import csv
import io

import pytest

from builders import plan
from pocketspark.core.cells.size_codes import read_size_code
from pocketspark.core.chain import Chain
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.models.inventory_item import Resistor
from pocketspark.core.questions.shopping import Owned, shopping_list
from pocketspark.demo import demo_projects
from pocketspark.formats.build_sheet import shopping_as_csv
from pocketspark.parts import library

READY = [project for project in demo_projects() if project.builds[0].cell]


@pytest.mark.parametrize("project", READY, ids=lambda project: project.gadget.name)
def test_everything_of_the_build_is_on_it(project):
    wanted = shopping_list(project, 0)
    names = " ".join(str(line.part) for line in (*wanted.to_buy, *wanted.there))
    build = project.builds[0]
    for part in (build.cell, *build.boards):
        assert part.name in names
    for extra in hook_up(Chain(project, 0)).parts.extra:
        assert extra == "link" or hook_up(Chain(project, 0)).parts.by_key[extra].name in names
    assert wanted.price == pytest.approx(sum((line.price or 0) * line.missing for line in wanted.to_buy), abs=0.006)
    assert len(set(wanted.tools)) == len(wanted.tools)


def test_what_is_at_hand_is_not_bought():
    project = plan()
    build = project.builds[0]
    own = [
        Owned("cell", build.cell.model_copy(update={"inventory_id": 7, "price": 1.0}), 1),
        Owned("3k", Resistor(r_ohm=3000, tolerance=0.01), 4),
    ]
    wanted = shopping_list(project, 0, own)
    assert {str(line.part) for line in wanted.there} == {build.cell.name, "resistor 3 kΩ"}
    two = plan(cell_count=2)
    assert shopping_list(two, 0, own).to_buy[0].missing == 1
    worse = [Owned("3k", Resistor(r_ohm=3000, tolerance=0.05), 4)]
    assert not shopping_list(project, 0, worse).there
    assert not shopping_list(project, 0, [Owned("gone", build.cell, 0)]).there


@pytest.mark.parametrize("part", library().of("cell"), ids=lambda part: part.id)
def test_a_cell_is_searched_by_the_code_that_is_printed_on_it(part):
    """Read back by the reader of size codes, which is written from the trade's way of printing them."""
    line = shopping_list(plan(cell=part.cell.model_dump(mode="json")), 0).to_buy[0]
    code = next((word for word in str(line.search).split() if word.isdigit() and len(word) >= 5), None)
    if part.cell.size_mm is None or any(mm >= 100 for mm in part.cell.size_mm):
        return
    if part.cell.form == "pouch":
        sizes = [reading.size_mm for reading in read_size_code(code)]
        assert any(all(abs(a - b) <= 0.5 for a, b in zip(size, part.cell.size_mm, strict=True)) for size in sizes)


def test_what_a_listing_hides_is_asked_for():
    # USB Type-C, from memory: a socket without 5.1 kohm from each CC pin gets nothing from a C-to-C cable
    charger = shopping_list(plan(), 0).to_buy[1]
    assert any("5.1 kΩ" in str(look) for look in charger.look_for)
    # LFP ends at 3.65 V (common practice): its charger is asked for by that
    lfp = {"name": "lfp", "capacity_ah": 0.6, "cell_class": "lfp", "size_mm": [14, 50], "form": "round"}
    cell = shopping_list(plan(cell=lfp), 0).to_buy[0]
    assert any("3.65 V" in str(look) for look in cell.look_for)


def test_as_csv_it_holds_what_is_to_buy_and_no_formula():
    project = plan(cell={"name": "=HYPERLINK(1)", "capacity_ah": 0.5, "size_mm": [5, 34, 50]})
    rows = list(csv.reader(io.StringIO(shopping_as_csv(shopping_list(project, 0)))))
    assert rows[0][:2] == ["quantity", "part"]
    assert rows[1][:2] == ["1", "'=HYPERLINK(1)"]
    assert "multimeter" in [row[1] for row in rows]
