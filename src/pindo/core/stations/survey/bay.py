"""The bay from a tape: do the readings agree, and where is every mark?"""

import math
from collections.abc import Iterator

import numpy as np

from pindo.core.document.build import Build
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Note, Round, Shape
from pindo.core.geometry.bay import FRAME, MARK_PLACES, NEXT_PM, bay
from pindo.core.geometry.frames import SIDE
from pindo.core.geometry.network.adjust import LEAST_FREEDOM, LEAST_REDUNDANCY, Suspect
from pindo.core.geometry.network.placed import Placed
from pindo.core.geometry.network.readings import Distance
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.threads import INCH_MM
from pindo.core.inputs.units import write
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Sentence, Verdict
from pindo.core.stations.survey import rails

QUESTION_KEY = "survey.bay"
ROUND_SLIPS = (1000.0, 500.0, 200.0, 100.0, 50.0, 10.0)
MOST_NAMED = 6
WHY = "A tape read wrong by 100 mm puts a mount where no metal is: the other readings know."
VIEWS = (
    ("Side", "from the left, vehicle front to the left", 0, 1.0, 2),
    ("From above", "from above, vehicle front to the left, vehicle right is up", 0, 1.0, 1),
    ("From behind", "from behind, looking forwards", 1, -1.0, 2),
)
EDGE = 0.12
GROWN = (1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)
SHOWN = 0.06
"""Share of the picture that the longest doubt may take."""


def slip(read: float, expected: float, pm: float) -> str:
    """How a reading may have come out wrong, in words; empty where nothing common explains it.
    [mm]
    """
    off = read - expected
    near = max(pm, 1.5)
    digits = f"{read:g}"
    for i in range(len(digits) - 1):
        if "." in digits[i : i + 2]:
            continue
        swapped = digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :]
        if swapped != digits and abs(float(swapped) - expected) <= near:
            return f"two digits swapped: {swapped}"
    for step in ROUND_SLIPS:
        if abs(abs(off) - step) <= near:
            return f"read {step:g} mm {'short' if off < 0 else 'long'}"
    if abs(read * INCH_MM - expected) <= near * INCH_MM / 2:
        return "read in inches, written as millimetres"
    return ""


def _named(numbers: list[int]) -> str:
    shown = ", ".join(map(str, numbers[:MOST_NAMED]))
    more = len(numbers) - MOST_NAMED
    return f"{shown} and {more} more" if more > 0 else shown


def _both(template: str, **lengths: tuple[float, float | None]) -> Sentence:
    """A sentence with lengths, each with its ± or none, in both systems. [mm]"""

    def told(system: str) -> str:
        words = {}
        for name, (value, pm) in lengths.items():
            text = write(value, "length", system, 1)
            if pm is not None:
                number, unit = text.rsplit(" ", 1)
                text = f"{number} ± {write(pm, 'length', system, 1).rsplit(' ', 1)[0]} {unit}"
            words[name] = text
        return template.format(**words)

    return Sentence(mm=told("mm"), inch=told("in"))


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


def _suspects(build: Build, found: Placed) -> Iterator[Finding]:
    suspects: tuple[Suspect, ...] = found.answer.suspects
    for s in suspects:
        name = _between(build, s.id)
        why = slip(s.read, s.expected, s.pm)
        off = s.read - s.expected
        told = f" ({why})" if why else ""
        others = [_between(build, r) for r in s.rivals]
        if others:
            told += f", unless it is {' or '.join(others[:MOST_NAMED])} that is wrong: a distance"
            told += " more would tell"
        if s.doubtful:
            marks = _named([found.numbers[p] for p in s.doubtful])
            told += f", and mark{'s' if len(s.doubtful) > 1 else ''} {marks} has no place till then"
        text = (
            f"{name[0].upper()}{name[1:]} was read {{read}}; the rest says {{rest}}: {{off}}"
            f" {'short' if off < 0 else 'long'}{told}. It is left out until it is read again"
        )
        yield notice(
            f"{QUESTION_KEY}.{s.id}",
            QUESTION_KEY,
            f"Reading {name}",
            Verdict.UNMEASURED,
            _both(text, read=(s.read, None), rest=(s.expected, s.pm), off=(abs(off), None)),
            condition="contradiction",
            why=WHY,
            row=_row_of(build, s.id),
        )


