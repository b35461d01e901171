"""What an entry does to the document: a reading, a plan, a new row, a step that is closed. The
rules of the trade, the same for every client.

An act says what a person did; :func:`operations` turns it into JSON Patch (RFC 6902) against the
document as it stands. What no act may skip (a hold point's name, a torque's source, what lapses) is
held in :mod:`pindo.core.transition` for raw patches too.
"""

from collections.abc import Callable, Mapping
from typing import Any

from pindo.core.acts import (
    Add,
    AddRows,
    Beside,
    CannotEnter,
    Cell,
    Close,
    Copy,
    FitPart,
    Happen,
    Move,
    Patch,
    Plan,
    Put,
    Raw,
    Read,
    Remove,
    Renumber,
    Settle,
)
from pindo.core.document.build import Build
from pindo.core.document.events import EVENTS
from pindo.core.document.evidence import (
    TAKEN_WITH_A_TOOL,
    Source,
    State,
    Tool,
    as_said,
    tool_for,
)
from pindo.core.document.faces import Hole
from pindo.core.document.lists import COLUMNS, LISTS
from pindo.core.document.patch import put
from pindo.core.document.rows import MeasuredRow, Part
from pindo.core.document.sizes import Dimension, Statement
from pindo.core.document.typed import Evidence, Model
from pindo.core.fitting import fitted, sizes_at
from pindo.core.inputs.dimensions import DIMENSIONS, DimensionDef
from pindo.core.inputs.lapse import event_patch
from pindo.core.inputs.quantity import parse
from pindo.core.pins import logged
from pindo.core.places import face_of, kind_of, list_at, row_at
from pindo.core.renumbering import renumbered
from pindo.core.row_acts import copied, moved
from pindo.core.said_again import beside, settled

MOST_SUPERSEDED = 20
READ_AGAIN = "read again"


def _definition(key: str) -> DimensionDef:
    if key not in DIMENSIONS:
        raise CannotEnter(f"There is no dimension {key}.")
    return DIMENSIONS[key]


def fresh_id(dimension: Dimension) -> str:
    """An id that no statement of the dimension has."""
    taken = {s.id for s in dimension.statements}
    return next(i for n in range(len(taken) + 1, 10_000) if (i := f"s{n}") not in taken)


def source_of_entry(
    definition: DimensionDef, source: Source | None, tool: Tool | None, is_word: bool, about: bool
) -> Source:
    """Where a typed figure comes from when nobody said more: evidence is never invented."""
    if is_word:
        return Source.WORD
    if source is not None:
        return as_said(source, definition.sourced)
    if about:
        return Source.GUESS
    if definition.sourced:
        return Source.UNSAID
    return Source.CHOSEN if definition.decided and tool is None else Source.MEASURED


def _read(build: Build, act: Read, at: str) -> Patch:
    """A new statement; readings of this line that were taken here before lapse as read again,
    papers and plans stay beside it.
    """
    definition = _definition(act.key)
    entry = parse(act.typed, definition.kind, act.unit, definition.zero)
    path, dims = sizes_at(build, act.part, act.key)
    dimension = dims.get(act.key) or Dimension()
    tool = tool_for(act.tool, definition.kind)
    source = source_of_entry(definition, act.source, tool, entry.value is None, entry.about)
    superseded = (
        {Source.MEASURED}
        if source == Source.MEASURED
        else (
            {source, Source.WORD}
            if source in (Source.WORD, Source.GUESS, Source.UNSAID, Source.CHOSEN)
            else {source}
        )
    )
    statement = {
        "id": fresh_id(dimension),
        "source": source.value,
        "tool": tool.value if tool and source in TAKEN_WITH_A_TOOL else None,
        "state": build.state.model_dump(mode="json") if source in TAKEN_WITH_A_TOOL else {},
        "takes": [{"typed": act.typed, "unit": act.unit or None, "at": at}],
    }
    if act.key not in dims:
        return [put(f"{path}/{act.key}", {"statements": [statement]})]
    patch = [
        put(f"{path}/{act.key}/statements/{i}/lapsed", {"event": READ_AGAIN, "at": at})
        for i, s in enumerate(dimension.statements)
        if s.lapsed is None and (s.source in superseded or s.source == Source.WORD)
    ]
    # What was typed last is what stands: a decision beside what was measured, or a figure whose
    # source is still to be said.
    stands = statement["id"] if source in (Source.CHOSEN, Source.UNSAID) else None
    patch += [
        put(f"{path}/{act.key}/chosen", None),
        put(f"{path}/{act.key}/why_chosen", ""),
        put(f"{path}/{act.key}/sure", ""),
    ]
    patch.append(put(f"{path}/{act.key}/statements/-", statement))
    if stands is not None:
        patch.append(put(f"{path}/{act.key}/chosen", stands))
    return patch + _pruned(f"{path}/{act.key}", dimension.statements)


