"""The catalogue: every single dimension that a station asks for, how to take it, and what spoils it.

One row a dimension. Letters of the callouts follow the order of the rows of a station, so board,
ledger, findings and print speak of the same letters. Hole patterns are in the build's faces.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from types import MappingProxyType
from typing import Literal

from pindo.core.evidence import Tool
from pindo.core.ranges import RANGES


class Station(StrEnum):
    """The stations in the order of the trade."""

    SURVEY = "survey"
    MATE = "mate"
    STACK = "stack"
    SEAT = "seat"
    LINE = "line"
    CLEAR = "clear"
    ASSEMBLE = "assemble"
    LOG = "log"


@dataclass(frozen=True, kw_only=True)
class Adjustable:
    """A dimension that the fabricator may choose: bounds, and the step that a way out is rounded to."""

    low: float
    high: float
    step: float
    reach: float = math.inf
    """Largest change that a way out may propose."""


@dataclass(frozen=True, kw_only=True)
class DimensionDef:
    """What the trade calls a dimension and how it is taken."""

    key: str
    name: str
    station: Station
    part: str
    how: str
    tool: Tool | None
    kind: str = "length"
    adjustable: Adjustable | None = None
    reading: str = ""
    """Kind of reading that an event may spoil; empty for a size of a part."""
    event: str = ""
    """Event that a change of this dimension is."""
    safer: Literal["low", "high", ""] = ""
    """Which of two statements stands meanwhile when they contradict each other."""
    when: tuple[str, tuple[str, ...]] | None = None
    """Option and the choices under which the dimension is asked for; None is always."""
    made_pm: float | None = None
    """Making tolerance of a size that may be chosen; None for one that is only read."""
    decided: bool = False
    """Whether a figure typed for it is a decision, unless a tool is named with it."""
    sourced: bool = False
    """No gauge of the shop reads it: a paper or a person says it."""
    zero: tuple[str, ...] = ()
    """Words that mean nought here."""
    can: tuple[float, float] = (-math.inf, math.inf)
    """The range that such a size can have; what lies outside is asked about."""


@dataclass(frozen=True, kw_only=True)
class OptionDef:
    """A choice that decides which formula holds; no ``choices`` means free text, ``default`` is what holds until something else is said."""

    key: str
    name: str
    station: Station
    choices: tuple[str, ...] = ()
    when: tuple[str, tuple[str, ...]] | None = None
    """Another option and its choices under which this one is asked for; None is always."""
    default: str = ""


C, D, R, T, N, G, A, M = (Tool.CALLIPER, Tool.DEPTH_GAUGE, Tool.RULE, Tool.TAPE, Tool.COUNT, Tool.THREAD_GAUGE, Tool.INCLINOMETER, Tool.MICROMETER)
SHAFTS = ("one-piece shaft", "two-piece shaft")
_THICKNESS = "plate, shield, spacer or adapter thickness"

_STACK = (
    ("crank_flange_mm", "Crank flange from block face", "crank", D, "straight edge across the block face; minus when the flange is sunk"),
    ("crank_bore_depth_mm", "Crank bore, depth from its flange", "crank", D, "through the bore to its bottom, bearing out"),
    ("crank_spacer_mm", "Crank spacer, all pieces", "crank spacer", C, "at four places; 0 when there is none"),
    ("flywheel_mm", "Flywheel, flange face to friction face", "flywheel", C, "straight edge across the friction face, down to the flange face"),
    ("separator_mm", "Dust shield or separator", "shield", C, "at the screws, without paint; 0 when there is none"),
    ("plate_mm", "Adapter plate", "plate", C, "at four places; 0 when the faces meet directly"),
    ("shaft_tip_out_mm", "Shaft tip out of the mouth", "gearbox", D, "straight edge across the mouth of the bell to the tip; shaft pulled forward"),
    ("nose_mm", "Nose length, tip to shoulder", "gearbox", C, "from the tip to the shoulder behind the nose"),
    ("nose_chamfer_mm", "Nose chamfer", "gearbox", R, "the part of the nose that does not bear"),
    ("pilot_sunk_mm", "Pilot bearing sunk in its piece", "crank", D, "rear end of the bearing below the face of crank, spacer or flywheel; flush is 0, proud is minus"),
    ("pilot_width_mm", "Pilot bearing width", "pilot bearing", C, "on the new bearing"),
    ("hub_front_mm", "Disc hub, front end from friction face", "disc", D, "disc laid on the flywheel the right way round; minus when it reaches into the flywheel"),
    ("hub_mm", "Disc hub length", "disc", C, "over the splined part"),
    ("spline_start_mm", "Spline start from the tip", "gearbox", R, "to the first full tooth"),
    ("spline_mm", "Spline length", "gearbox", R, "full teeth only"),
    ("finger_height_mm", "Finger height from friction face, new", "clutch cover", D, "at three fingers, cover bolted down on the new disc"),
    ("release_parked_mm", "Release bearing parked, from the mouth", "release", D, "slave pushed home, straight edge across the mouth; rearwards is plus"),
    ("release_shim_mm", "Shim under the slave", "release", C, "0 when there is none"),
    ("guide_tube_mm", "Guide tube end from the mouth", "gearbox", D, "straight edge across the mouth; rearwards is plus"),
    ("bolt_heads_mm", "Flywheel bolt heads from friction face", "flywheel", D, "top of the heads; minus when they are sunk"),
    ("cover_height_mm", "Clutch cover height from friction face", "clutch cover", R, "the rearmost point of the cover"),
    ("bell_depth_mm", "Bell depth from the mouth", "gearbox", R, "to the first thing behind the cover"),
    ("flywheel_od_mm", "Flywheel with ring gear, over all", "flywheel", C, "over the teeth, two places"),
    ("bell_bore_mm", "Bell, inside diameter at the flywheel", "gearbox", R, "the narrowest place, nibs included"),
)
_STARTER = (
    ("ring_front_mm", "Ring gear front from flywheel flange face", "flywheel", D, "to the side of the ring that faces the engine; minus when it stands towards the engine"),
    ("ring_width_mm", "Ring gear face width", "flywheel", C, "across the teeth"),
    ("starter_parked_mm", "Pinion tip from starter flange, parked", "starter", D, "pinion home, straight edge across the flange"),
    ("starter_out_mm", "Pinion tip from starter flange, thrown", "starter", D, "pinion pulled out against its stop"),
    ("pinion_mm", "Pinion face width", "starter", C, "across the teeth"),
    ("starter_centre_mm", "Starter axis from crank axis", "starter", C, "from pilot bore and starter register, both diameters halved"),
)
_STARTER_TEETH = (
    ("ring_teeth", "Ring gear teeth", "flywheel", N, "count", "count them twice, chalk the first"),
    ("pinion_teeth", "Pinion teeth", "starter", N, "count", "count them twice"),
    ("ring_module_mm", "Ring gear module", "flywheel", G, "module", "gear gauge; 10 DP may be typed as it is"),
    ("pinion_module_mm", "Pinion module", "starter", G, "module", "gear gauge; a stamped size is a maker's paper"),
    ("disc_wear_mm", "Lining wear until renewal", "disc", C, "length", "new thickness less the least, clamped"),
    ("lever_ratio", "Finger movement per lining wear", "clutch cover", None, "ratio", "fingers move back this many times the wear; from the clutch maker"),
    ("finger_travel_mm", "Finger travel to release", "clutch cover", D, "length", "from the clutch maker's sheet, or pressed on the bench"),
    ("slave_stroke_mm", "Slave stroke", "release", D, "length", "closed to its stop"),
)
_INTERCHANGE = (
    ("crank_pcd_mm", "Crank flange bolt circle", "crank", C, "length", "over two opposite threads plus one diameter"),
    ("flywheel_pcd_mm", "Flywheel bolt circle", "flywheel", C, "length", "over two opposite holes"),
    ("crank_bolts", "Crank flange, bolts", "crank", N, "count", "count the threads"),
    ("flywheel_bolts", "Flywheel, crank bolt holes", "flywheel", N, "count", "count the holes"),
    ("crank_bolt_mm", "Crank bolt diameter", "crank", C, "length", "over the thread"),
    ("flywheel_hole_mm", "Flywheel bolt hole", "flywheel", C, "length", "the plain part"),
    ("crank_register_mm", "Crank register diameter", "crank", M, "length", "the spigot that centres the flywheel"),
    ("flywheel_register_mm", "Flywheel register bore", "flywheel", M, "length", "the bore that sits on the spigot"),
    ("friction_face_mm", "Friction face of the flywheel, outside", "flywheel", C, "length", "the ground ring"),
    ("disc_od_mm", "Disc diameter", "disc", C, "length", "over the lining"),
    ("disc_splines", "Disc hub, splines", "disc", N, "count", "count them twice"),
    ("shaft_splines", "Input shaft, splines", "gearbox", N, "count", "count them twice"),
    ("disc_spline_od_mm", "Disc hub, major diameter of the spline", "disc", C, "length", "root to root of the hub"),
    ("shaft_spline_od_mm", "Input shaft, major diameter of the spline", "gearbox", C, "length", "over the teeth"),
    ("nose_d_mm", "Nose diameter", "gearbox", M, "length", "where it bears; note the wear"),
    ("pilot_bore_mm", "Pilot bearing bore", "pilot bearing", M, "length", "the bearing that will be fitted"),
    ("pilot_od_mm", "Pilot bearing outside diameter", "pilot bearing", M, "length", "the bearing that will be fitted"),
    ("pilot_seat_mm", "Seat of the pilot bearing", "crank", M, "length", "bore of crank, spacer or flywheel"),
    ("cover_pcd_mm", "Clutch cover bolt circle", "clutch cover", C, "length", "over two opposite holes"),
    ("flywheel_cover_pcd_mm", "Flywheel, cover bolt circle", "flywheel", C, "length", "over two opposite threads"),
    ("cover_bolts", "Clutch cover, bolts", "clutch cover", N, "count", "count the holes"),
    ("flywheel_cover_bolts", "Flywheel, cover threads", "flywheel", N, "count", "count the threads"),
    ("guide_tube_od_mm", "Guide tube diameter", "gearbox", C, "length", "where the bearing slides"),
    ("release_bore_mm", "Release bearing bore", "release", C, "length", "the carrier that slides on the tube"),
    ("engine_torque_nm", "Engine torque, greatest", "engine", None, "torque", "maker's paper; say at which speed"),
    ("clutch_torque_nm", "Clutch torque rating", "clutch cover", None, "torque", "the clutch maker's word on paper"),
    ("gearbox_torque_nm", "Gearbox input torque rating", "gearbox", None, "torque", "maker's paper"),
)
_MATE = (
    ("clocking_deg", "Clocking of the gearbox", "gearbox", A, "angle", "clockwise seen from behind is plus", Adjustable(low=-180, high=180, step=0.5), "", ""),
    ("window_mm", "Plate window diameter", "plate", C, "length", "the opening round the flywheel; 0 for none", Adjustable(low=0, high=900, step=1), "", ""),
    ("outline_margin_mm", "Plate margin round the lands", "plate", R, "length", "metal added outside the castings' lands", Adjustable(low=0, high=60, step=1), "", ""),
    ("pocket_u_mm", "Starter pocket, across from crank axis", "plate", R, "length", "seen from behind, right is plus", None, "", ""),
    ("pocket_v_mm", "Starter pocket, up from crank axis", "plate", R, "length", "seen from behind, up is plus", None, "", ""),
    ("pocket_mm", "Starter pocket diameter", "plate", C, "length", "the opening for the pinion; 0 for none", Adjustable(low=0, high=300, step=1), "", ""),
    ("starter_body_mm", "Starter where it passes the plate, diameter", "starter", C, "length", "the largest part that goes through: nose, flange or body", None, "", ""),
    ("bore_tir_mm", "Runout of the bell's bore", "gearbox", Tool.DIAL, "length", "dial on the crank, full swing over one turn, dowels in", None, "runout", ""),
    ("face_tir_mm", "Runout of the bell's face", "gearbox", Tool.DIAL, "length", "dial on the crank, full swing over one turn, across the face", None, "runout", ""),
)
_MOVED = "unit moved"
_RIDE = "springs, spacers, tyres or load"
_POSE = (Adjustable(low=-3000, high=6000, step=1, reach=100), _MOVED)
_TURN = (Adjustable(low=-6, high=6, step=0.1, reach=2), _MOVED)
_PLAIN: tuple[Adjustable | None, str] = (None, "")
CLUTCHED = ("coupling", ("", "clutch and bellhousing"))
_SHAFTS = ("drive", SHAFTS)
_TWO = ("drive", ("two-piece shaft",))
_HALF = ("drive", ("half shafts",))
_CHAIN = ("drive", ("chain",))
_HALF_OR_CHAIN = ("drive", ("half shafts", "chain"))
_AXLE = ("drive", (*SHAFTS, "chain"))
_WISHBONES = ("wheel_guide", ("wishbones",))
_ARM = ("wheel_guide", ("wishbones", "strut"))
_SWING = ("wheel_guide", ("swing arm",))
_STRUT = ("wheel_guide", ("strut",))
_TRAVELS = ("drive", (*SHAFTS, "half shafts"))
_GUIDED = ("axle_guide", ("leaf springs",))
_LINKED = ("axle_guide", ("links",))
_PIVOT = ("axle_guide", ("pivot",))
_BELT = ("belt", ("yes",))
_V, _S, _L, _C = Station.SURVEY, Station.SEAT, Station.LINE, Station.CLEAR

# key, station, name, part, tool, kind, how, reading, (adjustable, event), when
_VEHICLE: tuple[tuple[str, Station, str, str, Tool | None, str, str, str, tuple[Adjustable | None, str], tuple[str, tuple[str, ...]] | None], ...] = (
    ("wheelbase_mm", _V, "Wheelbase", "chassis", T, "length", "front to rear axle line, both sides, mean", "", _PLAIN, None),
    ("tyre_mm", _V, "Tyre diameter, loaded", "chassis", T, "length", "ground to axle centre, doubled", "ride", (None, _RIDE), None),
    ("rail_height_mm", _V, "Top of frame rail above ground", "chassis", T, "length", "at the front axle line, at ride height", "ride", (Adjustable(low=0, high=3000, step=1), _RIDE), None),
    ("bonnet_height_mm", _V, "Underside of bonnet above rail", "chassis", T, "length", "at the highest part of the engine", "", _PLAIN, ("bonnet", ("", "yes"))),
    ("engine_length_mm", _V, "Engine length, block face to accessory end", "engine", T, "length", "to the foremost pulley", "", _PLAIN, None),
    ("engine_top_mm", _V, "Engine height above crank axis", "engine", T, "length", "to the highest accessory", "", _PLAIN, None),
    ("sump_mm", _V, "Sump below crank axis", "engine", R, "length", "to the lowest point", "", _PLAIN, None),
    ("gearbox_length_mm", _V, "Gearbox length, mouth to output flange", "gearbox", T, "length", "along the shaft; 0 when there is none", "", _PLAIN, None),
    ("block_face_back_mm", _S, "Block face behind the front axle line", "engine", T, "length", "plumb line from the block face", "pose", _POSE, None),
    ("crank_side_mm", _S, "Crank axis left of the centre plane", "engine", T, "length", "string along the centre plane; minus to the right", "pose", _POSE, None),
    ("crank_height_mm", _S, "Crank axis above top of rail", "engine", R, "length", "at the block face; minus below the rail", "pose", _POSE, None),
    ("roll_deg", _S, "Roll of the unit", "engine", A, "angle", "clockwise seen from behind is plus", "pose", _TURN, None),
    ("inclination_deg", _S, "Inclination, gearbox end low", "engine", A, "angle", "on the machined face, unit at rest", "pose", _TURN, None),
    ("yaw_deg", _S, "Yaw from the layout's direction", "engine", A, "angle", "accessory end to its left is plus", "pose", _TURN, None),
    ("sump_back_mm", _S, "Lowest point of the sump, behind block face", "engine", R, "length", "minus ahead of the block face", "", _PLAIN, None),
    ("top_back_mm", _S, "Highest point of the engine, behind block face", "engine", R, "length", "minus ahead of the block face", "", _PLAIN, ("bonnet", ("", "yes"))),
    ("unit_mass_kg", _S, "Mass of the unit, wet", "unit", Tool.SCALE, "mass", "on the crane's scale, fluids in", "", _PLAIN, None),
    ("mass_back_mm", _S, "Mass centre behind block face", "unit", T, "length", "from two weighings, or where it hangs level; minus ahead", "", _PLAIN, None),
    ("mass_left_mm", _S, "Mass centre left of crank axis", "unit", T, "length", "minus to the right", "", _PLAIN, None),
    ("mass_up_mm", _S, "Mass centre above crank axis", "unit", T, "length", "minus below", "", _PLAIN, None),
    ("gyration_roll_mm", _S, "Radius of gyration in roll", "unit", None, "length", "about 0.4 of the mean of width and height where nobody knows", "", _PLAIN, None),
    ("gyration_pitch_mm", _S, "Radius of gyration in pitch", "unit", None, "length", "about 0.3 of the length where nobody knows", "", _PLAIN, None),
    ("gyration_yaw_mm", _S, "Radius of gyration in yaw", "unit", None, "length", "about 0.3 of the length where nobody knows", "", _PLAIN, None),
    ("first_gear_ratio", _S, "Lowest gear, ratio", "gearbox", N, "ratio", "maker's paper, or teeth counted; 1 without a gearbox", "", _PLAIN, None),
    ("reverse_ratio", _S, "Reverse, ratio", "gearbox", N, "ratio", "maker's paper, or teeth counted; 0 when there is none", "", _PLAIN, None),
    ("cylinders", _S, "Cylinders", "engine", N, "count", "count", "", _PLAIN, None),
    ("idle_rpm", _S, "Idle speed", "engine", None, "speed", "maker's paper", "", _PLAIN, None),
    ("final_drive_ratio", _L, "Final drive, ratio", "axle", N, "ratio", "turn the flange, count the wheel; both wheels together", "", _PLAIN, _TRAVELS),
    ("output_left_mm", _L, "Output joint left of crank axis", "gearbox", R, "length", "minus to the right", "", _PLAIN, _TRAVELS),
    ("output_up_mm", _L, "Output joint above crank axis", "gearbox", R, "length", "minus below", "", _PLAIN, _TRAVELS),
    ("shaft_speed_rpm", _L, "Shaft speed, highest", "shaft", None, "speed", "engine's highest speed over the highest gear", "", _PLAIN, _SHAFTS),
    ("centre_bearing_back_mm", _L, "Centre joint behind the front axle line", "shaft", T, "length", "the joint behind the centre bearing", "", (Adjustable(low=0, high=9000, step=1), ""), _TWO),
    ("centre_bearing_left_mm", _L, "Centre joint left of the centre plane", "shaft", T, "length", "minus to the right", "", (Adjustable(low=-500, high=500, step=1), ""), _TWO),
    ("centre_bearing_drop_mm", _L, "Centre joint below top of rail", "shaft", R, "length", "the joint behind the centre bearing", "", (Adjustable(low=-500, high=800, step=1), ""), _TWO),
    ("pinion_drop_mm", _L, "Axle pinion joint below top of rail", "axle", R, "length", "at ride height", "ride", _PLAIN, _SHAFTS),
    ("pinion_forward_mm", _L, "Axle pinion joint ahead of rear axle line", "axle", R, "length", "at ride height", "ride", _PLAIN, _SHAFTS),
    ("pinion_left_mm", _L, "Axle pinion joint left of the centre plane", "axle", T, "length", "minus to the right", "ride", _PLAIN, _SHAFTS),
    ("pinion_angle_deg", _L, "Pinion shaft, nose up", "axle", A, "angle", "inclinometer on the pinion flange, at ride height", "ride", (Adjustable(low=-20, high=20, step=0.1), ""), _SHAFTS),
    ("pinion_turn_deg", _L, "Pinion shaft, nose to the left", "axle", A, "angle", "square to the axle is 0", "ride", _PLAIN, _SHAFTS),
    ("axle_drop_mm", _L, "Driven axle centre below top of rail", "axle", R, "length", "at ride height, where the wheel's middle is", "ride", _PLAIN, _AXLE),
    ("yoke_phase_deg", _L, "Yokes of the shaft out of line", "shaft", A, "angle", "of the piece to the axle; 0 when both yokes lie in one plane", "", _PLAIN, _SHAFTS),
    ("front_yoke_phase_deg", _L, "Yokes of the front piece out of line", "shaft", A, "angle", "0 when both yokes lie in one plane", "", _PLAIN, _TWO),
    ("tube_od_mm", _L, "Shaft tube, outside diameter", "shaft", C, "length", "of the longer piece", "", _PLAIN, _SHAFTS),
    ("tube_wall_mm", _L, "Shaft tube, wall", "shaft", C, "length", "from the shaft maker, or at an open end", "", _PLAIN, _SHAFTS),
    ("slip_in_mm", _L, "Slip left inwards at ride height", "shaft", R, "length", "until the slip piece bottoms", "length", _PLAIN, _SHAFTS),
    ("slip_out_mm", _L, "Slip left outwards at ride height", "shaft", R, "length", "until the least engagement is reached", "length", _PLAIN, _SHAFTS),
    ("bump_mm", _L, "Axle travel up to the stop", "axle", R, "length", "bump stop gap at ride height", "ride", _PLAIN, _TRAVELS),
    ("droop_mm", _L, "Axle travel down", "axle", R, "length", "ride height to full droop", "ride", _PLAIN, _TRAVELS),
    ("spring_front_half_mm", _L, "Leaf spring, front eye to axle", "axle", T, "length", "along the main leaf", "", _PLAIN, _GUIDED),
    ("spring_eye_drop_mm", _L, "Front eye below axle centre", "axle", R, "length", "minus when the eye stands higher", "ride", _PLAIN, _GUIDED),
    ("pivot_forward_mm", _L, "Pivot ahead of the axle", "axle", T, "length", "pivot of the arm", "", _PLAIN, _PIVOT),
    ("pivot_up_mm", _L, "Pivot above the axle centre", "axle", R, "length", "at ride height; minus below", "ride", _PLAIN, _PIVOT),
    ("lower_link_mm", _L, "Lower link, length", "axle", T, "length", "between its joints", "", _PLAIN, _LINKED),
    ("lower_link_rise_mm", _L, "Lower link, chassis end above axle end", "axle", R, "length", "at ride height", "ride", _PLAIN, _LINKED),
    ("upper_link_mm", _L, "Upper link, length", "axle", T, "length", "between its joints", "", _PLAIN, _LINKED),
    ("upper_link_rise_mm", _L, "Upper link, chassis end above axle end", "axle", R, "length", "at ride height", "ride", _PLAIN, _LINKED),
    ("link_spread_mm", _L, "Upper link's axle end above the lower's", "axle", R, "length", "upright distance", "", _PLAIN, _LINKED),
    ("link_offset_mm", _L, "Upper link's axle end ahead of the lower's", "axle", R, "length", "minus behind", "", _PLAIN, _LINKED),
    ("lower_link_ahead_mm", _L, "Lower link's axle end ahead of the axle centre", "axle", R, "length", "minus behind", "", _PLAIN, _LINKED),
    ("lower_link_below_mm", _L, "Lower link's axle end below the axle centre", "axle", R, "length", "minus above", "", _PLAIN, _LINKED),
    ("arm_mm", _L, "Lower arm, length seen from behind", "suspension", T, "length", "inner pivot to outer joint", "", _PLAIN, _ARM),
    ("arm_rise_mm", _L, "Lower arm, inner pivot above its outer joint", "suspension", R, "length", "at ride height; minus below", "ride", _PLAIN, _ARM),
    ("arm_below_mm", _L, "Lower arm's outer joint below the wheel's middle", "suspension", R, "length", "minus above", "", _PLAIN, _ARM),
    ("arm_inside_mm", _L, "Lower arm's outer joint inboard of the drive joint", "suspension", R, "length", "seen from behind; minus outboard", "", _PLAIN, _ARM),
    ("upper_arm_mm", _L, "Upper arm, length seen from behind", "suspension", T, "length", "inner pivot to outer joint", "", _PLAIN, _WISHBONES),
    ("upper_arm_rise_mm", _L, "Upper arm, inner pivot above its outer joint", "suspension", R, "length", "at ride height; minus below", "ride", _PLAIN, _WISHBONES),
    ("knuckle_spread_mm", _L, "Upper arm's outer joint above the lower's", "suspension", R, "length", "upright distance", "", _PLAIN, _WISHBONES),
    ("knuckle_offset_mm", _L, "Upper arm's outer joint inboard of the lower's", "suspension", R, "length", "minus outboard", "", _PLAIN, _WISHBONES),
    ("strut_up_mm", _L, "Strut top above the arm's outer joint", "suspension", T, "length", "at ride height", "ride", _PLAIN, _STRUT),
    ("strut_inside_mm", _L, "Strut top inboard of the arm's outer joint", "suspension", T, "length", "minus outboard", "", _PLAIN, _STRUT),
    ("swing_inside_mm", _L, "Swing arm's pivot inboard of the drive joint", "suspension", T, "length", "seen from behind", "", _PLAIN, _SWING),
    ("swing_rise_mm", _L, "Swing arm's pivot above the drive joint", "suspension", R, "length", "at ride height; minus below", "ride", _PLAIN, _SWING),
    ("inner_joint_half_mm", _L, "Inner joint from the output's middle", "half shaft", T, "length", "joint centre, left side", "", _PLAIN, _HALF),
    ("outer_joint_left_mm", _L, "Outer joint left of the centre plane", "half shaft", T, "length", "joint centre in the hub", "", _PLAIN, _HALF),
    ("outer_joint_drop_mm", _L, "Outer joint below top of rail", "half shaft", R, "length", "at ride height", "ride", _PLAIN, _HALF),
    ("driven_axle_back_mm", _L, "Driven axle behind the front axle line", "axle", T, "length", "0 when the front axle is driven", "", _PLAIN, _HALF_OR_CHAIN),
    ("plunge_in_mm", _L, "Plunge left inwards at ride height", "half shaft", R, "length", "until the joint bottoms", "length", _PLAIN, _HALF),
    ("plunge_out_mm", _L, "Plunge left outwards at ride height", "half shaft", R, "length", "until the joint would part", "length", _PLAIN, _HALF),
    ("driver_teeth", _L, "Driver sprocket, teeth", "chain", N, "count", "count them twice", "", _PLAIN, _CHAIN),
    ("driven_teeth", _L, "Driven sprocket, teeth", "chain", N, "count", "count them twice", "", _PLAIN, _CHAIN),
    ("chain_pitch_mm", _L, "Chain pitch", "chain", C, "length", "over ten links, divided by ten", "", _PLAIN, _CHAIN),
    ("chain_links", _L, "Chain, pitches", "chain", N, "count", "count the pins, halves of a link count as one", "", _PLAIN, _CHAIN),
    (
        "chain_centre_mm",
        _L,
        "Centre distance of the sprockets",
        "chain",
        T,
        "length",
        "shaft to shaft, in the middle of the take-up; it lapses when the unit moves",
        "length",
        (Adjustable(low=50, high=3000, step=1), _MOVED),
        _CHAIN,
    ),
    ("take_up_mm", _L, "Take-up of the chain, each way", "chain", R, "length", "how far the engine slides from the middle", "", _PLAIN, _CHAIN),
    (
        "driver_plane_mm",
        _L,
        "Driver sprocket left of the centre plane",
        "chain",
        R,
        "length",
        "middle of its teeth, read on the vehicle; it lapses when the unit moves",
        "length",
        (Adjustable(low=-800, high=800, step=0.5), ""),
        _CHAIN,
    ),
    ("driven_plane_mm", _L, "Driven sprocket left of the centre plane", "chain", R, "length", "middle of its teeth", "", _PLAIN, _CHAIN),
    ("sprocket_back_mm", _L, "Driver sprocket behind block face", "engine", R, "length", "middle of its teeth, along the crank", "", _PLAIN, _CHAIN),
    ("sprocket_left_mm", _L, "Driver sprocket's shaft left of crank axis", "engine", R, "length", "0 when it sits on the crank", "", _PLAIN, _CHAIN),
    ("sprocket_up_mm", _L, "Driver sprocket's shaft above crank axis", "engine", R, "length", "0 when it sits on the crank", "", _PLAIN, _CHAIN),
    ("engine_rpm", _L, "Engine speed, governed", "engine", None, "speed", "maker's paper", "", _PLAIN, _CHAIN),
    ("engine_power_kw", _L, "Engine power at that speed", "engine", None, "power", "maker's paper", "", _PLAIN, _CHAIN),
    ("reduction_ratio", _L, "Reduction before the driver sprocket", "engine", N, "ratio", "1 when the sprocket sits on the clutch", "", _PLAIN, _CHAIN),
    ("road_speed_most", _L, "Speed wanted, at most", "chassis", None, "road speed", "what track or rules allow", "", _PLAIN, _CHAIN),
    ("clutch_shaft_mm", _L, "Engine shaft under the clutch, diameter", "engine", C, "length", "where the hub sits", "", _PLAIN, _CHAIN),
    ("clutch_key_mm", _L, "Key, width", "engine", C, "length", "across the key", "", _PLAIN, _CHAIN),
    ("clutch_on_shaft_mm", _L, "Clutch hub on its shaft", "clutch", C, "length", "length of key and shaft under the hub", "", _PLAIN, _CHAIN),
    ("belt_length_mm", _C, "Belt, effective length", "belt", T, "length", "printed on the belt's back", "", (Adjustable(low=200, high=4000, step=5), ""), _BELT),
    ("belt_ribs", _C, "Belt, ribs", "belt", N, "count", "count the ribs", "", _PLAIN, _BELT),
    ("belt_pitch_mm", _C, "Pitch line outside the ribbed pulley's diameter", "belt", C, "length", "about 1.3 mm for ribs of 3.56", "", _PLAIN, _BELT),
    ("belt_back_mm", _C, "Pitch line from the belt's back", "belt", C, "length", "about 3.5 mm for ribs of 3.56", "", _PLAIN, _BELT),
    ("belt_take_up_mm", _C, "Tensioner, belt length it takes up each way", "belt", R, "length", "from the middle of its range", "", _PLAIN, _BELT),
)
_SAFER: Mapping[str, Literal["low", "high"]] = {"engine_torque_nm": "high", "clutch_torque_nm": "low", "gearbox_torque_nm": "low"}
_MADE = {"plate_mm": 0.1, "crank_spacer_mm": 0.1, "release_shim_mm": 0.1, "window_mm": 0.5, "outline_margin_mm": 0.5, "pocket_u_mm": 0.5, "pocket_v_mm": 0.5, "pocket_mm": 0.5, "clocking_deg": 0.1}
_DECIDED = frozenset({"plate_mm", "window_mm", "outline_margin_mm", "pocket_u_mm", "pocket_v_mm", "pocket_mm", "clocking_deg"})
_PLACED = {"length": 1.0, "angle": 0.2}  # how well a unit is put where it was planned; proposed
_NONE = ("none", "no", "nil")
_ZERO = {
    "crank_flange_mm": ("flush",), "pilot_sunk_mm": ("flush",), "bolt_heads_mm": ("flush",), "crank_spacer_mm": _NONE, "separator_mm": _NONE, "plate_mm": _NONE, "release_shim_mm": _NONE,
    "window_mm": _NONE, "pocket_mm": _NONE, "gearbox_length_mm": _NONE, "reverse_ratio": _NONE, "sprocket_left_mm": _NONE, "sprocket_up_mm": _NONE, "yoke_phase_deg": ("in line",), "front_yoke_phase_deg": ("in line",),
}  # fmt: skip
_ALWAYS = frozenset({"engine_torque_nm", "plate_mm", "separator_mm"})
_ADJUST = {
    "plate_mm": (Adjustable(low=0, high=80, step=0.1), _THICKNESS),
    "separator_mm": (None, _THICKNESS),
    "crank_spacer_mm": (Adjustable(low=0, high=80, step=0.1), _THICKNESS),
    "release_shim_mm": (Adjustable(low=0, high=20, step=0.1), ""),
}


def callout_letters(count: int) -> list[str]:
    """A to Z without I and O, then AA, AB and so on: letters that nobody reads as figures."""
    single = list("ABCDEFGHJKLMNPQRSTUVWXYZ")
    letters = single + [a + b for a in single for b in single]
    return letters[:count]


def _catalogue() -> Mapping[str, DimensionDef]:
    rows: list[DimensionDef] = []

    def add(
        key: str,
        station: Station,
        name: str,
        part: str,
        tool: Tool | None,
        kind: str,
        how: str,
        adjustable: Adjustable | None = None,
        reading: str = "",
        event: str = "",
        when: tuple[str, tuple[str, ...]] | None = CLUTCHED,
    ) -> None:
        rows.append(
            DimensionDef(
                key=key,
                name=name,
                station=station,
                part=part,
                tool=tool,
                kind=kind,
                how=how,
                adjustable=adjustable,
                reading=reading,
                event=event,
                safer=_SAFER.get(key, ""),
                when=when,
                made_pm=_MADE.get(key, _PLACED.get(kind) if adjustable is not None else None),
                decided=key in _DECIDED,
                sourced=tool is None,
                zero=_ZERO.get(key, ()),
                can=RANGES[key],
            )
        )

    for key, station, name, part, any_tool, kind, how, reading, (adjustable, event), when in _VEHICLE:
        add(key, station, name, part, any_tool, kind, how, adjustable, reading, event, when)
    for key, name, part, tool, kind, how, adjustable, reading, event in _MATE:
        add(key, Station.MATE, name, part, tool, kind, how, adjustable, reading, event)
    lengths = ((key, name, part, tool, "length", how) for key, name, part, tool, how in _STACK + _STARTER)
    for key, name, part, maybe_tool, kind, how in (*lengths, *_STARTER_TEETH, *_INTERCHANGE):
        adjustable, event = _ADJUST.get(key, (None, ""))
        add(key, Station.STACK, name, part, maybe_tool, kind, how, adjustable, "", event, None if key in _ALWAYS else CLUTCHED)
    return MappingProxyType({row.key: row for row in rows})


DIMENSIONS: Mapping[str, DimensionDef] = _catalogue()
_SHARED = {
    Station.MATE: ("plate_mm", "separator_mm"),
    Station.STACK: ("window_mm",),
    Station.SEAT: ("rail_height_mm", "bonnet_height_mm", "engine_top_mm", "sump_mm", "engine_torque_nm"),
    Station.LINE: ("tyre_mm", "wheelbase_mm", "gearbox_length_mm"),
}


def _ledgers() -> Mapping[Station, Mapping[str, str]]:
    ledgers = {}
    for station in Station:
        keys = [d.key for d in DIMENSIONS.values() if d.station == station] + list(_SHARED.get(station, ()))
        ledgers[station] = MappingProxyType(dict(zip(keys, callout_letters(len(keys)), strict=True)))
    return MappingProxyType(ledgers)


LEDGERS: Mapping[Station, Mapping[str, str]] = _ledgers()
"""Station -> dimension key -> callout letter, in ledger order. A shared dimension has a letter at each station."""

OPTIONS: Mapping[str, OptionDef] = MappingProxyType(
    {
        option.key: option
        for option in (
            OptionDef(key="coupling", name="Engine drives through", station=Station.SURVEY, choices=("clutch and bellhousing", "centrifugal clutch")),
            OptionDef(key="bonnet", name="Bonnet or cover above the engine", station=Station.SURVEY, choices=("yes", "none")),
            OptionDef(key="build_type", name="Kind of build", station=Station.SURVEY, choices=("shaft to a rear axle", "half shafts", "chain")),
            OptionDef(key="pose_from", name="Pose taken from", station=Station.SEAT, choices=("six numbers", "points")),
            OptionDef(key="mount_type", name="Mounts", station=Station.SEAT, choices=("soft rubber", "stiff")),
            OptionDef(key="final_drive_in", name="Final drive sits in", station=Station.SEAT, choices=("the axle", "the gearbox")),
            OptionDef(key="strokes", name="Engine", station=Station.SEAT, choices=("four-stroke", "two-stroke")),
            OptionDef(key="drive", name="Drive", station=Station.LINE, choices=(*SHAFTS, "half shafts", "chain")),
            OptionDef(key="axle_guide", name="Axle guided by", station=Station.LINE, choices=("leaf springs", "links", "pivot", "fixed"), when=("drive", ("", *SHAFTS, "half shafts"))),
            OptionDef(key="wheel_guide", name="Wheels guided sideways by", station=Station.LINE, choices=("wishbones", "strut", "swing arm", "rigid axle"), when=("drive", ("half shafts",))),
            OptionDef(key="axle_attitude", name="Axle over its travel", station=Station.LINE, choices=("keeps its attitude", "turns with its guide"), when=("drive", ("", *SHAFTS))),
            OptionDef(key="belt", name="Belt run", station=Station.CLEAR, choices=("yes", "none")),
            OptionDef(key="plate_at", name="Plate sits between", station=Station.MATE, choices=("engine and bell", "bell and gearbox"), when=CLUTCHED, default="engine and bell"),
            OptionDef(key="engine_joint", name="Engine to plate located by", station=Station.MATE, choices=("dowels", "register"), when=CLUTCHED),
            OptionDef(key="gearbox_joint", name="Plate to gearbox located by", station=Station.MATE, choices=("dowels", "register"), when=CLUTCHED),
            OptionDef(key="plate_material", name="Plate material", station=Station.MATE, choices=("steel", "aluminium")),
            OptionDef(key="outline", name="Plate outline", station=Station.MATE, choices=("hull", "following")),
            OptionDef(key="pilot_in", name="Pilot bearing sits in", station=Station.STACK, choices=("crank", "spacer", "flywheel")),
            OptionDef(key="starter_on", name="Starter bolts to", station=Station.STACK, choices=("engine", "plate", "housing")),
            OptionDef(key="release_type", name="Release bearing", station=Station.STACK, choices=("stands off", "stands off, adjustable", "rides on the fingers")),
            OptionDef(key="disc_spline_standard", name="Disc spline, standard", station=Station.STACK),
            OptionDef(key="shaft_spline_standard", name="Shaft spline, standard", station=Station.STACK),
        )
    }
)


def applies(definition: DimensionDef | OptionDef, options: Mapping[str, str]) -> bool:
    """Whether a dimension or a choice is asked for under the choices of a build."""
    return definition.when is None or options.get(definition.when[0], "") in definition.when[1]
