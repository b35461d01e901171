"""Ratings: does every part carry what the engine gives, and what may it give?

Margin: rating over load. Torque from power: T = 9549 P/n (kW, rpm). [N·m]
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from pindo.core.document.stack_rows import Link
from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.geometry.chain import torque_nm
from pindo.core.inputs.couplings import bellhoused, clutched
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check, Formula
from pindo.core.judging.evaluate import judge, missing_inputs
from pindo.core.judging.notice import in_kinds, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.uncertainty import outcome
from pindo.core.judging.verdict import SEVERITY, Finding, Verdict
from pindo.core.numbers import Numbers, over
from pindo.core.stations.stack.carried import (
    ENGINE,
    FED,
    GRIPS,
    Carried,
    capped_by_grip,
    caps,
    carried,
    grip_torque,
    in_gears,
    margin_with_grip,
    share_of,
)
from pindo.core.stations.stack.common import STACK_STATES, STRENGTH

KEY = "stack.strength"
check = partial(Check, station=Station.STACK, question=KEY, accepts=STACK_STATES)


def torque_ratio(rating_nm: Numbers, load_nm: Numbers) -> Numbers:
    """Rating over load [-]."""
    return over(rating_nm, load_nm)


def _margin(of: Formula, rating: str) -> Formula:
    def value(read: Mapping[str, Numbers], tyre_grip: float) -> Numbers:
        load_: Numbers = of(read, tyre_grip)
        return over(read[rating], load_)

    return value


CLUTCH = check(
    id="stack.clutch_torque",
    title="Clutch against the engine's torque",
    value=torque_ratio,
    at_least="clutch_torque_factor",
    given={"rating_nm": "clutch_torque_nm", "load_nm": ENGINE},
    kind="ratio",
    safety=True,
    says="Clutch is rated {value} times the engine's torque; wants {limit}",
    why="Heat, wear and oil mist take their share of a clutch's grip.",
    caution=STRENGTH,
)
GEARBOX = check(
    id="stack.gearbox_torque",
    title="Gearbox against the engine's torque",
    value=torque_ratio,
    at_least="gearbox_torque_factor",
    given={"rating_nm": "gearbox_torque_nm", "load_nm": ENGINE},
    kind="ratio",
    safety=True,
    says="Gearbox is rated {value} times the engine's torque; wants {limit}",
    why="The weakest link of the torque chain sets what the engine may give.",
    caution=STRENGTH,
)


def _link_check(c: Carried) -> Check:
    told = literal(c.name)
    return check(
        id=c.id,
        title=f"{c.name[:1].upper()}{c.name[1:]} against what it carries",
        value=_margin(c.load, c.rating),
        reads=(*c.reads, c.rating),
        at_least="link_factor",
        kind="ratio",
        safety=True,
        says=f"{told[:1].upper()}{told[1:]}: rated {{value}} times the load in"
        f" {literal(c.gear.name)}; wants {{limit}}",
        why="The weakest part of the chain sets what the engine may give, in the gear that loads it"
        " most.",
        caution=STRENGTH,
    )


def _fed_check(row: Link) -> Check:
    """What feeds or cools, at the same engine speed."""
    name = row.name or f"part {row.n}"
    told, at = literal(name), f"links.{row.n}."
    return check(
        id=f"stack.fed.{row.n}",
        title=f"{name[:1].upper()}{name[1:]} against the engine's power",
        value=torque_ratio,
        at_least="feed_factor",
        given={"rating_nm": f"{at}power", "load_nm": "engine_power_kw"},
        kind="ratio",
        safety=True,
        says=f"{told[:1].upper()}{told[1:]}: rated {{value}} times the engine's power; wants"
        " {limit}",
        why="An engine that is starved or boils does not give what it is said to.",
        caution=STRENGTH,
    )


def checks(inputs: Inputs) -> Iterator[Check]:
    """Clutch and gearbox, then every part of the list."""
    if clutched(inputs):
        yield CLUTCH
    if bellhoused(inputs):
        yield GEARBOX
    yield from (_link_check(c) for c in carried(inputs))
    yield from (_fed_check(row) for row in inputs.build.links if row.at == FED)


def _same_speed(inputs: Inputs) -> Iterator[Finding]:
    """Parts rated in power are compared at the engine's own speed or not at all."""
    rpm = inputs.value("engine_rpm")
    for row in inputs.build.links:
        at = inputs.value(f"links.{row.n}.speed")
        if (
            row.at != FED
            or at is None
            or rpm is None
            or abs(at - rpm) <= inputs.rules["same_speed_share"] * rpm
        ):
            continue
        name = row.name or f"part {row.n}"
        yield notice(
            f"stack.fed_speed.{row.n}",
            KEY,
            f"{name[:1].upper()}{name[1:]}, at which speed",
            Verdict.UNMEASURED,
            f"{name[:1].upper()}{name[1:]} is rated at {at:.0f} rpm, the engine's power is told at"
            f" {rpm:.0f}: they say nothing of one another",
            why="Pumps and radiators give with speed: compare both at one speed.",
            row=f"links.{row.n}",
        )


