"""Searches that take long: asked, looked at, stopped."""

from dataclasses import replace

from fastapi import APIRouter, Request

from pindo.core.search import SEARCHES
from pindo.store import builds as store
from pindo.web.asked import PROBLEMS, Conn
from pindo.web.jobs import Job, Jobs, TooMany
from pindo.web.models import NewJob
from pindo.web.problems import Refused

router = APIRouter(prefix="/api/jobs")


def _jobs(request: Request) -> Jobs:
    jobs: Jobs = request.app.state.jobs
    return jobs


def _there(job: Job | None) -> Job:
    if job is None:
        raise Refused(404, "no-job", "No such search", "It is not remembered: ask again.")
    return job


@router.post("", status_code=202, responses=PROBLEMS)
def start(request: Request, conn: Conn, wanted: NewJob) -> Job:
    """Ask for a search of a build as it stands now; one that is under way for it is answered."""
    if wanted.kind not in SEARCHES:
        known = ", ".join(SEARCHES)
        raise Refused(
            422, "kind", "Unknown search", f"There is no {wanted.kind}; there is {known}."
        )
    stored = store.get(conn, wanted.build)
    today = store.now()[:10]
    try:
        return _jobs(request).start(wanted.kind, stored.id, stored.at.tag, stored.document, today)
    except TooMany as error:
        raise Refused(503, "busy", "Too many searches wait", str(error)) from error


@router.get("")
def all_jobs(request: Request) -> list[Job]:
    """Every search that is remembered, the newest first, without what it found."""
    return [replace(job, found=()) for job in _jobs(request).all()]


@router.get("/{id}", responses=PROBLEMS)
def one(request: Request, id: int) -> Job:
    """One search: how far it is, and what it found so far."""
    return _there(_jobs(request).get(id))


@router.delete("/{id}", responses=PROBLEMS)
def stop(request: Request, id: int) -> Job:
    """Stop a search; what it found is kept."""
    return _there(_jobs(request).stop(id))
