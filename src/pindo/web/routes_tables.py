"""Tables in and out: the ledger and every list as CSV, and what a table from elsewhere would be
read as.
"""

from contextlib import closing
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from pindo.core.document.evidence import Source
from pindo.core.judging.question import QUESTIONS
from pindo.core.rows_in import rows_in
from pindo.core.tables_in import Understood, readings_in
from pindo.formats.csv_lists import ledger_csv, list_csv
from pindo.formats.tables import decoded, table_of
from pindo.store.database import connect_to_read
from pindo.web.asked import PROBLEMS, Conn, Name, Short, body_file
from pindo.web.routes_builds import build_of
from pindo.web.routes_files import attachment, file_name
from pindo.web.turns import Working, a_place

router = APIRouter(prefix="/api/builds")
LEDGER = "ledger"
CSV = "text/csv; charset=utf-8"


def _order(question: str, start: str) -> list[str]:
    """What a column without names is read into: the sizes of a question, from one on."""
    ledger = list(QUESTIONS[question].ledger) if question in QUESTIONS else []
    return ledger[ledger.index(start) if start in ledger else 0 :]


@router.post(
    "/{id}/table",
    responses=PROBLEMS,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def understand_table(
    request: Request,
    id: str,
    into: Name = LEDGER,
    question: Short = "",
    start: Short = "",
    source: Annotated[Source | None, Query()] = None,
    unit: Annotated[str, Query(max_length=12)] = "",
) -> Understood:
    """What each line of a table would be read as; nothing is stored. The body is the file, or what
    was pasted, as text.

    ``into`` is the ledger or a list. A column of figures without names goes into the ledger of
    ``question``, from the size ``start`` on.
    """
    file = await body_file(request)

    def understood() -> Understood:
        with file, closing(connect_to_read(request.app.state.database)) as conn:
            build, table = build_of(conn, id), table_of(decoded(file.read()))
        if into == LEDGER:
            return readings_in(
                build, table, question, _order(question, start), source, unit or None
            )
        return rows_in(build, into, table, source)

    async with a_place():
        return await run_in_threadpool(understood)


@router.get("/{id}/ledger.csv", response_class=Response, responses=PROBLEMS)
def ledger_file(conn: Conn, _: Working, id: str) -> Response:
    """Every reading of every size, as it was typed."""
    build = build_of(conn, id)
    return attachment(ledger_csv(build), CSV, file_name(f"{build.name} ledger", ".csv"))


@router.get("/{id}/lists/{name}.csv", response_class=Response, responses=PROBLEMS)
def list_file(conn: Conn, _: Working, id: str, name: str) -> Response:
    """A list of the build, as it was typed."""
    build = build_of(conn, id)
    title = name.replace("_", " ").replace(".", " ")
    return attachment(list_csv(build, name), CSV, file_name(f"{build.name} {title}", ".csv"))
