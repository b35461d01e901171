"""The checks of the Mate station, worst first: what stops the plate from being made or bolted on."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import partial
from types import MappingProxyType
from typing import Any

import numpy as np
import shapely

from pindo.core import plain
from pindo.core.check import Check
from pindo.core.mate import geometry
from pindo.core.mate.fasteners import Head, clearance_hole, head
from pindo.core.mate.pattern import SIDES, Lands, PlacedHole, PlacedLand, all_lands, coincide, dowel_places, face_of, one_dowel, placed_holes, plate_hole, pocket_turn, turn_of
from pindo.core.mate.plate import outline, pocket
from pindo.core.notice import notice
from pindo.core.resolve import Inputs
from pindo.core.threads import thread_words
from pindo.core.verdict import Finding, Verdict
from pindo.core.words import literal

FACE_STATES = MappingProxyType({"gearbox": frozenset({"off"})})
MOST_OF_ONE_KIND = 8  # findings of one kind; the rest follow when these are cured
JOINT = "A plate is cut once. Drill the locating holes first, offer it up, then cut the rest."
WIDEST_LAND = 3.0  # a land nobody measured may be as wide as this many of its hole's diameters
SURE = 1.5  # a candidate within this many of its doubts is evaluated in full
TEARS = "A hole too near an edge tears out."
GEOMETRY_KEYS = ("clocking_deg", "window_mm", "outline_margin_mm", "pocket_mm")
"""Dimensions that decide which holes are near enough to anything to be asked about."""
OTHER_SIDE = MappingProxyType({"engine": "gearbox", "gearbox": "engine"})

Bind = dict[str, str | float | tuple[str, ...]]


def _check(question: str, id: str, title: str, value: Callable[..., Any], bind: Bind | None = None, **rest: Any) -> Check:
    rest.setdefault("accepts", FACE_STATES)
    return Check(id=f"mate.{id}", question=f"mate.{question}", title=title, value=value, bind=MappingProxyType(bind or {}), **rest)


def _place(i: int, h: PlacedHole) -> Bind:
    return {f"u{i}_mm": h.address("u"), f"v{i}_mm": h.address("v"), f"turn{i}_deg": turn_of(h.side)}


def _pair(a: PlacedHole, b: PlacedHole) -> Bind:
    """Binding of two holes; two holes of the gearbox turn together, so their clocking drops out."""
    bind = _place(1, a) | _place(2, b)
    if a.side == b.side:
        bind |= {"turn1_deg": 0.0, "turn2_deg": 0.0}
    return bind


@dataclass(frozen=True)
class _Candidate:
    """A check that may have to be asked: its margin and doubt now, and how to make it."""

    margin: float
    doubt: float
    make: Callable[[], Check]


def _worst(candidates: Iterable[_Candidate]) -> Iterator[Check]:
    """All that may not go, worst first, and always the tightest one."""
    ordered = sorted(candidates, key=lambda c: c.margin)
    chosen = [c for c in ordered if c.margin <= c.doubt][:MOST_OF_ONE_KIND] or ordered[:1]
    for candidate in chosen:
        yield candidate.make()


def _overlap(a: PlacedHole, b: PlacedHole) -> Check:
    name = f"{a.label} and {b.label}"
    return _check(
        "plate", f"overlap.{a.label}-{b.label}", f"Holes {name} overlap", geometry.ligament, _pair(a, b) | {"d1_mm": a.plate_d, "d2_mm": b.plate_d}, at_least="ligament_min_mm", caution=JOINT,
        says=f"Holes {name} leave {{value}} of metal between them; need {{limit}}", fouls=f"Holes {name} run {{over}} into each other",
        why="The drill breaks through and neither screw holds. Turn the gearbox, or leave one hole out if the castings allow it.",
    )  # fmt: skip


def _spacing(a: PlacedHole, b: PlacedHole) -> Check:
    name = f"{a.label} and {b.label}"
    return _check(
        "plate", f"spacing.{a.label}-{b.label}", f"Spacing of {name}", geometry.centre_distance, _pair(a, b) | {"d0_mm": max(a.plate_d, b.plate_d)}, at_least=geometry.spacing_wanted,
        says=f"Holes {name} are {{value}} apart; need {{limit}}", why="The metal between two holes has to carry both screws.",
    )  # fmt: skip


def spacing_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Spacing and overlap of every two holes of the plate, engine's and gearbox's together."""
    if len(holes) < 2:
        return
    at = np.array([(h.u, h.v, h.plate_d, h.pm) for h in holes])
    i, j = np.triu_indices(len(holes), k=1)
    apart = np.hypot(at[i, 0] - at[j, 0], at[i, 1] - at[j, 1])
    doubt = SURE * np.hypot(at[i, 3], at[j, 3])
    margin = apart - inputs.rules["hole_spacing_factor"] * np.maximum(at[i, 2], at[j, 2])
    metal = apart - (at[i, 2] + at[j, 2]) / 2.0 - inputs.rules["ligament_min_mm"]
    overlaps, spacings = [], []
    for k in np.argsort(margin)[: 4 * MOST_OF_ONE_KIND]:
        a, b = holes[i[k]], holes[j[k]]
        if coincide(a, b) or one_dowel(a, b):
            continue
        if metal[k] <= doubt[k]:
            overlaps.append(_Candidate(metal[k], doubt[k], partial(_overlap, a, b)))
        else:
            spacings.append(_Candidate(margin[k], doubt[k], partial(_spacing, a, b)))
    yield from _worst(overlaps)
    yield from _worst(spacings)


