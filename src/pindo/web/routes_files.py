"""Files of a build: documents, drawings, papers, pictures, the whole of it as a bundle."""

import re
import sqlite3
import tempfile
import unicodedata
from collections.abc import Callable, Iterator
from contextlib import closing
from functools import partial
from pathlib import Path
from typing import IO, Literal
from urllib.parse import quote

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from pindo.core.document.build import Build
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.problems import document_trouble
from pindo.core.judging.question import QUESTIONS
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate import other_plates_drawn
from pindo.core.stations.mate.notches import plate_to_cut
from pindo.core.stations.mate.outline import Plate, wooden
from pindo.core.stations.mate.trim_cut import trimmed
from pindo.formats.csv_table import drilling_csv
from pindo.formats.dxf import plate_dxf
from pindo.formats.handover_pdf import handover_report
from pindo.formats.pictures import cleaned, for_paper
from pindo.formats.plain_text import plain_name
from pindo.formats.sheet_lists import MOST_PHOTOS
from pindo.formats.sheet_pdf import station_sheet
from pindo.formats.sounds import sound
from pindo.formats.stl import plate_stl
from pindo.formats.svg import plate_svg
from pindo.formats.template_pdf import TooLarge, template_pdf
from pindo.store import builds as store
from pindo.store import photos
from pindo.store.database import connect
from pindo.store.stored import Author, NotFound, Stored
from pindo.web import answers, bundles, models, service
from pindo.web.asked import PROBLEMS, By, Conn, body_file
from pindo.web.problems import Refused
from pindo.web.routes_builds import answered, build_of, today
from pindo.web.turns import Working, a_place

router = APIRouter(prefix="/api/builds")
# Names that no file may have on one system or another.
_DEVICES = re.compile(r"^(con|prn|aux|nul|com\d|lpt\d)(\.|$)", re.IGNORECASE)


def file_name(name: str, end: str) -> str:
    """A name that a file can have on every system, as near to ``name`` as that goes; ``end`` is
    its extension.
    """
    text = plain_name(name)
    while len(text.encode()) > 120:
        text = text[:-1].rstrip(" .-")
    if not text or _DEVICES.match(text):
        text = f"build {text}".strip()
    return text + end


def attachment(content: bytes | Iterator[bytes], media_type: str, name: str) -> Response:
    """A file to keep; its name in ASCII, and as it is (RFC 6266)."""
    ascii_name = (
        re.sub(
            r"[^A-Za-z0-9._-]+",
            "-",
            unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode(),
        ).strip("-.")
        or "pindo"
    )
    headers = {
        "Content-Disposition": (
            f"attachment; filename=\"{ascii_name}\"; filename*=UTF-8''{quote(name, safe='')}"
        )
    }
    if isinstance(content, bytes):
        return Response(content, media_type=media_type, headers=headers)
    return StreamingResponse(content, media_type=media_type, headers=headers)


@router.get("/{id}/build.json", response_class=Response, responses=PROBLEMS)
def export_build(conn: Conn, id: str) -> Response:
    """The document alone, for other programs; it can be imported again. As it is stored where it
    cannot be opened.
    """
    document = store.get(conn, id).document
    content = (
        store.dumped(document)
        if document_trouble(document)
        else build_of(conn, id).model_dump_json(indent=1).encode()
    )
    return attachment(
        content, "application/json", file_name(str(document.get("name", "")), ".pindo.json")
    )


def _chunks(file: IO[bytes]) -> Iterator[bytes]:
    with file:
        while chunk := file.read(256 * 1024):
            yield chunk


@router.get("/{id}/bundle", response_class=Response, responses=PROBLEMS)
def export_bundle(conn: Conn, _: Working, id: str) -> Response:
    """Everything of a build in one zip file: document, history, pictures, a checksum of each."""
    file: IO[bytes] = tempfile.SpooledTemporaryFile(max_size=4 * 1024 * 1024)  # noqa: SIM115  closed when it is sent
    name = bundles.write(conn, id, file)
    file.seek(0)
    return attachment(_chunks(file), "application/zip", file_name(name, ".pindo.zip"))


def _taken_in(database: Path, file: IO[bytes], by: Author) -> Response:
    with file, closing(connect(database)) as conn:
        return answered(conn, bundles.take_in(conn, file, by, today()), 201)


@router.post("/bundle", status_code=201, response_model=models.BuildState, responses=PROBLEMS)
async def import_bundle(request: Request, by: By) -> Response:
    """A build from its bundle, as a new build, with its history and pictures; refused whole when
    anything in it is not as it was written.
    """
    file = await body_file(request)
    async with a_place():
        return await run_in_threadpool(_taken_in, request.app.state.database, file, by)


