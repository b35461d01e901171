"""Clocking: at which angles of the gearbox the plate can be made, what ends each stretch of them,
and which is the best.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.drawing.shapes import Band, Chart, Series
from pindo.core.geometry.frames import clocked
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Missing, Verdict
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.outline import pocket
from pindo.core.stations.mate.placing import pocket_turn
from pindo.core.stations.mate.turning import Rooms, rooms

KEY = "mate.clocking"
STEP = 0.5
"""Between the angles that are looked at. [deg]"""
FINE = 50
"""Angles between two of them, where a stretch ends."""
SLACK = 1e-9
MOST_ROWS = 12
SHOWN = 30.0
"""Room beyond which the chart says no more. [mm]"""
LINES = (
    ("holes", "hole to hole"),
    ("edge", "edge"),
    ("pocket", "pocket"),
    ("heads", "heads"),
)


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """Angles from ``low`` to ``high`` at which everything goes, and what is in the way beyond.
    [deg]
    """

    low: float
    high: float
    before: str
    after: str
    best: float
    """Where the least room is largest, beside what is asked."""
    room: float
    """The least room there. [mm]"""
    by: str
    """What leaves it."""

    def holds(self, degrees: float) -> bool:
        """Whether an angle lies in it."""
        return any(self.low <= degrees + 360.0 * k <= self.high for k in (-1, 0, 1))


@dataclass(frozen=True, kw_only=True)
class Swept:
    """The whole turn, looked at. [deg], [mm]"""

    degrees: np.ndarray
    least: np.ndarray
    """Least room at each angle; NaN where nobody can say."""
    kinds: dict[str, np.ndarray]
    """The same by kind of thing."""
    stretches: tuple[Stretch, ...]
    nearest: tuple[float, str] | None
    """Where nothing goes: the angle that lacks least, and what lacks there."""
    unsaid: tuple[str, ...]
    """Things of which nobody can say at some angle."""


def _worst(at: Rooms) -> tuple[np.ndarray, np.ndarray]:
    """Least room at each angle, NaN where one is not known, and which thing leaves it."""
    known = np.where(np.isnan(at.room), -np.inf, at.room)
    which = known.argmin(1)
    return at.room[np.arange(len(which)), which], which


def _end(inputs: Inputs, goes: float, stops: float) -> tuple[float, str]:
    """The last angle that goes between one that does and one that does not, and what stops it."""
    between = np.linspace(goes, stops, FINE + 1)
    at = rooms(inputs, between)
    assert at is not None
    least, which = _worst(at)
    bad = np.flatnonzero(~(least >= -SLACK))
    first = int(bad[0]) if bad.size else FINE
    why = at.names[which[first]]
    unknown = " (its land is not measured)" if math.isnan(least[first]) else ""
    return float(between[max(first - 1, 0)]), why + unknown


def _runs(good: np.ndarray) -> list[tuple[int, int]]:
    """First and last index of each run of angles that go; one that goes over the end of the turn is
    one run, told beyond it.
    """
    edges = np.flatnonzero(np.diff(np.concatenate([[0], good.astype(int), [0]])))
    found = [(int(a), int(b) - 1) for a, b in edges.reshape(-1, 2)]
    last = len(good) - 1
    if len(found) > 1 and found[0][0] == 0 and found[-1][1] == last:
        found = [*found[1:-1], (found[-1][0], last + found[0][1])]
    return found


def swept(inputs: Inputs) -> Swept | None:
    """The whole turn; None without a plate, or until both castings have a hole."""
    return inputs.once("clocking swept", lambda: _swept(inputs))


def _swept(inputs: Inputs) -> Swept | None:
    degrees = np.linspace(-180.0, 180.0, round(360.0 / STEP) + 1)
    at = None if inputs.value("plate_mm") == 0.0 else rooms(inputs, degrees)
    if at is None:
        return None
    least, which = _worst(at)
    good = least >= -SLACK
    share = np.min(at.room / at.limit, axis=1)
    count = len(degrees) - 1
    stretches = []
    for a, b in _runs(good):
        inside = [i % count if i > count else i for i in range(a, b + 1)]
        k = max(inside, key=lambda i: float(share[i]))
        whole = a == 0 and b == count
        low, before = (
            (-180.0, "") if whole else _end(inputs, -180 + a * STEP, -180 + (a - 1) * STEP)
        )
        high, after = (180.0, "") if whole else _end(inputs, -180 + b * STEP, -180 + (b + 1) * STEP)
        stretches.append(
            Stretch(
                low=low,
                high=high,
                before=before,
                after=after,
                best=float(degrees[k]),
                room=float(least[k]),
                by=at.names[which[k]],
            )
        )
    stretches.sort(key=lambda s: -float(share[round((s.best + 180.0) / STEP)]))
    nearest = None
    if not stretches:
        told = np.where(np.isnan(least), -np.inf, least)
        k = int(told.argmax())
        nearest = (float(degrees[k]), at.names[which[k]])
    kinds = {}
    for kind, _ in LINES:
        own = [i for i, own in enumerate(at.kinds) if own == kind]
        if own:
            kinds[kind] = np.min(at.room[:, own], axis=1)
    unsaid = tuple(n for n, u in zip(at.names, np.isnan(at.room).any(0), strict=True) if u)
    return Swept(
        degrees=degrees,
        least=least,
        kinds=kinds,
        stretches=tuple(stretches),
        nearest=nearest,
        unsaid=unsaid,
    )


def _span(s: Stretch) -> str:
    if s.high - s.low >= 360.0:
        return "all round"
    return f"{_deg(s.low)} to {_deg(s.high)}"


def _deg(x: float) -> str:
    return f"{(x + 180.0) % 360.0 - 180.0:.1f}°".replace("-", "−")


def _ends(s: Stretch) -> str:
    return f"ended by {s.before}, and by {s.after}"


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Where the present angle stands among those that go."""
    found = swept(inputs)
    if found is None:
        return
    q = inputs.quantities["clocking_deg"]
    title, why = "Clocking", "The plate is made for one angle: it says where the gearbox stands."
    best = found.stretches[0] if found.stretches else None
    if best is None:
        angle, by = found.nearest or (0.0, "")
        yield notice(
            "mate.clocking.none",
            KEY,
            title,
            Verdict.UNMEASURED if found.unsaid else Verdict.FOULS,
            f"No angle of the gearbox lets every hole, edge and head go; {_deg(angle)} lacks least,"
            f" by {by}" + (": some lands are not measured" if found.unsaid else ""),
            why="Other screws, a two-plate stack or fewer holes can open an angle.",
        )
        return
    if q.value is None:
        missing = Missing(
            address="clocking_deg", name=q.name, letter="A", status=q.status.value, detail=q.detail
        )
        yield notice(
            "mate.clocking.open",
            KEY,
            title,
            Verdict.UNMEASURED,
            f"Clocking is not chosen; {_span(best)} goes, best {_deg(best.best)}",
            why=why,
            missing=(missing,),
        )
        return
    here = next((s for s in found.stretches if s.holds(q.value)), None)
    if here is None:
        near = min(
            found.stretches,
            key=lambda s: min(abs((q.value or 0.0) - s.low), abs((q.value or 0.0) - s.high)),
        )
        yield notice(
            "mate.clocking.outside",
            KEY,
            title,
            Verdict.TIGHT,
            f"At {_deg(q.value)} something does not surely go; {_span(near)} does, best"
            f" {_deg(near.best)}",
            why=why,
            inputs=("clocking_deg",),
        )
        return
    yield notice(
        "mate.clocking.inside",
        KEY,
        title,
        Verdict.GOES,
        f"{_deg(q.value)} goes, as every angle does; best {_deg(here.best)}"
        if not here.before
        else f"{_deg(q.value)} lies in {_span(here)}, {_ends(here)}; best {_deg(here.best)}",
        why=why,
        inputs=("clocking_deg",),
    )


