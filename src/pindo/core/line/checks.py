"""The checks of the Line station, by the kind of drive."""

import itertools
import math
from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import lru_cache, partial
from types import MappingProxyType
from typing import Any

import numpy as np

from pindo.core import plain
from pindo.core.check import Check
from pindo.core.dimensions import SHAFTS
from pindo.core.frames import POSE, YAW_DEG, Vector, angle_deg, direction_in_vehicle, length_of, minus, point_in_vehicle
from pindo.core.line import chain, joints
from pindo.core.line.travel import READS, SIDE_READS, guide, sideways
from pindo.core.notice import notice
from pindo.core.read import once
from pindo.core.resolve import Inputs
from pindo.core.verdict import Finding, Verdict

REST = MappingProxyType({"ride": frozenset({"rest"}), "position": frozenset({"resting loaded", "stand", "bench"})})
SPIN = "A shaft that lets go goes through the floor. Guards on, shaft balanced by a maker, nobody in its plane."
STOPS = 9  # places over the axle's travel at which angles and slip are asked
FLAT_DEG = 1.0  # joints whose planes differ by less count as lying in one plane
Read = Mapping[str, Any]

OUTPUT = (*POSE, "separator_mm", "plate_mm", "gearbox_length_mm", "output_left_mm", "output_up_mm")
CENTRE = ("centre_bearing_back_mm", "centre_bearing_left_mm", "centre_bearing_drop_mm")
PINION = ("wheelbase_mm", "pinion_forward_mm", "pinion_drop_mm", "pinion_left_mm", "pinion_angle_deg", "pinion_turn_deg")


def _check(question: str, id: str, title: str, value: Callable[..., Any], reads: tuple[str, ...] = (), **rest: Any) -> Check:
    rest.setdefault("accepts", REST)
    return Check(id=f"line.{id}", question=f"line.{question}", title=title, value=value, reads=reads, **rest)


def output_joint(read: Read, yaw: float) -> Vector:
    """Centre of the gearbox's output joint in the vehicle. [mm]"""
    back = read["separator_mm"] + read["plate_mm"] + read["gearbox_length_mm"]
    return point_in_vehicle(read, yaw, back, read["output_left_mm"], read["output_up_mm"])


def rises(read: Read, stops: int = STOPS) -> np.ndarray:
    """Places of the axle from droop to bump, shape (stops, *shape of what is read). [mm]"""
    deep = max(np.ndim(v) for v in read.values())
    share = np.linspace(0.0, 1.0, stops).reshape(-1, *(1,) * deep)
    return np.asarray(-read["droop_mm"] + (read["droop_mm"] + read["bump_mm"]) * share)


