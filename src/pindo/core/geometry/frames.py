"""Axes, poses, stations and face views, and the names of ends and sides.

Vehicle frame: ISO 8855 axes, x forward, y left, z up. Powertrain frame: origin where the crank axis
meets the block's rear face, x along the crank to the accessory end, y left, z up with the engine
upright. Face view: seen from behind the engine looking forward, u right, v up. Station s: mm
rearwards from the block's rear face. Clocking is positive clockwise in the face view, which is
roll's right-handed sense.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

import numpy as np

YAW_DEG = MappingProxyType(
    {
        "lengthwise": 0.0,
        "reversed": 180.0,
        "crosswise left": 90.0,
        "crosswise right": -90.0,
        "swing arm": 90.0,
        "": 0.0,
    }
)
"""How the unit stands in the vehicle, turned about the upright. [deg]"""
NO_POSE: Mapping[str, str] = MappingProxyType(
    {
        "": "nobody has said how the unit stands: lengthwise, reversed, crosswise",
        "swing arm": (
            "the unit swings with its wheel: its travel is not worked out yet, a gap at rest says"
            " nothing"
        ),
    }
)
"""Layouts whose pose places nothing, and why."""


@dataclass(frozen=True, kw_only=True)
class Pose:
    """Place of the powertrain origin in the vehicle [mm], then turns about it [deg].

    ``pitch_deg`` is positive when the gearbox end is lower than the accessory end: the opposite
    sign to
    ISO 8855's pitch.
    """

    x_mm: float = 0.0
    y_mm: float = 0.0
    z_mm: float = 0.0
    roll_deg: float = 0.0
    pitch_deg: float = 0.0
    yaw_deg: float = 0.0


def rotation(roll_deg: float, pitch_deg: float, yaw_deg: float) -> np.ndarray:
    """R = Rz(yaw) Ry(-pitch) Rx(roll), shape (3, 3) [-]: vehicle from powertrain directions."""
    cr, sr = np.cos(np.radians(roll_deg)), np.sin(np.radians(roll_deg))
    cp, sp = np.cos(np.radians(-pitch_deg)), np.sin(np.radians(-pitch_deg))
    cy, sy = np.cos(np.radians(yaw_deg)), np.sin(np.radians(yaw_deg))
    rx = np.array([[1, 0, 0], [0, cr, -sr], [0, sr, cr]])
    ry = np.array([[cp, 0, sp], [0, 1, 0], [-sp, 0, cp]])
    rz = np.array([[cy, -sy, 0], [sy, cy, 0], [0, 0, 1]])
    return np.asarray(rz @ ry @ rx)


def vehicle_from_powertrain(pose: Pose) -> np.ndarray:
    """Pose as a matrix, shape (4, 4): rotation [-], last column [mm]."""
    matrix = np.eye(4)
    matrix[:3, :3] = rotation(pose.roll_deg, pose.pitch_deg, pose.yaw_deg)
    matrix[:3, 3] = (pose.x_mm, pose.y_mm, pose.z_mm)
    return matrix


def transform(matrix: np.ndarray, points: Any) -> np.ndarray:
    """Points, shape (n, 3) [mm], carried through ``matrix``."""
    return np.asarray(np.asarray(points, float) @ matrix[:3, :3].T + matrix[:3, 3])


def powertrain_from_face(u_mm: float, v_mm: float, s_mm: float) -> tuple[float, float, float]:
    """A point of the face view at station s in the powertrain frame [mm]: x = -s, y = -u, z = v."""
    return (-s_mm, -u_mm, v_mm)


def clocked(u: Any, v: Any, clocking_deg: Any) -> tuple[Any, Any]:
    """Point(s) of the gearbox [mm] turned by the clocking angle, positive clockwise from behind.

    Example: a hole at 12 o'clock (0, 100) clocked by +90 stands at 3 o'clock (100, 0).
    """
    c, s = np.cos(np.radians(clocking_deg)), np.sin(np.radians(clocking_deg))
    return u * c + v * s, -u * s + v * c


def turned_left_up(read: Mapping[str, Any], left: Any, up: Any) -> tuple[Any, Any]:
    """A place of the gearbox, told upright, turned by the clocking where it is read: left and
    above the crank axis. [mm]
    """
    if "clocking_deg" not in read:
        return left, up
    right, high = clocked(-left, up, read["clocking_deg"])
    return -right, high


@dataclass(frozen=True, kw_only=True)
class NamedSide:
    """A side or end of the unit or of the vehicle: its number is its identity, the names are spoken
    aliases of it.
    """

    number: int
    key: str
    """What a document keeps the user's own name for it under."""
    name: str
    aliases: tuple[str, ...]
    direction: tuple[float, float, float]
    """Unit direction in the powertrain's frame, or in the vehicle's [-]."""

    def called(self, nicknames: Mapping[str, str]) -> str:
        """Its name, with the user's own beside it where there is one."""
        own = nicknames.get(self.key, "").strip()
        return f"{self.name} “{own}”" if own else self.name


