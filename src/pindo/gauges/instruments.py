"""What each instrument shows of a true size: its resolution, noise, drift, and the unit that
somebody left it in.
"""

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True, kw_only=True)
class Instrument:
    """A kind of instrument. ``noise`` is the standard deviation of one reading, ``drift`` what its
    zero walks in an hour, both in ``unit``.
    """

    name: str
    unit: str
    resolution: float
    noise: float
    drift: float
    other_unit: str = ""
    """The unit that it can be switched to by mistake, and what one of its own is in that."""
    other: float = 1.0
    other_resolution: float = 1.0
    labels: tuple[str, ...] = ("",)
    """What a reading begins with: one for each pad of a set of scales."""
    types: bool = False
    """Whether it is a keyboard: bare figures and Enter."""


INSTRUMENTS: Mapping[str, Instrument] = MappingProxyType(
    {
        i.name: i
        for i in (
            Instrument(
                name="calliper",
                unit="mm",
                resolution=0.01,
                noise=0.01,
                drift=0.01,
                other_unit="in",
                other=1 / 25.4,
                other_resolution=0.0005,
                types=True,
            ),
            Instrument(
                name="dial",
                unit="mm",
                resolution=0.01,
                noise=0.004,
                drift=0.005,
                other_unit="in",
                other=1 / 25.4,
                other_resolution=0.0005,
            ),
            Instrument(name="inclinometer", unit="deg", resolution=0.1, noise=0.05, drift=0.05),
            Instrument(
                name="crane scale",
                unit="kg",
                resolution=0.5,
                noise=0.4,
                drift=0.5,
                other_unit="lb",
                other=1 / 0.45359237,
                other_resolution=1.0,
            ),
            Instrument(
                name="tyre scales",
                unit="kg",
                resolution=0.5,
                noise=0.4,
                drift=0.5,
                other_unit="lb",
                other=1 / 0.45359237,
                other_resolution=1.0,
                labels=("FL", "FR", "RL", "RR"),
            ),
            Instrument(
                name="torque wrench",
                unit="Nm",
                resolution=0.1,
                noise=0.3,
                drift=0.1,
                other_unit="lbft",
                other=1 / 1.3558179483314004,
                other_resolution=0.1,
            ),
        )
    }
)
GARBAGE = ("", "E", "----", "\x00\x07\x1b[2J", "+OL", "12.3.4 mm", "NaN mm", "9" * 200)


@dataclass(kw_only=True)
class Simulated:
    """One instrument on the bench: what is true of what it is held against, and what is wrong with
    it.
    """

    kind: Instrument
    truth: float = 0.0
    noisy: bool = True
    drifts: bool = False
    wrong_unit: bool = False
    garbage: float = 0.0
    """Share of lines that are no readings."""
    zero: float = 0.0
    rng: random.Random
    at: int = 0

    def reading(self, seconds: float) -> str:
        """The next line, without its end, ``seconds`` after it was switched on."""
        if self.rng.random() < self.garbage:
            return self.rng.choice(GARBAGE)
        kind = self.kind
        value = self.truth - self.zero
        value += self.rng.gauss(0.0, kind.noise) if self.noisy else 0.0
        value += kind.drift * seconds / 3600.0 if self.drifts else 0.0
        unit, step = kind.unit, kind.resolution
        if self.wrong_unit and kind.other_unit:
            value, unit, step = value * kind.other, kind.other_unit, kind.other_resolution
        places = max(0, math.ceil(-math.log10(step)))
        shown = f"{round(value / step) * step:.{places}f}"
        label = kind.labels[self.at % len(kind.labels)]
        self.at += 1
        return shown if kind.types else f"{label} {shown} {unit}".strip()
