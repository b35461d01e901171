"""assess(build): every question's checks in the order of the trade, and what to do next.

One bad or missing input never stops the other findings. Knows no station and no check by name.
"""

import logging
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import pindo.core.stations  # noqa: F401  every question is enrolled with it
from pindo.core.document.build import Build
from pindo.core.document.evidence import refused_state
from pindo.core.document.words import literal
from pindo.core.drawing.board import Reading
from pindo.core.inputs.cells import part_address
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, OPTIONS, Station, holds
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved
from pindo.core.inputs.resolve import resolve
from pindo.core.inputs.versions import ruled_out
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.evaluate import evaluate
from pindo.core.judging.gates import OpenItem
from pindo.core.judging.notice import notice
from pindo.core.judging.question import QUESTIONS, Question, Seen
from pindo.core.judging.uncertainty import sample
from pindo.core.judging.verdict import SEVERITY, Finding, Sampled, Verdict, WayOut
from pindo.core.judging.ways import Answered, Settle, measure_next, ways_out

trace_log = logging.getLogger(__name__)


@dataclass(frozen=True, kw_only=True)
class Tally:
    """How many findings of a station stand where."""

    goes: int = 0
    tight: int = 0
    fouls: int = 0
    unmeasured: int = 0


@dataclass(frozen=True, kw_only=True)
class Assessment:
    """The whole answer for one build."""

    findings: tuple[Finding, ...]
    """In the order of the trade; sort by severity to read."""
    quantities: Mapping[str, Resolved]
    """Every dimension of the catalogue and every number of the faces and lists, as it stands."""
    next: tuple[Settle, ...]
    """Measure next, most settling first."""
    tallies: Mapping[Station, Tally]
    """Verdicts counted by station."""
    by_question: Mapping[str, Tally]
    """Verdicts counted by question."""
    asked: tuple[str, ...]
    """Dimensions and choices that are asked for under the choices of the build, and questions."""
    opens: tuple[OpenItem, ...]
    """What is open until a gate."""


@dataclass(frozen=True, kw_only=True)
class Opened:
    """What is worked out when a finding is opened: it takes longer than all findings together."""

    ways: tuple[WayOut, ...]
    sampled: Sampled | None


@dataclass(frozen=True)
class _FitReading:
    """A gap as it was read, and the fit that it was read at."""

    read: Resolved
    fit: str


def _fit_readings(inputs: Inputs) -> Mapping[str, _FitReading]:
    """The last reading that holds of each finding that was read at a trial fit."""
    found = {}
    for fit in inputs.build.fits:
        for gap in fit.gaps:
            address = part_address("fits.gaps", fit, gap, "measured")
            read = inputs.quantities.get(address) if gap.finding else None
            if gap.kind == "gap" and read is not None and read.value is not None:
                found[gap.finding] = _FitReading(read, fit.name or f"fit {fit.n}")
    return found


def _read_instead(check: Check, readings: Mapping[str, _FitReading]) -> Check:
    """The check over a gap as it was read at a trial fit, where one holds in a state that the check
    accepts: the reading wins.
    """
    found = readings.get(check.id)
    if found is None or check.kind != "length" or refused_state(found.read.state, check.accepts):
        return check
    where = literal(f" (read: {found.fit})")
    return replace(
        check,
        value=plain.given,
        reads=(),
        given={**check.given, "x": found.read.address},
        says=check.says + where,
        fouls=check.fouls and check.fouls + where,
    )


def checks_of(question: Question, inputs: Inputs) -> tuple[Check, ...]:
    """The checks of a question, with what was read in place of what is computed; none where it is
    not asked.
    """

    def make() -> tuple[Check, ...]:
        if not question.when(inputs):
            return ()
        readings = inputs.once("fit readings", lambda: _fit_readings(inputs))
        return tuple(_read_instead(check, readings) for check in question.checks(inputs))

    return inputs.once(("checks", question.key), make)


def _failed(id: str, question: str, title: str, why: str = "") -> Finding:
    """A fault of Pindo's own never reads as goes and never shuts the build: it names itself, and
    the log has its trace.
    """
    trace_log.exception("%s failed", id)
    text = f"{title}: Pindo failed here; the trace is in its log"
    return notice(id, question, title, Verdict.UNMEASURED, text, why=why)


