"""The pose from points that are known on the engine and measured in the chassis: weighted Kabsch
with its doubt.

Sources: W. Kabsch, Acta Crystallographica A32 (1976), 922; covariance by linearised least squares
(JCGM 102, from memory).
"""

from dataclasses import dataclass

import numpy as np

from pindo.core.errors import PindoError

IN_LINE_SHARE = 1e-3  # points whose second spread is below this share of the first lie in one line


class NoPose(PindoError, ValueError):
    """The points do not fix a pose; the message says which are wanting."""


@dataclass(frozen=True)
class FittedPose:
    """What the points say. ``pm`` are half-widths of 95 % intervals."""

    back_mm: float
    left_mm: float
    up_mm: float
    roll_deg: float
    pitch_deg: float
    yaw_deg: float
    pm: tuple[float, ...]
    residuals: tuple[float, ...]
    """Distance of each point from where the pose puts it. [mm]"""
    rms: float
    spread: np.ndarray
    """Change of the six numbers, in the order above, with one standard uncertainty of each figure
    of the points, shape (6, 3 n) [mm, deg]. How their doubts hang together follows from it.
    """

    @property
    def correlation(self) -> np.ndarray:
        """How the doubts of the six numbers hang together, shape (6, 6) [-]."""
        covariance = self.spread @ self.spread.T
        u = np.sqrt(np.diag(covariance))
        return np.asarray(covariance / np.outer(u, u))


def turns_of(matrix: np.ndarray) -> tuple[float, float, float]:
    """Roll, pitch, yaw of a rotation, the inverse of
    :func:`pindo.core.geometry.frames.rotation`. [deg]
    """
    pitch = np.arcsin(np.clip(matrix[2, 0], -1.0, 1.0))
    roll, yaw = np.arctan2(matrix[2, 1], matrix[2, 2]), np.arctan2(matrix[1, 0], matrix[0, 0])
    return float(np.degrees(roll)), float(np.degrees(pitch)), float(np.degrees(yaw))


def _cross(v: np.ndarray) -> np.ndarray:
    return np.array([[0, -v[2], v[1]], [v[2], 0, -v[0]], [-v[1], v[0], 0]])


def fit_pose(
    on_unit: np.ndarray, in_vehicle: np.ndarray, u_mm: np.ndarray, layout_yaw_deg: float = 0.0
) -> FittedPose:
    """Rigid pose that carries points of the unit to where they were measured, weights 1/u².

    Parameters
    ----------
    on_unit, in_vehicle : shape (n, 3), n >= 3
        The same points in the powertrain frame and in the vehicle frame. [mm]
    u_mm : shape (n,)
        Standard uncertainty of each point, both readings together. [mm]

    Raises
    ------
    NoPose
        Fewer than three points, or all in one line.
    """
    if len(on_unit) < 3:
        raise NoPose(f"{len(on_unit)} of 3 points have all six figures: three at least fix a pose.")
    weights = 1.0 / np.maximum(u_mm, 1e-6) ** 2
    share = weights / weights.sum()
    a0, b0 = share @ on_unit, share @ in_vehicle
    a, b = on_unit - a0, in_vehicle - b0
    spread = np.linalg.svd(a, compute_uv=False)
    if spread[1] < IN_LINE_SHARE * spread[0]:
        raise NoPose("The points lie in one line: take one that stands beside it.")
    left, _, right = np.linalg.svd((a * weights[:, None]).T @ b)
    # The smallest direction is turned round where the best fit would be a mirror image.
    turn = right.T @ np.diag([1.0, 1.0, np.sign(np.linalg.det(right.T @ left.T))]) @ left.T
    place = b0 - turn @ a0
    carried = on_unit @ turn.T
    residual = in_vehicle - carried - place
    rows = np.concatenate([np.hstack([np.eye(3), -_cross(p)]) for p in carried])
    w = np.repeat(weights, 3)
    per_figure = np.linalg.inv((rows * w[:, None]).T @ rows) @ (rows * np.sqrt(w)[:, None]).T
    freedom = 3 * len(on_unit) - 6
    if freedom > 0:
        # Points that do not fit their own ± say that the ± was too small; a good fit by luck says
        # nothing.
        excess = float((w * residual.reshape(-1) ** 2).sum()) / freedom
        per_figure = per_figure * np.sqrt(max(1.0, excess))
    step = 1e-6
    base = np.array(turns_of(turn))
    jacobian = np.array(
        [
            (np.array(turns_of((np.eye(3) + _cross(step * axis)) @ turn)) - base) / step
            for axis in np.eye(3)
        ]
    ).T
    # The place is told behind, left, up: behind is minus x.
    whole = np.zeros((6, 6))
    whole[:3, :3], whole[3:, 3:] = np.diag([-1.0, 1.0, 1.0]), jacobian
    spread = whole @ per_figure
    u = np.sqrt((spread**2).sum(axis=1))
    roll, pitch, yaw = base
    yaw = (yaw - layout_yaw_deg + 180.0) % 360.0 - 180.0
    far = np.linalg.norm(residual, axis=1)
    return FittedPose(
        float(-place[0]),
        float(place[1]),
        float(place[2]),
        float(roll),
        float(pitch),
        float(yaw),
        tuple(2.0 * float(x) for x in u),
        tuple(map(float, far)),
        float(np.sqrt((far**2).mean())),
        spread,
    )
