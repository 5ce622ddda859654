"""Drill templates, reloaded and measured by general-purpose libraries: ezdxf, and a PDF renderer (pdfium).

Printed parts have a file of their own.
"""

import io
import math
import re

import ezdxf
import pypdfium2
import pytest
from any_bay import document
from ezdxf import recover

from builders import CELL, board, plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project
from pocketspark.formats import drill_pages, drill_template

SIDE_BAY = {"rooms": [{"size_mm": [75, 45, 32]}], "walls": [{"side": "left"}], "wall_mm": 2}


def answer(bay=SIDE_BAY):
    return fit_of(plan(gadget={"bay": bay}, boards=[board(socket={"kind": "type_c"})]))


SLIM = CELL | {"form": "round", "size_mm": [18.4, 65]}

# Each outer face as it is looked at from outside: outwards, to the right and up, in the bay's axes. A view that is no
# mirror image has right x up = outwards.
VIEWS = {
    "left": ((-1, 0, 0), (0, -1, 0), (0, 0, 1)),
    "right": ((1, 0, 0), (0, 1, 0), (0, 0, 1)),
    "front": ((0, -1, 0), (1, 0, 0), (0, 0, 1)),
    "back": ((0, 1, 0), (-1, 0, 0), (0, 0, 1)),
    "floor": ((0, 0, -1), (1, 0, 0), (0, -1, 0)),
    "lid": ((0, 0, 1), (1, 0, 0), (0, 1, 0)),
}


def in_the_bay(opening, size, wall):
    """The middle of a hole, from where it is told on its face, at the inside of the wall."""
    out, right, up = VIEWS[opening.side]
    cross = (
        right[1] * up[2] - right[2] * up[1],
        right[2] * up[0] - right[0] * up[2],
        right[0] * up[1] - right[1] * up[0],
    )
    assert cross == out
    at = []
    for axis in range(3):
        from_low = opening.across_mm * right[axis] + opening.up_mm * up[axis]
        if out[axis]:
            at.append(0.0 if out[axis] < 0 else size[axis])
        else:  # from the far edge where the view runs the other way
            at.append(from_low - wall if right[axis] + up[axis] > 0 else size[axis] + wall + from_low)
    return at


def test_every_hole_is_in_front_of_what_shows_there_and_no_view_is_a_mirror_image():
    sides = set()
    on_purpose = [
        plan(gadget={"bay": SIDE_BAY | {"walls": [{"side": side}]}}, boards=[board(socket={"kind": "type_c"})])
        for side in VIEWS
    ]
    for seed, project in enumerate([*on_purpose, *(Project.model_validate(document(seed)) for seed in range(200))]):
        found = fit_of(project)
        if found is None or found.fits == "no":
            continue
        for opening in found.openings:
            if opening.what not in ("socket", "switch"):
                continue  # a board's own lamp hole lies beside its socket's
            part = next(one for one in found.placements if one.part == opening.part)
            at = in_the_bay(opening, found.size_mm, found.wall_mm)
            out = VIEWS[opening.side][0]
            for axis in range(3):
                if not out[axis]:
                    assert part.min_mm[axis] - 0.01 <= at[axis] <= part.max_mm[axis] + 0.01, (seed, opening)
            # Along its width what shows is in the middle of its part.
            middles = [abs(at[a] - (part.min_mm[a] + part.max_mm[a]) / 2) < 0.02 for a in range(3) if not out[a]]
            assert any(middles), (seed, opening)
            sides.add(opening.side)
    assert sides == set(VIEWS)


# Drill template -----------------------------------------------------------------------------------------------------


def test_the_dxf_holds_face_and_holes_in_millimetres():
    seen = answer()
    text = drill_template.to_dxf(drill_template.sheet_of(seen))
    drawing, audit = recover.read(io.BytesIO(text.encode()))
    assert not audit.has_errors
    assert drawing.units == ezdxf.units.MM
    hole = next(o for o in seen.openings if str(o.what) == "socket")
    boxes = {e.dxf.layer: _extent(e) for e in drawing.modelspace().query("LWPOLYLINE")}
    assert boxes["HOLE"] == (pytest.approx(hole.width_mm), pytest.approx(hole.height_mm))
    assert boxes["FACE"] == (pytest.approx(45 + 4), pytest.approx(32 + 4))
    (lamp,) = drawing.modelspace().query("CIRCLE")
    assert lamp.dxf.radius == pytest.approx(1.0)


def _extent(polyline):
    xs, ys = zip(*[(p[0], p[1]) for p in polyline.get_points()], strict=True)
    return max(xs) - min(xs), max(ys) - min(ys)


PAPER_MM = {"a4": (210, 297), "letter": (8.5 * 25.4, 11 * 25.4)}  # ISO 216; ANSI


@pytest.mark.parametrize("paper", PAPER_MM)
def test_the_printed_ruler_is_fifty_millimetres_long(paper):
    pdf = drill_pages.to_pdf(drill_template.sheet_of(answer()), "Moth-trap lamp: drill template", paper)
    assert b"/PrintScaling /None" in pdf
    page = pypdfium2.PdfDocument(pdf)[0]
    assert [pt / 72 * 25.4 for pt in page.get_size()] == pytest.approx(PAPER_MM[paper], abs=0.01)
    text = page.get_textpage().get_text_bounded()
    for words in ("Moth-trap lamp", "100 %", "left, seen from outside", "socket of board"):
        assert words in text
    per_mm = 20.0
    image = page.render(scale=per_mm * 25.4 / 72).to_pil().convert("L")
    row = round((PAPER_MM[paper][1] - 12.0) * per_mm)  # the ruler's base line
    best = max(_longest_dark_run(image, row + off) for off in range(-4, 5))
    assert best / per_mm == pytest.approx(50.0, abs=0.3)


