"""What to do about a finding: the ways out, and what to measure next. Knows no check by name."""

import math
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from pindo.core.document.evidence import TOOL_PM, Source, Tool, default_pm
from pindo.core.inputs.dimensions import DIMENSIONS, Adjustable, Station, letter_at
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.units import write
from pindo.core.judging.check import Check
from pindo.core.judging.evaluate import asked_for, judge, missing_inputs
from pindo.core.judging.question import asked_at
from pindo.core.judging.uncertainty import margin_at, margins, propagate
from pindo.core.judging.verdict import SEVERITY, Finding, Sentence, Verdict, WayOut

Follows = Callable[[Inputs, Collection[str]], Collection[str]]
"""Questions that have other checks when some quantities change: pairs of holes that are near
now.
"""
Remade = Callable[[Inputs, Collection[str]], Iterable[Check]]
"""Makes the checks of some questions anew for changed inputs."""
Answered = Mapping[str, tuple[Check, Finding]]

MOST_STEPS = 200  # places that are tried on either side of a target
STEPS = 4  # secant steps: the margins are piecewise linear, so two are the rule
WORTH_A_WORD_MM = 0.05


@dataclass(frozen=True, kw_only=True)
class Settle:
    """An input worth measuring next."""

    address: str
    name: str
    station: Station
    question: str
    """Where it is asked for."""
    letter: str
    kind: str
    score: float
    """Share of variance times findings, summed [-]."""
    findings: tuple[str, ...]
    tool: str
    pm_wanted: float | None
    how: str
    reason: str


def _doubt(check: Check, inputs: Inputs) -> float:
    return inputs.rules["guard_band_factor"] * propagate(check, inputs).u_margin


def _solve(
    check: Check, finding: Finding, u: float, inputs: Inputs, address: str, limits: Adjustable
) -> float | None:
    """Value of one adjustable dimension that brings margin - U to zero, rounded outwards to its
    step. ``u`` is the doubt that is left with it planned.
    """
    start = inputs.quantities[address].value
    if start is None or finding.margin is None:
        return None
    # A band can be left on both sides: the step of the secant stays inside the bounds.
    x0, m0 = start, finding.margin - u
    x1 = start + limits.step if start + limits.step <= limits.high else start - limits.step
    for _ in range(STEPS):
        m1 = margin_at(check, inputs.with_value(address, x1)) - u
        slope = (m1 - m0) / (x1 - x0)
        if not math.isfinite(slope) or abs(slope) < 1e-6:
            return None
        x0, m0, x1 = x1, m1, x1 - m1 / slope
        if abs(x1 - x0) < 1e-9:
            break
        x1 = min(max(x1, limits.low), limits.high)
        if abs(x1 - x0) < 1e-9:
            break
    sense = 1.0 if x1 > start else -1.0
    x1 = sense * math.ceil(sense * x1 / limits.step - 1e-6) * limits.step
    return (
        round(x1, 6)
        if limits.low <= x1 <= limits.high and 1e-9 < abs(x1 - start) <= limits.reach
        else None
    )


def _after(
    checks: Iterable[Check], finding: Finding, inputs: Inputs, answered: Answered
) -> tuple[bool, tuple[float, Finding] | None]:
    """Whether a change breaks another finding, and the finding that it costs the most margin."""
    worst: tuple[float, Finding] | None = None
    least = math.inf  # margin after its doubt that the worst is left with

    def room(c: Check) -> float:
        old = answered.get(c.id)
        return (
            -math.inf if old is None or old[1].margin is None else old[1].margin - (old[1].u or 0.0)
        )

    for other in sorted(checks, key=room):  # the nearest to its limit breaks first
        if other.id == finding.id:
            continue
        before = answered.get(other.id)
        if before is None:
            if missing_inputs(other, inputs):
                continue
            # A pair that was not near enough to be reported now is.
            if judge(other, inputs) != Verdict.GOES:
                return True, None
            continue
        old = before[1]
        if old.margin is None or old.u is None or missing_inputs(other, inputs):
            continue  # a reading that the change spoils is told with the ripple
        if SEVERITY[judge(other, inputs)] < SEVERITY[old.verdict]:
            return True, None
        margin = margin_at(other, inputs)
        loss = old.margin - margin
        if loss > WORTH_A_WORD_MM and old.kind == "length" and margin - old.u < least:
            worst, least = (loss, old), margin - old.u
    return False, worst


