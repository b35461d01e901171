"""The hand-over report: what was built, the conditions that its results hold for, and what is
still open.
"""

import io
from collections.abc import Iterator
from types import MappingProxyType

from pindo.core.assessment import Assessment
from pindo.core.boards import boards, overview
from pindo.core.document.build import Build
from pindo.core.document.lists import LISTS
from pindo.core.document.rows import MeasuredRow
from pindo.core.document.sizes import Dimension
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import number_and_unit
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.assemble.steps import hold_points
from pindo.core.stations.log.money import minutes_worked, totals
from pindo.formats.paper import BOLD, SIZES, SOFT, new_canvas
from pindo.formats.pdf_page import EDGE, LINE, Sheet, picture, table
from pindo.formats.sheet_lists import evidence_words, face_tables, list_table, sign_line
from pindo.formats.sheet_pdf import (
    board_table,
    cautions_list,
    findings_list,
    header,
    readings_table,
    said_in,
)

NO_SIGN_OFF = (
    "This report is a record, not a sign-off. Strength is screened, never approved; law of the"
    " place, makers' sheets and licensed people come first."
)


RUNGS = MappingProxyType(
    {
        "lift": "hung or resting in its place",
        "start": "starts and holds pressure",
        "motion": "moves, controls proved",
        "hand-over": "handed over: nothing provisional, all written down",
    }
)


def rung(build: Build, assessment: Assessment) -> str:
    """How far the build is on the ladder of done: the highest gate below which every gate that it
    has is passed. A hand-over that something stands against is none, whoever closed the step.
    """
    words, over = "on the bench", ""
    for gate, reached in RUNGS.items():
        steps = [s for s in build.steps if s.gate == gate]
        if any(s.state != "done" or s.lapsed for s in steps):
            if any(s.state == "done" for s in steps):
                over = f"; the gate {gate} is closed only in part"
            break
        if steps:
            against = len(refusals(build, assessment)) if gate == "hand-over" else 0
            if against:
                return (
                    f"{words}; the hand-over step is closed, but {against} things stand against it"
                )
            words = reached
    later = list(RUNGS)[list(RUNGS).index(gate) + 1 :]
    ahead = [s.name for s in build.steps if s.gate in later and s.state == "done"]
    if ahead:
        over += f"; closed out of order: {', '.join(ahead)}"
    return words + over


def refusals(build: Build, assessment: Assessment, system: str = "mm") -> list[str]:
    """Why a hand-over would be refused now; empty when nothing stands against it."""
    found = [f"{o.text} ({o.kind})" for o in assessment.opens]
    found += [
        said_in(f.sentence, system)
        for f in assessment.findings
        if f.verdict == Verdict.FOULS and not f.waived_by
    ]
    found += [
        f"step {s.n}, {s.name}, is open"
        for s in build.steps
        if s.state == "open" and s.gate != "hand-over"
    ]
    found += [
        f"{'hold point' if s.hold or s.gate else 'step'} {s.n}, {s.name}, is left out:"
        f" {s.by or 'no name'}, {s.reason or 'no reason'}, until {s.until or 'no end'}"
        for s in build.steps
        if s.state == "left out"
    ]
    h = hold_points(build, assessment.findings)
    if h.unmeasured:
        found.append(
            f"{h.unmeasured} hold point{'s watch' if h.unmeasured > 1 else ' watches'} something"
            " that is unmeasured"
        )
    if h.waived:
        found.append(f"{h.waived} hold point{'s rest' if h.waived > 1 else ' rests'} on a waiver")
    return found


def _typed(dimension: Dimension) -> Iterator[list[str]]:
    """Rows of one size: every statement as it was typed, the one that stands marked."""
    chosen = dimension.chosen
    for x in dimension.statements:
        takes = ", ".join(f"{t.typed}{' ' + t.unit if t.unit else ''}" for t in x.takes)
        stands = "lapsed" if x.lapsed else "chosen" if x.id == chosen else ""
        yield [takes, evidence_words(x), (x.takes[-1].at or "")[:10], stands]


def _readings(s: Sheet, build: Build) -> None:
    """Every reading as it was typed, of sizes, castings and lists."""
    s.heading("Readings as typed")
    heads = (("size", 56.0), ("typed", 34.0), ("from", 48.0), ("when", 20.0), ("", 24.0))
    rows = [
        [DIMENSIONS[key].name if key in DIMENSIONS else key, *said]
        for key, dimension in build.dims.items()
        for said in _typed(dimension)
    ]
    table(s, heads, rows)
    for side, face in (("engine", build.engine_face), ("gearbox", build.gearbox_face)):
        if face.holes or face.lands:
            face_tables(s, face, side, for_more=False)
    for key, of in LISTS.items():
        if issubclass(of.model, MeasuredRow) and not of.record:
            list_table(s, build, key, for_more=False)


