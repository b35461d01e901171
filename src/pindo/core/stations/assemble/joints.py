"""Bolted joints: is each clamped enough and not stretched, by a torque that somebody vouches
for?
"""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from pindo.core.document.rows import BoltedJoint
from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.threads import is_metric, proof_mpa, thread_words
from pindo.core.judging.check import Check, Constant, Input
from pindo.core.judging.gates import GATE_OF_JOINT, MARKED_KINDS, START, OpenItem
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Missing, Verdict
from pindo.core.stations.assemble.torque import (
    BEARING_SHARE,
    FRICTION,
    NoStages,
    centre_out,
    proof_share,
    stages,
    star_order,
    torque_stands,
)

STRENGTH = (
    "Screening only. Torque belongs to bolt, thread, coating and lubricant together: the maker's"
    " sheet decides."
)
check = partial(Check, station=Station.ASSEMBLE, question="assemble.joints", kind="percent")


def _name(j: BoltedJoint) -> str:
    return j.name or f"joint {j.n}"


def _friction(j: BoltedJoint) -> tuple[float, float] | None:
    """Both ends of the friction that a sheet tells: a range, a figure with its ±, or one figure.
    [-]
    """
    try:
        entry = parse(j.friction or "", "ratio")
    except EntryError:
        return None
    if entry.value is None or entry.value <= 0.0:
        return None
    return max(entry.value - (entry.pm or 0.0), 0.01), entry.value + (entry.pm or 0.0)


def friction_ends(j: BoltedJoint) -> tuple[Input | str, Input | str] | None:
    """Both ends of the friction that a joint can have; None until its surface or sheet tells."""
    if j.friction:
        read = _friction(j)
        return None if read is None else (Constant(read[0]), Constant(read[1]))
    return FRICTION.get(j.surface)


def _joint(inputs: Inputs, j: BoltedJoint) -> Iterator[Check]:
    """Preload at both ends of the friction that the surface can have: never above its share of
    proof, clamped enough at the other end.
    """
    d = inputs.value(f"joints.{j.n}.d") or 0.0
    proof = proof_mpa(j.strength, d)
    if proof is None:
        return
    at, name = f"joints.{j.n}.", _name(j)
    shown = f"{name[0].upper()}{name[1:]}"
    ends = friction_ends(j)
    given: dict[str, Input | str] = {
        "torque_nm": at + "torque",
        "d_mm": at + "d",
        "pitch_mm": at + "pitch",
        "proof": Constant(proof),
        "metric": Constant(float(is_metric(j.strength))),
        "bearing_mm": Constant(BEARING_SHARE * d),
    }
    if ends is None:
        return  # told as a notice
    low, high = ends
    yield check(
        id=f"assemble.preload.{j.n}",
        title=f"Preload of {name}",
        value=proof_share,
        at_most="preload_share_max",
        safety=True,
        caution=STRENGTH,
        given=given | {"mu": low},
        says=(
            f"{literal(shown)}: at its lowest friction the torque loads the screws to {{value}} of"
            " their proof load; at most {limit}"
        ),
        why=(
            "A screw past its proof load has stretched for good; another class, coating or locker"
            " makes the torque lapse."
        ),
    )
    yield check(
        id=f"assemble.clamp.{j.n}",
        title=f"Clamp of {name}",
        value=proof_share,
        at_least="preload_share_min",
        safety=True,
        caution=STRENGTH,
        given=given | {"mu": high},
        says=(
            f"{literal(shown)}: at its highest friction the torque leaves {{value}} of the proof"
            " load; needs {limit}"
        ),
        why="A joint that is clamped too little works loose, and its screws break by fatigue.",
    )


def checks(inputs: Inputs) -> Iterator[Check]:
    """Preload of each joint whose class and torque are told."""
    for j in inputs.build.joints:
        if j.torque and j.strength and inputs.value(f"joints.{j.n}.d"):
            yield from _joint(inputs, j)


