"""The plate as a 1:1 paper template, tiled over A4, A3 or Letter, with cut marks and a 100 mm
check bar on each sheet.
"""

import io
import math
from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from pindo.core.errors import PindoError
from pindo.core.stations.mate.outline import Plate
from pindo.formats.paper import (
    BOLD,
    INK,
    MONO,
    REGULAR,
    SIZES,
    SOFT,
    VERDICT_INK,
    check_bar,
    fitted,
    new_canvas,
)

MARGIN = 10.0  # mm that a desk printer cannot reach
FOOT = 22.0  # mm at the foot of each sheet for the check bar and the title
OVERLAP = 10.0  # mm that neighbouring sheets share, for gluing
MOST_SHEETS = 48
Point = tuple[float, float]
Size = tuple[float, float]


class TooLarge(PindoError, ValueError):
    """The plate would take more sheets than anybody glues."""


def _draw_line(c: Canvas, line: Sequence[Point]) -> None:
    """A closed line. [mm]"""
    if not line:
        return
    path = c.beginPath()
    path.moveTo(line[0][0] * mm, line[0][1] * mm)
    for u, v in line[1:]:
        path.lineTo(u * mm, v * mm)
    path.close()
    c.drawPath(path)


def _draw_plate(c: Canvas, plate: Plate) -> None:
    c.setStrokeColor(INK)
    c.setLineWidth(0.2 * mm)
    for line in (plate.outline, *plate.lines):
        _draw_line(c, line)
    c.setDash(2, 2)
    for line in plate.rough:
        _draw_line(c, line)
    c.setDash()
    for opening in (plate.window, plate.pocket):
        if opening:
            c.circle(opening.u * mm, opening.v * mm, opening.d / 2 * mm)
    c.setFont(MONO, 7)
    for row in plate.drilling:
        c.circle(row.u * mm, row.v * mm, row.d / 2 * mm)
        for du, dv in ((4, 0), (0, 4)):
            c.line((row.u - du) * mm, (row.v - dv) * mm, (row.u + du) * mm, (row.v + dv) * mm)
        c.setFillColor(INK)
        c.drawString((row.u + row.d / 2 + 1) * mm, (row.v + 1.5) * mm, row.called)
        c.setFont(MONO, 5)
        size = row.thread if row.layer == "tapped" else f"d {row.d:.1f}"
        c.drawString((row.u + row.d / 2 + 1) * mm, (row.v - 1.5) * mm, size)
        c.setFont(MONO, 7)
    c.line(-8 * mm, 0, 8 * mm, 0)
    c.line(0, -8 * mm, 0, 8 * mm)


def _marks(left: float, top: float, columns: int, rows: int, cell: Size) -> list[Point]:
    """Register marks in the middle of what two sheets share: both show the same one. [mm]

    ``left``, ``top`` are the corner of the first sheet, ``cell`` what a sheet brings that is new.
    """
    wide, tall = cell
    half = OVERLAP / 2.0
    upright = [
        (left + i * wide + half, top - (j + share) * tall)
        for i in range(1, columns)
        for j in range(rows)
        for share in (0.25, 0.75)
    ]
    level = [
        (left + (i + share) * wide, top - j * tall - half)
        for j in range(1, rows)
        for i in range(columns)
        for share in (0.25, 0.75)
    ]
    return upright + level


def _draw_marks(c: Canvas, marks: Sequence[Point]) -> None:
    c.setStrokeColor(SOFT)
    c.setLineWidth(0.15 * mm)
    for u, v in marks:
        # Slanting, since an upright cross is the middle of a hole.
        for way in (1, -1):
            c.line((u - 3) * mm, (v - 3 * way) * mm, (u + 3) * mm, (v + 3 * way) * mm)


def _cut_marks(c: Canvas, wide: float, tall: float, cuts: tuple[bool, bool]) -> None:
    """Ticks at the edges of the sheet where it is cut before it is glued over its neighbours: along
    its left side and its top, where another sheet lies under it. [mm]
    """
    c.setStrokeColor(INK)
    c.setLineWidth(0.2 * mm)
    left, low = MARGIN, MARGIN + FOOT
    if cuts[0]:
        for y in (low, low + tall):
            c.line((left + OVERLAP / 2) * mm, (y - 4) * mm, (left + OVERLAP / 2) * mm, (y + 4) * mm)
    if cuts[1]:
        y = low + tall - OVERLAP / 2
        for x in (left, left + wide):
            c.line((x - 4) * mm, y * mm, (x + 4) * mm, y * mm)


