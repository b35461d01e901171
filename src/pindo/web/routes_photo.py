"""Sizes read off a photo: the points that were picked, what is known, and what follows."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from pindo.core.geometry.photo import Known, Seen, read_off
from pindo.web.asked import PROBLEMS

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
    return read_off(known, asked.points, asked.what, asked.pick_px)
