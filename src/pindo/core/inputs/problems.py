"""Entries of a build that cannot be read, each with its place: what a store refuses and a file
report lists.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from pindo.core.document.build import Build
from pindo.core.document.faces import Face
from pindo.core.document.lists import LISTS, PARTS, figures
from pindo.core.document.parts import PartCard
from pindo.core.document.rows import MeasuredRow
from pindo.core.document.sizes import Dimension
from pindo.core.document.typed import Evidence
from pindo.core.document.written import opened
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.faces import HOLE_FIELDS
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import KINDS


@dataclass(frozen=True, kw_only=True)
class Problem:
    """One thing wrong with a document: JSON Pointer (RFC 6901) and plain words."""

    pointer: str
    detail: str


def _entry(
    pointer: str, typed: str, kind: str, unit: str | None, zero: tuple[str, ...] = ()
) -> Iterator[Problem]:
    if unit is not None and unit not in KINDS[kind].factors:
        yield Problem(pointer=pointer, detail=f"“{unit}” is not a unit of {kind}.")
        return
    try:
        parse(typed, kind, unit, zero)
    except EntryError as error:
        yield Problem(pointer=pointer, detail=str(error))


def _pm(pointer: str, evidence: Evidence, kind: str) -> Iterator[Problem]:
    if evidence.pm:
        try:
            if parse(evidence.pm, kind).value is None:
                yield Problem(pointer=f"{pointer}/pm", detail="The ± is a number.")
        except EntryError as error:
            yield Problem(pointer=f"{pointer}/pm", detail=str(error))


def _face(name: str, face: Face, before: Face | None) -> Iterator[Problem]:
    if face is before:
        return
    yield from _pm(f"/{name}/evidence", face.evidence, "length")
    if face.flange:
        yield from _entry(f"/{name}/flange", face.flange, "length", face.unit)
    for i, hole in enumerate(face.holes):
        for field in HOLE_FIELDS:
            if typed := getattr(hole, field):
                yield from _entry(
                    f"/{name}/holes/{i}/{field}",
                    typed,
                    "thread" if field == "d" and hole.role == "bolt" else "length",
                    face.unit,
                )
        for at, evidence in (
            (f"/{name}/holes/{i}/evidence", hole.evidence),
            *((f"/{name}/holes/{i}/said/{f}", e) for f, e in hole.said.items()),
        ):
            if evidence is not None:
                yield from _pm(at, evidence, "length")
    if face.register_d:
        yield from _entry(f"/{name}/register_d", face.register_d, "length", face.unit)
    for i, reading in enumerate(face.readings):
        at = f"/{name}/readings/{i}"
        if reading.value:
            yield from _entry(f"{at}/value", reading.value, "length", face.unit)
        yield from _pm(f"{at}/evidence", reading.evidence, "length")
    for i, point in enumerate(face.points):
        for field in ("x", "y"):
            if typed := getattr(point, field):
                yield from _entry(f"/{name}/points/{i}/{field}", typed, "length", face.unit)
        yield from _pm(f"/{name}/points/{i}/evidence", point.evidence, "length")
    for i, land in enumerate(face.lands):
        for field in ("u", "v", "d"):
            if typed := getattr(land, field):
                yield from _entry(f"/{name}/lands/{i}/{field}", typed, "length", face.unit)


def _rows(build: Build, key: str, before: Build | None) -> Iterator[Problem]:
    read = {id(row) for row in getattr(before, key, ())}
    for i, row in enumerate(getattr(build, key)):
        if id(row) in read:
            continue
        if isinstance(row, MeasuredRow):
            yield from _pm(f"/{key}/{i}/evidence", row.evidence, "length")
            for field, evidence in row.said.items():
                yield from _pm(f"/{key}/{i}/said/{field}", evidence, "length")
        for column in figures(key):
            if typed := getattr(row, column.field):
                yield from _entry(f"/{key}/{i}/{column.field}", typed, column.kind, None)
        for parts in PARTS[key]:
            for j, part in enumerate(getattr(row, parts.field)):
                for column in figures(parts.key):
                    if typed := getattr(part, column.field):
                        at = f"/{key}/{i}/{parts.field}/{j}/{column.field}"
                        yield from _entry(at, typed, column.kind, None)


def _sizes(
    path: str, dims: Mapping[str, Dimension], before: Mapping[str, Dimension]
) -> Iterator[Problem]:
    """Statements of sizes, of the build or of a part on the shelf."""
    for key, dimension in dims.items():
        if before.get(key) is dimension:
            continue
        if key not in DIMENSIONS:
            yield Problem(pointer=f"{path}/{key}", detail=f"There is no dimension {key}.")
            continue
        kind = DIMENSIONS[key].kind
        for i, statement in enumerate(dimension.statements):
            at = f"{path}/{key}/statements/{i}"
            yield from _pm(at, statement, kind)
            for j, take in enumerate(statement.takes):
                yield from _entry(
                    f"{at}/takes/{j}/typed", take.typed, kind, take.unit, DIMENSIONS[key].zero
                )


def sizes_problems(card: PartCard) -> list[Problem]:
    """Entries of a part on the shelf that cannot be read."""
    return list(_sizes("/sizes", card.sizes, {}))


def _shelf(build: Build, before: Build | None) -> Iterator[Problem]:
    """Sizes and hole patterns of the parts that are not fitted."""
    read = {id(card) for card in before.parts} if before is not None else set()
    for i, card in enumerate(build.parts):
        if id(card) not in read:
            yield from _sizes(f"/parts/{i}/sizes", card.sizes, {})
            if card.face is not None:
                yield from _face(f"parts/{i}/face", card.face, None)


def problems(build: Build, before: Build | None = None) -> list[Problem]:
    """All entries that cannot be read, unknown dimensions, options and rules: everything at once.

    What is the same object as in ``before`` was read already.
    """
    found = list(_sizes("/dims", build.dims, before.dims if before is not None else {}))
    for name in ("engine_face", "gearbox_face"):
        found += _face(name, getattr(build, name), getattr(before, name, None))
    for key in LISTS:
        found += _rows(build, key, before)
    found += _shelf(build, before)
    for key, said in build.options.items():
        if before is not None and before.options.get(key) == said:
            continue
        if key not in OPTIONS:
            found.append(Problem(pointer=f"/options/{key}", detail=f"There is no choice {key}."))
        elif said and OPTIONS[key].choices and said not in OPTIONS[key].choices:
            found.append(
                Problem(
                    pointer=f"/options/{key}",
                    detail=f"“{said}” is not one of: {', '.join(OPTIONS[key].choices)}.",
                )
            )
    found += [
        Problem(pointer=f"/rules/{key}", detail=f"There is no rule {key}.")
        for key in build.rules
        if key not in RULES and not (before is not None and key in before.rules)
    ]
    return found


def document_trouble(document: Any) -> str:
    """Why a document cannot be opened as a build, of any version so far; empty for nothing."""
    try:
        opened(dict(document))
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
        return f"its document is no build ({str(error).splitlines()[0][:120]})"
    return ""
