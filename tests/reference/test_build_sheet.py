"""The build sheet, rendered by a general-purpose PDF library: its words, its fonts, its pages."""

import re

import pypdfium2
import pytest

from builders import plan
from pocketspark.core.chain import MissingPart
from pocketspark.demo import demo_projects
from pocketspark.formats.build_sheet import bill_as_csv, bill_of_materials, to_pdf

READY = [project for project in demo_projects() if project.builds[0].cell]


@pytest.mark.parametrize("project", READY, ids=lambda p: p.gadget.name)
def test_every_demo_prints_with_its_parts_steps_and_cautions(project):
    pdf = pypdfium2.PdfDocument(to_pdf(project, 0))
    text = "\n".join(page.get_textpage().get_text_range() for page in pdf)
    assert project.gadget.name in text
    for word in ("Parts", "Program resistor", "Hook-up", "Steps", "Cautions", "Lithium"):
        assert word in text
    assert "Short check" in text
    # something is drawn on every page: no blank one
    for page in pdf:
        low, high = page.render(scale=0.5).to_pil().convert("L").getextrema()
        assert (low < 80, high) == (True, 255)


def test_its_fonts_are_embedded():
    made = to_pdf(plan(), 0)
    assert len(re.findall(rb"/FontFile2", made)) >= 2


def test_what_is_assumed_and_what_was_read_stands_on_it():
    project = plan(gadget={"window": None}, steps=[{"step": "resistor", "done": True, "value": 2985}])
    pdf = pypdfium2.PdfDocument(to_pdf(project, 0))
    text = "\n".join(page.get_textpage().get_text_range() for page in pdf)
    assert "(assumed)" in text
    assert "2985" in text


def test_the_bill_of_materials_counts():
    rows = bill_of_materials(plan(cell_count=2), 0)
    assert rows[0][:2] == (2, "Pouch 503450")
    assert any("resistor 3 k" in what for _, what, _ in rows)
    assert bill_as_csv(plan(), 0).splitlines()[0] == "quantity,part,remark"


def test_without_a_cell_there_is_no_sheet():
    with pytest.raises(MissingPart):
        to_pdf(plan(cell=None), 0)
