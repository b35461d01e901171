"""Every solid of the unit against every one of the chassis: distance, doubt, what the class
table asks.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from pindo.core.document.evidence import TAKEN_WITH_A_TOOL, closes_safety, refused_state
from pindo.core.geometry.frames import POSE, YAW_DEG, point_in_vehicle
from pindo.core.geometry.movement import movement_at, squash_at
from pindo.core.geometry.shapes import SHAPES
from pindo.core.geometry.solid_classes import class_rule
from pindo.core.geometry.solids import (
    THICKNESS,
    Pair,
    Placed,
    angle_slopes,
    clocking_slope,
    clocks,
    half_extent,
    pose_of,
    unit_pairs,
)
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.verdict import Verdict, decide

GAP_STATES = MappingProxyType(
    {"position": frozenset({"resting loaded", "resting loose", "stand", "bench"})}
)
SAFETY = frozenset({"clear_steering_mm"})


@dataclass(frozen=True)
class PairState:
    """A pair with what the class table and the movement ask of it. [mm]"""

    pair: Pair
    rule: str
    moves: float
    """How far the engine's solid comes nearer over the load cases."""
    settles: float
    """How far it comes nearer as the weight comes on the mounts, where the pose was read
    without. [mm]
    """
    slopes: np.ndarray
    """Change of the distance per unit of each pose number, shape (6,) [mm per mm or deg]."""
    u: float
    verdict: Verdict
    """What its inputs allow to be said."""

    @property
    def takes(self) -> float:
        """Movement and squash together. [mm]"""
        return self.moves + self.settles

    @property
    def id(self) -> str:
        return f"{self.pair.engine.solid.n}-{self.pair.chassis.solid.n}"


def needed(class_mm: float, moves_mm: float, settles_mm: float) -> float:
    """Class limit, the movement towards the other body (it counts once) and the squash that the
    pose does not hold yet. [mm]
    """
    return class_mm + moves_mm + settles_mm


def _pose_slopes(inputs: Inputs, points: np.ndarray, matrix: np.ndarray) -> np.ndarray:
    """Movement in the vehicle of points of the unit per unit of each pose number, shape (6, n,
    3).
    """
    yaw = YAW_DEG[inputs.build.layout]
    own = (points - matrix[:3, 3]) @ matrix[:3, :3]
    base = {key: inputs.value(key) or 0.0 for key in POSE}

    def carried(pose: Mapping[str, float]) -> np.ndarray:
        return np.stack(point_in_vehicle(pose, yaw, -own[:, 0], own[:, 1], own[:, 2]), axis=-1)

    still, steps = (
        carried(base),
        {key: 1.0 if DIMENSIONS[key].kind == "length" else 1e-3 for key in POSE},
    )
    return np.stack(
        [(carried(base | {key: base[key] + step}) - still) / step for key, step in steps.items()]
    )


def _u(inputs: Inputs, bodies: list[Placed], fields: tuple[str, ...]) -> np.ndarray:
    """Standard uncertainty of fields of the solids, none where a solid lacks the field, shape
    (n, fields), in the unit of the field.
    """

    def make() -> dict[int, list[float]]:
        found = inputs.quantities
        return {
            s.n: [0.0 if (q := found.get(f"solids.{s.n}.{f}")) is None else q.u for f in fields]
            for s in inputs.build.solids
        }

    one = inputs.once(("u of solids", fields), make)
    return np.array([one[p.solid.n] for p in bodies])


def _size_doubt(inputs: Inputs, bodies: list[Placed], normals: np.ndarray) -> np.ndarray:
    """u² of the distances from the solids' own sizes, shape (n,). [mm²]

    The same shares as :func:`pindo.core.geometry.solids.half_extent`, for all pairs at once.
    """
    fields = ("a", "b", "c", "hole")
    shares = np.zeros((len(bodies), len(fields)))
    number = np.array([p.solid.n for p in bodies])
    for body in {p.solid.n: p for p in bodies}.values():
        own = number == body.solid.n
        for field, share in half_extent(body, normals[own]).items():
            shares[own, fields.index(field)] = share
    return np.asarray(((shares * _u(inputs, bodies, fields)) ** 2).sum(axis=1))


def _place_doubt(inputs: Inputs, bodies: list[Placed], normals: np.ndarray) -> np.ndarray:
    """u² of the distances from the solids' places, shape (n,). [mm²]"""
    slopes = np.einsum("nj,njk->nk", normals, np.array([p.axes for p in bodies]))
    thick = sum(inputs.quantities[k].u ** 2 for k in THICKNESS)
    behind = np.array([p.solid.body == "gearbox" for p in bodies])
    return np.asarray(
        ((slopes * _u(inputs, bodies, ("back", "left", "up"))) ** 2).sum(axis=1)
        + behind * slopes[:, 0] ** 2 * thick
    )


def _angle_doubt(
    inputs: Inputs,
    bodies: list[Placed],
    points: np.ndarray,
    normals: np.ndarray,
) -> np.ndarray:
    """u² of the distances from the solids' tilt and turn, shape (n,). [mm²]"""
    square = np.zeros(len(bodies))
    for i, (p, u) in enumerate(zip(bodies, _u(inputs, bodies, ("tilt", "turn")), strict=True)):
        if u.any():
            turn = inputs.value(f"solids.{p.solid.n}.turn") or 0.0
            slopes = angle_slopes(p, turn, p.axes, points[i], normals[i])
            square[i] = float(np.sum((np.array(slopes) * u) ** 2))
    return square


