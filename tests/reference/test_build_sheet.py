"""The build sheet, rendered by a general-purpose PDF library: its words, its fonts, its pages."""

import re
from datetime import date
from itertools import combinations
from xml.etree import ElementTree

import numpy as np
import pypdfium2
import pytest

from builders import plan
from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.sheet import sheet_of
from pocketspark.core.steps import procedure
from pocketspark.core.wiring.cutlist import cut_list
from pocketspark.demo import demo_projects
from pocketspark.formats import certificate
from pocketspark.formats.build_sheet import bill_as_csv, to_pdf
from pocketspark.formats.sheet_pictures import as_svg, views_picture

SVG = "{http://www.w3.org/2000/svg}"
READY = [project for project in demo_projects() if project.builds[0].cell]


@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
def test_every_demo_prints_with_its_parts_steps_and_cautions(project):
    pdf = pypdfium2.PdfDocument(to_pdf(project, 0))
    text = "\n".join(page.get_textpage().get_text_range() for page in pdf)
    assert project.gadget.name in text
    for word in ("Parts", "Charge-current resistor", "Hook-up", "Steps", "Cautions", "Lithium"):
        assert word in text
    assert "Short check" in text
    # something is drawn on every page: no blank one
    for page in pdf:
        low, high = page.render(scale=1).to_pil().convert("L").getextrema()
        assert (low < 80, high) == (True, 255)


@pytest.mark.parametrize(
    ("paper", "wanted"), [("a4", (210, 297)), ("letter", (8.5 * 25.4, 11 * 25.4))]
)  # ISO 216; ANSI
def test_it_is_printed_on_the_makers_paper(paper, wanted):
    pdf = pypdfium2.PdfDocument(to_pdf(plan(r_prog_ohm=2700), 0, paper))
    for page in pdf:
        assert [pt / 72 * 25.4 for pt in page.get_size()] == pytest.approx(wanted, abs=0.01)
        # Nothing runs over the edge: what is drawn stays within a white margin.
        gray = np.asarray(page.render(scale=1).to_pil().convert("L"))
        assert (np.concatenate([gray[:, :40], gray[:, -40:]], axis=1) > 250).all()
        assert f"printed {date.today().isoformat()}" in page.get_textpage().get_text_range()
    text = "".join(page.get_textpage().get_text_range() for page in pdf)
    assert "2.7 kΩ" in text
    assert text.index("Solder fumes") < text.index("Short check")  # told before it is needed


def printed_over(pdf):
    """Texts of which one is printed over another, by where a PDF library finds them."""
    for number, page in enumerate(pdf):
        text = page.get_textpage()
        places = [text.get_rect(index) for index in range(text.count_rects())]
        for one, other in combinations(places, 2):
            wide = min(one[2], other[2]) - max(one[0], other[0])
            high = min(one[3], other[3]) - max(one[1], other[1])
            # Letters that reach under their line come near the next; half a letter is 2 points.
            if wide > 2 and high > 0.5 * min(one[3] - one[1], other[3] - other[1]):
                yield number, text.get_text_bounded(*one), text.get_text_bounded(*other)


@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_nothing_is_printed_over_anything_else(project, paper):
    papers = [to_pdf(project, 0, paper), certificate.to_pdf(all_done(project), 0, paper)]
    for paper_file in papers:
        assert list(printed_over(pypdfium2.PdfDocument(paper_file))) == []


def all_done(project):
    """Every step done, each reading in the middle of its limits; what is read may bring further steps."""
    document = project.model_dump(mode="json")
    document["builds"][0]["record"]["built_although"] = "it is wanted on paper, however long a reason it takes"
    for _ in range(3):
        steps = build_steps(type(project).model_validate(document), 0).steps
        document["builds"][0]["record"]["steps"] = [
            {"step": step.key, "done": True, "value": middle(step.hold), "origin": "typed", "at": "2026-11-26T10:00Z"}
            for step in steps
        ]
    return type(project).model_validate(document)


