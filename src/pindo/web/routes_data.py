"""The data as a whole: how it is, its copies, and putting one back."""

import tempfile
from pathlib import Path
from typing import IO

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool

from pindo import __version__
from pindo.core.inputs.problems import document_trouble
from pindo.store import copies, soundness
from pindo.web import models
from pindo.web.asked import PROBLEMS, body_file
from pindo.web.turns import a_place

router = APIRouter(prefix="/api")


@router.get("/health")
def health() -> dict[str, str]:
    """Serving."""
    return {"status": "serving", "version": __version__}


def _database(request: Request) -> Path:
    path: Path = request.app.state.database
    return path


@router.get("/data", responses=PROBLEMS)
def get_data(request: Request) -> models.DataState:
    """The data file and its copies; answered for a damaged file too."""
    path = _database(request)
    found = [models.CopyLine(**c.__dict__) for c in copies.copies(path)]
    size = path.stat().st_size if path.is_file() else 0
    return models.DataState(
        path=str(path),
        size=size,
        builds=soundness.builds_in(path),
        copies=found,
        trouble=request.app.state.keeper.trouble,
    )


@router.post("/data/check", responses=PROBLEMS)
def check_data(request: Request, copy: str = "") -> models.Looked:
    """Look through the data, or one of its copies: pages, references, tables, documents,
    histories.
    """
    path = _database(request)
    report = soundness.look_through(
        copies.copy_named(path, copy) if copy else path, document_trouble
    )
    return models.Looked(builds=report.builds, size=report.size, problems=list(report.problems))


@router.post("/data/copies", status_code=201, responses=PROBLEMS)
def make_copy(request: Request) -> models.CopyLine:
    """A copy of all the data now."""
    return models.CopyLine(**copies.make_copy(_database(request)).__dict__)


def _restored(path: Path, copy: Path) -> models.Restored:
    kept_as = copies.restore(copy, path, document_trouble)
    return models.Restored(kept_as=kept_as, builds=soundness.builds_in(path))


@router.post("/data/copies/{name}/restore", responses=PROBLEMS)
def restore_copy(request: Request, name: str) -> models.Restored:
    """Put a copy in place of the data; what was there is kept under a name of its own. Refused,
    with nothing changed, where anything in it is wrong.
    """
    path = _database(request)
    return _restored(path, copies.copy_named(path, name))


@router.post("/data/restored", responses=PROBLEMS)
async def restore_file(request: Request) -> models.Restored:
    """The same with a file that is sent."""
    path = _database(request)
    sent = await body_file(request)

    def put() -> models.Restored:
        with sent, tempfile.TemporaryDirectory(dir=path.parent) as folder:
            copy = Path(folder) / "sent.sqlite"
            _write(sent, copy)
            return _restored(path, copy)

    async with a_place():
        return await run_in_threadpool(put)


def _write(sent: IO[bytes], to: Path) -> None:
    with to.open("wb") as file:
        while chunk := sent.read(1024 * 1024):
            file.write(chunk)
