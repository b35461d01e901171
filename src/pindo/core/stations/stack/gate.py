"""Joining: do the faces close freely, what touches where they stop, and may the screws draw?

A dry run without dowels, gaps at four places, the stop held against what should meet there, the
turning test; then in words whether screws may be drawn. Common practice, no published source.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.geometry.faces_apart import LEAST, Apart, faces_apart
from pindo.core.inputs.couplings import bellhoused, converter
from pindo.core.inputs.dimensions import DIMENSIONS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import SEVERITY, Finding, Missing, Sentence, Verdict
from pindo.core.stations.stack.common import JOINING, chosen, not_done
from pindo.core.stations.stack.contacts import SPLINE, Contact, contacts, explaining
from pindo.core.stations.stack.converter import drawn_allowed
from pindo.core.stations.stack.section import section_for

KEY = "stack.gate"
RUNS = (
    ("dry_run", "The dry run without dowels is not done: only then the hand feels the shaft"),
    ("turning_test", "The turning test is not done: one turns the crank, one feels the output"),
    ("joined_with", "The faces were not brought together with their dowels: nothing centred them"),
)
WHY = (
    "Screws pull with tons: ears, discs and pumps break before the wrench feels anything. By hand"
    " the cause is found."
)
MOST_EXPLAINED = 3
MOST_SIZES = 8


@dataclass(frozen=True, kw_only=True)
class Answer:
    """Something that speaks for or against drawing the screws."""

    key: str
    verdict: Verdict
    words: str | Sentence
    missing: tuple[Missing, ...] = ()


def apart_of(inputs: Inputs) -> Apart | None:
    """How the faces stand apart, from the gaps that count; None while too few are read."""
    at, gap, pm = [], [], []
    for row in inputs.build.join_gaps:
        a, g = (inputs.quantities.get(f"join_gaps.{row.n}.{f}") for f in ("at", "gap"))
        if a is None or g is None or a.value is None or g.value is None:
            continue
        at.append(a.value)
        gap.append(g.value)
        pm.append(g.pm)
    return faces_apart(at, gap, pm)


def _met(inputs: Inputs, apart: Apart) -> bool:
    """Whether the faces surely meet all round: the doubt of the gaps is held against it."""
    sure = inputs.rules["guard_band_factor"] * apart.u_mean
    return apart.mean + apart.across / 2.0 + sure <= inputs.rules["join_met_mm"]


def touching(inputs: Inputs, apart: Apart) -> list[Contact]:
    """What meets at the gap at which the faces stop, within the doubt of both."""
    found, _ = contacts(inputs)
    factor = inputs.rules["guard_band_factor"]
    # Where the faces lean, a feature near the axis meets at the mean gap.
    return [
        c for c in found if abs(c.at - apart.mean) <= factor * (c.u**2 + apart.u_mean**2) ** 0.5
    ]


def _by(inputs: Inputs, key: str) -> str:
    return chosen(inputs, key) or "not yet"


def _answers(inputs: Inputs) -> Iterator[Answer]:
    """Everything that speaks against drawing the screws, or for it."""
    for key, words in RUNS:
        if _by(inputs, key) == "not yet":
            gone = not_done(inputs, key)
            yield Answer(key=key, verdict=Verdict.UNMEASURED, words=words, missing=gone)
    if _by(inputs, "turning_test") == "binds":
        words = "It binds when it is turned: part the faces and find what rubs"
        yield Answer(key="binds", verdict=Verdict.FOULS, words=words)
    if converter(inputs):
        verdict, why, missing = drawn_allowed(inputs)
        if verdict != Verdict.GOES:
            words = f"Of the converter: {why}"
            yield Answer(key="converter", verdict=verdict, words=words, missing=missing)
    yield from _stopped(inputs)


def _stopped(inputs: Inputs) -> Iterator[Answer]:
    """What the gaps say: none read, tilt, how far apart, what touches there."""
    apart = apart_of(inputs)
    if apart is None:
        words = (
            f"Gaps are read at fewer than {LEAST} places round the faces, or on one side alone:"
            " four say mean and tilt"
        )
        yield Answer(key="gaps", verdict=Verdict.UNMEASURED, words=words)
        return
    factor = inputs.rules["guard_band_factor"]
    limit, sure = inputs.rules["join_tilt_max_mm"], factor * apart.u_across
    if apart.across - sure > limit:
        words = "The faces lean {across} from side to side, open at {at} from 12; at most {limit}"
        told = _in_words(words, apart, limit)
        yield Answer(key="lean", verdict=Verdict.FOULS, words=told)
    elif apart.across + sure > limit:
        told = _in_words("The faces lean {across}; at most {limit}", apart, limit)
        yield Answer(key="lean", verdict=Verdict.TIGHT, words=told)
    if _met(inputs, apart):
        if _by(inputs, "joined_with") == "they stop":
            words = "They are said to stop with their dowels in, and the gaps say that they meet"
            yield Answer(key="stop", verdict=Verdict.UNMEASURED, words=words)
        return
    yield from _held_off(inputs, apart)


def _in_words(template: str, apart: Apart, limit: float) -> Sentence:
    at = f"{apart.open_at:.0f} deg"
    return in_both(template, at, 2, across=apart.across, limit=limit)


def _held_off(inputs: Inputs, apart: Apart) -> Iterator[Answer]:
    """Faces that do not meet: above the dowels by hand only, below them once the cause is known."""
    most = inputs.rules["join_gap_max_mm"]
    dowels = inputs.value("dowel_out_mm")
    if dowels is not None and apart.mean > dowels:
        words = "The faces stand {gap} apart, above their dowels that stand out {dowels}: by hand"
        told = in_both(words + " only", "", 1, gap=apart.mean, dowels=dowels)
        yield Answer(key="dowels", verdict=Verdict.FOULS, words=told)
    elif apart.mean > most:
        words = "The faces stand {gap} apart; screws may draw {most} at most"
        told = in_both(words, "", 1, gap=apart.mean, most=most)
        yield Answer(key="far", verdict=Verdict.FOULS, words=told)
    in_order, open_ = contacts(inputs)
    teeth = next((c for c in in_order if c.feature.name == SPLINE), None)
    if teeth is not None and teeth.at <= apart.mean:
        words = "The faces stand {gap} apart and the spline is not in its hub: by hand only"
        told = in_both(words, "", 1, gap=apart.mean)
        yield Answer(key="spline", verdict=Verdict.FOULS, words=told)
    if open_:
        names = ", ".join(f.name for f, _ in open_[:2])
        words = "They stop at {gap}, and where these would meet is not known: {at}"
        told = in_both(words, names, 2, gap=apart.mean)
        yield Answer(key="open", verdict=Verdict.UNMEASURED, words=told)
    found = touching(inputs, apart)
    wrong = [c for c in found if not c.feature.enters]
    if wrong:
        names = " or ".join(c.feature.name for c in wrong)
        words = "They stop at {gap}, where this meets: {at}"
        yield Answer(
            key="stop", verdict=Verdict.FOULS, words=in_both(words, names, 2, gap=apart.mean)
        )
    elif not found:
        words = "They stop at {gap} and nothing that is measured meets there: find it first"
        yield Answer(
            key="stop", verdict=Verdict.UNMEASURED, words=in_both(words, "", 2, gap=apart.mean)
        )
    else:
        names = " or ".join(c.feature.name for c in found)
        words = "They stop at {gap}, where this begins to go in: {at}; turn and feel"
        yield Answer(
            key="stop", verdict=Verdict.TIGHT, words=in_both(words, names, 2, gap=apart.mean)
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Whether the screws may draw, by the worst of what speaks against it."""
    found = sorted(_answers(inputs), key=lambda a: SEVERITY[a.verdict])
    if not found:
        words = "Screws may draw, in even rounds, feeling each: the faces met by hand"
        first = Answer(key="", verdict=Verdict.GOES, words=words)
    else:
        # What is not done yet weighs more than a lean that is just too much to be sure of.
        undone = (a for a in found if a.verdict == Verdict.UNMEASURED)
        first = found[0]
        if first.verdict == Verdict.TIGHT:
            first = next(undone, first)
    before = {Verdict.GOES: "", Verdict.TIGHT: "With care: "}.get(first.verdict, "Draw no screw. ")
    yield notice(
        KEY,
        KEY,
        "Screws between the faces",
        first.verdict,
        _lead(before, first.words),
        why=WHY,
        caution=JOINING,
        missing=tuple(m for a in found for m in a.missing),
        inputs=(*(k for k, _ in RUNS), "dowel_out_mm"),
    )
    for other in found:
        if other is not first:
            yield notice(
                f"{KEY}.{other.key}",
                KEY,
                "Before the screws",
                other.verdict,
                other.words,
                why=WHY,
                caution=JOINING,
                missing=other.missing,
            )


