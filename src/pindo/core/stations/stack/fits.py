"""Bearings and fits: which pilot bearing suits, what its fits are by class, and is the nose worn?

Classes by ISO 286, bearings by ISO 15 and common inch series, from memory. Lengths mm.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.geometry.iso_fits import NoFit, fit, limits
from pindo.core.inputs.couplings import clutched
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import STACK_STATES
from pindo.core.tables import read_table

KEY = "stack.fits"
COLUMNS = ("series", "kind", "bore_mm", "outside_mm", "width_mm")
MOST_ROWS = 8
WITHIN = 1e-9
check = partial(Check, station=Station.STACK, question=KEY, accepts=STACK_STATES)


def nose_wear(nose_d_mm: Numbers, nose_worn_mm: Numbers) -> Numbers:
    """Nose where it is whole less where it ran. [mm]"""
    return nose_d_mm - nose_worn_mm


def worn_clearance(pilot_bore_mm: Numbers, nose_worn_mm: Numbers) -> Numbers:
    """Clearance of the bearing on the worn place. [mm]"""
    return pilot_bore_mm - nose_worn_mm


def seat_left(pilot_room_mm: Numbers, pilot_width_mm: Numbers) -> Numbers:
    """How deep the bearing sinks when it stops at its step; negative stands proud. [mm]"""
    return pilot_room_mm - pilot_width_mm


CHECKS = (
    check(
        id="stack.nose_wear",
        title="Nose, wear",
        value=nose_wear,
        at_most="nose_wear_max_mm",
        says="Nose is worn by {value}; at most {limit}",
        why="A groove takes a new bearing with it. Dress the ends, sleeve it, or renew the shaft.",
    ),
    check(
        id="stack.nose_worn_fit",
        title="Nose where it ran, in the bearing",
        value=worn_clearance,
        at_most="nose_clearance_max_mm",
        says="Where it ran the nose has {value} of clearance in the bearing; at most {limit}",
        why="The clearance is that of the worn place: there it runs.",
    ),
    check(
        id="stack.pilot_proud",
        title="Pilot bearing in the depth of its seat",
        value=seat_left,
        at_least=plain.zero,
        says="The seat is {value} deeper than the bearing is wide",
        fouls="The bearing stands {over} proud of its seat when it is home",
        why="It is driven in flush with wood: what stands proud is hit by flywheel or shoulder.",
    ),
)


@dataclass(frozen=True, kw_only=True)
class Bearing:
    """A bearing of the table beside what is here. [mm]"""

    series: str
    kind: str
    bore: float
    outside: float
    width: float
    note: str
    away: float
    """How much is to be made for it, for the order of the list."""

    @property
    def suits(self) -> bool:
        """Whether it goes in as it is: no sleeve and no ring is made for it."""
        return self.away <= 0.0


def _table(kind: str) -> Iterator[tuple[str, str, float, float, float]]:
    for row in read_table("bearings", *COLUMNS):
        if not kind or row["kind"] == kind:
            at = (float(row[k]) for k in COLUMNS[2:])
            bore, outside, width = at
            yield row["series"], row["kind"], bore, outside, width


def proposals(inputs: Inputs) -> list[Bearing]:
    """Bearings of the table by nose and seat: those that go in as they are first, then those that
    want a ring round them or a sleeve on the nose.
    """
    nose, seat = inputs.value("nose_d_mm"), inputs.value("pilot_seat_mm")
    if nose is None or seat is None:
        return []
    said = inputs.options.get("pilot_kind", "")
    if said == "plain bush":
        return []
    most, near = inputs.rules["nose_clearance_max_mm"], inputs.rules["sleeve_most_mm"]
    wall = 2.0 * inputs.rules["sleeve_wall_mm"]
    press = inputs.rules["press_max_mm"]
    found = []
    for series, kind, bore, outside, width in _table(said):
        play, ring = bore - nose, seat - outside
        # By nominal sizes: a bore below the nose, and a ring without a wall, are none.
        if play < -WITHIN or play > near or press < ring < wall or ring < -press:
            continue
        words = []
        if play > most:
            words.append(f"sleeve on the nose, {bore:g} mm outside")
        if ring >= wall:
            words.append(f"ring, {outside:g} mm inside and {seat:g} mm outside")
        away = (play if play > most else 0.0) + (ring if ring >= wall else 0.0)
        found.append(
            Bearing(
                series=series,
                kind=kind,
                bore=bore,
                outside=outside,
                width=width,
                note="; ".join(words) or "as it is, by its nominal sizes",
                away=away,
            )
        )
    return sorted(found, key=lambda b: (b.away, b.width))


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Whether the table has a bearing that goes in as it is."""
    nose, seat = inputs.value("nose_d_mm"), inputs.value("pilot_seat_mm")
    if nose is None or seat is None or inputs.value("pilot_bore_mm") is not None:
        return
    found = proposals(inputs)
    suits = [b for b in found if b.suits]
    words = (
        f"{suits[0].kind.capitalize()}, {suits[0].series}, suits nose {{nose}} and seat {{seat}}"
        if suits
        else "No bearing of the table goes between nose {nose} and seat {seat} as it is: a bush, a"
        " ring or a sleeve is made"
    )
    yield notice(
        "stack.pilot_choice",
        KEY,
        "Pilot bearing, which",
        Verdict.UNMEASURED,
        in_both(words, "", 2, nose=nose, seat=seat),
        why="It is bought by bore, outside and width, and measured when it comes.",
        inputs=("nose_d_mm", "pilot_seat_mm", "pilot_bore_mm"),
    )


