"""A raw patch laid on a document, with bounds on what it copies."""

from typing import Any

from pindo.core.document.patch import Patch, PatchError, applied
from pindo.core.inputs.problems import Problem
from pindo.web.problems import Refused

MOST_COPIED = 20_000


def _nodes(value: Any, most: int) -> int:
    """How many values a JSON value holds; counting stops beyond ``most``."""
    count, waiting = 0, [value]
    while waiting and count <= most:
        here = waiting.pop()
        count += 1
        if isinstance(here, dict):
            waiting.extend(here.values())
        elif isinstance(here, list):
            waiting.extend(here)
    return count


def patched(document: dict[str, Any], operations: Patch) -> dict[str, Any]:
    """A document after a JSON Patch; what it copies is bounded, since copies of copies double it
    each time. Raises Refused.
    """
    left = MOST_COPIED
    try:
        for op in operations:
            if op.get("op") == "copy":
                made = applied(
                    {"from": document},
                    [op | {"from": f"/from{op.get('from', '')}"} | {"path": "/to"}],
                )
                left -= _nodes(made["to"], left)
                if left < 0:
                    words = "It copies more than a build can hold. Nothing was stored."
                    raise Refused(422, "patch", "The change is too large", words)
            document = applied(document, [op])
    except (PatchError, KeyError, TypeError, AttributeError, RecursionError) as error:
        raise Refused(
            422,
            "patch",
            "The change does not fit this build",
            "Nothing was stored.",
            [Problem(pointer="", detail=str(error)[:300])],
        ) from error
    if not isinstance(document, dict):
        raise Refused(422, "patch", "The change does not fit this build", "Nothing was stored.")
    return document
