"""Steps of the trade, by kind of build: a template that the build copies and makes its own.

Common practice, no published source. Each row: number, name, phase, needs, hides, hold, what it watches, gate, helpers,
tools, caution, asks, and at the end the steps that hold what this one tightens, left out where there are none. A step watches
only what can be read before it: runout waits for the bell on the plate, the release for the cover on the flywheel.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

HUNG = "Nobody under a hung unit; rated gear and points; hands out of the closing gap. The makers' sheets and local rules decide."
FUEL = "Depressurise, drain or clamp, catch, vent, extinguisher at hand; pressure test after. Licensed people where the rules ask."
WELD = "Clear fuel, wiring and hidden lines; fire watch. Frame, mounts, brakes and steering: competent welder, inspection, approval."
SPIN = "Nobody in the plane of belt or flywheel; certified or shielded above original power."
FIRST = "Extinguisher, ventilation, oil pressure watched, seconds only without coolant; rags out, bar off the crank."
ELECTRIC = "Battery off until the last joint; fuse near the source."

Rows = tuple[tuple[Any, ...], ...]

_COMMON: Rows = (
    (1, "Receive and measure kit and used parts", "bench", (), (), True, (), "", 0, "calliper, depth gauge", "", "sizes that differ from the papers"),
    (2, "Strip chassis: electrical, fuel and coolant parts; label; keep-list", "bay", (), (), False, (), "", 1, "labels, caps", FUEL, ""),
    (
        3,
        "Measure faces, crank, shaft and bay; compute plate and spacing",
        "bench",
        (1,),
        (),
        True,
        ("mate.pattern", "mate.plate", "mate.screws", "mate.starter", "stack.spacing", "stack.match"),
        "",
        0,
        "depth gauge, straight edge, tape",
        "",
        "",
    ),
)
_UNIT: Rows = (
    (4, "Renew what closing will hide: crank seal, pilot bearing, fork pins", "bench", (3,), (), True, (), "", 0, "driver, seal tool", "", "part numbers fitted"),
    (5, "Mark and cut the housing with the plate as jig", "bench", (3,), (), False, ("mate.plate", "mate.starter"), "", 0, "punch, saw", "", "window as cut"),
    (
        6,
        "Plate on block: dowels, all screws started, then the set order",
        "bench",
        (5,),
        (),
        False,
        ("mate.pattern", "mate.plate", "mate.screws", "mate.dowels"),
        "",
        0,
        "torque wrench",
        "",
        "torque and locker",
    ),
    (
        29,
        "Bell on the plate, dowels in: dial bore and face from the crank; bell off again",
        "bench",
        (6,),
        (),
        True,
        ("mate.dowels", "mate.runout"),
        "",
        1,
        "dial indicator, offset dowels",
        HUNG,
        "runout as read",
    ),
    (
        7,
        "Crank spacer and flywheel: clean, new bolts, locker, stages",
        "bench",
        (4, 29),
        (4,),
        True,
        ("stack.spacing", "stack.match"),
        "",
        1,
        "torque wrench, flywheel lock",
        SPIN,
        "torque and locker",
    ),
    (8, "Disc centred with the tool, cover in star order", "bench", (7,), (), False, ("stack.match",), "", 0, "centring tool, torque wrench", SPIN, ""),
    (9, "Gearbox side: splines greased, shim, release bearing, pipe", "bench", (3,), (), False, ("stack.match",), "", 0, "grease, calliper", "", "shim as fitted"),
    (
        30,
        "Cover on, slave home: read fingers, cover and bearing; compute the release",
        "bench",
        (8, 9),
        (),
        True,
        ("stack.release",),
        "",
        0,
        "depth gauge, straight edge",
        "",
        "fingers and bearing as read",
    ),
    (
        10,
        "Join: faces close freely and evenly, turning test, then bolts in rounds",
        "bench",
        (30,),
        (4, 7, 8, 9),
        True,
        ("mate.pattern", "mate.plate", "mate.screws", "mate.dowels", "mate.runout", "stack.spacing", "stack.release", "stack.match"),
        "",
        2,
        "guide studs, feeler gauges, crane",
        HUNG,
        "gap at four places before the last turn",
    ),
    (11, "Starter on; spin by hand, then by starter; listen", "bench", (10,), (), False, ("stack.starter",), "", 0, "battery", SPIN, ""),
    (12, "Dress the unit: what is easier outside or impossible inside", "bench", (10,), (), False, (), "", 0, "", "", ""),
)
_FIT: Rows = (
    (13, "Prepare the bay: certain cuts, paint, chassis loom", "bay", (2,), (), False, (), "", 0, "", WELD, "cuts as made"),
    (14, "Trial hang with all accessories", "fit", (12, 13), (), False, (), "lift", 2, "crane, stands", HUNG, "what was on"),
    (15, "Read the gaps in the true attitude; decide move, swap or cut", "fit", (14,), (), True, ("seat.place", "clear.pairs"), "", 1, "feeler gauges, tape, light", HUNG, ""),
    (16, "Weld-in mounts: tack, check pose, unit off, weld, refit, re-measure", "fit", (15,), (), True, ("seat.place", "seat.mounts"), "", 2, "welder, inclinometer", WELD, "pose after welding"),
    (17, "Lift in", "fit", (16,), (13,), False, ("seat.place", "clear.pairs"), "lift", 2, "crane, slings", HUNG, "path taken"),
    (18, "Locate the tail, lower the front, all loose until the weight is on, tighten", "fit", (17,), (), False, ("seat.mounts",), "", 1, "torque wrench", HUNG, "slot positions"),
)
_END: Rows = (
    (21, "Final accessories and belt; sweep of controls; exhaust", "bay", (18,), (), False, ("clear.pairs", "clear.belt"), "", 0, "", "", "belt number"),
    (27, "Fan hub tightened, belt as the hold", "bay", (18,), (), False, (), "", 0, "spanner", "Some hub nuts are left-hand: look at the thread first. Nobody in the plane of the fan.", "", (21,)),
    (22, "Cooling, oil, fuel and vacuum lines; loops and blanks out", "bay", (21,), (), False, (), "", 0, "tube cutter", FUEL, "routing"),
    (23, "Wiring joined by function and proved; grounds", "bay", (21,), (), False, (), "", 0, "meter", ELECTRIC, ""),
    (
        24,
        "First start",
        "proof",
        (22, 23, 27),
        (),
        True,
        ("mate.dowels", "mate.runout", "stack.spacing", "stack.release", "stack.starter", "stack.match", "stack.strength", "seat.mounts", "clear.pairs", "clear.belt", "assemble.joints"),
        "start",
        1,
        "extinguisher, gauge",
        FIRST,
        "oil pressure",
    ),
    (
        25,
        "Motion: throttle, kill, neutral start, brakes, steering, release proved",
        "proof",
        (20, 24),
        (),
        True,
        ("line.angles", "line.travel", "seat.mounts", "clear.pairs", "assemble.joints"),
        "motion",
        1,
        "",
        "Controls are proved before motion; brakes and steering by the rules of the place.",
        "",
    ),
    (26, "Tighten again after first heat, weigh, compare, write down", "proof", (25,), (), True, (), "hand-over", 0, "torque wrench, scale", "", "weights, torques"),
)
_SHAFT: Rows = (
    (19, "Angles and joint-to-joint length at ride height; order the shaft", "fit", (18,), (), True, ("line.angles", "line.travel"), "", 0, "inclinometer, tape", "", "length as ordered"),
    (20, "Shaft in, guards on", "fit", (19,), (), False, ("line.angles",), "", 1, "torque wrench", SPIN, ""),
)
_HALF: Rows = (
    (19, "Half shaft lengths at ride height; order or shorten", "fit", (18,), (), True, ("line.travel",), "", 0, "tape", "", "lengths as ordered"),
    (
        28,
        "Brakes joined, bled and holding",
        "fit",
        (17,),
        (),
        True,
        (),
        "",
        1,
        "bleed kit",
        "Brakes by the maker's sheet and the rules of the place; licensed people where the rules ask.",
        "fluid, pedal travel",
    ),
    (20, "Half shafts in, hub nuts by the maker's sheet", "fit", (19,), (), False, ("line.travel",), "", 1, "torque wrench", "Hub nuts are single use on most hubs.", "", (28,)),
)
_CHAIN_ONLY: Rows = (
    (1, "Receive and measure engine, clutch, sprockets and chain", "bench", (), (), True, (), "", 0, "calliper, rule", "", "sizes that differ from the papers"),
    (2, "Strip the frame: old motor, battery, wiring; label", "bay", (), (), False, (), "", 0, "labels", ELECTRIC, ""),
    (3, "Measure shaft, key, planes and centre distance; compute", "bench", (1,), (), True, ("line.chain",), "", 0, "calliper, straight edge", "", ""),
    (5, "Engine plate with slots on the frame: tack, unit off, weld, refit", "fit", (2, 3), (), True, ("seat.place",), "", 1, "welder", WELD, "slots as cut"),
    (6, "Clutch on its shaft: key, spacer, end washer", "bench", (3,), (), False, ("line.chain",), "", 0, "torque wrench", SPIN, "hub on shaft as fitted"),
    (8, "Engine on its plate, loose; sprockets in one plane", "fit", (5, 6), (), False, ("line.chain", "seat.place"), "", 0, "straight edge", "", "plane as set"),
    (9, "Chain on, joining link clipped the right way, take-up set", "fit", (8,), (6,), True, ("line.chain",), "", 0, "chain tool", SPIN, "clip direction seen, pitches"),
    (10, "Chain guard on", "fit", (9,), (), False, (), "", 0, "", SPIN, ""),
    (12, "Exhaust, fuel tank and line, away from heat", "bay", (8,), (), False, ("clear.pairs",), "", 0, "", FUEL, "routing"),
    (13, "Throttle with return spring, kill switch, brake linkage", "bay", (8,), (), False, (), "", 0, "", "A throttle that sticks runs away: the spring goes on before the first start.", ""),
    (
        24,
        "First start on stands, wheels free",
        "proof",
        (9, 10, 12, 13),
        (),
        True,
        ("line.chain", "seat.mounts", "clear.pairs", "assemble.joints"),
        "start",
        1,
        "extinguisher",
        FIRST,
        "idle speed below the clutch's grip",
    ),
    (
        25,
        "Motion: throttle snaps shut, kill works, brakes hold",
        "proof",
        (24,),
        (),
        True,
        ("line.chain", "seat.mounts", "assemble.joints"),
        "motion",
        1,
        "",
        "Brakes and kill are proved by hand before anyone rides.",
        "",
    ),
    (26, "After the first run: chain, clip, bolts again; write down", "proof", (25,), (), True, (), "hand-over", 0, "torque wrench", "", "chain take-up left"),
)

PROVES: Mapping[int, str] = MappingProxyType(
    {11: "starter and ring gear", 23: "wiring, by function", 24: "oil pressure, idle", 25: "throttle, kill, neutral start, brakes, steering, release", 28: "brakes"}
)
"""Steps that prove a control or function: what is touched afterwards has to be proved again."""

TEMPLATES: Mapping[str, Rows] = MappingProxyType(
    {
        "shaft to a rear axle": (*_COMMON, *_UNIT, *_FIT, *_SHAFT, *_END),
        "half shafts": (*_COMMON, *_UNIT, *_FIT, *_HALF, *_END),
        "chain": _CHAIN_ONLY,
    }
)


def template_steps(build_type: str) -> list[dict[str, Any]]:
    """The steps of a kind of build as rows of the build document.

    Raises
    ------
    KeyError
        There is no such kind.
    """
    keys = ("n", "name", "phase", "needs", "hides", "hold", "watches", "gate", "helpers", "tools", "caution", "asks", "needs_hold")
    rows: list[dict[str, Any]] = [{k: list(v) if isinstance(v, tuple) else v for k, v in zip(keys, row, strict=False)} for row in TEMPLATES[build_type]]
    return [row | ({"proves": PROVES[row["n"]]} if row["n"] in PROVES else {}) for row in rows]