def bearings_table(inputs: Inputs) -> Table:
    """What to ask for at the counter."""
    rows = tuple(
        TableRow(
            cells=(b.kind, b.series, b.bore, b.outside, b.width, b.note),
        )
        for b in proposals(inputs)[:MOST_ROWS]
    )
    columns = (
        Column(key="kind", label="bearing"),
        Column(key="series", label="series"),
        Column(key="bore", label="bore", kind="length", places=2),
        Column(key="out", label="outside", kind="length", places=2),
        Column(key="width", label="width", kind="length", places=2),
        Column(key="note", label="wants"),
    )
    note = (
        "By nose and seat. Sealed on the clutch's side. Driven in flush with wood or a driver on"
        " its outer ring; a bush is soaked in oil first."
    )
    return Table(key="bearings", title="Bearings that suit", columns=columns, rows=rows, note=note)


def fits_table(inputs: Inputs) -> Table:
    """Limits of size by the classes that were chosen, and what was measured beside them."""
    rows = []
    nose, seat = (inputs.options.get(k, "") for k in ("nose_class", "seat_class"))
    for what, nominal_of, hole, shaft, measured in (
        ("nose in its bearing", "pilot_bore_mm", "H7", nose, "nose_d_mm"),
        ("bearing in its seat", "pilot_od_mm", seat, "h6", "pilot_seat_mm"),
    ):
        nominal = inputs.value(nominal_of)
        if nominal is None or not hole or not shaft:
            continue
        near = round(nominal * 2.0) / 2.0
        size = near if abs(nominal - near) < inputs.rules["nominal_off_mm"] else nominal
        try:
            bore, pin = limits(size, hole), limits(size, shaft)
        except NoFit as gone:
            rows.append(TableRow(cells=(what, f"{hole}/{shaft}", *([None] * 6), str(gone))))
            continue
        play = fit(bore, pin)
        read = inputs.value(measured)
        own = pin if measured == "nose_d_mm" else bore
        inside = read is not None and own.low - 1e-9 <= read <= own.high + 1e-9
        rows.append(
            TableRow(
                cells=(
                    what,
                    f"{hole}/{shaft}",
                    bore.low,
                    bore.high,
                    pin.low,
                    pin.high,
                    play.least,
                    play.most,
                    "" if read is None else "within it" if inside else f"reads {read:.3f}, outside",
                ),
                address=measured,
            )
        )
    columns = (
        Column(key="what", label="fit"),
        Column(key="class", label="class"),
        Column(key="bore_low", label="bore from", kind="length", places=3),
        Column(key="bore_high", label="to", kind="length", places=3),
        Column(key="pin_low", label="pin from", kind="length", places=3),
        Column(key="pin_high", label="to", kind="length", places=3),
        Column(key="least", label="least play", kind="length", places=3),
        Column(key="most", label="most play", kind="length", places=3),
        Column(key="read", label="as measured"),
    )
    note = "ISO 286, from memory; minus is interference. A bearing's own rings by its maker."
    return Table(key="fits", title="Limits by class", columns=columns, rows=tuple(rows), note=note)


def board(inputs: Inputs, seen: Seen) -> Board:
    """What to ask for, and the limits by class."""
    tables = (bearings_table(inputs), fits_table(inputs))
    return Board(tables=tuple(t for t in tables if t.rows))


QUESTION = Question(
    path="fits",
    station=Station.STACK,
    name="Fits",
    asks="Which pilot bearing suits, how does it go in, and is the nose worn?",
    options=("pilot_kind", "nose_class", "seat_class"),
    dimensions={
        "A": "nose_d_mm",
        "B": "nose_worn_mm",
        "C": "pilot_bore_mm",
        "D": "pilot_od_mm",
        "E": "pilot_width_mm",
        "F": "pilot_seat_mm",
        "G": "pilot_room_mm",
    },
    when=clutched,
    checks=lambda inputs: CHECKS,
    notices=notices,
    board=board,
    where="block face",
)
