"""The shop sheet of a station: pictures, tables, findings, ledger with empty boxes for what is still to take."""

import io
from collections.abc import Iterable, Sequence

from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfgen.canvas import Canvas

from pindo.core.assemble.fasteners import Tightening
from pindo.core.assess import Assessment, worst_first
from pindo.core.boards import Boards
from pindo.core.build import Build
from pindo.core.dimensions import DIMENSIONS, LEDGERS, Station, applies
from pindo.core.drawing import Drawing, Shape
from pindo.core.resolve import Resolved
from pindo.core.units import echo_inches, write
from pindo.core.verdict import Finding
from pindo.formats.paper import BOLD, BOX, INK, LACKING, MONO, REGULAR, RULE, SIZES, SOFT, VERDICT_INK, WIDE, check_bar, fitted, new_canvas

EDGE = 14.0
LINE = 5.2
MOST_LINES = 12
CAUTION = "Findings are screening, never an approval. Local rules, the makers' instructions and licensed people come first."
GLYPH_GAP = {"goes": 1.2, "tight": 0.3, "fouls": -0.8, "unmeasured": 1.2}


class Sheet:
    """A page that fills from the top and starts anew when it is full."""

    def __init__(self, canvas: Canvas, paper: str, head: str, sub: tuple[str, str]) -> None:
        self.c, (self.width, self.height) = canvas, SIZES[paper]
        self.head, self.sub, self.page = head, sub, 0
        self.y = 0.0
        self.lacking = False
        self.new_page()

    def new_page(self) -> None:
        if self.page:
            self.c.showPage()
        self.page += 1
        self.c.setFillColor(INK)
        self._one_line(16, self.head[:70], BOLD, 13)
        self.c.setFillColor(SOFT)
        for i, words in enumerate(self.sub):
            self._one_line(20.5 + 4 * i, words[:130], REGULAR, 8.5)
        self.c.setFont(REGULAR, 8.5)
        self.c.drawRightString((self.width - EDGE) * mm, (self.height - 16) * mm, f"page {self.page}")
        self.c.setFont(REGULAR, 7.5)
        self.c.drawString(EDGE * mm, 8 * mm, CAUTION)
        self.y = self.height - 31

    def _one_line(self, from_top: float, words: str, font: str, size: float) -> None:
        words, font = self._fitted(words, font)
        self.c.setFont(font, size)
        self.c.drawString(EDGE * mm, (self.height - from_top) * mm, words)

    def _fitted(self, words: str, font: str) -> tuple[str, str]:
        words, font = fitted(words, font)
        self.lacking = self.lacking or BOX in words
        return words, font

    def finish(self) -> None:
        """Says what the type lacks, and ends the last page."""
        if self.lacking:
            self.room(8)
            self.y -= self.text(EDGE, LACKING, WIDE, 7, SOFT) * LINE
        self.c.showPage()
        self.c.save()

    def room(self, needed: float) -> None:
        if self.y - needed < 14:
            self.new_page()

    def text(self, x: float, words: str, font: str = REGULAR, size: float = 9.0, ink: object = INK, width: float | None = None) -> int:
        """Words from x on, wrapped; returns the number of lines."""
        words, font = self._fitted(words, font)
        self.c.setFont(font, size)
        self.c.setFillColor(ink)
        lines = simpleSplit(words, font, size, (width or self.width - EDGE - x) * mm) or [""]
        if len(lines) > MOST_LINES:
            lines = [*lines[: MOST_LINES - 1], lines[MOST_LINES - 1] + " … (the rest on the screen)"]
        for i, line in enumerate(lines):
            self.c.drawString(x * mm, (self.y - i * LINE * 0.85) * mm, line)
        return len(lines)

    def heading(self, words: str) -> None:
        self.room(16)
        self.y -= 4
        self.text(EDGE, words, BOLD, 10.5)
        self.y -= 2
        self.c.setStrokeColor(RULE)
        self.c.line(EDGE * mm, self.y * mm, (self.width - EDGE) * mm, self.y * mm)
        self.y -= LINE


