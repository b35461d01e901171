"""The bay from a tape: do the readings agree, and where is every mark?"""

from collections.abc import Iterator

import numpy as np

from pindo.core.document.build import Build
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.doubt import ellipse, grown_to
from pindo.core.drawing.shapes import Drawing, Note, Round, Shape
from pindo.core.geometry.bay import FRAME, MARK_PLACES, NEXT_PM, bay
from pindo.core.geometry.frames import SIDE
from pindo.core.geometry.network.placed import Placed
from pindo.core.geometry.network.readings import Distance
from pindo.core.inputs.dimensions import Station
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
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.survey import rails

QUESTION_KEY = "survey.bay"
WHY = "A tape read wrong by 100 mm puts a mount where no metal is: the other readings know."
VIEWS = (
    ("Side", "from the left, vehicle front to the left", 0, 1.0, 2),
    ("From above", "from above, vehicle front to the left, vehicle right is up", 0, 1.0, 1),
    ("From behind", "from behind, looking forwards", 1, -1.0, 2),
)
EDGE = 0.12


def _between(build: Build, address: str) -> str:
    """What a reading is between, in words."""
    for t in build.tape:
        if address == f"tape.{t.n}.value":
            along = "" if t.along == "straight" else f", {t.along}"
            return f"{t.a} to {t.b}{along}"
    return next(
        f"mark {m.n}, {words}"
        for m in build.marks
        for name, words in (("back", "behind"), ("left", "left"), ("up", "above"))
        if address == f"marks.{m.n}.{name}"
    )


def _row_of(build: Build, address: str) -> str:
    rows = (*(f"tape.{t.n}" for t in build.tape), *(f"marks.{m.n}" for m in build.marks))
    return next(r for r in rows if address.startswith(f"{r}."))


def _told(build: Build) -> Told:
    return Told(
        key=QUESTION_KEY,
        question=QUESTION_KEY,
        thing="mark",
        title="Readings of the bay",
        why=WHY,
        label=str,
        between=lambda address: _between(build, address),
        row_of=lambda address: _row_of(build, address),
        row_for=lambda n: f"marks.{n}",
        next_pm=NEXT_PM,
    )


