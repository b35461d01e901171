"""Kits: what should be in the box, what came, what it measures, and until when it may go back."""

from collections.abc import Iterator
from datetime import date

from pindo.core.document.parts import Kit, KitLine
from pindo.core.inputs.beside import soonest
from pindo.core.inputs.cells import part_address
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.quantity import parse, typed_resolution
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict

KEY, PIECES = "survey.kits", "kits.pieces"
SOON = "due_soon_days"


def _figure(inputs: Inputs, kit: Kit, piece: KitLine, field: str) -> tuple[float, float] | None:
    """A figure of a piece with its ±, where it stands."""
    q = inputs.quantities.get(part_address(PIECES, kit, piece, field))
    if q is None or q.status != Status.STANDING or q.value is None:
        return None
    return q.value, q.pm


def _named(kit: Kit, piece: KitLine) -> str:
    return f"{kit.name or f'Kit {kit.n}'}: {piece.what or f'piece {piece.n}'}"


def _of_piece(inputs: Inputs, kit: Kit, piece: KitLine) -> Iterator[Finding]:
    name, row = _named(kit, piece), f"kits.{kit.n}"
    needed = f"; step {piece.step} needs it" if piece.step is not None else ""
    should, came = (_figure(inputs, kit, piece, f) for f in ("count", "came"))
    if came is None:
        if kit.came_on:
            yield notice(
                f"survey.kit.{kit.n}.{piece.n}.came",
                KEY,
                f"{name}, not counted",
                Verdict.UNMEASURED,
                f"{name}: nobody has counted what came{needed}",
                row=row,
            )
    elif should is not None and came[0] != should[0]:
        short = should[0] - came[0]
        yield notice(
            f"survey.kit.{kit.n}.{piece.n}.count",
            KEY,
            f"{name}, {'missing' if short > 0 else 'left over'}",
            Verdict.FOULS if short > 0 else Verdict.TIGHT,
            f"{name}: {abs(short):g} {'missing' if short > 0 else 'more than it should be'}"
            f" ({came[0]:g} of {should[0]:g}){needed}",
            why=(
                "What is missing stops the job on its day."
                if short > 0
                else "What is left over is of another version, or was forgotten: say which."
            ),
            row=row,
        )
    yield from _size(inputs, kit, piece)
    if piece.once == "to buy":
        yield notice(
            f"survey.kit.{kit.n}.{piece.n}.once",
            KEY,
            f"{name}, to buy",
            Verdict.UNMEASURED,
            f"{name} is used once and is not in the kit: to buy{needed}",
            row=row,
        )


def _size(inputs: Inputs, kit: Kit, piece: KitLine) -> Iterator[Finding]:
    """A piece of another size than the list says: the list is held to the last digit that it gives,
    what was measured to the ± of its tool.
    """
    wanted, read = (_figure(inputs, kit, piece, f) for f in ("size", "measured"))
    if wanted is None or not piece.size:
        return
    said = parse(piece.size, "length").pm
    doubt = (typed_resolution(piece.size, "length", None) if said is None else said) + (
        0.0 if read is None else read[1]
    )
    name = _named(kit, piece)
    at = part_address(PIECES, kit, piece, "measured")
    if read is None:
        yield notice(
            f"survey.kit.{kit.n}.{piece.n}.size",
            KEY,
            f"{name}, not measured",
            Verdict.UNMEASURED,
            in_both("{at}: nobody has measured whether it is {size}", name, size=wanted[0]),
            why="A kit's own numbers are measured again before anything is fitted.",
            row=f"kits.{kit.n}",
        )
        return
    off = read[0] - wanted[0]
    if abs(off) <= doubt + 1e-9:
        return
    share = f", {abs(off) / abs(wanted[0]):.1%}" if wanted[0] else ""
    more = "larger" if off > 0 else "smaller"
    yield notice(
        f"survey.kit.{kit.n}.{piece.n}.size",
        KEY,
        f"{name}, wrong size",
        Verdict.FOULS,
        in_both(
            f"{{at}} measures {{read}} and should be {{size}}: {{off}} {more}{share}",
            name,
            read=read[0],
            size=wanted[0],
            off=abs(off),
        ),
        why="A wrong size that is found after the last day for return is paid for.",
        inputs=(at,),
        row=f"kits.{kit.n}",
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Missing, left over, wrong size, single-use to buy, of every kit."""
    for kit in inputs.build.kits:
        for piece in kit.pieces:
            yield from _of_piece(inputs, kit, piece)


def days_left(until: str, today: str) -> int | None:
    """Days from today to a date, both ISO 8601; None where either is not said or is no date."""
    try:
        return (date.fromisoformat(until) - date.fromisoformat(today)).days
    except ValueError:
        return None


def concludes(inputs: Inputs, seen: Seen) -> Iterator[Finding]:
    """The last day for return, as long as something of the kit is open."""
    for kit in inputs.build.kits:
        row, name = f"kits.{kit.n}", kit.name or f"Kit {kit.n}"
        until = soonest(kit, "return_by")
        left = days_left(until, seen.today)
        count = sum(f.row == row for f in seen.findings)
        if left is None or not count:
            continue
        things = (
            f"{count} thing{'s' if count > 1 else ''} of it {'are' if count > 1 else 'is'} open"
        )
        verdict = Verdict.TIGHT if left <= inputs.rules[SOON] else Verdict.UNMEASURED
        yield notice(
            f"survey.kit.{kit.n}.return",
            KEY,
            f"{name}, last day for return",
            Verdict.FOULS if left < 0 else verdict,
            f"{name} could go back until {until}: that is over, and {things}"
            if left < 0
            else f"{name} may go back until {until}, {left} days from now; {things}",
            why="Returns lapse: count and measure before the day.",
            row=row,
        )


QUESTION = Question(
    path="kits",
    station=Station.SURVEY,
    name="Kits",
    asks="What should be in the box, what came, and does it measure as it should?",
    lists=("kits",),
    notices=notices,
    concludes=concludes,
)
