"""Trial fits: does what was read agree with what was predicted?"""

import math
from collections.abc import Iterator

from pindo.core.inputs.cells import part_address
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question
from pindo.core.judging.verdict import Finding, Verdict


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Each reading of a trial fit against what was predicted for it then, in their common doubt."""
    for fit in inputs.build.fits:
        name = fit.name or f"fit {fit.n}"
        if fit.evidence.lapsed:
            yield _lapsed(
                f"log.fit.{fit.n}",
                f"{name}, readings",
                f"Readings of {name} lapsed: {fit.evidence.lapsed.event}",
            )
            continue
        for gap in fit.gaps:
            id, at = f"log.fit.{fit.n}.{gap.n}", f"{gap.title or gap.finding or gap.kind} at {name}"
            title = f"{gap.title or gap.finding or gap.kind}, {name}"
            if gap.lapsed:
                yield _lapsed(id, title, f"{at}: its reading lapsed: {gap.lapsed.event}")
                continue
            read = inputs.quantities.get(part_address("fits.gaps", fit, gap, "measured"))
            if read is None or read.value is None:
                predicted = "" if gap.predicted is None else "predicted {predicted}, "
                yield notice(
                    id,
                    "log.fits",
                    title,
                    Verdict.UNMEASURED,
                    in_both("{at}: " + predicted + "not read yet", at, predicted=gap.predicted),
                    why="A fit proves only what was read.",
                )
                continue
            if gap.predicted is None:
                continue  # a reading of its own is held to its limit at its station
            together = math.hypot(read.pm, gap.predicted_pm or 0.0)
            off = read.value - gap.predicted
            agrees = abs(off) <= together
            said = "{at}: read {value} ± {pm}, predicted {predicted} ± {predicted_pm}" + (
                "" if agrees else "; apart by {off}, more than both doubts: the reading wins"
            )
            text = in_both(
                said,
                at,
                value=read.value,
                pm=read.pm,
                predicted=gap.predicted,
                predicted_pm=gap.predicted_pm or 0.0,
                off=abs(off),
            )
            yield notice(
                id,
                "log.fits",
                title,
                Verdict.GOES if agrees else Verdict.FOULS,
                text,
                why=(
                    "Where prediction and reading part, a solid or the pose is wrong: correct it"
                    " before the next cut."
                ),
                inputs=(gap.finding,),
            )


def _lapsed(id: str, title: str, text: str) -> Finding:
    return notice(
        id,
        "log.fits",
        title,
        Verdict.UNMEASURED,
        text,
        condition="lapsed",
        why="A gap belongs to the state that it was read in. Read it again.",
    )


QUESTION = Question(
    path="fits",
    station=Station.LOG,
    name="Trial fits",
    asks="Does what was read at the trial fits agree with what was predicted?",
    lists=("fits",),
    notices=notices,
)
