"""Parts that go from one build to another: what was measured there was not measured here."""

from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError

from pindo.core.acts import CannotEnter
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.document.parts import PartCard
from pindo.core.document.sizes import Dimension
from pindo.core.fitting import CASTINGS, sizes_of
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.problems import sizes_problems
from pindo.core.tables_in import Table

FIRST_HEADS = ("part", "kind", "version", "from")
SIZE_HEADS = ("size", "reading", "unit", "±", "source", "tool")


def to_keep(build: Build, n: int) -> PartCard:
    """A part of a build as the library keeps it: its card with its own sizes and holes, wherever
    they stand; what it was to that one build (fitted, its step, its photos) is left behind.

    Raises
    ------
    CannotEnter
        There is no such part, or nobody has said of which kind it is.
    """
    card = next((c for c in build.parts if c.n == n), None)
    if card is None or not card.kind:
        raise CannotEnter(
            "There is no such part."
            if card is None
            else "Say first what kind of part it is. Nothing was stored."
        )
    sizes = card.sizes
    face = card.face
    if card.fitted:
        own = [k for k in sizes_of(card.kind) if k in build.dims and not DIMENSIONS[k].reading]
        sizes = {k: build.dims[k] for k in own}
        face = getattr(build, CASTINGS[card.kind]) if card.kind in CASTINGS else None
    changes = {
        "n": 1,
        "name": card.name or card.kind,
        "fitted": False,
        "state": "spare",
        "keep": False,
        "step": None,
        "needed_by": "",
        "photos": [],
        "sizes": sizes,
        "face": face,
    }
    return card.model_copy(update=changes)


def _there(source: Source) -> Source:
    """What a source in one build is in another."""
    return Source.ELSEWHERE if source == Source.MEASURED else source


def _elsewhere(dimension: Dimension) -> dict[str, Any] | None:
    """A size with the evidence that it has in another build; None where all of it has lapsed."""
    said = [
        s.model_copy(update={"source": _there(s.source)})
        for s in dimension.statements
        if s.lapsed is None
    ]
    if not said:
        return None
    chosen = dimension.chosen if any(s.id == dimension.chosen for s in said) else None
    kept = dimension.model_copy(update={"statements": said, "chosen": chosen})
    return kept.model_dump(mode="json")


def to_build(part: PartCard) -> dict[str, Any]:
    """A part of the library as a new row of a build's parts, on the shelf."""
    row = part.model_dump(mode="json", exclude={"n"})
    sizes = {k: _elsewhere(d) for k, d in part.sizes.items() if k in DIMENSIONS}
    row["sizes"] = {k: d for k, d in sizes.items() if d is not None}
    if part.face is not None:
        face = row["face"]
        for at in (face, *face["holes"], *face["readings"], *face["points"]):
            others = (o["evidence"] for o in at.get("others") or ())
            for evidence in (at.get("evidence"), *(at.get("said") or {}).values(), *others):
                if evidence and evidence["source"] == Source.MEASURED.value:
                    evidence["source"] = Source.ELSEWHERE.value
    return row | {"fitted": False, "photos": [], "step": None}


def merged(part: PartCard, other: PartCard) -> PartCard:
    """Two cards of one part as one: what the first does not say is the other's, and sizes keep the
    statements of both, so that two that cannot both hold are seen.

    Raises
    ------
    CannotEnter
        They are of different kinds.
    """
    if part.kind != other.kind:
        raise CannotEnter(
            f"A {part.kind} and a {other.kind} are not one part. Nothing was changed."
        )
    sizes = dict(part.sizes)
    for key, dimension in other.sizes.items():
        mine = sizes.get(key)
        if mine is None:
            sizes[key] = dimension
            continue
        taken = {s.id for s in mine.statements}
        known = {(s.source, tuple(t.typed for t in s.takes)) for s in mine.statements}
        free = (f"m{i}" for i in range(1, 1000) if f"m{i}" not in taken)
        new = [
            s.model_copy(update={"id": next(free)})
            for s in dimension.statements
            if (s.source, tuple(t.typed for t in s.takes)) not in known
        ]
        sizes[key] = mine.model_copy(update={"statements": [*mine.statements, *new]})
    words = {
        field: getattr(part, field) or getattr(other, field)
        for field in ("source", "donor", "version", "mileage", "marks", "note", "refused")
    }
    return part.model_copy(update={**words, "sizes": sizes, "face": part.face or other.face})


