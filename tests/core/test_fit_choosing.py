"""Fit: which of several placements is taken, wires along a round cell, and where holes lie on each wall."""

import pytest

from builders import board, plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM

SOCKET = {"kind": "type_c"}
POUCH, BOARD = "Pouch 503450", "board"


def laid(size=(90, 90, 90), walls=("left", "right", "front", "back", "floor", "lid"), **build):
    bay = {"rooms": [{"size_mm": list(size)}], "walls": [{"side": side} for side in walls], "wall_mm": 2}
    return fit_of(plan(gadget={"bay": bay}, **({"boards": [board(socket=SOCKET)]} | build)))


def held(part, at, turned=None):
    return {"part": part, "at_mm": list(at)} | ({"turned": turned} if turned else {})


# Warm faces -----------------------------------------------------------------------------------------------------

# The pouch lies at 20..72, 30..64, 30..35.5; the board with its wires is 28 x 17 x 4.2.
CELL_AT = held(POUCH, (20, 30, 30), "flat, along")


@pytest.mark.parametrize(
    ("at", "turned", "hot"),
    [
        # over the cell, its warm side down onto it; 3 mm is far enough (common practice, no source)
        ((0, 40, 36.5), "flat, socket left, parts down", True),
        ((0, 40, 38.4), "flat, socket left, parts down", True),
        ((0, 40, 38.6), "flat, socket left, parts down", False),
        ((0, 40, 36.5), "flat, socket left, parts up", False),
        # under it
        ((0, 40, 24.9), "flat, socket left, parts up", True),
        ((0, 40, 24.9), "flat, socket left, parts down", False),
        # beside the cell's footprint there is nothing to warm
        ((0, 66, 36.5), "flat, socket left, parts down", False),
        # on edge before and behind it, the warm side towards it or away
        ((0, 25.0, 25), "on edge, socket left, parts back", True),
        ((0, 25.0, 25), "on edge, socket left, parts forward", False),
        ((0, 65.0, 25), "on edge, socket left, parts forward", True),
        ((0, 65.0, 25), "on edge, socket left, parts back", False),
    ],
)
def test_a_warm_side_that_looks_at_the_cell_close_by(at, turned, hot):
    answer = laid(pins=[CELL_AT, held(BOARD, at, turned)])
    assert answer.fits != "no", answer.conflict
    assert answer.hot_against_cell == hot


def test_where_there_is_another_place_the_cell_stays_cool():
    assert not laid(size=(80, 50, 25)).hot_against_cell


def test_of_equal_places_the_one_with_short_wires_is_taken():
    # A long bay: the cell is held at its left end, and the board may lie anywhere along it.
    answer = laid(size=(300, 40, 12), walls=(), boards=[board()], pins=[held(POUCH, (1, 1, 1), "flat, along")])
    one = next(placed for placed in answer.placements if placed.part == BOARD)
    assert one.min_mm[0] < 120


# Wires along a round cell -----------------------------------------------------------------------------------------


@pytest.mark.parametrize(("diameter", "passes"), [(18.0, True), (12.0, True), (6.0, False)])
def test_wires_run_in_the_corners_that_a_round_cell_leaves(diameter, passes):
    """A cell in a box that it just fills, a board in a room behind either end: wires have only the corners.

    A corner is (1 - 1 / sqrt 2) / 2 of the diameter; a wire of 1.2 mm and the gap want as much.
    """
    box = diameter + 0.5  # 0.4 mm over the code, and a hair
    rooms = [
        {"size_mm": [40, 30, 30]},
        {"at_mm": [40, 0, 0], "size_mm": [60.1, box, box]},
        {"at_mm": [100.1, 0, 0], "size_mm": [40, 30, 30]},
    ]
    boards = [board() | {"name": name} for name in ("near", "far")]
    pins = [held("near", (1, 6, 6)), held("far", (101.5, 6, 6)), held("round", (40.05, 0.05, 0.05), "along the bay")]
    cell = {"name": "round", "form": "round", "capacity_ah": 0.8, "size_mm": [diameter, 60]}
    answer = fit_of(plan(gadget={"bay": {"rooms": rooms, "walls": []}}, cell=cell, boards=boards, pins=pins))
    assert answer.fits != "no", answer.conflict
    assert (answer.shut_in == ()) == passes
    corner = (1 - 0.5**0.5) / 2 * (diameter + 0.4)
    assert (corner > HOOK_UP_WIRE_MM) == passes


# Holes ----------------------------------------------------------------------------------------------------------

# A board 28 x 17 with its socket 2.6 mm over its underside, held at a corner; the bay is 90 a side, its wall 2 mm.
# Across is told from the left edge as seen from outside, up from the lower edge, both on the outside.
FACES = [
    ("left", (0, 30, 40), "flat, socket left, parts up", (2 + 90 - 38.5, 2 + 42.6)),
    ("right", (62, 30, 40), "flat, socket right, parts up", (2 + 38.5, 2 + 42.6)),
    ("front", (30, 0, 40), "flat, socket forward, parts up", (2 + 38.5, 2 + 42.6)),
    ("back", (30, 62, 40), "flat, socket back, parts up", (2 + 90 - 38.5, 2 + 42.6)),
    ("right", (62, 30, 40), "flat, socket right, parts down", (2 + 38.5, 2 + 40 + 4.2 - 2.6)),
    ("left", (0, 30, 40), "on edge, socket left, parts forward", (2 + 90 - (30 + 4.2 - 2.6), 2 + 48.5)),
    ("lid", (30, 20, 62), "on end, socket up, parts back", (2 + 38.5, 2 + 22.6)),
    # From below, the front edge uppermost.
    ("floor", (30, 20, 0), "on end, socket down, parts back", (2 + 38.5, 2 + 90 - 22.6)),
]


