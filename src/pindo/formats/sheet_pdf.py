"""The shop sheet of a station: pictures, tables, findings, ledger with empty boxes for what is
still to take.
"""

import io
from collections.abc import Iterable, Mapping, Sequence

from reportlab.lib.units import mm

from pindo.core.assessment import Assessment, worst_first
from pindo.core.document.build import Build
from pindo.core.document.records import Step
from pindo.core.drawing.board import Board, Cell, Column, Reading, RowState, Table
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, OPTIONS, Station
from pindo.core.inputs.units import KINDS, echo_inches, number_and_unit, write
from pindo.core.judging.question import QUESTIONS, Question
from pindo.core.judging.verdict import Finding
from pindo.formats.paper import (
    BOLD,
    INK,
    MONO,
    REGULAR,
    SIZES,
    SOFT,
    check_bar,
    new_canvas,
)
from pindo.formats.pdf_page import EDGE, LINE, WIDE_MM, Sheet, glyph, picture, table

MOST_ROWS = 40


def findings_list(s: Sheet, findings: Iterable[Finding]) -> None:
    for f in worst_first(findings):
        s.room(12)
        glyph(s, f.verdict.value)
        words = f.sentence.mm + (f" [waived by {f.waived_by}]" if f.waived_by else "")
        words += "".join(
            f" [limit changed from {r.default:g} to {r.value:g}: {r.note}]"
            for r in f.rules
            if r.overridden
        )
        lines = s.text(EDGE + 9, words)
        s.y -= lines * LINE * 0.85 + 1.2
        for way in f.ways_out:
            s.room(6)
            s.text(
                EDGE + 13,
                f"way out: {way.letter} {way.name} {write(way.current, way.kind)} to"
                f" {write(way.target, way.kind)} {way.costs.mm}",
                size=8,
                ink=SOFT,
            )
            s.y -= LINE * 0.85
        if f.caution and f.verdict.value != "goes":
            s.y -= (s.text(EDGE + 13, f"Caution: {f.caution}", size=8, ink=SOFT)) * LINE * 0.85


def _ledger(s: Sheet, question: Question, assessment: Assessment) -> None:
    """The sizes of one question that are asked for, with boxes for those that are wanting."""
    asked, quantities = set(assessment.asked), assessment.quantities
    lines_of = [(k, letter) for k, letter in LEDGERS[question.key].items() if k in asked]
    if lines_of:
        s.room(16)
        s.y -= 1
        s.text(EDGE, question.name, BOLD, 9)
        s.y -= LINE
    for key, letter in lines_of:
        q, definition = quantities[key], DIMENSIONS[key]
        s.room(9)
        s.text(EDGE, letter, BOLD, 8.5)
        lines = s.text(EDGE + 9, definition.name, size=8.5, width=68)
        if q.value is None:
            s.c.setStrokeColor(INK)
            s.c.setDash(1.5, 1.5)
            s.c.rect((EDGE + 79) * mm, (s.y - 1.3) * mm, 26 * mm, 4.6 * mm)
            s.c.setDash()
            why = (
                f"“{q.detail}” · "
                if q.status.value == "word"
                else f"{q.status.value}: {q.detail} · "
                if q.detail
                else ""
            )
            lines = max(lines, s.text(EDGE + 108, f"{why}{definition.how}", size=7.5, ink=SOFT))
        else:
            source = q.source.value if q.source else ""
            s.text(
                EDGE + 79,
                f"{write(q.value, q.kind)} ± {number_and_unit(q.pm, q.kind)[0]}",
                MONO,
                8.5,
            )
            s.text(EDGE + 120, echo_inches(q.value, q.kind), MONO, 8, SOFT)
            lines = max(
                lines,
                s.text(
                    EDGE + 147,
                    f"{source}{', ' + q.tool.value if q.tool else ''}",
                    size=7.5,
                    ink=SOFT,
                ),
            )
        s.y -= LINE + (lines - 1) * LINE * 0.85


def header(build: Build, printed: str) -> tuple[str, str]:
    """What the build is, and the state that its results hold for."""
    conditions = ", ".join(
        f"{k.replace('_', ' ')} {v}"
        for k, v in build.state.model_dump(mode="json", exclude_none=True).items()
    )
    chosen = ", ".join(
        v for k, v in build.options.items() if v and k in OPTIONS and OPTIONS[k].on_paper
    )
    return " · ".join(x for x in (build.vehicle, build.engine, build.gearbox) if x), " · ".join(
        x for x in (conditions, chosen, printed) if x
    )


def _cell(value: Cell, column: Column) -> str:
    """A cell of a table as the sheet prints it, in millimetres."""
    if value is None:
        return ""
    if isinstance(value, tuple):
        return ", ".join(_cell(v, column) for v in value) or ("____" if column.kind else "")
    if isinstance(value, str):
        return value
    return number_and_unit(value, column.kind or "count", "mm", column.places)[0]


def board_table(s: Sheet, t: Table, most: int = MOST_ROWS) -> None:
    """A table of a board; columns share the page by their widths."""
    units = {c.key: KINDS[c.kind].unit if c.kind else "" for c in t.columns}
    one = next(iter(dict.fromkeys(u for u in units.values() if u)), "")
    s.heading(f"{t.title}{f', {one}' if one else ''}")
    if t.note:
        s.y -= s.text(EDGE, t.note, size=8, ink=SOFT) * LINE
    whole = sum(c.wide for c in t.columns)
    room = s.width - 2 * EDGE
    heads = [
        (
            c.label + (f", {units[c.key]}" if units[c.key] not in ("", one) else ""),
            room * c.wide / whole,
        )
        for c in t.columns
    ]
    rows = [
        [_cell(v, c) for v, c in zip(row.cells, t.columns, strict=True)] for row in t.rows[:most]
    ]
    table(s, heads, rows)
    if len(t.rows) > most:
        s.y -= s.text(EDGE, f"and {len(t.rows) - most} more on the screen", size=8, ink=SOFT) * LINE