def chart(found: Swept, inputs: Inputs) -> Chart:
    """Room over the angle, by kind of thing, with the stretches that go."""
    named = dict(LINES)
    return Chart(
        title="Room by angle",
        x_name="clocking, clockwise from behind; room with its doubt taken off",
        x_kind="angle",
        x=tuple(found.degrees.tolist()),
        series=tuple(
            Series(
                name=named[kind],
                kind="length",
                values=tuple(
                    None if math.isnan(x) else float(np.clip(round(x, 2), -SHOWN, SHOWN))
                    for x in values.tolist()
                ),
            )
            for kind, values in found.kinds.items()
        ),
        bands=tuple(Band(low=s.low, high=s.high) for s in found.stretches),
        at=inputs.value("clocking_deg"),
        sets="clocking_deg",
        step=STEP,
    )


def _stretches(found: Swept) -> Table:
    columns = (
        Column(key="span", label="goes from, to"),
        Column(key="best", label="best", kind="angle", places=1),
        Column(key="room", label="least room there", kind="length", places=2),
        Column(key="by", label="left by"),
        Column(key="before", label="begins after"),
        Column(key="after", label="ends before"),
    )
    rows = tuple(
        TableRow(
            cells=(
                _span(s),
                s.best,
                s.room if math.isfinite(s.room) else None,
                s.by,
                s.before or "nothing",
                s.after or "nothing",
            )
        )
        for s in found.stretches[:MOST_ROWS]
    )
    return Table(key="stretches", title="Angles that go", columns=columns, rows=rows)


