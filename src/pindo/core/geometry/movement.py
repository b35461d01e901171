"""How the unit moves on its mounts: shares, squash, load cases, and the movement of any point of
it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from pindo.core.document.evidence import TAKEN_WITH_A_TOOL, Position
from pindo.core.geometry import mounts as m
from pindo.core.geometry.frames import POSE, YAW_DEG, point_in_vehicle
from pindo.core.geometry.solids import THICKNESS, clocks
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.read import once

Read = Mapping[str, Any]


class OnMounts:
    """The functions of one set of mounts; made once for each set, so that kept answers stay
    kept.
    """

    def __init__(
        self,
        numbers: tuple[int, ...],
        behind_plate: frozenset[int],
        yaw: float,
        transaxle: bool,
        turns: bool,
    ) -> None:
        self.numbers, self.behind_plate, self.yaw, self.transaxle = (
            numbers,
            behind_plate,
            yaw,
            transaxle,
        )
        self.behind = (*THICKNESS, *(("clocking_deg",) if turns else ())) if behind_plate else ()

    @property
    def places(self) -> tuple[str, ...]:
        """What the weights on three mounts follow from: pose, mass and places."""
        return (
            *POSE,
            *m.MASS,
            *self.behind,
            *(f"mounts.{n}.{f}" for n in self.numbers for f in m.PLACES),
        )

    @property
    def rest_reads(self) -> tuple[str, ...]:
        """What the weights on more than three mounts, and every squash and movement, take:
        stiffness too.
        """
        return (*self.places, *(f"mounts.{n}.{f}" for n in self.numbers for f in m.SPRINGS))

    @property
    def torque_reads(self) -> tuple[str, ...]:
        """What the load cases take beside."""
        return (
            "engine_torque_nm",
            "first_gear_ratio",
            "reverse_ratio",
            *(("final_drive_ratio",) if self.transaxle else ()),
        )

    @property
    def share_reads(self) -> tuple[str, ...]:
        return self.places if len(self.numbers) == 3 else self.rest_reads

    def _springs(self, read: Read) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        return once(
            read,
            (self, "springs"),
            lambda: m.stiffness(read, self.numbers, self.yaw, self.behind_plate),
        )

    def _at_rest(self, read: Read) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        k, lever, springs = self._springs(read)
        return once(read, (self, "rest"), lambda: m.solve(k, m.weight_load(read))), lever, springs

    def share(self, i: int, read: Read) -> Any:
        """Share of the weight that mount ``i`` carries at rest; on three mounts by statics
        alone. [%]
        """
        if len(self.numbers) == 3:
            return (
                100.0
                * once(
                    read,
                    (self, "statics"),
                    lambda: m.three_shares(m.arms(read, self.numbers, self.yaw, self.behind_plate)),
                )[:, i]
            )
        moved, lever, springs = self._at_rest(read)
        up = -springs[:, i, 2] * np.einsum("rk,rk->r", lever[:, i, 2], moved)
        return 100.0 * up / (np.asarray(read["unit_mass_kg"]) * m.GRAVITY)

    def squash(self, i: int, read: Read) -> Any:
        """How far mount ``i`` goes down under the weight. [mm]"""
        moved, lever, _ = self._at_rest(read)
        return -np.einsum("rk,rk->r", lever[:, i, 2], moved)

    def travel(
        self, i: int, read: Read, braking_g: float, cornering_g: float, bump_g: float
    ) -> Any:
        """Largest movement at mount ``i`` from rest over the load cases. [mm]"""
        k, lever, _ = self._springs(read)
        moved = once(
            read,
            (self, braking_g, cornering_g, bump_g),
            lambda: m.solve(
                k, m.loads(read, self.yaw, self.transaxle, braking_g, cornering_g, bump_g)
            ),
        )
        return np.linalg.norm(np.einsum("rjk,crk->crj", lever[:, i], moved), axis=-1).max(axis=0)

    def bump_load(self, i: int, read: Read, bump_g: float) -> Any:
        """Load on mount ``i`` in the bump case. [N]"""
        k, lever, springs = self._springs(read)
        moved = m.solve(k, bump_g * m.weight_load(read))
        return np.linalg.norm(springs[:, i] * np.einsum("rjk,rk->rj", lever[:, i], moved), axis=-1)

    def modes(self, read: Read) -> tuple[np.ndarray, np.ndarray]:
        """All six natural frequencies [Hz] and each one's share of turn about the crank [-],
        shape (rows, 6).
        """
        k, _, _ = self._springs(read)
        return m.modes_hz(k, read, self.yaw)

    def roll_mode(self, read: Read) -> Any:
        """Natural frequency of the mode with most turn about the crank, however the unit stands.
        [Hz]
        """
        hertz, turn = self.modes(read)
        return np.take_along_axis(hertz, turn.argmax(axis=1)[:, None], axis=1)[:, 0]


def on_mounts(inputs: Inputs) -> OnMounts | None:
    """The mounts of a build as one body of springs; None below three."""
    numbers = tuple(x.n for x in inputs.build.mounts)
    if len(numbers) < 3:
        return None
    behind = frozenset(x.n for x in inputs.build.mounts if x.body == "gearbox")
    transaxle = inputs.options.get("final_drive_in") == "the gearbox"
    return OnMounts(numbers, behind, YAW_DEG[inputs.build.layout], transaxle, clocks(inputs))


@dataclass(frozen=True)
class Movement:
    """How the unit moves on its mounts, told at its mass centre in the vehicle."""

    cases: np.ndarray
    """Shift and turn from rest in each load case, shape (cases, 6). [mm, rad]"""
    squash: np.ndarray
    """Shift and turn from unloaded to rest under its weight, shape (6,). [mm, rad]"""
    centre: np.ndarray
    """Mass centre in the vehicle, shape (3,). [mm]"""


def _movement(inputs: Inputs) -> Movement | None:
    body = on_mounts(inputs)
    read = None if body is None else inputs.known((*body.rest_reads, *body.torque_reads))
    if body is None or read is None:
        return None
    k, _, _ = m.stiffness(read, body.numbers, body.yaw, body.behind_plate)
    g = [inputs.rules[key] for key in ("braking_g", "cornering_g", "bump_g")]
    cases = m.solve(k, m.loads(read, body.yaw, body.transaxle, *g))[:, 0]
    squash = m.solve(k, m.weight_load(read))[0]
    centre = _in_vehicle(read, body.yaw, *(read[a] for a in m.CENTRE))
    if np.isnan(cases).any() or np.isnan(squash).any():
        return None
    return Movement(cases, squash, centre)


def _in_vehicle(read: Read, yaw: float, back: float, left: float, up: float) -> np.ndarray:
    """A point of the unit in the vehicle, shape (3,). [mm]"""
    return np.array([float(np.asarray(c)) for c in point_in_vehicle(read, yaw, back, left, up)])


def movement_known(inputs: Inputs) -> Movement | None:
    """The unit's movement; None until it is known."""
    return inputs.once("movement", lambda: _movement(inputs))


