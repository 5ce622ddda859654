"""Fit: bays from batteries, parts as blocks, tubes by circle geometry, what must give, and the holes."""

import math
import random

import pytest
from pydantic import ValidationError

from builders import CELL, board, plan
from pocketspark.core.fit.bays import bay_from_supply, space_of
from pocketspark.core.fit.blocks import Part, parts_of, ways_round
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.fit.sweep import what_fits
from pocketspark.core.fit.tubes import arrange, chord_height, filling
from pocketspark.core.models import Board, Cell, Project, Supply
from pocketspark.core.models.bay import Bay
from pocketspark.core.models.project import Edit
from pocketspark.core.questions.assess import assess

SOCKET = {"kind": "type_c"}


def in_bay(size, *, walls=("left", "right"), obstacles=(), socket=None, wall_mm=2.0, **build) -> Project:
    bay = {
        "rooms": [{"size_mm": list(size)}],
        "walls": [{"side": side} if isinstance(side, str) else side for side in walls],
        "obstacles": list(obstacles),
        "wall_mm": wall_mm,
    }
    return plan(gadget={"bay": bay}, **({"boards": [board(socket=socket)]} | build))


# Bays -----------------------------------------------------------------------------------------------------------


def test_three_triple_a_side_by_side_leave_their_own_room():
    # IEC 60086-2 maxima, from memory: 10.5 x 44.5 mm
    bay = bay_from_supply(Supply(battery="LR03", series=3))
    length, width, height = bay.rooms[0].size_mm
    assert (width, height) == (pytest.approx(32.0), pytest.approx(11.0))
    assert 44.5 < length < 52
    assert [o.state for o in bay.obstacles] == ["trim", "trim"]


@pytest.mark.parametrize("battery", ["LR6", "LR20", "6LR61", "CR2032", "LR44", "CR17345"])
@pytest.mark.parametrize("arrangement", ["side_by_side", "end_to_end", "two_rows"])
def test_any_battery_of_the_table_leaves_a_bay(battery, arrangement):
    bay = bay_from_supply(Supply(battery=battery, series=2), arrangement)
    room = bay.rooms[0].size_mm if bay.rooms else (bay.tube.length_mm, bay.tube.diameter_mm)
    assert all(mm > 0 for mm in room)


def test_end_to_end_makes_a_tube():
    tube = bay_from_supply(Supply(battery="LR14", series=2), "end_to_end").tube
    assert tube.diameter_mm == pytest.approx(26.7)
    assert tube.length_mm == pytest.approx(105)


def test_joined_boxes_are_their_bounding_box_less_the_rest():
    bay = Bay.model_validate({"rooms": [{"size_mm": [40, 20, 10]}, {"at_mm": [40, 0, 0], "size_mm": [10, 8, 10]}]})
    space = space_of(bay)
    assert space.size == (50, 20, 10)
    (solid,) = space.solids
    assert (solid.low, solid.high) == ((40, 8, 0), (50, 20, 10))
    volume = math.prod(b - a for a, b in zip(solid.low, solid.high, strict=True))
    assert math.prod(space.size) - volume == 40 * 20 * 10 + 10 * 8 * 10


@pytest.mark.parametrize(
    ("bay", "says"),
    [
        ({"rooms": [{"size_mm": [-4, 20, 10]}]}, "Enter a value from"),
        ({"rooms": [{"size_mm": [1e9, 20, 10]}]}, "Enter a value from"),
        ({"rooms": [{"size_mm": [40, 1.5, 10]}]}, "thinner than its own wall"),
        ({"rooms": [{"size_mm": [9, 9, 9]}, {"at_mm": [30, 0, 0], "size_mm": [9, 9, 9]}]}, "do not touch"),
        ({"rooms": [{"size_mm": [40, 20, 10]}], "lid_depth_mm": 10}, "would be the whole case"),
        ({"tube": {"diameter_mm": 30, "length_mm": 90}, "lid_depth_mm": 2}, "would be the whole case"),
        ({}, "either one or more boxes or one tube"),
        (
            {
                "rooms": [{"size_mm": [40, 20, 10]}],
                "obstacles": [
                    {"name": "post", "at_mm": [0, 0, 0], "size_mm": [5, 5, 5]},
                    {"name": "rib", "at_mm": [3, 3, 0], "size_mm": [5, 5, 5]},
                ],
            },
            "post and rib stand in the same place",
        ),
    ],
)
def test_a_bay_that_cannot_be_is_told_why(bay, says):
    with pytest.raises(ValidationError, match=says):
        Bay.model_validate(bay)


