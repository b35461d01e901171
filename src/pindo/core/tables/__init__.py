"""Published tables as CSV: the first line of each file is its source."""

import csv
from functools import cache
from importlib.resources import files


@cache
def read_table(name: str) -> tuple[tuple[tuple[str, ...], ...], str]:
    """Rows of ``name``.csv as strings, and the source written on its first line.

    Raises
    ------
    FileNotFoundError
        No such table.
    """
    lines = files(__package__).joinpath(f"{name}.csv").read_text("utf-8").splitlines()
    rows = csv.reader(line for line in lines if line and not line.startswith("# "))
    return tuple(tuple(row) for row in rows), lines[0].lstrip("# ")