def _two_figures(inputs: Inputs) -> Iterator[Finding]:
    """Torque at the power's speed is no more than the greatest."""
    known = inputs.known(("engine_power_kw", "engine_rpm", ENGINE))
    if known is None:
        return
    at = float(torque_nm(known["engine_power_kw"], known["engine_rpm"]))
    if np.isfinite(at) and at > known[ENGINE] * (1.0 + inputs.rules["power_torque_share"]):
        yield notice(
            "stack.power_torque",
            KEY,
            "Power beside torque",
            Verdict.FOULS,
            in_kinds(
                "Power at its speed makes {at}, more than the greatest torque {most}: one of the"
                " three is wrong",
                at=(at, "torque"),
                most=(known[ENGINE], "torque"),
            ),
            why="T = 9549 P/n: torque anywhere is no more than its greatest.",
            inputs=("engine_power_kw", "engine_rpm", ENGINE),
        )


@dataclass(frozen=True, kw_only=True)
class Weakest:
    """Which part is reached first, in which gear, and the engine's torque at which it is."""

    name: str
    gear: str
    ratio: float
    limit_nm: float
    verdict: Verdict
    """The worst of all the parts that are rated, with their doubt and their limits."""


def _ratio(c: Check, inputs: Inputs) -> float | None:
    if missing_inputs(c, inputs):
        return None
    known = inputs.known(c.addresses)
    if known is None:
        return None
    found = float(np.asarray(outcome(c, inputs, known).value).reshape(-1)[0])
    return found if np.isfinite(found) else None


def weakest(inputs: Inputs) -> tuple[Weakest | None, list[str]]:
    """The weakest of those whose rating counts, and those whose rating is not known."""
    engine = inputs.value(ENGINE)
    found: list[Weakest] = []
    unknown: list[str] = []
    every: list[tuple[Check, str, str, Formula | None, tuple[str, ...], str]] = []
    if clutched(inputs):
        every.append((CLUTCH, "clutch", "any gear", None, (), ""))
    if bellhoused(inputs):
        every.append((GEARBOX, "gearbox", "any gear", None, (), ""))
    every += [
        (_link_check(c), c.name, c.gear.name, c.load, c.reads, c.rating) for c in carried(inputs)
    ]
    for one, name, gear, of, reads, rating in every:
        ratio = _ratio(one, inputs)
        if ratio is None or engine is None:
            unknown.append(name)
            continue
        limit = engine * ratio
        if of is not None and capped_by_grip(inputs, of, reads, engine):
            # The tyres slip first: only more grip loads it further.
            limit = (
                float("inf")
                if ratio >= 1.0
                else engine * margin_with_grip(inputs, of, reads, rating)
            )
        found.append(
            Weakest(name=name, gear=gear, ratio=ratio, limit_nm=limit, verdict=judge(one, inputs))
        )
    if not found:
        return None, unknown
    worst = min((w.verdict for w in found), key=SEVERITY.__getitem__)
    return replace(min(found, key=lambda w: w.ratio), verdict=worst), unknown


