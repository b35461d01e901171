"""Errors as problem details (RFC 9457) in plain words, all problems of a request at once."""

import logging
import sqlite3
import uuid
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field, ValidationError
from starlette.exceptions import HTTPException

from pindo.core.acts import CannotEnter
from pindo.core.errors import PindoError
from pindo.core.geometry.photo import NotSeen
from pindo.core.inputs.problems import Problem
from pindo.core.inputs.quantity_reader import EntryError
from pindo.formats.bundle import BadBundle
from pindo.formats.pictures import NotAPicture
from pindo.formats.sounds import NotASound
from pindo.formats.tables import NoTable
from pindo.store.merge import GONE, Conflict
from pindo.store.photos import TooManyPictures
from pindo.store.stored import Crowded, JournalLine, NotFound, Stale
from pindo.store.trouble import StoreError, Trouble, trouble_of
from pindo.store.undo import NothingToUndo, SomeoneElses
from pindo.web.gauges import NoGauge
from pindo.web.words import change_words

log = logging.getLogger(__name__)
MEDIA_TYPE = "application/problem+json"


class FieldProblem(BaseModel):
    """One thing wrong, at its place in the request or the document."""

    pointer: str = Field(description="JSON Pointer, RFC 6901; empty when it belongs to the whole.")
    detail: str


class ProblemDetails(BaseModel):
    """RFC 9457."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []


class Refused(PindoError):
    """A request that cannot be carried out. ``extra`` are further members of the problem."""

    def __init__(
        self,
        status: int,
        kind: str,
        title: str,
        detail: str,
        problems: list[Problem] | None = None,
        **extra: Any,
    ) -> None:
        super().__init__(detail)
        self.status, self.kind, self.title, self.detail = status, kind, title, detail
        self.problems = problems or []
        self.extra = extra


def answer(
    status: int,
    kind: str,
    title: str,
    detail: str,
    problems: list[Problem] | None = None,
    **extra: Any,
) -> JSONResponse:
    errors = [{"pointer": p.pointer, "detail": p.detail} for p in problems or []]
    body = {
        "type": f"/problems/{kind}",
        "title": title,
        "status": status,
        "detail": detail,
        "errors": errors,
        **extra,
    }
    return JSONResponse(body, status_code=status, media_type=MEDIA_TYPE)


def pydantic_problems(errors: list[Any]) -> list[Problem]:
    """Pydantic's errors as pointers into the body or document, in plain words."""
    found = []
    for error in errors:
        place = [
            str(part).replace("~", "~0").replace("/", "~1")
            for part in error["loc"]
            if part != "body"
        ]
        words = error["msg"].removeprefix("Value error, ")
        found.append(
            Problem(
                pointer="".join(f"/{part}" for part in place),
                detail=words[0].upper() + words[1:] + ("" if words.endswith(".") else "."),
            )
        )
    return found


def invalid_document(error: ValidationError) -> Refused:
    """A document that is not a build, every problem on its field."""
    found = pydantic_problems(
        error.errors(include_url=False, include_context=False, include_input=False)
    )
    return Refused(
        422, "invalid-build", "This is not a build", "The build was left as it was.", found
    )


STATUS_OF = {
    "held": 503,
    "full": 507,
    "read-only": 503,
    "missing": 503,
    "damaged": 503,
    "failed": 503,
}


def change_line(change: JournalLine) -> dict[str, Any]:
    """A change of the journal as it goes over the wire: who, when, why and in words what."""
    return {
        "version": change.version,
        "kind": change.kind,
        "target": change.target,
        "who": change.who,
        "why": change.why,
        "at": change.at,
        "words": change_words(change),
    }


def _short(value: Any) -> Any:
    if value is GONE:
        return None
    text = repr(value)
    return value if len(text) <= 300 else text[:299] + "…"


def _conflict(conflict: Conflict) -> dict[str, Any]:
    place = "".join("/" + part.replace("~", "~0").replace("/", "~1") for part in conflict.place)
    return {
        "place": place,
        "was": _short(conflict.base),
        "yours": _short(conflict.mine),
        "theirs": _short(conflict.theirs),
    }


