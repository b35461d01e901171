"""The application: routes over the store and the core. ``create_app`` builds everything from its arguments."""

import re
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Body, Depends, FastAPI, Header, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse, HTMLResponse

from pindo import __version__
from pindo.core.assess import Opened, assess
from pindo.core.boards import boards
from pindo.core.build import Build
from pindo.core.dimensions import DIMENSIONS, Station
from pindo.core.entries import Act, Raw
from pindo.core.events import EVENTS
from pindo.core.lapse import event_patch, lapsing
from pindo.core.mate.plate import plate
from pindo.core.quantity import echo_entry, parse
from pindo.core.resolve import resolve
from pindo.core.units import KINDS
from pindo.core.upgrade import upgraded
from pindo.demo import DEMOS
from pindo.formats.csv_table import drilling_csv
from pindo.formats.dxf import plate_dxf
from pindo.formats.handover_pdf import handover_report
from pindo.formats.sheet_pdf import station_sheet
from pindo.formats.svg import plate_svg
from pindo.formats.template_pdf import template_pdf
from pindo.store import builds as store
from pindo.store import photos
from pindo.store.database import connect, migrate
from pindo.web import models, service
from pindo.web.guard import Guard
from pindo.web.problems import ProblemDetails, Refused, install

LOCAL_HOSTS = ("127.0.0.1", "localhost", "[::1]")
Short = Annotated[str, Query(max_length=300)]
_PROBLEM = {"model": ProblemDetails, "content": {"application/problem+json": {}}}
PROBLEMS: dict[int | str, dict[str, Any]] = dict.fromkeys((404, 409, 412, 422, 428), _PROBLEM)

MOST_VERSION = 2**62  # what the store's whole numbers hold, and some
router = APIRouter(prefix="/api")


def connection(request: Request) -> Iterator[sqlite3.Connection]:
    """A connection for one request."""
    with closing(connect(request.app.state.database)) as conn:
        yield conn


Conn = Annotated[sqlite3.Connection, Depends(connection)]


def expected_version(if_match: Annotated[str | None, Header(description="ETag of the version that the change was made against.")] = None) -> int:
    """The version named by If-Match (RFC 9110); without it 428 (RFC 6585)."""
    if if_match is None:
        raise Refused(428, "if-match", "The version is missing", "Send If-Match with the ETag of the version you changed. Nothing was stored.")
    match = re.fullmatch(r'\s*"(\d{1,12})"\s*', if_match)
    if match is None:
        raise Refused(412, "if-match", "The version cannot be read", "If-Match is the ETag as it was given, in quotation marks. Nothing was stored.")
    return int(match[1])


Expected = Annotated[int, Depends(expected_version)]
Patch = Annotated[list[models.PatchOperation], Body(media_type="application/json-patch+json")]


def _today() -> str:
    return store.now()[:10]


def _build(conn: sqlite3.Connection, id: str) -> Build:
    return Build.model_validate(upgraded(store.get(conn, id).document))


def _state(conn: sqlite3.Connection, stored: store.Stored, status: int = 200, stepped: store.Change | None = None) -> Response:
    content = service.state(stored, *store.undo_stacks(conn, stored.id), _today(), stepped)
    headers = {"ETag": f'"{stored.version}"', "Cache-Control": "no-store"}
    return Response(content, status_code=status, media_type="application/json", headers=headers)


@router.get("/catalogue")
def get_catalogue() -> models.Catalogue:
    """Dimensions, choices, limits, sources, tools and events."""
    return service.catalogue()


@router.get("/quantity", responses={422: _PROBLEM})
def get_quantity(typed: Annotated[str, Query(max_length=200)], kind: str = "length", unit: str | None = None, dimension: Short = "") -> models.Echo:
    """Understand one entry, for a dimension with its own words for nought; nothing is stored."""
    if kind not in KINDS or (unit is not None and unit not in KINDS[kind].factors):
        raise Refused(422, "kind", "Unknown kind or unit", f"There is no {kind} in {unit}.")
    entry = parse(typed, kind, unit, DIMENSIONS[dimension].zero if dimension in DIMENSIONS else ())
    return models.Echo(value=entry.value, pm=entry.pm, word=entry.word, echo=echo_entry(entry, kind) if entry.value is not None else "")


@router.get("/builds")
def list_builds(conn: Conn) -> list[models.BuildSummary]:
    """All builds, the latest changed first."""
    return [models.BuildSummary(id=b.id, name=b.document["name"], vehicle=b.document["vehicle"], version=b.version, updated_at=b.updated_at) for b in store.all_builds(conn)]


@router.post("/builds", status_code=201, response_model=models.BuildState, responses=PROBLEMS)
def create_build(conn: Conn, new: models.NewBuild, who: Short = "") -> Response:
    """A new build, blank or from a demo."""
    if not new.name.strip():
        raise Refused(422, "name", "The build has no name", "Give it a name first. Nothing was created.")
    said = {"name": new.name} if new.demo else {"name": new.name, "vehicle": new.vehicle, "engine": new.engine, "gearbox": new.gearbox}
    build = service.read_build((service.dumped(DEMOS[new.demo]()) if new.demo else {}) | said)
    return _state(conn, store.create(conn, service.accepted("", build, _today()), who, "new build"), 201)


