"""A dial carried round by the crank: offset of a bore, tilt of a face, from readings at any clock
positions.

r(t) = c + a cos t + b sin t by least squares, with a second harmonic fitted jointly where six or
more distinct positions allow it: else ovality leaks into the offset (common practice; the fit is
linear least squares, JCGM 100, annex H.3). Angles are clockwise from 12 o'clock, seen from behind;
a reading is plus where the plunger is pressed in.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from pindo.core.document.evidence import rank
from pindo.core.document.mate_rows import Dial
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.inputs.statements import student_t

LEAST = 4
"""Distinct positions that a fit takes."""
LEAST_OVAL = 6
"""Distinct positions that tell ovality from offset."""
SAME_DEG = 2.0
"""Positions nearer than this are one: the dial came back to it. [deg]"""
WIDEST_DEG = 150.0
"""Gap between neighbouring positions beyond which nothing is known of one side. [deg]"""
TIR: Mapping[str, str] = {"bore": "bore_tir_mm", "face": "face_tir_mm"}


@dataclass(frozen=True, kw_only=True)
class Swept:
    """What one turn of the dial says. [mm], [deg]"""

    mean: float
    high: tuple[float, float]
    """a, b: how much the reading rises towards 12 and towards 3 o'clock."""
    covariance: np.ndarray
    """Of a and b, shape (2, 2). [mm²]"""
    parts: Mapping[str, np.ndarray]
    """What one standard uncertainty of each reading moves a and b by, shape (2,), by address."""
    oval: float | None
    """Full swing of the second harmonic; None where the positions cannot tell it."""
    rms: float | None
    """Of the residuals; None where nothing is left over."""
    closure: float | None
    """How far the dial is off where it came back; None where it did not."""

    @property
    def offset(self) -> float:
        """Amplitude: half the full swing."""
        return math.hypot(*self.high)

    @property
    def direction(self) -> float:
        """Where it reads most, clockwise from 12. [deg]"""
        return math.degrees(math.atan2(self.high[1], self.high[0])) % 360.0

    @property
    def along(self) -> np.ndarray:
        """Unit direction in which the doubt of the amplitude counts, shape (2,): its own, or the
        worst one where it is no larger than its doubt. [-]
        """
        values, vectors = np.linalg.eigh(self.covariance)
        if self.offset > 2.0 * math.sqrt(max(float(values[-1]), 0.0)):
            return np.array(self.high) / self.offset
        return np.asarray(vectors[:, -1])


def distinct(angles: Sequence[float]) -> list[float]:
    """Angles that are not one, in order round the clock. [deg]"""
    found: list[float] = []
    for angle in sorted(a % 360.0 for a in angles):
        if all(min(abs(angle - b), 360.0 - abs(angle - b)) > SAME_DEG for b in found):
            found.append(angle)
    return found


def widest(angles: Sequence[float]) -> float:
    """Widest gap between neighbouring positions. [deg]"""
    if not angles:
        return 360.0
    return max((b - a for a, b in zip(angles, [*angles[1:], angles[0] + 360.0], strict=True)))


def _closure(angles: np.ndarray, values: np.ndarray) -> float | None:
    """Last reading less the first, where the dial came back to where it began. [mm]"""
    apart = abs((angles[-1] - angles[0] + 180.0) % 360.0 - 180.0)
    return float(values[-1] - values[0]) if len(angles) > LEAST and apart <= SAME_DEG else None


