"""A picture as data, in millimetres: what a board, a sheet and an export all draw from.

x to the right, y up. Which way x points in the real world is said in ``view``. Nothing here knows
pixels.
"""

from dataclasses import dataclass, field

Point = tuple[float, float]


FINE = 3  # decimals of a millimetre in a picture


@dataclass(frozen=True, kw_only=True)
class Shape:
    """A polygon or line of one part; ``known`` is False where a missing size was drawn at a
    usual one.
    """

    part: str
    points: tuple[Point, ...]
    style: str = "cut"
    """cut (hatched metal), body, thin, opening, axis, grid, ground, hidden, cutline."""
    closed: bool = True
    known: bool = True
    label: str = ""
    """Its name, where the picture writes names on bodies."""

    def __post_init__(self) -> None:
        # To the micrometre: what is finer nobody sees, and it would be most of what is sent.
        fine = tuple((round(x, FINE), round(y, FINE)) for x, y in self.points)
        object.__setattr__(self, "points", fine)


@dataclass(frozen=True, kw_only=True)
class Round:
    """A circle: a hole, a land, a wheel."""

    part: str
    x: float
    y: float
    d: float
    style: str = "hole"
    """hole, tapped, dowel, head, land, opening, wheel, joint."""
    label: str = ""
    known: bool = True


@dataclass(frozen=True, kw_only=True)
class Callout:
    """Where a dimension shows: its letter and the point that it speaks of."""

    letter: str
    address: str
    x: float
    y: float
    stretch: tuple[float, float, float, float] | None = None
    """The two ends between which it is measured: x, y of both. [mm]"""
    from_axis: bool = False
    """Whether it is a diameter of which the picture shows the half above the axis."""


@dataclass(frozen=True, kw_only=True)
class Gap:
    """The stretch that a finding speaks of."""

    finding: str
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True, kw_only=True)
class Handle:
    """A place to drag: along x, round the origin, or both ways where a second dimension follows
    y.
    """

    address: str
    name: str
    x: float
    y: float
    turns: bool
    value: float
    low: float
    high: float
    step: float
    sense: float = 1.0
    """+1 when the dimension grows to the right of the picture, -1 when it grows to the left."""
    address_y: str = ""
    value_y: float = 0.0
    sense_y: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Note:
    """A word in the picture."""

    text: str
    x: float
    y: float


@dataclass(frozen=True, kw_only=True)
class Drawing:
    """A whole picture with its extents [mm]."""

    view: str
    """Where it is seen from, and what its axes are."""
    name: str = ""
    """What it is called beside others of one board."""
    two_sided: bool = False
    """Whether it may be looked at from the other side, mirrored."""
    rules: bool = False
    """Whether x is a length that people read off: a ruler is drawn."""
    x_low: float
    x_high: float
    y_low: float
    y_high: float
    shapes: tuple[Shape, ...] = ()
    rounds: tuple[Round, ...] = ()
    callouts: tuple[Callout, ...] = ()
    gaps: tuple[Gap, ...] = ()
    handles: tuple[Handle, ...] = ()
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Series:
    """One line of a chart."""

    name: str
    kind: str
    values: tuple[float | None, ...]
    """None where nobody can say."""
    limit: float | None = None


@dataclass(frozen=True, kw_only=True)
class Band:
    """A stretch of a chart's variable that goes."""

    low: float
    high: float


@dataclass(frozen=True, kw_only=True)
class Chart:
    """Lines over one variable: angles and slip over the axle's travel, room over the clocking."""

    title: str
    x_name: str
    x_kind: str = "length"
    x: tuple[float, ...]
    series: tuple[Series, ...]
    bands: tuple[Band, ...] = ()
    at: float | None = None
    """Where it stands now."""
    sets: str = ""
    """Address of the size that the variable is, where it may be tried from the chart."""
    step: float = 1.0
    """Steps in which it is tried."""


@dataclass
class Usual:
    """Reads dimensions for a picture; a missing one is drawn at a usual size and remembered."""

    values: dict[str, float | None]
    usual: dict[str, float]
    missing: set[str] = field(default_factory=set)

    def __call__(self, key: str) -> float:
        value = self.values.get(key)
        if value is None:
            self.missing.add(key)
            return self.usual[key]
        return value

    def known(self, *keys: str) -> bool:
        return not any(self.values.get(key) is None for key in keys)


def box(x1: float, x2: float, y1: float, y2: float) -> tuple[Point, ...]:
    """Corners of a rectangle."""
    return ((x1, y1), (x2, y1), (x2, y2), (x1, y2))
