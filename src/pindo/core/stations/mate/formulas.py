"""Plane geometry of the face view. All lengths mm, angles deg; arrays broadcast."""

from collections.abc import Mapping
from functools import reduce

import numpy as np

from pindo.core.geometry.frames import clocked
from pindo.core.numbers import Numbers


def centre_distance(
    u1_mm: Numbers,
    v1_mm: Numbers,
    turn1_deg: Numbers,
    u2_mm: Numbers,
    v2_mm: Numbers,
    turn2_deg: Numbers,
) -> Numbers:
    """Distance of two points of the face view, each turned by its own clocking. [mm]"""
    a = clocked(u1_mm, v1_mm, turn1_deg)
    b = clocked(u2_mm, v2_mm, turn2_deg)
    apart: Numbers = np.hypot(a[0] - b[0], a[1] - b[1])
    return apart


def ligament(
    u1_mm: Numbers,
    v1_mm: Numbers,
    turn1_deg: Numbers,
    d1_mm: Numbers,
    u2_mm: Numbers,
    v2_mm: Numbers,
    turn2_deg: Numbers,
    d2_mm: Numbers,
) -> Numbers:
    """Metal between two holes; negative when they overlap. [mm]"""
    return centre_distance(u1_mm, v1_mm, turn1_deg, u2_mm, v2_mm, turn2_deg) - (d1_mm + d2_mm) / 2.0


def free_room(free_mm: Numbers, circle_mm: Numbers) -> Numbers:
    """Room round a circle within a free circle about the same middle. [mm]"""
    return (free_mm - circle_mm) / 2.0


def drilled_off(off_u_mm: Numbers, off_v_mm: Numbers) -> Numbers:
    """How far a hole was drilled off its place. [mm]"""
    off: Numbers = np.hypot(off_u_mm, off_v_mm)
    return off


def edge_left(e_mm: Numbers, off_u_mm: Numbers, off_v_mm: Numbers) -> Numbers:
    """Edge distance less what the hole was drilled off, as if towards the edge. [mm]"""
    return e_mm - drilled_off(off_u_mm, off_v_mm)


def spacing_wanted(hole_spacing_factor: float, d0_mm: Numbers) -> Numbers:
    """p >= 2.2 d0 with the larger hole (EN 1993-1-8, Table 3.3, from memory). [mm]"""
    return hole_spacing_factor * d0_mm


def edge_wanted(edge_factor: float, d0_mm: Numbers) -> Numbers:
    """e >= 1.2 d0 (EN 1993-1-8, Table 3.3, from memory), from the hole's centre. [mm]"""
    return edge_factor * d0_mm


def edge_distance(base_mm: float, outline_margin_mm: Numbers) -> Numbers:
    """Hole centre to the outline: ``base_mm`` without margin, and the margin. [mm]"""
    return base_mm + outline_margin_mm


def window_distance(u1_mm: Numbers, v1_mm: Numbers, window_mm: Numbers) -> Numbers:
    """Hole centre to the window's edge; negative inside the window. [mm]"""
    return np.hypot(u1_mm, v1_mm) - window_mm / 2.0


def pocket_distance(
    u1_mm: Numbers,
    v1_mm: Numbers,
    turn1_deg: Numbers,
    pocket_u_mm: Numbers,
    pocket_v_mm: Numbers,
    pocket_mm: Numbers,
    turn2_deg: Numbers,
) -> Numbers:
    """Hole centre to the starter pocket's edge; negative inside it. [mm]"""
    return (
        centre_distance(u1_mm, v1_mm, turn1_deg, pocket_u_mm, pocket_v_mm, turn2_deg)
        - pocket_mm / 2.0
    )


def head_sunk(recess_mm: Numbers, head_height_mm: float) -> Numbers:
    """How far a head lies below the plate's face; negative is proud. [mm]"""
    return recess_mm - head_height_mm


def head_beside_land(
    u1_mm: Numbers,
    v1_mm: Numbers,
    turn1_deg: Numbers,
    head_circle_mm: float,
    u2_mm: Numbers,
    v2_mm: Numbers,
    turn2_deg: Numbers,
    land_mm: Numbers,
) -> Numbers:
    """A proud head's circle to the nearest land of the other casting; negative is under it. [mm]"""
    return (
        centre_distance(u1_mm, v1_mm, turn1_deg, u2_mm, v2_mm, turn2_deg)
        - (head_circle_mm + land_mm) / 2.0
    )


def own_plate(whole_mm: Numbers, other_mm: Numbers) -> Numbers:
    """Thickness of the plate that a hole is in: the whole less the other of two. [mm]"""
    return whole_mm - other_mm


def recess_floor(whole_mm: Numbers, other_mm: Numbers, recess_mm: Numbers) -> Numbers:
    """Plate left under a counterbore or countersink. [mm]"""
    return own_plate(whole_mm, other_mm) - recess_mm


def times_diameter(factor: float, d_mm: Numbers) -> Numbers:
    """A limit given in diameters. [mm]"""
    return factor * d_mm


def off_place(u_mm: Numbers, v_mm: Numbers, u0_mm: float, v0_mm: float) -> Numbers:
    """How far a hole stands from where it was read: nothing, and its doubt. [mm]"""
    return np.hypot(u_mm - u0_mm, v_mm - v0_mm)


def thread_in_plate(whole_mm: Numbers, other_mm: Numbers, depth_mm: Numbers) -> Numbers:
    """Thread in a plate: through, or as deep as it is cut. [mm]"""
    return np.minimum(own_plate(whole_mm, other_mm), depth_mm)


def pocket_room(pocket_mm: Numbers, starter_body_mm: Numbers) -> Numbers:
    """Room round the starter where it passes the plate, on one side. [mm]"""
    return (pocket_mm - starter_body_mm) / 2.0


def pins(
    read: Mapping[str, Numbers], castings: tuple[str, ...], in_plate: tuple[str, ...]
) -> Numbers:
    """Pins at one dowel place: one in each casting that has one, and one in the plate [-]."""
    return sum((read[a] for a in castings), 0.0) + (
        reduce(np.maximum, (read[a] for a in in_plate)) if in_plate else 0.0
    )


def place_play(plate_hole_mm: Numbers, d_mm: Numbers) -> Numbers:
    """Radial play of a screw into a thread: T = (H - F)/2, fixed fastener, ASME Y14.5. [mm]"""
    return (plate_hole_mm - d_mm) / 2.0


def direct_play(
    hole_mm: Numbers,
    d_mm: Numbers,
    u1_mm: Numbers,
    v1_mm: Numbers,
    turn1_deg: Numbers,
    u2_mm: Numbers,
    v2_mm: Numbers,
    turn2_deg: Numbers,
) -> Numbers:
    """Play left when the faces meet without a plate: (H - F)/2 less the distance of the centres.
    [mm]
    """
    return place_play(hole_mm, d_mm) - centre_distance(
        u1_mm, v1_mm, turn1_deg, u2_mm, v2_mm, turn2_deg
    )
