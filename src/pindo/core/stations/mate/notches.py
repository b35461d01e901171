"""Notches: openings of the plate that are traced, for a dust shield's tongue, a sensor, a drain;
and the plate with everything that is cut out of it.
"""

from collections.abc import Iterator
from dataclasses import replace

from shapely import Polygon

from pindo.core.drawing.shapes import Shape
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import notice
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate.cut_out import findings
from pindo.core.stations.mate.outline import Plate, plate_of
from pindo.core.stations.mate.starter import lines
from pindo.core.stations.mate.trim_cut import Ring, Traced, of_role

KEY = "mate.plate"


def notches(inputs: Inputs) -> list[Traced]:
    """Every notch that has an outline, where it is in the face view."""
    return [t for t in of_role(inputs, "notch in the plate") if t.region is not None]


def _ring(t: Traced) -> Ring:
    assert t.region is not None
    return tuple((float(x), float(y)) for x, y in t.region.exterior.coords[:-1])


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Notches that miss the plate, and what the others leave of it."""
    plate = plate_of(inputs)
    for t in notches(inputs):
        assert t.region is not None
        id, row = f"mate.notch.{t.row.n}", f"outlines.{t.row.n}"
        if plate.outline and not Polygon(plate.outline).intersects(t.region):
            yield notice(
                id,
                KEY,
                f"Notch {t.name}",
                Verdict.FOULS,
                f"The notch {t.name} lies outside the plate",
                why="Places are right and up of the crank axis, seen from behind.",
                row=row,
            )
        yield from findings(inputs, id, KEY, f"notch {t.name}", t.region, t.pm, row)


def shapes(inputs: Inputs) -> tuple[Shape, ...]:
    """The notches in the face view."""
    return tuple(Shape(part=t.name, points=_ring(t), style="opening") for t in notches(inputs))


def plate_to_cut(inputs: Inputs) -> Plate:
    """The plate with the starter's own window, where its body was traced, and its notches."""
    cut = (*lines(inputs), *(_ring(t) for t in notches(inputs)))
    return replace(plate_of(inputs), lines=cut)