class Shaft:
    """A shaft drive of one kind: its joints and axes as functions of what is read. Made once for each kind."""

    def __init__(self, drive: str, guided: str, turns: bool, yaw: float) -> None:
        self.two = drive == "two-piece shaft"
        self.guided, self.turns, self.yaw = guided, turns, yaw
        self.reads = (*OUTPUT, *(CENTRE if self.two else ()), *PINION)
        self.yokes = ("front_yoke_phase_deg", "yoke_phase_deg") if self.two else ("yoke_phase_deg",)
        self.travel_reads = (*self.reads, "axle_drop_mm", "bump_mm", "droop_mm", *READS.get(guided, ()))
        self.count = 3 if self.two else 2

    def places(self, read: Read, rise_mm: Any = None, radius_share: float = math.nan) -> list[Vector]:
        """Joint centres from engine to axle at a rise of the axle; at ride height, without the guide, where none is given. [mm]"""
        shift, turn = self._moved(read, rise_mm, radius_share)
        rise_mm = 0.0 if rise_mm is None else rise_mm
        ahead, drop = read["pinion_forward_mm"], read["pinion_drop_mm"]
        # The guide holds the axle's centre; the joint rides on the axle with its reach and height and turns with it, nose up.
        height = read["axle_drop_mm"] - drop if "axle_drop_mm" in read else 0.0
        c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
        pinion = (-read["wheelbase_mm"] + shift + ahead * c - height * s, read["pinion_left_mm"], -drop - height + rise_mm + ahead * s + height * c)
        found = [output_joint(read, self.yaw)]
        if self.two:
            found.append((-read["centre_bearing_back_mm"], read["centre_bearing_left_mm"], -read["centre_bearing_drop_mm"]))
        return [*found, pinion]

    def _moved(self, read: Read, rise_mm: Any, radius_share: float) -> tuple[Any, Any]:
        if rise_mm is None or not self.guided:
            return 0.0, 0.0
        shift, turn = guide(self.guided, rise_mm, read, radius_share)
        return shift, turn if self.turns else 0.0 * turn

    def axes(self, read: Read, rise_mm: Any = None, radius_share: float = math.nan) -> list[Vector]:
        """Directions of all shafts, rearwards: gearbox output, the pieces, the pinion."""
        return once(read, (self, "axes"), lambda: self._axes(read, None, math.nan)) if rise_mm is None else self._axes(read, rise_mm, radius_share)

    def _axes(self, read: Read, rise_mm: Any, radius_share: float) -> list[Vector]:
        at = self.places(read, rise_mm, radius_share)
        _, turn = self._moved(read, rise_mm, radius_share)
        up, side = np.radians(read["pinion_angle_deg"] + turn), np.radians(read["pinion_turn_deg"])
        pinion = (-np.cos(up) * np.cos(side), -np.sin(side) * np.cos(up), -np.sin(up))
        return [direction_in_vehicle(read, self.yaw, (-1.0, 0.0, 0.0)), *(minus(b, a) for a, b in itertools.pairwise(at)), pinion]

    def angle(self, i: int, read: Read) -> Any:
        """Angle of joint ``i`` at ride height. [deg]"""
        axes = self.axes(read)
        return angle_deg(axes[i], axes[i + 1])

    def ends(self, read: Read) -> Any:
        """Difference of the two end joints' angles, of the piece that slides. [deg]"""
        axes = self.axes(read)
        return angle_deg(axes[-2], axes[-1]) - angle_deg(axes[-3], axes[-2])

    def wobble(self, upto: int, coast: bool, read: Read) -> Any:
        """beta_eq² of the first ``upto`` joints, from the driving end; coasting from the axle's. [rad²]"""
        axes = self.axes(read)
        bends, phases = once(read, (self, "bends", coast), lambda: self.phased(axes, read, coast))
        return joints.equivalent_bend(bends[:upto], phases[:upto])

    def phased(self, axes: list[Vector], read: Read, coast: bool = False) -> tuple[list[Any], list[Any]]:
        """Bends and phases of the joints with the yokes as they stand, from the driving end."""
        yokes = [read[a] for a in self.yokes]
        if coast:
            return joints.bends_and_phases([tuple(-x for x in a) for a in reversed(axes)], yokes[::-1])
        return joints.bends_and_phases(axes, yokes)

    def length(self, read: Read) -> Any:
        """Joint to joint of the last piece at ride height. [mm]"""
        return self.piece(self.count - 2, read)

    def piece(self, i: int, read: Read) -> Any:
        """Joint to joint of piece ``i`` at ride height. [mm]"""
        at = self.places(read)
        return length_of(minus(at[i + 1], at[i]))

    def slip_range(self, read: Read, spring_radius_share: float) -> tuple[Any, Any]:
        """Most shortening and most lengthening of the last piece over the travel. [mm]"""
        at = self.places(read, rises(read), spring_radius_share)
        change = length_of(minus(at[-1], at[-2])) - self.length(read)
        return -change.min(axis=0), change.max(axis=0)


@lru_cache(maxsize=64)
def shaft(drive: str, guided: str, turns: bool, yaw: float) -> Shaft:
    """The shaft drive of that kind, the same object each time."""
    return Shaft(drive, guided, turns, yaw)


