"""Events of the floor and what they spoil: readings, torques, tests. Pure: the effect is a patch
that can be undone.
"""

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from typing import Any

from pindo.core.document.build import Build, EventRecord
from pindo.core.document.events import EVENTS
from pindo.core.document.evidence import TAKEN_WITH_A_TOOL
from pindo.core.document.lists import LISTS, PARTS, figures
from pindo.core.document.patch import put
from pindo.core.document.rows import MeasuredRow
from pindo.core.document.typed import Doubled, Evidence
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.statements import resolve_dimension

TIGHTENED = frozenset({"torqued", "marked"})


@dataclass(frozen=True, kw_only=True)
class Lapsing:
    """Something that an event will spoil: a reading, a tightened joint, a test that was passed."""

    address: str
    name: str
    statement: str
    shown: str


@dataclass(frozen=True)
class _Spoiled:
    """What lapses, and the operations that mark it."""

    told: Lapsing
    patch: tuple[dict[str, Any], ...]


def _dimensions(
    build: Build, spoils: frozenset[str], part: str, lapsed: dict[str, Any]
) -> Iterator[_Spoiled]:
    for key, dimension in build.dims.items():
        definition = DIMENSIONS.get(key)
        if definition is None or not (
            definition.reading in spoils or (part and definition.part == part)
        ):
            continue
        for i, statement in enumerate(dimension.statements):
            # Only a reading lapses with an event; papers lapse when the part itself is another one.
            if statement.lapsed is None and (part or statement.source in TAKEN_WITH_A_TOOL):
                told = Lapsing(
                    address=key,
                    name=definition.name,
                    statement=statement.id,
                    shown=statement.takes[-1].typed,
                )
                yield _Spoiled(told, (put(f"/dims/{key}/statements/{i}/lapsed", lapsed),))


def _others(at: str, of: Doubled) -> Iterator[tuple[str, Evidence]]:
    """What others say of the figures of something, with its path."""
    for i, other in enumerate(of.others):
        yield f"{at}/others/{i}/evidence", other.evidence


def evidences(at: str, row: MeasuredRow) -> Iterator[tuple[str, Evidence]]:
    """Everything that stands behind a row's figures, with its path: its own, that of single
    figures, that of what others say.
    """
    yield f"{at}/evidence", row.evidence
    for field, said in row.said.items():
        yield f"{at}/said/{field}", said
    yield from _others(at, row)


def _lapse(
    found: Iterator[tuple[str, Evidence]], lapsed: dict[str, Any]
) -> tuple[dict[str, Any], ...]:
    """Operations that mark what was taken with a tool and stands."""
    return tuple(
        put(f"{path}/lapsed", lapsed)
        for path, said in found
        if said.source in TAKEN_WITH_A_TOOL and said.lapsed is None
    )


def _rows(build: Build, spoils: frozenset[str], lapsed: dict[str, Any]) -> Iterator[_Spoiled]:
    """Rows and parts of rows that were taken with a tool, by which reading they are."""
    for key, of in LISTS.items():
        for i, row in enumerate(getattr(build, key)):
            if not isinstance(row, MeasuredRow):
                continue
            label = f"{of.one} {row.n} {row.name}".strip()
            gone = _lapse(evidences(f"/{key}/{i}", row), lapsed) if of.reading in spoils else ()
            if gone:
                told = Lapsing(address=f"{key}.{row.n}", name=label, statement="", shown="")
                yield _Spoiled(told, gone)
            if row.evidence.source not in TAKEN_WITH_A_TOOL:
                continue
            for parts in PARTS[key]:
                for j, part in enumerate(getattr(row, parts.field)):
                    typed = [v for c in figures(parts.key) if (v := getattr(part, c.field))]
                    spoilt = parts.reading_in and getattr(part, parts.reading_in) in spoils
                    if spoilt and typed and part.lapsed is None:
                        told = Lapsing(
                            address=f"{key}.{row.n}.{parts.field}.{part.n}",
                            name=parts.label(part, label),
                            statement="",
                            shown=typed[0],
                        )
                        at = f"/{key}/{i}/{parts.field}/{j}"
                        more = _lapse(_others(at, part), lapsed)
                        yield _Spoiled(told, (put(f"{at}/lapsed", lapsed), *more))


def _joints(build: Build, spoils: frozenset[str], which: str) -> Iterator[_Spoiled]:
    """Tightened joints: an opened one is open and its single-use screws are spent; after first
    heat those that ask for it are due again.
    """
    for i, joint in enumerate(build.joints):
        if joint.state not in TIGHTENED:
            continue
        told = Lapsing(
            address=f"joints.{joint.n}",
            name=f"Joint {joint.n} {joint.name}".strip(),
            statement="",
            shown=joint.state,
        )
        if "torque" in spoils and which == str(joint.n):
            spent = (put(f"/joints/{i}/single_use", "spent"),) if joint.single_use == "new" else ()
            yield _Spoiled(told, (put(f"/joints/{i}/state", "open"), *spent))
        elif "torque again" in spoils and joint.again:
            yield _Spoiled(told, (put(f"/joints/{i}/state", "due again"),))


