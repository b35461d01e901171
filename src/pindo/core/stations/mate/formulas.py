"""Plane geometry of the face view. All lengths mm, angles deg; arrays broadcast."""

from collections.abc import Mapping
from typing import Any

import numpy as np

from pindo.core.geometry.frames import clocked


def centre_distance(
    u1_mm: Any, v1_mm: Any, turn1_deg: Any, u2_mm: Any, v2_mm: Any, turn2_deg: Any
) -> Any:
    """Distance of two points of the face view, each turned by its own clocking. [mm]"""
    a = clocked(u1_mm, v1_mm, turn1_deg)
    b = clocked(u2_mm, v2_mm, turn2_deg)
    return np.hypot(a[0] - b[0], a[1] - b[1])


def ligament(
    u1_mm: Any,
    v1_mm: Any,
    turn1_deg: Any,
    d1_mm: Any,
    u2_mm: Any,
    v2_mm: Any,
    turn2_deg: Any,
    d2_mm: Any,
) -> Any:
    """Metal between two holes; negative when they overlap. [mm]"""
    return centre_distance(u1_mm, v1_mm, turn1_deg, u2_mm, v2_mm, turn2_deg) - (d1_mm + d2_mm) / 2.0


def spacing_wanted(hole_spacing_factor: float, d0_mm: Any) -> Any:
    """p >= 2.2 d0 with the larger hole (EN 1993-1-8, Table 3.3, from memory). [mm]"""
    return hole_spacing_factor * d0_mm


def edge_wanted(edge_factor: float, d0_mm: Any) -> Any:
    """e >= 1.2 d0 (EN 1993-1-8, Table 3.3, from memory), from the hole's centre. [mm]"""
    return edge_factor * d0_mm


def edge_distance(base_mm: float, outline_margin_mm: Any) -> Any:
    """Hole centre to the outline: ``base_mm`` without margin, and the margin. [mm]"""
    return base_mm + outline_margin_mm


def window_distance(u1_mm: Any, v1_mm: Any, window_mm: Any) -> Any:
    """Hole centre to the window's edge; negative inside the window. [mm]"""
    return np.hypot(u1_mm, v1_mm) - window_mm / 2.0


def pocket_distance(
    u1_mm: Any,
    v1_mm: Any,
    turn1_deg: Any,
    pocket_u_mm: Any,
    pocket_v_mm: Any,
    pocket_mm: Any,
    turn2_deg: Any,
) -> Any:
    """Hole centre to the starter pocket's edge; negative inside it. [mm]"""
    return (
        centre_distance(u1_mm, v1_mm, turn1_deg, pocket_u_mm, pocket_v_mm, turn2_deg)
        - pocket_mm / 2.0
    )


def head_sunk(recess_mm: Any, head_height_mm: float) -> Any:
    """How far a head lies below the plate's face; negative is proud. [mm]"""
    return recess_mm - head_height_mm


def head_beside_land(
    u1_mm: Any,
    v1_mm: Any,
    turn1_deg: Any,
    head_circle_mm: float,
    u2_mm: Any,
    v2_mm: Any,
    turn2_deg: Any,
    land_mm: Any,
) -> Any:
    """A proud head's circle to the nearest land of the other casting; negative is under it. [mm]"""
    return (
        centre_distance(u1_mm, v1_mm, turn1_deg, u2_mm, v2_mm, turn2_deg)
        - (head_circle_mm + land_mm) / 2.0
    )


def recess_floor(plate_mm: Any, recess_mm: Any) -> Any:
    """Plate left under a counterbore or countersink. [mm]"""
    return plate_mm - recess_mm


def times_diameter(factor: float, d_mm: Any) -> Any:
    """A limit given in diameters. [mm]"""
    return factor * d_mm


def off_place(u_mm: Any, v_mm: Any, u0_mm: float, v0_mm: float) -> Any:
    """How far a hole stands from where it was read: nothing, and its doubt. [mm]"""
    return np.hypot(u_mm - u0_mm, v_mm - v0_mm)


def thread_in_plate(x: Any, depth_mm: Any) -> Any:
    """Thread in a plate of thickness ``x``: through, or as deep as it is cut. [mm]"""
    return np.minimum(x, depth_mm)


def pocket_room(pocket_mm: Any, starter_body_mm: Any) -> Any:
    """Room round the starter where it passes the plate, on one side. [mm]"""
    return (pocket_mm - starter_body_mm) / 2.0


def pins(read: Mapping[str, Any], castings: tuple[str, ...], in_plate: tuple[str, ...]) -> Any:
    """Pins at one dowel place: one in each casting that has one, and one in the plate [-]."""
    return sum((read[a] for a in castings), 0.0) + (
        np.maximum.reduce([read[a] for a in in_plate]) if in_plate else 0.0
    )


def place_play(plate_hole_mm: Any, d_mm: Any) -> Any:
    """Radial play of a screw into a thread: T = (H - F)/2, fixed fastener, ASME Y14.5. [mm]"""
    return (plate_hole_mm - d_mm) / 2.0


def direct_play(
    hole_mm: Any,
    d_mm: Any,
    u1_mm: Any,
    v1_mm: Any,
    turn1_deg: Any,
    u2_mm: Any,
    v2_mm: Any,
    turn2_deg: Any,
) -> Any:
    """Play left when the faces meet without a plate: (H - F)/2 less the distance of the centres.
    [mm]
    """
    return place_play(hole_mm, d_mm) - centre_distance(
        u1_mm, v1_mm, turn1_deg, u2_mm, v2_mm, turn2_deg
    )