def _frame(found: Placed) -> Iterator[Finding]:
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
        pair = found.next(NEXT_PM)
        more = f"; take the distance {pair[0]} to {pair[1]} too" if pair else ""
        yield notice(
            f"{QUESTION_KEY}.loose",
            QUESTION_KEY,
            "Marks that are not held",
            Verdict.UNMEASURED,
            f"Mark{'s' if len(loose) > 1 else ''} {_named(loose)} can still move: each wants three"
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
    answer = found.answer
    if found.unread:
        names = [int(t.n) for t in build.tape if f"tape.{t.n}.value" in found.unread]
        yield notice(
            f"{QUESTION_KEY}.unread",
            QUESTION_KEY,
            "Readings that say nothing yet",
            Verdict.UNMEASURED,
            f"Reading{'s' if len(names) > 1 else ''} {_named(names)} want a figure and two marks"
            " that are there",
            row=f"tape.{names[0]}",
        )
    yield from _frame(found)
    yield from _suspects(build, found)
    for t in found.twins:
        mark = found.numbers[t.point]
        to = None if t.to is None else found.numbers[t.to]
        decides = (
            f"the distance {mark} to {to} decides: {{here}} here, {{there}} there"
            if to is not None
            else "a height decides"
        )
        yield notice(
            f"{QUESTION_KEY}.twin.{mark}",
            QUESTION_KEY,
            f"Mark {mark}, two places",
            Verdict.UNMEASURED,
            _both(
                f"Mark {mark} fits at two places; {decides}",
                here=(t.here, None),
                there=(t.there, None),
            ),
            why="Three distances meet in two points, one on either side of their marks.",
            row=f"marks.{mark}",
        )
    held = [n for n in found.numbers if found.place(n) is not None]
    if len(held) < 3 or found.held < FRAME:
        return
    worst = max(held, key=lambda n: float(answer.semi_axes(found.numbers.index(n))[0]))
    longest = float(answer.semi_axes(found.numbers.index(worst))[0])
    alone = sum(r < LEAST_REDUNDANCY for r in answer.redundancy)
    checked = answer.freedom >= LEAST_FREEDOM
    pair = found.next(NEXT_PM)
    more = f"; next the distance {pair[0]} to {pair[1]}" if pair else ""
    if not checked:
        verdict, text = (
            Verdict.UNMEASURED,
            f"{len(held)} marks have a place, but nothing checks their readings: a misreading"
            f" cannot be told{more}",
        )
    elif not answer.agrees:
        verdict, text = (
            Verdict.TIGHT,
            f"Readings differ {math.sqrt(answer.variance_factor):.1f} times as much as their ±"
            " allow: the doubt of the marks was enlarged. Mark"
            f" {worst} is the worst, to {{worst}}",
        )
    else:
        unchecked = f"; {alone} of them nothing checks" if alone else ""
        verdict, text = (
            Verdict.GOES,
            f"{len(held)} of {len(found.numbers)} marks have a place, from"
            f" {len(answer.readings)} readings, {answer.freedom} more than needed{unchecked}."
            f" Mark {worst} is the least sure, to {{worst}}{more}",
        )
    yield notice(
        f"{QUESTION_KEY}.agree",
        QUESTION_KEY,
        "Readings of the bay",
        verdict,
        _both(text, worst=(longest, None)),
        why=WHY,
    )


def _ellipse(centre: tuple[float, float], covariance: np.ndarray, grown: float) -> Shape:
    values, vectors = np.linalg.eigh(covariance)
    axes = np.sqrt(np.maximum(values, 0.0) * 5.991) * grown
    turn = np.linspace(0.0, 2 * math.pi, 33)[:-1]
    around = vectors @ (axes[:, None] * np.stack([np.cos(turn), np.sin(turn)]))
    points = tuple(
        (centre[0] + float(x), centre[1] + float(y)) for x, y in zip(*around, strict=True)
    )
    return Shape(part="doubt, 95 %", points=points, style="thin")


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
    grown = max((g for g in GROWN if g * longest <= SHOWN * size), default=1.0)
    turn = np.array([[sign, 0.0], [0.0, 1.0]])
    shapes = []
    for r in answer.readings:
        if isinstance(r, Distance):
            a, b = at.get(found.numbers[r.a]), at.get(found.numbers[r.b])
            if a and b:
                shapes.append(Shape(part="distance", points=(a, b), style="hidden", closed=False))
    for n, place in at.items():
        own = answer.place_covariance(found.numbers.index(n))[np.ix_([across, up], [across, up])]
        shapes.append(_ellipse(place, turn @ own @ turn.T, grown))
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
        Column(key="mark", label="mark", wide=2.0),
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
