"""Holes by distances: what the readings say of themselves, and the picture of their doubt."""

import math
from collections.abc import Iterator
from dataclasses import replace
from functools import partial

import numpy as np

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.doubt import ellipse, grown_to
from pindo.core.drawing.shapes import Shape
from pindo.core.geometry.hole_network import AXIS, NEXT_PM, PLACE, face_of, pattern
from pindo.core.geometry.network.adjust import normalised
from pindo.core.geometry.network.placed import Placed
from pindo.core.inputs.faces import point_at, reading_at
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.networks import (
    Told,
    agreement,
    named,
    next_words,
    other_side,
    suspects,
    two_places,
)
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate import known
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.marked_readings import reading_lines, twin_rounds
from pindo.core.stations.mate.placing import SIDES, label_of, placed_holes

KEY = "mate.pattern"
WHY = "A hole that is 1 mm off its screw makes a plate that is scrap: the other distances know."


def _label(side: str, n: int) -> str:
    return "the axis" if n == AXIS else label_of(side, n)


def _between(inputs: Inputs, side: str, address: str) -> str:
    face = face_of(inputs.build, side)
    for r in face.readings:
        if address == reading_at(side, r.n):
            a, b = (_label(side, AXIS if n is None else n) for n in (r.a, r.b))
            how = "" if r.over == "centres" else f", {r.over}"
            along = "" if r.along == "straight" else f", {r.along}"
            return f"{a} to {b}{how}{along}"
    for p in face.points:
        for field, words in (("x", "right"), ("y", "up")):
            if address == point_at(side, p.n, field):
                return f"{_label(side, p.hole or AXIS)} in set {p.of}, {words}"
    if address.startswith("scale"):
        return address
    if address == f"{side}.register":
        return "diameter of the register"
    for h in face.holes:
        if address == f"{side}.{h.n}.bore":
            return f"{label_of(side, h.n)}, its diameter"
    return next(
        f"{label_of(side, h.n)}, {words}"
        for h in face.holes
        for field, words in zip(PLACE, ("across", "up"), strict=True)
        if address == f"{side}.{h.n}.{field}"
    )


def _row_of(inputs: Inputs, side: str, address: str) -> str:
    face = face_of(inputs.build, side)
    read = {reading_at(side, r.n): f"{side}.reading{r.n}" for r in face.readings}
    read |= {point_at(side, p.n, f): f"{side}.point{p.n}" for p in face.points for f in ("x", "y")}
    read |= {f"{side}.{h.n}.bore": f"{side}.{h.n}" for h in face.holes}
    typed = {f"{side}.{h.n}.{f}": f"{side}.{h.n}" for h in face.holes for f in PLACE}
    return (read | typed).get(address, "")


def told(inputs: Inputs, side: str) -> Told:
    """How the holes of a casting are spoken of."""
    return Told(
        key=f"mate.read.{side}",
        question=KEY,
        thing="hole",
        title=f"Readings of the {side}'s holes",
        why=WHY,
        label=partial(_label, side),
        between=partial(_between, inputs, side),
        row_of=partial(_row_of, inputs, side),
        row_for=lambda n: f"{side}.{n}",
        next_pm=NEXT_PM,
        places=2,
    )


def _lost(inputs: Inputs, words: Told, side: str, found: Placed) -> Iterator[Finding]:
    """Points of sets that say nothing yet."""
    points = face_of(inputs.build, side).points
    lost = [p for p in points if point_at(side, p.n, "x") in found.unread]
    if lost:
        yield notice(
            f"{words.key}.lost",
            KEY,
            f"Points of the {side} that say nothing yet",
            Verdict.UNMEASURED,
            f"Point{'s' if len(lost) > 1 else ''} {named([p.n for p in lost])} of the {side} want"
            " both figures, a set, a hole that is there, and two of them in a set; a set with a"
            " scale of its own wants one distance between two of its holes",
            why="A photo knows no millimetres, and one point no direction.",
            row=f"{side}.point{lost[0].n}",
        )


