"""Crank spacing: engagements and gaps along the station axis. All lengths mm; arrays broadcast.

Sources: the limits are rules; the formulas are sums along one axis (closed forms, no published source).
"""

from typing import Any

import numpy as np

from pindo.core.stack.stations import bell_mouth_s, flywheel_flange_s, friction_face_s, mouth_s, pilot_rear_s, starter_flange_s, tip_s


def overlap(a_low: Any, a_high: Any, b_low: Any, b_high: Any) -> Any:
    """Length that two intervals share; negative is the gap between them. [mm]"""
    return np.minimum(a_high, b_high) - np.maximum(a_low, b_low)


def pilot_engagement(
    separator_mm: Any,
    plate_mm: Any,
    shaft_tip_out_mm: Any,
    nose_mm: Any,
    nose_chamfer_mm: Any,
    pilot_in: str,
    crank_flange_mm: Any,
    crank_spacer_mm: Any,
    flywheel_mm: Any,
    pilot_sunk_mm: Any,
    pilot_width_mm: Any,
) -> Any:
    """Nose in its bearing: overlap of [tip + chamfer, tip + nose] with the bearing. [mm]"""
    tip = tip_s(separator_mm, plate_mm, shaft_tip_out_mm)
    rear = pilot_rear_s(pilot_in, crank_flange_mm, crank_spacer_mm, flywheel_mm, pilot_sunk_mm)
    return overlap(tip + nose_chamfer_mm, tip + nose_mm, rear - pilot_width_mm, rear)


def pilot_wanted(pilot_width_mm: Any, pilot_share: float, pilot_least_mm: float) -> Any:
    """max(share x width, min(least, width)). [mm]"""
    return np.maximum(pilot_share * pilot_width_mm, np.minimum(pilot_least_mm, pilot_width_mm))


def tip_clearance(separator_mm: Any, plate_mm: Any, shaft_tip_out_mm: Any, crank_flange_mm: Any, crank_bore_depth_mm: Any) -> Any:
    """Shaft tip to the bottom of the crank's bore. [mm]"""
    return tip_s(separator_mm, plate_mm, shaft_tip_out_mm) - (crank_flange_mm - crank_bore_depth_mm)


def shoulder_clearance(separator_mm: Any, plate_mm: Any, shaft_tip_out_mm: Any, nose_mm: Any, pilot_in: str, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, pilot_sunk_mm: Any) -> Any:
    """Shaft shoulder behind the rear end of the pilot bearing. [mm]"""
    return tip_s(separator_mm, plate_mm, shaft_tip_out_mm) + nose_mm - pilot_rear_s(pilot_in, crank_flange_mm, crank_spacer_mm, flywheel_mm, pilot_sunk_mm)


def _spline_in_hub(
    shift_mm: Any,
    separator_mm: Any,
    plate_mm: Any,
    shaft_tip_out_mm: Any,
    spline_start_mm: Any,
    spline_mm: Any,
    crank_flange_mm: Any,
    crank_spacer_mm: Any,
    flywheel_mm: Any,
    hub_front_mm: Any,
    hub_mm: Any,
) -> Any:
    start = tip_s(separator_mm, plate_mm, shaft_tip_out_mm) + spline_start_mm
    front = friction_face_s(crank_flange_mm, crank_spacer_mm, flywheel_mm) + hub_front_mm - shift_mm
    return overlap(start, start + spline_mm, front, front + hub_mm)


def spline_engagement_new(
    separator_mm: Any, plate_mm: Any, shaft_tip_out_mm: Any, spline_start_mm: Any, spline_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, hub_front_mm: Any, hub_mm: Any
) -> Any:
    """Full teeth of the shaft inside the hub of a new disc. [mm]"""
    return _spline_in_hub(0.0, separator_mm, plate_mm, shaft_tip_out_mm, spline_start_mm, spline_mm, crank_flange_mm, crank_spacer_mm, flywheel_mm, hub_front_mm, hub_mm)


def spline_engagement_worn(
    separator_mm: Any,
    plate_mm: Any,
    shaft_tip_out_mm: Any,
    spline_start_mm: Any,
    spline_mm: Any,
    crank_flange_mm: Any,
    crank_spacer_mm: Any,
    flywheel_mm: Any,
    hub_front_mm: Any,
    hub_mm: Any,
    disc_wear_mm: Any,
) -> Any:
    """The same with a worn disc: its middle stands half the wear nearer to the flywheel. [mm]"""
    return _spline_in_hub(disc_wear_mm / 2.0, separator_mm, plate_mm, shaft_tip_out_mm, spline_start_mm, spline_mm, crank_flange_mm, crank_spacer_mm, flywheel_mm, hub_front_mm, hub_mm)


def whole_hub_less(hub_mm: Any, spline_short_max_mm: float) -> Any:
    """The engagement wanted: the whole hub less what may stand off. [mm]"""
    return hub_mm - spline_short_max_mm


def guide_tube_gap(separator_mm: Any, plate_mm: Any, guide_tube_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, hub_front_mm: Any, hub_mm: Any) -> Any:
    """Rear end of a new disc's hub to the end of the guide tube. [mm]"""
    hub_rear = friction_face_s(crank_flange_mm, crank_spacer_mm, flywheel_mm) + hub_front_mm + hub_mm
    return mouth_s(separator_mm, plate_mm) + guide_tube_mm - hub_rear


