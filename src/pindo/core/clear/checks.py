"""The checks of the Clear station: the tight pairs, and the belt run."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any

import numpy as np

from pindo.core import plain
from pindo.core.check import Check
from pindo.core.clear import belt
from pindo.core.clear.solids import SIZES, THICKNESS, Pair, Placed, all_pairs, half_extent, placed_solids, pose_of
from pindo.core.evidence import TAKEN_WITH_A_TOOL, closes_safety, refused_state
from pindo.core.frames import POSE, YAW_DEG, point_in_vehicle
from pindo.core.notice import in_both, notice
from pindo.core.read import once
from pindo.core.resolve import Inputs
from pindo.core.seat.checks import most_movement, movement_at, movement_known, squash_at
from pindo.core.verdict import Finding, Verdict, decide
from pindo.core.words import literal

GAP_STATES = MappingProxyType({"position": frozenset({"resting loaded", "resting loose", "stand", "bench"})})
SURE = 1.5  # a pair within this many of its doubts of its limit is evaluated in full
LEAST_SHOWN = 6  # the tightest pairs are always evaluated
MOST_SHOWN = 40
LISTED = 60  # pairs in the tightest list
SAFETY = frozenset({"clear_steering_mm"})
HOT = frozenset({"exhaust", "shielded exhaust"})
TENDER = frozenset({"line", "wiring"})
CAUTIONS = {
    "clear_steering_mm": "Nothing may ever reach the steering. Local rules and licensed people decide on any change near it.",
    "clear_exhaust_mm": "Fuel and brake lines near heat: shield, sleeve or re-route, then a pressure test by a competent person.",
    "clear_exhaust_shielded_mm": "Fuel and brake lines near heat: shield, sleeve or re-route, then a pressure test by a competent person.",
}
WHY = {
    "clear_metal_soft_mm": "The unit rocks on its rubber; a bracket that knocks is heard in the cab and cracks.",
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


def class_rule(a: str, b: str, stiff: bool) -> str:
    """The limit of the class table that holds for two classes."""
    both = {a, b}
    if "steering" in both:
        return "clear_steering_mm"
    if both & HOT and both & TENDER:
        return "clear_exhaust_mm" if "exhaust" in both else "clear_exhaust_shielded_mm"
    if "belt" in both:
        return "clear_belt_mm"
    if both == {"fan", "shroud"}:
        return "clear_fan_shroud_mm"
    if both == {"fan", "core"}:
        return "clear_fan_core_mm"
    if both == {"shaft", "tunnel"}:
        return "clear_tunnel_mm"
    if "sheet" in both:
        return "clear_sheet_mm"
    return "clear_metal_stiff_mm" if stiff else "clear_metal_soft_mm"


@dataclass(frozen=True)
class Straight:
    """A distance near where it was computed: ``start`` and its slope in each input."""

    start: float
    at: tuple[tuple[str, float, float], ...]
    """Address, value there, slope [mm per unit]."""


@dataclass(frozen=True)
class PairState:
    """A pair with what the class table and the movement ask of it. [mm]"""

    pair: Pair
    rule: str
    moves: float
    """How far the engine's solid comes nearer over the load cases."""
    settles: float
    """How far it comes nearer as the weight comes on the mounts, where the pose was read without. [mm]"""
    slopes: np.ndarray
    """Change of the distance per unit of each pose number, shape (6,) [mm per mm or deg]."""
    u: float
    verdict: Verdict
    """What its inputs allow to be said."""

    @property
    def takes(self) -> float:
        """Movement and squash together. [mm]"""
        return self.moves + self.settles

    @property
    def id(self) -> str:
        return f"{self.pair.engine.solid.n}-{self.pair.chassis.solid.n}"


def gap(read: Mapping[str, Any], straight: Straight) -> Any:
    """Distance of a pair, straight about the place where it was computed. [mm]

    Exact to first order: d' = n . (movement of the chassis' point - movement of the engine's point), n the line
    between the two points.
    """
    total: Any = straight.start
    for address, value, slope in straight.at:
        total = total + slope * (read[address] - value)
    return total


def needed(class_mm: float, moves_mm: float, settles_mm: float) -> float:
    """Class limit, the movement towards the other body (it counts once) and the squash that the pose does not hold yet. [mm]"""
    return class_mm + moves_mm + settles_mm


