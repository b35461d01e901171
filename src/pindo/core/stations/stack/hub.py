"""Hub on its shaft: does the key carry, is enough of the hub on it, and what keeps it there?

Engaged length L = min(hub, shaft out - spacer) - chamfers; key shear 2 T k/(d w L), pressure on its
side 4 T k/(d h L) (machine element handbooks, from memory). Lengths mm, torque N·m, stress MPa.
"""

from collections.abc import Iterator, Mapping
from functools import partial

import numpy as np

from pindo.core.drawing.board import Board, Reading
from pindo.core.drawing.callouts import lettered
from pindo.core.drawing.shapes import Drawing, Gap, Shape, Usual, box
from pindo.core.geometry.chain import hub_wanted, torque_nm
from pindo.core.inputs.couplings import coupling, hubbed
from pindo.core.inputs.derived import derived
from pindo.core.inputs.dimensions import DIMENSIONS, Station
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question, Seen
from pindo.core.numbers import Numbers, over
from pindo.core.stations.stack.bolts import thread_wanted
from pindo.core.stations.stack.common import STRENGTH

KEY = "stack.hub"
USUAL_HUB = {
    "hub_bore_deep_mm": 36.0,
    "shaft_stands_out_mm": 40.0,
    "hub_spacer_mm": 0.0,
    "clutch_shaft_mm": 20.0,
    "key_height_mm": 5.0,
    "end_bolt_mm": 8.0,
    "end_bolt_long_mm": 16.0,
    "end_thread_mm": 22.0,
}
"""What is drawn for a size that nobody has measured."""
check = partial(Check, station=Station.STACK, question=KEY, caution=STRENGTH)


def engaged_length(
    hub_bore_deep_mm: Numbers,
    shaft_stands_out_mm: Numbers,
    hub_spacer_mm: Numbers,
    hub_chamfers_mm: Numbers,
) -> Numbers:
    """Hub that bears on shaft and key. [mm]"""
    return np.minimum(hub_bore_deep_mm, shaft_stands_out_mm - hub_spacer_mm) - hub_chamfers_mm


def _torque(engine_power_kw: Numbers, engine_rpm: Numbers, key_service_factor: float) -> Numbers:
    return torque_nm(engine_power_kw, engine_rpm) * key_service_factor * 1e3


def pressure_wanted(
    engine_power_kw: Numbers,
    engine_rpm: Numbers,
    clutch_shaft_mm: Numbers,
    key_height_mm: Numbers,
    key_pressure_mpa: float,
    key_service_factor: float,
) -> Numbers:
    """Length that carries it by pressure on the key's side: 4 T k/(d h p). [mm]"""
    torque = _torque(engine_power_kw, engine_rpm, key_service_factor)
    return over(4.0 * torque, clutch_shaft_mm * key_height_mm * key_pressure_mpa)


def belt_off(
    belt_driver_plane_mm: Numbers, hub_spacer_mm: Numbers, belt_driven_plane_mm: Numbers
) -> Numbers:
    """Driving pulley, on its spacer, out of the driven one's plane. [mm]"""
    return belt_driver_plane_mm + hub_spacer_mm - belt_driven_plane_mm


CHECKS = (
    check(
        id="stack.hub_shear",
        title="Hub on its key, shear",
        value=engaged_length,
        at_least=hub_wanted,
        safety=True,
        says="Hub sits {value} on shaft and key; shear of the key wants {limit}",
        fouls="Hub misses its shaft by {over}",
        why="A hub on the end of its shaft shears its key or its shaft.",
    ),
    check(
        id="stack.hub_pressure",
        title="Hub on its key, pressure",
        value=engaged_length,
        at_least=pressure_wanted,
        safety=True,
        says="Hub sits {value} on shaft and key; pressure on the key wants {limit}",
        fouls="Hub misses its shaft by {over}",
        why="A keyway that gives rolls the key out.",
    ),
    check(
        id="stack.end_bolt",
        title="End bolt, thread in use",
        value=plain.given,
        at_least=thread_wanted,
        given={
            "x": "end_bolt_long_mm",
            "bolt": "end_bolt_mm",
            "thread_steel_factor": "end_bolt_factor",
        },
        safety=True,
        says="End bolt has {value} of thread in use; wants {limit}",
        why="It is all that keeps the hub on.",
    ),
    check(
        id="stack.end_bottom",
        title="End bolt, room before the thread ends",
        value=plain.difference,
        at_least="thread_spare_mm",
        given={"a": "end_thread_mm", "b": "end_bolt_long_mm"},
        safety=True,
        says="End bolt leaves {value} of thread; wants {limit}",
        fouls="End bolt bottoms {over} before it clamps",
        why="A bolt that bottoms is tight and holds nothing.",
    ),
)
PLANE = check(
    id="stack.belt_plane",
    title="Belt pulleys in one plane",
    value=belt_off,
    at_least=plain.minus,
    at_most="belt_plane_max_mm",
    given={"limit": "belt_plane_max_mm"},
    says="Driving pulley stands {value} outside the driven one's plane; allowed {limit}",
    why="A belt that runs askew wears its side; the spacer under the hub brings it into line.",
)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Key and end bolt; of a belt its plane too. Of a chain Line asks for the key's shear."""
    at_line = inputs.options.get("drive") == "chain"
    yield from (c for c in CHECKS if not (at_line and c.at_least is hub_wanted))
    if coupling(inputs) == "belt drive":
        yield PLANE


PARTS = ("hub_bore_deep_mm", "shaft_stands_out_mm", "hub_spacer_mm", "hub_chamfers_mm")
ENGAGED = "clutch_on_shaft_mm"


