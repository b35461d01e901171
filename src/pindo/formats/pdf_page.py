"""A page of a sheet: its frame, its lines, its pictures to scale and its tables."""

from collections.abc import Iterable, Sequence

from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from pindo.core.drawing.shapes import Drawing, Shape
from pindo.formats.paper import (
    BOLD,
    BOX,
    INK,
    LACKING,
    MONO,
    REGULAR,
    RULE,
    SIZES,
    SOFT,
    VERDICT_INK,
    WIDE,
    fitted,
)

EDGE = 14.0


LINE = 5.2


CELL = 8.5
"""Type of a table's cells. [pt]"""


GUTTER = 4.0
"""Between a column and the next. [mm]"""


MOST_LINES = 12


WIDE_MM = 2000.0  # a picture of more than this is the vehicle's: it gets less of the page


CAUTION = (
    "Findings are screening, never an approval. Local rules, the makers' instructions and licensed"
    " people come first."
)


FINE = frozenset({"thin", "axis", "grid", "hidden", "leader"})


BESIDE = 5.0
"""Room above and below a picture for words that stand beside it. [mm]"""


GLYPH_GAP = {"goes": 1.2, "tight": 0.3, "fouls": -0.8, "unmeasured": 1.2}


class Sheet:
    """A page that fills from the top and starts anew when it is full."""

    def __init__(
        self, canvas: Canvas, paper: str, head: str, sub: tuple[str, str], system: str = "mm"
    ) -> None:
        self.c, (self.width, self.height) = canvas, SIZES[paper]
        self.head, self.sub, self.page = head, sub, 0
        self.system = system
        """Units of what was worked out: ``mm`` or ``in``."""
        self.cautions: dict[str, None] = {}
        """Cautions of the findings that were printed, each once."""
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
        self.c.drawRightString(
            (self.width - EDGE) * mm, (self.height - 16) * mm, f"page {self.page}"
        )
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

    def text(
        self,
        x: float,
        words: str,
        font: str = REGULAR,
        size: float = 9.0,
        ink: object = INK,
        width: float | None = None,
    ) -> int:
        """Words from x on, wrapped; returns the number of lines."""
        words, font = self._fitted(words, font)
        self.c.setFont(font, size)
        self.c.setFillColor(ink)
        lines = simpleSplit(words, font, size, (width or self.width - EDGE - x) * mm) or [""]
        if len(lines) > MOST_LINES:
            lines = [
                *lines[: MOST_LINES - 1],
                lines[MOST_LINES - 1] + " … (the rest on the screen)",
            ]
        for i, line in enumerate(lines):
            self.c.drawString(x * mm, (self.y - i * LINE * 0.85) * mm, line)
        return len(lines)

    def heading(self, words: str, needed: float = 34.0) -> None:
        """A heading, on the page of the first ``needed`` mm of what it heads."""
        self.room(needed)
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
    c.rect(
        (x + 2.2 + GLYPH_GAP[verdict]) * mm,
        y * mm,
        2.2 * mm,
        2.4 * mm,
        stroke=1,
        fill=int(filled and verdict != "fouls"),
    )
    c.setDash()


def _path(c: Canvas, shape: Shape, scale: float, x0: float, y0: float) -> None:
    path = c.beginPath()
    for i, (x, y) in enumerate(shape.points):
        (path.lineTo if i else path.moveTo)((x0 + x * scale) * mm, (y0 + y * scale) * mm)
    if shape.closed:
        path.close()
    dashed = shape.style in ("hidden", "axis") or not shape.known
    c.setDash(*([2, 1.5] if dashed else []))
    c.setLineWidth(0.15 * mm if shape.style in FINE else 0.3 * mm)
    c.setStrokeColor(RULE if shape.style == "grid" else INK)
    c.drawPath(path, stroke=1, fill=0)
    c.setDash()
    c.setStrokeColor(INK)


