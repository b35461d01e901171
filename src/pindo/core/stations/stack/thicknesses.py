"""Which plate and crank spacer to take: thicknesses that can be had, as they come or milled, beside
what the window leaves, with the shim that each wants. [mm]
"""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from pindo.core.geometry.stacking import stack_to
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.stack.pieces import Piece, made_u
from pindo.core.stations.stack.window_of import PLATE, SHIM, SPACER, Window, bounds_of, doubt
from pindo.core.tables import read_table

GRID = 0.1
"""Steps to which plates are milled and shims made. [mm]"""
BESIDE = 1.0
"""Plates beside the window that are looked at too. [mm]"""
STOCK = ("system", "thick_mm", "called")
WITHIN = 1e-9


@dataclass(frozen=True, kw_only=True)
class Blank:
    """A plate that can be had. [mm]"""

    thick: float
    called: str
    price: float | None = None
    wait: float | None = None
    row: str = ""
    """Its row in the list of sheets; empty for a thickness that is commonly sold."""


@dataclass(frozen=True, kw_only=True)
class Ring:
    """A crank spacer that can be had, or none. [mm]"""

    thick: float
    called: str
    price: float | None = None
    wait: float | None = None


@dataclass(frozen=True, kw_only=True)
class Candidate:
    """A plate and a crank spacer together, with the shim that they want."""

    blank: Blank
    plate: float
    """Its thickness when it is in the joint. [mm]"""
    milled: bool
    ring: Ring
    shim: float
    room: float
    """Least room of every check, less its doubt; negative where something does not surely go."""
    by: str
    """What leaves it."""
    finding: str
    most: float
    """The least room of every check with its doubt added."""

    @property
    def verdict(self) -> Verdict:
        """How the worst of the checks stands with it."""
        return (
            Verdict.FOULS if self.most < -WITHIN else Verdict.GOES if self.goes else Verdict.TIGHT
        )

    @property
    def goes(self) -> bool:
        """Whether everything surely goes with it."""
        return self.room >= -WITHIN


def blanks(inputs: Inputs) -> list[Blank]:
    """Plates of the build's own list, then the thicknesses that are commonly sold."""
    metal, found = inputs.options.get("plate_material", ""), []
    for sheet in inputs.build.sheets:
        thick = inputs.value(f"sheets.{sheet.n}.thick")
        if thick is None or (metal and sheet.material and sheet.material != metal):
            continue
        found.append(
            Blank(
                thick=thick,
                called=sheet.name or f"sheet {sheet.n}",
                price=inputs.value(f"sheets.{sheet.n}.price"),
                wait=inputs.value(f"sheets.{sheet.n}.wait"),
                row=f"sheets.{sheet.n}",
            )
        )
    own = {round(b.thick, 2) for b in found}
    sold = read_table("stock_thickness", *STOCK)
    return found + [
        Blank(thick=t, called=row["called"])
        for row in sold
        if round(t := float(row["thick_mm"]), 2) not in own
    ]


def _stocked(inputs: Inputs, use: str) -> list[tuple[float, str, float | None, float | None]]:
    """Pieces of the list of one use, each as often as there is one."""
    found = []
    for row in inputs.build.spacers:
        thick = inputs.value(f"spacers.{row.n}.thick")
        if row.use != use or thick is None:
            continue
        count = int(inputs.value(f"spacers.{row.n}.pieces") or 1)
        price, wait = (inputs.value(f"spacers.{row.n}.{f}") for f in ("price", "wait"))
        found += [(thick, row.name or f"piece {row.n}", price, wait)] * min(count, 12)
    return found


def _cores(inputs: Inputs) -> list[tuple[float, str, float | None]]:
    """Cores and offcuts of the list: thickness, name, diameter."""
    found = []
    for row in inputs.build.spacers:
        thick = inputs.value(f"spacers.{row.n}.thick")
        if row.use == "core or offcut" and thick is not None:
            across = inputs.value(f"spacers.{row.n}.across")
            found.append((thick, row.name or f"piece {row.n}", across))
    return found


def _wide_enough(inputs: Inputs, across: float | None) -> bool:
    """Whether a core holds a crank spacer: its bolts and metal round them."""
    circle = inputs.value("crank_pcd_mm")
    return (
        across is not None
        and circle is not None
        and across >= circle + 2.0 * inputs.rules["ring_edge_mm"]
    )


