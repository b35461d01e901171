"""Rows of a list from a table: new ones, and cells of rows that are there."""

from collections.abc import Sequence
from typing import Any

from pindo.core.acts import Add, CannotEnter, Cell, Put
from pindo.core.columns import columns_of, has_evidence, said_in
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.document.list_model import ColumnOf
from pindo.core.document.lists import NOT_FIGURES
from pindo.core.document.typed import Evidence
from pindo.core.errors import PindoError
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.units import KINDS
from pindo.core.places import FITTED_FACES, face_of, list_at
from pindo.core.tables_in import (
    STANDS,
    UNIT_OF_HEAD,
    Line,
    Table,
    Understood,
    few,
    number_words,
    plain,
    source_of,
)

_SAID_OF = ColumnOf(field="evidence", label="figures from", kind="text", choices=(), needed=False)
"""The column that says where the figures of a row come from."""


def _unit_in(head: str) -> str:
    found = UNIT_OF_HEAD.search(head.strip())
    return found[1] if found else ""


def _with_unit(typed: str, kind: str, unit: str) -> str:
    """A figure that its column's unit goes with; one that names a unit of its own keeps it.

    Raises
    ------
    AskAgain, EntryError
        It has two readings in that unit, or none.
    """
    meant = parse(typed, kind, unit).value
    said = f"{typed} {unit}"
    try:
        return said if parse(said, kind).value == meant else typed
    except EntryError:
        return typed


def _columns_at(table: Table, columns: Sequence[ColumnOf]) -> dict[int, ColumnOf | None]:
    """Which of the list's columns each of the table's is; None for the row's number. Without
    headings the list's own order holds.
    """
    names = {c.label.casefold(): c for c in columns} | {
        c.field.replace("_", " ").casefold(): c for c in columns
    }
    names["figures from"] = _SAID_OF
    found: dict[int, ColumnOf | None] = {}
    for i, head in enumerate(table[0] if table else ()):
        said = head.strip().replace("_", " ").casefold()
        if said in ("n", "no.", "no", "number", "#"):
            found[i] = None
        elif (column := names.get(said) or names.get(plain(head))) is not None:
            found[i] = column
    return found if any(c is not None for c in found.values()) else {}


def rows_in(build: Build, name: str, table: Table, source: Source | None) -> Understood:
    """Rows of a list from a table: a line with the number of a row that is there changes its
    cells, every other one is a new row.

    Parameters
    ----------
    build, name
        The build as it stands, and its list (``mounts``, ``engine_face.holes``).
    table : lines of cells
        Headed by labels or fields, each with a unit where it is not the list's own; without
        headings in the order of the list's columns.
    source : Source, optional
        Where its figures come from; left out, *measured elsewhere*.

    Raises
    ------
    CannotEnter
        There is no such list; there are more than 2,000 lines.
    """
    few(table)
    columns = columns_of(name)
    headed = _columns_at(table, columns)
    at = headed or dict(enumerate(columns))
    there = {row.n: row for row in list_at(build, name, None)[1]}
    figures_unit = face_of(build, name)[0].unit if name in FITTED_FACES else None
    lines = []
    for number, cells in list(enumerate(table, 1))[1 if headed else 0 :]:
        text = "; ".join(cells)
        if not any(c.strip() for c in cells):
            continue
        try:
            if spare := [
                c for i, c in enumerate(cells) if i not in at and c.strip() and not headed
            ]:
                raise CannotEnter(f"There is no column for “{spare[0][:40]}”.")
            said, reads, n = _row(table, at, cells, headed != {}, figures_unit, name)
            evidence = source_of(said.pop("evidence", ""), source)
            lines += (
                _changed(number, text, name, there[n], said, columns, evidence)
                if n in there
                else [_added(number, text, name, said, reads, evidence)]
            )
        except PindoError as error:
            lines.append(Line(number=number, text=text, wrong=str(error)))
    count = max((len(c) for c in table), default=0)
    names = {i: "no." if c is None else c.label for i, c in at.items()}
    return Understood(heads=tuple(names.get(i, "") for i in range(count)), lines=tuple(lines))


def _row(
    table: Table,
    at: dict[int, ColumnOf | None],
    cells: Sequence[str],
    headed: bool,
    face_unit: str | None,
    name: str,
) -> tuple[dict[str, Any], str, int | None]:
    """What a line says of its row: values by field, how its figures are read, the row's number."""
    said: dict[str, Any] = {}
    reads, n = [], None
    dowel = any(
        c is not None and c.field == "role" and i < len(cells) and cells[i].strip() == "dowel"
        for i, c in at.items()
    )
    for i, text in enumerate(cells):
        if i not in at:
            continue
        column = at[i]
        if column is None:
            if text.strip() and not text.strip().isdecimal():
                raise CannotEnter(f"“{text.strip()[:40]}” is no number of a row.")
            n = int(text) if text.strip() else None
        elif column.kind in NOT_FIGURES:
            if text.strip():
                said[column.field] = said_in(column, text)
        elif text.strip():
            typed = text.strip()
            kind = column.kind
            if FITTED_FACES.get(name, ("", ""))[1] == "holes" and column.field == "d" and not dowel:
                kind = "thread"
            own = face_unit if face_unit and kind == "length" else KINDS[kind].unit
            unit = _unit_in(table[0][i]) if headed else own
            if unit != own and unit in KINDS[kind].factors:
                typed = _with_unit(typed, kind, unit)
            reads.append(f"{column.label} {number_words(typed, kind, own or None)}")
            said[column.field] = typed
    return said, ", ".join(reads), n


def _added(
    number: int, text: str, name: str, said: dict[str, Any], reads: str, source: Source
) -> Line:
    if not said:
        raise CannotEnter("There is nothing in it that this list has a column for.")
    more = (
        {"evidence": Evidence(source=source).model_dump(mode="json")} if has_evidence(name) else {}
    )
    return Line(
        number=number, text=text, to="a new row", reads=reads, act=Add(list=name, row=said | more)
    )


def _changed(
    number: int,
    text: str,
    name: str,
    row: Any,
    said: dict[str, Any],
    columns: Sequence[ColumnOf],
    source: Source,
) -> list[Line]:
    """The cells of a row that say something else than it does, one line each: each may be taken or
    left.
    """
    new = {
        c.field: c for c in columns if c.field in said and said[c.field] != getattr(row, c.field)
    }
    if not new:
        return [Line(number=number, text=text, to=f"no. {row.n}", reads=STANDS)]
    return [
        Line(
            number=number,
            text=text,
            to=f"no. {row.n}, {column.label}",
            reads=str(said[field]),
            act=(
                Put(list=name, row=row.n, field=field, value=said[field])
                if column.kind in NOT_FIGURES
                else Cell(list=name, row=row.n, field=field, typed=said[field], source=source)
            ),
        )
        for field, column in new.items()
    ]
