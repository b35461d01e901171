"""Hole patterns of both faces: is every hole there, with its place and its size?"""

from collections.abc import Iterator
from functools import partial

from pindo.core.geometry.hole_network import HOLES_FROM_READINGS
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question
from pindo.core.judging.verdict import Finding, Missing, Verdict
from pindo.core.stations.mate import holes
from pindo.core.stations.mate.common import (
    FACE_STATES,
)
from pindo.core.stations.mate.placing import (
    SIDES,
    face_of,
)

check = partial(Check, station=Station.MATE, question="mate.pattern", accepts=FACE_STATES)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Holes and lands without place or diameter."""
    for side in SIDES:
        face = face_of(inputs, side)
        things = [f"{side}.{h.n}" for h in face.holes] + [
            f"{side}.land{land.n}" for land in face.lands
        ]
        gone = tuple(
            a
            for thing in things
            for f in ("u", "v", "d")
            if inputs.quantities[a := f"{thing}.{f}"].value is None
        )
        if gone:
            yield check(
                id=f"mate.holes.{side}",
                title=f"{side.capitalize()} holes and lands without place or size",
                value=plain.read_all,
                reads=gone,
                at_least=plain.zero,
                says="",
                why="It is left out of every other check until it has a place and a size.",
            )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Faces without a hole, and what distances between holes say of themselves."""
    yield from holes.notices(inputs)
    for side in SIDES:
        if face_of(inputs, side).holes:
            continue
        what, title = f"{side} holes", f"{side.capitalize()} hole pattern"
        missing = Missing(address=what, name=what, letter="", status="missing", detail="")
        yield notice(
            f"mate.pattern.{side}",
            "mate.pattern",
            title,
            Verdict.UNMEASURED,
            f"{title}: {what} (not measured)",
            why="Without the pattern nothing can be said of the faces.",
            missing=(missing,),
        )


QUESTION = Question(
    path="pattern",
    station=Station.MATE,
    name="Holes",
    asks="Is every hole of both castings there, with its place and its size?",
    when=bellhoused,
    gives=(HOLES_FROM_READINGS,),
    checks=checks,
    notices=notices,
    faces=("engine", "gearbox"),
    board=holes.board,
    where="block face",
)