def _effects(inputs: Inputs, found: Swept) -> Table:
    """What turning takes with it: the output joint, and the starter's pocket where it is the
    housing's.
    """
    told = [inputs.value(k) for k in ("output_left_mm", "output_up_mm")]
    opening = pocket(inputs) if pocket_turn(inputs) == "clocking_deg" else None
    now = inputs.value("clocking_deg")
    angles = {} if now is None else {now: "as it is"}
    for i, s in enumerate(found.stretches[:3]):
        angles.setdefault(s.best, "best" if i == 0 else "best there")
        angles.setdefault(round(s.low, 1), "first that goes")
        angles.setdefault(round(s.high, 1), "last that goes")
    rows = []
    for angle in sorted(angles):
        left = up = across = high = None
        if told[0] is not None and told[1] is not None:
            u, v = clocked(-told[0], told[1], angle)
            left, up = -float(u), float(v)
        if opening is not None:
            u, v = clocked(opening.u, opening.v, angle - (now or 0.0))
            across, high = float(u), float(v)
        rows.append(TableRow(cells=(angles[angle], angle, up, left, high, across)))
    columns = (
        Column(key="what", label=""),
        Column(key="angle", label="clocking", kind="angle", places=1),
        Column(key="up", label="output joint above crank axis", kind="length", places=1),
        Column(key="left", label="output joint left of it", kind="length", places=1),
        Column(key="high", label="starter pocket above it", kind="length", places=1),
        Column(key="across", label="starter pocket right of it", kind="length", places=1),
    )
    note = (
        "The output joint, and everything else that is told of the gearbox, is told with the"
        " gearbox upright. Bodies and mounts of the gearbox and its lever turn by the same angle."
        " The engine and its sump stay as they are; the roll of the unit, at Seat, leans them."
    )
    return Table(
        key="turned", title="What turns with it", columns=columns, rows=tuple(rows), note=note
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """The face to turn, room over the angle, angles that go, what turns with it."""
    made = face_board(KEY)(inputs, seen)
    found = swept(inputs)
    if found is None:
        return made
    best = (
        (Reading(name="Best angle", value=found.stretches[0].best, kind="angle", places=1),)
        if found.stretches
        else ()
    )
    return Board(
        drawings=made.drawings,
        tables=(_stretches(found), _effects(inputs, found)),
        charts=(chart(found, inputs),),
        readings=best,
    )


QUESTION = Question(
    path="clocking",
    station=Station.MATE,
    name="Clocking",
    asks="At which angles of the gearbox does everything go?",
    dimensions={"A": "clocking_deg"},
    when=bellhoused,
    notices=notices,
    board=board,
    where="block face",
)
