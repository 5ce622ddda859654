"""Fit: lamps, switches and spacers as blocks, their holes, pads within reach of wires, and two changes at once."""

import pytest

from builders import board, plan
from pocketspark.core.fit.blocks import WIRE_ROOM_MM, parts_of
from pocketspark.core.fit.openings import meeting
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.models import Project
from pocketspark.core.models.small_part import SMALL_PARTS

SOCKET = {"kind": "type_c"}
LED = {"kind": "lamp", "name": "red lamp"}
SWITCH = {"kind": "switch", "name": "own switch"}
FOAM = {"kind": "spacer", "name": "foam", "size_mm": [20, 10, 3]}


def in_box(size, walls=("left",), **build) -> Project:
    bay = {"rooms": [{"size_mm": list(size)}], "walls": [{"side": side} for side in walls], "wall_mm": 2}
    return plan(gadget={"bay": bay}, **({"boards": [board()]} | build))


def in_tube(diameter_mm, length_mm, **build) -> Project:
    bay = {"tube": {"diameter_mm": diameter_mm, "length_mm": length_mm}, "walls": [{"side": "left"}, {"side": "right"}]}
    cell = {"capacity_ah": 0.8, "form": "round", "size_mm": [14, 50]}
    return plan(gadget={"bay": bay}, cell=cell, **({"boards": [board()]} | build))


def placed(answer, part):
    return next(one for one in answer.placements if one.part == part)


def holes(answer, what):
    return [hole for hole in answer.openings if hole.what == what]


@pytest.mark.parametrize("kind", SMALL_PARTS)
def test_a_small_part_is_as_big_as_it_is_measured_or_as_usual(kind):
    usual, measured = ({"kind": kind, "name": "it"} | size for size in ({}, {"size_mm": [11, 7, 5]}))
    wires = 0 if kind == "spacer" else WIRE_ROOM_MM  # common practice, no source
    for part, (depth, *rest) in ((usual, SMALL_PARTS[kind].usual_mm), (measured, (11, 7, 5))):
        (block,) = (one for one in parts_of(plan(small_parts=[part]).builds[0]) if str(one.name) == "it")
        assert block.size == (depth + wires, *rest)


def test_a_spacer_takes_its_room():
    # 52 x 34 x 5.5 of cell, 20 x 10 x 3 of foam: on top of each other they want 8.5 mm, and 0.3 of clearance
    beside = {"boards": [], "small_parts": [FOAM]}
    assert fit_of(in_box((53, 35, 9.6), **beside)).fits == "yes"
    assert fit_of(in_box((53, 35, 7.4), **beside)).fits == "no"
    assert fit_of(in_box((53, 35, 7.4), boards=[])).fits == "yes"


@pytest.mark.parametrize("side", ["left", "right", "front", "back", "lid"])
def test_a_lamp_and_a_switch_show_in_a_wall_that_may_be_opened(side):
    answer = fit_of(in_box((75, 45, 20), walls=(side,), small_parts=[LED, SWITCH]))
    assert answer.fits == "yes"
    axis = {"left": 0, "right": 0, "front": 1, "back": 1, "lid": 2}[side]
    for one in (placed(answer, "red lamp"), placed(answer, "own switch")):
        assert one.face_side == side
        to_wall = one.min_mm[axis] if side in ("left", "front") else answer.size_mm[axis] - one.max_mm[axis]
        assert 0 <= to_wall <= 0.3 + 1e-6
    assert {hole.side for hole in answer.openings} == {side}


def test_the_hole_lies_over_the_middle_of_what_shows_in_it():
    answer = fit_of(in_box((75, 45, 20), small_parts=[LED, SWITCH]))
    for hole in (*holes(answer, "lamp"), *holes(answer, "switch")):
        one = placed(answer, hole.part)
        middle = [(a + b) / 2 for a, b in zip(one.min_mm, one.max_mm, strict=True)]
        # Seen from the left the back is on the left hand; the wall outside the bay is 2 mm.
        assert (hole.across_mm, hole.up_mm) == (
            pytest.approx(45 - middle[1] + 2, abs=0.02),
            pytest.approx(middle[2] + 2, abs=0.02),
        )


