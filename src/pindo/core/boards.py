"""The pictures and tables that go with an assessment, one set a station."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pindo.core.assemble.fasteners import Screw, Tightening, screws, tightening
from pindo.core.assemble.steps import HoldPoints, OpenItem, StepState, hold_points, open_items, step_states
from pindo.core.assess import Assessment, worst_first
from pindo.core.build import Build
from pindo.core.clear.checks import pair_states
from pindo.core.clear.solids import placed_solids
from pindo.core.clear.views import BeltRow, PairRow, SceneSolid, belt_view, clear_view, pair_rows, scene
from pindo.core.dimensions import Station
from pindo.core.drawing import Chart, Drawing
from pindo.core.line.checks import orders
from pindo.core.line.view import chain_facts, line_view, travel_chart
from pindo.core.log.checks import minutes_worked
from pindo.core.log.money import Totals, totals
from pindo.core.mate.face_view import face_view
from pindo.core.mate.plate import Plate, plate
from pindo.core.profile import profile
from pindo.core.resolve import Inputs, resolve
from pindo.core.seat.mounts import CASES
from pindo.core.seat.views import ModeRow, MountRow, Readout, mode_rows, mount_rows, readouts, seat_view
from pindo.core.stack.section import section
from pindo.core.verdict import Verdict
from pindo.core.views import VIEWS

MOST_FLAGS = 4


@dataclass(frozen=True, kw_only=True)
class Order:
    """A length that is ordered from a maker. [mm], or pitches for a chain"""

    name: str
    value: float
    pm: float


@dataclass(frozen=True, kw_only=True)
class Boards:
    """Drawings by station, the profile strip in both views, and the tables that belong to them."""

    profile: Drawing
    plan: Drawing
    mate: Drawing
    stack: Drawing
    seat: dict[str, Drawing]
    line: Drawing
    clear: dict[str, Drawing]
    plate_mass_kg: float | None
    shared: tuple[tuple[str, str], ...]
    readouts: tuple[Readout, ...]
    mount_rows: tuple[MountRow, ...]
    cases: tuple[str, ...]
    """Load cases, in the order of the mounts' movements."""
    modes: tuple[ModeRow, ...]
    chart: Chart | None
    orders: tuple[Order, ...]
    facts: tuple[tuple[str, float, str], ...]
    scene: tuple[SceneSolid, ...]
    pairs: tuple[PairRow, ...]
    pair_count: int
    pairs_unmeasured: int
    """Pairs that cannot be judged: a solid that is not placed, or figures that do not count."""
    belt: Drawing | None
    belt_rows: tuple[BeltRow, ...]
    belt_length_mm: float | None
    steps: tuple[StepState, ...]
    tightening: tuple[Tightening, ...]
    screws: tuple[Screw, ...]
    open_items: tuple[OpenItem, ...]
    holds: HoldPoints
    totals: Totals
    minutes_worked: float
    """All hours as they were typed. [min]"""


def boards(build: Build, assessment: Assessment, today: str = "") -> Boards:
    """Pictures of a build; see :func:`boards_of`."""
    return boards_of(resolve(build), assessment, today)


def boards_of(inputs: Inputs, assessment: Assessment, today: str = "") -> Boards:
    """Pictures of a build with the findings of ``assessment`` marked in them; ``today`` is what waivers are held against."""
    parts = {name: value for make in _PARTS.values() for name, value in make(inputs, assessment, today).items()}
    return Boards(**_common(inputs, assessment), **parts)


def boards_at(inputs: Inputs, assessment: Assessment, station: Station, today: str = "") -> dict[str, Any]:
    """The fields of :class:`Boards` that are looked at from one station: its own and the profile's. For a trial."""
    make = _PARTS.get(station)
    return _common(inputs, assessment) | (make(inputs, assessment, today) if make else {})


def _common(inputs: Inputs, assessment: Assessment) -> dict[str, Any]:
    build = inputs.build
    opened = [f for f in worst_first(assessment.findings) if f.verdict in (Verdict.FOULS, Verdict.TIGHT)]
    # One flag a station, worst first: four findings of one place would cover each other.
    flags = list({f.station: f for f in reversed(opened)}.values())[:MOST_FLAGS]
    return {"profile": profile(inputs, build, flags), "plan": profile(inputs, build, flags, "plan"), "open_items": tuple(open_items(inputs))}


def _mate(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    made: Plate = plate(inputs)
    open_ids = tuple(f.id for f in worst_first(assessment.findings) if f.verdict in (Verdict.FOULS, Verdict.TIGHT))
    return {"mate": face_view(inputs, made, open_ids), "plate_mass_kg": made.mass_kg, "shared": made.shared}


def _stack(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    return {"stack": section(inputs)}


def _seat(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    placed = placed_solids(inputs)
    return {
        "seat": {view: seat_view(inputs, view, placed) for view in VIEWS},
        "readouts": tuple(readouts(inputs)),
        "mount_rows": tuple(mount_rows(inputs)),
        "cases": CASES,
        "modes": tuple(mode_rows(inputs)),
    }


def _line(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    wanted = tuple(Order(name=name, value=value, pm=pm) for name, value, pm in orders(inputs))
    return {"line": line_view(inputs), "chart": travel_chart(inputs), "orders": wanted, "facts": chain_facts(inputs)}


def _clear(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    placed, states = placed_solids(inputs), pair_states(inputs)
    rows = pair_rows(inputs, states, {f.id: f.verdict.value for f in assessment.findings})
    belt, belt_rows, belt_length = belt_view(inputs)
    views = {view: clear_view(inputs, view, placed, rows) for view in VIEWS}
    unit = sum(s.body != "chassis" for s in inputs.build.solids)
    every = unit * (len(inputs.build.solids) - unit)
    unmeasured = every - len(states) + sum(s.verdict == Verdict.UNMEASURED for s in states)
    return {"pairs_unmeasured": unmeasured, "clear": views, "scene": scene(placed), "pairs": rows, "pair_count": len(states), "belt": belt, "belt_rows": belt_rows, "belt_length_mm": belt_length}


def _assemble(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    return {
        "holds": hold_points(inputs, assessment.findings),
        "steps": tuple(step_states(inputs, assessment.findings, today)),
        "tightening": tuple(tightening(inputs)),
        "screws": tuple(screws(inputs)),
    }


def _log(inputs: Inputs, assessment: Assessment, today: str) -> dict[str, Any]:
    return {"totals": totals(inputs), "minutes_worked": minutes_worked(inputs)}


_PARTS: Mapping[Station, Callable[[Inputs, Assessment, str], dict[str, Any]]] = {
    Station.MATE: _mate, Station.STACK: _stack, Station.SEAT: _seat, Station.LINE: _line, Station.CLEAR: _clear, Station.ASSEMBLE: _assemble, Station.LOG: _log,
}  # fmt: skip
