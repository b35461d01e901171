"""Tightening: preload over the friction of its surface, stages, order; the screw of each hole.

Sources: T = F (0.159 P + 0.577 d2 mu_t + r_m mu_b), the form of VDI 2230; ISO 898-1 and SAE J429 proof stresses; all from memory.
"""

import itertools
import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from pindo.core.build import Face
from pindo.core.check import Check
from pindo.core.evidence import closes_safety
from pindo.core.mate.fasteners import head, washer
from pindo.core.notice import notice
from pindo.core.quantity import EntryError, parse
from pindo.core.resolve import Inputs
from pindo.core.rows import BoltedJoint
from pindo.core.threads import is_metric, pitch_diameter, proof_mpa, stress_area, thread_words
from pindo.core.verdict import Finding, Verdict
from pindo.core.words import literal

STOCK = (12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 90, 100, 110, 120, 130, 140, 150)
STOCK_INCH = (0.5, 0.625, 0.75, 0.875, 1, 1.25, 1.5, 1.75, 2, 2.25, 2.5, 2.75, 3, 3.5, 4, 4.5, 5, 5.5, 6)
STRENGTH = "Screening only. Torque belongs to bolt, thread, coating and lubricant together: the maker's sheet decides."
FRICTION: Mapping[str, tuple[str, str]] = MappingProxyType(
    {
        "dry": ("mu_dry_low", "mu_dry_high"),
        "as delivered": ("mu_delivered_low", "mu_delivered_high"),
        "oiled": ("mu_oiled_low", "mu_oiled_high"),
    }
)
"""Rules that give the friction range of a surface; a locker's is on its sheet."""


def preload(torque_nm: Any, d_mm: Any, pitch_mm: Any, mu: Any, bearing_mm: Any) -> Any:
    """Preload from a torque, the same friction under the head as in the thread. [N]

    F = T/(0.159 P + 0.577 d2 mu + r_m mu), with r_m the mean radius of the bearing face.
    """
    return torque_nm * 1e3 / (0.159 * pitch_mm + 0.577 * pitch_diameter(d_mm, pitch_mm) * mu + bearing_mm * mu)


BEARING_SHARE = 0.65  # mean radius of the face under a head, of the thread's diameter: 1.3 d across, as VDI 2230 takes it where no more is known


def proof_share(torque_nm: Any, d_mm: Any, pitch_mm: Any, mu: Any, bearing_mm: float, proof: float, metric: float) -> Any:
    """Preload as a share of the proof load. [%]"""
    return 100.0 * preload(torque_nm, d_mm, pitch_mm, mu, bearing_mm) / (stress_area(d_mm, pitch_mm, metric > 0.0) * proof)