def swept(
    addresses: Sequence[str], angles: Sequence[float], values: Sequence[float], u: Sequence[float]
) -> Swept | None:
    """The fit of one turn; None where its positions are too few or leave one side out.

    Parameters
    ----------
    addresses
        Of the readings, in the order in which they were taken.
    angles : [deg]
    values, u : [mm]
        Readings and their standard uncertainties.
    """
    places = distinct(angles)
    if len(places) < LEAST or widest(places) > WIDEST_DEG:
        return None
    at, read, sigma = np.radians(angles), np.array(values, float), np.array(u, float)
    columns = [np.ones_like(at), np.cos(at), np.sin(at)]
    second = len(places) >= LEAST_OVAL
    if second:
        columns += [np.cos(2.0 * at), np.sin(2.0 * at)]
    a = np.stack(columns, axis=1)
    solve = np.linalg.pinv(a)
    x = solve @ read
    left = read - a @ x
    freedom = len(read) - a.shape[1]
    rms = math.sqrt(float(left @ left) / freedom) if freedom > 0 else None
    # Each reading doubts by its own ±, and by what the fit leaves over where that is more.
    grown = 1.0
    if rms is not None:
        own = math.sqrt(float(np.mean(sigma**2)))
        grown = max(1.0, rms * student_t(freedom) / 2.0 / own) if own > 0.0 else 1.0
    moved = solve[1:3] * sigma * grown
    return Swept(
        mean=float(x[0]),
        high=(float(x[1]), float(x[2])),
        covariance=moved @ moved.T,
        parts={address: moved[:, i] for i, address in enumerate(addresses)},
        oval=2.0 * math.hypot(float(x[3]), float(x[4])) if second else None,
        rms=rms,
        closure=_closure(np.array(angles, float), read),
    )


def turn_of(inputs: Inputs, what: str) -> list[tuple[Dial, Resolved, Resolved]]:
    """The dial's readings of the bore or the face that stand, with position and reading."""
    found = []
    for row in inputs.build.dials:
        at, read = (inputs.quantities.get(f"dials.{row.n}.{f}") for f in ("at", "value"))
        if row.of != what or at is None or read is None:
            continue
        if at.value is not None and read.value is not None:
            found.append((row, at, read))
    return found


def sweep(inputs: Inputs, what: str) -> Swept | None:
    """What the dial says of the bore or the face."""

    def make() -> Swept | None:
        rows = turn_of(inputs, what)
        return swept(
            [q.address for _, _, q in rows],
            [at.value or 0.0 for _, at, _ in rows],
            [q.value or 0.0 for _, _, q in rows],
            [q.u for _, _, q in rows],
        )

    return inputs.once(("dial", what), make)


def came_back(found: Swept, rows: Sequence[tuple[Dial, Resolved, Resolved]]) -> bool:
    """Whether the dial read the same where it came back, within the ± of both readings."""
    if found.closure is None:
        return True
    return abs(found.closure) <= rows[0][2].pm + rows[-1][2].pm


def _full_swing(what: str, inputs: Inputs) -> Mapping[str, Resolved]:
    key = TIR[what]
    d = DIMENSIONS[key]
    blank = Resolved(address=key, name=d.name, kind=d.kind, parts={})
    rows, found = turn_of(inputs, what), sweep(inputs, what)
    if found is None:
        why = f"{len(distinct([at.value or 0.0 for _, at, _ in rows]))} positions do not go round"
        return {key: replace(blank, detail=f"the dial's {why}: {LEAST} at least, on all sides")}
    if not came_back(found, rows):
        return {key: replace(blank, detail="the dial did not come back: it or the crank moved")}
    if len({q.state.model_dump_json() for _, _, q in rows}) > 1:
        return {key: replace(blank, detail="the dial's readings were taken in several states")}
    along = found.along
    parts = {a: 2.0 * float(along @ moved) for a, moved in found.parts.items()}
    sources = [q.source for _, _, q in rows if q.source is not None]
    return {
        key: replace(
            blank,
            status=Status.STANDING,
            value=2.0 * found.offset,
            pm=2.0 * math.hypot(*parts.values()),
            source=max(sources, key=rank, default=None),
            tool=rows[0][2].tool,
            state=rows[0][2].state,
            detail=f"from {len(rows)} readings of the dial",
            parts=parts,
        )
    }


def _dialled(what: str, inputs: Inputs) -> bool:
    return any(row.of == what for row in inputs.build.dials)


RUNOUT = tuple(
    Provider(
        key=f"runout of the {what}",
        gives=(key,),
        solve=partial(_full_swing, what),
        when=partial(_dialled, what),
    )
    for what, key in TIR.items()
)
