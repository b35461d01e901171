"""The range that each size can have, and sets of sizes that can hold together.

What lies outside is a slip of the point, another size or another unit more often than a rare part:
it is asked about, and counts for nothing until somebody says that it is so. Proposed: no published
or practical figure is known; wide on purpose.
"""

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Together:
    """Sizes that can only be so together: what the rule reads, and whether they hold."""

    key: str
    reads: tuple[str, ...]
    holds: Callable[..., bool]
    asks: str
    """What cannot be, in words."""


TOGETHER: tuple[Together, ...] = (
    Together(
        key="ring_gear",
        reads=("flywheel_od_mm", "ring_teeth", "ring_module_mm"),
        holds=lambda od, z, m: abs(od - m * (z + 2)) <= 0.6 * m,
        asks=(
            "The ring gear over its teeth is not its module times teeth and two: count again, or"
            " another module"
        ),
    ),
    Together(
        key="nose_in_bore",
        reads=("nose_d_mm", "pilot_bore_mm"),
        holds=lambda nose, bore: nose <= bore + 1.0,
        asks="The nose is far larger than its bearing's bore",
    ),
    Together(
        key="nose_spline",
        reads=("nose_d_mm", "shaft_spline_od_mm"),
        holds=lambda nose, spline: nose < spline,
        asks="The nose is as thick as the spline behind it",
    ),
    Together(
        key="bearing",
        reads=("pilot_bore_mm", "pilot_od_mm"),
        holds=lambda bore, od: bore < od,
        asks="The pilot bearing's bore is as large as its outside",
    ),
    Together(
        key="nose_length",
        reads=("nose_mm", "spline_start_mm"),
        holds=lambda nose, start: nose <= start + 1.0,
        asks="The spline starts on the nose",
    ),
    Together(
        key="nose_deep",
        reads=("nose_mm", "crank_bore_depth_mm", "pilot_width_mm"),
        holds=lambda nose, bore, width: nose <= 2.0 * max(bore, width) + 20.0,
        asks="The nose is longer than any bore like this one takes",
    ),
    Together(
        key="chamfer",
        reads=("nose_chamfer_mm", "nose_mm"),
        holds=lambda chamfer, nose: chamfer < nose,
        asks="The chamfer is as long as the nose",
    ),
    Together(
        key="face_on_flywheel",
        reads=("friction_face_mm", "flywheel_od_mm"),
        holds=lambda face, od: face <= od,
        asks="The friction face is larger than the flywheel",
    ),
    Together(
        key="disc_in_circle",
        reads=("disc_od_mm", "flywheel_cover_pcd_mm"),
        holds=lambda disc, circle: disc < circle,
        asks="The disc reaches over the cover's screws",
    ),
    Together(
        key="circle_on_flywheel",
        reads=("flywheel_cover_pcd_mm", "flywheel_od_mm"),
        holds=lambda circle, od: circle < od,
        asks="The cover's screws lie outside the flywheel",
    ),
    Together(
        key="register_in_circle",
        reads=("crank_register_mm", "crank_pcd_mm"),
        holds=lambda register, circle: register < circle,
        asks="The crank's register is larger than its bolt circle",
    ),
    Together(
        key="pinion_throw",
        reads=("starter_parked_mm", "starter_out_mm"),
        holds=lambda parked, out: parked < out,
        asks="The pinion stands no further out when it is thrown",
    ),
    Together(
        key="fingers_in_cover",
        reads=("finger_height_mm", "cover_height_mm"),
        holds=lambda fingers, cover: fingers <= cover + 25.0,
        asks="The fingers stand far behind the cover",
    ),
    Together(
        key="tube_wall",
        reads=("tube_od_mm", "tube_wall_mm"),
        holds=lambda od, wall: 2.0 * wall < od,
        asks="The tube's wall is thicker than the tube",
    ),
    Together(
        key="wheelbase_axles",
        reads=("wheelbase_mm", "centre_bearing_back_mm"),
        holds=lambda base, back: back < base + 300.0,
        asks="The centre joint stands behind the rear axle",
    ),
    Together(
        key="bump_drop",
        reads=("bump_mm", "tyre_mm"),
        holds=lambda bump, tyre: bump < tyre,
        asks="The axle rises by more than its tyre",
    ),
    Together(
        key="sprockets",
        reads=("chain_centre_mm", "chain_pitch_mm", "driver_teeth", "driven_teeth"),
        holds=lambda c, p, a, b: c > p * (a + b) / 6.29,
        asks="The sprockets overlap at this centre distance",
    ),
    Together(
        key="key_on_shaft",
        reads=("clutch_key_mm", "clutch_shaft_mm"),
        holds=lambda key, shaft: key < 0.6 * shaft,
        asks="The key is wider than its shaft carries",
    ),
)
