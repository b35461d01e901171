"""Documents of earlier versions brought up to date, one step a version. Pure; the version that came in is left as it was."""

from typing import Any

VERSION = 3
_WATCHED = {
    "mate": ["mate.pattern", "mate.plate", "mate.screws", "mate.dowels", "mate.starter", "mate.runout"],
    "stack": ["stack.spacing", "stack.release", "stack.starter", "stack.match", "stack.strength"],
    "seat": ["seat.place", "seat.mounts"],
    "line": ["line.angles", "line.travel", "line.chain"],
    "clear": ["clear.pairs", "clear.belt"],
}


def upgraded(document: Any) -> Any:
    """The document as this version keeps it; what is no build document is given back as it is, for the model to refuse."""
    if not isinstance(document, dict):
        return document
    steps = {1: _from_1, 2: _from_2}
    version = document.get("schema_version", 1)
    while isinstance(version, int) and version in steps:
        document = steps[version](document) | {"schema_version": version + 1}
        version += 1
    return document


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


def _from_2(document: dict[str, Any]) -> dict[str, Any]:
    """Version 2: lands had no number, only a place in their list."""
    found = dict(document)
    for name in ("engine_face", "gearbox_face"):
        face = document.get(name)
        if isinstance(face, dict) and isinstance(lands := face.get("lands"), list):
            found[name] = face | {"lands": [{"n": i + 1, **land} if isinstance(land, dict) else land for i, land in enumerate(lands)]}
    return found
