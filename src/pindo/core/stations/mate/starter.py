"""The starter's opening: does the starter pass the plate?"""

from collections.abc import Iterator
from functools import partial

from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.common import (
    FACE_STATES,
    clutched,
)
from pindo.core.stations.mate.face_view import face_board

check = partial(Check, station=Station.MATE, question="mate.starter", accepts=FACE_STATES)


def checks(inputs: Inputs) -> Iterator[Check]:
    """The opening for the starter against the starter's own body."""
    if inputs.value("pocket_mm"):
        yield check(
            id="mate.pocket_body",
            title="Starter through its pocket",
            value=formulas.pocket_room,
            at_least="starter_window_gap_mm",
            says="Starter has {value} of room all round in its pocket; needs {limit}",
            fouls="Starter is {over} too large for its pocket all round",
            why=(
                "The body and its bolts have to pass, not the pinion alone; the window is cut once."
            ),
        )


QUESTION = Question(
    path="starter",
    station=Station.MATE,
    name="Starter opening",
    asks="Does the starter pass the plate?",
    dimensions={
        "A": "pocket_u_mm",
        "B": "pocket_v_mm",
        "C": "pocket_mm",
        "D": "starter_body_mm",
    },
    when=clutched,
    checks=checks,
    board=face_board("mate.starter"),
    where="block face",
)
