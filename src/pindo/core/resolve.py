"""From what was said to the number that stands: takes, scatter, ladder, lapse, contradiction.

Every input of every check is resolved here to one :class:`Resolved`, or to the reason why it has no value.
"""

import math
from collections.abc import Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import lru_cache
from types import MappingProxyType
from typing import Any

import numpy as np

from pindo.core.build import Build, Dimension, Face, Statement
from pindo.core.dimensions import DIMENSIONS, LEDGERS, Station
from pindo.core.evidence import TAKEN_WITH_A_TOOL, Source, State, Tool, default_pm, rank
from pindo.core.frames import POSE, YAW_DEG, face_u
from pindo.core.quantity import EntryError, parse, typed_resolution
from pindo.core.rows import LISTS, MeasuredRow, Row, figures
from pindo.core.rules import RULES
from pindo.core.seat.pose import FittedPose, NoPose, fit_pose
from pindo.core.typed import Evidence


class Status(StrEnum):
    STANDING = "standing"
    MISSING = "missing"
    WORD = "word"
    LAPSED = "lapsed"
    CONTRADICTION = "contradiction"
    BAD_ENTRY = "bad entry"


@dataclass(frozen=True, kw_only=True, eq=False)
class Resolved:
    """One input: its value and ± in the base unit of its kind, or why it has none.

    Compared by identity: the same statement resolves to the same object, so that an answer made from it can be kept.
    """

    address: str
    name: str
    kind: str = "length"
    status: Status = Status.MISSING
    value: float | None = None
    pm: float = 0.0
    source: Source | None = None
    tool: Tool | None = None
    state: State = field(default_factory=State)
    statement: str = ""
    takes: int = 0
    scatter: float | None = None
    """Standard deviation of the takes."""
    detail: str = ""
    provisional: bool = False
    conflict: tuple[str, str] | None = None
    """Ids of the two statements that cannot both hold."""

    @property
    def u(self) -> float:
        """Standard uncertainty: half of the ±."""
        return self.pm / 2.0


@dataclass(frozen=True, kw_only=True)
class Inputs:
    """Everything that a check may read, by name."""

    build: Build
    quantities: Mapping[str, Resolved]
    rules: Mapping[str, float]
    options: Mapping[str, str]
    memo: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)
    """What was computed once from exactly these inputs."""

    def with_value(self, address: str, value: float) -> "Inputs":
        """The same with one quantity set to ``value``, its ± kept: a change being considered."""
        changed = replace(self.quantities[address], value=value)
        return replace(self, quantities={**self.quantities, address: changed}, memo={})

    def value(self, address: str) -> float | None:
        found = self.quantities.get(address)
        return None if found is None else found.value


@lru_cache(maxsize=64)
def student_t(dof: int) -> float:
    """Two-sided 95 % factor of Student's t."""
    from scipy.special import stdtrit  # slow to import, seldom wanted

    return float(stdtrit(dof, 0.975))


@dataclass(frozen=True)
class _Said:
    """One statement read: its mean and the two half-widths that matter."""

    statement: Statement
    value: float
    pm: float
    half_width: float
    scatter: float | None


def _given_pm(evidence: Evidence, kind: str) -> float | None:
    if not evidence.pm:
        return None
    pm = parse(evidence.pm, kind).value
    return None if pm is None else abs(pm)


def _read(statement: Statement, kind: str) -> _Said | str:
    """A statement's mean and ±, or the word that stands in place of a number. Raises EntryError."""
    entries = [parse(take.typed, kind, take.unit) for take in statement.takes]
    for entry in entries:
        if entry.value is None:
            return entry.word or ""
    values = [e.value for e in entries if e.value is not None]
    mean = math.fsum(values) / len(values)
    typed_pm = max((e.pm for e in entries if e.pm is not None), default=None)
    given = _given_pm(statement, kind)
    given = typed_pm if given is None else given
    pm = default_pm(kind, mean, statement.source, statement.tool) if given is None else given
    scatter = None
    if len(values) > 1:
        # What one tool cannot tell (pm) and what the takes do not repeat (Student's t on their mean), GUM 4.2.
        scatter = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (len(values) - 1))
        pm = math.hypot(pm, student_t(len(values) - 1) * scatter / math.sqrt(len(values)))
    digit = typed_resolution(statement.takes[-1].typed, kind, statement.takes[-1].unit)
    return _Said(statement, mean, pm, digit if given is None else given, scatter)


