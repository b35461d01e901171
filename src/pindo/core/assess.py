"""assess(build): every station's checks in the order of the trade, and what to do next.

One bad or missing input never stops the other findings.
"""

from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, replace

from pindo.core.assemble import fasteners, steps
from pindo.core.build import Build
from pindo.core.check import Check
from pindo.core.clear import checks as clear
from pindo.core.dimensions import DIMENSIONS, LEDGERS, Station, applies
from pindo.core.evaluate import evaluate
from pindo.core.frames import POSE
from pindo.core.line import checks as line
from pindo.core.log import checks as log
from pindo.core.mate import checks as mate
from pindo.core.resolve import Inputs, Resolved, letter_at, resolve
from pindo.core.seat import checks as seat
from pindo.core.stack import checks as stack
from pindo.core.units import write
from pindo.core.verdict import SEVERITY, Finding, Missing, Sentence, Verdict, WayOut
from pindo.core.ways import Settle, measure_next, ways_out

STATION_CHECKS: Mapping[Station, Callable[[Inputs], Iterable[Check]]] = {
    Station.MATE: mate.checks,
    Station.STACK: stack.checks,
    Station.SEAT: seat.checks,
    Station.LINE: line.checks,
    Station.CLEAR: clear.checks,
    Station.ASSEMBLE: fasteners.checks,
}
STATION_NOTICES: Mapping[Station, Callable[[Inputs], Iterable[Finding]]] = {Station.SEAT: seat.notices, Station.LINE: line.notices, Station.CLEAR: clear.notices, Station.LOG: log.notices}
CLUTCHED = frozenset({Station.MATE, Station.STACK})
"""Stations that ask nothing of a build without a bellhousing."""

REMADE = {key: (frozenset({Station.MATE}), mate.clocked_checks) for key in mate.GEOMETRY_KEYS} | {key: (frozenset({Station.CLEAR}), clear.checks) for key in POSE}


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
    """Every dimension of the catalogue and every number of the faces, as it stands."""
    next: tuple[Settle, ...]
    """Measure next, most settling first."""
    tallies: Mapping[Station, Tally]


def all_checks(inputs: Inputs) -> list[Check]:
    """The checks of every station, in the order of the trade."""
    asked = [s for s in Station if s in STATION_CHECKS and not (s in CLUTCHED and inputs.options.get("coupling") == "centrifugal clutch")]
    return [check for station in asked for check in STATION_CHECKS[station](inputs)]


def contradictions(inputs: Inputs) -> Iterable[Finding]:
    """One finding for each dimension of which two statements cannot both hold."""
    for key, found in inputs.quantities.items():
        if found.conflict is None:
            continue
        definition = DIMENSIONS[key]
        first, second = (next(s for s in inputs.build.dims[key].statements if s.id == id) for id in found.conflict)
        texts = [f"{s.takes[-1].typed} ({s.source.value})" for s in (first, second)]
        meanwhile = f"; meanwhile the safer stands: {write(found.value, found.kind)}" if found.value is not None else ""
        text = f"{definition.name} is said twice: {texts[0]} and {texts[1]} cannot both hold{meanwhile}"
        yield Finding(
            id=f"contradiction.{key}",
            station=definition.station,
            title=f"{definition.name}, two statements",
            verdict=Verdict.UNMEASURED,
            condition="contradiction",
            kind=definition.kind,
            sentence=Sentence(mm=text, inch=text),
            why="Two statements of one size that cannot both be true: one of them is another part, another state or a slip. Choose one with its source, or measure again.",
            provisional=found.provisional,
            missing=(Missing(address=key, name=definition.name, letter=letter_at(definition.station, key), status="contradiction", detail=" / ".join(texts)),),
            inputs=(key,),
        )


