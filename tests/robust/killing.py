"""A server that is killed at any moment while it is written to: what it acknowledged is there
afterwards.
"""

import os
import random
import resource
import signal
import sqlite3
import subprocess
import sys
import threading
import time
from contextlib import closing
from pathlib import Path

import httpx2 as httpx

from pindo.core.inputs.problems import document_trouble
from pindo.store.copies import copies, folder_of
from pindo.store.soundness import look_through

ROOT = Path(__file__).parents[2]


class Served:
    """A Pindo in a process of its own over one folder."""

    def __init__(self, data: Path, limits: tuple[tuple[int, int], ...] = ()) -> None:
        data.parent.mkdir(parents=True, exist_ok=True)
        self.log = data.parent / "server.log"
        self.process = subprocess.Popen(
            [
                sys.executable,
                "-W",
                "ignore",
                "-m",
                "pindo.cli",
                "demo",
                "--port",
                "0",
                "--data",
                str(data),
            ],
            stdout=subprocess.PIPE,
            stderr=self.log.open("a"),
            text=True,
            preexec_fn=lambda: [resource.setrlimit(what, (most, most)) for what, most in limits],
            env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
        )
        line = self.process.stdout.readline() if self.process.stdout else ""
        if "http://" not in line:
            raise RuntimeError(f"it did not start: {line!r}")
        self.url = line.split("at ")[1].split("/ ")[0]

    def kill(self, sign: int = signal.SIGKILL) -> None:
        self.process.send_signal(sign)
        self.process.wait()
        if self.process.stdout:
            self.process.stdout.close()


def write(url: str, name: str, acknowledged: dict[str, str], stop: threading.Event) -> None:
    """Writes one value after another to a field of its own, until the server is gone."""
    try:
        with httpx.Client(timeout=30) as client:
            for n in range(10_000):
                if stop.is_set():
                    return
                act = {
                    "do": "put",
                    "list": "solids",
                    "row": int(name),
                    "field": "note",
                    "value": f"{name}-{n}",
                }
                answer = client.post(
                    f"{url}/api/builds/pump-tender/entries",
                    json={"acts": [act]},
                    params={"hand": name, "key": f"{time.time_ns()}-{name}"},
                )
                if answer.status_code == 200:
                    acknowledged[name] = act["value"]
                elif answer.status_code >= 500 and "/problems/busy" not in answer.text:
                    # Busy is no loss: nothing was stored, and it is asked again.
                    acknowledged["5xx"] = answer.text[:200]
    except httpx.HTTPError:
        return


def round_of(data: Path, dice: random.Random, counts: dict[str, int]) -> list[str]:
    """One life and death of a server; what was lost, in words."""
    served = Served(data)
    acknowledged: dict[str, str] = {}
    stop = threading.Event()
    hands = [
        threading.Thread(target=write, args=(served.url, str(n), acknowledged, stop))
        for n in (1, 2, 3)
    ]
    for hand in hands:
        hand.start()
    mischief = dice.choice(("", "copy", "restore", "delete"))
    # A kill in four comes at any moment, the first ones too; the others when something was
    # acknowledged.
    waited = time.monotonic() + (0.0 if dice.random() < 0.25 else 60.0)
    while not acknowledged and time.monotonic() < waited:
        time.sleep(0.01)
    time.sleep(dice.uniform(0.0, 1.5))
    if mischief:
        threading.Thread(target=_also, args=(served.url, mischief), daemon=True).start()
        time.sleep(dice.uniform(0.0, 0.3))
    served.kill()
    stop.set()
    for hand in hands:
        hand.join()
    counts["kills"] = counts.get("kills", 0) + 1
    lost = [acknowledged.pop("5xx")] if "5xx" in acknowledged else []
    counts["acknowledged"] = counts.get("acknowledged", 0) + sum(
        int(value.split("-")[1]) + 1 for value in acknowledged.values()
    )
    database = data / "pindo.sqlite"
    with closing(sqlite3.connect(database)) as conn:
        rows = {
            str(r[0]): r[1]
            for r in conn.execute(
                "SELECT value ->> '$.n', value ->> '$.note' FROM build, json_each(document,"
                " '$.solids') WHERE build.id = 'pump-tender'"
            )
        }
    for name, value in acknowledged.items():
        # A later one may have been stored and not yet acknowledged; a restore puts an earlier day
        # back, as it was asked to.
        stored = rows.get(name, "")
        if mischief != "restore" and (
            not stored.startswith(f"{name}-")
            or int(stored.split("-")[1]) < int(value.split("-")[1])
        ):
            lost.append(f"{value} was acknowledged; {stored!r} stands")
    report = look_through(database, document_trouble)
    lost += [f"the data: {p}" for p in report.problems]
    for copy in copies(database):
        lost += [
            f"{copy.name}: {p}"
            for p in look_through(folder_of(database) / copy.name, document_trouble).problems
        ]
    return lost


def _also(url: str, what: str) -> None:
    try:
        with httpx.Client(timeout=10) as client:
            if what == "copy":
                client.post(f"{url}/api/data/copies")
            elif what == "restore":
                name = client.get(f"{url}/api/data").json()["copies"][0]["name"]
                client.post(f"{url}/api/data/copies/{name}/restore")
            else:
                made = client.post(
                    f"{url}/api/builds", json={"name": "short", "demo": "garden-trolley"}
                ).json()
                client.delete(
                    f"{url}/api/builds/{made['id']}", headers={"If-Match": f'"{made["tag"]}"'}
                )
    except (httpx.HTTPError, KeyError, IndexError):
        return
