"""The declaration of a check: what a station asks, of which inputs, against which limit.

A check is a plain function from named inputs to a value, with a limit below, above or both. The names of
its parameters are its inputs: dimensions, options or rules. Functions must work on arrays (numpy), since
all the perturbed inputs go through in one call.
"""

import inspect
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

from pindo.core.dimensions import OPTIONS, Station
from pindo.core.questions import QUESTIONS
from pindo.core.rules import RULES

Limit = Callable[..., Any] | str
"""A function of inputs and rules, or the name of a rule."""


@lru_cache(maxsize=512)
def parameters_of(function: Callable[..., Any]) -> tuple[str, ...]:
    """Names of a function's parameters."""
    return tuple(inspect.signature(function).parameters)


@dataclass(frozen=True, kw_only=True)
class Check:
    """One question of the trade. ``says`` is its sentence with {value}, {limit}, {short} and input names.

    ``bind`` maps a parameter to an input of another name (a hole's coordinate) or to a constant; a constant of
    no parameter, named in mm, is only told in the sentence. A parameter named ``read`` is given all of ``reads``
    as one mapping, for checks over lists of any length.
    """

    id: str
    question: str
    title: str
    value: Callable[..., Any]
    at_least: Limit | None = None
    at_most: Limit | None = None
    says: str
    fouls: str = ""
    why: str = ""
    caution: str = ""
    kind: str = "length"
    safety: bool = False
    monte_carlo: bool = False
    """Whether its margin is also drawn at random when its finding is opened."""
    accepts: Mapping[str, frozenset[str]] = field(default_factory=dict)
    bind: Mapping[str, Any] = field(default_factory=dict)
    reads: tuple[str, ...] = ()
    at: tuple[float, float, float] | None = None
    """Place in the vehicle that the profile flags: behind the front axle line, left, above the ground. [mm]"""

    @property
    def station(self) -> Station:
        """The station that asks."""
        return QUESTIONS[self.question].station

    @cached_property
    def parameters(self) -> tuple[str, ...]:
        """Names of all parameters of value and limits, each once."""
        names: dict[str, None] = {}
        for function in (self.value, self.at_least, self.at_most):
            if isinstance(function, str):
                names[function] = None
            elif function is not None:
                names |= dict.fromkeys(parameters_of(function))
        return tuple(names)

    @cached_property
    def binding(self) -> tuple[tuple[str, str, Any], ...]:
        """For each parameter what it is (constant, rule, option, quantity) and its value or name."""
        rows: list[tuple[str, str, Any]] = []
        for name in dict.fromkeys((*self.parameters, *self.bind)):
            bound = self.bind.get(name, name)
            if name == "read":
                continue
            kind = "constant" if not isinstance(bound, str) else "rule" if bound in RULES else "option" if bound in OPTIONS else "quantity"
            rows.append((name, kind, bound))
        return tuple(rows) + tuple(("", "quantity", address) for address in self.reads)

    @cached_property
    def rule_names(self) -> tuple[str, ...]:
        """The limits that act in the check, whatever its parameters are called."""
        return tuple(dict.fromkeys(bound for _, kind, bound in self.binding if kind == "rule"))

    @cached_property
    def identity(self) -> tuple[Any, ...]:
        """What makes two checks the same question, wherever they were made."""
        return (self.id, self.value, self.at_least, self.at_most, self.says, self.binding, self.at)

    @cached_property
    def addresses(self) -> tuple[str, ...]:
        """The quantities that the check reads, each once."""
        return tuple(dict.fromkeys(bound for _, kind, bound in self.binding if kind == "quantity"))
