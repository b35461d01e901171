"""The machinery round a check: propagation, sampling, verdict, reasons. It knows no check by name.

A check is a plain function from named inputs to a value, with a limit below, above or both. The names of
its parameters are its inputs: dimensions, options or rules. Functions must work on arrays (numpy), since
all the perturbed inputs go through in one call.
"""

import inspect
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from pindo.core.dimensions import OPTIONS, Station
from pindo.core.evidence import TAKEN_WITH_A_TOOL, Source, closes_safety, refused_state
from pindo.core.resolve import Inputs, Resolved, letter_at
from pindo.core.rules import RULES
from pindo.core.units import write

ROUNDING_MM = 1e-9  # the verdict's allowance for binary arithmetic, ISO 14253-1 taken as settled
SAMPLES = 5_000  # the 2.5 % ends are then known to about 2 % of the interval's half-width
SEED = 20

Limit = Callable[..., Any] | str
"""A function of inputs and rules, or the name of a rule."""


class Verdict(StrEnum):
    GOES = "goes"
    TIGHT = "tight"
    FOULS = "fouls"
    UNMEASURED = "unmeasured"


SEVERITY = {Verdict.FOULS: 0, Verdict.TIGHT: 1, Verdict.UNMEASURED: 2, Verdict.GOES: 3}


@lru_cache(maxsize=512)
def _parameters(function: Callable[..., Any]) -> tuple[str, ...]:
    return tuple(inspect.signature(function).parameters)


@dataclass(frozen=True, kw_only=True)
class Check:
    """One question of the trade. ``says`` is its sentence with {value}, {limit}, {short} and input names.

    ``bind`` maps a parameter to an input of another name (a hole's coordinate) or to a constant. A parameter
    named ``read`` is given all of ``reads`` as one mapping, for checks over lists of any length.
    """

    id: str
    station: Station
    title: str
    value: Callable[..., Any]
    at_least: Limit | None = None
    at_most: Limit | None = None
    says: str
    fouls: str = ""
    why: str = ""
    caution: str = ""
    kind: str = "length"
    safety: bool = False
    monte_carlo: bool = False
    accepts: Mapping[str, frozenset[str]] = field(default_factory=dict)
    bind: Mapping[str, Any] = field(default_factory=dict)
    reads: tuple[str, ...] = ()
    at: tuple[float, float, float] | None = None
    """Place in the vehicle that the profile flags: behind the front axle line, left, above the ground. [mm]"""

    @cached_property
    def parameters(self) -> tuple[str, ...]:
        """Names of all parameters of value and limits, each once."""
        names: dict[str, None] = {}
        for function in (self.value, self.at_least, self.at_most):
            if isinstance(function, str):
                names[function] = None
            elif function is not None:
                names |= dict.fromkeys(_parameters(function))
        return tuple(names)

    @cached_property
    def binding(self) -> tuple[tuple[str, str, Any], ...]:
        """For each parameter what it is (constant, rule, option, quantity) and its value or name."""
        rows: list[tuple[str, str, Any]] = []
        for name in self.parameters:
            bound = self.bind.get(name, name)
            if name == "read":
                continue
            kind = "constant" if not isinstance(bound, str) else "rule" if bound in RULES else "option" if bound in OPTIONS else "quantity"
            rows.append((name, kind, bound))
        return tuple(rows) + tuple(("", "quantity", address) for address in self.reads)

    @cached_property
    def rule_names(self) -> tuple[str, ...]:
        """The limits that act in the check, whatever its parameters are called."""
        return tuple(dict.fromkeys(bound for _, kind, bound in self.binding if kind == "rule"))

    @cached_property
    def identity(self) -> tuple[Any, ...]:
        """What makes two checks the same question, wherever they were made."""
        return (self.id, self.value, self.at_least, self.at_most, self.says, self.binding, self.at)

    @cached_property
    def addresses(self) -> tuple[str, ...]:
        """The quantities that the check reads, each once."""
        return tuple(dict.fromkeys(bound for _, kind, bound in self.binding if kind == "quantity"))


@dataclass(frozen=True, kw_only=True)
class Share:
    """How much of a finding's variance one input carries."""

    address: str
    name: str
    letter: str
    share: float
    pm: float
    kind: str
    source: str


@dataclass(frozen=True, kw_only=True)
class Missing:
    """An input that has no value here, and why."""

    address: str
    name: str
    letter: str
    status: str
    detail: str


