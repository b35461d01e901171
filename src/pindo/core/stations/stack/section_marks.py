"""Where the letters, the gaps and the handles of the section stand."""

from pindo.core.drawing.callouts import Stretch
from pindo.core.drawing.shapes import Gap, Handle, Usual
from pindo.core.geometry.axial import (
    BEHIND_THE_BELL,
    bell_mouth_s,
    flywheel_flange_s,
    friction_face_s,
    mouth_s,
    pilot_rear_s,
    starter_flange_s,
    tip_s,
)
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs

CASTING = 14.0  # wall of a casting in the picture


def anchors(
    g: Usual, pilot_in: str, starter_on: str, plate_at: str
) -> dict[str, tuple[float, float]]:
    """The point of the section that each length speaks of."""
    flange, spacer, fly = g("crank_flange_mm"), g("crank_spacer_mm"), g("flywheel_mm")
    back, face = flywheel_flange_s(flange, spacer), friction_face_s(flange, spacer, fly)
    sep, plate = g("separator_mm"), g("plate_mm")
    mouth, tip = mouth_s(sep, plate), tip_s(sep, plate, g("shaft_tip_out_mm"))
    rear = pilot_rear_s(flange, spacer, fly, g("pilot_sunk_mm"), pilot_in)
    hub, teeth, tube = (
        face + g("hub_front_mm"),
        g("disc_spline_od_mm") / 2,
        g("guide_tube_od_mm") / 2,
    )
    parked = mouth + g("release_parked_mm") - g("release_shim_mm")
    rim, edge, start = (
        g("flywheel_od_mm") / 2,
        g("crank_pcd_mm") / 2 + 13,
        tip + g("spline_start_mm"),
    )
    flange_s, ring = starter_flange_s(sep, plate, starter_on, plate_at), back + g("ring_front_mm")
    nose, seat = g("nose_d_mm") / 2, g("pilot_seat_mm") / 2
    return {
        "crank_flange_mm": (flange, edge),
        "crank_bore_depth_mm": (flange - g("crank_bore_depth_mm"), 3),
        "crank_spacer_mm": ((flange + back) / 2, edge - 4),
        "flywheel_mm": (face, rim - 60),
        "separator_mm": (sep / 2, rim + 22),
        "plate_mm": (
            (sep + g("bell_depth_mm") + CASTING + plate / 2, 100)
            if plate_at == BEHIND_THE_BELL
            else (sep + plate / 2, rim + 34)
        ),
        "shaft_tip_out_mm": (tip, 0),
        "nose_mm": (tip + g("nose_mm"), nose),
        "nose_chamfer_mm": (tip + g("nose_chamfer_mm") / 2, nose),
        "pilot_sunk_mm": (rear, g("pilot_od_mm") / 2),
        "pilot_width_mm": (rear - g("pilot_width_mm") / 2, g("pilot_od_mm") / 2 - 3),
        "hub_front_mm": (hub, teeth + 7),
        "hub_mm": (hub + g("hub_mm") / 2, teeth + 6),
        "spline_start_mm": (start, teeth),
        "spline_mm": (start + g("spline_mm") - 3, teeth * 0.7),
        "finger_height_mm": (face + g("finger_height_mm"), tube + 10),
        "release_parked_mm": (parked, tube + 14),
        "release_shim_mm": (parked + 13, tube + 12),
        "guide_tube_mm": (mouth + g("guide_tube_mm"), tube),
        "bolt_heads_mm": (face + g("bolt_heads_mm"), g("flywheel_pcd_mm") / 2 + 5),
        "cover_height_mm": (face + g("cover_height_mm"), g("friction_face_mm") / 2 - 60),
        "bell_depth_mm": (bell_mouth_s(sep, plate, plate_at) + g("bell_depth_mm"), 80),
        "flywheel_od_mm": (back + 8, rim),
        "bell_bore_mm": (mouth + 30, g("bell_bore_mm") / 2),
        "window_mm": (mouth, g("window_mm") / 2),
        "ring_front_mm": (ring, rim - 4),
        "ring_width_mm": (ring + g("ring_width_mm"), rim - 8),
        "starter_parked_mm": (flange_s + g("starter_parked_mm"), g("starter_centre_mm") + 6),
        "starter_out_mm": (flange_s + g("starter_out_mm"), g("starter_centre_mm")),
        "pinion_mm": (
            flange_s + g("starter_parked_mm") - g("pinion_mm"),
            g("starter_centre_mm") + 4,
        ),
        "starter_centre_mm": (flange_s + g("starter_parked_mm") - 6, g("starter_centre_mm")),
        "crank_pcd_mm": (flange, g("crank_pcd_mm") / 2),
        "flywheel_pcd_mm": (back, g("flywheel_pcd_mm") / 2),
        "crank_register_mm": (flange, g("crank_register_mm") / 2),
        "flywheel_register_mm": (back, g("flywheel_register_mm") / 2),
        "friction_face_mm": (face, g("friction_face_mm") / 2),
        "disc_od_mm": (face + 4, g("disc_od_mm") / 2),
        "disc_spline_od_mm": (hub + 4, teeth),
        "shaft_spline_od_mm": (start + 8, g("shaft_spline_od_mm") / 2),
        "nose_d_mm": (tip + g("nose_mm") / 2, nose),
        "pilot_bore_mm": (rear - 4, g("pilot_bore_mm") / 2),
        "pilot_od_mm": (rear - 6, g("pilot_od_mm") / 2),
        "pilot_seat_mm": (rear - 8, seat),
        "cover_pcd_mm": (face + 3, g("cover_pcd_mm") / 2),
        "flywheel_cover_pcd_mm": (face, g("flywheel_cover_pcd_mm") / 2),
        "guide_tube_od_mm": (mouth + g("guide_tube_mm") + 14, tube),
        "release_bore_mm": (parked + 7, g("release_bore_mm") / 2),
        "hub2_front_mm": (face + g("hub2_front_mm"), teeth + 16),
        "hub2_mm": (face + g("hub2_front_mm") + g("hub2_mm") / 2, teeth + 9),
        "pack_front_mm": (mouth + g("pack_front_mm"), g("pack_od_mm") / 2 - 30),
        "pack_od_mm": (mouth + g("pack_front_mm") + 40, g("pack_od_mm") / 2),
    }


