"""Pieces: what the crank spacer is made of, and which parts were made for a thickness.

Lengths mm. A bolt's thread in use is its length under the head less what it clamps.
"""

from collections.abc import Iterator, Mapping
from functools import partial

from pindo.core.document.stack_rows import MadeFor, SpacerPiece
from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Formula
from pindo.core.judging.question import Question, Seen
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.bolts import thread_beyond, thread_in_use, thread_wanted
from pindo.core.stations.stack.common import ROTATING, STACK_STATES
from pindo.core.stations.stack.section import section_for

KEY = "stack.made"
FOLLOWS: Mapping[str, tuple[str, ...]] = {
    "adapter plate": ("plate_mm",),
    "plate and shield": ("plate_mm", "separator_mm"),
    "crank spacer": ("crank_spacer_mm",),
    "all of them": ("plate_mm", "separator_mm", "crank_spacer_mm"),
}
"""Thicknesses that a part follows."""

check = partial(Check, station=Station.STACK, question=KEY)


def _sum_less(add: tuple[str, ...], take: tuple[str, ...]) -> Formula:
    """Sum of some quantities less the sum of others."""

    def value(read: Mapping[str, Numbers]) -> Numbers:
        total: Numbers = 0.0
        for a in add:
            total = total + read[a]
        for a in take:
            total = total - read[a]
        return total

    return value


def _of_piece(row: SpacerPiece, first: bool) -> Iterator[Check]:
    """What one piece of the spacer wants of its bolts and of what centres it."""
    at, name = f"spacer_pieces.{row.n}.", row.name or f"piece {row.n}"
    told = literal(name)
    bolt = {k: f"{at}{k}" for k in ("long", "clamped", "depth", "bolt")}
    yield check(
        id=f"stack.piece.thread.{row.n}",
        title=f"Bolts of {name}, thread in use",
        value=thread_in_use,
        at_least=thread_wanted,
        given={k: bolt[k] for k in ("long", "clamped", "bolt")},
        safety=True,
        accepts=STACK_STATES,
        says=f"Bolts of {told} have {{value}} of thread in use; wants {{limit}}",
        fouls=f"Bolts of {told} end {{over}} before their thread",
        why="A bolt on few threads strips them; the crank then throws what it carries.",
        caution=ROTATING,
    )
    yield check(
        id=f"stack.piece.bottom.{row.n}",
        title=f"Bolts of {name}, room before the thread ends",
        value=thread_beyond,
        at_least="thread_spare_mm",
        given={k: bolt[k] for k in ("long", "clamped", "depth")},
        safety=True,
        says=f"Bolts of {told} leave {{value}} of full thread; wants {{limit}}",
        fouls=f"Bolts of {told} bottom {{over}} before they clamp",
        why="A bolt that bottoms is tight and clamps nothing.",
        caution=ROTATING,
    )
    yield check(
        id=f"stack.piece.register.{row.n}",
        title=f"Register of {name}",
        value=plain.difference,
        at_least="register_clearance_min_mm",
        at_most="register_clearance_max_mm",
        given={"a": f"{at}bore", "b": f"{at}spigot"},
        says=f"{told[:1].upper()}{told[1:]} has {{value}} of clearance on its register; wants"
        " {limit}",
        fouls=f"Bore of {told} is {{over}} smaller than its register",
        why="Bolts clamp; the register centres. A piece that floats shakes the engine.",
        caution=ROTATING,
    )
    if first:
        yield check(
            id=f"stack.piece.circle.{row.n}",
            title=f"Crank to {name}, bolt circle",
            value=plain.difference,
            at_least=plain.minus,
            at_most="pattern_match_max_mm",
            given={"a": f"{at}pcd", "b": "crank_pcd_mm", "limit": "pattern_match_max_mm"},
            says=f"Circle of {told} is {{a}}, of the crank {{b}}; apart by {{value}}, allowed"
            " {limit}",
            why="Same count is not same circle.",
            caution=ROTATING,
        )


