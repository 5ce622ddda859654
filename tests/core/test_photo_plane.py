"""The plane of a bay in a photograph, against pictures made by projection: a pinhole camera written here, which knows
of no homography. It turns each point of the bay into the camera's own axes and divides by the depth."""

import io

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from builders import plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models.project import Project, apply_edits
from pocketspark.core.photographs.marks import BayCorners, Line, MarkedLength, PhotoMarks, PicturePoint
from pocketspark.core.photographs.plane import BayPlane, NoPlane, read_lengths, traced_box, traced_wall
from pocketspark.core.questions.bay_picture import seen_bay, traced_opening
from pocketspark.core.questions.board_pads import PadInPhoto, pads_in_photo
from pocketspark.formats.photograph import straightened

LENGTH, WIDTH = 62.0, 38.0
WIDE, HIGH, FOCAL = 1600, 1200, 1500.0  # pixels


def camera(tilt=0.0, roll=0.0, pan=0.0, away=220.0):
    """Where a point of the bay, in mm, is seen, in pixels. It looks at the middle of the bay from this far."""
    ca, sa, cb, sb, cc, sc = (f(v) for v in (tilt, roll, pan) for f in (np.cos, np.sin))
    about_x = np.array([[1, 0, 0], [0, ca, -sa], [0, sa, ca]])
    about_z = np.array([[cb, -sb, 0], [sb, cb, 0], [0, 0, 1]])
    about_y = np.array([[cc, 0, sc], [0, 1, 0], [-sc, 0, cc]])

    def seen(x, y):
        # The picture's y runs down, the bay's to its back.
        turned = about_y @ about_x @ about_z @ np.array([x - LENGTH / 2 + 0 * y, WIDTH / 2 - y, 0 * y])
        depth = turned[2] + away
        return WIDE / 2 + FOCAL * turned[0] / depth, HIGH / 2 + FOCAL * turned[1] / depth

    return seen


def spot(seen, x, y):
    px, py = seen(x, y)
    return PicturePoint(x=px / WIDE, y=py / HIGH)


def corners(seen):
    places = [(0, 0), (LENGTH, 0), (LENGTH, WIDTH), (0, WIDTH)]
    return BayCorners(corners=tuple(spot(seen, *place) for place in places), length_mm=LENGTH, width_mm=WIDTH)


angles = st.floats(-0.7, 0.7)
inside = st.tuples(st.floats(0, LENGTH), st.floats(0, WIDTH))


@given(angles, st.floats(-0.6, 0.6), angles, st.floats(150, 400), st.lists(inside, min_size=1, max_size=5))
@settings(max_examples=150)
def test_every_place_is_found_again_from_wherever_it_was_taken(tilt, roll, pan, away, places):
    seen = camera(tilt, roll, pan, away)
    plane = BayPlane(corners(seen))
    for place, (x, y) in zip(places, plane.in_picture(places), strict=True):
        assert (x * WIDE, y * HIGH) == pytest.approx(seen(*place), abs=0.01)
    shown = [(seen(*place)[0] / WIDE, seen(*place)[1] / HIGH) for place in places]
    for place, found in zip(places, plane.in_plane(shown), strict=True):
        assert found == pytest.approx(place, abs=0.01)


def test_lengths_are_read_in_the_plane_and_not_in_the_picture():
    """A rib of 20 mm further off looks shorter than a nearer one; both are read as what they are."""
    seen = camera(tilt=0.6, roll=0.1)
    lines = {name: Line(start=spot(seen, 10, y), end=spot(seen, 30, y)) for name, y in (("front", 3.0), ("back", 35.0))}
    marks = PhotoMarks(bay=corners(seen), lengths=[MarkedLength(name=name, line=line) for name, line in lines.items()])
    front, back = read_lengths(marks, WIDE, HIGH)
    assert (front.mm, back.mm) == (pytest.approx(20.0, abs=0.01), pytest.approx(20.0, abs=0.01))
    flat = [abs(line.end.x - line.start.x) for line in lines.values()]
    assert min(flat) < 0.93 * max(flat)
    assert 0.05 < front.give_or_take_mm < 2


