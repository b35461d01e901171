"""The checks of the Seat station."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any

import numpy as np

from pindo.core import plain
from pindo.core.check import Check
from pindo.core.evidence import TAKEN_WITH_A_TOOL, Position
from pindo.core.frames import POSE, YAW_DEG, direction_in_vehicle, point_in_vehicle
from pindo.core.notice import notice
from pindo.core.read import once
from pindo.core.resolve import Inputs, measured_points, pose_from_points
from pindo.core.seat import mounts as m
from pindo.core.seat.pose import NoPose
from pindo.core.verdict import Finding, Verdict
from pindo.core.words import literal

REST = MappingProxyType({"position": frozenset({"resting loaded", "resting loose", "stand", "bench"}), "ride": frozenset({"rest"})})
HUNG = "Nobody under a hung unit; gear and points rated for it. One support is released only when the other holds."
WELD = "Mounts and frame are structural: a competent welder, inspection and the approval of the place."
Read = Mapping[str, Any]


def _check(question: str, id: str, title: str, value: Any, reads: tuple[str, ...], **rest: Any) -> Check:
    rest.setdefault("accepts", REST)
    return Check(id=f"seat.{id}", question=f"seat.{question}", title=title, value=value, reads=reads, **rest)


def inclination(read: Read, layout_yaw_deg: float) -> Any:
    """Crank line in the vehicle, positive when the accessory end is the higher one. [deg]"""
    return np.degrees(np.arcsin(direction_in_vehicle(read, layout_yaw_deg, (1.0, 0.0, 0.0))[2]))


def ground_gap(read: Read, layout_yaw_deg: float, settles_mm: float = 0.0) -> Any:
    """Lowest point of the sump above the ground, less what the mounts will still go down there. [mm]"""
    return -settles_mm + point_in_vehicle(read, layout_yaw_deg, read["sump_back_mm"], 0.0, -read["sump_mm"])[2] + read["rail_height_mm"]


def bonnet_gap(read: Read, layout_yaw_deg: float) -> Any:
    """Highest point of the engine below the bonnet. [mm]"""
    return read["bonnet_height_mm"] - point_in_vehicle(read, layout_yaw_deg, read["top_back_mm"], 0.0, read["engine_top_mm"])[2]


def tilt_most(crosswise_tilt_max_deg: float) -> float:
    """Limit of tilt either way. [deg]"""
    return crosswise_tilt_max_deg


def tilt_least(crosswise_tilt_max_deg: float) -> float:
    """Limit of tilt either way. [deg]"""
    return -crosswise_tilt_max_deg


def places(inputs: Inputs) -> Iterator[Check]:
    """Attitude, ground and bonnet."""
    yaw = YAW_DEG[inputs.build.layout]
    bind = MappingProxyType({"layout_yaw_deg": yaw})
    settles = settles_at_sump(inputs)
    # The band of a shaft drive is for its joints and its oil; a transaxle or a chain wants the crank level.
    crosswise = abs(yaw) == 90.0 or inputs.options.get("drive") in ("chain", "half shafts") or inputs.options.get("final_drive_in") == "the gearbox"
    yield _check(
        "place", "inclination", "Inclination of the crank line", inclination, POSE, bind=bind, kind="angle",
        at_least=tilt_least if crosswise else "inclination_min_deg", at_most=tilt_most if crosswise else "inclination_max_deg",
        says="Crank line leans {value}, accessory end high; wants {limit}", fouls="Crank line leans {over}, accessory end low; wants {limit}",
        why="Oil has to reach its pick-up, and the shaft's joints work against this angle." if not crosswise else "Oil runs to one end of a tilted sump.",
    )  # fmt: skip
    yield _check(
        "place", "ground", "Ground clearance under the sump", ground_gap, (*POSE, "sump_mm", "sump_back_mm", "rail_height_mm"), bind=MappingProxyType({"layout_yaw_deg": yaw, "settles_mm": settles}), at_least="ground_gap_min_mm",
        says="Sump stands {value} above the ground" + (", squash of the mounts ({settles_mm}) taken off" if settles >= 0.05 else "") + "; needs {limit}", fouls="Sump reaches {over} into the ground", why="The sump is the lowest part most often, and oil is what it spills.",
    )  # fmt: skip
    if inputs.options.get("bonnet") == "none":
        return
    yield _check(
        "place", "bonnet", "Engine under the bonnet", bonnet_gap, (*POSE, "engine_top_mm", "top_back_mm", "bonnet_height_mm"), bind=bind, at_least="bonnet_gap_min_mm",
        says="Engine clears the bonnet by {value}; needs {limit}", fouls="Engine stands {over} through the bonnet", why="The unit rises under torque and the bonnet flutters.",
    )  # fmt: skip


def residual(read: Read, layout_yaw_deg: float) -> Any:
    """Distance of a measured point from where the pose puts it. [mm]"""
    at = point_in_vehicle(read, layout_yaw_deg, read["on_back"], read["on_left"], read["on_up"])
    return np.sqrt((at[0] + read["in_back"]) ** 2 + (at[1] - read["in_left"]) ** 2 + (at[2] - read["in_up"]) ** 2)


def point_checks(inputs: Inputs) -> Iterator[Check]:
    """Each measured point against the pose that all of them give, in its own doubt."""
    if inputs.options.get("pose_from") != "points":
        return
    try:
        fitted = pose_from_points(inputs.build, inputs.quantities)
    except NoPose:
        return
    numbers, _, u = measured_points(inputs.build, inputs.quantities)
    for n, far, ui in zip(numbers, fitted.residuals, u, strict=True):
        name = next(p.name for p in inputs.build.pose_points if p.n == n) or f"point {n}"
        yield _check(
            "place", f"point.{n}", f"Point {n} against the pose", plain.given, (), bind=MappingProxyType({"x": far, "u_mm": float(2.0 * ui)}), at_most=_residual_limit,
            says=f"Point {n}, {literal(name)}, lies {{value}} from where the pose puts it; allowed {{limit}}", why="A point that does not fit was misread, has moved, or is another point. Read it again before anything is cut.",
        )  # fmt: skip


def _residual_limit(u_mm: float, point_residual_factor: float) -> float:
    return point_residual_factor * u_mm


class OnMounts:
    """The functions of one set of mounts; made once for each set, so that kept answers stay kept."""

    def __init__(self, numbers: tuple[int, ...], behind_plate: frozenset[int], yaw: float, transaxle: bool) -> None:
        self.numbers, self.behind_plate, self.yaw, self.transaxle = numbers, behind_plate, yaw, transaxle

    @property
    def places(self) -> tuple[str, ...]:
        """What the weights on three mounts follow from: pose, mass and places."""
        thickness = ("separator_mm", "plate_mm") if self.behind_plate else ()
        return (*POSE, *m.MASS, *thickness, *(f"mounts.{n}.{f}" for n in self.numbers for f in m.PLACES))

    @property
    def rest_reads(self) -> tuple[str, ...]:
        """What the weights on more than three mounts, and every squash and movement, take: stiffness too."""
        return (*self.places, *(f"mounts.{n}.{f}" for n in self.numbers for f in m.SPRINGS))

    @property
    def torque_reads(self) -> tuple[str, ...]:
        """What the load cases take beside."""
        return ("engine_torque_nm", "first_gear_ratio", "reverse_ratio", *(("final_drive_ratio",) if self.transaxle else ()))

    @property
    def share_reads(self) -> tuple[str, ...]:
        return self.places if len(self.numbers) == 3 else self.rest_reads

    def _springs(self, read: Read) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        return once(read, (self, "springs"), lambda: m.stiffness(read, self.numbers, self.yaw, self.behind_plate))

    def _at_rest(self, read: Read) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        k, lever, springs = self._springs(read)
        return once(read, (self, "rest"), lambda: m.solve(k, m.weight_load(read))), lever, springs

    def share(self, i: int, read: Read) -> Any:
        """Share of the weight that mount ``i`` carries at rest; on three mounts by statics alone. [%]"""
        if len(self.numbers) == 3:
            return 100.0 * once(read, (self, "statics"), lambda: m.three_shares(m.arms(read, self.numbers, self.yaw, self.behind_plate)))[:, i]
        moved, lever, springs = self._at_rest(read)
        up = -springs[:, i, 2] * np.einsum("rk,rk->r", lever[:, i, 2], moved)
        return 100.0 * up / (np.asarray(read["unit_mass_kg"]) * m.GRAVITY)

    def squash(self, i: int, read: Read) -> Any:
        """How far mount ``i`` goes down under the weight. [mm]"""
        moved, lever, _ = self._at_rest(read)
        return -np.einsum("rk,rk->r", lever[:, i, 2], moved)

    def travel(self, i: int, read: Read, braking_g: float, cornering_g: float, bump_g: float) -> Any:
        """Largest movement at mount ``i`` from rest over the load cases. [mm]"""
        k, lever, _ = self._springs(read)
        moved = once(read, (self, braking_g, cornering_g, bump_g), lambda: m.solve(k, m.loads(read, self.yaw, self.transaxle, braking_g, cornering_g, bump_g)))
        return np.linalg.norm(np.einsum("rjk,crk->crj", lever[:, i], moved), axis=-1).max(axis=0)

    def bump_load(self, i: int, read: Read, bump_g: float) -> Any:
        """Load on mount ``i`` in the bump case. [N]"""
        k, lever, springs = self._springs(read)
        moved = m.solve(k, bump_g * m.weight_load(read))
        return np.linalg.norm(springs[:, i] * np.einsum("rjk,rk->rj", lever[:, i], moved), axis=-1)

    def modes(self, read: Read) -> tuple[np.ndarray, np.ndarray]:
        """All six natural frequencies [Hz] and each one's share of turn about the crank [-], shape (rows, 6)."""
        k, _, _ = self._springs(read)
        return m.modes_hz(k, read, self.yaw)

    def roll_mode(self, read: Read) -> Any:
        """Natural frequency of the mode with most turn about the crank, however the unit stands. [Hz]"""
        hertz, turn = self.modes(read)
        return np.take_along_axis(hertz, turn.argmax(axis=1)[:, None], axis=1)[:, 0]


