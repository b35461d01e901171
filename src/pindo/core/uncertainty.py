"""Running a check with its doubt: nominal, linear propagation (JCGM 100) and Monte Carlo (JCGM 101). Knows no check by name."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from pindo.core.check import Check, Limit, parameters_of
from pindo.core.evidence import Source
from pindo.core.frames import POSE
from pindo.core.read import Read
from pindo.core.resolve import Inputs, Resolved
from pindo.core.verdict import Sampled

SAMPLES = 200_000  # the 2.5 % ends are then known to about 0.3 % of the interval's half-width; drawn when a finding is opened
SEED = 20
KINK = 2.0  # one-sided differences that differ by more than this, or in sign, tell a kink


@dataclass(frozen=True)
class Outcome:
    """Value, limits and margin: floats or arrays of one shape."""

    value: Any
    low: Any
    high: Any
    margin: Any


def outcome(check: Check, inputs: Inputs, values: Mapping[str, Any]) -> Outcome:
    """Run a check with ``values`` by address; rules and options come from ``inputs``."""
    known = {"rule": inputs.rules, "option": inputs.options, "quantity": values}
    arguments = {name: bound if kind == "constant" else known[kind][bound] for name, kind, bound in check.binding}
    if check.reads:
        arguments["read"] = values  # with the rest of what the check reads, so that checks alike share it

    def call(function: Limit) -> Any:
        if isinstance(function, str):
            return inputs.rules[function]
        return function(**{name: arguments[name] for name in parameters_of(function)})

    # Figures that cannot be (a mass of nothing) come out as not finite, which is told as a finding, not as a warning.
    with np.errstate(all="ignore"):
        value = call(check.value)
        low = None if check.at_least is None else call(check.at_least)
        high = None if check.at_most is None else call(check.at_most)
    room = [side for side in (None if low is None else value - low, None if high is None else high - value) if side is not None]
    return Outcome(value, low, high, room[0] if len(room) == 1 else np.minimum(room[0], room[1]))


def margin_at(check: Check, inputs: Inputs) -> float:
    """The margin at the values that stand; all inputs must have one."""
    values = {a: inputs.quantities[a].value for a in check.addresses}
    if any(v is None for v in values.values()):
        return -math.inf
    try:
        margin = float(np.asarray(outcome(check, inputs, values).margin, float).reshape(-1)[0])
    except (ArithmeticError, ValueError):
        return -math.inf  # a formula outside its domain is no way out
    return margin if math.isfinite(margin) else -math.inf


@lru_cache(maxsize=24)
def _draws(column: int, rectangular: bool) -> np.ndarray:
    """Standard draws (mean 0, standard deviation 1) for one input, the same in every run."""
    rng = np.random.default_rng([SEED, column])
    if rectangular:
        return rng.uniform(-math.sqrt(3.0), math.sqrt(3.0), SAMPLES)
    return rng.standard_normal(SAMPLES)


_RECTANGULAR = frozenset({Source.DRAWING, Source.PAPER, Source.CATALOGUE, Source.GUESS})


def _correlated(addresses: tuple[str, ...], inputs: Inputs) -> tuple[list[int], np.ndarray] | None:
    """Places in ``addresses`` of the numbers of a pose that was found from points, and their correlation; None where each stands alone."""
    whole = inputs.pose_correlation
    if whole is None:
        return None
    at = [(i, POSE.index(a)) for i, a in enumerate(addresses) if a in POSE]
    return ([i for i, _ in at], whole[np.ix_([k for _, k in at], [k for _, k in at])]) if len(at) > 1 else None


def sample(check: Check, inputs: Inputs) -> Sampled:
    """Monte Carlo of a check's margin (JCGM 101) with u = ±/2 for every source.

    Drawing, maker's paper, catalogue and guess are drawn from a rectangle of half-width sqrt(3) u, the
    rest from a normal, so that this route agrees with linear propagation. Fixed seed; 2.5 to 97.5 %.
    """
    together = _correlated(check.addresses, inputs)
    root = np.linalg.cholesky(together[1] + 1e-12 * np.eye(len(together[0]))) if together else None
    drawn = root @ np.stack([_draws(i, False) for i in together[0]]) if together and root is not None else None
    values: dict[str, Any] = {}
    for i, address in enumerate(check.addresses):
        q = inputs.quantities[address]
        standard = drawn[together[0].index(i)] if together and drawn is not None and i in together[0] else _draws(i, q.source in _RECTANGULAR)
        values[address] = q.value if q.value is None or q.u == 0.0 else q.value + q.u * standard
    margins = np.broadcast_to(outcome(check, inputs, values).margin, (SAMPLES,))
    low, high = np.quantile(margins, (0.025, 0.975))
    return Sampled(low=float(low), high=float(high), chance=float(np.mean(margins >= 0.0)))


@dataclass(frozen=True)
class Propagated:
    nominal: Outcome
    u_margin: float
    u_value: float
    contributions: dict[str, float]


@dataclass(frozen=True)
class _Perturbed:
    """The inputs of a check in one array each: row 0 the nominal, rows 2i+1, 2i+2 the pair of doubtful input i."""

    read: Read
    doubtful: tuple[Resolved, ...]


def _perturbed(addresses: tuple[str, ...], inputs: Inputs) -> _Perturbed:
    key = ("perturbed", addresses)
    if key not in inputs.memo:
        quantities = [inputs.quantities[a] for a in addresses]
        doubtful = tuple(q for q in quantities if q.pm > 0.0)
        each, steps = np.arange(len(doubtful)), np.array([q.u for q in doubtful])
        columns = np.repeat(np.array([q.value for q in doubtful], float)[:, None], 2 * len(doubtful) + 1, axis=1)
        columns[each, 2 * each + 1] += steps
        columns[each, 2 * each + 2] -= steps
        certain = {q.address: q.value for q in quantities}
        inputs.memo[key] = _Perturbed(Read(certain | {q.address: column for q, column in zip(doubtful, columns, strict=True)}), doubtful)
    found: _Perturbed = inputs.memo[key]
    return found


def propagate(check: Check, inputs: Inputs) -> Propagated:
    """Linear propagation: u_c² = sum_ij (df/dx_i) u_i r_ij (df/dx_j) u_j, JCGM 100 (the GUM), 5.1.2 and 5.2.2.

    Each product (df/dx_i) u_i is a central difference over one standard uncertainty (GUM 5.1.3, note 2). Departure: where the two
    one-sided differences differ in sign or by more than twice, the function has a kink inside the doubt (the middle of a band,
    the end of an overlap, a least of several); there the mean would cancel and hide the doubt, and the larger of them counts.
    """
    perturbed = _perturbed(check.addresses, inputs)
    doubtful = perturbed.doubtful
    result = outcome(check, inputs, perturbed.read)
    if not doubtful:  # counts and yes or no: nothing to propagate
        return Propagated(Outcome(*(None if x is None else float(np.ravel(x)[0]) for x in (result.value, result.low, result.high, result.margin))), 0.0, 0.0, {})
    rows = 2 * len(doubtful) + 1

    def column_of(numbers: Any) -> np.ndarray:
        array = np.asarray(numbers, float)
        return np.full(rows, array) if array.size == 1 else array  # what none of the doubtful inputs moves

    def spread(numbers: np.ndarray) -> np.ndarray:
        """Signed change of a number with each doubtful input."""
        with np.errstate(invalid="ignore", over="ignore"):
            up, down = numbers[1::2] - numbers[0], numbers[0] - numbers[2::2]
            large, small = np.maximum(np.abs(up), np.abs(down)), np.minimum(np.abs(up), np.abs(down))
            kink = (up * down < 0.0) | (large > KINK * small)
            return np.asarray(np.where(kink, np.where(np.abs(up) >= np.abs(down), up, down), (up + down) / 2.0))

    together = _correlated(tuple(q.address for q in doubtful), inputs)

    def in_all(parts: np.ndarray) -> float:
        square = float(parts @ parts)
        if together:
            own = parts[together[0]]
            square += float(own @ (together[1] - np.eye(len(own))) @ own)
        return math.sqrt(max(square, 0.0)) if math.isfinite(square) else square

    def first(numbers: Any) -> float | None:
        return None if numbers is None else float(column_of(numbers)[0])

    margin, value = column_of(result.margin), column_of(result.value)
    margins, value_parts = spread(margin), spread(value)
    return Propagated(
        nominal=Outcome(float(value[0]), first(result.low), first(result.high), float(margin[0])),
        u_margin=in_all(margins),
        u_value=in_all(value_parts),
        contributions={q.address: float(m) for q, m in zip(doubtful, margins, strict=True)},
    )
