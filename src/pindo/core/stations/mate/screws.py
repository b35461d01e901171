"""Screws and heads: does every head find room, every screw its thread, and metal behind it?"""

from collections.abc import Iterable, Iterator
from dataclasses import replace
from functools import partial

import numpy as np

from pindo.core.document.words import literal
from pindo.core.drawing.board import Board
from pindo.core.drawing.shapes import Note
from pindo.core.geometry.screw_lengths import odd_ones, screws
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.fasteners import Head, clearance_hole, head, on_face
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.plates import own_plates
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Input
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate import by_hole, formulas
from pindo.core.stations.mate.common import (
    FACE_STATES,
    JOINT,
    OTHER_SIDE,
    SURE,
    WIDEST_LAND,
    Candidate,
    Given,
    at,
    between,
    millimetres,
    pair,
    place,
    worst,
)
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.placing import (
    SIDES,
    Lands,
    PlacedHole,
    PlacedLand,
    all_lands,
    face_of,
    label_of,
    placed_holes,
    plate_hole,
    turn_of,
)

check = partial(Check, station=Station.MATE, question="mate.screws", accepts=FACE_STATES)


def _thing(h: PlacedHole) -> str:
    return f"{'Nut' if h.hole.fastening == 'nut' else 'Head'} of {h.label}"


def _head_side(h: PlacedHole, size: Head, land: PlacedLand, sunk: float) -> Check:
    bind: Given = {
        "u2_mm": f"{land.prefix}.u",
        "v2_mm": f"{land.prefix}.v",
        "land_mm": f"{land.prefix}.{land.size_field}",
        "turn2_deg": turn_of(land.side),
    }
    lies = f"{_thing(h)} ({h.hole.fastening}) " + (
        "stands {proud_mm} proud" if sunk < 0 else "lies nearly flush"
    )
    return check(
        id=f"mate.head_side.{h.label}",
        title=f"{_thing(h)} beside the {OTHER_SIDE[h.side]}",
        value=formulas.head_beside_land,
        given=place(1, h)
        | bind
        | {
            "head_circle_mm": millimetres(size.circle),
            "proud_mm": millimetres(-sunk),
        },
        stretch=at(h),
        at_least="head_side_gap_mm",
        caution=JOINT,
        says=f"{lies}, {{value}} beside the {literal(land.name)}; needs {{limit}}",
        fouls=f"{lies} and {{over}} under the {literal(land.name)}",
        why=(
            "A head under the other casting holds the faces apart; it is seen upside down and late."
            " A hexagon counts with its washer."
        ),
    )


def _head_sunk(h: PlacedHole, size: Head) -> Check:
    deep: Input | str = h.address("recess") if h.hole.recess else millimetres(0.0)
    return check(
        id=f"mate.head_sunk.{h.label}",
        title=f"{_thing(h)} below the face",
        value=formulas.head_sunk,
        given={"recess_mm": deep, "head_height_mm": millimetres(size.height)},
        stretch=at(h),
        at_least="head_sunk_min_mm",
        caution=JOINT,
        says=f"{_thing(h)} lies {{value}} below the face; needs {{limit}}",
        fouls=f"{_thing(h)} stands {{over}} proud of the face",
        why="A proud head holds the faces apart by as much as it stands out.",
    )


def _unknown_lands(
    inputs: Inputs, h: PlacedHole, size: Head, holes: list[PlacedHole]
) -> list[PlacedHole]:
    """Holes of the other casting whose land nobody measured and that a head might lie under."""
    reach = inputs.rules["head_side_gap_mm"] + size.circle / 2
    other = [x for x in holes if x.side != h.side and inputs.value(x.address("land")) is None]
    return [
        x for x in other if float(np.hypot(x.u - h.u, x.v - h.v)) < reach + WIDEST_LAND * x.d / 2
    ]