def test_a_projected_picture_is_straightened():
    """A chessboard of 2 mm squares over the bay, seen at a slant; straight, each square's middle has its colour."""
    seen = camera(tilt=0.5, roll=0.2, pan=-0.2, away=180)
    xs, ys = np.linspace(-3, LENGTH + 3, 2000), np.linspace(-3, WIDTH + 3, 1400)
    picture = np.full((HIGH, WIDE), 128, np.uint8)
    for x in xs:
        px, py = seen(x, ys)
        column, row = np.round(px).astype(int), np.round(py).astype(int)
        shade = np.where((np.floor(x / 2) + np.floor(ys / 2)) % 2 == 0, 30, 220)
        ok = (column >= 0) & (column < WIDE) & (row >= 0) & (row < HIGH)
        picture[row[ok], column[ok]] = shade[ok]
    jpeg = io.BytesIO()
    Image.fromarray(picture).save(jpeg, "JPEG", quality=95)
    straight = np.asarray(Image.open(io.BytesIO(straightened(jpeg.getvalue(), BayPlane(corners(seen))))).convert("L"))
    px_per_mm = straight.shape[1] / LENGTH
    assert straight.shape[0] == pytest.approx(WIDTH * px_per_mm, abs=1)
    right = [
        (straight[int((WIDTH - y) * px_per_mm), int(x * px_per_mm)] < 128) == ((x // 2 + y // 2) % 2 == 0)
        for x in np.arange(3, LENGTH - 2, 2)
        for y in np.arange(3, WIDTH - 2, 2)
    ]
    assert np.mean(right) > 0.97


def test_what_is_traced_is_drawn_to_walls_and_edges_that_are_near():
    seen = camera(tilt=0.4)
    plane = BayPlane(corners(seen))
    free = Line(start=spot(seen, 20, 10), end=spot(seen, 30, 15))
    assert traced_box(plane, free, ([], [])) == ((20.0, 10.0), (10.0, 5.0))
    near = Line(start=spot(seen, 0.9, 37.4), end=spot(seen, 18.8, 30.0))
    assert traced_box(plane, near, ([20.0], [])) == ((0.0, 30.0), (20.0, 8.0))
    with pytest.raises(NoPlane, match="has no size"):
        traced_box(plane, Line(start=spot(seen, 5, 5), end=spot(seen, 5.02, 9)), ([], []))


@pytest.mark.parametrize(
    ("start", "end", "wall"),
    [
        ((0.8, 10), (-1.5, 25.3), ("left", 10.0, 25.3)),
        ((61, 30), (63.5, 37.2), ("right", 30.0, 38.0)),  # drawn to the corner that is near
        ((44, 1), (12, -2), ("front", 12.0, 44.0)),
        ((1, 38.5), (61.2, 36), ("back", 0.0, 62.0)),
    ],
)
def test_a_line_along_a_wall_says_where_it_may_be_opened(start, end, wall):
    seen = camera(tilt=-0.35, pan=0.2, roll=0.3)
    line = Line(start=spot(seen, *start), end=spot(seen, *end))
    assert traced_wall(BayPlane(corners(seen)), line) == wall
    # The wall that may be opened on that side is the same one, and there is one of it afterwards.
    bay = {"rooms": [{"id": "room1", "size_mm": (LENGTH, WIDTH, 15)}], "walls": [{"side": "left"}]}
    project = plan(gadget={"bay": bay})
    once = project.apply(traced_opening(project, corners(seen), line).edits)
    again = once.apply(traced_opening(once, corners(seen), line).edits)
    walls = {one.side: (one.from_mm, one.to_mm) for one in again.gadget.bay.walls}
    assert (len(again.gadget.bay.walls), walls[wall[0]]) == (len(once.gadget.bay.walls), wall[1:])


@pytest.mark.parametrize(("end", "why"), [((40, 20), "along one wall"), ((0.5, 10.4), "hardly a line")])
def test_a_line_along_no_wall_is_refused(end, why):
    seen = camera(tilt=0.2)
    with pytest.raises(NoPlane, match=why):
        traced_wall(BayPlane(corners(seen)), Line(start=spot(seen, 0, 10), end=spot(seen, *end)))


@pytest.mark.parametrize("side", ["left", "right", "front", "back"])
def test_openings_are_seen_at_the_parts_they_serve(side):
    """Their lines lie on the rim, about the middle of the board whose socket shows there."""
    seen = camera(tilt=0.3, roll=0.2)
    bay = {"rooms": [{"id": "room1", "size_mm": (LENGTH, WIDTH, 15)}], "walls": [{"side": side}]}
    project = plan(gadget={"bay": bay})
    shown = seen_bay(project, 0, corners(seen))
    socket = next(one for one in shown.openings if str(one.what) == "socket")
    board = next(one for one in fit_of(project).placements if one.face_side == side)
    middle = [(low + high) / 2 for low, high in zip(board.min_mm, board.max_mm, strict=True)]
    at = {"left": (0, middle[1]), "right": (LENGTH, middle[1]), "front": (middle[0], 0), "back": (middle[0], WIDTH)}
    (x1, y1), (x2, y2) = BayPlane(corners(seen)).in_plane(socket.line)
    assert socket.side == side
    assert ((x1 + x2) / 2, (y1 + y2) / 2) == pytest.approx(at[side], abs=0.05)


def test_corners_that_are_no_picture_of_a_bay_are_refused_with_a_sentence():
    good = corners(camera(tilt=0.3)).corners
    crossed = (good[0], good[2], good[1], good[3])
    with pytest.raises(NoPlane, match="one after the other"):
        BayPlane(BayCorners(corners=crossed, length_mm=LENGTH, width_mm=WIDTH))
    tiny = tuple(PicturePoint(x=0.5 + (c.x - 0.5) / 50, y=0.5 + (c.y - 0.5) / 50) for c in good)
    with pytest.raises(NoPlane, match="from nearer"):
        BayPlane(BayCorners(corners=tiny, length_mm=LENGTH, width_mm=WIDTH))


@pytest.mark.parametrize("nose_mm", [0.0, 1.5])
def test_pads_clicked_on_a_slanted_photograph_of_a_board_are_where_they_are(nose_mm):
    """The bare board is what its corners show: a socket's nose that stands out over its edge is none of it."""
    seen = camera(tilt=0.4, roll=-0.3, pan=0.2)
    size = [LENGTH + nose_mm, WIDTH, 4.0]
    board = {"name": "mine", "outline_mm": size, "charger": {}, "socket": {"kind": "type_c", "nose_mm": nose_mm}}
    board["pads"] = [{"name": "OUT+", "at_mm": [1, 1]}]
    project = plan(boards=[board])
    places = {"IN+": (1.2, 36.0), "B-": (60.1, 12.5)}
    clicked = [PadInPhoto(name=name, at=spot(seen, *at)) for name, at in places.items()]
    edits = pads_in_photo(project, 0, "board1", corners(seen).corners, clicked)
    document = project.model_dump(mode="json")
    apply_edits(document, edits)
    [known] = Project.model_validate(document).builds[0].boards
    due = {"OUT+": (1, 1)} | {name: (x + nose_mm, y) for name, (x, y) in places.items()}
    assert {pad.name: pad.at_mm for pad in known.pads} == {
        name: pytest.approx(at, abs=0.06) for name, at in due.items()
    }
    with pytest.raises(NoPlane, match="beside the board"):
        pads_in_photo(
            project, 0, "board1", corners(seen).corners, [PadInPhoto(name="B+", at=spot(seen, LENGTH + 3, 5))]
        )
    again = PadInPhoto(name="B+", at=spot(seen, 60.1, 12.2))
    with pytest.raises(NoPlane, match=r"B\+ was clicked where B- is"):
        pads_in_photo(project, 0, "board1", corners(seen).corners, [*clicked, again])
    with pytest.raises(NoPlane, match="measure that board first"):
        pads_in_photo(plan(boards=[board | {"outline_mm": None}]), 0, "board1", corners(seen).corners, clicked)
