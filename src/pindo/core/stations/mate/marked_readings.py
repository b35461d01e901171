"""What readings between holes leave open or disagree on, drawn in the face view: both places of a
hole that fits at two, and readings that stand off or were left out.
"""

import numpy as np

from pindo.core.drawing.shapes import Round, Shape
from pindo.core.geometry.frames import clocked
from pindo.core.geometry.hole_network import AXIS, pattern
from pindo.core.geometry.network.adjust import normalised
from pindo.core.geometry.network.placed import Placed
from pindo.core.geometry.network.readings import Distance
from pindo.core.inputs.faces import reading_at
from pindo.core.inputs.inputs import Inputs
from pindo.core.stations.mate.placing import SIDES, face_of, label_of

OFF = 2.0
"""Standard deviations beyond which a reading is drawn."""
UNSIZED_MM = 10.0
"""A hole whose size nobody told is drawn this wide."""
Place = tuple[float, float]


def _seen(inputs: Inputs, side: str, place: np.ndarray) -> Place:
    """A place as told, in the face view."""
    turn = (inputs.value("clocking_deg") or 0.0) if side == "gearbox" else 0.0
    u, v = clocked(float(place[0]), float(place[1]), turn)
    return float(u), float(v)


def twin_rounds(inputs: Inputs) -> tuple[Round, ...]:
    """Every hole that fits at two places, at both of them."""
    found = []
    for side in SIDES:
        p = pattern(inputs, side)
        for t in () if p is None else p.twins:
            n = p.numbers[t.point] if p is not None else AXIS
            if p is None or n == AXIS:
                continue
            d = inputs.value(f"{side}.{n}.d") or UNSIZED_MM
            for place in (p.answer.places[t.point], np.array(t.other)):
                x, y = _seen(inputs, side, place)
                label = f"{label_of(side, n)}?"
                found.append(
                    Round(part="two places", x=x, y=y, d=d, style="hole", label=label, known=False)
                )
    return tuple(found)


def reading_lines(inputs: Inputs) -> tuple[Shape, ...]:
    """Readings that stand off, dashed, and those that the rest contradicts, in colour."""
    found: list[Shape] = []
    for side in SIDES:
        p = pattern(inputs, side)
        if p is None:
            continue
        for r, w in zip(p.answer.readings, normalised(p.answer), strict=True):
            if isinstance(r, Distance) and abs(float(w)) > OFF:
                found += _line(inputs, side, p, r.a, r.b, "hidden", f"off by {abs(w):.1f} of doubt")
        suspects = {s.id for s in p.answer.suspects}
        at = {n: i for i, n in enumerate(p.numbers)}
        for row in face_of(inputs, side).readings:
            ends = [at.get(AXIS if n is None else n) for n in (row.a, row.b)]
            if reading_at(side, row.n) in suspects and None not in ends:
                a, b = (e or 0 for e in ends)
                found += _line(inputs, side, p, a, b, "accent", f"reading {row.n} contradicts")
    return tuple(found)


def _line(
    inputs: Inputs, side: str, p: Placed, a: int, b: int, style: str, part: str
) -> list[Shape]:
    count = len(p.numbers)
    if max(a, b) >= count or not np.isfinite(p.answer.places[[a, b]]).all():
        return []
    ends = tuple(_seen(inputs, side, p.answer.places[i]) for i in (a, b))
    return [Shape(part=part, points=ends, style=style, closed=False)]
