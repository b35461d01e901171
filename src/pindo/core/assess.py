"""assess(build): every station's checks in the order of the trade, and what to do next.

One bad or missing input never stops the other findings.
"""

import logging
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType

from pindo.core import plain
from pindo.core.assemble import fasteners, steps
from pindo.core.build import Build
from pindo.core.check import Check
from pindo.core.clear import checks as clear
from pindo.core.dimensions import DIMENSIONS, LEDGERS, Station, applies
from pindo.core.evaluate import evaluate
from pindo.core.evidence import refused_state
from pindo.core.frames import POSE
from pindo.core.line import checks as line
from pindo.core.log import checks as log
from pindo.core.mate import checks as mate
from pindo.core.notice import notice
from pindo.core.ranges import TOGETHER
from pindo.core.resolve import Inputs, Resolved, Status, letter_at, resolve
from pindo.core.seat import checks as seat
from pindo.core.stack import checks as stack
from pindo.core.uncertainty import sample
from pindo.core.units import write
from pindo.core.verdict import SEVERITY, Finding, Missing, Sampled, Verdict, WayOut
from pindo.core.ways import Settle, measure_next, ways_out

STATION_CHECKS: Mapping[Station, Callable[[Inputs], Iterable[Check]]] = {
    Station.MATE: mate.checks,
    Station.STACK: stack.checks,
    Station.SEAT: seat.checks,
    Station.LINE: line.checks,
    Station.CLEAR: clear.checks,
    Station.ASSEMBLE: fasteners.checks,
}
STATION_NOTICES: Mapping[Station, Callable[[Inputs], Iterable[Finding]]] = {
    Station.MATE: mate.notices,
    Station.SEAT: seat.notices,
    Station.LINE: line.notices,
    Station.CLEAR: clear.notices,
    Station.ASSEMBLE: fasteners.notices,
    Station.LOG: log.notices,
}
CLUTCHED = frozenset({Station.MATE, Station.STACK})
"""Stations that ask nothing of a build without a bellhousing."""

_MOVES = frozenset({Station.SEAT, Station.LINE, Station.CLEAR})
REMADE: Mapping[str, frozenset[Station]] = MappingProxyType(
    dict.fromkeys(mate.GEOMETRY_KEYS, frozenset({Station.MATE})) | dict.fromkeys(POSE, _MOVES) | dict.fromkeys(("plate_mm", "separator_mm"), frozenset({Station.CLEAR}))
)
"""Dimensions that decide which checks a station has at all (hole pairs, tight pairs, readings that no longer stand)."""

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
    """Every dimension of the catalogue and every number of the faces, as it stands."""
    next: tuple[Settle, ...]
    """Measure next, most settling first."""
    tallies: Mapping[Station, Tally]


@dataclass(frozen=True, kw_only=True)
class Opened:
    """What is worked out when a finding is opened: it takes longer than all findings together."""

    ways: tuple[WayOut, ...]
    sampled: Sampled | None


def read_instead(check: Check, readings: Mapping[str, Resolved]) -> Check:
    """The check over a gap as it was read at a trial fit, where one holds in a state that the check accepts: the reading wins."""
    found = readings.get(check.id)
    if found is None or check.kind != "length" or refused_state(found.state, check.accepts):
        return check
    where = f" (read: {found.name.rpartition(' at ')[2]})".replace("{", "{{").replace("}", "}}")
    return replace(check, value=plain.given, reads=(), bind=MappingProxyType({**check.bind, "x": found.address}), says=check.says + where, fouls=check.fouls and check.fouls + where)


def fit_readings(inputs: Inputs) -> dict[str, Resolved]:
    """The last reading that holds of each finding that was read at a trial fit."""
    return {
        gap.finding: inputs.quantities[address]
        for fit in inputs.build.fits
        for i, gap in enumerate(fit.gaps)
        if gap.finding and gap.kind == "gap" and (address := f"fits.{fit.n}.{i}") in inputs.quantities and inputs.quantities[address].value is not None
    }


def _asked(inputs: Inputs, stations: Collection[Station]) -> list[Station]:
    """Those of some stations that ask anything of this build, in the order of the trade."""
    return [s for s in Station if s in stations and not (s in CLUTCHED and inputs.options.get("coupling") == "centrifugal clutch")]


def checks_of(inputs: Inputs, stations: Collection[Station]) -> list[Check]:
    """The checks of some stations, in the order of the trade, with what was read in place of what is computed."""
    asked = [s for s in _asked(inputs, stations) if s in STATION_CHECKS]
    readings = fit_readings(inputs)
    return [read_instead(check, readings) for station in asked for check in STATION_CHECKS[station](inputs)]


def all_checks(inputs: Inputs) -> list[Check]:
    """The checks of every station, in the order of the trade."""
    return checks_of(inputs, tuple(Station))


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
        yield replace(
            notice(f"contradiction.{key}", "survey.said", f"{definition.name}, two statements", Verdict.UNMEASURED, text, condition="contradiction", inputs=(key,)),
            station=definition.station,
            kind=definition.kind,
            why="Two statements of one size that cannot both be true: one of them is another part, another state or a slip. Choose one with its source, or measure again.",
            provisional=found.provisional,
            missing=(Missing(address=key, name=definition.name, letter=letter_at(definition.station, key), status="contradiction", detail=" / ".join(texts)),),
        )


_WHY_ASKED = "A slip of the point, the other unit or the neighbour's size reads like this. Type it again, or say that it is so; until then it counts for nothing."


