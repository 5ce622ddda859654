"""Single faults by hand: Ohm's law, and what every maker of such boards knows (handbook, sections 5 and 17)."""

import pytest

from builders import CELL, PROTECTION, board, finding, judged, plan
from chances import same_dice
from pocketspark.core.chain import Chain
from pocketspark.core.circuit import circuit_of
from pocketspark.core.faults.outcome import solve
from pocketspark.core.faults.situation import situations_of
from pocketspark.core.faults.soldered_circuit import GADGET, Soldered
from pocketspark.core.models import Project
from pocketspark.core.questions.what_if import what_if
from pocketspark.core.steps import procedure
from pocketspark.demo import demo_projects

LEADS_TOUCH = "pads_joined:cell.+:cell.-"
BARE = {"boards": [board(protection=False)]}
LEAST_STATED = {"gadget": {"window": {"v_run_min": 3.1, "v_abs_max": 4.5}}}


def fault(key, **changes):
    return next(one for one in what_if(plan(**changes), 0, tries_remedies=False).faults if one.key == key)


def said(one):
    return " ".join(map(str, (*one.reaches, one.stopped_by)))


def test_the_leads_of_a_bare_cell_that_touch():
    # 4.20 V over 0.09 ohm, and 0.01 ohm of metal: 42 A, and the protection on the board sits behind it
    seen = fault(LEADS_TOUCH)
    assert seen.gravity == "danger"
    assert "gives 42 A" in said(seen)
    assert "Nothing opens." in said(seen)


@pytest.mark.parametrize(
    ("at_the_cell", "opens"),
    [({"cell": CELL | {"own_protection": PROTECTION}}, "protection of the cell"), ({"fuse_a": 0.75}, "The fuse opens")],
)
def test_what_sits_on_the_cell_itself_opens(at_the_cell, opens):
    seen = fault(LEADS_TOUCH, **at_the_cell)
    assert seen.gravity == "dead"
    assert opens in said(seen)


def test_a_charger_that_never_ends_is_ended_by_the_protection_or_by_nothing():
    # 5 V through 0.35 ohm and the cable; the over-charge cut is at 4.28 V, the test of it at 4.30 V
    assert fault("charger_stuck_on:charger").gravity == "harm"  # more current than the cell may take, for a while
    bare = fault("charger_stuck_on:charger", **BARE)
    assert bare.gravity == "danger"
    assert "full cell goes on being charged" in said(bare)


def test_a_transistor_of_the_protection_that_failed_shows_nothing_and_is_told():
    charge = fault("cannot_stop_charge:charger")
    assert charge.gravity == "hidden"
    assert "A charger that never ends would over-charge the cell" in said(charge)
    discharge = fault("cannot_stop_discharge:charger")
    assert discharge.gravity == "hidden"
    # with another protection at the cell itself, nothing is lost
    twice = {"cell": CELL | {"own_protection": PROTECTION}}
    assert fault("cannot_stop_charge:charger", **twice).gravity == "none"
    assert fault("cannot_stop_discharge:charger", **twice).gravity == "none"


def test_the_two_minus_pads_joined_take_the_protection_away():
    assert fault("pads_joined:charger.B-:charger.OUT-").gravity == "hidden"


def test_a_shorted_diode_of_the_selector_puts_5_v_on_the_cell():
    # 5 V, less the other diode's 0.3 V, on a cell of 4.30 V, past the charger
    selector = {"use_while_charging": "two_diodes", **LEAST_STATED}
    protected, bare = fault("part_shorted:d_cell", **selector), fault("part_shorted:d_cell", **selector, **BARE)
    assert bare.gravity == "danger"
    assert "full cell goes on being charged" in said(bare)
    assert "full cell goes on being charged" not in said(protected)
    assert "protection of the charger opens" in said(protected)


def test_swapped_leads_destroy_the_board():
    seen = fault("cell_reversed:cell")
    assert seen.gravity == "harm"
    assert "charger gets its volts the wrong way round" in said(seen)


def test_unlike_cells_are_told_what_flows_between_them():
    # by hand: (4.20 - 3.00) V over twice 0.09 ohm and two wires, some 6.5 A; the cell may take 0.9 A
    seen = fault("cells_unlike:cell:cell2", cell_count=2)
    assert "may take 900 mA" in said(seen)


