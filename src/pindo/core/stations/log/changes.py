"""Modifications: cuts, bends and welds, planned, made and inspected."""

from collections.abc import Iterator

from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.gates import MOTION, OpenItem
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question
from pindo.core.judging.verdict import Finding, Verdict


def opens(inputs: Inputs) -> Iterator[OpenItem]:
    """Structural work that nobody has inspected."""
    for m in inputs.build.modifications:
        if m.structural and m.state == "made":
            text = f"{m.name or f'modification {m.n}'}: structural, not inspected"
            yield OpenItem(kind="modification", text=text, gate=MOTION, row=f"modifications.{m.n}")


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Structural cuts and welds that nobody has inspected; cuts made without their size."""
    for m in inputs.build.modifications:
        name = m.name or f"modification {m.n}"
        if m.structural and m.state == "made":
            yield notice(
                f"log.modification.{m.n}",
                "log.changes",
                f"{name}, inspection",
                Verdict.UNMEASURED,
                f"{name} is structural and not inspected",
                caution=(
                    "Frame, mounts, brakes and steering: inspection and approval by the rules of"
                    " the place."
                ),
                why="The same steel welded back is not the old section.",
            )
        if m.state != "planned" and not m.as_built:
            yield notice(
                f"log.as_built.{m.n}",
                "log.changes",
                f"{name}, as built",
                Verdict.UNMEASURED,
                f"{name}: the size as built is not written",
                why="The final layout that nobody wrote down cannot be repeated.",
            )


QUESTION = Question(
    path="changes",
    station=Station.LOG,
    name="Modifications",
    asks="Is every structural cut inspected, and every size as built written down?",
    lists=("modifications",),
    notices=notices,
    opens=opens,
)
