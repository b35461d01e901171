"""Inputs of the build's lists: every figure of their rows and of the rows' parts."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import partial

from pindo.core.document.evidence import Source, State, as_said, default_pm
from pindo.core.document.list_model import ColumnOf, PartList
from pindo.core.document.lists import LISTS, PART_LISTS, PARTS, figures
from pindo.core.document.rows import BoltedJoint, Boss, MeasuredRow, Part, Row
from pindo.core.document.typed import Evidence, Other
from pindo.core.inputs.beside import with_others
from pindo.core.inputs.faces import THREAD_SIZES
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.statements import given_pm
from pindo.core.inputs.threads import nominal


def resolve_rows(key: str, rows: Sequence[Row]) -> Iterator[Resolved]:
    """Inputs ``<list>.<number>.<field>`` for every figure of the rows of a list. Empty ones that
    are not needed have no entry.
    """
    for row in rows:
        label = f"{LISTS[key].one} {row.n}" + (f" {row.name}" if row.name else "")
        for column in figures(key):
            typed = getattr(row, column.field)
            if typed or column.needed or any(o.field == column.field for o in row.others):
                read = partial(
                    _resolve_cell, f"{key}.{row.n}.{column.field}", f"{label}, {column.label}"
                )
                yield with_others(
                    read(column.kind, typed, evidence_of(key, row, column)),
                    typed,
                    column.field,
                    row,
                    partial(_resolve_other, read, column.kind),
                    in_place=bool(LISTS[key].reading),
                )
        yield from _named_pitch(key, row, label)
        for parts in PARTS[key]:
            yield from _resolve_parts(key, parts, row, label)


def _resolve_other(read: Callable[..., Resolved], kind: str, other: Other) -> Resolved:
    return read(kind, other.typed, other.evidence)


def part_address(key: str, row: Row, part: Part, field: str) -> str:
    """Address of a figure of a part of a row: ``fits.1.gaps.2.measured``.

    Parameters
    ----------
    key, field : str
        Key of the list of parts, and the figure.
    row, part
        The row, and the part of it.
    """
    return f"{PART_LISTS[key].of}.{row.n}.{PART_LISTS[key].field}.{part.n}.{field}"


def _resolve_parts(key: str, parts: PartList, row: Row, label: str) -> Iterator[Resolved]:
    evidence = row.evidence if isinstance(row, MeasuredRow) else _UNSOURCED
    state = getattr(row, "state", None)
    if isinstance(state, State) and evidence.state == State():
        evidence = evidence.model_copy(update={"state": state})
    for part in getattr(row, parts.field):
        said = evidence.model_copy(update={"lapsed": part.lapsed}) if part.lapsed else evidence
        for column in figures(parts.key):
            typed = getattr(part, column.field)
            if typed or column.needed or any(o.field == column.field for o in part.others):
                read = partial(
                    _resolve_cell,
                    part_address(parts.key, row, part, column.field),
                    f"{parts.label(part, label)}, {column.label}",
                    stands_in=getattr(part, parts.reading_in) if parts.reading_in else "",
                )
                yield with_others(
                    read(column.kind, typed, said),
                    typed,
                    column.field,
                    part,
                    partial(_resolve_other, read, column.kind),
                    in_place=bool(parts.reading_in),
                )


def evidence_of(key: str, row: Row, column: ColumnOf) -> Evidence:
    """What stands behind one figure of a row: its own, the row's, or the source that a choice of
    the row names.
    """
    if column.source_in:
        return Evidence(source=Source(getattr(row, column.source_in)))
    if not isinstance(row, MeasuredRow):
        return _UNSOURCED
    if column.field in row.said:
        return row.said[column.field]
    spoken = LISTS[key].evidence_of
    return row.evidence if not spoken or column.field in spoken else _UNSOURCED


def _named_pitch(key: str, row: Row, label: str) -> Iterator[Resolved]:
    """The pitch that the thread of a joint or a boss carries in its name, where none is typed
    beside it; missing where neither says it.
    """
    typed = row.pitch if isinstance(row, BoltedJoint) else None
    if isinstance(row, BoltedJoint | Boss) and row.d and not typed:
        yield _pitch_of(f"{key}.{row.n}.pitch", f"{label}, thread pitch", row.d)


def _pitch_of(address: str, name: str, thread: str) -> Resolved:
    try:
        pitch = parse(thread, "thread").pitch
    except EntryError:
        pitch = None
    return (
        Resolved(address=address, name=name)
        if pitch is None
        else Resolved(
            address=address, name=name, status=Status.STANDING, value=pitch, source=Source.CATALOGUE
        )
    )


_UNSOURCED = Evidence()


def _resolve_cell(
    address: str, name: str, kind: str, typed: str | None, evidence: Evidence, stands_in: str = ""
) -> Resolved:
    source = as_said(evidence.source, kind == "torque")
    blank = Resolved(
        address=address,
        name=name,
        kind=kind,
        source=source,
        tool=evidence.tool,
        state=evidence.state,
        stands_in=stands_in,
    )
    if not typed:
        return blank
    if evidence.lapsed:
        return replace(blank, status=Status.LAPSED, detail=evidence.lapsed.event)
    try:
        entry = parse(typed, kind)
        given = given_pm(evidence, kind) if entry.pm is None and kind == "length" else entry.pm
    except EntryError as error:
        return replace(blank, status=Status.BAD_ENTRY, detail=str(error))
    if entry.value is None:
        return replace(blank, status=Status.WORD, detail=entry.word or "")
    named = kind == "thread" and (
        entry.pitch is not None or nominal(entry.value, THREAD_SIZES) is not None
    )
    pm = (
        0.0
        if kind in ("money", "time") or named
        else (
            default_pm("length" if kind == "thread" else kind, entry.value, source, evidence.tool)
            if given is None
            else given
        )
    )
    return replace(blank, status=Status.STANDING, value=entry.value, pm=pm)
