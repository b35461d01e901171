"""What the routes share: documents in and out of the store, assessed."""

import logging
import uuid
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from threading import Lock
from typing import Any, cast, get_args

import jsonpatch
import jsonpointer
from pydantic import TypeAdapter, ValidationError

from pindo.core.assemble.steps import step_states
from pindo.core.assemble.templates import TEMPLATES, template_steps
from pindo.core.assess import Assessment, Opened, assess_inputs, opened, worst_first
from pindo.core.boards import Boards, boards_at, boards_of
from pindo.core.build import Build
from pindo.core.dimensions import DIMENSIONS, LEDGERS, OPTIONS, Station
from pindo.core.entries import Act, CannotEnter, EntryError, MovedOn, operations
from pindo.core.events import EVENTS
from pindo.core.evidence import LADDER, STATE_FIELDS, TOOLS_OF_KIND, Tool
from pindo.core.lapse import Lapsing
from pindo.core.problems import Problem, document_trouble, problems
from pindo.core.questions import QUESTIONS
from pindo.core.resolve import Inputs, resolve
from pindo.core.ripple import ripple
from pindo.core.rows import COLUMNS, LISTS, FitKind, MeasuredRow, PairClass, Step
from pindo.core.rules import RULES
from pindo.core.transition import completing, lapsing_with, refusals, taken_since
from pindo.core.units import KINDS
from pindo.core.upgrade import upgraded
from pindo.core.verdict import Verdict
from pindo.store.builds import Change, Editing, Stored
from pindo.store.merge import meet, places
from pindo.store.undo import Stacks
from pindo.web import models
from pindo.web.problems import Refused, change_line, invalid_document
from pindo.web.words import change_places, change_words

log = logging.getLogger(__name__)
MOST_OPERATIONS = 2000
MOST_COPIED = 20_000
MOST_WORK = 100_000
MOST_DOCUMENT = 2 * 1024 * 1024

SAID, AT_VERSION = TypeAdapter(models.Said), TypeAdapter(models.AtVersion)
TRIAL = TypeAdapter(models.TrialState)


def read_build(document: Any) -> Build:
    """A document as a build without entries that cannot be read. Raises Refused with every problem."""
    try:
        build = Build.model_validate(upgraded(document))
    except ValidationError as error:
        raise invalid_document(error) from error
    if found := problems(build):
        raise Refused(422, "entries", "Some entries cannot be read", "Nothing was stored; what you typed is still in its field.", found)
    return build


def _nodes(value: Any, most: int) -> int:
    """How many values a JSON value holds; counting stops beyond ``most``."""
    count, waiting = 0, [value]
    while waiting and count <= most:
        here = waiting.pop()
        count += 1
        if isinstance(here, dict):
            waiting.extend(here.values())
        elif isinstance(here, list):
            waiting.extend(here)
    return count


def _copied(document: dict[str, Any], operations: list[dict[str, Any]]) -> dict[str, Any]:
    """The document after operations; what they copy is bounded, since copies of copies double it each time."""
    left = MOST_COPIED
    for op in operations:
        if op.get("op") == "copy":
            left -= _nodes(jsonpointer.resolve_pointer(document, op.get("from", "")), left)
            if left < 0:
                raise Refused(422, "patch", "The change is too large", "It copies more than a build can hold. Nothing was stored.")
        document = jsonpatch.apply_patch(document, [op], in_place=True)
    return document


def patched(document: dict[str, Any], operations: list[dict[str, Any]]) -> dict[str, Any]:
    """A document after a JSON Patch; the one that was given is used up. Raises Refused."""
    try:
        if any(op.get("op") == "copy" for op in operations):
            return _copied(document, operations)
        return jsonpatch.apply_patch(document, operations, in_place=True)  # type: ignore[no-any-return]
    except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, KeyError, TypeError, IndexError, ValueError, AttributeError, RecursionError) as error:
        words = str(error)
        raise Refused(422, "patch", "The change does not fit this build", "Nothing was stored.", [Problem(pointer="", detail=words[:300])]) from error


def _rows(build: Build) -> int:
    """How much there is to be read again after each act."""
    faces = (build.engine_face, build.gearbox_face)
    return len(build.dims) + sum(len(f.holes) + len(f.lands) for f in faces) + sum(len(getattr(build, name)) for name in LISTS)


