"""States by hand: Ohm and Kirchhoff on small circuits, the figures worked in the comments. ngspice has its own test."""

import pytest

from builders import plan
from pocketspark.core.chain import Chain

BOOST = {"kind": "boost", "v_set": 5.0, "efficiency": 0.85, "iq_a": 0, "input_ohm": 0, "fixed_loss_w": 0}
TENTH = [{"name": "on", "current_a": 0.1, "at_v": 5.0, "law": "current", "hours_per_day": 3}]


def chain(**build):
    gadget = {"modes": TENTH, "window": {"v_run_min": 4.5, "v_abs_max": 5.5}}
    return Chain(plan(gadget=gadget, regulator=BOOST, **build), 0)


def test_a_converter_on_the_cell_takes_more_than_the_gadget_does():
    # 5 V x 0.1 A / 0.85 = 0.588 W; at 4.2 V, some 10 mV lost on the way: 0.140 A, and not 0.1
    charging = chain(use_while_charging="on_cell").charging
    assert float(charging.load_while_charging.current(4.2)) == pytest.approx(0.588 / 4.19, rel=0.01)


@pytest.mark.parametrize(
    ("way", "drawn_a"),
    [
        ("off", 0.0),
        ("on_cell", 0.0),  # it is part of what the charger gives, and not beside it
        ("change_over", 0.588 / 4.98),  # 0.15 ohm of cable before it; 5 V in, so it just converts
        ("two_diodes", 0.588 / 4.68),  # a Schottky's 0.3 V less
    ],
)
def test_what_the_gadget_takes_from_the_port_beside_the_charger(way, drawn_a):
    assert chain(use_while_charging=way).charging.current.source_load_a == pytest.approx(drawn_a, rel=0.03)


def test_without_a_cell_the_charger_holds_its_end_voltage_on_the_pads():
    state = chain(use_while_charging="on_cell").charging.states.without_cell(Chain(plan(), 0).heaviest)
    assert state.cell_v == 4.2
    assert state.charger_a == state.source_a > 0


def test_a_gadget_of_microamps_that_is_always_on_loses_what_leaks_beside_it():
    modes = [{"name": "logging", "current_a": 20e-6, "hours_per_day": 24}]
    running = Chain(plan(gadget={"modes": modes}), 0).running
    cell_ah = running.chosen.capacity_ah
    # Self-discharge of 2.5 % a month, the protection's own draw and the charger's leak, all day long.
    leaks_a = 0.025 * cell_ah / (30.4 * 24) + sum(p.drain_a for p in running.chain.protections)
    leaks_a += running.chain.charger_boards[0].charger.back_leak_a
    alone_h = running.runs[0].hours
    assert running.days == pytest.approx(1 / (24 / alone_h + 24 * leaks_a / running.usable_ah), rel=1e-6)
    assert running.days < 0.6 * alone_h / 24