@router.post("/builds/import", status_code=201, response_model=models.BuildState, responses=PROBLEMS)
def import_build(conn: Conn, document: Annotated[dict[str, Any], Body()], who: Short = "") -> Response:
    """A build from an exported file, as a new build; refused whole when anything in it cannot be read."""
    build = service.read_build(document)
    return _state(conn, store.create(conn, service.accepted("", build, _today()), who, "imported"), 201)


@router.get("/builds/{id}", response_model=models.BuildState, responses=PROBLEMS)
def get_build(conn: Conn, id: str) -> Response:
    """A build with its findings and pictures; the ETag is its version."""
    return _state(conn, store.get(conn, id))


@router.patch("/builds/{id}", response_model=models.BuildState, responses=PROBLEMS)
def patch_build(conn: Conn, id: str, patch: Patch, expected: Expected, who: Short = "", why: Short = "") -> Response:
    """Change a build by JSON Patch (RFC 6902) against the version in If-Match."""
    if len(patch) > service.MOST_OPERATIONS:
        raise Refused(422, "patch", "The change is too large", f"One change may hold {service.MOST_OPERATIONS} operations.")
    acts: list[Act] = [Raw(ops=[o.plain() for o in patch])]
    return _state(conn, store.change(conn, id, expected, lambda now: service.changed(now, acts, store.now(), _today(), True), who, why))


@router.post("/builds/{id}/entries", response_model=models.BuildState, responses=PROBLEMS)
def enter(conn: Conn, id: str, done: models.Acts, who: Short = "", why: Short = "", key: Annotated[str, Query(max_length=64)] = "") -> Response:
    """Store what somebody did. Each act says what it expects to find, so that no version is needed; the same ``key`` is stored once."""
    stored = store.change(conn, id, None, lambda now: service.changed(now, done.acts, store.now(), _today(), done.lapse), who, why, key)
    return _state(conn, stored)


@router.delete("/builds/{id}", status_code=204, responses=PROBLEMS)
def delete_build(conn: Conn, id: str, expected: Expected) -> None:
    """Delete a build with its history."""
    store.delete(conn, id, expected)


@router.post("/builds/{id}/trial", response_model=models.TrialState, responses=PROBLEMS)
def try_acts(conn: Conn, id: str, tried: models.TrialOf, station: Station = Station.SURVEY) -> Response:
    """The same acts, assessed and not stored, with everything that they touch; pictures of ``station`` and the profile."""
    return Response(service.trial(store.get(conn, id), tried.acts, station, store.now(), _today()), media_type="application/json")


@router.post("/builds/{id}/opened", responses=PROBLEMS)
def open_finding(conn: Conn, id: str, finding: Short, tried: models.TrialOf) -> Opened:
    """Ways out of one finding and its margin drawn at random, as stored or as a trial leaves it. Asked when a finding is opened."""
    return service.opened_finding(store.get(conn, id), tried.acts, finding, store.now())


@router.get("/builds/{id}/history", responses=PROBLEMS)
def get_history(conn: Conn, id: str, after: Annotated[int, Query(ge=0, le=MOST_VERSION)] = 0) -> list[models.ChangeLine]:
    """Who changed what, from what to what, and why; newest first."""
    store.get(conn, id)
    return [models.ChangeLine(version=c.version, kind=c.kind, target=c.target, who=c.who, why=c.why, at=c.at, words=service.change_words(c)) for c in store.journal(conn, id, after)]


@router.get("/builds/{id}/events", responses=PROBLEMS)
def preview_event(conn: Conn, id: str, event: Short, which: Short = "") -> models.EventPreview:
    """What an event would spoil, and the patch that carries it out once it is confirmed."""
    if event not in EVENTS:
        raise Refused(422, "event", "Unknown event", f"There is no event “{event}”.")
    build = _build(conn, id)
    operations = [models.PatchOperation(**op) for op in event_patch(build, event, which, store.now())]
    return models.EventPreview(event=event, lapsing=lapsing(build, event, which), patch=operations)