def head_checks(inputs: Inputs, holes: list[PlacedHole], lands: Lands) -> Iterator[Check]:
    """Heads and nuts: below the face, or beside the other casting.

    A head that lies safely below the face may pass under the other casting; one that does not must
    stand beside it. A head whose recess is entered but too shallow is held to the face where metal
    lies over it.
    """
    beside, sunk_rows = [], []
    rules = inputs.rules
    circles = {
        side: np.array([(x.u, x.v, x.d) for x in lands[side]]).reshape(-1, 3) for side in SIDES
    }
    for h in holes:
        size = on_face(h.hole.fastening or "", h.d)
        if h.hole.role == "dowel" or size is None:
            continue
        recess, doubt = inputs.value(h.address("recess")), 0.0
        if recess is not None:
            doubt = SURE * inputs.quantities[h.address("recess")].pm
        sunk = (recess or 0.0) - size.height
        other = circles[OTHER_SIDE[h.side]]
        gaps = np.hypot(other[:, 0] - h.u, other[:, 1] - h.v) - (size.circle + other[:, 2]) / 2
        gap, near = (
            (float(gaps.min()), lands[OTHER_SIDE[h.side]][int(gaps.argmin())])
            if gaps.size
            else (np.inf, None)
        )
        if own_plates(inputs):
            # The other plate lies over every head.
            sunk_rows.append(
                Candidate(sunk - rules["head_sunk_min_mm"], doubt, partial(_head_sunk, h, size))
            )
            continue
        if recess is not None and (
            sunk >= rules["head_sunk_min_mm"] or gap < rules["head_side_gap_mm"]
        ):
            sunk_rows.append(
                Candidate(sunk - rules["head_sunk_min_mm"], doubt, partial(_head_sunk, h, size))
            )
        elif near is not None and not _unknown_lands(inputs, h, size, holes):
            beside.append(
                Candidate(
                    gap - rules["head_side_gap_mm"],
                    SURE * h.pm + 1.0,
                    partial(_head_side, h, size, near, sunk),
                )
            )
    yield from worst(beside)
    yield from worst(sunk_rows)


def _play(h: PlacedHole, u: float, v: float) -> Check:
    return check(
        id=f"mate.play.{h.label}",
        title=f"Play of the screw at {h.label}",
        value=formulas.off_place,
        given={
            "u_mm": h.address("u"),
            "v_mm": h.address("v"),
            "u0_mm": millimetres(u),
            "v0_mm": millimetres(v),
            "plate_hole_mm": millimetres(h.plate_d),
            "d_mm": millimetres(h.d),
        },
        stretch=at(h),
        at_most=formulas.place_play,
        says=(
            f"Screw {h.label} may stand {{value}} off its place; its hole leaves {{limit}} of play"
        ),
        why=(
            "A bolt passes into its thread when the centres differ by no more than half the"
            " clearance. Take the pattern again with a better tool, or drill larger: holes do not"
            " centre a plate."
        ),
    )


def play_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """The play that each clearance hole leaves for its doubt of place."""
    screwed = [h for h in holes if h.hole.role == "bolt" and h.hole.fastening != "tapped"]
    yield from worst(
        Candidate((h.plate_d - h.d) / 2 - h.pm, 0.0, partial(_play, h, *_as_taken(inputs, h)))
        for h in screwed
    )


def _as_taken(inputs: Inputs, h: PlacedHole) -> tuple[float, float]:
    return inputs.value(h.address("u")) or 0.0, inputs.value(h.address("v")) or 0.0


def direct_checks(holes: list[PlacedHole]) -> Iterator[Check]:
    """Faces that meet without a plate: every screw of the gearbox finds its thread in the
    engine.
    """
    engine = [h for h in holes if h.side == "engine" and h.hole.role == "bolt"]
    for g in holes:
        if g.side != "gearbox" or g.hole.role != "bolt" or not engine:
            continue
        e = min(engine, key=lambda x: float(np.hypot(x.u - g.u, x.v - g.v)))
        hole = max(g.plate_d, clearance_hole(e.d) or 0.0)
        yield check(
            id=f"mate.direct.{g.label}",
            title=f"Screw at {g.label} without a plate",
            value=formulas.direct_play,
            given=pair(e, g) | {"hole_mm": millimetres(hole), "d_mm": e.address("d")},
            stretch=between(e, g),
            at_least=plain.zero,
            says=f"Screw {g.label} finds thread {e.label} with {{value}} of play left",
            fouls=f"Screw {g.label} misses the nearest thread {e.label} by {{over}}",
            why="Without a plate each hole must meet its thread.",
        )


def checks(inputs: Inputs) -> Iterator[Check]:
    """Heads and play of the plate's screws, or the screws of faces that meet without one."""
    holes = placed_holes(inputs)
    if inputs.value("plate_mm") == 0.0:
        yield from direct_checks(holes)
        return
    yield from head_checks(inputs, holes, all_lands(inputs))
    yield from play_checks(inputs, holes)
    yield from by_hole.checks(inputs, holes)


