"""From a check to its finding: inputs that are wanting, the verdict, the sentence in both unit systems. Knows no check by name."""

import math
from collections.abc import Callable, Mapping
from typing import Any

from pindo.core.check import Check
from pindo.core.dimensions import OPTIONS
from pindo.core.evidence import TAKEN_WITH_A_TOOL, closes_safety, refused_state
from pindo.core.resolve import Inputs, Resolved, letter_at
from pindo.core.rules import RULES
from pindo.core.uncertainty import Propagated, propagate
from pindo.core.units import write
from pindo.core.verdict import ROUNDING_MM, Finding, Missing, RuleUsed, Sentence, Share, Verdict, decide
from pindo.core.words import filled

MOST_NAMED = 3  # inputs that a sentence names for one reason


def _why_missing(check: Check, found: Resolved) -> tuple[str, str] | None:
    """Status and words when an input does not count for this check, else None."""
    if found.value is None:
        return found.status.value, found.detail
    if found.source in TAKEN_WITH_A_TOOL and (refusal := refused_state(found.state, check.accepts)):
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


def sentence(template: str, fields: Mapping[str, Callable[[str], str]]) -> Sentence:
    """Fill a sentence in both unit systems; each field is a function of the system."""

    def told(system: str) -> str:
        return filled(template, lambda name: fields[name](system) if name in fields else None)

    return Sentence(mm=told("mm"), inch=told("in"))


def _limit_text(low: float | None, high: float | None, kind: str, system: str, places: int | None) -> str:
    def plain(x: float) -> tuple[str, str]:
        number, _, unit = write(x, kind, system, places).partition(" ")
        return (number.rstrip("0").rstrip(".") if "." in number else number), unit

    if low is None or high is None or abs(high - low) < ROUNDING_MM:
        return " ".join(plain(low if low is not None else high or 0.0)).strip()
    if abs(high + low) < ROUNDING_MM:
        return f"± {' '.join(plain(high))}".strip()
    return f"{plain(low)[0]} to {' '.join(plain(high))}".strip()


def _sentence_fields(check: Check, inputs: Inputs, p: Propagated, expanded: float) -> dict[str, Callable[[str], str]]:
    places = _decimals(check.kind, expanded)
    pm = 2.0 * p.u_value
    # A limit that is a rule is told as it stands in the table; one that is worked out, no finer than the value beside it.
    worked_out = any(callable(limit) for limit in (check.at_least, check.at_most))

    def value(system: str) -> str:
        text = write(p.nominal.value, check.kind, system, places)
        if pm <= 0.0:
            return text
        number, _, unit = text.partition(" ")
        return f"{number} ± {write(pm, check.kind, system, places).partition(' ')[0]} {unit}".strip()

    fields: dict[str, Callable[[str], str]] = {
        "value": value,
        "limit": lambda system: _limit_text(p.nominal.low, p.nominal.high, check.kind, system, places if worked_out else None),
        "short": lambda system: write(abs(p.nominal.margin), check.kind, system, places),
        "over": lambda system: write(abs(p.nominal.value), check.kind, system, places),
    }
    for name, kind, bound in check.binding:
        if name == "":
            continue
        if kind == "constant" and name.endswith("_mm"):
            fields[name] = lambda system, length=bound: write(length, "length", system, 1)  # type: ignore[misc]
        elif kind == "option":
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


def _listed(names: list[str]) -> str:
    """The first few names; the finding carries all of them."""
    return ", ".join(names[:MOST_NAMED]) + (f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else "")


def unmeasured(check: Check, inputs: Inputs, gone: list[Missing]) -> Finding:
    """The finding of a check that cannot be answered yet, naming each input that is wanting."""
    named: dict[str, list[str]] = {}
    for m in gone:
        words = {"missing": "not measured", "question": f"can that be? {m.detail}", "word": f"only “{m.detail}”", "lapsed": f"lapsed: {m.detail}"}.get(m.status, m.detail or m.status)
        named.setdefault(words, []).append(m.name.lower() if m.name[1:2].islower() else m.name)
    text = f"{check.title}: {'; '.join(f'{_listed(names)} ({words})' for words, names in named.items())}"
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
    # Shares of inputs whose doubts hang together are told as if each stood alone.
    total = math.fsum(c * c for c in p.contributions.values())
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
        question=check.question,
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
        at=check.at,
    )