def after_acts(id: str, document: dict[str, Any], acts: list[Act], at: str) -> tuple[Build, Build]:
    """The build before and after some acts, one after the other, each against what the one before it made.

    Raises
    ------
    Refused
        One of them does not fit; none is kept.
    """
    before = now = _stood(id, document) or read_build(document)
    if len(acts) * _rows(now) > MOST_WORK:
        raise Refused(422, "too-large", "Too much at once", f"{len(acts)} changes at once are too many for a build of this size. Nothing was stored: send them in parts.")
    for act in acts:
        try:
            ops = operations(now, act, at)
        except MovedOn as error:
            raise Refused(409, "moved-on", "Someone else was quicker", str(error)) from error
        except (CannotEnter, EntryError) as error:
            raise Refused(422, "entry", "This cannot be entered", str(error)) from error
        now = read_build(patched(dumped(now), ops))
    return before, now


def completed(stored: Stored, before: Build, after: Build, at: str, today: str) -> Build:
    """A change with what goes with it by the rules of the trade. Raises Refused where one of them forbids it."""
    if before.steps != after.steps or before.joints != after.joints or before.provisional != after.provisional:
        now = answered(stored.id, stored.document, today)
        if found := refusals(before, after, step_states(now.inputs, now.assessment.findings, today)):
            raise Refused(422, "rule", "Something is wanting first", "Nothing was stored; what you typed is kept.", found)
    more = completing(before, after, at)
    return read_build(patched(dumped(after), more)) if more else after


def changed(editing: Editing, acts: list[Act], at: str, today: str, lapse: bool) -> dict[str, Any]:
    """The document after acts, as it is stored; acts for an earlier version are laid on what stands now.

    Raises
    ------
    Refused
        An act does not fit; or, without ``lapse``, readings would lapse, which are named.
    Stale
        The same was changed since that version.
    """
    stored = editing.current
    before, after = after_acts(stored.id, editing.base, acts, at)
    if editing.base is not stored.document:
        now = read_build(dict(stored.document))
        before, after = now, read_build(editing.lay(dumped(before), dumped(after), dumped(now)))
    _held_against(editing, dumped(before), dumped(after))
    if not lapse and (gone := lapsing_with(before, after)):
        raise Refused(
            409, "lapses", "Readings would lapse", f"Keeping this lapses {_named(gone)}. Nothing was stored yet.", lapsing=[{"address": x.address, "name": x.name, "shown": x.shown} for x in gone]
        )
    return accepted(stored.id, completed(stored, before, after, at, today), today)


def _held_against(editing: Editing, before: dict[str, Any], after: dict[str, Any]) -> None:
    """Refuses a change of what another hand changed since it was on the screen, with both."""
    if not editing.others:
        return
    mine = places(before, after)
    for change, theirs in editing.others:
        if meet(mine, theirs):
            words = "; ".join(change_words(change)[:3])
            who = change.who or "Someone at another screen"
            raise Refused(
                409, "moved-on", "Someone else was quicker", f"{who} changed the same since you looked: {words}. Yours is kept here and not stored: enter it again to put it in place of theirs."
            )


def _named(gone: list[Lapsing]) -> str:
    words = [f"{x.name} ({x.shown})" if x.shown else x.name for x in gone]
    return ", ".join(words[:4]) + (f" and {len(words) - 4} more" if len(words) > 4 else "")


def dumped(build: Build) -> dict[str, Any]:
    """A build as it is stored: every field present, so that a patch always finds its place."""
    return build.model_dump(mode="json")


@dataclass(frozen=True)
class Answered:
    """A document with all that is said of it on one day."""

    document: dict[str, Any]
    today: str
    inputs: Inputs
    assessment: Assessment
    pictures: Boards

    @cached_property
    def json(self) -> bytes:
        """As it goes over the wire: written once, however many screens ask for it."""
        return SAID.dump_json(models.Said.model_construct(document=self.inputs.build, assessment=self.assessment, boards=self.pictures))


_MOST_LAST = 64
_LAST: OrderedDict[str, Answered] = OrderedDict()
_LAST_LOCK = Lock()


def _stood(id: str, document: dict[str, Any]) -> Build | None:
    """The build of a document that was answered last, read and found without fault then."""
    with _LAST_LOCK:
        kept = _LAST.get(id)
    return kept.inputs.build if kept is not None and kept.document == document else None