def firing_limit(idle_rpm: Any, cylinders: Any, firings_per_turn: float, isolation_ratio: float) -> Any:
    """Highest roll mode that still isolates: firing frequency over sqrt(2). [Hz]

    rpm/60 x cylinders/2 for an even-firing four-stroke.
    """
    return idle_rpm / 60.0 * cylinders * firings_per_turn / isolation_ratio


_SETS: dict[tuple[tuple[int, ...], frozenset[int], float, bool], OnMounts] = {}


def on_mounts(inputs: Inputs) -> OnMounts | None:
    """The mounts of a build as one body of springs; None below three."""
    numbers = tuple(x.n for x in inputs.build.mounts)
    behind = frozenset(x.n for x in inputs.build.mounts if x.body == "gearbox")
    key = (numbers, behind, YAW_DEG[inputs.build.layout], inputs.options.get("final_drive_in") == "the gearbox")
    return _SETS.setdefault(key, OnMounts(*key)) if len(numbers) >= 3 else None


_BOUND: dict[tuple[OnMounts, str, int], Any] = {}


def _of_mount(body: OnMounts, name: str, i: int) -> Any:
    """A method of the body for one mount, as a function with a signature of its own, the same object each time."""
    if (body, name, i) not in _BOUND:
        method = getattr(body, name)

        def share_like(read: Read) -> Any:
            return method(i, read)

        def travel_like(read: Read, braking_g: float, cornering_g: float, bump_g: float) -> Any:
            return method(i, read, braking_g, cornering_g, bump_g)

        def bump_like(read: Read, bump_g: float) -> Any:
            return method(i, read, bump_g)

        _BOUND[(body, name, i)] = {"travel": travel_like, "bump_load": bump_like}.get(name, share_like)
    return _BOUND[(body, name, i)]