def glyph(s: Sheet, verdict: str) -> None:
    """Two blocks: apart, a hair apart, overlapping, dashed."""
    c, x, y = s.c, EDGE, s.y
    c.setStrokeColor(VERDICT_INK[verdict])
    c.setFillColor(VERDICT_INK[verdict])
    c.setDash(*([1, 1] if verdict == "unmeasured" else []))
    filled = int(verdict != "unmeasured")
    c.rect(x * mm, y * mm, 2.2 * mm, 2.4 * mm, stroke=1, fill=filled)
    c.rect((x + 2.2 + GLYPH_GAP[verdict]) * mm, y * mm, 2.2 * mm, 2.4 * mm, stroke=1, fill=int(filled and verdict != "fouls"))
    c.setDash()


def _path(c: Canvas, shape: Shape, scale: float, x0: float, y0: float) -> None:
    path = c.beginPath()
    for i, (x, y) in enumerate(shape.points):
        (path.lineTo if i else path.moveTo)((x0 + x * scale) * mm, (y0 + y * scale) * mm)
    if shape.closed:
        path.close()
    dashed = shape.style in ("hidden", "axis") or not shape.known
    c.setDash(*([2, 1.5] if dashed else []))
    c.setLineWidth(0.15 * mm if shape.style in ("thin", "axis", "hidden") else 0.3 * mm)
    c.drawPath(path, stroke=1, fill=0)
    c.setDash()


def picture(s: Sheet, drawing: Drawing, most_tall: float = 120.0) -> None:
    wide = s.width - 2 * EDGE
    scale = min(wide / (drawing.x_high - drawing.x_low), most_tall / (drawing.y_high - drawing.y_low))
    tall = (drawing.y_high - drawing.y_low) * scale
    s.room(tall + 12)
    x0, y0 = EDGE - drawing.x_low * scale, s.y - tall - drawing.y_low * scale
    c = s.c
    c.saveState()
    # What stands out of the view ends at its edge, as on the screen.
    view = c.beginPath()
    view.rect(EDGE * mm, (s.y - tall) * mm, (drawing.x_high - drawing.x_low) * scale * mm, tall * mm)
    c.clipPath(view, stroke=0, fill=0)
    c.setStrokeColor(INK)
    for shape in drawing.shapes:
        _path(c, shape, scale, x0, y0)
    c.setFont(MONO, 6)
    c.setFillColor(INK)
    for r in drawing.rounds:
        c.setDash(*([2, 1.5] if not r.known else []))
        c.setLineWidth(0.12 * mm if r.style in ("land", "head") else 0.25 * mm)
        c.circle((x0 + r.x * scale) * mm, (y0 + r.y * scale) * mm, r.d / 2 * scale * mm)
        if r.label and r.style != "land":
            words, font = fitted(r.label, MONO)
            c.setFont(font, 6)
            c.drawString((x0 + r.x * scale + r.d / 2 * scale + 0.6) * mm, (y0 + r.y * scale) * mm, words)
    c.setDash()
    c.setFont(BOLD, 6.5)
    for mark in drawing.callouts:
        if mark.main:
            c.drawString((x0 + mark.x * scale + 0.5) * mm, (y0 + mark.y * scale + 0.5) * mm, mark.letter)
    c.restoreState()
    s.y -= tall + 4
    s.text(EDGE, f"{drawing.view}; scale 1:{1 / scale:.1f}", size=7.5, ink=SOFT)
    s.y -= LINE


