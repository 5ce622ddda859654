"""The power path: what stands at each node and link, and whose mark it carries."""

from builders import CELL, board, judged


def nodes(**changes):
    return {node.key: node for node in judged(**changes).path.nodes}


def test_each_node_tells_its_figure():
    seen = nodes()
    assert [str(node.label) for node in seen.values()] == [
        "Source",
        "Charger",
        "Cell",
        "Protection",
        "Regulator",
        "Gadget",
    ]
    assert (str(seen["source"].figure), str(seen["source"].detail)) == ("5.00 V", "USB 2 port, 500 mA")
    assert (str(seen["charger"].figure), str(seen["charger"].detail)) == ("400 mA", "3 kΩ chosen")
    assert (str(seen["cell"].figure), str(seen["cell"].detail)) == ("900 mAh", "4.20 V lithium")
    protection = seen["protection"]
    assert (str(protection.figure), str(protection.detail)) == ("2.50 V", "cut-off, 2.09 A to 4.24 A")
    assert (str(seen["regulator"].figure), str(seen["regulator"].detail)) == ("none", "straight from the cell")
    assert (str(seen["gadget"].figure), str(seen["gadget"].detail)) == ("60 mA lit", "3.10 to 4.80 V")


def test_a_missing_part_is_no_pass():
    seen = nodes(cell=None, boards=[])
    for key in ("charger", "cell", "protection"):
        assert (seen[key].present, seen[key].level) == (False, "note")
    assert seen["regulator"].level == "pass"


def test_the_worst_finding_marks_the_node_it_is_about():
    seen = nodes(r_prog_ohm=1200)
    assert (seen["charger"].level, seen["source"].level) == ("stop", "caution")
    assert nodes(cell=CELL | {"capacity_ah": 3})["cell"].level == "stop"
    assert nodes(boards=[board(protection=False)])["protection"].level == "stop"
    assert nodes(gadget={"window": {"v_run_min": 2, "v_abs_max": 3.6}})["gadget"].level == "stop"


def test_links_carry_volts_and_current():
    links = judged().path.links
    assert [link.charging for link in links] == [True, True, False, False, False]
    assert (str(links[0].volts), str(links[0].current)) == ("4.94 V", "400 mA")
    assert (str(links[1].volts), str(links[1].current)) == ("4.20 V", "400 mA")
    assert str(links[2].volts) == "4.20 to 3.00 V"
    assert str(links[4].current) == "60 mA"


def test_what_flows_in_one_wire_flows_in_the_next():
    # Kirchhoff's current law: straight through there is one circuit, and one current in it, whatever draws it.
    for front_end in ("led_resistor", "heater", "logic"):
        links = judged(gadget={"front_end": front_end}).path.links
        assert len({str(link.current) for link in links[2:]}) == 1, front_end


def test_several_cells_and_a_regulator_are_named():
    seen = nodes(cell_count=2, regulator={"kind": "ldo", "v_set": 3.3, "name": "3.3 V regulator"})
    assert (str(seen["cell"].figure), str(seen["cell"].detail)) == ("1800 mAh", "2 x 4.20 V lithium")
    assert (str(seen["regulator"].figure), str(seen["regulator"].detail)) == ("3.3 V", "3.3 V regulator")


def test_links_are_empty_while_nothing_is_known():
    assert all(str(link.volts) == "" for link in judged(cell=None).path.links)
    assert str(judged(gadget={"modes": []}).path.nodes[5].figure) == "not measured"


def test_each_state_of_the_band_agrees_with_itself():
    """Kirchhoff at every node of one state: what goes in comes out, whatever state is looked at."""
    leds = {"front_end": "led_resistor", "behind": {"led_v": 2.9}}
    for way in ("off", "on_cell", "two_diodes"):
        seen = judged(gadget=leds, use_while_charging=way).path
        labels = [str(state.label) for state in seen.states]
        assert labels == ["In use", "At its worst", "Plugged in", "Switched off"]
        assert str(seen.nodes[5].figure) == str(seen.states[0].gadget)
        for state in (seen.states[1], seen.states[3]):
            assert len({str(link.current) for link in state.links[2:]}) == 1, (way, state)
            assert not any(str(link.current) for link in state.links[:2])
        plugged = seen.states[2]
        assert str(plugged.links[0].current)
        assert str(plugged.links[4].current).split()[0] in str(plugged.gadget) or "nothing" in str(plugged.gadget)