def _of_made(row: MadeFor) -> Iterator[Check]:
    """A part that follows a thickness: whether it was made for the one that stands now."""
    at, name = f"made_for.{row.n}.", row.name or f"part {row.n}"
    told, reads = literal(name), FOLLOWS[row.of]
    yield check(
        id=f"stack.made.{row.n}",
        title=f"{name[:1].upper()}{name[1:]}, what it was made for",
        value=_sum_less(reads, (f"{at}made_for",)),
        reads=(*reads, f"{at}made_for"),
        at_least=plain.minus,
        at_most="made_for_max_mm",
        given={"made": f"{at}made_for", "limit": "made_for_max_mm"},
        says=f"{told[:1].upper()}{told[1:]}, made for a thickness of {{made}}: it is {{value}} more"
        " now, allowed {limit}",
        why="A part that follows the plate is wrong as soon as the plate is another: both change or"
        " neither.",
    )
    if row.size:
        more = (f"{at}more",) if row.more else ()
        yield check(
            id=f"stack.made.size.{row.n}",
            title=f"{name[:1].upper()}{name[1:]}, its size",
            value=_sum_less((f"{at}size",), (*reads, *more)),
            reads=(*reads, f"{at}size", *more),
            at_least=plain.minus,
            at_most="made_for_max_mm",
            given={"size": f"{at}size", "limit": "made_for_max_mm"},
            says=f"{told[:1].upper()}{told[1:]} of {{size}}: {{value}} more than it should be now,"
            " allowed {limit}",
            why="It is made to the thickness and a fixed length beyond it.",
        )


def checks(inputs: Inputs) -> Iterator[Check]:
    """The sum of the pieces, each piece, each part that follows a thickness."""
    pieces = inputs.build.spacer_pieces
    if pieces:
        own = tuple(f"spacer_pieces.{row.n}.thick" for row in pieces)
        yield check(
            id="stack.piece.sum",
            title="Pieces of the crank spacer together",
            value=_sum_less(own, ("crank_spacer_mm",)),
            reads=(*own, "crank_spacer_mm"),
            at_least=plain.minus,
            at_most="spacer_pieces_max_mm",
            given={"spacer": "crank_spacer_mm", "limit": "spacer_pieces_max_mm"},
            accepts=STACK_STATES,
            says="The pieces are {value} more than the crank spacer of {spacer}; allowed {limit}",
            why="The stack is worked out with the spacer as a whole: a piece that is left out or"
            " put in twice moves flywheel, release and starter.",
        )
    for i, row in enumerate(pieces):
        yield from _of_piece(row, i == 0)
    for made in inputs.build.made_for:
        yield from _of_made(made)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section, and what follows which thickness by how much."""
    rows = []
    for row in inputs.build.made_for:
        now = [inputs.value(a) for a in FOLLOWS[row.of]]
        total = None if any(v is None for v in now) else sum(v for v in now if v is not None)
        told = inputs.value(f"made_for.{row.n}.made_for")
        change = None if total is None or told is None else total - told
        rows.append(
            TableRow(
                cells=(row.name or f"part {row.n}", row.of, told, total, change),
                address=f"made_for.{row.n}",
                finding=f"stack.made.{row.n}",
            )
        )
    columns = (
        Column(key="part", label="part"),
        Column(key="of", label="follows the"),
        Column(key="made", label="made for", kind="length", places=2),
        Column(key="now", label="now", kind="length", places=2),
        Column(key="change", label="longer or shorter by", kind="length", places=2),
    )
    table = Table(key="made", title="What follows a thickness", columns=columns, rows=tuple(rows))
    return Board(drawings=(section_for(inputs, KEY, seen),), tables=(table,) if rows else ())


QUESTION = Question(
    path="made",
    station=Station.STACK,
    name="Pieces",
    asks="What is the crank spacer made of, and what was made for another thickness?",
    dimensions={"A": "crank_spacer_mm", "B": "plate_mm", "C": "separator_mm"},
    lists=("spacer_pieces", "made_for"),
    when=bellhoused,
    checks=checks,
    board=board,
    where="block face",
)
