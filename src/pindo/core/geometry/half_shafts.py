"""Half shafts of a transaxle, wheels on their own guide."""

import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from pindo.core.geometry.frames import (
    POSE,
    YAW_DEG,
    Vector,
    angle_deg,
    direction_in_vehicle,
    length_of,
    minus,
)
from pindo.core.geometry.shafts import clocking_read, output_joint, rises
from pindo.core.geometry.travel import READS, SIDE_READS, guide, sideways
from pindo.core.inputs.inputs import Inputs

Read = Mapping[str, Any]
HALF = (
    *POSE,
    "separator_mm",
    "plate_mm",
    "gearbox_length_mm",
    "output_left_mm",
    "output_up_mm",
    "inner_joint_half_mm",
    "outer_joint_left_mm",
    "outer_joint_drop_mm",
    "driven_axle_back_mm",
)


class HalfShafts:
    """Both half shafts of a transaxle, wheels on their own guide."""

    def __init__(
        self, guided: str, sideways: str, yaw: float, clocks: tuple[str, ...] = ()
    ) -> None:
        self.guided, self.sideways, self.yaw = guided, sideways, yaw
        self.reads = (*HALF, *clocks)
        self.travel_reads = (
            *self.reads,
            "bump_mm",
            "droop_mm",
            *READS.get(guided, ()),
            *SIDE_READS.get(sideways, ()),
        )

    def ends(
        self, left: bool, read: Read, rise_mm: Any = None, radius_share: float = math.nan
    ) -> tuple[Vector, Vector]:
        """Inner and outer joint centre of one side at a rise of the wheel. [mm]"""
        sign = 1.0 if left else -1.0
        shift, _ = (
            guide(self.guided, rise_mm, read, radius_share)
            if self.guided and rise_mm is not None
            else (0.0, 0.0)
        )
        inboard = (
            sideways(self.sideways, rise_mm, read) if self.sideways and rise_mm is not None else 0.0
        )
        rise_mm = 0.0 if rise_mm is None else rise_mm
        middle = output_joint(read, self.yaw)
        across = (
            direction_in_vehicle(read, self.yaw, (0.0, 1.0, 0.0))
            if self.yaw in (0.0, 180.0)
            else direction_in_vehicle(read, self.yaw, (1.0, 0.0, 0.0))
        )
        # The unit's own left may be the vehicle's right: the joint on the asked side is the one
        # that stands there.
        way = sign * np.sign(across[1])
        inner = tuple(
            a + way * read["inner_joint_half_mm"] * d for a, d in zip(middle, across, strict=True)
        )
        outer = (
            shift - read["driven_axle_back_mm"],
            sign * (read["outer_joint_left_mm"] - inboard),
            rise_mm - read["outer_joint_drop_mm"],
        )
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
        change = length_of(minus(*self.ends(left, read, rises(read), radius_share))) - self.length(
            left, read
        )
        return -change.min(axis=0), change.max(axis=0)


def half_shafts_of(inputs: Inputs) -> HalfShafts | None:
    """The half shafts of a build; None for other drives."""
    o = inputs.options
    if o.get("drive") != "half shafts":
        return None
    guided, across = o.get("axle_guide", ""), o.get("wheel_guide", "")
    yaw = YAW_DEG[inputs.build.layout]
    return HalfShafts(
        guided if guided in READS else "",
        across if across in SIDE_READS else "",
        yaw,
        clocking_read(inputs),
    )