def _fouls(now: answers.Answered) -> list[str]:
    """What fouls of the plate and its holes, by title."""
    return [
        f.title
        for f in now.assessment.findings
        if f.station == Station.MATE and f.verdict == Verdict.FOULS
    ]


@router.get("/{id}/plate.{form}", response_class=Response, responses=PROBLEMS)
def plate_file(
    conn: Conn,
    _: Working,
    id: str,
    form: Literal["dxf", "svg", "pdf", "csv", "stl"],
    paper: Literal["A4", "A3", "Letter"] = "A4",
    of: Literal["plate", "wood"] = "plate",
) -> Response:
    """The plate as a drawing, a 1:1 paper template, a drilling table, a solid; ``of`` wood, what a
    trial in cardboard or plywood is cut by, with locating holes alone.
    """
    stored, now = asked_of(conn, id)
    build, made = now.written.build, plate_to_cut(now.inputs)
    title, thickness = build.name, now.inputs.value("plate_mm")
    if of == "wood":
        made, title = wooden(made), f"{build.name}, template of wood: outline, not position"
    if form == "stl" and not thickness:
        raise Refused(
            409,
            "no-thickness",
            "A solid has a thickness",
            "The plate's thickness is not known yet. Enter it at Mate.",
        )
    if form in ("pdf", "stl") and not made.outline:
        raise Refused(
            409,
            "no-plate",
            "There is no plate yet",
            "The outline takes three holes with place and size. Enter them at Mate.",
        )
    makers: dict[str, Callable[[], bytes]] = {
        "stl": lambda: plate_stl(made, thickness or 0.0),
        "csv": lambda: drilling_csv(made),
    }
    thick = None if of == "wood" else thickness
    make = makers.get(form) or partial(drawn_as, made, title, form, paper, _fouls(now), thick)
    return as_file(make, f"{build.name} {of}", form, paper, stored.version)


@router.get("/{id}/trim.{form}", response_class=Response, responses=PROBLEMS)
def trim_file(
    conn: Conn,
    _: Working,
    id: str,
    form: Literal["dxf", "svg", "pdf"],
    paper: Literal["A4", "A3", "Letter"] = "A4",
) -> Response:
    """A trimmed part: the line that is left, the line of the first cut, its locating holes."""
    stored, now = asked_of(conn, id)
    build, made = now.written.build, trimmed(now.inputs)
    if made is None:
        raise Refused(
            409,
            "no-cut",
            "There is no cut yet",
            "It takes the outline of the part, that of what stays clear, and the gap. Enter them at"
            " Mate, Trim; what the cut would take whole has no line.",
        )
    make = partial(drawn_as, made, f"{build.name}, trim", form, paper, [], None)
    return as_file(make, f"{build.name} trim", form, paper, stored.version)


@router.get("/{id}/other-plates.{form}", response_class=Response, responses=PROBLEMS)
def other_plates_file(
    conn: Conn,
    _: Working,
    id: str,
    form: Literal["dxf", "svg", "pdf", "csv"],
    paper: Literal["A4", "A3", "Letter"] = "A4",
) -> Response:
    """Mount plates and port plates, side by side, as one drawing, template or drilling table."""
    stored, now = asked_of(conn, id)
    build, made = now.written.build, other_plates_drawn.cut(now.inputs)
    if made is None:
        raise Refused(
            409,
            "no-plate",
            "There is no other plate yet",
            "It takes two holes with place and size, and the metal round them. Enter them at Mate,"
            " Plate, under mount plates and port plates.",
        )
    title = f"{build.name}, other plates"
    make = partial(drawn_as, made, title, form, paper, [], None)
    if form == "csv":
        make = partial(drilling_csv, made)
    return as_file(make, f"{build.name} other plates", form, paper, stored.version)


def asked_of(conn: sqlite3.Connection, id: str) -> tuple[Stored, answers.Answered]:
    """A build as it is stored, and what is said of it."""
    stored = store.get(conn, id)
    return stored, answers.answered(id, stored.document, today(), stored.at.tag)


def drawn_as(
    made: Plate, title: str, form: str, paper: str, fouls: list[str], thickness: float | None
) -> bytes:
    """A drawing of a plate in a form that all drawings have."""
    if form == "dxf":
        return plate_dxf(made, title)
    if form == "svg":
        return plate_svg(made, title)
    return template_pdf(made, title, paper, fouls, thickness)


FORMS = {
    "dxf": "image/vnd.dxf",
    "svg": "image/svg+xml",
    "stl": "model/stl",
    "pdf": "application/pdf",
    "csv": "text/csv; charset=utf-8",
}


def as_file(make: Callable[[], bytes], name: str, form: str, paper: str, version: int) -> Response:
    try:
        on = f" {paper}" if form == "pdf" else ""
        return attachment(make(), FORMS[form], file_name(f"{name}{on} v{version}", f".{form}"))
    except TooLarge as error:
        raise Refused(409, "paper", "This is no paper for a shop", str(error)) from error


