"""A chain from the engine to the driven axle: where its sprockets stand, how it lies."""

from collections.abc import Mapping

import numpy as np

from pindo.core.geometry import chain
from pindo.core.geometry.frames import POSE, YAW_DEG, Vector, point_in_vehicle
from pindo.core.inputs.inputs import Inputs
from pindo.core.numbers import Numbers

Read = Mapping[str, Numbers]
CENTRES = (
    *POSE,
    "sprocket_back_mm",
    "sprocket_left_mm",
    "sprocket_up_mm",
    "driven_axle_back_mm",
    "axle_drop_mm",
)
SPROCKETS = ("chain_pitch_mm", "driver_teeth", "driven_teeth")


class ChainDrive:
    """A chain from the engine to the driven axle: where its sprockets stand follows from the
    pose, or was read on the vehicle.
    """

    def __init__(self, yaw: float, centre_read: bool, plane_read: bool) -> None:
        self.yaw, self.centre_read, self.plane_read = yaw, centre_read, plane_read
        self.centre_reads = ("chain_centre_mm",) if centre_read else CENTRES
        self.plane_reads = (
            ("driver_plane_mm",)
            if plane_read
            else (*POSE, "sprocket_back_mm", "sprocket_left_mm", "sprocket_up_mm")
        )

    def _driver(self, read: Read) -> Vector:
        return point_in_vehicle(
            read,
            self.yaw,
            read["sprocket_back_mm"],
            read["sprocket_left_mm"],
            read["sprocket_up_mm"],
        )

    def centre(self, read: Read) -> Numbers:
        """Centre distance of the sprockets, seen along the driven axle. [mm]"""
        if self.centre_read:
            return read["chain_centre_mm"]
        x, _, z = self._driver(read)
        centre: Numbers = np.hypot(x + read["driven_axle_back_mm"], z + read["axle_drop_mm"])
        return centre

    def driver_plane(self, read: Read) -> Numbers:
        """Driver sprocket left of the centre plane. [mm]"""
        return read["driver_plane_mm"] if self.plane_read else self._driver(read)[1]

    def plane_angle(self, read: Read, driven_plane_mm: Numbers) -> Numbers:
        """Angle of the chain off the sprockets' plane, over its free span. [deg]"""
        span = chain.free_span(self.centre(read), *(read[a] for a in SPROCKETS))
        return chain.plane_angle_deg(self.driver_plane(read), driven_plane_mm, span)

    def take_up_left(self, read: Read, take_up_mm: Numbers, chain_links: Numbers) -> Numbers:
        """Take-up left after the chain is straight. [mm]"""
        return chain.take_up_left(
            take_up_mm,
            chain_links,
            read["chain_pitch_mm"],
            self.centre(read),
            read["driver_teeth"],
            read["driven_teeth"],
        )

    def length(self, read: Read) -> Numbers:
        """Chain length in pitches [-]."""
        return chain.length_pitches(self.centre(read), *(read[a] for a in SPROCKETS))


def chain_of(inputs: Inputs) -> ChainDrive | None:
    """The chain of a build; None for other drives. A reading on the vehicle stands in place of
    the sum until the unit moves.
    """
    if inputs.options.get("drive") != "chain":
        return None

    def as_read(address: str, sprocket: str) -> bool:
        # With neither, the reading is what is asked for: it is one, the sum takes many.
        return inputs.value(address) is not None or inputs.value(sprocket) is None

    return ChainDrive(
        YAW_DEG[inputs.build.layout],
        as_read("chain_centre_mm", "sprocket_back_mm"),
        as_read("driver_plane_mm", "sprocket_back_mm"),
    )
