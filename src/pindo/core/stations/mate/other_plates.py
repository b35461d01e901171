"""Mount plates and port plates: two patterns in one plate, with ports in place of a window.

Spacing and edge as for any plate (EN 1993-1-8, Table 3.3, from memory); ports of the two faces by
the area that they share, and by the land that a gasket has beside them.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import combinations

import shapely
from shapely import Polygon

from pindo.core.document.mate_rows import OtherPlate, PlateHole, PlatePort
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.fasteners import clearance_hole
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.threads import thread_words
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.verdict import Finding, Verdict, decide
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.common import SURE, Candidate, millimetres, worst
from pindo.core.stations.mate.outline import land_discs

KEY = "mate.plate"
FINE = 32
LETTERS = {"one face": "A", "the other": "B", "both": "AB"}
check = partial(Check, station=Station.MATE, question=KEY)


@dataclass(frozen=True, kw_only=True)
class Hole:
    """A hole with place and size. [mm]"""

    row: PlateHole
    at: str
    x: float
    y: float
    thread: float
    d: float
    """What the plate has here: clearance, thread, or locating size."""
    pitch: float | None
    pm: float

    @property
    def label(self) -> str:
        return f"{LETTERS[self.row.face]}{self.row.n}"


@dataclass(frozen=True, kw_only=True)
class Port:
    """A port with its region. [mm]"""

    row: PlatePort
    region: Polygon
    pm: float


@dataclass(frozen=True, kw_only=True)
class Known:
    """A plate as far as it is known."""

    row: OtherPlate
    holes: tuple[Hole, ...]
    ports: tuple[Port, ...]
    open: tuple[str, ...]
    """Holes and ports without place or size, in words."""
    outline: Polygon | None

    @property
    def name(self) -> str:
        return self.row.name or f"{self.row.kind} {self.row.n}"


def _values(inputs: Inputs, at: str, fields: Sequence[str]) -> list[tuple[float, float]] | None:
    found = [inputs.quantities.get(f"{at}.{f}") for f in fields]
    known = [(q.value, q.pm) for q in found if q is not None and q.value is not None]
    return known if len(known) == len(fields) else None


def _hole(inputs: Inputs, n: int, row: PlateHole) -> Hole | None:
    at = f"plates.{n}.holes.{row.n}"
    told = _values(inputs, at, ("x", "y", "d"))
    if told is None or told[2][0] <= 0.0:
        return None
    (x, u), (y, v), (thread, _) = told
    through = row.how not in ("tapped", "locating")
    pitch = parse(row.d or "", "thread").pitch
    d = clearance_hole(thread) if through else thread
    if d is None:
        return None
    return Hole(
        row=row,
        at=at,
        x=x,
        y=y,
        thread=thread,
        d=d,
        pitch=pitch,
        pm=math.hypot(u, v),
    )


def _port(inputs: Inputs, n: int, row: PlatePort) -> Port | None:
    at = f"plates.{n}.ports.{row.n}"
    told = _values(inputs, at, ("x", "y", "wide"))
    if told is None or told[2][0] <= 0.0:
        return None
    (x, u), (y, v), (wide, w) = told
    tall = inputs.value(f"{at}.tall") if row.tall else wide
    if not tall or tall <= 0.0:
        return None
    # A slot with round ends about the line between the middles of its ends.
    r = min(wide, tall) / 2.0
    dx, dy = wide / 2.0 - r, tall / 2.0 - r
    line = shapely.LineString([(x - dx, y - dy), (x + dx, y + dy)])
    region = (line if dx or dy else shapely.Point(x, y)).buffer(r, quad_segs=FINE)
    return Port(row=row, region=region, pm=math.hypot(u, v, w / 2.0))


def known(inputs: Inputs, row: OtherPlate) -> Known:
    """A plate with the holes and ports that have place and size."""
    holes = [(h, _hole(inputs, row.n, h)) for h in row.holes]
    ports = [(p, _port(inputs, row.n, p)) for p in row.ports]
    found = tuple(h for _, h in holes if h is not None)
    margin = inputs.value(f"plates.{row.n}.margin")
    outline = None
    if margin is not None and len(found) >= 2:
        discs = land_discs(tuple((h.x, h.y, h.d) for h in found))
        regions = [p.region for _, p in ports if p is not None]
        outline = shapely.union_all([discs, *regions]).convex_hull.buffer(margin, quad_segs=FINE)
    return Known(
        row=row,
        holes=found,
        ports=tuple(p for _, p in ports if p is not None),
        open=tuple(
            [f"hole {h.n}" for h, there in holes if there is None]
            + [f"port {p.n}" for p, there in ports if there is None]
        ),
        outline=outline,
    )


def every(inputs: Inputs) -> list[Known]:
    """Every plate of the list."""
    return [known(inputs, row) for row in inputs.build.plates]


def _spacing(p: Known, a: Hole, b: Hole) -> Check:
    return check(
        id=f"mate.other.{p.row.n}.spacing.{a.label}-{b.label}",
        title=f"Spacing of {a.label} and {b.label}, {p.name}",
        value=formulas.centre_distance,
        given={
            "u1_mm": f"{a.at}.x",
            "v1_mm": f"{a.at}.y",
            "u2_mm": f"{b.at}.x",
            "v2_mm": f"{b.at}.y",
            "turn1_deg": Constant(0.0),
            "turn2_deg": Constant(0.0),
            "d0_mm": millimetres(max(a.d, b.d)),
        },
        at_least=formulas.spacing_wanted,
        says=f"Holes {a.label} and {b.label} are {{value}} apart; need {{limit}}",
        why="The metal between two holes has to carry both screws.",
    )


def rim(margin_mm: float, d_mm: float) -> float:
    """Edge distance of a hole that the outline goes round: half of it and the margin. [mm]"""
    return margin_mm + d_mm / 2.0


def checks(inputs: Inputs) -> Iterator[Check]:
    """Spacing, edges, threads of every plate."""
    factor = inputs.rules["hole_spacing_factor"]
    for p in every(inputs):
        pairs = [
            Candidate(
                math.hypot(a.x - b.x, a.y - b.y) - factor * max(a.d, b.d),
                SURE * math.hypot(a.pm, b.pm),
                partial(_spacing, p, a, b),
            )
            for a, b in combinations(p.holes, 2)
        ]
        yield from worst(pairs)
        if p.holes:
            big = max(p.holes, key=lambda h: h.d)
            yield check(
                id=f"mate.other.{p.row.n}.edge",
                title=f"Metal round the holes of {p.name}",
                value=rim,
                given={
                    "margin_mm": f"plates.{p.row.n}.margin",
                    "d_mm": millimetres(big.d),
                    "d0_mm": millimetres(big.d),
                },
                at_least=formulas.edge_wanted,
                says=(
                    f"Hole {big.label} stands {{value}} from the edge of its plate; needs {{limit}}"
                ),
                why="A hole too near an edge tears out.",
            )
        tapped = [h for h in p.holes if h.row.how == "tapped"]
        if tapped:
            h = max(tapped, key=lambda h: h.thread)
            aluminium = p.row.material != "steel"
            yield check(
                id=f"mate.other.{p.row.n}.thread",
                title=f"Thread in {p.name}",
                value=plain_thickness,
                given={
                    "thick_mm": f"plates.{p.row.n}.thick",
                    "factor": "thread_aluminium_factor" if aluminium else "thread_steel_factor",
                    "d_mm": millimetres(h.thread),
                },
                at_least=formulas.times_diameter,
                says=(
                    f"{thread_words(h.thread, h.pitch)} at {h.label} has {{value}} of thread"
                    f" ({p.row.material or 'metal not said: as aluminium'}); needs {{limit}}"
                ),
                why="The screw should break before the thread strips.",
            )


def plain_thickness(thick_mm: float) -> float:
    """Thickness of a plate. [mm]"""
    return thick_mm


def notices(inputs: Inputs) -> Iterator[Finding]:
    """What has no place yet, ports that do not meet, lands that are too narrow."""
    for p in every(inputs):
        at = f"mate.other.{p.row.n}"
        if p.open or not p.row.holes:
            what = ", ".join(p.open) or "its holes"
            yield notice(
                f"{at}.open",
                KEY,
                f"{p.name[0].upper()}{p.name[1:]}, what is wanting",
                Verdict.UNMEASURED,
                f"Place, and a size that the tables know, are wanting of {what}",
                why="What is not measured is not checked.",
                row=f"plates.{p.row.n}",
            )
        yield from _overlaps(inputs, p)
        yield from _lands(inputs, p)


def _overlaps(inputs: Inputs, p: Known) -> Iterator[Finding]:
    """Each port of the one face against the nearest of the other."""
    own, other = ([x for x in p.ports if x.row.face == face] for face in ("one face", "the other"))
    share_wanted = inputs.rules["port_overlap_share"]
    for a in own:
        b = min(other, key=lambda x: x.region.centroid.distance(a.region.centroid), default=None)
        id, title = f"mate.other.{p.row.n}.port.{a.row.n}", f"Port {a.row.n} of {p.name}"
        if b is None:
            yield notice(
                id,
                KEY,
                title,
                Verdict.UNMEASURED,
                f"Port {a.row.n} has no partner on the other face yet",
                why="A port that ends at metal lets nothing through.",
            )
            continue
        small = min(a.region.area, b.region.area)
        share = float(a.region.intersection(b.region).area) / small
        # A shift by its doubt costs at most so much of the smaller port.
        across = math.sqrt(4.0 * small / math.pi)
        u = math.hypot(a.pm, b.pm) * across / small
        factor = inputs.rules["guard_band_factor"] / 2.0
        yield notice(
            id,
            KEY,
            title,
            decide(share - share_wanted, factor * u),
            f"Port {a.row.n} meets port {b.row.n} of the other face with {100 * share:.0f} % of the"
            f" smaller (± {100 * u:.0f} %); needs {100 * share_wanted:.0f} %",
            why="A step in a port is a step in the flow, and a place where a gasket hangs in.",
        )


def _lands(inputs: Inputs, p: Known) -> Iterator[Finding]:
    """The narrowest land of a gasket on each face: port to port, to hole, to the edge."""
    wanted, found = inputs.rules["gasket_land_mm"], []
    for face in ("one face", "the other"):
        ports = [x for x in p.ports if x.row.face in (face, "both")]
        for a, b in combinations(ports, 2):
            found.append(
                (a.region.distance(b.region), a.pm + b.pm, f"ports {a.row.n} and {b.row.n}")
            )
        for a in ports:
            for h in p.holes:
                land = a.region.distance(shapely.Point(h.x, h.y)) - h.d / 2.0
                found.append((land, a.pm + h.pm, f"port {a.row.n} and hole {h.label}"))
            if p.outline is not None:
                land = a.region.distance(p.outline.exterior)
                pm = inputs.quantities[f"plates.{p.row.n}.margin"].pm
                found.append((land, a.pm + pm, f"port {a.row.n} and the plate's edge"))
    if found:
        land, pm, what = min(found, key=lambda f: f[0])
        yield notice(
            f"mate.other.{p.row.n}.land",
            KEY,
            f"Gasket of {p.name}",
            decide(land - wanted, inputs.rules["guard_band_factor"] / 2.0 * pm),
            in_both(
                "Between {at} a gasket has {land} of land (± {pm}); needs {wanted}",
                what,
                1,
                land=land,
                pm=pm,
                wanted=wanted,
            ),
            why="A narrow land is blown out.",
        )
