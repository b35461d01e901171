"""Builds: making, changing, trying, undoing, and who changed what."""

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Body, Query, Response

from pindo.core.acts import Act, Raw
from pindo.core.candidates import Candidate, candidates
from pindo.core.document.build import Build
from pindo.core.document.events import EVENTS
from pindo.core.document.parts import PartCard
from pindo.core.document.written import opened, written
from pindo.core.inputs.lapse import lapsing
from pindo.demo import DEMOS
from pindo.store import builds as store
from pindo.store import library
from pindo.store.stored import JournalLine, Stored, Version
from pindo.store.undo import step, undo_stacks
from pindo.web import answers, models, service, trials
from pindo.web.asked import PROBLEMS, By, Conn, Expected, Name, Seen, Short
from pindo.web.problems import Refused, change_line
from pindo.web.turns import Changing, Working

router = APIRouter(prefix="/api/builds")
Patch = Annotated[list[models.PatchOperation], Body(media_type="application/json-patch+json")]
MOST_VERSION = 2**53
MOST_CANDIDATES = 40
VersionNumber = Annotated[int, Query(ge=0, le=MOST_VERSION)]


def today() -> str:
    return store.now()[:10]


def build_of(conn: Conn, id: str) -> Build:
    """The build as it stands. Raises NotFound."""
    return opened(store.get(conn, id).document).build


def answered(conn: Conn, stored: Stored, status: int = 200, **more: Any) -> Response:
    """The answer for a stored build; the ETag is its version."""
    content = service.state(stored, undo_stacks(conn, stored.id), today(), **more)
    return Response(
        content,
        status_code=status,
        media_type="application/json",
        headers={"ETag": f'"{stored.at.tag}"'},
    )


@router.get("")
def list_builds(conn: Conn) -> list[models.BuildSummary]:
    """All builds, the latest changed first."""
    return [
        models.BuildSummary(
            id=b.id,
            name=b.name,
            vehicle=b.vehicle,
            version=b.version,
            tag=b.at.tag,
            updated_at=b.updated_at,
            demo=b.id in DEMOS,
        )
        for b in store.all_builds(conn)
    ]


@router.post("", status_code=201, response_model=models.BuildState, responses=PROBLEMS)
def create_build(conn: Conn, _: Working, new: models.NewBuild, by: By) -> Response:
    """A new build, blank or from a demo."""
    if not new.name.strip():
        raise Refused(
            422, "name", "The build has no name", "Give it a name first. Nothing was created."
        )
    said = (
        {"name": new.name}
        if new.demo
        else {
            "name": new.name,
            "vehicle": new.vehicle,
            "engine": new.engine,
            "gearbox": new.gearbox,
            "layout": new.layout,
            "options": new.options,
        }
    )
    blank = written(DEMOS[new.demo]()).document if new.demo else {}
    build = answers.read_build(blank | said)
    made = store.create(conn, service.accepted("", build, today()), by, "new build")
    return answered(conn, made, 201)


@router.post("/import", status_code=201, response_model=models.BuildState, responses=PROBLEMS)
def import_build(
    conn: Conn, _: Working, document: Annotated[dict[str, Any], Body()], by: By
) -> Response:
    """A build from an exported document, as a new build; refused whole when anything in it
    cannot be read.
    """
    build = answers.read_build(document)
    made = store.create(conn, service.accepted("", build, today()), by, "imported")
    return answered(conn, made, 201)


@router.get("/{id}", response_model=models.BuildState, responses=PROBLEMS)
def get_build(conn: Conn, _: Working, id: str) -> Response:
    """A build with its findings and pictures; the ETag is its version."""
    return answered(conn, store.get(conn, id))


@router.get("/{id}/glance", responses=PROBLEMS)
def glance(conn: Conn, _: Working, id: str) -> models.Glance:
    """What stands, what is open, what to measure next, and how it looks from the side."""
    return service.glance(store.get(conn, id), today())


@router.get("/{id}/candidates", responses=PROBLEMS)
def what_fits(conn: Conn, _: Working, id: str, kind: Name) -> list[Candidate]:
    """Parts of a kind: the fitted one, those on the shelf and in the library, ranked by what the
    build's own questions say of their sizes; nothing is stored.
    """
    shelf = [
        (kept.id, PartCard.model_validate(kept.part))
        for kept in library.all_parts(conn)
        if kept.kind == kind
    ]
    build = opened(store.get(conn, id).document)
    return candidates(build, kind, store.now(), today(), shelf[:MOST_CANDIDATES])


def _since(conn: Conn, id: str, expected: Version, made: Stored) -> list[JournalLine]:
    """What others changed between the version that was expected and the one that was made."""
    return store.journal(conn, id, after=expected.number, before=made.version, most=20)


