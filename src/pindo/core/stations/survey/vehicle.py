"""The vehicle: the sizes that everything is placed by."""

from collections.abc import Iterator

from pindo.core.document.build import Build
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.profile import profile
from pindo.core.geometry.frames import NO_POSE, SIDES, VEHICLE_SIDES, faces, spoken_side
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict

KEY = "survey.vehicle"


def _told(side: str, viewpoint: str, inputs: Inputs) -> str:
    """A spoken side as everybody may understand it."""
    build = inputs.build
    meant, looks = spoken_side(side, viewpoint, build.layout)
    own = meant.called(build.nicknames)
    if looks is None:
        return f"{own}; where that looks in the vehicle is not known yet"
    return own if looks is meant else f"{own} = {looks.called(build.nicknames)}"


def _spoken(build: Build) -> Iterator[tuple[str, str, str, str]]:
    """Every side that somebody named: id, where it stands, the side, from where it was seen."""
    for entry in build.log:
        if entry.side:
            name = f"Entry {entry.n} {entry.name}".strip()
            yield f"log.{entry.n}", name, entry.side, entry.viewpoint
    for part in build.parts:
        for claim in part.claims:
            if claim.side:
                name = f"Claim {claim.n} of {part.name or f'part {part.n}'}"
                yield f"parts.{part.n}.claims.{claim.n}", name, claim.side, claim.viewpoint


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Layouts that place nothing, and sides that were named from nowhere."""
    build = inputs.build
    if build.layout in NO_POSE:
        yield notice(
            "survey.layout",
            KEY,
            "How the unit stands",
            Verdict.UNMEASURED,
            f"No place of the unit counts: {NO_POSE[build.layout]}",
            why="Every side, height and angle in the vehicle hangs on it.",
        )
    for address, name, side, viewpoint in _spoken(build):
        if viewpoint == "not said":
            yield notice(
                f"survey.side.{address}",
                KEY,
                f"{name}: which side?",
                Verdict.UNMEASURED,
                f"{name} says {side}: seen from the driver's seat, from in front, or from which end"
                " of the unit?",
                why="Left from behind is right from in front: parts are bought for the wrong side.",
                condition="question",
                row=address,
            )


def _sides(inputs: Inputs) -> Table:
    build = inputs.build
    rows = []
    for side in (*SIDES, *VEHICLE_SIDES):
        looks = faces(side, build.layout)
        told = "" if looks is None or looks is side else looks.called(build.nicknames)
        own = build.nicknames.get(side.key, "")
        rows.append(
            TableRow(cells=(str(side.number), side.name, own, told, "; ".join(side.aliases)))
        )
    columns = (
        Column(key="n", label="no."),
        Column(key="name", label="side or end"),
        Column(key="own", label="you call it"),
        Column(key="looks", label="looks to the"),
        Column(key="said", label="also said"),
    )
    return Table(
        key="sides", title="Sides and ends", columns=columns, rows=tuple(rows), of_record=True
    )


def _said(inputs: Inputs) -> Table:
    rows = tuple(
        TableRow(cells=(name, side, viewpoint, _told(side, viewpoint, inputs)), address=address)
        for address, name, side, viewpoint in _spoken(inputs.build)
        if viewpoint != "not said"
    )
    columns = (
        Column(key="where", label="said in"),
        Column(key="said", label="side"),
        Column(key="from", label="seen from"),
        Column(key="is", label="is the"),
    )
    return Table(key="said", title="Sides as they were said", columns=columns, rows=rows)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The vehicle, what its sides and ends are called, and sides that somebody named."""
    tables = (_sides(inputs), _said(inputs))
    return Board(drawings=(profile(inputs),), tables=tuple(t for t in tables if t.rows))


QUESTION = Question(
    path="vehicle",
    station=Station.SURVEY,
    name="Vehicle",
    asks="How large are vehicle and unit?",
    options=("bonnet", "build_type"),
    dimensions={
        "A": "wheelbase_mm",
        "B": "tyre_mm",
        "C": "rail_height_mm",
        "D": "bonnet_height_mm",
        "E": "engine_length_mm",
        "F": "engine_top_mm",
        "G": "sump_mm",
        "H": "gearbox_length_mm",
    },
    notices=notices,
    board=board,
)
