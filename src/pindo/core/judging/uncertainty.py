"""Running a check with its doubt: nominal, linear propagation (JCGM 100) and Monte Carlo (JCGM
101).

Doubt adds by source: a quantity that is derived moves with each of its sources, and two that share
a source move together. Knows no check by name.
"""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from pindo.core.document.evidence import Source
from pindo.core.inputs.derived import moved
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.read import Read
from pindo.core.judging.check import Check, Choice, Constant, Formula, Limit
from pindo.core.judging.verdict import Sampled

# The 2.5 % ends are then known to about 0.3 % of the interval's half-width; drawn when a finding is
# opened.
SAMPLES = 200_000
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

    def argument(name: str) -> Any:
        declared = check.inputs[name]
        if isinstance(declared, Constant):
            return declared.value
        if isinstance(declared, Limit):
            return inputs.rules[declared.rule]
        if isinstance(declared, Choice):
            return inputs.options[declared.option]
        return values[declared.address]

    def limit(of: Formula | str | None, names: tuple[str, ...]) -> Any:
        if of is None:
            return None
        if isinstance(of, str):
            return inputs.rules[of]
        return of(**{name: argument(name) for name in names})

    named = {name: argument(name) for name in check.of_value}
    # Figures that cannot be (a mass of nothing) come out as not finite, which is told as a finding,
    # not as a warning.
    with np.errstate(all="ignore"):
        value = check.value(values, **named) if check.reads else check.value(**named)
        low = limit(check.at_least, check.of_least)
        high = limit(check.at_most, check.of_most)
    above = None if low is None else value - low
    below = None if high is None else high - value
    room = [side for side in (above, below) if side is not None]
    margin = room[0] if len(room) == 1 else np.minimum(room[0], room[1])
    return Outcome(value, low, high, margin)


def margin_at(check: Check, inputs: Inputs) -> float:
    """The margin at the values that stand; minus infinity where an input has none."""
    values = inputs.known(check.addresses)
    if values is None:
        return -math.inf
    try:
        margin = outcome(check, inputs, values).margin
        found = float(np.asarray(margin, float).reshape(-1)[0])
    except (ArithmeticError, ValueError):
        return -math.inf  # a formula outside its domain is no way out
    return found if math.isfinite(found) else -math.inf


def margins(
    checks: Iterable[Check], inputs: Inputs, planned: Mapping[str, np.ndarray]
) -> dict[str, np.ndarray]:
    """Margins of checks over many plans at once.

    Parameters
    ----------
    checks
        What is asked.
    inputs : Inputs
        What stands beside the plans.
    planned : mapping of address to array, shape (n,)
        Values that are planned together, in the unit of their quantity.

    Returns
    -------
    dict of check id to array, shape (n,)
        Each in the unit of its check; minus infinity where an input has no value or a formula is
        outside its domain. Where a check reads a derived quantity that a plan moves, every plan is
        worked out by itself; all others go through the formula in one call.
    """
    size = len(next(iter(planned.values())))
    one_by_one: list[Inputs] = []
    found = {}
    for check in checks:
        wants = {
            s
            for a in check.addresses
            if a not in planned and (q := inputs.quantities.get(a)) is not None
            for s in q.wants
        }
        if wants & set(planned):
            if not one_by_one:
                one_by_one = [_planned(inputs, planned, i) for i in range(size)]
            found[check.id] = np.array([margin_at(check, of) for of in one_by_one])
            continue
        values = inputs.known(tuple(a for a in check.addresses if a not in planned))
        room: Any = -math.inf
        if values is not None:
            try:
                room = outcome(check, inputs, {**values, **planned}).margin
            except (ArithmeticError, ValueError):
                room = [margin_at(check, _planned(inputs, planned, i)) for i in range(size)]
        each = np.broadcast_to(np.asarray(room, float), (size,))
        found[check.id] = np.where(np.isfinite(each), each, -math.inf)
    return found


def _planned(inputs: Inputs, planned: Mapping[str, np.ndarray], i: int) -> Inputs:
    for address, values in planned.items():
        inputs = inputs.with_value(address, float(values[i]))
    return inputs


@dataclass(frozen=True)
class _Moved:
    """The inputs of a check, each moved by each source in turn."""

    read: Read
    sources: tuple[str, ...]


def sources_of(addresses: tuple[str, ...], inputs: Inputs) -> tuple[str, ...]:
    """The inputs behind some quantities, each once: what a derived one is made from in its
    place.
    """
    found = (s for a in addresses for s in inputs.quantities[a].wants or (a,))
    return tuple(dict.fromkeys(found))