def alike(parts: Sequence[tuple[str, PartCard]]) -> list[tuple[str, str]]:
    """Pairs that may be one part twice: of one kind, with at least three sizes typed alike and none
    otherwise.
    """

    def typed(card: PartCard) -> dict[str, str]:
        return {k: d.statements[-1].takes[-1].typed for k, d in card.sizes.items() if d.statements}

    found = []
    for i, (a, one) in enumerate(parts):
        for b, other in parts[i + 1 :]:
            if one.kind != other.kind:
                continue
            mine, theirs = typed(one), typed(other)
            both = mine.keys() & theirs.keys()
            if len(both) >= 3 and all(mine[k] == theirs[k] for k in both):
                found.append((a, b))
    return found


def read_parts(said: object) -> list[PartCard]:
    """Cards of a library that came as JSON: a list, or an object with ``parts``.

    Raises
    ------
    CannotEnter
        It is none; or a size in it cannot be read. Nothing of it is kept.
    """
    rows = said.get("parts") if isinstance(said, dict) else said
    if not isinstance(rows, list) or not rows:
        raise CannotEnter("This holds no parts: a list of cards is wanted. Nothing was stored.")
    found = []
    for i, row in enumerate(rows, 1):
        try:
            card = PartCard.model_validate({**row, "n": 1} if isinstance(row, dict) else row)
        except ValidationError as error:
            first = error.errors()[0]
            at = ".".join(map(str, first["loc"]))
            raise CannotEnter(f"Part {i}: {at}: {first['msg']}. Nothing was stored.") from error
        if wrong := sizes_problems(card):
            raise CannotEnter(f"Part {i}, {card.name}: {wrong[0].detail} Nothing was stored.")
        found.append(card)
    return found


def parts_of_table(table: Table) -> list[PartCard]:
    """Cards of a library that came as a table, a line for each size; lines of one part, kind and
    version are one card.

    Raises
    ------
    CannotEnter
        A heading or a kind is wanting, a size is not known or cannot be read. Nothing is kept.
    """
    heads = [h.strip().casefold() for h in table[0]] if table else []
    if missing := [h for h in ("part", "kind", "size", "reading") if h not in heads]:
        raise CannotEnter(f"The table has no column {', '.join(missing)}. Nothing was stored.")
    cards: dict[tuple[str, str, str], dict[str, Any]] = {}
    for number, cells in enumerate(table[1:], 2):
        said = {h: (cells[i].strip() if i < len(cells) else "") for i, h in enumerate(heads)}
        if not any(said.values()):
            continue
        key = (said["part"], said["kind"], said.get("version", ""))
        card = cards.setdefault(
            key,
            {
                "name": key[0],
                "kind": key[1],
                "version": key[2],
                "source": said.get("from", ""),
                "state": "spare",
                "sizes": {},
            },
        )
        name = said["size"].casefold()
        size = next((k for k, d in DIMENSIONS.items() if name in (k, d.name.casefold())), "")
        if said["size"] and not size:
            raise CannotEnter(
                f"Line {number}: no size is called “{said['size'][:60]}”. Nothing was stored."
            )
        if size and said["reading"]:
            statements = card["sizes"].setdefault(size, {"statements": []})["statements"]
            statement = {
                "source": said.get("source") or Source.ELSEWHERE.value,
                "tool": said.get("tool") or None,
                "pm": said.get("±") or None,
                "takes": [{"typed": said["reading"], "unit": said.get("unit") or None}],
            }
            if all(s | {"id": ""} != statement | {"id": ""} for s in statements):
                statements.append(statement | {"id": f"s{len(statements) + 1}"})
    return read_parts(list(cards.values()))


def table_of_parts(parts: Sequence[PartCard]) -> list[list[str]]:
    """The lines of such a table, without its headings; a part without sizes has one."""
    lines = []
    for card in parts:
        first = [card.name, card.kind, card.version, card.source or card.donor]
        sizes = [
            [key, t.typed, t.unit or "", s.pm or "", s.source.value, s.tool.value if s.tool else ""]
            for key, d in card.sizes.items()
            for s in d.statements
            if s.lapsed is None
            for t in s.takes
        ]
        lines += [[*first, *size] for size in sizes or [[""] * len(SIZE_HEADS)]]
    return lines
