"""Does the clutch free, new and worn? Where the bearing stands, what the stroke can do.

All lengths mm; arrays broadcast. Sums along one axis: closed forms, no published source.
"""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

import numpy as np

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.couplings import clutched
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question, Seen
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import STACK_STATES
from pindo.core.stations.stack.discs import disc_count
from pindo.core.stations.stack.section import section_board

check = partial(Check, station=Station.STACK, question="stack.release", accepts=STACK_STATES)


def release_gap(
    mouth_s: Numbers,
    release_parked_mm: Numbers,
    release_shim_mm: Numbers,
    friction_face_s: Numbers,
    finger_height_mm: Numbers,
) -> Numbers:
    """Parked release bearing to the fingers of a new clutch; negative when it is pushed back.
    [mm]
    """
    bearing = mouth_s + release_parked_mm - release_shim_mm
    return bearing - (friction_face_s + finger_height_mm)


def finger_shift(disc_wear_mm: Numbers, lever_ratio: Numbers, discs: str) -> Numbers:
    """How far the fingers move back as the linings wear: wear of every disc x lever ratio. [mm]"""
    return disc_count(discs) * disc_wear_mm * lever_ratio


def release_wanted(
    disc_wear_mm: Numbers, lever_ratio: Numbers, discs: str, release_spare_mm: float
) -> Numbers:
    """A bearing that stands off without adjuster needs the whole shift, and a spare. [mm]"""
    return finger_shift(disc_wear_mm, lever_ratio, discs) + release_spare_mm


def retract_reserve(
    mouth_s: Numbers,
    release_parked_mm: Numbers,
    release_shim_mm: Numbers,
    friction_face_s: Numbers,
    finger_height_mm: Numbers,
) -> Numbers:
    """How far the bearing can still be pushed back from the fingers of a new clutch; negative when
    it does not reach them. [mm]
    """
    return -release_gap(
        mouth_s, release_parked_mm, release_shim_mm, friction_face_s, finger_height_mm
    )


def retract_wanted(
    disc_wear_mm: Numbers, lever_ratio: Numbers, discs: str, retract_reserve_mm: float
) -> Numbers:
    """A bearing that rides on the fingers must still go back by the shift, and a reserve. [mm]"""
    return finger_shift(disc_wear_mm, lever_ratio, discs) + retract_reserve_mm


def release_stroke(slave_stroke_mm: Numbers) -> Numbers:
    """The stroke that the slave has. [mm]"""
    return slave_stroke_mm


def stroke_wanted(
    mouth_s: Numbers,
    release_parked_mm: Numbers,
    release_shim_mm: Numbers,
    friction_face_s: Numbers,
    finger_height_mm: Numbers,
    finger_travel_mm: Numbers,
    travel_factor: float,
) -> Numbers:
    """Stroke needed with a new disc: the gap, where there is one, then the fingers' travel, with a
    factor for losses. [mm]

    A bearing that is meant to ride and does not reach the fingers has that gap to close too.
    """
    gap = release_gap(
        mouth_s, release_parked_mm, release_shim_mm, friction_face_s, finger_height_mm
    )
    return travel_factor * (np.maximum(gap, 0.0) + finger_travel_mm)


def cover_to_bell(
    bell_mouth_s: Numbers,
    bell_depth_mm: Numbers,
    friction_face_s: Numbers,
    cover_height_mm: Numbers,
) -> Numbers:
    """Rearmost point of the clutch cover to what stands behind it in the bell. [mm]"""
    return bell_mouth_s + bell_depth_mm - (friction_face_s + cover_height_mm)


