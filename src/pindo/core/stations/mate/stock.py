"""What the plate is cut from, what is left of it, and in what order its holes are drilled."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

import shapely

from pindo.core.document.mate_rows import Sheet
from pindo.core.drawing.board import Column, Table, TableRow
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.plates import own_plates, own_thickness
from pindo.core.judging.notice import notice
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate.outline import plate_of
from pindo.core.stations.mate.placing import SIDES

KEY = "mate.plate"


@dataclass(frozen=True, kw_only=True)
class Blank:
    """The smallest rectangle that the plate is cut from, its longer side first. [mm]"""

    long: float
    wide: float
    thick: float | None


@dataclass(frozen=True, kw_only=True)
class Offer:
    """A sheet beside the blank."""

    sheet: Sheet
    holds: bool | None
    """None while a figure of it is missing."""
    why: str
    price: float | None
    left: float | None
    """Share of it that is not plate. [%]"""
    strips: tuple[tuple[float, float], ...]
    """Rectangles that are left, with the window's disc not among them. [mm]"""


def blank(inputs: Inputs) -> Blank | None:
    """What the plate, or the thicker of two, is sawn out of, turned so that it wants least; None
    without an outline.
    """
    shape = plate_of(inputs).outline
    if not shape:
        return None
    ring = shapely.get_coordinates(shapely.minimum_rotated_rectangle(shapely.Polygon(shape)))
    sides = sorted(math.dist(a, b) for a, b in pairwise(ring[:3]))
    round_ = 2.0 * inputs.rules["saw_margin_mm"]
    both = [own_thickness(inputs, side) for side in SIDES]
    known = [t for t in both if t]
    return Blank(
        long=sides[1] + round_,
        wide=sides[0] + round_,
        thick=max(known) if len(known) == len(both) else None,
    )


def _offer(inputs: Inputs, sheet: Sheet, want: Blank, area: float) -> Offer:
    at = {f: inputs.value(f"sheets.{sheet.n}.{f}") for f in ("long", "wide", "thick", "price")}
    sides = sorted(v for f in ("long", "wide") if (v := at[f]) is not None)
    thick, metal = at["thick"], inputs.options.get("plate_material", "")

    def offer(holds: bool | None, why: str) -> Offer:
        left: float | None = None
        strips: tuple[tuple[float, float], ...] = ()
        if holds and len(sides) == 2:
            wide, long = sides
            left = 100.0 * (1.0 - area / (wide * long))
            rest = ((long - want.long, wide), (want.long, wide - want.wide))
            strips = tuple((max(s), min(s)) for s in rest if min(s) >= 20.0)
        return Offer(sheet=sheet, holds=holds, why=why, price=at["price"], left=left, strips=strips)

    if len(sides) < 2 or thick is None or want.thick is None:
        return offer(None, "a size is wanting")
    if not sheet.material or not metal:
        return offer(None, "its metal is not said" if not sheet.material else "no metal is chosen")
    if sheet.material != metal:
        return offer(False, f"the plate is {metal}")
    if thick < want.thick - 1e-9:
        return offer(False, f"{want.thick - thick:.1f} mm too thin")
    if sides[1] < want.long - 1e-9 or sides[0] < want.wide - 1e-9:
        short = max(want.long - sides[1], want.wide - sides[0])
        return offer(False, f"{short:.0f} mm too short or narrow")
    over = thick - want.thick
    milled = over > inputs.rules["planed_mm"]
    return offer(True, f"{over:.1f} mm to be milled off" if milled else "as it is")


def offers(inputs: Inputs) -> list[Offer]:
    """Every sheet beside the plate, those that hold it first, the cheapest of them first."""
    want = blank(inputs)
    if want is None:
        return []
    area = shapely.Polygon(plate_of(inputs).outline).area
    found = [_offer(inputs, s, want, area) for s in inputs.build.sheets]
    order = {True: 0, None: 1, False: 2}
    return sorted(
        found,
        key=lambda o: (order[o.holds], math.inf if o.price is None else o.price, o.left or 0.0),
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Sheets of which none holds the plate."""
    found = offers(inputs)
    if found and not any(o.holds for o in found):
        unsaid = [o for o in found if o.holds is None]
        told = "; ".join(f"{o.sheet.name or f'sheet {o.sheet.n}'}: {o.why}" for o in found[:4])
        yield notice(
            "mate.stock",
            KEY,
            "Plate in stock",
            Verdict.UNMEASURED if unsaid else Verdict.FOULS,
            f"No sheet is known to hold the plate: {told}",
            why="Plate takes days to come: order by the blank's size.",
            row=f"sheets.{found[0].sheet.n}",
        )


def table(inputs: Inputs) -> Table:
    """The blank, and every sheet with what speaks for and against it."""
    want = blank(inputs)
    columns = (
        Column(key="sheet", label="cut from"),
        Column(key="long", label="length", kind="length", places=0),
        Column(key="wide", label="width", kind="length", places=0),
        Column(key="thick", label="thickness", kind="length", places=1),
        Column(key="price", label="price", kind="money", places=2),
        Column(key="fit", label="holds it"),
        Column(key="left", label="not plate", kind="percent", places=0),
        Column(key="strips", label="pieces left"),
    )
    rows = []
    if want is not None:
        rows.append(
            TableRow(
                cells=(
                    "at least",
                    want.long,
                    want.wide,
                    want.thick,
                    None,
                    "twice, the other thinner" if own_plates(inputs) else "saw margin in it",
                    None,
                    "",
                )
            )
        )
    for o in offers(inputs):
        at = [inputs.value(f"sheets.{o.sheet.n}.{f}") for f in ("long", "wide", "thick")]
        words = {True: "yes, ", False: "no, ", None: "open, "}[o.holds] + o.why
        strips = ", ".join(f"{a:.0f} x {b:.0f}" for a, b in o.strips)
        name = o.sheet.name or f"sheet {o.sheet.n}"
        rows.append(
            TableRow(
                cells=(name, *at, o.price, words, o.left, strips),
                address=f"sheets.{o.sheet.n}",
                mark={True: "goes", False: "fouls", None: "unmeasured"}[o.holds],
            )
        )
    hole = inputs.value("window_mm")
    disc = f"The window leaves a disc of {hole:.0f} mm less the saw's cut." if hole else ""
    return Table(key="stock", title="Cut from", columns=columns, rows=tuple(rows), note=disc)


def drilling(inputs: Inputs) -> Table:
    """Every hole in the order in which it is drilled."""
    columns = (
        Column(key="order", label="order", kind="count", places=0),
        Column(key="hole", label="hole"),
        Column(key="right", label="right", kind="length", places=2),
        Column(key="up", label="up", kind="length", places=2),
        Column(key="d", label="drill", kind="length", places=2),
        Column(key="what", label="for"),
        Column(key="recess", label="recess", kind="length", places=1),
        Column(key="recess_d", label="recess across", kind="length", places=1),
    )
    rows = tuple(
        TableRow(
            cells=(float(r.order), r.called, r.u, r.v, r.d, r.what, r.recess or None, r.recess_d)
        )
        for r in sorted(plate_of(inputs).drilling, key=lambda r: r.order)
    )
    note = (
        "Locating holes first: offer the plate up on its dowels before the rest is drilled. Right"
        " and up of the crank axis, seen from behind."
    )
    return Table(
        key="drilling",
        title="Drilled in this order",
        columns=columns,
        rows=rows,
        note=note,
        first=6,
    )
