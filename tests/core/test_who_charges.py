"""Who charges, how the 5 V comes in, where it sits: three questions, and every answer to each with every other."""

import itertools

import pytest

from builders import CELL, board, finding, judged, plan
from pocketspark.core.chosen.prices import price_of_parts
from pocketspark.core.models import Project
from pocketspark.core.models.build import STYLES, WHO_CHARGES
from pocketspark.core.models.input_kind import INPUTS
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.compare import compare
from pocketspark.core.questions.shopping import shopping_list
from pocketspark.core.questions.summary import summary_of


def lines_of(made):
    bought = shopping_list(made, 0)
    return [*bought.to_buy, *bought.there]


OWN = {"supply": {"kind": "lithium", "own_charger": {"current_a": 0.3}}}
GENTLE = CELL | {"own_protection": True}


def charged_by(who, **changes):
    """A sound plan for this charger, with changes."""
    return (
        {
            "board": {"boards": [board()]},
            "gadget": {"boards": [], "gadget": OWN},
            "external": {"boards": [], "external_charger": {"current_a": 0.3}},
        }[who]
        | {"who_charges": who, "cell": GENTLE}
        | changes
    )


@pytest.mark.parametrize(("who", "way_in", "style"), itertools.product(WHO_CHARGES, INPUTS, STYLES))
def test_every_combination_is_told_how_long_how_hot_and_in_which_steps(who, way_in, style):
    """Hours by charge over current, a bound that knows no curve: the tail makes it longer, never shorter, and less than
    twice as long (constant current first, then a tail of an hour or two: data sheets of such cells, from memory)."""
    made = plan(**charged_by(who, input={"kind": way_in}, style=style))
    seen = judged(**charged_by(who, input={"kind": way_in}, style=style)).charging
    assert seen.who == who
    least_h = GENTLE["capacity_ah"] / seen.current_a
    assert least_h < seen.hours < 2 * least_h
    assert seen.cell_c_most >= 25.0
    steps = [step.key for step in build_steps(made, 0).steps]
    assert {"first_charge", "warmth", "full", "cell_last"} <= set(steps)
    assert ("resistor" in steps) is ("board_alone" in steps) is (who == "board")
    assert ("comes_out" in steps) is (who == "external" or style == "dummy_cell")
    # What is shaped like one battery of three leaves two places empty.
    assert ("dummies" in steps) is (style in ("stand_in", "dummy_cell") and made.gadget.supply.kind == "cells")


def test_a_cell_outside_stays_at_room_temperature_and_one_inside_does_not():
    """No watt of an external charger is burnt in the gadget's case."""
    inside, outside = (judged(**charged_by(who)).charging for who in ("gadget", "external"))
    assert outside.cell_c_most == pytest.approx(25.0, abs=0.1)
    assert inside.cell_c_most > outside.cell_c_most + 1


def test_a_pad_that_feeds_the_gadgets_own_charger_is_judged_as_any_pad():
    by_pad = charged_by("gadget", input={"kind": "wireless", "pad_ferrite": False, "pad_against_cell": True})
    assert finding(judged(**by_pad), "charge.wireless").level == "stop"
    wired, warmed = judged(**charged_by("gadget")), judged(**by_pad)
    assert warmed.charging.cell_c_most > wired.charging.cell_c_most + 1
    # A pad in the gadget does nothing to a cell that lies in a charger on the bench.
    assert (
        finding(judged(**charged_by("external", input={"kind": "wireless", "pad_ferrite": False})), "charge.wireless")
        is None
    )


def test_an_outside_pack_on_the_gadgets_own_charger_needs_no_board_of_ours():
    seen = judged(**charged_by("gadget", style="outside_pack"))
    assert finding(seen, "charge.no_charger") is None
    assert str(seen.path.nodes[1].figure) == "300 mA"
    assert "Fit a charge-current resistor" not in " ".join(str(f.headline) for f in seen.findings)


