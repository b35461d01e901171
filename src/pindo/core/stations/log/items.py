"""For now: what is temporary, who answers for it, and the gate that it shuts."""

from collections.abc import Iterator

from pindo.core.document.records import Gate, Provisional
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.gates import GATE_OF_ITEM, HAND_OVER, OpenItem, earlier
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict


def _gate(p: Provisional) -> str:
    chosen: Gate = p.blocks or "hand-over"
    return earlier(chosen, GATE_OF_ITEM.get(p.kind, HAND_OVER))


def opens(inputs: Inputs) -> Iterator[OpenItem]:
    """What is there for now, and what was signed without its limit or its name."""
    for p in inputs.build.provisional:
        if p.state == "open" or (p.state == "signed" and not (p.limit and p.by)):
            yield OpenItem(
                kind=p.kind, text=p.name or p.kind, gate=_gate(p), row=f"provisional.{p.n}"
            )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Open provisional items, each with the gate that it blocks."""
    for p in inputs.build.provisional:
        name = p.name or p.kind
        if p.state == "open":
            until = f", until {p.until}" if p.until else ", without an end"
            yield notice(
                f"log.provisional.{p.n}",
                "log.items",
                f"{name}, for now",
                Verdict.UNMEASURED,
                f"{name} ({p.kind}) is there for now{until}; it blocks {p.blocks or 'hand-over'}",
                condition="provisional",
                why=p.reason or "What is temporary has an owner, a reason and an end.",
            )
        elif p.state == "signed" and not (p.limit and p.by):
            wanting = " and ".join(
                words for words, said in (("no limit", p.limit), ("no name", p.by)) if not said
            )
            yield notice(
                f"log.provisional.{p.n}",
                "log.items",
                f"{name}, signed",
                Verdict.UNMEASURED,
                f"{name} is signed as a limit of use, but {wanting} is written: it counts as open",
            )


def board(inputs: Inputs, seen: Seen) -> Board:
    """Everything that is open until a gate, wherever it is kept."""
    rows = tuple(TableRow(cells=(o.kind, o.text, o.gate)) for o in seen.opens)
    columns = (
        Column(key="kind", label="kind"),
        Column(key="what", label="what"),
        Column(key="gate", label="blocks"),
    )
    made = Table(key="open", title="What is open", columns=columns, rows=rows, paper_only=True)
    return Board(tables=(made,) if rows else ())


QUESTION = Question(
    path="items",
    station=Station.LOG,
    name="For now",
    asks="What is temporary, and which gate does it shut?",
    lists=("provisional",),
    notices=notices,
    opens=opens,
    board=board,
    sees_all=True,
)
