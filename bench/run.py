"""What is measured, never a timed test: ``./pindo bench`` prints times of this machine and the ratios that travel.

Each figure is a median (p50) and a 95 % point of one run; ratios are taken inside the same run.
"""

import gzip
import itertools
import os
import platform
import socket
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

import httpx2  # noqa: E402
from playwright.sync_api import sync_playwright  # noqa: E402

from pindo.core.assess import assess, assess_inputs  # noqa: E402
from pindo.core.boards import boards  # noqa: E402
from pindo.core.build import Build  # noqa: E402
from pindo.core.clear.solids import all_pairs, placed_solids  # noqa: E402
from pindo.core.resolve import resolve  # noqa: E402
from pindo.demo import pump_tender  # noqa: E402

ROUNDS = 60


def timed(work: Callable[[int], object], rounds: int = ROUNDS) -> tuple[float, float]:
    """p50 and p95 of ``work(i)`` [ms]; two rounds first that do not count."""
    times = []
    for i in range(rounds + 2):
        start = time.perf_counter()
        work(i)
        times.append((time.perf_counter() - start) * 1e3)
    times = sorted(times[2:])
    return statistics.median(times), times[int(0.95 * len(times))]


def line(words: str, found: tuple[float, float], aim: str = "") -> None:
    print(f"{words:52} p50 {found[0]:7.1f} ms   p95 {found[1]:7.1f} ms   {aim}")


def thickness(i: int) -> str:
    return f"{17 + 0.01 * i:.2f}"  # never the same twice: kept answers must not flatter the figure


def planned(key: str, typed: str) -> dict[str, object]:
    return {"acts": [{"do": "plan", "key": key, "typed": typed, "unit": "mm"}]}


def trial(i: int) -> dict[str, object]:
    return planned("plate_mm", thickness(i))


def side(i: int) -> str:
    return f"{4 + 0.05 * i:.2f}"


def pose_trial(i: int) -> dict[str, object]:
    return planned("crank_side_mm", side(i))


def forty_solids() -> dict[str, object]:
    """The pump tender with 6 solids on the engine and 34 on the chassis: 40 solids, 204 pairs."""
    document = pump_tender().model_dump(mode="json")
    engine = [s for s in document["solids"] if s["body"] == "engine"][:6]
    solids = document["solids"] = engine + [s for s in document["solids"] if s["body"] == "chassis"]
    one = next(s for s in solids if s["body"] == "chassis")
    while len(solids) < 40:
        n = max(s["n"] for s in solids) + 1
        solids.append(one | {"n": n, "name": f"more {n}", "shape": ("capsule", "cylinder", "sphere", "cone")[n % 4], "a": "60", "b": "200", "up": str(260 + 3 * n), "back": str(-500 + 20 * n)})
    return document


def with_solids() -> None:
    """assess with 40 solids, as a ratio to the bare collision queries that it contains."""
    document = forty_solids()
    changed = []
    for i in range(ROUNDS + 2):
        document["dims"]["crank_side_mm"]["statements"][0]["takes"][0]["typed"] = side(i)
        changed.append(resolve(Build.model_validate(document)))
    placed = placed_solids(changed[0])
    queries = timed(lambda i: all_pairs(placed))
    found = timed(lambda i: assess_inputs(replace(changed[i], memo={}), ()))
    line(f"assess with {len(placed)} solids, another pose each time", found, "aim 60 ms")
    line(f"its {len(all_pairs(placed))} bare distance queries", queries)
    print(f"  assess is {found[0] / queries[0]:.1f} times the collision queries that it contains")


def in_process() -> tuple[float, float]:
    document = mate_and_stack()
    changed = []
    for i in range(ROUNDS + 2):
        document["dims"]["plate_mm"]["statements"][0]["takes"][0]["typed"] = thickness(i)
        changed.append(Build.model_validate(document))
    read = timed(lambda i: Build.model_validate(document))
    found = timed(lambda i: assess(changed[i], ()))
    answer = assess(changed[0], ())
    drawn = timed(lambda i: boards(changed[i], answer))
    line("read the document (pydantic)", read)
    line("assess Mate and Stack, another plate each time", found, "aim 15 ms")
    line("draw its pictures", drawn)
    print(f"  assess is {found[0] / read[0]:.1f} times reading the document, {len(answer.findings)} findings")
    return found