def star_order(count: int) -> list[int]:
    """Numbers of screws on a circle in tightening order, from 1: each next one lies as far as may be from the last.

    Odd counts go round by steps of half; even ones take opposite pairs, the pairs spread in the same way.
    """
    if count <= 2:
        return list(range(1, count + 1))
    if count % 2:
        return [1 + (k * (count // 2)) % count for k in range(count)]
    half = count // 2
    spread = _spread(half)
    return [n for i in spread for n in (i + 1, i + 1 + half)]


def _spread(count: int) -> list[int]:
    chosen = [0]
    while len(chosen) < count:
        rest = [i for i in range(count) if i not in chosen]
        chosen.append(max(rest, key=lambda i: (min(min(abs(i - c), count - abs(i - c)) for c in chosen), -i)))
    return chosen


def centre_out(count: int) -> list[int]:
    """Numbers in a row from the middle outwards, side by side."""
    middle = (count + 1) / 2
    return sorted(range(1, count + 1), key=lambda n: (abs(n - middle), n))


class NoStages(ValueError):
    """A list of stages that does not end at the torque; the message says why."""


@dataclass(frozen=True, kw_only=True)
class Stages:
    """The stages of a torque as they were read."""

    torques: tuple[float, ...]
    """[N·m]"""
    angles: tuple[float, ...] = ()
    """Turns after the last torque. [deg]"""
    read_as: str
    """How the text was understood."""


SAME_SHARE = 0.005  # a last stage within half a per cent of the torque is the torque, rounded


def stages(text: str, torque_nm: float, typed: str = "") -> Stages:
    """Stages of a torque from per cents or torques alike; angles (``+ 90 deg``) after the last one are kept as such.

    ``28, 62, 100`` are per cents, ``20, 45, 72 lbf·ft`` torques; bare figures that end at 100 are per cents, and ones that end at
    the torque as it was ``typed`` are torques in its unit. [N·m]

    Raises
    ------
    NoStages
        Nothing can be read, the stages fall, or the last one is not the torque.
    """
    parts = [p.strip() for p in re.split(r"[,;]|\bthen\b", text) if p.strip()]
    turns = [p for p in parts if re.fullmatch(r"\+?\s*\d+(?:\.\d+)?\s*(?:deg|°|degrees)", p)]
    figures = [p for p in parts if p not in turns]
    if turns and parts[-len(turns) :] != turns:
        raise NoStages("Angles come after the last torque.")
    angles = tuple(float(re.sub(r"[^\d.]", "", p)) for p in turns)
    if not figures:
        raise NoStages("No stage can be read: type per cents (30, 60, 100) or torques that end at the torque.")
    bare = [re.fullmatch(r"\d+(?:\.\d+)?\s*%?", p) is not None for p in figures]
    percent = all(bare) and (figures[-1].endswith("%") or float(figures[-1].rstrip(" %")) == 100.0)
    if percent:
        shares = [float(p.rstrip(" %")) / 100.0 for p in figures]
        found, read_as = [torque_nm * s for s in shares], "per cent of the torque"
    else:
        found, read_as = _torques(figures, torque_nm, typed)
    if any(b <= a for a, b in itertools.pairwise(found)) or found[0] <= 0.0:
        raise NoStages("Each stage has to be above the one before.")
    if abs(found[-1] - torque_nm) > SAME_SHARE * torque_nm:
        raise NoStages(f"The last stage is {found[-1]:.1f} N·m, and the torque is {torque_nm:.1f} N·m.")
    return Stages(torques=(*found[:-1], torque_nm), angles=angles, read_as=read_as + (f", then {' and '.join(f'{a:g} deg' for a in angles)}" if angles else ""))


def _torques(figures: list[str], torque_nm: float, typed: str) -> tuple[list[float], str]:
    """Stages typed as torques. A unit behind the last one holds for all; without any the torque's own unit does."""
    unit = re.sub(r"^[\d\s.,±+/-]*", "", figures[-1]) or re.sub(r"^[\d\s.,]*", "", typed.split("±")[0]).strip()
    try:
        read = [parse(p if re.search(r"[A-Za-z]", p) else f"{p} {unit}".strip(), "torque").value for p in figures]
    except EntryError as error:
        raise NoStages(f"The stages cannot be read: {error}") from error
    if any(v is None for v in read):
        raise NoStages("The stages cannot be read: type per cents or torques.")
    return [v for v in read if v is not None], f"torques{f' in {unit}' if unit else ''}"


@dataclass(frozen=True, kw_only=True)
class Tightening:
    """A tightening table."""

    n: int
    name: str
    thread: str
    order: tuple[int, ...]
    stages_nm: tuple[float, ...]
    angles_deg: tuple[float, ...]
    read_as: str
    """How the stages were understood, or why they were not."""
    source: str
    state: str
    locker: str
    note: str


def torque_stands(inputs: Inputs, j: BoltedJoint) -> bool:
    """Whether a joint has a torque whose source is a catalogue or better."""
    q = inputs.quantities.get(f"joints.{j.n}.torque")
    return q is not None and q.value is not None and q.source is not None and closes_safety(q.source)


def _name(j: BoltedJoint) -> str:
    return j.name or f"joint {j.n}"


def tightening(inputs: Inputs) -> list[Tightening]:
    """The table of each joint; without a torque with a source its stages are told, and no tick is."""
    found = []
    for j in inputs.build.joints:
        torque, bolts = inputs.quantities.get(f"joints.{j.n}.torque"), inputs.value(f"joints.{j.n}.bolts")
        count = int(min(bolts or 0, 60))
        order = star_order(count) if j.order == "star" else centre_out(count)
        known = torque is not None and torque.value is not None
        source = f"{j.evidence.source.value}{', ' + j.evidence.note if j.evidence.note else ''}" if known else "no torque"
        if not torque_stands(inputs, j):
            source += ": no torque with a source, no tick"
        values: tuple[float, ...] = ()
        angles: tuple[float, ...] = ()
        read_as = ""
        if torque is not None and torque.value is not None:
            try:
                made = stages(j.stages, torque.value, j.torque or "")
                values, angles, read_as = tuple(round(v, 1) for v in made.torques), made.angles, made.read_as
            except NoStages as error:
                read_as = f"not read: {error}"
        d = inputs.value(f"joints.{j.n}.d")
        notes = ["locker not said: ask before the torque"] if j.locker == "not said" else []
        found.append(
            Tightening(
                n=j.n,
                name=_name(j),
                thread="" if d is None else thread_words(d, inputs.value(f"joints.{j.n}.pitch")),
                order=tuple(order),
                stages_nm=values,
                angles_deg=angles,
                read_as=read_as,
                source=source,
                state=j.state,
                locker=j.locker,
                note="; ".join(notes),
            )
        )
    return found


@dataclass(frozen=True, kw_only=True)
class Screw:
    """The screw of one hole: what it clamps, how long it may be, and what it is cut from. [mm]"""

    hole: str
    what: str
    grip: float | None
    least: float | None
    most: float | None
    """Longer ones bottom before they clamp; None where nothing stops them, or while the depth is not known."""
    stock: float | None
    washer: float
    """Washers that take up what the stock length has too much over one pitch of spare."""
    note: str


ENGAGED = MappingProxyType({"aluminium": "thread_aluminium_factor", "cast iron": "thread_iron_factor", "steel": "thread_steel_factor"})


@dataclass(frozen=True)
class _Clamp:
    """What a screw clamps and where its thread ends. [mm]"""

    hole: str
    d: float
    pitch: float | None
    fastening: str
    grip: float | None
    material: str
    depth: float | None
    through: bool
    wanting: tuple[str, ...]


def _flange(inputs: Inputs, side: str, n: int) -> float | None:
    return inputs.value(f"{side}.{n}.flange")


def _clamps(inputs: Inputs) -> Iterator[_Clamp]:
    """Every screw of both faces: through the plate into the block, through the gearbox's flange into plate, nut or block."""
    plate, shield = inputs.value("plate_mm"), inputs.value("separator_mm")
    plated = plate is None or plate > 0.0
    engine, gearbox = inputs.build.engine_face, inputs.build.gearbox_face
    material = inputs.options.get("plate_material", "")
    for side, face in (("engine", engine), ("gearbox", gearbox)):
        for hole in face.holes:
            d = inputs.value(f"{side}.{hole.n}.d")
            if hole.role == "dowel" or not d:
                continue
            label, pitch = f"{'E' if side == 'engine' else 'G'}{hole.n}", inputs.value(f"{side}.{hole.n}.pitch")
            recess, flange = inputs.value(f"{side}.{hole.n}.recess") or 0.0, _flange(inputs, side, hole.n)
            if side == "engine" and plated:
                grip = None if plate is None else plate + (shield or 0.0) - recess
                depth = inputs.value(f"engine.{hole.n}.depth")
                wanting = _wanting(("plate thickness", plate), ("dust shield", shield), ("block's material", engine.material), ("depth of thread", depth))
                yield _Clamp(label, d, pitch, hole.fastening or "", grip, engine.material, depth, False, wanting)
            elif side == "gearbox" and plated and hole.fastening == "tapped":
                depth = inputs.value(f"gearbox.{hole.n}.depth")
                wanting = _wanting(("gearbox's flange", flange), ("plate thickness", plate), ("plate's material", material))
                yield _Clamp(label, d, pitch, "hex head", flange, material, depth if depth is not None else plate, depth is None, wanting)
            elif side == "gearbox" and plated and hole.fastening == "nut":
                grip = None if flange is None or plate is None else flange + plate - recess
                yield _Clamp(label, d, pitch, "nut", grip, "steel", None, True, _wanting(("gearbox's flange", flange), ("plate thickness", plate)))
            elif side == "gearbox" and not plated:
                near = _nearest(inputs, engine, hole.n)
                depth = None if near is None else inputs.value(f"engine.{near}.depth")
                grip = None if flange is None else flange + (shield or 0.0)
                wanting = _wanting(("gearbox's flange", flange), ("dust shield", shield), ("block's material", engine.material), (f"depth of thread E{near}" if near else "engine's hole", depth))
                yield _Clamp(label, d, pitch, hole.fastening or "hex head", grip, engine.material, depth, False, wanting)


def _wanting(*things: tuple[str, Any]) -> tuple[str, ...]:
    return tuple(words for words, value in things if value is None or value == "")


def _nearest(inputs: Inputs, engine: Face, n: int) -> int | None:
    """The engine's hole that lies under one of the gearbox, where both faces meet directly."""
    u, v = inputs.value(f"gearbox.{n}.u"), inputs.value(f"gearbox.{n}.v")
    known = [(h.n, x, y) for h in engine.holes if h.role == "bolt" and (x := inputs.value(f"engine.{h.n}.u")) is not None and (y := inputs.value(f"engine.{h.n}.v")) is not None]
    if u is None or v is None or not known:
        return None
    return min(known, key=lambda row: math.hypot(row[1] - u, row[2] - v))[0]


def screws(inputs: Inputs) -> list[Screw]:
    """One line a screw of both faces. [mm]

    Least length = grip + engagement by the material that holds its thread; greatest = grip + full thread - P, so that it never bottoms.
    """
    return [_screw(inputs, c) for c in _clamps(inputs)]


def _screw(inputs: Inputs, c: _Clamp) -> Screw:
    what = f"{thread_words(c.d, c.pitch)} {c.fastening or 'screw'}"
    if c.grip is None or c.material not in ENGAGED:
        return Screw(hole=c.hole, what=what, grip=c.grip, least=None, most=None, stock=None, washer=0.0, note=f"not told: {', '.join(c.wanting)}")
    size = head("nut" if c.fastening == "nut" else c.fastening, c.d)
    # A countersunk screw is measured over its head; the others from under it.
    over_head = size.height if c.fastening == "countersunk" and size else 0.0
    nut = size.height if c.fastening == "nut" and size else None
    engaged = (nut + (c.pitch or 0.0) * 2.0) if nut is not None else inputs.rules[ENGAGED[c.material]] * c.d
    least = c.grip + over_head + engaged
    most = None if c.through or c.depth is None else c.grip + over_head + c.depth - (c.pitch or 0.15 * c.d)
    metric = abs(c.d - round(c.d * 2) / 2) < 0.02
    lengths = [float(s) for s in STOCK] if metric else [25.4 * s for s in STOCK_INCH]
    stock = next((s for s in lengths if s >= least - 1e-9 and (most is None or s <= most + 1e-9)), None)
    longer = next((s for s in lengths if s >= least - 1e-9), None)
    spare = 0.0 if stock is None else stock - least
    notes = [f"not told: {', '.join(c.wanting)}"] if c.wanting else []
    if most is not None and least > most:
        notes.append(f"the hole is {least - most:.1f} mm too shallow for its thread")
    elif stock is None and longer is not None and most is not None:
        notes.append(f"no stock length fits: {longer:g} mm bottoms by {longer - most:.1f} mm; washers, or cut one")
    elif stock is None:
        notes.append("longer than any stock length")
    flat = washer(c.d)
    take_up = 0.0 if c.fastening == "countersunk" or flat is None or spare < flat[1] + 0.5 else round(spare, 1)
    return Screw(hole=c.hole, what=what, grip=c.grip, least=least, most=most, stock=None if "depth of thread" in " ".join(c.wanting) else stock, washer=take_up, note="; ".join(notes))


def _least_clamp(preload_share_min: float) -> float:
    return preload_share_min


def _joint(inputs: Inputs, j: BoltedJoint) -> Iterator[Check]:
    """Preload at both ends of the friction that the surface can have: never above its share of proof, clamped enough at the other end."""
    d = inputs.value(f"joints.{j.n}.d") or 0.0
    proof = proof_mpa(j.strength, d)
    if proof is None:
        return
    at, name = f"joints.{j.n}.", _name(j)
    shown = f"{name[0].upper()}{name[1:]}"
    ends: tuple[Any, Any] = FRICTION.get(j.surface, ("", ""))
    if j.friction:
        read = _friction(j)
        ends = read if read is not None else ("", "")
    bind: dict[str, Any] = {"torque_nm": at + "torque", "d_mm": at + "d", "pitch_mm": at + "pitch", "proof": proof, "metric": float(is_metric(j.strength)), "bearing_mm": BEARING_SHARE * d}
    if not ends[0]:
        yield Check(
            id=f"assemble.preload.{j.n}", question="assemble.joints", title=f"Preload of {name}", value=proof_share, at_most="preload_share_max", kind="percent", safety=True, caution=STRENGTH,
            bind=MappingProxyType(bind | {"mu": f"{name}: thread and head, dry, as delivered, oiled, or the locker's friction from its sheet"}), says="", why="Friction decides what a torque does to a screw: between oiled and dry it doubles.",
        )  # fmt: skip
        return
    low, high = ends
    yield Check(
        id=f"assemble.preload.{j.n}", question="assemble.joints", title=f"Preload of {name}", value=proof_share, at_most="preload_share_max", kind="percent", safety=True, caution=STRENGTH,
        bind=MappingProxyType(bind | {"mu": low}), says=f"{literal(shown)}: at its lowest friction the torque loads the screws to {{value}} of their proof load; at most {{limit}}",
        why="A screw past its proof load has stretched for good; another class, coating or locker makes the torque lapse.",
    )  # fmt: skip
    yield Check(
        id=f"assemble.clamp.{j.n}", question="assemble.joints", title=f"Clamp of {name}", value=proof_share, at_least="preload_share_min", kind="percent", safety=True, caution=STRENGTH,
        bind=MappingProxyType(bind | {"mu": high}), says=f"{literal(shown)}: at its highest friction the torque leaves {{value}} of the proof load; needs {{limit}}", why="A joint that is clamped too little works loose, and its screws break by fatigue.",
    )  # fmt: skip


def _friction(j: BoltedJoint) -> tuple[float, float] | None:
    """Both ends of the friction that a sheet tells: a range, a figure with its ±, or one figure. [-]"""
    try:
        entry = parse(j.friction or "", "ratio")
    except EntryError:
        return None
    if entry.value is None or entry.value <= 0.0:
        return None
    return max(entry.value - (entry.pm or 0.0), 0.01), entry.value + (entry.pm or 0.0)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Preload of each joint whose class and torque are told."""
    for j in inputs.build.joints:
        if j.torque and j.strength and inputs.value(f"joints.{j.n}.d"):
            yield from _joint(inputs, j)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Joints whose stages do not end at their torque, whose grade no standard holds at that size, or whose torque has no source."""
    why = "What is not settled here is settled by the wrench, and nobody sees it any more."
    for j in inputs.build.joints:
        name, torque, d = _name(j), inputs.quantities.get(f"joints.{j.n}.torque"), inputs.value(f"joints.{j.n}.d")
        if torque is not None and torque.value is not None:
            try:
                stages(j.stages, torque.value, j.torque or "")
            except NoStages as error:
                yield notice(f"assemble.stages.{j.n}", "assemble.joints", f"Stages of {name}", Verdict.UNMEASURED, f"Stages of {name} are not read: {error}", why=why)
        if j.torque and j.strength and d and proof_mpa(j.strength, d) is None:
            yield notice(f"assemble.grade.{j.n}", "assemble.joints", f"Grade of {name}", Verdict.UNMEASURED, f"{name}: {j.strength} is not made in this size; read the head's mark again", why=why)
        if j.state in ("torqued", "marked") and not torque_stands(inputs, j):
            yield notice(f"assemble.torque.{j.n}", "assemble.joints", f"Torque of {name}", Verdict.UNMEASURED, f"{name} is {j.state}, and its torque has no source that counts", why=why)
