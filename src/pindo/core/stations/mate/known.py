"""Known patterns laid on the measured ones: those of castings on the shelf, and the gearbox's on
the engine's, for a bell that may go on without a plate.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from pindo.core.document.faces import Hole
from pindo.core.drawing.board import Column, Table, TableRow
from pindo.core.geometry.registration import Match, Passing, laid, passing, register
from pindo.core.inputs.faces import resolve_face
from pindo.core.inputs.fasteners import clearance_hole
from pindo.core.inputs.inputs import Inputs
from pindo.core.stations.mate.placing import face_of, label_of

NEAR_MM = 4.0
"""Holes of two patterns that are nearer than this may be meant as one."""


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """Bolt holes of a casting with place and size. [mm]"""

    name: str
    labels: tuple[str, ...]
    at: np.ndarray
    play: tuple[float, ...]
    """How far a screw may stand off the middle of its hole."""


def _play(hole: Hole, d: float) -> float:
    """Fixed fastener T = (H - F)/2, floating H - F (ASME Y14.5): a nut behind gives both holes'
    clearance. [mm]
    """
    half = ((clearance_hole(d) or d) - d) / 2.0
    return 2.0 * half if hole.fastening == "nut" else half


def fitted(inputs: Inputs, side: str) -> Pattern:
    """The measured pattern of a side, as told: the gearbox upright."""
    rows = []
    for h in face_of(inputs, side).holes:
        u, v, d = (inputs.value(f"{side}.{h.n}.{f}") for f in ("u", "v", "d"))
        if h.role == "bolt" and u is not None and v is not None:
            rows.append((label_of(side, h.n), (u, v), _play(h, d) if d else 0.0))
    return _pattern(side, rows)


def _pattern(name: str, rows: list[tuple[str, tuple[float, float], float]]) -> Pattern:
    return Pattern(
        name=name,
        labels=tuple(r[0] for r in rows),
        at=np.array([r[1] for r in rows]).reshape(-1, 2),
        play=tuple(r[2] for r in rows),
    )


def shelved(inputs: Inputs) -> Iterator[tuple[str, Pattern]]:
    """Patterns of castings on the shelf, each with the side that it is one of."""
    for card in inputs.build.parts:
        if card.face is None or card.fitted or card.kind not in ("engine", "gearbox"):
            continue
        read = resolve_face("shelf", card.face)
        rows = []
        for h in card.face.holes:
            u, v, d = (read[f"shelf.{h.n}.{f}"].value for f in ("u", "v", "d"))
            if h.role == "bolt" and u is not None and v is not None:
                rows.append((str(h.n), (u, v), _play(h, d) if d else 0.0))
        yield card.kind, _pattern(card.name or f"part {card.n}", rows)


@dataclass(frozen=True, kw_only=True)
class Laid:
    """A known pattern on a measured one."""

    of: str
    on: str
    match: Match
    through: Passing
    labels: tuple[tuple[str, str], ...]
    holes: int
    """Bolt holes of the known pattern."""

    @property
    def failing(self) -> list[str]:
        """Screws that do not pass, by the measured hole."""
        return [a for (a, _), room in zip(self.labels, self.through.room, strict=True) if room < 0]


def lay(fixed: Pattern, moving: Pattern, *, on_axis: bool, mirrored: bool) -> Laid | None:
    """A pattern laid on another; None where fewer than three holes meet."""
    match = register(fixed.at, moving.at, NEAR_MM, mirrored=mirrored, on_axis=on_axis)
    if match is None:
        return None
    i, j = (list(p) for p in zip(*match.pairs, strict=True))
    there = laid(moving.at, match.turn_deg, np.array(match.shift), mirrored)[j]
    play = [fixed.play[k] for k in i]
    return Laid(
        of=moving.name,
        on=fixed.name,
        match=match,
        through=passing(fixed.at[i], there, play, on_axis=on_axis),
        labels=tuple((fixed.labels[a], moving.labels[b]) for a, b in match.pairs),
        holes=len(moving.labels),
    )


def every(inputs: Inputs) -> list[Laid]:
    """Every known pattern as it lies best on the measured one, and mirrored where that fits more
    holes; the gearbox's on the engine's about the crank axis.
    """
    return inputs.once("known patterns", lambda: list(_every(inputs)))


def _every(inputs: Inputs) -> Iterator[Laid]:
    own = {side: fitted(inputs, side) for side in ("engine", "gearbox")}
    direct = lay(own["engine"], own["gearbox"], on_axis=True, mirrored=False)
    if direct is not None and len(direct.match.pairs) == len(own["gearbox"].labels):
        yield direct
    for side, pattern in shelved(inputs):
        plain, other = (lay(own[side], pattern, on_axis=False, mirrored=m) for m in (False, True))
        found = [x for x in (plain, other) if x is not None]
        if found:
            yield max(found, key=lambda x: (len(x.match.pairs), -x.match.rms))


def _words(x: Laid) -> str:
    failing = x.failing
    if not failing:
        return "all pass"
    cured = x.through.cured_by
    told = f"{', '.join(failing)} do not pass" if len(failing) > 1 else f"{failing[0]} does not"
    if cured is None:
        return told
    hole = x.labels[cured][0]
    return f"{told}; {hole} opened by {2.0 * x.through.opened_to:.1f} mm lets all pass"


def table(inputs: Inputs) -> Table:
    """What lies on what, how far turned and shifted, and which screws pass."""
    columns = (
        Column(key="of", label="known pattern"),
        Column(key="on", label="on the"),
        Column(key="met", label="holes that meet"),
        Column(key="turn", label="turned", kind="angle", places=1),
        Column(key="right", label="shifted right", kind="length", places=2),
        Column(key="up", label="up", kind="length", places=2),
        Column(key="worst", label="worst off", kind="length", places=2),
        Column(key="pass", label="screws"),
    )
    rows = []
    for x in every(inputs):
        all_met = len(x.match.pairs) == x.holes
        words = _words(x)
        if x.match.mirrored:
            words = f"mirrored: it was taken from the other side; {words}"
        whole = all_met and not x.failing and not x.match.mirrored
        curable = all_met and x.through.cured_by is not None
        rows.append(
            TableRow(
                cells=(
                    x.of,
                    x.on,
                    f"{len(x.match.pairs)} of {x.holes}",
                    x.match.turn_deg + x.through.turn_deg,
                    x.match.shift[0] + x.through.shift[0],
                    x.match.shift[1] + x.through.shift[1],
                    x.match.worst,
                    words,
                ),
                mark="goes" if whole else "tight" if curable else "fouls",
            )
        )
    note = (
        "Turned clockwise from behind, shifted as the screws pass best. A pattern that is known to"
        " be another's proves nothing of this one: measure what does not meet."
    )
    title = "Known patterns laid on the measured ones"
    return Table(key="known", title=title, columns=columns, rows=tuple(rows), note=note)