def test_a_metal_case_on_the_load_side_and_the_bare_minus_against_it():
    metal = {
        "gadget": {"shell": {"outer_mm": [90, 60, 30], "metal": True}},
        "wiring": {"case_touches": "gadget.-", "socket_insulated": True},
    }
    assert fault("wire_on_case:cell.-", **metal).gravity == "hidden"
    keys = [step.key for step in procedure(plan(**metal), 0).steps]
    assert keys.index("short_check") + 1 == keys.index("case_check") < keys.index("cell_last")
    assert "case_check" not in [step.key for step in procedure(plan(), 0).steps]


def test_the_resistor_off_and_bridged():
    assert "does not charge" in said(fault("resistor_open:charger"))
    # half as much again as the chip's 1 A, but the port gives twice its 0.5 A at most
    assert "charged with 1 A" in said(fault("resistor_shorted:charger"))


def test_an_old_adapter_that_still_fits_is_a_fault_and_one_whose_path_is_cut_is_none():
    docked = {"existing_charging": {"kind": "dock", "treatment": "diode", "adapter_v": 9.0, "current_a": 0.2}}
    assert fault("old_adapter", gadget=docked).gravity == "harm"
    cut = plan(gadget={"existing_charging": docked["existing_charging"] | {"treatment": "cut"}})
    assert "old_adapter" not in [one.key for one in what_if(cut, 0, tries_remedies=False).faults]


def test_a_remedy_really_ends_what_it_is_offered_for():
    project = plan()
    seen = what_if(project, 0)
    assert [one.gravity for one in seen.faults if one.key == LEADS_TOUCH] == ["danger"]
    assert len(seen.remedies) == 3
    for one in seen.remedies:
        then = what_if(project.apply(one.remedy.edits), 0, tries_remedies=False)
        dangers = [fault.key for fault in then.faults if fault.gravity == "danger"]
        # A sleeve keeps the leads apart; the pads of the board are still neighbours.
        assert dangers == (["pads_joined:charger.B+:charger.B-"] if "sleeve" in str(one.remedy.label) else [])
    note = finding(judged(), "wire.bare_leads")
    assert note.level == "note"
    assert note.figure.value == pytest.approx(4.2 / 0.09, rel=0.01)
    assert finding(judged(fuse_a=0.75), "wire.bare_leads") is None


def test_without_a_fault_the_circuit_of_pads_is_the_circuit_of_states():
    """Two ways to one figure: pads and wires here, laws in a row there. Where both come to rest, within 2 %."""
    from reference.any_build import random_build  # the builds of the reference, not its answers

    compared = 0
    for seed in range(60):
        chain = Chain(random_build(same_dice(seed)), 0)
        [used, *_] = situations_of(chain)
        found = solve(Soldered(chain), [(None, used)])
        states = circuit_of(chain.required_running())
        most_a = states.most("cell_out_a", uses=("mode",), feeds=("unplugged",))
        full_a = -float(sum(found.amps(f"{key}.cell")[0] for key in found.soldered.cells))
        if not found.last.settled[0] or float(found.amps(GADGET)[0]) <= 0:
            continue
        compared += 1
        assert full_a <= 1.03 * most_a + 0.002, seed
    assert compared > 40


def test_every_demo_is_gone_through_and_no_case_is_left_out():
    for project in demo_projects():
        if project.builds[0].cell is None:
            continue
        seen = what_if(project, 0, tries_remedies=False)
        assert len(seen.faults) > 12
        assert all(one.settled for one in seen.circuits)
        assert {one.gravity for one in seen.faults} >= {"dead", "harm"}


def test_what_is_picked_is_drawn_in_each_situation():
    seen = what_if(plan(), 0, LEADS_TOUCH, tries_remedies=False)
    assert [one.situation for one in seen.circuits] == [one.key for one in seen.situations]
    assert seen.circuits[0].bridge == pytest.approx(42, rel=0.02)
    assert seen.picked == LEADS_TOUCH
    assert what_if(plan(), 0, "nothing of the kind", tries_remedies=False).picked == ""


def test_a_build_without_a_cell_says_what_to_choose():
    with pytest.raises(LookupError, match="choose a cell"):
        what_if(Project.model_validate({"gadget": {"name": "x"}, "builds": [{}]}), 0)


def test_sleeves_keep_leads_apart_and_are_shrunk_before_the_cell_goes_on():
    assert LEADS_TOUCH not in [
        one.key for one in what_if(plan(wiring={"sleeved": True}), 0, tries_remedies=False).faults
    ]
    assert finding(judged(wiring={"sleeved": True}), "wire.bare_leads") is None
    keys = [step.key for step in procedure(plan(wiring={"sleeved": True}), 0).steps]
    assert keys.index("sleeves") < keys.index("short_check") < keys.index("cell_last")
