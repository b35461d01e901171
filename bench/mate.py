"""What the Mate costs: the whole turn of a gearbox looked at, and a pattern adjusted from its
distances beside a general solver. Times of this machine, and ratios that travel.

    PYTHONPATH=src python bench/mate.py
"""

import sys
from itertools import combinations
from pathlib import Path

import numpy as np
from scipy.optimize import least_squares

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from bench.run import line, timed  # noqa: E402

import pindo.core.assessment  # noqa: E402, F401  enrols the questions
from pindo.core.document.build import Build  # noqa: E402
from pindo.core.geometry.network.adjust import adjust  # noqa: E402
from pindo.core.geometry.network.readings import Distance, Fixed, Lines, Offset, Side  # noqa: E402
from pindo.core.inputs.resolve import resolve  # noqa: E402
from pindo.core.stations.mate.turning import rooms  # noqa: E402
from pindo.demo import pump_tender  # noqa: E402


def turn() -> None:
    """721 angles on 14 and 12 holes, with every land measured and none, and with narrow lands."""
    degrees = np.linspace(-180.0, 180.0, 721)
    document = pump_tender().model_dump(mode="json")
    gearbox = document["gearbox_face"]["holes"]
    for n in (30, 31):
        gearbox.append(gearbox[0] | {"n": n, "u": f"{n - 25}", "v": f"-{n - 24}"})
    wide = resolve(Build.model_validate(document))
    for face in ("engine_face", "gearbox_face"):
        for hole in document[face]["holes"]:
            hole["land"] = "14 mm"
    narrow = resolve(Build.model_validate(document))
    line("721 angles, wide lands", timed(lambda i: rooms(wide, degrees)), "aim 150")
    line("721 angles, every land narrow", timed(lambda i: rooms(narrow, degrees)), "aim 150")


def network() -> None:
    """40 holes, 300 distances from nothing; the same by a general solver with numeric derivatives
    from a start 2 mm off the truth, and from as little as ours.
    """
    rng = np.random.default_rng(4)
    angle = np.sort(rng.uniform(0, 2 * np.pi, 40))
    radius = rng.uniform(110, 190, 40)
    true = np.vstack([np.zeros(2), np.stack([radius * np.cos(angle), radius * np.sin(angle)], 1)])
    pairs = list(combinations(range(41), 2))
    chosen = [pairs[k] for k in rng.permutation(len(pairs))[:299]]
    readings = [
        Distance(
            id=f"{a}-{b}",
            a=a,
            b=b,
            value=float(np.hypot(*(true[a] - true[b]))) + float(rng.normal(0, 0.05)),
            pm=0.1,
        )
        for a, b in chosen
    ]
    level = Offset(id="up", a=1, b=20, axis=1, value=float(true[20, 1] - true[1, 1]), pm=0.1)
    readings_all = [*readings, level]
    fixed = [Fixed(point=0, axis=0), Fixed(point=0, axis=1)]
    sides = [
        Side(point=p, axis=axis, sign=1 if true[p, axis] > 0 else -1)
        for p in (1, 10)
        for axis in (0, 1)
    ]

    def ours(_: int) -> object:
        return adjust(41, readings_all, dim=2, fixed=fixed, sides=sides)

    lines = Lines(readings_all, true.shape)

    def general(start: np.ndarray) -> object:
        def miss(x: np.ndarray) -> np.ndarray:
            full = np.vstack([np.zeros(2), x.reshape(-1, 2)])
            return (lines.values(full) - lines.read) / lines.sigma

        return least_squares(miss, start[1:].ravel(), method="trf")

    near = true + rng.normal(0, 2.0, true.shape)
    far = rng.uniform(-200, 200, true.shape)
    own = timed(ours, 20)
    line("40 holes, 300 readings, from nothing, with snooping", own, "aim 50")
    about = timed(lambda i: general(near), 5)
    line("general solver, numeric Jacobian, start 2 mm off", about)
    scattered = timed(lambda i: general(far), 3)
    line("general solver, from scattered places", scattered)
    print(f"ratios: {about[0] / own[0]:.1f} and {scattered[0] / own[0]:.1f} times as long as ours")


if __name__ == "__main__":
    turn()
    network()
