"""Sizes read off a photo: the points that were picked, what is known, and what follows. Patterns
of holes out of a drawing or a picture.
"""

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, ConfigDict, Field

from pindo.core.geometry.circles import Pattern
from pindo.core.geometry.photo import Known, NotSeen, Seen, read_off, stated
from pindo.formats.pattern_in import NoPattern, drawing_pattern
from pindo.formats.scan import picture_pattern
from pindo.web.asked import PROBLEMS, body_file
from pindo.web.problems import Refused
from pindo.web.turns import a_place

router = APIRouter(prefix="/api")
Coordinate = Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]
Picked = Annotated[list[tuple[Coordinate, Coordinate]], Field(max_length=40)]
Size = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]


class OffAPhoto(BaseModel):
    """What is to be read: two known points or four corners in pixels, their size in mm, the points
    of what is read.
    """

    model_config = ConfigDict(extra="forbid")

    known: Picked
    width: Size
    width_pm: Size = 0.0
    height: Size = 0.0
    height_pm: Size = 0.0
    points: Picked
    what: Literal["length", "angle", "circle"]
    pick_px: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 1.0


@router.post("/off-a-photo", responses=PROBLEMS)
def off_a_photo(asked: OffAPhoto) -> Seen:
    """A length, an angle or a diameter read off a photo, with its ±; nothing is stored."""
    known = Known(
        points=asked.known,
        width=asked.width,
        width_pm=asked.width_pm,
        height=asked.height,
        height_pm=asked.height_pm,
    )
    return read_off(stated(known), asked.points, asked.what, asked.pick_px)


PICTURES = (b"\x89PNG", b"\xff\xd8\xff", b"RIFF")
Corners = Annotated[list[Coordinate], Query(max_length=8)]


@router.post(
    "/pattern",
    responses=PROBLEMS,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def read_pattern(
    request: Request,
    unit: Literal["", "mm", "cm", "in"] = "",
    corners: Corners = [],  # noqa: B006  the framework copies it
    width: Size = 0.0,
    width_pm: Size = 0.0,
    height: Size = 0.0,
    height_pm: Size = 0.0,
) -> Pattern:
    """Circles of a DXF or SVG, or round holes of a picture, each with its ±; nothing is stored. The
    body is the file.

    ``unit`` is that of a drawing that does not say its own. ``corners`` are x and y of two points
    of a known distance or of the four corners of a rectangle in a picture, in pixels of the picture
    upright with its longer side 4000 at most; without them it has a scale of its own.
    """
    file = await body_file(request)

    def read() -> Pattern:
        with file:
            content = file.read()
        if not content.startswith(PICTURES):
            return drawing_pattern(content, unit)
        if len(corners) not in (0, 4, 8):
            raise NotSeen("Pick two points of a known distance, or the four corners in turn.")
        points = list(zip(corners[::2], corners[1::2], strict=True))
        known = Known(
            points=points, width=width, width_pm=width_pm, height=height, height_pm=height_pm
        )
        return picture_pattern(content, stated(known) if points else None)

    async with a_place():
        try:
            return await run_in_threadpool(read)
        except NoPattern as error:
            raise Refused(422, "no-pattern", "No pattern was found", str(error)) from error
