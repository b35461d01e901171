"""Notches: openings of the plate that are traced, for a dust shield's tongue, a sensor, a drain;
and the plate with everything that is cut out of it.
"""

from collections.abc import Iterator
from dataclasses import replace

import shapely
from shapely import Polygon

from pindo.core.drawing.shapes import Shape
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.verdict import Finding, Verdict, decide
from pindo.core.stations.mate.outline import Plate, plate_of
from pindo.core.stations.mate.starter import lines
from pindo.core.stations.mate.trim_cut import Ring, Traced, of_role

KEY = "mate.plate"
NEAR_MM = 6.0
"""Holes within this of what they want are told."""


def notches(inputs: Inputs) -> list[Traced]:
    """Every notch that has an outline, where it is in the face view."""
    return [t for t in of_role(inputs, "notch in the plate") if t.region is not None]


def _ring(t: Traced) -> Ring:
    assert t.region is not None
    return tuple((float(x), float(y)) for x, y in t.region.exterior.coords[:-1])


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Holes too near a notch, and notches that miss the plate."""
    plate = plate_of(inputs)
    factor = inputs.rules["guard_band_factor"] / 2.0
    for t in notches(inputs):
        assert t.region is not None
        id = f"mate.notch.{t.row.n}"
        if plate.outline and not Polygon(plate.outline).intersects(t.region):
            yield notice(
                id,
                KEY,
                f"Notch {t.name}",
                Verdict.FOULS,
                f"The notch {t.name} lies outside the plate",
                why="Places are right and up of the crank axis, seen from behind.",
                row=f"outlines.{t.row.n}",
            )
        for h in plate.holes:
            at = shapely.Point(h.u, h.v)
            e = float(t.region.distance(at))
            wanted = inputs.rules["edge_factor"] * h.plate_d
            if e < wanted + t.pm + h.pm + NEAR_MM:
                yield notice(
                    f"{id}.{h.label}",
                    KEY,
                    f"Notch {t.name} at hole {h.label}",
                    decide(e - wanted, factor * (t.pm + h.pm)),
                    in_both(
                        "Hole {at} stands {e} from the notch; needs {wanted}",
                        h.label,
                        1,
                        e=e,
                        wanted=wanted,
                    ),
                    why="A hole too near an edge tears out.",
                    row=f"outlines.{t.row.n}",
                )


def shapes(inputs: Inputs) -> tuple[Shape, ...]:
    """The notches in the face view."""
    return tuple(Shape(part=t.name, points=_ring(t), style="opening") for t in notches(inputs))


def plate_to_cut(inputs: Inputs) -> Plate:
    """The plate with the starter's own window, where its body was traced, and its notches."""
    cut = (*lines(inputs), *(_ring(t) for t in notches(inputs)))
    return replace(plate_of(inputs), lines=cut)
