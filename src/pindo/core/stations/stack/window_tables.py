"""What the window of thicknesses tells in tables: what bounds it, what can be had, what opens it,
what a millimetre does elsewhere.
"""

from pindo.core.drawing.board import Cell, Column, Table, TableRow
from pindo.core.geometry.window import Interval
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.evaluate import judge
from pindo.core.judging.stack_up import stack_up
from pindo.core.judging.uncertainty import RECTANGULAR
from pindo.core.stations.stack.effects import effects
from pindo.core.stations.stack.pieces import CHOSEN, Piece, planned_inputs
from pindo.core.stations.stack.thicknesses import Candidate, shim_interval, shim_words, shortlist
from pindo.core.stations.stack.window_of import (
    PLATE,
    SPACER,
    Window,
    alone,
    bounds_of,
    openings,
)
from pindo.core.stations.stack.window_view import bounding

MOST_ROWS = 10
MOST_OPENINGS = 6
MOST_EFFECTS = 14
TIGHTEST = 8
"""Pieces of which the doubt is told three ways."""


def margins_table(inputs: Inputs, found: Window) -> Table:
    """The tightest pieces where it stands, with their doubt three ways."""
    planned = planned_inputs(inputs)
    at = [planned.value(a) or 0.0 for a in CHOSEN]
    edges = {id(found.edges[i].piece) for i in bounding(found)}

    def margin(p: Piece) -> float:
        return p.room + float(p.slope @ at)

    moved = [p for p in found.pieces.known if p.slope[:2].any()]
    ranked = sorted(moved, key=lambda p: (id(p) not in edges, margin(p) - 2.0 * p.u))[:TIGHTEST]
    rows = []
    for p in ranked:
        parts = {
            **p.parts,
            **{
                a: float(k) * planned.quantities[a].u
                for a, k in zip(CHOSEN, p.slope, strict=True)
                if k and planned.quantities[a].u
            },
        }
        flat = frozenset(s for s in parts if planned.quantities[s].source in RECTANGULAR)
        three = stack_up(parts, flat)
        cells: tuple[Cell, ...] = (
            p.check.title,
            _way(p),
            margin(p),
            three.likely,
            three.drawn,
            three.worst,
        )
        mark = judge(p.check, planned).value if inputs.known(CHOSEN) else ""
        rows.append(TableRow(cells=cells, finding=p.check.id, mark=mark))
    columns = (
        Column(key="what", label="bounded by"),
        Column(key="way", label="it wants"),
        Column(key="room", label="room now", kind="length", places=2),
        Column(key="rss", label="± root of squares", kind="length", places=2),
        Column(key="drawn", label="± drawn, 95 %", kind="length", places=2),
        Column(key="worst", label="± all one way", kind="length", places=2),
    )
    return Table(key="bounds", title="What bounds it", columns=columns, rows=tuple(rows))


def _way(p: Piece) -> str:
    """What a piece wants of plate and spacer."""
    words = [
        f"{'thicker' if k > 0 else 'thinner'} {name}"
        for k, name in zip(p.slope, ("plate", "spacer", "shim"), strict=True)
        if abs(k) > 1e-9
    ]
    return ", ".join(words)


def _interval(found: Interval | None, unit_low: float) -> tuple[float | None, float | None]:
    return (None, None) if found is None else (max(found.low, unit_low), found.high)


def alone_table(inputs: Inputs, found: Window) -> Table:
    """Plate alone, spacer alone, and what ends each."""
    rows = []
    for axis, name in ((PLATE, "plate alone"), (SPACER, "crank spacer alone")):
        other = inputs.value(CHOSEN[1 - axis])
        if other is None:
            continue
        only = alone(found, axis, other)
        low, high = _interval(only, bounds_of(axis).low)
        ends = ("", "")
        if only is not None:
            ends = tuple(  # type: ignore[assignment]
                found.edges[i].title if i >= 0 else "" for i in (only.low_by, only.high_by)
            )
        words = "" if only is not None else "nothing: both must change"
        rows.append(
            TableRow(
                cells=(name, inputs.value(CHOSEN[axis]), low, high, ends[0] or words, ends[1]),
                address=CHOSEN[axis],
            )
        )
    here = inputs.known(CHOSEN[:2])
    if here is not None and any(abs(p.slope[2]) > 1e-9 for p in found.pieces.known):
        low, high = shim_interval(inputs, found, here[CHOSEN[PLATE]], here[CHOSEN[SPACER]])
        fits = low <= high + 1e-9
        rows.append(
            TableRow(
                cells=(
                    "shim under the slave alone",
                    inputs.value(CHOSEN[2]),
                    low if fits else None,
                    high if fits else None,
                    "" if fits else "no shim does: the bearing cannot reach and let go at once",
                    "",
                ),
                address=CHOSEN[2],
            )
        )
    columns = (
        Column(key="what", label="changed"),
        Column(key="now", label="now", kind="length", places=2),
        Column(key="low", label="from", kind="length", places=2),
        Column(key="high", label="to", kind="length", places=2),
        Column(key="low_by", label="begins after"),
        Column(key="high_by", label="ends before"),
    )
    return Table(key="alone", title="One of them alone", columns=columns, rows=tuple(rows))