@router.patch("/{id}", response_model=models.BuildState, responses=PROBLEMS)
def patch_build(
    conn: Conn, _: Changing, id: str, patch: Patch, expected: Expected, by: By, why: Short = ""
) -> Response:
    """Change a build by JSON Patch (RFC 6902) against the version in If-Match.

    Against an earlier version it is laid on what others changed since where the two do not meet,
    and the answer names their changes; where they meet it is refused with both.
    """
    if len(patch) > service.MOST_OPERATIONS:
        raise Refused(
            422,
            "patch",
            "The change is too large",
            f"One change may hold {service.MOST_OPERATIONS} operations.",
        )
    acts: list[Act] = [Raw(ops=[o.plain() for o in patch])]
    made = store.change(
        conn,
        id,
        expected,
        lambda editing: service.changed(editing, acts, store.now(), today(), True),
        by,
        why,
    )
    return answered(conn, made, between=_since(conn, id, expected, made))


@router.get("/{id}/boards", response_model=models.BoardsOf, responses=PROBLEMS)
def get_boards(conn: Conn, _: Working, id: str, question: Short = "") -> Response:
    """The profile and the board of a question, as the build stands."""
    content = service.boards_of(store.get(conn, id), question, today())
    return Response(content, media_type="application/json")


@router.post(
    "/{id}/entries",
    response_model=models.BuildChange[models.FindingLine]
    | models.BuildState
    | models.TrialState[models.FindingLine]
    | models.NearState[models.FindingLine],
    responses=PROBLEMS,
)
def enter(
    conn: Conn,
    _: Changing,
    id: str,
    done: models.Acts,
    by: By,
    why: Short = "",
    key: Annotated[str, Query(max_length=64)] = "",
    seen: Seen = None,
    shown: Short = "",
    question: Short = "",
    dry: bool = False,
    near: bool = False,
) -> Response:
    """Store what somebody did. Each act says what it expects to find, so that no version is needed;
    the same ``key`` is stored once.

    With ``seen``, the tag of the version that was on the screen, it is refused where another hand
    changed the same since. With ``shown``, the tag of the version that the screen shows, it answers
    with what differs from that one, and the board of ``question``; otherwise with the whole build.
    With ``dry`` nothing is stored: it answers as a trial, with everything that the acts touch; with
    ``near`` too only with what ``question`` says then, which takes a fraction of the time.
    """
    if dry or near:
        tried = trials.near if near else trials.trial
        content = tried(store.get(conn, id), done.acts, question, today())
        return Response(content, media_type="application/json")
    made = store.change(
        conn,
        id,
        None,
        lambda editing: service.changed(editing, done.acts, store.now(), today(), done.lapse),
        by,
        why,
        key,
        seen,
    )
    return answered(conn, made, shown=shown, question=question)


@router.delete("/{id}", status_code=204, responses=PROBLEMS)
def delete_build(conn: Conn, id: str, expected: Expected) -> None:
    """Delete a build with its history and pictures."""
    store.delete(conn, id, expected)


@router.post("/{id}/opened", responses=PROBLEMS)
def open_finding(
    conn: Conn, _: Working, id: str, finding: Short, tried: models.TrialOf
) -> models.Detail:
    """Why one finding reads as it does, its ways out and its margin drawn at random, as stored or
    as a trial leaves it.
    """
    return trials.opened_finding(store.get(conn, id), tried.acts, finding, today())


@router.get("/{id}/history", responses=PROBLEMS)
def get_history(
    conn: Conn,
    id: str,
    after: VersionNumber = 0,
    before: VersionNumber = MOST_VERSION,
    most: Annotated[int, Query(ge=1, le=200)] = 100,
) -> list[models.ChangeLine]:
    """Who changed what, from what to what, and why; newest first, page by page with ``before``."""
    store.version_of(conn, id)
    return [
        models.ChangeLine(**change_line(c)) for c in store.journal(conn, id, after, most, before)
    ]


@router.get("/{id}/events", responses=PROBLEMS)
def preview_event(conn: Conn, id: str, event: Short, which: Short = "") -> models.EventPreview:
    """What an event would spoil."""
    if event not in EVENTS:
        raise Refused(422, "event", "Unknown event", f"There is no event “{event}”.")
    build = build_of(conn, id)
    return models.EventPreview(event=event, lapsing=lapsing(build, event, which))


@router.post(
    "/{id}/{kind}",
    response_model=models.BuildChange[models.FindingLine] | models.BuildState,
    responses=PROBLEMS,
)
def step_build(
    conn: Conn,
    _: Changing,
    id: str,
    kind: Literal["undo", "redo"],
    expected: Expected,
    by: By,
    of: Annotated[int | None, Query(ge=1, le=MOST_VERSION)] = None,
    shown: Short = "",
    question: Short = "",
) -> Response:
    """Undo or redo one change, as a new version: the last one of this hand, or version ``of``
    whoever made it.

    Where only others changed it answers 409 with their last change, which is taken when it is asked
    for by number.
    """
    made = step(
        conn,
        id,
        expected,
        kind,
        by,
        of,
        lambda stored, after, alone: service.stepped_to(stored, after, alone, today()),
    )
    (stepped,) = store.journal(conn, id, after=made.version - 1, most=1)
    return answered(conn, made, stepped=stepped, shown=shown, question=question)
