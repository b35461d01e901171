"""Screws by hole: how long the screw of each is, and what it is cut from."""

from collections.abc import Iterator

from pindo.core.drawing.board import Board, Column, Reading, Table, TableRow
from pindo.core.geometry.screw_lengths import odd_ones, screws
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.question import Question, Seen


def orders(inputs: Inputs) -> Iterator[Reading]:
    """Stock lengths."""
    for screw in screws(inputs):
        if screw.stock is not None:
            name = f"Screw at {screw.hole}"
            yield Reading(name=name, value=screw.stock, kind="length", ordered=True, part="screws")


def board(inputs: Inputs, seen: Seen) -> Board:
    """One line a screw."""
    found = screws(inputs)
    odd = odd_ones(found)
    rows = tuple(
        TableRow(
            cells=(
                x.hole,
                x.what,
                x.grip,
                x.least,
                x.most,
                "" if x.stock is None else f"{x.stock:g} mm",
                x.washer or None,
                "; ".join(n for n in ("the odd one" if x.hole in odd else "", x.note) if n),
            ),
            mark="tight" if x.hole in odd else "",
        )
        for x in found
    )
    lengths = (("grip", "grip"), ("least", "least length"), ("most", "most length"))
    columns = (
        Column(key="hole", label="hole"),
        Column(key="screw", label="screw"),
        *(Column(key=k, label=label, kind="length", places=1) for k, label in lengths),
        Column(key="stock", label="stock"),
        Column(key="washers", label="washers", kind="length", places=1),
        Column(key="note", label="note"),
    )
    note = "from plate, recess and engagement"
    made = Table(
        key="screws", title="Screws by hole", note=note, columns=columns, rows=rows, first=4
    )
    return Board(tables=(made,) if rows else ())


QUESTION = Question(
    path="screws",
    station=Station.ASSEMBLE,
    name="Screws by hole",
    asks="How long is the screw of each hole, and what is it cut from?",
    orders=orders,
    board=board,
)
