"""What a question shows, as data: pictures, tables, charts, figures to read off, bodies in space.

The screen has one component for each of these and the sheet one routine; neither knows a question
by name.
"""

from dataclasses import dataclass

from pindo.core.drawing.shapes import Chart, Drawing
from pindo.core.geometry.shapes.shape import Mesh

Cell = str | float | tuple[str | float, ...] | None


@dataclass(frozen=True, kw_only=True)
class Column:
    """A column of a table: words, or numbers of a kind in its base unit."""

    key: str
    label: str
    kind: str = ""
    """Kind of its numbers; empty for words."""
    places: int | None = None
    """Decimals in the base unit; None as the kind has them."""


@dataclass(frozen=True, kw_only=True)
class TableRow:
    """A row of a table; ``finding`` and ``address`` are what it leads to, ``mark`` its verdict."""

    cells: tuple[Cell, ...]
    finding: str = ""
    address: str = ""
    mark: str = ""


@dataclass(frozen=True, kw_only=True)
class Table:
    """Rows under heads."""

    key: str
    title: str
    columns: tuple[Column, ...]
    rows: tuple[TableRow, ...]
    note: str = ""
    first: int = 0
    """Rows that are shown at first; 0 for all."""
    of_record: bool = False
    """Whether the hand-over report holds it."""
    paper_only: bool = False
    """Whether it is for the sheet, since the screen has an instrument for it."""


@dataclass(frozen=True, kw_only=True)
class Reading:
    """A figure to read off."""

    name: str
    value: float
    kind: str
    pm: float | None = None
    ordered: bool = False
    """Whether something is ordered or cut to it: it is told when it changes."""
    part: str = ""
    """The part that is ordered to it."""
    places: int | None = None


@dataclass(frozen=True, kw_only=True)
class Solid3D:
    """A body for the scene: its form, turn and place in the vehicle."""

    n: int
    name: str
    body: str
    ink: str
    """How it is told from others: engine, chassis, hot, steering, sheet."""
    mesh: Mesh
    turn: tuple[float, ...]
    """Row by row, 9 numbers [-]."""
    place: tuple[float, float, float]
    """[mm]"""


@dataclass(frozen=True, kw_only=True)
class Against:
    """One thing that stands against a row, and what it takes to get it out of the way."""

    todo: str
    """cure, measure, close, fit, do first, or put right."""
    text: str
    finding: str = ""
    """Id of the finding that it is."""
    row: str = ""
    """Address of the row that it is: ``joints.2``."""


@dataclass(frozen=True, kw_only=True)
class RowState:
    """How a row of the question's list stands: a step that waits."""

    n: int
    status: str
    waits_for: tuple[int, ...] = ()
    no_hold: tuple[int, ...] = ()
    """Of those, the ones that would give the hold to tighten against."""
    against: tuple[Against, ...] = ()
    """What stands against it."""


@dataclass(frozen=True, kw_only=True)
class Gap3D:
    """The stretch in space that a finding speaks of, between two points of the vehicle. [mm]"""

    finding: str
    p: tuple[float, float, float]
    q: tuple[float, float, float]
    gap: float
    mark: str
    """Its verdict."""


@dataclass(frozen=True, kw_only=True)
class Scene:
    """Bodies in space, and what is tight between them."""

    solids: tuple[Solid3D, ...] = ()
    gaps: tuple[Gap3D, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Begin:
    """What a question that nothing is known of is begun with."""

    address: str
    name: str
    letter: str
    tool: str
    how: str
    reason: str


@dataclass(frozen=True, kw_only=True)
class Board:
    """All that a question shows beside its ledger, its lists and its findings."""

    drawings: tuple[Drawing, ...] = ()
    tables: tuple[Table, ...] = ()
    charts: tuple[Chart, ...] = ()
    readings: tuple[Reading, ...] = ()
    scene: Scene | None = None
    row_states: tuple[RowState, ...] = ()
    begin: tuple[Begin, ...] = ()
    """What it is begun with, while nothing that it asks for is known."""
    beside: bool = False
    """Whether its first two pictures are looked at together."""
    failed: bool = False
    """Whether Pindo failed at it: the trace is in its log."""
