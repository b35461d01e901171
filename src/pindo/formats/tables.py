"""Tables of text in and out: separators, encodings, cells that no spreadsheet runs."""

import csv
import io
from collections.abc import Iterable, Sequence

from pindo.core.errors import PindoError
from pindo.formats.plain_text import cell, uncell

MOST_BYTES = 4 * 1024 * 1024
_SEPARATORS = ("\t", ";", ",", "|")


class NoTable(PindoError, ValueError):
    """The file holds no table that can be read; the message says what it seems to be."""


def decoded(content: bytes) -> str:
    """Text of a file: UTF-8 or UTF-16 as its first bytes say, else the western Windows code page.

    Raises
    ------
    NoTable
        It is too large, or no text.
    """
    if len(content) > MOST_BYTES:
        raise NoTable(
            f"It has {len(content) / 2**20:.1f} MB; a table may have {MOST_BYTES // 2**20} MB."
            " Nothing was taken."
        )
    if content.startswith((b"\xff\xfe", b"\xfe\xff")):
        return content.decode("utf-16", "replace")
    if b"\0" in content:
        raise NoTable(
            "It is no text: a spreadsheet's own file, perhaps. Save it as CSV. Nothing was taken."
        )
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", "replace")


def _separator(lines: Sequence[str]) -> str:
    """What stands between cells: what most lines have the same number of. A comma between two
    figures may be a decimal one: it separates only where nothing else does and the lines agree.
    """
    best, score = "", 0.0
    for sign in _SEPARATORS:
        counts = [len(row) for row in csv.reader(lines, delimiter=sign)]
        usual = max(set(counts), key=counts.count, default=1)
        agree = counts.count(usual) / max(1, len(counts))
        if usual > 1 and agree > score and agree >= 0.6:
            if sign == "," and all(_is_decimal(line) for line in lines):
                continue
            best, score = sign, agree
    return best


def _is_decimal(line: str) -> bool:
    whole, _, part = line.strip().strip("\"'").partition(",")
    return whole.lstrip("+-").isdecimal() and part.isdecimal()


def table_of(text: str) -> list[list[str]]:
    """Lines and cells of a text. Raises NoTable where a quotation never ends."""
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    while lines and not lines[-1].strip():
        lines.pop()
    sign = _separator([line for line in lines[:200] if line.strip()])
    if not sign:
        return [[uncell(line.strip())] for line in lines]
    try:
        return [[uncell(c) for c in row] for row in csv.reader(lines, delimiter=sign)]
    except csv.Error as error:
        raise NoTable(f"The table cannot be read: {error}. Nothing was taken.") from error


def csv_of(heads: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """A table as CSV in UTF-8 with its mark, so that spreadsheets read every letter."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow([cell(h) for h in heads])
    writer.writerows([cell(c) for c in row] for row in rows)
    return text.getvalue().encode("utf-8-sig")
