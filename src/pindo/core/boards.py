"""What is shown of a build beside its findings: the profile in both views, and the board of each
question that is looked at. Knows no question by name.
"""

import logging
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

from pindo.core.assessment import Assessment, worst_first
from pindo.core.drawing.board import Begin, Board
from pindo.core.drawing.profile import Flag, profile
from pindo.core.inputs.dimensions import letter_at
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.gates import OpenItem
from pindo.core.judging.question import QUESTIONS, Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.judging.ways import measure_next

trace_log = logging.getLogger(__name__)
MOST_FLAGS = 4
BEGUN_WITH = 3
"""Readings that an empty question is begun with."""


def overview(inputs: Inputs, assessment: Assessment) -> Board:
    """The profile from the side and from above, its worst findings flagged."""
    opened = [
        f
        for f in worst_first(assessment.findings)
        if f.verdict in (Verdict.FOULS, Verdict.TIGHT)
        and (f.at is not None or QUESTIONS[f.question].where)
    ]
    # One flag a station, worst first: four findings of one place would cover each other.
    worst = list({f.station: f for f in reversed(opened)}.values())[:MOST_FLAGS]
    flags = tuple(Flag(finding=f.id, at=f.at, where=QUESTIONS[f.question].where) for f in worst)

    def make() -> Board:
        return Board(drawings=tuple(profile(inputs, flags, view) for view in ("side", "plan")))

    return inputs.once("overview", make, (flags,))


def _empty(question: Question, inputs: Inputs) -> bool:
    """Whether a question has sizes and none of them is known."""
    return bool(question.ledger) and all(inputs.value(key) is None for key in question.ledger)


def _begin(question: Question, inputs: Inputs, findings: Sequence[Finding]) -> tuple[Begin, ...]:
    """The readings that settle most of a question, why, and how they are taken; by its letters."""
    return tuple(
        Begin(
            address=s.address,
            name=s.name,
            letter=letter_at(question.key, s.address) or s.letter,
            tool=s.tool,
            how=s.how,
            reason=s.reason,
        )
        for s in measure_next(findings, inputs, BEGUN_WITH)
    )


def board(
    question: Question,
    inputs: Inputs,
    findings: Sequence[Finding],
    opens: Sequence[OpenItem] = (),
    today: str = "",
) -> Board:
    """What a question shows: kept until something that it shows reads otherwise."""
    own = [f for f in findings if f.question == question.key]
    if not question.sees_all:
        findings = own
    seen = Seen(findings=findings, opens=opens, today=today)
    also = (tuple(findings), tuple(opens), today) if question.sees_all else (tuple(findings),)

    def make() -> Board:
        drawn = question.board(inputs, seen)
        return (
            replace(drawn, begin=_begin(question, inputs, own))
            if _empty(question, inputs)
            else drawn
        )

    try:
        return inputs.once(("board", question.key), make, also)
    except Exception:
        trace_log.exception("board %s failed", question.key)
        return Board(failed=True)


def boards(
    inputs: Inputs,
    assessment: Assessment,
    today: str = "",
    questions: Collection[str] | None = None,
) -> Mapping[str, Board]:
    """Boards by question: those that are named, or all that are asked of the build."""
    return {
        key: board(question, inputs, assessment.findings, assessment.opens, today)
        for key, question in QUESTIONS.items()
        if (questions is None or key in questions) and key in assessment.asked
    }