def contradict(a: _Said, b: _Said) -> bool:
    """Whether two statements cannot both hold: their intervals are disjoint.

    Two claims are held to what was given or to the last digit typed. Where a tool took part, the ± of
    tool and source count: a calliper is allowed to disagree with a catalogue inside the catalogue's ±.
    """
    tool = any(s.statement.source in TAKEN_WITH_A_TOOL for s in (a, b))
    reach = (a.pm + b.pm) if tool else (a.half_width + b.half_width)
    return abs(a.value - b.value) > reach + 1e-9


def _standing(said: list[_Said], chosen: str | None) -> tuple[_Said, tuple[str, str] | None]:
    best = min(said, key=lambda s: (rank(s.statement.source), -len(s.statement.takes)))
    if chosen is not None:
        return next((s for s in said if s.statement.id == chosen), best), None
    for i, a in enumerate(said):
        for b in said[i + 1 :]:
            if contradict(a, b):
                return best, (a.statement.id, b.statement.id)
    return best, None


def resolve_dimension(key: str, dimension: Dimension | None) -> Resolved:
    """What stands for one dimension of the catalogue. Never raises: a bad entry is a status."""
    return _resolve_dimension(key, dimension.model_dump_json() if dimension and dimension.statements else "")


@lru_cache(maxsize=4096)
def _resolve_dimension(key: str, dimension_json: str) -> Resolved:
    dimension = Dimension.model_validate_json(dimension_json) if dimension_json else None
    definition = DIMENSIONS[key]
    blank = Resolved(address=key, name=definition.name, kind=definition.kind)
    if dimension is None:
        return blank
    live = [s for s in dimension.statements if s.lapsed is None]
    if not live:
        last = dimension.statements[-1]
        event = last.lapsed.event if last.lapsed else ""
        return replace(blank, status=Status.LAPSED, statement=last.id, source=last.source, tool=last.tool, detail=event)
    said: list[_Said] = []
    word, bad = "", ""
    for statement in live:
        try:
            read = _read(statement, definition.kind)
        except EntryError as error:
            bad = str(error)
            continue
        if isinstance(read, str):
            word = read
        else:
            said.append(read)
    if not said:
        status = Status.BAD_ENTRY if bad else Status.WORD
        return replace(blank, status=status, detail=bad or word, statement=live[-1].id, source=live[-1].source)
    best, conflict = _standing(said, dimension.chosen)
    provisional = False
    if conflict and definition.safer:
        pick = min if definition.safer == "low" else max
        best, provisional = pick(said, key=lambda s: s.value), True
    return Resolved(
        address=key,
        name=definition.name,
        kind=definition.kind,
        status=Status.CONTRADICTION if conflict and not provisional else Status.STANDING,
        value=None if conflict and not provisional else best.value,
        pm=best.pm,
        source=best.statement.source,
        tool=best.statement.tool,
        state=best.statement.state,
        statement=best.statement.id,
        takes=len(best.statement.takes),
        scatter=best.scatter,
        detail="two statements cannot both hold" if conflict else "",
        provisional=provisional,
        conflict=conflict,
    )


HOLE_FIELDS = {
    "u": "across",
    "v": "up",
    "d": "diameter",
    "land": "land",
    "plate_hole": "hole in the plate",
    "recess": "recess depth",
    "stand_out": "pin stand-out",
    "mating_depth": "depth of the pin's hole",
}


def resolve_face(side: str, face: Face) -> Mapping[str, Resolved]:
    """Inputs ``<side>.<number>.<field>`` for each hole and ``<side>.land<i>.<field>`` for each land.

    u comes out as seen from behind, whichever side the face was taken from. Optional fields that were left
    empty have no entry.
    """
    return _resolve_face(side, face.model_dump_json())


