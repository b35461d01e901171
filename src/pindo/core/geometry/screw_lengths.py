"""Screws by hole: what each clamps, how long it may be, what it is cut from, and which is the odd
one out.
"""

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from pindo.core.document.faces import Face
from pindo.core.inputs.fasteners import ENGAGED, head, washer
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.plates import own_thickness
from pindo.core.inputs.threads import thread_words

STOCK = (
    12,
    16,
    20,
    25,
    30,
    35,
    40,
    45,
    50,
    55,
    60,
    65,
    70,
    75,
    80,
    90,
    100,
    110,
    120,
    130,
    140,
    150,
)
ODD_SHARE = 4
"""A length is odd that no more than one in so many screws of its thread has."""
STOCK_INCH = (
    0.5,
    0.625,
    0.75,
    0.875,
    1,
    1.25,
    1.5,
    1.75,
    2,
    2.25,
    2.5,
    2.75,
    3,
    3.5,
    4,
    4.5,
    5,
    5.5,
    6,
)


@dataclass(frozen=True, kw_only=True)
class Screw:
    """The screw of one hole: what it clamps, how long it may be, and what it is cut from. [mm]"""

    hole: str
    d: float
    what: str
    grip: float | None
    least: float | None
    most: float | None
    """Longer ones bottom before they clamp; None where nothing stops them, or while the depth is
    not known.
    """
    stock: float | None
    washer: float
    """Washers that take up what the stock length has too much over one pitch of spare."""
    note: str


@dataclass(frozen=True)
class _Clamp:
    """What a screw clamps and where its thread ends. [mm]"""

    hole: str
    d: float
    pitch: float | None
    fastening: str
    grip: float | None
    material: str
    depth: float | None
    through: bool
    wanting: tuple[str, ...]


def _flange(inputs: Inputs, side: str, n: int) -> float | None:
    return inputs.value(f"{side}.{n}.flange")


def _clamps(inputs: Inputs) -> Iterator[_Clamp]:
    """Every screw of both faces: through the plate into the block, through the gearbox's flange
    into plate, nut or block.
    """
    shield, plated = inputs.value("separator_mm"), inputs.value("plate_mm") != 0.0
    engine, gearbox = inputs.build.engine_face, inputs.build.gearbox_face
    material = inputs.options.get("plate_material", "")
    for side, face in (("engine", engine), ("gearbox", gearbox)):
        plate = own_thickness(inputs, side)
        for hole in face.holes:
            d = inputs.value(f"{side}.{hole.n}.d")
            if hole.role == "dowel" or not d:
                continue
            label = f"{'E' if side == 'engine' else 'G'}{hole.n}"
            pitch = inputs.value(f"{side}.{hole.n}.pitch")
            recess, flange = (
                inputs.value(f"{side}.{hole.n}.recess") or 0.0,
                _flange(inputs, side, hole.n),
            )
            if side == "engine" and plated:
                grip = None if plate is None else plate + (shield or 0.0) - recess
                depth = inputs.value(f"engine.{hole.n}.depth")
                wanting = _wanting(
                    ("plate thickness", plate),
                    ("dust shield", shield),
                    ("block's material", engine.material),
                    ("depth of thread", depth),
                )
                yield _Clamp(
                    label,
                    d,
                    pitch,
                    hole.fastening or "",
                    grip,
                    engine.material,
                    depth,
                    False,
                    wanting,
                )
            elif side == "gearbox" and plated and hole.fastening == "tapped":
                depth = inputs.value(f"gearbox.{hole.n}.depth")
                wanting = _wanting(
                    ("gearbox's flange", flange),
                    ("plate thickness", plate),
                    ("plate's material", material),
                )
                yield _Clamp(
                    label,
                    d,
                    pitch,
                    "hex head",
                    flange,
                    material,
                    depth if depth is not None else plate,
                    depth is None,
                    wanting,
                )
            elif side == "gearbox" and plated and hole.fastening == "nut":
                grip = None if flange is None or plate is None else flange + plate - recess
                yield _Clamp(
                    label,
                    d,
                    pitch,
                    "nut",
                    grip,
                    "steel",
                    None,
                    True,
                    _wanting(("gearbox's flange", flange), ("plate thickness", plate)),
                )
            elif side == "gearbox" and not plated:
                near = _nearest(inputs, engine, hole.n)
                depth = None if near is None else inputs.value(f"engine.{near}.depth")
                grip = None if flange is None else flange + (shield or 0.0)
                wanting = _wanting(
                    ("gearbox's flange", flange),
                    ("dust shield", shield),
                    ("block's material", engine.material),
                    (f"depth of thread E{near}" if near else "engine's hole", depth),
                )
                yield _Clamp(
                    label,
                    d,
                    pitch,
                    hole.fastening or "hex head",
                    grip,
                    engine.material,
                    depth,
                    False,
                    wanting,
                )


