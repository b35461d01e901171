"""What has to match from crank to input shaft. All lengths mm; arrays broadcast."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from pindo.core.inputs.couplings import bellhoused, converter, packed
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import ROTATING, STACK_STATES
from pindo.core.stations.stack.match_words import board, notices

check = partial(Check, station=Station.STACK, question="stack.match", accepts=STACK_STATES)


def bolt_circle_play(
    crank_pcd_mm: Numbers,
    flywheel_pcd_mm: Numbers,
    crank_bolt_mm: Numbers,
    flywheel_hole_mm: Numbers,
) -> Numbers:
    """Play left at a bolt: (H - F)/2 less the difference of the two circles' radii. [mm]

    Fixed fastener, ASME Y14.5: a bolt into a thread passes when the centres differ by no more than
    (H - F)/2.
    """
    return (flywheel_hole_mm - crank_bolt_mm) / 2.0 - np.abs(crank_pcd_mm - flywheel_pcd_mm) / 2.0


def register_clearance(flywheel_register_mm: Numbers, crank_register_mm: Numbers) -> Numbers:
    """Diametral clearance of the flywheel on the crank's spigot; negative is interference. [mm]"""
    return flywheel_register_mm - crank_register_mm


def disc_on_face(friction_face_mm: Numbers, disc_od_mm: Numbers) -> Numbers:
    """Friction face less disc diameter: negative when the lining hangs over. [mm]"""
    return friction_face_mm - disc_od_mm


def nose_clearance(pilot_bore_mm: Numbers, nose_d_mm: Numbers) -> Numbers:
    """Diametral clearance of the nose in its bearing. [mm]"""
    return pilot_bore_mm - nose_d_mm


def bearing_press(pilot_od_mm: Numbers, pilot_seat_mm: Numbers) -> Numbers:
    """Diametral interference of the pilot bearing in its seat. [mm]"""
    return pilot_od_mm - pilot_seat_mm


def release_bore_clearance(release_bore_mm: Numbers, guide_tube_od_mm: Numbers) -> Numbers:
    """Diametral clearance of the release bearing's carrier on the guide tube. [mm]"""
    return release_bore_mm - guide_tube_od_mm


def spline_od_difference(disc_spline_od_mm: Numbers, shaft_spline_od_mm: Numbers) -> Numbers:
    """Hub's major diameter less the shaft's. [mm]"""
    return disc_spline_od_mm - shaft_spline_od_mm


def pattern_difference(cover_pcd_mm: Numbers, flywheel_cover_pcd_mm: Numbers) -> Numbers:
    """Clutch cover's bolt circle less the flywheel's. [mm]"""
    return cover_pcd_mm - flywheel_cover_pcd_mm


def least_pattern(pattern_match_max_mm: float) -> float:
    """The same difference the other way. [mm]"""
    return -pattern_match_max_mm


