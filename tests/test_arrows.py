"""The packages may only lean on what stands below them: an import that points the other way fails here."""

import ast
import re
from pathlib import Path

SOURCE = Path(__file__).resolve().parents[1] / "src" / "pocketspark"

# Which of our own packages each may import, besides itself.
ALLOWED = {
    "core": set(),
    "formats": {"core", "parts"},  # the schema of a pack is published with the others
    "parts": {"core"},
    "demo": {"core", "formats"},
    "store": {"core"},
    "instruments": {"core", "formats"},
    "wording": {"core"},
    "server": {"wording", "core", "formats", "parts", "demo", "store", "instruments"},
    "cli": {"wording", "core", "formats", "parts", "server", "store", "instruments"},
}
# Inside the core each leans on those before it: models know no physics, physics knows no rules, rules compute nothing.
LOWEST = {"error", "refusal", "units", "limits", "message"}
CHOSEN = LOWEST | {"models", "kinds", "physics", "chosen"}
CIRCUIT = CHOSEN | {"hookup", "chain", "circuit"}
ALLOWED_IN_CORE = {
    "error": set(),
    "limits": set(),
    "units": {"error"},
    "message": {"units"},
    "refusal": {"error", "units"},
    "merging": {"error", "models", "message"},
    "models": LOWEST,
    "kinds": {"models", "physics", "units", "message"},
    "physics": {"models", "error", "units", "message"},
    "chosen": CHOSEN,
    "hookup": CHOSEN,
    "chain": CHOSEN | {"hookup"},
    "circuit": CHOSEN | {"hookup", "chain"},
    "views": CIRCUIT | {"fit", "wiring"},
    "ratings": CIRCUIT | {"finding"},
    "finding": {"models", "kinds", "units", "message"},
    "cells": LOWEST | {"models", "finding", "physics"},
    "fit": CIRCUIT,
    "life": CIRCUIT | {"moments"},
    "faults": CIRCUIT | {"wiring", "life", "finding"},
    "startup": CIRCUIT,
    "load_laws": {"models", "physics"},
    "wiring": CIRCUIT | {"fit"},
    "rules": CIRCUIT | {"ratings", "startup", "finding", "cells", "fit", "life", "wiring", "views"},
    "steps": CIRCUIT | {"fit", "wiring", "logs", "guide", "moments", "views"},
    "logs": CIRCUIT | {"finding"},
    "clock": LOWEST | {"models", "cells", "life", "moments", "steps", "questions"},
    "guide": {"models", "units", "message"},
    "glossary": set(),
    "moments": set(),
    "photographs": {"models", "error", "message"},
}
OUTSIDE_KEPT_FROM_CORE = {"fastapi", "starlette", "sqlalchemy", "alembic", "typer", "os", "pathlib", "time", "datetime"}


def imports(file):
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            yield from (name.name for name in node.names)
        elif isinstance(node, ast.ImportFrom):
            assert node.level == 0, f"{file} imports by dots"
            yield node.module or ""


def files():
    return [(file, file.relative_to(SOURCE).with_suffix("").parts) for file in SOURCE.rglob("*.py")]


def test_imports_point_one_way():
    for file, place in files():
        _points_one_way(file, place)


def _points_one_way(file, place):
    ours = [name.split(".") for name in imports(file) if name.startswith("pocketspark.")]
    package = place[0]
    if package == "__init__":
        assert not ours
        return
    assert {name[1] for name in ours} <= ALLOWED[package] | {package}, file
    if package == "core":
        # The bench clock works with moments that are handed in; it asks no clock.
        kept_out = OUTSIDE_KEPT_FROM_CORE - ({"datetime"} if place[1] in ("clock", "moments") else set())
        assert {name.split(".")[0] for name in imports(file)}.isdisjoint(kept_out)
        assert not re.search(r"\b(now|today|utcnow)\(", file.read_text())
        if place[1] in ALLOWED_IN_CORE:
            inside = {name[2] for name in ours if len(name) > 2}
            assert inside <= ALLOWED_IN_CORE[place[1]] | {place[1]}, file


def test_no_circle_of_modules():
    """Two modules that need one another are one: imports within functions and for types alone count too."""
    names = {".".join(("pocketspark", *place)).removesuffix(".__init__"): file for file, place in files()}
    leans = {name: set(_modules_of(file, names)) - {name} for name, file in names.items()}
    while free := [name for name, on in leans.items() if not on & leans.keys()]:
        for name in free:
            del leans[name]
    assert leans == {}


def _modules_of(file, names):
    """`from a import b` leans on a.b where that is a module, and else on a."""
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            yield from (name.name for name in node.names)
        elif isinstance(node, ast.ImportFrom):
            for name in node.names:
                inner = f"{node.module}.{name.name}"
                yield inner if inner in names else node.module or ""


def test_class_names_are_unique():
    """Whoever searches for a class finds one."""
    where = {}
    for file in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.ClassDef):
                where.setdefault(node.name, []).append(file.name)
    assert {name: files for name, files in where.items() if len(files) > 1} == {}


# Names that say nothing of what the thing is.
SAY_NOTHING = {"told", "reckoned", "foretold"}


def test_names_say_what_the_thing_is():
    for file in SOURCE.rglob("*.py"):
        assigned = {
            node.id if isinstance(node, ast.Name) else node.arg
            for node in ast.walk(ast.parse(file.read_text()))
            if isinstance(node, ast.arg) or (isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store))
        }
        assert assigned & SAY_NOTHING == set(), file


def test_no_two_modules_have_one_name():
    """Whoever searches for a module finds one; the doors of packages aside."""
    names = [file.name for file, _ in files() if file.name != "__init__.py"]
    assert sorted({name for name in names if names.count(name) > 1}) == []
