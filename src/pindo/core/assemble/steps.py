"""The graph of steps: what can be done today, what waits, which hold points are shut and by what."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from pindo.core.assemble.fasteners import torque_stands
from pindo.core.build import Build
from pindo.core.notice import notice
from pindo.core.questions import QUESTIONS
from pindo.core.resolve import Inputs
from pindo.core.rows import GATES, BoltedJoint, Gate, Provisional, Step
from pindo.core.verdict import Finding, Verdict

MOST_NAMED = 6
MOST_AGAINST = 60
LIFT, START, MOTION, HAND_OVER = GATES

GATE_OF_JOINT: Mapping[str, str] = MappingProxyType(
    {
        "lifting gear": LIFT, "rotating": START, "fuel": START, "oil or coolant": START, "steering": MOTION, "brakes": MOTION, "wheels": MOTION, "drive shaft": MOTION, "mounts": MOTION, "structure": MOTION,
        "other": HAND_OVER, "not said": LIFT,
    }
)  # fmt: skip
"""The first gate that a joint shuts while it is open or loose; one whose kind nobody has said may be any, so it shuts them all."""
MARKED_KINDS = frozenset({"rotating", "fuel", "steering", "brakes", "lifting gear"})
"""Joints that also want their mark: a torque that nobody can see was not proved."""
GATE_OF_ITEM: Mapping[str, str] = MappingProxyType({"wood": START, "uncertified part": START, "missing guard": START, "rag": START})
"""What shuts its gate whatever later one was chosen for it."""


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


def _earlier(a: str, b: str) -> str:
    return min(a, b, key=GATES.index)


def _item_gate(p: Provisional) -> str:
    chosen: Gate = p.blocks or "hand-over"
    return _earlier(chosen, GATE_OF_ITEM.get(p.kind, HAND_OVER))


def _joint_open(j: BoltedJoint, has_torque: bool) -> str:
    """Why a joint is still open; empty when it is not."""
    if j.state not in ("torqued", "marked"):
        return j.state
    if not has_torque:
        return f"{j.state}, but no torque with a source"
    if j.state == "torqued" and j.kind in MARKED_KINDS:
        return "torqued, not marked"
    return ""


def open_items(inputs: Inputs) -> list[OpenItem]:
    """Everything that is for now, with the first gate that it blocks."""
    build = inputs.build
    unsigned = [p for p in build.provisional if p.state == "open" or (p.state == "signed" and not (p.limit and p.by))]
    found = [OpenItem(kind=p.kind, text=p.name or p.kind, gate=_item_gate(p)) for p in unsigned]
    for j in build.joints:
        name = j.name or f"joint {j.n}"
        if words := _joint_open(j, torque_stands(inputs, j)):
            what = "" if j.kind != "not said" else "; what it holds is not said"
            found.append(OpenItem(kind="joint", text=f"{name}: {words}{what}", gate=GATE_OF_JOINT[j.kind]))
        if j.single_use == "spent":
            found.append(OpenItem(kind="single use", text=f"{name}: spent single-use screws", gate=START))
    for p in build.parts:
        if p.state in ("dummy", "mock-up", "temporary"):
            found.append(OpenItem(kind="part", text=f"{p.name or f'part {p.n}'}: {p.state}", gate=HAND_OVER if p.state == "temporary" else START))
    found += [OpenItem(kind="modification", text=f"{m.name or f'modification {m.n}'}: structural, not inspected", gate=MOTION) for m in build.modifications if m.structural and m.state == "made"]
    return found


def blocks(item: OpenItem, gate: str) -> bool:
    """Whether an open item shuts a gate: its own and every later one."""
    return gate in GATES and item.gate in GATES and GATES.index(item.gate) <= GATES.index(gate)


class _Against:
    """What may shut a step, looked up by what the step is: made once for all of them."""

    def __init__(self, build: Build, findings: Iterable[Finding], items: Iterable[OpenItem]) -> None:
        items = list(items)
        self.at_gate = {gate: [i.text for i in items if blocks(i, gate)] for gate in GATES}
        self.parts: dict[int, list[str]] = {}
        for p in build.parts:
            if p.step is not None and p.state in ("absent", "ordered"):
                self.parts.setdefault(p.step, []).append(f"{p.name or f'part {p.n}'} is {p.state}")
        self.findings = [f for f in findings if f.verdict in (Verdict.FOULS, Verdict.UNMEASURED) and not f.waived_by]
        self.known = {f.id for f in findings}

    def shut(self, step: Step) -> tuple[str, ...]:
        """What shuts a step: open items at its gate, parts that are not there, and what it watches."""
        names = [*self.at_gate.get(step.gate or "", ()), *self.parts.get(step.n, ())]
        # A foul stops any step that rests on it; what is unmeasured stops only a hold point or a gate.
        stopping = (Verdict.FOULS, Verdict.UNMEASURED) if step.hold or step.gate else (Verdict.FOULS,)
        watched = set(step.watches)
        names += [
            f"{f.title} {'fouls' if f.verdict == Verdict.FOULS else f.condition or 'unmeasured'}"
            for f in self.findings
            if watched and f.verdict in stopping and (f.question in watched or f.id in watched)
        ]
        # A watch on nothing would never shut: a slip of the pen must not open a gate.
        names += [f"it watches {w}, which is neither a question nor a finding here" for w in step.watches if w not in QUESTIONS and w not in self.known]
        return tuple(names) if len(names) <= MOST_AGAINST else (*names[:MOST_AGAINST], f"and {len(names) - MOST_AGAINST} more")


def leaves_out(step: Step, today: str) -> bool:
    """Whether a step counts as left out by name, reason and date; without a date to hold its end against it does not."""
    return step.state == "left out" and bool(step.by and step.reason and step.until and today and today <= step.until)


def satisfied(step: Step, today: str) -> bool:
    """Whether what comes after may go on: it is done, or it is optional and left out as it has to be."""
    return step.state == "done" or (step.optional and leaves_out(step, today))


def step_states(inputs: Inputs, findings: Iterable[Finding], today: str = "") -> list[StepState]:
    """Each step's state. A step waits for what it needs and for what holds it, and may not bury what is unfinished.

    Parameters
    ----------
    inputs, findings
        The build and all that is said of it; ``findings`` with their waivers.
    today : str, ISO 8601 date
        What ends of waivers are held against.
    """
    build = inputs.build
    findings = list(findings)
    against = _Against(build, findings, open_items(inputs))
    steps = {s.n: s for s in build.steps}

    def missing(n: int) -> bool:
        return n in steps and not satisfied(steps[n], today)

    found = []
    for step in build.steps:
        loose = tuple(n for n in step.needs_hold if missing(n))
        waits = (*(n for n in step.needs if missing(n) and n not in loose), *loose)
        buries = tuple(n for n in step.hides if missing(n) and n not in waits)
        shut = against.shut(step) + tuple(f"would bury step {n}" for n in buries)
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


STEPS = "assemble.steps"


def _of_step(s: Step, names: Mapping[int, Step], today: str) -> Iterator[Finding]:
    """What a step itself leaves open: links to nothing, done early, left out, not written down."""
    unknown = [n for n in befores(s) if n not in names]
    if unknown:
        yield notice(f"assemble.unknown.{s.n}", STEPS, f"Step {s.n}, links", Verdict.UNMEASURED, f"Step {s.n} names step {unknown[0]}, which is not there")
    early = [n for n in befores(s) if s.state == "done" and n in names and not satisfied(names[n], today)]
    if early:
        told = f"; {s.by}: {s.reason}" if s.by and s.reason else ", and nobody has said why"
        text = f"Step {s.n} is done, but step {early[0]}, {names[early[0]].name}, was to come first{told}"
        yield notice(
            f"assemble.early.{s.n}", STEPS, f"Step {s.n} done out of order", Verdict.FOULS if not (s.by and s.reason) else Verdict.TIGHT, text, why="What it hid or relied on has not been proved."
        )
    if s.state == "left out":
        whole = leaves_out(s, today)
        ended = bool(s.until and today and today > s.until)
        wanting = ", ".join(w for w, said in (("a name", s.by), ("a reason", s.reason), ("an end", s.until)) if not said)
        told = f"its end, {s.until}, has passed" if ended else f"{wanting} {'is' if ',' not in wanting else 'are'} wanting" if wanting else f"{s.by}, until {s.until}: {s.reason}"
        kind = "hold point " if s.hold else ""
        yield notice(
            f"assemble.left_out.{s.n}", STEPS, f"Step {s.n} left out", Verdict.UNMEASURED, f"{kind}{'step' if not kind else ''} {s.n}, {s.name}, is left out; {told}".strip().capitalize(), condition="left out" if whole else "",
            why="A step that is left out is a waiver: it stays in the hand-over, and only an optional one lets others go on.", caution=s.caution,
        )  # fmt: skip
    if s.state == "done" and s.asks and not s.as_built:
        yield notice(
            f"assemble.asks.{s.n}", STEPS, f"Step {s.n}, as built", Verdict.UNMEASURED, f"Step {s.n} is done; as built is not written: {s.asks}", why="What is not written down cannot be repeated."
        )
    if s.state == "done" and s.hold and not s.by:
        yield notice(
            f"assemble.unsigned.{s.n}", STEPS, f"Hold point {s.n}, signature", Verdict.UNMEASURED, f"Hold point {s.n}, {s.name}, was passed without a name", why="A hold point is somebody's word."
        )
    if s.lapsed is not None and s.state == "open":
        yield notice(
            f"assemble.again.{s.n}",
            STEPS,
            f"Step {s.n} again",
            Verdict.UNMEASURED,
            f"Step {s.n}, {s.name}, has to be passed again: {s.lapsed.event}",
            condition="lapsed",
            why="What it proved was touched since.",
            caution=s.caution,
        )


def notices(inputs: Inputs, findings: Iterable[Finding], today: str = "") -> Iterator[Finding]:
    """Hold points and gates that are shut, steps done out of order or left out, rings."""
    build, findings = inputs.build, list(findings)
    if not build.steps:
        yield notice("assemble.steps", STEPS, "Steps", Verdict.UNMEASURED, "Steps: choose the kind of build and lay them out", why="The order comes from what must be reached, proved or held first.")
        return
    if ring := cycle(build):
        yield notice("assemble.ring", STEPS, "Steps in a ring", Verdict.FOULS, f"Steps {', '.join(map(str, ring))} wait for one another", why="None of them can ever be begun. Take one need out.")
    names: Mapping[int, Step] = {s.n: s for s in build.steps}
    for s in build.steps:
        yield from _of_step(s, names, today)
    for state in step_states(inputs, findings, today):
        s = names[state.n]
        if (s.hold or s.gate) and s.state == "open" and state.blocked_by:
            kind = f"Gate to {s.gate}" if s.gate else "Hold point"
            text = f"{kind}, step {s.n}: {_words(state.blocked_by)}"
            yield notice(f"assemble.hold.{s.n}", STEPS, f"{kind}, {s.name}", Verdict.UNMEASURED, text, why="Nothing goes on before it is signed.", condition="blocked", caution=s.caution)
        elif s.hold and s.state == "done" and state.blocked_by:
            text = f"Hold point {s.n} was passed, and now stands against it: {_words(state.blocked_by)}"
            yield notice(f"assemble.passed.{s.n}", STEPS, f"Hold point {s.n} passed", Verdict.TIGHT, text, why="Something changed since it was signed: look again before building on it.")


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


def hold_points(inputs: Inputs, findings: Iterable[Finding]) -> HoldPoints:
    """How the hold points of a build stand."""
    holds = [s for s in inputs.build.steps if s.hold or s.gate]
    findings = list(findings)
    of_waiver = [f for f in findings if f.waived_by]
    of_nothing = [f for f in findings if f.verdict == Verdict.UNMEASURED and not f.waived_by]
    named = {waived: {name for f in some for name in (f.question, f.id)} for waived, some in ((True, of_waiver), (False, of_nothing))}

    def watching(s: Step, waived: bool) -> bool:
        return not named[waived].isdisjoint(s.watches)

    return HoldPoints(
        passed=sum(s.state == "done" for s in holds),
        open=sum(s.state == "open" for s in holds),
        left_out=sum(s.state == "left out" for s in holds),
        waived=sum(watching(s, True) for s in holds),
        unmeasured=sum(watching(s, False) for s in holds),
    )
