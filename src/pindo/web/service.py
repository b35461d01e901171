"""What the routes share: documents in and out of the store, assessed."""

import logging
import uuid
from collections.abc import Sequence
from typing import Any

from pydantic import TypeAdapter, ValidationError

from pindo.core.acts import Act, CannotEnter, MovedOn
from pindo.core.assessment import Assessment, assess_inputs, counted, worst_first
from pindo.core.document import written
from pindo.core.document.build import Build
from pindo.core.document.lists import LISTS
from pindo.core.document.patch import difference, sharing
from pindo.core.document.written import Written
from pindo.core.enter import Change, Unreadable, asks, completed, enter, laid_out
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.lapse import Lapsing
from pindo.core.inputs.problems import document_trouble
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.judging.question import Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.assemble.steps import step_states
from pindo.core.transition import lapsing_with, taken_since
from pindo.store import builds as store
from pindo.store.builds import Editing
from pindo.store.merge import meet, places
from pindo.store.stored import JournalLine, Stored
from pindo.store.undo import Stacks
from pindo.web import models
from pindo.web.answers import (
    OVERVIEW,
    Answered,
    answer_to,
    answered,
    keep,
    kept_of,
    laid_out_anew,
    unreadable,
)
from pindo.web.differing import differing
from pindo.web.patching import patched
from pindo.web.problems import Refused, change_line, invalid_document
from pindo.web.words import change_places, change_words

log = logging.getLogger(__name__)
MOST_OPERATIONS = 2000
MOST_WORK = 100_000
MOST_DOCUMENT = 2 * 1024 * 1024

AT_VERSION, BOARDS = TypeAdapter(models.AtVersion), TypeAdapter(models.BoardsOf)
CHANGED = TypeAdapter(models.BuildChange[Finding])
TRIAL = TypeAdapter(models.TrialState[Finding])
# Why, doubt and limits of a finding go out when it is opened.
LINES: Any = {"__all__": set(models.OPENED_FIELDS)}


def _rows(build: Build) -> int:
    """How much there is to be read again after each act."""
    faces = (build.engine_face, build.gearbox_face)
    of_faces = sum(len(f.holes) + len(f.lands) + len(f.readings) + len(f.points) for f in faces)
    return len(build.dims) + of_faces + sum(len(getattr(build, name)) for name in LISTS)


def entered(before: Written, acts: list[Act], at: str) -> Change:
    """What acts make of a build. Raises Refused where one of them does not fit; none is kept."""
    if len(acts) * _rows(before.build) > MOST_WORK:
        words = (
            f"{len(acts)} changes at once are too many for a build of this size. Nothing was"
            " stored: send them in parts."
        )
        raise Refused(422, "too-large", "Too much at once", words)
    try:
        return enter(before, acts, at, patched)
    except MovedOn as error:
        raise Refused(409, "moved-on", "Someone else was quicker", str(error)) from error
    except Unreadable as error:
        raise unreadable(error.problems) from error
    except ValidationError as error:
        raise invalid_document(error) from error
    except (CannotEnter, EntryError) as error:
        raise Refused(422, "entry", "This cannot be entered", str(error)) from error


def accepted(id: str, said: Written, today: str) -> dict[str, Any]:
    """A build as it is stored, once it was answered: no document is taken that could not be opened
    again.

    Raises
    ------
    Refused
        It is larger than a build may be; or Pindo itself failed at it: the number in the answer
        stands in the log beside the trace.
    """
    if (size := len(store.dumped(said.document))) > MOST_DOCUMENT:
        words = (
            f"It would hold {size / 2**20:.1f} MB; a build holds at most {MOST_DOCUMENT // 2**20}"
            " MB beside its pictures. Nothing was stored."
        )
        raise Refused(422, "too-large", "The build is too large", words)
    try:
        kept = kept_of(id) if id else ()
        now = answer_to(said, today, kept[0] if kept else None)
    except Exception as error:
        number = uuid.uuid4().hex[:8]
        log.exception("fault %s: a document that cannot be answered", number)
        words = (
            "Pindo failed at the build as it would be. Nothing was stored; the log has the trace"
            f" under {number}."
        )
        raise Refused(422, "fault", "Pindo cannot answer for this", words) from error
    if id:
        keep(id, now)
    return said.document


def changed(editing: Editing, acts: list[Act], at: str, today: str, lapse: bool) -> dict[str, Any]:
    """The document after acts, as it is stored; acts for an earlier version are laid on what stands
    now.

    Raises
    ------
    Refused
        An act does not fit; or, without ``lapse``, readings would lapse, which are named.
    Stale
        The same was changed since that version.
    """
    stored = editing.current
    now = answered(stored.id, stored.document, today)
    if editing.base is stored.document:
        change = entered(now.written, acts, at)
    else:
        base = entered(written.opened(editing.base), acts, at)
        theirs = now.written
        mine = editing.lay(base.before.document, base.after.document, theirs.document)
        after = _read_again(theirs, mine)
        change = Change(theirs, after, tuple(lapsing_with(theirs.build, after.build)))
    _held_against(editing, change)
    if not lapse and change.lapses:
        raise Refused(
            409,
            "lapses",
            "Readings would lapse",
            f"Keeping this lapses {_named(change.lapses)}. Nothing was stored yet.",
            lapsing=[
                {"address": x.address, "name": x.name, "shown": x.shown} for x in change.lapses
            ],
        )
    if found := asks(change, lambda: _steps(now, today)):
        words = "Nothing was stored; what you typed is kept."
        raise Refused(422, "rule", "Something is wanting first", words, found)
    return accepted(stored.id, completed(change, at).after, today)


def _steps(now: Answered, today: str) -> list[Any]:
    findings, opens = now.assessment.findings, now.assessment.opens
    return step_states(now.inputs, Seen(findings=findings, opens=opens, today=today))


