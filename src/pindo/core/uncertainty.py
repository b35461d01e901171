"""Running a check with its doubt: nominal, linear propagation (JCGM 100) and Monte Carlo (JCGM 101). Knows no check by name."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from pindo.core.check import Check, Limit, parameters_of
from pindo.core.evidence import Source
from pindo.core.read import Read
from pindo.core.resolve import Inputs, Resolved
from pindo.core.verdict import Sampled

SAMPLES = 5_000  # the 2.5 % ends are then known to about 2 % of the interval's half-width
SEED = 20


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
    try:
        margin = float(np.asarray(outcome(check, inputs, values).margin, float).reshape(-1)[0])
    except (ArithmeticError, ValueError):
        return -math.inf  # a formula outside its domain is no way out
    return margin if math.isfinite(margin) else -math.inf


@lru_cache(maxsize=64)
def _draws(column: int, rectangular: bool) -> np.ndarray:
    """Standard draws (mean 0, standard deviation 1) for one input, the same in every run."""
    rng = np.random.default_rng([SEED, column])
    if rectangular:
        return rng.uniform(-math.sqrt(3.0), math.sqrt(3.0), SAMPLES)
    return rng.standard_normal(SAMPLES)


_RECTANGULAR = frozenset({Source.DRAWING, Source.PAPER, Source.CATALOGUE, Source.GUESS})


def sample(check: Check, inputs: Inputs) -> Sampled:
    """Monte Carlo of a check's margin (JCGM 101) with u = ±/2 for every source.

    Drawing, maker's paper, catalogue and guess are drawn from a rectangle of half-width sqrt(3) u, the
    rest from a normal, so that this route agrees with linear propagation. Fixed seed; 2.5 to 97.5 %.
    """
    values: dict[str, Any] = {}
    for i, address in enumerate(check.addresses):
        q = inputs.quantities[address]
        values[address] = q.value if q.value is None or q.u == 0.0 else q.value + q.u * _draws(i, q.source in _RECTANGULAR)
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
    """Linear propagation: u_c² = sum((df/dx_i)² u_i²), JCGM 100 (the GUM), 5.1.2.

    Each product (df/dx_i) u_i is a difference over one standard uncertainty (GUM 5.1.3, note 2). Departure:
    of the two one-sided differences the larger counts, not their mean. On a straight line they are the
    same; where the function bends inside the doubt (the middle of a band, the end of an overlap) the
    mean would cancel and hide the doubt.
    """
    perturbed = _perturbed(check.addresses, inputs)
    doubtful = perturbed.doubtful
    result = outcome(check, inputs, perturbed.read)
    if not doubtful:  # counts and yes or no: nothing to propagate
        return Propagated(Outcome(*(None if x is None else float(x) for x in (result.value, result.low, result.high, result.margin))), 0.0, 0.0, {})
    rows = 2 * len(doubtful) + 1

    def column_of(numbers: Any) -> np.ndarray:
        array = np.asarray(numbers, float)
        return array if array.ndim else np.full(rows, array)

    def spread(numbers: np.ndarray) -> np.ndarray:
        with np.errstate(invalid="ignore"):
            change = np.abs(numbers[1:] - numbers[0])
        return np.asarray(np.maximum(change[::2], change[1::2]))

    def first(numbers: Any) -> float | None:
        return None if numbers is None else float(column_of(numbers)[0])

    margin, value = column_of(result.margin), column_of(result.value)
    margins, value_parts = spread(margin), spread(value)
    return Propagated(
        nominal=Outcome(float(value[0]), first(result.low), first(result.high), float(margin[0])),
        u_margin=float(np.sqrt(margins @ margins)),
        u_value=float(np.sqrt(value_parts @ value_parts)),
        contributions={q.address: float(m) for q, m in zip(doubtful, margins, strict=True)},
    )
