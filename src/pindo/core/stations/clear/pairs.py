"""Tight pairs: what of the unit comes near what of the chassis, and the gaps that were read."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from pindo.core.document.words import literal
from pindo.core.geometry.movement import most_movement, movement_known
from pindo.core.geometry.shapes import SHAPES
from pindo.core.geometry.solid_marks import SOLIDS_FROM_MARKS
from pindo.core.geometry.solids import clocking_of, placed_solids, pose_of
from pindo.core.inputs.cells import part_address
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.clear.gaps import SURE, gap, pair_id, solid_name, straight_of
from pindo.core.stations.clear.pair_board import LEAST_SHOWN, MOST_SHOWN, board
from pindo.core.stations.clear.states import GAP_STATES, SAFETY, PairState, needed, pair_states

check = partial(Check, station=Station.CLEAR, question="clear.pairs", accepts=GAP_STATES)
CAUTIONS = {
    "clear_steering_mm": (
        "Nothing may ever reach the steering. Local rules and licensed people decide on any change"
        " near it."
    ),
    "clear_exhaust_mm": (
        "Fuel and brake lines near heat: shield, sleeve or re-route, then a pressure test by a"
        " competent person."
    ),
    "clear_exhaust_shielded_mm": (
        "Fuel and brake lines near heat: shield, sleeve or re-route, then a pressure test by a"
        " competent person."
    ),
}
WHY = {
    "clear_metal_soft_mm": (
        "The unit rocks on its rubber; a bracket that knocks is heard in the cab and cracks."
    ),
    "clear_metal_stiff_mm": "Stiff mounts lessen the movement and do not end it.",
    "clear_fan_shroud_mm": "Blades flex; the shroud stands still.",
    "clear_fan_core_mm": "A fan bends forward in a ford and cuts the core.",
    "clear_exhaust_mm": "Radiant heat chars insulation and boils fuel.",
    "clear_exhaust_shielded_mm": "A shield halves the heat and no more.",
    "clear_belt_mm": "A belt flaps between its pulleys and shreds on what it meets.",
    "clear_steering_mm": "What touches the steering takes the vehicle's way from its driver.",
    "clear_sheet_mm": "Sheet flutters; the unit rises under torque.",
    "clear_tunnel_mm": "The shaft moves with the axle.",
}


def _pair_check(inputs: Inputs, state: PairState, matrix: np.ndarray, floor_mm: float) -> Check:
    a, b = solid_name(state.pair.engine), solid_name(state.pair.chassis)
    parts = [
        words
        for words, mm in (
            ("{moves_mm} the unit's movement", state.moves),
            ("{settles_mm} squash of its mounts", state.settles),
        )
        if mm >= 0.05
    ]
    moves = f" (of it {' and '.join(parts)})" if parts else ""
    straight = straight_of(inputs, state, matrix)
    middle = (state.pair.on_engine + state.pair.on_chassis) / 2.0
    return check(
        id=pair_id(state),
        title=f"{a} to {b}",
        value=gap,
        at_least=needed,
        says=f"{literal(a)} clears {literal(b)} by {{value}}; needs {{limit}}{moves}",
        fouls=f"{literal(a)} stands {{over}} into {literal(b)}",
        why=WHY[state.rule],
        caution=CAUTIONS.get(state.rule, ""),
        safety=state.rule in SAFETY,
        given={
            "straight": Constant(straight),
            "class_mm": state.rule,
            "moves_mm": Constant(round(state.moves, 6), "length"),
            "settles_mm": Constant(round(state.settles, 6), "length"),
        },
        reads=tuple(address for address, _, _ in straight.at),
        at=(-float(middle[0]), float(middle[1]), float(middle[2]) + floor_mm),
    )


def pair_checks(inputs: Inputs) -> Iterator[Check]:
    """The pairs that may not go, and always the tightest few."""
    floor, matrix = inputs.value("rail_height_mm") or 0.0, pose_of(inputs)
    if matrix is None:
        return
    for i, state in enumerate(pair_states(inputs)):
        room = state.pair.distance - state.takes - inputs.rules[state.rule]
        if i < LEAST_SHOWN or (room <= 2.0 * SURE * state.u and i < MOST_SHOWN):
            yield _pair_check(inputs, state, matrix, floor)


GAP_RULES = {
    "metal to chassis": "clear_metal_soft_mm",
    "fan to shroud": "clear_fan_shroud_mm",
    "fan to core": "clear_fan_core_mm",
    "exhaust to line or wiring": "clear_exhaust_mm",
    "shielded exhaust to line or wiring": "clear_exhaust_shielded_mm",
    "belt to anything": "clear_belt_mm",
    "steering": "clear_steering_mm",
    "bonnet or sheet": "clear_sheet_mm",
    "shaft to tunnel": "clear_tunnel_mm",
}
"""The limit of the class table that a gap of the user's own is held to."""


def own_gaps(inputs: Inputs) -> Iterator[Check]:
    """Gaps that were read at a trial fit and belong to no pair of solids: a fit needs no model."""
    stiff = inputs.options.get("mount_type") == "stiff"
    moves = most_movement(inputs)
    for fit in inputs.build.fits:
        for gap_read in fit.gaps:
            address = part_address("fits.gaps", fit, gap_read, "measured")
            read = inputs.quantities.get(address)
            if gap_read.finding or gap_read.kind != "gap" or read is None or gap_read.lapsed:
                continue
            rule = GAP_RULES[gap_read.class_]
            rule = "clear_metal_stiff_mm" if stiff and rule == "clear_metal_soft_mm" else rule
            name, where = gap_read.title or f"gap {gap_read.n}", fit.name or f"fit {fit.n}"
            yield check(
                id=f"clear.read.{fit.n}.{gap_read.n}",
                title=name,
                value=plain.given,
                at_least=needed,
                says=f"{literal(name)} was read as {{value}} at {literal(where)}; needs {{limit}}"
                + (
                    " (of it {moves_mm} the most that the unit moves anywhere)"
                    if moves >= 0.05
                    else ""
                ),
                why=WHY[rule],
                caution=CAUTIONS.get(rule, ""),
                safety=rule in SAFETY,
                given={
                    "x": address,
                    "class_mm": rule,
                    "moves_mm": Constant(round(moves, 6), "length"),
                    "settles_mm": Constant(0.0, "length"),
                },
            )


