"""Threads by name and by size: diameter, pitch, tap drill, stress area, strength grades.

Sources: the tables of :mod:`pindo.core.tables`; ISO 898-1 and SAE J429 proof stresses from memory.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from pindo.core.numbers import Numbers
from pindo.core.tables import read_table

INCH_MM = 25.4
SAME_SIZE_MM = 0.26  # a calliper over a worn thread still names its size
EXACT_MM = 0.02  # a size typed as its fraction or name, rounded
SAME_PITCH_MM = 0.01


@dataclass(frozen=True, kw_only=True)
class Thread:
    """One row of the thread table. [mm]"""

    name: str
    metric: bool
    d: float
    pitch: float
    series: str
    drill: str
    """Tap drill as a drill chart names it."""

    @property
    def words(self) -> str:
        """The thread as it is written on a drawing: ``M10 x 1.5``, ``3/8-16``."""
        return (
            f"{self.name} x {self.pitch:g}"
            if self.metric
            else f"{self.name}-{INCH_MM / self.pitch:.0f}"
        )


@cache
def threads() -> tuple[Thread, ...]:
    """Every thread of the table."""
    found = []
    columns = ("name", "system", "d", "per_inch_or_pitch", "series", "tap_drill")
    for row in read_table("threads", *columns):
        metric = row["system"] == "metric"
        pitch = float(row["per_inch_or_pitch"])
        found.append(
            Thread(
                name=row["name"],
                metric=metric,
                d=float(row["d"]) * (1.0 if metric else INCH_MM),
                pitch=pitch if metric else INCH_MM / pitch,
                series=row["series"],
                drill=row["tap_drill"],
            )
        )
    return tuple(found)


def nominal(d_mm: float, sizes: tuple[float, ...]) -> float | None:
    """The one size of ``sizes`` that a diameter names; None where none or two lie near. [mm]

    A calliper reads a thread a little small, and 5/16 in lies 0.06 mm below 8 mm: what could be
    either is not guessed.
    """
    near = [s for s in sizes if abs(s - d_mm) <= SAME_SIZE_MM]
    exact = [s for s in near if abs(s - d_mm) <= EXACT_MM]
    if len(exact) == 1:
        return exact[0]
    return near[0] if len(near) == 1 else None


def thread_of(d_mm: float, pitch_mm: float) -> Thread | None:
    """The row of the table with this diameter and pitch; None for others. [mm]"""
    size = nominal(d_mm, tuple({t.d for t in threads()}))
    return next(
        (t for t in threads() if t.d == size and abs(t.pitch - pitch_mm) <= SAME_PITCH_MM), None
    )


def size_words(d_mm: float) -> str:
    """A thread's size in words where its pitch is not told: ``M10``, ``3/8 in``; the bare figure
    for others. [mm]
    """
    size = nominal(d_mm, tuple({t.d for t in threads()}))
    row = next((t for t in threads() if t.d == size), None)
    if row is None:
        return f"{d_mm:.4g} mm"
    return row.name if row.metric or row.name.startswith("No.") else f"{row.name} in"


def thread_words(d_mm: float, pitch_mm: float | None) -> str:
    """The thread as it is: its name with its pitch, or its size and that the pitch is not told.
    [mm]
    """
    if pitch_mm is None:
        return f"{size_words(d_mm)}, pitch not told"
    row = thread_of(d_mm, pitch_mm)
    return row.words if row else f"{size_words(d_mm)} x {pitch_mm:.4g} mm"


def stress_area(d_mm: Numbers, pitch_mm: Numbers, metric: bool = True) -> Numbers:
    """Stress area of a thread [mm²]: pi/4 (d - 0.9382 P)² metric (ISO 898-1), pi/4 (d - 0.9743
    P)² unified (ASME B1.1).
    """
    return math.pi / 4.0 * (d_mm - (0.9382 if metric else 0.9743) * pitch_mm) ** 2


def pitch_diameter(d_mm: Numbers, pitch_mm: Numbers) -> Numbers:
    """Basic pitch diameter, ISO 724 and ASME B1.1: d - 0.6495 P. [mm]"""
    return d_mm - 0.649519 * pitch_mm


def percent_of_thread(d_mm: float, drill_mm: float, pitch_mm: float) -> float:
    """Per cent of thread by the usual chart definition, (d - drill)/(1.299 P); by (d -
    drill)/(1.083 P) it reads a fifth higher. [%]
    """
    return 100.0 * (d_mm - drill_mm) / (1.299 * pitch_mm)


GRADES: Mapping[str, tuple[bool, tuple[tuple[float, float], ...]]] = MappingProxyType(
    {
        # metric?, (up to diameter, proof stress MPa) in order of size
        "4.6": (True, ((39.0, 225.0),)),
        "5.8": (True, ((24.0, 380.0),)),
        "8.8": (True, ((16.0, 580.0), (39.0, 600.0))),
        "9.8": (True, ((16.0, 650.0),)),
        "10.9": (True, ((39.0, 830.0),)),
        "12.9": (True, ((39.0, 970.0),)),
        "grade 2": (False, ((19.05, 379.2), (38.1, 227.5))),
        "grade 5": (False, ((25.4, 586.1), (38.1, 510.2))),
        "grade 8": (False, ((38.1, 827.4),)),
    }
)
"""Strength grades: ISO 898-1 property classes, SAE J429 grades (55, 33; 85, 74; 120 ksi), from
memory.
"""


def proof_mpa(grade: str, d_mm: float) -> float | None:
    """Proof stress of a strength grade at a diameter; None beyond the sizes that the standard
    holds. [MPa]
    """
    _, rows = GRADES[grade]
    return next((stress for up_to, stress in rows if d_mm <= up_to + EXACT_MM), None)


def is_metric(grade: str) -> bool:
    """Whether a grade is a metric property class."""
    return GRADES[grade][0]