@dataclass(frozen=True, kw_only=True)
class RuleUsed:
    """A limit as it acted in a finding."""

    id: str
    name: str
    value: float
    default: float
    unit: str
    source: str
    reason: str
    overridden: bool
    note: str


@dataclass(frozen=True, kw_only=True)
class Sentence:
    """The same words with millimetres and with inches."""

    mm: str
    inch: str


@dataclass(frozen=True, kw_only=True)
class WayOut:
    """The change of one adjustable dimension alone that clears a finding."""

    address: str
    name: str
    letter: str
    kind: str
    current: float
    target: float
    costs: Sentence
    """What margin it takes from the finding that it hurts most; empty when none."""


@dataclass(frozen=True, kw_only=True)
class Sampled:
    """Monte Carlo of the margin: 95 % interval and the chance that it is positive (JCGM 101)."""

    low: float
    high: float
    chance: float


@dataclass(frozen=True, kw_only=True)
class Finding:
    """The answer to a check, with everything that a person needs to believe or dispute it."""

    id: str
    station: Station
    title: str
    verdict: Verdict
    condition: str = ""
    """contradiction or lapsed where that is why it is unmeasured; otherwise empty."""
    kind: str = "length"
    value: float | None = None
    value_pm: float | None = None
    low: float | None = None
    high: float | None = None
    margin: float | None = None
    u: float | None = None
    """Expanded uncertainty U of the margin."""
    sentence: Sentence
    why: str = ""
    caution: str = ""
    safety: bool = False
    provisional: bool = False
    rules: tuple[RuleUsed, ...] = ()
    shares: tuple[Share, ...] = ()
    missing: tuple[Missing, ...] = ()
    inputs: tuple[str, ...] = ()
    ways_out: tuple[WayOut, ...] = ()
    sampled: Sampled | None = None
    waived_by: str = ""
    at: tuple[float, float, float] | None = None
    """Where it is in the vehicle: behind the front axle line, left, above the ground. [mm]"""


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
        arguments["read"] = {address: values[address] for address in check.reads}

    def call(function: Limit) -> Any:
        if isinstance(function, str):
            return inputs.rules[function]
        return function(**{name: arguments[name] for name in _parameters(function)})

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


def decide(margin: float, u: float) -> Verdict:
    """Decision rule with a guard band on both sides (ISO 14253-1): U is the expanded uncertainty."""
    if margin - u >= -ROUNDING_MM:
        return Verdict.GOES
    if margin + u < -ROUNDING_MM:
        return Verdict.FOULS
    return Verdict.TIGHT


def _why_missing(check: Check, found: Resolved) -> tuple[str, str] | None:
    """Status and words when an input does not count for this check, else None."""
    if found.value is None:
        return found.status.value, found.detail
    if found.source in TAKEN_WITH_A_TOOL and (refusal := refused_state(found.state, dict(check.accepts))):
        return "other state", refusal
    if check.safety and found.kind != "count" and found.source is not None and not closes_safety(found.source):
        return "weak evidence", f"from {found.source.value}: a strength finding needs catalogue or better"
    return None


def missing_inputs(check: Check, inputs: Inputs) -> list[Missing]:
    """Inputs of a check that have no value that counts here."""
    gone = {}
    for _, kind, bound in check.binding:
        if kind == "option":
            allowed = OPTIONS[bound].choices
            said = inputs.options.get(bound, "").strip()
            if not said or (allowed and said not in allowed):
                detail = f"“{said}” is not one of {', '.join(allowed)}" if said else ""
                gone[bound] = Missing(address=bound, name=OPTIONS[bound].name, letter="", status="missing", detail=detail)
        elif kind == "quantity":
            found = inputs.quantities.get(bound)
            if found is None:
                gone[bound] = Missing(address=bound, name=bound, letter="", status="missing", detail="")
            elif reason := _why_missing(check, found):
                gone[bound] = Missing(address=bound, name=found.name, letter=letter_at(check.station, bound), status=reason[0], detail=reason[1])
    return list(gone.values())


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
class _Propagated:
    nominal: Outcome
    u_margin: float
    u_value: float
    contributions: dict[str, float]


