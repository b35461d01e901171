"""Rows beside others: a copy, a mirrored one, one place up or down."""

import re
from typing import Any

from pindo.core.acts import CannotEnter, Copy, Move, Patch
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.document.faces import Hole
from pindo.core.document.lists import LISTS, figures
from pindo.core.document.rows import MeasuredRow
from pindo.core.document.typed import Evidence
from pindo.core.places import FACES, list_at, row_at

_PLAIN = re.compile(r"[\d.,]+(?:\s*[A-Za-z\"′″']+)?")


def other_sign(typed: str) -> str:
    """A figure as it is typed, with the other sign: 30 mm, -30 mm; (1 1/2 in), -(1 1/2 in)."""
    text = typed.strip()
    if text[:1] in "-−":
        rest = text[1:].strip()
        return rest[1:-1].strip() if rest.startswith("(") and rest.endswith(")") else rest
    return f"-{text}" if _PLAIN.fullmatch(text) else f"-({text})"


def _mirrored(name: str) -> list[str]:
    """The figures of a list that have the other sign on the other side.

    Raises
    ------
    CannotEnter
        Its rows have no copy: what happened was done once, a land has no evidence of its own.
    """
    if name in LISTS and not LISTS[name].record:
        return [c.field for c in figures(name) if c.mirrors]
    if name in FACES and FACES[name][1] == "holes":
        return ["u"]
    raise CannotEnter(
        "This was done, read or signed once: it is written anew, not copied. Nothing was changed."
    )


def copied(build: Build, act: Copy, at: str) -> Patch:
    """The operations of a copy. Figures that nobody read are a guess, whatever the first row was
    read with.

    Raises
    ------
    CannotEnter
        There is no such row, or it has no copy.
    """
    mirrored = _mirrored(act.list)
    path, rows = list_at(build, act.list, act.of)
    _, row = row_at(build, act.list, act.row, act.of)
    made: dict[str, Any] = row.model_dump(mode="json")
    made["n"] = max(r.n for r in rows) + 1
    if isinstance(row, MeasuredRow | Hole):
        made |= {"evidence": Evidence(source=Source.GUESS).model_dump(mode="json"), "said": {}}
    side = "other side" if act.mirror else "copy"
    made["name"] = f"{made['name']}, {side}" if made["name"] else ""
    if act.mirror:
        for field in mirrored:
            if made.get(field):
                made[field] = other_sign(made[field])
    place = next(i for i, r in enumerate(rows) if r.n == row.n) + 1
    return [{"op": "add", "path": f"{path}/{place}", "value": made}]


def moved(build: Build, act: Move, at: str) -> Patch:
    """The operations that put a row one place up or down.

    Raises
    ------
    CannotEnter
        There is no such row, or it stands at the end already.
    """
    path, rows = list_at(build, act.list, act.of)
    _, row = row_at(build, act.list, act.row, act.of)
    place = next(i for i, r in enumerate(rows) if r.n == row.n)
    if not 0 <= place + act.by < len(rows):
        raise CannotEnter("It stands at the end already. Nothing was changed.")
    return [
        {"op": "remove", "path": f"{path}/{place}"},
        {"op": "add", "path": f"{path}/{place + act.by}", "value": row.model_dump(mode="json")},
    ]
