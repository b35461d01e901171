"""The belt run: its length, its wraps, its planes, and which way pulleys turn."""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

import numpy as np

from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Note, Round, Shape
from pindo.core.geometry import belt
from pindo.core.geometry.frames import SIDE
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.read import once
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict

check = partial(Check, station=Station.CLEAR, question="clear.belt")
Pulleys = tuple[belt.BeltPulley, ...]
Read = Mapping[str, Any]


def pulleys_of(inputs: Inputs) -> Pulleys:
    """The pulleys of a build in belt order."""
    return tuple(
        belt.BeltPulley(p.n, p.name or f"pulley {p.n}", p.side, p.over)
        for p in inputs.build.pulleys
    )


def _run(pulleys: Pulleys, read: Read) -> belt.Run:
    return once(read, pulleys, lambda: belt.run(pulleys, read))


def _take_up_left(pulleys: Pulleys, read: Read, belt_length_mm: Any, belt_take_up_mm: Any) -> Any:
    """Take-up left when the belt is on. [mm]"""
    return belt_take_up_mm - np.abs(_run(pulleys, read).length - belt_length_mm)


def _wrap(pulleys: Pulleys, i: int, read: Read) -> Any:
    """Wrap on one pulley. [deg]"""
    return _run(pulleys, read).wraps[i]


def _offset(pulleys: Pulleys, i: int, read: Read) -> Any:
    """Angle of the span after one pulley off its plane. [deg]"""
    a, b = pulleys[i], pulleys[(i + 1) % len(pulleys)]
    aside = np.abs(read[f"pulleys.{b.n}.plane"] - read[f"pulleys.{a.n}.plane"])
    return np.degrees(np.arctan(aside / _run(pulleys, read).spans[i]))


def belt_refusals(inputs: Inputs) -> list[str]:
    """Why the pulleys as they stand are no run; empty while a figure is missing or when they are
    one.
    """
    pulleys = pulleys_of(inputs)
    read = inputs.known(belt.reads(pulleys))
    return [] if len(pulleys) < 2 or read is None else belt.refusals(pulleys, read)


def _ribs(belt_ribs: Any) -> Any:
    return belt_ribs


def _off(pulleys: Pulleys, inputs: Inputs) -> str:
    """Which way the belt misses its run, as its sizes stand."""
    read = inputs.known((*belt.reads(pulleys), "belt_length_mm"))
    run = 0.0 if read is None else float(_run(pulleys, read).length)
    return "short" if read is not None and read["belt_length_mm"] < run else "long"