def _engaged(inputs: Inputs) -> Mapping[str, Resolved]:
    """The length of hub on its shaft, from its parts."""
    blank = Resolved(address=ENGAGED, name=DIMENSIONS[ENGAGED].name)

    def value(read: Mapping[str, Numbers]) -> Numbers:
        return engaged_length(*(read[a] for a in PARTS))

    return {ENGAGED: derived(inputs, value, blank, PARTS)}


GIVES = Provider(
    key="hub on its shaft",
    gives=(ENGAGED,),
    solve=_engaged,
    when=lambda inputs: hubbed(inputs) and inputs.known(PARTS) is not None,
)
"""Stands in place of a length that was typed, where all its parts are measured."""


def _usual(inputs: Inputs) -> Usual:
    return Usual({k: inputs.value(k) for k in USUAL_HUB}, dict(USUAL_HUB))


def drawing(inputs: Inputs) -> Drawing:
    """Shaft, spacer, hub, key and end bolt to scale, the shaft's shoulder at nought."""
    g = _usual(inputs)
    r, out, at = g("clutch_shaft_mm") / 2, g("shaft_stands_out_mm"), g("hub_spacer_mm")
    deep, key, bolt = g("hub_bore_deep_mm"), g("key_height_mm"), g("end_bolt_mm") / 2
    engaged = max(min(deep, out - at), 0.0)
    shapes = [
        Shape(part="shoulder", points=box(-20, 0, 0, r + 9)),
        Shape(
            part="shaft",
            points=box(0, out, 0, r),
            style="body",
            known=g.known("clutch_shaft_mm", "shaft_stands_out_mm"),
        ),
        Shape(
            part="hub",
            points=box(at, at + deep, r, r + 13),
            known=g.known("hub_bore_deep_mm", "hub_spacer_mm"),
        ),
        Shape(
            part="key",
            points=box(at, at + engaged, r - key / 2, r + key / 2),
            style="body",
            known=g.known("key_height_mm"),
        ),
        Shape(
            part="thread of the shaft's end",
            points=box(out - g("end_thread_mm"), out, 0, bolt),
            style="hidden",
        ),
        Shape(
            part="end bolt",
            points=box(out - g("end_bolt_long_mm"), out + 6, 0, bolt),
            style="thin",
            known=g.known("end_bolt_mm", "end_bolt_long_mm"),
        ),
        Shape(part="axis", points=((-24, 0), (at + deep + 20, 0)), style="axis", closed=False),
    ]
    if at > 0:
        spacer = Shape(part="spacer", points=box(0, at, r, r + 9), known=g.known("hub_spacer_mm"))
        shapes.append(spacer)
    anchors = {
        "hub_bore_deep_mm": (at + deep / 2, r + 15),
        "shaft_stands_out_mm": (out - 3, r / 2),
        "hub_spacer_mm": (at / 2, r + 6),
        "clutch_shaft_mm": (2.0, r),
        "key_height_mm": (at + engaged / 2, r),
        "end_bolt_long_mm": (out + 6, bolt),
        "end_thread_mm": (out - g("end_thread_mm"), bolt / 2),
    }
    ends = {
        "hub_bore_deep_mm": (at, r + 15, at + deep, r + 15),
        "shaft_stands_out_mm": (0.0, r / 2, out, r / 2),
        "hub_spacer_mm": (0.0, r + 6, at, r + 6),
        "clutch_shaft_mm": (2.0, 0.0, 2.0, r),
    }
    return Drawing(
        rules=True,
        view="section through the shaft, upper half; mm from its shoulder",
        x_low=-24,
        x_high=max(at + deep, out) + 14,
        y_low=-8,
        y_high=r + 28,
        shapes=tuple(shapes),
        callouts=lettered(KEY, anchors, ends, ("clutch_shaft_mm",)),
        gaps=(Gap(finding="stack.hub_shear", x1=at, y1=r + 3, x2=at + engaged, y2=r + 3),),
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """Torque, engaged length, and the bush that brings a belt into its plane."""
    readings = []
    known = inputs.known(("engine_power_kw", "engine_rpm"))
    if known is not None:
        torque = float(torque_nm(known["engine_power_kw"], known["engine_rpm"]))
        readings.append(Reading(name="Torque at its power", value=torque, kind="torque"))
    planes = inputs.known(("belt_driver_plane_mm", "belt_driven_plane_mm"))
    if coupling(inputs) == "belt drive" and planes is not None:
        bush = planes["belt_driven_plane_mm"] - planes["belt_driver_plane_mm"]
        readings.append(Reading(name="Spacer that lines them up", value=bush, kind="length"))
    return Board(drawings=(drawing(inputs),), readings=tuple(readings))


QUESTION = Question(
    path="hub",
    station=Station.STACK,
    name="Hub",
    asks="Does the key carry, is enough of the hub on it, and what keeps it there?",
    dimensions={
        "A": "hub_bore_deep_mm",
        "B": "shaft_stands_out_mm",
        "C": "hub_spacer_mm",
        "D": "hub_chamfers_mm",
        "E": "clutch_shaft_mm",
        "F": "clutch_key_mm",
        "G": "key_height_mm",
        "H": "end_bolt_mm",
        "J": "end_bolt_long_mm",
        "K": "end_thread_mm",
        "L": "belt_driver_plane_mm",
        "M": "belt_driven_plane_mm",
        "N": "engine_power_kw",
        "P": "engine_rpm",
        "Q": "separator_mm",
        "R": "plate_mm",
    },
    gives=(GIVES,),
    when=hubbed,
    checks=checks,
    board=board,
    where="engine",
)