def rings(inputs: Inputs, found: Window) -> list[Ring]:
    """None at all, the one that is planned, those of the list alone and by twos, and the one of the
    window's middle.
    """
    none = Ring(thick=0.0, called="none")
    stock = _stocked(inputs, "crank spacer")
    made = [none, *(Ring(thick=t, called=c, price=p, wait=w) for t, c, p, w in stock)]
    for i, (a, name, *_) in enumerate(stock):
        made += [Ring(thick=a + b, called=f"{name} and {other}") for b, other, *_ in stock[i + 1 :]]
    now = inputs.value("crank_spacer_mm")
    least = inputs.rules["ring_least_mm"]
    cores = [(t, name) for t, name, wide in _cores(inputs) if _wide_enough(inputs, wide)]
    made += [Ring(thick=t, called=f"turned from {name}") for t, name in cores]

    def called(at: float) -> str:
        """What a ring of a thickness is turned from: the thinnest core that holds it."""
        thicker = sorted((t, name) for t, name in cores if t >= at)
        return f"turned from {thicker[0][1]}" if thicker else "to be made"

    if now:
        made.append(Ring(thick=now, called="as planned"))
    if found.middle is not None and (at := round(float(found.middle.at[SPACER]), 1)) >= least:
        made.append(Ring(thick=at, called=called(at)))
    elif found.middle is None and not found.free.empty:
        at = max(round(float(found.free.corners[:, SPACER].mean()), 1), least)
        made.append(Ring(thick=at, called=called(at)))
    return list({round(r.thick, 3): r for r in reversed(made)}.values())


@dataclass(frozen=True, kw_only=True)
class Rooms:
    """Least room over plates, rings: arrays of shape (plates, rings). [mm]"""

    room: np.ndarray
    which: np.ndarray
    """Index of the piece that leaves it."""
    shim: np.ndarray
    most: np.ndarray
    """Least room with the doubt added: below nought something fouls for certain."""


def rooms(
    inputs: Inputs,
    found: Window,
    known: tuple[Piece, ...],
    plates: np.ndarray,
    thick: np.ndarray,
    u_plate: float,
) -> Rooms:
    """The least room of the pieces ``known`` for all plates with all rings, each with the shim that
    leaves most: the present one where it is as good.
    """
    u = made_u()
    u[PLATE] = u_plate
    slope = np.array([p.slope for p in known])
    off = doubt(inputs, known, u)
    base = np.array([p.room for p in known]) - off
    at = base + plates[:, None, None] * slope[:, PLATE] + thick[None, :, None] * slope[:, SPACER]
    shimmed = np.flatnonzero(np.abs(slope[:, SHIM]) > WITHIN)
    still = at.copy()
    still[..., shimmed] = np.inf
    least, which = still.min(2), still.argmin(2)
    shim = np.full(least.shape, found.shim or 0.0)
    if len(shimmed):
        shims = _shims(found, at[..., shimmed], slope[shimmed, SHIM])
        moved = at[..., shimmed, None] + slope[shimmed, SHIM][:, None] * shims[:, :, None, :]
        worst = moved.min(2)
        worst[..., 0] += 1e-6  # the present one wins where another is no better
        best = np.minimum(worst, least[..., None]).argmax(2)
        shim = np.take_along_axis(shims, best[..., None], 2)[..., 0]
        room = np.take_along_axis(worst, best[..., None], 2)[..., 0]
        own = np.take_along_axis(moved.argmin(2), best[..., None], 2)[..., 0]
        which = np.where(room < least, shimmed[own], which)
        least = np.minimum(room, least)
    sure = (at + 2.0 * off + shim[..., None] * slope[:, SHIM]).min(2)
    return Rooms(room=least, which=which, shim=shim, most=sure)


def _shims(found: Window, at: np.ndarray, slope: np.ndarray) -> np.ndarray:
    """Shims of which one leaves most, shape (plates, rings, n), the present one first: the margins
    are straight, so it is an end or where a rising one meets a falling one, to the step.
    """
    low, high = bounds_of(SHIM).low, bounds_of(SHIM).high
    some = [np.full(at.shape[:2], x) for x in (found.shim or 0.0, low, high)]
    for i in np.flatnonzero(slope > 0.0):
        for j in np.flatnonzero(slope < 0.0):
            meet = (at[..., j] - at[..., i]) / (slope[i] - slope[j])
            some += [np.floor(meet / GRID) * GRID, np.ceil(meet / GRID) * GRID]
    return np.asarray(np.clip(np.stack(some, 2), low, high))