def propagate(check: Check, inputs: Inputs) -> _Propagated:
    """Linear propagation: u_c² = sum((df/dx_i)² u_i²), JCGM 100 (the GUM), 5.1.2.

    Each product (df/dx_i) u_i is a difference over one standard uncertainty (GUM 5.1.3, note 2). Departure:
    of the two one-sided differences the larger counts, not their mean. On a straight line they are the
    same; where the function bends inside the doubt (the middle of a band, the end of an overlap) the
    mean would cancel and hide the doubt. Row 0 is the nominal, rows 2i+1, 2i+2 the pair of input i.
    """
    quantities = [inputs.quantities[a] for a in check.addresses]
    doubtful = [q for q in quantities if q.pm > 0.0]
    if not doubtful:  # counts and yes or no: nothing to propagate
        certain = outcome(check, inputs, {q.address: q.value for q in quantities})
        return _Propagated(Outcome(*(None if x is None else float(x) for x in (certain.value, certain.low, certain.high, certain.margin))), 0.0, 0.0, {})
    rows = 2 * len(doubtful) + 1
    values: dict[str, Any] = {q.address: q.value for q in quantities}
    for k, q in enumerate(doubtful):
        column = np.full(rows, q.value, dtype=float)
        column[2 * k + 1] += q.u
        column[2 * k + 2] -= q.u
        values[q.address] = column
    result = outcome(check, inputs, values)

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
    return _Propagated(
        nominal=Outcome(float(value[0]), first(result.low), first(result.high), float(margin[0])),
        u_margin=float(np.sqrt(margins @ margins)),
        u_value=float(np.sqrt(value_parts @ value_parts)),
        contributions={q.address: float(m) for q, m in zip(doubtful, margins, strict=True)},
    )


def rules_used(check: Check, inputs: Inputs) -> tuple[RuleUsed, ...]:
    """The limits that acted, the verdict's own factor left out unless it was changed."""
    used = []
    for name in (*check.rule_names, "guard_band_factor"):
        rule, override = RULES[name], inputs.build.rules.get(name)
        if name == "guard_band_factor" and override is None:
            continue
        used.append(
            RuleUsed(
                id=name,
                name=rule.name,
                value=inputs.rules[name],
                default=rule.value,
                unit=rule.unit,
                source=rule.source,
                reason=rule.reason,
                overridden=override is not None,
                note=override.note if override else "",
            )
        )
    return tuple(used)


def _decimals(kind: str, u: float) -> int | None:
    return (1 if u >= 0.15 else 2) if kind == "length" else None


class _In(dict[str, str]):
    """Fields of a sentence in one unit system, written when the template asks for them."""

    def __init__(self, fields: Mapping[str, Callable[[str], str]], system: str) -> None:
        super().__init__()
        self.fields, self.system = fields, system

    def __missing__(self, name: str) -> str:
        return self.fields[name](self.system)


def sentence(template: str, fields: Mapping[str, Callable[[str], str]]) -> Sentence:
    """Fill a sentence in both unit systems; each field is a function of the system."""
    return Sentence(mm=template.format_map(_In(fields, "mm")), inch=template.format_map(_In(fields, "in")))


def _limit_text(low: float | None, high: float | None, kind: str, system: str) -> str:
    def plain(x: float) -> tuple[str, str]:
        number, _, unit = write(x, kind, system).partition(" ")
        return (number.rstrip("0").rstrip(".") if "." in number else number), unit

    if low is None or high is None or abs(high - low) < ROUNDING_MM:
        return " ".join(plain(low if low is not None else high or 0.0)).strip()
    if abs(high + low) < ROUNDING_MM:
        return f"± {' '.join(plain(high))}".strip()
    return f"{plain(low)[0]} to {' '.join(plain(high))}".strip()


def _sentence_fields(check: Check, inputs: Inputs, p: _Propagated, expanded: float) -> dict[str, Callable[[str], str]]:
    places = _decimals(check.kind, expanded)
    pm = 2.0 * p.u_value

    def value(system: str) -> str:
        text = write(p.nominal.value, check.kind, system, places)
        if pm <= 0.0:
            return text
        number, _, unit = text.partition(" ")
        return f"{number} ± {write(pm, check.kind, system, places).partition(' ')[0]} {unit}".strip()

    fields: dict[str, Callable[[str], str]] = {
        "value": value,
        "limit": lambda system: _limit_text(p.nominal.low, p.nominal.high, check.kind, system),
        "short": lambda system: write(abs(p.nominal.margin), check.kind, system, places),
        "over": lambda system: write(abs(p.nominal.value), check.kind, system, places),
    }
    for name, kind, bound in check.binding:
        if name == "":
            continue
        if kind == "option":
            fields[name] = lambda system, text=inputs.options[bound]: text  # type: ignore[misc]
        elif kind == "quantity":
            fields[name] = lambda system, q=inputs.quantities[bound]: write(q.value, q.kind, system)  # type: ignore[misc]
    return fields