def slot_left(slot_mm: Any, slot_at_mm: Any) -> Any:
    """Slot left on the shorter side. [mm]"""
    return slot_mm / 2.0 - np.abs(slot_at_mm)


@dataclass(frozen=True)
class _Held:
    """What of a mount decides which checks are asked of it."""

    n: int
    name: str
    has_travel: bool
    has_rating: bool
    has_slot: bool


def mount_checks(inputs: Inputs) -> tuple[Check, ...]:
    """Share, squash, movement, load, isolation, slots."""
    body = on_mounts(inputs)
    if body is None:
        return ()
    held = tuple(_Held(x.n, x.name, bool(x.travel), bool(x.rating), bool(x.slot)) for x in inputs.build.mounts)
    return _mount_checks(body, held, inputs.options.get("mount_type") == "stiff", inputs.options.get("strokes") == "two-stroke")


@lru_cache(maxsize=32)  # a trial moves the unit and leaves its mounts as they are
def _mount_checks(body: OnMounts, held: tuple[_Held, ...], stiff: bool, two_stroke: bool) -> tuple[Check, ...]:
    return tuple(_each_mount(body, held, stiff, two_stroke))


def _each_mount(body: OnMounts, held: tuple[_Held, ...], stiff: bool, two_stroke: bool) -> Iterator[Check]:
    for i, mount in enumerate(held):
        name = f"Mount {mount.n}" + (f", {mount.name}," if mount.name else "")
        yield _check("mounts", f"share.{mount.n}", f"Weight on mount {mount.n}", _of_mount(body, "share", i), body.share_reads, at_least="mount_share_min", kind="percent", caution=HUNG,
                     says=f"{literal(name)} carries {{value}} of the weight; needs {{limit}}", fouls=f"{literal(name)} is lifted by {{over}} of the weight", why="A mount that carries nothing rattles, and its bracket is made for nothing.")  # fmt: skip
        yield _check("mounts", f"squash.{mount.n}", f"Squash of mount {mount.n}", _of_mount(body, "squash", i), body.rest_reads, at_most="mount_static_max_mm",
                     says=f"{literal(name)} goes down {{value}} under the weight; at most {{limit}}", fouls=f"{literal(name)} rises {{over}} under the weight", why="Every gap is read after the rubber is loaded: this is by how much it changes.")  # fmt: skip
        allowed: Any = "mount_travel_max_mm"
        bind: dict[str, Any] = {}
        if mount.has_travel:
            allowed, bind = plain.given, {"x": f"mounts.{mount.n}.travel"}
        yield _check("mounts", f"travel.{mount.n}", f"Movement at mount {mount.n}", _of_mount(body, "travel", i), (*body.rest_reads, *body.torque_reads), at_most=allowed, bind=MappingProxyType(bind),
                     says=f"{literal(name)} moves {{value}} at most over torque, braking, bends and bump; allowed {{limit}}", why="Rubber tears and hard parts meet.")  # fmt: skip
        if mount.has_rating:
            yield _check("mounts", f"load.{mount.n}", f"Load on mount {mount.n} in a bump", _of_mount(body, "bump_load", i), body.rest_reads, at_most=plain.given, bind=MappingProxyType({"x": f"mounts.{mount.n}.rating"}), kind="force", safety=True, caution=WELD,
                         says=f"{literal(name)} carries {{value}} in a bump; rated {{limit}}", why="Screening of the rubber only: bracket and frame are for a competent person.")  # fmt: skip
        if mount.has_slot:
            yield _check("mounts", f"slot.{mount.n}", f"Slot left at mount {mount.n}", slot_left, (), bind=MappingProxyType({"slot_mm": f"mounts.{mount.n}.slot", "slot_at_mm": f"mounts.{mount.n}.slot_at"}), at_least="slot_left_min_mm",
                         says=f"{literal(name)} has {{value}} of slot left; needs {{limit}}", fouls=f"{literal(name)} stands {{over}} beyond the end of its slot", why="A slot at its end cannot be adjusted any more. Start in the middle.")  # fmt: skip
    if stiff:
        return  # stiff mounts promise no isolation
    firings = 1.0 if two_stroke else 0.5
    yield _check("mounts", "isolation", "Roll of the unit against its firing", body.roll_mode, (*body.rest_reads, *m.GYRATION), at_most=firing_limit, kind="frequency", bind=MappingProxyType({"firings_per_turn": firings}),
                 says="Unit turns about its crank at {value} on its mounts; firing at idle wants it below {limit}", why="Of its six modes the one with most turn about the crank takes the firing. Above that the mounts pass on more than solid ones would. Even firing is assumed.")  # fmt: skip