DIAMETERS = (
    "flywheel_od_mm",
    "bell_bore_mm",
    "window_mm",
    "crank_pcd_mm",
    "flywheel_pcd_mm",
    "crank_register_mm",
    "flywheel_register_mm",
    "friction_face_mm",
    "disc_od_mm",
    "disc_spline_od_mm",
    "shaft_spline_od_mm",
    "nose_d_mm",
    "pilot_bore_mm",
    "pilot_od_mm",
    "pilot_seat_mm",
    "cover_pcd_mm",
    "flywheel_cover_pcd_mm",
    "guide_tube_od_mm",
    "release_bore_mm",
)
"""Sizes that the section shows from the axis upwards."""


def sizes(
    g: Usual, at: dict[str, tuple[float, float]], starter_on: str, plate_at: str
) -> dict[str, Stretch]:
    """The two ends of each length of the section. [mm]"""
    flange = g("crank_flange_mm")
    back, face = flywheel_flange_s(flange, g("crank_spacer_mm")), at["flywheel_mm"][0]
    sep, plate = g("separator_mm"), g("plate_mm")
    mouth, tip = mouth_s(sep, plate), at["shaft_tip_out_mm"][0]
    bell, start = bell_mouth_s(sep, plate, plate_at), tip + g("spline_start_mm")
    flange_s = starter_flange_s(sep, plate, starter_on, plate_at)
    hub, ring, rear = at["hub_front_mm"][0], at["ring_front_mm"][0], at["pilot_sunk_mm"][0]
    middle = at["plate_mm"][0]
    along = {
        "crank_flange_mm": (0.0, flange),
        "crank_bore_depth_mm": (flange - g("crank_bore_depth_mm"), flange),
        "crank_spacer_mm": (flange, back),
        "flywheel_mm": (back, face),
        "separator_mm": (0.0, sep),
        "plate_mm": (middle - plate / 2, middle + plate / 2),
        "shaft_tip_out_mm": (tip, mouth),
        "nose_mm": (tip, tip + g("nose_mm")),
        "nose_chamfer_mm": (tip, tip + g("nose_chamfer_mm")),
        "pilot_sunk_mm": (rear, rear + g("pilot_sunk_mm")),
        "pilot_width_mm": (rear - g("pilot_width_mm"), rear),
        "hub_front_mm": (face, hub),
        "hub_mm": (hub, hub + g("hub_mm")),
        "spline_start_mm": (tip, start),
        "spline_mm": (start, start + g("spline_mm")),
        "finger_height_mm": (face, face + g("finger_height_mm")),
        "release_parked_mm": (mouth, mouth + g("release_parked_mm")),
        "guide_tube_mm": (mouth, mouth + g("guide_tube_mm")),
        "bolt_heads_mm": (face, face + g("bolt_heads_mm")),
        "cover_height_mm": (face, face + g("cover_height_mm")),
        "bell_depth_mm": (bell, bell + g("bell_depth_mm")),
        "ring_front_mm": (back, ring),
        "ring_width_mm": (ring, ring + g("ring_width_mm")),
        "starter_parked_mm": (flange_s, flange_s + g("starter_parked_mm")),
        "starter_out_mm": (flange_s, flange_s + g("starter_out_mm")),
        "pinion_mm": (at["pinion_mm"][0], at["pinion_mm"][0] + g("pinion_mm")),
    }
    found = {k: (a, at[k][1], b, at[k][1]) for k, (a, b) in along.items()}
    upright = (*DIAMETERS, "starter_centre_mm")
    return found | {k: (at[k][0], 0.0, at[k][0], at[k][1]) for k in upright}


