"""Limits of size by ISO 286: tolerance grades and fundamental deviations, and the play of a fit.

Shafts d to h and k to p, holes by their mirror with the rule of ISO 286-1 for K to N up to grade 8
and P up to grade 7: ES = -ei + (IT n - IT n-1). Sizes to 250 mm. From memory.
"""

from dataclasses import dataclass

from pindo.core.errors import PindoError
from pindo.core.tables import read_table

COLUMNS = (
    "over_mm", "to_mm", "IT5", "IT6", "IT7", "IT8", "IT9", "IT10", "IT11",
    "d", "e", "f", "g", "k", "m", "n", "p",
)  # fmt: skip
LOOSE = "defgh"
TIGHT = "kmnp"


class NoFit(PindoError, ValueError):
    """There is no such class, or none for such a size; the message says which."""


@dataclass(frozen=True, kw_only=True)
class Limits:
    """Smallest and largest size. [mm]"""

    low: float
    high: float


def _row(nominal: float) -> dict[str, str]:
    for row in read_table("iso286", *COLUMNS):
        if float(row["over_mm"]) < nominal <= float(row["to_mm"]):
            return row
    raise NoFit(f"{nominal:g} mm is outside the table: over 0 up to 250 mm")


def _grade(row: dict[str, str], grade: int) -> float:
    key = f"IT{grade}"
    if key not in row:
        raise NoFit(f"there is no grade {grade} here: 5 to 11")
    return float(row[key]) / 1000.0


def limits(nominal: float, fit: str) -> Limits:
    """Limits of a size by its class: ``H7``, ``f7``. [mm]

    Raises
    ------
    NoFit
        The class is not among those that are worked out here, or the size is outside the table.
    """
    letter, number = fit[:1], fit[1:]
    if not number.isdigit() or letter.lower() not in f"{LOOSE}{TIGHT}":
        raise NoFit(f"“{fit}” is not worked out here: d to h and k to p, D to H and K to P")
    row, grade = _row(nominal), int(number)
    it = _grade(row, grade)
    small = letter.lower()
    deviation = 0.0 if small == "h" else float(row[small]) / 1000.0
    if letter.islower():
        # A shaft: es of the loose ones, ei of the tight ones; k is nought beyond grade 7.
        if small in LOOSE:
            return Limits(low=nominal + deviation - it, high=nominal + deviation)
        ei = 0.0 if small == "k" and not 4 <= grade <= 7 else deviation
        return Limits(low=nominal + ei, high=nominal + ei + it)
    if small in LOOSE:
        return Limits(low=nominal - deviation, high=nominal - deviation + it)
    most = 7 if small == "p" else 8
    step = it - _grade(row, grade - 1) if 6 <= grade <= most and nominal > 3.0 else 0.0
    es = -deviation + step
    return Limits(low=nominal + es - it, high=nominal + es)


@dataclass(frozen=True, kw_only=True)
class Fit:
    """Play between a hole and a shaft: least and most; negative is interference. [mm]"""

    least: float
    most: float


def fit(hole: Limits, shaft: Limits) -> Fit:
    """The play that two classes give."""
    return Fit(least=hole.low - shaft.high, most=hole.high - shaft.low)