def hub_to_bolt_heads(hub_front_mm: Any, bolt_heads_mm: Any, disc_wear_mm: Any) -> Any:
    """Front end of a worn disc's hub to the heads of the flywheel bolts. [mm]"""
    return hub_front_mm - disc_wear_mm / 2.0 - bolt_heads_mm


def release_gap(separator_mm: Any, plate_mm: Any, release_parked_mm: Any, release_shim_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, finger_height_mm: Any) -> Any:
    """Parked release bearing to the fingers of a new clutch; negative when the bearing is pushed back. [mm]"""
    bearing = mouth_s(separator_mm, plate_mm) + release_parked_mm - release_shim_mm
    return bearing - (friction_face_s(crank_flange_mm, crank_spacer_mm, flywheel_mm) + finger_height_mm)


def finger_shift(disc_wear_mm: Any, lever_ratio: Any) -> Any:
    """How far the fingers move back as the lining wears: wear x lever ratio. [mm]"""
    return disc_wear_mm * lever_ratio


def release_wanted(disc_wear_mm: Any, lever_ratio: Any, release_spare_mm: float) -> Any:
    """A bearing that stands off without adjuster needs the whole shift, and a spare. [mm]"""
    return finger_shift(disc_wear_mm, lever_ratio) + release_spare_mm


def retract_reserve(separator_mm: Any, plate_mm: Any, release_parked_mm: Any, release_shim_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, finger_height_mm: Any) -> Any:
    """How far the bearing can still be pushed back from the fingers of a new clutch; negative when it does not reach them. [mm]"""
    return -release_gap(separator_mm, plate_mm, release_parked_mm, release_shim_mm, crank_flange_mm, crank_spacer_mm, flywheel_mm, finger_height_mm)


def retract_wanted(disc_wear_mm: Any, lever_ratio: Any, retract_reserve_mm: float) -> Any:
    """A bearing that rides on the fingers must still go back by the shift, and a reserve. [mm]"""
    return finger_shift(disc_wear_mm, lever_ratio) + retract_reserve_mm


def release_stroke(slave_stroke_mm: Any) -> Any:
    """The stroke that the slave has. [mm]"""
    return slave_stroke_mm


def stroke_wanted(
    separator_mm: Any,
    plate_mm: Any,
    release_parked_mm: Any,
    release_shim_mm: Any,
    crank_flange_mm: Any,
    crank_spacer_mm: Any,
    flywheel_mm: Any,
    finger_height_mm: Any,
    finger_travel_mm: Any,
    travel_factor: float,
) -> Any:
    """Stroke needed with a new disc: the gap, where there is one, then the fingers' travel, with a factor for losses. [mm]

    A bearing that is meant to ride and does not reach the fingers has that gap to close too.
    """
    gap = release_gap(separator_mm, plate_mm, release_parked_mm, release_shim_mm, crank_flange_mm, crank_spacer_mm, flywheel_mm, finger_height_mm)
    return travel_factor * (np.maximum(gap, 0.0) + finger_travel_mm)


def flywheel_in_bell(bell_bore_mm: Any, flywheel_od_mm: Any) -> Any:
    """Radial gap of the flywheel in the bell. [mm]"""
    return (bell_bore_mm - flywheel_od_mm) / 2.0


def flywheel_in_window(window_mm: Any, flywheel_od_mm: Any) -> Any:
    """Radial gap of the flywheel in the plate's window. [mm]"""
    return (window_mm - flywheel_od_mm) / 2.0


def cover_to_bell(separator_mm: Any, plate_mm: Any, plate_at: str, bell_depth_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, cover_height_mm: Any) -> Any:
    """Rearmost point of the clutch cover to what stands behind it in the bell. [mm]"""
    return bell_mouth_s(separator_mm, plate_mm, plate_at) + bell_depth_mm - (friction_face_s(crank_flange_mm, crank_spacer_mm, flywheel_mm) + cover_height_mm)


def parked_gap(starter_on: str, plate_at: str, separator_mm: Any, plate_mm: Any, starter_parked_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, ring_front_mm: Any) -> Any:
    """Parked pinion to the ring gear's front. [mm]"""
    ring = flywheel_flange_s(crank_flange_mm, crank_spacer_mm) + ring_front_mm
    return ring - (starter_flange_s(starter_on, separator_mm, plate_mm, plate_at) + starter_parked_mm)


def mesh_depth(
    starter_on: str, plate_at: str, separator_mm: Any, plate_mm: Any, starter_out_mm: Any, pinion_mm: Any, crank_flange_mm: Any, crank_spacer_mm: Any, ring_front_mm: Any, ring_width_mm: Any
) -> Any:
    """Face of the thrown pinion inside the ring gear's face. [mm]"""
    front = flywheel_flange_s(crank_flange_mm, crank_spacer_mm) + ring_front_mm
    out = starter_flange_s(starter_on, separator_mm, plate_mm, plate_at) + starter_out_mm
    return overlap(out - pinion_mm, out, front, front + ring_width_mm)


def mesh_wanted(ring_width_mm: Any, mesh_share: float) -> Any:
    """Share of the ring's face that must mesh. [mm]"""
    return mesh_share * ring_width_mm
