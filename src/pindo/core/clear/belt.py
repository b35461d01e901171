"""The belt run: tangents and arcs round pulleys in belt order, seen from the accessory end.

The crank turns clockwise there. A pulley that the belt meets with its ribs turns with the crank, one that it meets
with its back turns against it. Closed form; rib pitch 3.56 mm, ISO 9982 (PK), from memory.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

RIB_PITCH_MM = 3.56
NO_TOUCH_DEG = 300.0  # a wrap beyond this is a belt that passes the pulley on its other side

Read = Mapping[str, Any]


@dataclass(frozen=True)
class BeltPulley:
    """What of a pulley is a choice, not a figure."""

    n: int
    name: str
    side: str
    over: str


@dataclass(frozen=True)
class Run:
    """A belt run. Numbers or arrays of one shape."""

    length: Any
    """Along the pitch line. [mm]"""
    wraps: tuple[Any, ...]
    """By pulley; minus where the belt does not touch. [deg]"""
    spans: tuple[Any, ...]
    """Free span after each pulley. [mm]"""
    tangents: tuple[tuple[Any, Any, Any, Any], ...]
    """x, y of both ends of each span. [mm]"""


def reads(pulleys: Sequence[BeltPulley]) -> tuple[str, ...]:
    """What a run reads."""
    return ("belt_pitch_mm", "belt_back_mm", *(f"pulleys.{p.n}.{f}" for p in pulleys for f in ("right", "up", "d")))


def radius(p: BeltPulley, read: Read) -> Any:
    """Radius of the belt's pitch line on a pulley. [mm]"""
    half = read[f"pulleys.{p.n}.d"] / 2.0
    if p.over == "pitch line":
        return half
    return half + (read["belt_pitch_mm"] if p.side == "ribs" else read["belt_back_mm"])


def run(pulleys: tuple[BeltPulley, ...], read: Read) -> Run:
    """Length, wraps and spans of a belt over pulleys in order.

    For the directed line from circle i to circle j: sin(delta) = (s_j r_j - s_i r_i)/D with s = +1 for a circle
    that turns clockwise, delta counted from the line of centres.
    """
    count = len(pulleys)
    x = [read[f"pulleys.{p.n}.right"] for p in pulleys]
    y = [read[f"pulleys.{p.n}.up"] for p in pulleys]
    r = [radius(p, read) for p in pulleys]
    s = [1.0 if p.side == "ribs" else -1.0 for p in pulleys]
    headings, spans, tangents = [], [], []
    for i in range(count):
        j = (i + 1) % count
        dx, dy = x[j] - x[i], y[j] - y[i]
        far, step = np.hypot(dx, dy), s[j] * r[j] - s[i] * r[i]
        sine = np.where(np.abs(step) <= far, step / np.where(far > 0, far, 1.0), np.nan)
        heading = np.arctan2(dy, dx) + np.arcsin(sine)
        nx, ny = -np.sin(heading), np.cos(heading)
        headings.append(heading)
        spans.append(np.sqrt(far**2 * (1.0 - sine**2)))
        tangents.append((x[i] + s[i] * r[i] * nx, y[i] + s[i] * r[i] * ny, x[j] + s[j] * r[j] * nx, y[j] + s[j] * r[j] * ny))
    wraps, length = [], 0.0
    for i in range(count):
        turned = s[i] * (headings[i - 1] - headings[i])
        wrap = np.degrees(np.mod(turned, 2.0 * np.pi))
        wrap = np.where(wrap > NO_TOUCH_DEG, wrap - 360.0, wrap)
        wraps.append(wrap)
        length = length + spans[i] + r[i] * np.radians(wrap)
    return Run(length, tuple(wraps), tuple(spans), tuple(tangents))