def _across(c: Canvas, width: float, height: float) -> None:
    """FOULS across the sheet: nobody drills by it without having seen that."""
    c.saveState()
    c.setFillColor(VERDICT_INK["fouls"], alpha=0.22)
    c.setFont(BOLD, 110)
    c.translate(width / 2 * mm, height / 2 * mm)
    c.rotate(math.degrees(math.atan2(height, width)))
    c.drawCentredString(0, -38, "FOULS")
    c.restoreState()


def template_pdf(
    plate: Plate,
    title: str,
    paper: str = "A4",
    fouls: Sequence[str] = (),
    thickness_mm: float | None = None,
) -> bytes:
    """A template as PDF; each sheet is named by column and row, and overlaps its neighbour by 10
    mm, with register marks in what they share.

    Parameters
    ----------
    fouls
        What fouls of the plate, in words: while anything does, it says so across every sheet.
    thickness_mm : float, optional
        Thickness of the plate, for the foot. [mm]

    Raises
    ------
    KeyError
        ``paper`` is none of A4, A3 and Letter.
    ValueError
        There is no outline yet.
    TooLarge
        It would take more than 48 sheets.
    """
    if not plate.outline:
        raise ValueError("The plate has no outline yet: it takes three holes at least.")
    width, height = SIZES[paper]
    wide, tall = width - 2 * MARGIN, height - 2 * MARGIN - FOOT
    us, vs = [p[0] for p in plate.outline], [p[1] for p in plate.outline]
    left, top = min(us) - 2, max(vs) + 2
    columns = max(1, math.ceil((max(us) + 2 - left - OVERLAP) / (wide - OVERLAP)))
    rows = max(1, math.ceil((top - min(vs) + 2 - OVERLAP) / (tall - OVERLAP)))
    if rows * columns > MOST_SHEETS or columns > 26:
        raise TooLarge(
            f"The plate would take {rows * columns} sheets at 1:1; at most {MOST_SHEETS} are made."
            " Look at the places of its holes, or cut from the DXF."
        )
    marks = _marks(left, top, columns, rows, (wide - OVERLAP, tall - OVERLAP))
    stream = io.BytesIO()
    c = new_canvas(stream, (width, height), f"{title}, 1:1 template")
    for row in range(rows):
        for column in range(columns):
            u0 = left + column * (wide - OVERLAP)
            v0 = top - row * (tall - OVERLAP) - tall
            c.saveState()
            window = c.beginPath()
            window.rect(MARGIN * mm, (MARGIN + FOOT) * mm, wide * mm, tall * mm)
            c.clipPath(window, stroke=1, fill=0)
            c.translate((MARGIN - u0) * mm, (MARGIN + FOOT - v0) * mm)
            _draw_plate(c, plate)
            _draw_marks(c, marks)
            c.restoreState()
            _cut_marks(c, wide, tall, (column > 0, row > 0))
            if fouls:
                _across(c, width, height)
            thick = "" if thickness_mm is None else f", plate {thickness_mm:.2f} mm thick"
            _foot(
                c,
                title,
                f"sheet {chr(65 + column)}{row + 1} of {columns} x {rows}, overlap {OVERLAP:g} mm"
                f"{thick} · {plate.seen}",
                fouls,
            )
            c.showPage()
    c.save()
    return stream.getvalue()


def _foot(c: Canvas, title: str, sheet: str, fouls: Sequence[str]) -> None:
    check_bar(c, MARGIN, MARGIN + 11)
    c.setFillColor(VERDICT_INK["fouls"] if fouls else INK)
    told = f"FOULS: {'; '.join(fouls)} · {title}" if fouls else title
    words, font = fitted(told[:110], BOLD)
    c.setFont(font, 9)
    c.drawString(MARGIN * mm, (MARGIN + 5.5) * mm, words)
    c.setFillColor(SOFT)
    c.setFont(REGULAR, 8)
    c.drawString(
        MARGIN * mm,
        (MARGIN + 1.5) * mm,
        f"{sheet} · print at 100 %, no scaling · paper proves outline, not position",
    )
