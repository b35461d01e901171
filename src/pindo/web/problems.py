"""Errors as problem details (RFC 9457) in plain words, all problems of a request at once."""

import logging
import uuid
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field, ValidationError
from starlette.exceptions import HTTPException

from pindo.core.problems import Problem
from pindo.core.quantity import EntryError
from pindo.store.builds import NotFound, NothingToUndo, Stale
from pindo.store.database import StoreError
from pindo.store.photos import NotAPicture

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


class Refused(Exception):
    """A request that cannot be carried out. ``extra`` are further members of the problem."""

    def __init__(self, status: int, kind: str, title: str, detail: str, problems: list[Problem] | None = None, **extra: Any) -> None:
        super().__init__(detail)
        self.status, self.kind, self.title, self.detail = status, kind, title, detail
        self.problems = problems or []
        self.extra = extra


def answer(status: int, kind: str, title: str, detail: str, problems: list[Problem] | None = None, **extra: Any) -> JSONResponse:
    errors = [{"pointer": p.pointer, "detail": p.detail} for p in problems or []]
    body = {"type": f"/problems/{kind}", "title": title, "status": status, "detail": detail, "errors": errors, **extra}
    return JSONResponse(body, status_code=status, media_type=MEDIA_TYPE)


def pydantic_problems(errors: list[Any]) -> list[Problem]:
    """Pydantic's errors as pointers into the body or document, in plain words."""
    found = []
    for error in errors:
        place = [str(part).replace("~", "~0").replace("/", "~1") for part in error["loc"] if part != "body"]
        words = error["msg"].removeprefix("Value error, ")
        found.append(Problem(pointer="".join(f"/{part}" for part in place), detail=words[0].upper() + words[1:] + ("" if words.endswith(".") else ".")))
    return found


def invalid_document(error: ValidationError) -> Refused:
    """A document that is not a build, every problem on its field."""
    found = pydantic_problems(error.errors(include_url=False, include_context=False, include_input=False))
    return Refused(422, "invalid-build", "This is not a build", "The build was left as it was.", found)


def install(app: FastAPI) -> None:
    """Register the handlers: one place turns every error into an answer."""

    @app.exception_handler(Refused)
    def _refused(_: Request, error: Refused) -> JSONResponse:
        return answer(error.status, error.kind, error.title, error.detail, error.problems, **error.extra)

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        return answer(422, "invalid-request", "The request cannot be read", "Nothing was changed.", pydantic_problems(list(error.errors())))

    @app.exception_handler(EntryError)
    def _entry(_: Request, error: EntryError) -> JSONResponse:
        return answer(422, "entry", "This is not a number yet", str(error))

    @app.exception_handler(StoreError)
    def _store(_: Request, error: StoreError) -> JSONResponse:
        if isinstance(error, NotFound):
            return answer(404, "no-build", "No such build", str(error))
        if isinstance(error, NothingToUndo):
            return answer(409, "nothing-to-undo", "Nothing to do", str(error))
        if isinstance(error, Stale):
            since = [{"version": c.version, "kind": c.kind, "who": c.who, "why": c.why, "at": c.at, "patch": c.patch} for c in error.since]
            current = {"id": error.current.id, "version": error.current.version, "document": error.current.document}
            return answer(412, "stale", "Someone changed this build first", str(error), your_version=error.yours, current_version=error.current.version, current=current, since=since)
        if isinstance(error, NotAPicture):
            return answer(422, "picture", "This is no picture", str(error))
        return answer(500, "store", "The store failed", str(error))

    @app.exception_handler(Exception)
    def _fault(request: Request, error: Exception) -> JSONResponse:
        number = uuid.uuid4().hex[:8]
        log.error("fault %s at %s %s", number, request.method, request.url.path, exc_info=error)
        return answer(500, "fault", "Pindo failed here", f"Nothing was changed that was not said to be stored. The log has the trace under {number}.")

    @app.exception_handler(HTTPException)
    def _http(_: Request, error: HTTPException) -> JSONResponse:
        titles = {404: "There is nothing here", 405: "This cannot be done here"}
        return answer(error.status_code, "http", titles.get(error.status_code, "The request was refused"), f"{error.detail}. Nothing was changed.")