def test_a_levers_slot_turns_with_its_switch():
    flat = {"part": "own switch", "turned": "flat, switch left"}
    upright = {"part": "own switch", "turned": "on edge, switch left"}
    (lying,), (standing,) = (
        holes(fit_of(in_box((75, 45, 20), small_parts=[SWITCH], pins=[pin])), "switch") for pin in (flat, upright)
    )
    # A lever of 2 mm with 6 mm of way, 0.2 mm all round: from memory of such switches' drawings
    assert (lying.width_mm, lying.height_mm) == (6.4, 2.4)
    assert (standing.width_mm, standing.height_mm) == (2.4, 6.4)


def test_a_board_on_end_turns_its_sockets_hole_in_the_lid():
    free = fit_of(in_box((75, 45, 40), walls=("lid",), boards=[board(socket=SOCKET)]))
    ways = [{"part": "board", "turned": way} for way in placed(free, "board").ways if "socket up" in way]
    wide_along = set()
    for pin in ways:
        answer = fit_of(in_box((75, 45, 40), walls=("lid",), boards=[board(socket=SOCKET)], pins=[pin]))
        one, (hole,) = placed(answer, "board"), holes(answer, "socket")
        along_x = one.max_mm[0] - one.min_mm[0] > one.max_mm[1] - one.min_mm[1]
        assert (hole.width_mm > hole.height_mm) == along_x
        wide_along.add(along_x)
    assert wide_along


def test_a_lamp_on_wires_stands_in_for_the_one_on_the_board():
    without, with_lamp = (
        fit_of(in_box((75, 45, 20), boards=[board(socket=SOCKET)], small_parts=small)) for small in ([], [LED])
    )
    assert [hole.part for hole in holes(without, "lamp")] == ["board"]
    assert [hole.part for hole in holes(with_lamp, "lamp")] == ["red lamp"]


def test_the_switch_that_the_wiring_adds_has_to_go_in_as_well():
    regulator = {"kind": "ldo", "v_set": 3.3}
    before = fit_of(in_box((75, 45, 20), regulator=regulator, switch_place="before_regulator"))
    assert placed(before, "main switch").kind == "switch"
    changing = fit_of(in_box((75, 45, 20), use_while_charging="change_over"))
    assert [hole.part for hole in holes(changing, "switch")] == ["change-over switch"]
    own_size = {"kind": "switch", "name": "change-over switch", "size_mm": [8, 12, 6]}
    measured = fit_of(in_box((75, 45, 20), use_while_charging="change_over", small_parts=[own_size]))
    bigger = placed(measured, "change-over switch")
    assert bigger.max_mm[0] - bigger.min_mm[0] == pytest.approx(8 + WIRE_ROOM_MM)
    outside = fit_of(in_box((75, 45, 20), use_while_charging="change_over", outside=["change-over switch"]))
    assert {one.kind for one in outside.placements} == {"cell", "board"}


def test_in_a_tube_the_lamp_comes_out_of_an_end_and_its_hole_lies_within():
    answer = fit_of(in_tube(30, 90, small_parts=[LED]))
    assert answer.fits == "yes"
    (hole,) = holes(answer, "lamp")
    assert hole.side in ("left", "right")
    middle = 15 + answer.wall_mm
    assert (hole.across_mm - middle) ** 2 + (hole.up_mm - middle) ** 2 < (15 - 1.6) ** 2


def test_holes_that_meet_are_told():
    apart = fit_of(in_box((75, 45, 20), small_parts=[LED, SWITCH]))
    assert meeting(apart.openings) == []
    (one, other) = apart.openings
    beside_mm = one.across_mm + (one.width_mm + other.width_mm) / 2
    touching = other.model_copy(update={"across_mm": beside_mm + 1.4, "up_mm": one.up_mm})
    clear = touching.model_copy(update={"across_mm": touching.across_mm + 0.2})
    assert meeting([one, touching]) == [(one, touching)]
    assert meeting([one, clear]) == []


