"""The plate as a 1:1 paper template, tiled over A4 or Letter, with a 100 mm check bar on each
sheet.
"""

import io
import math

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from pindo.core.errors import PindoError
from pindo.core.stations.mate.outline import Plate
from pindo.formats.paper import BOLD, INK, MONO, REGULAR, SIZES, SOFT, check_bar, fitted, new_canvas

MARGIN = 10.0  # mm that a desk printer cannot reach
FOOT = 22.0  # mm at the foot of each sheet for the check bar and the title
OVERLAP = 10.0  # mm that neighbouring sheets share, for gluing
MOST_SHEETS = 48


class TooLarge(PindoError, ValueError):
    """The plate would take more sheets than anybody glues."""


def _draw_plate(c: Canvas, plate: Plate) -> None:
    c.setStrokeColor(INK)
    c.setLineWidth(0.2 * mm)
    if plate.outline:
        path = c.beginPath()
        path.moveTo(plate.outline[0][0] * mm, plate.outline[0][1] * mm)
        for u, v in plate.outline[1:]:
            path.lineTo(u * mm, v * mm)
        path.close()
        c.drawPath(path)
    for opening in (plate.window, plate.pocket):
        if opening:
            c.circle(opening.u * mm, opening.v * mm, opening.d / 2 * mm)
    c.setFont(MONO, 7)
    for row in plate.drilling:
        c.circle(row.u * mm, row.v * mm, row.d / 2 * mm)
        for du, dv in ((4, 0), (0, 4)):
            c.line((row.u - du) * mm, (row.v - dv) * mm, (row.u + du) * mm, (row.v + dv) * mm)
        c.setFillColor(INK)
        c.drawString((row.u + row.d / 2 + 1) * mm, (row.v + 1.5) * mm, row.label)
        if row.layer == "tapped":
            c.setFont(MONO, 5)
            c.drawString((row.u + row.d / 2 + 1) * mm, (row.v - 1.5) * mm, row.thread)
            c.setFont(MONO, 7)
    c.line(-8 * mm, 0, 8 * mm, 0)
    c.line(0, -8 * mm, 0, 8 * mm)


def template_pdf(plate: Plate, title: str, paper: str = "A4") -> bytes:
    """A template as PDF; each sheet is named by column and row, and overlaps its neighbour by 10
    mm.

    Raises
    ------
    KeyError
        ``paper`` is neither A4 nor Letter.
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
            c.restoreState()
            _foot(
                c,
                title,
                f"sheet {chr(65 + column)}{row + 1} of {columns} x {rows}, overlap {OVERLAP:g} mm",
            )
            c.showPage()
    c.save()
    return stream.getvalue()


def _foot(c: Canvas, title: str, sheet: str) -> None:
    check_bar(c, MARGIN, MARGIN + 11)
    c.setFillColor(INK)
    words, font = fitted(title[:80], BOLD)
    c.setFont(font, 9)
    c.drawString(MARGIN * mm, (MARGIN + 5.5) * mm, words)
    c.setFillColor(SOFT)
    c.setFont(REGULAR, 8)
    c.drawString(
        MARGIN * mm,
        (MARGIN + 1.5) * mm,
        f"{sheet} · seen from behind, forwards · print at 100 %, no scaling · paper proves outline,"
        " not position",
    )
