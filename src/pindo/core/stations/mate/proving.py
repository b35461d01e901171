"""Proving: is the made plate as drawn, what do its errors do, and what can be saved?"""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Shape
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict, decide
from pindo.core.stations.mate.dials import DOWELS, best_dowel, clock
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.made import (
    Made,
    MadeHole,
    check_distances,
    made,
    readings,
)
from pindo.core.stations.mate.outline import plate_of

KEY = "mate.proving"
BOUGHT = frozenset({"bought", "part of a kit"})
WHY = "A plate is as true as it was made: the drawing knows nothing of the drill."
check = partial(Check, station=Station.MATE, question=KEY)


def off_drawing(read: float, drawn: float) -> float:
    """How far a reading is off the drawing, either way. [mm]"""
    return abs(read - drawn)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Each reading of the made plate beside its drawing."""
    for r in readings(inputs):
        if r.drawn is None:
            continue
        told = Constant(r.drawn, "length")
        thick = r.name == "thickness"
        yield check(
            id=f"mate.proof.{r.n}",
            title=f"Made plate, {r.name}",
            value=off_drawing,
            given={
                "read": f"proofs.{r.n}.value",
                "drawn": "plate_mm" if thick else told,
            },
            at_most="made_tol_mm",
            says=f"Made plate, {r.name}: {{read}} read, {{drawn}} drawn, {{value}} off; at most"
            " {limit}",
            why=WHY,
        )


def _cure(inputs: Inputs, h: MadeHole) -> str:
    """What saves a hole that stands off its place."""
    if h.row.layer == "dowel":
        dowel, left = best_dowel(h.far, tuple(inputs.rules[k] for k in DOWELS))
        if dowel:
            return (
                f"An offset dowel of {dowel:g} mm leaves {left:.2f} mm; or bore it true for a"
                " larger pin"
            )
        return "Ream it true for a larger pin"
    if h.row.layer == "tapped":
        return "Plug it and tap it anew, or open the bell's hole by as much"
    return f"Open it to {h.row.d + 2.0 * h.far:.1f} mm, or slot it by {h.far:.1f} mm"


def _allowed(inputs: Inputs, h: MadeHole) -> float:
    """How far a hole may stand off its place: the play of its screw, else the making tolerance.
    [mm]
    """
    return h.row.play if h.row.layer == "clearance" else inputs.rules["made_tol_mm"]


def _holes(inputs: Inputs, found: Made) -> Iterator[Finding]:
    k = inputs.rules["guard_band_factor"] / 2.0
    unread = [h.row.label for h in found.holes if not h.read]
    for h in found.holes:
        if not h.read:
            continue
        allowed = _allowed(inputs, h)
        verdict = decide(allowed - h.far, k * h.pm)
        cure = "" if verdict == Verdict.GOES else f". {_cure(inputs, h)}"
        yield notice(
            f"mate.made.{h.row.label}",
            KEY,
            f"Hole {h.row.label} as made",
            verdict,
            in_both(
                "Hole {at} stands {off} off its place (± {pm}); {limit} is allowed" + cure,
                h.row.label,
                2,
                off=h.far,
                pm=h.pm,
                limit=allowed,
            ),
            why=WHY,
        )
    if unread:
        yield notice(
            "mate.made.unread",
            KEY,
            "Holes that nothing was read of",
            Verdict.UNMEASURED,
            f"Of the made plate nothing was read at {', '.join(unread)}: see the check distances",
            why=WHY,
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """A bought plate that nobody measured, readings that contradict, holes as made, crank line."""
    told = readings(inputs)
    if inputs.options.get("plate_from") in BOUGHT:
        thick = [r for r in told if r.name == "thickness" and r.value.value is not None]
        between = [r for r in told if r.drawn is not None and r.name != "thickness"]
        least = inputs.rules["thickness_places_min"]
        if len(thick) < least or not between:
            yield notice(
                "mate.bought",
                KEY,
                "Bought plate, measured on arrival",
                Verdict.UNMEASURED,
                f"A bought plate is a claim until it is measured: {len(thick)} of"
                f" {least:g} thicknesses read"
                + ("" if between else ", and none of its check distances"),
                why="Suppliers change faces, dowels and thickness between batches.",
            )
    lost = [r for r in told if r.drawn is None]
    if lost:
        yield notice(
            "mate.proof.lost",
            KEY,
            "Readings that the drawing does not know",
            Verdict.UNMEASURED,
            f"Reading{'s' if len(lost) > 1 else ''} {', '.join(str(r.n) for r in lost)}: the"
            " drawing has no such holes; call them as it does, E3 or G5",
            row=f"proofs.{lost[0].n}",
        )
    found = made(inputs)
    if found is None:
        return
    for n, expected, pm in found.suspects:
        yield notice(
            f"mate.proof.{n}.suspect",
            KEY,
            f"Reading {n} of the made plate",
            Verdict.UNMEASURED,
            in_both(
                "Reading {at} does not fit the others: they expect {value} ± {pm} between centres",
                str(n),
                2,
                value=expected,
                pm=pm,
            ),
            why="Read it once more before metal is cut or thrown away.",
            condition="contradiction",
            row=f"proofs.{n}",
        )
    yield from _holes(inputs, found)
    if found.line is not None:
        limit = inputs.rules["bore_tir_max_mm"]
        swing, pm = 2.0 * found.line.off, 2.0 * found.line.pm
        verdict = decide(limit - swing, inputs.rules["guard_band_factor"] / 2.0 * pm)
        dowel, left = best_dowel(found.line.off, tuple(inputs.rules[k] for k in DOWELS))
        cure = ""
        if verdict != Verdict.GOES and dowel:
            cure = ". Offset dowels of {dowel} would leave {left} of swing"
        yield notice(
            "mate.made.line",
            KEY,
            "Crank line through the made plate",
            verdict,
            in_both(
                "The made plate's dowels make the bell swing {swing} (± {pm}), high at {at}; at"
                " most {limit}" + cure,
                clock(found.line.towards_deg),
                2,
                swing=swing,
                pm=pm,
                limit=limit,
                dowel=dowel,
                left=2.0 * left,
            ),
            why="The dowels of both sides carry the gearbox's axis: half the swing is its offset.",
        )


def distances_table(inputs: Inputs) -> Table:
    """The distances that prove the plate, to be ticked with a calliper."""
    columns = (
        Column(key="a", label="from"),
        Column(key="b", label="to"),
        Column(key="centres", label="centres", kind="length", places=2),
        Column(key="outside", label="over outside edges", kind="length", places=2),
        Column(key="inside", label="over inside edges", kind="length", places=2),
    )
    rows = tuple(
        TableRow(cells=(c.a, c.b, c.centres, c.outside, c.inside))
        for c in check_distances(plate_of(inputs).drilling)
    )
    title = "Check distances: every hole is held by three"
    return Table(key="check_distances", title=title, columns=columns, rows=rows, first=6)


def _made_table(found: Made) -> Table:
    columns = (
        Column(key="hole", label="hole"),
        Column(key="right", label="off, right", kind="length", places=2),
        Column(key="up", label="off, up", kind="length", places=2),
        Column(key="far", label="off in all", kind="length", places=2),
        Column(key="pm", label="±", kind="length", places=2),
    )
    rows = tuple(
        TableRow(cells=(h.row.called, *h.off, h.far, h.pm), mark="" if h.read else "unmeasured")
        for h in found.holes
    )
    return Table(key="made", title="As made, laid on the drawing", columns=columns, rows=rows)


GROWN = 50.0
"""How many times an error is drawn."""


def _errors(found: Made) -> tuple[Shape, ...]:
    """An arrow from each drawn place the way that the made hole stands off, magnified."""
    return tuple(
        Shape(
            part=f"{h.row.label} off",
            points=(
                (h.row.u, h.row.v),
                (h.row.u + GROWN * h.off[0], h.row.v + GROWN * h.off[1]),
            ),
            style="accent",
            closed=False,
        )
        for h in found.holes
        if h.read and h.far * GROWN > 1.0
    )


def _with(d: Drawing, found: Made | None) -> Drawing:
    if found is None:
        return d
    view = f"{d.view}; errors drawn {GROWN:g} times"
    return replace(d, shapes=(*d.shapes, *_errors(found)), view=view)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The face with its errors, check distances, the plate as made."""
    plain_board, found = face_board(KEY)(inputs, seen), made(inputs)
    tables = [t for t in (distances_table(inputs),) if t.rows]
    if found is not None:
        tables.insert(0, _made_table(found))
    return Board(
        drawings=tuple(_with(d, found) for d in plain_board.drawings), tables=tuple(tables)
    )


QUESTION = Question(
    path="proving",
    station=Station.MATE,
    name="As made",
    asks="Is the made plate as drawn, and what do its errors do?",
    lists=("proofs",),
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