def _tests(
    build: Build, spoils: frozenset[str], which: str, lapsed: dict[str, Any]
) -> Iterator[_Spoiled]:
    """Passed steps that prove a control or function: the one that was touched, or all of them."""
    for i, step in enumerate(build.steps if "test" in spoils else ()):
        if step.proves and step.state == "done" and which in ("", str(step.n)):
            told = Lapsing(
                address=f"steps.{step.n}",
                name=f"Step {step.n} {step.name}",
                statement="",
                shown=step.proves,
            )
            yield _Spoiled(
                told, (put(f"/steps/{i}/state", "open"), put(f"/steps/{i}/lapsed", lapsed))
            )


def _choices(build: Build, spoils: frozenset[str]) -> Iterator[_Spoiled]:
    """Tests that were passed and are told by a choice: undone, they are not said any more."""
    for key, text in build.options.items():
        option = OPTIONS.get(key)
        if option is not None and option.reading in spoils and text not in ("", option.default):
            told = Lapsing(address=key, name=option.name, statement="", shown=text)
            yield _Spoiled(told, ({"op": "remove", "path": f"/options/{key}"},))


def _spoiled(build: Build, event: str, which: str, at: str | None) -> list[_Spoiled]:
    happened = EVENTS[event]
    words = f"{event}: {which}" if which else event
    lapsed = {"event": words, "at": at}
    part = which if happened.asks == "part" else ""
    joint = which if happened.asks == "joint" else ""
    test = which if happened.asks == "test" else ""
    return [
        *_dimensions(build, happened.spoils, part, lapsed),
        *_rows(build, happened.spoils, lapsed),
        *_choices(build, happened.spoils),
        *_joints(build, happened.spoils, joint),
        # What went through an opened joint is not known: every test is to be passed again.
        *_tests(build, happened.spoils, test, lapsed),
    ]


def lapsing(build: Build, event: str, which: str = "") -> list[Lapsing]:
    """What lapses when ``event`` happens to the part, joint or test ``which``; a changed part takes
    every statement of its sizes with it.

    Raises
    ------
    KeyError
        No such event.
    """
    return [s.told for s in _spoiled(build, event, which, None)]


def _by_an_event(words: str) -> bool:
    """Whether an event spoiled it, and not another reading of the same."""
    return any(words == name or words.startswith(f"{name}: ") for name in EVENTS)


def lapsed_since(before: Build, after: Build) -> list[Lapsing]:
    """Readings of the build that have lapsed in ``after`` and stood in ``before``."""
    found = []
    for key, dimension in after.dims.items():
        was = before.dims.get(key)
        if was is dimension or was is None or key not in DIMENSIONS:
            continue
        stood = {s.id for s in was.statements if s.lapsed is None}
        found += [
            Lapsing(
                address=key,
                name=DIMENSIONS[key].name,
                statement=s.id,
                shown=s.takes[-1].typed,
            )
            for s in dimension.statements
            if s.lapsed is not None and s.id in stood and _by_an_event(s.lapsed.event)
        ]
    return found


def event_patch(
    build: Build, event: str, which: str = "", at: str | None = None, spared: Collection[str] = ()
) -> list[dict[str, Any]]:
    """JSON Patch (RFC 6902) of an event: what lapses marked, state changed, event recorded. Pure.

    ``spared`` are addresses that were said anew with the event itself.
    """
    gone = [s for s in _spoiled(build, event, which, at) if s.told.address not in spared]
    patch = [op for s in gone for op in s.patch]
    patch += [put(f"/state/{k}", v) for k, v in EVENTS[event].state.items()]
    record = EventRecord(event=event, part=which, at=at, lapsed=len(gone))
    patch.append({"op": "add", "path": "/events/-", "value": record.model_dump(mode="json")})
    return patch


def events_of_change(before: Build, after: Build) -> list[str]:
    """The events that a change of the build is, because dimensions that carry one now read
    otherwise.
    """

    def reads(build: Build, key: str) -> tuple[float | None, float | None]:
        found = resolve_dimension(key, build.dims.get(key))
        return found.value, found.asked

    changed = [
        d
        for key, d in DIMENSIONS.items()
        if d.event
        and before.dims.get(key)
        and before.dims[key] != after.dims.get(key)
        and reads(before, key) != reads(after, key)
    ]
    return list(dict.fromkeys(d.event for d in changed))
