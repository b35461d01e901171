"""The plate as it was made: which distances prove it, where its holes stand by those that were
read, and what the error does to dowels and crank line.

The made holes are adjusted from their distances with the drawing as a weak witness
(:data:`DRAWN_PM`), then laid on the drawing by what locates the plate on the engine: its dowel
holes, or all its holes where a register does.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from pindo.core.geometry.network.adjust import Adjusted, adjust
from pindo.core.geometry.network.readings import Distance, Fixed, NetworkError, Offset, Reading
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved
from pindo.core.stations.mate.outline import DrillRow, plate_of

HELD_BY = 3
"""Check distances that every hole has at least."""
DRAWN_PM = 2.0
"""± of a drawn place that nothing was read of: the plate was made to it, more or less. [mm]"""
MADE_PM = 0.1
"""± of a drilled diameter, where edges were read. [mm]"""
EDGES: Mapping[str, float] = {"centres": 0.0, "outside edges": -0.5, "inside edges": 0.5}
"""What both diameters add to a reading to give the distance of the centres."""
STEP = 1e-4


@dataclass(frozen=True, kw_only=True)
class CheckDistance:
    """A distance to prove the plate by: between centres and over the edges of both holes. [mm]"""

    a: str
    b: str
    centres: float
    outside: float
    inside: float


def check_distances(rows: Sequence[DrillRow]) -> list[CheckDistance]:
    """Distances between holes so that every one is held by three to holes that are held before it,
    from directions that tell both its coordinates. The two that are drilled first begin; the next
    is always the one that stands best to those that are held.
    """
    at = np.array([(r.u, r.v) for r in rows]).reshape(-1, 2)
    order = sorted(range(len(rows)), key=lambda i: rows[i].order)
    held, left = order[:2], order[2:]
    chosen = {(min(held), max(held))} if len(held) == 2 else set()
    while left:
        partners = {i: _best_partners(at, i, held) for i in left}
        i = max(left, key=lambda i: (_worth(at, i, partners[i]), -rows[i].order))
        chosen |= {(min(i, j), max(i, j)) for j in partners[i]}
        held.append(i)
        left.remove(i)
    found = []
    for i, j in sorted(chosen):
        far = float(np.hypot(*(at[i] - at[j])))
        half = (rows[i].d + rows[j].d) / 2.0
        found.append(
            CheckDistance(
                a=rows[i].label,
                b=rows[j].label,
                centres=far,
                outside=far + half,
                inside=far - half,
            )
        )
    return found


def _best_partners(at: np.ndarray, i: int, held: list[int]) -> list[int]:
    """The holes that hold another best, three of them where there are."""
    mine: list[int] = []
    while len(mine) < min(HELD_BY, len(held)):
        others = [j for j in held if j not in mine]
        mine.append(max(others, key=lambda j: _worth(at, i, [*mine, j])))
    return mine


def _worth(at: np.ndarray, i: int, partners: list[int]) -> tuple[float, float]:
    """How well distances to some others hold a hole: by the weaker of its two directions, then by
    nearness.
    """
    between = at[partners] - at[i]
    length = np.maximum(np.hypot(between[:, 0], between[:, 1]), 1e-9)
    unit = between / length[:, None]
    weak = float(np.linalg.eigvalsh(unit.T @ unit)[0])
    return round(weak, 1), -float(length[-1])


@dataclass(frozen=True, kw_only=True)
class MadeHole:
    """A hole of the made plate, laid on the drawing. [mm]"""

    row: DrillRow
    off: tuple[float, float]
    """How far right and up of its drawn place it stands."""
    pm: float
    """95 % of it, in the direction that it is off."""
    read: bool
    """Whether anything was read of it."""

    @property
    def far(self) -> float:
        """How far off its place it stands. [mm]"""
        return math.hypot(*self.off)


@dataclass(frozen=True, kw_only=True)
class Line:
    """What the dowels of both sides do to the gearbox's axis. [mm], [deg]"""

    off: float
    pm: float
    towards_deg: float
    """Clockwise from 12, from behind."""


