"""From a check to its finding: inputs that are wanting, the verdict, the sentence in both unit
systems. Knows no check by name.
"""

import math
from collections.abc import Callable, Mapping
from typing import overload

from pindo.core.document.evidence import TAKEN_WITH_A_TOOL, closes_safety, refused_state
from pindo.core.document.words import filled
from pindo.core.inputs.dimensions import OPTIONS, letter_at
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import number_and_unit, write
from pindo.core.judging.check import Check, Choice, Constant, Input, Quantity
from pindo.core.judging.uncertainty import Propagated, propagate
from pindo.core.judging.verdict import (
    ROUNDING_MM,
    Finding,
    Missing,
    RuleUsed,
    Sentence,
    Share,
    Verdict,
    decide,
)

MOST_NAMED = 3  # inputs that a sentence names for one reason


def _why_missing(check: Check, found: Resolved) -> tuple[str, str] | None:
    """Status and words when an input does not count for this check, else None."""
    if found.value is None:
        return found.status.value, found.detail
    if found.source in TAKEN_WITH_A_TOOL and (refusal := refused_state(found.state, check.accepts)):
        return "other state", refusal
    if (
        check.safety
        and found.kind != "count"
        and found.source is not None
        and not closes_safety(found.source)
    ):
        return (
            "weak evidence",
            f"from {found.source.value}: a strength finding needs catalogue or better",
        )
    return None


def missing_inputs(check: Check, inputs: Inputs) -> list[Missing]:
    """Inputs of a check that have no value that counts here; of a derived one what it is made
    from.
    """
    gone: dict[str, Missing] = {}
    for declared in check.inputs.values():
        if isinstance(declared, Choice):
            gone |= _unsaid(declared.option, inputs)
    # Checks of one kind read the same quantities for the same ends: they are looked at once.
    key = ("missing", check.station, check.safety, check.accepting, check.addresses)
    return [*gone.values(), *inputs.once(key, lambda: _wanting(check, inputs))]


def _wanting(check: Check, inputs: Inputs) -> tuple[Missing, ...]:
    gone: dict[str, Missing] = {}
    for of in check.addresses:
        derived = inputs.quantities.get(of)
        for option in () if derived is None else derived.choices:
            gone |= _unsaid(option, inputs)
        for address in (of,) if derived is None else derived.wants or (of,):
            found = derived if address == of else inputs.quantities.get(address)
            reason = ("missing", "") if found is None else _why_missing(check, found)
            if reason is not None:
                gone[address] = Missing(
                    address=address,
                    name=address if found is None else found.name,
                    letter="" if found is None else letter_at(check.question, address),
                    status=reason[0],
                    detail=reason[1],
                )
    return tuple(gone.values())


def _unsaid(key: str, inputs: Inputs) -> dict[str, Missing]:
    """A choice that is not made, or that there is not; nothing where it stands."""
    option, said = OPTIONS[key], inputs.options.get(key, "").strip()
    if said and (not option.choices or said in option.choices):
        return {}
    detail = f"“{said}” is not one of {', '.join(option.choices)}" if said else ""
    return {key: Missing(address=key, name=option.name, letter="", status="missing", detail=detail)}


def asked_for(check: Check, inputs: Inputs) -> tuple[str, ...]:
    """The quantities behind a check that a person can say, each once."""

    def make() -> tuple[str, ...]:
        found = (
            (a,) if (q := inputs.quantities.get(a)) is None else q.wants or (a,)
            for a in check.addresses
        )
        return tuple(dict.fromkeys(s for sources in found for s in sources))

    return inputs.once(("asked for", check.addresses), make)


def rules_used(check: Check, inputs: Inputs) -> tuple[RuleUsed, ...]:
    """The limits that acted, the verdict's own factor left out unless it was changed."""
    used = []
    for name in (*check.rules, "guard_band_factor"):
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


def sentence(template: str, fields: Mapping[str, Callable[[str], str]]) -> Sentence:
    """Fill a sentence in both unit systems; each field is a function of the system."""

    def told(system: str) -> str:
        return filled(template, lambda name: fields[name](system) if name in fields else None)

    return Sentence(mm=told("mm"), inch=told("in"))


def _limit_text(
    low: float | None, high: float | None, kind: str, system: str, places: int | None
) -> str:
    def plain(x: float) -> tuple[str, str]:
        number, unit = number_and_unit(x, kind, system, places)
        return (number.rstrip("0").rstrip(".") if "." in number else number), unit

    if low is None or high is None or abs(high - low) < ROUNDING_MM:
        return " ".join(plain(low if low is not None else high or 0.0)).strip()
    if abs(high + low) < ROUNDING_MM:
        return f"± {' '.join(plain(high))}".strip()
    return f"{plain(low)[0]} to {' '.join(plain(high))}".strip()


def _told(declared: Input, inputs: Inputs) -> Callable[[str], str] | None:
    """How a sentence tells an input, by unit system; None for one that is no text."""
    if isinstance(declared, Choice):
        text = inputs.options[declared.option]
        return lambda system: text
    if isinstance(declared, Quantity):
        q = inputs.quantities[declared.address]
        return lambda system: "" if q.value is None else write(q.value, q.kind, system)
    if isinstance(declared, Constant) and declared.kind:
        places = 1 if declared.kind == "length" else None
        return lambda system: write(declared.value, declared.kind, system, places)
    return None