def gaps(g: Usual, at: dict[str, tuple[float, float]], pilot_in: str) -> list[Gap]:
    """The gaps that findings speak of, at the two surfaces that bound them. [mm]"""
    tip, rear = at["shaft_tip_out_mm"][0], at["pilot_sunk_mm"][0]
    nose = g("nose_d_mm") / 2
    fingers, parked, r = (
        at["finger_height_mm"],
        at["release_parked_mm"][0],
        g("guide_tube_od_mm") / 2 + 8,
    )
    hub_rear = at["hub_front_mm"][0] + g("hub_mm")
    tube = at["guide_tube_mm"]
    inside = (
        max(tip + g("nose_chamfer_mm"), rear - g("pilot_width_mm")),
        min(tip + g("nose_mm"), rear),
    )
    release = "stack.release_gap"
    return [
        Gap(finding="stack.pilot_engagement", x1=inside[0], y1=nose + 2, x2=inside[1], y2=nose + 2),
        Gap(finding="stack.tip_clearance", x1=at["crank_bore_depth_mm"][0], y1=4, x2=tip, y2=4),
        Gap(
            finding="stack.shoulder_clearance",
            x1=rear,
            y1=nose + 5,
            x2=tip + g("nose_mm"),
            y2=nose + 5,
        ),
        Gap(finding=release, x1=fingers[0], y1=r, x2=parked, y2=r),
        Gap(finding="stack.retract_reserve", x1=fingers[0], y1=r, x2=parked, y2=r),
        Gap(finding="stack.guide_tube", x1=hub_rear, y1=tube[1] - 1, x2=tube[0], y2=tube[1] - 1),
        Gap(
            finding="stack.starter_parked",
            x1=at["starter_parked_mm"][0],
            y1=at["ring_front_mm"][1],
            x2=at["ring_front_mm"][0],
            y2=at["ring_front_mm"][1],
        ),
        Gap(
            finding="stack.flywheel_in_bell",
            x1=at["bell_bore_mm"][0],
            y1=g("flywheel_od_mm") / 2,
            x2=at["bell_bore_mm"][0],
            y2=g("bell_bore_mm") / 2,
        ),
        Gap(
            finding="stack.cover_to_bell",
            x1=at["cover_height_mm"][0],
            y1=80,
            x2=at["bell_depth_mm"][0],
            y2=80,
        ),
    ]


def handles(
    inputs: Inputs, at: dict[str, tuple[float, float]], mouth: float, back: float, rim: float
) -> list[Handle]:
    """What can be dragged in the section: the plate and the crank spacer. [mm]"""
    made = []
    behind = inputs.options["plate_at"] == BEHIND_THE_BELL
    for key, x, y in (
        (
            "plate_mm",
            at["plate_mm"][0] if behind else mouth,
            at["plate_mm"][1] if behind else rim + 10,
        ),
        ("crank_spacer_mm", back, at["crank_spacer_mm"][1] + 16),
    ):
        limits, value = DIMENSIONS[key].adjustable, inputs.value(key)
        if limits is not None and value is not None:
            made.append(
                Handle(
                    address=key,
                    name=DIMENSIONS[key].name,
                    x=x,
                    y=y,
                    turns=False,
                    value=value,
                    low=limits.low,
                    high=limits.high,
                    step=limits.step,
                )
            )
    return made