SIDES = tuple(
    NamedSide(number=n, key=key, name=name, aliases=aliases, direction=direction)
    for n, key, name, aliases, direction in (
        (1, "accessory_end", "accessory end", ("engine front", "nose"), (1.0, 0.0, 0.0)),
        (2, "flywheel_end", "flywheel end", ("engine back", "rear"), (-1.0, 0.0, 0.0)),
        (3, "engine_left", "engine left", ("left from behind",), (0.0, 1.0, 0.0)),
        (4, "engine_right", "engine right", ("right from behind",), (0.0, -1.0, 0.0)),
        (5, "engine_top", "engine top", ("up",), (0.0, 0.0, 1.0)),
        (6, "sump_side", "sump side", ("down",), (0.0, 0.0, -1.0)),
    )
)
VEHICLE_SIDES = tuple(
    NamedSide(number=n, key=key, name=name, aliases=aliases, direction=direction)
    for n, key, name, aliases, direction in (
        (7, "vehicle_front", "vehicle front", ("front",), (1.0, 0.0, 0.0)),
        (8, "vehicle_rear", "vehicle rear", ("rear", "back"), (-1.0, 0.0, 0.0)),
        (9, "vehicle_left", "vehicle left", ("left from the driver's seat",), (0.0, 1.0, 0.0)),
        (10, "vehicle_right", "vehicle right", ("right from the driver's seat",), (0.0, -1.0, 0.0)),
    )
)
SIDE: Mapping[str, NamedSide] = MappingProxyType({s.key: s for s in (*SIDES, *VEHICLE_SIDES)})
VIEWPOINTS: Mapping[str, tuple[str, str]] = MappingProxyType(
    {
        "driver's seat": ("vehicle_left", "vehicle_right"),
        "in front, looking back": ("vehicle_right", "vehicle_left"),
        "the flywheel end": ("engine_left", "engine_right"),
        "the accessory end": ("engine_right", "engine_left"),
    }
)
"""What left and right are for somebody who stands there and looks at it."""


def faces(side: NamedSide, layout: str) -> NamedSide | None:
    """The side of the vehicle that a side of the unit looks to; None for up and down, or while
    nobody has said how the unit stands.

    Raises
    ------
    KeyError
        An unknown layout.
    """
    if side in VEHICLE_SIDES:
        return side
    if layout in NO_POSE:
        return None
    direction = rotation(0.0, 0.0, YAW_DEG[layout]) @ np.array(side.direction)
    return next((v for v in VEHICLE_SIDES if direction @ np.array(v.direction) > 0.9), None)


def spoken_side(said: str, viewpoint: str, layout: str) -> tuple[NamedSide, NamedSide | None]:
    """What somebody means who says left or right and stood somewhere: the side, and the side of the
    vehicle that it looks to, where that is known.

    Raises
    ------
    KeyError
        An unknown viewpoint or layout.
    """
    left, right = VIEWPOINTS[viewpoint]
    side = SIDE[left if said == "left" else right]
    return side, faces(side, layout)


def side_in_vehicle(
    key: str, layout: str, nicknames: Mapping[str, str] = MappingProxyType({})
) -> str:
    """Which side of the vehicle a side of the unit faces: ``accessory end = vehicle rear`` when
    reversed.

    Raises
    ------
    KeyError
        An unknown layout or side.
    """
    side = SIDE[key]
    looks = faces(side, layout)
    own = side.called(nicknames)
    return own if looks is None else f"{own} = {looks.called(nicknames)}"


POSE = (
    "block_face_back_mm",
    "crank_side_mm",
    "crank_height_mm",
    "roll_deg",
    "inclination_deg",
    "yaw_deg",
)
"""The six numbers of the pose as a person reads them: behind the front axle line, left, up,
roll, pitch, yaw.
"""

Vector = tuple[Any, Any, Any]
"""x, y, z as numbers or arrays of one shape."""


def turned(roll_deg: Any, pitch_deg: Any, yaw_deg: Any, vector: Vector) -> Vector:
    """Rz(yaw) Ry(-pitch) Rx(roll) applied to a vector [mm or -]; angles [deg] may be arrays."""
    x, y, z = vector
    c, s = np.cos(np.radians(roll_deg)), np.sin(np.radians(roll_deg))
    y, z = c * y - s * z, s * y + c * z
    c, s = np.cos(np.radians(pitch_deg)), np.sin(np.radians(pitch_deg))
    x, z = c * x - s * z, s * x + c * z
    c, s = np.cos(np.radians(yaw_deg)), np.sin(np.radians(yaw_deg))
    return c * x - s * y, s * x + c * y, z


def direction_in_vehicle(read: Mapping[str, Any], layout_yaw_deg: float, vector: Vector) -> Vector:
    """A direction of the powertrain in the vehicle. [-]"""
    return turned(
        read["roll_deg"], read["inclination_deg"], read["yaw_deg"] + layout_yaw_deg, vector
    )


def point_in_vehicle(
    read: Mapping[str, Any], layout_yaw_deg: float, back_mm: Any, left_mm: Any, up_mm: Any
) -> Vector:
    """A point of the unit (behind the block face, left of and above the crank axis) in the vehicle.
    [mm]

    The vehicle's x is forward: behind the front axle line is minus.
    """
    x, y, z = direction_in_vehicle(read, layout_yaw_deg, (-back_mm, left_mm, up_mm))
    return x - read["block_face_back_mm"], y + read["crank_side_mm"], z + read["crank_height_mm"]


def length_of(v: Vector) -> Any:
    """Length of a vector, in its own unit [mm or -]."""
    return np.sqrt(v[0] ** 2 + v[1] ** 2 + v[2] ** 2)


def minus(a: Vector, b: Vector) -> Vector:
    """a - b, in their own unit [mm or -]."""
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]


def angle_deg(a: Vector, b: Vector) -> Any:
    """Angle between two lines, 0 to 90: atan2(|a x b|, |a . b|), since arccos loses small
    angles. [deg]
    """
    cross = (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])
    dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
    return np.degrees(np.arctan2(length_of(cross), np.abs(dot)))
