"""Heads, nuts, washers and clearance holes by thread size, from the published table. Metric and
inch. [mm]
"""

import math
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from pindo.core.inputs.threads import INCH_MM, nominal
from pindo.core.tables import read_table

COLUMNS = (
    "hex_s",
    "hex_k",
    "cap_d",
    "cap_k",
    "csk_d",
    "csk_k",
    "nut_s",
    "nut_m",
    "washer_d",
    "washer_t",
    "hole_fine",
    "hole_medium",
    "hole_coarse",
)

ENGAGED = MappingProxyType(
    {
        "aluminium": "thread_aluminium_factor",
        "cast iron": "thread_iron_factor",
        "steel": "thread_steel_factor",
    }
)
"""Rule of the thread that a screw wants, in diameters, by the metal that it is cut in."""


@dataclass(frozen=True, kw_only=True)
class Head:
    """What stands on the plate's face: height and the circle that it sweeps. [mm]"""

    height: float
    circle: float


@cache
def _table() -> dict[float, dict[str, float]]:
    """Sizes by diameter, what a standard does not hold left out. [mm]"""
    found = {}
    for row in read_table("fasteners", "size", "unit", *COLUMNS):
        factor = INCH_MM if row["unit"] == "in" else 1.0
        found[float(row["size"]) * factor] = {
            name: float(row[name]) * factor for name in COLUMNS if row[name]
        }
    return found


def _row(d_mm: float) -> dict[str, float]:
    size = nominal(d_mm, tuple(_table()))
    return {} if size is None else _table()[size]


HEXAGONS = ("hex head", "nut")
"""Screws that a socket goes round; others are turned from within."""


def head(fastening: str, d_mm: float) -> Head | None:
    """Head or nut of a screw; None for a tapped hole or a size that the table does not hold.

    ISO 4017, 4762, 10642, 4032; ASME B18.2.1, B18.3, B18.2.2; from memory. A hexagon sweeps s/cos
    30 deg.
    """
    row = _row(d_mm)
    corner = 1.0 / math.cos(math.radians(30))
    sizes = {
        "hex head": ("hex_k", "hex_s", corner),
        "cap head": ("cap_k", "cap_d", 1.0),
        "countersunk": ("csk_k", "csk_d", 1.0),
        "nut": ("nut_m", "nut_s", corner),
    }
    if fastening not in sizes:
        return None
    height, across, factor = sizes[fastening]
    return (
        Head(height=row[height], circle=row[across] * factor)
        if height in row and across in row
        else None
    )


def socket(fastening: str, d_mm: float, wall_mm: float) -> float | None:
    """Circle that a socket takes round a hexagon: s/cos 30 deg and its wall on both sides; None for
    a screw without a hexagon outside or a size that the table does not hold. [mm]
    """
    size = head(fastening, d_mm) if fastening in HEXAGONS else None
    return None if size is None else size.circle + 2.0 * wall_mm


def washer(d_mm: float) -> tuple[float, float] | None:
    """Outside diameter and thickness of a plain washer, ISO 7089 or SAE; None for a size that
    the table does not hold. [mm]
    """
    row = _row(d_mm)
    return (row["washer_d"], row["washer_t"]) if "washer_d" in row else None


def on_face(fastening: str, d_mm: float) -> Head | None:
    """What a screw lays on a face: its head or nut, a hexagon on its plain washer. [mm]"""
    size, under = head(fastening, d_mm), washer(d_mm)
    if size is None or under is None or fastening not in HEXAGONS:
        return size
    return Head(height=size.height + under[1], circle=max(size.circle, under[0]))


def counterbore(fastening: str, d_mm: float, wall_mm: float) -> float | None:
    """Circle that a sunk screw takes: what it lays on the face and, round a hexagon, its socket;
    None where the table does not hold it. [mm]
    """
    size = on_face(fastening, d_mm)
    if size is None:
        return None
    return max(size.circle, socket(fastening, d_mm, wall_mm) or 0.0)


def clearance_hole(d_mm: float) -> float | None:
    """Medium clearance hole of a screw, ISO 273 or ASME B18.2.8; None for a size that the table
    does not hold. [mm]
    """
    return _row(d_mm).get("hole_medium")
