"""What shuts a step, and what would get each of it out of the way."""

from collections.abc import Mapping
from types import MappingProxyType

from pindo.core.document.build import Build
from pindo.core.document.records import GATES, Step
from pindo.core.drawing.board import Against
from pindo.core.inputs.versions import ruled_out
from pindo.core.judging.gates import blocks
from pindo.core.judging.question import QUESTIONS, Seen
from pindo.core.judging.verdict import Finding, Verdict

MOST_NAMED = 2
MOST_AGAINST = 60


class Obstacles:
    """What may shut a step, looked up by what the step is: made once for all of them."""

    def __init__(self, build: Build, seen: Seen) -> None:
        self.at_gate = {
            gate: [
                Against(todo="close", text=i.text, row=i.row) for i in seen.opens if blocks(i, gate)
            ]
            for gate in GATES
        }
        self.parts: dict[int, list[Against]] = {}
        out = ruled_out(build, "part")
        for p in build.parts:
            if str(p.n) in out:
                continue
            if p.step is not None and p.state in ("absent", "ordered"):
                text = f"{p.name or f'part {p.n}'} is {p.state}"
                here = Against(todo="fit", text=text, row=f"parts.{p.n}")
                self.parts.setdefault(p.step, []).append(here)
        self.findings = [
            f
            for f in seen.findings
            if f.verdict in (Verdict.FOULS, Verdict.UNMEASURED) and not f.waived_by
        ]
        self.known = {f.id for f in seen.findings}

    def of(self, step: Step) -> tuple[Against, ...]:
        """What shuts a step: open items at its gate, parts that are not there, and what it
        watches.
        """
        found = [*self.at_gate.get(step.gate or "", ()), *self.parts.get(step.n, ())]
        # A foul stops any step that rests on it; what is unmeasured stops only a hold point or a
        # gate.
        stopping = (
            (Verdict.FOULS, Verdict.UNMEASURED) if step.hold or step.gate else (Verdict.FOULS,)
        )
        watched = set(step.watches)
        found += [
            _of_finding(f)
            for f in self.findings
            if watched and f.verdict in stopping and (f.question in watched or f.id in watched)
        ]
        # A watch on nothing would never shut: a slip of the pen must not open a gate.
        found += [
            Against(
                todo="put right",
                text=f"it watches {w}, which is neither a question nor a finding here",
                row=f"steps.{step.n}",
            )
            for w in step.watches
            if w not in QUESTIONS and w not in self.known
        ]
        left = len(found) - MOST_AGAINST
        more = (Against(todo="close", text=f"and {left} more"),) if left > 0 else ()
        return (*found[:MOST_AGAINST], *more)


def _of_finding(f: Finding) -> Against:
    said = "fouls" if f.verdict == Verdict.FOULS else f.condition or "unmeasured"
    todo = "cure" if f.verdict == Verdict.FOULS else "measure"
    return Against(todo=todo, text=f"{f.title} {said}", finding=f.id)


TODO: Mapping[str, str] = MappingProxyType(
    {
        "put right": "to put right",
        "cure": "to cure",
        "measure": "to measure",
        "do first": "to do first",
        "fit": "to fit",
        "close": "to close",
    }
)
"""What may be done about an obstacle, the most pressing first, as a sentence says it."""


def grouped(against: tuple[Against, ...]) -> str:
    """Obstacles grouped by what to do, the first of each group by name."""
    groups = []
    for todo, words in TODO.items():
        names = [a.text for a in against if a.todo == todo]
        if names:
            more = f"; {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
            groups.append(f"{len(names)} {words} ({'; '.join(names[:MOST_NAMED])}{more})")
    return ", ".join(groups)
