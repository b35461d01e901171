"""Thickness: which plate and which crank spacer let everything along the crank go at once?

Each check is a set of half-planes of the two, drawn in by its doubt; what they leave is the window.
Worst case, root of squares and draws at random side by side (JCGM 100, JCGM 101).
"""

from collections.abc import Iterator
from dataclasses import replace

from pindo.core.drawing.board import Board, Reading
from pindo.core.geometry.window import lack
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.evaluate import judge, missing_inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import SEVERITY, Finding, Sentence, Verdict
from pindo.core.stations.stack.pieces import CHOSEN, along, planned_inputs
from pindo.core.stations.stack.section import section_for
from pindo.core.stations.stack.thicknesses import candidates
from pindo.core.stations.stack.window_of import (
    PLATE,
    SPACER,
    Window,
    alone,
    window,
)
from pindo.core.stations.stack.window_tables import (
    alone_table,
    cut_table,
    effects_table,
    margins_table,
    openings_table,
    stock_table,
)
from pindo.core.stations.stack.window_view import picture

KEY = "stack.window"
TITLE = "Plate and crank spacer"
WHY = (
    "One thickness sets the nose, the spline, the release and the starter at once: what cures one"
    " may take it from another."
)


def _titles(found: Window, which: tuple[int, ...]) -> str:
    return " and ".join(dict.fromkeys(found.edges[i].title.lower() for i in which))


def _worst(inputs: Inputs, found: Window) -> Verdict:
    """The worst verdict of what the window is cut from, where it stands; what waits for the shim is
    unmeasured.
    """
    moved = {p.check.id for p in found.pieces.known if p.slope[:2].any()}
    verdicts = [
        Verdict.UNMEASURED if missing_inputs(c, inputs) else judge(c, inputs)
        for c in along(inputs)
        if c.id in moved
    ]
    return min(verdicts, key=SEVERITY.__getitem__, default=Verdict.UNMEASURED)


def _closed(inputs: Inputs, found: Window) -> Finding:
    """There is no window: what conflicts, and whether more certainty or another shim opens it."""
    here = inputs.known(CHOSEN[:2])
    verdict = Verdict.FOULS if found.sure else Verdict.TIGHT
    if here is not None:
        verdict = min(verdict, _worst(inputs, found), key=SEVERITY.__getitem__)
    i = list(found.closed_by)
    short = lack(found.slope[i], found.room[i], found.counts[i])
    told = (
        "No plate and crank spacer let {at} go together: each lacks {lack}"
        if found.sure
        else "No plate and crank spacer let {at} surely go together: with their doubt each lacks"
        " {lack}"
    )
    if not found.free.empty and found.shim is not None:
        told += "; with another shim some do"
    return notice(
        KEY,
        KEY,
        TITLE,
        verdict,
        in_both(told, _titles(found, found.closed_by), 2, lack=short),
        why=WHY,
        inputs=tuple(CHOSEN),
    )


def _span(low: float, high: float) -> str:
    return "{low} to {high}" if high - low > 0.05 else "{low}"