def _lead(before: str, words: str | Sentence) -> Sentence:
    told = Sentence(mm=words, inch=words) if isinstance(words, str) else words
    return Sentence(mm=before + told.mm, inch=before + told.inch)


def _order_table(inputs: Inputs, apart: Apart | None) -> Table:
    """What meets at which gap, and at the stop which size read otherwise would explain it."""
    found, open_ = contacts(inputs)
    factor = inputs.rules["guard_band_factor"]
    rows = []
    named = {c.feature.name for c in touching(inputs, apart)} if apart is not None else set()
    for c in found:
        meets = c.at > -factor * c.u
        off = None if apart is None else apart.mean - c.at
        rows.append(
            TableRow(
                cells=(
                    c.feature.name,
                    c.at,
                    factor * c.u,
                    ("goes in there" if c.feature.enters else "must not") if meets else "never",
                    off,
                    "touches now" if c.feature.name in named else "",
                ),
                mark="" if not meets or c.feature.enters else "fouls",
            )
        )
    for feature, gone in open_:
        names = ", ".join(DIMENSIONS[a].name.lower() if a in DIMENSIONS else a for a in gone[:2])
        rows.append(
            TableRow(
                cells=(feature.name, None, None, f"open: {names}", None, ""), mark="unmeasured"
            )
        )
    columns = (
        Column(key="what", label="feature"),
        Column(key="at", label="meets with the faces apart by", kind="length", places=1),
        Column(key="pm", label="±", kind="length", places=1),
        Column(key="so", label=""),
        Column(key="off", label="from where they stop", kind="length", places=1),
        Column(key="now", label=""),
    )
    return Table(
        key="contacts", title="What meets, in this order", columns=columns, rows=tuple(rows)
    )