def _edge(h: PlacedHole, e: float, margin: float) -> Check:
    return _check(
        "plate", f"edge.{h.label}", f"Edge distance of {h.label}", geometry.edge_distance, {"base_mm": e - margin, "d0_mm": h.plate_d}, at_least=geometry.edge_wanted,
        says=f"Hole {h.label} stands {{value}} from the plate's edge; needs {{limit}}", fouls=f"Hole {h.label} lies {{over}} outside the plate", why=TEARS,
    )  # fmt: skip


def _window(h: PlacedHole) -> Check:
    return _check(
        "plate", f"window.{h.label}", f"Window at hole {h.label}", geometry.window_distance, {"u1_mm": h.address("u"), "v1_mm": h.address("v"), "d0_mm": h.plate_d}, at_least=geometry.edge_wanted,
        says=f"Hole {h.label} stands {{value}} from the window's edge; needs {{limit}}", fouls=f"Window swallows hole {h.label} by {{over}}", why=TEARS, caution=JOINT,
    )  # fmt: skip


def _pocket(h: PlacedHole, turn: str | float) -> Check:
    return _check(
        "plate", f"pocket.{h.label}", f"Starter pocket at hole {h.label}", geometry.pocket_distance, _place(1, h) | {"d0_mm": h.plate_d, "turn2_deg": turn}, at_least=geometry.edge_wanted,
        says=f"Hole {h.label} stands {{value}} from the starter pocket; needs {{limit}}", fouls=f"Starter pocket swallows hole {h.label} by {{over}}", why=TEARS, caution=JOINT,
    )  # fmt: skip


