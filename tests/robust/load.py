"""Twenty builds, eight writers, eight readers and two drags on one server: how it answers, and
what it grows by.
"""

import random
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path

import httpx2 as httpx

from tests.robust.killing import Served

SLOW_SECONDS = 2.0
BUILDS, WRITERS, READERS, DRAGS = 20, 8, 8, 2
READER_PAUSE, WRITER_PAUSE, DRAG_PAUSE = 0.4, 0.4, 0.05
"""Seconds between two requests of one: a hand that types, a screen that asks, a drag."""


@dataclass
class Seen:
    requests: int = 0
    faults: list[str] = field(default_factory=list)
    slow: list[str] = field(default_factory=list)
    lost: list[str] = field(default_factory=list)
    seconds: list[float] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def ask(self, client: httpx.Client, method: str, url: str, **more: object) -> httpx.Response:
        began = time.monotonic()
        answer = client.request(method, url, **more)  # type: ignore[arg-type]
        took = time.monotonic() - began
        with self.lock:
            self.requests += 1
            self.seconds.append(took)
            if answer.status_code >= 500:
                self.faults.append(f"{method} {url}: {answer.status_code} {answer.text[:200]}")
            if took > SLOW_SECONDS:
                self.slow.append(f"{method} {url.split('/api/')[1][:60]}: {took:.1f} s")
        return answer


def memory_mb(process: int) -> float:
    """Resident memory of a process, from /proc; 0 where there is none."""
    status = Path(f"/proc/{process}/status")
    return (
        next(
            (
                int(line.split()[1]) / 1024
                for line in status.read_text().splitlines()
                if line.startswith("VmRSS")
            ),
            0.0,
        )
        if status.exists()
        else 0.0
    )


def run(data: Path, seconds: float, seed: int) -> tuple[Seen, float]:
    """Load for some seconds; what was seen, and by how many MB the server grew after its first
    quarter.
    """
    served = Served(data)
    seen, end = Seen(), time.monotonic() + seconds
    base = f"{served.url}/api/builds"
    with httpx.Client(timeout=60) as client:
        ids = [
            client.post(base, json={"name": f"load {n}", "demo": "pump-tender"}).json()["id"]
            for n in range(BUILDS)
        ]
    written: dict[tuple[str, str], str] = {}

    def writer(n: int) -> None:
        dice = random.Random(f"{seed}-w{n}")
        with httpx.Client(timeout=60) as client:
            while time.monotonic() < end:
                id, value = dice.choice(ids), f"w{n}-{dice.random()}"
                act = {"do": "put", "list": "solids", "row": n + 1, "field": "note", "value": value}
                if (
                    seen.ask(
                        client,
                        "POST",
                        f"{base}/{id}/entries",
                        json={"acts": [act]},
                        params={"hand": f"w{n}"},
                    ).status_code
                    == 200
                ):
                    with seen.lock:
                        written[id, str(n + 1)] = value
                time.sleep(dice.uniform(0.5, 1.5) * WRITER_PAUSE)

    def reader(n: int) -> None:
        dice = random.Random(f"{seed}-r{n}")
        routes = [
            "",
            "",
            "/now",
            "/now",
            "/history",
            "/plate.dxf",
            "/sheets/mate.pdf",
            "/handover.pdf",
            "/bundle",
        ]
        with httpx.Client(timeout=60) as client:
            while time.monotonic() < end:
                seen.ask(client, "GET", f"{base}/{dice.choice(ids)}{dice.choice(routes)}")
                time.sleep(dice.uniform(0.5, 1.5) * READER_PAUSE)

    def drag(n: int) -> None:
        with httpx.Client(timeout=60) as client:
            at = 0
            while time.monotonic() < end:
                at += 1
                acts = [
                    {
                        "do": "plan",
                        "key": "crank_side_mm",
                        "typed": f"{at % 40 / 4:g}",
                        "unit": "mm",
                    }
                ]
                seen.ask(
                    client,
                    "POST",
                    f"{base}/{ids[n]}/entries?dry=true",
                    json={"acts": acts},
                    params={"station": "clear"},
                )
                time.sleep(DRAG_PAUSE)

    hands = [
        threading.Thread(target=what, args=(n,))
        for what, many in ((writer, WRITERS), (reader, READERS), (drag, DRAGS))
        for n in range(many)
    ]
    for hand in hands:
        hand.start()
    time.sleep(seconds / 4)
    early = memory_mb(served.process.pid)
    for hand in hands:
        hand.join()
    grown = memory_mb(served.process.pid) - early
    with httpx.Client(timeout=60) as client:
        for (id, row), value in written.items():
            rows = client.get(f"{base}/{id}").json()["document"]["solids"]
            note = next(r["note"] for r in rows if str(r["n"]) == row)
            if note != value:
                seen.lost.append(f"{id} row {row}: {value} was acknowledged; {note!r} stands")
    served.kill()
    if seen.faults:
        seen.faults.append("the log ends: " + served.log.read_text()[-1500:])
    return seen, grown