def ways_out(
    check: Check,
    finding: Finding,
    inputs: Inputs,
    answered: Answered,
    follows: Follows,
    remade: Remade,
) -> tuple[WayOut, ...]:
    """The change in each adjustable dimension alone that clears a finding, smallest step first.

    Left out where it would break another finding, where it leaves the dimension's bounds, or where
    the doubt alone is more than any change can clear.
    """
    ways = (
        _way_out(check, finding, inputs, address, answered, follows, remade)
        for address in asked_for(check, inputs)
        if address in DIMENSIONS and DIMENSIONS[address].adjustable is not None
    )
    return tuple(sorted((w for w in ways if w), key=lambda w: abs(w.target - w.current)))


def _way_out(
    check: Check,
    finding: Finding,
    inputs: Inputs,
    address: str,
    answered: Answered,
    follows: Follows,
    remade: Remade,
) -> WayOut | None:
    """The change in one dimension that clears a finding; None where there is none."""
    definition = DIMENSIONS[address]
    limits, current = definition.adjustable, inputs.value(address)
    if limits is None or current is None:
        return None
    as_planned = inputs.with_value(address, current)
    if missing_inputs(check, as_planned):
        return (
            None  # the change spoils a reading that this finding rests on: nothing can be promised
        )
    target = _solve(check, finding, _doubt(check, as_planned), inputs, address, limits)
    if target is not None and judge(check, inputs.with_value(address, target)) != Verdict.GOES:
        # The doubt follows the place: once more with what it is there.
        doubt = _doubt(check, inputs.with_value(address, target))
        target = _solve(check, finding, doubt, inputs, address, limits)
    if target is None:
        return None
    changed = inputs.with_value(address, target)
    differing = inputs.differing(changed)
    questions = follows(inputs, differing)
    others = [
        c
        for c, _ in answered.values()
        if c.question not in questions and not differing.isdisjoint(asked_for(c, inputs))
    ]
    breaks, cost = _after(others, finding, changed, answered)
    if breaks:
        return None
    again = check
    if questions:
        fresh = list(remade(changed, questions))
        # A check whose geometry was made for the old value is asked as it is made for the new one.
        again = next((c for c in fresh if c.id == check.id), check)
        breaks, more = _after(fresh, finding, changed, answered)
        cost = more or cost
    if breaks or missing_inputs(again, changed) or judge(again, changed) != Verdict.GOES:
        return None
    # Where the geometry is made anew at every place nothing is promised beyond the target.
    low, high = (target, target) if questions else _window(again, changed, address, target, limits)
    return WayOut(
        address=address,
        name=definition.name,
        letter=letter_at(check.question, address),
        kind=definition.kind,
        current=current,
        target=target,
        low=low,
        high=high,
        costs=_costs(cost),
    )


def _window(
    check: Check, changed: Inputs, address: str, target: float, limits: Adjustable
) -> tuple[float, float]:
    """The stretch round a target over which a check goes with the doubt that it has there, to the
    step of the dimension and within its bounds; the target alone where every place would have to be
    worked out by itself.
    """
    if address not in check.addresses:
        return target, target
    reach = min(limits.reach, MOST_STEPS * limits.step)
    low, high = max(limits.low, target - reach), min(limits.high, target + reach)
    below = np.arange(target, low - limits.step / 2, -limits.step)
    above = np.arange(target, high + limits.step / 2, limits.step)
    doubt = _doubt(check, changed)
    ends = []
    for places in (below, above):
        room = margins([check], changed, {address: places})[check.id] - doubt
        out = np.flatnonzero(room < -1e-9)
        last = len(places) - 1 if len(out) == 0 else max(int(out[0]) - 1, 0)
        ends.append(round(float(places[last]), 6))
    return ends[0], ends[1]


def _costs(cost: tuple[float, Finding] | None) -> Sentence:
    """What a change takes from the finding that it hurts most; empty for none."""
    if cost is None:
        return Sentence(mm="", inch="")
    words = cost[1].title[0].lower() + cost[1].title[1:]
    told = {u: f"leaves {write(cost[0], 'length', u)} less to {words}" for u in ("mm", "in")}
    return Sentence(mm=told["mm"], inch=told["in"])


