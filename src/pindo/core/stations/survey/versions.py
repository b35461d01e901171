"""Versions: what hangs on generation, revision and type, and which of them nobody knows yet."""

from collections.abc import Iterator
from dataclasses import replace

from pindo.core.document.build import Build
from pindo.core.document.parts import Variant
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.dimensions import DIMENSIONS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.versions import Ruled, rulings
from pindo.core.judging.notice import notice
from pindo.core.judging.question import QUESTIONS, Question, Seen
from pindo.core.judging.verdict import Finding, Verdict

KEY = "survey.versions"


def spoken_of(build: Build, target: str, which: str) -> str:
    """What a rule speaks of, as a person calls it; empty where there is no such thing."""
    if target == "size":
        return DIMENSIONS[which].name if which in DIMENSIONS else ""
    if target == "question":
        return QUESTIONS[which].name if which in QUESTIONS else ""
    rows = build.parts if target == "part" else build.steps
    row = next((r for r in rows if which == str(r.n)), None)
    return "" if row is None else row.name or f"{target} {which}"


def because(build: Build, rule: Variant) -> str:
    """The facts that a rule hangs on, in words."""
    names = {f.n: f.name or f"fact {f.n}" for f in build.facts}
    said = (f"{names.get(c.fact or 0, 'no fact')} {c.value}" for c in rule.when)
    return ", ".join(said) or "always"


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Facts that are not known, rules that say two things, rules that speak of nothing; and what a
    rule says of a question, there.
    """
    build = inputs.build
    waiting: dict[int, list[str]] = {}
    for (target, which), ruled in rulings(build).items():
        for n in ruled.waits_for:
            waiting.setdefault(n, []).append(spoken_of(build, target, which) or f"{target} {which}")
        yield from _of_rule(build, target, which, ruled)
    facts = {f.n: f for f in build.facts}
    for n, things in waiting.items():
        fact = facts.get(n)
        name = f"Fact {n}, which is in no row" if fact is None else fact.name or f"Fact {n}"
        how = f" ({fact.known_by})" if fact is not None and fact.known_by else ""
        more = f" and {len(things) - 4} more" if len(things) > 4 else ""
        yield notice(
            f"survey.fact.{n}",
            KEY,
            f"{name}, not known",
            Verdict.UNMEASURED,
            f"{name} is not known{how}; on it {'hangs' if len(things) == 1 else 'hang'}:"
            f" {', '.join(things[:4])}{more}",
            why="A family's rule misses the revision that is an exception: ask before it is cut.",
            row=f"facts.{n}" if fact is not None else "",
        )


def _of_rule(build: Build, target: str, which: str, ruled: Ruled) -> Iterator[Finding]:
    told = spoken_of(build, target, which)
    if not told:
        rule = next(v for v in build.variants if (v.target, v.which.strip()) == (target, which))
        yield notice(
            f"survey.rule.{rule.n}",
            KEY,
            f"Rule {rule.n}",
            Verdict.UNMEASURED,
            f"Rule {rule.n} speaks of {target} “{which[:60]}”, which is not there",
            row=f"variants.{rule.n}",
        )
    if ruled.against is not None:
        yield notice(
            f"survey.clash.{target}.{which}"[:80],
            KEY,
            f"{told or which}, two rules",
            Verdict.FOULS,
            f"Rule {ruled.against.n} and another as narrow say different things of {target}"
            f" {told or which}",
            why="Neither is the exception of the other: one of them wants one fact more.",
            row=f"variants.{ruled.against.n}",
        )
    if target == "question" and told and ruled.rule is not None:
        text = ruled.rule.says or f"it {ruled.rule.does}"
        said = notice(
            f"survey.says.{ruled.rule.n}",
            KEY,
            f"{told}, by rule {ruled.rule.n}",
            Verdict.TIGHT if ruled.rule.does == "is modified" else Verdict.GOES,
            f"{told}, by rule {ruled.rule.n} ({because(build, ruled.rule)}): {text}",
            why="A rule of your own; nothing that is found here is left out for it.",
            row=f"variants.{ruled.rule.n}",
        )
        yield replace(said, station=QUESTIONS[which].station)


def board(inputs: Inputs, seen: Seen) -> Board:
    """What holds: of every thing that rules speak of, what they say under the facts as they are."""
    build = inputs.build
    rows = []
    for (target, which), ruled in rulings(build).items():
        says = (
            f"{ruled.rule.does}{f': {ruled.rule.says}' if ruled.rule.says else ''}"
            if ruled.rule is not None
            else f"not known: fact {', '.join(map(str, ruled.waits_for))}"
            if ruled.waits_for
            else "two rules say different things"
            if ruled.against is not None
            else "no rule holds"
        )
        why = because(build, ruled.rule) if ruled.rule is not None else ""
        rows.append(TableRow(cells=(target, spoken_of(build, target, which) or which, says, why)))
    columns = (
        Column(key="of", label="of a"),
        Column(key="which", label="which"),
        Column(key="says", label="as the facts are"),
        Column(key="why", label="because"),
    )
    table = Table(key="rulings", title="What holds", columns=columns, rows=tuple(rows))
    return Board(tables=(table,) if rows else ())


QUESTION = Question(
    path="versions",
    station=Station.SURVEY,
    name="Versions",
    asks="Which generation, revision and type is it, and what hangs on that?",
    lists=("facts", "variants"),
    notices=notices,
    board=board,
)
