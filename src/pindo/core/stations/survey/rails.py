"""Rails and bosses of the chassis, as marks of the bay place them: is a rail straight, what does a
threaded place offer, and which of them are free?
"""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

import numpy as np

from pindo.core.document.rows import Boss, Solid
from pindo.core.document.words import literal
from pindo.core.drawing.board import Column, Table, TableRow
from pindo.core.geometry.bay import AT, mark_at
from pindo.core.geometry.solid_marks import LENGTH_OF, fields_of, unusable
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.fasteners import ENGAGED
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.threads import thread_words
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Input
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.verdict import Finding, Verdict

KEY = "survey.bay"
check = partial(Check, station=Station.SURVEY, question=KEY)
Read = Mapping[str, Any]


def called(boss: Boss) -> str:
    """A boss as people speak of it: its number and its nickname."""
    return f"Boss {boss.n}" + (f", {boss.name}," if boss.name else "")


def engagement(d_mm: float, factor: float) -> float:
    """Full thread that a screw wants: its diameter times the factor of the metal. [mm]"""
    return d_mm * factor


def off_line(first: int, mark: int, last: int, read: Read) -> Any:
    """Distance of a mark from the line through two others. [mm]"""
    figures = np.broadcast_arrays(*(read[mark_at(n, f)] for n in (first, mark, last) for f in AT))
    a, p, b = np.stack(figures).reshape(3, 3, *figures[0].shape)
    along, arm = b - a, p - a
    across = np.cross(along, arm, axis=0)
    return np.sqrt((across**2).sum(axis=0) / (along**2).sum(axis=0))


def rails(inputs: Inputs) -> list[Solid]:
    """Solids that lie between marks at their ends."""
    own = (s for s in inputs.build.solids if s.marks and s.marks_are == "ends")
    return [s for s in own if not unusable(inputs.build, s)]


