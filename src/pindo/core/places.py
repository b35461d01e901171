"""Rows of a build by their numbers: of its lists, of a row's parts, of a face."""

from collections.abc import Sequence
from typing import Any

from pindo.core.acts import (
    CannotEnter,
    MovedOn,
)
from pindo.core.document.build import Build
from pindo.core.document.faces import Face, Hole, Land
from pindo.core.document.lists import COLUMNS, LISTS, PART_LISTS, figures
from pindo.core.document.rows import Part, Row

ON_THE_SHELF = "parts.face"
PARTS = ("holes", "lands", "readings", "sets", "points")
"""The lists of a face."""
FITTED_FACES = {
    f"{face}.{part}": (face, part) for face in ("engine_face", "gearbox_face") for part in PARTS
}
"""The lists of the castings that are fitted, by the name that an act gives them."""
FACES = FITTED_FACES | {f"{ON_THE_SHELF}.{part}": (ON_THE_SHELF, part) for part in PARTS}
"""Those, and the lists of a casting on the shelf."""


def face_of(build: Build, name: str, of: int | None = None) -> tuple[Face, str, str]:
    """The face of ``engine_face.holes``, or of part ``of`` for ``parts.face.holes``; which of its
    lists; the path of the face.

    Raises
    ------
    CannotEnter, MovedOn
        There is no such list; the part has no hole pattern; it is not there any more.
    """
    if name not in FACES:
        raise CannotEnter(f"There is no list {name}.")
    face, part = FACES[name]
    if face != ON_THE_SHELF:
        found: Face = getattr(build, face)
        return found, part, f"/{face}"
    place = _place("parts", build.parts, of or 0)
    card = build.parts[place]
    if card.face is None:
        raise CannotEnter(f"{card.name or f'Part {card.n}'} has no hole pattern of its own.")
    return card.face, part, f"/parts/{place}/face"


def _place(name: str, rows: Sequence[Any], number: int) -> int:
    for i, row in enumerate(rows):
        if row.n == number:
            return i
    raise MovedOn(
        f"Number {number} of {name.replace('_', ' ').replace('.', ', ')} is not there any more."
        " Nothing was stored."
    )


def list_at(build: Build, name: str, of: int | None) -> tuple[str, Sequence[Any]]:
    """Path and rows of a list of the build (``mounts``), of a row of it (``fits.gaps`` of a fit),
    or of a face (``engine_face.holes``).
    """
    if name in LISTS:
        return f"/{name}", getattr(build, name)
    if name in PART_LISTS:
        parts = PART_LISTS[name]
        rows = getattr(build, parts.of)
        place = _place(parts.of, rows, of or 0)
        return f"/{parts.of}/{place}/{parts.field}", getattr(rows[place], parts.field)
    face, part, path = face_of(build, name, of)
    return f"{path}/{part}", getattr(face, part)


def row_at(
    build: Build, name: str, number: int, of: int | None = None
) -> tuple[str, Row | Part | Hole | Land]:
    """Path and content of a row, by its number; of a part of a row ``of`` is the row's.

    Raises
    ------
    MovedOn
        It is not there any more.
    CannotEnter
        There is no such list.
    """
    path, rows = list_at(build, name, of)
    place = _place(name, rows, number)
    return f"{path}/{place}", rows[place]


def _one(name: str) -> str:
    return PART_LISTS[name].one if name in PART_LISTS else LISTS[name].one


def kind_of(name: str, row: Row | Part | Hole | Land, field: str) -> str:
    """Kind of number of a figure of a row. Raises CannotEnter where it has none of that name."""
    if name in COLUMNS:
        column = next((c for c in figures(name) if c.field == field), None)
        if column is None:
            raise CannotEnter(f"{_one(name)} has no figure {field}.")
        return column.kind
    if not hasattr(row, field):
        raise CannotEnter(f"There is no figure {field} here.")
    return "thread" if field == "d" and isinstance(row, Hole) and row.role == "bolt" else "length"
