"""The checks of the Stack station, in the order in which the trade asks them."""

from collections.abc import Iterable
from types import MappingProxyType

from pindo.core import plain
from pindo.core.check import Check
from pindo.core.resolve import Inputs
from pindo.core.stack import interchange as match
from pindo.core.stack import spacing
from pindo.core.stack.stations import BEHIND_THE_BELL

# A stack reading is taken with the gearbox off and the unit standing: a hung crank lies on its thrust bearing.
STACK_STATES = MappingProxyType({"gearbox": frozenset({"off"}), "position": frozenset({"bench", "stand", "resting loaded"})})
ROTATING = "Uncertified or altered rotating parts can burst. Keep out of their plane; the makers' sheets and a licensed shop decide."
STRENGTH = "Screening only, not an approval. The makers' ratings and the rules of the place decide."
JOINING = "Never draw the faces together with the bolts: find what stands in the way."


QUESTION_OF = MappingProxyType(
    dict.fromkeys(("pilot_engagement", "tip_clearance", "shoulder_clearance", "spline_new", "spline_worn", "guide_tube", "bolt_heads", "flywheel_in_bell", "flywheel_in_window"), "spacing")
    | dict.fromkeys(("release_gap", "retract_reserve", "release_stroke", "cover_to_bell"), "release")
    | dict.fromkeys(("starter_parked", "starter_mesh", "starter_module", "starter_centres"), "starter")
    | dict.fromkeys(("crank_circle", "crank_bolts", "crank_register", "disc_on_face", "spline_count", "spline_od", "spline_standard", "cover_bolts", "cover_circle", "nose_fit", "pilot_press", "release_bore"), "match")
    | dict.fromkeys(("clutch_torque", "gearbox_torque"), "strength")
)  # fmt: skip


def _check(id: str, title: str, value: object, **rest: object) -> Check:
    rest.setdefault("accepts", STACK_STATES)
    return Check(id=f"stack.{id}", question=f"stack.{QUESTION_OF[id]}", title=title, value=value, **rest)  # type: ignore[arg-type]


SPACING = (
    _check(
        "pilot_engagement", "Nose in the pilot bearing", spacing.pilot_engagement, at_least=spacing.pilot_wanted, monte_carlo=True,
        says="Nose sits {value} in its bearing; needs {limit}", fouls="Nose misses its bearing by {over}; needs {limit} inside",
        why="A nose held on a corner of its bearing whips, chews the nose and howls with the clutch down.",
    ),
    _check(
        "tip_clearance", "Shaft tip to the crank bore", spacing.tip_clearance, at_least="tip_gap_min_mm", caution=JOINING,
        says="Shaft tip clears the crank bore by {value}; needs {limit}", fouls="Shaft tip goes {over} into the bottom of the crank bore",
        why="A shaft that bottoms holds the faces apart; drawn up with bolts it breaks ears and the crank's thrust bearing.",
    ),
    _check(
        "shoulder_clearance", "Shaft shoulder behind the bearing", spacing.shoulder_clearance, at_least="shoulder_gap_min_mm", caution=JOINING,
        says="Shaft shoulder stands {value} behind the pilot bearing; needs {limit}", fouls="Shaft shoulder presses {over} into the pilot bearing",
        why="A shoulder that touches loads the bearing endwise and burns it.",
    ),
    _check(
        "spline_new", "Hub on the spline, new disc", spacing.spline_engagement_new, at_least=spacing.whole_hub_less,
        says="Hub has {value} on the spline with a new disc; needs {limit}", fouls="Hub misses the spline by {over} with a new disc",
        why="A hub that is short on its spline carries the torque on the ends of the teeth.",
    ),
    _check(
        "spline_worn", "Hub on the spline, worn disc", spacing.spline_engagement_worn, at_least=spacing.whole_hub_less,
        says="Hub has {value} on the spline with a worn disc; needs {limit}", fouls="Hub misses the spline by {over} with a worn disc",
        why="The disc walks towards the flywheel as it wears; the spline must still be under the whole hub.",
    ),
    _check(
        "guide_tube", "Hub to guide tube", spacing.guide_tube_gap, at_least="hub_gap_min_mm",
        says="Hub clears the guide tube by {value}; needs {limit}", fouls="Hub runs {over} into the guide tube",
        why="The hub turns at engine speed, the guide tube stands still.",
    ),
    _check(
        "bolt_heads", "Hub to flywheel bolts", spacing.hub_to_bolt_heads, at_least="hub_gap_min_mm",
        says="Hub clears the flywheel bolts by {value} with a worn disc; needs {limit}", fouls="Hub runs {over} into the flywheel bolts with a worn disc",
        why="With the clutch down the hub turns against the bolt heads; a worn disc sits nearer to them.",
    ),
)  # fmt: skip