def _pruned(path: str, statements: list[Statement]) -> Patch:
    """Old readings that were read again are taken out beyond a score: the history has them."""
    old = [
        i for i, s in enumerate(statements) if s.lapsed is not None and s.lapsed.event == READ_AGAIN
    ]
    return [
        {"op": "remove", "path": f"{path}/statements/{i}"}
        for i in reversed(old[: max(0, len(old) - MOST_SUPERSEDED)])
    ]


def _plan(build: Build, act: Plan, at: str) -> Patch:
    definition = _definition(act.key)
    parse(act.typed, definition.kind, act.unit, definition.zero)
    dimension = build.dims.get(act.key) or Dimension()
    statement = {
        "id": fresh_id(dimension),
        "source": Source.CHOSEN.value,
        "note": "planned",
        "takes": [{"typed": act.typed, "unit": act.unit or None, "at": at}],
    }
    if act.key not in build.dims:
        return [put(f"/dims/{act.key}", {"statements": [statement]})]
    earlier = [
        i
        for i, s in enumerate(dimension.statements)
        if s.source == Source.CHOSEN and s.lapsed is None
    ]
    patch = [
        put(f"/dims/{act.key}/statements/{i}/lapsed", {"event": "planned again", "at": at})
        for i in earlier
    ]
    return [
        *patch,
        put(f"/dims/{act.key}/statements/-", statement),
        put(f"/dims/{act.key}/chosen", statement["id"]),
        put(f"/dims/{act.key}/why_chosen", "planned"),
    ]


def _evidence_now(build: Build, tool: Tool | None) -> Evidence:
    return Evidence(source=Source.MEASURED, tool=tool, state=build.state)


def _belongs(declared: Evidence, reading: Evidence, tool_named: bool) -> bool:
    """Whether a reading taken now is what a row's declaration speaks of: measured here, no ± of
    its own, the same state and tool.
    """
    return (
        declared.source == Source.MEASURED
        and declared.lapsed is None
        and not declared.pm
        and declared.state in (reading.state, State())
        and (not tool_named or declared.tool == reading.tool)
    )


def _cell(build: Build, act: Cell, at: str) -> Patch:
    """A figure of a row. An empty cell falls under what the row declares; a figure typed over
    another is a reading of its own, and one that was not read here says where it is from.
    """
    path, row = row_at(build, act.list, act.row, act.of)
    kind = kind_of(act.list, row, act.field)
    before = getattr(row, act.field, None) or ""
    unit = None if act.list in COLUMNS else face_of(build, act.list, act.of)[0].unit
    if act.typed:
        parse(act.typed, kind, unit)
    patch = [put(f"{path}/{act.field}", act.typed or None)]
    if isinstance(row, Part) and row.lapsed:
        patch.append(put(f"{path}/lapsed", None))
    if not isinstance(row, MeasuredRow | Hole) or kind in ("count", "money", "time"):
        return patch
    spoken = LISTS[act.list].evidence_of if act.list in LISTS else ()
    if spoken and act.field not in spoken:
        return patch
    declared = (
        row.evidence
        if isinstance(row, MeasuredRow)
        else row.evidence or face_of(build, act.list, act.of)[0].evidence
    )
    tool = tool_for(act.tool, "length" if kind == "thread" else kind)
    reading = _evidence_now(build, tool)
    own = act.field in row.said
    if not act.typed or kind == "thread":
        return patch + ([{"op": "remove", "path": f"{path}/said/{act.field}"}] if own else [])
    if act.source is not None and act.source != Source.MEASURED:
        elsewhere = Evidence(source=act.source)
        return [*patch, put(f"{path}/said/{act.field}", elsewhere.model_dump(mode="json"))]
    if (not before and declared.lapsed is None and tool is None) or _belongs(
        declared, reading, tool is not None
    ):
        return patch + ([{"op": "remove", "path": f"{path}/said/{act.field}"}] if own else [])
    return [*patch, put(f"{path}/said/{act.field}", reading.model_dump(mode="json"))]