def shaft_of(inputs: Inputs) -> Shaft | None:
    """The shaft drive of a build; None for other drives."""
    o = inputs.options
    if o.get("drive") not in SHAFTS:
        return None
    guided = o.get("axle_guide", "")
    return shaft(o["drive"], guided if guided in READS else "", o.get("axle_attitude") == "turns with its guide", YAW_DEG[inputs.build.layout])


@lru_cache(maxsize=256)
def _bound(body: Shaft, name: str, *fixed: Any) -> Callable[..., Any]:
    """A method of a shaft with its first arguments set, as a function of what a check reads."""
    method = getattr(body, name)

    def value(read: Read) -> Any:
        return method(*fixed, read)

    return value


@lru_cache(maxsize=256)
def _slip(body: Shaft, outwards: bool) -> Callable[..., Any]:
    def left(read: Read, spring_radius_share: float) -> Any:
        shorter, longer = body.slip_range(read, spring_radius_share)
        return read["slip_out_mm"] - longer if outwards else read["slip_in_mm"] - shorter

    return left


@lru_cache(maxsize=256)
def _excited(body: Shaft, upto: int, coast: bool) -> Callable[..., Any]:
    def value(read: Read, shaft_speed_rpm: Any) -> Any:
        return joints.excitation(body.wobble(upto, coast, read), shaft_speed_rpm)

    return value


@lru_cache(maxsize=64)
def _critical(body: Shaft) -> Callable[..., Any]:
    def value(read: Read, tube_od_mm: Any, tube_wall_mm: Any, steel_modulus_gpa: float, steel_density: float, critical_share: float) -> Any:
        at = body.places(read)
        longest = np.max(np.stack(np.broadcast_arrays(*(length_of(minus(b, a)) for a, b in itertools.pairwise(at)))), axis=0)
        return critical_share * joints.critical_rpm(longest, tube_od_mm, tube_wall_mm, steel_modulus_gpa, steel_density)

    return value


def _equal_least(joint_equal_max_deg: float) -> float:
    return -joint_equal_max_deg


def _given_speed(shaft_speed_rpm: Any) -> Any:
    return shaft_speed_rpm


@lru_cache(maxsize=64)
def shaft_checks(body: Shaft, one_plane: bool) -> tuple[Check, ...]:
    """Angles, equality, excitation, critical speed, slip; the same objects each time."""
    return tuple(_each_of_shaft(body, one_plane))


def _each_of_shaft(body: Shaft, one_plane: bool) -> Iterator[Check]:
    names = ["at the gearbox", "at the centre bearing", "at the axle"] if body.two else ["at the gearbox", "at the axle"]
    for i, name in enumerate(names):
        yield _check(
            "angles", f"angle.{i + 1}", f"Joint angle {name}", _bound(body, "angle", i), body.reads, at_least="joint_angle_min_deg", at_most=joints.angle_limit_deg, kind="angle", caution=SPIN,
            says=f"Joint {i + 1}, {name}, stands at {{value}}; wants {{limit}} at this speed", why="A joint at too great an angle wears and drones; one that stands straight dents its needles. The limit falls with speed.",
        )  # fmt: skip
    if one_plane:
        yield _check(
            "angles", "equal", "Angles at both ends of the shaft", _bound(body, "ends"), body.reads, at_least=_equal_least, at_most="joint_equal_max_deg", kind="angle",
            says="End angles differ by {value}; allowed {limit}", fouls="End angles differ by {value}; allowed {limit}", why="Equal angles in one plane cancel each other's wobble. Raise or lower the pinion's nose, or one end.",
        )  # fmt: skip
    speed: dict[str, Any] = {"kind": "acceleration", "caution": SPIN}
    yield _check("angles", "torsional", "Torsional excitation at the axle", _excited(body, body.count, False), (*body.reads, *body.yokes), at_most="torsional_max", **speed,
                 says="All joints together excite {value} at full speed; at most {limit}", why="What the joints do not cancel reaches the axle as twice-per-turn torque: gears rattle, the cab drones.")  # fmt: skip
    for coast, words in ((False, "drive"), (True, "coast")):
        yield _check("angles", f"inertial_{words}", f"Inertial excitation in {words}", _excited(body, body.count - 1, coast), (*body.reads, *body.yokes), at_most=f"inertial_{words}_max", **speed,
                     says=f"The shaft itself is shaken by {{value}} in {words}; at most {{limit}}", why="The piece between two joints turns unevenly even where the ends cancel; its own mass shakes its neighbours.")  # fmt: skip
    yield _check("angles", "critical", "Critical speed of the longest piece", _critical(body), body.reads, at_least=_given_speed, kind="speed", caution=SPIN, safety=True,
                 says="Longest piece may turn {value} (three quarters of its critical speed); it will turn {limit}", why="A shaft near its critical speed bows out and beats itself apart. Screening only: the shaft maker decides.")  # fmt: skip
    if body.guided:
        for outwards, side, dim in ((False, "inwards", "slip_in_mm"), (True, "outwards", "slip_out_mm")):
            yield _check("travel", f"slip_{side}", f"Slip left {side} over the travel", _slip(body, outwards), (*body.travel_reads, dim), at_least="slip_spare_mm",
                         says=f"Slip has {{value}} left {side} over the axle's travel; needs {{limit}}", fouls=f"Slip runs {{over}} beyond its end {side}", why="A slip that bottoms pushes gearbox or axle apart; one that pulls out drops the shaft.")  # fmt: skip


