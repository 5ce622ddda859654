"""Every sentence of the tool with its place and an example: `./spark sentences [WORDS]`.

A template is found where it stands in the sources; the example is one that the demo conversions and their builds give,
else the template itself.
"""

import ast
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

from pocketspark.core.message import messages_in

SOURCE = Path(__file__).resolve().parents[1] / "src" / "pocketspark"
MAKERS = {"say": 1, "say_of": 2, "_": 1}  # what makes a message, and how many of its first arguments are templates


class Sentence(NamedTuple):
    """A template, and where it stands: file and line."""

    template: str
    place: str


def sentences() -> Iterator[Sentence]:
    """All of them, by file and line."""
    for path in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in MAKERS:
                place = f"{path.relative_to(SOURCE)}:{node.lineno}"
                for argument in _templates(node.args[_first(node.func.id) :][: MAKERS[node.func.id]]):
                    yield Sentence(argument, place)


def _first(maker: str) -> int:
    return 1 if maker == "say_of" else 0


def _templates(arguments: list[ast.expr]) -> Iterator[str]:
    for argument in arguments:
        if isinstance(argument, ast.Constant) and isinstance(argument.value, str):
            yield argument.value
        elif isinstance(argument, ast.IfExp):
            yield from _templates([argument.body, argument.orelse])


def spliced() -> Iterator[str]:
    """Places where a message is not made of literals: a template that no catalogue could hold."""
    for path in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("say", "say_of"):
                first = node.args[_first(node.func.id)]
                if not isinstance(first, ast.Constant | ast.IfExp | ast.Subscript | ast.Name):
                    yield f"{path.relative_to(SOURCE)}:{node.lineno}"


def examples() -> dict[str, str]:
    """By template, what it reads like for one of the demo conversions."""
    from pocketspark.core.questions.assess import assess
    from pocketspark.core.questions.build_steps import build_steps
    from pocketspark.core.rules import RULES
    from pocketspark.demo import demo_projects

    found: dict[str, str] = {}
    answers: list[object] = [list(RULES.values())]
    for project in demo_projects():
        for number, build in enumerate(project.builds):
            answers.append(assess(project, number))
            if build.cell:
                answers.append(build_steps(project, number))
    for message in messages_in(answers):
        found.setdefault(message.template, str(message))
    return found


def main(wanted: list[str]) -> None:
    read = examples()
    for template, place in sentences():
        text = read.get(template, template)
        if all(word.lower() in f"{place} {template}".lower() for word in wanted):
            print(f"{place}\n    {template}" + (f"\n    e.g. {text}" if text != template else ""))


if __name__ == "__main__":
    main(sys.argv[1:])
