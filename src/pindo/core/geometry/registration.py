"""One hole pattern laid on another: which holes are one, by which turn and shift, mirrored or not,
and which screws pass.

Pairs of holes that are as far apart propose a movement; the one that brings most holes together is
bettered by Kabsch's rotation (Acta Crystallographica A32 (1976), 922) and then moved so that the
screw with the least room has most (Chebyshev's solution).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import linprog

ROUNDS = 8
LEAST = 3
"""Holes that have to meet before two patterns are said to match."""


@dataclass(frozen=True, kw_only=True)
class Match:
    """A pattern laid on another: u' = R (mirrored u) + shift, turned clockwise from behind."""

    turn_deg: float
    shift: tuple[float, float]
    """[mm]"""
    mirrored: bool
    pairs: tuple[tuple[int, int], ...]
    """Hole of the one, hole of the other."""
    off: tuple[float, ...]
    """How far each pair is apart, in the order of the pairs. [mm]"""
    rms: float

    @property
    def worst(self) -> float:
        """Widest of them. [mm]"""
        return max(self.off, default=0.0)


def laid(points: np.ndarray, turn_deg: float, shift: np.ndarray, mirrored: bool) -> np.ndarray:
    """Points mirrored across the upright where asked, turned clockwise and shifted, shape (n, 2).
    [mm]
    """
    x = points * np.array([-1.0 if mirrored else 1.0, 1.0])
    t = math.radians(turn_deg)
    c, s = math.cos(t), math.sin(t)
    return np.asarray(x @ np.array([[c, -s], [s, c]]) + shift)


def _kabsch(fixed: np.ndarray, moving: np.ndarray) -> tuple[float, np.ndarray]:
    """Turn, clockwise, and shift that bring ``moving`` to ``fixed``, both of shape (n, 2)."""
    a, b = moving - moving.mean(0), fixed - fixed.mean(0)
    turn = -math.degrees(
        math.atan2(float(np.sum(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])), float(np.sum(a * b)))
    )
    return turn, fixed.mean(0) - laid(moving.mean(0)[None], turn, np.zeros(2), False)[0]


def _pairs(fixed: np.ndarray, there: np.ndarray, near: float) -> list[tuple[int, int]]:
    """Holes that lie on each other, each taken once, the nearest first."""
    far = np.hypot(*(fixed[:, None] - there[None]).transpose(2, 0, 1))
    found: list[tuple[int, int]] = []
    for k in np.argsort(far, axis=None):
        i, j = divmod(int(k), len(there))
        if far[i, j] > near:
            break
        if all(i != a and j != b for a, b in found):
            found.append((i, j))
    return found


def register(
    fixed: np.ndarray, moving: np.ndarray, near: float, *, mirrored: bool, on_axis: bool
) -> Match | None:
    """The movement that brings most holes of ``moving`` on holes of ``fixed``.

    Parameters
    ----------
    fixed, moving : shape (n, 2), (m, 2)
        Places seen from one side. [mm]
    near
        Holes nearer than this are one. [mm]
    mirrored
        Whether the moving one is looked at from its other side.
    on_axis
        Whether both crank axes stay one: only a turn is looked for.
    """
    if len(fixed) < LEAST or len(moving) < LEAST:
        return None
    x = moving * np.array([-1.0 if mirrored else 1.0, 1.0])
    best: tuple[int, float, float, np.ndarray] | None = None
    for turn, shift in _proposed(fixed, x, near, on_axis):
        pairs = _pairs(fixed, laid(x, turn, shift, False), near)
        for _ in range(ROUNDS):
            if len(pairs) < 2:
                break
            i, j = (np.array(p) for p in zip(*pairs, strict=True))
            turn, shift = _kabsch(fixed[i], x[j])
            if on_axis:
                turn, shift = _turned_only(fixed[i], x[j]), np.zeros(2)
            again = _pairs(fixed, laid(x, turn, shift, False), near)
            if again == pairs:
                break
            pairs = again
        there = laid(x, turn, shift, False)
        off = [float(np.hypot(*(fixed[a] - there[b]))) for a, b in pairs]
        rms = math.sqrt(sum(o * o for o in off) / len(off)) if off else math.inf
        if len(pairs) >= LEAST and (best is None or (-len(pairs), rms) < (-best[0], best[1])):
            best = (len(pairs), rms, turn, shift)
    if best is None:
        return None
    _, rms, turn, shift = best
    there = laid(x, turn, shift, False)
    pairs = _pairs(fixed, there, near)
    return Match(
        turn_deg=(turn + 180.0) % 360.0 - 180.0,
        shift=(float(shift[0]), float(shift[1])),
        mirrored=mirrored,
        pairs=tuple(pairs),
        off=tuple(float(np.hypot(*(fixed[a] - there[b]))) for a, b in pairs),
        rms=rms,
    )


