"""What is said twice, or can hardly be: sizes that count for nothing until somebody settles
them.
"""

from collections.abc import Iterator
from dataclasses import replace

from pindo.core.inputs.beside import spoken_twice, unlike
from pindo.core.inputs.dimensions import DIMENSIONS, Station, letter_at
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.ranges import TOGETHER
from pindo.core.inputs.units import write
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, asked_at
from pindo.core.judging.verdict import Finding, Missing, Verdict

_WHY_ASKED = (
    "A slip of the point, the other unit or the neighbour's size reads like this. Type it again, or"
    " say that it is so; until then it counts for nothing."
)

_WHY_TWICE = (
    "Two statements of one thing that cannot both be true: one of them is another part, another"
    " state or a slip. Choose one with its source, or measure again."
)


def contradictions(inputs: Inputs) -> Iterator[Finding]:
    """One finding for each dimension of which two statements cannot both hold."""
    for key, definition in DIMENSIONS.items():
        found = inputs.quantities[key]
        if found.conflict is None:
            continue
        first, second = (
            next(s for s in inputs.build.dims[key].statements if s.id == id)
            for id in found.conflict
        )
        texts = [f"{s.takes[-1].typed} ({s.source.value})" for s in (first, second)]
        meanwhile = (
            f"; meanwhile the safer stands: {write(found.value, found.kind)}"
            if found.value is not None
            else ""
        )
        apart = found.detail.partition(": ")[2]
        text = (
            f"{definition.name} is said twice: {texts[0]} and {texts[1]} cannot both"
            f" hold, {apart}{meanwhile}"
        )
        yield replace(
            notice(
                f"contradiction.{key}",
                "survey.said",
                f"{definition.name}, two statements",
                Verdict.UNMEASURED,
                text,
                condition="contradiction",
                inputs=(key,),
            ),
            station=definition.station,
            kind=definition.kind,
            why=_WHY_TWICE,
            provisional=found.provisional,
            missing=(
                Missing(
                    address=key,
                    name=definition.name,
                    letter=letter_at(asked_at(key, inputs), key),
                    status="contradiction",
                    detail=" / ".join(texts),
                ),
            ),
        )


def _of_rows(inputs: Inputs) -> Iterator[Finding]:
    """One finding for each figure, date or word of a row, a part of a row or a hole of which two
    statements cannot both hold.
    """
    for spoken in spoken_twice(inputs.build):
        if spoken.is_figure:
            q = inputs.quantities.get(spoken.address)
            told = q.detail if q is not None and q.status == Status.CONTRADICTION else ""
        else:
            told = unlike(spoken.texts)
        if not told:
            continue
        missing = Missing(
            address=spoken.address,
            name=spoken.name,
            letter="",
            status="contradiction",
            detail=told,
        )
        found = notice(
            f"contradiction.{spoken.address}",
            "survey.said",
            f"{spoken.name}, two statements",
            Verdict.UNMEASURED,
            f"{spoken.name} is said twice: {told}",
            why=_WHY_TWICE,
            condition="contradiction",
            missing=(missing,),
            inputs=(spoken.address,) if spoken.is_figure else (),
        )
        yield replace(found, station=spoken.station)


def questions(inputs: Inputs) -> Iterator[Finding]:
    """One finding for each size that can hardly be, and for each set of sizes that can hardly
    hold together.
    """
    told: set[str] = set()
    for rule in TOGETHER:
        odd = [inputs.quantities[a] for a in rule.reads]
        if all(q.status == Status.QUESTION and q.detail == rule.asks for q in odd):
            told |= set(rule.reads)
            sizes = "; ".join(f"{q.name.lower()} {write(q.asked or 0.0, q.kind)}" for q in odd)
            missing = tuple(
                Missing(
                    address=q.address,
                    name=q.name,
                    letter=letter_at(asked_at(q.address, inputs), q.address),
                    status="question",
                    detail=rule.asks,
                )
                for q in odd
            )
            found = notice(
                f"question.{rule.key}",
                "survey.said",
                "Sizes that can hardly hold together",
                Verdict.UNMEASURED,
                f"{rule.asks}: {sizes}",
                why=_WHY_ASKED,
                condition="question",
                missing=missing,
                inputs=rule.reads,
            )
            yield replace(
                found, station=DIMENSIONS[rule.reads[0]].station, sure_at=f"/sure/{rule.key}"
            )
    for key, d in DIMENSIONS.items():
        q = inputs.quantities[key]
        if q.status == Status.QUESTION and key not in told and q.asked is not None:
            missing = (
                Missing(
                    address=key,
                    name=d.name,
                    letter=letter_at(asked_at(key, inputs), key),
                    status="question",
                    detail=q.detail,
                ),
            )
            found = notice(
                f"question.{key}",
                "survey.said",
                f"{d.name}: can that be?",
                Verdict.UNMEASURED,
                f"{d.name} reads {write(q.asked, q.kind)}: can that be?"
                f" {q.detail[:1].upper() + q.detail[1:]}",
                why=_WHY_ASKED,
                condition="question",
                missing=missing,
                inputs=(key,),
            )
            yield replace(found, station=d.station, sure_at=f"/dims/{key}/sure")


def set_aside(inputs: Inputs) -> Iterator[Finding]:
    """What an earlier version kept and this one has no place for: it counts for nothing."""
    aside = inputs.build.aside
    if not aside:
        return
    named = "; ".join(f"{a.place} = {a.value[:60]}" for a in aside[:4])
    more = f"; and {len(aside) - 4} more" if len(aside) > 4 else ""
    yield notice(
        "said.aside",
        "survey.said",
        "Kept from an earlier version",
        Verdict.UNMEASURED,
        f"There is no place any more for {named}{more}",
        why=(
            "It stands in the document under aside and counts for nothing: enter it where it"
            " belongs."
        ),
        condition="set aside",
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """All of it; a size's at the station of that size."""
    yield from set_aside(inputs)
    yield from contradictions(inputs)
    yield from _of_rows(inputs)
    yield from questions(inputs)


QUESTION = Question(
    path="said",
    station=Station.SURVEY,
    name="Said twice",
    asks="Which sizes are said twice, or can hardly be so?",
    notices=notices,
    first=True,
)
