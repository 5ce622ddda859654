"""What the models accept, refuse, and say of themselves."""

import pytest
from pydantic import ValidationError

from builders import CELL, plan
from pocketspark.core.models import Board, Cell, Gadget, Project, Regulator, Supply, Window
from pocketspark.core.refusal import refusals


def sentence(model, **fields):
    with pytest.raises(ValidationError) as refused:
        model(**fields)
    return str(refusals(refused.value)[0])


def test_a_minimal_gadget_is_only_a_name():
    gadget = Gadget(name="rain gauge")
    assert gadget.supply.battery == "LR6"
    assert gadget.supply.chemistry == "alkaline"


def test_a_battery_is_known_by_either_name_and_comes_in_its_usual_chemistry():
    assert Supply(battery="aaa").battery == "LR03"
    assert Supply(battery="CR2032").chemistry == "lithium_manganese"


@pytest.mark.parametrize(
    ("model", "fields", "said"),
    [
        (Supply, {"battery": "LR99"}, "no battery called 'LR99'"),
        (Supply, {"battery": "CR2032", "chemistry": "nimh"}, "CR2032 is not made as nimh"),
        (Window, {"v_run_min": 4, "v_abs_max": 3}, "must be under the highest"),
        (Cell, {"capacity_ah": 0}, "capacity_ah: Enter a value from 0.001 to 100 Ah, not 0"),
        (Cell, {"capacity_ah": "lots"}, "'lots' is not a number; write it like 900 mAh or 0.9"),
        (Cell, {"capacity_ah": float("nan")}, "Enter a value from"),
        (Cell, {"capacity_ah": True}, "a number in Ah"),
        (Cell, {"capacity_ah": 1, "form": "round", "size_mm": [5, 34, 50]}, "2 figures, not 3"),
        (Cell, {"capacity_ah": 1, "size_mm": [0, 34, 50]}, "Enter a value from 0.1 to 1000 mm, not 0"),
        (Cell, {"capcity_ah": 1, "capacity_ah": 1}, "key is unknown; check its spelling"),
        (Regulator, {"kind": "ldo"}, "Enter the voltage (v_set)"),
        (Board, {"outline_mm": [5, 5]}, "at least 3"),
        (Gadget, {"name": " "}, "Enter a name"),
        (Gadget, {"name": "x", "modes": [{"current_a": 0.1, "hours_per_day": 20}] * 2}, "there are 24"),
    ],
)
def test_a_bad_value_is_refused_in_a_makers_words(model, fields, said):
    assert said in sentence(model, **fields)


def test_basis_is_what_is_noted_else_label_where_there_is_a_value_else_default():
    project = plan(basis={"builds.0.cell.capacity_ah": "measured"})
    assert project.basis_of("builds.0.cell.capacity_ah") == "measured"
    assert project.basis_of("builds.0.cell.charge_max_a") == "label"
    assert project.basis_of("builds.0.cell.measured_capacity_ah") == "default"
    assert project.basis_of("gadget.no.such.9.place") == "default"


def test_a_cell_says_what_to_plan_with():
    cell = Cell(**CELL)
    assert cell.planning_capacity_ah == 0.9
    assert cell.model_copy(update={"measured_capacity_ah": 0.7}).planning_capacity_ah == 0.7
    assert cell.model_copy(update={"own_protection": True}).protection is not None
    assert cell.protection is None


def test_one_refused_figure_does_not_put_its_lists_at_fault():
    # A list whose row is refused counts as too short as well, which says nothing to a maker.
    part = {"kind": "lamp", "name": "lamp", "size_mm": [5.3, "1k2", 3.9]}
    document = plan().model_dump(mode="json")
    document["builds"][0] |= {"small_parts": [part], "r_prog_ohm": "oops"}
    with pytest.raises(ValidationError) as refused:
        Project.model_validate(document)
    assert [refusal.field for refusal in refusals(refused.value)] == [
        "builds.0.r_prog_ohm",
        "builds.0.small_parts.0.size_mm.1",
    ]
    short = plan().model_dump(mode="json") | {"builds": []}
    with pytest.raises(ValidationError) as refused:
        Project.model_validate(short)
    assert [str(refusal) for refusal in refusals(refused.value)] == ["builds: Enter at least 1"]