def _turned_only(fixed: np.ndarray, moving: np.ndarray) -> float:
    """Turn about the axis alone, clockwise. [deg]"""
    cross = np.sum(moving[:, 0] * fixed[:, 1] - moving[:, 1] * fixed[:, 0])
    return -math.degrees(math.atan2(float(cross), float(np.sum(moving * fixed))))


def _proposed(
    fixed: np.ndarray, x: np.ndarray, near: float, on_axis: bool
) -> list[tuple[float, np.ndarray]]:
    """Movements worth trying: of the longest pair of the moving pattern on every pair as long, of
    a hole on every hole as far from the axis where only a turn is allowed.
    """
    found = []
    if on_axis:
        for j in range(len(x)):
            for i in range(len(fixed)):
                far = abs(float(np.hypot(*x[j])) - float(np.hypot(*fixed[i])))
                if far <= near and float(np.hypot(*x[j])) > near:
                    found.append((_turned_only(fixed[i : i + 1], x[j : j + 1]), np.zeros(2)))
        return found
    apart = np.hypot(*(x[:, None] - x[None]).transpose(2, 0, 1))
    # The longest pairs turn it most surely; a few, since one of their holes may have no partner.
    chosen = np.argsort(-apart, axis=None)[: 4 * len(x)]
    length = np.hypot(*(fixed[:, None] - fixed[None]).transpose(2, 0, 1))
    for k in chosen:
        a, b = divmod(int(k), len(x))
        for i, j in zip(*np.nonzero(np.abs(length - apart[a, b]) <= 2.0 * near), strict=True):
            if a != b and i != j:
                found.append(_kabsch(fixed[[i, j]], x[[a, b]]))
    return found


@dataclass(frozen=True, kw_only=True)
class Passing:
    """Which screws pass when the patterns lie as well as they can."""

    turn_deg: float
    """On top of the match's turn, clockwise."""
    shift: tuple[float, float]
    """On top of its shift. [mm]"""
    room: tuple[float, ...]
    """Play left at each pair; minus does not pass. [mm]"""
    cured_by: int | None
    """The pair whose larger hole lets all others pass; None where none does or none is wanted."""
    opened_to: float
    """What it lacks when the others lie best: its hole is so much larger all round. [mm]"""


def _best(fixed: np.ndarray, there: np.ndarray, play: np.ndarray, on_axis: bool) -> np.ndarray:
    """Small turn [rad, clockwise] and shift that leave the least play largest, shape (3,).

    Linear programme: the distance of each pair held under sixteen tangents of a circle.
    """
    n, lines = len(fixed), 32
    angle = np.linspace(0.0, 2.0 * math.pi, lines, endpoint=False)
    d = np.stack([np.cos(angle), np.sin(angle)], 1)
    off = there - fixed
    # A clockwise turn moves (x, y) by (y, -x).
    turn = np.stack([there[:, 1], -there[:, 0]], 1)
    rows, limit = [], []
    for k in range(n):
        for line in d:
            rows.append([line @ turn[k], line[0], line[1], 1.0])
            limit.append(play[k] - line @ off[k])
    free = (0.0, 0.0) if on_axis else (-20.0, 20.0)
    bounds = [(-0.05, 0.05), free, free, (None, None)]
    answer = linprog([0.0, 0.0, 0.0, -1.0], A_ub=rows, b_ub=limit, bounds=bounds)
    return np.asarray(answer.x[:3]) if answer.success else np.zeros(3)


def passing(
    fixed: np.ndarray, there: np.ndarray, play: Sequence[float], *, on_axis: bool
) -> Passing:
    """Which screws pass, at the shift and turn that help the worst of them most, and the one hole
    whose opening would let all pass.

    Parameters
    ----------
    fixed, there : shape (n, 2)
        Pairs of places after the match. [mm]
    play
        What each screw's hole or holes allow its centres to be apart. [mm]
    """
    room = np.asarray(play, float)

    def left(keep: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        small = _best(fixed[keep], there[keep], room[keep], on_axis)
        t = math.degrees(small[0])
        moved = laid(there, t, small[1:], False)
        return small, room - np.hypot(*(moved - fixed).T)

    every = np.ones(len(fixed), bool)
    small, spare = left(every)
    cured, opened = None, 0.0
    if bool((spare < 0.0).any()) and len(fixed) > LEAST:
        for k in range(len(fixed)):
            others = every.copy()
            others[k] = False
            _, without = left(others)
            if bool((without[others] >= 0.0).all()):
                wide = float(-without[k])
                if cured is None or wide < opened:
                    cured, opened = k, wide
    return Passing(
        turn_deg=math.degrees(float(small[0])),
        shift=(float(small[1]), float(small[2])),
        room=tuple(float(x) for x in spare),
        cured_by=cured,
        opened_to=opened,
    )
