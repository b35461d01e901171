"""What no change may skip, whoever made it: signatures, sources of torques, what lapses with a
changed size.

Every stored change goes through here, from the screen, a script or a file of patches.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from pindo.core.document.build import Build
from pindo.core.document.parts import PartCard
from pindo.core.document.records import Provisional, Step
from pindo.core.document.rows import BoltedJoint, Row
from pindo.core.inputs.lapse import Lapsing, event_patch, events_of_change, lapsing
from pindo.core.inputs.problems import Problem
from pindo.core.inputs.resolve import resolve
from pindo.core.stations.assemble.steps import StepState, called
from pindo.core.stations.assemble.torque import torque_stands


def _changed(before: Iterable[Row], after: Iterable[Any]) -> Iterator[tuple[int, Any, Any]]:
    """Rows that are new or read otherwise: place, before (or None), after."""
    old = {row.n: row for row in before}
    for i, row in enumerate(after):
        if old.get(row.n) != row:
            yield i, old.get(row.n), row


def _first(step: Step) -> str:
    """A step at the head of a sentence."""
    words = called(step)
    return words[0].upper() + words[1:]


def _step(
    i: int,
    was: Step | None,
    now: Step,
    states: Mapping[int, StepState],
    steps: Mapping[int, Step],
) -> Iterator[Problem]:
    if now.state == "open" or (was is not None and was.state == now.state and was.by == now.by):
        return
    at = f"/steps/{i}"
    if now.state == "left out":
        for field, words in (("by", "a name"), ("reason", "a reason"), ("until", "an end")):
            if not getattr(now, field).strip():
                yield Problem(
                    pointer=f"{at}/{field}",
                    detail=(
                        f"{_first(now)} is left out by name, with a reason and an end: {words} is"
                        " wanting."
                    ),
                )
        return
    if now.asks and not now.as_built.strip():
        yield Problem(pointer=f"{at}/as_built", detail=f"Write it down first: {now.asks}.")
    if (now.hold or now.gate) and not now.by.strip():
        yield Problem(pointer=f"{at}/by", detail="A hold point is signed with a name.")
    state = states.get(now.n)
    if (
        was is not None
        and was.state == "open"
        and state is not None
        and state.status in ("waits", "blocked")
        and not (now.by.strip() and now.reason.strip())
    ):
        against = (
            f"waits for {', '.join(called(steps[n]) for n in state.waits_for)}"
            if state.waits_for
            else f"is shut by {state.blocked_by[0].text}"
        )
        yield Problem(
            pointer=f"{at}/reason",
            detail=(
                f"{_first(now)} {against}. What was done out of order is written down with a name"
                " and a reason."
            ),
        )


def _joint(i: int, was: BoltedJoint | None, now: BoltedJoint, after: Build) -> Iterator[Problem]:
    tightened = ("torqued", "marked")
    if now.state not in tightened or (was is not None and was.state in tightened):
        return
    if not torque_stands(resolve(after), now):
        yield Problem(
            pointer=f"/joints/{i}/state",
            detail=(
                f"{now.name or f'Joint {now.n}'}: torqued needs a torque with a source, catalogue"
                " or better."
            ),
        )
    if now.locker == "not said":
        yield Problem(
            pointer=f"/joints/{i}/locker",
            detail=(
                f"{now.name or f'Joint {now.n}'}: say whether it takes a locker before it is"
                " torqued."
            ),
        )
    if now.single_use == "spent":
        yield Problem(
            pointer=f"/joints/{i}/single_use",
            detail=(
                f"{now.name or f'Joint {now.n}'}: its single-use screws are spent; new ones first."
            ),
        )


def _signed(i: int, now: Provisional) -> Iterator[Problem]:
    if now.state == "signed":
        if not now.limit.strip():
            yield Problem(
                pointer=f"/provisional/{i}/limit",
                detail="A signature for a limit of use states the limit.",
            )
        if not now.by.strip():
            yield Problem(pointer=f"/provisional/{i}/by", detail="A signature needs a name.")


def _parts(after: Build) -> Iterator[Problem]:
    """Cards that cannot be: two parts of a kind fitted, one that is fitted and has sizes of its own
    on the shelf.
    """
    fitted: dict[str, PartCard] = {}
    for i, card in enumerate(after.parts):
        if not card.fitted or not card.kind:
            continue
        other = fitted.setdefault(card.kind, card)
        if other is not card:
            words = f"{other.name or card.kind} is the {card.kind} that is fitted: one at a time."
            yield Problem(pointer=f"/parts/{i}/fitted", detail=words)
        if card.sizes:
            words = (
                f"{card.name or f'Part {card.n}'} has sizes of its own: fit it, so that they become"
                " the build's."
            )
            yield Problem(pointer=f"/parts/{i}/fitted", detail=words)


def _disposed(before: Build, after: Build) -> Iterator[Problem]:
    """What is kept until its successor is fitted is not thrown away before."""
    stands = {c.n: c for c in after.parts}
    final = {c.kind for c in after.parts if c.fitted and c.state == "final" and c.kind}
    for i, card in enumerate(before.parts):
        now = stands.get(card.n)
        kept = card.keep and card.state != "gone" and card.kind not in final
        if kept and (now is None or now.state == "gone"):
            words = (
                f"{card.name or f'Part {card.n}'} is kept until its successor is fitted: no"
                f" {card.kind or 'part of its kind'} is fitted and final in its place yet."
            )
            yield Problem(pointer=f"/parts/{i}/state", detail=words)


def refusals(before: Build, after: Build, states: Iterable[StepState]) -> list[Problem]:
    """Why a change may not be kept: a step closed without what it asks, a joint torqued without a
    torque, a signature without its name.

    ``states`` are the steps as they stood before it.
    """
    by_number = {s.n: s for s in states}
    steps = {s.n: s for s in (*before.steps, *after.steps)}
    found = [
        p
        for i, was, now in _changed(before.steps, after.steps)
        for p in _step(i, was, now, by_number, steps)
    ]
    found += [
        p
        for i, was, now in _changed(before.joints, after.joints)
        for p in _joint(i, was, now, after)
    ]
    if before.parts != after.parts:
        found += [*_parts(after), *_disposed(before, after)]
    found += [
        p
        for i, was, now in _changed(before.provisional, after.provisional)
        for p in _signed(i, now)
    ]
    return found


def lapsing_with(before: Build, after: Build) -> list[Lapsing]:
    """Readings that a change spoils, because sizes that carry an event read otherwise; those
    said anew with it are spared.
    """
    spared = _said_anew(before, after)
    return list(
        {
            (x.address, x.statement): x
            for event in events_of_change(before, after)
            for x in lapsing(after, event)
            if x.address not in spared
        }.values()
    )


def taken_since(before: Build, after: Build, restored: Build) -> list[Lapsing]:
    """Readings that an undo would leave standing beside a size that they were not taken with: they
    were taken since, and lapse with nothing.

    ``after`` is the build with one earlier change taken out or put in again under later ones;
    ``restored`` the build as it was with that change alone.
    """
    found = {
        (x.address, x.statement): x
        for event in events_of_change(before, after)
        for x in lapsing(after, event)
    }
    stood = {
        (x.address, x.statement)
        for event in events_of_change(before, after)
        for x in lapsing(restored, event)
    }
    return [x for key, x in found.items() if key not in stood]


def _said_anew(before: Build, after: Build) -> set[str]:
    return {
        key for key, d in after.dims.items() if (was := before.dims.get(key)) is not d and was != d
    }


def completing(before: Build, after: Build, at: str) -> list[dict[str, Any]]:
    """Operations that go with a change: the lapses of the events that it is."""
    recorded = {e.event for e in after.events[len(before.events) :]}
    spared = _said_anew(before, after)
    return [
        op
        for event in events_of_change(before, after)
        if event not in recorded
        for op in event_patch(after, event, at=at, spared=spared)
    ]
