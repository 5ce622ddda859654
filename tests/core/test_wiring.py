"""Wiring: the hook-up that the tool makes passes its own check; a miswired one is caught, or is the same circuit."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import CELL, PROTECTION, SIZE, board, plan
from pocketspark.core.chain import Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.hookup.nets import nets_of
from pocketspark.core.kinds.wires import diameter_mm, gauge, gauge_for, ohm_per_m
from pocketspark.core.rules import RULES, findings_of
from pocketspark.core.wiring.cutlist import cut_list
from pocketspark.core.wiring.drawing import draw
from pocketspark.demo import demo_projects

WIRE_RULES = [code for code in RULES if code.startswith("wire.")]
APART = [board(protection=False), {"name": "protection", "protection": PROTECTION, "outline_mm": [20, 6, 2]}]
REGULATORS = [
    None,
    {"kind": "diode"},
    {"kind": "ldo", "v_set": 3.0},
    {"kind": "boost", "v_set": 5.0},
]

builds = st.fixed_dictionaries(
    {
        "boards": st.sampled_from([[board()], [board(protection=False)], APART, [board(socket={"kind": "type_c"})]]),
        "cell": st.sampled_from([CELL, CELL | {"own_protection": True}]),
        "cell_count": st.sampled_from([1, 2]),
        "regulator": st.sampled_from(REGULATORS),
        "switch_place": st.sampled_from(["gadget", "before_regulator"]),
        "use_while_charging": st.sampled_from(["off", "on_cell", "two_diodes", "change_over"]),
        "style": st.sampled_from(["inside", "rebuilt_shell", "outside_pack", "dummy_cell"]),
    }
)
treatments = st.sampled_from(
    [
        {},
        {"existing_charging": {"kind": "dock", "treatment": "diode"}},
        {"existing_charging": {"kind": "dock", "treatment": "cut"}},
    ]
)


def protected(build):
    return build["cell"].get("own_protection") or any(b.get("protection") for b in build["boards"])


def stops(project):
    return [f for f in findings_of(Chain(project, 0), WIRE_RULES) if f.level == "stop"]


@given(builds, treatments)
def test_the_hook_up_of_any_build_passes_its_own_check(build, gadget):
    if not protected(build):
        build = build | {"cell": CELL | {"own_protection": True}}
    assert stops(plan(gadget=gadget, **build)) == []


@given(builds, st.data())
def test_one_wire_moved_is_caught_or_changes_no_net(build, data):
    if not protected(build):
        build = build | {"cell": CELL | {"own_protection": True}}
    project = plan(**build)
    hookup = hook_up(Chain(project, 0))
    index = data.draw(st.integers(0, len(hookup.wires) - 1))
    end = data.draw(st.sampled_from(sorted(hookup.parts.pads())))
    moved = [w.model_dump() for w in hookup.wires]
    moved[index]["end"] = end
    other = plan(**build, wiring={"wires": moved, "extra": _extra(hookup)})
    said = [f for f in findings_of(Chain(other, 0), WIRE_RULES) if f.level in ("stop", "caution")]
    changed = {frozenset(n) for n in nets_of(hook_up(Chain(other, 0))).all()} != {
        frozenset(n) for n in nets_of(hookup).all()
    }
    same_circuit = not changed or _only_moves_a_spare_end(hookup, hook_up(Chain(other, 0)))
    assert said or same_circuit, (moved[index], build)


def _extra(hookup):
    parts = hookup.parts.by_key
    return [{"key": key, "kind": parts[key].kind, "name": parts[key].name} for key in hookup.parts.extra]


def _only_moves_a_spare_end(before, after):
    """The same ways for current between cell, charger and gadget, though some pad now hangs elsewhere."""
    ends = ["cell.+", "cell.-", "gadget.+", "gadget.-", "charger.B+", "charger.B-"]
    a, b = nets_of(before), nets_of(after)
    return all(a.reaches(x, y) == b.reaches(x, y) for x in ends for y in ends)


def test_a_protection_bypass_is_found_through_the_gadgets_own_board():
    # The gadget's board joins its minus to a second pad that somebody wired to the cell.
    link = {"extra": [{"key": "track", "kind": "link", "name": "ground track of the gadget"}]}
    made = [w.model_dump() for w in hook_up(Chain(plan(), 0)).wires]
    joined = [*made, {"start": "gadget.-", "end": "track.1"}, {"start": "track.2", "end": "cell.-"}]
    codes = {f.code for f in stops(plan(wiring=link | {"wires": joined}))}
    assert {"wire.cell_unprotected", "wire.protection_bypassed"} <= codes


def test_a_metal_case_on_the_cells_minus_is_found():
    assert {f.code for f in stops(plan(wiring={"case_touches": "cell.-"}))} == {"wire.protection_bypassed"}
    assert stops(plan(wiring={"case_touches": "gadget.-"})) == []


def test_a_switch_between_charger_and_cell_is_found():
    switch = {"extra": [{"key": "main", "kind": "switch", "name": "main switch"}]}
    made = [w.model_dump() for w in hook_up(Chain(plan(), 0)).wires if w.start != "cell.+"]
    cut = [*made, {"start": "cell.+", "end": "main.1"}, {"start": "main.2", "end": "charger.B+"}]
    assert "wire.switch_place" in {f.code for f in stops(plan(wiring=switch | {"wires": cut}))}


# mm2 of copper beside each gauge, as tables of ASTM B258 print them (from memory).
@pytest.mark.parametrize(("awg", "mm2"), [(22, 0.326), (24, 0.205), (26, 0.129), (28, 0.0810), (30, 0.0509)])
def test_a_gauge_is_told_in_square_millimetres_too(awg, mm2):
    assert float(gauge(awg).split(", ")[1].removesuffix(" mm²")) == pytest.approx(mm2, rel=0.05)
    assert gauge(awg).startswith(f"{awg} AWG")


@pytest.mark.parametrize(("awg", "milliohm"), [(24, 84), (26, 134), (28, 213), (30, 339)])
def test_wire_sizes(awg, milliohm):
    # ASTM B258 gauges and copper of 1.7241e-8 ohm m (IEC 60028), as the handbook tables have them
    assert ohm_per_m(awg) * 1000 == pytest.approx(milliohm, rel=0.01)
    assert diameter_mm(36) == pytest.approx(0.127)


@given(st.floats(0.01, 5), st.floats(0.02, 0.5))
def test_a_heavier_current_never_gets_a_thinner_wire(current, length):
    assert gauge_for(current * 1.5, length) <= gauge_for(current, length)


def test_the_cut_list_leaves_out_what_is_there_already():
    chain = Chain(plan(boards=[board(socket={"kind": "type_c"})]), 0)
    wires = cut_list(chain)
    assert not any(wire.start.startswith("source") for wire in wires)
    assert all(wire.length_mm >= 25 and wire.colour for wire in wires)
    minus = {wire.colour for wire in wires if wire.start.endswith("-")}
    plus = {wire.colour for wire in wires if wire.start.endswith("+")}
    assert minus == {"black", "grey"}  # black at the cell, grey behind the protection: never joined
    assert not minus & plus


def test_every_wire_has_one_letter_and_the_cell_comes_last():
    for project in demo_projects():
        if not project.builds[0].cell:
            continue
        hookup = hook_up(Chain(project, 0))
        wires = cut_list(Chain(project, 0))
        assert [wire.letter for wire in wires] == [chr(ord("A") + n) for n in range(len(wires))]
        assert [wire.step for wire in wires] == sorted((wire.step for wire in wires), reverse=True)
        # common practice: minus first, while the plus lead is still taped
        cell = [wire for wire in wires if wire.step == "cell_last"]
        assert all("-" in wire.start + wire.end for wire in cell[: len(cell) // 2])
        drawn = {wire.letter: {wire.start, wire.end} for wire in draw(hookup).wires if wire.letter}
        assert drawn == {wire.letter: {wire.start, wire.end} for wire in wires}


@given(builds)
def test_no_wire_crosses_a_part(build):
    drawing = draw(hook_up(Chain(plan(**build), 0)))
    boxes = [(p.x, p.y, p.x + p.width, p.y + p.height) for p in drawing.parts]
    for wire in drawing.wires:
        points = list(zip(wire.xs, wire.ys, strict=True))
        for (x0, y0), (x1, y1) in itertools.pairwise(points):
            for left, top, right, bottom in boxes:
                outside = (
                    max(x0, x1) <= left + 1e-9
                    or min(x0, x1) >= right - 1e-9
                    or max(y0, y1) <= top + 1e-9
                    or min(y0, y1) >= bottom - 1e-9
                )
                assert outside
    assert max(wire.net for wire in drawing.wires) < len(drawing.nets)


def test_cells_in_parallel_and_boards_of_one_name_are_measured_where_they_lie():
    """Each wire as long as the way between the middles of what it joins, and 25 mm to open the case with."""
    boards = [board(), {"name": "board", "protection": PROTECTION} | SIZE]
    chain = Chain(plan(cell_count=2, boards=boards, cell=CELL | {"size_mm": [5, 30, 40]}), 0)
    lying = {
        one.part: [(a + b) / 2 for a, b in zip(one.min_mm, one.max_mm, strict=True)]
        for one in fit_of(chain.project).placements
    }
    assert len(lying) == 4
    wires = cut_list(chain)
    between = [wire for wire in wires if "source" not in wire.start + wire.end]
    assert len([wire for wire in between if "cell" in wire.start + wire.end]) >= 4
    names = {"cell": f"{CELL['name']} #1", "cell2": f"{CELL['name']} #2", "charger": "board", "protection": "board #2"}
    for wire in between:
        assert not wire.guessed, wire
        ends = [names.get(pad.split(".")[0]) for pad in (wire.start, wire.end)]
        if None not in ends:
            apart = sum(abs(a - b) for a, b in zip(*(lying[end] for end in ends), strict=True))
            assert wire.length_mm == pytest.approx(apart + 25, abs=2.5)
