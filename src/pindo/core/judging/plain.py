"""Functions that checks of every station share. Named, never lambdas made in a loop: their
signatures are cached.
"""

import re

from pindo.core.numbers import Numbers


def given(x: Numbers) -> Numbers:
    """A dimension as it is."""
    return x


def difference(a: Numbers, b: Numbers) -> Numbers:
    """a - b, in their unit."""
    return a - b


_FILLER = frozenset({"x", "spline", "splines", "tooth", "teeth", "mm", "no"})


def _spelled(name: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Words in any order and figures in theirs: ``Straight 10x35`` and ``10 × 35 straight`` are
    one name.
    """
    parts = re.findall(r"[a-z]+|\d+(?:\.\d+)?", name.casefold().replace(",", ".").replace("×", "x"))
    return tuple(sorted(p for p in parts if p.isalpha() and p not in _FILLER)), tuple(
        f"{float(p):g}" for p in parts if not p.isalpha()
    )


def same_words(a: str, b: str) -> float:
    """1 when two names say the same, however they are spelled, else 0."""
    return 1.0 if _spelled(a) == _spelled(b) else 0.0


def read_all(read: Numbers) -> float:
    """A question that only needs its inputs to be there."""
    return 0.0


def minus(limit: float) -> float:
    """A limit the other way, in its unit: the lower side of a band about nought."""
    return -limit


def zero() -> float:
    """A limit of nothing."""
    return 0.0


def one() -> float:
    """A limit of exactly one, or of a yes."""
    return 1.0


def two() -> float:
    """A limit of two."""
    return 2.0
