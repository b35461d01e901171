"""Gauges: which are listened to, and their readings as they come."""

from collections.abc import AsyncIterator
from dataclasses import asdict

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from pindo.web.asked import PROBLEMS, Name
from pindo.web.gauges import GaugeReading, Gauges
from pindo.web.routes_live import BREATH_SECONDS

router = APIRouter(prefix="/api/gauges")
WAIT_SECONDS = 0.5


class GaugeState(BaseModel):
    """A gauge and how it is with it."""

    address: str
    state: str
    last: str
    read: int
    garbage: int
    flooded: int


class GaugeAddress(BaseModel):
    """Where a gauge sends from: a socket of this machine."""

    model_config = ConfigDict(extra="forbid")

    address: str = Field(max_length=80)


class GaugesState(BaseModel):
    """Every gauge, and whether this screen takes their readings."""

    gauges: list[GaugeState]
    here: bool


def _gauges(request: Request) -> Gauges:
    gauges: Gauges = request.app.state.gauges
    return gauges


def _state(gauges: Gauges, screen: str) -> GaugesState:
    found = [GaugeState(**asdict(g)) for g in gauges.gauges.values()]
    return GaugesState(gauges=found, here=gauges.taker == screen and screen != "")


@router.get("")
async def all_gauges(request: Request, screen: Name = "") -> GaugesState:
    """Every gauge that is listened to."""
    return _state(_gauges(request), screen)


@router.post("", responses=PROBLEMS)
async def listen_to(request: Request, wanted: GaugeAddress, screen: Name = "") -> GaugesState:
    """Listen to a gauge; its readings come to the screen that asked."""
    gauges = _gauges(request)
    gauges.add(wanted.address)
    gauges.taker = screen
    return _state(gauges, screen)


@router.delete("/{address}", responses=PROBLEMS)
async def let_go(request: Request, address: str, screen: Name = "") -> GaugesState:
    """Listen to a gauge no longer."""
    gauges = _gauges(request)
    gauges.remove(address)
    return _state(gauges, screen)


@router.post("/here", responses=PROBLEMS)
async def take_here(request: Request, screen: Name = "") -> GaugesState:
    """Readings come to this screen from now on, and to no other."""
    gauges = _gauges(request)
    gauges.taker = screen
    return _state(gauges, screen)


async def _told(request: Request, gauges: Gauges, screen: str) -> AsyncIterator[str]:
    last, still = gauges.count, 0.0
    while not await request.is_disconnected():
        found: list[GaugeReading] = await gauges.after(last, WAIT_SECONDS)
        for reading in found:
            last = reading.id
            if gauges.taker == screen:
                yield f"data: {GaugeReadingLine(**asdict(reading)).model_dump_json()}\n\n"
        still = 0.0 if found else still + WAIT_SECONDS
        if still >= BREATH_SECONDS:
            still = 0.0
            yield ": still here\n\n"


class GaugeReadingLine(BaseModel):
    """A reading as it goes to the screen."""

    id: int
    gauge: str
    text: str
    label: str
    wrong: str


@router.get("/live", include_in_schema=False)
async def live(request: Request, screen: Name = "") -> StreamingResponse:
    """Server-sent events: readings of every gauge, to the screen that takes them."""
    return StreamingResponse(
        _told(request, _gauges(request), screen),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store"},
    )