def _in_one_plane(inputs: Inputs, body: Shaft) -> bool:
    if any(inputs.value(a) is None for a in (*body.reads, *body.yokes)):
        return True
    read = {a: inputs.quantities[a].value for a in (*body.reads, *body.yokes)}
    bends, phases = body.phased(body.axes(read), read)
    twist = (np.degrees(phases[-1] - phases[-2]) + 90.0) % 180.0
    return bool(min(twist, 180.0 - twist) < FLAT_DEG or min(np.degrees(bends[-1]), np.degrees(bends[-2])) < FLAT_DEG)


HALF = (*POSE, "separator_mm", "plate_mm", "gearbox_length_mm", "output_left_mm", "output_up_mm", "inner_joint_half_mm", "outer_joint_left_mm", "outer_joint_drop_mm", "driven_axle_back_mm")


class HalfShafts:
    """Both half shafts of a transaxle, wheels on their own guide."""

    def __init__(self, guided: str, sideways: str, yaw: float) -> None:
        self.guided, self.sideways, self.yaw = guided, sideways, yaw
        self.reads = HALF
        self.travel_reads = (*HALF, "bump_mm", "droop_mm", *READS.get(guided, ()), *SIDE_READS.get(sideways, ()))

    def ends(self, left: bool, read: Read, rise_mm: Any = None, radius_share: float = math.nan) -> tuple[Vector, Vector]:
        """Inner and outer joint centre of one side at a rise of the wheel. [mm]"""
        sign = 1.0 if left else -1.0
        shift, _ = guide(self.guided, rise_mm, read, radius_share) if self.guided and rise_mm is not None else (0.0, 0.0)
        inboard = sideways(self.sideways, rise_mm, read) if self.sideways and rise_mm is not None else 0.0
        rise_mm = 0.0 if rise_mm is None else rise_mm
        middle = output_joint(read, self.yaw)
        across = direction_in_vehicle(read, self.yaw, (0.0, 1.0, 0.0)) if self.yaw in (0.0, 180.0) else direction_in_vehicle(read, self.yaw, (1.0, 0.0, 0.0))
        # The unit's own left may be the vehicle's right: the joint on the asked side is the one that stands there.
        way = sign * np.sign(across[1])
        inner = tuple(a + way * read["inner_joint_half_mm"] * d for a, d in zip(middle, across, strict=True))
        outer = (shift - read["driven_axle_back_mm"], sign * (read["outer_joint_left_mm"] - inboard), rise_mm - read["outer_joint_drop_mm"])
        return inner, outer

    def angle(self, left: bool, read: Read, radius_share: float) -> Any:
        """Largest angle between half shaft and the axle line over the travel. [deg]"""
        a, b = self.ends(left, read, rises(read), radius_share)
        return angle_deg(minus(b, a), (0.0, 1.0, 0.0)).max(axis=0)

    def length(self, left: bool, read: Read) -> Any:
        """Joint to joint of one side at ride height. [mm]"""
        return length_of(minus(*self.ends(left, read)))

    def plunge(self, left: bool, read: Read, radius_share: float) -> tuple[Any, Any]:
        """Most shortening and lengthening over the travel. [mm]"""
        change = length_of(minus(*self.ends(left, read, rises(read), radius_share))) - self.length(left, read)
        return -change.min(axis=0), change.max(axis=0)