def edge_checks(inputs: Inputs, holes: list[PlacedHole], lands: Lands) -> Iterator[Check]:
    """Edge distance of each hole towards the outline, the window and the starter pocket."""
    if not holes:
        return
    at = np.array([(h.u, h.v) for h in holes])
    wanted = inputs.rules["edge_factor"] * np.array([h.plate_d for h in holes])
    doubt = SURE * np.array([h.pm for h in holes])
    shape, margin = outline(inputs, holes, lands), inputs.value("outline_margin_mm")
    if shape is not None and margin is not None:
        points = shapely.points(at)
        e = shapely.distance(shape.exterior, points) * np.where(shapely.contains(shape, points), 1.0, -1.0)
        yield from _worst(_Candidate(e[k] - wanted[k], SURE * inputs.quantities["outline_margin_mm"].pm, partial(_edge, h, float(e[k]), margin)) for k, h in enumerate(holes))
    if diameter := inputs.value("window_mm"):
        room = np.hypot(at[:, 0], at[:, 1]) - diameter / 2 - wanted
        yield from _worst(_Candidate(room[k], doubt[k], partial(_window, h)) for k, h in enumerate(holes))
    if (opening := pocket(inputs)) is not None:
        room = np.hypot(at[:, 0] - opening.u, at[:, 1] - opening.v) - opening.d / 2 - wanted
        yield from _worst(_Candidate(room[k], doubt[k], partial(_pocket, h, pocket_turn(inputs))) for k, h in enumerate(holes))


def _thing(h: PlacedHole) -> str:
    return f"{'Nut' if h.hole.fastening == 'nut' else 'Head'} of {h.label}"


def _head_side(h: PlacedHole, size: Head, land: PlacedLand, sunk: float) -> Check:
    bind: Bind = {"u2_mm": f"{land.prefix}.u", "v2_mm": f"{land.prefix}.v", "land_mm": f"{land.prefix}.{land.size_field}", "turn2_deg": turn_of(land.side)}
    lies = f"{_thing(h)} ({h.hole.fastening}) " + ("stands {proud_mm} proud" if sunk < 0 else "lies nearly flush")
    return _check(
        "screws", f"head_side.{h.label}", f"{_thing(h)} beside the {OTHER_SIDE[h.side]}", geometry.head_beside_land, _place(1, h) | bind | {"head_circle_mm": size.circle, "proud_mm": -sunk}, at_least="head_side_gap_mm", caution=JOINT,
        says=f"{lies}, {{value}} beside the {literal(land.name)}; needs {{limit}}", fouls=f"{lies} and {{over}} under the {literal(land.name)}",
        why="A head under the other casting holds the faces apart; it is seen upside down and late.",
    )  # fmt: skip


def _head_sunk(h: PlacedHole, size: Head) -> Check:
    return _check(
        "screws", f"head_sunk.{h.label}", f"{_thing(h)} below the face", geometry.head_sunk, {"recess_mm": h.address("recess"), "head_height_mm": size.height}, at_least="head_sunk_min_mm", caution=JOINT,
        says=f"{_thing(h)} lies {{value}} below the face; needs {{limit}}", fouls=f"{_thing(h)} stands {{over}} proud of the face", why="A proud head holds the faces apart by as much as it stands out.",
    )  # fmt: skip


def _floor(h: PlacedHole) -> Check:
    return _check(
        "plate", f"recess.{h.label}", f"Plate under the recess of {h.label}", geometry.recess_floor, {"recess_mm": h.address("recess"), "factor": "recess_floor_factor", "d_mm": h.d}, at_least=geometry.times_diameter,
        says=f"Plate has {{value}} left under the recess of {h.label}; needs {{limit}}", fouls=f"Recess of {h.label} goes {{over}} through the plate", why="The head pulls through a thin floor.",
    )  # fmt: skip


def _unknown_lands(inputs: Inputs, h: PlacedHole, size: Head, holes: list[PlacedHole]) -> list[str]:
    """Holes of the other casting whose land nobody measured and that a head might lie under."""
    reach = inputs.rules["head_side_gap_mm"] + size.circle / 2
    other = [x for x in holes if x.side != h.side and inputs.value(x.address("land")) is None]
    return [x.label for x in other if float(np.hypot(x.u - h.u, x.v - h.v)) < reach + WIDEST_LAND * x.d / 2]


