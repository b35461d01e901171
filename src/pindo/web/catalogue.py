"""All that does not change while Pindo runs, as it goes over the wire."""

from functools import cache

from pindo.core.document.events import EVENTS
from pindo.core.document.evidence import LADDER, STATE_FIELDS, TOOLS_OF_KIND, Tool
from pindo.core.document.lists import COLUMNS, LISTS, PARTS
from pindo.core.document.records import Step
from pindo.core.document.rows import MeasuredRow
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import KINDS
from pindo.core.judging.question import QUESTIONS
from pindo.core.stations.assemble.templates import OTHERWISE, TEMPLATES, template_steps
from pindo.web import catalogue_models


@cache
def catalogue() -> catalogue_models.Catalogue:
    """The catalogue, made once."""
    return catalogue_models.Catalogue(
        dimensions=[
            catalogue_models.DimensionRow(
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
            )
            for d in DIMENSIONS.values()
        ],
        options=[
            catalogue_models.OptionRow(
                key=o.key,
                name=o.name,
                station=o.station,
                choices=list(o.choices),
                default=o.default,
            )
            for o in OPTIONS.values()
        ],
        rules=[
            catalogue_models.RuleRow(
                id=r.id, name=r.name, value=r.value, unit=r.unit, source=r.source, reason=r.reason
            )
            for r in RULES.values()
        ],
        sources=[s.value for s in LADDER],
        tools=[t.value for t in Tool],
        tools_of_kind={kind: [t.value for t in tools] for kind, tools in TOOLS_OF_KIND.items()},
        questions=[
            catalogue_models.QuestionRow(
                key=q.key,
                station=q.station,
                name=q.name,
                asks=q.asks,
                ledger=[
                    catalogue_models.LedgerRow(letter=letter, key=key)
                    for letter, key in zip(q.dimensions, q.ledger, strict=True)
                ],
                path=q.path,
                options=list(q.options),
                lists=list(q.lists),
                faces=list(q.faces),
                gaps=q.gaps,
                files=list(q.files),
            )
            for q in QUESTIONS.values()
        ],
        events=[catalogue_models.EventRow(name=e.name, asks=e.asks) for e in EVENTS.values()],
        state_fields=[
            catalogue_models.StateFieldRow(field=field, name=name, choices=list(choices))
            for field, (name, choices) in STATE_FIELDS.items()
        ],
        parts=sorted({d.part for d in DIMENSIONS.values()}),
        lists=[
            catalogue_models.ListRow(
                key=x.key,
                title=x.title,
                one=x.one,
                station=x.station,
                measured=issubclass(x.model, MeasuredRow),
                record=x.record,
                origin=x.origin,
                columns=_columns(x.key),
                parts=[
                    catalogue_models.PartListRow(
                        key=p.key,
                        field=p.field,
                        one=p.one,
                        title=p.title,
                        columns=_columns(p.key),
                    )
                    for p in PARTS[x.key]
                ],
            )
            for x in LISTS.values()
        ],
        templates={
            kind: {
                way: {
                    coupling: [
                        Step.model_validate(row) for row in template_steps(kind, way, coupling)
                    ]
                    for coupling in ("", *OTHERWISE)
                }
                for way in ways
            }
            for kind, ways in TEMPLATES.items()
        },
    )


def _columns(key: str) -> list[catalogue_models.ColumnRow]:
    return [
        catalogue_models.ColumnRow(
            field=c.field,
            label=c.label,
            kind=c.kind,
            choices=list(c.choices),
            needed=c.needed,
            mirrors=c.mirrors,
        )
        for c in COLUMNS[key]
    ]