# Parts ----------------------------------------------------------------------------------------------------------


def test_a_pouch_lies_on_its_broad_face_with_room_to_swell():
    (cell, _) = parts_of(plan(boards=[board()]).builds[0])
    assert cell.size == (52, 34, pytest.approx(5.5))  # 10 % swell, 2 mm of tabs: common practice, no source
    assert {way.size for way in ways_round(cell)} == {(52, 34, 5.5), (34, 52, 5.5)}
    free = parts_of(plan(boards=[board()], cell_any_way=True).builds[0])[0]
    assert len(ways_round(free)) == 6


def test_a_socketed_board_has_its_socket_at_every_side_and_either_way_up():
    part = parts_of(plan(boards=[board(socket=SOCKET)]).builds[0])[1]
    ways = ways_round(part)
    assert {way.face_side for way in ways} == {"left", "right", "front", "back", "floor", "lid"}
    flat_left = [way for way in ways if way.face_side == "left" and way.size[2] == part.size[2]]
    heights = sorted(way.face_centre[2] for way in flat_left)
    assert heights == [pytest.approx(part.size[2] - 2.6), pytest.approx(2.6)]  # 1 mm of board, half of 3.2 mm


def test_a_plug_on_the_cells_lead_is_a_block_of_its_own():
    soldered, plugged = (parts_of(plan(cell_lead=lead).builds[0]) for lead in ("soldered", "common_plug"))
    assert [part.kind for part in plugged if part not in soldered] == ["plug"]
    # Two of 6 mm side by side would go in; with the plug between them the bay is short.
    assert fit_of(in_bay((53, 35, 6.5), boards=[], cell_lead="soldered")).fits == "yes"
    assert fit_of(in_bay((53, 35, 6.5), boards=[], cell_lead="common_plug")).fits == "no"


# Placement ------------------------------------------------------------------------------------------------------


def test_the_socket_touches_an_open_wall_within_its_heights():
    walls = [{"side": "right", "low_mm": 6, "high_mm": 13}]
    answer = fit_of(in_bay((75, 45, 20), walls=walls, socket=SOCKET))
    placed = next(p for p in answer.placements if p.kind == "board")
    assert placed.face_side == "right"
    assert 74.7 <= placed.max_mm[0] <= 75
    hole = next(o for o in answer.openings if str(o.what) == "socket")
    # The plug's body goes in through 2 mm of wall: its hole is 6.9 high, and the wall under the bay 2 mm thick.
    assert 6 - 1e-6 <= hole.up_mm - 2.0 - 3.45 <= hole.up_mm - 2.0 + 3.45 <= 13
    walls[0]["high_mm"] = 12.8
    low = in_bay((75, 45, 20), walls=walls, socket=SOCKET)
    assert fit_of(low).fits == "no"
    assert "window" in {remedy.what for remedy in remedies_for(low)}


def test_a_wall_that_may_not_be_opened_is_never_used():
    assert fit_of(in_bay((75, 45, 20), walls=[], socket=SOCKET)).fits == "no"


def test_a_deep_socket_wants_a_hole_for_the_overmould():
    # overmould of a Type-C plug 12.4 x 6.5 mm, bare socket 9.0 x 3.3 mm, from memory; 0.2 mm all round
    deep = next(o for o in fit_of(in_bay((75, 45, 20), socket=SOCKET)).openings if str(o.what) == "socket")
    thin = next(o for o in fit_of(in_bay((75, 45, 20), socket=SOCKET, wall_mm=0.3)).openings if str(o.what) == "socket")
    assert sorted((deep.width_mm, deep.height_mm)) == [pytest.approx(6.9), pytest.approx(12.8)]
    assert sorted((thin.width_mm, thin.height_mm)) == [pytest.approx(3.7), pytest.approx(9.4)]