def _stands(inputs: Inputs, found: Window) -> Finding:
    """There is a window: where plate and spacer stand beside it."""
    here = inputs.known(CHOSEN[:2])
    assert found.middle is not None
    best = {"best": float(found.middle.at[PLATE]), "ring": float(found.middle.at[SPACER])}
    if here is None:
        words = "A window is there: plate {best} with a crank spacer of {ring} stand in its middle"
        return notice(
            KEY,
            KEY,
            TITLE,
            Verdict.UNMEASURED,
            in_both(words + "; plate or spacer is not chosen", "", 2, **best),
            why=WHY,
            inputs=tuple(CHOSEN),
        )
    plate, ring = here[CHOSEN[PLATE]], here[CHOSEN[SPACER]]
    only = alone(found, PLATE, ring)
    verdict = _worst(inputs, found)
    lengths = {"plate": plate, "spacer": ring, **best}
    if only is None:
        words = (
            "Plate {plate} with crank spacer {spacer} lies beside the window; plate {best} with"
            " {ring} is its middle"
        )
    else:
        lengths |= {"low": only.low, "high": only.high}
        words = (
            "Plate {plate} with crank spacer {spacer}: with that spacer a plate of "
            + _span(only.low, only.high)
            + " lets everything go; middle of the window {best} with {ring}"
        )
        if verdict == Verdict.GOES and not only.low - 1e-6 <= plate <= only.high + 1e-6:
            verdict = Verdict.TIGHT
    return notice(
        KEY, KEY, TITLE, verdict, in_both(words, "", 2, **lengths), why=WHY, inputs=tuple(CHOSEN)
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Whether a window is there, what closes it, and where the build stands in it."""
    found = window(inputs)
    if not found.known and found.pieces.missing:
        names = ", ".join(m.name.lower() for m in found.pieces.missing[:3])
        yield _open(found, f"The window is open: {names} and what hangs on them are not known")
        return
    if found.helpless:
        yield _unhelped(inputs, found)
    if not found.known:
        return
    answer = _closed(inputs, found) if found.polygon.empty else _stands(inputs, found)
    if found.pieces.missing and SEVERITY[answer.verdict] > SEVERITY[Verdict.TIGHT]:
        left = ", ".join(t.lower() for t in found.pieces.open[:3])
        more = f"; not yet in it: {left}"
        told = Sentence(mm=answer.sentence.mm + more, inch=answer.sentence.inch + more)
        yield _open(found, told)
        return
    yield answer


def _open(found: Window, text: str | Sentence) -> Finding:
    return notice(
        KEY,
        KEY,
        TITLE,
        Verdict.UNMEASURED,
        text,
        why=WHY,
        missing=found.pieces.missing,
        inputs=tuple(CHOSEN),
    )


def _unhelped(inputs: Inputs, found: Window) -> Finding:
    """What no thickness helps: another part is wanted."""
    planned = planned_inputs(inputs)
    verdict = min((judge(p.check, planned) for p in found.helpless), key=SEVERITY.__getitem__)
    names = " and ".join(dict.fromkeys(p.check.title.lower() for p in found.helpless))
    return notice(
        "stack.window.part",
        KEY,
        "What no thickness helps",
        verdict,
        f"No plate and no crank spacer help {names}: another part does",
        why="A size that neither plate nor spacer moves is cured at the part that has it.",
        inputs=tuple(s for p in found.helpless for s in p.check.addresses),
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """The window and the section side by side, and what can be done."""
    found = window(inputs)
    if not found.known:
        return Board(drawings=(section_for(inputs, KEY, seen),))
    ranked = candidates(inputs, found)
    tables = [
        stock_table(inputs, found, ranked),
        cut_table(inputs, found, ranked),
        margins_table(inputs, found),
        alone_table(inputs, found),
        effects_table(inputs),
    ]
    if found.polygon.empty:
        tables.insert(0, openings_table(inputs, found))
    readings = []
    if found.middle is not None:
        at = found.middle.at
        readings = [
            Reading(name="Middle, plate", value=float(at[PLATE]), kind="length", places=2),
            Reading(name="Middle, crank spacer", value=float(at[SPACER]), kind="length", places=2),
            Reading(name="Least room there", value=found.middle.room, kind="length", places=2),
        ]
    return Board(
        drawings=(
            picture(inputs, found, ranked),
            replace(section_for(inputs, KEY, seen), name="Section"),
        ),
        tables=tuple(t for t in tables if t.rows),
        readings=tuple(readings),
        beside=True,
    )


QUESTION = Question(
    path="window",
    station=Station.STACK,
    name="Thickness",
    asks="Which plate and which crank spacer let everything go at once?",
    dimensions={"A": "plate_mm", "B": "crank_spacer_mm", "C": "release_shim_mm"},
    lists=("spacers",),
    when=bellhoused,
    notices=notices,
    board=board,
    where="block face",
)
