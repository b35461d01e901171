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
from pindo.core.dimensions import DIMENSIONS, LEDGERS, OPTIONS, DimensionDef, Station
from pindo.core.events import EVENTS
from pindo.core.evidence import CLAIMS_NOTHING, TAKEN_WITH_A_TOOL, Source, State, Tool, as_said, default_pm, rank
from pindo.core.frames import POSE, YAW_DEG, face_u
from pindo.core.quantity import EntryError, parse, typed_resolution
from pindo.core.ranges import TOGETHER
from pindo.core.rows import LISTS, BoltedJoint, ColumnOf, Fit, MeasuredRow, Row, figures
from pindo.core.rules import RULES
from pindo.core.seat.pose import FittedPose, NoPose, fit_pose
from pindo.core.threads import nominal, threads
from pindo.core.typed import Evidence
from pindo.core.units import KINDS


class Status(StrEnum):
    STANDING = "standing"
    MISSING = "missing"
    WORD = "word"
    LAPSED = "lapsed"
    CONTRADICTION = "contradiction"
    BAD_ENTRY = "bad entry"
    QUESTION = "question"
    """It can hardly be, alone or beside another size, and nobody has said that it is so."""


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
    stands_in: str = ""
    """Kind of reading where it stands in place of a computed value: an event of its kind brings that back."""
    conflict: tuple[str, str] | None = None
    """Ids of the two statements that cannot both hold."""
    asked: float | None = None
    """The value that is asked about."""

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
    pose_correlation: np.ndarray | None = field(default=None, compare=False)
    """How the doubts of the six numbers of the pose hang together, shape (6, 6) [-]; None where each was read alone."""
    memo: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)
    """What was computed once from exactly these inputs."""

    def with_value(self, address: str, value: float) -> "Inputs":
        """The same with one quantity planned to be ``value``: a change being considered, with the ± that it would be made to.

        Readings that stand in for what is computed, and that the change would spoil, no longer do.
        """
        changed = replace(self.quantities[address], value=value)
        if address in DIMENSIONS:
            d = DIMENSIONS[address]
            changed = replace(changed, pm=default_pm(d.kind, value, Source.CHOSEN, None, d.made_pm), source=Source.CHOSEN, tool=None)
        event = DIMENSIONS[address].event if address in DIMENSIONS else ""
        spoils = EVENTS[event].spoils if event else frozenset()
        gone = {a: replace(q, value=None, status=Status.LAPSED, detail=event) for a, q in self.quantities.items() if q.stands_in and q.stands_in in spoils}
        return replace(self, quantities={**self.quantities, **gone, address: changed}, memo={})

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


def said_source(source: Source, definition: DimensionDef) -> Source:
    """The source of a dimension's statement as it counts."""
    return as_said(source, definition.sourced)


def _given_pm(evidence: Evidence, kind: str) -> float | None:
    if not evidence.pm:
        return None
    pm = parse(evidence.pm, kind).value
    return None if pm is None else abs(pm)


def _read(statement: Statement, definition: DimensionDef) -> _Said | str:
    """A statement's mean and ±, or the word that stands in place of a number. Raises EntryError."""
    entries = [parse(take.typed, definition.kind, take.unit, definition.zero) for take in statement.takes]
    kind = definition.kind
    for entry in entries:
        if entry.value is None:
            return entry.word or ""
    values = [e.value for e in entries if e.value is not None]
    mean = math.fsum(values) / len(values)
    typed_pm = max((e.pm for e in entries if e.pm is not None), default=None)
    given = _given_pm(statement, kind)
    given = typed_pm if given is None else given
    pm = default_pm(kind, mean, said_source(statement.source, definition), statement.tool, definition.made_pm) if given is None else given
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
    if any(s.statement.source in CLAIMS_NOTHING for s in (a, b)):
        return False
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
            read = _read(statement, definition)
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
    low, high = definition.can
    odd = not low <= best.value <= high and not dimension.sure
    standing = not odd and (not conflict or provisional)
    return Resolved(
        address=key,
        name=definition.name,
        kind=definition.kind,
        status=Status.STANDING if standing else Status.CONTRADICTION if conflict and not provisional else Status.QUESTION,
        value=best.value if standing else None,
        asked=best.value if odd else None,
        pm=best.pm,
        source=said_source(best.statement.source, definition),
        tool=best.statement.tool,
        state=best.statement.state,
        statement=best.statement.id,
        takes=len(best.statement.takes),
        scatter=best.scatter,
        detail="two statements cannot both hold" if conflict else f"such a size is {low:g} to {high:g} {KINDS[definition.kind].unit}".strip() if odd else "",
        stands_in=definition.reading if key in STANDS_IN else "",
        provisional=provisional,
        conflict=conflict,
    )