def questions(inputs: Inputs) -> Iterable[Finding]:
    """One finding for each size that can hardly be, and for each set of sizes that can hardly hold together."""
    told: set[str] = set()
    for rule in TOGETHER:
        odd = [inputs.quantities[a] for a in rule.reads]
        if all(q.status == Status.QUESTION and q.detail == rule.asks for q in odd):
            told |= set(rule.reads)
            sizes = "; ".join(f"{q.name.lower()} {write(q.asked or 0.0, q.kind)}" for q in odd)
            missing = tuple(Missing(address=q.address, name=q.name, letter=letter_at(DIMENSIONS[q.address].station, q.address), status="question", detail=rule.asks) for q in odd)
            found = notice(
                f"question.{rule.key}",
                "survey.said",
                "Sizes that can hardly hold together",
                Verdict.UNMEASURED,
                f"{rule.asks}: {sizes}",
                why=_WHY_ASKED,
                condition="question",
                missing=missing,
                inputs=rule.reads,
            )
            yield replace(found, station=DIMENSIONS[rule.reads[0]].station, sure_at=f"/sure/{rule.key}")
    for key, d in DIMENSIONS.items():
        q = inputs.quantities[key]
        if q.status == Status.QUESTION and key not in told and q.asked is not None:
            missing = (Missing(address=key, name=d.name, letter=letter_at(d.station, key), status="question", detail=q.detail),)
            found = notice(
                f"question.{key}",
                "survey.said",
                f"{d.name}: can that be?",
                Verdict.UNMEASURED,
                f"{d.name} reads {write(q.asked, q.kind)}: can that be? {q.detail[:1].upper() + q.detail[1:]}",
                why=_WHY_ASKED,
                condition="question",
                missing=missing,
                inputs=(key,),
            )
            yield replace(found, station=d.station, sure_at=f"/dims/{key}/sure")


def _evaluate_safely(check: Check, inputs: Inputs) -> Finding:
    try:
        return evaluate(check, inputs)
    except (ArithmeticError, ValueError) as error:
        # A formula outside its domain is a finding like any other; the rest of the build must still be read.
        return notice(check.id, check.question, check.title, Verdict.UNMEASURED, f"{check.title}: the figures cannot be true together ({error})", why=check.why)
    except Exception:
        # A fault of Pindo's own never reads as goes and never shuts the build: it names itself, and the log has its trace.
        trace_log.exception("check %s failed", check.id)
        return notice(check.id, check.question, check.title, Verdict.UNMEASURED, f"{check.title}: Pindo failed here; the trace is in its log", why=check.why)


def evaluate_all(inputs: Inputs) -> dict[str, tuple[Check, Finding]]:
    """Every check with its finding, without what to do about it."""
    return {check.id: (check, _evaluate_safely(check, inputs)) for check in all_checks(inputs)}


def _waived(finding: Finding, inputs: Inputs, today: str) -> Finding:
    """A waiver holds until its date and no longer; without a date to hold it against it does not hold."""
    waiver = inputs.build.waivers.get(finding.id)
    if waiver is None or finding.verdict == Verdict.GOES:
        return finding
    words = f"{waiver.who}, until {waiver.until}: {waiver.reason}"
    return replace(finding, waived_by=words) if today and today <= waiver.until else replace(finding, waiver_ended=words)


def _with_ways(finding: Finding, check: Check, inputs: Inputs, answered: Mapping[str, tuple[Check, Finding]]) -> Finding:
    if finding.verdict not in (Verdict.FOULS, Verdict.TIGHT):
        return finding
    return replace(finding, ways_out=ways_out(check, finding, inputs, answered, REMADE, checks_of))


def opened(inputs: Inputs, id: str) -> Opened:
    """Ways out of one finding, and its margin drawn at random; nothing for one that is not there."""
    answered = evaluate_all(inputs)
    if id not in answered:
        return Opened(ways=(), sampled=None)
    check, finding = answered[id]
    return Opened(ways=_with_ways(finding, check, inputs, answered).ways_out, sampled=sample(check, inputs) if check.monte_carlo and finding.margin is not None else None)


def tally(findings: Iterable[Finding]) -> dict[Station, Tally]:
    """Verdicts counted by station; Survey counts the dimensions of the whole build that are missing."""
    counts: dict[Station, dict[str, int]] = {station: {} for station in Station}
    for finding in findings:
        row = counts[finding.station]
        row[finding.verdict.value] = row.get(finding.verdict.value, 0) + 1
    return {station: Tally(**row) for station, row in counts.items()}


def assess(build: Build, ways: Collection[str] | None = None, today: str = "") -> Assessment:
    """All findings of a build; see :func:`assess_inputs`."""
    return assess_inputs(resolve(build), ways, today)


def assess_inputs(inputs: Inputs, ways: Collection[str] | None = None, today: str = "") -> Assessment:
    """All findings of a build whose inputs are resolved.

    Parameters
    ----------
    inputs : Inputs
        What stands; entries that cannot be read count as unmeasured and say why.
    ways : collection of finding ids, optional
        Findings whose ways out are wanted; all of them when left out. A trial wants only those that are open.
    today : str, ISO 8601 date
        What waivers are held against; without it none holds.

    Returns
    -------
    Assessment
        Findings with ways out, every quantity as it stands, and what to measure next.
    """
    build = inputs.build
    answered = evaluate_all(inputs)
    findings = [*contradictions(inputs), *questions(inputs), *(_waived(f, inputs, today) for _, f in answered.values())]
    findings = [_with_ways(f, answered[f.id][0], inputs, answered) if f.id in answered and (ways is None or f.id in ways) else f for f in findings]
    findings += [_waived(f, inputs, today) for station in _asked(inputs, STATION_NOTICES) for f in STATION_NOTICES[station](inputs)]
    findings += [_waived(f, inputs, today) for f in steps.notices(inputs, findings, today)]
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