def handover_report(
    inputs: Inputs,
    assessment: Assessment,
    paper: str = "A4",
    printed: str = "",
    system: str = "mm",
) -> bytes:
    """PDF of the whole build; what was worked out in the units of ``system``, ``mm`` or ``in``,
    what was typed as typed.

    Raises
    ------
    KeyError
        ``paper`` is neither A4 nor Letter.
    """
    build, stream = inputs.document, io.BytesIO()
    c = new_canvas(stream, SIZES[paper], f"{build.name}: hand-over")
    s = Sheet(c, paper, f"{build.name} · Hand-over report", header(build, printed), system)
    s.y -= s.text(EDGE, f"State of the build: {rung(build, assessment)}.", BOLD, 11) * LINE
    s.y -= s.text(EDGE, NO_SIGN_OFF, size=8.5, ink=SOFT) * LINE
    picture(s, overview(inputs, assessment).drawings[0], 60.0)
    against = refusals(build, assessment, system)
    s.heading("Stands against hand-over" if against else "Nothing stands against hand-over")
    for words in against:
        s.room(8)
        s.y -= s.text(EDGE, f"– {words}", size=9) * LINE * 0.85 + 0.6
    h = hold_points(build, assessment.findings)
    s.y -= (
        s.text(
            EDGE,
            f"Hold points: {h.passed} passed, {h.open} open, {h.left_out} left out, {h.waived} on a"
            f" waiver, {h.unmeasured} watching something unmeasured.",
            size=9,
        )
        * LINE
    )
    s.heading("The set-up that the results hold for")
    chosen = [
        ["Layout", build.layout],
        *([OPTIONS[k].name, v] for k, v in build.options.items() if v and k in OPTIONS),
    ]
    table(s, (("choice", 60), ("as built", 120)), chosen)
    if build.rules:
        s.heading("Limits changed for this build")
        table(
            s,
            (("limit", 70), ("value", 24), ("why", 88)),
            (
                [RULES[k].name, f"{v.value:g} {RULES[k].unit}".strip(), v.note]
                for k, v in build.rules.items()
                if k in RULES
            ),
        )
    if build.waivers:
        titles = {f.id: f.title for f in assessment.findings}
        s.heading("Waived by name")
        ended = {f.id for f in assessment.findings if f.waiver_ended}
        table(
            s,
            (("finding", 60), ("who", 30), ("until", 34), ("reason", 58)),
            (
                [titles.get(k, k), w.who, w.until + (", ended" if k in ended else ""), w.reason]
                for k, w in build.waivers.items()
            ),
        )
    left = [x for x in build.steps if x.state == "left out"]
    if left:
        s.heading("Steps left out by name")
        table(
            s,
            (("step", 70), ("who", 30), ("until", 26), ("reason", 56)),
            ([f"{x.n} {x.name}", x.by, x.until, x.reason] for x in left),
        )
    early = [x for x in build.steps if x.state == "done" and x.reason]
    if early:
        s.heading("Done out of order")
        table(
            s,
            (("step", 70), ("who", 30), ("reason", 82)),
            ([f"{x.n} {x.name}", x.by, x.reason] for x in early),
        )
    signed = [p for p in build.provisional if p.state == "signed"]
    if signed:
        s.heading("Limits of use, signed")
        table(
            s,
            (("what", 60), ("limit", 82), ("signed by", 40)),
            ([p.name or p.kind, p.limit or "no limit written", p.by or "no name"] for p in signed),
        )
    shown = boards(inputs, assessment, printed)
    for found in shown.values():
        for made in found.tables:
            if made.of_record:
                board_table(s, made)
    readings_table(s, [r for found in shown.values() for r in found.readings if r.ordered])
    s.heading("Steps, as built")
    table(
        s,
        (("step", 84), ("state", 22), ("as built", 50), ("by", 26)),
        ([f"{x.n} {x.name}", x.state, x.as_built, x.by] for x in build.steps),
    )
    if build.modifications:
        s.heading("Modifications")
        table(
            s,
            (("what", 50), ("kind", 20), ("planned", 40), ("as built", 40), ("state", 30)),
            (
                [
                    m.name,
                    m.kind + (", structural" if m.structural else ""),
                    m.planned,
                    m.as_built or "not written",
                    m.state,
                ]
                for m in build.modifications
            ),
        )
    if build.fits:
        s.heading(f"Trial fits, {number_and_unit(0.0, 'length', system)[1]}; read as typed")
        table(
            s,
            (("fit", 40), ("gap", 70), ("predicted", 26), ("read", 24), ("counts", 22)),
            (
                [
                    f.name,
                    g.title,
                    (
                        ""
                        if g.predicted is None
                        else number_and_unit(g.predicted, "length", system, 1)[0]
                    ),
                    g.measured or "",
                    (
                        "lapsed"
                        if f.evidence.lapsed or g.lapsed
                        else "yes"
                        if g.measured
                        else "not read"
                    ),
                ]
                for f in build.fits
                for g in f.gaps
            ),
        )
    if build.parts:
        s.heading("Parts")
        table(
            s,
            (("part", 60), ("state", 26), ("from", 50), ("note", 46)),
            ([p.name, p.state, p.source, p.note] for p in build.parts),
        )
    t = totals(inputs)
    s.heading("Money and hours")
    table(
        s,
        (
            ("paid", 28),
            ("due", 28),
            ("refunds", 28),
            ("forecast", 30),
            ("unpriced", 28),
            ("hours", 28),
        ),
        [
            [
                f"{t.paid:.2f}",
                f"{t.due:.2f}",
                f"{t.refunded:.2f}",
                f"{t.forecast:.2f}",
                f"{t.unpriced} lines",
                f"{minutes_worked(inputs) / 60:.1f}",
            ]
        ],
    )
    for station in Station:
        own = [f for f in assessment.findings if f.station == station and f.verdict != Verdict.GOES]
        if own:
            s.heading(f"Not yet going: {station.value.capitalize()}")
            findings_list(s, own)
    cautions_list(s)
    _readings(s, build)
    sign_line(s, "handed over by", "taken over by", "date")
    s.finish()
    return stream.getvalue()
