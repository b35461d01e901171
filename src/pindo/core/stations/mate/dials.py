"""The dial on the crank: what one turn says of bore and face, which offset dowel helps, what is
shimmed where.
"""

import math
from collections.abc import Iterator

import numpy as np

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Note, Round, Shape
from pindo.core.geometry.dial import LEAST, TIR, Swept, came_back, distinct, sweep, turn_of
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate.placing import label_of, placed_holes

KEY = "mate.runout"
DOWELS = ("offset_dowel_1_mm", "offset_dowel_2_mm", "offset_dowel_3_mm")
"""Rules that hold the offsets that dowels are sold with."""
RADIUS = 100.0
"""Of the clock face in the picture. [mm]"""
SWING = 30.0
"""What the largest reading takes in the picture. [mm]"""
GROWN = (1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0)


def clock(degrees: float) -> str:
    """A direction as a clock tells it: 3:30, to the half hour."""
    halves = round(degrees / 15.0) % 24
    hour, half = divmod(halves, 2)
    return f"{hour or 12}:{'30' if half else '00'}"


def best_dowel(offset: float, sold: tuple[float, ...]) -> tuple[float, float]:
    """The offset dowel of those sold, or none, that leaves the least, and the offset that it
    leaves. [mm]
    """
    dowel = min((0.0, *sold), key=lambda d: (abs(offset - d), d))
    return dowel, abs(offset - dowel)


def oval_checks(inputs: Inputs) -> Iterator[Check]:
    """Whether the bore is round, where the positions tell."""
    found = sweep(inputs, "bore")
    if found is None or found.oval is None:
        return
    doubt = 2.0 * 2.0 * math.sqrt(float(np.linalg.eigvalsh(found.covariance)[-1]))
    yield Check(
        id="mate.bore_oval",
        station=Station.MATE,
        question=KEY,
        title="Ovality of the bell's bore",
        value=_with_doubt,
        given={"x": Constant(found.oval, "length"), "doubt": Constant(doubt, "length")},
        at_most="bore_oval_max_mm",
        says=("Bell's bore is oval by {value} at most, full swing with its doubt; limit {limit}"),
        why="An oval bore centres the gearbox one way and not the other.",
    )


