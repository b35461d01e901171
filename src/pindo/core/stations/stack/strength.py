"""Ratings: what carries the engine's torque, by its maker's word."""

from functools import partial

from pindo.core.inputs.dimensions import Station
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import STACK_STATES, STRENGTH

check = partial(Check, station=Station.STACK, question="stack.strength", accepts=STACK_STATES)


def torque_ratio(rating_nm: Numbers, load_nm: Numbers) -> Numbers:
    """Rating over load [-]."""
    return rating_nm / load_nm


CHECKS = (
    check(
        id="stack.clutch_torque",
        title="Clutch against the engine's torque",
        value=torque_ratio,
        at_least="clutch_torque_factor",
        given={"rating_nm": "clutch_torque_nm", "load_nm": "engine_torque_nm"},
        kind="ratio",
        safety=True,
        says="Clutch is rated {value} times the engine's torque; wants {limit}",
        why="Heat, wear and oil mist take their share of a clutch's grip.",
        caution=STRENGTH,
    ),
    check(
        id="stack.gearbox_torque",
        title="Gearbox against the engine's torque",
        value=torque_ratio,
        at_least="gearbox_torque_factor",
        given={"rating_nm": "gearbox_torque_nm", "load_nm": "engine_torque_nm"},
        kind="ratio",
        safety=True,
        says="Gearbox is rated {value} times the engine's torque; wants {limit}",
        why="The weakest link of the torque chain sets what the engine may give.",
        caution=STRENGTH,
    ),
)

QUESTION = Question(
    path="strength",
    station=Station.STACK,
    name="Ratings",
    asks="Does every link carry what the engine gives?",
    dimensions={
        "A": "engine_torque_nm",
        "B": "clutch_torque_nm",
        "C": "gearbox_torque_nm",
    },
    checks=lambda inputs: CHECKS,
    where="block face",
)