def picture(s: Sheet, drawing: Drawing, most_tall: float = 120.0, title: str = "") -> None:
    """A picture to scale, as large as the page and ``most_tall`` mm let it, under its title."""
    wide = s.width - 2 * EDGE
    scale = min(
        wide / (drawing.x_high - drawing.x_low), most_tall / (drawing.y_high - drawing.y_low)
    )
    tall = (drawing.y_high - drawing.y_low) * scale
    beside = BESIDE if drawing.notes else 0.0
    if title:
        s.heading(title, tall + 2.0 * beside + 24)
    s.room(tall + 2.0 * beside + 12)
    s.y -= beside
    x0, y0 = EDGE - drawing.x_low * scale, s.y - tall - drawing.y_low * scale
    c = s.c
    c.saveState()
    # What stands out of the view ends at its edge, as on the screen.
    view = c.beginPath()
    view.rect(
        EDGE * mm, (s.y - tall) * mm, (drawing.x_high - drawing.x_low) * scale * mm, tall * mm
    )
    c.clipPath(view, stroke=0, fill=0)
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
            c.drawString(
                (x0 + r.x * scale + r.d / 2 * scale + 0.6) * mm, (y0 + r.y * scale) * mm, words
            )
    c.setDash()
    c.setFont(BOLD, 6.5)
    for mark in drawing.callouts:
        c.drawString(
            (x0 + mark.x * scale + 0.5) * mm, (y0 + mark.y * scale + 0.5) * mm, mark.letter
        )
    c.restoreState()
    c.setFillColor(SOFT)
    for note in drawing.notes:
        words, font = fitted(note.text, REGULAR)
        c.setFont(font, 6.5)
        c.drawString((x0 + note.x * scale) * mm, (y0 + note.y * scale) * mm, words)
    s.y -= tall + beside + 4
    s.text(EDGE, f"{drawing.view}; scale 1:{1 / scale:.1f}", size=7.5, ink=SOFT)
    s.y -= LINE


def box(s: Sheet, x: float, width: float) -> None:
    """A dashed box for a figure in pencil."""
    s.c.setStrokeColor(INK)
    s.c.setLineWidth(0.15 * mm)
    s.c.setDash(1.5, 1.5)
    s.c.rect(x * mm, (s.y - 1.3) * mm, width * mm, 4.6 * mm)
    s.c.setDash()


def column_widths(rows: Sequence[Sequence[str]], room: float) -> list[float]:
    """Widths that share ``room`` by what stands in the columns: each as wide as its longest cell
    where that goes, never narrower than its longest word unless the words of one row are wider than
    the page. [mm]
    """

    def across(words: str) -> float:
        points: float = stringWidth(*fitted(words, REGULAR), CELL)
        return points / float(mm)

    columns = list(zip(*rows, strict=True))
    wanted = [max(map(across, c)) + GUTTER for c in columns]
    least = [max(across(w) for cell in c for w in cell.split() or [""]) + GUTTER for c in columns]
    over, spare = sum(wanted) - room, sum(wanted) - sum(least)
    if over <= 0.0:
        return wanted
    if over >= spare:
        return [x * room / sum(least) for x in least]
    return [w - (w - x) * over / spare for w, x in zip(wanted, least, strict=True)]


def table(
    s: Sheet, columns: Sequence[tuple[str, float]], rows: Iterable[Sequence[str | None]]
) -> None:
    """Rows of words under heads; ``columns`` are heads with their width [mm]. None is a box to
    fill in.
    """
    s.room(12)
    x, most = EDGE, 1
    for head, width in columns:
        most = max(most, s.text(x, head, size=7.5, ink=SOFT, width=width - 2))
        x += width
    s.y -= LINE + (most - 1) * LINE * 0.85
    for row in rows:
        lines = [
            len(simpleSplit(*fitted(cell, REGULAR), CELL, (width - 2) * mm))
            for cell, (_, width) in zip(row, columns, strict=True)
            if cell is not None
        ]
        s.room(max(9.0, 4.0 + min(max(lines, default=1), MOST_LINES) * LINE * 0.85))
        x, most = EDGE, 1
        for cell, (_, width) in zip(row, columns, strict=True):
            if cell is None:
                box(s, x, width - 2)
            else:
                most = max(most, s.text(x, cell, size=CELL, width=width - 2))
            x += width
        s.y -= most * LINE * 0.85 + (2 if None in row else 1)
