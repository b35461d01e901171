"""Another number for a row: everything that names it by its number follows."""

from collections.abc import Iterator, Mapping
from types import MappingProxyType
from typing import Any

from pindo.core.acts import CannotEnter, Patch, Renumber
from pindo.core.document.build import Build
from pindo.core.document.lists import LISTS, PART_LISTS
from pindo.core.document.patch import put
from pindo.core.places import FACES, ON_THE_SHELF, list_at, row_at

NAMED_IN: Mapping[str, tuple[tuple[str, str], ...]] = MappingProxyType(
    {
        "marks": (
            ("tape", "a"),
            ("tape", "b"),
            ("pose_points", "mark"),
            ("mounts", "mark"),
            ("bosses", "mark"),
            ("solids", "marks"),
        ),
        "steps": (
            ("steps", "needs"),
            ("steps", "hides"),
            ("steps", "needs_hold"),
            ("parts", "step"),
            ("kits.pieces", "step"),
        ),
        "parts": (("money", "part"),),
        "facts": (("variants.when", "fact"),),
        "money": (("money", "credit_of"),),
        **{
            f"{face}.sets": ((f"{face}.points", "of"),)
            for face in ("engine_face", "gearbox_face", ON_THE_SHELF)
        },
        **{
            f"{face}.holes": (
                (f"{face}.readings", "a"),
                (f"{face}.readings", "b"),
                (f"{face}.points", "hole"),
            )
            for face in ("engine_face", "gearbox_face", ON_THE_SHELF)
        },
    }
)
"""Columns that name a row of a list by its number: one number, or several."""
RULED: Mapping[str, str] = MappingProxyType({"steps": "step", "parts": "part"})
"""What a rule of versions calls a row of a list that it speaks of by number."""


def renumbered(build: Build, act: Renumber, at: str) -> Patch:
    """The operations of another number.

    Raises
    ------
    CannotEnter, MovedOn
        The number is taken; there is no such row.
    """
    path, row = row_at(build, act.list, act.row, act.of)
    if act.to == row.n:
        return []
    _, rows = list_at(build, act.list, act.of)
    if any(r.n == act.to for r in rows):
        raise CannotEnter(f"Number {act.to} is taken. Nothing was changed.")
    return [put(f"{path}/n", act.to), *_followers(build, act.list, act.of, row.n, act.to)]


def _rows(build: Build, key: str, of: int | None) -> Iterator[tuple[str, Any]]:
    """Every row of a list, of a list that rows of another have, or of a face, with its path."""
    if key in FACES:
        path, rows = list_at(build, key, of)
        for i, row in enumerate(rows):
            yield f"{path}/{i}", row
        return
    if key in LISTS:
        for i, row in enumerate(getattr(build, key)):
            yield f"/{key}/{i}", row
        return
    parts = PART_LISTS[key]
    for i, row in enumerate(getattr(build, parts.of)):
        for j, part in enumerate(getattr(row, parts.field)):
            yield f"/{parts.of}/{i}/{parts.field}/{j}", part


def _followers(
    build: Build, name: str, of: int | None, old: int, new: int
) -> Iterator[dict[str, Any]]:
    """What names a row by its number."""
    for key, field in NAMED_IN.get(name, ()):
        for path, row in _rows(build, key, of):
            said = getattr(row, field)
            if said == old:
                yield put(f"{path}/{field}", new)
            elif isinstance(said, list) and old in said:
                yield put(f"{path}/{field}", [new if n == old else n for n in said])
    at = {"engine_face.holes": "engine", "gearbox_face.holes": "gearbox"}.get(name, name)
    for i, entry in enumerate(build.log):
        if entry.pin == f"{at}.{old}":
            yield put(f"/log/{i}/pin", f"{at}.{new}")
    for i, rule in enumerate(build.variants):
        if name in RULED and rule.target == RULED[name] and rule.which.strip() == str(old):
            yield put(f"/variants/{i}/which", str(new))