def head_checks(inputs: Inputs, holes: list[PlacedHole], lands: Lands) -> Iterator[Check]:
    """Heads and nuts: below the face, or beside the other casting; and the plate left under a recess.

    A head that lies safely below the face may pass under the other casting; one that does not must stand
    beside it. A head whose recess is entered but too shallow is held to the face where metal lies over it.
    """
    beside, sunk_rows, floors = [], [], []
    thickness, rules = inputs.value("plate_mm"), inputs.rules
    circles = {side: np.array([(x.u, x.v, x.d) for x in lands[side]]).reshape(-1, 3) for side in SIDES}
    for h in holes:
        size = head(h.hole.fastening or "", h.d)
        if h.hole.role == "dowel" or size is None:
            continue
        recess, doubt = inputs.value(h.address("recess")), 0.0
        if recess is not None:
            doubt = SURE * inputs.quantities[h.address("recess")].pm
        sunk = (recess or 0.0) - size.height
        other = circles[OTHER_SIDE[h.side]]
        gaps = np.hypot(other[:, 0] - h.u, other[:, 1] - h.v) - (size.circle + other[:, 2]) / 2
        gap, near = (float(gaps.min()), lands[OTHER_SIDE[h.side]][int(gaps.argmin())]) if gaps.size else (np.inf, None)
        if recess is not None and (sunk >= rules["head_sunk_min_mm"] or gap < rules["head_side_gap_mm"]):
            sunk_rows.append(_Candidate(sunk - rules["head_sunk_min_mm"], doubt, partial(_head_sunk, h, size)))
        elif near is not None and not _unknown_lands(inputs, h, size, holes):
            beside.append(_Candidate(gap - rules["head_side_gap_mm"], SURE * h.pm + 1.0, partial(_head_side, h, size, near, sunk)))
        if recess is not None and thickness is not None:
            floors.append(_Candidate(thickness - recess - rules["recess_floor_factor"] * h.d, doubt, partial(_floor, h)))
    yield from _worst(beside)
    yield from _worst(sunk_rows)
    yield from _worst(floors)


def _play(h: PlacedHole, u: float, v: float) -> Check:
    return _check(
        "screws", f"play.{h.label}", f"Play of the screw at {h.label}", geometry.off_place, {"u_mm": h.address("u"), "v_mm": h.address("v"), "u0_mm": u, "v0_mm": v, "plate_hole_mm": h.plate_d, "d_mm": h.d}, at_most=geometry.place_play,
        says=f"Screw {h.label} may stand {{value}} off its place; its hole leaves {{limit}} of play",
        why="A bolt passes into its thread when the centres differ by no more than half the clearance. Take the pattern again with a better tool, or drill larger: holes do not centre a plate.",
    )  # fmt: skip


