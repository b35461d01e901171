"""The graph of steps: what can be done today, what waits, which hold points are shut and by what."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache

from pindo.core.build import Build
from pindo.core.dimensions import Station
from pindo.core.notice import notice
from pindo.core.rows import GATES, Step
from pindo.core.verdict import Finding, Verdict

TIGHT_ENOUGH = frozenset({"torqued", "marked"})
MOST_NAMED = 6


@dataclass(frozen=True, kw_only=True)
class StepState:
    """Where a step stands: done, left out, can do, waits, blocked."""

    n: int
    status: str
    waits_for: tuple[int, ...]
    no_hold: tuple[int, ...]
    """Of those, the steps that would give the hold to tighten against."""
    blocked_by: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class OpenItem:
    """Something loose, temporary, looped, plugged or unproved, and the gate that it blocks."""

    kind: str
    text: str
    gate: str


def open_items(build: Build) -> list[OpenItem]:
    """Everything that is for now, with the first gate that it blocks."""
    found = [OpenItem(kind=p.kind, text=p.name or p.kind, gate=p.blocks or "hand-over") for p in build.provisional if p.state == "open"]
    found += [OpenItem(kind="joint", text=f"{j.name or f'joint {j.n}'}: {j.state}", gate="hand-over") for j in build.joints if j.state not in TIGHT_ENOUGH]
    found += [OpenItem(kind="single use", text=f"{j.name or f'joint {j.n}'}: spent single-use screws", gate="start") for j in build.joints if j.single_use == "spent"]
    found += [OpenItem(kind="part", text=f"{p.name or f'part {p.n}'}: {p.state}", gate="hand-over") for p in build.parts if p.state in ("dummy", "mock-up", "temporary")]
    found += [OpenItem(kind="modification", text=f"{m.name or f'modification {m.n}'}: structural, not inspected", gate="motion") for m in build.modifications if m.structural and m.state == "made"]
    return found


def blocks(item: OpenItem, gate: str) -> bool:
    """Whether an open item shuts a gate: its own and every later one."""
    return gate in GATES and item.gate in GATES and GATES.index(item.gate) <= GATES.index(gate)


def _shut_by(step: Step, findings: Iterable[Finding], items: Iterable[OpenItem]) -> tuple[str, ...]:
    names = [i.text for i in items if step.gate and blocks(i, step.gate)]
    # A foul stops any step that rests on it; what is unmeasured stops only a hold point or a gate.
    stopping = (Verdict.FOULS, Verdict.UNMEASURED) if step.hold or step.gate else (Verdict.FOULS,)
    names += [f"{f.title} {'fouls' if f.verdict == Verdict.FOULS else f.condition or 'unmeasured'}" for f in findings if f.station in step.stations and f.verdict in stopping]
    return tuple(names)


def step_states(build: Build, findings: Iterable[Finding]) -> list[StepState]:
    """Each step's state. A step waits for what it needs and for what holds it, and may not bury what is unfinished."""
    findings = [f for f in findings if f.verdict in (Verdict.FOULS, Verdict.UNMEASURED) and not f.waived_by]
    items = open_items(build)
    state = {s.n: s.state for s in build.steps}
    found = []
    for step in build.steps:
        loose = tuple(n for n in step.needs_hold if state.get(n, "done") == "open")
        waits = (*(n for n in step.needs if state.get(n, "done") == "open" and n not in loose), *loose)
        buries = tuple(n for n in step.hides if state.get(n, "done") == "open" and n not in waits)
        shut = _shut_by(step, findings, items) + tuple(f"would bury step {n}" for n in buries)
        status: str = step.state
        if step.state == "open":
            status = "waits" if waits else "blocked" if shut else "can do"
        found.append(StepState(n=step.n, status=status, waits_for=waits, no_hold=loose, blocked_by=shut))
    return found


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


def _words(names: tuple[str, ...]) -> str:
    shown = "; ".join(names[:MOST_NAMED])
    return shown + (f"; and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else "")


def notices(build: Build, findings: Iterable[Finding]) -> Iterator[Finding]:
    """Hold points and gates that are shut, steps done too early, rings, loose joints."""
    findings = list(findings)
    if not build.steps:
        yield notice(
            "assemble.steps", Station.ASSEMBLE, "Steps", Verdict.UNMEASURED, "Steps: choose the kind of build and lay them out", why="The order comes from what must be reached, proved or held first."
        )
        return
    if ring := cycle(build):
        yield notice(
            "assemble.ring", Station.ASSEMBLE, "Steps in a ring", Verdict.FOULS, f"Steps {', '.join(map(str, ring))} wait for one another", why="None of them can ever be begun. Take one need out."
        )
    names: Mapping[int, Step] = {s.n: s for s in build.steps}
    for s in build.steps:
        unknown = [n for n in befores(s) if n not in names]
        if unknown:
            yield notice(f"assemble.unknown.{s.n}", Station.ASSEMBLE, f"Step {s.n}, links", Verdict.UNMEASURED, f"Step {s.n} names step {unknown[0]}, which is not there")
        early = [n for n in befores(s) if s.state == "done" and names.get(n) and names[n].state == "open"]
        if early:
            yield notice(
                f"assemble.early.{s.n}",
                Station.ASSEMBLE,
                f"Step {s.n} done early",
                Verdict.FOULS,
                f"Step {s.n} is done, but step {early[0]}, {names[early[0]].name}, was to come first",
                why="What it hid or relied on has not been proved.",
            )
        if s.state == "done" and s.asks and not s.as_built:
            yield notice(
                f"assemble.asks.{s.n}",
                Station.ASSEMBLE,
                f"Step {s.n}, as built",
                Verdict.UNMEASURED,
                f"Step {s.n} is done; as built is not written: {s.asks}",
                why="What is not written down cannot be repeated.",
            )
    for state in step_states(build, findings):
        s = names[state.n]
        if (s.hold or s.gate) and s.state == "open" and state.blocked_by:
            kind = f"Gate to {s.gate}" if s.gate else "Hold point"
            text = f"{kind}, step {s.n}: {_words(state.blocked_by)}"
            yield notice(f"assemble.hold.{s.n}", Station.ASSEMBLE, f"{kind}, {s.name}", Verdict.UNMEASURED, text, why="Nothing goes on before it is signed.", condition="blocked", caution=s.caution)
        elif s.hold and s.state == "done" and state.blocked_by:
            text = f"Hold point {s.n} was passed, and now stands against it: {_words(state.blocked_by)}"
            yield notice(f"assemble.passed.{s.n}", Station.ASSEMBLE, f"Hold point {s.n} passed", Verdict.TIGHT, text, why="Something changed since it was signed: look again before building on it.")
