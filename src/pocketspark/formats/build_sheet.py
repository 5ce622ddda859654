"""The build sheet as PDF: all that a maker takes to the bench, on paper. Fonts are embedded."""

import io
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from pocketspark.core.chain import Chain
from pocketspark.core.models import Project
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.questions.sheet import BuildSheet, ColumnKind, SheetTable, sheet_of
from pocketspark.core.questions.shopping import ShoppingList
from pocketspark.formats import paper
from pocketspark.formats.paper import WIDE_MM, PaperSize, heading, line, room_to_write, table, tick_box
from pocketspark.formats.sheet_pictures import picture


def bill_as_csv(project: Project, build: int) -> str:
    """The bill of materials as CSV."""
    import csv

    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("quantity", "part", "remark"))
    rows = bill_of_materials(project, build)
    writer.writerows([pieces, as_cell(str(part)), as_cell(str(remark))] for pieces, part, remark in rows)
    return out.getvalue()


def shopping_as_csv(wanted: ShoppingList) -> str:
    """The shopping list as CSV, what is at hand left out."""
    import csv

    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("quantity", "part", "size", "search for", "look for", "leave", "price each"))
    for item in wanted.to_buy:
        texts = (item.part, item.size, item.search, "; ".join(map(str, item.look_for)), "; ".join(map(str, item.leave)))
        writer.writerow([item.missing, *map(as_cell, map(str, texts)), "" if item.price is None else item.price])
    writer.writerows(["", as_cell(str(what)), "", "", "", "", ""] for what in (*wanted.consumables, *wanted.tools))
    return out.getvalue()


def as_cell(entry: object) -> object:
    """A text that a spreadsheet would take for a formula is marked as text."""
    return f"'{entry}" if isinstance(entry, str) and entry.startswith(("=", "+", "-", "@", "\t", "\r")) else entry


def to_pdf(project: Project, build: int, size: PaperSize = "a4") -> bytes:
    """The whole sheet. Raises MissingPart before a cell is chosen."""
    sheet = sheet_of(project, build)
    return paper.to_pdf(str(sheet.title), _story(sheet, Chain(project, build)), size)


def _story(sheet: BuildSheet, chain: Chain) -> Iterator[Any]:
    yield line(str(sheet.title), 16, bold=True)
    for section in sheet.sections:
        if section.heading:
            yield heading(str(section.heading))
        for one in section.lines:
            level = f"{one.level}: ".upper() if one.level and not one.follows else ""
            yield line(f"{level}{one.text}", 8.5, bold=one.level == "stop" and not one.follows, indent=one.follows)
        if section.picture and (drawn := picture(chain, section.picture)):
            yield drawn
        if section.table:
            yield _table(section.table)


def _table(wanted: SheetTable) -> Any:
    kinds = [column.kind for column in wanted.columns]
    rows = [
        [_TO_MARK[kind](str(text)) if kind in _TO_MARK else str(text) for kind, text in zip(kinds, row, strict=True)]
        for row in wanted.rows
    ]
    head = [str(column.name) for column in wanted.columns]
    return table([head, *rows], [column.share / 100 * WIDE_MM for column in wanted.columns])


# What a maker writes into: a reading only where none is written yet.
_TO_MARK: Mapping[ColumnKind, Callable[[str], Any]] = {
    "tick": lambda text: tick_box(ticked=bool(text)),
    "write": lambda text: text or room_to_write(),
}
