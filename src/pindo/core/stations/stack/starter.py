"""Starter mesh: does the pinion reach the ring, let go of it, and run on its teeth?

All lengths mm; arrays broadcast.
"""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import partial

import numpy as np

from pindo.core.drawing.board import Board, Reading
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Formula
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import ROTATING, STACK_STATES, chosen, not_done, unsaid
from pindo.core.stations.stack.section import section_board
from pindo.core.stations.stack.spacing import overlap

KEY = "stack.starter"
NEWTON = 12
"""Steps that bring the working angle to the last bit."""
check = partial(Check, station=Station.STACK, question=KEY, accepts=STACK_STATES)


def parked_gap(
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    starter_flange_s: Numbers,
    starter_parked_mm: Numbers,
) -> Numbers:
    """Parked pinion to the ring gear's front. [mm]"""
    return flywheel_flange_s + ring_front_mm - (starter_flange_s + starter_parked_mm)


def mesh_depth(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    pinion_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    ring_width_mm: Numbers,
) -> Numbers:
    """Face of the thrown pinion inside the ring gear's face. [mm]"""
    front, out = flywheel_flange_s + ring_front_mm, starter_flange_s + starter_out_mm
    return overlap(out - pinion_mm, out, front, front + ring_width_mm)


def parked_behind(
    starter_flange_s: Numbers,
    starter_parked_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    ring_width_mm: Numbers,
) -> Numbers:
    """The same of a starter behind the ring, whose pinion comes forward. [mm]"""
    return (
        starter_flange_s - starter_parked_mm - (flywheel_flange_s + ring_front_mm + ring_width_mm)
    )


def mesh_behind(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    pinion_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    ring_width_mm: Numbers,
) -> Numbers:
    """Mesh of a starter behind the ring. [mm]"""
    front, out = flywheel_flange_s + ring_front_mm, starter_flange_s - starter_out_mm
    return overlap(out, out + pinion_mm, front, front + ring_width_mm)


def mesh_wanted(ring_width_mm: Numbers, mesh_share: float) -> Numbers:
    """Share of the ring's face that must mesh. [mm]"""
    return mesh_share * ring_width_mm


def module_difference(pinion_module_mm: Numbers, ring_module_mm: Numbers) -> Numbers:
    """Pinion's module less the ring gear's. [mm]"""
    return pinion_module_mm - ring_module_mm


def least_module(module_match_max_mm: float) -> float:
    """The same difference the other way. [mm]"""
    return -module_match_max_mm


def centre_excess(
    starter_centre_mm: Numbers, ring_module_mm: Numbers, ring_teeth: Numbers, pinion_teeth: Numbers
) -> Numbers:
    """Measured centre distance less the one without backlash, m (z1 + z2)/2. [mm]"""
    return starter_centre_mm - ring_module_mm * (ring_teeth + pinion_teeth) / 2.0