def _named(labels: Iterable[str]) -> str:
    return ", ".join(labels)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What one cause explains, with its holes: what stands behind them, what no table and nobody
    tells of their screws, what locates the joints.
    """
    yield from by_hole.backing(inputs)
    holes = placed_holes(inputs)
    plated = inputs.value("plate_mm") != 0.0
    if plated:
        yield from by_hole.notices(inputs, holes)
    for side in SIDES if plated else ():
        bolts = [h for h in face_of(inputs, side).holes if h.role == "bolt"]
        sized = [(h, d) for h in bolts if (d := inputs.value(f"{side}.{h.n}.d"))]
        asked = (
            (
                "unsaid",
                "fastening is not said",
                "",
                [h for h, _ in sized if h.fastening is None],
                "A head, a nut or a thread decides what the plate gets there.",
            ),
            (
                "plate_hole",
                "no clearance hole in the table",
                ": type the hole in the plate",
                [
                    h
                    for h, d in sized
                    if h.fastening != "tapped" and plate_hole(inputs, side, h, d) is None
                ],
                "What the table lacks is not guessed.",
            ),
            (
                "head",
                "head not in the table",
                ": it is held to nothing",
                [
                    h
                    for h, d in sized
                    if h.fastening not in (None, "tapped") and head(h.fastening or "", d) is None
                ],
                "Its height and circle have to be measured and looked at by hand.",
            ),
            (
                "pitch",
                "pitch not told",
                ": drawing and table show the thread, not its drill",
                [
                    h
                    for h, _ in sized
                    if h.fastening == "tapped" and inputs.value(f"{side}.{h.n}.pitch") is None
                ],
                (
                    "A hole drilled at the thread's diameter holds no thread. Type its name, M10 x"
                    " 1.5 or 3/8-16, or its pitch."
                ),
            ),
        )
        for key, words, more, found, why in asked:
            if found:
                labels = _named(label_of(side, h.n) for h in found)
                yield notice(
                    f"mate.{key}.{side}",
                    "mate.screws",
                    f"{side.capitalize()} screws: {words}",
                    Verdict.UNMEASURED,
                    f"{labels}: {words}{more}",
                    why=why,
                )
        proud = [(h, size) for h in holes if h.side == side and (size := _proud_head(inputs, h))]
        unknown = [x for h, size in proud for x in _unknown_lands(inputs, h, size, holes)]
        near = dict.fromkeys(x.label for x in sorted(unknown, key=lambda x: x.hole.n))
        bare = (
            bool(proud)
            and not any(x.side != side for x in holes)
            and not all_lands(inputs)[OTHER_SIDE[side]]
        )
        if near or bare:
            what = (
                f"lands of {_named(near)} are not measured"
                if near
                else f"nothing of the {OTHER_SIDE[side]}'s face is known"
            )
            heads = _named(h.label for h, _ in proud)
            yield notice(
                f"mate.lands.{side}",
                "mate.screws",
                f"Heads under the {OTHER_SIDE[side]}",
                Verdict.UNMEASURED,
                f"Heads of {heads} may lie under the {OTHER_SIDE[side]}: {what}",
                why=(
                    "A head under the other casting holds the faces apart; it is seen upside down"
                    " and late."
                ),
            )


def _proud_head(inputs: Inputs, h: PlacedHole) -> Head | None:
    """The head of a screw that does not lie safely below the plate's face."""
    size = on_face(h.hole.fastening or "", h.d)
    if size is None or h.hole.role == "dowel":
        return None
    return (
        size
        if (inputs.value(h.address("recess")) or 0.0) - size.height
        < inputs.rules["head_sunk_min_mm"]
        else None
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """The face with its heads, and every screw with what is proposed for it."""
    made, holes = face_board("mate.screws")(inputs, seen), placed_holes(inputs)
    table = by_hole.table(inputs, holes)
    odd = odd_ones(screws(inputs))
    told = tuple(
        Note(text=f"{h.label}: {odd[h.label]:g} mm, the odd one", x=h.u + h.d, y=h.v - h.d)
        for h in holes
        if h.label in odd
    )
    drawings = tuple(replace(d, notes=(*d.notes, *told)) for d in made.drawings)
    made = replace(made, drawings=drawings)
    return replace(made, tables=(table,) if table.rows else ())


QUESTION = Question(
    path="screws",
    station=Station.MATE,
    name="Screws",
    asks="Does every head find room, every screw its thread, and metal behind it?",
    when=bellhoused,
    checks=checks,
    notices=notices,
    faces=("engine", "gearbox"),
    board=board,
    where="block face",
)