def answered(id: str, document: dict[str, Any], today: str, build: Build | None = None) -> Answered:
    """A document's findings without ways out and its pictures, kept for the builds that were asked for last; ``build`` where it was read already."""
    with _LAST_LOCK:
        kept = _LAST.get(id)
        if kept is not None:
            _LAST.move_to_end(id)
    if kept is None or kept.today != today or kept.document != document:
        inputs = resolve(build or Build.model_validate(upgraded(document)))
        assessment = assess_inputs(inputs, (), today)
        kept = Answered(document, today, inputs, assessment, boards_of(inputs, assessment, today))
        with _LAST_LOCK:
            _LAST[id] = kept
            while len(_LAST) > _MOST_LAST:
                _LAST.popitem(last=False)
    return kept


def accepted(id: str, build: Build, today: str) -> dict[str, Any]:
    """A build as it is stored, once it was answered: no document is taken that could not be opened again.

    Raises
    ------
    Refused
        It is larger than a build may be; or Pindo itself failed at it: the number in the answer stands in the log beside the trace.
    """
    document = dumped(build)
    if (size := len(build.model_dump_json())) > MOST_DOCUMENT:
        raise Refused(422, "too-large", "The build is too large", f"It would hold {size / 2**20:.1f} MB; a build holds at most {MOST_DOCUMENT // 2**20} MB beside its pictures. Nothing was stored.")
    try:
        answered(id, document, today, build)
    except Exception as error:
        number = uuid.uuid4().hex[:8]
        log.exception("fault %s: a document that cannot be answered", number)
        raise Refused(422, "fault", "Pindo cannot answer for this", f"Pindo failed at the build as it would be. Nothing was stored; the log has the trace under {number}.") from error
    return document


def stepped_to(stored: Stored, document: dict[str, Any], restored: dict[str, Any], today: str) -> dict[str, Any]:
    """An earlier document, or one that is made of several hands' changes, looked at before it stands again.

    Raises
    ------
    Refused
        It would be no build, or readings that were taken since would stand beside a size that they were not taken with.
    """
    title = "This cannot be undone by itself"
    try:
        build = Build.model_validate(upgraded(dict(document)))
    except ValidationError as error:
        raise Refused(409, "step", title, "What is left would be no build: later changes rest on it. Nothing was changed; undo those first.") from error
    if document != restored and not document_trouble(stored.document):
        before, alone = (Build.model_validate(upgraded(dict(d))) for d in (stored.document, restored))
        if since := taken_since(before, build, alone):
            raise Refused(409, "step", title, f"Since then was taken: {_named(since)}, with the size that this would change. Nothing was changed; undo those first, or enter the size again.")
    accepted(stored.id, build, today)
    return document


MOST_WAYS, MOST_PAIRS = 12, 2500


def with_ways(now: Answered, station: Station, today: str) -> tuple[Assessment, str]:
    """The findings with the ways out of a station's worst ones, as its sheet has them, and what it says of the others'.

    Without any where space holds so many pairs that they take minutes.
    """
    own = [f for f in now.assessment.findings if f.station == station and f.verdict in (Verdict.FOULS, Verdict.TIGHT)]
    if now.pictures.pair_count > MOST_PAIRS:
        return now.assessment, "Ways out were not looked for: open a finding on the screen." if own else ""
    more = f"Ways out were looked for the {MOST_WAYS} worst: open the others on the screen." if len(own) > MOST_WAYS else ""
    return assess_inputs(now.inputs, [f.id for f in worst_first(own)[:MOST_WAYS]], today), more


def state(stored: Stored, stacks: Stacks, today: str, stepped: Change | None = None, between: Sequence[Change] = ()) -> bytes:
    """The answer for a stored build, as JSON; ``stepped`` is the change that was just undone or redone, ``between`` those of others that one was laid on."""
    now = answered(stored.id, stored.document, today)
    head = models.AtVersion.model_construct(
        id=stored.id,
        version=stored.version,
        tag=stored.at.tag,
        updated_at=stored.updated_at,
        can_undo=bool(stacks.done),
        can_redo=bool(stacks.undone),
        stepped=None if stepped is None else models.Stepped(kind=stepped.kind, words=change_words(stepped), places=change_places(stepped, now.inputs.build)),
        between=[models.ChangeLine(**change_line(c)) for c in between],
    )
    # Two objects of JSON as one: what is of this version, and what is said of the document.
    return AT_VERSION.dump_json(head)[:-1] + b"," + now.json[1:]


