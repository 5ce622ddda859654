"""The documents say what is: their example loads, their pictures are there."""

import ast
import json
import re
import sys
from importlib.metadata import packages_distributions
from pathlib import Path

from pocketspark.formats import project_json

ROOT = Path(__file__).resolve().parents[1]


def test_the_example_in_the_formats_page_is_a_project():
    text = (ROOT / "docs" / "formats.md").read_text()
    example = re.search(r"\n    \{\n(?:    .*\n)+", text)[0]
    assert project_json.loads(json.dumps(json.loads(example))).builds[0].r_prog_ohm == 3000


def test_every_link_of_the_documents_leads_somewhere():
    for page in (ROOT / "README.md", *(ROOT / "docs").glob("*.md")):
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text()):
            assert (page.parent / target).is_file(), f"{page.name} links to {target}"


def test_no_lock_file_names_a_host():
    for name in ("requirements.txt", "requirements-dev.txt"):
        assert "://" not in (ROOT / name).read_text()
    assert '"resolved"' not in (ROOT / "frontend" / "package-lock.json").read_text()


def test_a_style_block_holds_what_is_its_components_own():
    """At most 15 % of the lines of all components; what is common is the house's scale in look/house.css."""
    pages = [page.read_text() for page in (ROOT / "frontend" / "src").rglob("*.vue")]
    style = sum(block.count("\n") + 1 for page in pages for block in re.findall(r"<style[\s\S]*?</style>", page))
    assert 0 < style <= 0.15 * sum(page.count("\n") for page in pages)


def test_the_table_of_what_one_more_kind_touches_names_files_that_are_there():
    """As many as it counts; one that a sentence adds after a semicolon or in brackets is not every kind's."""
    source = ROOT / "src" / "pocketspark"
    rows = re.findall(r"^\| ([^|]+) \| (\d) \| ([^|]+) \|$", (ROOT / "docs" / "architecture.md").read_text(), re.M)
    assert len(rows) >= 11
    for kind, count, which in rows:
        always = re.sub(r"\([^)]*\)", "", which).split(";")[0]
        named = [name for name in re.findall(r"`([^`]+)`", which) if "Name" not in name]
        for name in named:
            assert any((place / name).exists() for place in (ROOT, source, source / "core")), (kind, name)
        told = len(re.findall(r"`[^`]+`", always)) + always.count("its function") + always.count("the module that")
        assert told == int(count), kind


def test_what_the_app_imports_is_what_is_installed_with_it():
    """The tests' own packages are there when tests run, and not when somebody starts the app."""
    installed = set(re.findall(r"(?m)^([\w-]+)==", (ROOT / "requirements.txt").read_text()))
    brings = packages_distributions()
    asked = set()
    for file in (ROOT / "src").rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            names = [name.name for name in node.names] if isinstance(node, ast.Import) else []
            names += [node.module] if isinstance(node, ast.ImportFrom) and node.module else []
            asked |= {name.partition(".")[0] for name in names}
    ours = sys.stdlib_module_names | {"pocketspark"}
    missing = {
        name
        for name in asked - ours
        if not {one.lower().replace("_", "-") for one in brings.get(name, [name])} & installed
    }
    assert missing == set()
