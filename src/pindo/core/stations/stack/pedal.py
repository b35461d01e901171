"""Pedal: does the pedal move the bearing far enough, not too far, and with a leg's force?

Areas A = pi d^2/4; of a concentric slave pi (D^2 - d^2)/4. Slave travel = master travel x A_m/A_s;
bearing travel = slave travel over the fork's ratio. Closed forms (Pascal). Lengths mm, forces N.
"""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

import numpy as np

from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.inputs.couplings import clutched
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.numbers import Numbers, over
from pindo.core.stations.stack.common import STACK_STATES, chosen, unsaid
from pindo.core.stations.stack.release import stroke_wanted

KEY = "stack.pedal"
CABLE = "cable on a fork"
check = partial(Check, station=Station.STACK, question=KEY)


def area_mm2(outside: Numbers, inside: Numbers = 0.0) -> Numbers:
    """Area of a piston, or of a ring. [mm²]"""
    return np.pi / 4.0 * (outside * outside - inside * inside)


def master_travel(
    pedal_travel_mm: Numbers,
    pedal_ratio: Numbers,
    master_stroke_mm: Numbers,
    pushrod_gap_mm: Numbers,
) -> Numbers:
    """What the master's piston moves: the pedal's travel over its ratio less the pushrod's gap, no
    more than its stroke. [mm]
    """
    return np.minimum(over(pedal_travel_mm, pedal_ratio) - pushrod_gap_mm, master_stroke_mm)


def bearing_travel(
    pedal_travel_mm: Numbers,
    pedal_ratio: Numbers,
    master_stroke_mm: Numbers,
    pushrod_gap_mm: Numbers,
    master_bore_mm: Numbers,
    slave_bore_mm: Numbers,
    slave_inside_mm: Numbers,
    fork_ratio: Numbers,
    swell_share: float,
) -> Numbers:
    """How far the pedal moves the bearing, swelling taken off. [mm]"""
    moved = master_travel(pedal_travel_mm, pedal_ratio, master_stroke_mm, pushrod_gap_mm)
    areas = over(area_mm2(master_bore_mm), area_mm2(slave_bore_mm, slave_inside_mm))
    return over(moved * areas * (1.0 - swell_share), fork_ratio)


def cable_travel(
    pedal_travel_mm: Numbers, pedal_ratio: Numbers, pushrod_gap_mm: Numbers, fork_ratio: Numbers
) -> Numbers:
    """The same by a cable. [mm]"""
    return over(over(pedal_travel_mm, pedal_ratio) - pushrod_gap_mm, fork_ratio)


def stroke_to_spare(
    slave_stroke_mm: Numbers,
    pedal_travel_mm: Numbers,
    pedal_ratio: Numbers,
    master_stroke_mm: Numbers,
    pushrod_gap_mm: Numbers,
    master_bore_mm: Numbers,
    slave_bore_mm: Numbers,
    slave_inside_mm: Numbers,
) -> Numbers:
    """What the slave has left when the pedal is on its stop, without any swelling. [mm]"""
    moved = master_travel(pedal_travel_mm, pedal_ratio, master_stroke_mm, pushrod_gap_mm)
    areas = over(area_mm2(master_bore_mm), area_mm2(slave_bore_mm, slave_inside_mm))
    return slave_stroke_mm - moved * areas


def pedal_effort(
    finger_force_n: Numbers,
    pedal_ratio: Numbers,
    master_bore_mm: Numbers,
    slave_bore_mm: Numbers,
    slave_inside_mm: Numbers,
    fork_ratio: Numbers,
    release_efficiency: float,
) -> Numbers:
    """Force at the pad that holds the fingers. [N]"""
    areas = over(area_mm2(master_bore_mm), area_mm2(slave_bore_mm, slave_inside_mm))
    return over(over(finger_force_n * areas, fork_ratio), pedal_ratio) / release_efficiency


def cable_effort(
    finger_force_n: Numbers, pedal_ratio: Numbers, fork_ratio: Numbers, release_efficiency: float
) -> Numbers:
    """The same by a cable. [N]"""
    return over(over(finger_force_n, fork_ratio), pedal_ratio) / release_efficiency


def free_play(pushrod_gap_mm: Numbers, pedal_ratio: Numbers) -> Numbers:
    """What the pad moves before the piston does: pushrod gap x ratio. [mm]"""
    return pushrod_gap_mm * pedal_ratio


