"""The pump tender's lists: mounts, solids, belt, joints, steps, log. All invented."""

from typing import Any

from pindo.core.assemble.templates import template_steps

RULE = {"source": "measured", "tool": "steel rule", "pm": "1", "state": {"position": "stand", "gearbox": "off"}}
TAPE = {"source": "measured", "tool": "tape", "state": {"position": "stand", "gearbox": "off"}}
EDGE = {"source": "measured", "tool": "digital calliper", "pm": "0.4", "note": "straight edge across the pulleys"}
GUESS = {"source": "guess", "pm": "10"}

# number, name, behind block face, left, up, lengthwise, sideways, upright, slot, slot at
_MOUNTS = (
    (1, "front left", "-520", "232", "-62", "420", "350", "880", "30", "12.2"),
    (2, "front right", "-520", "-232", "-62", "420", "350", "880", "30", "2"),
    (3, "rear left", "599", "152", "-84", "300", "260", "610", None, None),
    (4, "rear right", "599", "-152", "-84", "300", "260", "610", None, None),
)
# number, name, body, class, shape, axis, behind, left, up, a, b, c, evidence
_SOLIDS = (
    (1, "Block and head", "engine", "metal", "box", "along", "-330", "0", "150", "640", "330", "440", RULE),
    (2, "Sump, deep part", "engine", "metal", "box", "along", "-455", "0", "-190", "300", "280", "150", RULE),
    (3, "Sump, shallow part", "engine", "metal", "box", "along", "-140", "0", "-140", "280", "270", "90", RULE),
    (4, "Alternator", "engine", "metal", "cylinder", "along", "-560", "264", "38", "138", "180", None, RULE),
    (5, "Exhaust manifold", "engine", "exhaust", "capsule", "along", "-330", "-225", "250", "90", "460", None, RULE),
    (6, "Downpipe", "engine", "exhaust", "capsule", "upright", "-90", "-262", "40", "66", "420", None, TAPE),
    (7, "Fan", "engine", "fan", "cylinder", "along", "-742", "0", "140", "430", "50", None, RULE),
    (8, "Injection pump", "engine", "metal", "box", "along", "-360", "215", "110", "260", "110", "160", RULE),
    (9, "Oil filter", "engine", "metal", "cylinder", "upright", "-250", "-222", "-70", "96", "150", None, RULE),
    (10, "Starter", "engine", "metal", "cylinder", "along", "-70", "172", "60", "88", "230", None, RULE),
    (11, "Bell", "gearbox", "metal", "cone", "along", "151", "0", "0", "400", "320", None, RULE),
    (12, "Gearbox case", "gearbox", "metal", "box", "along", "411", "0", "-20", "400", "230", "250", RULE),
    (13, "Front belt", "engine", "belt", "box", "along", "-700", "90", "90", "26", "430", "330", RULE),
    (14, "Fuel line on the pump", "engine", "line", "capsule", "along", "-330", "292", "205", "12", "300", None, TAPE),
    (15, "Output flange", "gearbox", "shaft", "cylinder", "along", "601", "0", "0", "120", "40", None, RULE),
    (21, "Left rail", "chassis", "metal", "box", "along", "1400", "397", "-90", "4000", "70", "180", TAPE),
    (22, "Right rail", "chassis", "metal", "box", "along", "1400", "-397", "-90", "4000", "70", "180", TAPE),
    (23, "Front crossmember", "chassis", "metal", "box", "along", "-565", "0", "-150", "120", "720", "110", TAPE),
    (24, "Gearbox crossmember", "chassis", "metal", "box", "along", "830", "0", "-292", "90", "720", "80", TAPE),
    (25, "Front axle beam", "chassis", "metal", "box", "along", "0", "0", "-330", "90", "1500", "80", TAPE),
    (26, "Steering shaft", "chassis", "steering", "capsule", "along", "160", "338", "215", "26", "760", None, TAPE),
    (27, "Steering box", "chassis", "steering", "box", "along", "-150", "386", "62", "170", "110", "150", TAPE),
    (28, "Radiator core", "chassis", "core", "box", "along", "-665", "0", "150", "70", "560", "560", TAPE),
    (29, "Fan shroud, top", "chassis", "shroud", "box", "along", "-600", "0", "408", "70", "480", "12", TAPE),
    (30, "Fan shroud, bottom", "chassis", "shroud", "box", "along", "-600", "0", "-118", "70", "480", "12", TAPE),
    (31, "Bonnet", "chassis", "sheet", "box", "along", "-150", "0", "620", "1000", "900", "20", TAPE),
    (32, "Bulkhead", "chassis", "sheet", "box", "along", "420", "0", "420", "6", "1300", "620", TAPE),
    (33, "Brake line on the right rail", "chassis", "line", "capsule", "along", "300", "-397", "14", "10", "900", None, TAPE),
    (34, "Chassis loom", "chassis", "wiring", "capsule", "along", "100", "397", "20", "24", "1500", None, TAPE),
    (35, "Tunnel, left wall", "chassis", "tunnel", "box", "along", "900", "190", "60", "700", "6", "320", GUESS),
    (36, "Tunnel, right wall", "chassis", "tunnel", "box", "along", "900", "-190", "60", "700", "6", "320", GUESS),
)  # fmt: skip
# number, name, right, up, diameter, side, plane, ribs, must turn
_PULLEYS = (
    (1, "crank", "0", "0", "182", "ribs", "0", "6", "either"),
    (2, "idler", "-104", "104", "70", "back", "0", None, "either"),
    (3, "water pump", "0", "212", "136", "ribs", "0.3", "6", "as the crank"),
    (4, "alternator", "252", "38", "62", "ribs", "3.4", "6", "as the crank"),
)
# number, name, what it holds, bolts, thread, class, surface, torque, stages, order, locker, single use, again, state, evidence
_JOINTS = (
    (1, "flywheel to crank", "rotating", "8", "M12x1.25", "10.9", "locker", "76 lbf·ft", "20, 48, 76", "star", "locker", "new", False, "open", {"source": "maker's paper", "note": "engine handbook"}),
    (2, "clutch cover", "rotating", "6", "M8", "8.8", "as delivered", "14 lbf·ft", "50, 100", "star", "none", "no", False, "open", {"source": "hearsay", "note": "another build says 10"}),
    (3, "plate to block", "structure", "14", "M10", "10.9", "as delivered", "64 N·m", "30, 60, 100", "star", "not said", "no", True, "started", {"source": "drawing", "note": "plate drawing"}),
    (4, "bell to plate", "structure", "10", "M10", "8.8", "oiled", "40 N·m", "30, 60, 100", "star", "none", "no", True, "open", {"source": "drawing"}),
    (5, "front mounts", "mounts", "4", "M12", "8.8", "not said", None, "100", "star", "none", "no", True, "loose on purpose", {"source": "not said"}),
)


