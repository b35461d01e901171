"""The shop: its code, its devices, what they are called, sending one away."""

import time
from typing import Annotated

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, ConfigDict, StringConstraints

from pindo.formats.picture_code import code_svg
from pindo.store.devices import Device
from pindo.store.stored import NotFound
from pindo.web.asked import PROBLEMS
from pindo.web.shop import Shop

router = APIRouter(prefix="/api/shop")


class DeviceLine(BaseModel):
    """A device that is let in."""

    id: str
    name: str
    agent: str
    first_at: str
    seen_seconds: int | None
    """Since it asked last; empty where it has not since Pindo was started."""
    here: bool


class ShopState(BaseModel):
    """Whether others are served, by which address, and who is let in."""

    open: bool
    address: str
    devices: list[DeviceLine]


class DeviceName(BaseModel):
    """What a device is to be called."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, StringConstraints(min_length=1, max_length=60, strip_whitespace=True)]


def _shop(request: Request) -> Shop:
    shop: Shop | None = request.app.state.shop
    if shop is None:
        raise NotFound("Only this machine is served: start Pindo with --shop.")
    return shop


def _device(request: Request) -> Device | None:
    device: Device | None = getattr(request.state, "device", None)
    return device


def _state(request: Request) -> ShopState:
    shop: Shop | None = request.app.state.shop
    if shop is None:
        return ShopState(open=False, address="", devices=[])
    own = _device(request)
    lines = [
        DeviceLine(
            id=d.id,
            name=d.name,
            agent=d.agent,
            first_at=d.first_at,
            seen_seconds=int(time.time() - shop.seen[d.id]) if d.id in shop.seen else None,
            here=own is not None and d.id == own.id,
        )
        for d in sorted(shop.devices.values(), key=lambda d: (d.first_at, d.id))
    ]
    return ShopState(open=True, address=shop.address, devices=lines)


@router.get("")
def shop_state(request: Request) -> ShopState:
    """Whether others are served, and who is let in."""
    return _state(request)


@router.get("/code.svg", response_class=Response, responses=PROBLEMS)
def shop_code(request: Request) -> Response:
    """The address with the shop's key as a picture code, for the camera of the next device."""
    shop = _shop(request)
    return Response(code_svg(f"{shop.address}?key={shop.key}"), media_type="image/svg+xml")


@router.put("/devices/{id}", responses=PROBLEMS)
def rename_device(request: Request, id: str, wanted: DeviceName) -> ShopState:
    """Call a device by another name; the history carries it from now on."""
    _shop(request).rename(id, wanted.name)
    return _state(request)


@router.delete("/devices/{id}", responses=PROBLEMS)
def send_device_away(request: Request, id: str) -> ShopState:
    """Let a device in no longer; what it changed stays."""
    _shop(request).send_away(id)
    return _state(request)