@lru_cache(maxsize=32)  # a trial leaves the faces as they are most of the time
def _resolve_face(side: str, face_json: str) -> Mapping[str, Resolved]:
    face = Face.model_validate_json(face_json)
    evidence = face.evidence
    found: dict[str, Resolved] = {}

    def read(typed: str, mirrored: bool) -> tuple[Status, str, float | None, float]:
        """Status, detail, value and ± of one entry."""
        if evidence.lapsed:
            return Status.LAPSED, evidence.lapsed.event, None, 0.0
        try:
            entry = parse(typed, "length", face.unit)
            given = _given_pm(evidence, "length") if entry.pm is None else entry.pm
        except EntryError as error:
            return Status.BAD_ENTRY, str(error), None, 0.0
        if entry.value is None:
            return Status.WORD, entry.word or "", None, 0.0
        value = face_u(entry.value, face.taken_from) if mirrored else entry.value
        return Status.STANDING, "", value, default_pm("length", value, evidence.source, evidence.tool) if given is None else given

    def add(address: str, name: str, typed: str | None, mirrored: bool) -> None:
        status, detail, value, pm = read(typed, mirrored) if typed else (Status.MISSING, "", None, 0.0)
        found[address] = Resolved(address=address, name=name, status=status, detail=detail, value=value, pm=pm, source=evidence.source, tool=evidence.tool, state=evidence.state)

    def counted(address: str, name: str, value: float | None) -> None:
        status = Status.MISSING if value is None else Status.STANDING
        found[address] = Resolved(address=address, name=name, kind="count", value=value, status=status, source=evidence.source)

    for hole in face.holes:
        for field_name, words in HOLE_FIELDS.items():
            typed = getattr(hole, field_name)
            if typed or field_name in ("u", "v", "d"):
                add(f"{side}.{hole.n}.{field_name}", f"{side.capitalize()} hole {hole.n}, {words}", typed, field_name == "u")
        known = hole.backing != "unknown"
        counted(f"{side}.{hole.n}.backing", f"{side.capitalize()} hole {hole.n}, what is behind", float(hole.backing == "metal") if known else None)
        if hole.role == "dowel":
            pins = (hole.pin_in_casting, hole.pin_in_plate)
            counted(f"{side}.{hole.n}.pins", f"{side.capitalize()} dowel {hole.n}, pins", None if None in pins else float(sum(map(bool, pins))))
    for i, land in enumerate(face.lands):
        for field_name in ("u", "v", "d"):
            add(f"{side}.land{i}.{field_name}", f"{side.capitalize()} {land.name or f'land {i + 1}'}, {HOLE_FIELDS[field_name]}", getattr(land, field_name), field_name == "u")
    return MappingProxyType(found)


def resolve_rows(key: str, rows: Sequence[Row]) -> Iterator[Resolved]:
    """Inputs ``<list>.<number>.<field>`` for every figure of the rows of a list. Empty ones that are not needed have no entry."""
    spoken = LISTS[key].evidence_of
    for row in rows:
        of_all = _UNSOURCED.model_dump_json()
        said = row.evidence.model_dump_json() if isinstance(row, MeasuredRow) else of_all
        label = f"{LISTS[key].one} {row.n}" + (f" {row.name}" if row.name else "")
        for column in figures(key):
            typed = getattr(row, column.field)
            if typed or column.needed:
                yield _resolve_cell(f"{key}.{row.n}.{column.field}", f"{label}, {column.label}", column.kind, typed, said if not spoken or column.field in spoken else of_all)


_UNSOURCED = Evidence()