def _clocking_doubt(
    inputs: Inputs,
    bodies: list[Placed],
    matrix: np.ndarray,
    points: np.ndarray,
    normals: np.ndarray,
) -> np.ndarray:
    """u² of the distances from the clocking, by which the gearbox's turn, shape (n,). [mm²]"""
    u = inputs.quantities["clocking_deg"].u if clocks(inputs) else 0.0
    turns = np.array([p.solid.body == "gearbox" for p in bodies])
    if not u or not turns.any():
        return np.zeros(len(bodies))
    slopes = [clocking_slope(matrix, *row) for row in zip(points, normals, strict=True)]
    return np.asarray(turns * (np.array(slopes) * u) ** 2)


def _pose_doubt(inputs: Inputs, slopes: np.ndarray) -> np.ndarray:
    """u² of the distances from the pose, shape (n,), added by source. [mm²]"""
    spreads = [inputs.quantities[key].spread for key in POSE]
    sources = list(dict.fromkeys(s for spread in spreads for s in spread))
    parts = np.array([[spread.get(s, 0.0) for s in sources] for spread in spreads])
    return np.asarray(((slopes @ parts.reshape(len(POSE), -1)) ** 2).sum(axis=1))


LIES = ("back", "left", "up", "tilt", "turn")


def _counts(inputs: Inputs, addresses: Iterable[str]) -> frozenset[bool]:
    """For which gaps these figures count: False for any, True for one on which safety hangs. What
    decides is the state that they were taken in, and what stands behind them.
    """
    found = [q for a in addresses if (q := inputs.quantities.get(a)) is not None]
    if any(
        q.value is None or (q.source in TAKEN_WITH_A_TOOL and refused_state(q.state, GAP_STATES))
        for q in found
    ):
        return frozenset()
    safe = all(q.source is None or closes_safety(q.source) for q in found)
    return frozenset({False, True} if safe else {False})


def _counted(inputs: Inputs) -> dict[int, frozenset[bool]]:
    """For which gaps the figures of each solid count."""

    def make() -> dict[int, frozenset[bool]]:
        return {
            s.n: _counts(
                inputs,
                [f"solids.{s.n}.{f}" for f in (*LIES, *SHAPES[s.shape].fields)],
            )
            for s in inputs.build.solids
        }

    return inputs.once("solids that count", make)


def pair_states(inputs: Inputs) -> list[PairState]:
    """Every pair with its limit, its movement and its doubt, the tightest first."""
    return inputs.once("pairs", lambda: _pair_states(inputs))


def _pair_states(inputs: Inputs) -> list[PairState]:
    matrix = pose_of(inputs)
    pairs = [] if matrix is None else unit_pairs(inputs)
    if matrix is None or not pairs:
        return []
    points, normals = np.array([p.on_engine for p in pairs]), np.array([p.apart for p in pairs])
    moved, squashed = movement_at(inputs, points), squash_at(inputs, points)
    towards = (
        np.zeros(len(pairs))
        if moved is None
        else np.maximum(np.einsum("cnj,nj->cn", moved, normals).max(axis=0), 0.0)
    )
    settles = (
        np.zeros(len(pairs))
        if squashed is None
        else np.maximum(np.einsum("nj,nj->n", squashed, normals), 0.0)
    )
    pose_slopes = -np.einsum("knj,nj->nk", _pose_slopes(inputs, points, matrix), normals)
    engine, chassis = [p.engine for p in pairs], [p.chassis for p in pairs]
    square = (
        _pose_doubt(inputs, pose_slopes)
        + _size_doubt(inputs, engine, normals)
        + _size_doubt(inputs, chassis, normals)
    )
    square = square + _place_doubt(inputs, engine, normals) + _place_doubt(inputs, chassis, normals)
    others = np.array([p.on_chassis for p in pairs])
    square = (
        square
        + _angle_doubt(inputs, engine, points, normals)
        + _angle_doubt(inputs, chassis, others, normals)
        + _clocking_doubt(inputs, engine, matrix, points, normals)
    )
    stiff = inputs.options.get("mount_type") == "stiff"
    pose = _counts(inputs, POSE)
    counted = {n: pose & of for n, of in _counted(inputs).items()}
    rules = {
        (a, b): class_rule(a, b, stiff)
        for a in {p.solid.class_ for p in engine}
        for b in {p.solid.class_ for p in chassis}
    }
    factor = inputs.rules["guard_band_factor"]
    found = []
    for pair, moves, sinks, slopes, u in zip(
        pairs,
        towards.tolist(),
        settles.tolist(),
        pose_slopes,
        np.sqrt(square).tolist(),
        strict=True,
    ):
        a, b = pair.engine.solid, pair.chassis.solid
        rule = rules[a.class_, b.class_]
        stands = (rule in SAFETY) in counted[a.n] & counted[b.n]
        margin = pair.distance - needed(inputs.rules[rule], moves, sinks)
        found.append(
            PairState(
                pair,
                rule,
                moves,
                sinks,
                slopes,
                u,
                decide(margin, factor * u) if stands else Verdict.UNMEASURED,
            )
        )
    return sorted(found, key=lambda s: s.pair.distance - s.takes - inputs.rules[s.rule] - 2.0 * s.u)
