"""Parts: what is there, what is a dummy, what is on its way."""

from collections.abc import Iterator

from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.gates import HAND_OVER, START, OpenItem
from pindo.core.judging.question import Question


def opens(inputs: Inputs) -> Iterator[OpenItem]:
    """Parts that are not the final ones."""
    for p in inputs.build.parts:
        if p.state in ("dummy", "mock-up", "temporary"):
            gate = HAND_OVER if p.state == "temporary" else START
            yield OpenItem(
                kind="part",
                text=f"{p.name or f'part {p.n}'}: {p.state}",
                gate=gate,
                row=f"parts.{p.n}",
            )


QUESTION = Question(
    path="parts",
    station=Station.LOG,
    name="Parts",
    asks="What is there, what is a dummy, what is on its way?",
    lists=("parts",),
    opens=opens,
)