def findings_list(s: Sheet, findings: Iterable[Finding]) -> None:
    for f in worst_first(findings):
        s.room(12)
        glyph(s, f.verdict.value)
        words = f.sentence.mm + (f" [waived by {f.waived_by}]" if f.waived_by else "")
        words += "".join(f" [limit changed from {r.default:g} to {r.value:g}: {r.note}]" for r in f.rules if r.overridden)
        lines = s.text(EDGE + 9, words)
        s.y -= lines * LINE * 0.85 + 1.2
        for way in f.ways_out:
            s.room(6)
            s.text(EDGE + 13, f"way out: {way.letter} {way.name} {write(way.current, way.kind)} to {write(way.target, way.kind)} {way.costs.mm}", size=8, ink=SOFT)
            s.y -= LINE * 0.85
        if f.caution and f.verdict.value != "goes":
            s.y -= (s.text(EDGE + 13, f"Caution: {f.caution}", size=8, ink=SOFT)) * LINE * 0.85


def _ledger(s: Sheet, station: Station, build: Build, quantities: dict[str, Resolved]) -> None:
    for key, letter in LEDGERS[station].items():
        if not applies(DIMENSIONS[key], build.options):
            continue
        q, definition = quantities[key], DIMENSIONS[key]
        s.room(9)
        s.text(EDGE, letter, BOLD, 8.5)
        lines = s.text(EDGE + 9, definition.name, size=8.5, width=68)
        if q.value is None:
            s.c.setStrokeColor(INK)
            s.c.setDash(1.5, 1.5)
            s.c.rect((EDGE + 79) * mm, (s.y - 1.3) * mm, 26 * mm, 4.6 * mm)
            s.c.setDash()
            why = f"“{q.detail}” · " if q.status.value == "word" else f"{q.status.value}: {q.detail} · " if q.detail else ""
            lines = max(lines, s.text(EDGE + 108, f"{why}{definition.how}", size=7.5, ink=SOFT))
        else:
            source = q.source.value if q.source else ""
            s.text(EDGE + 79, f"{write(q.value, q.kind)} ± {write(q.pm, q.kind).partition(' ')[0]}", MONO, 8.5)
            s.text(EDGE + 120, echo_inches(q.value, q.kind), MONO, 8, SOFT)
            lines = max(lines, s.text(EDGE + 147, f"{source}{', ' + q.tool.value if q.tool else ''}", size=7.5, ink=SOFT))
        s.y -= LINE + (lines - 1) * LINE * 0.85


def table(s: Sheet, columns: Sequence[tuple[str, float]], rows: Iterable[Sequence[str]]) -> None:
    """Rows of words under heads; ``columns`` are heads with their width [mm]."""
    s.room(12)
    x, most = EDGE, 1
    for head, width in columns:
        most = max(most, s.text(x, head, size=7.5, ink=SOFT, width=width - 2))
        x += width
    s.y -= LINE + (most - 1) * LINE * 0.85
    for row in rows:
        s.room(9)
        x, most = EDGE, 1
        for cell, (_, width) in zip(row, columns, strict=True):
            most = max(most, s.text(x, cell, size=8.5, width=width - 2))
            x += width
        s.y -= most * LINE * 0.85 + 1


def header(build: Build, printed: str) -> tuple[str, str]:
    """What the build is, and the state that its results hold for."""
    conditions = ", ".join(f"{k.replace('_', ' ')} {v}" for k, v in build.state.model_dump(mode="json", exclude_none=True).items())
    chosen = ", ".join(v for k, v in build.options.items() if k in ("drive", "mount_type", "release_type") and v)
    return " · ".join(x for x in (build.vehicle, build.engine, build.gearbox) if x), " · ".join(x for x in (conditions, chosen, printed) if x)


def _drawings(station: Station, b: Boards) -> list[Drawing]:
    found: dict[Station, list[Drawing | None]] = {
        Station.SURVEY: [b.profile],
        Station.MATE: [b.mate],
        Station.STACK: [b.stack],
        Station.SEAT: [b.seat["side"], b.seat["front"]],
        Station.LINE: [b.line],
        Station.CLEAR: [b.clear["side"], b.clear["plan"], b.belt],
    }
    return [d for d in found.get(station, []) if d is not None]


