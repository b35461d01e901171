"""Room under and over the unit: ground and bonnet."""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

from pindo.core.drawing.board import Board
from pindo.core.geometry.frames import POSE, YAW_DEG, point_in_vehicle
from pindo.core.geometry.movement import settles_at_sump
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.question import Question
from pindo.core.stations.seat.common import REST
from pindo.core.stations.seat.views import seat_drawings

check = partial(Check, station=Station.SEAT, question="seat.room", accepts=REST)
Read = Mapping[str, Any]


def ground_gap(read: Read, layout_yaw_deg: float, settles_mm: float) -> Any:
    """Lowest point of the sump above the ground, less what the mounts will still go down there.
    [mm]
    """
    return (
        -settles_mm
        + point_in_vehicle(read, layout_yaw_deg, read["sump_back_mm"], 0.0, -read["sump_mm"])[2]
        + read["rail_height_mm"]
    )


def bonnet_gap(read: Read, layout_yaw_deg: float) -> Any:
    """Highest point of the engine below the bonnet. [mm]"""
    return (
        read["bonnet_height_mm"]
        - point_in_vehicle(read, layout_yaw_deg, read["top_back_mm"], 0.0, read["engine_top_mm"])[2]
    )


def checks(inputs: Inputs) -> Iterator[Check]:
    """Ground and bonnet."""
    given = {"layout_yaw_deg": Constant(YAW_DEG[inputs.build.layout])}
    settles = settles_at_sump(inputs)
    squash = ", squash of the mounts ({settles_mm}) taken off" if settles >= 0.05 else ""
    yield check(
        id="seat.ground",
        title="Ground clearance under the sump",
        value=ground_gap,
        reads=(*POSE, "sump_mm", "sump_back_mm", "rail_height_mm"),
        given=given | {"settles_mm": Constant(settles, "length")},
        at_least="ground_gap_min_mm",
        says=f"Sump stands {{value}} above the ground{squash}; needs {{limit}}",
        fouls="Sump reaches {over} into the ground",
        why="The sump is the lowest part most often, and oil is what it spills.",
    )
    if inputs.options.get("bonnet") == "none":
        return
    yield check(
        id="seat.bonnet",
        title="Engine under the bonnet",
        value=bonnet_gap,
        reads=(*POSE, "engine_top_mm", "top_back_mm", "bonnet_height_mm"),
        given=given,
        at_least="bonnet_gap_min_mm",
        says="Engine clears the bonnet by {value}; needs {limit}",
        fouls="Engine stands {over} through the bonnet",
        why="The unit rises under torque and the bonnet flutters.",
    )


QUESTION = Question(
    path="room",
    station=Station.SEAT,
    name="Room under and over",
    asks="Does the unit clear the ground and the bonnet?",
    dimensions={
        "A": "sump_back_mm",
        "B": "top_back_mm",
        "C": "rail_height_mm",
        "D": "bonnet_height_mm",
        "E": "engine_top_mm",
        "F": "sump_mm",
    },
    checks=checks,
    board=lambda inputs, seen: Board(drawings=seat_drawings(inputs, "seat.room", "side")),
    where="engine",
    gaps=True,
)
