"""What a list of a build is: its names, its columns as its rows declare them, the lists that its
rows have.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import get_args, get_origin

from pindo.core.document.rows import Column, Part, Parts, Row


@dataclass(frozen=True, kw_only=True)
class RowList:
    """A list of the build: what it and its rows are called, where it belongs, what reading its
    rows are.
    """

    key: str
    title: str
    one: str
    station: str
    model: type[Row]
    reading: str = ""
    evidence_of: tuple[str, ...] = ()
    """The figures that the row's evidence speaks of; all of them when empty."""
    record: bool = False
    """Facts of record: what happened, stored at once and never held as a trial."""
    origin: str = ""
    """Where its places are told from."""


@dataclass(frozen=True, kw_only=True)
class ColumnOf:
    """A column as the screen and the reader need it."""

    field: str
    label: str
    kind: str
    choices: tuple[str, ...]
    needed: bool
    source_in: str = ""
    mirrors: bool = False


def columns_of_model(model: type[Row] | type[Part]) -> tuple[ColumnOf, ...]:
    """The columns that the annotations of a row's model declare."""
    found = []
    for field, info in model.model_fields.items():
        if isinstance(info.json_schema_extra, dict):
            extra = info.json_schema_extra
            found.append(
                ColumnOf(
                    field=field,
                    label=info.title or field,
                    kind=str(extra["kind"]),
                    choices=(),
                    needed=bool(extra["needed"]),
                    mirrors=bool(extra["mirrors"]),
                    source_in=str(extra["source_in"]),
                )
            )
        elif (
            column := next((m for m in info.metadata if isinstance(m, Column)), None)
        ) is not None:
            choices = (
                ()
                if get_origin(info.annotation) is list
                else tuple(str(c) for c in get_args(info.annotation) if isinstance(c, str))
            )
            kind = (
                "numbers"
                if info.annotation == list[int]
                else (
                    "words"
                    if get_origin(info.annotation) is list
                    else (
                        "choice"
                        if choices
                        else (
                            "yes"
                            if info.annotation is bool
                            else (
                                "whole"
                                if int in (info.annotation, *get_args(info.annotation))
                                else "text"
                            )
                        )
                    )
                )
            )
            found.append(
                ColumnOf(field=field, label=column.label, kind=kind, choices=choices, needed=False)
            )
    return tuple(found)


@dataclass(frozen=True, kw_only=True)
class PartList:
    """A list that every row of another has: its key is that list's and its field's."""

    key: str
    of: str
    field: str
    one: str
    title: str
    model: type[Part]
    named_by: str
    reading_in: str

    def label(self, part: Part, row: str) -> str:
        """What a part is called, within what its row is called."""
        name = getattr(part, self.named_by) if self.named_by else ""
        return (
            f"{name}, {row[:1].lower()}{row[1:]}" if name else f"{row}, {self.one.lower()} {part.n}"
        )


def parts_of(of: RowList) -> Iterator[PartList]:
    """The lists that every row of a list has."""
    for field, info in of.model.model_fields.items():
        said = next((m for m in info.metadata if isinstance(m, Parts)), None)
        if said is not None:
            (model,) = get_args(info.annotation)
            yield PartList(
                key=f"{of.key}.{field}",
                of=of.key,
                field=field,
                one=said.one,
                title=said.title,
                model=model,
                named_by=said.named_by,
                reading_in=said.reading_in,
            )