def _attachment(content: bytes, media_type: str, name: str) -> Response:
    safe = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-") or "pindo"
    return Response(content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{safe}"', "Cache-Control": "no-store"})


@router.get("/builds/{id}/build.json", response_class=Response, responses=PROBLEMS)
def export_build(conn: Conn, id: str) -> Response:
    """The build as a file that can be imported again."""
    build = _build(conn, id)
    return _attachment(build.model_dump_json(indent=1).encode(), "application/json", f"{build.name}.pindo.json")


@router.get("/builds/{id}/plate.{form}", response_class=Response, responses=PROBLEMS)
def plate_file(conn: Conn, id: str, form: Literal["dxf", "svg", "pdf", "csv"], paper: Literal["A4", "Letter"] = "A4") -> Response:
    """The plate as a drawing, a 1:1 paper template, or a drilling table."""
    build = _build(conn, id)
    made = plate(resolve(build))
    if form == "pdf" and not made.outline:
        raise Refused(409, "no-plate", "There is no plate yet", "The outline takes three holes with place and size. Enter them at Mate.")
    makers: dict[str, tuple[Callable[[], bytes], str]] = {
        "dxf": (lambda: plate_dxf(made, build.name), "image/vnd.dxf"),
        "svg": (lambda: plate_svg(made, build.name), "image/svg+xml"),
        "pdf": (lambda: template_pdf(made, build.name, paper), "application/pdf"),
        "csv": (lambda: drilling_csv(made), "text/csv; charset=utf-8"),
    }
    make, media_type = makers[form]
    return _attachment(make(), media_type, f"{build.name} plate.{form}")


@router.get("/builds/{id}/sheets/{station}.pdf", response_class=Response, responses=PROBLEMS)
def sheet_file(conn: Conn, id: str, station: Station, paper: Literal["A4", "Letter"] = "A4") -> Response:
    """The shop sheet of a station."""
    build = _build(conn, id)
    assessment = assess(build, None, _today())
    content = station_sheet(build, assessment, station, boards(build, assessment, _today()), paper, _today())
    return _attachment(content, "application/pdf", f"{build.name} {station.value}.pdf")


@router.get("/builds/{id}/handover.pdf", response_class=Response, responses=PROBLEMS)
def handover_file(conn: Conn, id: str, paper: Literal["A4", "Letter"] = "A4") -> Response:
    """The hand-over report of a build: the conditions it holds for, findings, what is open, as built, parts, hours."""
    build = _build(conn, id)
    assessment = assess(build, (), _today())
    content = handover_report(build, assessment, boards(build, assessment, _today()), paper, _today())
    return _attachment(content, "application/pdf", f"{build.name} hand-over.pdf")


@router.post("/builds/{id}/photos", status_code=201, responses=PROBLEMS)
async def keep_photo(request: Request, id: str) -> models.PhotoKept:
    """Store a picture (JPEG, PNG or WebP) beside a build; the log names it by the id that comes back."""
    content = await request.body()

    def keep() -> str:
        with closing(connect(request.app.state.database)) as conn:
            store.get(conn, id)
            return photos.keep(conn, id, content)

    return models.PhotoKept(id=await run_in_threadpool(keep))


@router.get("/builds/{id}/photos/{photo}", response_class=Response, responses=PROBLEMS)
def get_photo(conn: Conn, id: str, photo: str) -> Response:
    """A picture of a build."""
    media_type, content = photos.get(conn, id, photo)
    return Response(content, media_type=media_type, headers={"Cache-Control": "private, max-age=31536000, immutable"})


@router.post("/builds/{id}/{kind}", response_model=models.BuildState, responses=PROBLEMS)
def step_build(conn: Conn, id: str, kind: Literal["undo", "redo"], expected: Expected, who: Short = "") -> Response:
    """Undo or redo one change; a new version."""
    stored = store.step(conn, id, expected, kind, who)
    return _state(conn, stored, stepped=store.journal(conn, id, most=1)[0])


@router.get("/schema/build.json")
def build_schema() -> dict[str, Any]:
    """JSON Schema of the build document."""
    return Build.model_json_schema()


@router.get("/health")
def health() -> dict[str, str]:
    """Serving."""
    return {"status": "serving", "version": __version__}


def _file_in(folder: Path, path: str) -> Path | None:
    """The file of that name inside a folder; None for no such file, a way out of the folder, or a name that no file can have."""
    try:
        file = (folder / path).resolve()
        return file if path and file.is_relative_to(folder.resolve()) and file.is_file() else None
    except (ValueError, OSError):
        return None


def _screen(app: FastAPI, folder: Path) -> None:
    index = folder / "index.html"

    @app.get("/{path:path}", include_in_schema=False, response_model=None)
    def screen(request: Request, path: str) -> Response:
        file = _file_in(folder, path)
        if path.startswith("api/"):
            raise Refused(404, "http", "There is nothing here", "No such address. Nothing was changed.")
        if file is not None:
            cache = "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
            return FileResponse(file, headers={"Cache-Control": cache})
        if not index.exists():
            return HTMLResponse("<h1>The screen is not built yet</h1><p>Start Pindo with ./pindo demo.</p>", status_code=503)
        page = index.read_text("utf-8").replace("__NONCE__", request.state.nonce)
        return HTMLResponse(page, headers={"Cache-Control": "no-store"})


def create_app(database: Path, screen: Path | None = None, hosts: tuple[str, ...] = LOCAL_HOSTS) -> FastAPI:
    """The application over one database file; ``screen`` is the folder of the built front end."""
    database.parent.mkdir(parents=True, exist_ok=True)
    with closing(connect(database)) as conn:
        migrate(conn)
    app = FastAPI(title="Pindo", version=__version__, docs_url=None, redoc_url=None, openapi_url="/api/openapi.json")
    app.state.database = database
    app.add_middleware(Guard, hosts=hosts)
    install(app)
    app.include_router(router)
    if screen is not None:
        _screen(app, screen)
    return app
