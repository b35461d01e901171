"""Functions that checks of every station share. Named, never lambdas made in a loop: their signatures are cached."""

from typing import Any


def given(x: Any) -> Any:
    """A dimension as it is."""
    return x


def difference(a: Any, b: Any) -> Any:
    """a - b, in their unit."""
    return a - b


def same_words(a: str, b: str) -> float:
    """1 when two names say the same, spaces and capitals aside, else 0."""
    return 1.0 if "".join(a.split()).casefold() == "".join(b.split()).casefold() else 0.0


def all_of(a: Any, b: Any, c: Any) -> float:
    """A question that only needs its inputs to be there."""
    return 0.0


def zero() -> float:
    """A limit of nothing."""
    return 0.0


def one() -> float:
    """A limit of exactly one, or of a yes."""
    return 1.0


def two() -> float:
    """A limit of two."""
    return 2.0