def _tables(s: Sheet, station: Station, build: Build, b: Boards) -> None:
    if station == Station.SEAT and b.readouts:
        s.heading("Where it sits, mm")
        table(
            s,
            (("point", 60), ("behind front axle", 32), ("left of centre", 30), ("above rail", 28), ("above ground", 28)),
            ([r.name, f"{r.back:.1f}", f"{r.left:.1f}", f"{r.above_rail:.1f}", "" if r.above_ground is None else f"{r.above_ground:.1f}"] for r in b.readouts),
        )
    if station == Station.SEAT and b.mount_rows:
        s.heading("On its mounts: share, squash and movement from rest, mm")
        widths = (("mount", 38), ("carries", 18), ("squash", 18), *((case, 18) for case in b.cases))
        table(s, widths, ([f"{r.n} {r.name}", f"{r.share:.0f} %", f"{r.squash:.1f}", *(f"{x:.1f}" for x in r.moves)] for r in b.mount_rows))
    if station == Station.SEAT and b.modes:
        s.heading("Its six modes on the mounts")
        table(s, (("Hz", 24), ("turn about the crank, %", 50)), ([f"{x.hertz:.1f}", f"{x.about_crank:.0f}"] for x in b.modes))
    if station == Station.LINE and b.orders:
        if build.options.get("drive") == "chain":
            s.heading("Order sheet: pitches at the centre distance below; order the even number next to it")
            table(s, (("piece", 80), ("pitches", 40)), ([o.name, f"{o.value:.2f}"] for o in b.orders))
        else:
            s.heading("Order sheet: joint centre to joint centre at ride height, mm")
            table(s, (("piece", 74), ("length", 32), ("±", 26), ("joint series, both ends", 46)), ([o.name, f"{o.value:.1f}", f"{o.pm:.1f}", ""] for o in b.orders))
    if station == Station.CLEAR and b.pairs:
        s.heading(f"Tightest of {b.pair_count} pairs, mm" + (f"; {b.pairs_unmeasured} more cannot be judged yet" if b.pairs_unmeasured else ""))
        table(
            s,
            (("unit", 43), ("chassis", 43), ("gap", 22), ("±", 12), ("class", 14), ("moves", 14), ("left", 14), ("", 20)),
            ([p.engine, p.chassis, f"{p.gap:.1f}" + (" read" if p.read else ""), f"{p.pm:.1f}", f"{p.class_limit:g}", f"{p.moves:.1f}", f"{p.left:.1f}", p.verdict] for p in b.pairs[:20]),
        )
    if station == Station.ASSEMBLE:
        _run_sheet(s, build, b)
    if station == Station.LOG:
        t = b.totals
        s.heading("Money")
        table(
            s,
            (("paid", 26), ("due", 26), ("refunds received", 32), ("refunds asked", 30), ("forecast", 28), ("unpriced", 26)),
            [[f"{t.paid:.2f}", f"{t.due:.2f}", f"{t.refunded:.2f}", f"{t.refunds_asked:.2f}", f"{t.forecast:.2f}", f"{t.unpriced} lines"]],
        )
        s.heading("What is open")
        table(s, (("kind", 40), ("what", 100), ("blocks", 30)), ([o.kind, o.text, o.gate] for o in b.open_items))


def stages_words(t: Tightening) -> str:
    """Stages of a joint as they are ticked, how they were read beside them."""
    if not t.stages_nm:
        return t.read_as or "____"
    return ", ".join([*(f"{x:g}" for x in t.stages_nm), *(f"+ {a:g} deg" for a in t.angles_deg)])