def checks(inputs: Inputs) -> Iterator[Check]:
    """Length, wraps, planes and ribs of the belt run."""
    pulleys = pulleys_of(inputs)
    if inputs.options.get("belt") != "yes" or len(pulleys) < 2:
        return
    reads = belt.reads(pulleys)
    if belt_refusals(inputs):
        return  # no length is told beside what cannot be a run
    yield check(
        id="clear.belt_length",
        title="Belt length",
        value=partial(_take_up_left, pulleys),
        reads=reads,
        at_least=plain.zero,
        says="Belt lies in the tensioner's range with {value} to spare",
        fouls=f"Belt is too {_off(pulleys, inputs)} by {{over}} for the tensioner's range",
        why="A belt that cannot be tightened slips, one that is too short does not go on.",
    )
    for i, p in enumerate(pulleys):
        limit: Any = "belt_wrap_min_deg" if p.side == "ribs" else plain.zero
        yield check(
            id=f"clear.belt_wrap.{p.n}",
            title=f"Wrap on {p.name}",
            value=partial(_wrap, pulleys, i),
            reads=reads,
            at_least=limit,
            kind="angle",
            says=f"Belt wraps {literal(p.name)} by {{value}}; needs {{limit}}",
            fouls=f"Belt passes {literal(p.name)} without touching it",
            why=(
                "A belt with little wrap slips and squeals; an idler that it does not touch does"
                " nothing."
            ),
        )
        q = pulleys[(i + 1) % len(pulleys)]
        yield check(
            id=f"clear.belt_plane.{p.n}",
            title=f"Belt from {p.name} to {q.name}, plane",
            value=partial(_offset, pulleys, i),
            reads=(*reads, f"pulleys.{p.n}.plane", f"pulleys.{q.n}.plane"),
            at_most="belt_offset_max_deg",
            kind="angle",
            says=(
                f"Belt runs {{value}} off its plane from {literal(p.name)} to {literal(q.name)}; at"
                " most {limit}"
            ),
            why="Ribs climb and shred. A spacer under the pulley cures it.",
        )
    for row in inputs.build.pulleys:
        if row.ribs and row.side == "ribs":
            yield check(
                id=f"clear.belt_ribs.{row.n}",
                title=f"Ribs of {row.name}",
                value=plain.given,
                given={"x": f"pulleys.{row.n}.ribs"},
                at_least=_ribs,
                kind="count",
                says=(
                    f"{literal(row.name[:1].upper() + row.name[1:])} has {{value}} ribs; the belt"
                    " has {limit}"
                ),
                why=(
                    "A belt wider than its pulley overhangs and frays; a wider pulley leaves ribs"
                    " free."
                ),
            )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What is no run, and which way pulleys turn."""
    if refused := belt_refusals(inputs):
        yield notice(
            "clear.belt_run",
            "clear.belt",
            "Belt run",
            Verdict.FOULS,
            f"This is no belt run: {'; '.join(refused)}",
            why=(
                "No length or wrap is told beside pulleys that cannot be so. Look at order, side,"
                " place and diameter."
            ),
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
                why=(
                    "A pump that runs backwards cools nothing. Bring the belt round its other side,"
                    " or take the pump made for it."
                ),
            )


def orders(inputs: Inputs) -> Iterator[Reading]:
    """The length of the belt that the pulleys want."""
    pulleys = pulleys_of(inputs)
    read = inputs.known(belt.reads(pulleys))
    if len(pulleys) > 1 and read is not None:
        length = float(belt.run(pulleys, read).length)
        name = "Belt, effective length wanted"
        yield Reading(name=name, value=length, kind="length", ordered=True, part="belt", places=1)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The run seen from the accessory end, a row for each pulley, and the length wanted."""
    pulleys = pulleys_of(inputs)
    read = inputs.known(belt.reads(pulleys))
    if len(pulleys) < 2 or read is None:
        return Board()
    left = SIDE["engine_left"].called(inputs.build.nicknames)
    run = belt.run(pulleys, read)
    if not np.isfinite(run.length) or belt_refusals(inputs):
        return Board()
    rows = tuple(
        TableRow(
            cells=(
                p.name,
                float(w),
                float(s),
                "as the crank" if p.side == "ribs" else "against the crank",
            )
        )
        for p, w, s in zip(pulleys, run.wraps, run.spans, strict=True)
    )
    columns = (
        Column(key="pulley", label="pulley"),
        Column(key="wrap", label="wrap", kind="angle", places=0),
        Column(key="span", label="span after it", kind="length", places=1),
        Column(key="turns", label="turns"),
    )
    return Board(
        drawings=(_drawing(pulleys, read, run, left),),
        tables=(Table(key="belt", title="Belt run", columns=columns, rows=rows),),
        readings=tuple(orders(inputs)),
    )


def _drawing(pulleys: Pulleys, read: Mapping[str, float], run: belt.Run, left: str) -> Drawing:
    """Pulleys and belt, seen from the accessory end; ``left`` is what the engine's left is
    called. [mm]
    """
    at = [(read[f"pulleys.{p.n}.right"], read[f"pulleys.{p.n}.up"]) for p in pulleys]
    rounds = [
        Round(
            part=p.name,
            x=x,
            y=y,
            d=2.0 * float(belt.radius(p, read)),
            style="pulley" if p.side == "ribs" else "idler",
            label=p.name,
        )
        for p, (x, y) in zip(pulleys, at, strict=True)
    ]
    shapes = [
        Shape(
            part="belt",
            points=((float(a), float(b)), (float(c), float(d))),
            style="shaft",
            closed=False,
        )
        for a, b, c, d in run.tangents
    ]
    xs, ys = (
        [v for r in rounds for v in (r.x - r.d / 2, r.x + r.d / 2)],
        [v for r in rounds for v in (r.y - r.d / 2, r.y + r.d / 2)],
    )
    return Drawing(
        view="seen from the accessory end; the crank turns clockwise",
        x_low=min(xs) - 40,
        x_high=max(xs) + 40,
        y_low=min(ys) - 40,
        y_high=max(ys) + 40,
        shapes=tuple(shapes),
        rounds=tuple(rounds),
        notes=(
            Note(
                text=f"{left} →",
                x=max(xs) - 90,
                y=min(ys) - 30,
            ),
        ),
    )


QUESTION = Question(
    path="belt",
    station=Station.CLEAR,
    name="Belt run",
    asks="Does the belt go on, wrap its pulleys, run in plane and turn them the right way?",
    options=("belt",),
    dimensions={
        "A": "belt_length_mm",
        "B": "belt_ribs",
        "C": "belt_pitch_mm",
        "D": "belt_back_mm",
        "E": "belt_take_up_mm",
    },
    lists=("pulleys",),
    checks=checks,
    notices=notices,
    orders=orders,
    board=board,
    where="engine",
    gaps=True,
)