def _frame(told: Told, found: Placed) -> Iterator[Finding]:
    """What keeps the marks from having a place."""
    loose = [found.numbers[i] for i in found.answer.loose]
    if found.held < FRAME:
        yield notice(
            f"{QUESTION_KEY}.frame",
            QUESTION_KEY,
            "Frame of the marks",
            Verdict.UNMEASURED,
            f"{found.held} of {FRAME} figures hold the frame: give three of one mark, two of a"
            " second and one of a third (behind, left, above)",
            why="A tape knows how far marks are from one another, not where the vehicle is.",
        )
    elif loose:
        more = next_words(told, found, "take too")
        yield notice(
            f"{QUESTION_KEY}.loose",
            QUESTION_KEY,
            "Marks that are not held",
            Verdict.UNMEASURED,
            f"Mark{'s' if len(loose) > 1 else ''} {named(loose)} can still move: each wants three"
            f" distances, or a height and two, to marks that are held and not in one line{more}",
            why="Too few readings, or all of them in one plane with the mark.",
            row=f"marks.{loose[0]}",
        )
    if found.mirrored:
        yield notice(
            f"{QUESTION_KEY}.mirror",
            QUESTION_KEY,
            "Side of the marks",
            Verdict.UNMEASURED,
            f"Nobody has said whether the marks lie {found.mirrored} of the datum: say it of one",
            why="Distances are the same in the mirror.",
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Whether the readings agree, what they leave open, and which of them the rest contradicts."""
    yield from rails.notices(inputs)
    found = bay(inputs)
    if found is not None:
        yield from _of_readings(inputs.build, found)


def _of_readings(build: Build, found: Placed) -> Iterator[Finding]:
    told = _told(build)
    if found.unread:
        names = [int(t.n) for t in build.tape if f"tape.{t.n}.value" in found.unread]
        yield notice(
            f"{QUESTION_KEY}.unread",
            QUESTION_KEY,
            "Readings that say nothing yet",
            Verdict.UNMEASURED,
            f"Reading{'s' if len(names) > 1 else ''} {named(names)} want a figure and two marks"
            " that are there",
            row=f"tape.{names[0]}",
        )
    yield from _frame(told, found)
    yield from suspects(told, found)
    yield from other_side(told, found)
    why = "Three distances meet in two points, one on either side of their marks."
    yield from two_places(told, found, "a height decides", why)
    if sum(found.place(n) is not None for n in found.numbers) >= 3 and found.held >= FRAME:
        yield from agreement(told, found, found.numbers)


def _drawing(build: Build, found: Placed, view: tuple[str, str, int, float, int]) -> Drawing | None:
    name, words, across, sign, up = view
    answer = found.answer
    at = {
        n: (sign * float(answer.places[i, across]), float(answer.places[i, up]))
        for i, n in enumerate(found.numbers)
        if i not in answer.loose
    }
    if len(at) < 2:
        return None
    xs, ys = zip(*at.values(), strict=True)
    wide, tall = max(xs) - min(xs), max(ys) - min(ys)
    size = max(wide, tall, 1.0)
    longest = max(float(answer.semi_axes(found.numbers.index(n))[0]) for n in at)
    grown = grown_to(longest, size)
    turn = np.array([[sign, 0.0], [0.0, 1.0]])
    shapes = []
    for r in answer.readings:
        if isinstance(r, Distance):
            a, b = at.get(found.numbers[r.a]), at.get(found.numbers[r.b])
            if a and b:
                shapes.append(Shape(part="distance", points=(a, b), style="hidden", closed=False))
    for n, place in at.items():
        own = answer.place_covariance(found.numbers.index(n))[np.ix_([across, up], [across, up])]
        shapes.append(ellipse(place, turn @ own @ turn.T, grown))
    for solid in build.solids:
        ends = [at[n] for n in solid.marks if n in at]
        if solid.marks_are == "ends" and len(ends) > 1:
            part = f"{solid.n} {solid.name}".strip()
            line = (ends[0], ends[-1])
            shapes.append(Shape(part=part, points=line, style="rail", closed=False))
    names = {m.n: f"{m.n} {m.name}".strip() for m in build.marks}
    magnified = f"; doubt drawn {grown:g} times" if grown > 1 else "; doubt to scale"
    ahead = SIDE["vehicle_front"].called(build.nicknames)
    edge_x, edge_y = EDGE * max(wide, 0.3 * size), EDGE * max(tall, 0.3 * size)
    return Drawing(
        name=name,
        view=f"{words}{magnified}",
        x_low=min(xs) - edge_x,
        x_high=max(xs) + edge_x,
        y_low=min(ys) - edge_y,
        y_high=max(ys) + edge_y,
        shapes=tuple(shapes),
        rounds=tuple(
            Round(part=names[n], x=x, y=y, d=0.012 * size, style="joint", label=str(n))
            for n, (x, y) in at.items()
        ),
        notes=(
            Note(
                text=ahead,
                x=min(xs) - 0.8 * edge_x,
                y=min(ys) - 0.8 * edge_y,
            ),
        )
        if across == 0
        else (),
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """The marks from three sides with their doubt, and where each lies."""
    found = bay(inputs)
    if found is None:
        return Board(tables=rails.tables(inputs))
    drawings = tuple(d for v in VIEWS if (d := _drawing(inputs.build, found, v)) is not None)
    columns = (
        Column(key="mark", label="mark"),
        *(
            Column(key=k, label=k, kind="length", places=1)
            for k in ("behind front axle", "left of centre", "above rail", "±, longest")
        ),
    )
    rows = []
    for m in inputs.build.marks:
        place = found.place(m.n)
        longest = found.answer.semi_axes(found.numbers.index(m.n))[0]
        cells = (
            (None, None, None, None)
            if place is None
            else (*(float(x) for x in place), float(longest))
        )
        rows.append(TableRow(cells=(f"{m.n} {m.name}".strip(), *cells), address=f"marks.{m.n}"))
    table = Table(
        key="marks", title="Where the marks are", columns=columns, rows=tuple(rows), of_record=True
    )
    return Board(drawings=drawings, tables=(table, *rails.tables(inputs)))


QUESTION = Question(
    path="bay",
    station=Station.SURVEY,
    name="Bay",
    asks="Do tape, level and plumb readings agree? Where is every mark, rail and boss?",
    lists=("marks", "tape", "bosses"),
    gives=(MARK_PLACES,),
    checks=rails.checks,
    notices=notices,
    board=board,
)