def notices(inputs: Inputs) -> Iterator[Finding]:
    """The torque that the weakest part allows; power beside torque; ratings at another speed."""
    yield from _two_figures(inputs)
    yield from _same_speed(inputs)
    if not inputs.build.links:
        return
    least, unknown = weakest(inputs)
    if least is None or unknown:
        text = f"Not rated by anybody who counts: {', '.join(unknown[:5])}"
        if least is not None:
            text += f"; weakest of the rest is {least.name}, {least.ratio:.2f} times its load"
        fouls = least is not None and least.verdict == Verdict.FOULS
        verdict = Verdict.FOULS if fouls else Verdict.UNMEASURED
        yield notice(
            "stack.weakest", KEY, "Weakest part", verdict, text, why=_WHY, caution=STRENGTH
        )
        return
    words = f"Weakest is {literal(least.name)}, {least.ratio:.2f} times its load in"
    words += f" {literal(least.gear)}"
    if least.limit_nm != float("inf"):
        words += "; the engine may give {limit}"
    yield notice(
        "stack.weakest",
        KEY,
        "Weakest part",
        least.verdict,
        in_kinds(words, limit=(least.limit_nm, "torque")),
        why=_WHY,
        caution=STRENGTH,
    )


_WHY = "What is rated by memory plans an order and closes nothing."


def board(inputs: Inputs, seen: Seen) -> Board:
    """Load and rating of every part in every gear, the weakest first."""
    grip = inputs.rules["tyre_grip"]
    capped, engine = caps(inputs), inputs.value(ENGINE)
    rows: list[tuple[float, TableRow]] = []
    for row in inputs.build.links:
        if row.at == FED:
            continue
        rated = inputs.quantities.get(f"links.{row.n}.rating")
        for one in in_gears(inputs, row.at, share_of(row)):
            rating = None if rated is None else rated.value
            ratio = rating / one.torque if rating is not None and one.torque else None
            slips = engine is not None and capped_by_grip(inputs, one.load, one.reads, engine)
            source = "" if rated is None or rated.source is None else rated.source.value
            rows.append(
                (
                    np.inf if ratio is None else ratio,
                    TableRow(
                        cells=(
                            row.name or f"part {row.n}",
                            one.gear.name,
                            one.torque,
                            "the tyres slip" if slips else "",
                            rating,
                            source,
                            ratio,
                        ),
                        address=f"links.{row.n}",
                        finding=f"stack.link.{row.n}",
                    ),
                )
            )
    columns = (
        Column(key="part", label="part"),
        Column(key="gear", label="in"),
        Column(key="load", label="carries", kind="torque", places=0),
        Column(key="cap", label=""),
        Column(key="rating", label="rated", kind="torque", places=0),
        Column(key="source", label="by"),
        Column(key="ratio", label="rated over load", kind="ratio", places=2),
    )
    note = (
        "Screening: torque as the engine's paper gives it, without the blow of a clutch that is"
        " dropped. "
        + (
            "No load is more than the tyres pass on."
            if capped
            else "Load on the driven axle or tyre is not known: no load is capped by the tyres."
        )
    )
    table = Table(
        key="chain",
        title="From the engine to the tyres",
        columns=columns,
        rows=tuple(r for _, r in sorted(rows, key=lambda x: x[0])),
        note=note,
        first=12,
    )
    readings = []
    known = inputs.known(("engine_power_kw", "engine_rpm"))
    if known is not None:
        at_power = float(torque_nm(known["engine_power_kw"], known["engine_rpm"]))
        readings.append(Reading(name="Torque at its power", value=at_power, kind="torque"))
    if (grips := inputs.known(GRIPS)) is not None:
        most = float(grip_torque(grips[GRIPS[0]], grips[GRIPS[1]], grip))
        readings.append(Reading(name="Tyres slip at, both wheels", value=most, kind="torque"))
    least, unknown = weakest(inputs) if inputs.build.links else (None, [])
    if least is not None and not unknown and np.isfinite(least.limit_nm):
        readings.append(Reading(name="Engine may give", value=least.limit_nm, kind="torque"))
    return Board(tables=(table,) if rows else (), readings=tuple(readings))


QUESTION = Question(
    path="strength",
    station=Station.STACK,
    name="Ratings",
    asks="Does every link carry what the engine gives, and what may it give?",
    dimensions={
        "A": "engine_torque_nm",
        "B": "clutch_torque_nm",
        "C": "gearbox_torque_nm",
        "D": "engine_power_kw",
        "E": "engine_rpm",
        "F": "driven_axle_kg",
        "G": "final_drive_ratio",
        "H": "tyre_mm",
    },
    lists=("gears", "links"),
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
