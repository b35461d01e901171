"""What may not close anything, what it blocks, and what would replace it; the evidence of each
question at a glance.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field

from pindo.core.document.evidence import TOOLS_OF_KIND, Source
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.judging.question import QUESTIONS, Question, Seen
from pindo.core.judging.verdict import Finding

NOT_TAKEN = "missing"
GROUPS = (
    ("measured", frozenset({Source.MEASURED})),
    ("elsewhere", frozenset({Source.ELSEWHERE})),
    ("decided", frozenset({Source.CHOSEN})),
    ("on paper", frozenset({Source.DRAWING, Source.PAPER, Source.CATALOGUE})),
    (
        "claimed or guessed",
        frozenset(
            {
                Source.SELLER,
                Source.MEMORY,
                Source.HEARSAY,
                Source.WORD,
                Source.GUESS,
                Source.UNSAID,
            }
        ),
    ),
)
"""Rungs of the ladder as they are counted at a glance."""


@dataclass
class _Weak:
    """A figure that may not close something: how it is with it, and what waits for a better one."""

    status: str
    detail: str
    refused: bool
    blocks: list[Finding] = field(default_factory=list)


def _weak(inputs: Inputs, seen: Seen) -> dict[str, _Weak]:
    """By address: everything that stands and counts for nothing somewhere, and what stands on a
    claim or a guess though nothing refuses it yet.
    """
    found: dict[str, _Weak] = {}
    for f in seen.findings:
        for m in f.missing:
            if m.status != NOT_TAKEN:
                found.setdefault(m.address, _Weak(m.status, m.detail, True)).blocks.append(f)
    lowest = GROUPS[-1][1]
    for f in seen.findings:
        for address in f.inputs:
            q = inputs.quantities.get(address)
            if q is None or q.value is None or q.source not in lowest:
                continue
            weak = found.setdefault(address, _Weak(f"only {q.source.value}", "", False))
            if f not in weak.blocks:
                weak.blocks.append(f)
    return found


def _better(q: Resolved | None, weak: _Weak, address: str) -> str:
    """What would replace it: how it is taken, and with what."""
    known = DIMENSIONS.get(address)
    if known is not None and known.sourced:
        return f"a paper or a person who made it: {known.how}"
    if weak.status == "contradiction":
        return "choose one with its source, or read it again"
    if known is not None and known.tool is not None:
        return f"{known.tool.value}: {known.how}"
    if q is not None and q.kind not in TOOLS_OF_KIND:
        return "the maker's paper, or a test of it"
    return "a reading here, with its tool"


def _of_weak(inputs: Inputs, seen: Seen) -> Iterator[TableRow]:
    found = _weak(inputs, seen)
    # What is refused somewhere stands before what only might be.
    order = sorted(
        found.items(), key=lambda item: (not item[1].refused, -len(item[1].blocks), item[0])
    )
    for address, weak in order:
        q = inputs.quantities.get(address)
        name = q.name if q is not None else address
        blocked = [f.title for f in weak.blocks]
        more = f" and {len(blocked) - 3} more" if len(blocked) > 3 else ""
        told = f"{weak.status}: {weak.detail}" if weak.detail else weak.status
        yield TableRow(
            cells=(
                name,
                told,
                f"{'; '.join(blocked[:3])}{more}" or "nothing yet",
                _better(q, weak, address),
            ),
            address=address,
        )


def counted(inputs: Inputs, question: str) -> tuple[int, ...]:
    """How the sizes of a question are known: how many by each group, then how many are not taken or
    count for nothing.
    """
    found = [inputs.quantities[k] for k in LEDGERS[question]]
    known = [q for q in found if q.value is not None and q.status == Status.STANDING]
    groups = (sum(q.source in sources for q in known) for _, sources in GROUPS)
    return (*groups, len(found) - len(known))


def board(inputs: Inputs, seen: Seen) -> Board:
    """What may not close anything, and the evidence of each question at a glance."""
    weak = Table(
        key="weak",
        title="What may not close anything",
        columns=(
            Column(key="size", label="figure"),
            Column(key="is", label="is"),
            Column(key="blocks", label="rests on it"),
            Column(key="better", label="would replace it"),
        ),
        rows=tuple(_of_weak(inputs, seen)),
        note=(
            "a claim or a guess may plan an order; it closes nothing on strength, rotation, brakes,"
            " steering, fuel or lifting"
        ),
    )
    rows = []
    for key, question in QUESTIONS.items():
        if not question.ledger or not question.when(inputs):
            continue
        counts = counted(inputs, key)
        rows.append(
            TableRow(
                cells=(question.station.value, question.name, *(float(n) for n in counts)),
                mark="tight" if counts[-2] > sum(counts[:-2]) else "",
            )
        )
    heads = (*(name for name, _ in GROUPS), "not known")
    glance = Table(
        key="glance",
        title="Evidence of each question",
        columns=(
            Column(key="station", label="station"),
            Column(key="question", label="question"),
            *(Column(key=h.replace(" ", "_"), label=h, kind="count") for h in heads),
        ),
        rows=tuple(rows),
    )
    return Board(tables=(weak, glance) if weak.rows else (glance,))


QUESTION = Question(
    path="weak",
    station=Station.SURVEY,
    name="Weak",
    asks="What is claimed, guessed, lapsed or said twice, and what would take its place?",
    board=board,
    sees_all=True,
)