def _evaluate_safely(check: Check, inputs: Inputs) -> Finding:
    try:
        return evaluate(check, inputs)
    except (ArithmeticError, ValueError) as error:
        # A formula outside its domain is a finding like any other; the rest of the build must still
        # be read.
        text = f"{check.title}: the figures cannot be true together ({error})"
        return notice(
            check.id, check.question, check.title, Verdict.UNMEASURED, text, why=check.why
        )
    except Exception:
        return _failed(check.id, check.question, check.title, check.why)


def evaluate_all(inputs: Inputs) -> Answered:
    """Every check with its finding, without what to do about it."""
    return {
        check.id: (check, _evaluate_safely(check, inputs))
        for question in QUESTIONS.values()
        for check in _checks_safely(question, inputs)
    }


def _checks_safely(question: Question, inputs: Inputs) -> tuple[Check, ...]:
    """The checks of a question; none where it fails, which its notices tell."""
    try:
        return checks_of(question, inputs)
    except Exception:
        return ()


def _notices(question: Question, inputs: Inputs) -> tuple[Finding, ...]:
    def make() -> tuple[Finding, ...]:
        if not question.when(inputs):
            return ()
        checks_of(question, inputs)  # what fails there is told here
        return tuple(question.notices(inputs))

    try:
        return inputs.once(("notices", question.key), make)
    except Exception:
        return (_failed(f"{question.key}.failed", question.key, question.name),)


def _waived(finding: Finding, inputs: Inputs, today: str) -> Finding:
    """A waiver holds until its date and no longer; without a date to hold it against it does not
    hold.
    """
    waiver = inputs.document.waivers.get(finding.id)
    if waiver is None or finding.verdict == Verdict.GOES:
        return finding
    words = f"{waiver.who}, until {waiver.until}: {waiver.reason}"
    if today and today <= waiver.until:
        return replace(finding, waived_by=words)
    return replace(finding, waiver_ended=words)


def findings_of(question: Question, inputs: Inputs, today: str = "") -> list[Finding]:
    """The findings of one question, without what rests on all the others."""
    found = [_evaluate_safely(check, inputs) for check in _checks_safely(question, inputs)]
    return [_waived(f, inputs, today) for f in (*found, *_notices(question, inputs))]


def _follows(inputs: Inputs, changed: Collection[str]) -> tuple[str, ...]:
    """Questions that have other checks when some quantities change: pairs of holes, tight pairs,
    what stands in place of a reading.
    """
    return tuple(
        key
        for key, question in QUESTIONS.items()
        if not inputs.read_by(
            ("checks", key),
            lambda question=question: checks_of(question, inputs),  # type: ignore[misc]
        ).isdisjoint(changed)
    )


def _remade(inputs: Inputs, questions: Collection[str]) -> list[Check]:
    return [check for key in questions for check in checks_of(QUESTIONS[key], inputs)]


def _with_ways(finding: Finding, check: Check, inputs: Inputs, answered: Answered) -> Finding:
    if finding.verdict not in (Verdict.FOULS, Verdict.TIGHT):
        return finding
    ways = ways_out(check, finding, inputs, answered, _follows, _remade)
    return replace(finding, ways_out=ways)


def opened(inputs: Inputs, id: str) -> Opened:
    """Ways out of one finding, and its margin drawn at random; nothing for one that is not
    there.
    """
    answered = evaluate_all(inputs)
    if id not in answered:
        return Opened(ways=(), sampled=None)
    check, finding = answered[id]
    drawn = sample(check, inputs) if check.monte_carlo and finding.margin is not None else None
    ways = _with_ways(finding, check, inputs, answered).ways_out
    return Opened(ways=ways, sampled=drawn)


def counted(verdicts: Iterable[Verdict]) -> Tally:
    """How many verdicts of each kind there are."""
    counts: dict[str, int] = {}
    for verdict in verdicts:
        counts[verdict.value] = counts.get(verdict.value, 0) + 1
    return Tally(**counts)