def _pose_slopes(inputs: Inputs, points: np.ndarray, matrix: np.ndarray) -> np.ndarray:
    """Movement in the vehicle of points of the unit per unit of each pose number, shape (6, n, 3)."""
    yaw = YAW_DEG[inputs.build.layout]
    own = (points - matrix[:3, 3]) @ matrix[:3, :3]
    base = {key: inputs.value(key) or 0.0 for key in POSE}

    def carried(pose: Mapping[str, float]) -> np.ndarray:
        return np.stack(point_in_vehicle(pose, yaw, -own[:, 0], own[:, 1], own[:, 2]), axis=-1)

    still, steps = carried(base), {key: 1.0 if key.endswith("_mm") else 1e-3 for key in POSE}
    return np.stack([(carried(base | {key: base[key] + step}) - still) / step for key, step in steps.items()])


def _straight(inputs: Inputs, state: PairState, turn: np.ndarray) -> Straight:
    """The pair's distance as a straight function of pose, places and sizes. [mm]"""
    n, pair, quantities = state.pair.apart, state.pair, inputs.quantities
    rows = list(zip(POSE, map(float, state.slopes), strict=True))
    for placed, body, sign in ((pair.engine, turn, -1.0), (pair.chassis, np.eye(3), 1.0)):
        prefix = f"solids.{placed.solid.n}."
        back, left, up = sign * (n @ body)
        rows += [(prefix + "back", -float(back)), (prefix + "left", float(left)), (prefix + "up", float(up))]
        rows += [(prefix + field, -float(share)) for field, share in half_extent(placed, n).items()]
        if placed.solid.body == "gearbox":
            rows += [(key, -float(back)) for key in THICKNESS]
    return Straight(pair.distance, tuple((address, quantities[address].value or 0.0, round(g, 12)) for address, g in rows if abs(g) > 1e-9))


def _u(inputs: Inputs, bodies: list[Placed], fields: tuple[str, ...]) -> np.ndarray:
    """Standard uncertainty of fields of the solids, none where a solid lacks the field, shape (n, fields). [mm]"""
    one = {p.solid.n: [inputs.quantities[a].u if (a := f"solids.{p.solid.n}.{f}") in inputs.quantities else 0.0 for f in fields] for p in {p.solid.n: p for p in bodies}.values()}
    return np.array([one[p.solid.n] for p in bodies])


def _size_doubt(inputs: Inputs, bodies: list[Placed], normals: np.ndarray) -> np.ndarray:
    """u² of the distances from the solids' own sizes, shape (n,). [mm²]

    The same shares as :func:`pindo.core.clear.solids.half_extent`, for all pairs at once.
    """
    fields = ("a", "b", "c", "hole")
    shares = np.zeros((len(bodies), len(fields)))
    number = np.array([p.solid.n for p in bodies])
    for body in {p.solid.n: p for p in bodies}.values():
        own = number == body.solid.n
        for field, share in half_extent(body, normals[own]).items():
            shares[own, fields.index(field)] = share
    return np.asarray(((shares * _u(inputs, bodies, fields)) ** 2).sum(axis=1))


def _place_doubt(inputs: Inputs, bodies: list[Placed], slopes: np.ndarray) -> np.ndarray:
    """u² of the distances from the solids' places, shape (n,). [mm²] ``slopes``: along the body's own axes, shape (n, 3)."""
    thick = sum(inputs.quantities[k].u ** 2 for k in THICKNESS)
    behind = np.array([p.solid.body == "gearbox" for p in bodies])
    return np.asarray(((slopes * _u(inputs, bodies, ("back", "left", "up"))) ** 2).sum(axis=1) + behind * slopes[:, 0] ** 2 * thick)


def _pose_doubt(inputs: Inputs, slopes: np.ndarray) -> np.ndarray:
    """u² of the distances from the pose, shape (n,): with the whole of its correlation where it was found from points. [mm²]"""
    each = slopes * np.array([inputs.quantities[key].u for key in POSE])
    together = np.eye(len(POSE)) if inputs.pose_correlation is None else inputs.pose_correlation
    return np.asarray(np.einsum("ni,ij,nj->n", each, together, each))


