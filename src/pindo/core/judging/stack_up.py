"""A sum of sizes with its doubt three ways: all one way, root of squares, drawn at random."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from pindo.core.judging.uncertainty import SEED

DRAWN = 20_000
"""Sums drawn for a table; the 2.5 % ends are then known to about 1 % of their distance."""


@dataclass(frozen=True, kw_only=True)
class StackUp:
    """Half-widths of the doubt of a sum, in its unit."""

    worst: float
    """Every source at the end of its ±, all one way."""
    likely: float
    """Root of the sum of squares, at two standard uncertainties."""
    drawn: float
    """Half of what 95 % of the sums drawn at random fill (JCGM 101)."""


def drawn_sums(
    value: float, parts: Mapping[str, float], rectangular: frozenset[str], size: int
) -> np.ndarray:
    """Sums of ``value`` and every source drawn at random, shape (size,), in the unit of ``value``.

    Parameters
    ----------
    parts : mapping of source to its standard uncertainty, signed
    rectangular : set of sources
        Those drawn from a rectangle of half-width sqrt(3) u, the others from a normal (JCGM 101,
        6.4.2 and 6.4.7). Fixed seed.
    """
    rng = np.random.default_rng(SEED)
    total, drawn = np.full(size, value), np.empty(size)
    for source, u in parts.items():
        if source in rectangular:
            rng.random(out=drawn)
            drawn -= 0.5
            drawn *= math.sqrt(12.0) * u
        else:
            rng.standard_normal(out=drawn)
            drawn *= u
        total += drawn
    return total


def stack_up(parts: Mapping[str, float], rectangular: frozenset[str], size: int = DRAWN) -> StackUp:
    """The doubt of a sum of independent sources, three ways."""
    low, high = np.quantile(drawn_sums(0.0, parts, rectangular, size), (0.025, 0.975))
    return StackUp(
        worst=2.0 * math.fsum(abs(u) for u in parts.values()),
        likely=2.0 * math.hypot(*parts.values()),
        drawn=float(high - low) / 2.0,
    )