def test_a_pin_holds_and_the_rest_moves_round_it():
    pin = {"part": "board", "at_mm": [40, 20, 2]}
    answer = fit_of(in_bay((80, 45, 20), pins=[pin]))
    placed = next(p for p in answer.placements if str(p.part) == "board")
    assert placed.min_mm == (40, 20, 2)
    assert placed.pinned


def test_too_close_to_call_between_yes_and_no():
    assert fit_of(in_bay((52.2, 36, 8), boards=[])).fits == "too_close"
    assert fit_of(in_bay((51.8, 36, 8), boards=[])).fits == "too_close"
    assert fit_of(in_bay((50.0, 36, 8), boards=[])).fits == "no"


def test_a_try_that_was_off_widens_the_tolerance():
    tries = [{"note": "0.8 mm too tight at the latch", "off_mm": 0.8}]
    assert fit_of(in_bay((53.2, 36, 8), boards=[])).fits == "yes"
    assert fit_of(in_bay((53.2, 36, 8), boards=[], attempts=tries)).fits == "too_close"


def test_a_warm_face_is_kept_from_the_cell_where_there_is_another_place():
    answer = fit_of(in_bay((75, 45, 20), socket=SOCKET))
    assert not answer.hot_against_cell


# What must give -------------------------------------------------------------------------------------------------

SOCKETED = {
    "name": "charger",
    "outline_mm": [28, 17.3, 4.4],
    "charger": {"k_volts": 1200},
    "socket": {"kind": "type_c"},
}
TONGUE = {"name": "tongue", "at_mm": [5, 16, 0], "size_mm": [50, 2, 9], "state": "trim"}


@pytest.mark.parametrize(("most", "offered"), [(None, True), (3.7, True), (3.5, False), (0, False)])
def test_the_lid_is_raised_no_more_than_it_may_be(most, offered):
    # 3.6 mm would be needed: the pouch keeps 0.5 mm off the tongue
    project = in_bay((60, 38, 12), walls=["left"], obstacles=[TONGUE])
    bay = project.gadget.bay.model_copy(update={"lid_raise_mm": most})
    held = project.model_copy(update={"gadget": project.gadget.model_copy(update={"bay": bay})})
    assert ("lid" in {str(remedy.what) for remedy in remedies_for(held)}) == offered


def test_a_lid_raised_beyond_what_it_may_be_is_refused():
    with pytest.raises(ValidationError, match="raised by 3 mm and can be raised by 2 mm at most"):
        Bay.model_validate({"rooms": [{"size_mm": [40, 20, 10]}], "lid_raise_mm": 2, "lid_raised_mm": 3})


def test_smallest_change_first():
    whats = [str(r.what) for r in remedies_for(in_bay((60, 38, 12), walls=["left"], obstacles=[TONGUE]))]
    # What keeps the whole charge comes first; a cell of half of it last.
    assert whats[0] in ("trim", "lid")
    assert whats[-1] == "thinner"


def test_what_conflicts_is_a_smallest_set():
    answer = fit_of(in_bay((60, 38, 12), walls=["left"], obstacles=[TONGUE]))
    assert set(answer.conflict) == {"Pouch 503450", "tongue"}


# What would fit -------------------------------------------------------------------------------------------------


def test_what_would_fit_agrees_with_trying_each():
    project = in_bay((58, 38, 12), walls=["left"], socket=SOCKET)
    cells = {
        f"{t}x{w}x{h}": Cell(capacity_ah=1, size_mm=(t, w, h)) for t in (3, 5, 8) for w in (20, 34) for h in (30, 50)
    }
    boards = {"own": [Board.model_validate(board(socket=SOCKET))]}
    found = {f.cell for _, _, f in what_fits(project, 0, cells, boards) if f}
    for name, cell in cells.items():
        one = project.builds[0].model_copy(update={"cell": cell})
        answer = fit_of(project.model_copy(update={"builds": (one,)}))
        assert (name in found) == (answer.clearance_mm is not None and answer.clearance_mm >= 0), name


