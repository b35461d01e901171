"""The graph of steps: what can be done today, what waits, which hold points are shut and by
what.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from pindo.core.document.build import Build
from pindo.core.document.records import Step
from pindo.core.drawing.board import Against, Board, Reading, RowState
from pindo.core.inputs.couplings import coupling
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.versions import steps_ruled_out
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.assemble.obstacles import Obstacles, grouped
from pindo.core.stations.assemble.templates import OTHERWISE

STEPS = "assemble.steps"


@dataclass(frozen=True, kw_only=True)
class StepState:
    """Where a step stands: done, left out, can do, waits, blocked."""

    n: int
    status: str
    waits_for: tuple[int, ...]
    no_hold: tuple[int, ...]
    """Of those, the steps that would give the hold to tighten against."""
    blocked_by: tuple[Against, ...]


def leaves_out(step: Step, today: str) -> bool:
    """Whether a step counts as left out by name, reason and date; without a date to hold its end
    against it does not.
    """
    return step.state == "left out" and bool(
        step.by and step.reason and step.until and today and today <= step.until
    )


def satisfied(step: Step, today: str) -> bool:
    """Whether what comes after may go on: it is done, or it is optional and left out as it has
    to be.
    """
    return step.state == "done" or (step.optional and leaves_out(step, today))


def step_states(inputs: Inputs, seen: Seen) -> list[StepState]:
    """Each step's state. A step waits for what it needs and for what holds it, and may not bury
    what is unfinished.

    ``seen`` holds all that is said of the build, findings with their waivers.
    """
    build = inputs.build
    obstacles = Obstacles(build, seen)
    steps = {s.n: s for s in build.steps}

    out = steps_ruled_out(build)

    def missing(n: int) -> bool:
        return n in steps and n not in out and not satisfied(steps[n], seen.today)

    found = []
    for step in build.steps:
        loose = tuple(n for n in step.needs_hold if missing(n))
        waits = (*(n for n in step.needs if missing(n) and n not in loose), *loose)
        buries = tuple(n for n in step.hides if missing(n) and n not in waits)
        shut = obstacles.of(step) + tuple(
            Against(
                todo="do first",
                text=f"would close the way to {called(steps[n])}",
                row=f"steps.{n}",
            )
            for n in buries
        )
        status: str = step.state
        if step.state == "open":
            status = "waits" if waits else "blocked" if shut else "can do"
            if step.n in out:
                status = "does not apply"
        found.append(
            StepState(n=step.n, status=status, waits_for=waits, no_hold=loose, blocked_by=shut)
        )
    return found


def called(step: Step) -> str:
    """A step by its name, as a person speaks of it."""
    return f"“{step.name}”" if step.name else f"step {step.n}"


def befores(step: Step) -> tuple[int, ...]:
    """Steps that come before this one: what it needs, what holds it, what it would bury."""
    return (*step.needs, *step.needs_hold, *step.hides)


def cycle(build: Build) -> list[int]:
    """Steps that wait for one another in a ring; empty when there is none."""
    return list(_ring(tuple((before, s.n) for s in build.steps for before in befores(s))))


@lru_cache(maxsize=64)
def _ring(links: tuple[tuple[int, int], ...]) -> tuple[int, ...]:
    import networkx  # slow to import, wanted only here

    try:
        return tuple(int(a) for a, _ in networkx.find_cycle(networkx.DiGraph(links)))
    except networkx.NetworkXNoCycle:
        return ()


def _of_step(
    s: Step, names: Mapping[int, Step], today: str, out: frozenset[int]
) -> Iterator[Finding]:
    """What a step itself leaves open: links to nothing, done early, left out, not written down."""
    unknown = [n for n in befores(s) if n not in names]
    if unknown:
        yield notice(
            f"assemble.unknown.{s.n}",
            STEPS,
            f"Step {s.n}, links",
            Verdict.UNMEASURED,
            f"{called(s)} names step {unknown[0]}, which is not there",
        )
    early = [
        n
        for n in befores(s)
        if s.state == "done" and n in names and n not in out and not satisfied(names[n], today)
    ]
    if early:
        told = f"; {s.by}: {s.reason}" if s.by and s.reason else ", and nobody has said why"
        text = f"{called(s)} is done, but {called(names[early[0]])} was to come first{told}"
        yield notice(
            f"assemble.early.{s.n}",
            STEPS,
            f"Step {s.n} done out of order",
            Verdict.FOULS if not (s.by and s.reason) else Verdict.TIGHT,
            text,
            why="What it hid or relied on has not been proved.",
        )
    if s.state == "left out":
        whole = leaves_out(s, today)
        ended = bool(s.until and today and today > s.until)
        wanting = ", ".join(
            w
            for w, said in (("a name", s.by), ("a reason", s.reason), ("an end", s.until))
            if not said
        )
        told = (
            f"its end, {s.until}, has passed"
            if ended
            else (
                f"{wanting} {'is' if ',' not in wanting else 'are'} wanting"
                if wanting
                else f"{s.by}, until {s.until}: {s.reason}"
            )
        )
        kind = "Hold point" if s.hold else "Step"
        yield notice(
            f"assemble.left_out.{s.n}",
            STEPS,
            f"Step {s.n} left out",
            Verdict.UNMEASURED,
            f"{kind} {s.n}, {s.name}, is left out; {told}",
            condition="left out" if whole else "",
            why=(
                "A step that is left out is a waiver: it stays in the hand-over, and only an"
                " optional one lets others go on."
            ),
            caution=s.caution,
        )
    if s.state == "done" and s.asks and not s.as_built:
        yield notice(
            f"assemble.asks.{s.n}",
            STEPS,
            f"Step {s.n}, as built",
            Verdict.UNMEASURED,
            f"{called(s)} is done; as built is not written: {s.asks}",
            why="What is not written down cannot be repeated.",
        )
    if s.state == "done" and s.hold and not s.by:
        yield notice(
            f"assemble.unsigned.{s.n}",
            STEPS,
            f"Hold point {s.n}, signature",
            Verdict.UNMEASURED,
            f"Hold point {s.n}, {s.name}, was passed without a name",
            why="A hold point is somebody's word.",
        )
    if s.lapsed is not None and s.state == "open":
        yield notice(
            f"assemble.again.{s.n}",
            STEPS,
            f"Step {s.n} again",
            Verdict.UNMEASURED,
            f"{called(s)} has to be passed again: {s.lapsed.event}",
            condition="lapsed",
            why="What it proved was touched since.",
            caution=s.caution,
        )


def _laid_out(inputs: Inputs) -> Iterator[Finding]:
    """Steps that were laid out for another kind of build, or another way in, than is said now."""
    for_what = inputs.build.laid_out
    if for_what is None:
        return
    now = (inputs.options.get("build_type"), inputs.options.get("way_in"))
    was = (for_what.kind, for_what.way)
    other = [(a, b) for a, b in zip(was, now, strict=True) if b and a != b]
    # Only a coupling that has steps of its own makes others of them.
    through = coupling(inputs)
    if OTHERWISE.get(for_what.coupling) != OTHERWISE.get(through):
        other.append((for_what.coupling or "a clutch", through or "a clutch"))
    if other:
        before, after = (", ".join(x) for x in zip(*other, strict=True))
        yield notice(
            "assemble.laid_out",
            STEPS,
            "Steps of another build",
            Verdict.UNMEASURED,
            f"The steps were laid out for: {before}. Said now: {after}. Lay the open ones out anew",
            why="What is lifted how, and what hides what, follows from it.",
        )


def concludes(inputs: Inputs, seen: Seen) -> Iterator[Finding]:
    """Hold points and gates that are shut, steps done out of order or left out, rings."""
    build = inputs.build
    if not build.steps:
        yield notice(
            "assemble.steps",
            STEPS,
            "Steps",
            Verdict.UNMEASURED,
            "Steps: choose the kind of build and lay them out",
            why="The order comes from what must be reached, proved or held first.",
        )
        return
    yield from _laid_out(inputs)
    if ring := cycle(build):
        yield notice(
            "assemble.ring",
            STEPS,
            "Steps in a ring",
            Verdict.FOULS,
            f"Steps {', '.join(map(str, ring))} wait for one another",
            why="None of them can ever be begun. Take one need out.",
        )
    names: Mapping[int, Step] = {s.n: s for s in build.steps}
    out = steps_ruled_out(build)
    for s in build.steps:
        yield from _of_step(s, names, seen.today, out)
    for state in step_states(inputs, seen):
        s = names[state.n]
        if (s.hold or s.gate) and s.state == "open" and state.blocked_by:
            kind = f"Gate to {s.gate}" if s.gate else "Hold point"
            text = f"{kind} {called(s)}: {grouped(state.blocked_by)}"
            yield notice(
                f"assemble.hold.{s.n}",
                STEPS,
                f"{kind}, {s.name}",
                Verdict.UNMEASURED,
                text,
                why="Nothing goes on before it is signed.",
                condition="blocked",
                caution=s.caution,
                row=f"steps.{s.n}",
            )
        elif s.hold and s.state == "done" and state.blocked_by:
            text = (
                f"Hold point {called(s)} was passed, and now stands against it:"
                f" {grouped(state.blocked_by)}"
            )
            yield notice(
                f"assemble.passed.{s.n}",
                STEPS,
                f"Hold point {s.n} passed",
                Verdict.TIGHT,
                text,
                why="Something changed since it was signed: look again before building on it.",
                row=f"steps.{s.n}",
            )


@dataclass(frozen=True, kw_only=True)
class HoldPoints:
    """Hold points counted for the hand-over."""

    passed: int
    open: int
    left_out: int
    waived: int
    """Passed or open while a finding that they watch is waived."""
    unmeasured: int
    """Those that watch something unmeasured."""


def hold_points(build: Build, findings: Sequence[Finding]) -> HoldPoints:
    """How the hold points of a build stand."""
    holds = [s for s in build.steps if s.hold or s.gate]
    of_waiver = [f for f in findings if f.waived_by]
    of_nothing = [f for f in findings if f.verdict == Verdict.UNMEASURED and not f.waived_by]
    named = {
        waived: {name for f in some for name in (f.question, f.id)}
        for waived, some in ((True, of_waiver), (False, of_nothing))
    }

    def watching(s: Step, waived: bool) -> bool:
        return not named[waived].isdisjoint(s.watches)

    return HoldPoints(
        passed=sum(s.state == "done" for s in holds),
        open=sum(s.state == "open" for s in holds),
        left_out=sum(s.state == "left out" for s in holds),
        waived=sum(watching(s, True) for s in holds),
        unmeasured=sum(watching(s, False) for s in holds),
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """How each step stands, and the hold points counted."""
    holds = hold_points(inputs.build, seen.findings)
    return Board(
        row_states=tuple(
            RowState(
                n=s.n,
                status=s.status,
                waits_for=s.waits_for,
                no_hold=s.no_hold,
                against=s.blocked_by,
            )
            for s in step_states(inputs, seen)
        ),
        readings=tuple(
            Reading(name=f"hold points {words}", value=float(count), kind="count")
            for words, count in (
                ("passed", holds.passed),
                ("open", holds.open),
                ("left out", holds.left_out),
                ("on a waiver", holds.waived),
                ("watching something unmeasured", holds.unmeasured),
            )
        ),
    )


QUESTION = Question(
    path="steps",
    station=Station.ASSEMBLE,
    name="Steps",
    asks="What can be done today, what waits, and what stands against each hold point?",
    lists=("steps",),
    concludes=concludes,
    board=board,
    sees_all=True,
)
