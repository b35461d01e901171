"""The unit on its mounts: a rigid body on springs, solved for loads, movement and modes.

Axes of the vehicle (x forward, y left, z up) about the mass centre; K is 6 x 6 from each mount's
kx, ky, kz at its place. All functions take numbers or arrays of one length, so that every perturbed
input goes through at once. Source: closed form, any text on vibration isolation; the load cases are
common practice.
"""

from collections.abc import Collection, Mapping
from typing import Any

import numpy as np

from pindo.core.geometry.frames import direction_in_vehicle, point_in_vehicle, turned_left_up

GRAVITY = 9.80665
PLACES = ("back", "left", "up")
SPRINGS = ("kx", "ky", "kz")
GYRATION = ("gyration_roll_mm", "gyration_pitch_mm", "gyration_yaw_mm")
CENTRE = ("mass_back_mm", "mass_left_mm", "mass_up_mm")
MASS = ("unit_mass_kg", "mass_back_mm", "mass_left_mm", "mass_up_mm")
FREE = 1e-9
CASES = ("lowest gear", "reverse", "braking", "cornering left", "cornering right", "bump")

Read = Mapping[str, Any]


def _column(value: Any, rows: int) -> np.ndarray:
    return np.broadcast_to(np.asarray(value, float), (rows,))


def _rows(read: Read) -> int:
    return max((np.asarray(v).size for v in read.values()), default=1)


def arms(
    read: Read, numbers: tuple[int, ...], layout_yaw_deg: float, behind_plate: Collection[int] = ()
) -> np.ndarray:
    """Each mount from the mass centre in the vehicle, shape (rows, mounts, 3). [mm]

    Those of ``behind_plate`` are told behind the bell's mouth with the gearbox upright: a thicker
    plate takes them back, the clocking turns them where it is read.
    """
    rows = _rows(read)
    centre = point_in_vehicle(
        read, layout_yaw_deg, read["mass_back_mm"], read["mass_left_mm"], read["mass_up_mm"]
    )
    found = []
    for n in numbers:
        back, left, up = (read[f"mounts.{n}.{f}"] for f in PLACES)
        if n in behind_plate:
            back = back + read["separator_mm"] + read["plate_mm"]
            left, up = turned_left_up(read, left, up)
        at = point_in_vehicle(read, layout_yaw_deg, back, left, up)
        found.append(
            np.stack([_column(a - c, rows) for a, c in zip(at, centre, strict=True)], axis=-1)
        )
    return np.stack(found, axis=1)


def _lever(arm: np.ndarray) -> np.ndarray:
    """Displacement of a point at ``arm`` per translation and turn: [I, -arm x], shape (..., 3,
    6).
    """
    x, y, z = arm[..., 0], arm[..., 1], arm[..., 2]
    out = np.zeros((*arm.shape[:-1], 3, 6))
    out[..., 0, 0] = out[..., 1, 1] = out[..., 2, 2] = 1.0
    out[..., 0, 4], out[..., 0, 5] = z, -y
    out[..., 1, 3], out[..., 1, 5] = -z, x
    out[..., 2, 3], out[..., 2, 4] = y, -x
    return out


def three_shares(arm: np.ndarray) -> np.ndarray:
    """Shares of the weight on three mounts, shape (rows, 3): forces and moments about both level
    axes balance, whatever the stiffness. [-]

    NaN where the three lie in one upright plane.
    """
    system = np.stack([np.ones(arm.shape[:2]), arm[..., 0], arm[..., 1]], axis=1)
    scale = np.abs(arm[..., :2]).max(axis=(1, 2)) + 1.0
    flat = np.abs(np.linalg.det(system)) < 1e-6 * scale**2
    safe = np.where(flat[:, None, None], np.eye(3), system)
    found = np.linalg.solve(
        safe, np.broadcast_to(np.array([1.0, 0.0, 0.0]), (len(arm), 3))[..., None]
    )[..., 0]
    return np.where(flat[:, None], np.nan, found)