def _moved(addresses: tuple[str, ...], inputs: Inputs) -> _Moved:
    def make() -> _Moved:
        quantities = [inputs.quantities[a] for a in addresses]
        sources = tuple(dict.fromkeys(s for q in quantities for s in q.spread))
        read = {q.address: moved(q, sources) for q in quantities}
        return _Moved(Read(read), sources)

    return inputs.once(("moved", addresses), make)


@lru_cache(maxsize=24)
def _draws(column: int, rectangular: bool) -> np.ndarray:
    """Standard draws (mean 0, standard deviation 1) for one input, the same in every run."""
    rng = np.random.default_rng([SEED, column])
    if rectangular:
        return rng.uniform(-math.sqrt(3.0), math.sqrt(3.0), SAMPLES)
    return rng.standard_normal(SAMPLES)


RECTANGULAR = frozenset({Source.DRAWING, Source.PAPER, Source.CATALOGUE, Source.GUESS})


def sample(check: Check, inputs: Inputs) -> Sampled:
    """Monte Carlo of a check's margin (JCGM 101) with u = ±/2 for every source.

    Drawing, maker's paper, catalogue and guess are drawn from a rectangle of half-width sqrt(3) u,
    the rest from a normal, so that this route agrees with linear propagation. A derived quantity
    moves with the draws of its sources. Fixed seed; 2.5 to 97.5 %.
    """
    quantities = [inputs.quantities[a] for a in check.addresses]
    spreads = [q.spread for q in quantities]
    sources = dict.fromkeys(s for spread in spreads for s in spread)
    drawn = {
        s: _draws(i, inputs.quantities[s].source in RECTANGULAR) for i, s in enumerate(sources)
    }
    values: dict[str, Any] = {}
    for q, spread in zip(quantities, spreads, strict=True):
        values[q.address] = q.value
        for source, part in spread.items():
            values[q.address] = values[q.address] + part * drawn[source]
    margins = np.broadcast_to(outcome(check, inputs, values).margin, (SAMPLES,))
    low, high = np.quantile(margins, (0.025, 0.975))
    return Sampled(low=float(low), high=float(high), chance=float(np.mean(margins >= 0.0)))


@dataclass(frozen=True)
class Propagated:
    """A check's outcome with standard uncertainties; contributions to the margin by source."""

    nominal: Outcome
    u_margin: float
    u_value: float
    contributions: Mapping[str, float]


def _spread(numbers: list[float]) -> list[float]:
    """Signed change of a number with each source."""
    at = numbers[0]
    parts = []
    for higher, lower in zip(numbers[1::2], numbers[2::2], strict=True):
        up, down = higher - at, at - lower
        small, large = sorted((abs(up), abs(down)))
        kink = up * down < 0.0 or large > KINK * small
        parts.append((up if abs(up) >= abs(down) else down) if kink else (up + down) / 2.0)
    return parts


def propagate(check: Check, inputs: Inputs) -> Propagated:
    """Linear propagation over independent sources: u_c² = sum_i (df/dx_i u_i)², JCGM 100, 5.1.2.

    Each product (df/dx_i) u_i is a central difference over one standard uncertainty (5.1.3, note
    2), taken through every quantity that the source moves, so that correlations need no matrix.
    Departure: where the two one-sided differences differ in sign or by more than twice, the
    function has a kink inside the doubt (the middle of a band, the end of an overlap, a least of
    several); there the mean would cancel and hide the doubt, and the larger of them counts.
    """
    by_source = _moved(check.addresses, inputs)
    result = outcome(check, inputs, by_source.read)
    rows = 2 * len(by_source.sources) + 1

    def column(numbers: Any) -> list[float]:
        found: list[float] = np.asarray(numbers, float).reshape(-1).tolist()
        return found * rows if len(found) == 1 else found  # what no source moves

    def first(numbers: Any) -> float | None:
        return None if numbers is None else column(numbers)[0]

    margin, value = column(result.margin), column(result.value)
    parts = _spread(margin)
    # Against one limit that does not move, the margin moves as the value does.
    fixed = all(np.size(x) == 1 for x in (result.low, result.high) if x is not None)
    one = (result.low is None) != (result.high is None)
    of_value = parts if fixed and one else _spread(value)
    return Propagated(
        nominal=Outcome(value[0], first(result.low), first(result.high), margin[0]),
        u_margin=math.sqrt(math.fsum(p * p for p in parts)),
        u_value=math.sqrt(math.fsum(p * p for p in of_value)),
        contributions=dict(zip(by_source.sources, parts, strict=True)),
    )