def mate_and_stack() -> dict[str, object]:
    """The pump tender on the bench: the engine, the gearbox and what stands between them."""
    document = pump_tender().model_dump(mode="json")
    for key in ("mounts", "solids", "pulleys", "joints", "steps", "log", "fits", "modifications", "provisional", "parts", "money", "hours"):
        document[key] = []
    return document


def serve() -> tuple[subprocess.Popen[bytes], str]:
    """The app in a process of its own, as it is used: a client that shared it would wait for the same interpreter."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    server = subprocess.Popen([sys.executable, "-m", "pindo.cli", "demo", "--port", str(port), "--data", tempfile.mkdtemp()], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    base = f"http://127.0.0.1:{port}"
    for _ in range(200):
        try:
            httpx2.get(f"{base}/api/health").raise_for_status()
            return server, base
        except httpx2.TransportError:
            time.sleep(0.05)
    raise SystemExit("The server did not start.")


def over_http(base: str, bare: tuple[float, float]) -> None:
    with httpx2.Client(base_url=base) as client:
        found = timed(lambda i: client.post("/api/builds/pump-tender/trial?station=stack", json=trial(i)).raise_for_status())
        health = timed(lambda i: client.get("/api/health").raise_for_status())
        moved = timed(lambda i: client.post("/api/builds/pump-tender/trial?station=seat", json=pose_trial(i)).raise_for_status())
        bench = client.post("/api/builds/import", json=mate_and_stack()).raise_for_status().json()["id"]
        plate_only = timed(lambda i: client.post(f"/api/builds/{bench}/trial?station=stack", json=trial(i)).raise_for_status())
    line("plate trial over HTTP, Mate and Stack alone", plate_only, "aim 40 ms")
    line("plate trial over HTTP, the whole vehicle", found)
    line("pose trial over HTTP, the whole vehicle, 240 pairs", moved, "aim 100 ms")
    line("an empty answer over HTTP", health)
    placed = placed_solids(resolve(pump_tender()))
    queries = timed(lambda i: all_pairs(placed))
    print(f"  plate trial {plate_only[0] / bare[0]:.1f} times assess of Mate and Stack in process; pose trial {moved[0] / queries[0]:.1f} times its bare distance queries ({queries[0]:.1f} ms)")


def screen_size() -> None:
    dist = ROOT / "frontend" / "dist"
    page = (dist / "index.html").read_text("utf-8")
    first = [f for f in (dist / "assets").glob("*.js") if f.name in page]
    size = sum(len(gzip.compress(f.read_bytes(), 9)) for f in first)
    print(f"{'first screen, compressed script':52} {size / 1024:10.0f} kB                      aim 350 kB")


FRAMES = """() => new Promise(done => {
  const grip = document.querySelector('[role=slider] .grip').getBoundingClientRect()
  const times = []
  let i = 0
  const element = document.querySelector('[role=slider]')
  const send = (type, x) => element.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 1, clientX: x, clientY: grip.y + 10 }))
  element.setPointerCapture = () => {}
  send('pointerdown', grip.x)
  const step = now => {
    times.push(now)
    send('pointermove', grip.x + 18 * Math.sin(i / 9))
    i += 1
    if (i < 150) requestAnimationFrame(step)
    else { send('pointerup', grip.x); done(times) }
  }
  requestAnimationFrame(step)
})"""


def drag(base: str) -> None:
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium")
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for station in ("stack", "seat"):
            page.goto(f"{base}/build/pump-tender/{station}")
            page.wait_for_selector("[role=slider] .grip")
            page.wait_for_timeout(500)
            times = page.evaluate(FRAMES)
            gaps = sorted(b - a for a, b in itertools.pairwise(times))
            frames = 1000 * (len(times) - 1) / (times[-1] - times[0])
            print(f"{f'a drag at {station}, findings following':52} {frames:7.0f} frames/s, slowest 5 % {gaps[int(0.95 * len(gaps))]:5.0f} ms   aim 30")
        browser.close()


def main() -> int:
    print(f"{platform.processor() or platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}, {platform.system()} {platform.release()}")
    line("a plain loop of 100 000 squares, to compare machines", timed(lambda i: sum(x * x for x in range(100_000))))
    bare = in_process()
    server, base = serve()
    try:
        over_http(base, bare)
        with_solids()
        screen_size()
        drag(base)
    finally:
        server.terminate()
        server.wait()
    return 0


if __name__ == "__main__":
    sys.exit(main())
