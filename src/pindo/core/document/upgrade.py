"""Documents of earlier versions brought up to date, one step a version. Pure; the version that
came in is left as it was.
"""

import re
from typing import Any

VERSION = 4
_WATCHED = {
    "mate": [
        "mate.pattern",
        "mate.plate",
        "mate.screws",
        "mate.dowels",
        "mate.starter",
        "mate.runout",
    ],
    "stack": ["stack.spacing", "stack.release", "stack.starter", "stack.match", "stack.strength"],
    "seat": ["seat.place", "seat.mounts"],
    "line": ["line.angles", "line.travel", "line.chain"],
    "clear": ["clear.pairs", "clear.belt"],
}


def upgraded(document: Any) -> Any:
    """The document as this version keeps it; what is no build document is given back as it is,
    for the model to refuse.
    """
    if not isinstance(document, dict):
        return document
    steps = {1: _from_1, 2: _from_2, 3: _from_3}
    version = document.get("schema_version", 1)
    while isinstance(version, int) and version in steps:
        document = steps[version](document) | {"schema_version": version + 1}
        version += 1
    return document


def earlier(document: Any) -> bool:
    """Whether a document says that an earlier version made it."""
    version = document.get("schema_version", VERSION) if isinstance(document, dict) else VERSION
    return isinstance(version, int) and version < VERSION


def _from_1(document: dict[str, Any]) -> dict[str, Any]:
    """Version 1: steps watched whole stations; a signed limit of use and its name were one text."""
    found = dict(document)
    if isinstance(steps := document.get("steps"), list):
        found["steps"] = [_step(s) if isinstance(s, dict) else s for s in steps]
    if isinstance(items := document.get("provisional"), list):
        # Signed then meant that one text was filled in: it stays as the limit, and its name is
        # asked for.
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
            found[name] = face | {
                "lands": [
                    {"n": i + 1, **land} if isinstance(land, dict) else land
                    for i, land in enumerate(lands)
                ]
            }
    return found


_SPLIT = {
    "stack.spacing": ("stack.spacing", "stack.disc"),
    "seat.place": ("seat.place", "seat.room"),
    "line.angles": ("line.angles", "line.shaft"),
    "line.travel": ("line.shaft", "line.half"),
}


def _from_3(document: dict[str, Any]) -> dict[str, Any]:
    """Version 3: some questions were two; a step that watched one watches both of its parts. Gaps
    of a trial fit had no number, only a place in their list.
    """
    found = dict(document)
    if isinstance(fits := document.get("fits"), list):
        found["fits"] = [_numbered(f) if isinstance(f, dict) else f for f in fits]
    if isinstance(waivers := document.get("waivers"), dict):
        found["waivers"] = {_of_gap(id): waiver for id, waiver in waivers.items()}
    if isinstance(steps := document.get("steps"), list):
        found["steps"] = [_watching(s) if isinstance(s, dict) else s for s in steps]
    return found


def _numbered(fit: dict[str, Any]) -> dict[str, Any]:
    gaps = fit.get("gaps")
    if not isinstance(gaps, list):
        return fit
    rows = [
        {"n": i, **g, "lapsed": {"event": g["lapsed"]} if g.get("lapsed") else None}
        if isinstance(g, dict)
        else g
        for i, g in enumerate(gaps, 1)
    ]
    return fit | {"gaps": rows}


_GAP = re.compile(r"((?:log\.fit|clear\.read)\.\d+\.)(\d+)")


def _of_gap(id: Any) -> Any:
    """The id of a finding of a gap, which went by its place and goes by its number."""
    found = _GAP.fullmatch(id) if isinstance(id, str) else None
    return f"{found[1]}{int(found[2]) + 1}" if found else id


def _watching(step: dict[str, Any]) -> dict[str, Any]:
    watches = step.get("watches")
    if not isinstance(watches, list):
        return step
    parts = (p for w in watches for p in (_SPLIT.get(w, (w,)) if isinstance(w, str) else (w,)))
    return step | {"watches": list(dict.fromkeys(map(_of_gap, parts)))}