def of_store(error: StoreError) -> JSONResponse:
    """What the store refuses, as an answer. A stale change is told what differs, not the whole
    document.
    """
    if isinstance(error, Trouble):
        return answer(STATUS_OF[error.kind], f"data-{error.kind}", error.title, str(error))
    if isinstance(error, NotFound):
        return answer(404, "no-build", "No such build", str(error))
    if isinstance(error, NothingToUndo):
        return answer(409, "nothing-to-undo", "Nothing to do", str(error))
    if isinstance(error, SomeoneElses):
        return answer(
            409,
            "someone-elses",
            "The last change is not yours",
            str(error),
            change=change_line(error.change),
        )
    if isinstance(error, Crowded):
        return answer(503, "busy", "The build is busy", str(error))
    if isinstance(error, TooManyPictures):
        return answer(409, "quota", "There are too many pictures", str(error))
    if isinstance(error, Stale):
        return answer(
            412,
            "stale",
            "Someone changed this build first",
            str(error),
            your_version=error.yours,
            current_version=error.current.version,
            current_tag=error.current.at.tag,
            since=[change_line(c) for c in error.since],
            conflicts=[_conflict(c) for c in error.conflicts[:50]],
        )
    return answer(409, "store", "This cannot be done with the data", str(error))


def install(app: FastAPI) -> None:
    """Register the handlers: one place turns every error into an answer."""

    @app.exception_handler(Refused)
    def _refused(_: Request, error: Refused) -> JSONResponse:
        return answer(
            error.status, error.kind, error.title, error.detail, error.problems, **error.extra
        )

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        return answer(
            422,
            "invalid-request",
            "The request cannot be read",
            "Nothing was changed.",
            pydantic_problems(list(error.errors())),
        )

    @app.exception_handler(EntryError)
    def _entry(_: Request, error: EntryError) -> JSONResponse:
        return answer(422, "entry", "This is not a number yet", str(error))

    @app.exception_handler(CannotEnter)
    def _cannot(_: Request, error: CannotEnter) -> JSONResponse:
        return answer(422, "entry", "This cannot be entered", str(error))

    @app.exception_handler(NoGauge)
    def _gauge(_: Request, error: NoGauge) -> JSONResponse:
        return answer(422, "gauge", "This is no gauge", str(error))

    @app.exception_handler(NoTable)
    def _table(_: Request, error: NoTable) -> JSONResponse:
        return answer(422, "table", "This is no table", str(error))

    @app.exception_handler(StoreError)
    def _store(_: Request, error: StoreError) -> JSONResponse:
        return of_store(error)

    @app.exception_handler(sqlite3.Error)
    def _database(request: Request, error: sqlite3.Error) -> JSONResponse:
        log.warning("the data file: %s", error)
        return of_store(trouble_of(error, request.app.state.database))

    @app.exception_handler(NotAPicture)
    def _picture(_: Request, error: NotAPicture) -> JSONResponse:
        return answer(422, "picture", "This is no picture that can be kept", str(error))

    @app.exception_handler(NotSeen)
    def _seen(_: Request, error: NotSeen) -> JSONResponse:
        return answer(422, "photo", "The photo does not say it yet", str(error))

    @app.exception_handler(NotASound)
    def _sound(_: Request, error: NotASound) -> JSONResponse:
        return answer(422, "sound", "This is no voice note that can be kept", str(error))

    @app.exception_handler(BadBundle)
    def _bundle(_: Request, error: BadBundle) -> JSONResponse:
        return answer(422, "bundle", "This file cannot be taken", f"{error} Nothing was stored.")

    @app.exception_handler(RecursionError)
    def _deep(_: Request, error: RecursionError) -> JSONResponse:
        return answer(422, "deep", "The request is nested too deeply", "Nothing was changed.")

    @app.exception_handler(Exception)
    def _fault(request: Request, error: Exception) -> JSONResponse:
        number = uuid.uuid4().hex[:8]
        log.error("fault %s at %s %s", number, request.method, request.url.path, exc_info=error)
        return answer(
            500,
            "fault",
            "Pindo failed here",
            "Pindo failed at this. Nothing was changed that was not said to be stored; the log has"
            f" the trace under {number}.",
        )

    @app.exception_handler(HTTPException)
    def _http(_: Request, error: HTTPException) -> JSONResponse:
        titles = {404: "There is nothing here", 405: "This cannot be done here"}
        return answer(
            error.status_code,
            "http",
            titles.get(error.status_code, "The request was refused"),
            f"{error.detail}. Nothing was changed.",
        )
