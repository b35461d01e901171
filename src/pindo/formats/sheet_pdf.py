"""The shop sheet of a station: pictures, tables, findings, ledger with empty boxes for what is
still to take.
"""

import io
from collections.abc import Iterable, Mapping, Sequence
from types import MappingProxyType

from reportlab.lib.units import mm

from pindo.core.assessment import Assessment, worst_first
from pindo.core.document.build import Build
from pindo.core.document.records import Step
from pindo.core.drawing.board import Board, Cell, Column, Reading, RowState, Table
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, OPTIONS, Station
from pindo.core.inputs.units import KINDS, echo_inches, number_and_unit, write
from pindo.core.judging.question import QUESTIONS, Question
from pindo.core.judging.verdict import Finding, Sentence
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
from pindo.formats.pdf_page import (
    EDGE,
    LINE,
    WIDE_MM,
    Sheet,
    box,
    column_widths,
    glyph,
    picture,
    table,
)
from pindo.formats.sheet_lists import (
    face_tables,
    gaps_to_read,
    list_table,
    photos_of,
    sign_line,
)

MOST_ROWS = 40
NO_PICTURES: Mapping[str, bytes] = MappingProxyType({})


def findings_list(s: Sheet, findings: Iterable[Finding]) -> None:
    for f in worst_first(findings):
        s.room(12)
        glyph(s, f.verdict.value)
        words = said_in(f.sentence, s.system)
        words += f" [waived by {f.waived_by}]" if f.waived_by else ""
        words += "".join(
            f" [limit changed from {r.default:g} to {r.value:g} {r.unit}: {r.note}]"
            for r in f.rules
            if r.overridden
        )
        lines = s.text(EDGE + 9, words)
        s.y -= lines * LINE * 0.85 + 1.2
        for way in f.ways_out:
            s.room(6)
            s.text(
                EDGE + 13,
                f"way out: {way.letter} {way.name} {write(way.current, way.kind, s.system)} to"
                f" {write(way.target, way.kind, s.system)} {said_in(way.costs, s.system)}",
                size=8,
                ink=SOFT,
            )
            s.y -= LINE * 0.85
        if f.caution and f.verdict.value != "goes":
            s.cautions[f.caution] = None


def said_in(sentence: Sentence, system: str) -> str:
    """A sentence with the units that the sheet has."""
    return sentence.inch if system == "in" else sentence.mm


def cautions_list(s: Sheet) -> None:
    """The cautions of what was printed, each once."""
    if s.cautions:
        s.heading("Cautions")
    for words in s.cautions:
        s.room(8)
        s.y -= s.text(EDGE, f"– {words}", size=8.5) * LINE * 0.85 + 0.6


def _ledger(s: Sheet, question: Question, assessment: Assessment) -> None:
    """The sizes of a question that is asked, with boxes for those that are wanting."""
    asked, quantities = set(assessment.asked), assessment.quantities
    if question.key not in asked:
        return
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
            box(s, EDGE + 79, 26)
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
            pm = number_and_unit(q.pm, q.kind, s.system)[0]
            s.text(
                EDGE + 79,
                f"{write(q.value, q.kind, s.system)} ± {pm}",
                MONO,
                8.5,
            )
            s.text(EDGE + 120, _other(q.value, q.kind, s.system), MONO, 8, SOFT)
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


def _other(value: float, kind: str, system: str) -> str:
    """The value in the units that the sheet does not have; empty where it has but one."""
    if system == "in" and KINDS[kind].imperial:
        return write(value, kind)
    return echo_inches(value, kind)


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


def _cell(value: Cell, column: Column, system: str) -> str:
    """A cell of a table as the sheet prints it."""
    if value is None:
        return ""
    if isinstance(value, tuple):
        return ", ".join(_cell(v, column, system) for v in value) or ("____" if column.kind else "")
    if isinstance(value, str):
        return value
    return number_and_unit(value, column.kind or "count", system, column.places)[0]


def board_table(s: Sheet, t: Table, most: int = MOST_ROWS) -> None:
    """A table of a board; its columns share the page by what stands in them."""
    units = {c.key: number_and_unit(0.0, c.kind, s.system)[1] if c.kind else "" for c in t.columns}
    one = next(iter(dict.fromkeys(u for u in units.values() if u)), "")
    s.heading(f"{t.title}{f', {one}' if one else ''}")
    if t.note:
        s.y -= s.text(EDGE, t.note, size=8, ink=SOFT) * LINE
    heads = [
        c.label + (f", {units[c.key]}" if units[c.key] not in ("", one) else "") for c in t.columns
    ]
    rows = [
        [_cell(v, c, s.system) for v, c in zip(row.cells, t.columns, strict=True)]
        for row in t.rows[:most]
    ]
    widths = column_widths([heads, *rows], s.width - 2 * EDGE)
    table(s, list(zip(heads, widths, strict=True)), rows)
    if len(t.rows) > most:
        s.y -= s.text(EDGE, f"and {len(t.rows) - most} more on the screen", size=8, ink=SOFT) * LINE