def stiffness(
    read: Read, numbers: tuple[int, ...], layout_yaw_deg: float, behind_plate: Collection[int] = ()
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """K, shape (rows, 6, 6) [N/mm, N, N·mm]; levers, shape (rows, mounts, 3, 6); springs, shape
    (rows, mounts, 3) [N/mm].
    """
    rows = _rows(read)
    lever = _lever(arms(read, numbers, layout_yaw_deg, behind_plate))
    k = np.stack(
        [
            np.stack([_column(read[f"mounts.{n}.{f}"], rows) for f in SPRINGS], axis=-1)
            for n in numbers
        ],
        axis=1,
    )
    return np.einsum("rmji,rmj,rmjk->rik", lever, k, lever), lever, k


def torque_axis(read: Read, layout_yaw_deg: float, transaxle: bool) -> np.ndarray:
    """Direction of the reaction on the unit in the lowest gear, shape (rows, 3).

    Opposite to the torque that it gives out: about the crank for a lengthwise gearbox (left side of
    the engine lifts), about the axle, nose up, for a transaxle.
    """
    rows = _rows(read)
    axis = (
        (0.0, -1.0, 0.0)
        if transaxle
        else direction_in_vehicle(read, layout_yaw_deg, (1.0, 0.0, 0.0))
    )
    return np.stack([_column(a, rows) for a in axis], axis=-1)


def loads(
    read: Read,
    layout_yaw_deg: float,
    transaxle: bool,
    braking_g: float,
    cornering_g: float,
    bump_g: float,
) -> np.ndarray:
    """Loads beyond the weight for each of CASES, shape (cases, rows, 6). [N, N·mm]"""
    rows = _rows(read)
    weight = _column(read["unit_mass_kg"], rows) * GRAVITY
    found = np.zeros((len(CASES), rows, 6))
    axis = torque_axis(read, layout_yaw_deg, transaxle)
    torque = (
        read["engine_torque_nm"] * 1e3 * (read.get("final_drive_ratio", 1.0) if transaxle else 1.0)
    )
    found[0, :, 3:] = axis * _column(torque * read["first_gear_ratio"], rows)[:, None]
    found[1, :, 3:] = -axis * _column(torque * read["reverse_ratio"], rows)[:, None]
    found[2, :, 0] = braking_g * weight
    # In a bend to the left the unit is thrown to the right.
    found[3, :, 1], found[4, :, 1] = -cornering_g * weight, cornering_g * weight
    found[5, :, 2] = -(bump_g - 1.0) * weight
    return found


def weight_load(read: Read) -> np.ndarray:
    """The weight, shape (rows, 6). [N]"""
    rows = _rows(read)
    load = np.zeros((rows, 6))
    load[:, 2] = -_column(read["unit_mass_kg"], rows) * GRAVITY
    return load


def solve(k: np.ndarray, load: np.ndarray) -> np.ndarray:
    """Movement of the mass centre under loads: (..., rows, 6). NaN where the mounts leave a
    freedom. [mm, rad]
    """
    # With its diagonal scaled to ones a stiffness matrix has a determinant from 0 (a freedom left)
    # to 1.
    root = 1.0 / np.sqrt(np.maximum(np.einsum("rii->ri", k), 1e-12))
    free = np.linalg.det(k * root[:, :, None] * root[:, None, :]) < FREE
    safe = np.where(free[:, None, None], np.eye(6), k)
    moved = np.linalg.solve(safe, load[..., None])[..., 0]
    return np.where(free[:, None], np.nan, moved)


def modes_hz(k: np.ndarray, read: Read, layout_yaw_deg: float) -> tuple[np.ndarray, np.ndarray]:
    """Six natural frequencies, shape (rows, 6) [Hz], and each one's share of turn about the crank,
    shape (rows, 6) [-].

    Generalised eigenproblem K v = w² M v. The inertias are about the unit's own axes (roll about
    the crank, pitch, yaw) and turn with it; the share of a mode is the kinetic energy of its turn
    about the crank. N/mm over kg is 1000 /s².
    """
    rows = len(k)
    mass = _column(read["unit_mass_kg"], rows)
    own = np.stack(
        [
            np.stack(
                [_column(a, rows) for a in direction_in_vehicle(read, layout_yaw_deg, axis)],
                axis=-1,
            )
            for axis in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
        ],
        axis=1,
    )
    inertia = np.stack([mass * _column(read[key], rows) ** 2 for key in GYRATION], axis=-1)
    # M^-1/2, block by block: the turning part in the unit's own axes.
    root = np.zeros((rows, 6, 6))
    root[:, [0, 1, 2], [0, 1, 2]] = 1.0 / np.sqrt(mass)[:, None]
    root[:, 3:, 3:] = np.einsum("rai,ra,raj->rij", own, 1.0 / np.sqrt(inertia), own)
    squares, vectors = np.linalg.eigh(root @ k @ root * 1e3)
    about_crank = np.einsum("ri,rik->rk", own[:, 0], vectors[:, 3:, :]) ** 2
    return np.sqrt(np.maximum(squares, 0.0)) / (2.0 * np.pi), about_crank