@lru_cache(maxsize=16384)
def _resolve_cell(address: str, name: str, kind: str, typed: str | None, evidence_json: str) -> Resolved:
    evidence = Evidence.model_validate_json(evidence_json)
    blank = Resolved(address=address, name=name, kind=kind, source=evidence.source, tool=evidence.tool, state=evidence.state)
    if not typed:
        return blank
    if evidence.lapsed:
        return replace(blank, status=Status.LAPSED, detail=evidence.lapsed.event)
    try:
        entry = parse(typed, kind)
        given = _given_pm(evidence, kind) if entry.pm is None and kind == "length" else entry.pm
    except EntryError as error:
        return replace(blank, status=Status.BAD_ENTRY, detail=str(error))
    if entry.value is None:
        return replace(blank, status=Status.WORD, detail=entry.word or "")
    pm = default_pm(kind, entry.value, evidence.source, evidence.tool) if given is None else given
    return replace(blank, status=Status.STANDING, value=entry.value, pm=0.0 if kind == "money" else pm)


POINT_FIELDS = ("on_back", "on_left", "on_up", "in_back", "in_left", "in_up")


def measured_points(build: Build, quantities: Mapping[str, Resolved]) -> tuple[list[int], np.ndarray, np.ndarray]:
    """Numbers of the pose points whose six figures stand, their figures, shape (n, 6) [mm], and u, shape (n,) [mm]."""
    rows, numbers, u = [], [], []
    for point in build.pose_points:
        cells = [quantities[f"pose_points.{point.n}.{f}"] for f in POINT_FIELDS]
        values = [c.value for c in cells if c.value is not None]
        if len(values) == len(POINT_FIELDS):
            numbers.append(point.n)
            rows.append(values)
            # On the engine and in the chassis each figure was read once, with the same tool.
            u.append(math.sqrt(2.0) * max(c.u for c in cells))
    return numbers, np.array(rows).reshape(-1, 6), np.array(u)


def pose_from_points(build: Build, quantities: Mapping[str, Resolved]) -> FittedPose:
    """The pose that the points fix. Raises NoPose."""
    _, rows, u = measured_points(build, quantities)
    signs = np.array([-1.0, 1.0, 1.0])
    return fit_pose(rows[:, :3] * signs, rows[:, 3:] * signs, u, YAW_DEG[build.layout])


def pose_quantities(build: Build, quantities: Mapping[str, Resolved]) -> dict[str, Resolved]:
    """The six numbers of the pose as the points give them, or why they do not."""
    blank = {key: Resolved(address=key, name=DIMENSIONS[key].name, kind=DIMENSIONS[key].kind) for key in POSE}
    try:
        fitted = pose_from_points(build, quantities)
    except NoPose as error:
        return {key: replace(q, status=Status.MISSING, detail=str(error)) for key, q in blank.items()}
    values = (fitted.back_mm, fitted.left_mm, fitted.up_mm, fitted.roll_deg, fitted.pitch_deg, fitted.yaw_deg)
    state = build.pose_points[0].evidence.state
    return {
        key: replace(blank[key], status=Status.STANDING, value=value, pm=pm, source=Source.MEASURED, state=state, detail=f"from {len(fitted.residuals)} points")
        for key, value, pm in zip(POSE, values, fitted.pm, strict=True)
    }


def resolve(build: Build) -> Inputs:
    """All inputs of a build. A bad or missing one never stops the others."""
    quantities: dict[str, Resolved] = {key: resolve_dimension(key, build.dims.get(key)) for key in DIMENSIONS}
    quantities |= resolve_face("engine", build.engine_face)
    quantities |= resolve_face("gearbox", build.gearbox_face)
    for key in LISTS:
        if rows := getattr(build, key):
            quantities |= {q.address: q for q in resolve_rows(key, rows)}
    if build.options.get("pose_from") == "points":
        quantities |= pose_quantities(build, quantities)
    overrides = build.rules
    rules = {id: overrides[id].value if id in overrides else rule.value for id, rule in RULES.items()}
    return Inputs(build=build, quantities=quantities, rules=rules, options=build.options)


def letter_at(station: Station, address: str) -> str:
    """Callout letter of a dimension at a station's ledger, or an empty string."""
    return LEDGERS[station].get(address, "")