def checks(inputs: Inputs) -> Iterable[Check]:
    """All checks of the station."""
    yield from places(inputs)
    yield from point_checks(inputs)
    yield from mount_checks(inputs)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What keeps the station's checks from being asked."""
    if inputs.options.get("pose_from") == "points":
        try:
            pose_from_points(inputs.build, inputs.quantities)
        except NoPose as error:
            yield notice(
                "seat.points",
                "seat.place",
                "Pose from points",
                Verdict.UNMEASURED,
                f"Pose from points: {error}",
                why="Three points that are not in one line fix the pose; a fourth tells a misreading.",
            )
    if len(inputs.build.mounts) < 3:
        text = f"Mounts: {len(inputs.build.mounts)} of 3 are entered, and three at least hold a unit"
        yield notice("seat.mounts", "seat.mounts", "Mounts", Verdict.UNMEASURED, text, why="Until the mounts are known nobody can say how far the unit moves.")


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
    wanted = () if body is None else (*body.rest_reads, *body.torque_reads)
    if body is None or any(inputs.value(a) is None for a in wanted):
        return None
    read = {a: inputs.quantities[a].value for a in wanted}
    k, _, _ = m.stiffness(read, body.numbers, body.yaw, body.behind_plate)
    r = inputs.rules
    cases = m.solve(k, m.loads(read, body.yaw, body.transaxle, r["braking_g"], r["cornering_g"], r["bump_g"]))[:, 0]
    squash = m.solve(k, m.weight_load(read))[0]
    centre = np.array([float(np.asarray(c)) for c in point_in_vehicle(read, body.yaw, read["mass_back_mm"], read["mass_left_mm"], read["mass_up_mm"])])
    return None if np.isnan(cases).any() or np.isnan(squash).any() else Movement(cases, squash, centre)


