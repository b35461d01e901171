"""An inspection trolley for a garden railway gets a small single-cylinder engine with a centrifugal clutch. All invented.

Its story: a chain of odd pitches wants a cranked link, the driver sprocket stands out of plane (moving it cures it),
the clutch sits on too little shaft for its key, the governed speed is too much for the track, the silencer is too
near the fuel hose, and the return spring of the throttle is still to come.
"""

from typing import Any

from pindo.core.assemble.templates import template_steps
from pindo.core.build import Build

M, D, P, C, G = "measured", "drawing", "maker's paper", "catalogue", "guess"
CAL, RULE, TAPE, COUNT, INC, SCALE = "digital calliper", "steel rule", "tape", "count", "digital inclinometer", "scale"
STATE = {"position": "resting loose"}

_ROWS: tuple[tuple[str, str, str, str | None, str], ...] = (
    ("wheelbase_mm", "620", M, TAPE, "axle to axle"),
    ("tyre_mm", "114", M, CAL, "wheel tread"),
    ("rail_height_mm", "118", M, RULE, "deck frame above the rail head"),
    ("engine_length_mm", "206", C, None, "shaft face to fan cowl"),
    ("engine_top_mm", "225", C, None, "over the tank"),
    ("sump_mm", "96", M, RULE, ""),
    ("gearbox_length_mm", "0", M, RULE, "none"),
    ("plate_mm", "0", M, RULE, "none"),
    ("separator_mm", "0", M, RULE, "none"),
    ("block_face_back_mm", "395", M, RULE, ""),
    ("crank_side_mm", "-64", M, RULE, ""),
    ("crank_height_mm", "118", M, RULE, ""),
    ("roll_deg", "0 ± 0.3", M, INC, ""),
    ("inclination_deg", "0.4", M, INC, ""),
    ("yaw_deg", "0 ± 0.3", M, INC, ""),
    ("sump_back_mm", "-80", M, RULE, ""),
    ("unit_mass_kg", "15.8", M, SCALE, "oil in, tank half"),
    ("mass_back_mm", "-85", M, RULE, ""),
    ("mass_left_mm", "0", G, None, ""),
    ("mass_up_mm", "30", G, None, ""),
    ("gyration_roll_mm", "95", G, None, ""),
    ("gyration_pitch_mm", "90", G, None, ""),
    ("gyration_yaw_mm", "92", G, None, ""),
    ("first_gear_ratio", "1", M, COUNT, "no gearbox"),
    ("reverse_ratio", "0", M, COUNT, "none"),
    ("cylinders", "1", M, COUNT, ""),
    ("idle_rpm", "1750", P, None, ""),
    ("engine_torque_nm", "12.9 N·m", P, None, "from 6.5 hp at 3600"),
    ("driver_teeth", "10", M, COUNT, ""),
    ("driven_teeth", "48", M, COUNT, ""),
    ("chain_pitch_mm", "12.7", M, CAL, "over ten links"),
    ("chain_links", "67", M, COUNT, "as it came"),
    ("chain_centre_mm", "234", M, RULE, ""),
    ("take_up_mm", "12", M, RULE, "slots of the plate"),
    ("driver_plane_mm", "-61.5", M, RULE, ""),
    ("driven_plane_mm", "-66.0", M, RULE, ""),
    ("sprocket_back_mm", "2.5", M, RULE, "middle of its teeth"),
    ("sprocket_left_mm", "0", M, RULE, "on the crank"),
    ("sprocket_up_mm", "0", M, RULE, "on the crank"),
    ("driven_axle_back_mm", "620", M, TAPE, "the rear axle"),
    ("axle_drop_mm", "61", M, RULE, ""),
    ("engine_rpm", "3600", P, None, "governed"),
    ("engine_power_kw", "6.5 hp", P, None, ""),
    ("reduction_ratio", "1", M, COUNT, ""),
    ("road_speed_most", "12 km/h", P, None, "rule of the line"),
    ("clutch_shaft_mm", "3/4 in", M, CAL, ""),
    ("clutch_key_mm", "3/16 in", M, CAL, ""),
    ("clutch_on_shaft_mm", "12.5", M, CAL, "bush ends early"),
)
_MOUNTS = ((1, "left front", "-162", "-46"), (2, "left rear", "-162", "46"), (3, "right front", "-18", "-46"), (4, "right rear", "-18", "46"))
# number, name, body, class, shape, axis, behind, left, up, a, b, c
_SOLIDS = (
    (1, "Crankcase", "engine", "metal", "box", "along", "-95", "0", "20", "170", "190", "210"),
    (2, "Silencer", "engine", "exhaust", "box", "along", "-110", "128", "92", "150", "72", "110"),
    (3, "Fuel tank", "engine", "line", "box", "along", "-110", "-20", "185", "190", "170", "80"),
    (4, "Clutch drum", "engine", "metal", "cylinder", "along", "26", "0", "0", "108", "34", None),
    (5, "Fan cowl", "engine", "metal", "cylinder", "along", "-190", "0", "0", "200", "44", None),
    (11, "Deck frame", "chassis", "metal", "box", "along", "310", "0", "-19", "820", "320", "38"),
    (12, "Seat back", "chassis", "sheet", "box", "along", "205", "0", "180", "20", "300", "260"),
    (13, "Brake rod", "chassis", "steering", "capsule", "along", "330", "-122", "20", "10", "420", None),
    (14, "Fuel hose to the tap", "chassis", "line", "capsule", "upright", "520", "-80", "150", "9", "150", None),
    (15, "Guard hoop", "chassis", "metal", "box", "along", "604", "0", "110", "16", "300", "220"),
)


