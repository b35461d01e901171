"""Verdicts, the decision rule, and the finding that carries everything a person needs to believe
or dispute it.
"""

from dataclasses import dataclass
from enum import StrEnum

from pindo.core.inputs.dimensions import Station

ROUNDING_MM = 1e-9  # the verdict's allowance for binary arithmetic, ISO 14253-1 taken as settled


class Verdict(StrEnum):
    GOES = "goes"
    TIGHT = "tight"
    FOULS = "fouls"
    UNMEASURED = "unmeasured"


SEVERITY = {Verdict.FOULS: 0, Verdict.TIGHT: 1, Verdict.UNMEASURED: 2, Verdict.GOES: 3}


@dataclass(frozen=True, kw_only=True)
class Share:
    """How much of a finding's variance one input carries."""

    address: str
    name: str
    letter: str
    share: float
    pm: float
    kind: str
    source: str


@dataclass(frozen=True, kw_only=True)
class Missing:
    """An input that has no value here, and why."""

    address: str
    name: str
    letter: str
    status: str
    detail: str


@dataclass(frozen=True, kw_only=True)
class RuleUsed:
    """A limit as it acted in a finding."""

    id: str
    name: str
    value: float
    default: float
    unit: str
    source: str
    reason: str
    overridden: bool
    note: str


@dataclass(frozen=True, kw_only=True)
class Sentence:
    """The same words with millimetres and with inches."""

    mm: str
    inch: str


@dataclass(frozen=True, kw_only=True)
class WayOut:
    """The change of one adjustable dimension alone that clears a finding."""

    address: str
    name: str
    letter: str
    kind: str
    current: float
    target: float
    costs: Sentence
    """What margin it takes from the finding that it hurts most; empty when none."""
    low: float
    high: float
    """The stretch round the target over which this finding goes, whatever it does to others, as
    far as the dimension may be chosen; the target alone where that is not known.
    """


@dataclass(frozen=True, kw_only=True)
class Sampled:
    """Monte Carlo of the margin: 95 % interval and the chance that it is positive (JCGM 101)."""

    low: float
    high: float
    chance: float


@dataclass(frozen=True, kw_only=True)
class Finding:
    """The answer to a check, with everything that a person needs to believe or dispute it."""

    id: str
    station: Station
    question: str
    """Key of the question that it answers."""
    title: str
    verdict: Verdict
    condition: str = ""
    """contradiction, question or lapsed where that is why it is unmeasured; otherwise empty."""
    kind: str = "length"
    value: float | None = None
    value_pm: float | None = None
    low: float | None = None
    high: float | None = None
    margin: float | None = None
    u: float | None = None
    """Expanded uncertainty U of the margin."""
    sentence: Sentence
    why: str = ""
    caution: str = ""
    safety: bool = False
    provisional: bool = False
    limit_worked_out: bool = False
    """Whether a limit came from a formula, not straight from the table."""
    limit_changed: bool = False
    """Whether a limit that acted was changed for this build."""
    rules: tuple[RuleUsed, ...] = ()
    shares: tuple[Share, ...] = ()
    missing: tuple[Missing, ...] = ()
    inputs: tuple[str, ...] = ()
    ways_out: tuple[WayOut, ...] = ()
    waived_by: str = ""
    waiver_ended: str = ""
    """A waiver that no longer holds: its end has passed."""
    sure_at: str = ""
    """Place of the document where somebody says that a size asked about is so (JSON Pointer)."""
    stretch: tuple[float, float, float, float] | None = None
    """The stretch that it speaks of in its question's picture: x, y of both ends. [mm]"""
    row: str = ""
    """Address of the row that it speaks of, where it speaks of one: ``steps.10``."""
    at: tuple[float, float, float] | None = None
    """Where it is in the vehicle: behind the front axle line, left, above the ground. [mm]"""


def decide(margin: float, u: float) -> Verdict:
    """Decision rule with a guard band on both sides (ISO 14253-1): U is the expanded
    uncertainty.
    """
    if margin - u >= -ROUNDING_MM:
        return Verdict.GOES
    if margin + u < -ROUNDING_MM:
        return Verdict.FOULS
    return Verdict.TIGHT
