"""The build sheet, rendered by a general-purpose PDF library: its words, its fonts, its pages."""

import re
from datetime import date

import numpy as np
import pypdfium2
import pytest

from builders import plan
from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.fit.placing import fit_of
from pocketspark.demo import demo_projects
from pocketspark.formats import certificate
from pocketspark.formats.build_sheet import bill_as_csv, bill_of_materials, to_pdf

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
    rows = bill_of_materials(plan(cell_count=2), 0)
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
    plain = {what for _, what, _ in bill_of_materials(plan(), 0)}
    rows = bill_of_materials(plan(**changes), 0)
    assert {what for _, what, _ in rows if what != "wires" and not what.startswith("foam")} - plain == wanted
    assert len({what for _, what, _ in rows}) == len(rows)


def test_without_a_cell_there_is_no_sheet():
    with pytest.raises(MissingPart):
        to_pdf(plan(cell=None), 0)
