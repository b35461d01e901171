"""Dowels: is each joint located, by one pin at each place?"""

from collections.abc import Iterator
from functools import partial

from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.common import (
    FACE_STATES,
    LOCATED,
)
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.placing import (
    SIDES,
    dowel_places,
    face_of,
    label_of,
)

check = partial(Check, station=Station.MATE, question="mate.dowels", accepts=FACE_STATES)


def dowel_checks(inputs: Inputs) -> Iterator[Check]:
    """Exactly one pin at each dowel place over both castings and the plate, short of its hole's
    bottom; two places at least in each joint.
    """
    why = (
        "Two pins in one place keep the faces apart; none leaves the joint floating by the play of"
        " its bolts. Holes do not centre anything."
    )
    plated = inputs.value("plate_mm") != 0.0
    for side in SIDES:
        face = face_of(inputs, side)
        dowels = [h for h in face.holes if h.role == "dowel"]
        if dowels and inputs.options.get(LOCATED[side]) != "register":
            yield check(
                id=f"mate.dowel_places.{side}",
                title=f"Dowel places, {side} to plate",
                value=plain.given,
                given={"x": Constant(float(len(dowels)), "count")},
                at_least=plain.two,
                kind="count",
                says=f"Dowel places between {side} and plate: {{value}}; needs {{limit}}",
                why=why,
            )
        for hole in dowels:
            label = label_of(side, hole.n)
            if hole.stand_out or hole.mating_depth:
                yield check(
                    id=f"mate.dowel_bottom.{label}",
                    title=f"Dowel {label} in its hole",
                    value=plain.difference,
                    given={"a": f"{side}.{hole.n}.mating_depth", "b": f"{side}.{hole.n}.stand_out"},
                    at_least="dowel_bottom_gap_mm",
                    says=(
                        f"Dowel {label} ends {{value}} short of its hole's bottom; needs {{limit}}"
                    ),
                    fouls=f"Dowel {label} is {{over}} longer than its hole",
                    why="A pin that bottoms holds the faces apart.",
                )
    for found in dowel_places(inputs):
        labels = [label_of(side, n) for side, n in found]
        name = " and ".join(labels)
        castings = tuple(f"{side}.{n}.pin_in_casting" for side, n in found)
        in_plate = tuple(f"{side}.{n}.pin_in_plate" for side, n in found) if plated else ()
        yield check(
            id=f"mate.dowel_pins.{'-'.join(labels)}",
            title=f"Pins at dowel {name}",
            value=formulas.pins,
            given={"castings": Constant(castings), "in_plate": Constant(in_plate)},
            reads=(*castings, *in_plate),
            at_least=plain.one,
            at_most=plain.one,
            kind="count",
            says=(f"Pins at dowel place {name}: {{value}}; needs exactly {{limit}}"),
            why=why,
            caution="A ground or burred pin counts as missing until it is gauged.",
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Joints that nothing locates."""
    if inputs.value("plate_mm") == 0.0:
        return
    for side in SIDES:
        bolts = [h for h in face_of(inputs, side).holes if h.role == "bolt"]
        if (
            bolts
            and not any(h.role == "dowel" for h in face_of(inputs, side).holes)
            and inputs.options.get(LOCATED[side]) != "register"
        ):
            yield notice(
                f"mate.dowels.{side}",
                "mate.dowels",
                f"What locates {side} and plate",
                Verdict.UNMEASURED,
                f"No dowels of the {side} are entered: enter them, or say that a register"
                " locates it",
                why=(
                    "Bolts clamp and centre nothing: each joint names its locator, or it floats"
                    " until it is dialled."
                ),
            )


QUESTION = Question(
    path="dowels",
    station=Station.MATE,
    name="Dowels",
    asks="Is each joint located, by one pin at each place?",
    options=("engine_joint", "gearbox_joint"),
    when=bellhoused,
    checks=dowel_checks,
    notices=notices,
    faces=("engine", "gearbox"),
    board=face_board("mate.dowels"),
    where="block face",
)