def _open(words: Told, side: str, found: Placed) -> Iterator[Finding]:
    """What keeps holes from having a place."""
    holes = [n for n in found.numbers if n != AXIS]
    loose = [n for n in found.loose if n != AXIS]
    if loose and len(loose) == len(holes):
        yield notice(
            f"{words.key}.loose",
            KEY,
            f"Holes of the {side} that nothing holds",
            Verdict.UNMEASURED,
            f"The {side}'s pattern may still move or turn about the crank axis: give distances to"
            " the axis or its register, and of two holes how far one lies across or up from the"
            " other",
            why="Distances know how far holes are from one another, not which way is up.",
            row=f"{side}.{loose[0]}",
        )
    elif loose:
        labels = named([words.label(n) for n in loose])
        more = next_words(words, found, "take too")
        yield notice(
            f"{words.key}.loose",
            KEY,
            f"Holes of the {side} that are not held",
            Verdict.UNMEASURED,
            f"Hole{'s' if len(loose) > 1 else ''} {labels} can still move: each wants two"
            f" distances to holes that are held and not in one line with it{more}",
            why="Too few readings, or all of them in one line with the hole.",
            row=f"{side}.{loose[0]}",
        )
    if found.turned and not found.mirrored:
        yield notice(
            f"{words.key}.turned",
            KEY,
            f"Which way up the {side}'s holes stand",
            Verdict.UNMEASURED,
            f"The {side}'s pattern stands as well turned by {abs(found.turned):.1f}° about the"
            " crank axis: read how far up one hole lies from another, or across where up was read;"
            " or say of one more hole where it lies of the axis",
            why="One reading across fits two directions: a little up, and a little down.",
        )
    if found.mirrored:
        yield notice(
            f"{words.key}.mirror",
            KEY,
            f"Side of the {side}'s holes",
            Verdict.UNMEASURED,
            f"Nobody has said whether the {side}'s holes lie {found.mirrored}: say of one where it"
            " lies of the crank axis",
            why="Distances are the same in the mirror.",
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Whether the readings of each casting agree, and what they leave open."""
    for side in SIDES:
        found = pattern(inputs, side)
        if found is None:
            continue
        words = told(inputs, side)
        if found.unread:
            rows = [r.n for r in face_of(inputs.build, side).readings]
            numbers = [n for n in rows if reading_at(side, n) in found.unread]
            yield from _lost(inputs, words, side, found)
        if found.unread and numbers:
            yield notice(
                f"{words.key}.unread",
                KEY,
                f"Readings of the {side} that say nothing yet",
                Verdict.UNMEASURED,
                f"Reading{'s' if len(numbers) > 1 else ''} {named(numbers)} of the {side} want a"
                " figure, two holes that are there, and their own diameters where edges were read",
                row=f"{side}.reading{numbers[0]}",
            )
        yield from _open(words, side, found)
        yield from suspects(words, found)
        yield from other_side(words, found)
        why = "Two distances meet in two points, one on either side of the line of their holes."
        yield from two_places(words, found, "a coordinate decides", why)
        yield from agreement(words, found, [n for n in found.numbers if n != AXIS])


def _doubt(inputs: Inputs) -> tuple[tuple[Shape, ...], str]:
    """The 95 % ellipse of every hole that has a place by distances, as the face view shows it, and
    what it is drawn times.
    """
    holes = [(h, p) for h in placed_holes(inputs) if (p := pattern(inputs, h.side)) is not None]
    if not holes:
        return (), ""
    longest = max(p.longest(h.hole.n) for h, p in holes)
    size = max(max(abs(h.u), abs(h.v)) for h, _ in holes)
    grown = grown_to(longest, 2.0 * size)
    angle = math.radians(inputs.value("clocking_deg") or 0.0)
    c, s = math.cos(angle), math.sin(angle)
    shapes = []
    for h, p in holes:
        own = p.answer.place_covariance(p.numbers.index(h.hole.n))
        turn = np.array([[c, s], [-s, c]]) if h.side == "gearbox" else np.eye(2)
        shapes.append(ellipse((h.u, h.v), turn @ own @ turn.T, grown))
    times = f"; doubt drawn {grown:g} times" if grown > 1 else "; doubt to scale"
    return tuple(shapes), times


def _table(inputs: Inputs, side: str, found: Placed) -> Table:
    words = told(inputs, side)
    answer = found.answer
    rows = tuple(
        TableRow(
            cells=(words.between(r.id), r.value, float(v), float(red) * 100.0, float(w)),
            address=words.row_of(r.id),
            mark="tight" if red < 0.1 else "",
        )
        for r, v, red, w in zip(
            answer.readings, answer.residuals, answer.redundancy, normalised(answer), strict=True
        )
    )
    columns = (
        Column(key="between", label="reading"),
        Column(key="read", label="read", kind="length", places=2),
        Column(key="off", label="the rest moves it", kind="length", places=2),
        Column(key="checked", label="checked by the rest", kind="percent", places=0),
        Column(key="w", label="off, in its doubt", kind="ratio", places=1),
    )
    title = f"Readings of the {side}'s holes"
    return Table(key=f"readings_{side}", title=title, columns=columns, rows=rows)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The face with the doubt of the holes, and what becomes of each reading."""
    made = face_board(KEY)(inputs, seen)
    shapes, times = _doubt(inputs)
    lines, twins = reading_lines(inputs), twin_rounds(inputs)
    drawings = tuple(
        replace(
            d,
            shapes=(*d.shapes, *shapes, *lines),
            rounds=(*d.rounds, *twins),
            view=f"{d.view}{times}",
        )
        for d in made.drawings
    )
    found = [(side, p) for side in SIDES if (p := pattern(inputs, side)) is not None]
    tables = [*made.tables, *(_table(inputs, side, p) for side, p in found)]
    laid = known.table(inputs)
    if laid.rows:
        tables.append(laid)
    return replace(made, drawings=drawings, tables=tuple(tables))
