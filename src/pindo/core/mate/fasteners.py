"""Heads, nuts and clearance holes by thread diameter, from the published table."""

import math
from dataclasses import dataclass
from functools import cache

from pindo.core.tables import read_table

SAME_SIZE_MM = 0.26  # a calliper over a worn thread still names its size


@dataclass(frozen=True, kw_only=True)
class Head:
    """What stands on the plate's face: height and the circle that it sweeps. [mm]"""

    height: float
    circle: float


@cache
def _row(d_mm: float) -> tuple[float, ...] | None:
    for row in read_table("fasteners")[0]:
        if abs(float(row[0]) - d_mm) <= SAME_SIZE_MM:
            return tuple(float(x) for x in row)
    return None


def head(fastening: str, d_mm: float) -> Head | None:
    """Head or nut of a metric screw; None for a tapped hole or a size that the table does not hold.

    ISO 4017, ISO 4762, ISO 10642, ISO 4032, from memory. A hexagon sweeps s/cos 30 deg.
    """
    row = _row(round(d_mm, 3))
    if row is None:
        return None
    _, hex_s, hex_k, cap_d, cap_k, csk_d, csk_k, nut_m, *_ = row
    corner = hex_s / math.cos(math.radians(30))
    sizes = {"hex head": (hex_k, corner), "cap head": (cap_k, cap_d), "countersunk": (csk_k, csk_d), "nut": (nut_m, corner)}
    if fastening not in sizes:
        return None
    height, circle = sizes[fastening]
    return Head(height=height, circle=circle)


def clearance_hole(d_mm: float) -> float:
    """Medium clearance hole of a screw, ISO 273; 1.1 d for a size that the table does not hold. [mm]"""
    row = _row(round(d_mm, 3))
    return row[9] if row else 1.1 * d_mm