STROKE = check(
    id="stack.release_stroke",
    title="Release stroke",
    value=release_stroke,
    at_least=stroke_wanted,
    says="Slave strokes {value}; gap and finger travel take {limit}",
    why=(
        "Without the stroke the clutch drags and the gears grind. A bearing that does not reach the"
        " fingers uses it up before it begins."
    ),
)
STANDS_OFF = check(
    id="stack.release_gap",
    title="Release gap",
    value=release_gap,
    at_least=release_wanted,
    monte_carlo=True,
    says="Release bearing stands {value} off the new fingers; a worn disc takes {limit}",
    fouls=(
        "Release bearing is pushed back {over} by the new fingers; a worn disc takes {limit} more"
    ),
    why=(
        "A bearing that stands off must still stand off when the disc is worn: the fingers move"
        " back. If it rides early the clutch slips and burns."
    ),
)
STANDS_OFF_ADJUSTABLE = check(
    id="stack.release_gap",
    title="Release gap",
    value=release_gap,
    at_least="release_gap_min_mm",
    at_most="release_gap_max_mm",
    monte_carlo=True,
    says="Release bearing stands {value} off the new fingers; wants {limit}",
    fouls="Release bearing is pushed back {over} by the new fingers",
    why="Less is used up before the first adjustment; more eats the stroke.",
)
RIDES = check(
    id="stack.retract_reserve",
    title="Retract reserve",
    value=retract_reserve,
    at_least=retract_wanted,
    monte_carlo=True,
    says="Release bearing can still be pushed back {value}; a worn disc takes {limit}",
    fouls="Release bearing does not reach the new fingers by {over}",
    why=(
        "A bearing that rides on the fingers is pushed back as the disc wears. When it bottoms it"
        " holds the clutch open."
    ),
)
PULLS = check(
    id="stack.pull_reserve",
    title="Reserve of a bearing that pulls",
    value=retract_reserve,
    at_least=retract_wanted,
    monte_carlo=True,
    says="Release bearing can still follow the fingers {value}; a worn disc takes {limit}",
    fouls="Release bearing stops {over} behind the new fingers: it pulls all the time",
    why=(
        "Fingers that are pulled go forward as the disc wears, and the bearing with them. One that"
        " reaches its stop holds the clutch open."
    ),
)
UNSAID = check(
    id="stack.release_gap",
    title="Release gap",
    value=plain.read_all,
    given={"release_type": "release_type"},
    reads=("finger_height_mm", "release_parked_mm"),
    at_least=plain.zero,
    says="",
    why="Whether the bearing stands off or rides on the fingers decides which gap is right.",
)
COVER = check(
    id="stack.cover_to_bell",
    title="Clutch cover in the bell",
    value=cover_to_bell,
    at_least="rotating_gap_mm",
    says="Clutch cover clears the bell's floor by {value}; needs {limit}",
    fouls="Clutch cover stands {over} into the bell's floor",
    why="The cover turns and flexes as the clutch is worked.",
)
OF_KIND = {
    "stands off": (STANDS_OFF, STROKE),
    "stands off, adjustable": (STANDS_OFF_ADJUSTABLE, STROKE),
    "rides on the fingers": (RIDES, STROKE),
    "pulls the fingers": (PULLS, STROKE),
}


def checks(inputs: Inputs) -> Iterator[Check]:
    """The kind of release decides which gap is asked."""
    yield from OF_KIND.get(inputs.options.get("release_type", ""), (UNSAID,))
    yield COVER


def _wear_until(inputs: Inputs, gap: float) -> float | None:
    """Wear of each disc at which an adjustable gap is down to its least. [mm]"""
    ratio, least = inputs.value("lever_ratio"), inputs.rules["release_gap_min_mm"]
    if not ratio or gap < least:
        return None
    return (gap - least) / (ratio * disc_count(inputs.options.get("discs", "one")))


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section; gap and stroke new and worn, and the wear at which it is adjusted."""
    drawn = section_board("stack.release")(inputs, seen)
    own = {f.id: f for f in seen.findings}
    gap = own.get("stack.release_gap")
    known = inputs.known(("disc_wear_mm", "lever_ratio"))
    rows: list[TableRow] = []
    if gap is not None and gap.value is not None and known is not None:
        discs = inputs.options.get("discs", "one")
        shift = float(finger_shift(known["disc_wear_mm"], known["lever_ratio"], discs))
        rows.append(TableRow(cells=("Gap of bearing to fingers", gap.value, gap.value - shift)))
        if inputs.options.get("release_type") == "stands off, adjustable":
            wear = _wear_until(inputs, gap.value)
            if wear is not None:
                rows.append(TableRow(cells=("Adjust it after a wear of", wear, None)))
    stroke = own.get("stack.release_stroke")
    if stroke is not None and stroke.value is not None and stroke.low is not None:
        left = stroke.value - stroke.low
        rows.append(TableRow(cells=("Stroke left beyond gap and fingers", left, None)))
    columns = (
        Column(key="what", label=""),
        Column(key="new", label="new", kind="length", places=2),
        Column(key="worn", label="worn", kind="length", places=2),
    )
    table = Table(key="worn", title="New and worn", columns=columns, rows=tuple(rows))
    return replace(drawn, tables=(table,) if rows else ())


QUESTION = Question(
    path="release",
    station=Station.STACK,
    name="Release",
    asks="Does the clutch free, new and worn?",
    options=("release_type",),
    dimensions={
        "A": "finger_height_mm",
        "B": "release_parked_mm",
        "C": "release_shim_mm",
        "D": "cover_height_mm",
        "E": "bell_depth_mm",
        "F": "disc_wear_mm",
        "G": "lever_ratio",
        "H": "finger_travel_mm",
        "J": "slave_stroke_mm",
    },
    when=clutched,
    checks=checks,
    board=board,
    where="block face",
)
