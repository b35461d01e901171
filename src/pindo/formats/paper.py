"""Paper, fonts and inks that all PDF files share."""

import re
from functools import cache
from importlib.resources import as_file, files

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from pindo.formats.plain_text import one_line

SIZES = {"A4": (210.0, 297.0), "A3": (297.0, 420.0), "Letter": (215.9, 279.4)}
INK, SOFT, RULE = HexColor("#1d2b3a"), HexColor("#5a6470"), HexColor("#c9c3b4")
VERDICT_INK = {
    "goes": HexColor("#0b6e5f"),
    "tight": HexColor("#855800"),
    "fouls": HexColor("#b02a1c"),
    "unmeasured": HexColor("#5a6470"),
}
REGULAR, BOLD, MONO = "Atkinson", "Atkinson-Bold", "Atkinson-Mono"
WIDE = "DejaVu"
"""Shown where the type of the paper lacks a letter: Greek, Cyrillic, Arabic, Hebrew, signs; of
what it lacks too a box is shown, and said.
"""
BOX = "\u25a1"
LACKING = (
    f"{BOX} stands for a letter that this paper's type does not have; the screen and the files"
    " show it."
)
LONGEST_WORD = 50


@cache
def register_fonts() -> None:
    """Register the shipped type. Twice at once does no harm; nobody is told that it is there
    before all of it is.
    """
    for name, file in (
        (REGULAR, "Atkinson-Next-Regular.ttf"),
        (BOLD, "Atkinson-Next-Bold.ttf"),
        (MONO, "Atkinson-Mono-Regular.ttf"),
        (WIDE, "DejaVuSans.ttf"),
    ):
        with as_file(files("pindo.formats").joinpath("fonts", file)) as path:
            pdfmetrics.registerFont(TTFont(name, str(path)))


def fitted(words: str, font: str) -> tuple[str, str]:
    """Words and the type that has all their letters, or as many as any; long runs without a
    space may be broken.
    """
    words = re.sub(rf"(\S{{{LONGEST_WORD}}})", r"\1 ", one_line(words))

    def known(face: str, letter: str) -> bool:
        return ord(letter) in pdfmetrics.getFont(face).face.charToGlyph

    if all(known(font, letter) for letter in words):
        return words, font
    return "".join(letter if known(WIDE, letter) else BOX for letter in words), WIDE


def new_canvas(stream: object, size_mm: tuple[float, float], title: str) -> Canvas:
    """A canvas whose viewer is asked not to scale the page when it prints."""
    register_fonts()
    canvas = Canvas(
        stream, pagesize=(size_mm[0] * mm, size_mm[1] * mm), pageCompression=1, invariant=1
    )
    canvas.setTitle(one_line(title))
    canvas.setCreator("Pindo")
    canvas.setViewerPreference("PrintScaling", "None")
    return canvas


def check_bar(canvas: Canvas, x_mm: float, y_mm: float) -> None:
    """A bar of exactly 100 mm with a mark at each 10, to prove the print's scale."""
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.3 * mm)
    canvas.line(x_mm * mm, y_mm * mm, (x_mm + 100) * mm, y_mm * mm)
    for i in range(11):
        tall = 4.0 if i in (0, 5, 10) else 2.0
        canvas.line((x_mm + 10 * i) * mm, y_mm * mm, (x_mm + 10 * i) * mm, (y_mm + tall) * mm)
    canvas.setFont(REGULAR, 8)
    canvas.setFillColor(INK)
    canvas.drawString(
        (x_mm + 103) * mm, y_mm * mm, "100 mm: lay a rule on it before you trust this sheet"
    )