def _at_points(moved: np.ndarray, centre: np.ndarray, at: np.ndarray) -> np.ndarray:
    """Movement of points of a rigid body, shape (..., n, 3). [mm]"""
    return moved[..., None, :3] + np.cross(moved[..., None, 3:], at - centre)


def movement_at(inputs: Inputs, at: np.ndarray) -> np.ndarray | None:
    """Movement of points of the unit from rest in each load case, shape (cases, n, 3); None until
    it is known. [mm]

    ``at`` are places in the vehicle, shape (n, 3). [mm]
    """
    known = movement_known(inputs)
    return None if known is None else _at_points(known.cases, known.centre, at)


def most_movement(inputs: Inputs) -> float:
    """The most that any named place of the unit moves in any load case; 0 until it is known.
    [mm]
    """
    sizes = ("engine_length_mm", "engine_top_mm", "sump_mm", "gearbox_length_mm")
    length, top, sump, box = (inputs.value(key) or 0.0 for key in sizes)
    pose = inputs.known(POSE)
    if movement_known(inputs) is None or pose is None:
        return 0.0
    ends = [(b, 0.0, u) for b in (-length, 0.0) for u in (top, -sump)] + [(box, 0.0, 0.0)]
    yaw = YAW_DEG[inputs.build.layout]
    moved = movement_at(inputs, np.array([_in_vehicle(pose, yaw, *p) for p in ends]))
    return 0.0 if moved is None else float(np.linalg.norm(moved, axis=-1).max())


def pose_is_loaded(inputs: Inputs) -> bool:
    """Whether the pose was read with the weight on the mounts: then their squash is in it
    already.
    """
    return all(
        q.source in TAKEN_WITH_A_TOOL and q.state.position == Position.RESTING_LOADED
        for key in POSE
        if (q := inputs.quantities[key]).value is not None
    )


def squash_at(inputs: Inputs, at: np.ndarray) -> np.ndarray | None:
    """How far points of the unit still go as the weight comes on the mounts, shape (n, 3); None
    where it is in the pose or not known. [mm]
    """
    known = movement_known(inputs)
    return (
        None
        if known is None or pose_is_loaded(inputs)
        else _at_points(known.squash, known.centre, at)
    )


def settles_at_sump(inputs: Inputs) -> float:
    """How far the lowest point of the sump still goes down under the weight; 0 where it is not
    known. [mm]
    """
    read = inputs.known((*POSE, "sump_mm", "sump_back_mm"))
    if movement_known(inputs) is None or read is None:
        return 0.0
    yaw = YAW_DEG[inputs.build.layout]
    at = _in_vehicle(read, yaw, read["sump_back_mm"], 0.0, -read["sump_mm"])
    moved = squash_at(inputs, at[None])
    return 0.0 if moved is None else max(0.0, -float(moved[0, 2]))
