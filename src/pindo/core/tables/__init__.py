"""Tables as CSV in one layout: line 1 their source, line 2 their columns, then the rows."""

import csv
from functools import cache
from importlib.resources import files

from pindo.core.errors import PindoError


class TableError(PindoError, ValueError):
    """A table that ships with Pindo is not as it should be; the message says where."""


@cache
def source_of(name: str) -> str:
    """The source of a table, from its first line.

    Raises
    ------
    FileNotFoundError
        No such table.
    """
    return _lines(name)[0].removeprefix("# ")


def _lines(name: str) -> list[str]:
    return files(__package__).joinpath(f"{name}.csv").read_text("utf-8").splitlines()


@cache
def read_table(name: str, *columns: str) -> tuple[dict[str, str], ...]:
    """Rows of ``name``.csv, by column.

    Raises
    ------
    TableError
        Its columns are not those that were asked for, or a row has more or fewer cells.
    """
    lines = _lines(name)
    if lines[1] != "# " + ",".join(columns):
        raise TableError(f"{name}.csv: its second line does not name {', '.join(columns)}")
    found = []
    for cells in csv.reader(lines[2:]):
        if len(cells) != len(columns):
            raise TableError(f"{name}.csv: {cells[:3]} has {len(cells)} of {len(columns)} cells")
        found.append(dict(zip(columns, cells, strict=True)))
    return tuple(found)


def listed(cell: str) -> tuple[str, ...]:
    """The words of a cell that holds several, set apart by `` / ``."""
    return tuple(cell.split(" / ")) if cell else ()