def middle(hold):
    if hold is None:
        return None
    low = hold.low if hold.low is not None else hold.high / 2
    return (low + (hold.high if hold.high is not None else 1.2 * low)) / 2


@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
def test_every_line_of_the_page_is_on_paper(project):
    pdf = pypdfium2.PdfDocument(to_pdf(project, 0))
    paper = "".join("".join(page.get_textpage().get_text_range() for page in pdf).split())
    for section in sheet_of(project, 0).sections:
        rows = section.table.rows if section.table else ()
        columns = [column.kind for column in section.table.columns] if section.table else []
        cells = [cell for row in rows for cell, kind in zip(row, columns, strict=True) if kind != "tick"]
        for text in map(str, (section.heading, *(one.text for one in section.lines), *cells)):
            # The letter mu is printed as the micro sign; a line that is broken ends with no space.
            assert all(word.replace("μ", "µ") in paper for word in text.split()), text


def test_what_is_done_is_ticked_and_what_is_to_be_read_has_room():
    wire = cut_list(Chain(plan(), 0))[0]
    project = plan(steps=[{"step": "resistor", "done": True, "value": 2985}], soldered=[f"{wire.start} to {wire.end}"])
    tables = {str(section.heading): section.table for section in sheet_of(project, 0).sections}
    assert [str(row[0]) for row in tables["Hook-up"].rows] == ["done", "", "", ""]
    steps = {str(step.title): step for step in procedure(project, 0).steps}
    for ticked, title, limits, reads in (map(str, row) for row in tables["Steps"].rows):
        step = next(one for name, one in steps.items() if name in title)
        assert (ticked, bool(limits)) == ("done" if step.key == "resistor" else "", step.hold is not None)
        # Room to write wherever a meter is asked for and has not been read.
        assert (reads == "") == (step.hold is not None and step.key != "resistor")


@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
def test_the_three_views_are_to_scale(project):
    answer = fit_of(project, 0)
    drawn = ElementTree.fromstring(as_svg(views_picture(answer), "views"))
    boxes = [[float(rect.get(key)) for key in ("x", "y", "width", "height")] for rect in drawn.iter(f"{SVG}rect")]
    page_w, page_h = (float(drawn.get(key)[:-2]) for key in ("width", "height"))
    assert all(x > 0 and y > 0 and x + w < page_w and y + h < page_h for x, y, w, h in boxes)
    shell = [mm + 2 * answer.wall_mm for mm in answer.size_mm]
    scale = max(w for _, _, w, _ in boxes) / max(shell[0], 0 if answer.tube_mm else shell[1])
    for part in answer.placements:
        size = [high - low for low, high in zip(part.min_mm, part.max_mm, strict=True)]
        for across, up in ((0, 1), (0, 2), (1, 2)):
            wanted = [size[across] * scale, size[up] * scale]
            rounded = part.round and across == 1
            assert rounded or any(box[2:] == pytest.approx(wanted, abs=0.05) for box in boxes), part.part


@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize("side", [0, 1, 2])
@pytest.mark.parametrize("what", ["board", "cell", "bay"])
def test_nothing_is_too_large_for_paper(what, side, paper):
    """A board of a metre is drawn smaller, not refused."""
    size = [1000.0 if axis == side else 4.0 for axis in range(3)]
    build = plan().builds[0]
    changed = {
        "board": lambda: plan(boards=[build.boards[0].model_dump() | {"outline_mm": size}]),
        "cell": lambda: plan(cell=build.cell.model_dump() | {"size_mm": size}),
        "bay": lambda: plan(gadget={"bay": {"rooms": [{"id": "room1", "size_mm": size}]}}),
    }[what]()
    for page in pypdfium2.PdfDocument(to_pdf(changed, 0, paper)):
        gray = np.asarray(page.render(scale=1).to_pil().convert("L"))
        assert (np.concatenate([gray[:, :40], gray[:, -40:]], axis=1) > 250).all()