def readings_table(s: Sheet, readings: Iterable[Reading]) -> None:
    """Figures to read off, each once; what is ordered with its ± and a box for the maker's
    series.
    """
    readings = list(dict.fromkeys(readings))
    ordered = [r for r in readings if r.ordered]
    plain = [r for r in readings if not r.ordered]
    if ordered:
        s.heading(
            "Order sheet: lengths at ride height, a chain in pitches (order the even number next)"
        )
        heads = (("piece", 74.0), ("length", 36.0), ("±", 26.0), ("series, both ends", 46.0))
        rows = [[r.name, _figure(r, s.system), _pm(r, s.system), None] for r in ordered]
        table(s, heads, rows)
    if plain:
        s.heading("Figures")
        table(
            s, (("what", 100.0), ("figure", 60.0)), [[r.name, _figure(r, s.system)] for r in plain]
        )


def _figure(r: Reading, system: str) -> str:
    return write(r.value, r.kind, system, r.places)


def _pm(r: Reading, system: str) -> str:
    return "" if r.pm is None else number_and_unit(r.pm, r.kind, system, 1)[0]


def _boards(
    s: Sheet, build: Build, questions: Sequence[Question], shown: Mapping[str, Board]
) -> None:
    """Tables, figures, holes and rows of each question, in its order; a casting once."""
    sides: set[str] = set()
    for q in questions:
        b = shown.get(q.key)
        if b is not None and b.row_states:
            _run_sheet(s, getattr(build, q.lists[0]), b.row_states)
        for side in (x for x in q.faces if x not in sides):
            face_tables(s, build.engine_face if side == "engine" else build.gearbox_face, side)
        sides |= set(q.faces)
        for t in b.tables if b is not None else ():
            board_table(s, t)
        for key in q.lists[1 if b is not None and b.row_states else 0 :]:
            list_table(s, build, key)
    readings_table(s, [r for q in questions if q.key in shown for r in shown[q.key].readings])


def _run_sheet(s: Sheet, rows: Sequence[Step], states: Sequence[RowState]) -> None:
    """Rows of work with boxes to tick and blanks for pencil values."""
    s.heading("Steps")
    by_number = {x.n: x for x in states}
    for step in rows:
        s.room(30 if step.hold or step.gate else 13)
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
        if step.hold or step.gate:
            if step.state == "done":
                signed = f"signed: {step.by or 'no name'}{', ' + step.at[:10] if step.at else ''}"
                s.y -= s.text(EDGE + 6, signed, size=7.5, ink=SOFT) * LINE * 0.8
            else:
                sign_line(s, "signed", "date", x=EDGE + 6)
        s.y -= 1


def station_sheet(
    build: Build,
    assessment: Assessment,
    station: Station,
    shown: Mapping[str, Board],
    paper: str = "A4",
    printed: str = "",
    of_ways: str = "",
    system: str = "mm",
    pictures: Mapping[str, bytes] = NO_PICTURES,
) -> bytes:
    """PDF of one station of a build.

    Parameters
    ----------
    shown : mapping of question to Board
        What is drawn of the station's questions.
    printed, of_ways
        The date that the sheet shows, and what it says of ways out that it lacks.
    system
        Units of what was worked out, ``mm`` or ``in``; what was typed stands as typed.
    pictures : mapping of photo to JPEG
        Photos that the log names, small enough for paper.

    Raises
    ------
    KeyError
        ``paper`` is neither A4 nor Letter.
    """
    stream = io.BytesIO()
    c = new_canvas(stream, SIZES[paper], f"{build.name}: {station.value}")
    head = f"{build.name} · {station.value.capitalize()}"
    s = Sheet(c, paper, head, header(build, printed), system)
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
            pm = f" to ± {write(n.pm_wanted, n.kind, system)}" if n.pm_wanted else ""
            words = f"{n.name}: {n.tool}{pm}; {n.reason}. {n.how}"
            s.y -= s.text(EDGE, words, size=8.5) * LINE * 0.85 + 1
    drawn: set[tuple[str, float, float]] = set()
    for q in questions:
        for d in shown[q.key].drawings if q.key in shown else ():
            # A picture that an earlier question had comes again only for letters of its own.
            key = (d.view, d.x_low, d.x_high)
            if d.callouts or key not in drawn:
                tall = 105.0 if not drawn else 85.0
                title = f"{q.name}: {d.name[:1].lower()}{d.name[1:]}" if d.name else q.name
                picture(s, d, tall if d.x_high - d.x_low < WIDE_MM else 70.0, title)
            drawn.add(key)
        if not whole:
            _ledger(s, q, assessment)
    _boards(s, build, questions, shown)
    if whole:
        s.heading("Every size")
        for q in QUESTIONS.values():
            _ledger(s, q, assessment)
    with_gaps = {q.key for q in questions if q.gaps}
    gaps_to_read(s, [f for f in own if f.question in with_gaps and f.kind == "length"])
    if any("log" in q.lists for q in questions):
        photos_of(s, build.log, pictures)
    cautions_list(s)
    s.room(34)
    sign_line(s, "taken by", "date", "tools, temperature")
    s.y -= 6
    check_bar(c, EDGE, s.y)
    s.finish()
    return stream.getvalue()