STANDS_IN = frozenset({"chain_centre_mm", "driver_plane_mm"})
"""Readings on the vehicle of what pose and parts also give: while they hold they stand in its place."""

HOLE_FIELDS = {
    "u": "across",
    "v": "up",
    "d": "diameter",
    "land": "land",
    "plate_hole": "hole in the plate",
    "recess": "recess depth",
    "stand_out": "pin stand-out",
    "mating_depth": "depth of the pin's hole",
    "pitch": "pitch",
    "depth": "full thread",
    "flange": "flange thickness",
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
    found: dict[str, Resolved] = {}

    def add(address: str, name: str, typed: str | None, kind: str, mirrored: bool, evidence: Evidence, size: bool) -> None:
        blank = Resolved(address=address, name=name, kind=kind, source=evidence.source, tool=evidence.tool, state=evidence.state)
        if not typed:
            found[address] = blank
        elif evidence.lapsed:
            found[address] = replace(blank, status=Status.LAPSED, detail=evidence.lapsed.event)
        else:
            read = _face_figure(blank, typed, face, mirrored, evidence)
            # Nought or less is no size: the hole stays, and what stands there is asked about.
            nought = size and read.value is not None and read.value <= 0.0
            found[address] = replace(read, value=None, asked=read.value, status=Status.QUESTION, detail="a size above nought is wanted") if nought else read

    def counted(address: str, name: str, value: float | None, evidence: Evidence) -> None:
        status = Status.MISSING if value is None else Status.STANDING
        found[address] = Resolved(address=address, name=name, kind="count", value=value, status=status, source=evidence.source)

    for hole in face.holes:
        of_hole = hole.evidence or face.evidence
        label = f"{side.capitalize()} hole {hole.n}" + (f" {hole.name}" if hole.name else "")
        for field_name, words in HOLE_FIELDS.items():
            typed = getattr(hole, field_name) or (face.flange if field_name == "flange" and hole.role == "bolt" else None)
            if typed or field_name in ("u", "v", "d"):
                kind = "thread" if field_name == "d" and hole.role == "bolt" else "length"
                add(f"{side}.{hole.n}.{field_name}", f"{label}, {words}", typed, kind, field_name == "u", hole.said.get(field_name, of_hole), field_name in _ABOVE_NOUGHT)
        thread = found[f"{side}.{hole.n}.d"]
        if thread.kind == "thread" and thread.value is not None and not hole.pitch:
            named = parse(hole.d or "", "thread", face.unit).pitch
            if named is not None:
                found[f"{side}.{hole.n}.pitch"] = replace(thread, address=f"{side}.{hole.n}.pitch", name=f"{label}, pitch", kind="length", value=named, pm=0.0)
        known = hole.backing != "unknown"
        counted(f"{side}.{hole.n}.backing", f"{label}, what is behind", float(hole.backing == "metal") if known else None, of_hole)
        if hole.role == "dowel":
            # One pin each: in the casting, and in the plate where that was said.
            pin = hole.pin_in_casting
            counted(f"{side}.{hole.n}.pin_in_casting", f"{side.capitalize()} dowel {hole.n}, pin in the casting", None if pin is None else float(pin), of_hole)
            pin = hole.pin_in_plate
            counted(f"{side}.{hole.n}.pin_in_plate", f"{side.capitalize()} dowel {hole.n}, pin in the plate", None if pin is None else float(pin), of_hole)
    for land in face.lands:
        for field_name in ("u", "v", "d"):
            add(
                f"{side}.land{land.n}.{field_name}",
                f"{side.capitalize()} {land.name or f'land {land.n}'}, {HOLE_FIELDS[field_name]}",
                getattr(land, field_name),
                "length",
                field_name == "u",
                face.evidence,
                field_name in _ABOVE_NOUGHT,
            )
    return MappingProxyType(found)


_ABOVE_NOUGHT = frozenset({"d", "pitch", "land", "plate_hole", "flange"})


def _face_figure(blank: Resolved, typed: str, face: Face, mirrored: bool, evidence: Evidence) -> Resolved:
    """One figure of a face, read. A screw's size is what it is called: its place has a doubt, its name has none."""
    try:
        entry = parse(typed, blank.kind, face.unit)
        given = _given_pm(evidence, "length") if entry.pm is None else entry.pm
    except EntryError as error:
        return replace(blank, status=Status.BAD_ENTRY, detail=str(error))
    if entry.value is None:
        return replace(blank, status=Status.WORD, detail=entry.word or "")
    value = face_u(entry.value, face.taken_from) if mirrored else entry.value
    named = blank.kind == "thread" and (entry.pitch is not None or nominal(value, THREAD_SIZES) is not None)
    pm = 0.0 if named else default_pm("length", value, evidence.source, evidence.tool) if given is None else given
    return replace(blank, status=Status.STANDING, value=value, pm=pm)


THREAD_SIZES = tuple(sorted({t.d for t in threads()}))


def resolve_rows(key: str, rows: Sequence[Row]) -> Iterator[Resolved]:
    """Inputs ``<list>.<number>.<field>`` for every figure of the rows of a list. Empty ones that are not needed have no entry."""
    for row in rows:
        label = f"{LISTS[key].one} {row.n}" + (f" {row.name}" if row.name else "")
        for column in figures(key):
            typed = getattr(row, column.field)
            if typed or column.needed:
                evidence = evidence_of(key, row, column).model_dump_json()
                yield _resolve_cell(f"{key}.{row.n}.{column.field}", f"{label}, {column.label}", column.kind, typed, evidence)
        if key == "joints":
            yield from _named_pitch(row, label)


def evidence_of(key: str, row: Row, column: ColumnOf) -> Evidence:
    """What stands behind one figure of a row: its own, the row's, or the source that a choice of the row names."""
    if column.source_in:
        return Evidence(source=Source(getattr(row, column.source_in)))
    if not isinstance(row, MeasuredRow):
        return _UNSOURCED
    if column.field in row.said:
        return row.said[column.field]
    spoken = LISTS[key].evidence_of
    return row.evidence if not spoken or column.field in spoken else _UNSOURCED


def _named_pitch(row: Row, label: str) -> Iterator[Resolved]:
    """The pitch that a joint's thread carries in its name, where none is typed beside it; missing where neither says it."""
    if isinstance(row, BoltedJoint) and row.d and not row.pitch:
        yield _pitch_of(f"joints.{row.n}.pitch", f"{label}, thread pitch", row.d)


@lru_cache(maxsize=512)
def _pitch_of(address: str, name: str, thread: str) -> Resolved:
    try:
        pitch = parse(thread, "thread").pitch
    except EntryError:
        pitch = None
    return Resolved(address=address, name=name) if pitch is None else Resolved(address=address, name=name, status=Status.STANDING, value=pitch, source=Source.CATALOGUE)


_UNSOURCED = Evidence()


@lru_cache(maxsize=16384)
def _resolve_cell(address: str, name: str, kind: str, typed: str | None, evidence_json: str, stands_in: str = "") -> Resolved:
    evidence = Evidence.model_validate_json(evidence_json)
    source = as_said(evidence.source, kind == "torque")
    blank = Resolved(address=address, name=name, kind=kind, source=source, tool=evidence.tool, state=evidence.state, stands_in=stands_in)
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
    named = kind == "thread" and (entry.pitch is not None or nominal(entry.value, THREAD_SIZES) is not None)
    pm = 0.0 if kind in ("money", "time") or named else default_pm("length" if kind == "thread" else kind, entry.value, source, evidence.tool) if given is None else given
    return replace(blank, status=Status.STANDING, value=entry.value, pm=pm)


def resolve_fits(fits: Sequence[Fit]) -> Iterator[Resolved]:
    """Inputs ``fits.<number>.<place>`` for every reading of a trial fit that still holds, in the state that it was taken in."""
    for fit in fits:
        evidence = fit.evidence if fit.evidence.state != State() else fit.evidence.model_copy(update={"state": fit.state})
        for i, gap in enumerate(fit.gaps):
            if gap.measured and not gap.lapsed and fit.evidence.lapsed is None:
                at = f"{gap.title or gap.finding} at {fit.name or f'fit {fit.n}'}"
                yield _resolve_cell(f"fits.{fit.n}.{i}", at, "length", gap.measured, evidence.model_dump_json(), gap.kind)


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
            # On the engine and in the chassis each figure was read once, each with its own ±.
            u.append(math.hypot(max(c.u for c in cells[:3]), max(c.u for c in cells[3:])))
    return numbers, np.array(rows).reshape(-1, 6), np.array(u)


def pose_from_points(build: Build, quantities: Mapping[str, Resolved]) -> FittedPose:
    """The pose that the points fix. Raises NoPose."""
    _, rows, u = measured_points(build, quantities)
    signs = np.array([-1.0, 1.0, 1.0])
    return fit_pose(rows[:, :3] * signs, rows[:, 3:] * signs, u, YAW_DEG[build.layout])


def pose_quantities(build: Build, quantities: Mapping[str, Resolved]) -> tuple[dict[str, Resolved], np.ndarray | None]:
    """The six numbers of the pose as the points give them, or why they do not; and how their doubts hang together, shape (6, 6) [-]."""
    blank = {key: Resolved(address=key, name=DIMENSIONS[key].name, kind=DIMENSIONS[key].kind) for key in POSE}
    try:
        fitted = pose_from_points(build, quantities)
    except NoPose as error:
        return {key: replace(q, status=Status.MISSING, detail=str(error)) for key, q in blank.items()}, None
    values = (fitted.back_mm, fitted.left_mm, fitted.up_mm, fitted.roll_deg, fitted.pitch_deg, fitted.yaw_deg)
    state = build.pose_points[0].evidence.state
    found = {
        key: replace(blank[key], status=Status.STANDING, value=value, pm=pm, source=Source.MEASURED, state=state, detail=f"from {len(fitted.residuals)} points")
        for key, value, pm in zip(POSE, values, fitted.pm, strict=True)
    }
    return found, fitted.correlation


def _together(build: Build, quantities: dict[str, Resolved]) -> None:
    """Marks the sizes of each set that can hardly hold together, until somebody says that they do."""
    for rule in TOGETHER:
        values = [quantities[a].value for a in rule.reads]
        known = [v for v in values if v is not None]
        if len(known) == len(values) and rule.key not in build.sure and not rule.holds(*known):
            for a in rule.reads:
                quantities[a] = replace(quantities[a], value=None, asked=quantities[a].value, status=Status.QUESTION, detail=rule.asks)


def resolve(build: Build) -> Inputs:
    """All inputs of a build. A bad or missing one never stops the others."""
    quantities: dict[str, Resolved] = {key: resolve_dimension(key, build.dims.get(key)) for key in DIMENSIONS}
    _together(build, quantities)
    quantities |= resolve_face("engine", build.engine_face)
    quantities |= resolve_face("gearbox", build.gearbox_face)
    for key in LISTS:
        if rows := getattr(build, key):
            quantities |= {q.address: q for q in resolve_rows(key, rows)}
    quantities |= {q.address: q for q in resolve_fits(build.fits)}
    correlation = None
    if build.options.get("pose_from") == "points":
        found, correlation = pose_quantities(build, quantities)
        quantities |= found
    overrides = build.rules
    rules = {id: overrides[id].value if id in overrides else rule.value for id, rule in RULES.items()}
    options = {o.key: o.default for o in OPTIONS.values() if o.default} | {k: v for k, v in build.options.items() if v}
    return Inputs(build=build, quantities=quantities, rules=rules, options=options, pose_correlation=correlation)


def letter_at(station: Station, address: str) -> str:
    """Callout letter of a dimension at a station's ledger, or an empty string."""
    return LEDGERS[station].get(address, "")