def thread_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Thread engagement in the plate, and the play that each clearance hole leaves for its doubt of place."""
    material = inputs.options.get("plate_material", "steel")
    rule = "thread_aluminium_factor" if material == "aluminium" else "thread_steel_factor"
    tapped = [h for h in holes if h.hole.fastening == "tapped" and h.hole.role == "bolt"]
    thickness = inputs.value("plate_mm") or 0.0

    def room(h: PlacedHole) -> float:
        return min(thickness, inputs.value(h.address("depth")) or thickness) - inputs.rules[rule] * h.d

    if tapped:
        h = min(tapped, key=room)
        deep: Bind = {"depth_mm": h.address("depth")} if inputs.value(h.address("depth")) is not None else {}
        value = geometry.thread_in_plate if deep else plain.given
        yield _check(
            "plate", "thread", "Thread engagement in the plate", value, Bind({"x": "plate_mm", "factor": rule, "d_mm": h.d}) | deep, at_least=geometry.times_diameter, caution="Screening only, not an approval of the joint.",
            says=f"{thread_words(h.d, h.pitch)} at {h.label} has {{value}} of thread in the plate ({material}); needs {{limit}}", why="The screw should break before the thread strips, and the softer metal strips first.",
        )  # fmt: skip
    screwed = [h for h in holes if h.hole.role == "bolt" and h.hole.fastening != "tapped"]
    yield from _worst(_Candidate((h.plate_d - h.d) / 2 - h.pm, 0.0, partial(_play, h, *_as_taken(inputs, h))) for h in screwed)


def _as_taken(inputs: Inputs, h: PlacedHole) -> tuple[float, float]:
    return inputs.value(h.address("u")) or 0.0, inputs.value(h.address("v")) or 0.0


LOCATED = MappingProxyType({"engine": "engine_joint", "gearbox": "gearbox_joint"})


def dowel_checks(inputs: Inputs) -> Iterator[Check]:
    """Exactly one pin at each dowel place over both castings and the plate, short of its hole's bottom; two places at least in each joint."""
    why = "Two pins in one place keep the faces apart; none leaves the joint floating by the play of its bolts. Holes do not centre anything."
    plated = inputs.value("plate_mm") != 0.0
    for side in SIDES:
        face, mark = face_of(inputs, side), side[0].upper()
        dowels = [h for h in face.holes if h.role == "dowel"]
        if dowels and inputs.options.get(LOCATED[side]) != "register":
            yield _check(
                "dowels", f"dowel_places.{side}", f"Dowel places, {side} to plate", plain.given, {"x": float(len(dowels))}, at_least=plain.two, kind="count",
                says=f"Dowel places between {side} and plate: {{value}}; needs {{limit}}", why=why,
            )  # fmt: skip
        for hole in dowels:
            if hole.stand_out or hole.mating_depth:
                yield _check(
                    "dowels", f"dowel_bottom.{mark}{hole.n}", f"Dowel {mark}{hole.n} in its hole", plain.difference,
                    {"a": f"{side}.{hole.n}.mating_depth", "b": f"{side}.{hole.n}.stand_out"}, at_least="dowel_bottom_gap_mm",
                    says=f"Dowel {mark}{hole.n} ends {{value}} short of its hole's bottom; needs {{limit}}", fouls=f"Dowel {mark}{hole.n} is {{over}} longer than its hole", why="A pin that bottoms holds the faces apart.",
                )  # fmt: skip
    for place in dowel_places(inputs):
        name = "-".join(f"{side[0].upper()}{n}" for side, n in place)
        castings = tuple(f"{side}.{n}.pin_in_casting" for side, n in place)
        in_plate = tuple(f"{side}.{n}.pin_in_plate" for side, n in place) if plated else ()
        yield _check(
            "dowels", f"dowel_pins.{name}", f"Pins at dowel {name.replace('-', ' and ')}", geometry.pins, {"castings": castings, "in_plate": in_plate}, reads=(*castings, *in_plate), at_least=plain.one, at_most=plain.one, kind="count",
            says=f"Pins at dowel place {name.replace('-', ' and ')}: {{value}}; needs exactly {{limit}}", why=why, caution="A ground or burred pin counts as missing until it is gauged.",
        )  # fmt: skip


def direct_checks(holes: list[PlacedHole]) -> Iterator[Check]:
    """Faces that meet without a plate: every screw of the gearbox finds its thread in the engine."""
    engine = [h for h in holes if h.side == "engine" and h.hole.role == "bolt"]
    for g in holes:
        if g.side != "gearbox" or g.hole.role != "bolt" or not engine:
            continue
        e = min(engine, key=lambda x: float(np.hypot(x.u - g.u, x.v - g.v)))
        hole = max(g.plate_d, clearance_hole(e.d) or 0.0)
        yield _check(
            "screws", f"direct.{g.label}", f"Screw at {g.label} without a plate", geometry.direct_play, _pair(e, g) | {"hole_mm": hole, "d_mm": e.address("d")}, at_least=plain.zero,
            says=f"Screw {g.label} finds thread {e.label} with {{value}} of play left", fouls=f"Screw {g.label} misses the nearest thread {e.label} by {{over}}", why="Without a plate each hole must meet its thread.",
        )  # fmt: skip