def _run_sheet(s: Sheet, build: Build, b: Boards) -> None:
    """Steps with boxes for pencil values, tightening tables, screws by hole."""
    s.heading("Steps")
    states = {x.n: x for x in b.steps}
    for step in build.steps:
        s.room(13)
        state = states[step.n]
        words = f"{step.n} {step.name}" + (" [hold point]" if step.hold else "") + (f" [gate: {step.gate}]" if step.gate else "")
        status = f"waits for {', '.join(map(str, state.waits_for))}" if state.status == "waits" else state.status
        s.c.setStrokeColor(INK)
        s.c.rect(EDGE * mm, (s.y - 0.6) * mm, 3 * mm, 3 * mm, fill=int(step.state == "done"))
        s.y -= s.text(EDGE + 6, words + f" · {status}", BOLD if step.hold else REGULAR, 9) * LINE * 0.85
        more = "; ".join(
            x
            for x in (
                f"{step.helpers} helper{'s' if step.helpers > 1 else ''}" if step.helpers else "",
                step.tools,
                step.caution.rstrip("."),
                f"as built, {step.asks}: {step.as_built or '____________'}" if step.asks else "",
            )
            if x
        )
        if more:
            s.y -= s.text(EDGE + 6, more, size=7.5, ink=SOFT) * LINE * 0.8
        s.y -= 1
    if b.tightening:
        s.heading("Tightening")
        table(
            s,
            (("joint", 36), ("thread", 26), ("order", 40), ("stages, N·m", 34), ("state", 20), ("source", 26)),
            ([t.name, t.thread, " ".join(map(str, t.order)), stages_words(t), t.state, t.source] for t in b.tightening),
        )
    if b.screws:
        s.heading("Screws by hole, mm")
        table(
            s,
            (("hole", 14), ("screw", 44), ("grip", 18), ("least", 18), ("most", 18), ("stock", 18), ("note", 52)),
            (
                [
                    x.hole,
                    x.what,
                    "" if x.grip is None else f"{x.grip:.1f}",
                    "" if x.least is None else f"{x.least:.1f}",
                    "" if x.most is None else f"{x.most:.1f}",
                    "" if x.stock is None else f"{x.stock:g}",
                    x.note or (f"washers {x.washer:g}" if x.washer else ""),
                ]
                for x in b.screws
            ),
        )


def station_sheet(build: Build, assessment: Assessment, station: Station, pictures: Boards, paper: str = "A4", printed: str = "", of_ways: str = "") -> bytes:
    """PDF of one station of a build. ``printed`` is the date that the sheet shows, ``of_ways`` what it says of ways out that it lacks.

    Raises
    ------
    KeyError
        ``paper`` is neither A4 nor Letter.
    """
    stream = io.BytesIO()
    c = new_canvas(stream, SIZES[paper], f"{build.name}: {station.value}")
    s = Sheet(c, paper, f"{build.name} · {station.value.capitalize()}", header(build, printed))
    for drawing in _drawings(station, pictures):
        picture(s, drawing, 120.0 if station in (Station.MATE, Station.STACK) else 75.0)
    own = [f for f in assessment.findings if station == Station.SURVEY or f.station == station]
    if station == Station.SURVEY:
        s.heading("Measure next")
        for n in assessment.next:
            s.room(8)
            pm = f" to ± {write(n.pm_wanted, n.kind)}" if n.pm_wanted else ""
            s.y -= s.text(EDGE, f"{n.name}: {n.tool}{pm}; {n.reason}. {n.how}", size=8.5) * LINE * 0.85 + 1
    _tables(s, station, build, pictures)
    s.heading("Findings, worst first")
    if of_ways:
        s.y -= s.text(EDGE, of_ways, size=8, ink=SOFT) * LINE
    findings_list(s, own)
    shown = [station] if station != Station.SURVEY else [x for x in Station if LEDGERS[x]]
    if any(LEDGERS[x] for x in shown):
        s.heading("Ledger")
    for x in shown:
        if station == Station.SURVEY:
            s.room(10)
            s.y -= 1
            s.text(EDGE, x.value.capitalize(), BOLD, 9)
            s.y -= LINE
        _ledger(s, x, build, dict(assessment.quantities))
    s.room(14)
    s.y -= 6
    check_bar(c, EDGE, s.y)
    s.finish()
    return stream.getvalue()
