"""Families of parts that a planner has to think of: resistors worked out, a data sheet's current, what stays."""

from dataclasses import replace

import pytest

from builders import plan
from offers import of, proposed, small_library
from pocketspark.core.chain import Chain
from pocketspark.core.models import Cell
from pocketspark.core.proposals import Wishes
from pocketspark.core.proposals.lighting import for_what_glows
from pocketspark.core.proposals.offer import Offered

# IEC 60063, E24, written out from the standard's table.
E24 = {
    float(f"{x}e{n}")
    for n in (-1, 0, 1)
    for x in [
        "10",
        "11",
        "12",
        "13",
        "15",
        "16",
        "18",
        "20",
        "22",
        "24",
        "27",
        "30",
        "33",
        "36",
        "39",
        "43",
        "47",
        "51",
        "56",
        "62",
        "68",
        "75",
        "82",
        "91",
    ]
}
LED = {
    "front_end": "led_resistor",
    "supply": {"battery": "LR6", "series": 2},
    "behind": {"design_v": 3.0, "led_v": 2.0},
    "modes": [{"name": "lit", "current_a": 0.06, "hours_per_day": 1}],
    "bay": {"rooms": [{"size_mm": [90, 60, 22]}], "wall_mm": 0.5},
    "window": {"v_run_min": 2.1, "v_abs_max": 3.3},
}


def with_sold_resistor(offer):
    return replace(
        offer, regulators=[*offer.regulators, *(Offered(one) for one in of("regulator", "dropping", most=2))]
    )


def test_a_dropping_resistor_is_worked_out_for_the_leds():
    """By Ohm's law: a full cell less the LEDs' volts, over the current that they were designed for."""
    project = plan(gadget=LED, r_prog_ohm=None)
    found = proposed(project, with_sold_resistor(small_library(2)), Wishes())
    dropped = [
        next(each.regulator.series_ohm for each in one.plan.boards if each.regulator)
        for one in found.front
        if any(each.regulator and each.regulator.kind == "resistor" for each in one.plan.boards)
    ]
    assert dropped
    for ohm in dropped:
        assert min(abs(ohm - value) for value in E24) < 1e-6
        # The gadget's own resistor is (3.0 - 2.0) / 0.06; at 4.20 V no more than a tenth over the design's 60 mA.
        assert 0.05 < (4.2 - 2.0) / ((3.0 - 2.0) / 0.06 + ohm) <= 0.066


def test_ones_own_resistor_stays_and_nothing_is_made_up_for_what_does_not_glow():
    offer = with_sold_resistor(small_library(2))
    mine = Offered(of("regulator", "dropping", most=1)[0].model_copy(update={"name": "from the drawer"}), own=True)
    kept = for_what_glows(offer, plan().gadget)
    assert kept == offer
    assert for_what_glows(replace(offer, regulators=[mine]), plan().gadget).regulators == [mine]
    only = proposed(plan(gadget=LED, r_prog_ohm=None), replace(offer, regulators=[mine]), Wishes()).front
    assert {each.name for one in only for each in one.plan.boards if each.regulator} <= {"from the drawer"}


def test_a_cell_whose_data_sheet_allows_more_is_charged_faster():
    quick = Cell(name="quick", capacity_ah=0.25, size_mm=(6, 30, 25), charge_max_a=0.5, price=3.0)
    slow = quick.model_copy(update={"name": "slow", "charge_max_a": 0.25})
    project = plan(gadget={"bay": LED["bay"], "shell": {"closed": False}}, r_prog_ohm=None)
    soonest = {}
    for cell in (quick, slow, quick.model_copy(update={"origin": "salvaged", "name": "used"})):
        found = proposed(project, replace(small_library(1), cells=[Offered(cell)]))
        soonest[cell.name] = min(one.full_h for one in found.front)
        for one in found.front:
            current = Chain(project.model_copy(update={"builds": (one.plan,)}), 0).required_charging().current
            assert current.spread.most_a <= cell.charge_max_a * one.plan.cell_count * 1.0001
    assert soonest["quick"] < 0.8 * soonest["slow"]
    assert soonest["used"] >= soonest["slow"]


@pytest.mark.parametrize("where", ["on a board", "on the charger", "on none"])
def test_a_regulator_is_kept_wherever_it_is_stated(where):
    regulator = {"kind": "ldo", "name": "mine", "v_set": 3.3}
    project = plan(gadget={"bay": LED["bay"]}, r_prog_ohm=None)
    build = project.builds[0]
    [charger] = build.model_dump()["boards"]
    stated = {
        "on a board": {"boards": [charger, {"name": "reg", "regulator": regulator}]},
        "on the charger": {"boards": [charger | {"regulator": regulator}]},
        "on none": {"regulator": regulator},
    }[where]
    changed = type(build).model_validate({**build.model_dump(), **stated})
    project = project.model_copy(update={"builds": (changed,)})
    found = proposed(project, small_library(2), Wishes(keep_regulator=True))
    assert found.builds
    for one in found.front:
        assert [each.regulator.name for each in one.plan.boards if each.regulator] == ["mine"]


def test_a_driver_holds_the_light_of_leds_that_a_cell_falls_under():
    """Ultraviolet LEDs of 3.3 V on a design of 4.5 V: straight from the cell they are all but dark half way."""
    ultraviolet = LED | {
        "supply": {"battery": "LR6", "series": 3},
        "behind": {"design_v": 4.5, "led_v": 3.3},
        "window": {"v_run_min": 3.4, "v_abs_max": 5.0},
    }
    drivers = of("regulator", "Step-up LED driver", most=3)
    assert len(drivers) == 3
    offer = replace(small_library(2), regulators=[None, *map(Offered, drivers)])
    found = proposed(plan(gadget=ultraviolet, r_prog_ohm=None), offer)
    best = found.front[found.recommended.place]
    assert best.light_half > 0.9
    assert any("LED driver" in name for name in best.others)
    assert all("LED driver" not in name for one in proposed(plan(r_prog_ohm=None), offer).front for name in one.others)
