"""Ripple: what a change touches before it is kept: findings that turn, readings that lapse,
parts and lengths.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from pindo.core.assessment import Assessment, orders
from pindo.core.inputs.dimensions import DIMENSIONS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.lapse import Lapsing, events_of_change, lapsed_since
from pindo.core.inputs.quantities import Resolved
from pindo.core.judging.verdict import SEVERITY, Finding
from pindo.core.transition import lapsing_with

SAME_MM = 0.05  # a length that moves less stays as it is on the order sheet


@dataclass(frozen=True, kw_only=True)
class Turn:
    """A finding that turns, or whose margin moves."""

    id: str
    station: Station
    title: str
    before: str
    after: str
    """A verdict, ``new`` or ``gone``."""
    value_before: float | None
    value_after: float | None
    kind: str
    worse: bool


@dataclass(frozen=True, kw_only=True)
class LengthChange:
    """Something that is ordered or cut to a length that changes. [mm], or pitches for a chain"""

    name: str
    before: float
    after: float
    kind: str


@dataclass(frozen=True, kw_only=True)
class Ripple:
    """Everything that a change touches, in the order of the trade."""

    changed: tuple[str, ...]
    """Names of what was changed."""
    read_by: int
    """How many findings read it."""
    turns: tuple[Turn, ...]
    shifts: tuple[Turn, ...]
    """Findings that keep their verdict while their margin moves, the largest move first."""
    lapsing: tuple[Lapsing, ...]
    events: tuple[str, ...]
    lengths: tuple[LengthChange, ...]
    parts: tuple[str, ...]
    """Parts of the build whose sizes changed or whose lengths follow, with their state where a
    card says it.
    """
    steps: tuple[str, ...]
    """Done steps and passed hold points that watch a question or a finding that turns."""


def _value(f: Finding | None) -> float | None:
    return None if f is None else f.value


def _turns(before: Mapping[str, Finding], after: Mapping[str, Finding]) -> list[Turn]:
    found = []
    for id in dict.fromkeys((*before, *after)):
        old, new = before.get(id), after.get(id)
        one = new or old
        if one is None:
            continue
        was, now = old.verdict.value if old else "new", new.verdict.value if new else "gone"
        moved = (
            old is not None
            and new is not None
            and old.margin is not None
            and new.margin is not None
            and abs(new.margin - old.margin) > 1e-6
        )
        if was == now and not moved:
            continue
        if (old is None and new is not None and new.verdict.value == "goes") or (
            new is None and old is not None and old.verdict.value == "goes"
        ):
            continue
        worse = new is not None and (
            SEVERITY[new.verdict] < SEVERITY[old.verdict] if old else new.verdict.value != "goes"
        )
        if was == now:
            worse = (new.margin or 0.0) < (old.margin or 0.0)  # type: ignore[union-attr]
        found.append(
            Turn(
                id=id,
                station=one.station,
                title=one.title,
                before=was,
                after=now,
                value_before=_value(old),
                value_after=_value(new),
                kind=one.kind,
                worse=worse,
            )
        )
    return found


def _changed(before: Mapping[str, Resolved], after: Mapping[str, Resolved]) -> list[str]:
    """Addresses whose value, ± or standing differs."""
    found = []
    for key in dict.fromkeys((*before, *after)):
        a, b = before.get(key), after.get(key)
        if a is b:
            continue
        if a is None or b is None or (a.value, a.pm, a.status) != (b.value, b.pm, b.status):
            found.append(key)
    return found


def ripple(old: Inputs, new: Inputs, was: Assessment, now: Assessment) -> Ripple:
    """What turning one build into another touches. Pure."""
    before, after = old.document, new.document
    changed = _changed(was.quantities, now.quantities)
    turns = _turns({f.id: f for f in was.findings}, {f.id: f for f in now.findings})
    order = list(Station)
    turned = sorted(
        (t for t in turns if t.before != t.after),
        key=lambda t: (order.index(t.station), not t.worse),
    )
    shifts = [t for t in turns if t.before == t.after and t.kind in ("length", "angle")]
    shifts.sort(key=lambda t: -abs((t.value_after or 0.0) - (t.value_before or 0.0)))
    happened = [e.event for e in after.events[len(before.events) :]]
    events = list(dict.fromkeys([*events_of_change(before, after), *happened]))
    gone = {(x.address, x.statement): x for x in lapsing_with(before, after)} | {
        (x.address, x.statement): x for x in lapsed_since(before, after)
    }
    a, b = ({r.name: r for r in orders(inputs)} for inputs in (old, new))
    follow = tuple(
        LengthChange(name=k, before=a[k].value, after=b[k].value, kind=a[k].kind)
        for k in a
        if k in b and abs(a[k].value - b[k].value) > SAME_MM
    )
    parts = dict.fromkeys(DIMENSIONS[k].part for k in changed if k in DIMENSIONS)
    parts |= dict.fromkeys(a[x.name].part for x in follow)
    cards = {p.name.lower(): p.state for p in after.parts}
    asked = {f.id: f.question for f in (*was.findings, *now.findings)}
    touched = {t.id for t in turned} | {asked[t.id] for t in turned}
    done = tuple(
        f"{s.n} {s.name}" for s in after.steps if s.state == "done" and touched & set(s.watches)
    )
    names = [
        (now.quantities[k] if k in now.quantities else was.quantities[k]).name for k in changed
    ]
    return Ripple(
        changed=tuple(names),
        read_by=sum(bool(set(f.inputs) & set(changed)) for f in now.findings),
        turns=tuple(turned),
        shifts=tuple(shifts[:12]),
        lapsing=tuple(gone.values()),
        events=tuple(events),
        lengths=follow,
        parts=tuple(f"{p} ({cards[p]})" if p in cards else p for p in parts),
        steps=done,
    )