@dataclass(frozen=True, kw_only=True)
class Read:
    """A reading of the made plate beside its drawing. [mm]"""

    n: int
    name: str
    value: Resolved
    drawn: float | None
    """None where the drawing has no such thing."""


@dataclass(frozen=True, kw_only=True)
class Made:
    """The plate as made."""

    holes: tuple[MadeHole, ...]
    line: Line | None
    """None without two dowels on either side."""
    suspects: tuple[tuple[int, float, float], ...]
    """Readings that the others contradict: number, what the rest expects, its ±."""


def _drawn_of(rows: Mapping[str, DrillRow], a: str, b: str, over: str) -> float | None:
    if a not in rows or b not in rows or a == b:
        return None
    far = math.hypot(rows[a].u - rows[b].u, rows[a].v - rows[b].v)
    return far - EDGES[over] * (rows[a].d + rows[b].d)


def readings(inputs: Inputs) -> list[Read]:
    """Every reading of the made plate with what the drawing says of it."""
    plate = plate_of(inputs)
    rows = {r.label: r for r in plate.drilling}
    found = []
    for p in inputs.build.proofs:
        a, b = p.a.strip().upper(), p.b.strip().upper()
        drawn: float | None
        if p.of == "distance":
            name, drawn = f"{a or '?'} to {b or '?'}, {p.over}", _drawn_of(rows, a, b, p.over)
        elif p.of == "hole":
            name, drawn = f"hole {a or '?'}", rows[a].d if a in rows else None
        elif p.of == "window":
            name, drawn = "window", plate.window.d if plate.window else None
        else:
            name, drawn = "thickness", inputs.value("plate_mm")
        value = inputs.quantities[f"proofs.{p.n}.value"]
        found.append(Read(n=p.n, name=name, value=value, drawn=drawn))
    return found


def _network(inputs: Inputs, rows: list[DrillRow]) -> tuple[list[Reading], set[int]]:
    """Distances between the made holes, and the drawing as a weak witness of every place."""
    at = {r.label: i for i, r in enumerate(rows)}
    said: list[Reading] = []
    touched: set[int] = set()
    for p in inputs.build.proofs:
        a, b = p.a.strip().upper(), p.b.strip().upper()
        q = inputs.quantities[f"proofs.{p.n}.value"]
        if p.of != "distance" or q.value is None or a == b or a not in at or b not in at:
            continue
        i, j = at[a], at[b]
        share = EDGES[p.over]
        value = q.value + share * (rows[i].d + rows[j].d)
        pm = math.hypot(q.pm, *((abs(share) * MADE_PM,) * 2))
        if value > 0.0:
            said.append(Distance(id=str(p.n), a=i, b=j, value=value, pm=pm))
            touched |= {i, j}
    for r, i in ((r, at[r.label]) for r in rows):
        for axis, value in enumerate((r.u, r.v)):
            said.append(
                Offset(id=f"drawn {i} {axis}", a=None, b=i, axis=axis, value=value, pm=DRAWN_PM)
            )
    return said, touched


def _laid(places: np.ndarray, drawn: np.ndarray, on: list[int]) -> np.ndarray:
    """Places shifted and turned so that those of ``on`` lie on their drawn ones as well as can be
    (Kabsch), shape (n, 2). [mm]
    """
    a, b = places[on], drawn[on]
    a0, b0 = a.mean(0), b.mean(0)
    x, y = a - a0, b - b0
    angle = math.atan2(float(np.sum(x[:, 0] * y[:, 1] - x[:, 1] * y[:, 0])), float(np.sum(x * y)))
    c, s = math.cos(angle), math.sin(angle)
    return np.asarray((places - a0) @ np.array([[c, s], [-s, c]]) + b0)


