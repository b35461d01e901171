"""What the routes share: documents in and out of the store, assessed."""

from functools import cache
from typing import Any, cast

import jsonpatch
import jsonpointer
from pydantic import TypeAdapter, ValidationError

from pindo.core.assemble.templates import TEMPLATES, template_steps
from pindo.core.assess import Assessment, assess_inputs
from pindo.core.boards import Boards, boards_at, boards_of
from pindo.core.build import Build
from pindo.core.dimensions import DIMENSIONS, LEDGERS, OPTIONS, Station
from pindo.core.evidence import LADDER, STATE_FIELDS, Tool
from pindo.core.lapse import EVENTS, event_patch
from pindo.core.problems import Problem, problems
from pindo.core.resolve import Inputs, resolve
from pindo.core.ripple import ripple
from pindo.core.rows import COLUMNS, LISTS, MeasuredRow, Step
from pindo.core.rules import RULES
from pindo.core.units import KINDS
from pindo.store.builds import Change, Stored
from pindo.web import models
from pindo.web.problems import Refused, invalid_document

MOST_OPERATIONS = 2000

STATE = TypeAdapter(models.BuildState)
TRIAL = TypeAdapter(models.TrialState)


def read_build(document: Any) -> Build:
    """A document as a build without entries that cannot be read. Raises Refused with every problem."""
    try:
        build = Build.model_validate(document)
    except ValidationError as error:
        raise invalid_document(error) from error
    if found := problems(build):
        raise Refused(422, "entries", "Some entries cannot be read", "Nothing was stored; what you typed is still in its field.", found)
    return build


def patched(document: dict[str, Any], operations: list[models.PatchOperation]) -> dict[str, Any]:
    """A document after a JSON Patch; the one that was given is used up. Raises Refused."""
    if len(operations) > MOST_OPERATIONS:
        raise Refused(422, "patch", "The change is too large", f"One change may hold {MOST_OPERATIONS} operations.")
    try:
        return jsonpatch.apply_patch(document, [o.plain() for o in operations], in_place=True)  # type: ignore[no-any-return]
    except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, KeyError, TypeError, IndexError) as error:
        raise Refused(422, "patch", "The change does not fit this build", "Nothing was stored.", [Problem(pointer="", detail=str(error))]) from error


def dumped(build: Build) -> dict[str, Any]:
    """A build as it is stored: every field present, so that a patch always finds its place."""
    return build.model_dump(mode="json")


_LAST: dict[str, tuple[int, str, Inputs, Assessment, Boards]] = {}
_MOST_LAST = 16


def _assessed(stored: Stored) -> tuple[Inputs, Assessment, Boards]:
    """A stored version, its findings without ways out and its pictures, kept while trials against it go on."""
    kept = _LAST.get(stored.id)
    if kept is None or kept[:2] != (stored.version, stored.updated_at):
        inputs = resolve(Build.model_validate(stored.document))
        assessment = assess_inputs(inputs, ())
        kept = (stored.version, stored.updated_at, inputs, assessment, boards_of(inputs, assessment))
        if len(_LAST) >= _MOST_LAST:
            _LAST.clear()
        _LAST[stored.id] = kept
    return kept[2], kept[3], kept[4]


def state(stored: Stored, done: list[int], undone: list[int]) -> bytes:
    """The answer for a stored build, as JSON."""
    inputs, assessment, pictures = _assessed(stored)
    whole = models.BuildState.model_construct(
        id=stored.id,
        version=stored.version,
        updated_at=stored.updated_at,
        document=inputs.build,
        assessment=assessment,
        boards=pictures,
        can_undo=bool(done),
        can_redo=bool(undone),
    )
    return STATE.dump_json(whole)


def trial(stored: Stored, patch: list[models.PatchOperation], station: Station) -> bytes:
    """The answer for a change that is not stored, as JSON: pictures of the station that is looked at, figures that changed."""
    before, was, _ = _assessed(stored)
    after = read_build(patched(stored.document, patch))
    inputs = resolve(after)
    assessment = assess_inputs(inputs, ())
    touched = ripple(before, inputs, was, assessment)
    said_anew = {key for key, d in after.dims.items() if before.build.dims.get(key) != d}
    operations = [models.PatchOperation(**op) for event in touched.events for op in event_patch(after, event, spared=said_anew)]
    stood = {f.id: f for f in was.findings}
    whole = models.TrialState.model_construct(
        findings=[f for f in assessment.findings if f is not stood.get(f.id) and f != stood.get(f.id)],
        order=[f.id for f in assessment.findings],
        quantities={k: q for k, q in inputs.quantities.items() if before.quantities.get(k) is not q},
        next=assessment.next,
        tallies=assessment.tallies,
        boards=cast(models.BoardsInPart, boards_at(inputs, assessment, station)),
        ripple=touched,
        lapse_patch=operations,
    )
    return TRIAL.dump_json(whole)