STANDS_OFF = (
    _check(
        "release_gap", "Release gap", spacing.release_gap, at_least=spacing.release_wanted, monte_carlo=True,
        says="Release bearing stands {value} off the new fingers; a worn disc takes {limit}", fouls="Release bearing is pushed back {over} by the new fingers; a worn disc takes {limit} more",
        why="A bearing that stands off must still stand off when the disc is worn: the fingers move back. If it rides early the clutch slips and burns.",
    ),
)  # fmt: skip
STANDS_OFF_ADJUSTABLE = (
    _check(
        "release_gap", "Release gap", spacing.release_gap, at_least="release_gap_min_mm", at_most="release_gap_max_mm", monte_carlo=True,
        says="Release bearing stands {value} off the new fingers; wants {limit}", fouls="Release bearing is pushed back {over} by the new fingers",
        why="Less is used up before the first adjustment; more eats the stroke.",
    ),
)  # fmt: skip
RIDES = (
    _check(
        "retract_reserve", "Retract reserve", spacing.retract_reserve, at_least=spacing.retract_wanted, monte_carlo=True,
        says="Release bearing can still be pushed back {value}; a worn disc takes {limit}", fouls="Release bearing does not reach the new fingers by {over}",
        why="A bearing that rides on the fingers is pushed back as the disc wears. When it bottoms it holds the clutch open.",
    ),
)  # fmt: skip
STROKE = _check(
    "release_stroke", "Release stroke", spacing.release_stroke, at_least=spacing.stroke_wanted,
    says="Slave strokes {value}; gap and finger travel take {limit}", why="Without the stroke the clutch drags and the gears grind. A bearing that does not reach the fingers uses it up before it begins.",
)  # fmt: skip
RELEASE = {"stands off": (*STANDS_OFF, STROKE), "stands off, adjustable": (*STANDS_OFF_ADJUSTABLE, STROKE), "rides on the fingers": (*RIDES, STROKE)}
RELEASE_UNSAID = (
    _check(
        "release_gap", "Release gap", lambda release_type, finger_height_mm, release_parked_mm: 0.0, at_least=plain.zero, says="",
        why="Whether the bearing stands off or rides on the fingers decides which gap is right.",
    ),
)  # fmt: skip

AROUND = (
    _check(
        "flywheel_in_bell", "Flywheel in the bell", spacing.flywheel_in_bell, at_least="rotating_gap_mm",
        says="Flywheel clears the bell by {value} all round; needs {limit}", fouls="Flywheel is {over} too large for the bell all round",
        why="Crank float, flexing and casting scatter add up at the rim.",
    ),
    _check(
        "flywheel_in_window", "Flywheel in the plate's window", spacing.flywheel_in_window, at_least="rotating_gap_mm",
        says="Flywheel clears the plate's window by {value} all round; needs {limit}", fouls="Flywheel is {over} too large for the window all round",
        why="The rim runs inside the plate.",
    ),
    _check(
        "cover_to_bell", "Clutch cover in the bell", spacing.cover_to_bell, at_least="rotating_gap_mm",
        says="Clutch cover clears the bell's floor by {value}; needs {limit}", fouls="Clutch cover stands {over} into the bell's floor",
        why="The cover turns and flexes as the clutch is worked.",
    ),
    _check(
        "starter_parked", "Starter pinion, parked", spacing.parked_gap, at_least="parked_gap_min_mm", at_most="parked_gap_max_mm",
        says="Parked pinion stands {value} off the ring gear; wants {limit}", fouls="Parked pinion stands {over} inside the ring gear",
        why="Too near rattles on the running ring; too far uses up the throw before the teeth meet.",
    ),
    _check(
        "starter_mesh", "Starter pinion, mesh", spacing.mesh_depth, at_least=spacing.mesh_wanted,
        says="Thrown pinion meshes {value} of the ring's face; needs {limit}", fouls="Thrown pinion stops {over} short of the ring gear",
        why="Short mesh breaks teeth. A starter tried without the flywheel proves the window, not the mesh.",
    ),
)  # fmt: skip