def _worked_out(check: Check) -> bool:
    """Whether a limit comes from a formula."""
    return any(callable(limit) for limit in (check.at_least, check.at_most))


def _sentence_fields(
    check: Check, inputs: Inputs, p: Propagated, expanded: float
) -> dict[str, Callable[[str], str]]:
    places = _decimals(check.kind, expanded)
    pm = 2.0 * p.u_value
    # A limit that is a rule is told as it stands in the table; one that is worked out, no finer
    # than the value beside it.
    worked_out = _worked_out(check)

    def value(system: str) -> str:
        if pm <= 0.0:
            return write(p.nominal.value, check.kind, system, places)
        number, unit = number_and_unit(p.nominal.value, check.kind, system, places)
        doubt, _ = number_and_unit(pm, check.kind, system, places)
        return f"{number} ± {doubt} {unit}".strip()

    fields: dict[str, Callable[[str], str]] = {
        "value": value,
        "limit": lambda system: _limit_text(
            p.nominal.low, p.nominal.high, check.kind, system, places if worked_out else None
        ),
        "short": lambda system: write(abs(p.nominal.margin), check.kind, system, places),
        "over": lambda system: write(abs(p.nominal.value), check.kind, system, places),
    }
    for name, declared in check.inputs.items():
        told = _told(declared, inputs)
        if told is not None:
            fields[name] = told
    return fields


def judge(check: Check, inputs: Inputs) -> Verdict:
    """The bare verdict of a check whose inputs are all there."""
    p = propagate(check, inputs)
    if not math.isfinite(p.nominal.margin):
        return Verdict.UNMEASURED
    return decide(p.nominal.margin, inputs.rules["guard_band_factor"] * p.u_margin)


def _listed(names: list[str]) -> str:
    """The first few names; the finding carries all of them."""
    return ", ".join(names[:MOST_NAMED]) + (
        f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
    )


def unmeasured(check: Check, inputs: Inputs, gone: list[Missing]) -> Finding:
    """The finding of a check that cannot be answered yet, naming each input that is wanting."""
    named: dict[str, list[str]] = {}
    for m in gone:
        words = {
            "missing": m.detail or "not measured",
            "question": f"can that be? {m.detail}",
            "word": f"only “{m.detail}”",
            "lapsed": f"lapsed: {m.detail}",
        }.get(m.status, m.detail or m.status)
        named.setdefault(words, []).append(m.name.lower() if m.name[1:2].islower() else m.name)
    text = (
        f"{check.title}:"
        f" {'; '.join(f'{_listed(names)} ({words})' for words, names in named.items())}"
    )
    conditions = {m.status for m in gone}
    condition = next((c for c in ("contradiction", "question", "lapsed") if c in conditions), "")
    return Finding(
        id=check.id,
        station=check.station,
        question=check.question,
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
        inputs=asked_for(check, inputs),
    )


def evaluate(check: Check, inputs: Inputs) -> Finding:
    """Answer one check: kept until something that it reads reads otherwise. Never raises for what a
    person may enter.
    """
    return inputs.once("finding", lambda: _answer(check, inputs), owner=check)


@overload
def _shown(number: float) -> float: ...
@overload
def _shown(number: float | None) -> float | None: ...
def _shown(number: float | None) -> float | None:
    """A figure of a finding without the last bits of its sums: to a millionth of a micrometre."""
    return None if number is None else round(number, 9)


def _answer(check: Check, inputs: Inputs) -> Finding:
    if gone := missing_inputs(check, inputs):
        return unmeasured(check, inputs, gone)
    p = propagate(check, inputs)
    margin = p.nominal.margin
    if not all(map(math.isfinite, (margin, p.u_margin, p.u_value))):
        return unmeasured(
            check,
            inputs,
            [
                Missing(
                    address="",
                    name="the figures together",
                    letter="",
                    status="bad entry",
                    detail="they give no number: one of them must be far off",
                )
            ],
        )
    expanded = inputs.rules["guard_band_factor"] * p.u_margin
    verdict = decide(margin, expanded)
    total = math.fsum(c * c for c in p.contributions.values())
    shares = [
        Share(
            address=a,
            name=q.name,
            letter=letter_at(check.question, a),
            share=c**2 / total,
            pm=q.pm,
            kind=q.kind,
            source=q.source.value if q.source else "",
        )
        for a, c in p.contributions.items()
        if total > ROUNDING_MM**2 and c**2 / total > 0.005
        for q in (inputs.quantities[a],)
    ]
    used, wants = rules_used(check, inputs), asked_for(check, inputs)
    template = check.fouls if check.fouls and p.nominal.value < 0.0 else check.says
    return Finding(
        id=check.id,
        station=check.station,
        question=check.question,
        title=check.title,
        verdict=verdict,
        kind=check.kind,
        value=_shown(p.nominal.value),
        value_pm=_shown(2.0 * p.u_value),
        low=_shown(p.nominal.low),
        high=_shown(p.nominal.high),
        margin=_shown(margin),
        u=_shown(expanded),
        sentence=sentence(template, _sentence_fields(check, inputs, p, expanded)),
        why=check.why,
        caution=check.caution,
        safety=check.safety,
        provisional=any(inputs.quantities[a].provisional for a in wants),
        rules=used,
        limit_worked_out=_worked_out(check),
        limit_changed=any(r.overridden for r in used),
        shares=tuple(sorted(shares, key=lambda s: -s.share)),
        inputs=wants,
        at=check.at,
        stretch=check.stretch,
    )