def _photos_on_paper(conn: Conn, id: str, build: Build) -> dict[str, bytes]:
    """The last photos that the log names, as paper holds them; those that are gone are left out."""
    found = {}
    for photo in [p for e in build.log for p in e.photos][-MOST_PHOTOS:]:
        try:
            small = for_paper(photos.get(conn, id, photo)[1])
        except NotFound:
            continue
        if small is not None:
            found[photo] = small
    return found


@router.get("/{id}/sheets/{station}.pdf", response_class=Response, responses=PROBLEMS)
def sheet_file(
    conn: Conn,
    _: Working,
    id: str,
    station: Station,
    paper: Literal["A4", "Letter"] = "A4",
    units: Literal["mm", "in"] = "mm",
) -> Response:
    """The shop sheet of a station; what was worked out in the units asked for, what was typed as
    typed.
    """
    stored = store.get(conn, id)
    now = answers.answered(id, stored.document, today())
    build = now.written.build
    assessment, said = service.with_ways(now, station, today())
    shown = now.boards([q.key for q in QUESTIONS.values() if q.station == station])
    content = station_sheet(
        build,
        assessment,
        station,
        shown,
        paper,
        today(),
        said,
        system=units,
        pictures=_photos_on_paper(conn, id, build) if station == Station.LOG else {},
    )
    return attachment(
        content,
        "application/pdf",
        file_name(f"{build.name} {station.value} {paper} v{stored.version}", ".pdf"),
    )


@router.get("/{id}/handover.pdf", response_class=Response, responses=PROBLEMS)
def handover_file(
    conn: Conn,
    _: Working,
    id: str,
    paper: Literal["A4", "Letter"] = "A4",
    units: Literal["mm", "in"] = "mm",
) -> Response:
    """The hand-over report of a build: the conditions it holds for, findings, what is open, as
    built, parts, hours.
    """
    stored = store.get(conn, id)
    now = answers.answered(id, stored.document, today())
    content = handover_report(now.inputs, now.assessment, paper, today(), units)
    name = f"{now.written.build.name} hand-over {paper} v{stored.version}"
    return attachment(content, "application/pdf", file_name(name, ".pdf"))


@router.post("/{id}/photos", status_code=201, responses=PROBLEMS)
async def keep_photo(request: Request, id: str) -> models.PhotoKept:
    """Store a picture (JPEG, PNG or WebP) beside a build, without what the camera wrote into it;
    the log names it by the id that comes back.
    """
    file = await body_file(request)

    def keep() -> str:
        with file, closing(connect(request.app.state.database)) as conn:
            store.version_of(conn, id)
            return photos.keep(conn, id, *cleaned(file.read()))

    async with a_place():
        return models.PhotoKept(id=await run_in_threadpool(keep))


@router.post("/{id}/sounds", status_code=201, responses=PROBLEMS)
async def keep_sound(request: Request, id: str) -> models.PhotoKept:
    """Store a voice note (WebM, Ogg, MPEG-4, MP3 or WAV) beside a build; the log names it by the id
    that comes back.
    """
    file = await body_file(request)

    def keep() -> str:
        with file, closing(connect(request.app.state.database)) as conn:
            store.version_of(conn, id)
            return photos.keep(conn, id, *sound(file.read()))

    async with a_place():
        return models.PhotoKept(id=await run_in_threadpool(keep))


@router.get("/{id}/photos", responses=PROBLEMS)
def list_photos(conn: Conn, id: str) -> list[models.PhotoLine]:
    """The pictures and voice notes of a build, those too that nothing names any more."""
    build = build_of(conn, id)
    named = {p for e in build.log for p in (*e.photos, *e.sounds)}
    named |= {p for card in build.parts for p in card.photos}
    return [
        models.PhotoLine(
            id=p.id, size=p.size, at=p.at, named=p.id in named, media_type=p.media_type
        )
        for p in photos.listed(conn, id)
    ]


@router.get("/{id}/photos/{photo}", response_class=Response, responses=PROBLEMS)
def get_photo(conn: Conn, id: str, photo: str) -> Response:
    """A picture or voice note of a build."""
    media_type, content = photos.get(conn, id, photo)
    return Response(
        content,
        media_type=media_type,
        headers={"Cache-Control": "private, max-age=31536000, immutable"},
    )


@router.delete("/{id}/photos/{photo}", status_code=204, responses=PROBLEMS)
def delete_photo(conn: Conn, id: str, photo: str) -> None:
    """Delete a picture for good: no undo brings it back. An entry of the log that names it says
    that it was deleted.
    """
    photos.delete(conn, id, photo)
