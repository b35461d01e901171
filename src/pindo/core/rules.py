"""Every limit of the trade that a check uses: value, unit, source and one line of reason.

No limit is written into a formula. A build may override any of them with a note; findings say so.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

PRACTICE = "common practice, no published source"
PROPOSED = "proposed default: no published or practical figure is known"


@dataclass(frozen=True, kw_only=True)
class Rule:
    """One limit. ``name`` is what a person calls it."""

    id: str
    name: str
    value: float
    unit: str
    source: str
    reason: str


def _rule(id: str, name: str, value: float, unit: str, reason: str, source: str = PRACTICE) -> Rule:
    return Rule(id=id, name=name, value=value, unit=unit, source=source, reason=reason)


_EN_1993 = "EN 1993-1-8, Table 3.3, from memory"
_FRICTION = "common practice, from memory; the fastener maker's or the locker's sheet decides"
_MAKERS = "common practice among starter makers, no published source"

RULES: Mapping[str, Rule] = MappingProxyType(
    {
        rule.id: rule
        for rule in (
            # How a verdict is taken
            _rule(
                "guard_band_factor",
                "Guard band, in standard uncertainties",
                2.0,
                "",
                "the doubt is held against the part on both sides of a limit; a later edition takes 1.65 on one side",
                "ISO 14253-1, from memory",
            ),
            # Mate
            _rule("hole_spacing_factor", "Hole spacing, hole diameters", 2.2, "d0", "metal left between two holes has to carry both", _EN_1993),
            _rule("edge_factor", "Edge distance, hole diameters", 1.2, "d0", "a hole nearer the edge tears out", _EN_1993),
            _rule("ligament_min_mm", "Metal between two holes", 0.5, "mm", "below this the drill breaks through into its neighbour", PROPOSED),
            _rule("head_sunk_min_mm", "Head below the plate's face", 0.2, "mm", "a proud head holds the faces apart", PROPOSED),
            _rule("head_side_gap_mm", "Head or nut beside the other casting", 1.0, "mm", "a head that lands on a casting stops the joint", PROPOSED),
            _rule("recess_floor_factor", "Plate left under a recess, screw diameters", 0.4, "d", "the head pulls through a thin floor", PROPOSED),
            _rule("thread_steel_factor", "Thread engagement in steel, diameters", 1.0, "d", "the screw should break before the thread strips"),
            _rule("thread_iron_factor", "Thread engagement in cast iron, diameters", 1.25, "d", "between steel and aluminium", PROPOSED),
            _rule("thread_aluminium_factor", "Thread engagement in aluminium, diameters", 1.5, "d", "the softer thread strips first"),
            _rule("starter_window_gap_mm", "Room round the starter where it passes the plate", 3.0, "mm", "castings scatter, and its bolts have to start", PROPOSED),
            _rule("dowel_bottom_gap_mm", "Dowel short of its hole's bottom", 0.5, "mm", "a pin that bottoms holds the faces apart", PROPOSED),
            _rule("bore_tir_max_mm", "Runout of the bore, full swing", 0.25, "mm", "an offset input shaft wears the pilot and drags the clutch"),
            _rule("face_tir_max_mm", "Runout of the face, full swing", 0.25, "mm", "a tilted gearbox bends its shaft once a turn"),
            _rule("rotating_gap_mm", "Rotating part to still part", 3.0, "mm", "crank float, flexing and casting scatter together"),
            # Stack
            _rule("pilot_share", "Pilot engagement, share of the bearing", 0.7, "", "a nose held on a corner of its bearing whips"),
            _rule("pilot_least_mm", "Pilot engagement that is always enough", 8.0, "mm", "wide bearings need not be filled"),
            _rule("tip_gap_min_mm", "Tip to bottom of the bore", 2.0, "mm", "a shaft that bottoms pushes the crank's thrust bearing"),
            _rule("shoulder_gap_min_mm", "Shoulder behind the bearing", 1.5, "mm", "a shoulder that touches burns the bearing"),
            _rule("spline_short_max_mm", "Hub that may stand off the spline", 2.0, "mm", "a short spline carries the torque on its end"),
            _rule("hub_gap_min_mm", "Hub to what stands beside it", 2.0, "mm", "the hub turns against parts that do not"),
            _rule("release_spare_mm", "Release gap beyond the wear shift", 0.5, "mm", "a bearing that rides early slips and burns the clutch"),
            _rule("release_gap_min_mm", "Release gap, adjustable, least", 2.0, "mm", "less is gone before the first adjustment"),
            _rule("release_gap_max_mm", "Release gap, adjustable, most", 5.0, "mm", "more eats the stroke"),
            _rule("retract_reserve_mm", "Retract reserve beyond the wear shift", 1.0, "mm", "a slave that bottoms holds the clutch open"),
            _rule("travel_factor", "Release stroke over the travel needed", 1.1, "", "hoses swell and seals roll"),
            _rule("parked_gap_min_mm", "Parked pinion to ring, least", 1.5, "mm", "a parked pinion must not rattle on the ring", _MAKERS),
            _rule("parked_gap_max_mm", "Parked pinion to ring, most", 4.0, "mm", "the throw is used up before the teeth meet", _MAKERS),
            _rule("mesh_share", "Starter mesh, share of the ring's face", 0.6, "", "short mesh breaks teeth", _MAKERS),
            _rule("starter_backlash_min_mm", "Starter backlash, least", 0.3, "mm", "a tight mesh howls and does not fall out", PROPOSED),
            _rule("starter_backlash_max_mm", "Starter backlash, most", 0.9, "mm", "a wide mesh rides on the tips of the teeth", PROPOSED),
            _rule("pressure_angle_deg", "Pressure angle of starter teeth", 20.0, "deg", "most starters; read it off the paper where one is at hand", "ISO 53, from memory"),
            _rule("module_match_max_mm", "Modules that still run together", 0.01, "mm", "teeth of two pitches climb on each other", PROPOSED),
            # Interchange
            _rule("register_clearance_min_mm", "Register clearance, least", 0.0, "mm", "a flywheel that must be forced on is on crooked", PROPOSED),
            _rule("register_clearance_max_mm", "Register clearance, most", 0.1, "mm", "the register centres the flywheel, the bolts do not"),
            _rule(
                "spline_od_least_mm",
                "Hub over shaft at the spline's major diameter, least",
                0.0,
                "mm",
                "a hub smaller than its shaft does not go on",
                "closed form: a bore has to be as large as what goes into it",
            ),
            _rule("spline_od_match_max_mm", "Difference of spline major diameters", 0.4, "mm", "same count is not same spline", PROPOSED),
            _rule("nose_clearance_min_mm", "Nose in its bearing, least clearance", 0.01, "mm", "a running fit", "ISO 286, H7/f7 at 10 to 18 mm is 0.016 to 0.052, from memory"),
            _rule("nose_clearance_max_mm", "Nose in its bearing, most clearance", 0.15, "mm", "a loose nose knocks with the clutch down"),
            _rule("press_min_mm", "Pilot bearing in its seat, least interference", 0.0, "mm", "a loose bearing turns in the crank", "ISO 286, light press, from memory"),
            _rule("press_max_mm", "Pilot bearing in its seat, most interference", 0.06, "mm", "a hard press closes the bearing's bore", "ISO 286, light press, from memory"),
            _rule("release_bore_clearance_min_mm", "Release bearing on the guide tube, least clearance", 0.05, "mm", "it must slide"),
            _rule("release_bore_clearance_max_mm", "Release bearing on the guide tube, most clearance", 0.6, "mm", "a cocked bearing chatters"),
            _rule("pattern_match_max_mm", "Difference of two bolt circles without free play", 0.2, "mm", "dowelled cover screws have next to no play", PROPOSED),
            _rule("clutch_torque_factor", "Clutch rating over engine torque", 1.25, "", "heat, wear and oil mist take their share; fabricators often ask 1.0"),
            _rule("gearbox_torque_factor", "Gearbox rating over engine torque", 1.0, "", "the maker's input rating is the limit"),
            # Seat
            _rule("inclination_min_deg", "Inclination, least", 2.0, "deg", "oil has to run to the sump's pick-up and the shaft wants an angle; fabricators say 2 to 3"),
            _rule("inclination_max_deg", "Inclination, most", 4.0, "deg", "carburettors, sump and fan suffer beyond"),
            _rule("crosswise_tilt_max_deg", "Crank line of a crosswise or chain unit off level, most", 4.0, "deg", "oil runs to one end", PROPOSED),
            _rule("ground_gap_min_mm", "Ground clearance under the unit", 150.0, "mm", "the sump meets the ground before the frame does", PROPOSED),
            _rule("bonnet_gap_min_mm", "Engine to bonnet", 20.0, "mm", "the engine moves, the bonnet flutters"),
            _rule("mount_share_min", "Least share of the weight on a mount", 5.0, "%", "a mount that carries nothing rattles and lifts", PROPOSED),
            _rule("mount_travel_max_mm", "Movement at a mount, most", 10.0, "mm", "rubber tears and hard parts meet", PROPOSED),
            _rule("mount_static_max_mm", "Squash of a mount under weight, most", 8.0, "mm", "rubber that sags is soon off its seat", PROPOSED),
            _rule("slot_left_min_mm", "Slot left each way", 3.0, "mm", "a slot at its end cannot be adjusted; start in the middle", PROPOSED),
            _rule("braking_g", "Braking", 1.0, "g", "load case"),
            _rule("cornering_g", "Cornering", 1.0, "g", "load case"),
            _rule("bump_g", "Bump, in all", 3.0, "g", "load case"),
            _rule(
                "isolation_ratio",
                "Roll mode below the firing frequency by",
                1.4142135623730951,
                "",
                "above it the mount passes on more than a solid one would",
                "closed form: transmissibility 1 at sqrt(2)",
            ),
            _rule("point_residual_factor", "Residual of a measured point, in its own doubt", 1.5, "", "a point that does not fit was misread or has moved", PROPOSED),
            # Line
            _rule("joint_angle_min_deg", "Joint angle, least", 0.5, "deg", "needles that do not turn dent their races"),
            _rule("joint_equal_max_deg", "Difference of the two end angles, most", 1.0, "deg", "unequal ends do not cancel each other's wobble"),
            _rule("torsional_max", "Torsional excitation, most", 300.0, "rad/s²", "gears rattle and the shaft drones", "SAE AE-7, from memory"),
            _rule("inertial_drive_max", "Inertial excitation in drive, most", 1000.0, "rad/s²", "the shaft's own mass hammers the gearbox", "SAE AE-7, from memory"),
            _rule("inertial_coast_max", "Inertial excitation in coast, most", 1000.0, "rad/s²", "500 is also met", "SAE AE-7, from memory"),
            _rule("critical_share", "Shaft speed, share of its critical speed", 0.75, "", "a whirling shaft beats itself out of the car", "common practice of shaft makers, from memory"),
            _rule("slip_spare_mm", "Slip to spare at both ends", 5.0, "mm", "a slip that bottoms breaks gearbox or axle", PROPOSED),
            _rule("spring_radius_share", "Radius of the axle's arc, share of the spring's front half", 0.75, "", "the leaf bends: the arc is shorter than the half", "common practice, from memory"),
            _rule("cv_angle_max_deg", "Half shaft joint angle, most", 20.0, "deg", "joints heat and wear beyond", PROPOSED),
            _rule("plunge_spare_mm", "Plunge to spare at both ends", 3.0, "mm", "a joint that bottoms or parts ends the ride", PROPOSED),
            _rule("chain_offset_max_deg", "Sprockets out of plane, most", 0.5, "deg", "the chain climbs and throws itself off"),
            _rule("key_shear_mpa", "Key, shear stress allowed", 60.0, "MPa", "mild key steel", "assumed figure, no published source"),
            _rule("key_service_factor", "Key, service factor", 3.0, "", "a clutch takes hold with a blow", PROPOSED),
            _rule("steel_modulus_gpa", "Steel, elastic modulus", 206.0, "GPa", "the tube's stiffness", "handbook value, from memory"),
            _rule("steel_density", "Steel, density", 7850.0, "kg/m³", "the tube's mass", "handbook value, from memory"),
            # Clear
            _rule("clear_metal_soft_mm", "Metal to chassis, soft mounts", 20.0, "mm", "the unit rocks; fabricators call 13 to 19 ample"),
            _rule("clear_metal_stiff_mm", "Metal to chassis, stiff mounts", 10.0, "mm", "less rocking, never none"),
            _rule("clear_fan_shroud_mm", "Fan to shroud", 15.0, "mm", "blades flex and the unit moves"),
            _rule("clear_fan_core_mm", "Fan to core", 25.0, "mm", "a fan flexes forward in a ford"),
            _rule("clear_exhaust_mm", "Exhaust to bare line or wiring", 75.0, "mm", "radiant heat chars insulation and boils fuel"),
            _rule("clear_exhaust_shielded_mm", "Shielded exhaust to line or wiring", 40.0, "mm", "a shield halves it"),
            _rule("clear_belt_mm", "Belt to anything", 10.0, "mm", "a belt flaps"),
            _rule("clear_steering_mm", "Steering shaft over its turn", 12.0, "mm", "nothing may ever reach the steering"),
            _rule("clear_sheet_mm", "Bonnet or sheet", 20.0, "mm", "sheet flutters and is beaten"),
            _rule("clear_tunnel_mm", "Shaft to tunnel over travel", 25.0, "mm", "the shaft moves with the axle"),
            _rule("belt_wrap_min_deg", "Wrap on a pulley, least", 90.0, "deg", "a belt with little wrap slips and squeals", PROPOSED),
            _rule("belt_offset_max_deg", "Belt span out of plane, most", 0.5, "deg", "ribs climb and shred"),
            # Assemble
            _rule("preload_share_max", "Bolt preload at the lowest friction, share of proof load", 90.0, "%", "a screw past its proof load has stretched for good", "common practice, 75 to 90 %"),
            _rule("preload_share_min", "Bolt preload at the highest friction, share of proof load", 60.0, "%", "what is clamped too little works loose", PROPOSED),
            _rule("mu_dry_low", "Friction, dry, least", 0.12, "", "clean steel on steel", _FRICTION),
            _rule("mu_dry_high", "Friction, dry, most", 0.20, "", "clean steel on steel", _FRICTION),
            _rule("mu_delivered_low", "Friction, as delivered, least", 0.10, "", "a film of the maker's oil or phosphate", _FRICTION),
            _rule("mu_delivered_high", "Friction, as delivered, most", 0.16, "", "a film of the maker's oil or phosphate", _FRICTION),
            _rule("mu_oiled_low", "Friction, oiled, least", 0.08, "", "engine oil on thread and head", _FRICTION),
            _rule("mu_oiled_high", "Friction, oiled, most", 0.14, "", "engine oil on thread and head", _FRICTION),
        )
    }
)
