"""Tightening tables and the screw of each hole.

Sources: ISO 898-1 proof stresses and the stress area of metric threads, from memory; T = K F d, common practice.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from pindo.core.check import Check
from pindo.core.dimensions import Station
from pindo.core.mate.fasteners import head
from pindo.core.resolve import Inputs
from pindo.core.rows import BoltedJoint

# Coarse pitches, ISO 261, from memory.
COARSE = MappingProxyType({5: 0.8, 6: 1.0, 8: 1.25, 10: 1.5, 12: 1.75, 14: 2.0, 16: 2.0, 18: 2.5, 20: 2.5, 22: 2.5, 24: 3.0})
STOCK = (12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 90, 100, 110, 120, 130, 140, 150)
PROOF_MPA = MappingProxyType({"10.9": 830.0, "12.9": 970.0})
STRENGTH = "Screening only. Torque belongs to bolt, thread, coating and lubricant together: the maker's sheet decides."


def proof_mpa(strength: str, d_mm: float) -> float:
    """Proof stress of a property class. [MPa] 8.8 is 580 to M16 and 600 above."""
    return PROOF_MPA.get(strength) or (580.0 if d_mm <= 16.0 else 600.0)


def stress_area(d_mm: Any, pitch_mm: Any) -> Any:
    """Stress area of a metric thread: pi/4 (d - 0.9382 P)². [mm²]"""
    return math.pi / 4.0 * (d_mm - 0.9382 * pitch_mm) ** 2


def preload_share(torque_nm: Any, d_mm: Any, pitch_mm: Any, proof: float, nut_factor: float) -> Any:
    """Preload from a torque as a share of the proof load: F = T/(K d). [%]"""
    return 100.0 * torque_nm * 1e3 / (nut_factor * d_mm) / (stress_area(d_mm, pitch_mm) * proof)


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


def stages(text: str) -> list[float]:
    """Shares of the torque from ``30, 60, 100``; 100 % alone where nothing can be read [-]."""
    parts = [p.strip(" %") for p in text.replace(";", ",").split(",")]
    try:
        shares = [float(p) / 100.0 for p in parts if p]
    except ValueError:
        return [1.0]
    return shares if shares and all(0 < s <= 1 for s in shares) else [1.0]


@dataclass(frozen=True, kw_only=True)
class Tightening:
    """A tightening table."""

    n: int
    name: str
    order: tuple[int, ...]
    stages_nm: tuple[float, ...]
    source: str
    state: str
    locker: str
    note: str


def tightening(inputs: Inputs) -> list[Tightening]:
    """The table of each joint; without a torque, or with one from memory or worse, its stages stay empty."""
    found = []
    for j in inputs.build.joints:
        torque, bolts = inputs.quantities.get(f"joints.{j.n}.torque"), inputs.value(f"joints.{j.n}.bolts")
        count = int(min(bolts or 0, 60))
        order = star_order(count) if j.order == "star" else centre_out(count)
        known = torque is not None and torque.value is not None
        source = f"{j.evidence.source.value}{', ' + j.evidence.note if j.evidence.note else ''}" if known else "no torque with a source: no tick"
        values = tuple(round((torque.value or 0.0) * s, 1) for s in stages(j.stages)) if torque is not None and known else ()
        locker = "" if j.locker != "not said" else "locker not said: ask before the torque"
        found.append(Tightening(n=j.n, name=j.name or f"joint {j.n}", order=tuple(order), stages_nm=values, source=source, state=j.state, locker=j.locker, note=locker))
    return found


@dataclass(frozen=True, kw_only=True)
class Screw:
    """The screw of one hole: grip, length and what it is cut from."""

    hole: str
    what: str
    grip: float | None
    least: float | None
    stock: float | None
    washer: float
    """Washers that take up what the stock length has too much over one pitch of spare. [mm]"""
    note: str


def screws(inputs: Inputs) -> list[Screw]:
    """One line a screw of the engine's face. [mm]"""
    plate, shield = inputs.value("plate_mm"), inputs.value("separator_mm") or 0.0
    found = []
    for hole in inputs.build.engine_face.holes:
        d = inputs.value(f"engine.{hole.n}.d")
        if hole.role == "dowel" or not d:
            continue
        size = head(hole.fastening or "", d)
        what = f"M{d:g} {hole.fastening or 'screw'}"
        if plate is None or size is None:
            found.append(Screw(hole=f"E{hole.n}", what=what, grip=None, least=None, stock=None, washer=0.0, note="plate thickness or head is not known"))
            continue
        recess = inputs.value(f"engine.{hole.n}.recess") or 0.0
        sunk = hole.fastening == "countersunk"
        # A countersunk screw is measured over its head; the others from under it.
        grip = plate + shield - (recess - size.height if sunk else recess)
        least = grip + inputs.rules["thread_aluminium_factor"] * d
        stock = next((float(s) for s in STOCK if s >= least), None)
        spare = 0.0 if stock is None else stock - least
        found.append(
            Screw(hole=f"E{hole.n}", what=what, grip=grip, least=least, stock=stock, washer=0.0 if sunk or spare < 2.5 else round(spare - 1.5, 1), note="" if stock else "longer than any stock length")
        )
    return found


def _share(pitch_mm: Any, proof: float, nut_factor: float, torque_nm: Any, d_mm: Any) -> Any:
    return preload_share(torque_nm, d_mm, pitch_mm, proof, nut_factor)


def _joint(j: BoltedJoint, d: float) -> Check:
    at = f"joints.{j.n}."
    bind: dict[str, Any] = {"torque_nm": at + "torque", "d_mm": at + "d", "proof": proof_mpa(j.strength, d), "pitch_mm": at + "pitch" if j.pitch else COARSE.get(round(d), 0.15 * d)}
    name = j.name or f"joint {j.n}"
    return Check(
        id=f"assemble.preload.{j.n}", station=Station.ASSEMBLE, title=f"Preload of {name}", value=_share, at_most="preload_share_max", kind="percent", safety=True, caution=STRENGTH, bind=MappingProxyType(bind),
        says=f"{name[0].upper()}{name[1:]}: the torque loads the screws to {{value}} of their proof load; at most {{limit}}", why="A screw past its proof load has stretched for good; another class, coating or locker makes the torque lapse.",
    )  # fmt: skip


def checks(inputs: Inputs) -> Iterator[Check]:
    """Preload of each joint whose class and torque are told."""
    make: Callable[[BoltedJoint, float], Check] = _joint
    for j in inputs.build.joints:
        if j.torque and j.strength and (d := inputs.value(f"joints.{j.n}.d")):
            yield make(j, d)