def _counts(inputs: Inputs, numbers: Iterable[int], safety: bool) -> bool:
    """Whether every figure of the pose and of these solids counts for a gap: its state, and its evidence where safety hangs on it."""
    addresses = [*POSE, *(a for n in numbers for f in ("back", "left", "up", "a", "b", "c", "hole") if (a := f"solids.{n}.{f}") in inputs.quantities)]
    found = [inputs.quantities[a] for a in addresses]
    standing = all(q.value is not None and not (q.source in TAKEN_WITH_A_TOOL and refused_state(q.state, GAP_STATES)) for q in found)
    return standing and not (safety and any(q.source is not None and not closes_safety(q.source) for q in found))


def pair_states(inputs: Inputs) -> list[PairState]:
    """Every pair with its limit, its movement and its doubt, the tightest first. Kept with the inputs."""
    if "pairs" not in inputs.memo:
        inputs.memo["pairs"] = _pair_states(inputs)
    found: list[PairState] = inputs.memo["pairs"]
    return found


def _pair_states(inputs: Inputs) -> list[PairState]:
    matrix = pose_of(inputs)
    pairs = [] if matrix is None else all_pairs(placed_solids(inputs))
    if matrix is None or not pairs:
        return []
    points, normals = np.array([p.on_engine for p in pairs]), np.array([p.apart for p in pairs])
    moved, squashed = movement_at(inputs, points), squash_at(inputs, points)
    towards = np.zeros(len(pairs)) if moved is None else np.maximum(np.einsum("cnj,nj->cn", moved, normals).max(axis=0), 0.0)
    settles = np.zeros(len(pairs)) if squashed is None else np.maximum(np.einsum("nj,nj->n", squashed, normals), 0.0)
    pose_slopes = -np.einsum("knj,nj->nk", _pose_slopes(inputs, points, matrix), normals)
    engine, chassis = [p.engine for p in pairs], [p.chassis for p in pairs]
    square = _pose_doubt(inputs, pose_slopes) + _size_doubt(inputs, engine, normals) + _size_doubt(inputs, chassis, normals)
    square = square + _place_doubt(inputs, engine, normals @ matrix[:3, :3]) + _place_doubt(inputs, chassis, normals)
    stiff = inputs.options.get("mount_type") == "stiff"
    counted = {(n, safety): _counts(inputs, (n,), safety) for n in {p.solid.n for p in (*engine, *chassis)} for safety in (False, True)}
    rules = {(a, b): class_rule(a, b, stiff) for a in {p.solid.class_ for p in engine} for b in {p.solid.class_ for p in chassis}}
    factor = inputs.rules["guard_band_factor"]
    found = []
    for pair, moves, sinks, slopes, u in zip(pairs, towards.tolist(), settles.tolist(), pose_slopes, np.sqrt(square).tolist(), strict=True):
        a, b = pair.engine.solid, pair.chassis.solid
        rule = rules[a.class_, b.class_]
        stands = counted[a.n, rule in SAFETY] and counted[b.n, rule in SAFETY]
        margin = pair.distance - needed(inputs.rules[rule], moves, sinks)
        found.append(PairState(pair, rule, moves, sinks, slopes, u, decide(margin, factor * u) if stands else Verdict.UNMEASURED))
    return sorted(found, key=lambda s: s.pair.distance - s.takes - inputs.rules[s.rule] - 2.0 * s.u)


def _name(placed: Placed) -> str:
    return placed.solid.name or f"{placed.solid.body} solid {placed.solid.n}"