def _value_words(value: Any) -> str:
    if isinstance(value, dict) and "takes" in value:
        return " / ".join(t["typed"] for t in value["takes"]) + f" ({value['source']})"
    if isinstance(value, dict) and "statements" in value:
        return ", ".join(_value_words(s) for s in value["statements"]) or "nothing"
    if isinstance(value, dict) and "n" in value:
        return f"{value['n']} {value.get('name', '')}".strip()
    text = str(value) if not isinstance(value, dict | list) else "…"
    return text if len(text) <= 60 else text[:57] + "…"


def _place_words(path: str) -> str:
    parts = path.strip("/").split("/")
    if parts[0] == "dims" and len(parts) > 1 and parts[1] in DIMENSIONS:
        return DIMENSIONS[parts[1]].name + {"pm": " ±", "tool": ", tool", "source": ", source", "note": ", note"}.get(parts[-1], "")
    if parts[0] in LISTS:
        row = f"{LISTS[parts[0]].title}, row {int(parts[1]) + 1}" if len(parts) > 1 and parts[1].isdigit() else f"{LISTS[parts[0]].title}, {LISTS[parts[0]].one.lower()}"
        return row + (f", {parts[2].replace('_', ' ')}" if len(parts) > 2 else "")
    if parts[0] in ("engine_face", "gearbox_face") and len(parts) > 3:
        return f"{parts[0].removesuffix('_face').capitalize()} hole row {int(parts[2]) + 1}, {parts[3]}" if parts[2].isdigit() else parts[0]
    if parts[0] == "options" and len(parts) > 1 and parts[1] in OPTIONS:
        return OPTIONS[parts[1]].name
    if parts[0] == "rules" and len(parts) > 1 and parts[1] in RULES:
        return RULES[parts[1]].name
    return " ".join(parts).replace("_", " ")


def change_words(change: Change) -> list[str]:
    """What a change did, line by line: name, from, to."""
    # The inverse of a patch holds the old values, by the same paths.
    old = {op["path"]: op.get("value") for op in change.inverse}
    words = []
    for op in change.patch[:20]:
        place = _place_words(op["path"])
        if op["op"] == "remove":
            words.append(f"{place}: removed {_value_words(old.get(op['path'], ''))}".strip())
        else:
            before = f"{_value_words(old[op['path']])} to " if old.get(op["path"]) is not None else ""
            words.append(f"{place}: {before}{_value_words(op.get('value'))}")
    if len(change.patch) > 20:
        words.append(f"and {len(change.patch) - 20} more")
    return words


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
                when_option=d.when[0] if d.when else "",
                when_values=list(d.when[1]) if d.when else [],
            )
            for d in DIMENSIONS.values()
        ],
        ledgers={station: [models.LedgerRow(letter=letter, key=key) for key, letter in rows.items()] for station, rows in LEDGERS.items()},
        options=[
            models.OptionRow(key=o.key, name=o.name, station=o.station, choices=list(o.choices), when_option=o.when[0] if o.when else "", when_values=list(o.when[1]) if o.when else [])
            for o in OPTIONS.values()
        ],
        rules=[models.RuleRow(id=r.id, name=r.name, value=r.value, unit=r.unit, source=r.source, reason=r.reason) for r in RULES.values()],
        sources=[s.value for s in LADDER],
        tools=[t.value for t in Tool],
        events=[models.EventRow(name=e.name, asks_part=e.asks_part) for e in EVENTS.values()],
        state_fields=[models.StateFieldRow(field=field, name=name, choices=list(choices)) for field, (name, choices) in STATE_FIELDS.items()],
        parts=sorted({d.part for d in DIMENSIONS.values()}),
        lists=[
            models.ListRow(
                key=x.key,
                title=x.title,
                one=x.one,
                station=x.station,
                measured=issubclass(x.model, MeasuredRow),
                columns=[models.ColumnRow(field=c.field, label=c.label, kind=c.kind, choices=list(c.choices), needed=c.needed) for c in COLUMNS[x.key]],
            )
            for x in LISTS.values()
        ],
        templates={kind: [Step.model_validate(row) for row in template_steps(kind)] for kind in TEMPLATES},
    )
