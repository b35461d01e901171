"""Shaft drives: joints and axes in the vehicle, over the travel of the axle."""

import itertools
import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from pindo.core.geometry import joints
from pindo.core.geometry.frames import (
    POSE,
    YAW_DEG,
    Vector,
    angle_deg,
    direction_in_vehicle,
    length_of,
    minus,
    point_in_vehicle,
    turned_left_up,
)
from pindo.core.geometry.solids import clocks
from pindo.core.geometry.travel import READS, guide
from pindo.core.inputs.dimensions import SHAFTS
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.read import once

Read = Mapping[str, Any]
STOPS = 9  # places over the axle's travel at which angles and slip are asked
OFFSET = ("output_left_mm", "output_up_mm")
OUTPUT = (*POSE, "separator_mm", "plate_mm", "gearbox_length_mm", *OFFSET)
CLOCKED = ("clocking_deg",)
CENTRE = ("centre_bearing_back_mm", "centre_bearing_left_mm", "centre_bearing_drop_mm")
PINION = (
    "wheelbase_mm",
    "pinion_forward_mm",
    "pinion_drop_mm",
    "pinion_left_mm",
    "pinion_angle_deg",
    "pinion_turn_deg",
)


def output_joint(read: Read, yaw: float) -> Vector:
    """Centre of the gearbox's output joint in the vehicle: told with the gearbox upright, turned
    with it where its clocking is read. [mm]
    """
    back = read["separator_mm"] + read["plate_mm"] + read["gearbox_length_mm"]
    left, up = turned_left_up(read, *(read[a] for a in OFFSET))
    return point_in_vehicle(read, yaw, back, left, up)


def clocking_read(inputs: Inputs) -> tuple[str, ...]:
    """The clocking, where turning the gearbox moves its output joint: a joint on the crank axis
    stays there.
    """
    beside = any(inputs.value(a) != 0.0 for a in OFFSET)
    return CLOCKED if beside and clocks(inputs) else ()


def rises(read: Read, stops: int = STOPS) -> np.ndarray:
    """Places of the axle from droop to bump, shape (stops, *shape of what is read). [mm]"""
    deep = max(np.ndim(v) for v in read.values())
    share = np.linspace(0.0, 1.0, stops).reshape(-1, *(1,) * deep)
    return np.asarray(-read["droop_mm"] + (read["droop_mm"] + read["bump_mm"]) * share)


class Shaft:
    """A shaft drive of one kind: its joints and axes as functions of what is read. Made once for
    each kind.
    """

    def __init__(
        self, drive: str, guided: str, turns: bool, yaw: float, clocks: tuple[str, ...] = ()
    ) -> None:
        self.two = drive == "two-piece shaft"
        self.guided, self.turns, self.yaw = guided, turns, yaw
        self.reads = (*OUTPUT, *clocks, *(CENTRE if self.two else ()), *PINION)
        self.yokes = ("front_yoke_phase_deg", "yoke_phase_deg") if self.two else ("yoke_phase_deg",)
        self.travel_reads = (
            *self.reads,
            "axle_drop_mm",
            "bump_mm",
            "droop_mm",
            *READS.get(guided, ()),
        )
        self.count = 3 if self.two else 2

    def places(
        self, read: Read, rise_mm: Any = None, radius_share: float = math.nan
    ) -> list[Vector]:
        """Joint centres from engine to axle at a rise of the axle; at ride height, without the
        guide, where none is given. [mm]
        """
        shift, turn = self._moved(read, rise_mm, radius_share)
        rise_mm = 0.0 if rise_mm is None else rise_mm
        ahead, drop = read["pinion_forward_mm"], read["pinion_drop_mm"]
        # The guide holds the axle's centre; the joint rides on the axle with its reach and height
        # and turns with it, nose up.
        height = read["axle_drop_mm"] - drop if "axle_drop_mm" in read else 0.0
        c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
        pinion = (
            -read["wheelbase_mm"] + shift + ahead * c - height * s,
            read["pinion_left_mm"],
            -drop - height + rise_mm + ahead * s + height * c,
        )
        found = [output_joint(read, self.yaw)]
        if self.two:
            found.append(
                (
                    -read["centre_bearing_back_mm"],
                    read["centre_bearing_left_mm"],
                    -read["centre_bearing_drop_mm"],
                )
            )
        return [*found, pinion]

    def _moved(self, read: Read, rise_mm: Any, radius_share: float) -> tuple[Any, Any]:
        if rise_mm is None or not self.guided:
            return 0.0, 0.0
        shift, turn = guide(self.guided, rise_mm, read, radius_share)
        return shift, turn if self.turns else 0.0 * turn

    def axes(self, read: Read, rise_mm: Any = None, radius_share: float = math.nan) -> list[Vector]:
        """Directions of all shafts, rearwards: gearbox output, the pieces, the pinion."""
        return (
            once(read, (self, "axes"), lambda: self._axes(read, None, math.nan))
            if rise_mm is None
            else self._axes(read, rise_mm, radius_share)
        )

    def _axes(self, read: Read, rise_mm: Any, radius_share: float) -> list[Vector]:
        at = self.places(read, rise_mm, radius_share)
        _, turn = self._moved(read, rise_mm, radius_share)
        up, side = np.radians(read["pinion_angle_deg"] + turn), np.radians(read["pinion_turn_deg"])
        pinion = (-np.cos(up) * np.cos(side), -np.sin(side) * np.cos(up), -np.sin(up))
        return [
            direction_in_vehicle(read, self.yaw, (-1.0, 0.0, 0.0)),
            *(minus(b, a) for a, b in itertools.pairwise(at)),
            pinion,
        ]

    def angle(self, i: int, read: Read) -> Any:
        """Angle of joint ``i`` at ride height. [deg]"""
        axes = self.axes(read)
        return angle_deg(axes[i], axes[i + 1])

    def ends(self, read: Read) -> Any:
        """Difference of the two end joints' angles, of the piece that slides. [deg]"""
        axes = self.axes(read)
        return angle_deg(axes[-2], axes[-1]) - angle_deg(axes[-3], axes[-2])

    def wobble(self, upto: int, coast: bool, read: Read) -> Any:
        """beta_eq² of the first ``upto`` joints, from the driving end; coasting from the axle's.
        [rad²]
        """
        axes = self.axes(read)
        bends, phases = once(read, (self, "bends", coast), lambda: self.phased(axes, read, coast))
        return joints.equivalent_bend(bends[:upto], phases[:upto])

    def phased(
        self, axes: list[Vector], read: Read, coast: bool = False
    ) -> tuple[list[Any], list[Any]]:
        """Bends and phases of the joints with the yokes as they stand, from the driving end."""
        yokes = [read[a] for a in self.yokes]
        if coast:
            return joints.bends_and_phases(
                [tuple(-x for x in a) for a in reversed(axes)], yokes[::-1]
            )
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


def shaft_of(inputs: Inputs) -> Shaft | None:
    """The shaft drive of a build; None for other drives."""
    o = inputs.options
    if o.get("drive") not in SHAFTS:
        return None
    guided = o.get("axle_guide", "")
    turns = o.get("axle_attitude") == "turns with its guide"
    yaw = YAW_DEG[inputs.build.layout]
    clocks = clocking_read(inputs)
    return Shaft(o["drive"], guided if guided in READS else "", turns, yaw, clocks)