def _pair_check(inputs: Inputs, state: PairState, turn: np.ndarray, floor_mm: float) -> Check:
    a, b = _name(state.pair.engine), _name(state.pair.chassis)
    parts = [words for words, mm in (("{moves_mm} the unit's movement", state.moves), ("{settles_mm} squash of its mounts", state.settles)) if mm >= 0.05]
    moves = f" (of it {' and '.join(parts)})" if parts else ""
    straight = _straight(inputs, state, turn)
    middle = (state.pair.on_engine + state.pair.on_chassis) / 2.0
    return Check(
        id=f"clear.pair.{state.id}",
        question="clear.pairs",
        title=f"{a} to {b}",
        value=gap,
        at_least=needed,
        says=f"{literal(a)} clears {literal(b)} by {{value}}; needs {{limit}}{moves}",
        fouls=f"{literal(a)} stands {{over}} into {literal(b)}",
        why=WHY[state.rule],
        caution=CAUTIONS.get(state.rule, ""),
        safety=state.rule in SAFETY,
        accepts=GAP_STATES,
        bind=MappingProxyType({"straight": straight, "class_mm": state.rule, "moves_mm": round(state.moves, 6), "settles_mm": round(state.settles, 6)}),
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
            yield _pair_check(inputs, state, matrix[:3, :3], floor)


def _check(id: str, title: str, value: Callable[..., Any], reads: tuple[str, ...], **rest: Any) -> Check:
    return Check(id=f"clear.{id}", question="clear.belt", title=title, value=value, reads=reads, **rest)


def pulleys_of(inputs: Inputs) -> tuple[belt.BeltPulley, ...]:
    """The pulleys of a build in belt order."""
    return tuple(belt.BeltPulley(p.n, p.name or f"pulley {p.n}", p.side, p.over) for p in inputs.build.pulleys)


def _run(pulleys: tuple[belt.BeltPulley, ...], read: Mapping[str, Any]) -> belt.Run:
    return once(read, pulleys, lambda: belt.run(pulleys, read))


@lru_cache(maxsize=64)
def _take_up_left(pulleys: tuple[belt.BeltPulley, ...]) -> Callable[..., Any]:
    def left(read: Mapping[str, Any], belt_length_mm: Any, belt_take_up_mm: Any) -> Any:
        return belt_take_up_mm - np.abs(_run(pulleys, read).length - belt_length_mm)

    return left


@lru_cache(maxsize=256)
def _wrap(pulleys: tuple[belt.BeltPulley, ...], i: int) -> Callable[..., Any]:
    def wrap(read: Mapping[str, Any]) -> Any:
        return _run(pulleys, read).wraps[i]

    return wrap


@lru_cache(maxsize=256)
def _offset(pulleys: tuple[belt.BeltPulley, ...], i: int) -> Callable[..., Any]:
    a, b = pulleys[i], pulleys[(i + 1) % len(pulleys)]

    def offset(read: Mapping[str, Any]) -> Any:
        return np.degrees(np.arctan(np.abs(read[f"pulleys.{b.n}.plane"] - read[f"pulleys.{a.n}.plane"]) / _run(pulleys, read).spans[i]))

    return offset


def belt_refusals(inputs: Inputs) -> list[str]:
    """Why the pulleys as they stand are no run; empty while a figure is missing or when they are one."""
    pulleys = pulleys_of(inputs)
    reads = belt.reads(pulleys)
    if len(pulleys) < 2 or any(inputs.value(a) is None for a in reads):
        return []
    return belt.refusals(pulleys, {a: float(inputs.quantities[a].value or 0.0) for a in reads})


def belt_checks(inputs: Inputs) -> Iterator[Check]:
    """Length, wraps, planes and ribs of the belt run."""
    pulleys = pulleys_of(inputs)
    if inputs.options.get("belt") != "yes" or len(pulleys) < 2:
        return
    reads = belt.reads(pulleys)
    if belt_refusals(inputs):
        return  # no length is told beside what cannot be a run
    yield _check("belt_length", "Belt length", _take_up_left(pulleys), reads, at_least=plain.zero,
                 says="Belt lies in the tensioner's range with {value} to spare", fouls="Belt misses the tensioner's range by {over}", why="A belt that cannot be tightened slips, one that is too short does not go on.")  # fmt: skip
    for i, p in enumerate(pulleys):
        limit: Any = "belt_wrap_min_deg" if p.side == "ribs" else plain.zero
        yield _check(f"belt_wrap.{p.n}", f"Wrap on {p.name}", _wrap(pulleys, i), reads, at_least=limit, kind="angle",
                     says=f"Belt wraps {literal(p.name)} by {{value}}; needs {{limit}}", fouls=f"Belt passes {literal(p.name)} without touching it", why="A belt with little wrap slips and squeals; an idler that it does not touch does nothing.")  # fmt: skip
        q = pulleys[(i + 1) % len(pulleys)]
        yield _check(f"belt_plane.{p.n}", f"Belt from {p.name} to {q.name}, plane", _offset(pulleys, i), (*reads, f"pulleys.{p.n}.plane", f"pulleys.{q.n}.plane"), at_most="belt_offset_max_deg", kind="angle",
                     says=f"Belt runs {{value}} off its plane from {literal(p.name)} to {literal(q.name)}; at most {{limit}}", why="Ribs climb and shred. A spacer under the pulley cures it.")  # fmt: skip
    for row in inputs.build.pulleys:
        if row.ribs and row.side == "ribs":
            yield _check(f"belt_ribs.{row.n}", f"Ribs of {row.name}", plain.given, (), bind=MappingProxyType({"x": f"pulleys.{row.n}.ribs"}), at_least=_ribs, kind="count",
                         says=f"{literal(row.name[:1].upper() + row.name[1:])} has {{value}} ribs; the belt has {{limit}}", why="A belt wider than its pulley overhangs and frays; a wider pulley leaves ribs free.")  # fmt: skip


def _ribs(belt_ribs: Any) -> Any:
    return belt_ribs


def checks(inputs: Inputs) -> Iterable[Check]:
    """All checks of the station."""
    yield from pair_checks(inputs)
    yield from own_gaps(inputs)
    yield from belt_checks(inputs)


GAP_RULES = {
    "metal to chassis": "clear_metal_soft_mm", "fan to shroud": "clear_fan_shroud_mm", "fan to core": "clear_fan_core_mm", "exhaust to line or wiring": "clear_exhaust_mm",
    "shielded exhaust to line or wiring": "clear_exhaust_shielded_mm", "belt to anything": "clear_belt_mm", "steering": "clear_steering_mm", "bonnet or sheet": "clear_sheet_mm", "shaft to tunnel": "clear_tunnel_mm",
}  # fmt: skip
"""The limit of the class table that a gap of the user's own is held to."""


def own_gaps(inputs: Inputs) -> Iterator[Check]:
    """Gaps that were read at a trial fit and belong to no pair of solids: a fit needs no model."""
    stiff = inputs.options.get("mount_type") == "stiff"
    moves = most_movement(inputs)
    for fit in inputs.build.fits:
        for i, gap_read in enumerate(fit.gaps):
            address = f"fits.{fit.n}.{i}"
            if gap_read.finding or gap_read.kind != "gap" or address not in inputs.quantities:
                continue
            rule = GAP_RULES[gap_read.class_]
            rule = "clear_metal_stiff_mm" if stiff and rule == "clear_metal_soft_mm" else rule
            name, where = gap_read.title or f"gap {i + 1}", fit.name or f"fit {fit.n}"
            yield Check(
                id=f"clear.read.{fit.n}.{i}",
                question="clear.pairs",
                title=name,
                value=plain.given,
                at_least=needed,
                says=f"{literal(name)} was read as {{value}} at {literal(where)}; needs {{limit}}" + (" (of it {moves_mm} the most that the unit moves anywhere)" if moves >= 0.05 else ""),
                why=WHY[rule],
                caution=CAUTIONS.get(rule, ""),
                safety=rule in SAFETY,
                accepts=GAP_STATES,
                bind=MappingProxyType({"x": address, "class_mm": rule, "moves_mm": round(moves, 6), "settles_mm": 0.0}),
            )


_SHAPE_FIELDS = {"a": "length or diameter", "b": "second size", "c": "third size", "hole": "hole", "back": "middle, behind", "left": "middle, left", "up": "middle, up"}


def _unplaced(inputs: Inputs) -> Iterator[Finding]:
    """Solids that cannot be placed: each with the figures that are wanting, and those that only wait for the pose as one."""
    placed = {p.solid.n for p in placed_solids(inputs)}
    why = "What is not placed is not looked at."
    waiting: dict[str, list[str]] = {}
    for s in inputs.build.solids:
        if s.n in placed:
            continue
        name = s.name or f"solid {s.n}"
        values = {f: inputs.value(f"solids.{s.n}.{f}") for f in ("back", "left", "up", *SIZES[s.shape])}
        wanting = [_SHAPE_FIELDS[f] for f, v in values.items() if v is None]
        wanting += [f"{_SHAPE_FIELDS[f]} above 0" for f in SIZES[s.shape] if (v := values[f]) is not None and v <= 0.0]
        if wanting:
            yield notice(
                f"clear.solid.{s.n}",
                "clear.pairs",
                f"{name}, place",
                Verdict.UNMEASURED,
                f"{name[0].upper()}{name[1:]} cannot be placed yet: {', '.join(wanting)} {'is' if len(wanting) == 1 else 'are'} wanting",
                why=why,
            )
        else:
            cause = "the pose is not known" if pose_of(inputs) is None else "the plate's thickness is not known"
            waiting.setdefault(cause, []).append(name)
    for cause, names in waiting.items():
        shown = ", ".join(names[:6]) + (f" and {len(names) - 6} more" if len(names) > 6 else "")
        yield notice(
            f"clear.unplaced.{'pose' if 'pose' in cause else 'plate'}", "clear.pairs", "Solids that wait for their place", Verdict.UNMEASURED, f"Not placed yet, because {cause}: {shown}", why=why
        )


def _flagged(inputs: Inputs) -> Iterator[Finding]:
    """Solids that a reading contradicts: the reading wins, and what was modelled is wrong somewhere."""
    states = {f"clear.pair.{s.id}": s for s in pair_states(inputs)}
    for fit in inputs.build.fits:
        for i, gap_read in enumerate(fit.gaps):
            state, read = states.get(gap_read.finding), inputs.quantities.get(f"fits.{fit.n}.{i}")
            if state is None or read is None or read.value is None or gap_read.kind != "gap":
                continue
            off, doubt = read.value - state.pair.distance, 2.0 * np.hypot(state.u, read.u)
            if abs(off) > doubt:
                a, b = _name(state.pair.engine), _name(state.pair.chassis)
                text = in_both("{at}: the model has {model}, it was read as {read}: place or size of one of them, or the pose, is wrong", f"{a} to {b}", model=state.pair.distance, read=read.value)
                yield notice(
                    f"clear.flagged.{state.id}.{fit.n}",
                    "clear.pairs",
                    f"{a} and {b}, as modelled",
                    Verdict.UNMEASURED,
                    text,
                    why="The reading stands in the verdicts of this pair; every other pair of these solids still rests on the model. Correct it before the next cut.",
                )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What cannot be placed, what turns the wrong way, what keeps the checks from being asked."""
    yield from _unplaced(inputs)
    yield from _flagged(inputs)
    bodies = {s.body == "chassis" for s in inputs.build.solids}
    if bodies != {False, True} and not any(g.measured for f in inputs.build.fits for g in f.gaps):
        yield notice(
            "clear.solids",
            "clear.pairs",
            "Solids",
            Verdict.UNMEASURED,
            "Solids: enter those of the unit and those of the chassis, and every pair of them is measured; or write down gaps as they are read at a trial fit",
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
    if refused := belt_refusals(inputs):
        yield notice(
            "clear.belt_run",
            "clear.belt",
            "Belt run",
            Verdict.FOULS,
            f"This is no belt run: {'; '.join(refused)}",
            why="No length or wrap is told beside pulleys that cannot be so. Look at order, side, place and diameter.",
        )
    unsaid = [p.name or f"pulley {p.n}" for p in inputs.build.pulleys if p.wants == "not said"]
    if unsaid:
        yield notice(
            "clear.belt_turn",
            "clear.belt",
            "Which way pulleys must turn",
            Verdict.UNMEASURED,
            f"Say which way it must turn, or that either will do: {', '.join(unsaid)}",
            why="A pump that runs backwards cools nothing.",
        )
    for p in inputs.build.pulleys:
        if p.wants in ("as the crank", "against the crank"):
            turns = "as the crank" if p.side == "ribs" else "against the crank"
            name = p.name or f"pulley {p.n}"
            right = turns == p.wants
            text = f"{name} turns {turns}" + ("" if right else f" and must turn {p.wants}")
            yield notice(
                f"clear.belt_turn.{p.n}",
                "clear.belt",
                f"Direction of {name}",
                Verdict.GOES if right else Verdict.FOULS,
                text[0].upper() + text[1:],
                why="A pump that runs backwards cools nothing. Bring the belt round its other side, or take the pump made for it.",
            )
