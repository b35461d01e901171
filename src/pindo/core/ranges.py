"""The range that each size can have, and sets of sizes that can hold together.

What lies outside is a slip of the point, another size or another unit more often than a rare part: it is asked about, and counts for
nothing until somebody says that it is so. Proposed: no published or practical figure is known; wide on purpose.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from types import MappingProxyType

Range = tuple[float, float]

RANGES: Mapping[str, Range] = MappingProxyType(
    {
        # Survey and Seat
        "wheelbase_mm": (150, 9000), "tyre_mm": (40, 1800), "rail_height_mm": (20, 2500), "bonnet_height_mm": (-500, 2500), "engine_length_mm": (60, 2500), "engine_top_mm": (30, 1800),
        "sump_mm": (20, 900), "gearbox_length_mm": (0, 2500), "block_face_back_mm": (-3000, 9000), "crank_side_mm": (-1200, 1200), "crank_height_mm": (-1500, 1500), "roll_deg": (-95, 95),
        "inclination_deg": (-30, 30), "yaw_deg": (-30, 30), "sump_back_mm": (-2500, 1500), "top_back_mm": (-2500, 1500), "unit_mass_kg": (2, 3000), "mass_back_mm": (-2000, 2000),
        "mass_left_mm": (-600, 600), "mass_up_mm": (-600, 800), "gyration_roll_mm": (15, 900), "gyration_pitch_mm": (15, 1500), "gyration_yaw_mm": (15, 1500), "first_gear_ratio": (0.2, 20),
        "reverse_ratio": (0, 20), "cylinders": (1, 24), "idle_rpm": (200, 4000), "final_drive_ratio": (0.5, 20),
        # Line
        "output_left_mm": (-800, 800), "output_up_mm": (-800, 800), "shaft_speed_rpm": (50, 15000), "centre_bearing_back_mm": (0, 9000), "centre_bearing_left_mm": (-800, 800),
        "centre_bearing_drop_mm": (-800, 1200), "pinion_drop_mm": (-600, 1200), "pinion_forward_mm": (-200, 900), "pinion_left_mm": (-800, 800), "pinion_angle_deg": (-30, 30), "pinion_turn_deg": (-20, 20),
        "axle_drop_mm": (-600, 1400), "tube_od_mm": (15, 250), "tube_wall_mm": (0.8, 15), "slip_in_mm": (0, 300), "slip_out_mm": (0, 300), "bump_mm": (0, 400), "droop_mm": (0, 500),
        "yoke_phase_deg": (-90, 90), "front_yoke_phase_deg": (-90, 90), "spring_front_half_mm": (80, 1500), "spring_eye_drop_mm": (-400, 400), "pivot_forward_mm": (-2500, 2500), "pivot_up_mm": (-800, 800),
        "lower_link_mm": (80, 1800), "lower_link_rise_mm": (-500, 500), "upper_link_mm": (80, 1800), "upper_link_rise_mm": (-500, 500), "link_spread_mm": (20, 800), "link_offset_mm": (-500, 500),
        "lower_link_ahead_mm": (-500, 500), "lower_link_below_mm": (-500, 500), "inner_joint_half_mm": (10, 900), "outer_joint_left_mm": (60, 1500), "outer_joint_drop_mm": (-600, 1200),
        "driven_axle_back_mm": (-500, 9000), "plunge_in_mm": (0, 150), "plunge_out_mm": (0, 150), "arm_mm": (60, 1200), "arm_rise_mm": (-400, 400), "upper_arm_mm": (60, 1200), "upper_arm_rise_mm": (-400, 400),
        "knuckle_spread_mm": (40, 700), "knuckle_offset_mm": (-300, 300), "arm_below_mm": (-400, 400), "arm_inside_mm": (-300, 400), "swing_inside_mm": (60, 2500), "swing_rise_mm": (-500, 500),
        "strut_up_mm": (150, 1200), "strut_inside_mm": (-200, 500), "driver_teeth": (5, 200), "driven_teeth": (5, 400), "chain_pitch_mm": (3, 80), "chain_links": (10, 2000), "chain_centre_mm": (30, 4000),
        "take_up_mm": (0, 300), "driver_plane_mm": (-1500, 1500), "driven_plane_mm": (-1500, 1500), "sprocket_back_mm": (-1500, 1500), "sprocket_left_mm": (-800, 800), "sprocket_up_mm": (-800, 800),
        "engine_rpm": (200, 20000), "engine_power_kw": (0.2, 1500), "reduction_ratio": (0.2, 60), "road_speed_most": (1, 400), "clutch_shaft_mm": (6, 120), "clutch_key_mm": (1, 40), "clutch_on_shaft_mm": (0, 200),
        # Clear
        "belt_length_mm": (200, 6000), "belt_ribs": (1, 24), "belt_pitch_mm": (0, 12), "belt_back_mm": (0, 15), "belt_take_up_mm": (0, 200),
        # Mate
        "clocking_deg": (-360, 360), "window_mm": (0, 1200), "outline_margin_mm": (0, 120), "pocket_u_mm": (-900, 900), "pocket_v_mm": (-900, 900), "pocket_mm": (0, 400), "starter_body_mm": (15, 250),
        "bore_tir_mm": (0, 5), "face_tir_mm": (0, 5),
        # Stack
        "crank_flange_mm": (-80, 120), "crank_bore_depth_mm": (1, 250), "crank_spacer_mm": (0, 120), "flywheel_mm": (3, 150), "separator_mm": (0, 25), "plate_mm": (0, 120), "shaft_tip_out_mm": (-250, 350),
        "nose_mm": (3, 120), "nose_chamfer_mm": (0, 15), "pilot_sunk_mm": (-40, 80), "pilot_width_mm": (3, 80), "hub_front_mm": (-80, 80), "hub_mm": (8, 120), "spline_start_mm": (0, 250), "spline_mm": (8, 250),
        "finger_height_mm": (5, 200), "release_parked_mm": (-100, 350), "release_shim_mm": (0, 60), "guide_tube_mm": (-150, 350), "bolt_heads_mm": (-80, 60), "cover_height_mm": (10, 250),
        "bell_depth_mm": (20, 450), "flywheel_od_mm": (80, 600), "bell_bore_mm": (80, 700), "ring_front_mm": (-60, 120), "ring_width_mm": (3, 50), "starter_parked_mm": (-60, 150), "starter_out_mm": (-20, 250),
        "pinion_mm": (4, 70), "starter_centre_mm": (30, 500), "ring_teeth": (40, 260), "pinion_teeth": (6, 30), "ring_module_mm": (1, 6), "pinion_module_mm": (1, 6), "disc_wear_mm": (0, 8), "lever_ratio": (0.3, 8),
        "finger_travel_mm": (1, 40), "slave_stroke_mm": (1, 80), "crank_pcd_mm": (25, 300), "flywheel_pcd_mm": (25, 300), "crank_bolts": (1, 24), "flywheel_bolts": (1, 24), "crank_bolt_mm": (4, 30),
        "flywheel_hole_mm": (4, 32), "crank_register_mm": (10, 250), "flywheel_register_mm": (10, 250), "friction_face_mm": (80, 550), "disc_od_mm": (80, 500), "disc_splines": (4, 60), "shaft_splines": (4, 60),
        "disc_spline_od_mm": (8, 90), "shaft_spline_od_mm": (8, 90), "nose_d_mm": (4, 60), "pilot_bore_mm": (4, 60), "pilot_od_mm": (8, 110), "pilot_seat_mm": (8, 110), "cover_pcd_mm": (80, 550),
        "flywheel_cover_pcd_mm": (80, 550), "cover_bolts": (2, 24), "flywheel_cover_bolts": (2, 24), "guide_tube_od_mm": (10, 120), "release_bore_mm": (10, 120), "engine_torque_nm": (1, 6000),
        "clutch_torque_nm": (1, 9000), "gearbox_torque_nm": (1, 9000),
    }
)  # fmt: skip
"""Least and greatest by dimension, in the base unit of its kind."""


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
        key="ring_gear", reads=("flywheel_od_mm", "ring_teeth", "ring_module_mm"), holds=lambda od, z, m: abs(od - m * (z + 2)) <= 0.6 * m,
        asks="The ring gear over its teeth is not its module times teeth and two: count again, or another module",
    ),
    Together(key="nose_in_bore", reads=("nose_d_mm", "pilot_bore_mm"), holds=lambda nose, bore: nose <= bore + 1.0, asks="The nose is far larger than its bearing's bore"),
    Together(key="nose_spline", reads=("nose_d_mm", "shaft_spline_od_mm"), holds=lambda nose, spline: nose < spline, asks="The nose is as thick as the spline behind it"),
    Together(key="bearing", reads=("pilot_bore_mm", "pilot_od_mm"), holds=lambda bore, od: bore < od, asks="The pilot bearing's bore is as large as its outside"),
    Together(key="nose_length", reads=("nose_mm", "spline_start_mm"), holds=lambda nose, start: nose <= start + 1.0, asks="The spline starts on the nose"),
    Together(key="nose_deep", reads=("nose_mm", "crank_bore_depth_mm", "pilot_width_mm"), holds=lambda nose, bore, width: nose <= 2.0 * max(bore, width) + 20.0, asks="The nose is longer than any bore like this one takes"),
    Together(key="chamfer", reads=("nose_chamfer_mm", "nose_mm"), holds=lambda chamfer, nose: chamfer < nose, asks="The chamfer is as long as the nose"),
    Together(key="face_on_flywheel", reads=("friction_face_mm", "flywheel_od_mm"), holds=lambda face, od: face <= od, asks="The friction face is larger than the flywheel"),
    Together(key="disc_in_circle", reads=("disc_od_mm", "flywheel_cover_pcd_mm"), holds=lambda disc, circle: disc < circle, asks="The disc reaches over the cover's screws"),
    Together(key="circle_on_flywheel", reads=("flywheel_cover_pcd_mm", "flywheel_od_mm"), holds=lambda circle, od: circle < od, asks="The cover's screws lie outside the flywheel"),
    Together(key="register_in_circle", reads=("crank_register_mm", "crank_pcd_mm"), holds=lambda register, circle: register < circle, asks="The crank's register is larger than its bolt circle"),
    Together(key="pinion_throw", reads=("starter_parked_mm", "starter_out_mm"), holds=lambda parked, out: parked < out, asks="The pinion stands no further out when it is thrown"),
    Together(key="fingers_in_cover", reads=("finger_height_mm", "cover_height_mm"), holds=lambda fingers, cover: fingers <= cover + 25.0, asks="The fingers stand far behind the cover"),
    Together(key="tube_wall", reads=("tube_od_mm", "tube_wall_mm"), holds=lambda od, wall: 2.0 * wall < od, asks="The tube's wall is thicker than the tube"),
    Together(key="wheelbase_axles", reads=("wheelbase_mm", "centre_bearing_back_mm"), holds=lambda base, back: back < base + 300.0, asks="The centre joint stands behind the rear axle"),
    Together(key="bump_drop", reads=("bump_mm", "tyre_mm"), holds=lambda bump, tyre: bump < tyre, asks="The axle rises by more than its tyre"),
    Together(key="sprockets", reads=("chain_centre_mm", "chain_pitch_mm", "driver_teeth", "driven_teeth"), holds=lambda c, p, a, b: c > p * (a + b) / 6.29, asks="The sprockets overlap at this centre distance"),
    Together(key="key_on_shaft", reads=("clutch_key_mm", "clutch_shaft_mm"), holds=lambda key, shaft: key < 0.6 * shaft, asks="The key is wider than its shaft carries"),
)  # fmt: skip