def _locating(rows: list[DrillRow], side: str) -> list[int]:
    """Holes that locate a side on the plate: its dowels, else all its holes."""
    own = [i for i, r in enumerate(rows) if r.side == side]
    pins = [i for i in own if rows[i].layer == "dowel"]
    return pins if len(pins) >= 2 else own


def _axis(off: np.ndarray, drawn: np.ndarray, on: list[int]) -> np.ndarray:
    """Where two or more dowels that are off take the axis that they locate, shape (2,). [mm]

    The rigid movement that fits them best, at the crank axis: shift, and turn times the arm.
    """
    rows = np.zeros((2 * len(on), 3))
    rows[0::2, 0] = rows[1::2, 1] = 1.0
    rows[0::2, 2], rows[1::2, 2] = -drawn[on, 1], drawn[on, 0]
    return np.asarray(np.linalg.lstsq(rows, off[on].reshape(-1), rcond=None)[0][:2])


def made(inputs: Inputs) -> Made | None:
    """The made plate; None until a distance of it was read that its drawing has. [mm]"""
    return inputs.once("made plate", lambda: _made(inputs))


def _made(inputs: Inputs) -> Made | None:
    rows = list(plate_of(inputs).drilling)
    said, touched = _network(inputs, rows)
    drawn = np.array([(r.u, r.v) for r in rows]).reshape(-1, 2)
    on = _locating(rows, "engine") or list(range(len(rows)))
    if not touched or len(on) < 2:
        return None
    fixed: list[Fixed] = []
    try:
        answer = adjust(len(rows), said, dim=2, fixed=fixed, start=drawn)
    except NetworkError:
        return None
    off = _laid(answer.places, drawn, on) - drawn
    spread = _spread(answer, drawn, on)
    holes = []
    for i, r in enumerate(rows):
        far = float(np.hypot(*off[i]))
        along = off[i] / far if far > 1e-6 else np.array([1.0, 0.0])
        own = spread[2 * i : 2 * i + 2]
        pm = 2.0 * float(np.linalg.norm(along @ own))
        holes.append(
            MadeHole(row=r, off=(float(off[i][0]), float(off[i][1])), pm=pm, read=i in touched)
        )
    suspects = tuple(
        (int(s.id), s.expected, s.pm) for s in answer.suspects if not s.id.startswith("drawn")
    )
    return Made(holes=tuple(holes), line=_line(rows, off, drawn, spread), suspects=suspects)


def _spread(answer: Adjusted, drawn: np.ndarray, on: list[int]) -> np.ndarray:
    """Square root of the covariance of what the holes are off, laid on the drawing,
    shape (2n, 2n). [mm]
    """
    places = answer.places
    base = _laid(places, drawn, on)
    columns = []
    for k in range(places.size):
        moved = places.copy().reshape(-1)
        moved[k] += STEP
        columns.append((_laid(moved.reshape(-1, 2), drawn, on) - base).reshape(-1) / STEP)
    values, vectors = np.linalg.eigh(answer.covariance)
    root = vectors * np.sqrt(np.maximum(values, 0.0))
    return np.asarray(np.array(columns).T @ root)


def _line(
    rows: list[DrillRow], off: np.ndarray, drawn: np.ndarray, spread: np.ndarray
) -> Line | None:
    pins = [i for i, r in enumerate(rows) if r.side == "gearbox" and r.layer == "dowel"]
    if len(pins) < 2:
        return None
    moved = _axis(off, drawn, pins)
    columns = np.stack(
        [_axis(spread[:, k].reshape(-1, 2), drawn, pins) for k in range(spread.shape[1])], 1
    )
    far = float(np.hypot(*moved))
    along = moved / far if far > 1e-6 else np.array([1.0, 0.0])
    return Line(
        off=far,
        pm=2.0 * float(np.linalg.norm(along @ columns)),
        towards_deg=math.degrees(math.atan2(moved[0], moved[1])) % 360.0,
    )
