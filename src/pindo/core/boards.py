"""What is shown of a build beside its findings: the profile in both views, and the board of each
question that is looked at. Knows no question by name.
"""

from collections.abc import Collection, Mapping

from pindo.core.assessment import Assessment, board, worst_first
from pindo.core.drawing.board import Board
from pindo.core.drawing.profile import Flag, profile
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.question import QUESTIONS
from pindo.core.judging.verdict import Verdict

MOST_FLAGS = 4


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
