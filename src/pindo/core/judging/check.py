"""The declaration of a check: what a question asks, of which inputs, against which limit."""

import inspect
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache, cached_property
from types import CodeType
from typing import Any

from pindo.core.inputs.dimensions import OPTIONS, Station
from pindo.core.inputs.rules import RULES


@dataclass(frozen=True)
class Quantity:
    """A number with its doubt: a dimension, a figure of a list or face, a derived quantity."""

    address: str


@dataclass(frozen=True)
class Limit:
    """A limit of the rules table."""

    rule: str


@dataclass(frozen=True)
class Choice:
    """An option as it stands, in words."""

    option: str


@dataclass(frozen=True)
class Constant:
    """Something that is known for certain; of a ``kind`` where a sentence tells it as a number."""

    value: Any
    kind: str = ""


Input = Quantity | Limit | Choice | Constant
Formula = Callable[..., Any]


def named(name: str) -> Input:
    """The input that a plain name speaks of: a limit, a choice, else a quantity."""
    return Limit(name) if name in RULES else Choice(name) if name in OPTIONS else Quantity(name)


def _signature(function: Formula | str | None) -> tuple[str, ...]:
    """Names that a formula is called with: those without a default."""
    if function is None or isinstance(function, str):
        return ()
    if inspect.isfunction(function) and not hasattr(function, "__wrapped__"):
        with_default = frozenset(function.__kwdefaults__ or ())
        return _names_of(function.__code__, len(function.__defaults__ or ()), with_default)
    parameters = inspect.signature(function).parameters.values()
    return tuple(p.name for p in parameters if p.default is inspect.Parameter.empty)


@cache
def _names_of(code: CodeType, defaults: int, with_default: frozenset[str]) -> tuple[str, ...]:
    """The same of a plain function; closures of one place in the source have one code."""
    takes = code.co_posonlyargcount + code.co_argcount
    by_name = code.co_varnames[takes : takes + code.co_kwonlyargcount]
    return (
        *code.co_varnames[: takes - defaults],
        *(name for name in by_name if name not in with_default),
    )


@dataclass(frozen=True, kw_only=True, eq=False)
class Check:
    """One thing that is asked. ``says`` is its sentence with {value}, {limit}, {short}, {over} and
    the names of its inputs.

    The short form reads a formula's signature: each parameter is the input of its name, or what
    ``given`` says it is. With ``reads`` the value is a function of a mapping, address to number,
    that holds all of them, and of what else its signature names. Functions must work on arrays
    (numpy), since all the perturbed inputs go through in one call.
    """

    id: str
    station: Station
    question: str
    """Key of its question."""
    title: str
    value: Formula
    at_least: Formula | str | None = None
    """A function of inputs, or the name of a limit."""
    at_most: Formula | str | None = None
    says: str
    fouls: str = ""
    why: str = ""
    caution: str = ""
    kind: str = "length"
    safety: bool = False
    monte_carlo: bool = False
    """Whether its margin is also drawn at random when its finding is opened."""
    accepts: Mapping[str, frozenset[str]] = field(default_factory=dict)
    given: Mapping[str, Input | str] = field(default_factory=dict)
    """What parameters stand for, where it is not the input of their own name; by name or declared.
    Those of no parameter are only told in the sentence.
    """
    reads: tuple[str, ...] = ()
    """Addresses that the value is given as one mapping, as its first argument."""
    at: tuple[float, float, float] | None = None
    """Place in the vehicle that the profile flags: behind the front axle line, left, above the
    ground. [mm]
    """
    stretch: tuple[float, float, float, float] | None = None
    """The stretch that it speaks of in its question's picture: x, y of both ends. [mm]"""

    @cached_property
    def of_value(self) -> tuple[str, ...]:
        """Names that the value is called with, the mapping left out."""
        names = _signature(self.value)
        return names[1:] if self.reads else names

    @cached_property
    def of_least(self) -> tuple[str, ...]:
        """Names that the lower limit is called with."""
        return _signature(self.at_least)

    @cached_property
    def of_most(self) -> tuple[str, ...]:
        """Names that the upper limit is called with."""
        return _signature(self.at_most)

    @cached_property
    def inputs(self) -> Mapping[str, Input]:
        """Every input by the name that formulas and sentence call it."""
        limits = [x for x in (self.at_least, self.at_most) if isinstance(x, str)]
        names = dict.fromkeys(
            (
                *self.of_value,
                *self.of_least,
                *self.of_most,
                *limits,
                *self.given,
            )
        )
        found: dict[str, Input] = {}
        for name in names:
            said = self.given.get(name, name)
            found[name] = named(said) if isinstance(said, str) else said
        return found

    @cached_property
    def rules(self) -> tuple[str, ...]:
        """The limits that act in it."""
        found = (x.rule for x in self.inputs.values() if isinstance(x, Limit))
        return tuple(dict.fromkeys(found))

    @cached_property
    def choices(self) -> tuple[str, ...]:
        """The options that it reads."""
        found = (x.option for x in self.inputs.values() if isinstance(x, Choice))
        return tuple(dict.fromkeys(found))

    @cached_property
    def accepting(self) -> frozenset[tuple[str, frozenset[str]]]:
        """The states that it accepts, as a key."""
        return frozenset(self.accepts.items())

    @cached_property
    def addresses(self) -> tuple[str, ...]:
        """The quantities that it reads, derived ones as such, each once."""
        found = (x.address for x in self.inputs.values() if isinstance(x, Quantity))
        return tuple(dict.fromkeys((*found, *self.reads)))
