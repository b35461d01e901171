"""The drilling table of the plate as CSV."""

import csv
import io

from pindo.core.stations.mate.outline import Plate
from pindo.formats.plain_text import cell


def drilling_csv(plate: Plate) -> bytes:
    """One row a hole: place from the crank axis seen from behind, polar place, what is drilled,
    what it is. A tapped hole has its tap drill. [mm, deg]
    """
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(
        [
            "order",
            "hole",
            "right_mm",
            "up_mm",
            "radius_mm",
            "clockwise_from_12_deg",
            "diameter_mm",
            "what",
            "drill",
            "recess_mm",
            "recess_diameter_mm",
            "thread_depth_mm",
            "note",
        ]
    )
    for r in plate.drilling:
        depths = ["" if x is None else f"{x:.2f}" for x in (r.recess, r.recess_d, r.depth)]
        writer.writerow(
            [
                r.order,
                cell(r.label),
                f"{r.u:.3f}",
                f"{r.v:.3f}",
                f"{r.radius:.3f}",
                f"{r.angle_deg:.3f}",
                f"{r.d:.2f}",
                cell(r.what),
                cell(r.drill),
                *depths,
                cell(r.note),
            ]
        )
    return text.getvalue().encode("utf-8")
