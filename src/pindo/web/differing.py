"""What reads otherwise in one answer than in another: all that goes over the wire."""

from typing import Any

from pindo.core.judging.verdict import Finding
from pindo.web import models
from pindo.web.answers import Answered


def differing(was: Answered, now: Answered, question: str) -> dict[str, Any]:
    """What reads otherwise in one answer than in another; the board of the question that is looked
    at.
    """
    stood = {f.id: f for f in was.assessment.findings}
    before, after = was.assessment.quantities, now.assessment.quantities
    drawn = was.boards((question,))
    return {
        "findings": [f for f in now.assessment.findings if f.id not in stood],
        "altered": {
            f.id: fields
            for f in now.assessment.findings
            if f.id in stood and f is not stood[f.id] and (fields := altered(stood[f.id], f))
        },
        "order": None
        if list(stood) == [f.id for f in now.assessment.findings]
        else [f.id for f in now.assessment.findings],
        "quantities": {k: q for k, q in after.items() if not same(q, before.get(k))},
        "gone": [k for k in before if k not in after],
        "next": None if same(now.assessment.next, was.assessment.next) else now.assessment.next,
        "tallies": now.assessment.tallies,
        "by_question": {
            k: t
            for k, t in now.assessment.by_question.items()
            if t != was.assessment.by_question.get(k)
        },
        "asked": None if now.assessment.asked is was.assessment.asked else now.assessment.asked,
        "opens": None if now.assessment.opens == was.assessment.opens else now.assessment.opens,
        "boards": {k: b for k, b in now.boards((question,)).items() if not same(b, drawn.get(k))},
    }


LINE = tuple(name for name in models.FindingLine.model_fields if name != "id")


def altered(was: Finding, now: Finding) -> dict[str, Any]:
    """The fields of a finding's line that read otherwise."""
    return {k: v for k in LINE if (v := getattr(now, k)) != getattr(was, k)}


def same(a: Any, b: Any) -> bool:
    """What was kept is the same object; what was made anew may still read the same."""
    return a is b or bool(a == b)
