"""A text as a picture code (QR, ISO/IEC 18004) that a phone's camera reads: as SVG, or as letters
of a terminal.
"""

from reportlab.graphics.barcode.qrencoder import QRCode, QRErrorCorrectLevel

QUIET = 4
"""Modules of white round it (ISO/IEC 18004, 6.3.8)."""


def modules(text: str) -> list[list[bool]]:
    """The code as rows of dark (True) and light modules, without its quiet zone."""
    code = QRCode(None, QRErrorCorrectLevel.M)
    code.addData(text)
    code.make()
    size = code.getModuleCount()
    return [[bool(code.isDark(row, column)) for column in range(size)] for row in range(size)]


def code_svg(text: str) -> bytes:
    """The code as SVG, black on white in either theme, with its quiet zone."""
    rows = modules(text)
    size = len(rows) + 2 * QUIET
    dark = "".join(
        f"M{x + QUIET},{y + QUIET}h1v1h-1z"
        for y, row in enumerate(rows)
        for x, on in enumerate(row)
        if on
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {size} {size}"'
        f' shape-rendering="crispEdges"><path fill="#fff" d="M0,0h{size}v{size}h-{size}z"/>'
        f'<path fill="#000" d="{dark}"/></svg>'
    ).encode()


def code_letters(text: str) -> str:
    """The code in half blocks, two rows of modules to a line; dark where the terminal is light."""
    rows = modules(text)
    wide = len(rows) + 2 * QUIET
    blank = [False] * wide
    padded = [
        *([blank] * QUIET),
        *([*([False] * QUIET), *row, *([False] * QUIET)] for row in rows),
        *([blank] * (QUIET + len(rows) % 2)),
    ]
    signs = {(False, False): "█", (False, True): "▀", (True, False): "▄", (True, True): " "}
    pairs = zip(padded[::2], padded[1::2], strict=True)
    return "\n".join("".join(signs[a, b] for a, b in zip(*p, strict=True)) for p in pairs)
