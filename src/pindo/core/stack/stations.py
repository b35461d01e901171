"""Axial places on the station axis: mm rearwards from the block's rear face, along the crank axis."""

from typing import Any

BEHIND_THE_BELL = "bell and gearbox"


def flywheel_flange_s(crank_flange_mm: Any, crank_spacer_mm: Any) -> Any:
    """Where the flywheel's flange face sits: crank flange plus all spacer pieces. [mm]"""
    return crank_flange_mm + crank_spacer_mm


def friction_face_s(crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any) -> Any:
    """Station of the flywheel's friction face. [mm]"""
    return flywheel_flange_s(crank_flange_mm, crank_spacer_mm) + flywheel_mm


def mouth_s(separator_mm: Any, plate_mm: Any) -> Any:
    """Where the gearbox's mouth stands: everything that stays in the joints counts.

    With a plate between bell and gearbox it is where the bell's mouth would be if it moved with the gearbox: what belongs to the
    gearbox (shaft, guide tube, slave) is measured from there with the bell on and the plate off. [mm]
    """
    return separator_mm + plate_mm


def bell_mouth_s(separator_mm: Any, plate_mm: Any, plate_at: str) -> Any:
    """Station of the bell's mouth: a plate between bell and gearbox moves the gearbox and leaves the bell. [mm]"""
    return separator_mm + 0.0 * plate_mm if plate_at == BEHIND_THE_BELL else mouth_s(separator_mm, plate_mm)


def tip_s(separator_mm: Any, plate_mm: Any, shaft_tip_out_mm: Any) -> Any:
    """Station of the input shaft's tip, which stands out of the mouth towards the engine. [mm]"""
    return mouth_s(separator_mm, plate_mm) - shaft_tip_out_mm


def pilot_rear_s(pilot_in: str, crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, pilot_sunk_mm: Any) -> Any:
    """Station of the pilot bearing's rear end; it moves with the piece that it sits in. [mm]

    ``pilot_in`` is crank, spacer or flywheel; the bearing is sunk below that piece's rear face.
    """
    face = {
        "crank": crank_flange_mm + 0.0 * crank_spacer_mm,
        "spacer": flywheel_flange_s(crank_flange_mm, crank_spacer_mm),
        "flywheel": friction_face_s(crank_flange_mm, crank_spacer_mm, flywheel_mm),
    }[pilot_in]
    return face - pilot_sunk_mm


def starter_flange_s(starter_on: str, separator_mm: Any, plate_mm: Any, plate_at: str) -> Any:
    """Station of the face that the starter bolts to: engine 0, plate its engine side, housing the bell's mouth. [mm]"""
    return {"engine": 0.0 * plate_mm, "plate": separator_mm + 0.0 * plate_mm, "housing": bell_mouth_s(separator_mm, plate_mm, plate_at)}[starter_on]