def _wrong_table(inputs: Inputs, apart: Apart) -> Table:
    """Sizes that, read otherwise, would let something meet where the faces stop."""
    rows = []
    found, _ = contacts(inputs)
    near = sorted((c for c in found if not c.feature.enters), key=lambda c: abs(c.at - apart.mean))
    for c in near[:MOST_EXPLAINED]:
        for address, now, then in explaining(inputs, c, apart.mean)[:MOST_SIZES]:
            rows.append(
                TableRow(
                    cells=(c.feature.name, DIMENSIONS[address].name, now, then, then - now),
                    address=address,
                )
            )
    columns = (
        Column(key="what", label="if this touches"),
        Column(key="size", label="then this size"),
        Column(key="now", label="stands as", kind="length", places=2),
        Column(key="then", label="and would be", kind="length", places=2),
        Column(key="by", label="off by", kind="length", places=2),
    )
    note = "One of them at a time. Read it again before it is corrected: the row leads to it."
    return Table(
        key="wrong",
        title="Which size the stop speaks against",
        columns=columns,
        rows=tuple(rows),
        note=note,
    )


def _stud(inputs: Inputs) -> Reading | None:
    """Guide studs: thread, plate, the gap at which the spline goes in, the ear. [mm]"""
    known = inputs.known(("stud_thread_mm", "plate_mm", "ear_mm"))
    first = next((c for c in contacts(inputs)[0] if c.feature.enters), None)
    if known is None or first is None:
        return None
    long = known["stud_thread_mm"] + known["plate_mm"] + known["ear_mm"] + max(first.at, 0.0)
    return Reading(name="Guide stud, at least", value=long, kind="length", places=0)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section, the gaps as mean and tilt, what meets in which order, what the stop says."""
    apart = apart_of(inputs)
    tables = [_order_table(inputs, apart)]
    readings = []
    if apart is not None:
        factor = inputs.rules["guard_band_factor"]
        wide = inputs.value("faces_across_mm")
        readings = [
            Reading(
                name="Mean gap",
                value=apart.mean,
                kind="length",
                pm=factor * apart.u_mean,
                places=2,
            ),
            Reading(
                name="Leans, side to side",
                value=apart.across,
                kind="length",
                pm=factor * apart.u_across,
                places=2,
            ),
            Reading(name="Open at, clockwise from 12", value=apart.open_at, kind="angle", places=0),
        ]
        if wide:
            lean = math.degrees(math.atan(apart.across / wide))
            readings.append(Reading(name="Which is", value=lean, kind="angle", places=2))
        if not _met(inputs, apart):
            tables.append(_wrong_table(inputs, apart))
    stud = _stud(inputs)
    if stud is not None:
        readings.append(stud)
    return Board(
        drawings=(section_for(inputs, KEY, seen),),
        tables=tuple(t for t in tables if t.rows),
        readings=tuple(readings),
    )


QUESTION = Question(
    path="gate",
    station=Station.STACK,
    name="Joining",
    asks="Do the faces close freely, and may the screws draw?",
    options=tuple(key for key, _ in RUNS),
    dimensions={
        "A": "dowel_out_mm",
        "B": "faces_across_mm",
        "C": "ear_mm",
        "D": "stud_thread_mm",
    },
    lists=("join_gaps",),
    when=bellhoused,
    notices=notices,
    board=board,
    where="block face",
)