@lru_cache(maxsize=64)
def half_shafts(guided: str, sideways: str, yaw: float) -> HalfShafts:
    """The half shafts of that kind, the same object each time."""
    return HalfShafts(guided, sideways, yaw)


def half_shafts_of(inputs: Inputs) -> HalfShafts | None:
    """The half shafts of a build; None for other drives."""
    o = inputs.options
    if o.get("drive") != "half shafts":
        return None
    guided, across = o.get("axle_guide", ""), o.get("wheel_guide", "")
    return half_shafts(guided if guided in READS else "", across if across in SIDE_READS else "", YAW_DEG[inputs.build.layout])


@lru_cache(maxsize=64)
def _half(body: HalfShafts, left: bool, what: str) -> Callable[..., Any]:
    def value(read: Read, spring_radius_share: float) -> Any:
        if what == "angle":
            return body.angle(left, read, spring_radius_share)
        shorter, longer = body.plunge(left, read, spring_radius_share)
        return read["plunge_in_mm"] - shorter if what == "in" else read["plunge_out_mm"] - longer

    return value


def half_shaft_checks(body: HalfShafts) -> Iterator[Check]:
    """Angle and plunge of both half shafts over the travel; none until it is said what guides the wheels both ways."""
    for left in (True, False):
        side = "left" if left else "right"
        yield _check("travel", f"half_angle.{side}", f"Half shaft angle, {side}", _half(body, left, "angle"), body.travel_reads, at_most="cv_angle_max_deg", kind="angle",
                     says=f"{side.capitalize()} half shaft reaches {{value}} over the travel; at most {{limit}}", why="Joints heat, wear and let go beyond their angle.")  # fmt: skip
        for way, dim, words in (("in", "plunge_in_mm", "inwards"), ("out", "plunge_out_mm", "outwards")):
            yield _check("travel", f"plunge_{way}.{side}", f"Plunge left {words}, {side}", _half(body, left, way), (*body.travel_reads, dim), at_least="plunge_spare_mm",
                         says=f"{side.capitalize()} joint has {{value}} of plunge left {words}; needs {{limit}}", fouls=f"{side.capitalize()} joint runs {{over}} beyond its end {words}", why="A joint that bottoms breaks its cage; one that parts drops the shaft.")  # fmt: skip


CHAIN_STATES = MappingProxyType({"position": frozenset({"resting loaded", "resting loose", "stand", "bench"})})
CENTRES = (*POSE, "sprocket_back_mm", "sprocket_left_mm", "sprocket_up_mm", "driven_axle_back_mm", "axle_drop_mm")
SPROCKETS = ("chain_pitch_mm", "driver_teeth", "driven_teeth")


