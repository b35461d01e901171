"""True running: does the gearbox stand on the crank's axis?"""

from functools import partial
from types import MappingProxyType

from pindo.core.geometry.dial import RUNOUT
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.stations.mate.dials import board, notices, oval_checks

# With its bell on, the unit hung lies on its thrust bearing: not then.
STANDING = MappingProxyType({"position": frozenset({"bench", "stand", "resting loaded"})})
check = partial(Check, station=Station.MATE, question="mate.runout", accepts=STANDING)


CHECKS = (
    check(
        id="mate.bore_tir",
        title="Runout of the bell's bore",
        value=plain.given,
        given={"x": "bore_tir_mm"},
        at_most="bore_tir_max_mm",
        says="Bell's bore runs out {value}, full swing; at most {limit}",
        why=(
            "The gearbox's shaft has to be on the crank's axis: half the swing is its offset. It"
            " wears the pilot and drags the clutch."
        ),
    ),
    check(
        id="mate.face_tir",
        title="Runout of the bell's face",
        value=plain.given,
        given={"x": "face_tir_mm"},
        at_most="face_tir_max_mm",
        says="Bell's face runs out {value}, full swing; at most {limit}",
        why="A tilted gearbox bends its shaft once a turn.",
    ),
)

QUESTION = Question(
    path="runout",
    station=Station.MATE,
    name="Runout",
    asks="Does the gearbox stand on the crank's axis?",
    dimensions={
        "A": "bore_tir_mm",
        "B": "face_tir_mm",
        "C": "face_sweep_mm",
    },
    lists=("dials",),
    gives=RUNOUT,
    when=bellhoused,
    checks=lambda inputs: (*CHECKS, *oval_checks(inputs)),
    notices=notices,
    board=board,
    where="block face",
)