RUNOUT = (
    _check("runout", "bore_tir", "Runout of the bell's bore", plain.given, {"x": "bore_tir_mm"}, at_most="bore_tir_max_mm", accepts=MappingProxyType({"position": frozenset({"bench", "stand", "resting loaded"})}),
        says="Bell's bore runs out {value}, full swing; at most {limit}", why="The gearbox's shaft has to be on the crank's axis: half the swing is its offset. It wears the pilot and drags the clutch."),
    _check("runout", "face_tir", "Runout of the bell's face", plain.given, {"x": "face_tir_mm"}, at_most="face_tir_max_mm", accepts=MappingProxyType({"position": frozenset({"bench", "stand", "resting loaded"})}),
        says="Bell's face runs out {value}, full swing; at most {limit}", why="A tilted gearbox bends its shaft once a turn."),
)  # fmt: skip


def incomplete_checks(inputs: Inputs) -> Iterator[Check]:
    """Faces without holes, and holes and lands without place or diameter."""
    for side in SIDES:
        face = face_of(inputs, side)
        if not face.holes:
            yield _check(
                "pattern",
                f"pattern.{side}",
                f"{side.capitalize()} hole pattern",
                plain.given,
                {"x": f"{side} holes"},
                at_least=plain.zero,
                says="",
                why="Without the pattern nothing can be said of the faces.",
            )
        things = [f"{side}.{h.n}" for h in face.holes] + [f"{side}.land{land.n}" for land in face.lands]
        gone = tuple(a for thing in things for f in ("u", "v", "d") if inputs.quantities[a := f"{thing}.{f}"].value is None)
        if gone:
            yield _check(
                "pattern", f"holes.{side}", f"{side.capitalize()} holes and lands without place or size", plain.read_all, reads=gone, at_least=plain.zero, says="",
                why="It is left out of every other check until it has a place and a size.",
            )  # fmt: skip


def clocked_checks(inputs: Inputs) -> Iterator[Check]:
    """The checks whose geometry follows the clocking, the plate and its openings."""
    holes = placed_holes(inputs)
    if inputs.value("plate_mm") == 0.0:
        yield from direct_checks(holes)
        return
    yield from spacing_checks(inputs, holes)
    lands = all_lands(inputs)
    yield from edge_checks(inputs, holes, lands)
    yield from head_checks(inputs, holes, lands)
    yield from thread_checks(inputs, holes)


def pocket_checks(inputs: Inputs) -> Iterator[Check]:
    """The opening for the starter against the starter's own body."""
    if inputs.value("pocket_mm"):
        yield _check(
            "starter", "pocket_body", "Starter through its pocket", geometry.pocket_room, at_least="starter_window_gap_mm",
            says="Starter has {value} of room all round in its pocket; needs {limit}", fouls="Starter is {over} too large for its pocket all round", why="The body and its bolts have to pass, not the pinion alone; the window is cut once.",
        )  # fmt: skip


def checks(inputs: Inputs) -> Iterable[Check]:
    """All checks of the station."""
    yield from incomplete_checks(inputs)
    yield from clocked_checks(inputs)
    yield from pocket_checks(inputs)
    yield from dowel_checks(inputs)
    yield from RUNOUT