@pytest.mark.parametrize(
    ("style", "arrangement", "series", "rows", "empty"),
    [
        ("stand_in", "side_by_side", 3, 1, 2),
        ("dummy_cell", "side_by_side", 4, 1, 3),
        ("dummy_cell", "end_to_end", 3, 1, 0),
        ("stand_in", "end_to_end", 3, 1, 2),
        ("stand_in", "side_by_side", 1, 1, 0),
        ("stand_in", "side_by_side", 2, 2, 1),
        ("inside", "side_by_side", 3, 1, 0),
    ],
)
def test_each_place_that_stays_empty_has_its_dummy(style, arrangement, series, rows, empty):
    """In a row of batteries current passes through every place; a bridge in a row beside it would short the cell."""
    supply = {"battery": "LR03", "series": series, "parallel": rows}
    made = plan(**charged_by("board", style=style, gadget={"supply": supply, "arrangement": arrangement}))
    found = [row for row in bill_of_materials(made, 0) if str(row[1]).startswith("dummy AAA")]
    assert [row[0] for row in found] == ([empty] if empty else [])
    titles = [str(step.title) for step in build_steps(made, 0).steps if step.key == "dummies"]
    assert len(titles) == bool(empty)
    assert not titles or ("each of the" in titles[0]) is (empty > 1)


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"who_charges": "external", "external_charger": {}, "cell": GENTLE}, "its current is not known"),
        ({"who_charges": "board", "cell": None}, "needs a cell"),
    ],
)
def test_the_band_says_what_a_charger_waits_for(changes, says):
    """A board that is left in a build which is charged outside waits for nothing."""
    path = judged(**{"boards": [board()]} | changes).path
    [node] = [node for node in path.nodes if node.key == "charger"]
    assert str(node.detail) == says


def test_an_external_charger_is_on_the_bill_and_costs_what_it_costs():
    charger = {"current_a": 0.5, "float_v": 4.2}
    there, bought = (plan(**charged_by("external", external_charger=charger | price)) for price in ({}, {"price": 6.0}))
    for made, missing in ((there, 0), (bought, 1)):
        [row] = [row for row in bill_of_materials(made, 0) if "external charger" in str(row[1])]
        assert [*map(str, row)] == ["1", "external charger, 500 mA", "ends at 4.20 V"]
        [line] = [line for line in lines_of(made) if "external charger" in str(line.part)]
        assert line.missing == missing
    assert shopping_list(bought, 0).price == pytest.approx(shopping_list(there, 0).price + 6.0)
    assert price_of_parts(bought.builds[0]) == pytest.approx(price_of_parts(there.builds[0]) + 6.0)


def test_a_cell_that_is_taken_out_must_protect_itself():
    assert finding(judged(**charged_by("external", cell=CELL)), "cell.dummy_unprotected").level == "stop"
    assert finding(judged(**charged_by("external")), "cell.dummy_unprotected") is None


def test_the_wrong_charger_outside_is_stopped():
    """A 4.35 V charger on a 4.20 V cell, and 2 A into 0.9 Ah: both past what such a cell takes."""
    high = judged(**charged_by("external", external_charger={"current_a": 0.3, "float_v": 4.35}))
    fast = judged(**charged_by("external", external_charger={"current_a": 2.0}))
    assert finding(high, "cell.swap_class").level == "stop"
    assert finding(fast, "cell.swap_charge").level == "stop"


def test_a_board_beside_another_charger_is_told_with_its_cure():
    for who, level in (("gadget", "caution"), ("external", "note")):
        told = finding(judged(**charged_by(who, boards=[board()])), "charge.no_charger")
        assert (told.level, told.remedy.edits[0].value) == (level, "board")


def test_files_from_when_a_style_said_who_charges_are_read():
    document = plan(boards=[]).model_dump(mode="json")
    del document["builds"][0]["who_charges"]
    document["builds"][0]["style"] = "cell_swap"
    build = Project.model_validate(document).builds[0]
    assert (build.style, build.who_charges) == ("inside", "gadget")


def test_shelf_and_comparison_tell_its_hours_too():
    project = plan(**charged_by("external"))
    line = summary_of(project)
    assert str(line.charges).startswith("charges in 3 h")
    assert line.stage == "fits"
    told = {str(row.label): str(row.texts[0]) for row in compare(project, [0]).rows}
    assert (told["charge current"], told["full in about"][:3]) == ("300 mA", "3 h")