def _read_again(before: Written, document: dict[str, Any]) -> Written:
    try:
        return laid_out(before, sharing(before.document, document))
    except ValidationError as error:
        raise invalid_document(error) from error
    except Unreadable as error:
        raise unreadable(error.problems) from error


def _held_against(editing: Editing, change: Change) -> None:
    """Refuses a change of what another hand changed since it was on the screen, with both."""
    if not editing.others:
        return
    mine = places(change.before.document, change.after.document)
    for other, theirs in editing.others:
        if meet(mine, theirs):
            words = "; ".join(change_words(other)[:3])
            who = other.who or "Someone at another screen"
            raise Refused(
                409,
                "moved-on",
                "Someone else was quicker",
                f"{who} changed the same since you looked: {words}. Yours is kept here and not"
                " stored: enter it again to put it in place of theirs.",
            )


def _named(gone: Sequence[Lapsing]) -> str:
    words = [f"{x.name} ({x.shown})" if x.shown else x.name for x in gone]
    return ", ".join(words[:4]) + (f" and {len(words) - 4} more" if len(words) > 4 else "")


def stepped_to(
    stored: Stored, document: dict[str, Any], restored: dict[str, Any], today: str
) -> dict[str, Any]:
    """An earlier document, or one that is made of several hands' changes, looked at before it
    stands again.

    Raises
    ------
    Refused
        It would be no build, or readings that were taken since would stand beside a size that they
        were not taken with.
    """
    title = "This cannot be undone by itself"
    kept = kept_of(stored.id)
    try:
        said = laid_out_anew(kept[0].written, document) if kept else written.opened(dict(document))
    except ValidationError as error:
        words = (
            "What is left would be no build: later changes rest on it. Nothing was changed; undo"
            " those first."
        )
        raise Refused(409, "step", title, words) from error
    if document != restored and not document_trouble(stored.document):
        before, alone = (written.opened(dict(d)).build for d in (stored.document, restored))
        if since := taken_since(before, said.build, alone):
            words = (
                f"Since then was taken: {_named(since)}, with the size that this would change."
                " Nothing was changed; undo those first, or enter the size again."
            )
            raise Refused(409, "step", title, words)
    return accepted(stored.id, said, today)


MOST_WAYS, MOST_SOLIDS = 12, 100


def with_ways(now: Answered, station: Station, today: str) -> tuple[Assessment, str]:
    """The findings with the ways out of a station's worst ones, as its sheet has them, and what it
    says of the others'.

    Without any where space holds so many solids that their pairs take minutes.
    """
    own = [
        f
        for f in now.assessment.findings
        if f.station == station and f.verdict in (Verdict.FOULS, Verdict.TIGHT)
    ]
    if len(now.written.build.solids) > MOST_SOLIDS:
        words = "Ways out were not looked for: open a finding on the screen."
        return now.assessment, words if own else ""
    words = f"Ways out were looked for the {MOST_WAYS} worst: open the others on the screen."
    ids = [f.id for f in worst_first(own)[:MOST_WAYS]]
    return assess_inputs(now.inputs, ids, today), words if len(own) > MOST_WAYS else ""


def _head(
    stored: Stored,
    stacks: Stacks,
    now: Answered,
    stepped: JournalLine | None,
    between: Sequence[JournalLine],
) -> dict[str, Any]:
    step = None
    if stepped is not None:
        places_of = change_places(stepped, now.written.build)
        step = models.Stepped(kind=stepped.kind, words=change_words(stepped), places=places_of)
    return {
        "id": stored.id,
        "version": stored.version,
        "tag": stored.at.tag,
        "updated_at": stored.updated_at,
        "can_undo": bool(stacks.done),
        "can_redo": bool(stacks.undone),
        "stepped": step,
        "between": [models.ChangeLine(**change_line(c)) for c in between],
    }


def state(
    stored: Stored,
    stacks: Stacks,
    today: str,
    shown: str = "",
    question: str = "",
    stepped: JournalLine | None = None,
    between: Sequence[JournalLine] = (),
) -> bytes:
    """The answer for a stored build, as JSON: all of it, or what differs from the version that the
    screen shows.

    ``stepped`` is the change that was just undone or redone, ``between`` those of others that it
    was laid on.
    """
    now = answered(stored.id, stored.document, today, stored.at.tag)
    head = _head(stored, stacks, now, stepped, between)
    was = next((a for a in kept_of(stored.id) if shown and a.tag == shown and a is not now), None)
    if was is not None:
        return CHANGED.dump_json(
            models.BuildChange[Finding].model_construct(
                **head,
                since=shown,
                document=difference(was.written.document, now.written.document),
                **differing(was, now, question),
            ),
            exclude={"findings": LINES},
        )
    # Two objects of JSON as one: what is of this version, and what is said of the document.
    whole = AT_VERSION.dump_json(models.AtVersion.model_construct(**head))
    return whole[:-1] + b"," + now.json[1:]


def boards_of(stored: Stored, question: str, today: str) -> bytes:
    """The profile and the board of a question, as JSON."""
    now = answered(stored.id, stored.document, today, stored.at.tag)
    return BOARDS.dump_json(
        models.BoardsOf.model_construct(tag=stored.at.tag, boards=now.boards((question,)))
    )


def glance(stored: Stored, today: str) -> models.Glance:
    """A build as the list of builds shows it."""
    now = answered(stored.id, stored.document, today, stored.at.tag)
    found = now.assessment
    return models.Glance(
        tally=counted(f.verdict for f in found.findings),
        opens=len(found.opens),
        next=found.next[0].name if found.next else "",
        side=next(iter(now.boards(())[OVERVIEW].drawings), None),
    )