def _steps() -> list[dict[str, Any]]:
    steps = template_steps("shaft to a rear axle")
    written = {1: "pinion 10 DP, ring gear module 3", 5: "window 326, not cut at the pocket yet"}
    for step in steps:
        if step["n"] in (1, 2, 5):
            step |= {"state": "done", "by": "I.", "as_built": written.get(step["n"], "seal and bearing new; shim 2.5" if step["asks"] else ""), "minutes": f"{40 + 15 * step['n']} min"}
    return steps


def vehicle_lists() -> dict[str, Any]:
    """Lists of the build document, by name."""
    mounts = [
        {
            "n": n,
            "name": name,
            "body": "gearbox" if n > 2 else "engine",
            "back": b,
            "left": le,
            "up": u,
            "stiffness_from": "catalogue",
            "kx": kx,
            "ky": ky,
            "kz": kz,
            "slot": slot,
            "slot_at": at,
            "evidence": RULE,
        }
        for n, name, b, le, u, kx, ky, kz, slot, at in _MOUNTS
    ]
    solids = [
        {"n": n, "name": name, "body": body, "class_": kind, "shape": shape, "axis": axis, "back": b, "left": le, "up": u, "a": a, "b": bb, "c": c, "evidence": e}
        for n, name, body, kind, shape, axis, b, le, u, a, bb, c, e in _SOLIDS
    ]
    pulleys = [
        {"n": n, "name": name, "right": r, "up": u, "d": d, "side": side, "plane": plane, "ribs": ribs, "wants": wants, "evidence": EDGE} for n, name, r, u, d, side, plane, ribs, wants in _PULLEYS
    ]
    joints = [
        {
            "n": n,
            "name": name,
            "kind": kind,
            "bolts": bolts,
            "d": d,
            "strength": strength,
            "surface": surface,
            "friction": "0.10 - 0.13" if surface == "locker" else None,
            "torque": torque,
            "stages": stages,
            "order": order,
            "locker": locker,
            "single_use": single,
            "again": again,
            "state": state,
            "evidence": e,
        }
        for n, name, kind, bolts, d, strength, surface, torque, stages, order, locker, single, again, state, e in _JOINTS
    ]
    return {
        "mounts": mounts,
        "solids": solids,
        "pulleys": pulleys,
        "joints": joints,
        "steps": _steps(),
        "log": [
            {
                "n": 1,
                "at": "2026-03-02",
                "who": "I.",
                "about": "survey",
                "name": "Engine on the stand",
                "note": "Oil drained, sump off, bearing shells looked at. Seller's word on the injectors stays a claim.",
            },
            {"n": 2, "at": "2026-03-14", "who": "I.", "about": "mate", "name": "First offer up with the wooden plate", "note": "Proves the outline, not the position. Drain nib seen beside E9."},
            {"n": 3, "at": "2026-04-05", "who": "the helper", "about": "clear", "name": "Trial hang", "note": "Unit resting on its mounts, gearbox on, no radiator."},
        ],
        "fits": [
            {
                "n": 1,
                "name": "trial hang",
                "at": "2026-04-05",
                "was_on": "alternator, starter, manifold; no radiator, no fan",
                "state": {"position": "resting loaded", "gearbox": "on", "ride": "rest"},
                "evidence": {"source": "measured", "tool": "steel rule", "state": {"position": "resting loaded", "gearbox": "on"}},
                "gaps": [
                    {"finding": "clear.pair.4-21", "title": "Alternator to Left rail", "predicted": 23.1, "predicted_pm": 2.7, "measured": "22"},
                    {"finding": "clear.pair.4-27", "title": "Alternator to Steering box", "predicted": 44.0, "predicted_pm": 3.0, "measured": "1-1/4 in"},
                    {"finding": "clear.pair.12-24", "title": "Gearbox case to Gearbox crossmember", "predicted": 31.0, "predicted_pm": 3.0, "measured": None},
                ],
            }
        ],
        "modifications": [
            {
                "n": 1,
                "name": "Front crossmember notched for the sump",
                "kind": "cut",
                "planned": "60 x 120, 20 deep",
                "as_built": "62 x 124, 21 deep, plated 5 mm",
                "reason": "sump in front of the axle",
                "structural": True,
                "state": "made",
            },
            {"n": 2, "name": "Bulkhead dressed back", "kind": "dent", "planned": "10 over 120 x 80", "as_built": "", "reason": "rear of the head", "reversible": True, "state": "made"},
            {"n": 3, "name": "Starter pocket", "kind": "cut", "planned": "62 round at -160, 62.6", "reason": "pinion nose", "state": "planned"},
        ],
        "provisional": [
            {
                "n": 1,
                "name": "Coolant hose looped past the heater",
                "kind": "loop",
                "owner": "I.",
                "reason": "heater matrix not here yet",
                "until": "heater arrives",
                "blocks": "motion",
                "state": "open",
            },
            {"n": 2, "name": "Rag in the intake", "kind": "rag", "owner": "I.", "reason": "grinding nearby", "until": "before first start", "blocks": "start", "state": "open"},
            {"n": 3, "name": "Wooden plate", "kind": "wood", "owner": "I.", "reason": "outline", "until": "plate cut", "blocks": "lift", "state": "removed"},
        ],
        "parts": [
            {"n": 1, "name": "adapter plate", "state": "dummy", "source": "own drawing, water-jet shop", "needed_by": "plate on block", "note": "wood for now"},
            {"n": 2, "name": "starter", "state": "temporary", "source": "yard, another engine", "needed_by": "first spin", "note": "pinion does not suit the ring"},
            {"n": 3, "name": "clutch cover", "state": "final", "source": "counter"},
            {"n": 4, "name": "shaft", "state": "absent", "source": "shaft maker", "step": 20},
            {"n": 5, "name": "belt", "state": "ordered", "source": "counter", "step": 21},
        ],
        "money": [
            {"n": 1, "name": "Engine with ancillaries", "state": "paid", "amount": "1310"},
            {"n": 2, "name": "Starter, wrong pinion", "state": "paid", "amount": "145"},
            {"n": 3, "name": "Disc", "state": "paid", "amount": "90"},
            {"n": 4, "name": "Starter sent back", "state": "refund asked", "amount": "145", "credit_of": 2},
            {"n": 5, "name": "Starter sent back, entered again", "state": "refund asked", "amount": "145", "credit_of": 3},
            {"n": 6, "name": "Plate, cutting", "state": "unpriced"},
            {"n": 7, "name": "Shaft, two pieces", "state": "unpriced"},
        ],
        "hours": [
            {"n": 1, "name": "Strip and label", "at": "2026-03-01", "who": "I.", "minutes": "5 h 10 min"},
            {"n": 2, "name": "Notch, cut and fitted", "at": "2026-04-02", "who": "I.", "minutes": "110"},
            {"n": 3, "name": "Offer up again, dowels out", "at": "2026-04-04", "who": "I. and the helper", "minutes": "1.6 h", "rework": True},
        ],
    }
