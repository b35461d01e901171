"""The lists of a build: what they and their rows are called, where they belong, and their
columns.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import get_args, get_origin

from pindo.core.document.mate_rows import (
    Dial,
    Locator,
    OtherPlate,
    Outline,
    Proof,
    Sheet,
)
from pindo.core.document.parts import Fact, Kit, PartCard, Variant
from pindo.core.document.records import (
    Fit,
    Hours,
    LogEntry,
    Modification,
    MoneyLine,
    Provisional,
    Step,
)
from pindo.core.document.rows import (
    BoltedJoint,
    Boss,
    Column,
    Mark,
    Mount,
    Part,
    Parts,
    PosePoint,
    Pulley,
    Row,
    Solid,
    Tape,
)


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


LISTS: Mapping[str, RowList] = MappingProxyType(
    {
        x.key: x
        for x in (
            RowList(
                key="marks",
                title="Marks",
                one="Mark",
                station="survey",
                model=Mark,
                origin=(
                    "behind the front axle line, left of the centre plane, above the top of the"
                    " rail; six of them hold the frame"
                ),
            ),
            RowList(
                key="tape",
                title="Tape, level and plumb readings",
                one="Reading",
                station="survey",
                model=Tape,
            ),
            RowList(
                key="bosses",
                title="Bosses and threaded places",
                one="Boss",
                station="survey",
                model=Boss,
            ),
            RowList(
                key="parts",
                title="Parts",
                one="Part",
                station="survey",
                model=PartCard,
                record=True,
            ),
            RowList(key="kits", title="Kits", one="Kit", station="survey", model=Kit, record=True),
            RowList(
                key="facts",
                title="Versions and other facts",
                one="Fact",
                station="survey",
                model=Fact,
                record=True,
            ),
            RowList(
                key="variants",
                title="What hangs on them",
                one="Rule",
                station="survey",
                model=Variant,
                record=True,
            ),
            RowList(
                key="dials",
                title="Dial readings",
                one="Dial",
                station="mate",
                model=Dial,
                reading="runout",
            ),
            RowList(
                key="locators",
                title="Joints from crank to input shaft",
                one="Joint",
                station="mate",
                model=Locator,
            ),
            RowList(
                key="proofs",
                title="Readings of the made plate",
                one="Reading",
                station="mate",
                model=Proof,
            ),
            RowList(
                key="sheets",
                title="Plate in stock or on offer",
                one="Sheet",
                station="mate",
                model=Sheet,
            ),
            RowList(
                key="outlines",
                title="Outlines",
                one="Outline",
                station="mate",
                model=Outline,
                origin=(
                    "right and up of one origin for all of them; of a starter's body right and up"
                    " of the crank axis, seen from behind"
                ),
            ),
            RowList(
                key="plates",
                title="Mount plates and port plates",
                one="Plate",
                station="mate",
                model=OtherPlate,
            ),
            RowList(
                key="pose_points",
                title="Points to find the pose",
                one="Point",
                station="seat",
                model=PosePoint,
                reading="pose",
                origin=(
                    "on the engine behind the block face, left of and above the crank axis; in the"
                    " chassis behind the front axle line, left of the centre plane, above the top"
                    " of the rail"
                ),
            ),
            RowList(
                key="mounts",
                title="Mounts",
                one="Mount",
                station="seat",
                model=Mount,
                origin=(
                    "behind the block face, of the gearbox behind the bell's mouth; left of and"
                    " above the crank axis"
                ),
            ),
            RowList(
                key="solids",
                title="Solids",
                one="Solid",
                station="clear",
                model=Solid,
                origin=(
                    "its middle: of the engine behind the block face, left of and above the crank"
                    " axis; of the gearbox behind the bell's mouth; of the chassis behind the front"
                    " axle line, left of the centre plane, above the top of the rail"
                ),
            ),
            RowList(
                key="pulleys",
                title="Belt run, in belt order",
                one="Pulley",
                station="clear",
                model=Pulley,
                origin="seen from the accessory end: right of and above the crank axis",
            ),
            RowList(
                key="joints",
                title="Bolted joints",
                one="Joint",
                station="assemble",
                model=BoltedJoint,
                evidence_of=("torque",),
                record=True,
            ),
            RowList(
                key="steps", title="Steps", one="Step", station="assemble", model=Step, record=True
            ),
            RowList(
                key="log", title="Log", one="Entry", station="log", model=LogEntry, record=True
            ),
            RowList(
                key="fits", title="Trial fits", one="Fit", station="log", model=Fit, record=True
            ),
            RowList(
                key="modifications",
                title="Modifications",
                one="Modification",
                station="log",
                model=Modification,
                record=True,
            ),
            RowList(
                key="provisional",
                title="Provisional",
                one="Item",
                station="log",
                model=Provisional,
                record=True,
            ),
            RowList(
                key="money", title="Money", one="Line", station="log", model=MoneyLine, record=True
            ),
            RowList(
                key="hours", title="Hours", one="Hours", station="log", model=Hours, record=True
            ),
        )
    }
)


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


def _parts(of: RowList) -> Iterator[PartList]:
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


PARTS: Mapping[str, tuple[PartList, ...]] = MappingProxyType(
    {key: tuple(_parts(of)) for key, of in LISTS.items()}
)
"""The lists that the rows of each list have."""
PART_LISTS: Mapping[str, PartList] = MappingProxyType(
    {p.key: p for parts in PARTS.values() for p in parts}
)
COLUMNS: Mapping[str, tuple[ColumnOf, ...]] = MappingProxyType(
    {key: columns_of_model(x.model) for key, x in LISTS.items()}
    | {key: columns_of_model(p.model) for key, p in PART_LISTS.items()}
)


NOT_FIGURES = frozenset({"text", "choice", "yes", "whole", "numbers", "words"})


def figures(key: str) -> tuple[ColumnOf, ...]:
    """The columns of a list that hold figures."""
    return tuple(c for c in COLUMNS[key] if c.kind not in NOT_FIGURES)


def kind_of_words(key: str, field: str) -> str:
    """Kind of a column that holds no figure: text, choice, yes; empty for a figure."""
    columns = COLUMNS.get(key, ())
    return next((c.kind for c in columns if c.field == field and c.kind in NOT_FIGURES), "")
