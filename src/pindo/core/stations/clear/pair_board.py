"""What the tight pairs show: the plan view, the side view, the table, and the solids in space."""

from dataclasses import dataclass

import numpy as np

from pindo.core.document.evidence import refused_state
from pindo.core.drawing.board import Board, Column, Gap3D, Scene, Solid3D, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Gap
from pindo.core.drawing.views import NAMES, TITLES, VIEWS, project, solid_shapes
from pindo.core.geometry.shapes import SHAPES
from pindo.core.geometry.solid_classes import CLASSES
from pindo.core.geometry.solids import placed_solids
from pindo.core.inputs.cells import part_address
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.question import Seen
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.clear.gaps import pair_id, solid_name
from pindo.core.stations.clear.states import GAP_STATES, PairState, pair_states

LEAST_SHOWN = 6  # the tightest pairs are always evaluated
MOST_SHOWN = 40


LISTED = 60  # pairs in the tightest list
DRAWN_GAPS = 12


EDGE = 120.0


@dataclass(frozen=True)
class _Tight:
    """A line of the tightest list. [mm]"""

    state: PairState
    finding: str
    gap: float
    pm: float
    read: bool
    left: float
    mark: str


def _tightest(inputs: Inputs, seen: Seen) -> list[_Tight]:
    """The tightest list, tightest first. A gap that was read stands in place of the computed one; a
    pair without a finding reads what its inputs allow.
    """
    verdicts = {f.id: f.verdict.value for f in seen.findings}
    readings: dict[str, tuple[float, float]] = {
        gap.finding: (q.value, q.pm)
        for fit in inputs.build.fits
        for gap in fit.gaps
        if gap.kind == "gap"
        and (q := inputs.quantities.get(part_address("fits.gaps", fit, gap, "measured")))
        is not None
        and q.value is not None
        and not refused_state(q.state, GAP_STATES)
    }
    rows = []
    for s in pair_states(inputs)[:LISTED]:
        id, read = pair_id(s), readings.get(pair_id(s))
        gap, pm = (s.pair.distance, 2.0 * s.u) if read is None else read
        rows.append(
            _Tight(
                state=s,
                finding=id if id in verdicts else "",
                gap=gap,
                pm=pm,
                read=read is not None,
                left=gap - inputs.rules[s.rule] - s.takes,
                mark=verdicts.get(id, s.verdict.value),
            )
        )
    return rows


def _table(inputs: Inputs, rows: list[_Tight]) -> Table:
    unit = sum(s.body != "chassis" for s in inputs.build.solids)
    every = unit * (len(inputs.build.solids) - unit)
    states = pair_states(inputs)
    unmeasured = every - len(states) + sum(s.verdict == Verdict.UNMEASURED for s in states)
    note = (
        f"{len(states)} pairs measured, {unmeasured} not"
        if unmeasured
        else f"every pair is measured: {len(states)}"
    )
    heads = (("gap", "gap"), ("pm", "±"), ("class", "class"), ("moves", "moves"), ("left", "left"))
    return Table(
        key="pairs",
        title="The tightest pairs",
        note=note,
        first=8,
        columns=(
            Column(key="unit", label="unit"),
            Column(key="chassis", label="chassis"),
            *(Column(key=k, label=label, kind="length", places=1) for k, label in heads),
            Column(key="how", label=""),
        ),
        rows=tuple(
            TableRow(
                cells=(
                    solid_name(r.state.pair.engine),
                    solid_name(r.state.pair.chassis),
                    r.gap,
                    r.pm,
                    inputs.rules[r.state.rule],
                    r.state.takes,
                    r.left,
                    "read" if r.read else "",
                ),
                finding=r.finding,
                mark=r.mark,
            )
            for r in rows
        ),
    )


def _view(inputs: Inputs, view: str, rows: list[_Tight]) -> Drawing:
    """One flat view with the tightest pairs as gaps between their two points."""
    floor, placed = inputs.value("rail_height_mm") or 600.0, placed_solids(inputs)
    gaps = []
    for row in rows[:DRAWN_GAPS]:
        if row.finding:
            ends = [row.state.pair.on_engine, row.state.pair.on_chassis]
            (x1, y1), (x2, y2) = project(view, ends, floor).tolist()
            gaps.append(Gap(finding=row.finding, x1=x1, y1=y1, x2=x2, y2=y2))
    unit = solid_shapes([p for p in placed if p.solid.body != "chassis"], view, floor)
    engine = np.array([xy for s in unit for xy in s.points] or [(-400.0, 0.0), (400.0, 800.0)])
    low, high = engine.min(axis=0) - 2.2 * EDGE, engine.max(axis=0) + 2.2 * EDGE
    return Drawing(
        name=NAMES[view],
        view=TITLES[view],
        x_low=float(low[0]),
        x_high=float(high[0]),
        y_low=float(low[1]),
        y_high=float(high[1]),
        shapes=tuple(solid_shapes(placed, view, floor)),
        gaps=tuple(gaps),
    )


def _triple(v: np.ndarray) -> tuple[float, float, float]:
    return (float(v[0]), float(v[1]), float(v[2]))


def _scene(inputs: Inputs, rows: list[_Tight]) -> Scene:
    return Scene(
        solids=tuple(
            Solid3D(
                n=p.solid.n,
                name=p.solid.name or f"solid {p.solid.n}",
                body=p.solid.body,
                ink=CLASSES[p.solid.class_].ink
                or ("chassis" if p.solid.body == "chassis" else "engine"),
                mesh=SHAPES[p.solid.shape].mesh(p.sizes),
                turn=tuple(map(float, p.turn.ravel())),
                place=_triple(p.place),
            )
            for p in placed_solids(inputs)
        ),
        gaps=tuple(
            Gap3D(
                finding=r.finding,
                p=_triple(r.state.pair.on_engine),
                q=_triple(r.state.pair.on_chassis),
                gap=r.gap,
                mark=r.mark,
            )
            for r in rows
            if r.finding
        ),
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """Three views, bodies in space, the tightest list."""
    rows = _tightest(inputs, seen)
    return Board(
        drawings=tuple(_view(inputs, view, rows) for view in VIEWS),
        tables=(_table(inputs, rows),) if rows else (),
        scene=_scene(inputs, rows),
    )