def _pm_wanted(finding: Finding, address: str) -> float | None:
    """± at which this input alone would settle a tight finding, or None when it cannot."""
    if finding.margin is None or finding.u is None or finding.u <= 0.0:
        return None
    mine = next((s for s in finding.shares if s.address == address), None)
    if mine is None or mine.share <= 0.0:
        return None
    # |margin| must reach U: what the other inputs leave of the variance is for this one.
    room = (finding.margin / finding.u) ** 2 - (1.0 - mine.share)
    return mine.pm * math.sqrt(room / mine.share) if room > 0.0 else None


def _pm_together(finding: Finding, address: str) -> float | None:
    """± at which this input settles a tight finding when all of its inputs get better in the
    same share; None at the limit itself.
    """
    mine = next((s for s in finding.shares if s.address == address), None)
    if mine is None or not finding.margin or not finding.u:
        return None
    return mine.pm * abs(finding.margin) / finding.u


def _station_of(address: str, finding: Finding) -> Station:
    return DIMENSIONS[address].station if address in DIMENSIONS else finding.station


def measure_next(findings: Iterable[Finding], inputs: Inputs, most: int = 12) -> tuple[Settle, ...]:
    """Inputs ranked by how much settling them would settle, with the tool and the ± that it takes.

    Score: share of the variance, summed over the tight findings, plus the share of the missing
    inputs, summed over the unmeasured ones, that an input feeds.
    """
    scores: dict[str, float] = {}
    feeds: dict[str, list[Finding]] = {}
    for finding in findings:
        parts: dict[str, float] = {}
        if finding.verdict == Verdict.TIGHT:
            parts = {s.address: s.share for s in finding.shares}
        elif finding.verdict == Verdict.UNMEASURED and finding.missing:
            parts = {m.address: 1.0 / len(finding.missing) for m in finding.missing}
        for address, share in parts.items():
            if address in inputs.quantities and share > 0.02:
                scores[address] = scores.get(address, 0.0) + share
                feeds.setdefault(address, []).append(finding)
    ranked = sorted(scores, key=lambda a: -scores[a])
    return tuple(s for a in ranked if (s := _settle(a, scores[a], feeds[a], inputs)) is not None)[
        :most
    ]


def _settle(address: str, score: float, fed: list[Finding], inputs: Inputs) -> Settle | None:
    q = inputs.quantities[address]
    definition = DIMENSIONS.get(address)
    station = _station_of(address, fed[0])
    question = asked_at(address, inputs) or fed[0].question
    tool = definition.tool if definition else Tool.CALLIPER if q.kind == "length" else None
    best = TOOL_PM.get(tool, 0.0) if tool else None
    tight = [f for f in fed if f.verdict == Verdict.TIGHT]
    wanted = [w for f in tight if (w := _pm_wanted(f, address)) is not None]
    alone = bool(wanted)
    if not alone:
        # Where no input settles it alone, all of them together do: each better in the same share.
        wanted = [w for f in tight if (w := _pm_together(f, address)) is not None]
    if q.value is not None:
        if definition and definition.adjustable and q.source in (Source.DRAWING, Source.CHOSEN):
            return None  # a chosen size is made, not measured again
        if not wanted and not any(f.verdict == Verdict.UNMEASURED for f in fed):
            return None  # no ± of it settles anything
    pm = (
        max(wanted)
        if wanted
        else best
        if best
        else default_pm(q.kind, q.value or 0.0, Source.MEASURED, tool)
    )
    count = len(fed)
    reason = (
        f"settles {count} finding{'s' if count > 1 else ''}"
        if q.value is None
        else (
            f"now {q.source.value if q.source else 'unknown'}, ± {write(q.pm, q.kind)}; carries the"
            f" doubt of {count}"
        )
        + ("" if alone or not wanted else ", with others that want it too")
    )
    return Settle(
        address=address,
        name=q.name,
        station=station,
        question=question,
        letter=letter_at(question, address),
        kind=q.kind,
        score=score,
        findings=tuple(f.id for f in fed),
        tool=tool.value if tool else "",
        pm_wanted=pm or None if tool or q.kind != "count" else None,
        how=definition.how if definition else "",
        reason=reason,
    )
