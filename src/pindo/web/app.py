"""The application: routes over the store and the core. ``create_app`` builds everything from its
arguments.
"""

from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, FastAPI, Query, Request, Response
from fastapi.responses import FileResponse, HTMLResponse

from pindo import __version__
from pindo.core.document.build import Build
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.quantity import echo_entry, parse
from pindo.core.inputs.units import KINDS
from pindo.store.copies import Keeper
from pindo.store.database import prepare
from pindo.web import (
    catalogue,
    catalogue_models,
    models,
    routes_builds,
    routes_data,
    routes_files,
    routes_gauges,
    routes_jobs,
    routes_library,
    routes_live,
    routes_photo,
    routes_shop,
    routes_tables,
    routes_tools,
)
from pindo.web.asked import PROBLEM, Short
from pindo.web.gauges import Gauges
from pindo.web.guard import Guard
from pindo.web.jobs import Jobs
from pindo.web.problems import Refused, install
from pindo.web.shop import Shop

LOCAL_HOSTS = ("127.0.0.1", "localhost", "[::1]")
PORT = 8137
router = APIRouter(prefix="/api")


@router.get("/catalogue")
def get_catalogue() -> catalogue_models.Catalogue:
    """Dimensions, choices, limits, sources, tools and events."""
    return catalogue.catalogue()


@router.get("/quantity", responses={422: PROBLEM})
def get_quantity(
    typed: Annotated[str, Query(max_length=200)],
    kind: str = "length",
    unit: str | None = None,
    dimension: Short = "",
) -> models.Echo:
    """Understand one entry, for a dimension with its own words for nought; nothing is stored."""
    if kind not in KINDS or (unit is not None and unit not in KINDS[kind].factors):
        raise Refused(422, "kind", "Unknown kind or unit", f"There is no {kind} in {unit}.")
    entry = parse(typed, kind, unit, DIMENSIONS[dimension].zero if dimension in DIMENSIONS else ())
    return models.Echo(
        value=entry.value,
        pm=entry.pm,
        word=entry.word,
        echo=echo_entry(entry, kind) if entry.value is not None else "",
    )


@router.get("/schema/build.json")
def build_schema() -> dict[str, Any]:
    """JSON Schema of the build document."""
    return Build.model_json_schema()


def _file_in(folder: Path, path: str) -> Path | None:
    """The file of that name inside a folder; None for no such file, a way out of the folder, or
    a name that no file can have.
    """
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
            raise Refused(
                404, "http", "There is nothing here", "No such address. Nothing was changed."
            )
        if file is not None:
            cache = (
                "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
            )
            return FileResponse(file, headers={"Cache-Control": cache})
        if not index.exists():
            return HTMLResponse(
                "<h1>The screen is not built yet</h1><p>Start Pindo with ./pindo demo.</p>",
                status_code=503,
            )
        page = index.read_text("utf-8").replace("__NONCE__", request.state.nonce)
        return HTMLResponse(page, headers={"Cache-Control": "no-store"})


@asynccontextmanager
async def _keeping(app: FastAPI) -> AsyncIterator[None]:
    app.state.keeper.start()
    for address in app.state.listens:
        app.state.gauges.add(address)
    yield
    app.state.keeper.stop()
    app.state.jobs.end()
    await app.state.gauges.end()


def create_app(
    database: Path,
    screen: Path | None = None,
    hosts: tuple[str, ...] = LOCAL_HOSTS,
    port: int = PORT,
    key: str = "",
    gauges: Sequence[str] = (),
) -> FastAPI:
    """The application over one database file, made where there is none.

    Parameters
    ----------
    screen
        Folder of the built front end.
    hosts, port
        Names that it is opened by, and the port; other Host headers are refused.
    key
        Asked of every client once, in the shop mode.
    gauges
        Sockets of this machine that send readings.

    Raises
    ------
    Trouble
        The data file is damaged, gone while copies are there, or cannot be opened.
    """
    prepare(database)
    app = FastAPI(
        title="Pindo",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        lifespan=_keeping,
    )
    app.state.database = database
    app.state.keeper = Keeper(database)
    app.state.shop = Shop(database, key, f"http://{hosts[-1]}:{port}/") if key else None
    app.state.jobs = Jobs()
    app.state.gauges, app.state.listens = Gauges(), tuple(gauges)
    app.add_middleware(
        Guard,
        hosts=tuple(f"{host}:{port}" for host in hosts) + (hosts if port == 80 else ()),
        shop=app.state.shop,
    )
    install(app)
    for routes in (
        routes_data,
        routes_files,
        routes_tools,
        routes_gauges,
        routes_library,
        routes_live,
        routes_photo,
        routes_shop,
        routes_tables,
        routes_builds,
        routes_jobs,
    ):
        app.include_router(routes.router)
    app.include_router(router)
    if screen is not None:
        _screen(app, screen)
    return app