def candidates(inputs: Inputs, found: Window) -> list[Candidate]:
    """Every plate as it comes and, where it is thicker than is best, milled; with every ring; those
    with most room first, those that do not go last. At most one of each plate and way is kept: the
    ring that leaves most, the thinner one where two do.
    """
    known = found.pieces.where(lambda p: bool(np.abs(p.slope).max() > WITHIN))
    if not known:
        return []
    stock, own_rings = blanks(inputs), sorted(rings(inputs, found), key=lambda r: r.thick)
    thick = np.array([r.thick for r in own_rings])
    limits = bounds_of(PLATE)
    thickest = min(limits.high, max(b.thick for b in stock))
    # Where some shim leaves a window, the best plates lie in it: no others are looked at.
    wide = found.free.corners[:, PLATE]
    ends = (wide.min(), wide.max()) if len(wide) else (limits.low, thickest)
    low, high = max(limits.low, ends[0] - BESIDE), min(thickest, ends[1] + BESIDE)
    grid = np.arange(np.floor(low / GRID), high / GRID + 0.5) * GRID
    milled = rooms(inputs, found, known, grid, thick, float(made_u()[PLATE]))
    rolled = inputs.rules["rolled_pm_mm"] / 2.0
    as_it_is = rooms(inputs, found, known, np.array([b.thick for b in stock]), thick, rolled)
    made: list[Candidate] = []
    for i, blank in enumerate(stock):
        j = int((as_it_is.room[i] - 1e-6 * thick).argmax())
        made.append(_candidate(known, blank, blank.thick, False, own_rings[j], as_it_is, (i, j)))
        thinner = grid <= blank.thick - inputs.rules["planed_mm"] + WITHIN
        if not thinner.any():
            continue
        best = milled.room - 1e-6 * (thick[None, :] + grid[:, None] / 100.0)
        best[~thinner] = -np.inf
        k, j = (int(x) for x in np.unravel_index(int(best.argmax()), best.shape))
        if milled.room[k, j] > as_it_is.room[i].max() + 1e-6:
            made.append(
                _candidate(known, blank, float(grid[k]), True, own_rings[j], milled, (k, j))
            )
    return sorted(made, key=lambda c: (not c.goes, -round(c.room, 6), c.milled, c.plate))


def _candidate(
    known: tuple[Piece, ...],
    blank: Blank,
    plate: float,
    milled: bool,
    ring: Ring,
    of: Rooms,
    at: tuple[int, int],
) -> Candidate:
    check = known[int(of.which[at])].check
    return Candidate(
        blank=blank,
        plate=round(plate, 4),
        milled=milled,
        ring=ring,
        shim=round(float(of.shim[at]), 2),
        room=float(of.room[at]),
        by=check.title,
        finding=check.id,
        most=float(of.most[at]),
    )


def shortlist(found: Iterable[Candidate], most: int) -> list[Candidate]:
    """The first few, one milled plate of each thickness it is milled to: the one with least to take
    off, of the build's own list before one that is to be bought.
    """
    kept: list[Candidate] = []
    seen: dict[tuple[float, float], int] = {}
    for c in found:
        key = (round(c.plate, 2), c.ring.thick)
        if c.milled and key in seen:
            k = seen[key]
            if kept[k].milled and (not c.blank.row, c.blank.thick) < (
                not kept[k].blank.row,
                kept[k].blank.thick,
            ):
                kept[k] = c
            continue
        if c.milled:
            seen[key] = len(kept)
        kept.append(c)
    return kept[:most]


def shim_words(inputs: Inputs, found: Window, c: Candidate) -> str:
    """Which shims of the list lay up what a candidate wants."""
    if not any(abs(p.slope[SHIM]) > WITHIN for p in found.pieces.known):
        return ""
    if found.shim is not None and abs(c.shim - found.shim) < 1e-6:
        return "as it is"
    stock = _stocked(inputs, "shim under the slave")
    low, high = shim_interval(inputs, found, c.plate, c.ring.thick)
    if low > high + WITHIN:
        return "none does"
    taken = stack_to([t for t, *_ in stock], low, high, c.shim)
    if taken is None:
        cores = sorted((t, name) for t, name, _ in _cores(inputs) if t >= c.shim)
        if not c.shim:
            return "none"
        return f"cut from {cores[0][1]}" if cores else "to be made"
    if not taken:
        return "none"
    return " + ".join(f"{stock[i][0]:g}" for i in taken) + " mm from the list"


def shim_interval(inputs: Inputs, found: Window, plate: float, ring: float) -> tuple[float, float]:
    """The shims that go with a plate and a ring. [mm]"""
    known = found.pieces.known
    off = doubt(inputs, known, made_u())
    limits = bounds_of(SHIM)
    low, high = limits.low, limits.high
    for p, d in zip(known, off.tolist(), strict=True):
        a = float(p.slope[SHIM])
        rest = p.room - d + float(p.slope[PLATE]) * plate + float(p.slope[SPACER]) * ring
        if a > WITHIN:
            low = max(low, -rest / a)
        elif a < -WITHIN:
            high = min(high, rest / -a)
    return low, high