class ChainDrive:
    """A chain from the engine to the driven axle: where its sprockets stand follows from the pose, or was read on the vehicle."""

    def __init__(self, yaw: float, centre_read: bool, plane_read: bool) -> None:
        self.yaw, self.centre_read, self.plane_read = yaw, centre_read, plane_read
        self.centre_reads = ("chain_centre_mm",) if centre_read else CENTRES
        self.plane_reads = ("driver_plane_mm",) if plane_read else (*POSE, "sprocket_back_mm", "sprocket_left_mm", "sprocket_up_mm")

    def _driver(self, read: Read) -> Vector:
        return point_in_vehicle(read, self.yaw, read["sprocket_back_mm"], read["sprocket_left_mm"], read["sprocket_up_mm"])

    def centre(self, read: Read) -> Any:
        """Centre distance of the sprockets, seen along the driven axle. [mm]"""
        if self.centre_read:
            return read["chain_centre_mm"]
        x, _, z = self._driver(read)
        return np.hypot(x + read["driven_axle_back_mm"], z + read["axle_drop_mm"])

    def driver_plane(self, read: Read) -> Any:
        """Driver sprocket left of the centre plane. [mm]"""
        return read["driver_plane_mm"] if self.plane_read else self._driver(read)[1]

    def plane_angle(self, read: Read, driven_plane_mm: Any) -> Any:
        """Angle of the chain off the sprockets' plane, over its free span. [deg]"""
        span = chain.free_span(self.centre(read), *(read[a] for a in SPROCKETS))
        return chain.plane_angle_deg(self.driver_plane(read), driven_plane_mm, span)

    def take_up_left(self, read: Read, take_up_mm: Any, chain_links: Any) -> Any:
        """Take-up left after the chain is straight. [mm]"""
        return chain.take_up_left(take_up_mm, chain_links, read["chain_pitch_mm"], self.centre(read), read["driver_teeth"], read["driven_teeth"])

    def length(self, read: Read) -> Any:
        """Chain length in pitches [-]."""
        return chain.length_pitches(self.centre(read), *(read[a] for a in SPROCKETS))


@lru_cache(maxsize=32)
def _chain_drive(yaw: float, centre_read: bool, plane_read: bool) -> ChainDrive:
    return ChainDrive(yaw, centre_read, plane_read)


def chain_of(inputs: Inputs) -> ChainDrive | None:
    """The chain of a build; None for other drives. A reading on the vehicle stands in place of the sum until the unit moves."""
    if inputs.options.get("drive") != "chain":
        return None

    def as_read(address: str, sprocket: str) -> bool:
        # With neither, the reading is what is asked for: it is one, the sum takes many.
        return inputs.value(address) is not None or inputs.value(sprocket) is None

    return _chain_drive(YAW_DEG[inputs.build.layout], as_read("chain_centre_mm", "sprocket_back_mm"), as_read("driver_plane_mm", "sprocket_back_mm"))


def chain_checks(drive: ChainDrive) -> Iterator[Check]:
    """Length, take-up, plane, speed, hub."""
    yield _check("chain", "chain_even", "Chain, even number of pitches", chain.odd_pitches, at_most=plain.zero, kind="count", accepts=CHAIN_STATES,
                 says="Chain has {chain_links} pitches; an even number wants no cranked link", fouls="", why="An odd number needs a cranked link, the weakest of the chain.")  # fmt: skip
    yield _check("chain", "chain_take_up", "Take-up left for the chain", drive.take_up_left, (*drive.centre_reads, *SPROCKETS), at_least=plain.zero, accepts=CHAIN_STATES,
                 says="Engine slides to where the chain is straight with {value} of take-up left", fouls="Chain misses the range of the take-up by {over}", why="A chain that cannot be tightened jumps; one that cannot be slackened does not go on.")  # fmt: skip
    yield _check("chain", "chain_plane", "Sprockets in one plane", drive.plane_angle, tuple(dict.fromkeys((*drive.plane_reads, *drive.centre_reads, *SPROCKETS))), at_most="chain_offset_max_deg", kind="angle", accepts=CHAIN_STATES,
                 says="Chain runs {value} off its plane; at most {limit}", why="A chain out of plane climbs its teeth and throws itself off.")  # fmt: skip
    yield from CHAIN


CHAIN = (
    _check("chain", "road_speed", "Road speed with the clutch locked", chain.road_speed_kmh, at_most=plain.given, kind="road speed", bind=MappingProxyType({"x": "road_speed_most"}), accepts=CHAIN_STATES,
           says="At governed speed it runs {value}; at most {limit}", why="Gearing decides what brakes and track must stand. A worn engine or a slipping clutch proves nothing.", caution="Brakes are proved before motion."),
    _check("chain", "hub_on_shaft", "Clutch hub on its shaft", plain.given, at_least=chain.hub_wanted, bind=MappingProxyType({"x": "clutch_on_shaft_mm"}), safety=True, accepts=CHAIN_STATES,
           says="Clutch hub sits {value} on shaft and key; the key wants {limit}", why="A clutch on the end of its shaft shears its key or its shaft. Screening only.", caution="Guards on before it turns; nobody in its plane."),
)  # fmt: skip


