"""Fit: tubes worked by hand from the circle, and the gaps that are drawn: where they run and what they measure."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import board, plan
from pocketspark.core.fit.allowances import BOARD_GAP_MM
from pocketspark.core.fit.blocks import FaceAt, Part
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.tubes import arrange
from pocketspark.demo import demo_projects

CELL = Part("cell", "cell", (65.0, 18.9, 18.9), 0.0, form="round")


def flat_board(name, length=20.0, width=17.0, height=4.0, socket=False):
    face = FaceAt("type_c", 2.6) if socket else None
    return Part(name, "board", (length, width, height), BOARD_GAP_MM, face=face)


def lying(answer):
    return {one.part: one for one in answer.placed}


# Tubes ----------------------------------------------------------------------------------------------------------


def test_a_board_above_pushes_the_cell_down_to_the_wall():
    # With a spare s everywhere: the board's corners keep 0.5 + s off the wall, its inner face lies at
    # sqrt((16.5 - s)^2 - 8.5^2) - 4; the cell's top, pushed down to s from the wall, at 1.9 + s; 0.5 + s between them.
    # s = 2.415: 11.231 - 4 = 7.231; 4.315 and 2.915 make 7.230
    answer = arrange(34, 66, [CELL, flat_board("b")])
    cell, above = lying(answer)[0], lying(answer)[1]
    assert above.lane == "above the cell"
    assert answer.across_mm == pytest.approx(2.415, abs=1e-3)
    assert cell.low[2] == pytest.approx(2.415 - 17, abs=1e-3)
    assert math.hypot(8.5, above.high[2]) == pytest.approx(17 - 0.5 - 2.415, abs=1e-3)
    assert above.high[2] - above.low[2] == pytest.approx(4)


@given(
    diameter=st.floats(20, 60),
    length=st.floats(40, 150),
    boards=st.lists(st.tuples(st.floats(8, 40), st.floats(5, 25), st.floats(1.5, 8)), max_size=3),
)
@settings(max_examples=80, deadline=None)
def test_what_goes_into_a_tube_lies_within_it_and_apart(diameter, length, boards):
    parts = [CELL, *(flat_board(str(i), *size) for i, size in enumerate(boards))]
    answer = arrange(diameter, length, parts)
    if answer.clearance_mm < 0:
        return
    for one in answer.placed:
        assert one.low[0] >= -1e-9
        assert one.high[0] <= length + 1e-6
        corners = [math.hypot(y, z) for y in (one.low[1], one.high[1]) for z in (one.low[2], one.high[2])]
        middle = abs(one.low[2] + one.high[2]) / 2
        reach = middle + CELL.size[1] / 2 if one.part == 0 else max(corners)
        assert reach <= diameter / 2 + 1e-6
    boxes = [(one.low, one.high) for one in answer.placed]
    for i, (low, high) in enumerate(boxes):
        for low2, high2 in boxes[:i]:
            assert any(high[a] <= low2[a] + 1e-6 or high2[a] <= low[a] + 1e-6 for a in range(3))


# Gaps -----------------------------------------------------------------------------------------------------------

POST = {"name": "post", "at_mm": [60, 20, 0], "size_mm": [4, 4, 12], "state": "keep"}


def laid_out(**build):
    bay = {"rooms": [{"size_mm": [75, 45, 20]}], "walls": [{"side": "left"}], "obstacles": [POST], "wall_mm": 2}
    return fit_of(plan(gadget={"bay": bay}, **({"boards": [board(socket={"kind": "type_c"})]} | build)))


def test_a_gap_is_as_long_as_it_says_and_runs_straight():
    gaps = laid_out().gaps
    assert gaps
    for gap in gaps:
        along = [abs(b - a) for a, b in zip(gap.start_mm, gap.end_mm, strict=True)]
        assert sum(mm > 1e-6 for mm in along) <= 1
        assert max(along) == pytest.approx(gap.mm, abs=0.006)


def test_gaps_are_told_tightest_first_and_end_on_their_neighbours():
    answer = laid_out()
    assert [gap.mm for gap in answer.gaps] == sorted(gap.mm for gap in answer.gaps)
    boxes = {one.part: (one.min_mm, one.max_mm) for one in answer.placements}
    boxes |= {solid.name: (solid.min_mm, solid.max_mm) for solid in answer.solids}
    for gap in answer.gaps:
        low, high = boxes[gap.first]
        assert all(a - 1e-6 <= x <= b + 1e-6 for a, x, b in zip(low, gap.start_mm, high, strict=True)) or gap.mm < 0
        if gap.second in boxes:
            low, high = boxes[gap.second]
            axis = max(range(3), key=lambda a: abs(gap.end_mm[a] - gap.start_mm[a]))
            assert min(abs(gap.end_mm[axis] - low[axis]), abs(gap.end_mm[axis] - high[axis])) < 1e-6


def test_a_wall_gap_ends_on_its_wall_by_name():
    # The cell alone in 54 x 36 x 7.5: 1.0 mm at every upright wall; it lies on the floor, with 2.0 over it
    bay = {"rooms": [{"size_mm": [54, 36, 7.5]}], "walls": []}
    answer = fit_of(plan(gadget={"bay": bay}, boards=[]))
    ends = {gap.second: gap for gap in answer.gaps}
    assert ends.keys() == {"left wall", "right wall", "front wall", "back wall", "lid"}
    assert {name: gap.mm for name, gap in ends.items()} == dict.fromkeys(ends, 1.0) | {"lid": 2.0}
    for name, axis, at in (
        ("left wall", 0, 0),
        ("right wall", 0, 54),
        ("front wall", 1, 0),
        ("back wall", 1, 36),
        ("lid", 2, 7.5),
    ):
        assert ends[name].end_mm[axis] == pytest.approx(at)
        assert abs(ends[name].start_mm[axis] - at) == pytest.approx(ends[name].mm)


def test_the_wall_a_socket_is_meant_to_touch_is_no_tight_place():
    answer = laid_out()
    sides = {one.part: one.face_side for one in answer.placements if one.face_side}
    assert sides == {"board": "left"}
    assert ("board", "left wall") not in {(gap.first, gap.second) for gap in answer.gaps}


def test_short_by_so_much_is_an_overlap_of_so_much():
    # 5.5 mm of cell under a lid at 4.5: short by 0.5 a side
    bay = {"rooms": [{"size_mm": [60, 40, 4.5]}], "walls": []}
    answer = fit_of(plan(gadget={"bay": bay}, boards=[]))
    assert answer.fits == "no"
    assert answer.clearance_mm == pytest.approx(-0.5, abs=0.01)
    room = {gap.second: gap.mm for gap in answer.gaps}
    assert room.pop("floor") == room.pop("lid") == pytest.approx(-0.5, abs=0.01)
    assert all(mm >= 3.0 for mm in room.values())  # 60 - 52 and 40 - 34, halved: there it is not short at all


@pytest.mark.parametrize("project", demo_projects(), ids=lambda project: project.gadget.name)
def test_no_place_that_is_shown_is_tighter_than_what_is_said_to_be_left(project):
    """By the boxes alone: to every wall a part keeps its air and what is left, of more than a millimetre that much; its
    socket's wall apart, and the floor, where its air is enough."""
    for build in range(len(project.builds)):
        answer = fit_of(project, build)
        if answer is None or answer.fits == "no" or answer.tube_mm:
            continue
        for one in answer.placements:
            air = 0.0 if one.kind == "cell" else BOARD_GAP_MM
            for axis, sides in enumerate((("left", "right"), ("front", "back"), ("floor", "lid"))):
                rooms = (one.min_mm[axis], answer.size_mm[axis] - one.max_mm[axis])
                for side, room in zip(sides, rooms, strict=True):
                    left = 0.0 if side == "floor" else min(answer.clearance_mm, 1.0)
                    assert side == one.face_side or room >= air + left - 0.011, (one.part, side)
