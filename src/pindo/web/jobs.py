"""Searches in a process of their own, one after the other: what takes seconds keeps no screen
waiting, and can be stopped.
"""

import itertools
import os
import pickle
import subprocess
import sys
import threading
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from pindo.core.errors import PindoError
from pindo.core.search import Found, Step

MOST_KEPT, MOST_WAITING = 40, 8
State = Literal["waiting", "running", "done", "stopped", "failed"]


class TooMany(PindoError):
    """The queue is full."""


@dataclass(frozen=True, kw_only=True)
class Job:
    """A search, and how far it is."""

    id: int
    kind: str
    build: str
    tag: str
    """The version of the build that it looks at."""
    state: State = "waiting"
    done: int = 0
    total: int = 0
    found: tuple[Found, ...] = ()
    words: str = ""
    """Why it failed or was stopped."""


@dataclass(frozen=True)
class Asked:
    """What the worker is sent."""

    kind: str
    document: Mapping[str, Any]
    today: str


@dataclass
class Jobs:
    """The queue and its one worker, which is started when the first job comes."""

    _jobs: dict[int, Job] = field(default_factory=dict)
    _asked: dict[int, Asked] = field(default_factory=dict)
    _numbers: "itertools.count[int]" = field(default_factory=lambda: itertools.count(1))
    _change: threading.Condition = field(default_factory=threading.Condition)
    _worker: "subprocess.Popen[bytes] | None" = None
    _runner: threading.Thread | None = None
    _at: int = 0
    """The job that the worker is at; 0 for none."""
    _ended: bool = False

    def start(
        self, kind: str, build: str, tag: str, document: Mapping[str, Any], today: str
    ) -> Job:
        """A new job at the end of the queue, or the one that waits or runs for the same.

        Raises
        ------
        TooMany
            As many wait as may.
        """
        with self._change:
            open_ones = [j for j in self._jobs.values() if j.state in ("waiting", "running")]
            for job in open_ones:
                if (job.kind, job.build, job.tag) == (kind, build, tag):
                    return job
            if len(open_ones) > MOST_WAITING:
                raise TooMany("As many searches wait as may. Stop one, or ask again later.")
            job = Job(id=next(self._numbers), kind=kind, build=build, tag=tag)
            self._jobs[job.id], self._asked[job.id] = job, Asked(kind, document, today)
            for old in [j.id for j in self._jobs.values() if j.id not in self._asked][:-MOST_KEPT]:
                del self._jobs[old]
            if self._runner is None:
                self._runner = threading.Thread(target=self._run, daemon=True, name="jobs")
                self._runner.start()
            self._change.notify_all()
            return job

    def all(self) -> list[Job]:
        """Every job that is remembered, the newest first."""
        with self._change:
            return sorted(self._jobs.values(), key=lambda j: -j.id)

    def get(self, id: int) -> Job | None:
        """One job; None where it is not remembered."""
        with self._change:
            return self._jobs.get(id)

    def stop(self, id: int) -> Job | None:
        """Stops a job that waits or runs; what it found is kept."""
        with self._change:
            job = self._jobs.get(id)
            if job is not None and job.state in ("waiting", "running"):
                self._jobs[id] = job = replace(job, state="stopped", words="Stopped.")
                self._asked.pop(id, None)
                self._change.notify_all()
                if self._worker is not None and self._at == id:
                    self._worker.kill()
            return job

    def end(self) -> None:
        """Ends the worker with the application."""
        with self._change:
            self._ended = True
            self._change.notify_all()
            if self._worker is not None:
                self._worker.kill()

    def _next(self) -> tuple[int, Asked] | None:
        with self._change:
            while not self._ended:
                for id, asked in self._asked.items():
                    if self._jobs[id].state == "waiting":
                        self._jobs[id] = replace(self._jobs[id], state="running")
                        self._at = id
                        return id, asked
                self._change.wait()
            return None

    def _run(self) -> None:
        while (found := self._next()) is not None:
            id, asked = found
            try:
                self._search(id, asked)
            except (EOFError, OSError, pickle.UnpicklingError):
                # Killed: because it was stopped, or by the system.
                if self._worker is not None:
                    self._worker.kill()
                    self._worker.communicate()
                self._worker = None
                self._end(id, "failed", "The search was ended from outside. Ask again.")
            with self._change:
                self._at = 0

    def _search(self, id: int, asked: Asked) -> None:
        worker = self._worker or self._started()
        if worker.stdin is None or worker.stdout is None:
            raise OSError("the worker has no pipes")
        pickle.dump(asked, worker.stdin)
        worker.stdin.flush()
        while True:
            said: Step | str | None = pickle.load(worker.stdout)
            if said is None:
                return self._end(id, "done")
            if isinstance(said, str):
                return self._end(id, "failed", f"Pindo failed at it: {said}")
            with self._change:
                job = self._jobs[id]
                more = () if said.found is None else (said.found,)
                self._jobs[id] = replace(
                    job,
                    done=said.done,
                    total=said.total,
                    found=(*job.found, *more),
                )

    def _started(self) -> "subprocess.Popen[bytes]":
        # A fresh interpreter: a copy of this one would hold its locks and its sockets.
        path = os.pathsep.join(p for p in sys.path if p)
        worker = subprocess.Popen(
            [sys.executable, "-m", "pindo.web.searcher"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env={**os.environ, "PYTHONPATH": path},
        )
        with self._change:
            self._worker = worker
            if self._ended:
                worker.kill()
        return worker

    def _end(self, id: int, state: State, words: str = "") -> None:
        with self._change:
            self._asked.pop(id, None)
            if self._jobs[id].state == "running":
                self._jobs[id] = replace(self._jobs[id], state=state, words=words)
