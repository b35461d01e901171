"""What a photo or a note is pinned to: its name, and the version of the part that it shows."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from pindo.core.document.build import Build
from pindo.core.document.lists import LISTS
from pindo.core.document.rows import Row
from pindo.core.inputs.dimensions import DIMENSIONS


@dataclass(frozen=True, kw_only=True)
class Pin:
    """Something that a photo may show."""

    address: str
    name: str
    part: int | None = None
    """Number of the part that it belongs to, where one is known."""


def pins(build: Build) -> Iterator[Pin]:
    """Everything that there is to pin to: sizes, holes of the castings, rows of the lists."""
    fitted: dict[str, int] = {p.kind: p.n for p in build.parts if p.fitted and p.kind}
    for key, d in DIMENSIONS.items():
        yield Pin(address=key, name=d.name, part=fitted.get(d.part))
    for side, face in (("engine", build.engine_face), ("gearbox", build.gearbox_face)):
        for hole in face.holes:
            name = f"{side.capitalize()} hole {hole.n} {hole.name}".strip()
            yield Pin(address=f"{side}.{hole.n}", name=name, part=fitted.get(side))
    for key, of in LISTS.items():
        rows: list[Row] = getattr(build, key)
        for row in rows:
            yield Pin(
                address=f"{key}.{row.n}",
                name=f"{of.one} {row.n} {row.name}".strip(),
                part=row.n if key == "parts" else None,
            )


def version_shown(build: Build, address: str) -> str:
    """The version of the part that something belongs to, as its card says it; empty where no part
    or no version is known.
    """
    pin = next((p for p in pins(build) if p.address == address), None)
    if pin is None or pin.part is None:
        return ""
    card = next(p for p in build.parts if p.n == pin.part)
    return f"{card.name or card.kind}, {card.version}" if card.version else ""


def logged(build: Build, row: dict[str, Any]) -> dict[str, Any]:
    """An entry of the log with the version of what it is pinned to, as that is now."""
    pin = str(row.get("pin") or "")
    return row | {"pinned_version": version_shown(build, pin)} if pin else row