def checks(inputs: Inputs) -> Iterator[Check]:
    """The tight pairs, and gaps of a fit's own."""
    yield from pair_checks(inputs)
    yield from own_gaps(inputs)


_SHAPE_FIELDS = {
    "a": "length or diameter",
    "b": "second size",
    "c": "third size",
    "hole": "hole",
    "back": "middle, behind",
    "left": "middle, left",
    "up": "middle, up",
}


def _wait(inputs: Inputs) -> str:
    """What a solid with all its figures waits for."""
    if pose_of(inputs) is None:
        return "pose"
    return "clocking" if clocking_of(inputs, "gearbox") is None else "plate"


def _unplaced(inputs: Inputs) -> Iterator[Finding]:
    """Solids that cannot be placed: each with the figures that are wanting, and those that only
    wait for the pose as one.
    """
    placed = {p.solid.n for p in placed_solids(inputs)}
    why = "What is not placed is not looked at."
    waiting: dict[str, list[str]] = {}
    for s in inputs.build.solids:
        if s.n in placed:
            continue
        name = s.name or f"solid {s.n}"
        values = {
            f: inputs.value(f"solids.{s.n}.{f}")
            for f in ("back", "left", "up", *SHAPES[s.shape].fields)
        }
        wanting = [_SHAPE_FIELDS[f] for f, v in values.items() if v is None]
        wanting += [
            f"{_SHAPE_FIELDS[f]} above 0"
            for f in SHAPES[s.shape].fields
            if (v := values[f]) is not None and v <= 0.0
        ]
        if wanting:
            yield notice(
                f"clear.solid.{s.n}",
                "clear.pairs",
                f"{name}, place",
                Verdict.UNMEASURED,
                f"{name[0].upper()}{name[1:]} cannot be placed yet: {', '.join(wanting)}"
                f" {'is' if len(wanting) == 1 else 'are'} wanting",
                why=why,
            )
        else:
            waiting.setdefault(_wait(inputs), []).append(name)
    causes = {
        "pose": "the pose is not known",
        "clocking": "the gearbox's clocking is not known",
        "plate": "the plate's thickness is not known",
    }
    for what, names in waiting.items():
        shown = ", ".join(names[:6]) + (f" and {len(names) - 6} more" if len(names) > 6 else "")
        yield notice(
            f"clear.unplaced.{what}",
            "clear.pairs",
            "Solids that wait for their place",
            Verdict.UNMEASURED,
            f"Not placed yet, because {causes[what]}: {shown}",
            why=why,
        )


def _flagged(inputs: Inputs) -> Iterator[Finding]:
    """Solids that a reading contradicts: the reading wins, and what was modelled is wrong
    somewhere.
    """
    states = {pair_id(s): s for s in pair_states(inputs)}
    for fit in inputs.build.fits:
        for gap_read in fit.gaps:
            state = states.get(gap_read.finding)
            read = inputs.quantities.get(part_address("fits.gaps", fit, gap_read, "measured"))
            if state is None or read is None or read.value is None or gap_read.kind != "gap":
                continue
            off, doubt = read.value - state.pair.distance, 2.0 * np.hypot(state.u, read.u)
            if abs(off) > doubt:
                a, b = solid_name(state.pair.engine), solid_name(state.pair.chassis)
                text = in_both(
                    "{at}: the model has {model}, it was read as {read}: place or size of one of"
                    " them, or the pose, is wrong",
                    f"{a} to {b}",
                    model=state.pair.distance,
                    read=read.value,
                )
                yield notice(
                    f"clear.flagged.{state.id}.{fit.n}",
                    "clear.pairs",
                    f"{a} and {b}, as modelled",
                    Verdict.UNMEASURED,
                    text,
                    why=(
                        "The reading stands in the verdicts of this pair; every other pair of these"
                        " solids still rests on the model. Correct it before the next cut."
                    ),
                )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What cannot be placed, and what keeps the checks from being asked."""
    yield from _unplaced(inputs)
    yield from _flagged(inputs)
    bodies = {s.body == "chassis" for s in inputs.build.solids}
    if bodies != {False, True} and not any(g.measured for f in inputs.build.fits for g in f.gaps):
        yield notice(
            "clear.solids",
            "clear.pairs",
            "Solids",
            Verdict.UNMEASURED,
            "Solids: enter those of the unit and those of the chassis, and every pair of them is"
            " measured; or write down gaps as they are read at a trial fit",
            why="Nearly every gap is judged by eye; the ones nobody feared are the ones that foul.",
        )
    if bodies and movement_known(inputs) is None:
        yield notice(
            "clear.movement",
            "clear.pairs",
            "Movement of the unit",
            Verdict.UNMEASURED,
            "Movement of the unit is not known: gaps are held to the class table alone",
            why="Enter mounts, mass and ratios at Seat, and the gaps count the unit's movement.",
        )


QUESTION = Question(
    path="pairs",
    station=Station.CLEAR,
    name="Tight pairs",
    asks="What of the unit comes too near what of the chassis?",
    lists=("solids",),
    gives=(SOLIDS_FROM_MARKS,),
    checks=checks,
    notices=notices,
    board=board,
    where="engine",
    gaps=True,
)