def _equal(id: str, title: str, a: str, b: str, says: str, why: str, kind: str = "count") -> Check:
    return _check(id, title, plain.difference, at_least=plain.zero, at_most=plain.zero, bind=MappingProxyType({"a": a, "b": b}), says=says, why=why, kind=kind)


INTERCHANGE = (
    _check(
        "starter_module", "Starter teeth on the ring gear", match.module_difference, kind="module",
        at_least=lambda module_match_max_mm: -module_match_max_mm, at_most="module_match_max_mm",
        says="Pinion module is {pinion_module_mm}, ring gear {ring_module_mm}; apart by {value}, allowed {limit}",
        fouls="Pinion module is {pinion_module_mm}, ring gear {ring_module_mm}; apart by {over}, allowed {limit}",
        why="Teeth of two pitches climb on each other: the starter howls, jams or breaks the ring. Another pinion or ring gear, not another gap.",
    ),
    _check(
        "starter_centres", "Starter centre distance", match.centre_excess,
        at_least=lambda starter_backlash_min_mm, pressure_angle_deg: match.excess_for_backlash(starter_backlash_min_mm, pressure_angle_deg),
        at_most=lambda starter_backlash_max_mm, pressure_angle_deg: match.excess_for_backlash(starter_backlash_max_mm, pressure_angle_deg),
        says="Starter stands {value} beyond the centre distance without backlash; wants {limit}", fouls="Starter stands {over} too near: no backlash at all; wants {limit} beyond",
        why="A tight mesh howls and does not fall out; a wide one rides on the tips. Profile-shifted pairs: go by the original pair's measured distance.",
    ),
    _check("crank_circle", "Crank to flywheel, bolt circle", match.bolt_circle_play, at_least=plain.zero, caution=ROTATING,
        says="Crank bolts have {value} of play left in the flywheel's holes", fouls="Crank bolts miss the flywheel's holes by {over}", why="Same count is not same circle."),
    _equal("crank_bolts", "Crank to flywheel, bolts", "crank_bolts", "flywheel_bolts", "Crank has {a} threads, flywheel {b} holes", "Every thread of the crank carries its share of the torque."),
    _check("crank_register", "Crank to flywheel, register", match.register_clearance, caution=ROTATING,
        at_least="register_clearance_min_mm", at_most="register_clearance_max_mm",
        says="Flywheel has {value} of clearance on the crank's register; wants {limit}", fouls="Flywheel's bore is {over} smaller than the crank's register",
        why="The register centres the flywheel; bolts only clamp. Off centre it shakes the engine."),
    _check("disc_on_face", "Disc on its friction face", match.disc_on_face, at_least=plain.zero,
        says="Disc {disc_od_mm} lies on a friction face of {friction_face_mm}: {value} to spare", fouls="Disc {disc_od_mm} hangs over a friction face of {friction_face_mm} by {over}",
        why="A lining that hangs over the face wears a step, loses grip and breaks off."),
    _equal("spline_count", "Disc to input shaft, splines", "disc_splines", "shaft_splines", "Disc has {a} splines, the input shaft {b}", "The disc has to slide on the gearbox's shaft under the engine's cover."),
    _check("spline_od", "Disc to input shaft, spline size", match.spline_od_difference,
        at_least="spline_od_least_mm", at_most="spline_od_match_max_mm",
        says="Hub is {disc_spline_od_mm} at the spline's root, shaft {shaft_spline_od_mm} over the teeth: {value} larger; wants {limit}",
        fouls="Hub is {disc_spline_od_mm} at the spline's root, shaft {shaft_spline_od_mm} over the teeth: {over} too small to go on",
        why="The same count on another diameter does not slide, or knocks; a hub smaller than its shaft does not go on at all."),
    _check("spline_standard", "Disc to input shaft, spline standard", plain.same_words, at_least=plain.one, kind="count",
        bind=MappingProxyType({"a": "disc_spline_standard", "b": "shaft_spline_standard"}),
        says="Disc spline {a}, shaft spline {b}", why="Same count and size with another tooth form does not carry."),
    _equal("cover_bolts", "Clutch cover to flywheel, bolts", "cover_bolts", "flywheel_cover_bolts", "Cover has {a} holes, flywheel {b} threads", "The cover bolts down evenly or not at all."),
    _check("cover_circle", "Clutch cover to flywheel, bolt circle", match.pattern_difference,
        at_least=lambda pattern_match_max_mm: -pattern_match_max_mm, at_most="pattern_match_max_mm",
        says="Cover circle {cover_pcd_mm}, flywheel {flywheel_cover_pcd_mm}; apart by {value}, allowed {limit}", why="Dowelled cover screws have next to no play."),
    _check("nose_fit", "Nose in its bearing, fit", match.nose_clearance, at_least="nose_clearance_min_mm", at_most="nose_clearance_max_mm",
        says="Nose has {value} of clearance in its bearing; wants {limit}", fouls="Nose is {over} too large for its bearing", why="A nose filed by hand or chewed by a failed bearing no longer fits."),
    _check("pilot_press", "Pilot bearing in its seat, fit", match.bearing_press, at_least="press_min_mm", at_most="press_max_mm",
        says="Pilot bearing has {value} of press in its seat; wants {limit}", fouls="Pilot bearing is {over} loose in its seat; wants {limit} of press", why="A loose bearing turns in the crank; a hard press closes its bore."),
    _check("release_bore", "Release bearing on the guide tube", match.release_bore_clearance,
        at_least="release_bore_clearance_min_mm", at_most="release_bore_clearance_max_mm",
        says="Release bearing has {value} of clearance on the guide tube; wants {limit}", fouls="Release bearing is {over} too small for the guide tube", why="It must slide without cocking."),
    _check("clutch_torque", "Clutch against the engine's torque", match.torque_ratio, at_least="clutch_torque_factor", kind="ratio", safety=True, caution=STRENGTH,
        bind=MappingProxyType({"rating_nm": "clutch_torque_nm", "load_nm": "engine_torque_nm"}),
        says="Clutch is rated {value} times the engine's torque; wants {limit}", why="Heat, wear and oil mist take their share of a clutch's grip."),
    _check("gearbox_torque", "Gearbox against the engine's torque", match.torque_ratio, at_least="gearbox_torque_factor", kind="ratio", safety=True, caution=STRENGTH,
        bind=MappingProxyType({"rating_nm": "gearbox_torque_nm", "load_nm": "engine_torque_nm"}),
        says="Gearbox is rated {value} times the engine's torque; wants {limit}", why="The weakest link of the torque chain sets what the engine may give."),
)  # fmt: skip


def checks(inputs: Inputs) -> Iterable[Check]:
    """All checks of the station; the kind of release decides which release gap is asked."""
    behind = inputs.options.get("plate_at") == BEHIND_THE_BELL
    yield from SPACING
    yield from RELEASE.get(inputs.options.get("release_type", ""), RELEASE_UNSAID)
    # Behind the bell the plate has no flywheel in its window.
    yield from (c for c in AROUND if not (behind and c.id == "stack.flywheel_in_window"))
    yield from INTERCHANGE
