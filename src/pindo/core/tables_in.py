"""Tables from elsewhere, understood line by line before anything is entered: which size or row each
line speaks of, how its figure is read, and why a line cannot be taken.

What cannot be taken stays with whoever brought it: nothing is dropped, nothing is guessed. Figures
of another table were not read here and now unless somebody says so.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from pindo.core.acts import Act, CannotEnter, Read
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source, Tool
from pindo.core.errors import PindoError
from pindo.core.inputs.dimensions import DIMENSIONS, letter_at
from pindo.core.inputs.quantity import echo_entry, parse
from pindo.core.inputs.units import KINDS

Table = Sequence[Sequence[str]]
MOST_LINES = 2000
_NO_NUMBER = re.compile(r"^(?:[+-]?(?:nan|inf(?:inity)?)|#.*[!?/].*|n/?a|null|none|-+)$", re.I)
UNIT_OF_HEAD = re.compile(r"\s*(?:,\s*|\[|\()\s*([A-Za-z°\"%/²³·0-9]{1,8})\s*[\])]?$")
LEDGER_HEADS = {
    "size": ("size", "dimension", "name", "key", "what", "letter"),
    "typed": ("reading", "value", "typed", "figure", "measured"),
    "unit": ("unit", "units"),
    "pm": ("±", "+/-", "plus minus", "pm", "tolerance"),
    "source": ("source", "from"),
    "tool": ("tool", "gauge", "instrument"),
    "stands": ("stands",),
}
"""What a column of readings may be called, beside its own name."""


@dataclass(frozen=True, kw_only=True)
class Line:
    """One line of a table: as it came, where it goes, how it is read, or why it cannot be."""

    number: int
    """Counted from 1, headings included."""
    text: str
    to: str = ""
    reads: str = ""
    act: Act | None = None
    wrong: str = ""
    key: str = ""
    """The size that it speaks of, where one is known, and its figure alone."""
    typed: str = ""


@dataclass(frozen=True, kw_only=True)
class Understood:
    """A table as it was understood; ``heads`` are its columns in Pindo's words, empty for one that
    is left out.
    """

    heads: tuple[str, ...]
    lines: tuple[Line, ...]


STANDS = "as it stands"


def plain(head: str) -> str:
    """A heading without its unit, as it is compared."""
    return UNIT_OF_HEAD.sub("", head.strip()).replace("_", " ").casefold().strip()


def number_words(text: str, kind: str, unit: str | None, zero: tuple[str, ...] = ()) -> str:
    """How a figure is read, in words. Raises CannotEnter, EntryError."""
    if _NO_NUMBER.match(text):
        raise CannotEnter(f"“{text}” is no number.")
    if unit is not None and unit not in KINDS[kind].factors:
        raise CannotEnter(f"“{unit}” is not a unit of {kind}.")
    entry = parse(text, kind, unit, zero)
    return f"“{entry.word}”" if entry.value is None else echo_entry(entry, kind)


def _key_of(name: str, question: str) -> str:
    """The size that a name speaks of: its key, its name, its letter at the question, or how its
    name begins where only one size of the question begins so.
    """
    said = name.strip().casefold()
    by_name = [k for k, d in DIMENSIONS.items() if said in (k, d.name.casefold())]
    by_letter = [k for k in DIMENSIONS if said and letter_at(question, k).casefold() == said]
    begins = [
        k
        for k, d in DIMENSIONS.items()
        if said and d.name.casefold().startswith(said) and letter_at(question, k)
    ]
    found = by_name or by_letter or begins
    said = name.strip()[:60]
    if not found:
        raise CannotEnter(f"No size is called “{said}”.")
    if len(found) > 1:
        raise CannotEnter(f"“{said}” could be {', '.join(DIMENSIONS[k].name for k in found[:3])}.")
    return found[0]


def _heads_of(first: Sequence[str]) -> dict[str, int]:
    """Which column is which, where the first line names them; empty where it does not."""
    found: dict[str, int] = {}
    for i, head in enumerate(first):
        for what, names in LEDGER_HEADS.items():
            if plain(head) in names:
                found.setdefault(what, i)
    return found if "typed" in found else {}


def source_of(text: str, chosen: Source | None) -> Source:
    """Where a line's figure comes from: as somebody says for all of them, else as the line says.
    What was measured there and then was not measured here and now. Raises CannotEnter where it
    names no source.
    """
    if chosen is not None:
        return chosen
    said = text.strip().casefold()
    if not said:
        return Source.ELSEWHERE
    found = next((s for s in Source if s.value == said), None)
    if found is None:
        raise CannotEnter(
            f"“{text.strip()[:40]}” is no source: {', '.join(s.value for s in Source)}."
        )
    return Source.ELSEWHERE if found == Source.MEASURED else found


def readings_in(
    build: Build,
    table: Table,
    question: str,
    order: Sequence[str],
    source: Source | None,
    unit: str | None,
) -> Understood:
    """Readings of the ledger from a table.

    Parameters
    ----------
    build
        As it stands: what a line says that stands already is no new reading.
    table : lines of cells
        With headings or without: one column of figures in the order of the sizes, or names and
        figures.
    question : str
        Whose letters count.
    order : keys of sizes
        What a column without names is read into.
    source : Source, optional
        Where all of them come from; left out, as each line says, else *measured elsewhere*.
    unit : str, optional
        Unit of bare lengths; left out, each kind's own.

    Raises
    ------
    CannotEnter
        There are more than 2,000 lines.
    """
    few(table)
    heads = _heads_of(table[0]) if table else {}
    width = max((len([c for c in line if c.strip()]) for line in table), default=0)
    at = heads or ({"typed": 0} if width == 1 else {"size": 0, "typed": 1, "unit": 2})
    body = list(enumerate(table, 1))[1 if heads else 0 :]
    lines, next_in_order = [], iter(order)
    for number, cells in body:
        text = "; ".join(cells)
        if not any(c.strip() for c in cells):
            continue
        said = {what: cells[i].strip() if i < len(cells) else "" for what, i in at.items()}
        key = to = ""
        try:
            key = _key_of(said["size"], question) if "size" in at else next(next_in_order, "")
            if not key:
                raise CannotEnter("There are more figures than sizes from here on.")
            to = DIMENSIONS[key].name
            lines.append(_reading(build, number, text, key, said, source, unit))
        except PindoError as error:
            lines.append(
                Line(
                    number=number,
                    text=text,
                    to=to,
                    wrong=str(error),
                    key=key,
                    typed=said["typed"],
                )
            )
    count = max((len(c) for c in table), default=0)
    names = {i: what for what, i in at.items()}
    return Understood(heads=tuple(names.get(i, "") for i in range(count)), lines=tuple(lines))


def _stands(build: Build, read: Read) -> bool:
    """Whether the ledger says the same already, as it was typed."""
    own = KINDS[DIMENSIONS[read.key].kind].unit
    return read.key in build.dims and any(
        s.lapsed is None
        and s.source in (read.source, Source.MEASURED)
        and (f"{t.typed} ± {s.pm}" if s.pm and "±" not in t.typed else t.typed) == read.typed
        and (t.unit or own) == (read.unit or own)
        for s in build.dims[read.key].statements
        for t in s.takes
    )


def _reading(
    build: Build,
    number: int,
    text: str,
    key: str,
    said: dict[str, str],
    chosen: Source | None,
    unit: str | None,
) -> Line:
    definition = DIMENSIONS[key]
    typed = said["typed"]
    if not typed:
        raise CannotEnter("There is no figure.")
    if (pm := said.get("pm", "")) and "±" not in typed:
        typed = f"{typed} ± {pm.lstrip('±').strip()}"
    bare = unit if definition.kind == "length" else None
    shown = said.get("unit", "") or bare
    source = source_of(said.get("source", ""), chosen)
    tool = next((t for t in Tool if t.value == said.get("tool", "").casefold()), None)
    if said.get("stands", "").startswith("lapsed"):
        raise CannotEnter(f"It {said['stands']} where it comes from: read it again.")
    reads = number_words(typed, definition.kind, shown or None, definition.zero)
    read = Read(key=key, typed=typed, unit=shown or None, source=source, tool=tool)
    there = _stands(build, read)
    return Line(
        number=number,
        text=text,
        to=definition.name,
        reads=STANDS if there else reads,
        act=None if there else read,
    )


def few(table: Table) -> None:
    """Raises CannotEnter where a table has more lines than are taken at a time."""
    if len(table) > MOST_LINES:
        raise CannotEnter(
            f"There are {len(table)} lines; {MOST_LINES} can be taken at a time. Nothing was taken."
        )