def _statement(typed: str, source: str, tool: str | None, note: str) -> dict[str, Any]:
    return {"id": "s1", "source": source, "tool": tool, "note": note, "state": STATE if source == M else {}, "takes": [{"typed": typed}]}


def _steps() -> list[dict[str, Any]]:
    steps = template_steps("chain")
    for step in steps:
        if step["n"] in (1, 2):
            step |= {"state": "done", "by": "O.", "as_built": "chain 67 pitches, not 66" if step["asks"] else "", "minutes": "1 h"}
    return steps


def garden_trolley() -> Build:
    """The build document of the garden railway's inspection trolley."""
    rule = {"source": M, "tool": RULE, "pm": "1", "state": STATE}
    return Build.model_validate(
        {
            "name": "Garden railway trolley, single cylinder",
            "vehicle": "Inspection trolley for a seven and a quarter inch garden railway",
            "engine": "Mirelund K1 single-cylinder, 6.5 hp",
            "gearbox": "none: centrifugal clutch and chain",
            "rules": {"ground_gap_min_mm": {"value": 60, "note": "laid on a plain bed: sleepers and chairs stay 40 below the rail head"}},
            "notes": "Two riders, brake on the rear axle. All names and figures are invented.",
            "layout": "crosswise left",
            "state": STATE,
            "options": {
                "coupling": "centrifugal clutch", "build_type": "chain", "pose_from": "six numbers", "mount_type": "stiff", "final_drive_in": "the axle",
                "strokes": "four-stroke", "drive": "chain", "belt": "none", "bonnet": "none",
            },
            "dims": {key: {"statements": [_statement(typed, source, tool, note)]} for key, typed, source, tool, note in _ROWS},
            "mounts": [{"n": n, "name": name, "back": b, "left": le, "up": "-96", "kx": "900", "ky": "900", "kz": "1600", "stiffness_from": "guess", "slot": "30", "slot_at": "2", "evidence": rule} for n, name, b, le in _MOUNTS],
            "solids": [{"n": n, "name": name, "body": body, "class_": kind, "shape": shape, "axis": axis, "back": b, "left": le, "up": u, "a": a, "b": bb, "c": c, "evidence": rule} for n, name, body, kind, shape, axis, b, le, u, a, bb, c in _SOLIDS],
            "joints": [
                {"n": 1, "name": "clutch end screw", "kind": "rotating", "bolts": "1", "d": "M8", "strength": "8.8", "surface": "locker", "friction": "0.11 - 0.13", "torque": "23 N·m", "stages": "100", "locker": "locker", "state": "open", "evidence": {"source": P, "note": "engine booklet"}},
                {"n": 2, "name": "engine to plate", "kind": "mounts", "bolts": "4", "d": "M8", "strength": "8.8", "surface": "as delivered", "torque": "22 N·m", "stages": "50, 100", "locker": "none", "state": "loose on purpose", "evidence": {"source": P}},
            ],
            "steps": _steps(),
            "log": [{"n": 1, "at": "2026-05-09", "who": "O.", "about": "line", "name": "Chain counted", "note": "67 pitches: an odd one. The shop says a cranked link is usual; it is the weakest of the chain."}],
            "provisional": [
                {"n": 1, "name": "Throttle without return spring", "kind": "temporary part", "owner": "O.", "reason": "spring on order", "until": "before first start", "blocks": "start", "state": "open"},
                {"n": 2, "name": "Chain guard off", "kind": "missing guard", "owner": "O.", "reason": "chain not settled", "until": "before motion", "blocks": "motion", "state": "open"},
            ],
            "parts": [{"n": 1, "name": "chain", "state": "temporary", "source": "box of leftovers", "needed_by": "chain on"}, {"n": 2, "name": "clutch", "state": "final", "source": "kart shop"}],
            "money": [{"n": 1, "name": "Engine", "state": "paid", "amount": "180"}, {"n": 2, "name": "Clutch", "state": "paid", "amount": "38"}, {"n": 3, "name": "Chain, new", "state": "unpriced"}],
            "hours": [{"n": 1, "name": "Strip the old motor", "at": "2026-05-02", "who": "O.", "minutes": "1 h"}],
        }
    )  # fmt: skip