def trial(stored: Stored, acts: list[Act], station: Station, at: str, today: str) -> bytes:
    """The answer for a change that is not stored, as JSON: pictures of the station that is looked at, figures that changed."""
    now = answered(stored.id, stored.document, today)
    before, was = now.inputs, now.assessment
    was_build, after = after_acts(stored.id, stored.document, acts, at)
    tried = inputs = resolve(after)
    if lapses := completing(was_build, after, at):
        # As keeping it would leave the build: what lapses with it no longer counts.
        inputs = resolve(read_build(patched(dumped(after), lapses)))
    assessment = assess_inputs(inputs, (), today)
    touched = ripple(before, tried, was, assessment)
    stood = {f.id: f for f in was.findings}
    whole = models.TrialState.model_construct(
        findings=[f for f in assessment.findings if f is not stood.get(f.id) and f != stood.get(f.id)],
        order=[f.id for f in assessment.findings],
        quantities={k: q for k, q in inputs.quantities.items() if before.quantities.get(k) is not q},
        next=assessment.next,
        tallies=assessment.tallies,
        boards=cast(models.BoardsInPart, boards_at(inputs, assessment, station, today)),
        ripple=touched,
    )
    return TRIAL.dump_json(whole)


def opened_finding(stored: Stored, acts: list[Act], finding: str, at: str) -> Opened:
    """What is worked out when a finding is opened, of the build as stored or as a trial's acts leave it."""
    return opened(resolve(after_acts(stored.id, stored.document, acts, at)[1]), finding)


@cache
def catalogue() -> models.Catalogue:
    """The catalogue, made once."""
    return models.Catalogue(
        dimensions=[
            models.DimensionRow(
                key=d.key,
                name=d.name,
                station=d.station,
                part=d.part,
                kind=d.kind,
                unit=KINDS[d.kind].unit,
                imperial=KINDS[d.kind].imperial,
                how=d.how,
                tool=d.tool.value if d.tool else "",
                adjustable=d.adjustable is not None,
                low=d.adjustable.low if d.adjustable else None,
                high=d.adjustable.high if d.adjustable else None,
                step=d.adjustable.step if d.adjustable else None,
                event=d.event,
                sourced=d.sourced,
                decided=d.decided,
                zero=list(d.zero),
                when_option=d.when[0] if d.when else "",
                when_values=list(d.when[1]) if d.when else [],
            )
            for d in DIMENSIONS.values()
        ],
        ledgers={station: [models.LedgerRow(letter=letter, key=key) for key, letter in rows.items()] for station, rows in LEDGERS.items()},
        options=[
            models.OptionRow(
                key=o.key, name=o.name, station=o.station, choices=list(o.choices), default=o.default, when_option=o.when[0] if o.when else "", when_values=list(o.when[1]) if o.when else []
            )
            for o in OPTIONS.values()
        ],
        rules=[models.RuleRow(id=r.id, name=r.name, value=r.value, unit=r.unit, source=r.source, reason=r.reason) for r in RULES.values()],
        sources=[s.value for s in LADDER],
        tools=[t.value for t in Tool],
        tools_of_kind={kind: [t.value for t in tools] for kind, tools in TOOLS_OF_KIND.items()},
        questions=[models.QuestionRow(key=key, station=q.station, name=q.name) for key, q in QUESTIONS.items()],
        events=[models.EventRow(name=e.name, asks=e.asks) for e in EVENTS.values()],
        state_fields=[models.StateFieldRow(field=field, name=name, choices=list(choices)) for field, (name, choices) in STATE_FIELDS.items()],
        parts=sorted({d.part for d in DIMENSIONS.values()}),
        lists=[
            models.ListRow(
                key=x.key,
                title=x.title,
                one=x.one,
                station=x.station,
                measured=issubclass(x.model, MeasuredRow),
                record=x.record,
                columns=[models.ColumnRow(field=c.field, label=c.label, kind=c.kind, choices=list(c.choices), needed=c.needed) for c in COLUMNS[x.key]],
            )
            for x in LISTS.values()
        ],
        gap_kinds=list(get_args(FitKind)),
        gap_classes=list(get_args(PairClass)),
        templates={kind: [Step.model_validate(row) for row in template_steps(kind)] for kind in TEMPLATES},
    )