def test_what_is_known_of_others_is_what_each_says_by_itself():
    """Random cells with random boards: whether deduced or asked, the same as the fit of that build alone."""
    chance = random.Random(12)
    project, known, tried = in_bay((58, 38, 12), walls=["left"], socket=SOCKET), KnownFits(), 0
    for _ in range(250):
        form = chance.choice(["pouch", "pouch", "block", "round"])
        size = [round(chance.uniform(*span), 1) for span in ((3, 11), (20, 40), (25, 56))]
        cell = Cell(
            capacity_ah=1,
            form=form,
            size_mm=size if form != "round" else [size[0], size[2]],
            own_protection={} if chance.random() < 0.4 else None,
        )
        boards = [
            Board.model_validate(board(socket=SOCKET) | {"outline_mm": chance.choice([(28, 17, 4.2), (20, 12, 4.2)])})
        ]
        one = project.builds[0].model_copy(update={"cell": cell, "boards": tuple(boards)})
        asked = project.model_copy(update={"builds": (one,)})
        answer = fit_of(asked)
        alone = answer.clearance_mm is not None and answer.clearance_mm >= 0
        assert known.goes_in(asked, 0) == alone, (cell, boards)
        tried += 1
    assert known.asked < 0.6 * tried  # most are deduced


def test_no_charger_is_paired_with_a_cell_that_it_would_spoil_or_hardly_fill():
    project = in_bay((90, 60, 30), walls=["left"], socket=SOCKET)
    cells = {
        "lithium": Cell(capacity_ah=1, size_mm=(5, 30, 40)),
        "iron phosphate": Cell(capacity_ah=1, size_mm=(5, 30, 40), cell_class="lfp"),
    }
    for float_v, wanted in ((4.20, {"lithium"}), (3.60, {"iron phosphate"}), (4.10, {"lithium"}), (4.35, set())):
        boards = {"one": [Board.model_validate(board(socket=SOCKET, float_v=float_v))]}
        pairs = list(what_fits(project, 0, cells, boards))
        assert {found.cell for _, _, found in pairs} == wanted, float_v
        assert [done for done, *_ in pairs] == list(range(1, len(wanted) + 1))


# Tubes: circle geometry by hand -----------------------------------------------------------------------------------


def test_a_17_mm_board_beside_an_18_5_mm_cell_in_a_34_mm_tube():
    # R = 17: sqrt(289 - 72.25) = 14.722; less 4 mm of board 10.722; the cell pushed to the wall reaches 18.5 - 17 = 1.5
    assert chord_height(17, 17) == pytest.approx(14.722, abs=0.001)
    # With 0.5 mm round the board too: its corners 16.5 from the axis, sqrt(272.25 - 72.25) = 14.142; 14.142 - 4 - 1.5 =
    # 8.64 are left for 0.5 between, and what is over is shared three ways, the board's corners losing the most.
    parts = [Part("cell", "cell", (65, 18.5, 18.5), 0.0, form="round"), Part("b", "board", (28, 17, 4), 0.5)]
    spare = arrange(34, 70, parts).across_mm
    assert math.sqrt((16.5 - spare) ** 2 - 72.25) - 4 - (0.5 + spare) == pytest.approx(1.5 + spare, abs=1e-4)


def test_a_board_goes_beside_the_cell_where_the_tube_is_too_short_for_both_in_line():
    cell = Part("cell", "cell", (65, 18.5, 18.5), 0.0, form="round")
    charger = Part("charger", "board", (28, 17, 4), 0.5)
    answer = arrange(34, 70, [cell, charger])
    assert answer.clearance_mm > 0
    assert {one.lane for one in answer.placed} == {"in line", "above the cell"} or "below the cell" in {
        one.lane for one in answer.placed
    }
    for one in answer.placed:  # every corner of every board lies within the circle
        if one.part == 1:
            reach = max(math.hypot(y, z) for y in (one.low[1], one.high[1]) for z in (one.low[2], one.high[2]))
            assert reach <= 17 + 1e-6
    assert arrange(20, 70, [cell, charger]).clearance_mm < 0


