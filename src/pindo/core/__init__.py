"""The rules of the job and their computation: no web, no store, no files but the tables, no
clock.

For a notebook: ``from pindo.core import Build, assess, parse``.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from pindo.core.assessment import assess
    from pindo.core.inputs.quantity import parse
    from pindo.core.quick import Build

__all__ = ["Build", "assess", "parse"]
_HOMES = {
    "Build": "pindo.core.quick",
    "assess": "pindo.core.assessment",
    "parse": "pindo.core.inputs.quantity",
}


def __getattr__(name: str) -> Any:
    """What is asked for is loaded then: who wants one table waits for no geometry."""
    if name in _HOMES:
        return getattr(import_module(_HOMES[name]), name)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
