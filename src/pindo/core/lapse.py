"""Events of the floor and the readings that they spoil. Pure: the effect is a patch that can be undone."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any

from pindo.core.build import Build, EventRecord
from pindo.core.dimensions import DIMENSIONS
from pindo.core.evidence import TAKEN_WITH_A_TOOL
from pindo.core.resolve import resolve_dimension
from pindo.core.rows import LISTS


@dataclass(frozen=True, kw_only=True)
class Event:
    """Something that happens to the unit. ``spoils`` names kinds of reading; ``state`` what it changes to."""

    name: str
    spoils: frozenset[str]
    state: Mapping[str, str] = field(default_factory=dict)
    asks_part: bool = False


def _event(name: str, *spoils: str, asks_part: bool = False, **state: str) -> Event:
    return Event(name=name, spoils=frozenset(spoils), state=MappingProxyType(state), asks_part=asks_part)


# Kinds of reading as the catalogue names them.
EVENTS: Mapping[str, Event] = MappingProxyType(
    {
        e.name: e
        for e in (
            _event("gearbox on", "gap", "pose", "lever", gearbox="on"),
            _event("gearbox off", "gap", "pose", "lever", gearbox="off"),
            _event("unit to the bench", "gap", "pose", "lever", position="bench"),
            _event("unit hung", "gap", "pose", "lever", position="hung"),
            _event("unit set down, loose", "gap", "pose", "lever", position="resting loose"),
            _event("unit set down, loaded", "gap", "pose", "lever", position="resting loaded"),
            _event("mount shimmed, slotted, welded or loaded", "pose", "gap", "length", "lever", "exhaust"),
            _event("plate, shield, spacer or adapter thickness", "runout", "starter depth", "length", "lever"),
            _event("dowel out, in or replaced", "runout"),
            _event("housing welded or ground", "runout"),
            _event("unit moved", "gap", "lever", "exhaust", "length"),
            _event("springs, spacers, tyres or load", "ride", "length", "gap"),
            _event("part or supplier changed", asks_part=True),
            _event("joint opened", "torque", "test"),
            _event("control, cable or wire touched", "test"),
            _event("first heat", "torque again", "belt"),
        )
    }
)


@dataclass(frozen=True, kw_only=True)
class Lapsing:
    """A reading that an event will spoil."""

    address: str
    name: str
    statement: str
    shown: str


def lapsing(build: Build, event: str, part: str = "") -> list[Lapsing]:
    """What lapses when ``event`` happens; a changed part takes every statement of its sizes with it.

    Raises
    ------
    KeyError
        No such event.
    """
    spoils = EVENTS[event].spoils
    whole_part = part if EVENTS[event].asks_part else None
    found = []
    for key, dimension in build.dims.items():
        definition = DIMENSIONS.get(key)
        if definition is None or not (definition.reading in spoils or (whole_part and definition.part == whole_part)):
            continue
        for statement in dimension.statements:
            # Only a reading lapses with an event; papers lapse when the part itself is another one.
            if statement.lapsed is None and (whole_part or statement.source in TAKEN_WITH_A_TOOL):
                found.append(Lapsing(address=key, name=definition.name, statement=statement.id, shown=statement.takes[-1].typed))
    for key, rows in LISTS.items():
        if not rows.reading or rows.reading not in spoils:
            continue
        for i, row in enumerate(getattr(build, key)):
            if row.evidence.lapsed is None and row.evidence.source in TAKEN_WITH_A_TOOL and (key != "fits" or any(g.measured for g in row.gaps)):
                shown = ", ".join(g.measured for g in row.gaps if g.measured) if key == "fits" else ""
                found.append(Lapsing(address=f"{key}.{row.n}", name=f"{rows.one} {row.n} {row.name}".strip(), statement=str(i), shown=shown))
    return found


def event_patch(build: Build, event: str, part: str = "", at: str | None = None, spared: Collection[str] = ()) -> list[dict[str, Any]]:
    """JSON Patch (RFC 6902) of an event: lapses marked, state changed, event recorded. Pure.

    ``spared`` are addresses that were said anew with the event itself.
    """
    gone = [x for x in lapsing(build, event, part) if x.address not in spared]
    patch: list[dict[str, Any]] = []
    for lapse in gone:
        words = f"{event}: {part}" if part else event
        if lapse.address in build.dims:
            index = next(i for i, s in enumerate(build.dims[lapse.address].statements) if s.id == lapse.statement)
            path = f"/dims/{lapse.address}/statements/{index}/lapsed"
        else:
            path = f"/{lapse.address.partition('.')[0]}/{lapse.statement}/evidence/lapsed"
        patch.append({"op": "add", "path": path, "value": {"event": words, "at": at}})
    patch += [{"op": "add", "path": f"/state/{k}", "value": v} for k, v in EVENTS[event].state.items()]
    record = EventRecord(event=event, part=part, at=at, lapsed=len(gone))
    patch.append({"op": "add", "path": "/events/-", "value": record.model_dump(mode="json")})
    return patch


def events_of_change(before: Build, after: Build) -> list[str]:
    """The events that a change of the build is, because dimensions that carry one now read otherwise."""
    changed = [d for key, d in DIMENSIONS.items() if d.event and before.dims.get(key) and resolve_dimension(key, before.dims.get(key)).value != resolve_dimension(key, after.dims.get(key)).value]
    return list(dict.fromkeys(d.event for d in changed))
