"""The lists of a build: what they and their rows are called, where they belong, and their
columns.
"""

from collections.abc import Mapping
from types import MappingProxyType

from pindo.core.document.list_model import (
    ColumnOf,
    PartList,
    RowList,
    columns_of_model,
    parts_of,
)
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
    Mark,
    Mount,
    PosePoint,
    Pulley,
    Solid,
    Tape,
)
from pindo.core.document.stack_rows import Gear, JoinGap, Link, MadeFor, Pin, Spacer, SpacerPiece

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
                key="spacer_pieces",
                title="Pieces of the crank spacer",
                one="Piece",
                station="stack",
                model=SpacerPiece,
            ),
            RowList(
                key="made_for",
                title="Parts made for a thickness",
                one="Part",
                station="stack",
                model=MadeFor,
            ),
            RowList(
                key="spacers",
                title="Spacers, shims and cores to be had",
                one="Piece",
                station="stack",
                model=Spacer,
            ),
            RowList(key="gears", title="Gears", one="Gear", station="stack", model=Gear),
            RowList(
                key="links",
                title="Parts that carry torque or power",
                one="Part",
                station="stack",
                model=Link,
                evidence_of=("rating", "power"),
            ),
            RowList(
                key="join_gaps",
                title="Gaps between the faces, where they stop",
                one="Gap",
                station="stack",
                model=JoinGap,
                reading="joining",
            ),
            RowList(key="pins", title="Pins", one="Pin", station="stack", model=Pin),
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


PARTS: Mapping[str, tuple[PartList, ...]] = MappingProxyType(
    {key: tuple(parts_of(of)) for key, of in LISTS.items()}
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