@pytest.mark.parametrize("paper", PAPER_MM)
@pytest.mark.parametrize("bay_mm", [[300, 250, 30], [150, 60, 20], [60, 500, 300]])
def test_a_face_larger_than_the_page_is_tiled_whole(paper, bay_mm):
    walls = [{"side": side} for side in VIEWS]
    bay = {"rooms": [{"size_mm": bay_mm}], "walls": walls, "wall_mm": 2}
    boards = [board(socket={"kind": "type_c"})]
    for side in ("lid", "left", "front"):
        pins = [{"part": boards[0]["name"], "side": side}]
        sheet = drill_template.sheet_of(fit_of(plan(gadget={"bay": bay}, boards=boards, pins=pins)))
        width, height = PAPER_MM[paper]
        for face in sheet.faces:
            tiles = [tile for page in drill_pages.pages_of(sheet, paper) for tile in page if tile.face == face]
            for tile in tiles:
                left, low, right, top = tile.window_mm
                assert tile.x_mm + left >= 10
                assert tile.x_mm + right <= width - 10
                assert tile.y_mm + low >= 10
                assert tile.y_mm + top <= height - 10
            # Every point of the face, its corners and its holes' middles are on a page.
            points = [(0, 0), (face.width_mm, face.height_mm), (0, face.height_mm), (face.width_mm, 0)]
            points += [(hole.across_mm, hole.up_mm) for hole in face.openings]
            points += [(face.width_mm * i / 20, face.height_mm * j / 20) for i in range(21) for j in range(21)]
            for x, y in points:
                assert any(
                    t.window_mm[0] <= x <= t.window_mm[2] and t.window_mm[1] <= y <= t.window_mm[3] for t in tiles
                )


def _longest_dark_run(image, y):
    runs = re.findall("1+", "".join("1" if image.getpixel((x, y)) < 160 else "0" for x in range(image.width)))
    return max(map(len, runs), default=0)


def test_the_svg_is_drawn_in_real_millimetres():
    sheet = drill_template.sheet_of(answer())
    svg = drill_template.to_svg(sheet, "template")
    assert f'width="{sheet.width_mm:.2f}mm"' in svg
    assert f'viewBox="0 0 {sheet.width_mm:.2f} {sheet.height_mm:.2f}"' in svg
    assert svg.count('class="hole"') == 2
    assert "h50.00" in svg


def test_the_end_of_a_tube_is_a_round_face_with_its_socket_in_it():
    cell = {"name": "round", "form": "round", "size_mm": [18.3, 65], "capacity_ah": 2.5}
    gadget = {"bay": {"tube": {"diameter_mm": 34, "length_mm": 70}}}
    seen = fit_of(plan(gadget=gadget, cell=cell, boards=[board(socket={"kind": "type_c"})]))
    sheet = drill_template.sheet_of(seen)
    assert [face.round for face in sheet.faces] == [True]
    svg = drill_template.to_svg(sheet, "tube")
    assert svg.count('class="face"') == 1
    assert f'r="{(34 + 2 * 2) / 2:.2f}"' in svg  # the wall of 2 mm on either side
    drawing, audit = recover.read(io.BytesIO(drill_template.to_dxf(sheet).encode()))
    assert not audit.has_errors
    (face,) = [e for e in drawing.modelspace().query("CIRCLE") if e.dxf.layer == "FACE"]
    assert face.dxf.radius == pytest.approx(19)
    # The socket's hole lies whole in the round of the tube.
    hole = next(o for o in seen.openings if str(o.what) == "socket")
    corner = (abs(hole.across_mm - 19) + hole.width_mm / 2, abs(hole.up_mm - 19) + hole.height_mm / 2)
    assert (corner[0] ** 2 + corner[1] ** 2) ** 0.5 < 19
    assert len(pypdfium2.PdfDocument(drill_pages.to_pdf(sheet, "tube"))) == 1


def test_the_side_of_a_tube_is_drawn_as_paper_lies_round_it():
    bay = {"tube": {"diameter_mm": 34, "length_mm": 100}, "walls": [{"side": "front"}], "wall_mm": 2}
    can = fit_of(plan(gadget={"bay": bay}, cell=SLIM, boards=[board(socket={"kind": "type_c"})]))
    sheet = drill_template.sheet_of(can)
    (face,) = sheet.faces
    assert "lay the paper round it" in str(face.title)
    # Half of its circumference, 19 mm from the axis; a place on it is as high as its arc from the middle says.
    assert face.height_mm == pytest.approx(math.pi * 19)
    lies = next(one for one in can.placements if one.kind == "board")
    hole = next(hole for hole in face.openings if str(hole.what) == "socket")
    up = 17 + 19 * math.sin((hole.up_mm - face.height_mm / 2) / 19)
    # On a board of 1 mm a socket 3.2 mm high, whichever side is up.
    assert any(up == pytest.approx(at, abs=0.02) for at in (lies.min_mm[2] + 2.6, lies.max_mm[2] - 2.6))


def test_without_a_hole_there_is_no_template():
    with pytest.raises(drill_template.NothingToDrill):
        drill_template.sheet_of(fit_of(plan(boards=[board()])))
