"""Torque and preload: what a torque does to a screw, in which order and stages it is given.

Sources: T = F (0.159 P + 0.577 d2 mu_t + r_m mu_b), the form of VDI 2230; ISO 898-1 and SAE J429
proof stresses; all from memory.
"""

import itertools
import re
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from pindo.core.document.evidence import closes_safety
from pindo.core.document.rows import BoltedJoint
from pindo.core.errors import PindoError
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.threads import pitch_diameter, stress_area
from pindo.core.numbers import Numbers

FRICTION: Mapping[str, tuple[str, str]] = MappingProxyType(
    {
        "dry": ("mu_dry_low", "mu_dry_high"),
        "as delivered": ("mu_delivered_low", "mu_delivered_high"),
        "oiled": ("mu_oiled_low", "mu_oiled_high"),
    }
)
"""Rules that give the friction range of a surface; a locker's is on its sheet."""

# Mean radius of the face under a head, of the thread's diameter: 1.3 d across, as VDI 2230 takes it
# where no more is known.
BEARING_SHARE = 0.65
SAME_SHARE = 0.005  # a last stage within half a per cent of the torque is the torque, rounded


def preload(
    torque_nm: Numbers, d_mm: Numbers, pitch_mm: Numbers, mu: Numbers, bearing_mm: Numbers
) -> Numbers:
    """Preload from a torque, the same friction under the head as in the thread. [N]

    F = T/(0.159 P + 0.577 d2 mu + r_m mu), with r_m the mean radius of the bearing face.
    """
    return (
        torque_nm
        * 1e3
        / (0.159 * pitch_mm + 0.577 * pitch_diameter(d_mm, pitch_mm) * mu + bearing_mm * mu)
    )


def proof_share(
    torque_nm: Numbers,
    d_mm: Numbers,
    pitch_mm: Numbers,
    mu: Numbers,
    bearing_mm: float,
    proof: float,
    metric: float,
) -> Numbers:
    """Preload as a share of the proof load. [%]"""
    return (
        100.0
        * preload(torque_nm, d_mm, pitch_mm, mu, bearing_mm)
        / (stress_area(d_mm, pitch_mm, metric > 0.0) * proof)
    )


def star_order(count: int) -> list[int]:
    """Numbers of screws on a circle in tightening order, from 1: each next one lies as far as may
    be from the last.

    Odd counts go round by steps of half; even ones take opposite pairs, the pairs spread in the
    same way.
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
        chosen.append(
            max(rest, key=lambda i: (min(min(abs(i - c), count - abs(i - c)) for c in chosen), -i))
        )
    return chosen


def centre_out(count: int) -> list[int]:
    """Numbers in a row from the middle outwards, side by side."""
    middle = (count + 1) / 2
    return sorted(range(1, count + 1), key=lambda n: (abs(n - middle), n))


class NoStages(PindoError, ValueError):
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


def stages(text: str, torque_nm: float, typed: str = "") -> Stages:
    """Stages of a torque from per cents or torques alike; angles (``+ 90 deg``) after the last one
    are kept as such.

    ``28, 62, 100`` are per cents, ``20, 45, 72 lbf·ft`` torques; bare figures that end at 100 are
    per cents, and ones that end at
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
        raise NoStages(
            "No stage can be read: type per cents (30, 60, 100) or torques that end at the torque."
        )
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
        raise NoStages(
            f"The last stage is {found[-1]:.1f} N·m, and the torque is {torque_nm:.1f} N·m."
        )
    return Stages(
        torques=(*found[:-1], torque_nm),
        angles=angles,
        read_as=read_as
        + (f", then {' and '.join(f'{a:g} deg' for a in angles)}" if angles else ""),
    )


def _torques(figures: list[str], torque_nm: float, typed: str) -> tuple[list[float], str]:
    """Stages typed as torques. A unit behind the last one holds for all; without any the
    torque's own unit does.
    """
    unit = (
        re.sub(r"^[\d\s.,±+/-]*", "", figures[-1])
        or re.sub(r"^[\d\s.,]*", "", typed.split("±")[0]).strip()
    )
    try:
        read = [
            parse(p if re.search(r"[A-Za-z]", p) else f"{p} {unit}".strip(), "torque").value
            for p in figures
        ]
    except EntryError as error:
        raise NoStages(f"The stages cannot be read: {error}") from error
    if any(v is None for v in read):
        raise NoStages("The stages cannot be read: type per cents or torques.")
    return [v for v in read if v is not None], f"torques{f' in {unit}' if unit else ''}"


def torque_stands(inputs: Inputs, j: BoltedJoint) -> bool:
    """Whether a joint has a torque whose source is a catalogue or better."""
    q = inputs.quantities.get(f"joints.{j.n}.torque")
    return (
        q is not None and q.value is not None and q.source is not None and closes_safety(q.source)
    )