def _put(build: Build, act: Put, at: str) -> Patch:
    path, row = row_at(build, act.list, act.row, act.of)
    if act.field.startswith("evidence/") and isinstance(row, MeasuredRow | Hole):
        said = [{"op": "replace", "path": f"{path}/said", "value": {}}] if row.said else []
        if isinstance(row, Hole) and row.evidence is None:
            said.append(
                put(
                    f"{path}/evidence",
                    face_of(build, act.list, act.of)[0].evidence.model_dump(mode="json"),
                )
            )
        return [*said, put(f"{path}/{act.field}", act.value)]
    if act.list == "log" and act.field == "pin":
        more = logged(build, {"pin": act.value, "pinned_version": ""})
        return [put(f"{path}/{field}", value) for field, value in more.items()]
    return [put(f"{path}/{act.field}", act.value)]


def _add(build: Build, act: Add, at: str) -> Patch:
    path, rows = list_at(build, act.list, act.of)
    row = logged(build, act.row) if act.list == "log" else act.row
    return [put(f"{path}/-", {**row, "n": max((r.n for r in rows), default=0) + 1})]


def _add_rows(build: Build, act: AddRows, at: str) -> Patch:
    path, rows = list_at(build, act.list, act.of)
    first = max((r.n for r in rows), default=0) + 1
    return [put(f"{path}/-", {**row, "n": n}) for n, row in enumerate(act.rows, first)]


def _remove(build: Build, act: Remove, at: str) -> Patch:
    return [{"op": "remove", "path": row_at(build, act.list, act.row, act.of)[0]}]


def _step(build: Build, act: Close, at: str) -> Patch:
    path, row = row_at(build, "steps", act.n)
    if act.state == "open":
        return [put(f"{path}/state", "open"), put(f"{path}/reason", ""), put(f"{path}/until", "")]
    values = {
        "state": act.state,
        "as_built": act.as_built.strip() or getattr(row, "as_built", ""),
        "by": act.by.strip(),
        "reason": act.reason.strip(),
        "until": act.until.strip(),
        "at": at,
        "lapsed": None,
    }
    return [put(f"{path}/{field}", value) for field, value in values.items()]


def _happen(build: Build, act: Happen, at: str) -> Patch:
    if act.event not in EVENTS:
        raise CannotEnter(f"There is no event “{act.event[:80]}”.")
    return event_patch(build, act.event, act.which, at)


def _raw(build: Build, act: Raw, at: str) -> Patch:
    return list(act.ops)


_ACTS: Mapping[type[Model], Callable[[Build, Any, str], Patch]] = {
    Read: _read,
    Plan: _plan,
    Cell: _cell,
    Beside: beside,
    Settle: settled,
    Put: _put,
    Add: _add,
    AddRows: _add_rows,
    Remove: _remove,
    Copy: copied,
    Move: moved,
    Renumber: renumbered,
    Close: _step,
    FitPart: fitted,
    Happen: _happen,
    Raw: _raw,
}


def operations(build: Build, act: Model, at: str) -> Patch:
    """JSON Patch of one act against the build as it stands. Pure.

    Parameters
    ----------
    build, act
        The document, and what was done.
    at : str, ISO 8601
        When.

    Raises
    ------
    CannotEnter, MovedOn
        The act does not fit this build.
    EntryError
        What was typed is no number of its kind.
    """
    return _ACTS[type(act)](build, act, at)