def stock_table(inputs: Inputs, found: Window, ranked: list[Candidate]) -> Table:
    """Thicknesses that can be had, those with most room first."""
    rows = []
    for c in shortlist(ranked, MOST_ROWS):
        how = "milled from" if c.milled else "as it comes:"
        rows.append(
            TableRow(
                cells=(
                    c.plate,
                    f"{how} {c.blank.called}",
                    c.ring.thick,
                    c.ring.called,
                    c.shim,
                    shim_words(inputs, found, c),
                    c.room,
                    c.by,
                    c.blank.price,
                    c.blank.wait,
                ),
                finding=c.finding,
                address=c.blank.row,
                mark=c.verdict.value,
            )
        )
    columns = (
        Column(key="plate", label="plate", kind="length", places=2),
        Column(key="how", label=""),
        Column(key="ring", label="crank spacer", kind="length", places=2),
        Column(key="ring_how", label=""),
        Column(key="shim", label="shim", kind="length", places=2),
        Column(key="shim_how", label=""),
        Column(key="room", label="least room", kind="length", places=2),
        Column(key="by", label="left by"),
        Column(key="price", label="price", kind="money", places=2),
        Column(key="wait", label="days", kind="count", places=0),
    )
    note = (
        "Room is what the tightest check has beyond its limit and its doubt; plate as rolled is"
        " taken with the mill's tolerance. The window's core and every offcut are plate as"
        " thick as the plate was bought: a slave spacer cut from it follows the plate only if both"
        " are milled alike."
    )
    return Table(
        key="had", title="Thicknesses to be had", columns=columns, rows=tuple(rows), note=note
    )


def openings_table(inputs: Inputs, found: Window) -> Table:
    """Parts of which another opens the window, the least change first."""
    rows = tuple(
        TableRow(cells=(o.name, o.part, o.now, o.now + o.change, o.change), address=o.address)
        for o in openings(inputs, found)[:MOST_OPENINGS]
    )
    columns = (
        Column(key="what", label="size"),
        Column(key="part", label="of the"),
        Column(key="now", label="now", kind="length", places=2),
        Column(key="then", label="opens it at", kind="length", places=2),
        Column(key="by", label="change", kind="length", places=2),
    )
    note = "Each alone, with whatever plate and spacer then go; the doubt that it has is left in."
    return Table(key="opens", title="What opens it", columns=columns, rows=rows, note=note)


def effects_table(inputs: Inputs) -> Table:
    """What a millimetre more does at the other stations."""
    rows = tuple(
        TableRow(
            cells=(e.title, e.station, e.by_plate, e.by_spacer),
            finding=e.finding,
        )
        for e in effects(inputs)[:MOST_EFFECTS]
        if e.kind == "length"
    )
    columns = (
        Column(key="what", label="room or length"),
        Column(key="at", label="at"),
        Column(key="plate", label="1 mm more plate", kind="length", places=2),
        Column(key="spacer", label="1 mm more spacer", kind="length", places=2),
    )
    note = (
        "The whole gearbox, its output joint, its mounts and its lever stand a millimetre further"
        " back for each millimetre of plate; a crank spacer moves none of them. Gaps of bodies at"
        " Clear follow when it is tried."
    )
    return Table(
        key="elsewhere",
        title="What a millimetre does elsewhere",
        columns=columns,
        rows=rows,
        note=note,
    )


def cut_table(inputs: Inputs, found: Window, ranked: list[Candidate]) -> Table:
    """What the best that goes is cut from: plate, ring with its bolts and register, shim."""
    best = next((c for c in ranked if c.goes), None)
    rows: list[TableRow] = []
    if best is not None:
        off = best.blank.thick - best.plate
        how = f"milled by {off:.1f} mm" if best.milled else "as it comes"
        rows.append(TableRow(cells=("plate", best.plate, best.blank.called, how, None, None)))
        if best.ring.thick > 0.0:
            circle, bore = inputs.value("crank_pcd_mm"), inputs.value("crank_register_mm")
            across = None if circle is None else circle + 2.0 * inputs.rules["ring_edge_mm"]
            rows.append(
                TableRow(
                    cells=("crank spacer", best.ring.thick, best.ring.called, "", across, bore)
                )
            )
        words = shim_words(inputs, found, best)
        if words not in ("", "none", "as it is"):
            tube = inputs.value("guide_tube_od_mm")
            rows.append(TableRow(cells=("shim", best.shim, words, "", None, tube)))
    columns = (
        Column(key="what", label="piece"),
        Column(key="thick", label="thickness", kind="length", places=2),
        Column(key="from", label="from"),
        Column(key="how", label=""),
        Column(key="across", label="outside, at least", kind="length", places=0),
        Column(key="bore", label="over", kind="length", places=2),
    )
    note = "Of the best in the list above. A slave spacer from a core follows the plate's milling."
    return Table(key="cut", title="Cut from what", columns=columns, rows=tuple(rows), note=note)
