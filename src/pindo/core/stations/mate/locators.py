"""Locators: from the crank to the input shaft, what holds each joint in line, how far it floats,
and what that may make the shaft swing.

Float of a joint: half the clearance of pin in hole or spigot in bore; (H - F)/2 of bolts into
threads, (H1 + H2)/2 - F of bolts with nuts (fixed and floating fastener, ASME Y14.5). Worst: all
floats added; likely: root of the sum of squares. A full swing is twice an offset.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

from pindo.core.document.evidence import refused_state
from pindo.core.document.mate_rows import Locator
from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Missing, Verdict
from pindo.core.stations.mate.runout import STANDING

KEY = "mate.locators"
TAKES = {
    "dowels": ("hole", "inside"),
    "register": ("hole", "inside"),
    "fitted bolts": ("hole", "inside"),
    "bolts into threads": ("hole", "inside"),
    "bolts with nuts": ("hole", "hole_2", "inside"),
}
"""Figures that the float of a joint follows from, by what locates it."""
CENTRES = frozenset({"dowels", "register", "fitted bolts"})
"""What holds two parts in line; bolts in clearance holes only clamp them."""
WHY = (
    "Half a clearance here and half one there: the input shaft swings by twice their sum. It wears"
    " the pilot and drags the clutch."
)

check = partial(Check, station=Station.MATE, question=KEY)


@dataclass(frozen=True, kw_only=True)
class Joint:
    """One joint as it stands. [mm]"""

    row: Locator
    told: tuple[Resolved, ...]
    float_mm: float | None
    """How far one part may stand off the other; None while nothing says."""
    u: float

    @property
    def name(self) -> str:
        return self.row.name or f"joint {self.row.n}"

    clash: float = 0.0
    """By how much what goes in is larger than its hole, beyond any press fit."""

    @property
    def centred(self) -> bool:
        """Whether anything holds it in line now."""
        return self.row.by in CENTRES and not self.row.out


def floating(by: str, hole: float, inside: float, hole_2: float = 0.0) -> float:
    """How far two parts may stand off each other, by what joins them. [mm]"""
    if by == "bolts with nuts":
        return max((hole + hole_2) / 2.0 - inside, 0.0)
    return max((hole - inside) / 2.0, 0.0)


def _told(inputs: Inputs, row: Locator, field: str) -> Resolved:
    """A figure of a joint; one that was left empty is wanting all the same."""
    address = f"locators.{row.n}.{field}"
    found: Resolved | None = inputs.quantities.get(address)
    name = f"{row.name or f'Joint {row.n}'}, {Locator.model_fields[field].title}"
    return found or Resolved(address=address, name=name, kind="length")


def joint_of(inputs: Inputs, row: Locator) -> Joint:
    """A joint with the figures that its float follows from."""
    fields = TAKES.get(row.by, ())
    told = tuple(_told(inputs, row, f) for f in fields)
    at = {f: q.value for f, q in zip(fields, told, strict=True)}
    known = {f: v for f, v in at.items() if v is not None}
    if row.by not in TAKES or row.out or len(known) < len(fields):
        return Joint(row=row, told=told, float_mm=None, u=0.0)
    smallest = min(known["hole"], known.get("hole_2", known["hole"]))
    if (clash := known["inside"] - smallest) > inputs.rules["press_max_mm"]:
        return Joint(row=row, told=told, float_mm=None, u=0.0, clash=clash)
    share = {f: 1.0 if f == "inside" and row.by == "bolts with nuts" else 0.5 for f in fields}
    u = math.hypot(*(share[f] * q.u for f, q in zip(fields, told, strict=True)))
    return Joint(row=row, told=told, float_mm=floating(row.by, **known), u=u)


def joints(inputs: Inputs) -> list[Joint]:
    """Every joint of the way, in the order in which it is told."""
    return [joint_of(inputs, row) for row in inputs.build.locators]


@dataclass(frozen=True, kw_only=True)
class Budget:
    """What the joints together may make the shaft swing. [mm]"""

    likely: float
    worst: float
    u: float
    """Standard uncertainty of the worst."""
    dialled: float | None
    """Part of it that a dial has seen, as a full swing."""


def budget(inputs: Inputs, found: list[Joint]) -> Budget | None:
    """The swing of all joints together; None while one of them is open."""
    dial = inputs.quantities["bore_tir_mm"]
    stands = not refused_state(dial.state, STANDING)
    seen = dial.value if stands and any(j.row.dialled for j in found) else None
    counted = [j for j in found if seen is None or not j.row.dialled]
    floats = [j.float_mm for j in counted]
    if not found or any(f is None for f in floats):
        return None
    known = [f or 0.0 for f in floats]
    offsets = known if seen is None else [*known, seen / 2.0]
    u = math.hypot(*(j.u for j in counted), 0.0 if seen is None else dial.u / 2.0)
    return Budget(
        likely=2.0 * math.hypot(*offsets),
        worst=2.0 * math.fsum(offsets),
        u=2.0 * u,
        dialled=seen,
    )


def checks(inputs: Inputs) -> Iterator[Check]:
    """What stands between two parts is as thick everywhere."""
    for row in inputs.build.locators:
        if row.thickest or row.thinnest:
            name = literal(row.name or f"joint {row.n}")
            prefix = f"locators.{row.n}."
            apart = {"apart": f"{prefix}apart"} if row.apart else {}
            over = " over {apart}" if row.apart else ""
            yield check(
                id=f"mate.locators.tilt.{row.n}",
                title=f"{row.name or f'Joint {row.n}'}, thickness all round",
                value=plain.difference,
                given={"a": f"{prefix}thickest", "b": f"{prefix}thinnest"} | apart,
                at_most="face_tir_max_mm",
                says=f"What stands between at {name} differs by {{value}}{over}; at most {{limit}}",
                why="A wedge tilts the gearbox: its shaft bends once a turn.",
            )


def _missing(q: Resolved) -> Missing:
    return Missing(
        address=q.address, name=q.name, letter="", status=q.status.value, detail=q.detail
    )


def _open(j: Joint) -> Finding | None:
    """What keeps a joint from being counted, or leaves it floating whatever the rest does."""
    id, row, title = f"{KEY}.joint.{j.row.n}", f"locators.{j.row.n}", f"What locates {j.name}"
    told = zip(TAKES.get(j.row.by, ()), j.told, strict=True)
    wanting = {f: _missing(q) for f, q in told if q.value is None}
    words = {
        "not said": f"Nobody has said what locates {j.name}",
        "nothing": f"Nothing holds {j.name} in line: it stands where it was clamped",
    }
    if j.row.by in words or j.row.out:
        text = words.get(j.row.by, f"The pins of {j.name} are out: it stands where it was clamped")
        why = "Dial it in, or give it dowels: bolts clamp and centre nothing."
        return notice(id, KEY, title, Verdict.UNMEASURED, text, why=why, row=row)
    if wanting:
        what = " and ".join(str(Locator.model_fields[f].title) for f in wanting)
        text = f"How far {j.name} floats is open: {what} wanting"
        gone = tuple(wanting.values())
        return notice(id, KEY, title, Verdict.UNMEASURED, text, why=WHY, missing=gone, row=row)
    if j.clash:
        return notice(
            id,
            KEY,
            title,
            Verdict.UNMEASURED,
            in_both(
                "What goes into {at} is {clash} larger than its hole: one of the two is misread",
                j.name,
                2,
                clash=j.clash,
            ),
            why="No press fit is that tight. Read both again, and see which is which.",
            row=row,
        )
    if not j.centred:
        return notice(
            id,
            KEY,
            title,
            Verdict.TIGHT if j.row.dialled else Verdict.UNMEASURED,
            in_both(
                "Bolts alone join {at}: nothing centres it, and it floats by {off} each way",
                j.name,
                2,
                off=j.float_mm,
            ),
            why="Clearance holes clamp and centre nothing: dial it, and pin it where it runs true.",
            row=row,
        )
    return None


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Joints that nothing centres, and the swing of all together."""
    found = joints(inputs)
    if not found:
        return
    for j in found:
        if (told := _open(j)) is not None:
            yield told
    total = budget(inputs, found)
    limit = inputs.rules["bore_tir_max_mm"]
    if total is None:
        return
    sure = inputs.rules["guard_band_factor"] * total.u
    verdict = Verdict.GOES if total.worst + sure <= limit else Verdict.TIGHT
    loose = [
        j for j in found if not j.centred and not (j.row.dialled and total.dialled is not None)
    ]
    if loose or total.likely > limit:
        verdict = Verdict.UNMEASURED
    seen = ", the dialled part of it measured" if total.dialled is not None else ""
    yield notice(
        "mate.locators.swing",
        KEY,
        "Swing of the input shaft",
        verdict,
        in_both(
            "{at} swings {likely} as the joints are likely to lie and {worst} at worst"
            + seen
            + "; at most {limit}",
            "The input shaft",
            2,
            likely=total.likely,
            worst=total.worst,
            limit=limit,
        ),
        why=WHY + ("" if verdict == Verdict.GOES else " Only a dial tells where they lie."),
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """Every joint with its float and its share of the worst, and what to dial."""
    found = joints(inputs)
    total = budget(inputs, found)
    whole = math.fsum(j.float_mm or 0.0 for j in found)
    rows = tuple(
        TableRow(
            cells=(
                j.name,
                "pins out" if j.row.out else j.row.by,
                j.float_mm,
                None if j.float_mm is None or not whole else 100.0 * j.float_mm / whole,
                "seen by the dial" if j.row.dialled else "dial it" if not j.centred else "",
            ),
            address=f"locators.{j.row.n}",
            mark="" if j.centred else "unmeasured",
        )
        for j in found
    )
    columns = (
        Column(key="joint", label="joint"),
        Column(key="by", label="located by"),
        Column(key="float", label="floats each way", kind="length", places=3),
        Column(key="share", label="of all floats", kind="percent", places=0),
        Column(key="dial", label="to do"),
    )
    title = "From the crank to the input shaft"
    note = "A full swing is twice the offset: worst, all floats one way; likely, root of squares."
    table = Table(key="locators", title=title, columns=columns, rows=rows, note=note)
    readings = (
        ()
        if total is None
        else (
            Reading(name="Likely swing", value=total.likely, kind="length", places=2),
            Reading(name="Worst swing", value=total.worst, kind="length", places=2),
        )
    )
    return Board(tables=(table,) if rows else (), readings=readings)


QUESTION = Question(
    path="locators",
    station=Station.MATE,
    name="Locators",
    asks="What holds each joint in line, from the crank to the input shaft?",
    lists=("locators",),
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
