"""The shop's library of parts: kept from a build, taken into others, in and out as files."""

import json
from contextlib import closing
from typing import Literal

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, ConfigDict, Field

from pindo.core.acts import CannotEnter
from pindo.core.document.parts import PartCard
from pindo.core.shop_library import (
    FIRST_HEADS,
    SIZE_HEADS,
    alike,
    merged,
    parts_of_table,
    read_parts,
    table_of_parts,
    to_build,
    to_keep,
)
from pindo.formats.tables import csv_of, decoded, table_of
from pindo.store import library
from pindo.store.database import connect
from pindo.web.asked import PROBLEMS, Conn, body_file
from pindo.web.routes_builds import build_of
from pindo.web.routes_files import attachment
from pindo.web.turns import Working, a_place

router = APIRouter(prefix="/api/library")


class LibraryPart(BaseModel):
    """A part of the library, and what of it goes into a build: a row of its parts."""

    id: str
    kind: str
    name: str
    version: str
    came_of: str
    at: str
    sizes: int
    row: PartCard


class Library(BaseModel):
    """Every part that the shop keeps, and pairs that may be one part twice."""

    parts: list[LibraryPart]
    alike: list[tuple[str, str]]


class ToKeep(BaseModel):
    """A part of a build that the library is to keep."""

    model_config = ConfigDict(extra="forbid")

    build: str = Field(max_length=100)
    part: int = Field(ge=1, le=9999)


class ToMerge(BaseModel):
    """Two parts of the library that are one; ``gone`` is taken out."""

    model_config = ConfigDict(extra="forbid")

    id: str = Field(max_length=100)
    gone: str = Field(max_length=100)


def _card(kept: library.Kept) -> PartCard:
    return PartCard.model_validate(kept.part)


def _line(kept: library.Kept) -> LibraryPart:
    card = _card(kept)
    return LibraryPart(
        id=kept.id,
        kind=kept.kind,
        name=kept.name,
        version=card.version,
        came_of=kept.came_of,
        at=kept.at,
        sizes=len(card.sizes),
        row=PartCard.model_validate(to_build(card) | {"n": 1}),
    )


def _json(card: PartCard) -> dict[str, object]:
    return card.model_dump(mode="json")


@router.get("")
def all_parts(conn: Conn) -> Library:
    """Every part that the shop keeps."""
    kept = library.all_parts(conn)
    return Library(parts=[_line(k) for k in kept], alike=alike([(k.id, _card(k)) for k in kept]))


@router.post("", status_code=201, responses=PROBLEMS)
def keep(conn: Conn, wanted: ToKeep) -> LibraryPart:
    """Keeps a part of a build, with the sizes that it has there."""
    build = build_of(conn, wanted.build)
    (id,) = library.add(conn, [_json(to_keep(build, wanted.part))], build.name)
    return _line(library.get(conn, id))


@router.post("/merge", responses=PROBLEMS)
def merge(conn: Conn, wanted: ToMerge) -> LibraryPart:
    """One part where two were; sizes keep what both say."""
    if wanted.id == wanted.gone:
        raise CannotEnter("It is one part already. Nothing was changed.")
    card, gone = (_card(library.get(conn, id)) for id in (wanted.id, wanted.gone))
    library.merge(conn, wanted.id, _json(merged(card, gone)), wanted.gone)
    return _line(library.get(conn, wanted.id))


@router.delete("/{id}", status_code=204, responses=PROBLEMS)
def delete(conn: Conn, id: str) -> None:
    """Takes a part out; builds that it went into keep theirs."""
    library.delete(conn, id)


@router.get("/parts.{form}", response_class=Response, responses=PROBLEMS)
def library_file(conn: Conn, _: Working, form: Literal["json", "csv"]) -> Response:
    """The library as a file: cards as JSON, or a line for each size as CSV."""
    cards = [_card(k) for k in library.all_parts(conn)]
    if form == "csv":
        heads = (*FIRST_HEADS, *SIZE_HEADS)
        content = csv_of(heads, table_of_parts(cards))
        return attachment(content, "text/csv; charset=utf-8", "parts of the shop.csv")
    text = json.dumps({"parts": [_json(c) for c in cards]}, ensure_ascii=False, indent=1)
    return attachment(text.encode(), "application/json", "parts of the shop.json")


def _cards(content: bytes) -> list[PartCard]:
    """Cards of a file: JSON by its first sign, else a table."""
    text = decoded(content)
    if text.lstrip()[:1] not in ("{", "["):
        return parts_of_table(table_of(text))
    try:
        said = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise CannotEnter(
            "The file begins as JSON and cannot be read as such. Nothing was stored."
        ) from error
    return read_parts(said)


@router.post(
    "/table",
    status_code=201,
    responses=PROBLEMS,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def take_in(request: Request) -> Library:
    """Parts from a file, JSON or CSV, all of them or none."""
    file = await body_file(request)

    def taken() -> Library:
        with file, closing(connect(request.app.state.database)) as conn:
            library.add(conn, [_json(card) for card in _cards(file.read())], "a file")
            return all_parts(conn)

    async with a_place():
        return await run_in_threadpool(taken)
