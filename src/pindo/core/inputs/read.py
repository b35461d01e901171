"""What a check reads, by address, with what many checks derive from it kept beside it."""

from collections.abc import Callable, Hashable, Mapping
from typing import Any, TypeVar

T = TypeVar("T")


class Read(dict[str, Any]):
    """Numbers or arrays of one shape by address. Checks over the same inputs are given the same
    object.
    """

    def __init__(self, values: Mapping[str, Any]) -> None:
        super().__init__(values)
        self.kept: dict[Hashable, Any] = {}


def once(read: Mapping[str, Any], key: Hashable, make: Callable[[], T]) -> T:
    """``make()``, worked out once for a :class:`Read` and each time for any other mapping."""
    if not isinstance(read, Read):
        return make()
    if key not in read.kept:
        read.kept[key] = make()
    found: T = read.kept[key]
    return found
