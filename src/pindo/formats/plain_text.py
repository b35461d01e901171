"""What people typed, as a file can hold it."""

import re
import unicodedata

# Controls, halves of pairs and what no character is; marks that turn the writing round would turn
# the rest of a line with it.
_UNPRINTABLE = re.compile(
    "[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff\ufdd0-\ufdef\ufffe\uffff\ud800-\udfff]"
)


def one_line(text: str) -> str:
    """Text without what ends a line, a file or the direction of writing; nothing else is
    changed.
    """
    return re.sub(r"\s+", " ", _UNPRINTABLE.sub("\N{REPLACEMENT CHARACTER}", text))


def dxf_text(text: str) -> str:
    """Text as a DXF TEXT entity shows it: ``%%`` and ``^`` begin codes there (DXF reference,
    TEXT), ``\\U+`` one for a letter.
    """
    return one_line(text).replace("%%", "%%%%%%").replace("^", "^ ").replace("\\", "/")


def is_run_by_a_spreadsheet(text: str) -> bool:
    """Whether a cell would be taken for a formula: it begins like one and is no number."""
    if not text or text[0] not in "=+-@\t\r":
        return False
    return re.fullmatch(r"[+-]?\d+([.,]\d+)?", text) is None


def cell(text: str) -> str:
    """A cell of a table that no spreadsheet runs: an apostrophe before what would be run, and
    nowhere else.
    """
    return f"'{text}" if is_run_by_a_spreadsheet(text) else text


def uncell(text: str) -> str:
    """A cell as it was before :func:`cell`."""
    return text[1:] if text[:1] == "'" and is_run_by_a_spreadsheet(text[1:]) else text


def plain_name(text: str) -> str:
    """A name that a file can have: letters and figures of any script, and a few signs."""
    kept = "".join(
        c if unicodedata.category(c)[0] in "LNM" or c in " ._-()+," else "-"
        for c in unicodedata.normalize("NFC", text)
    )
    return re.sub(r"\s+", " ", kept).strip(" .-")
