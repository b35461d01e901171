"""The columns of every list that a row can be put into: lists of the build, holes and lands of a
face. One place for tables that go out and tables that come in.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any, get_args

from pindo.core.acts import CannotEnter
from pindo.core.document.faces import Hole, HoleReading, Land, PointSet, SetPoint
from pindo.core.document.list_model import ColumnOf, columns_of_model
from pindo.core.document.lists import COLUMNS, LISTS
from pindo.core.document.rows import MeasuredRow, Row
from pindo.core.inputs.faces import HOLE_FIELDS
from pindo.core.places import FITTED_FACES


def _of_model(model: type[Hole] | type[Land]) -> tuple[ColumnOf, ...]:
    """Columns of a face's rows: figures are lengths in the face's unit."""
    found = []
    for field, info in model.model_fields.items():
        choices: tuple[str, ...] = ()
        if field in ("n", "evidence", "said", "others"):
            continue
        if field in HOLE_FIELDS:
            kind = "length"
        elif info.annotation == bool | None:
            kind = "yes"
        else:
            literal = (
                next(
                    (a for a in get_args(info.annotation) if get_args(a)),
                    None,
                )
                or info.annotation
            )
            choices = tuple(c for c in get_args(literal) if isinstance(c, str))
            kind = "choice" if choices else "text"
        found.append(
            ColumnOf(
                field=field,
                label=HOLE_FIELDS.get(field, field.replace("_", " ")),
                kind=kind,
                choices=choices,
                needed=False,
                mirrors=field == "u",
            )
        )
    return tuple(found)


def _of_face(part: str) -> tuple[ColumnOf, ...]:
    models: dict[str, type[Row]] = {
        "readings": HoleReading,
        "sets": PointSet,
        "points": SetPoint,
    }
    if part in models:
        return columns_of_model(models[part])
    return _of_model(Hole if part == "holes" else Land)


_FACES: Mapping[str, tuple[ColumnOf, ...]] = MappingProxyType(
    {name: _of_face(part) for name, (_, part) in FITTED_FACES.items()}
)


def columns_of(name: str) -> tuple[ColumnOf, ...]:
    """The columns of a list.

    Raises
    ------
    CannotEnter
        There is no such list.
    """
    if name in LISTS:
        return COLUMNS[name]
    if name in _FACES:
        return _FACES[name]
    raise CannotEnter(f"There is no list {name}.")


def has_evidence(name: str) -> bool:
    """Whether rows of a list say where their figures come from."""
    return (
        issubclass(LISTS[name].model, MeasuredRow)
        if name in LISTS
        else FITTED_FACES[name][1] not in ("lands", "sets")
    )


def said_in(column: ColumnOf, text: str) -> Any:
    """What a text says in a column that holds no figure.

    Raises
    ------
    CannotEnter
        It cannot stand there; the message says what can.
    """
    said = text.strip()
    if column.kind == "choice":
        found = next((c for c in column.choices if c.casefold() == said.casefold()), None)
        if found is None and said:
            raise CannotEnter(
                f"“{said[:40]}” is none of: {', '.join(filter(None, column.choices))}."
            )
        return found
    if column.kind == "yes":
        if said.casefold() in ("yes", "true", "1", "x"):
            return True
        if said.casefold() in ("no", "false", "0", ""):
            return False
        raise CannotEnter(f"“{said[:40]}” is neither yes nor no.")
    if column.kind == "whole":
        if said and not said.isdecimal():
            raise CannotEnter(f"“{said[:40]}” is no whole number.")
        return int(said) if said else None
    if column.kind == "numbers":
        numbers = said.replace(",", " ").replace(";", " ").split()
        if not all(n.isdecimal() for n in numbers):
            raise CannotEnter(f"“{said[:40]}” is no list of numbers.")
        return [int(n) for n in numbers]
    if column.kind == "words":
        return [w.strip() for w in said.split(";") if w.strip()]
    return said
