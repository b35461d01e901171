"""What must match from crank to input shaft. All lengths mm; arrays broadcast."""

from typing import Any

import numpy as np


def bolt_circle_play(crank_pcd_mm: Any, flywheel_pcd_mm: Any, crank_bolt_mm: Any, flywheel_hole_mm: Any) -> Any:
    """Play left at a bolt: (H - F)/2 less the difference of the two circles' radii. [mm]

    Fixed fastener, ASME Y14.5: a bolt into a thread passes when the centres differ by no more than (H - F)/2.
    """
    return (flywheel_hole_mm - crank_bolt_mm) / 2.0 - np.abs(crank_pcd_mm - flywheel_pcd_mm) / 2.0


def register_clearance(flywheel_register_mm: Any, crank_register_mm: Any) -> Any:
    """Diametral clearance of the flywheel on the crank's spigot; negative is interference. [mm]"""
    return flywheel_register_mm - crank_register_mm


def disc_on_face(friction_face_mm: Any, disc_od_mm: Any) -> Any:
    """Friction face less disc diameter: negative when the lining hangs over. [mm]"""
    return friction_face_mm - disc_od_mm


def nose_clearance(pilot_bore_mm: Any, nose_d_mm: Any) -> Any:
    """Diametral clearance of the nose in its bearing. [mm]"""
    return pilot_bore_mm - nose_d_mm


def bearing_press(pilot_od_mm: Any, pilot_seat_mm: Any) -> Any:
    """Diametral interference of the pilot bearing in its seat. [mm]"""
    return pilot_od_mm - pilot_seat_mm


def release_bore_clearance(release_bore_mm: Any, guide_tube_od_mm: Any) -> Any:
    """Diametral clearance of the release bearing's carrier on the guide tube. [mm]"""
    return release_bore_mm - guide_tube_od_mm


def spline_od_difference(disc_spline_od_mm: Any, shaft_spline_od_mm: Any) -> Any:
    """Hub's major diameter less the shaft's. [mm]"""
    return disc_spline_od_mm - shaft_spline_od_mm


def pattern_difference(cover_pcd_mm: Any, flywheel_cover_pcd_mm: Any) -> Any:
    """Clutch cover's bolt circle less the flywheel's. [mm]"""
    return cover_pcd_mm - flywheel_cover_pcd_mm


def module_difference(pinion_module_mm: Any, ring_module_mm: Any) -> Any:
    """Pinion's module less the ring gear's. [mm]"""
    return pinion_module_mm - ring_module_mm


def centre_excess(starter_centre_mm: Any, ring_module_mm: Any, ring_teeth: Any, pinion_teeth: Any) -> Any:
    """Measured centre distance less the one without backlash, m (z1 + z2)/2. [mm]"""
    return starter_centre_mm - ring_module_mm * (ring_teeth + pinion_teeth) / 2.0


def excess_for_backlash(backlash_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that a backlash along the pitch circle takes: j/(2 tan alpha). [mm]"""
    return backlash_mm / (2.0 * float(np.tan(np.radians(pressure_angle_deg))))


def torque_ratio(rating_nm: Any, load_nm: Any) -> Any:
    """Rating over load [-]."""
    return rating_nm / load_nm
