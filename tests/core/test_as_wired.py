"""The maker's own wires are what is computed: against circuits put together here by hand."""

import pytest

from builders import finding, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.models.wiring import Wire

LDO = {"kind": "ldo", "name": "3.3 V", "v_set": 3.3, "drop_ohm": 1.0}
PLANS = [
    {},
    {"regulator": LDO},
    {"use_while_charging": "two_diodes"},
    {"use_while_charging": "change_over"},
    {"gadget": {"existing_charging": {"kind": "dock", "treatment": "diode"}}},
    {"regulator": LDO, "switch_place": "before_regulator"},
]


def wires_of(**changes):
    return [wire.model_dump() for wire in hook_up(Chain(plan(**changes), 0)).wires]


def own(wires, extra=(), **changes):
    return Chain(plan(wiring={"wires": wires, "extra": list(extra)}, **changes), 0)


def joined(first, second):
    return Wire(start=first, end=second).model_dump()


@pytest.mark.parametrize("changes", PLANS, ids=str)
def test_the_tools_own_wires_said_by_hand_change_no_number(changes):
    made = Chain(plan(**changes), 0)
    extra = [
        {"key": key, "kind": "diode" if part.kind == "diode" else "switch", "name": part.name}
        for key, part in hook_up(made).parts.by_key.items()
        if part.kind in ("diode", "switch")
    ]
    again = own(wires_of(**changes), extra, **changes)
    assert again.running.gadget_v_max == pytest.approx(made.running.gadget_v_max, abs=1e-9)
    assert [run.hours for run in again.running.runs] == pytest.approx([run.hours for run in made.running.runs])


def test_a_diode_that_the_maker_puts_in_costs_its_volts():
    """60 mA through a usual Schottky: some 0.25 to 0.35 V (data sheets of such diodes, from memory)."""
    diode = [{"key": "mine", "kind": "diode", "name": "mine"}]
    wires = [wire for wire in wires_of() if wire["end"] != "gadget.+"]
    wires += [joined("charger.OUT+", "mine.A"), joined("mine.K", "gadget.+")]
    made, changed = Chain(plan(), 0), own(wires, diode)
    load = made.load_of(made.heaviest)
    lost = made.running.gadget_v_at(3.8, load) - changed.running.gadget_v_at(3.8, load)
    assert 0.2 < lost < 0.4
    told = finding(judged(wiring={"wires": wires, "extra": diode}), "wire.own_computed")
    assert (told.level, "one diode in series" in str(told.headline)) == ("note", True)


def test_what_goes_round_the_regulator_sees_the_cell():
    wires = [*wires_of(regulator=LDO), joined("charger.OUT+", "gadget.+")]
    changed = own(wires, regulator=LDO)
    load = changed.load_of(changed.heaviest)
    # 3.8 V less 60 mA through cell, transistors and wires
    assert changed.running.gadget_v_at(3.8, load) == pytest.approx(3.8 - 0.06 * changed.chosen_cell.all_ohm, abs=1e-6)
    assert Chain(plan(regulator=LDO), 0).running.gadget_v_at(3.8, load) == pytest.approx(3.3)
    assert "no regulator in between" in str(
        finding(judged(regulator=LDO, wiring={"wires": wires}), "wire.own_computed").headline
    )


def test_what_goes_round_the_protection_has_no_cut_of_its():
    wires = [*wires_of(), joined("cell.-", "gadget.-")]
    changed = own(wires)
    assert set(changed.chosen_cell.cuts) == {"cell"}
    assert changed.chosen_cell.path_ohm < Chain(plan(), 0).chosen_cell.path_ohm
    assert finding(judged(wiring={"wires": wires}), "wire.cell_unprotected").level == "stop"


def test_wires_that_lead_nowhere_are_said_to_be_computed_with_the_tools():
    wires = [wire for wire in wires_of() if wire["end"] != "gadget.+"]
    told = finding(judged(wiring={"wires": wires}), "wire.own_computed")
    assert (told.level, "Every figure is for the tool's own hook-up" in str(told.headline)) == ("caution", True)
    assert own(wires).running.gadget_v_max == pytest.approx(Chain(plan(), 0).running.gadget_v_max)
