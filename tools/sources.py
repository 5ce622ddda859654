"""docs/sources.md, from what stands beside the figures: what rests on common practice or memory, what rules cite."""

import re
from collections.abc import Iterator
from pathlib import Path

from pocketspark.core.rules import RULES

SOURCE = Path(__file__).resolve().parents[1] / "src" / "pocketspark"
SOFT = re.compile(r"common practice|from memory|no source|our judgement|our extension|chosen by us")
HEAD = """# Where the figures are from

Made by `./spark types` from the comments beside the figures and from the rules; do not edit it. "Common practice, no
source" is what makers agree on without a standard behind it; "from memory" is a published figure that was not looked up
again. Either may be wrong: say so with a better source.

## Figures

| where | figures | said of them |
|---|---|---|
"""
RULE_HEAD = """
## Rules

| rule | limits | source |
|---|---|---|
"""


def sources_page() -> str:
    """The whole page."""
    figures = (_row(place, code, said) for place, code, said in _soft_figures())
    rules = (_row(f"`{code}`", str(rule.limits), rule.source) for code, rule in sorted(RULES.items()))
    return HEAD + "".join(figures) + RULE_HEAD + "".join(rules)


def _row(*cells: str) -> str:
    return f"| {' | '.join(cell.replace('|', '/').strip() for cell in cells)} |\n"


def _soft_figures() -> Iterator[tuple[str, str, str]]:
    """(file, the lines of code below, the comment) of every comment that owns up to a soft figure."""
    for file in sorted(SOURCE.rglob("*.py")):
        lines = [line.strip() for line in file.read_text().splitlines()]
        for comment, below in _comments(lines):
            if SOFT.search(comment):
                yield f"`{file.relative_to(SOURCE)}`", _figures(lines[below : below + 1]), comment


def _figures(below: list[str]) -> str:
    """The names, with their values where these are short."""
    line = below[0] if below else ""
    named = re.match(r"([A-Z][A-Z_0-9, ]+?)(?::[^=]+)? = ", line)
    if not named:
        return ""
    return f"`{line if len(line) < 70 else named[1]}`"


def _comments(lines: list[str]) -> Iterator[tuple[str, int]]:
    """(text, line after it) of every block of comment lines."""
    at = 0
    while at < len(lines):
        if not lines[at].startswith("#"):
            at += 1
            continue
        first = at
        while at < len(lines) and lines[at].startswith("#"):
            at += 1
        yield " ".join(line.removeprefix("#").strip() for line in lines[first:at]), at