@pytest.mark.parametrize(("side", "at", "turned", "middle"), FACES)
def test_where_the_hole_lies_on_its_wall(side, at, turned, middle):
    answer = laid(pins=[held(BOARD, at, turned)], cell=None)
    hole = next(opening for opening in answer.openings if str(opening.what) == "socket")
    assert hole.side == side
    assert (hole.across_mm, hole.up_mm) == (pytest.approx(middle[0], abs=0.01), pytest.approx(middle[1], abs=0.01))
    flat = turned.startswith("flat") or side in ("lid", "floor")
    assert (hole.width_mm > hole.height_mm) == flat
    lamp = next(opening for opening in answer.openings if str(opening.what) == "lamp")
    # clear of the socket's hole by a web of 1.5 mm (common practice, no source), towards the middle of the wall
    assert abs(lamp.across_mm - hole.across_mm) >= (hole.width_mm + lamp.width_mm) / 2 + 1.5
    assert abs(lamp.across_mm - 47) < abs(hole.across_mm - 47) + 12


def test_leads_come_out_low_in_the_middle_unless_something_is_there():
    # 1.5 mm of web and half of a 3 mm hole over the bay's floor, behind 2 mm of wall
    free = laid(walls=("left",), boards=[board()], small_parts=[{"kind": "lamp", "name": "lamp"}], outside=["lamp"])
    (hole,) = free.openings
    assert (hole.across_mm, hole.up_mm) == (2 + 45, 2 + 1.5 + 1.5)
    low = held(BOARD, (0, 36.5, 0.5), "flat, socket left, parts up")
    taken = laid(walls=("left",), pins=[low], small_parts=[{"kind": "lamp", "name": "lamp"}], outside=["lamp"])
    wire = next(opening for opening in taken.openings if str(opening.what) == "wire")
    assert wire.across_mm == pytest.approx(2 + 90 * 0.25)


def test_leads_come_out_where_the_wall_may_be_opened():
    bay = {"rooms": [{"size_mm": [90, 60, 40]}], "wall_mm": 2}
    lamp = {"small_parts": [{"kind": "lamp", "name": "lamp"}], "outside": ["lamp"], "boards": [board()]}
    # From 20 to 26 along the wall, from 12 up: the middle of a 3 mm hole in the middle of it, and low in it. From
    # outside the left wall's y runs to the left.
    stretch = {"side": "left", "from_mm": 20, "to_mm": 26, "low_mm": 12, "high_mm": 30}
    (hole,) = fit_of(plan(gadget={"bay": bay | {"walls": [stretch]}}, **lamp)).openings
    assert (hole.across_mm, hole.up_mm) == (pytest.approx(2 + 60 - 23), pytest.approx(2 + 12 + 1.5))
    narrow = stretch | {"to_mm": 22.9}
    assert fit_of(plan(gadget={"bay": bay | {"walls": [narrow]}}, **lamp)).openings == ()


@pytest.mark.parametrize(
    ("from_mm", "to_mm", "lamp_at"),
    # The socket's middle is at 38.5; its plug's hole 12.8 wide, a lamp of 2 mm beside it 1.7 off. Towards the middle of
    # the wall, at 47.6, where there is room; else at 29.4; else nowhere.
    [(None, None, 47.6), (25, 46, 29.4), (31, 46, None)],
)
def test_the_lamp_of_a_board_shows_where_the_wall_has_room_for_it(from_mm, to_mm, lamp_at):
    wall = {"side": "right", "from_mm": from_mm, "to_mm": to_mm}
    bay = {"rooms": [{"size_mm": [90, 90, 90]}], "walls": [wall], "wall_mm": 2}
    pins = [held(BOARD, (62, 30, 40), "flat, socket right, parts up")]
    project = plan(gadget={"bay": bay}, boards=[board(socket=SOCKET)], pins=pins, cell=None)
    lamps = [hole.across_mm - 2 for hole in fit_of(project).openings if str(hole.what) == "lamp"]
    assert lamps == ([] if lamp_at is None else [pytest.approx(lamp_at)])


@pytest.mark.parametrize("at", [(-3, 2, 2), (70, 2, 2), (2, 45, 2)])
def test_a_part_held_through_a_wall_does_not_fit(at):
    """80 x 50 x 25 mm inside: a board of 28 x 17 held there sticks out, whichever way round it lies."""
    assert laid(size=(80, 50, 25), walls=(), pins=[held(BOARD, at)]).fits == "no"


def test_a_cool_cell_is_worth_no_doubt_whether_it_goes_in():
    # By hand: 5.5 mm of swollen pouch, 1.2 + 4.2 of cradle and board, 0.5 of air: 2.6 mm are left of 14 for both gaps.
    # 3 mm between its warm face and the cell would leave a twentieth at either end, which calipers cannot tell.
    answer = laid(size=(75, 45, 14), walls=("left",), cradle_mm=1.2)
    assert (answer.fits, answer.hot_against_cell) == ("yes", True)
    roomier = laid(size=(75, 45, 15), walls=("left",), cradle_mm=1.2)
    assert (roomier.fits, roomier.hot_against_cell) == ("yes", False)