def _without_friction(inputs: Inputs, j: BoltedJoint) -> Iterator[Finding]:
    """A joint whose preload cannot be told, because nobody said how its screws rub."""
    d = inputs.value(f"joints.{j.n}.d")
    told = j.torque and j.strength and d and proof_mpa(j.strength, d) is not None
    if not told or friction_ends(j) is not None:
        return
    title = f"Preload of {_name(j)}"
    what = (
        f"{_name(j)}: thread and head, dry, as delivered, oiled, or the locker's friction from its"
        " sheet"
    )
    missing = Missing(address=what, name=what, letter="", status="missing", detail="")
    found = notice(
        f"assemble.preload.{j.n}",
        "assemble.joints",
        title,
        Verdict.UNMEASURED,
        f"{title}: {what} (not measured)",
        why="Friction decides what a torque does to a screw: between oiled and dry it doubles.",
        caution=STRENGTH,
        missing=(missing,),
    )
    yield replace(found, safety=True, kind="percent")


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Joints whose stages do not end at their torque, whose grade no standard holds at that
    size, or whose torque has no source.
    """
    why = "What is not settled here is settled by the wrench, and nobody sees it any more."
    for j in inputs.build.joints:
        yield from _without_friction(inputs, j)
        name, torque, d = (
            _name(j),
            inputs.quantities.get(f"joints.{j.n}.torque"),
            inputs.value(f"joints.{j.n}.d"),
        )
        if torque is not None and torque.value is not None:
            try:
                stages(j.stages, torque.value, j.torque or "")
            except NoStages as error:
                yield notice(
                    f"assemble.stages.{j.n}",
                    "assemble.joints",
                    f"Stages of {name}",
                    Verdict.UNMEASURED,
                    f"Stages of {name} are not read: {error}",
                    why=why,
                )
        if j.torque and j.strength and d and proof_mpa(j.strength, d) is None:
            yield notice(
                f"assemble.grade.{j.n}",
                "assemble.joints",
                f"Grade of {name}",
                Verdict.UNMEASURED,
                f"{name}: {j.strength} is not made in this size; read the head's mark again",
                why=why,
            )
        if j.state in ("torqued", "marked") and not torque_stands(inputs, j):
            yield notice(
                f"assemble.torque.{j.n}",
                "assemble.joints",
                f"Torque of {name}",
                Verdict.UNMEASURED,
                f"{name} is {j.state}, and its torque has no source that counts",
                why=why,
            )


def _joint_open(j: BoltedJoint, has_torque: bool) -> str:
    """Why a joint is still open; empty when it is not."""
    if j.state not in ("torqued", "marked"):
        return j.state
    if not has_torque:
        return f"{j.state}, but no torque with a source"
    if j.state == "torqued" and j.kind in MARKED_KINDS:
        return "torqued, not marked"
    return ""


def opens(inputs: Inputs) -> Iterator[OpenItem]:
    """Joints that are open, loose or not marked, and spent screws."""
    for j in inputs.build.joints:
        if words := _joint_open(j, torque_stands(inputs, j)):
            what = "" if j.kind != "not said" else "; what it holds is not said"
            text = f"{_name(j)}: {words}{what}"
            yield OpenItem(kind="joint", text=text, gate=GATE_OF_JOINT[j.kind], row=f"joints.{j.n}")
        if j.single_use == "spent":
            text = f"{_name(j)}: spent single-use screws"
            yield OpenItem(kind="single use", text=text, gate=START, row=f"joints.{j.n}")


def _row(inputs: Inputs, j: BoltedJoint) -> TableRow:
    """A line of the tightening table; without a torque with a source no tick is told."""
    torque = inputs.value(f"joints.{j.n}.torque")
    count = int(min(inputs.value(f"joints.{j.n}.bolts") or 0, 60))
    order = star_order(count) if j.order == "star" else centre_out(count)
    source = "no torque"
    if torque is not None:
        source = ", ".join(x for x in (j.evidence.source.value, j.evidence.note) if x)
    if not torque_stands(inputs, j):
        source += ": cannot be ticked off until a paper gives its torque"
    steps: tuple[float | str, ...] = ()
    read_as = ""
    if torque is not None:
        try:
            made = stages(j.stages, torque, j.torque or "")
        except NoStages as error:
            read_as = f"not read: {error}"
        else:
            angles = (f"+ {a:g}°" for a in made.angles)
            steps, read_as = (*(round(v, 1) for v in made.torques), *angles), made.read_as
    d = inputs.value(f"joints.{j.n}.d")
    thread = "" if d is None else thread_words(d, inputs.value(f"joints.{j.n}.pitch"))
    note = "locker not said: ask before the torque" if j.locker == "not said" else ""
    words = (j.state, j.locker, source, note)
    cells = (_name(j), " ".join(map(str, order)), steps, read_as, thread, *words)
    return TableRow(cells=cells, address=f"joints.{j.n}")


def board(inputs: Inputs, seen: Seen) -> Board:
    """The tightening table."""
    rows = tuple(_row(inputs, j) for j in inputs.build.joints)
    columns = (
        Column(key="joint", label="joint"),
        Column(key="order", label="order"),
        Column(key="stages", label="stages", kind="torque"),
        Column(key="read_as", label="read as"),
        Column(key="thread", label="thread"),
        Column(key="state", label="state"),
        Column(key="locker", label="locker"),
        Column(key="source", label="source"),
        Column(key="note", label="note"),
    )
    note = "torque belongs to bolt, coating and lubricant together"
    made = Table(
        key="tightening", title="Tightening", note=note, columns=columns, rows=rows, of_record=True
    )
    return Board(tables=(made,) if rows else ())


QUESTION = Question(
    path="joints",
    station=Station.ASSEMBLE,
    name="Bolted joints",
    asks="Is each joint clamped enough and not stretched, by a torque that somebody vouches for?",
    lists=("joints",),
    checks=checks,
    notices=notices,
    opens=opens,
    board=board,
)
