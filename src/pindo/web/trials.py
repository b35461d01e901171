"""Changes that are only tried: all that they touch, or at once what the question says that is
looked at.
"""

from typing import Any

from pydantic import TypeAdapter

from pindo.core.acts import Act
from pindo.core.assessment import findings_of, opened
from pindo.core.boards import board
from pindo.core.enter import completed
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.question import QUESTIONS
from pindo.core.judging.verdict import Finding
from pindo.core.ripple import ripple
from pindo.store.stored import Stored
from pindo.web import models
from pindo.web.answers import answer_to, answered
from pindo.web.differing import altered, differing, same
from pindo.web.problems import Refused
from pindo.web.service import LINES, entered

TRIAL = TypeAdapter(models.TrialState[Finding])
NEAR = TypeAdapter(models.NearState[Finding])


def near(stored: Stored, acts: list[Act], question: str, today: str) -> bytes:
    """The answer of one question for a change that is not stored, as JSON: its findings, its board
    and the quantities that changed. While something is dragged it is asked many times a second; of
    all other questions it says nothing.
    """
    asked = QUESTIONS.get(question)
    if asked is None:
        words = f"There is no question {question}. Nothing was worked out."
        raise Refused(404, "no-question", "No such question", words)
    was = answered(stored.id, stored.document, today, stored.at.tag)
    at = stored.updated_at
    change = completed(entered(was.written, acts, at), at)
    inputs = resolve(change.after.build, was.inputs.memory, was.inputs)
    found = findings_of(asked, inputs, today)
    stood = {f.id: f for f in was.assessment.findings if f.question == question}
    before, after = was.assessment.quantities, inputs.standing()
    others = [f for f in was.assessment.findings if f.question != question]
    # A board that shows what other questions find waits for the whole answer.
    drawn = (
        {}
        if asked.sees_all
        else {question: board(asked, inputs, [*others, *found], was.assessment.opens, today)}
    )
    said: dict[str, Any] = {
        "findings": [f for f in found if f.id not in stood],
        "altered": {
            f.id: fields for f in found if f.id in stood and (fields := altered(stood[f.id], f))
        },
        "without": [] if asked.concluding else sorted(stood.keys() - {f.id for f in found}),
        "quantities": {k: q for k, q in after.items() if not same(q, before.get(k))},
        "boards": drawn,
    }
    return NEAR.dump_json(
        models.NearState[Finding].model_construct(**said), exclude={"findings": LINES}
    )


def trial(stored: Stored, acts: list[Act], question: str, today: str) -> bytes:
    """The answer for a change that is not stored, as JSON: the board that is looked at, figures
    that changed.
    """
    was = answered(stored.id, stored.document, today, stored.at.tag)
    # It never happens: one time for all of them, so that what lapses is the same each time.
    at = stored.updated_at
    change = entered(was.written, acts, at)
    tried = resolve(change.after.build, was.inputs.memory, was.inputs)
    # As keeping it would leave the build: what lapses with it no longer counts.
    kept = completed(change, at)
    now = was if kept.after is was.written else answer_to(kept.after, today, was)
    return TRIAL.dump_json(
        models.TrialState[Finding].model_construct(
            **differing(was, now, question),
            ripple=ripple(was.inputs, tried, was.assessment, now.assessment),
        ),
        exclude={"findings": LINES},
    )


def opened_finding(stored: Stored, acts: list[Act], finding: str, today: str) -> models.Detail:
    """What is worked out when a finding is opened, of the build as stored or as a trial's acts
    leave it.
    """
    now = answered(stored.id, stored.document, today, stored.at.tag)
    if acts:
        at = stored.updated_at
        change = completed(entered(now.written, acts, at), at)
        now = answer_to(change.after, today, now)
    found = next((f for f in now.assessment.findings if f.id == finding), None)
    if found is None:
        raise Refused(404, "no-finding", "No such finding", f"There is no finding {finding} here.")
    more = opened(now.inputs, finding)
    return models.Detail(
        why=found.why,
        caution=found.caution,
        rules=found.rules,
        shares=found.shares,
        missing=found.missing,
        inputs=found.inputs,
        ways=more.ways,
        sampled=more.sampled,
    )
