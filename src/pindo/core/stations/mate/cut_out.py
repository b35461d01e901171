"""What an opening of any line leaves of the plate: round its holes, to its edge, to its other
openings.
"""

from collections.abc import Iterator

import shapely
from shapely import MultiPolygon, Polygon

from pindo.core.document.words import literal
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.verdict import Finding, decide
from pindo.core.stations.mate.common import TEARS
from pindo.core.stations.mate.outline import FINE_SEGMENTS, Plate, plate_of

NEAR_MM = 6.0
"""Metal that has no more than this to spare is told."""


def bridges(plate: Plate, region: Polygon | MultiPolygon) -> Iterator[tuple[str, str, float]]:
    """Metal between an opening and what is cut away beside it: key, words, width. An opening that
    runs out into another or over the edge leaves none there. [mm]
    """
    if plate.outline:
        rim = Polygon(plate.outline)
        if rim.contains(region):
            yield "rim", "the plate's edge", float(rim.exterior.distance(region))
    for key, words, c in (
        ("window", "the plate's window", plate.window),
        ("beside_pocket", "the round starter pocket", plate.pocket),
    ):
        if c is not None:
            far = float(region.distance(shapely.Point(c.u, c.v).buffer(c.d / 2, FINE_SEGMENTS)))
            if far > 0.0:
                yield key, words, far


def findings(
    inputs: Inputs,
    id: str,
    question: str,
    name: str,
    region: Polygon | MultiPolygon,
    pm: float,
    row: str = "",
) -> Iterator[Finding]:
    """Holes too near an opening, and bridges beside it that are too thin. ``pm`` is of its line.
    [mm]
    """
    plate, factor = plate_of(inputs), inputs.rules["guard_band_factor"] / 2.0
    for h in plate.holes:
        e = float(region.distance(shapely.Point(h.u, h.v)))
        wanted = inputs.rules["edge_factor"] * h.plate_d
        if e < wanted + pm + h.pm + NEAR_MM:
            yield notice(
                f"{id}.{h.label}",
                question,
                f"{name[0].upper()}{name[1:]} at hole {h.label}",
                decide(e - wanted, factor * (pm + h.pm)),
                in_both(
                    f"Hole {{at}} stands {{e}} from the {literal(name)}; needs {{wanted}}",
                    h.label,
                    1,
                    e=e,
                    wanted=wanted,
                ),
                why=TEARS,
                row=row,
            )
    least = inputs.rules["rim_least_mm"]
    for key, words, left in bridges(plate, region):
        if left < least + pm + NEAR_MM:
            yield notice(
                f"{id}.{key}",
                question,
                f"Plate left beside the {name}",
                decide(left - least, factor * pm),
                in_both(
                    f"Between the {literal(name)} and {{at}} {{left}} is left; needs {{least}},"
                    " or cut it open",
                    words,
                    1,
                    left=left,
                    least=least,
                ),
                why="A thin bridge cracks.",
                row=row,
            )