def asked(inputs: Inputs) -> tuple[str, ...]:
    """Dimensions, choices and questions that are asked under the choices of the build; a dimension
    only where a question that is asked has it in its ledger.
    """

    def make() -> tuple[str, ...]:
        options = {key: inputs.options.get(key, "") for key in OPTIONS}
        questions = [key for key, question in QUESTIONS.items() if question.when(inputs)]
        in_ledgers = dict.fromkeys(key for q in questions for key in LEDGERS[q])
        out = ruled_out(inputs.build, "size")
        dimensions = [
            key for key in in_ledgers if key not in out and holds(DIMENSIONS[key].when, options)
        ]
        choices = [key for key, option in OPTIONS.items() if holds(option.when, options)]
        return (*dimensions, *choices, *questions)

    return inputs.once("asked", make)


def tally(findings: Sequence[Finding], unsaid: int) -> dict[Station, Tally]:
    """Verdicts counted by station; the first counts the dimensions of the whole build that are
    missing too.
    """
    found = {s: counted(f.verdict for f in findings if f.station == s) for s in Station}
    first = next(iter(Station))
    found[first] = replace(found[first], unmeasured=found[first].unmeasured + unsaid)
    return found


def assess(build: Build, ways: Collection[str] | None = None, today: str = "") -> Assessment:
    """All findings of a build; see :func:`assess_inputs`."""
    return assess_inputs(resolve(build), ways, today)


def assess_inputs(
    inputs: Inputs, ways: Collection[str] | None = None, today: str = ""
) -> Assessment:
    """All findings of a build whose inputs are resolved.

    Parameters
    ----------
    inputs : Inputs
        What stands; entries that cannot be read count as unmeasured and say why.
    ways : collection of finding ids, optional
        Findings whose ways out are wanted; all of them when left out. A trial wants only those that
        are open.
    today : str, ISO 8601 date
        What waivers are held against; without it none holds.

    Returns
    -------
    Assessment
        Findings with ways out, every quantity as it stands, and what to measure next.
    """
    questions = QUESTIONS.values()
    answered = evaluate_all(inputs)
    findings = [f for q in questions if q.first for f in _notices(q, inputs)]
    for check, finding in answered.values():
        if ways is None or finding.id in ways:
            finding = _with_ways(finding, check, inputs, answered)
        findings.append(_waived(finding, inputs, today))
    findings += [
        _waived(f, inputs, today) for q in questions if not q.first for f in _notices(q, inputs)
    ]
    opens = tuple(item for q in questions for item in _opens(q, inputs))
    seen = Seen(findings=findings, opens=opens, today=today)
    findings += [_waived(f, inputs, today) for q in questions for f in _concluded(q, inputs, seen)]
    order = list(Station)
    findings.sort(key=lambda f: order.index(f.station))
    on, standing = asked(inputs), inputs.standing()
    unsaid = sum(standing[key].value is None for key in on if key in DIMENSIONS)
    return Assessment(
        findings=tuple(findings),
        quantities=standing,
        next=measure_next(findings, inputs),
        tallies=tally(findings, unsaid),
        by_question={
            key: counted(f.verdict for f in findings if f.question == key) for key in QUESTIONS
        },
        asked=on,
        opens=opens,
    )


def _opens(question: Question, inputs: Inputs) -> tuple[OpenItem, ...]:
    return inputs.once(("opens", question.key), lambda: tuple(question.opens(inputs)))


def _concluded(question: Question, inputs: Inputs, seen: Seen) -> tuple[Finding, ...]:
    also = (tuple(seen.findings), seen.opens, seen.today)
    key = ("concluded", question.key)
    return inputs.once(key, lambda: tuple(question.concludes(inputs, seen)), also)


def orders(inputs: Inputs) -> tuple[Reading, ...]:
    """Everything that is ordered or cut to a length, in the order of the trade."""

    def of(question: Question) -> tuple[Reading, ...]:
        make: Callable[[], Any] = lambda: (  # noqa: E731
            tuple(question.orders(inputs)) if question.when(inputs) else ()
        )
        return inputs.once(("orders", question.key), make)

    return tuple(reading for q in QUESTIONS.values() for reading in of(q))


def worst_first(findings: Iterable[Finding]) -> list[Finding]:
    """Fouls, tight, unmeasured, goes; within a verdict the smallest margin left after its doubt
    first.
    """
    return sorted(findings, key=lambda f: (SEVERITY[f.verdict], (f.margin or 0.0) - (f.u or 0.0)))
