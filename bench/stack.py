"""What the Stack costs: the window of thicknesses with its ranking, and a sum of a million draws
beside bare numpy. Times of this machine, and ratios that travel.

    PYTHONPATH=src python bench/stack.py
"""

import sys
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from bench.run import line, timed  # noqa: E402

import pindo.core.assessment  # noqa: E402, F401  enrols the questions
from pindo.core.geometry.window import middle, polygon  # noqa: E402
from pindo.core.inputs.resolve import resolve  # noqa: E402
from pindo.core.judging.stack_up import drawn_sums  # noqa: E402
from pindo.core.stations.stack.thicknesses import candidates  # noqa: E402
from pindo.core.stations.stack.window_of import window  # noqa: E402
from pindo.demo import pump_tender  # noqa: E402

MILLION = 1_000_000
ROUNDS = 12


def windows() -> None:
    """20 half-planes cut and their middle found; the demo's ranking of everything that can be
    had.
    """
    rng = np.random.default_rng(3)
    turn = rng.uniform(0.0, 2.0 * np.pi, 20)
    slope = np.vstack([np.stack([np.cos(turn), np.sin(turn)], 1), np.eye(2), -np.eye(2)])
    room = np.concatenate([rng.uniform(1.0, 8.0, 20), np.full(4, 40.0)])
    counts = np.arange(24) < 20

    inputs = resolve(pump_tender())
    found = window(inputs)

    def cut(_: int) -> object:
        return polygon(slope, room), middle(slope, room, counts, (1, 0))

    def rank(_: int) -> object:
        return candidates(inputs, found)

    line("window, 20 constraints, and its middle", timed(cut))
    line("ranking of thicknesses, demo", timed(rank))
    line("both", timed(lambda i: (cut(i), rank(i))), "aim 10")


def sums() -> None:
    """A million sums of 12 sizes, beside the same draws in bare numpy."""
    parts = {f"size {i}": 0.02 * (1 + i % 5) for i in range(12)}
    flat = frozenset(list(parts)[::3])

    def bare(i: int) -> object:
        rng = np.random.default_rng(i)
        total = np.zeros(MILLION)
        for name, u in parts.items():
            total += (
                rng.uniform(-np.sqrt(3.0) * u, np.sqrt(3.0) * u, MILLION)
                if name in flat
                else rng.normal(0.0, u, MILLION)
            )
        return total

    ours = timed(lambda i: drawn_sums(0.0, parts, flat, MILLION), ROUNDS)
    plain = timed(bare, ROUNDS)
    ratio = ours[0] / plain[0]
    line("1e6 sums of 12 sizes", ours, f"{ratio:.2f} times bare numpy; aim 1.3")
    line("the same in bare numpy", plain)


if __name__ == "__main__":
    windows()
    sums()