def checks(inputs: Inputs) -> Iterable[Check]:
    """All checks of the station for the drive that the build has."""
    if (body := shaft_of(inputs)) is not None:
        yield from shaft_checks(body, _in_one_plane(inputs, body))
    elif (half := half_shafts_of(inputs)) is not None:
        if half.sideways and half.guided:
            yield from half_shaft_checks(half)
    elif (chained := chain_of(inputs)) is not None:
        yield from chain_checks(chained)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What keeps the station's checks from being asked."""
    drive = inputs.options.get("drive", "")
    if not drive:
        yield notice(
            "line.drive",
            "line.angles",
            "Drive",
            Verdict.UNMEASURED,
            "Drive: say whether it is one shaft, two pieces, half shafts or a chain",
            why="The kind of drive decides which angles and lengths are asked.",
        )
    elif drive != "chain" and inputs.options.get("axle_guide", "") not in READS:
        yield notice(
            "line.guide",
            "line.travel",
            "Axle guide",
            Verdict.UNMEASURED,
            "Axle guide: say what guides the axle, and slip over its travel can be told",
            why="Slip and angles at bump and droop follow from the guide.",
        )
    if drive == "half shafts" and inputs.options.get("wheel_guide", "") not in SIDE_READS:
        yield notice(
            "line.wheel_guide",
            "line.travel",
            "Wheel guide",
            Verdict.UNMEASURED,
            "Wheel guide: say what guides the wheels sideways, and angle and plunge over the travel can be told",
            why="A wheel on arms goes inboard as it rises: the half shaft's plunge is mostly that.",
        )


def orders(inputs: Inputs) -> list[tuple[str, float, float]]:
    """Lengths that are ordered or cut from this station: name, value, ± [mm]."""
    found = []
    body = shaft_of(inputs)
    if body is not None and all(inputs.value(a) is not None for a in body.reads):
        at = body.places({a: inputs.quantities[a].value for a in body.reads})
        for i, (a, b) in enumerate(itertools.pairwise(at)):
            name = ("front piece" if i == 0 else "rear piece") if body.two else "shaft"
            found.append((f"Shaft, {name}, joint to joint", float(length_of(minus(b, a))), _doubt(inputs, body.reads, partial(body.piece, i))))
    half = half_shafts_of(inputs)
    if half is not None and all(inputs.value(a) is not None for a in half.reads):
        read = {a: inputs.quantities[a].value for a in half.reads}
        for left, side in ((True, "left"), (False, "right")):
            length = partial(half.length, left)
            found.append((f"Half shaft, {side}, joint to joint", float(length(read)), _doubt(inputs, half.reads, length)))
    drive = chain_of(inputs)
    wanted = () if drive is None else (*drive.centre_reads, *SPROCKETS)
    if drive is not None and all(inputs.value(a) is not None for a in wanted) and all(inputs.value(a) for a in SPROCKETS):
        read = {a: inputs.quantities[a].value for a in wanted}
        found.append(("Chain, length in pitches", float(drive.length(read)), _doubt(inputs, wanted, drive.length)))
    return found


def _doubt(inputs: Inputs, reads: tuple[str, ...], length: Callable[[Read], Any]) -> float:
    """± of a length at ride height: central differences over one standard uncertainty, U = 2 u. [mm]"""
    quantities = [inputs.quantities[a] for a in reads]
    nominal: dict[str, Any] = {q.address: q.value for q in quantities}
    changes = [(float(length(nominal | {q.address: (q.value or 0.0) + q.u})) - float(length(nominal | {q.address: (q.value or 0.0) - q.u}))) / 2.0 for q in quantities if q.pm > 0.0]
    return 2.0 * math.hypot(*changes)