# Reach ----------------------------------------------------------------------------------------------------------


def two_rooms(slit_mm: float) -> Project:
    rooms = [{"size_mm": [54, 35, 9]}, {"at_mm": [54, 35 - slit_mm, 0], "size_mm": [30, 19, 9]}]
    return plan(gadget={"bay": {"rooms": rooms}}, boards=[board()])


@pytest.mark.parametrize(
    ("slit_mm", "shut"),
    [(0.5, True), (HOOK_UP_WIRE_MM - 0.05, True), (HOOK_UP_WIRE_MM + 0.05, False), (4.0, False)],
)
def test_a_wire_goes_through_a_slit_wider_than_itself(slit_mm, shut):
    answer = fit_of(two_rooms(slit_mm))
    assert answer.fits == "yes"
    assert bool(answer.shut_in) == shut


def test_of_equal_places_one_within_reach_is_taken():
    # A wall with a door of 3 mm; beside it there is room where the pads look into the wall.
    wall = {"name": "rib", "at_mm": [54, 0, 0], "size_mm": [1, 42, 20], "state": "keep"}
    bay = {"rooms": [{"size_mm": [86, 45, 20]}], "walls": [{"side": "right"}], "obstacles": [wall], "wall_mm": 2}
    answer = fit_of(plan(gadget={"bay": bay}, boards=[board(socket=SOCKET)]))
    assert placed(answer, "board").min_mm[0] > 54
    assert answer.shut_in == ()


@pytest.mark.parametrize(("diameter_mm", "shut"), [(15.5, True), (15.7, False), (30.0, False)])
def test_the_far_pole_of_a_cell_in_a_tube_wants_its_wire_beside_it(diameter_mm, shut):
    # 14 mm of cell, 0.4 over its code: a wire of 1.2 mm wants 15.6 mm
    narrow = board() | {"outline_mm": [20, 8, 3]}
    answer = fit_of(in_tube(diameter_mm, 90, boards=[narrow]))
    assert answer.fits != "no"
    assert bool(answer.shut_in) == shut
    assert fit_of(in_tube(diameter_mm, 90, boards=[])).shut_in == ()


# Two changes at once --------------------------------------------------------------------------------------------


def test_two_changes_are_offered_only_where_no_single_one_helps():
    # Beside the cell there is no room for either board, and on top of it not within 12 mm of lid or cell.
    big = [board() | {"name": name, "outline_mm": [45, 30, 16]} for name in ("first", "second")]
    full = in_box((53, 35, 6.2), boards=big, walls=())
    (both,) = remedies_for(full)
    assert str(both.what) == "both"
    assert str(both.says) == "Put first outside the bay, and: Put second outside the bay"
    (edit,) = both.edits
    assert edit.value == ["first", "second"]
    assert fit_of(in_box((53, 35, 6.2), boards=big, walls=(), outside=edit.value)).fits == "yes"
    single = remedies_for(in_box((53, 35, 6.2), boards=big[:1], walls=()))
    assert [str(remedy.what) for remedy in single] == ["outside"]


def test_a_wall_opened_and_a_part_outside_are_two_edits():
    boards = [board(socket=SOCKET), board() | {"name": "second", "outline_mm": [45, 30, 16]}]
    found = remedies_for(in_box((53, 54, 6.4), walls=(), boards=boards))
    assert {str(remedy.what) for remedy in found} == {"both"}
    assert len(found) <= 3
    bay, outside = found[0].edits
    assert (bay.path, outside.path) == ("gadget.bay", "builds.0.outside")
    assert fit_of(plan(gadget={"bay": bay.value}, boards=boards, outside=outside.value)).fits == "yes"
