"""The text of a log as lines, some thousands at a time: a log of days is never in memory as a whole."""

import codecs
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import TypeAlias

from pocketspark.core.message import say
from pocketspark.formats.log_header import UnreadableLog

# A text, a file's bytes, or its bytes piece by piece.
LogSource: TypeAlias = str | bytes | Iterable[bytes]

# Five million rows of a busy meter.
LARGEST_BYTES = 400_000_000
# No row of a meter is longer; the patterns that read it take their time on one.
LONGEST_LINE = 2000
# So many lines become rows at once: nobody else is answered meanwhile.
LINES_AT_ONCE = 5000
# A text is cut into lines this much at a time.
PIECE = 1_000_000


@dataclass(frozen=True)
class BadRow:
    """A row that was left out."""

    line: int
    why: str


@dataclass(frozen=True)
class Lines:
    """Some lines of a log, the number of the first counted from 0, and those that no meter writes, emptied."""

    first: int
    lines: list[str]
    broken: list[BadRow]


def lines_of(source: LogSource) -> Iterator[Lines]:
    """All of it, in order; at least one line. Raises UnreadableLog for more than a log may have."""
    first = 0
    for lines in _whole_lines(_texts(source)):
        for start in range(0, len(lines), LINES_AT_ONCE):
            part = lines[start : start + LINES_AT_ONCE]
            yield _sound(first, part)
            first += len(part)
    if first == 0:
        yield Lines(0, [""], [])


def _texts(source: LogSource) -> Iterator[str]:
    """Its text, decoded, piece by piece."""
    if isinstance(source, str):
        _require_not_too_large(len(source))
        yield from (source[start : start + PIECE].removeprefix("\ufeff") for start in range(0, len(source), PIECE))
        return
    pieces = iter([source]) if isinstance(source, bytes) else _large_pieces(source)
    head = next(pieces, b"")
    decoder = codecs.getincrementaldecoder(_encoding(head))(errors="replace")
    read = len(head)
    yield decoder.decode(head).removeprefix("\ufeff")
    for piece in pieces:
        read += len(piece)
        _require_not_too_large(read)
        yield decoder.decode(piece)
    yield decoder.decode(b"", final=True)


def _large_pieces(source: Iterable[bytes]) -> Iterator[bytes]:
    waiting: list[bytes] = []
    for piece in source:
        waiting.append(piece)
        if sum(map(len, waiting)) >= PIECE:
            yield b"".join(waiting)
            waiting.clear()
    yield b"".join(waiting)


def _require_not_too_large(size: int) -> None:
    if size > LARGEST_BYTES:
        raise UnreadableLog(say("the log is over {most} MB", most=LARGEST_BYTES // 1000000))


def _encoding(head: bytes) -> str:
    """UTF-8, UTF-16 with or without its mark, else as western programs wrote."""
    _require_not_too_large(len(head))
    if head.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "utf-16"
    if head[:200].count(0) > len(head[:200]) // 4:
        return "utf-16-le" if head[1:2] == b"\0" else "utf-16-be"
    try:
        codecs.getincrementaldecoder("utf-8")().decode(head)
    except UnicodeDecodeError:
        return "cp1252"
    return "utf-8"


def _whole_lines(texts: Iterable[str]) -> Iterator[list[str]]:
    """The lines of each piece; one that is cut by its end waits for the rest, unless it is longer than any line."""
    rest = ""
    for piece in texts:
        text = rest + piece
        lines, rest = text.splitlines(), ""
        if lines and not text.endswith("\n") and len(lines[-1]) < PIECE:
            # A return at the end may be half of a line break.
            rest = lines.pop() + ("\r" if text.endswith("\r") else "")
        yield lines
    yield rest.splitlines()


def _sound(first: int, lines: list[str]) -> Lines:
    """Those that no meter writes emptied: one too long, or with a quote that is not closed on it."""
    if max(map(len, lines)) <= LONGEST_LINE and '"' not in "".join(lines):
        return Lines(first, lines, [])
    broken = [
        number
        for number, line in enumerate(lines)
        if len(line) > LONGEST_LINE or ('"' in line and line.count('"') % 2 == 1)
    ]
    rows = [BadRow(first + number + 1, lines[number][:60]) for number in broken]
    for number in broken:
        lines[number] = ""
    return Lines(first, lines, rows)
