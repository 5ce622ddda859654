"""Templates and printed parts, reloaded and measured by general-purpose libraries: trimesh, ezdxf, a PDF renderer."""

import io
import re

import ezdxf
import pypdfium2
import pytest
import trimesh
from ezdxf import recover

from builders import board, plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.tubes import filling
from pocketspark.core.models import Board, Cell
from pocketspark.formats import drill_template, printed
from pocketspark.formats.printed import NoSuchPrint, PrintSettings

SETTINGS = PrintSettings()
BAY = {"rooms": [{"size_mm": [75, 45, 32]}], "walls": [{"side": "lid"}], "wall_mm": 2}
SIDE_BAY = BAY | {"walls": [{"side": "left"}]}
BOARD = Board.model_validate(board(socket={"kind": "type_c"}))


def answer(bay=SIDE_BAY):
    return fit_of(plan(gadget={"bay": bay}, boards=[board(socket={"kind": "type_c"})]))


def solids():
    fill = filling(26.2, 18.4, 65, 100)
    round_cell = Cell(capacity_ah=0.8, form="round", size_mm=(10.2, 44))
    return {
        "lid": (printed.lid_blank(answer(BAY), SETTINGS), (79, 49, 3.6)),
        "sleeve": (printed.sleeve(fill), (25.9, 25.9, 100.5)),
        "spacer": (printed.spacer(fill, "front"), (18.6, 18.6, 17.5)),
        "cradle": (printed.cradle(BOARD, SETTINGS), (26.3 + 1.6, 17.6 + 3.2, 1.6 + 1.0 + 1.5)),
        "dummy": (printed.dummy_cell(14.5, 50.5, round_cell, SETTINGS), (14.3, 14.3, 50.5)),
        "box": (printed.outside_box((60, 40, 15), SETTINGS, BOARD), (60.6 + 3.2, 40.6 + 3.2, 15.6 + 1.6)),
        "box-lid": (printed.outside_lid((60, 40, 15), SETTINGS), (63.8, 43.8, 1.6 + 2.5)),
    }


@pytest.mark.parametrize("kind", ["stl", "3mf"])
@pytest.mark.parametrize("name", solids())
def test_a_printed_part_is_watertight_and_true_to_size(name, kind):
    solid, size = solids()[name]
    mesh = trimesh.load(io.BytesIO(printed.to_file(solid, kind)), file_type=kind, force="mesh")
    assert mesh.is_watertight
    assert mesh.volume > 0
    assert mesh.extents == pytest.approx(size, abs=0.05)


def test_the_lid_has_its_hole():
    with_hole, _ = solids()["lid"]
    hole = next(o for o in answer(BAY).openings if o.what == "socket")
    assert hole.side == "lid"
    closed = printed.lid_blank(answer(SIDE_BAY), SETTINGS)
    lamp = next(o for o in answer(BAY).openings if o.what == "lamp")
    cut = (hole.width_mm * hole.height_mm + 3.1416 * (lamp.width_mm / 2) ** 2) * SETTINGS.wall_mm
    assert closed.volume() - with_hole.volume() == pytest.approx(cut, rel=0.02)


def test_what_has_no_use_is_refused_with_the_reason():
    flat = Cell(capacity_ah=0.8, size_mm=(5, 34, 50))
    with pytest.raises(NoSuchPrint, match="round cell"):
        printed.dummy_cell(14.5, 50.5, flat, SETTINGS)
    with pytest.raises(NoSuchPrint, match="leaves no wall"):
        printed.dummy_cell(14.5, 50.5, Cell(capacity_ah=1, form="round", size_mm=(14, 50)), SETTINGS)
    with pytest.raises(NoSuchPrint, match="washer"):
        printed.spacer(filling(26.2, 18.4, 99.9, 100), "front")
    with pytest.raises(drill_template.NothingToDrill):
        drill_template.sheet_of(fit_of(plan(boards=[board()])))


def test_the_preview_is_drawn_from_the_solid():
    svg = printed.to_svg(solids()["cradle"][0])
    assert svg.count("<path") == 2
    assert "viewBox" in svg


# Drill template -----------------------------------------------------------------------------------------------------


def test_the_dxf_holds_face_and_holes_in_millimetres():
    seen = answer()
    text = drill_template.to_dxf(drill_template.sheet_of(seen))
    drawing, audit = recover.read(io.BytesIO(text.encode()))
    assert not audit.has_errors
    assert drawing.units == ezdxf.units.MM
    hole = next(o for o in seen.openings if o.what == "socket")
    boxes = {e.dxf.layer: _extent(e) for e in drawing.modelspace().query("LWPOLYLINE")}
    assert boxes["HOLE"] == (pytest.approx(hole.width_mm), pytest.approx(hole.height_mm))
    assert boxes["FACE"] == (pytest.approx(45 + 4), pytest.approx(32 + 4))
    (lamp,) = drawing.modelspace().query("CIRCLE")
    assert lamp.dxf.radius == pytest.approx(1.0)


def _extent(polyline):
    xs, ys = zip(*[(p[0], p[1]) for p in polyline.get_points()], strict=True)
    return max(xs) - min(xs), max(ys) - min(ys)


def test_the_printed_ruler_is_fifty_millimetres_long():
    sheet = drill_template.sheet_of(answer())
    page = pypdfium2.PdfDocument(drill_template.to_pdf(sheet, "template"))[0]
    width_pt, height_pt = page.get_size()
    assert (width_pt / 72 * 25.4, height_pt / 72 * 25.4) == (
        pytest.approx(sheet.width_mm, abs=0.01),
        pytest.approx(sheet.height_mm, abs=0.01),
    )
    per_mm = 20.0
    image = page.render(scale=per_mm * 25.4 / 72).to_pil().convert("L")
    row = round((sheet.height_mm - 12.0) * per_mm)  # the ruler's base line
    best = max(_longest_dark_run(image, row + off) for off in range(-4, 5))
    assert best / per_mm == pytest.approx(50.0, abs=0.3)


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
    hole = next(o for o in seen.openings if o.what == "socket")
    corner = (abs(hole.across_mm - 19) + hole.width_mm / 2, abs(hole.up_mm - 19) + hole.height_mm / 2)
    assert (corner[0] ** 2 + corner[1] ** 2) ** 0.5 < 19
    page = pypdfium2.PdfDocument(drill_template.to_pdf(sheet, "tube"))[0]
    assert page.get_size()[0] / 72 * 25.4 == pytest.approx(sheet.width_mm, abs=0.01)
