"""The Clear boards: three flat views, the scene in space, the tightest list, the belt run."""

from dataclasses import dataclass

import numpy as np

from pindo.core.clear import belt
from pindo.core.clear.checks import GAP_STATES, LISTED, PairState, belt_refusals, pulleys_of
from pindo.core.clear.solids import Placed
from pindo.core.drawing import Drawing, Gap, Note, Round, Shape
from pindo.core.evidence import refused_state
from pindo.core.resolve import Inputs
from pindo.core.views import TITLES, project, solid_shapes

DRAWN_GAPS = 12
EDGE = 120.0


@dataclass(frozen=True, kw_only=True)
class SceneSolid:
    """A solid for the view in space: sizes in its own axes and where it stands. [mm]"""

    n: int
    name: str
    body: str
    class_: str
    shape: str
    sizes: tuple[float, ...]
    turn: tuple[float, ...]
    """Rotation by rows, nine numbers [-]."""
    place: tuple[float, float, float]


@dataclass(frozen=True, kw_only=True)
class PairRow:
    """A line of the tightest list. [mm]"""

    finding: str
    """Id of its finding where it has one; empty for a pair that is clear by far."""
    engine: str
    chassis: str
    gap: float
    pm: float
    read: bool
    """Read at a trial fit, not computed."""
    class_limit: float
    moves: float
    """Movement, and squash of the mounts that the pose does not hold yet."""
    left: float
    """Gap less class limit and movement."""
    p: tuple[float, float, float]
    q: tuple[float, float, float]
    verdict: str


@dataclass(frozen=True, kw_only=True)
class BeltRow:
    """What of a pulley follows from the run."""

    name: str
    wrap_deg: float
    span_mm: float
    turns: str


def _triple(v: np.ndarray) -> tuple[float, float, float]:
    return (float(v[0]), float(v[1]), float(v[2]))


def scene(placed: list[Placed]) -> tuple[SceneSolid, ...]:
    """Every placed solid."""
    return tuple(
        SceneSolid(n=p.solid.n, name=p.solid.name or f"solid {p.solid.n}", body=p.solid.body, class_=p.solid.class_, shape=p.solid.shape, sizes=p.sizes, turn=tuple(map(float, p.turn.ravel())), place=_triple(p.place))
        for p in placed
    )  # fmt: skip


def pair_rows(inputs: Inputs, states: list[PairState], verdicts: dict[str, str]) -> tuple[PairRow, ...]:
    """The tightest list, tightest first. A gap that was read stands in place of the computed one; a pair without a finding reads what its inputs allow."""
    rows = []
    readings = {
        gap.finding: q for fit in inputs.build.fits for i, gap in enumerate(fit.gaps) if gap.kind == "gap" and (q := inputs.quantities.get(f"fits.{fit.n}.{i}")) is not None and q.value is not None
    }
    for s in states[:LISTED]:
        id = f"clear.pair.{s.id}"
        limit = inputs.rules[s.rule]
        a, b = (p.solid.name or f"solid {p.solid.n}" for p in (s.pair.engine, s.pair.chassis))
        read = readings.get(id)
        gap = s.pair.distance if read is None or read.value is None or refused_state(read.state, GAP_STATES) else read.value
        rows.append(
            PairRow(
                finding=id if id in verdicts else "",
                engine=a,
                chassis=b,
                gap=gap,
                pm=2.0 * s.u if gap == s.pair.distance else read.pm if read else 0.0,
                read=gap != s.pair.distance,
                class_limit=limit,
                moves=s.takes,
                left=gap - limit - s.takes,
                p=_triple(s.pair.on_engine),
                q=_triple(s.pair.on_chassis),
                verdict=verdicts.get(id, s.verdict.value),
            )
        )
    return tuple(rows)


def clear_view(inputs: Inputs, view: str, placed: list[Placed], rows: tuple[PairRow, ...]) -> Drawing:
    """One flat view with the tightest pairs as gaps between their two points."""
    floor = inputs.value("rail_height_mm") or 600.0
    shapes = solid_shapes(placed, view, floor)
    gaps = []
    for row in rows[:DRAWN_GAPS]:
        if row.finding:
            (x1, y1), (x2, y2) = project(view, [row.p, row.q], floor)
            gaps.append(Gap(finding=row.finding, x1=float(x1), y1=float(y1), x2=float(x2), y2=float(y2)))
    unit = solid_shapes([p for p in placed if p.solid.body != "chassis"], view, floor)
    engine = np.array([xy for s in unit for xy in s.points] or [(-400.0, 0.0), (400.0, 800.0)])
    low, high = engine.min(axis=0) - 2.2 * EDGE, engine.max(axis=0) + 2.2 * EDGE
    return Drawing(view=TITLES[view], x_low=float(low[0]), x_high=float(high[0]), y_low=float(low[1]), y_high=float(high[1]), shapes=tuple(shapes), gaps=tuple(gaps))


def belt_view(inputs: Inputs) -> tuple[Drawing | None, tuple[BeltRow, ...], float | None]:
    """The belt run seen from the accessory end, a row for each pulley, and the length wanted. [mm]"""
    pulleys = pulleys_of(inputs)
    wanted = belt.reads(pulleys)
    if len(pulleys) < 2 or any(inputs.value(a) is None for a in wanted):
        return None, (), None
    read = {a: inputs.quantities[a].value for a in wanted}
    run = belt.run(pulleys, read)
    if not np.isfinite(run.length) or belt_refusals(inputs):
        return None, (), None
    at = [(float(read[f"pulleys.{p.n}.right"] or 0.0), float(read[f"pulleys.{p.n}.up"] or 0.0)) for p in pulleys]
    rounds = [Round(part=p.name, x=x, y=y, d=2.0 * float(belt.radius(p, read)), style="pulley" if p.side == "ribs" else "idler", label=p.name) for p, (x, y) in zip(pulleys, at, strict=True)]
    shapes = [Shape(part="belt", points=((float(a), float(b)), (float(c), float(d))), style="shaft", closed=False) for a, b, c, d in run.tangents]
    xs, ys = [v for r in rounds for v in (r.x - r.d / 2, r.x + r.d / 2)], [v for r in rounds for v in (r.y - r.d / 2, r.y + r.d / 2)]
    rows = tuple(
        BeltRow(name=p.name, wrap_deg=float(w), span_mm=float(s), turns="as the crank" if p.side == "ribs" else "against the crank") for p, w, s in zip(pulleys, run.wraps, run.spans, strict=True)
    )
    drawing = Drawing(
        view="seen from the accessory end; the crank turns clockwise",
        x_low=min(xs) - 40,
        x_high=max(xs) + 40,
        y_low=min(ys) - 40,
        y_high=max(ys) + 40,
        shapes=tuple(shapes),
        rounds=tuple(rounds),
        notes=(Note(text="left of the engine →", x=max(xs) - 90, y=min(ys) - 30),),
    )
    return drawing, rows, float(run.length)
