"""Changes of a build in words, and where on the screen they are looked at."""

from typing import Any

from pindo.core.document.build import Build
from pindo.core.document.lists import LISTS
from pindo.core.entries import READ_AGAIN
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS, Station
from pindo.core.inputs.rules import RULES
from pindo.store.stored import JournalLine
from pindo.web import models

MOST_WORDS = 20


def _value_words(value: Any) -> str:
    if isinstance(value, dict) and "takes" in value:
        return " / ".join(t["typed"] for t in value["takes"]) + f" ({value['source']})"
    if isinstance(value, dict) and "statements" in value:
        return ", ".join(_value_words(s) for s in value["statements"]) or "nothing"
    if isinstance(value, dict) and "n" in value:
        return f"{value['n']} {value.get('name', '')}".strip()
    text = (
        "nothing"
        if value is None or value == ""
        else str(value)
        if not isinstance(value, dict | list)
        else "…"
    )
    return text if len(text) <= 60 else text[:57] + "…"


def _place_words(path: str) -> str:
    parts = path.strip("/").split("/")
    if parts[0] == "dims" and len(parts) > 1 and parts[1] in DIMENSIONS:
        return DIMENSIONS[parts[1]].name + {
            "pm": " ±",
            "tool": ", tool",
            "source": ", source",
            "note": ", note",
        }.get(parts[-1], "")
    if parts[0] in LISTS:
        row = (
            f"{LISTS[parts[0]].title}, row {int(parts[1]) + 1}"
            if len(parts) > 1 and parts[1].isdecimal()
            else f"{LISTS[parts[0]].title}, {LISTS[parts[0]].one.lower()}"
        )
        return row + (f", {parts[2].replace('_', ' ')}" if len(parts) > 2 else "")
    if parts[0] in ("engine_face", "gearbox_face") and len(parts) > 3:
        return (
            f"{parts[0].removesuffix('_face').capitalize()} hole row {int(parts[2]) + 1},"
            f" {parts[3]}"
            if parts[2].isdecimal()
            else parts[0]
        )
    if parts[0] == "options" and len(parts) > 1 and parts[1] in OPTIONS:
        return OPTIONS[parts[1]].name
    if parts[0] == "rules" and len(parts) > 1 and parts[1] in RULES:
        return RULES[parts[1]].name
    return " ".join(parts).replace("_", " ")


def _place_of(path: str, build: Build) -> models.ChangedPlace | None:
    """Where on the screen a path of the document is looked at."""
    parts = path.strip("/").split("/")
    if parts[0] == "dims" and len(parts) > 1 and parts[1] in DIMENSIONS:
        return models.ChangedPlace(station=DIMENSIONS[parts[1]].station, address=parts[1])
    if parts[0] in LISTS:
        rows = getattr(build, parts[0])
        row = (
            rows[int(parts[1])]
            if len(parts) > 1 and parts[1].isdecimal() and int(parts[1]) < len(rows)
            else None
        )
        address = (
            f"{parts[0]}.{row.n}" + (f".{parts[2]}" if len(parts) > 2 else "")
            if row is not None
            else parts[0]
        )
        return models.ChangedPlace(station=Station(LISTS[parts[0]].station), address=address)
    if parts[0] in ("engine_face", "gearbox_face"):
        return models.ChangedPlace(station=Station.MATE, address=parts[0])
    if parts[0] == "options" and len(parts) > 1 and parts[1] in OPTIONS:
        return models.ChangedPlace(station=OPTIONS[parts[1]].station, address=f"options.{parts[1]}")
    return None


def change_places(change: JournalLine, build: Build) -> list[models.ChangedPlace]:
    """Where a change happened, each place once, as the build stands now."""
    found = [
        p
        for op in _in_order(change.patch)[:MOST_WORDS]
        if (p := _place_of(op["path"], build)) is not None
    ]
    return list({p.address: p for p in found}.values())


def _change_line(op: dict[str, Any], old: Any) -> str | None:
    """One operation in words; None for what only follows from another."""
    try:
        return _known_line(op, old)
    except (KeyError, TypeError, AttributeError):  # a history that another program wrote
        return _place_words(str(op.get("path", "")))


def _known_line(op: dict[str, Any], old: Any) -> str | None:
    path, value = op["path"], op.get("value")
    place = _place_words(path)
    if path.endswith("/lapsed"):
        event = value.get("event", "") if isinstance(value, dict) else value
        if event == READ_AGAIN:
            return None  # the new reading says it
        return (
            f"{place.removesuffix(', lapsed')}: lapsed, {event}"
            if event
            else f"{place.removesuffix(', lapsed')}: stands again"
        )
    if path.endswith(("/chosen", "/why_chosen")):
        return None
    if path.startswith("/events"):
        return f"event: {value['event']}" if isinstance(value, dict) else None
    if op["op"] == "remove":
        return f"{place}: removed {_value_words(old)}".strip()
    before = f"{_value_words(old)} to " if old is not None else ""
    return f"{place}: {before}{_value_words(value)}"


def change_words(change: JournalLine) -> list[str]:
    """What a change did, line by line: name, from, to; what lapsed with it comes last."""
    # The inverse of a patch holds the old values, by the same paths.
    old = {op.get("path"): op.get("value") for op in change.inverse}
    told = [
        line
        for op in _in_order(change.patch)
        if (line := _change_line(op, old.get(op.get("path")))) is not None
    ]
    words = list(dict.fromkeys(told))
    return (
        words
        if len(words) <= MOST_WORDS
        else [*words[:MOST_WORDS], f"and {len(words) - MOST_WORDS} more"]
    )


def _in_order(patch: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Operations with what only lapsed last."""
    return sorted(patch, key=lambda op: str(op.get("path")).endswith("/lapsed"))