def test_sleeve_and_spacers_make_up_for_a_thin_short_cell():
    # two C cells 26.2 x 50.0 (IEC 60086-2, from memory) replaced by one 18.4 x 65: 35 mm missing, shared
    made = filling(26.2, 18.4, 65, 100)
    assert (made.front_spacer_mm, made.rear_spacer_mm) == (17.5, 17.5)
    assert made.sleeve_outer_mm < 26.2
    assert made.sleeve_inner_mm > 18.4
    assert filling(26.2, 26.0, 65, 100) is None
    assert filling(26.2, 18.4, 110, 100) is None


def test_a_cell_too_thick_for_its_tube_is_told_by_how_much():
    tube = {"bay": {"tube": {"diameter_mm": 17.0, "length_mm": 120}}}
    fat = {"capacity_ah": 2.5, "form": "round", "size_mm": [18.4, 65]}
    project = plan(gadget=tube, cell=fat, boards=[])
    assert fit_of(project).fits == "no"
    slimmer = next(r for r in remedies_for(project) if str(r.what) == "slimmer")
    # 0.4 mm run-over, and 0.3 mm on either side that the calipers may be off (common practice, no source).
    assert slimmer.mm == pytest.approx(18.8 - 17.0 + 0.6, abs=0.11)


# The answer as a whole --------------------------------------------------------------------------------------------


def test_nothing_is_said_where_nothing_is_known():
    pack = {"supply": {"kind": "pack", "pack_v": 3.6}, "bay": None}
    assert fit_of(plan(gadget=pack)) is None
    assert fit_of(plan(cell=None, boards=[])) is None
    assert fit_of(plan(cell=CELL | {"size_mm": None}, boards=[board()])).unsized == ("Pouch 503450",)


# Leads, ends of tubes, and what a change buys ---------------------------------------------------------------------


def test_what_stays_outside_gets_a_hole_for_its_leads_clear_of_the_socket():
    project = in_bay((70, 40, 12), socket=SOCKET, walls=("left",), outside=["protection"])
    socket, lamp, wire = fit_of(project).openings
    assert (str(wire.what), wire.side, wire.round) == ("wire", "left", True)
    for other in (socket, lamp):
        across, up = abs(wire.across_mm - other.across_mm), abs(wire.up_mm - other.up_mm)
        assert across > (wire.width_mm + other.width_mm) / 2 or up > (wire.height_mm + other.height_mm) / 2
    # Its whole circle lies in the wall.
    assert wire.width_mm / 2 < wire.across_mm < 40 + 2 * 2 - wire.width_mm / 2
    assert not [hole for hole in fit_of(in_bay((70, 40, 12), socket=SOCKET)).openings if str(hole.what) == "wire"]


def in_tube(diameter, length, **charger):
    cell = {"name": "round", "form": "round", "size_mm": [18.3, 65], "capacity_ah": 2.5}
    bay = {"tube": {"diameter_mm": diameter, "length_mm": length}}
    return plan(gadget={"bay": bay}, cell=cell, boards=[board(socket=SOCKET, **charger)])


def test_a_socket_comes_out_of_the_end_of_a_tube():
    # In line the board lies at the far end; beside the cell at the near one. Across: on the axis, and the wall's 2 mm.
    behind, beside = fit_of(in_tube(26, 110)), fit_of(in_tube(34, 70))
    (lies,) = [one for one in behind.placements if one.kind == "board"]
    assert (lies.turned, lies.max_mm[0]) == ("in line", pytest.approx(110))
    # 1 mm of board and half of a socket's 3.2 mm over the board's underside.
    assert (behind.openings[0].side, behind.openings[0].across_mm) == ("right", pytest.approx(26 / 2 + 2))
    assert behind.openings[0].up_mm == pytest.approx(lies.min_mm[2] + 2.6 + 2)
    assert (beside.openings[0].side, beside.openings[0].across_mm) == ("left", pytest.approx(34 / 2 + 2))


