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
# What makes a message or has one translated, and how many of its first arguments are templates.
MAKERS = {"say": 1, "say_of": 2, "_": 1, "translate": 1}


class Sentence(NamedTuple):
    """A template, and where it stands: file and line."""

    template: str
    place: str


class Counted(NamedTuple):
    """A template for one thing and one for all other counts, and where they stand."""

    one: str
    many: str
    place: str


def sentences() -> Iterator[Sentence]:
    """All of them, by file and line."""
    for name, call, place in _calls():
        for argument in _templates(call.args[_first(name) :][: MAKERS[name]]):
            yield Sentence(argument, place)


def counted_sentences() -> Iterator[Counted]:
    """Those that depend on a count."""
    for name, call, place in _calls():
        match list(_templates(call.args[1:3])):
            case [one, many] if name == "say_of":
                yield Counted(one, many, place)


def _calls() -> Iterator[tuple[str, ast.Call, str]]:
    for path in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and (name := _name_of(node.func)) in MAKERS:
                yield name, node, f"{path.relative_to(SOURCE)}:{node.lineno}"


def _name_of(function: ast.expr) -> str:
    match function:
        case ast.Name(name) | ast.Attribute(attr=name):
            return name
    return ""


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
