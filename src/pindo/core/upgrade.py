"""Documents of earlier versions brought up to date, one step a version. Pure; the version that came in is left as it was."""

from typing import Any

VERSION = 2
_WATCHED = {
    "mate": ["mate.pattern", "mate.plate", "mate.screws", "mate.dowels", "mate.starter", "mate.runout"],
    "stack": ["stack.spacing", "stack.release", "stack.starter", "stack.match", "stack.strength"],
    "seat": ["seat.place", "seat.mounts"],
    "line": ["line.angles", "line.travel", "line.chain"],
    "clear": ["clear.pairs", "clear.belt"],
}


def upgraded(document: Any) -> Any:
    """The document as this version keeps it; what is no build document is given back as it is, for the model to refuse."""
    if not isinstance(document, dict) or document.get("schema_version", 1) != 1:
        return document
    return _from_1(document) | {"schema_version": VERSION}


def _from_1(document: dict[str, Any]) -> dict[str, Any]:
    """Version 1: steps watched whole stations; a signed limit of use and its name were one text."""
    found = dict(document)
    if isinstance(steps := document.get("steps"), list):
        found["steps"] = [_step(s) if isinstance(s, dict) else s for s in steps]
    if isinstance(items := document.get("provisional"), list):
        # Signed then meant that one text was filled in: it stays as the limit, and its name is asked for.
        found["provisional"] = [dict(i) for i in items if isinstance(i, dict)]
    return found


def _step(step: dict[str, Any]) -> dict[str, Any]:
    watched = [q for station in step.get("stations", []) for q in _WATCHED.get(station, [])]
    return {k: v for k, v in step.items() if k != "stations"} | {"watches": watched}