def movement_known(inputs: Inputs) -> Movement | None:
    """The unit's movement; None until it is known. Kept with the inputs."""
    if "movement" not in inputs.memo:
        inputs.memo["movement"] = _movement(inputs)
    found: Movement | None = inputs.memo["movement"]
    return found


def _at_points(moved: np.ndarray, centre: np.ndarray, at: np.ndarray) -> np.ndarray:
    """Movement of points of a rigid body, shape (..., n, 3). [mm]"""
    return moved[..., None, :3] + np.cross(moved[..., None, 3:], at - centre)


def movement_at(inputs: Inputs, at: np.ndarray) -> np.ndarray | None:
    """Movement of points of the unit from rest in each load case, shape (cases, n, 3); None until it is known. [mm]

    ``at`` are places in the vehicle, shape (n, 3). [mm]
    """
    known = movement_known(inputs)
    return None if known is None else _at_points(known.cases, known.centre, at)


def most_movement(inputs: Inputs) -> float:
    """The most that any named place of the unit moves in any load case; 0 until it is known. [mm]"""
    v = inputs.value
    length, top, sump, box = v("engine_length_mm") or 0.0, v("engine_top_mm") or 0.0, v("sump_mm") or 0.0, v("gearbox_length_mm") or 0.0
    if movement_known(inputs) is None or any(v(key) is None for key in POSE):
        return 0.0
    pose = {key: v(key) for key in POSE}
    ends = [(b, 0.0, u) for b in (-length, 0.0) for u in (top, -sump)] + [(box, 0.0, 0.0)]
    at = np.array([[float(np.asarray(c)) for c in point_in_vehicle(pose, YAW_DEG[inputs.build.layout], *p)] for p in ends])
    moved = movement_at(inputs, at)
    return 0.0 if moved is None else float(np.linalg.norm(moved, axis=-1).max())


def pose_is_loaded(inputs: Inputs) -> bool:
    """Whether the pose was read with the weight on the mounts: then their squash is in it already."""
    return all(q.source in TAKEN_WITH_A_TOOL and q.state.position == Position.RESTING_LOADED for key in POSE if (q := inputs.quantities[key]).value is not None)


def squash_at(inputs: Inputs, at: np.ndarray) -> np.ndarray | None:
    """How far points of the unit still go as the weight comes on the mounts, shape (n, 3); None where it is in the pose or not known. [mm]"""
    known = movement_known(inputs)
    return None if known is None or pose_is_loaded(inputs) else _at_points(known.squash, known.centre, at)


def settles_at_sump(inputs: Inputs) -> float:
    """How far the lowest point of the sump still goes down under the weight; 0 where it is not known. [mm]"""
    wanted = (*POSE, "sump_mm", "sump_back_mm")
    if movement_known(inputs) is None or any(inputs.value(a) is None for a in wanted):
        return 0.0
    read = {a: inputs.quantities[a].value for a in wanted}
    at = np.array([[float(np.asarray(c)) for c in point_in_vehicle(read, YAW_DEG[inputs.build.layout], read["sump_back_mm"], 0.0, -(read["sump_mm"] or 0.0))]])
    moved = squash_at(inputs, at)
    return 0.0 if moved is None else max(0.0, -float(moved[0, 2]))
