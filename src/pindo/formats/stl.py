"""The plate as a solid: binary STL in millimetres, its front face at z = 0, seen from behind."""

import math
import struct

import numpy as np
import shapely
from shapely import Point, Polygon
from shapely.geometry.polygon import orient

from pindo.core.stations.mate.outline import Plate

SAGITTA = 0.005
"""How far a facet may lie off its circle. [mm]"""


def _disc(u: float, v: float, d: float) -> Polygon:
    """A circle in facets that are fine enough for its size. [mm]"""
    half = math.sqrt(4.0 * SAGITTA / d)
    return Point(u, v).buffer(d / 2, quad_segs=max(8, math.ceil(math.pi / 4 / half)))


def plate_region(plate: Plate) -> Polygon:
    """The plate as it is cut: outline less openings and holes as drilled. [mm]

    Raises
    ------
    ValueError
        There is no outline yet.
    """
    if not plate.outline:
        raise ValueError("The plate has no outline yet: it takes three holes at least.")
    openings = [o for o in (plate.window, plate.pocket) if o]
    discs = [_disc(o.u, o.v, o.d) for o in openings]
    discs += [_disc(r.u, r.v, r.d) for r in plate.drilling]
    discs += [Polygon(line) for line in plate.lines]
    region = Polygon(plate.outline).difference(shapely.union_all(discs))
    # An opening that runs out of the plate may leave chips beside it: the plate is the largest.
    return max(shapely.get_parts(region), key=lambda part: part.area)


def plate_stl(plate: Plate, thickness_mm: float) -> bytes:
    """The plate as a closed solid; recesses are left to the drilling table. [mm]

    Raises
    ------
    ValueError
        There is no outline yet.
    """
    # Counter-clockwise outside, clockwise round holes: the metal is on the left of every edge.
    region = orient(plate_region(plate))
    flat = np.array(
        [
            shapely.get_coordinates(t)[:3]
            for t in shapely.get_parts(shapely.constrained_delaunay_triangles(region))
        ]
    )
    # Counter-clockwise from behind, where z grows.
    a, b = flat[:, 1] - flat[:, 0], flat[:, 2] - flat[:, 0]
    clockwise = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0] < 0
    flat[clockwise] = flat[clockwise][:, ::-1]
    top = np.dstack([flat, np.full(flat.shape[:2], thickness_mm)])
    low = np.dstack([flat, np.zeros(flat.shape[:2])])[:, ::-1]
    faces = [top, low]
    for ring in (region.exterior, *region.interiors):
        line = shapely.get_coordinates(ring)
        p, q = line[:-1], line[1:]
        foot = [np.column_stack([x, np.zeros(len(x))]) for x in (p, q)]
        head = [np.column_stack([x, np.full(len(x), thickness_mm)]) for x in (p, q)]
        faces += [
            np.stack([foot[0], foot[1], head[1]], 1),
            np.stack([foot[0], head[1], head[0]], 1),
        ]
    triangles = np.concatenate(faces)
    normal = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-12)
    rows = np.zeros(len(triangles), dtype=[("v", "<f4", (4, 3)), ("none", "<u2")])
    rows["v"] = np.concatenate([normal[:, None], triangles], 1)
    head_words = b"Pindo adapter plate, millimetres, seen from behind"
    return head_words.ljust(80) + struct.pack("<I", len(rows)) + rows.tobytes()