TRAVEL = check(
    id="stack.pedal_travel",
    title="Pedal to release bearing, travel",
    value=bearing_travel,
    at_least=stroke_wanted,
    says="The pedal moves the bearing {value}; gap and fingers take {limit}",
    why="Without the travel the clutch drags: another master, slave or pedal ratio.",
    accepts=STACK_STATES,
)
CABLE_TRAVEL = replace(
    TRAVEL,
    value=cable_travel,
    says="The cable moves the bearing {value}; gap and fingers take {limit}",
)
SPARE = check(
    id="stack.slave_spare",
    title="Slave's stroke with the pedal down",
    value=stroke_to_spare,
    at_least=plain.zero,
    says="With the pedal on its stop the slave has {value} of its stroke left",
    fouls="The pedal pushes the slave {over} beyond its stroke: it wants a stop",
    why="A slave that is pushed out of its bore empties itself; fingers bend beyond their travel.",
)
EFFORT = check(
    id="stack.pedal_effort",
    title="Pedal effort",
    value=pedal_effort,
    at_most="pedal_effort_max_n",
    kind="force",
    says="The pedal takes {value}; at most {limit}",
    why="A leg that tires slips the clutch.",
)
CABLE_EFFORT = replace(EFFORT, value=cable_effort)
PLAY = check(
    id="stack.free_play",
    title="Free play at the pedal",
    value=free_play,
    at_least="free_play_min_mm",
    at_most="free_play_max_mm",
    says="The pedal has {value} of free play; wants {limit}",
    why="Without it the master's port stays shut and the clutch creeps out as it warms.",
)


def checks(inputs: Inputs) -> Iterator[Check]:
    """By hydraulics, unless a cable is said."""
    if inputs.options.get("release_by") == CABLE:
        yield from (CABLE_TRAVEL, CABLE_EFFORT, PLAY)
    else:
        yield from (TRAVEL, SPARE, EFFORT, PLAY)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """The bleeder at the top, and which pipe."""
    if inputs.options.get("release_by") == CABLE:
        return
    said = chosen(inputs, "bleeder_at")
    words = {
        "": (Verdict.UNMEASURED, "Where the slave's bleeder stands is not said"),
        "at its highest point": (Verdict.GOES, "The bleeder stands at the slave's highest point"),
        "below it": (
            Verdict.FOULS,
            "The bleeder stands below the slave's highest point: air stays in it. Turn the slave,"
            " or bleed it off the gearbox with its port up",
        ),
    }
    verdict, text = words[said]
    yield notice(
        "stack.bleeder",
        KEY,
        "Bleeder of the slave",
        verdict,
        text,
        why="Air gives way: the pedal goes down and the bearing stays.",
        missing=unsaid(inputs, "bleeder_at"),
        inputs=("bleeder_at",),
    )
    if not chosen(inputs, "release_pipe"):
        yield notice(
            "stack.release_pipe",
            KEY,
            "Pipe of the release",
            Verdict.UNMEASURED,
            "Which pipe joins master and slave is not said: its ends and length differ by version",
            why="The pipe is out of reach once the bell is on.",
            missing=unsaid(inputs, "release_pipe"),
            inputs=("release_pipe",),
        )


def board(inputs: Inputs, seen: Seen) -> Board:
    """Areas, volumes and travels from the pedal to the bearing."""
    at = inputs.value
    rows: list[TableRow] = []

    def row(what: str, value: float | None, kind: str) -> None:
        rows.append(
            TableRow(cells=(what, *(value if kind == k else None for k in ("mm", "cm3", "N"))))
        )

    bore, slave, inside = at("master_bore_mm"), at("slave_bore_mm"), at("slave_inside_mm")
    reads = ("pedal_travel_mm", "pedal_ratio", "master_stroke_mm", "pushrod_gap_mm")
    known = inputs.known(reads)
    moved = None if known is None else float(master_travel(*(known[a] for a in reads)))
    if moved is not None:
        row("Master's piston moves", moved, "mm")
    if bore is not None:
        row("Master gives for each 10 mm", float(area_mm2(bore)) / 100.0, "cm3")
        if moved is not None:
            row("Master gives in all", float(area_mm2(bore)) * moved / 1000.0, "cm3")
    if bore is not None and slave is not None and inside is not None:
        share = float(over(area_mm2(bore), area_mm2(slave, inside)))
        row("Slave moves for each 10 mm of the master", 10.0 * share, "mm")
        if moved is not None:
            lost = moved * share * inputs.rules["swell_share"]
            row("Swelling takes of the slave's travel", lost, "mm")
    columns = (
        Column(key="what", label="from pedal to bearing"),
        Column(key="mm", label="travel", kind="length", places=2),
        Column(key="cm3", label="cm³", kind="ratio", places=2),
        Column(key="n", label="force", kind="force", places=0),
    )
    table = Table(key="travels", title="Travels and volumes", columns=columns, rows=tuple(rows))
    effort = next((f for f in seen.findings if f.id == "stack.pedal_effort"), None)
    readings = (
        (Reading(name="Pedal effort", value=effort.value, kind="force", places=0),)
        if effort is not None and effort.value is not None
        else ()
    )
    return Board(tables=(table,) if rows else (), readings=readings)


QUESTION = Question(
    path="pedal",
    station=Station.STACK,
    name="Pedal",
    asks="Does the pedal move the bearing far enough, not too far, and with a leg's force?",
    options=("release_by", "bleeder_at", "release_pipe", "line_damper"),
    dimensions={
        "A": "pedal_ratio",
        "B": "pedal_travel_mm",
        "C": "pushrod_gap_mm",
        "D": "master_bore_mm",
        "E": "master_stroke_mm",
        "F": "slave_bore_mm",
        "G": "slave_inside_mm",
        "H": "fork_ratio",
        "J": "finger_force_n",
        "K": "slave_stroke_mm",
    },
    when=clutched,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
