"""Names that were made to be read as something else, in every file that we write.

The readers are the formats' own: ngspice, an XML parser, a DXF reader, PDFium, a CSV reader.
"""

import csv
import io
import json
import shutil
import subprocess
import unicodedata
from xml.etree import ElementTree

import ezdxf
import pypdfium2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import plan
from chances import in_turn
from every_question import MORE, QUESTIONS
from pocketspark.core.models.plain_text import on_lines, on_one_line
from pocketspark.formats.build_sheet import as_cell
from pocketspark.formats.spice import comment

NAMES = [
    "lamp\n.control\nshell touch proof\n.endc",
    "lamp\r\n.control\rshell touch proof\r.endc\x0b\x0c\x85\u2028shell touch proof",
    "<script>alert(1)</script>&]]>\x00\x07\ufffe",
    "=cmd|' /C touch'!A1",
    "-1+1@SUM(1)",
    '"; touch proof; echo "',
    "\u202eevil\u202c \U0001f526 \u0623\u0645\u0627\u0646",
]


@pytest.fixture(params=NAMES, ids=range(len(NAMES)))
def question(request):
    name = request.param
    document = plan().model_dump(mode="json")
    document["gadget"]["name"] = name
    for mode in document["gadget"]["modes"]:
        mode["name"] = name[:60]
    document["builds"][0]["name"] = name
    document["builds"][0]["cell"]["name"] = name
    return {"document": document}


# What walls, spaces and parts are called by ourselves, half of a character, and a name that is numbered already.
WORDS = ["lid", "front wall", "floor", "box", "bay", "charger", "cell", "gadget", "board1", "\ud800", "x #2"]


@pytest.mark.parametrize("word", in_turn(WORDS, 4))
@pytest.mark.parametrize("lid", [{"lid_raise_mm": 3}, {}])
def test_every_part_may_have_the_same_name_and_any(client, word, lid):
    """In a bay that is too low, so that every remedy is looked for."""
    document = plan(gadget={"bay": {"rooms": [{"size_mm": [60, 40, 9]}], "wall_mm": 0.5} | lid}).model_dump(mode="json")
    [build] = document["builds"]
    boards = [build["boards"][0] | {"id": f"board{n}", "name": word} for n in (1, 2)]
    build |= {"cell": build["cell"] | {"name": word}, "boards": [*boards, boards[0] | {"id": "third", "name": "x"}]}
    document["gadget"]["bay"]["obstacles"] = [{"name": word, "at_mm": [0, 0, 0], "size_mm": [3, 3, 3], "state": "trim"}]
    for question in QUESTIONS:
        if "export" not in question or question.endswith(("sheet", "parts")):
            asked = json.dumps({"document": document} | MORE.get(question, {}))
            answer = client.post(question, content=asked, headers={"content-type": "application/json"})
            assert answer.status_code < 500, (question, answer.text)


@pytest.mark.skipif(shutil.which("ngspice") is None, reason="no ngspice here")
@pytest.mark.parametrize("circuit", ["running", "charging"])
def test_a_netlist_runs_no_command_but_ours(client, question, tmp_path, circuit):
    netlist = client.post(f"/api/questions/export/{circuit}", json=question)
    assert netlist.status_code == 200, netlist.text
    (tmp_path / "a.cir").write_text(netlist.text)
    run = subprocess.run(["ngspice", "-b", "a.cir"], cwd=tmp_path, capture_output=True, text=True, check=False)
    assert "v(" in run.stdout.lower()
    assert not (tmp_path / "proof").exists()
    assert sum(line.startswith(".control") for line in str(netlist.text).splitlines()) == 1


@pytest.mark.parametrize("path", ["export/hook-up", "export/drill-svg"])
def test_a_drawing_is_well_formed_and_holds_no_script(client, question, path):
    answer = client.post(f"/api/questions/{path}", json=question)
    assert answer.status_code == 200, answer.text
    assert all("script" not in element.tag for element in ElementTree.fromstring(answer.text).iter())


def test_a_dxf_can_be_read(client, question):
    answer = client.post("/api/questions/export/drill-dxf", json=question)
    assert ezdxf.read(io.StringIO(answer.text)).modelspace()


def test_the_sheet_is_one_pdf_that_runs_nothing(client, question):
    answer = client.post("/api/questions/export/sheet", json=question)
    assert len(pypdfium2.PdfDocument(answer.content)) >= 1
    for action in (b"/JavaScript", b"/Launch", b"/OpenAction"):
        assert action not in answer.content


def test_no_cell_of_the_bill_begins_a_formula(client, question):
    answer = client.post("/api/questions/export/parts", json=question)
    cells = [cell for row in csv.reader(io.StringIO(answer.text)) for cell in row]
    assert len(cells) > 6
    assert not [cell for cell in cells if cell[:1] in ("=", "+", "-", "@", "\t")]


def test_the_name_of_a_file_is_plain(client, question):
    kept = client.post("/api/projects", json=question["document"]).json()
    for way in ("export", "export.zip"):
        header = client.get(f"/api/projects/{kept['id']}/{way}").headers["content-disposition"]
        assert header.count('"') == 2
        assert header.isascii()


@given(st.text())
def test_a_name_is_one_line_of_what_can_be_written(text):
    plain = on_one_line(text.encode(errors="ignore").decode())
    # Blanks of other scripts are blanks too (Unicode's category Zs), and two marks join letters.
    assert all(c.isprintable() or c in "\u200c\u200d" or unicodedata.category(c) == "Zs" for c in plain)
    assert len(plain.splitlines()) <= 1
    ElementTree.fromstring(f"<a>{plain.replace('&', '').replace('<', '')}</a>")
    assert on_one_line(plain) == plain


def test_a_text_of_several_lines_keeps_them():
    assert on_lines("one\r\ntwo\tthree\x07\n\nfour\x0b") == "one\ntwo\tthree\n\nfour "


@given(st.text())
def test_a_comment_is_one_line_that_begins_with_a_star(text):
    line = comment(text)
    assert line.startswith("* ")
    assert line.isascii()
    assert len(line.splitlines()) == 1
    assert as_cell(f"={text}").startswith("'=")
