"""The belt run: tangents and arcs round pulleys in belt order, seen from the accessory end.

The crank turns clockwise there. A pulley that the belt meets with its ribs turns with the crank,
one that it meets with its back turns against it. Closed form; rib pitch 3.56 mm, ISO 9982 (PK),
from memory.
"""

import itertools
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
    return (
        "belt_pitch_mm",
        "belt_back_mm",
        *(f"pulleys.{p.n}.{f}" for p in pulleys for f in ("right", "up", "d")),
    )


def radius(p: BeltPulley, read: Read) -> Any:
    """Radius of the belt's pitch line on a pulley. [mm]"""
    half = read[f"pulleys.{p.n}.d"] / 2.0
    if p.over == "pitch line":
        return half
    return half + (read["belt_pitch_mm"] if p.side == "ribs" else read["belt_back_mm"])


def run(pulleys: tuple[BeltPulley, ...], read: Read) -> Run:
    """Length, wraps and spans of a belt over pulleys in order.

    For the directed line from circle i to circle j: sin(delta) = (s_j r_j - s_i r_i)/D with s = +1
    for a circle that turns clockwise, delta counted from the line of centres.
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
        tangents.append(
            (
                x[i] + s[i] * r[i] * nx,
                y[i] + s[i] * r[i] * ny,
                x[j] + s[j] * r[j] * nx,
                y[j] + s[j] * r[j] * ny,
            )
        )
    wraps, length = [], 0.0
    for i in range(count):
        turned = s[i] * (headings[i - 1] - headings[i])
        wrap = np.degrees(np.mod(turned, 2.0 * np.pi))
        wrap = np.where(wrap > NO_TOUCH_DEG, wrap - 360.0, wrap)
        wraps.append(wrap)
        length = length + spans[i] + r[i] * np.radians(wrap)
    return Run(length, tuple(wraps), tuple(spans), tuple(tangents))


def refusals(pulleys: tuple[BeltPulley, ...], read: Mapping[str, float]) -> list[str]:
    """Why pulleys are no run: two overlap, a span passes through a third, the belt does not touch
    one.

    ``read`` holds plain numbers. Pulleys of one belt lie in one plane, so their circles may not
    meet.
    """
    found = []
    at = {p.n: np.array([read[f"pulleys.{p.n}.right"], read[f"pulleys.{p.n}.up"]]) for p in pulleys}
    size = {p.n: float(radius(p, read)) for p in pulleys}
    for p, q in itertools.combinations(pulleys, 2):
        if float(np.linalg.norm(at[p.n] - at[q.n])) < size[p.n] + size[q.n] - TOUCH_MM:
            found.append(f"{p.name} and {q.name} overlap")
    if found:
        return found
    made = run(pulleys, read)
    for i, (x1, y1, x2, y2) in enumerate(made.tangents):
        ends = (pulleys[i], pulleys[(i + 1) % len(pulleys)])
        if not np.isfinite([x1, y1, x2, y2]).all():
            found.append(f"there is no straight span from {ends[0].name} to {ends[1].name}")
            continue
        for other in pulleys:
            if (
                other not in ends
                and _distance(at[other.n], np.array([x1, y1]), np.array([x2, y2]))
                < size[other.n] - TOUCH_MM
            ):
                found.append(
                    f"the span from {ends[0].name} to {ends[1].name} passes through {other.name}"
                )
    found += [
        f"the belt does not touch {p.name}"
        for p, wrap in zip(pulleys, made.wraps, strict=True)
        if np.isfinite(wrap) and wrap <= 0.0
    ]
    return found


TOUCH_MM = 0.05


def _distance(point: np.ndarray, a: np.ndarray, b: np.ndarray) -> float:
    """Of a point from the stretch between two others. [mm]"""
    along = b - a
    share = float(np.clip((point - a) @ along / max(float(along @ along), 1e-12), 0.0, 1.0))
    return float(np.linalg.norm(point - a - share * along))