def checks(inputs: Inputs) -> Iterator[Check]:
    """Straight rails, thread enough, metal left behind it."""
    for rail in rails(inputs):
        first, *between, last = rail.marks
        for n in between:
            name = rail.name or f"solid {rail.n}"
            yield check(
                id=f"survey.straight.{rail.n}.{n}",
                title=f"Mark {n} on {name}",
                value=partial(off_line, first, n, last),
                reads=tuple(mark_at(m, f) for m in (first, n, last) for f in AT),
                at_most="rail_straight_max_mm",
                says=(
                    f"Mark {n} lies {{value}} from the line of {literal(name)}, marks {first} to"
                    f" {last}; at most {{limit}}"
                ),
                why="A bent rail takes mounts out of square; a mark that was misread reads so too.",
            )
    for boss in inputs.build.bosses:
        at = f"bosses.{boss.n}"
        name = literal(called(boss))
        # Where nobody said what it is cut in, the weakest metal counts.
        metal = boss.material or "aluminium"
        given: dict[str, Input | str] = {"d_mm": f"{at}.d", "factor": ENGAGED[metal]}
        said = metal if boss.material else "a metal that nobody has named, taken as aluminium"
        yield check(
            id=f"survey.boss.thread.{boss.n}",
            title=f"Thread of boss {boss.n}",
            value=plain.given,
            given={"x": f"{at}.depth"} | given,
            at_least=engagement,
            says=f"{name} has {{value}} of full thread in {said}; a screw wants {{limit}}",
            why="The screw should break before the thread strips.",
        )
        yield check(
            id=f"survey.boss.wall.{boss.n}",
            title=f"Metal behind boss {boss.n}",
            value=plain.given,
            given={"x": f"{at}.wall"},
            at_least="boss_wall_min_mm",
            says=f"{name} has {{value}} of metal behind its hole; wants {{limit}}",
            why=(
                "A screw that is a little too long breaks through a thin wall: into oil, water or"
                " a box that rusts from inside."
            ),
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Bosses that cannot be as they are said, and solids whose marks give them no place."""
    numbers = {m.n for m in inputs.build.marks}
    for boss in inputs.build.bosses:
        thread, hole = (inputs.value(f"bosses.{boss.n}.{f}") for f in ("depth", "hole"))
        row = f"bosses.{boss.n}"
        if thread is not None and hole is not None and thread > hole:
            text = "{at} has {thread} of thread in a hole {hole} deep: one of them is misread"
            yield notice(
                f"survey.boss.deep.{boss.n}",
                KEY,
                f"Thread of boss {boss.n}: can that be?",
                Verdict.UNMEASURED,
                in_both(text, called(boss), thread=thread, hole=hole),
                why="No thread is deeper than its hole.",
                condition="question",
                row=row,
            )
        if boss.mark not in numbers:
            said = "no mark is given" if boss.mark is None else f"there is no mark {boss.mark}"
            yield notice(
                f"survey.boss.mark.{boss.n}",
                KEY,
                f"Place of boss {boss.n}",
                Verdict.UNMEASURED,
                f"{called(boss)} has no place: {said}",
                row=row,
            )
    for solid in inputs.build.solids:
        why = _placeless(inputs, solid)
        if why:
            name = solid.name or f"Solid {solid.n}"
            yield notice(
                f"survey.solid.marks.{solid.n}",
                KEY,
                f"{name} from its marks",
                Verdict.UNMEASURED,
                f"{name} has no place from its marks: {why}",
                why="Until it has one, nothing is held against it.",
                row=f"solids.{solid.n}",
            )


def _placeless(inputs: Inputs, solid: Solid) -> str:
    given = (inputs.quantities[f"solids.{solid.n}.{f}"] for f in fields_of(solid))
    return next((q.detail for q in given if q.value is None), "")


def _place(inputs: Inputs, mark: int | None) -> tuple[float | None, ...]:
    """Behind, left, above and the longest ± of a mark. [mm]"""
    found = [] if mark is None else [inputs.quantities.get(mark_at(mark, f)) for f in AT]
    if not found or any(q is None or q.value is None for q in found):
        return (None, None, None, None)
    values = tuple(q.value for q in found if q is not None)
    return (*values, max(q.pm for q in found if q is not None))


PLACE = tuple(
    Column(key=k, label=k, kind="length", places=1)
    for k in ("behind front axle", "left of centre", "above rail", "±")
)


def _bosses(inputs: Inputs) -> Table:
    rows = tuple(
        TableRow(
            cells=(
                f"{b.n} {b.name}".strip(),
                b.holds or "free",
                "" if (d := inputs.value(f"bosses.{b.n}.d")) is None else _thread(inputs, b, d),
                inputs.value(f"bosses.{b.n}.depth"),
                inputs.value(f"bosses.{b.n}.wall"),
                *_place(inputs, b.mark),
            ),
            mark="" if b.holds else "goes",
            address=f"bosses.{b.n}",
        )
        # The free ones are what is looked for.
        for b in sorted(inputs.build.bosses, key=lambda b: (bool(b.holds), b.n))
    )
    free = sum(not b.holds for b in inputs.build.bosses)
    columns = (
        Column(key="boss", label="boss"),
        Column(key="holds", label="holds"),
        Column(key="thread", label="thread"),
        Column(key="depth", label="full thread", kind="length", places=1),
        Column(key="wall", label="metal behind", kind="length", places=1),
        *PLACE,
    )
    return Table(
        key="bosses",
        title=f"Bosses: {free} of {len(rows)} free",
        columns=columns,
        rows=rows,
        of_record=True,
    )


def _thread(inputs: Inputs, boss: Boss, d: float) -> str:
    return thread_words(d, inputs.value(f"bosses.{boss.n}.pitch"))


def _rails(inputs: Inputs) -> Table:
    rows = tuple(
        TableRow(
            cells=(
                f"{s.n} {s.name}".strip(),
                ", ".join(map(str, s.marks)),
                *(inputs.value(f"solids.{s.n}.{f}") for f in (LENGTH_OF[s.shape], "tilt", "turn")),
            ),
            address=f"solids.{s.n}",
        )
        for s in rails(inputs)
    )
    columns = (
        Column(key="rail", label="rail"),
        Column(key="marks", label="marks"),
        Column(key="length", label="length", kind="length", places=1),
        Column(key="tilt", label="rear end low", kind="angle", places=1),
        Column(key="turn", label="rear end right", kind="angle", places=1),
    )
    return Table(key="rails", title="Rails between marks", columns=columns, rows=rows)


def tables(inputs: Inputs) -> tuple[Table, ...]:
    """The bosses, the free ones first, and the rails."""
    return tuple(t for t in (_bosses(inputs), _rails(inputs)) if t.rows)