def _with_doubt(x: float, doubt: float) -> float:
    """The swing with all of its doubt against it. [mm]"""
    return x + doubt


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Turns of the dial that say nothing yet or do not close, and what cures an offset."""
    for what in TIR:
        rows, found = turn_of(inputs, what), sweep(inputs, what)
        if not any(row.of == what for row in inputs.build.dials):
            continue
        name = f"Dial on the {what}"
        if found is None:
            count = len(distinct([at.value or 0.0 for _, at, _ in rows]))
            yield notice(
                f"mate.dial.{what}.few",
                KEY,
                name,
                Verdict.UNMEASURED,
                f"{name}: {count} positions with a reading; {LEAST} at least are wanted, and none"
                " further apart than five hours",
                why="What lies between two positions that are far apart nobody has seen.",
            )
        elif not came_back(found, rows):
            yield notice(
                f"mate.dial.{what}.closure",
                KEY,
                name,
                Verdict.UNMEASURED,
                in_both("{at} read {off} otherwise when it came back", name, 2, off=found.closure),
                why="The stand slipped, or the crank moved in its bearings: take the turn again.",
                condition="contradiction",
            )
        elif what == "bore":
            yield _cure(inputs, found)


def _cure(inputs: Inputs, found: Swept) -> Finding:
    """The dowel that brings the bore nearest to the crank, and which way."""
    sold = tuple(inputs.rules[key] for key in DOWELS)
    dowel, left = best_dowel(found.offset, sold)
    limit = inputs.rules["bore_tir_max_mm"]
    doubt = 4.0 * math.sqrt(float(np.linalg.eigvalsh(found.covariance)[-1]))
    where = clock(found.direction)
    if 2.0 * found.offset + doubt <= limit:
        verdict, text = Verdict.GOES, "No offset dowel is wanted: {off} of offset stays, {at}"
    elif 2.0 * left + doubt <= limit:
        verdict = Verdict.TIGHT
        text = (
            "An offset dowel of {dowel} moves the bell towards {at}, where the dial reads most:"
            " {left} of offset is left of {off}. Dial it again with the dowels in"
        )
    else:
        verdict = Verdict.UNMEASURED
        text = (
            "No offset dowel brings the bell true: the best, {dowel} towards {at}, leaves {left} of"
            " {off}. Look at the plate and the dowel holes first"
        )
    lengths = {"off": found.offset, "dowel": dowel, "left": left}
    return notice(
        "mate.dial.bore.dowel",
        KEY,
        "Offset dowel",
        verdict,
        in_both(text, where, 2, **lengths),
        why="An eccentric dowel moves the bell by its offset, both dowels turned the same way.",
    )


def _picture(inputs: Inputs, what: str, found: Swept) -> Drawing:
    """The turn on a clock face, seen from behind: readings and fit, magnified."""
    rows = turn_of(inputs, what)
    most = max((abs((q.value or 0.0) - found.mean) for _, _, q in rows), default=0.0)
    grown = max((g for g in GROWN if g * most <= SWING), default=1.0)

    def at(degrees: float, off: float) -> tuple[float, float]:
        r, t = RADIUS + grown * off, math.radians(degrees)
        return r * math.sin(t), r * math.cos(t)

    def fit(degrees: float) -> float:
        t = math.radians(degrees)
        return found.high[0] * math.cos(t) + found.high[1] * math.sin(t)

    turn = np.arange(0.0, 360.0, 5.0).tolist()
    edge = RADIUS + SWING + 24.0
    high = found.direction
    return Drawing(
        name=what.capitalize(),
        view=f"dial on the {what}, seen from behind; readings and fit drawn {grown:g} times",
        x_low=-edge,
        x_high=edge,
        y_low=-edge,
        y_high=edge,
        shapes=(
            Shape(part="no runout", points=tuple(at(d, 0.0) for d in turn), style="hidden"),
            Shape(part="fit", points=tuple(at(d, fit(d)) for d in turn), style="thin"),
            Shape(
                part="reads most",
                points=((0.0, 0.0), at(high, fit(high))),
                style="accent",
                closed=False,
            ),
        ),
        rounds=tuple(
            Round(
                part=f"reading {row.n}",
                x=x,
                y=y,
                d=5.0,
                style="joint",
                label=f"{q.value or 0.0:+.2f}",
            )
            for row, place, q in rows
            for x, y in (at(place.value or 0.0, (q.value or 0.0) - found.mean),)
        ),
        notes=tuple(
            Note(text=str(hour), x=x - 4.0, y=y - 4.0)
            for hour in (12, 3, 6, 9)
            for x, y in (at(hour * 30.0, -30.0 / grown),)
        ),
    )


def _turns(inputs: Inputs) -> Table | None:
    rows = []
    for what in TIR:
        found = sweep(inputs, what)
        if found is not None:
            rows.append(
                TableRow(
                    cells=(
                        what,
                        found.offset,
                        2.0 * found.offset,
                        clock(found.direction),
                        found.oval,
                        found.rms,
                        found.closure,
                    )
                )
            )
    columns = (
        Column(key="what", label="plunger on the"),
        Column(key="offset", label="offset", kind="length", places=3),
        Column(key="swing", label="full swing", kind="length", places=3),
        Column(key="high", label="reads most at"),
        Column(key="oval", label="oval by", kind="length", places=3),
        Column(key="rms", label="left over", kind="length", places=3),
        Column(key="closure", label="came back off by", kind="length", places=3),
    )
    title = "What one turn says"
    return Table(key="turns", title=title, columns=columns, rows=tuple(rows)) if rows else None


def shims(inputs: Inputs) -> list[tuple[str, float]]:
    """What stands under the bell at each of its screws to bring its face true, the least nought.
    [mm]
    """
    found, swept_d = sweep(inputs, "face"), inputs.value("face_sweep_mm")
    holes = [h for h in placed_holes(inputs) if h.side == "gearbox" and h.hole.role == "bolt"]
    if found is None or not swept_d or not holes:
        return []
    # The face stands nearest to the engine where the dial reads most: there it is held off.
    slope = found.offset / (swept_d / 2.0)
    t = math.radians(found.direction)
    lifts = [slope * (h.u * math.sin(t) + h.v * math.cos(t)) for h in holes]
    low = min(lifts)
    return [(label_of(h.side, h.hole.n), x - low) for h, x in zip(holes, lifts, strict=True)]


def _shims(inputs: Inputs) -> Table | None:
    rows = tuple(TableRow(cells=(label, thick)) for label, thick in shims(inputs))
    columns = (
        Column(key="hole", label="screw"),
        Column(key="shim", label="shim under the bell", kind="length", places=3),
    )
    title = "Shims that bring the face true"
    return Table(key="shims", title=title, columns=columns, rows=rows) if rows else None


def board(inputs: Inputs, seen: Seen) -> Board:
    """Each turn on a clock face, what it says, shims by screw."""
    drawings = tuple(
        _picture(inputs, what, found) for what in TIR if (found := sweep(inputs, what)) is not None
    )
    tables = tuple(t for t in (_turns(inputs), _shims(inputs)) if t is not None)
    return Board(drawings=drawings, tables=tables)