def test_a_jack_of_the_gadgets_own_gets_its_label():
    def labels(**build):
        project = plan(**build)
        story = certificate.jack_label(Chain(project, 0))
        return " ".join(story)

    assert labels() == ""
    old = {"kind": "old_jack", "centre": "negative", "open_v": 5.1, "regulated": True}
    assert "5 V ONLY" in labels(input=old)
    assert "centre pin negative" in labels(input=old)
    assert "do not use" in labels(input=old | {"centre": "unknown"})


def test_its_fonts_are_embedded():
    made = to_pdf(plan(), 0)
    assert len(re.findall(rb"/FontFile2", made)) >= 2


def test_what_is_assumed_and_what_was_read_stands_on_it():
    project = plan(
        gadget={"window": None}, steps=[{"step": "resistor", "done": True, "value": 2985, "origin": "typed"}]
    )
    pdf = pypdfium2.PdfDocument(to_pdf(project, 0))
    text = "\n".join(page.get_textpage().get_text_range() for page in pdf)
    assert "(assumed)" in text
    assert re.search(r"2\.98", text)
    assert "typed in" in re.sub(r"\s+", " ", text)


def test_the_notes_of_the_project_are_on_it():
    project = plan().model_copy(update={"notes": "belongs to the hut\nbring it back <dry>"})
    text = pypdfium2.PdfDocument(to_pdf(project, 0))[0].get_textpage().get_text_range()
    assert "belongs to the hut" in text
    assert "bring it back <dry>" in text


def test_the_bill_of_materials_counts():
    rows = [(pieces, str(what), str(where)) for pieces, what, where in bill_of_materials(plan(cell_count=2), 0)]
    assert rows[0][:2] == (2, "Pouch 503450")
    assert any("resistor 3 k" in what for _, what, _ in rows)
    foam = {part for _, what, where in rows if what.startswith("foam") for part in where[6:].split(" and ")}
    assert foam == {one.part for one in fit_of(plan(cell_count=2)).stands if one.foam_mm > 0.2}
    assert bill_as_csv(plan(), 0).splitlines()[0] == "quantity,part,remark"


@pytest.mark.parametrize(
    ("changes", "wanted"),
    [
        ({"small_parts": [{"kind": "lamp", "name": "red lamp"}]}, {"red lamp"}),
        ({"use_while_charging": "two_diodes"}, {"diode from the cell", "diode from 5 V"}),
        # Known to the wiring and to the fit, and yet one switch.
        ({"use_while_charging": "change_over"}, {"change-over switch"}),
        (
            {"regulator": {"kind": "ldo", "v_set": 3.3, "name": "LDO"}, "switch_place": "before_regulator"},
            {"LDO", "main switch"},
        ),
        ({"wiring": {"extra": [{"key": "f", "kind": "fuse", "name": "500 mA fuse"}]}}, {"500 mA fuse"}),
        ({"wiring": {"extra": [{"key": "l", "kind": "link", "name": "old track"}]}}, set()),  # it is there already
        ({"input": {"kind": "wireless"}}, {"wireless receiver pad, 5 V", "ferrite sheet"}),
        ({"cell_lead": "small_plug"}, {"Plug, 1.25 mm pitch, with its socket"}),
    ],
)
def test_nothing_has_to_be_fetched_halfway(changes, wanted):
    plain = {str(what) for _, what, _ in bill_of_materials(plan(), 0)}
    rows = [(pieces, str(what), where) for pieces, what, where in bill_of_materials(plan(**changes), 0)]
    assert {what for _, what, _ in rows if what != "wires" and not what.startswith("foam")} - plain == wanted
    assert len({what for _, what, _ in rows}) == len(rows)


def test_without_a_cell_there_is_no_sheet():
    with pytest.raises(MissingPart):
        to_pdf(plan(cell=None), 0)