def test_a_tube_whose_ends_stay_shut_has_no_hole():
    project = in_tube(34, 70)
    shut = project.model_copy(
        update={
            "gadget": project.gadget.model_copy(update={"bay": project.gadget.bay.model_copy(update={"walls": ()})})
        }
    )
    assert fit_of(project).openings
    assert not fit_of(shut).openings


@pytest.mark.parametrize("kind", ["type_c", "micro_b", "mini_b"])
@pytest.mark.parametrize("thick", [2.0, 5.0, 9.0])
def test_a_box_of_its_own_has_wall_all_round_the_hole_of_a_plug(kind, thick):
    # Half a millimetre larger than need be, whatever goes in: a plug's body is up to 8.5 mm high and 12.4 wide.
    cell = {**CELL, "size_mm": [thick, 8, 30]}
    project = plan(style="outside_pack", cell=cell, boards=[board(socket={"kind": kind}) | {"outline_mm": [20, 9, 4]}])
    answer = fit_of(project)
    assert (answer.fits, answer.doubts) == ("yes", ())
    assert answer.clearance_mm >= 0.5 - 1e-6


def test_what_is_told_to_be_left_is_there_to_the_hundredth():
    # Two pouches under a warm charger, 3 mm apart, in a box of 45 x 33: 33 less 30 less 0.5 leaves a third of a
    # millimetre somewhere, and a third rounded up would not be confirmed.
    hot = board(socket={"kind": "micro_b"}) | {"outline_mm": [26, 17, 4], "above_mm": 2.8}
    cell = {**CELL, "size_mm": [5, 30, 40]}
    answer = fit_of(plan(style="outside_pack", cell=cell, cell_count=2, boards=[hot]))
    assert (answer.fits, answer.doubts) == ("yes", ())


def test_a_wall_is_thinned_so_that_the_hole_of_the_socket_alone_is_enough():
    # A nose of 1 mm in 2 mm of wall: 1.0 deep, so that the plug's body wants 6.9 mm of a wall that is 5.5 + 2 x 0.5.
    # Half a millimetre less wall, and 3.7 mm are enough.
    nosed = board(socket=SOCKET | {"nose_mm": 1})
    project = in_bay((90, 40, 5.5), cell={**CELL, "size_mm": [4, 34, 50]}, boards=[nosed])
    project = project.apply([Edit(path="gadget.bay.tolerance_mm", value=0.1)])
    told = {str(remedy.what): remedy for remedy in remedies_for(project)}
    assert told["thinned"].mm == pytest.approx(0.5)
    thinned = fit_of(project.apply(told["thinned"].edits))
    assert thinned.fits == "yes"
    assert next(hole for hole in thinned.openings if str(hole.what) == "socket").height_mm == pytest.approx(3.7)


def test_each_change_says_what_it_buys():
    project = in_bay((53.4, 34.8, 5.2), boards=[])
    told = {str(remedy.what): remedy for remedy in remedies_for(project)}
    held = project.builds[0].cell.capacity_ah
    thinner = told["thinner"]
    kept_mah = held * 1000 * (1 - thinner.mm / 5.0)
    assert f"about {kept_mah:.0f} mAh" in str(thinner.buys)
    assert str(told["lid"].buys) == f"keeps the {held * 1000:.0f} mAh"


def test_a_lower_socket_is_offered_where_it_helps():
    # 4.2 mm of board, 0.5 mm and 0.3 mm of doubt on either face make 5.8 in a bay 5.5 high; a Micro-B is 0.4 mm lower.
    # Its nose reaches through the wall, so that a hole for the bare socket is enough.
    nosed = board(socket=SOCKET | {"nose_mm": 2})
    project = in_bay((90, 40, 5.5), cell={**CELL, "size_mm": [4, 34, 50]}, boards=[nosed])
    told = {str(remedy.what): remedy for remedy in remedies_for(project)}
    assert "Micro-B socket, 0.4 mm lower" in str(told["socket"].says)
    assert "mm of clearance" in str(told["socket"].buys)
    assert not told["socket"].edits


