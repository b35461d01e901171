"""Classes of solids: how each is drawn, and which limit holds between two of them."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import get_args

from pindo.core.document.rows import SolidClass
from pindo.core.inputs.rules import RULES
from pindo.core.tables import TableError, listed, read_table


@dataclass(frozen=True, kw_only=True)
class ClassDef:
    """How solids of a class are drawn; empty where their body says it."""

    ink: str
    """In space."""
    style: str
    """In a flat view."""


CLASSES: Mapping[str, ClassDef] = MappingProxyType(
    {
        row["class"]: ClassDef(ink=row["ink"], style=row["style"])
        for row in read_table("solid_classes", "class", "ink", "style")
    }
)
if set(CLASSES) != set(get_args(SolidClass)):
    raise TableError("solid_classes.csv: its classes are not those of a build")


def _side(cell: str) -> frozenset[str]:
    names = frozenset(CLASSES if cell == "any" else listed(cell))
    if not names <= set(CLASSES):
        raise TableError(f"clearances.csv: {cell} is no class of solids")
    return names


_LIMITS = tuple(
    (_side(row["one"]), _side(row["other"]), row["mounts"], row["rule"])
    for row in read_table("clearances", "one", "other", "mounts", "rule")
)
if not {rule for *_, rule in _LIMITS} <= set(RULES):
    raise TableError("clearances.csv: it names a limit that there is not")


def class_rule(a: str, b: str, stiff: bool) -> str:
    """The limit that holds between two classes.

    Parameters
    ----------
    a, b : str
        The classes, in either order.
    stiff : bool
        Whether the unit sits on stiff mounts.

    Returns
    -------
    str
        Key of the rule; the first line of ``clearances.csv`` that fits.
    """
    mounts = ("any", "stiff" if stiff else "soft")
    return next(
        rule
        for one, other, on, rule in _LIMITS
        if on in mounts and ((a in one and b in other) or (b in one and a in other))
    )