def judge(check: Check, inputs: Inputs) -> Verdict:
    """The bare verdict of a check whose inputs are all there."""
    p = propagate(check, inputs)
    if not math.isfinite(p.nominal.margin):
        return Verdict.UNMEASURED
    return decide(p.nominal.margin, inputs.rules["guard_band_factor"] * p.u_margin)


def unmeasured(check: Check, inputs: Inputs, gone: list[Missing]) -> Finding:
    """The finding of a check that cannot be answered yet, naming each input that is wanting."""
    reasons = []
    for m in gone:
        words = {"missing": "not measured", "word": f"only “{m.detail}”", "lapsed": f"lapsed: {m.detail}"}.get(m.status, m.detail or m.status)
        reasons.append(f"{m.name.lower() if m.name[1:2].islower() else m.name} ({words})")
    text = f"{check.title}: {'; '.join(reasons)}"
    conditions = {m.status for m in gone}
    condition = "contradiction" if "contradiction" in conditions else "lapsed" if "lapsed" in conditions else ""
    return Finding(
        id=check.id,
        station=check.station,
        title=check.title,
        verdict=Verdict.UNMEASURED,
        condition=condition,
        kind=check.kind,
        sentence=Sentence(mm=text, inch=text),
        why=check.why,
        caution=check.caution,
        safety=check.safety,
        rules=rules_used(check, inputs),
        missing=tuple(gone),
        inputs=check.addresses,
    )


_KEPT: dict[tuple[Any, ...], Finding] = {}
_MOST_KEPT = 4096


def evaluate(check: Check, inputs: Inputs) -> Finding:
    """Answer one check. Never raises for what a person may enter.

    A pure function of the check and the inputs, rules and options that it reads: while those are the same
    objects the answer is kept, since a trial changes one quantity and most findings do not read it.
    """
    overrides = inputs.build.rules
    acting = tuple((n, inputs.rules[n], overrides[n].note if n in overrides else None) for n in (*check.rule_names, "guard_band_factor"))
    chosen = tuple(inputs.options.get(bound) for _, kind, bound in check.binding if kind == "option")
    key = (check.identity, tuple(map(inputs.quantities.get, check.addresses)), acting, chosen)
    found = _KEPT.get(key)
    if found is None:
        if len(_KEPT) >= _MOST_KEPT:
            _KEPT.clear()
        found = _KEPT[key] = _answer(check, inputs)
    return found


def _answer(check: Check, inputs: Inputs) -> Finding:
    if gone := missing_inputs(check, inputs):
        return unmeasured(check, inputs, gone)
    p = propagate(check, inputs)
    margin = p.nominal.margin
    if not all(map(math.isfinite, (margin, p.u_margin, p.u_value))):
        return unmeasured(check, inputs, [Missing(address="", name="The figures", letter="", status="bad entry", detail="give no finite result")])
    expanded = inputs.rules["guard_band_factor"] * p.u_margin
    verdict = decide(margin, expanded)
    total = p.u_margin**2
    shares = [
        Share(
            address=a,
            name=q.name,
            letter=letter_at(check.station, a),
            share=c**2 / total,
            pm=q.pm,
            kind=q.kind,
            source=q.source.value if q.source else "",
        )
        for a, c in p.contributions.items()
        if total > 0.0 and c**2 / total > 0.005
        for q in (inputs.quantities[a],)
    ]
    template = check.fouls if check.fouls and p.nominal.value < 0.0 else check.says
    return Finding(
        id=check.id,
        station=check.station,
        title=check.title,
        verdict=verdict,
        kind=check.kind,
        value=p.nominal.value,
        value_pm=2.0 * p.u_value,
        low=p.nominal.low,
        high=p.nominal.high,
        margin=margin,
        u=expanded,
        sentence=sentence(template, _sentence_fields(check, inputs, p, expanded)),
        why=check.why,
        caution=check.caution,
        safety=check.safety,
        provisional=any(inputs.quantities[a].provisional for a in check.addresses),
        rules=rules_used(check, inputs),
        shares=tuple(sorted(shares, key=lambda s: -s.share)),
        inputs=check.addresses,
        sampled=sample(check, inputs) if check.monte_carlo else None,
        at=check.at,
    )