# Styles -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("style", ["outside_pack", "stand_alone"])
def test_a_box_of_its_own_is_made_round_the_parts(style):
    project = in_bay((20, 20, 5), style=style, boards=[board(socket=SOCKET)])  # the bay would be far too small
    answer = fit_of(project)
    assert answer.fits == "yes"
    assert not answer.assumed_bay
    assert [str(hole.what) for hole in answer.openings] == ["socket", "lamp"]
    # 52 mm of pouch with its tabs and 3 mm of room; 34 mm wide and 3 mm.
    assert answer.size_mm[:2] == (55, 37)


def test_a_stand_in_goes_into_the_outline_of_one_battery():
    # IEC 60086-2 maximum of an LR20, from memory: 34.2 x 61.5 mm; 0.8 mm of printed wall on every side.
    cell = {"name": "round", "form": "round", "size_mm": [14, 50], "capacity_ah": 0.8}
    gadget = {"supply": {"battery": "LR20", "series": 1}, "bay": None}
    inside = fit_of(plan(gadget=gadget, style="stand_in", cell=cell, boards=[board()]))
    assert inside.tube_mm == (pytest.approx(34.2 - 1.6), pytest.approx(61.5 - 1.6))
    assert inside.fits == "yes"
    assert {one.kind for one in inside.placements} == {"cell", "board"}
    # A dummy cell is taken out to charge: its board stays outside.
    alone = fit_of(plan(gadget=gadget, style="dummy_cell", cell=cell, boards=[board()]))
    assert [one.kind for one in alone.placements] == ["cell"]
    # In the outline of an AA no 18650 ever goes.
    small = {"supply": {"battery": "LR6", "series": 1}, "bay": None}
    assert fit_of(plan(gadget=small, style="dummy_cell", cell=cell | {"size_mm": [18.3, 65]})).fits == "no"


def test_a_socket_that_is_not_used_stays_on_its_board_and_takes_its_height():
    def height(**build):
        parts = parts_of(plan(boards=[SOCKETED], **build).builds[0])
        return next(part.size[2] for part in parts if part.kind == "board")

    assert height() == height(input={"kind": "dock"}) == 4.4
    assert height(shell_off=["charger"]) < 4.4
    assert height(shell_off=["charger"], input={"kind": "dock"}) < 4.4


def test_a_part_measured_over_the_board_counts():
    tall = SOCKETED | {"above_mm": 6.0}
    part = next(part for part in parts_of(plan(boards=[tall]).builds[0]) if part.kind == "board")
    assert part.size[2] == pytest.approx(7.0)


def test_a_dummy_for_a_stack_is_as_long_as_the_stack():
    # Two C cells end to end (50.0 mm each, IEC 60086-2 from memory): a 65 mm cell goes in with spacers. Side by side
    # only one of them is replaced, and it is too long.
    cell = {"form": "round", "size_mm": [18.0, 65], "capacity_ah": 2.5, "own_protection": {}}
    supply = {"battery": "LR14", "series": 2}

    def dummy(arrangement):
        gadget = {"supply": supply, "arrangement": arrangement, "bay": None}
        return fit_of(plan(gadget=gadget, style="dummy_cell", cell=cell, boards=[]))

    assert dummy("end_to_end").fits == "yes"
    assert dummy("end_to_end").size_mm[0] == pytest.approx(100.0 - 1.6)
    assert dummy("side_by_side").fits == "no"


def test_a_bay_told_by_the_batteries_alone_stops_nothing():
    far_too_big = CELL | {"size_mm": [12, 60, 90]}
    for bay, level in ((None, "caution"), ({"rooms": [{"size_mm": [50, 24, 12]}]}, "stop")):
        project = plan(gadget={"bay": bay, "supply": {"battery": "LR03", "series": 2}}, cell=far_too_big, boards=[])
        (found,) = [one for one in assess(project).findings if one.code == "fit.does_not_fit"]
        assert found.level == level
        assert str(found.headline).startswith("Measure the bay") == (bay is None)