def readings_table(s: Sheet, readings: Sequence[Reading]) -> None:
    """Figures to read off; what is ordered with its ± and a box for the maker's series."""
    ordered = [r for r in readings if r.ordered]
    plain = [r for r in readings if not r.ordered]
    if ordered:
        s.heading(
            "Order sheet: lengths at ride height, a chain in pitches (order the even number next)"
        )
        heads = (("piece", 74.0), ("length", 36.0), ("±", 26.0), ("series, both ends", 46.0))
        rows = [[r.name, _figure(r), "" if r.pm is None else f"{r.pm:.1f}", ""] for r in ordered]
        table(s, heads, rows)
    if plain:
        s.heading("Figures")
        table(s, (("what", 100.0), ("figure", 60.0)), [[r.name, _figure(r)] for r in plain])


def _figure(r: Reading) -> str:
    return write(r.value, r.kind, "mm", r.places)


def _boards(
    s: Sheet, build: Build, questions: Sequence[Question], shown: Mapping[str, Board]
) -> None:
    """Tables, figures and rows of each question, in its order."""
    for q in questions:
        b = shown.get(q.key)
        if b is None:
            continue
        if b.row_states:
            _run_sheet(s, getattr(build, q.lists[0]), b.row_states)
        for t in b.tables:
            board_table(s, t)
        readings_table(s, b.readings)


def _run_sheet(s: Sheet, rows: Sequence[Step], states: Sequence[RowState]) -> None:
    """Rows of work with boxes to tick and blanks for pencil values."""
    s.heading("Steps")
    by_number = {x.n: x for x in states}
    for step in rows:
        s.room(13)
        state = by_number[step.n]
        marks = (" [hold point]" if step.hold else "") + (
            f" [gate: {step.gate}]" if step.gate else ""
        )
        waits = f"waits for {', '.join(map(str, state.waits_for))}"
        status = waits if state.status == "waits" else state.status
        s.c.setStrokeColor(INK)
        s.c.rect(EDGE * mm, (s.y - 0.6) * mm, 3 * mm, 3 * mm, fill=int(step.state == "done"))
        font = BOLD if step.hold else REGULAR
        words = f"{step.n} {step.name}{marks} · {status}"
        s.y -= s.text(EDGE + 6, words, font, 9) * LINE * 0.85
        helpers = f"{step.helpers} helper{'s' if step.helpers > 1 else ''}" if step.helpers else ""
        asked = f"as built, {step.asks}: {step.as_built or '____________'}" if step.asks else ""
        more = "; ".join(x for x in (helpers, step.tools, step.caution.rstrip("."), asked) if x)
        if more:
            s.y -= s.text(EDGE + 6, more, size=7.5, ink=SOFT) * LINE * 0.8
        s.y -= 1


def station_sheet(
    build: Build,
    assessment: Assessment,
    station: Station,
    shown: Mapping[str, Board],
    paper: str = "A4",
    printed: str = "",
    of_ways: str = "",
) -> bytes:
    """PDF of one station of a build.

    Parameters
    ----------
    shown : mapping of question to Board
        What is drawn of the station's questions.
    printed, of_ways
        The date that the sheet shows, and what it says of ways out that it lacks.

    Raises
    ------
    KeyError
        ``paper`` is neither A4 nor Letter.
    """
    stream = io.BytesIO()
    c = new_canvas(stream, SIZES[paper], f"{build.name}: {station.value}")
    s = Sheet(c, paper, f"{build.name} · {station.value.capitalize()}", header(build, printed))
    questions = [q for q in QUESTIONS.values() if q.station == station]
    whole = station == next(iter(Station))
    own = [f for f in assessment.findings if whole or f.station == station]
    s.heading("Findings, worst first")
    if of_ways:
        s.y -= s.text(EDGE, of_ways, size=8, ink=SOFT) * LINE
    findings_list(s, own)
    if whole:
        s.heading("Measure next")
        for n in assessment.next:
            s.room(8)
            pm = f" to ± {write(n.pm_wanted, n.kind)}" if n.pm_wanted else ""
            words = f"{n.name}: {n.tool}{pm}; {n.reason}. {n.how}"
            s.y -= s.text(EDGE, words, size=8.5) * LINE * 0.85 + 1
    drawn: set[tuple[str, float, float]] = set()
    for q in questions:
        for d in shown[q.key].drawings if q.key in shown else ():
            # A picture that an earlier question had comes again only for letters of its own.
            key = (d.view, d.x_low, d.x_high)
            if d.callouts or key not in drawn:
                s.heading(q.name)
                tall = 105.0 if not drawn else 85.0
                picture(s, d, tall if d.x_high - d.x_low < WIDE_MM else 70.0)
            drawn.add(key)
        if not whole:
            _ledger(s, q, assessment)
    _boards(s, build, questions, shown)
    if whole:
        s.heading("Every size")
        for q in QUESTIONS.values():
            _ledger(s, q, assessment)
    s.room(14)
    s.y -= 6
    check_bar(c, EDGE, s.y)
    s.finish()
    return stream.getvalue()