CHECKS = (
    check(
        id="stack.crank_circle",
        title="Crank to flywheel, bolt circle",
        value=bolt_circle_play,
        at_least=plain.zero,
        says="Crank bolts have {value} of play left in the flywheel's holes",
        fouls="Crank bolts miss the flywheel's holes by {over}",
        why="Same count is not same circle.",
        caution=ROTATING,
    ),
    check(
        id="stack.crank_bolts",
        title="Crank to flywheel, bolts",
        value=plain.difference,
        at_least=plain.zero,
        at_most=plain.zero,
        given={"a": "crank_bolts", "b": "flywheel_bolts"},
        kind="count",
        says="Crank has {a} threads, flywheel {b} holes",
        why="Every thread of the crank carries its share of the torque.",
    ),
    check(
        id="stack.crank_register",
        title="Crank to flywheel, register",
        value=register_clearance,
        at_least="register_clearance_min_mm",
        at_most="register_clearance_max_mm",
        says="Flywheel has {value} of clearance on the crank's register; wants {limit}",
        fouls="Flywheel's bore is {over} smaller than the crank's register",
        why="The register centres the flywheel; bolts only clamp. Off centre it shakes the engine.",
        caution=ROTATING,
    ),
    check(
        id="stack.disc_on_face",
        title="Disc on its friction face",
        value=disc_on_face,
        at_least=plain.zero,
        says="Disc {disc_od_mm} lies on a friction face of {friction_face_mm}: {value} to spare",
        fouls="Disc {disc_od_mm} hangs over a friction face of {friction_face_mm} by {over}",
        why="A lining that hangs over the face wears a step, loses grip and breaks off.",
    ),
    check(
        id="stack.spline_count",
        title="Disc to input shaft, splines",
        value=plain.difference,
        at_least=plain.zero,
        at_most=plain.zero,
        given={"a": "disc_splines", "b": "shaft_splines"},
        kind="count",
        says="Disc has {a} splines, the input shaft {b}",
        why="The disc has to slide on the gearbox's shaft under the engine's cover.",
    ),
    check(
        id="stack.spline_od",
        title="Disc to input shaft, spline size",
        value=spline_od_difference,
        at_least="spline_od_least_mm",
        at_most="spline_od_match_max_mm",
        says=(
            "Hub is {disc_spline_od_mm} at the spline's root, shaft {shaft_spline_od_mm} over the"
            " teeth: {value} larger; wants {limit}"
        ),
        fouls=(
            "Hub is {disc_spline_od_mm} at the spline's root, shaft {shaft_spline_od_mm} over the"
            " teeth: {over} too small to go on"
        ),
        why=(
            "The same count on another diameter does not slide, or knocks; a hub smaller than its"
            " shaft does not go on at all."
        ),
    ),
    check(
        id="stack.spline_standard",
        title="Disc to input shaft, spline standard",
        value=plain.same_words,
        at_least=plain.one,
        given={"a": "disc_spline_standard", "b": "shaft_spline_standard"},
        kind="count",
        says="Disc spline {a}, shaft spline {b}",
        why="Same count and size with another tooth form does not carry.",
    ),
    check(
        id="stack.cover_bolts",
        title="Clutch cover to flywheel, bolts",
        value=plain.difference,
        at_least=plain.zero,
        at_most=plain.zero,
        given={"a": "cover_bolts", "b": "flywheel_cover_bolts"},
        kind="count",
        says="Cover has {a} holes, flywheel {b} threads",
        why="The cover bolts down evenly or not at all.",
    ),
    check(
        id="stack.cover_circle",
        title="Clutch cover to flywheel, bolt circle",
        value=pattern_difference,
        at_least=least_pattern,
        at_most="pattern_match_max_mm",
        says=(
            "Cover circle {cover_pcd_mm}, flywheel {flywheel_cover_pcd_mm}; apart by {value},"
            " allowed {limit}"
        ),
        why="Dowelled cover screws have next to no play.",
    ),
    check(
        id="stack.nose_fit",
        title="Nose in its bearing, fit",
        value=nose_clearance,
        at_least="nose_clearance_min_mm",
        at_most="nose_clearance_max_mm",
        says="Nose has {value} of clearance in its bearing; wants {limit}",
        fouls="Nose is {over} too large for its bearing",
        why="A nose filed by hand or chewed by a failed bearing no longer fits.",
    ),
    check(
        id="stack.pilot_press",
        title="Pilot bearing in its seat, fit",
        value=bearing_press,
        at_least="press_min_mm",
        at_most="press_max_mm",
        says="Pilot bearing has {value} of press in its seat; wants {limit}",
        fouls="Pilot bearing is {over} loose in its seat; wants {limit} of press",
        why="A loose bearing turns in the crank; a hard press closes its bore.",
    ),
    check(
        id="stack.release_bore",
        title="Release bearing on the guide tube",
        value=release_bore_clearance,
        at_least="release_bore_clearance_min_mm",
        at_most="release_bore_clearance_max_mm",
        says="Release bearing has {value} of clearance on the guide tube; wants {limit}",
        fouls="Release bearing is {over} too small for the guide tube",
        why="It must slide without cocking.",
    ),
)

OF_ANY = frozenset({"stack.crank_circle", "stack.crank_bolts", "stack.crank_register"})
"""What a flexplate is asked as a flywheel is."""
OF_A_HUB = frozenset({"stack.spline_count", "stack.spline_od", "stack.spline_standard"})
"""What the damper before a clutch pack is asked too."""


def checks(inputs: Inputs) -> Iterator[Check]:
    """All of it of a clutch; crank to flexplate of a converter; hub and crank of a clutch pack."""
    own = OF_ANY if converter(inputs) else OF_ANY | OF_A_HUB if packed(inputs) else None
    yield from (c for c in CHECKS if own is None or c.id in own)


QUESTION = Question(
    path="match",
    station=Station.STACK,
    name="Interchange",
    asks="Does every part fit the one that it is bolted to, slides on or runs in?",
    options=(
        "engine_balance",
        "flywheel_balance",
        "flywheel_certificate",
        "pilot_found",
        "flywheel_through",
        "disc_spline_standard",
        "shaft_spline_standard",
    ),
    dimensions={
        "A": "crank_pcd_mm",
        "B": "flywheel_pcd_mm",
        "C": "crank_bolts",
        "D": "flywheel_bolts",
        "E": "crank_bolt_mm",
        "F": "flywheel_hole_mm",
        "G": "crank_register_mm",
        "H": "flywheel_register_mm",
        "J": "friction_face_mm",
        "K": "disc_od_mm",
        "L": "disc_splines",
        "M": "shaft_splines",
        "N": "disc_spline_od_mm",
        "P": "shaft_spline_od_mm",
        "Q": "nose_d_mm",
        "R": "pilot_bore_mm",
        "S": "pilot_od_mm",
        "T": "pilot_seat_mm",
        "U": "cover_pcd_mm",
        "V": "flywheel_cover_pcd_mm",
        "W": "cover_bolts",
        "X": "flywheel_cover_bolts",
        "Y": "guide_tube_od_mm",
        "Z": "release_bore_mm",
        "AA": "original_power_kw",
    },
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