def _wanting(*things: tuple[str, Any]) -> tuple[str, ...]:
    return tuple(words for words, value in things if value is None or value == "")


def _nearest(inputs: Inputs, engine: Face, n: int) -> int | None:
    """The engine's hole that lies under one of the gearbox, where both faces meet directly."""
    u, v = inputs.value(f"gearbox.{n}.u"), inputs.value(f"gearbox.{n}.v")
    known = [
        (h.n, x, y)
        for h in engine.holes
        if h.role == "bolt"
        and (x := inputs.value(f"engine.{h.n}.u")) is not None
        and (y := inputs.value(f"engine.{h.n}.v")) is not None
    ]
    if u is None or v is None or not known:
        return None
    return min(known, key=lambda row: math.hypot(row[1] - u, row[2] - v))[0]


def screws(inputs: Inputs) -> list[Screw]:
    """One line a screw of both faces. [mm]

    Least length = grip + engagement by the material that holds its thread; greatest = grip + full
    thread - P, so that it never bottoms.
    """
    return [_screw(inputs, c) for c in _clamps(inputs)]


def _screw(inputs: Inputs, c: _Clamp) -> Screw:
    what = f"{thread_words(c.d, c.pitch)} {c.fastening or 'screw'}"
    if c.grip is None or c.material not in ENGAGED:
        return Screw(
            hole=c.hole,
            d=c.d,
            what=what,
            grip=c.grip,
            least=None,
            most=None,
            stock=None,
            washer=0.0,
            note=f"not told: {', '.join(c.wanting)}",
        )
    size = head("nut" if c.fastening == "nut" else c.fastening, c.d)
    # A countersunk screw is measured over its head; the others from under it.
    over_head = size.height if c.fastening == "countersunk" and size else 0.0
    nut = size.height if c.fastening == "nut" and size else None
    engaged = (
        (nut + (c.pitch or 0.0) * 2.0)
        if nut is not None
        else inputs.rules[ENGAGED[c.material]] * c.d
    )
    least = c.grip + over_head + engaged
    most = (
        None
        if c.through or c.depth is None
        else c.grip + over_head + c.depth - (c.pitch or 0.15 * c.d)
    )
    metric = abs(c.d - round(c.d * 2) / 2) < 0.02
    lengths = [float(s) for s in STOCK] if metric else [25.4 * s for s in STOCK_INCH]
    stock = next(
        (s for s in lengths if s >= least - 1e-9 and (most is None or s <= most + 1e-9)), None
    )
    longer = next((s for s in lengths if s >= least - 1e-9), None)
    spare = 0.0 if stock is None else stock - least
    notes = [f"not told: {', '.join(c.wanting)}"] if c.wanting else []
    if most is not None and least > most:
        notes.append(f"the hole is {least - most:.1f} mm too shallow for its thread")
    elif stock is None and longer is not None and most is not None:
        notes.append(
            f"no stock length fits: {longer:g} mm bottoms by {longer - most:.1f} mm; washers, or"
            " cut one"
        )
    elif stock is None:
        notes.append("longer than any stock length")
    flat = washer(c.d)
    take_up = (
        0.0
        if c.fastening == "countersunk" or flat is None or spare < flat[1] + 0.5
        else round(spare, 1)
    )
    return Screw(
        hole=c.hole,
        d=c.d,
        what=what,
        grip=c.grip,
        least=least,
        most=most,
        stock=stock if c.through or c.depth is not None else None,
        washer=take_up,
        note="; ".join(notes),
    )


def odd_ones(found: Sequence[Screw]) -> dict[str, float]:
    """Screws of another length than most of their kind, by hole: the one that is taken for the
    others and bottoms, or holds by two threads. [mm]
    """
    kinds: dict[float, list[Screw]] = {}
    for x in found:
        if x.stock is not None:
            kinds.setdefault(x.d, []).append(x)
    odd: dict[str, float] = {}
    for own in kinds.values():
        times = Counter(x.stock for x in own)
        rare = {stock for stock, count in times.items() if ODD_SHARE * count <= len(own)}
        odd |= {x.hole: x.stock for x in own if x.stock is not None and x.stock in rare}
    return odd
