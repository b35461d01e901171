"""Joints of a driveline: angles, the wobble that is left, limits by speed, the tube's critical
speed.

Sources: kinematics of the cardan joint, closed form (any text on mechanisms); excitation limits SAE
AE-7, from memory; angle limits by speed, makers' common table, from memory; whirling of a tube,
closed form.
"""

import itertools
from collections.abc import Sequence
from typing import Any

import numpy as np

from pindo.core.geometry.frames import Vector, length_of

# Highest joint angle by shaft speed (rpm, deg), makers' common table, from memory.
LIMITS = (
    (1500.0, 11.5),
    (2000.0, 8.67),
    (2500.0, 7.0),
    (3000.0, 5.83),
    (3500.0, 5.0),
    (4000.0, 4.25),
    (4500.0, 3.67),
    (5000.0, 3.25),
)


def angle_limit_deg(shaft_speed_rpm: Any) -> Any:
    """Highest joint angle at a speed: linear between the rows, 16 250/rpm above, 11.5 below.
    [deg]
    """
    rpm, deg = zip(*LIMITS, strict=True)
    between = np.interp(shaft_speed_rpm, rpm, deg)
    return np.where(
        np.asarray(shaft_speed_rpm) > rpm[-1], 16250.0 / np.maximum(shaft_speed_rpm, 1.0), between
    )


def output_angle_deg(input_deg: Any, bend_deg: float) -> Any:
    """Output turn of one cardan joint; 0 when the driving fork lies in the joint's plane. [deg]

    tan(out) = tan(in) / cos(bend), as a lead on the input so that whole turns are kept.
    """
    a, b = np.radians(input_deg), np.radians(bend_deg)
    lead = np.arctan2(
        np.sin(a) * np.cos(a) * (1.0 - np.cos(b)), np.cos(b) * np.cos(a) ** 2 + np.sin(a) ** 2
    )
    return np.degrees(a + lead)


def _cross(a: Vector, b: Vector) -> Vector:
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def _signed_turn(a: Vector, b: Vector, axis: Vector) -> Any:
    """Angle from a to b about an axis, both square to it. [rad]"""
    c = _cross(a, b)
    along = (c[0] * axis[0] + c[1] * axis[1] + c[2] * axis[2]) / length_of(axis)
    return np.arctan2(along, a[0] * b[0] + a[1] * b[1] + a[2] * b[2])


def bends_and_phases(
    axes: Sequence[Vector], yokes_deg: Sequence[Any] = ()
) -> tuple[list[Any], list[Any]]:
    """Bend of each joint [rad], and the phase of its driving pin against the first joint's [rad].

    ``axes`` are the directions of the shafts from engine to axle, one more than joints;
    ``yokes_deg`` how far the two yokes of each
    piece between joints are out of line (0 where left out). A joint's driving fork starts from
    where the joint before it left the shaft's forks; its angle is counted from the normal of its
    own plane. A straight joint has no plane of its own: its neighbour's is kept. For a chain in one
    plane alternate joints stand at 0 and 90 degrees, so that equal bends cancel in pairs.
    """
    pairs = list(itertools.pairwise(axes))
    normals = [_cross(a, b) for a, b in pairs]
    bends = [
        np.arctan2(length_of(n), a[0] * b[0] + a[1] * b[1] + a[2] * b[2])
        for n, (a, b) in zip(normals, pairs, strict=True)
    ]
    phases: list[Any] = [0.0 * bends[0]]
    plane: Vector | None = None
    for k, (normal, (a, _)) in enumerate(zip(normals, pairs, strict=True)):
        bent = bends[k] > STRAIGHT_RAD
        if plane is None:
            plane = normal  # until the first joint that bends there is no plane, and nothing turns
            known = bent
            continue
        # Each joint turns its driven fork by 90 degrees to its driving one; the plane may turn too.
        turned = np.where(bent & known, _signed_turn(plane, normal, a), 0.0)
        yoke = np.radians(yokes_deg[k - 1]) if k - 1 < len(yokes_deg) else 0.0
        phases.append(phases[-1] + np.pi / 2.0 - turned + yoke)
        plane = tuple(np.where(bent, n, p) for n, p in zip(normal, plane, strict=True))
        known = known | bent
    return bends, phases


STRAIGHT_RAD = 1e-5  # a joint that bends less shakes nothing, and its plane is not known
SMALL_DEG = 10.0  # beyond it at any joint the small-angle sum is not used
TURN = 512  # places over one turn at which a chain of joints is composed


def equivalent_bend(bends: Sequence[Any], phases: Sequence[Any]) -> Any:
    """beta_eq²: the one joint that would leave the same wobble. [rad²]

    |sum beta_i² e^(2 i phi_i)| while every joint is small; beyond 10 degrees at any joint the
    joints are composed exactly.
    """
    total = sum(
        (
            np.asarray(b) ** 2 * np.exp(2j * np.asarray(p))
            for b, p in zip(bends, phases, strict=True)
        ),
        start=0j,
    )
    small = np.abs(total)
    large = np.maximum.reduce(
        [np.broadcast_to(np.asarray(b, float), np.shape(small)) for b in bends]
    ) > np.radians(SMALL_DEG)
    return np.where(large, composed_bend(bends, phases), small) if np.any(large) else small


def composed_bend(bends: Sequence[Any], phases: Sequence[Any]) -> Any:
    """The same from the exact joints: greatest angular acceleration of the output over speed², over
    one turn of the input. [rad²]

    For one small joint the lead is beta²/4 sin 2 theta, whose second derivative reaches beta².
    """
    shape = np.shape(sum(np.asarray(x) for x in (*bends, *phases)))
    theta = np.linspace(0.0, 2.0 * np.pi, TURN, endpoint=False).reshape(-1, *(1,) * len(shape))
    turned = theta + np.zeros((TURN, *shape))
    for bend, phase in zip(bends, phases, strict=True):
        local = turned + phase + np.pi / 2.0
        turned = turned + (
            np.radians(output_angle_deg(np.degrees(local), np.degrees(bend))) - local
        )
    lead = turned - theta
    waves = np.fft.rfft(lead, axis=0)
    order = np.arange(waves.shape[0]).reshape(-1, *(1,) * len(shape))
    return np.abs(np.fft.irfft(-(order**2) * waves, n=TURN, axis=0)).max(axis=0)


def excitation(beta_squared: Any, rpm: Any) -> Any:
    """omega² beta_eq² [rad/s²]."""
    return (np.asarray(rpm) * np.pi / 30.0) ** 2 * beta_squared


def critical_rpm(
    length_mm: Any, od_mm: Any, wall_mm: Any, modulus_gpa: float, density: float
) -> Any:
    """First whirling speed of a simply supported tube. [rpm]

    n = (30 pi / L²) sqrt(E I / (rho A)); sqrt(I/A) = sqrt(D² + d²)/4.
    """
    inner = od_mm - 2.0 * wall_mm
    gyration = np.sqrt(od_mm**2 + inner**2) / 4.0 / 1e3
    return 30.0 * np.pi / (length_mm / 1e3) ** 2 * np.sqrt(modulus_gpa * 1e9 / density) * gyration