def excess_for_backlash(backlash_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that a backlash along the pitch circle takes: j/(2 tan alpha). [mm]"""
    return backlash_mm / (2.0 * float(np.tan(np.radians(pressure_angle_deg))))


def least_excess(starter_backlash_min_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that the least backlash takes. [mm]"""
    return excess_for_backlash(starter_backlash_min_mm, pressure_angle_deg)


def most_excess(starter_backlash_max_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that the most backlash takes. [mm]"""
    return excess_for_backlash(starter_backlash_max_mm, pressure_angle_deg)


def shifted_angle(
    pinion_shift: Numbers,
    ring_shift: Numbers,
    pinion_teeth: Numbers,
    ring_teeth: Numbers,
    pressure_angle_deg: float,
) -> Numbers:
    """Working pressure angle of a profile-shifted pair, by Newton's method:
    inv aw = inv a + 2 tan a (x1 + x2)/(z1 + z2) (ISO 21771, from memory). [rad]
    """
    a = np.radians(pressure_angle_deg)
    wanted = (
        np.tan(a) - a + 2.0 * np.tan(a) * (pinion_shift + ring_shift) / (pinion_teeth + ring_teeth)
    )
    angle: Numbers = a + 0.0 * wanted
    for _ in range(NEWTON):
        angle = angle - (np.tan(angle) - angle - wanted) / np.tan(angle) ** 2
    return angle


def shifted_excess(
    starter_centre_mm: Numbers,
    ring_module_mm: Numbers,
    ring_teeth: Numbers,
    pinion_teeth: Numbers,
    pinion_shift: Numbers,
    ring_shift: Numbers,
    pressure_angle_deg: float,
) -> Numbers:
    """The same of a profile-shifted pair: less m (z1 + z2)/2 cos a/cos aw. [mm]"""
    angle = shifted_angle(pinion_shift, ring_shift, pinion_teeth, ring_teeth, pressure_angle_deg)
    plain_mm = ring_module_mm * (ring_teeth + pinion_teeth) / 2.0
    shortened: Numbers = plain_mm * np.cos(np.radians(pressure_angle_deg)) / np.cos(angle)
    return starter_centre_mm - shortened


CHECKS = (
    check(
        id="stack.starter_parked",
        title="Starter pinion, parked",
        value=parked_gap,
        at_least="parked_gap_min_mm",
        at_most="parked_gap_max_mm",
        says="Parked pinion stands {value} off the ring gear; wants {limit}",
        fouls="Parked pinion stands {over} inside the ring gear",
        why=(
            "Too near rattles on the running ring; too far uses up the throw before the teeth meet."
        ),
    ),
    check(
        id="stack.starter_mesh",
        title="Starter pinion, mesh",
        value=mesh_depth,
        at_least=mesh_wanted,
        says="Thrown pinion meshes {value} of the ring's face; needs {limit}",
        fouls="Thrown pinion stops {over} short of the ring gear",
        why=(
            "Short mesh breaks teeth. A starter tried without the flywheel proves the window, not"
            " the mesh."
        ),
    ),
    check(
        id="stack.starter_module",
        title="Starter teeth on the ring gear",
        value=module_difference,
        at_least=least_module,
        at_most="module_match_max_mm",
        kind="module",
        says=(
            "Pinion module is {pinion_module_mm}, ring gear {ring_module_mm}; apart by {value},"
            " allowed {limit}"
        ),
        fouls=(
            "Pinion module is {pinion_module_mm}, ring gear {ring_module_mm}; apart by {over},"
            " allowed {limit}"
        ),
        why=(
            "Teeth of two pitches climb on each other: the starter howls, jams or breaks the ring."
            " Another pinion or ring gear, not another gap."
        ),
    ),
)
CENTRES = check(
    id="stack.starter_centres",
    title="Starter centre distance",
    value=centre_excess,
    at_least=least_excess,
    at_most=most_excess,
    says="Starter stands {value} beyond the centre distance without backlash; wants {limit}",
    fouls="Starter stands {over} too near: no backlash at all; wants {limit} beyond",
    why=(
        "A tight mesh howls and does not fall out; a wide one rides on the tips."
        " Profile-shifted pairs: go by the original pair's measured distance."
    ),
)
RAN = "a pair that ran together"
BEHIND = "on the gearbox' side of the ring"
MIRRORED: Mapping[Formula, Formula] = {parked_gap: parked_behind, mesh_depth: mesh_behind}
"""What a starter behind the ring is asked in the place of one before it."""
CHECKS_BEHIND = tuple(replace(c, value=MIRRORED.get(c.value, c.value)) for c in CHECKS)
SHIFTED = replace(CENTRES, value=shifted_excess)
OLD = check(
    id="stack.starter_centres",
    title="Starter centre distance",
    value=plain.difference,
    at_least=plain.minus,
    at_most="centre_match_mm",
    given={"a": "starter_centre_mm", "b": "starter_centre_old_mm", "limit": "centre_match_mm"},
    says="Starter stands {value} beyond the centre distance of the pair that ran; allowed {limit}",
    why=(
        "A pair that ran tells its own distance, whatever its teeth were shifted by: nearer howls,"
        " wider rides on the tips."
    ),
)
BACKLASH = check(
    id="stack.starter_backlash",
    title="Starter backlash, read",
    value=plain.given,
    at_least="starter_backlash_min_mm",
    at_most="starter_backlash_max_mm",
    given={"x": "starter_backlash_mm"},
    says="Backlash reads {value}; wants {limit}",
    why="A reading at the teeth says more than any sum.",
)


def checks(inputs: Inputs) -> Iterator[Check]:
    """A pair that ran tells its own centre distance, a shifted one its drawing's; backlash can be
    read once the starter was tried with the flywheel on.
    """
    yield from CHECKS_BEHIND if inputs.options.get("starter_side") == BEHIND else CHECKS
    pair = chosen(inputs, "starter_pair")
    yield {RAN: OLD, "profile-shifted": SHIFTED}.get(pair, CENTRES)
    if chosen(inputs, "starter_tried") == "flywheel on":
        yield BACKLASH


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Which way crank and pinion turn, and whether the fit proves the mesh."""
    keys = ("crank_turns", "pinion_turns")
    crank, pinion = (chosen(inputs, k) for k in keys)
    missing = unsaid(inputs, *keys)
    if missing:
        verdict, text = Verdict.UNMEASURED, "Which way crank and pinion turn is not said"
    elif crank == pinion:
        verdict = Verdict.FOULS
        text = (
            f"Crank and pinion both turn {crank}, seen from behind: the engine is turned backwards"
        )
    else:
        verdict = Verdict.GOES
        text = f"Pinion turns {pinion}, the crank {crank}, seen from behind"
    yield notice(
        "stack.starter_sense",
        KEY,
        "Starter, sense of rotation",
        verdict,
        text,
        why="A starter from the ring's other side, or another engine, may turn the other way.",
        missing=missing,
        inputs=keys,
    )
    yield from _spins(inputs)


SPINS = (
    ("spun_by_hand", "rubs or binds", "Spin check by hand"),
    ("spun_by_starter", "howls or knocks", "Spin check by the starter"),
)
"""What is proved on the bench once the bell is on, the bad answer, and what it is called."""


def _spins(inputs: Inputs) -> Iterator[Finding]:
    """The unit spun on the bench, where everything can still be reached."""
    for key, bad, title in SPINS:
        said = chosen(inputs, key) or "not yet"
        verdict = {"not yet": Verdict.UNMEASURED, bad: Verdict.FOULS}.get(said, Verdict.GOES)
        yield notice(
            f"stack.{key}",
            KEY,
            title,
            verdict,
            f"{title}: {said}",
            why="What rubs, howls or knocks is found on the bench, or with the unit out again.",
            caution=ROTATING,
            missing=not_done(inputs, key),
            inputs=(key,),
        )


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section, and backlash and nose beside the starter that the ring ran with."""
    drawn = section_board(KEY)(inputs, seen)
    found = next((f for f in seen.findings if f.id == "stack.starter_centres"), None)
    readings = []
    if found is not None and found.value is not None and chosen(inputs, "starter_pair") != RAN:
        angle = np.radians(inputs.rules["pressure_angle_deg"])
        backlash = 2.0 * float(np.tan(angle)) * found.value
        readings.append(
            Reading(name="Backlash by centre distance", value=backlash, kind="length", places=2)
        )
    out, own = inputs.value("starter_out_mm"), inputs.value("starter_out_old_mm")
    if out is not None and own is not None:
        name = "Nose longer than the ring's own starter"
        readings.append(Reading(name=name, value=out - own, kind="length", places=1))
    return replace(drawn, readings=tuple(readings))


QUESTION = Question(
    path="starter",
    station=Station.STACK,
    name="Starter",
    asks="Does the pinion reach the ring, let go of it, and run on its teeth?",
    options=(
        "starter_on",
        "starter_side",
        "starter_pair",
        "crank_turns",
        "pinion_turns",
        "spun_by_hand",
        "spun_by_starter",
    ),
    dimensions={
        "A": "ring_front_mm",
        "B": "ring_width_mm",
        "C": "starter_parked_mm",
        "D": "starter_out_mm",
        "E": "pinion_mm",
        "F": "starter_centre_mm",
        "G": "ring_teeth",
        "H": "pinion_teeth",
        "J": "ring_module_mm",
        "K": "pinion_module_mm",
        "L": "starter_centre_old_mm",
        "M": "pinion_shift",
        "N": "ring_shift",
        "P": "starter_backlash_mm",
        "Q": "starter_out_old_mm",
    },
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