def _named(labels: Iterable[str]) -> str:
    return ", ".join(labels)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What one cause explains, with its holes: what stands behind them, what no table and nobody tells of their screws, what locates the joints."""
    yield from _backing(inputs)
    holes = placed_holes(inputs)
    plated = inputs.value("plate_mm") != 0.0
    for side in SIDES if plated else ():
        bolts = [h for h in face_of(inputs, side).holes if h.role == "bolt"]
        mark = side[0].upper()
        sized = [(h, d) for h in bolts if (d := inputs.value(f"{side}.{h.n}.d"))]
        asked = (
            ("unsaid", "fastening is not said", [h for h, _ in sized if h.fastening is None], "A head, a nut or a thread decides what the plate gets there."),
            (
                "plate_hole",
                "no clearance hole in the table: type the hole in the plate",
                [h for h, d in sized if h.fastening != "tapped" and plate_hole(inputs, side, h, d) is None],
                "What the table lacks is not guessed.",
            ),
            (
                "head",
                "head not in the table: it is held to nothing",
                [h for h, d in sized if h.fastening not in (None, "tapped") and head(h.fastening or "", d) is None],
                "Its height and circle have to be measured and looked at by hand.",
            ),
            (
                "pitch",
                "pitch not told: drawing and table show the thread, not its drill",
                [h for h, _ in sized if h.fastening == "tapped" and inputs.value(f"{side}.{h.n}.pitch") is None],
                "A hole drilled at the thread's diameter holds no thread. Type its name, M10 x 1.5 or 3/8-16, or its pitch.",
            ),
        )
        for key, words, found, why in asked:
            if found:
                labels = _named(f"{mark}{h.n}" for h in found)
                yield notice(f"mate.{key}.{side}", "mate.screws", f"{side.capitalize()} screws: {words.partition(':')[0]}", Verdict.UNMEASURED, f"{labels}: {words}", why=why)
        proud = [(h, size) for h in holes if h.side == side and (size := _proud_head(inputs, h))]
        near = {label for h, size in proud for label in _unknown_lands(inputs, h, size, holes)}
        bare = bool(proud) and not any(x.side != side for x in holes) and not all_lands(inputs)[OTHER_SIDE[side]]
        if near or bare:
            what = f"lands of {_named(sorted(near, key=lambda x: int(x[1:])))} are not measured" if near else f"nothing of the {OTHER_SIDE[side]}'s face is known"
            heads = _named(h.label for h, _ in proud)
            yield notice(
                f"mate.lands.{side}",
                "mate.screws",
                f"Heads under the {OTHER_SIDE[side]}",
                Verdict.UNMEASURED,
                f"Heads of {heads} may lie under the {OTHER_SIDE[side]}: {what}",
                why="A head under the other casting holds the faces apart; it is seen upside down and late.",
            )
        if bolts and not any(h.role == "dowel" for h in face_of(inputs, side).holes) and inputs.options.get(LOCATED[side]) != "register":
            yield notice(
                f"mate.dowels.{side}", "mate.dowels", f"What locates {side} and plate", Verdict.UNMEASURED, f"No dowels of the {side} are entered: enter them, or say that a register locates it",
                why="Bolts clamp and centre nothing: each joint names its locator, or it floats until it is dialled.",
            )  # fmt: skip


def _proud_head(inputs: Inputs, h: PlacedHole) -> Head | None:
    """The head of a screw that does not lie safely below the plate's face."""
    size = head(h.hole.fastening or "", h.d)
    if size is None or h.hole.role == "dowel":
        return None
    return size if (inputs.value(h.address("recess")) or 0.0) - size.height < inputs.rules["head_sunk_min_mm"] else None


def _backing(inputs: Inputs) -> Iterator[Finding]:
    """What stands behind the screw holes of the engine."""
    bolts = [h for h in inputs.build.engine_face.holes if h.role == "bolt"]
    caution = "Never drill towards an unknown wall."
    why = "A screw into oil or water leaks, one into air holds nothing, and a drill goes through."
    if unknown := [h for h in bolts if h.backing == "unknown"]:
        yield notice(
            "mate.backing_unknown",
            "mate.screws",
            "What stands behind the engine's holes",
            Verdict.UNMEASURED,
            f"Behind {_named(f'E{h.n}' for h in unknown)} nobody has said what there is",
            why=why,
            caution=caution,
        )
    if wrong := [h for h in bolts if h.backing not in ("unknown", "metal")]:
        yield notice(
            "mate.backing",
            "mate.screws",
            "Metal behind the engine's holes",
            Verdict.FOULS,
            "Not metal behind the holes: " + _named(f"{h.backing} behind E{h.n}" for h in wrong),
            why=why,
            caution=caution,
        )
