"""Where to begin: what goes into what, which way in, who works, and until when; what is to be
brought to the bench first.
"""

from collections.abc import Iterator

from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.versions import steps_ruled_out
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.survey.kits import days_left

KEY = "survey.start"


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What the answers leave open: a bought plate without its list, steps that want hands which are
    not there.
    """
    said = inputs.options.get
    bought = said("plate_from", "") in ("bought", "part of a kit")
    if bought and not any(kit.pieces for kit in inputs.build.kits):
        yield notice(
            "survey.start.kit",
            KEY,
            "Plate that is bought, its list",
            Verdict.UNMEASURED,
            "The plate is bought: what should be in its box is not listed, so nothing that is"
            " missing is seen",
            why="Returns lapse: list it, count it and measure it on the day that it comes.",
            inputs=("plate_from",),
        )
    if said("hands", "") == "alone":
        out = steps_ruled_out(inputs.build)
        open_ = (s for s in inputs.build.steps if s.state == "open" and s.n not in out)
        wants = [s for s in open_ if s.helpers]
        if wants:
            first = wants[0]
            yield notice(
                "survey.start.hands",
                KEY,
                "Steps for more hands",
                Verdict.TIGHT,
                f"{len(wants)} open steps want helpers, the first of them “{first.name}”"
                f" {first.helpers}; you work alone",
                why="Nobody holds a unit and reads a gap at once: ask before the day.",
                inputs=("hands",),
                row=f"steps.{first.n}",
            )


def concludes(inputs: Inputs, seen: Seen) -> Iterator[Finding]:
    """The hoist day: how long it is, and what stands against it."""
    day = inputs.build.hoist_on
    left = days_left(day, seen.today)
    if left is None:
        return
    lifted = any(s.gate == "lift" and s.state == "done" for s in inputs.build.steps)
    against = sum(
        f.verdict in (Verdict.FOULS, Verdict.UNMEASURED) and not f.waived_by for f in seen.findings
    )
    if lifted or not against:
        return
    ahead = "that is today" if left == 0 else f"{left} days from now"
    told = f"that was {-left} days ago" if left < 0 else ahead
    verdict = Verdict.TIGHT if left <= inputs.rules["hoist_soon_days"] else Verdict.UNMEASURED
    yield notice(
        "survey.start.hoist",
        KEY,
        "Hoist day",
        Verdict.FOULS if left < 0 else verdict,
        f"The hoist is for {day}, {told}; {against} findings foul or are unmeasured",
        why="What is found on the day of the hoist costs the hoist.",
    )


QUESTION = Question(
    path="start",
    station=Station.SURVEY,
    name="Start",
    asks="What goes into what, and what is brought to the bench first?",
    options=("coupling", "plate_from", "way_in", "hands"),
    notices=notices,
    concludes=concludes,
)
