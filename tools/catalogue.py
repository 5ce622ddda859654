"""Every text of core and page in every language's catalogue: `./spark catalogue`.

The page's are listed by its build, in build/words.json.

Sentences stand in the sources as literals. Names (of a wall, a kind, an instrument) do as well, but unmarked: those
are taken that somebody reads in the answers about the demo conversions. What is new is added without a translation,
what is gone is taken out.
"""

import ast
import json
import sys
import tempfile
from collections.abc import Iterator
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from unittest.mock import patch

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

from pocketspark.core.refusal import SENTENCES, UNKNOWN
from pocketspark.core.units.reading import ReadersUnits
from pocketspark.wording.catalogues import LANGUAGES
from sentences import SOURCE, counted_sentences, sentences

HERE = "http://127.0.0.1"
# A date would make each run a change.
UNDATED = datetime(2026, 1, 1, tzinfo=UTC)
ROOT = Path(__file__).resolve().parents[1]
LISTED = ROOT / "build" / "words.json"
PAGES = ROOT / "frontend" / "src" / "locales"
# Words by which parts of a sentence are joined.
JOINTS = ("and", "or")


def texts() -> dict[str | tuple[str, str], list[str]]:
    """Each with the files that say it; one that is counted as a pair of one and many."""
    found: dict[str | tuple[str, str], list[str]] = {}
    pairs = list(counted_sentences())
    counted = {template for pair in pairs for template in (pair.one, pair.many)}
    for pair in pairs:
        found.setdefault((pair.one, pair.many), []).append(pair.place.partition(":")[0])
    for sentence in sentences():
        if sentence.template not in counted:
            found.setdefault(sentence.template, []).append(sentence.place.partition(":")[0])
    for name in sorted({*names(), *part_names(), *JOINTS, *SENTENCES.values(), UNKNOWN}):
        if name not in counted:
            found.setdefault(name, ["a name"])
    return found


@cache
def names() -> frozenset[str]:
    """Constants of our sources that are read as names somewhere in the answers about the demo conversions."""
    asked: set[str] = set()

    def ask(text: str) -> str:
        asked.add(text)
        return text

    _answers(ReadersUnits(translate=ask))
    return frozenset(text for text in asked & _constants() if any(letter.isalpha() for letter in text))


def part_names() -> list[str]:
    """Of the parts that are shipped: what sentences call them."""
    from pocketspark.parts import library

    shipped = [part.board or part.cell for part in library().parts]
    return [part.name for part in shipped if part is not None]


def _answers(reader: ReadersUnits) -> None:
    """All that is asked without a figure, and every question about each demo."""
    from fastapi.testclient import TestClient

    sys.path.append(str(ROOT / "tests"))
    from every_question import MORE, QUESTIONS
    from pocketspark.demo import demo_projects
    from pocketspark.server import read_as as edge
    from pocketspark.server.app import create_app
    from pocketspark.server.settings import Settings

    with tempfile.TemporaryDirectory() as data:
        app = create_app(Settings(data=Path(data), demo=True))
        with patch.object(edge, "reader_named", lambda *_: reader), TestClient(app, base_url=HERE) as client:
            for path, methods in app.openapi()["paths"].items():
                if "get" in methods and "{" not in path:
                    client.get(path)
            for question in QUESTIONS:
                for project in demo_projects():
                    document = project.model_dump(mode="json")
                    client.post(question, json={"document": document, **MORE.get(question, {})})


def _constants() -> set[str]:
    return set(_constants_of_sources())


def _constants_of_sources() -> Iterator[str]:
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                yield node.value


def renewed(catalogue: Catalog) -> Catalog:
    """With every text of today, in order, and its translation where there was one."""
    fresh = Catalog(
        locale=catalogue.locale,
        project="Pocket Spark",
        version="1",
        fuzzy=False,
        header_comment="",
        creation_date=UNDATED,
        revision_date=UNDATED,
    )
    for text, places in sorted(texts().items(), key=lambda pair: (sorted(pair[1])[0], str(pair[0]))):
        old = catalogue.get(text if isinstance(text, str) else text[0])
        string = old.string if old and (isinstance(old.string, str) == isinstance(text, str)) else None
        fresh.add(text, string, locations=[(sorted(places)[0], 0)])
    return fresh


def renew_page(file: Path) -> int:
    """The page's catalogue with the texts of today; how many lack a translation."""
    texts_now: list[str] = json.loads(LISTED.read_text())
    before: dict[str, str] = json.loads(file.read_text())
    now = {text: before.get(text, "") for text in texts_now}
    file.write_text(json.dumps(now, ensure_ascii=False, indent=1, sort_keys=True) + "\n")
    return sum(not translation for translation in now.values())


def main() -> None:
    for file in sorted(PAGES.glob("*.json")):
        print(f"{file.name}: {renew_page(file)} texts of the page without a translation")
    for file in sorted(LANGUAGES.glob("*.po")):
        with file.open("rb") as lines:
            catalogue = renewed(read_po(lines, locale=file.stem))
        with file.open("wb") as lines:
            write_po(lines, catalogue, width=110, sort_output=False, include_lineno=False)
        missing = sum(1 for message in catalogue if message.id and not all(message.string or ("",)))
        print(f"{file.name}: {len(catalogue)} texts, {missing} without a translation")


if __name__ == "__main__":
    main()