def _evaluate_safely(check: Check, inputs: Inputs) -> Finding:
    try:
        return evaluate(check, inputs)
    except (ArithmeticError, ValueError) as error:
        # A formula outside its domain is a finding like any other; the rest of the build must still be read.
        text = f"{check.title}: the figures cannot be true together ({error})"
        return Finding(id=check.id, station=check.station, title=check.title, verdict=Verdict.UNMEASURED, kind=check.kind, sentence=Sentence(mm=text, inch=text), why=check.why)


def evaluate_all(inputs: Inputs) -> dict[str, tuple[Check, Finding]]:
    """Every check with its finding, without what to do about it."""
    return {check.id: (check, _evaluate_safely(check, inputs)) for check in all_checks(inputs)}


def _waived(finding: Finding, inputs: Inputs) -> Finding:
    waiver = inputs.build.waivers.get(finding.id)
    if waiver is None or finding.verdict == Verdict.GOES:
        return finding
    return replace(finding, waived_by=f"{waiver.who}, until {waiver.until}: {waiver.reason}")


def _with_ways(finding: Finding, check: Check, inputs: Inputs, answered: Mapping[str, tuple[Check, Finding]]) -> Finding:
    if finding.verdict not in (Verdict.FOULS, Verdict.TIGHT):
        return finding
    return replace(finding, ways_out=ways_out(check, finding, inputs, answered, REMADE))


def ways_of(inputs: Inputs, id: str) -> tuple[WayOut, ...]:
    """Ways out of one finding; empty for one that is not there or goes."""
    answered = evaluate_all(inputs)
    if id not in answered:
        return ()
    check, finding = answered[id]
    return _with_ways(finding, check, inputs, answered).ways_out


def tally(findings: Iterable[Finding]) -> dict[Station, Tally]:
    """Verdicts counted by station; Survey counts the dimensions of the whole build that are missing."""
    counts: dict[Station, dict[str, int]] = {station: {} for station in Station}
    for finding in findings:
        row = counts[finding.station]
        row[finding.verdict.value] = row.get(finding.verdict.value, 0) + 1
    return {station: Tally(**row) for station, row in counts.items()}


def assess(build: Build, ways: Collection[str] | None = None) -> Assessment:
    """All findings of a build; see :func:`assess_inputs`."""
    return assess_inputs(resolve(build), ways)


def assess_inputs(inputs: Inputs, ways: Collection[str] | None = None) -> Assessment:
    """All findings of a build whose inputs are resolved.

    Parameters
    ----------
    inputs : Inputs
        What stands; entries that cannot be read count as unmeasured and say why.
    ways : collection of finding ids, optional
        Findings whose ways out are wanted; all of them when left out. A trial wants only those that are open.

    Returns
    -------
    Assessment
        Findings with ways out, every quantity as it stands, and what to measure next.
    """
    build = inputs.build
    answered = evaluate_all(inputs)
    findings = [*contradictions(inputs), *(_waived(f, inputs) for _, f in answered.values())]
    findings = [_with_ways(f, answered[f.id][0], inputs, answered) if f.id in answered and (ways is None or f.id in ways) else f for f in findings]
    findings += [_waived(f, inputs) for station in STATION_NOTICES for f in STATION_NOTICES[station](inputs)]
    findings += [_waived(f, inputs) for f in steps.notices(build, findings)]
    order = list(Station)
    findings.sort(key=lambda f: order.index(f.station))
    asked = {key for ledger in LEDGERS.values() for key in ledger if applies(DIMENSIONS[key], build.options)}
    tallies = tally(findings)
    missing = sum(inputs.quantities[key].value is None for key in asked)
    tallies[Station.SURVEY] = replace(tallies[Station.SURVEY], unmeasured=tallies[Station.SURVEY].unmeasured + missing)
    return Assessment(findings=tuple(findings), quantities=inputs.quantities, next=measure_next(findings, inputs), tallies=tallies)


def worst_first(findings: Iterable[Finding]) -> list[Finding]:
    """Fouls, tight, unmeasured, goes; within a verdict the smallest margin left after its doubt first."""
    return sorted(findings, key=lambda f: (SEVERITY[f.verdict], (f.margin or 0.0) - (f.u or 0.0)))
