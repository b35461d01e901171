"""What is measured, never a timed test: ``./pindo bench`` prints times of this machine and the
ratios that travel.

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
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

import httpx2  # noqa: E402
from playwright.sync_api import sync_playwright  # noqa: E402

from pindo.core.assessment import assess, assess_inputs, opened  # noqa: E402
from pindo.core.boards import boards  # noqa: E402
from pindo.core.document.build import Build  # noqa: E402
from pindo.core.geometry.solids import Placed, distances, placed_solids  # noqa: E402
from pindo.core.inputs.inputs import Memory  # noqa: E402
from pindo.core.inputs.resolve import resolve  # noqa: E402
from pindo.core.judging.verdict import Verdict  # noqa: E402
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


def nose_trial(i: int) -> dict[str, object]:
    return planned("nose_mm", f"{20 + 0.01 * i:.2f}")


def forty_solids() -> dict[str, object]:
    """The pump tender with 6 solids on the engine and 34 on the chassis: 40 solids, 204 pairs."""
    document = pump_tender().model_dump(mode="json")
    engine = [s for s in document["solids"] if s["body"] == "engine"][:6]
    solids = document["solids"] = engine + [s for s in document["solids"] if s["body"] == "chassis"]
    one = next(s for s in solids if s["body"] == "chassis")
    while len(solids) < 40:
        n = max(s["n"] for s in solids) + 1
        solids.append(
            one
            | {
                "n": n,
                "name": f"more {n}",
                "shape": ("capsule", "cylinder", "sphere", "cone")[n % 4],
                "a": "60",
                "b": "200",
                "up": str(260 + 3 * n),
                "back": str(-500 + 20 * n),
            }
        )
    return document


def bare(placed: list[Placed]) -> int:
    """Asks every distance of the unit's solids to the chassis', and nothing else."""
    unit, chassis = (
        [p for p in placed if (p.solid.body == "chassis") == on] for on in (False, True)
    )
    return len(distances(unit, chassis))


def with_solids() -> None:
    """assess with 40 solids, as a ratio to the bare collision queries that it contains."""
    document = forty_solids()
    builds = []
    for i in range(ROUNDS + 2):
        document["dims"]["crank_side_mm"]["statements"][0]["takes"][0]["typed"] = side(i)
        builds.append(Build.model_validate(document))
    placed = placed_solids(resolve(builds[0]))
    queries = timed(lambda i: bare(placed))
    found = timed(lambda i: assess(builds[i], ()))
    line(f"assess with {len(placed)} solids, another pose each time", found)
    line(f"its {bare(placed)} bare distance queries", queries)
    print(f"  assess is {found[0] / queries[0]:.1f} times the collision queries that it contains")


def of_three() -> None:
    """Lists three times as long: a whole assess, and a trial that touches none of them."""

    def both(times: int) -> tuple[tuple[float, float], tuple[float, float]]:
        document = pump_tender().model_dump(mode="json")
        for name in ("solids", "joints", "steps", "mounts", "parts", "money"):
            rows = document[name]
            most = max(r["n"] for r in rows)
            if name != "mounts":
                document[name] = [r | {"n": r["n"] + k * most} for k in range(times) for r in rows]
        build = Build.model_validate(document)
        whole = timed(lambda i: assess(build, ()), 12)
        memory = Memory()
        first = resolve(build, memory)
        assess_inputs(first, ())

        def trial(i: int) -> None:
            dims = (
                build.dims
                | Build.model_validate(
                    {"name": "x", "dims": {"nose_mm": chosen(f"{20 + 0.01 * i:.2f}")}}
                ).dims
            )
            assess_inputs(resolve(build.model_copy(update={"dims": dims}), memory, first), ())

        return whole, timed(trial, 30)

    (one, small), (three, large) = both(1), both(3)
    line("assess of the whole vehicle from nothing", one)
    line("the same with lists three times as long", three)
    line("a nose trial of the whole vehicle", small)
    line("the same with lists three times as long", large)
    print(
        f"  three times the rows: assess {three[0] / one[0]:.1f}, trial {large[0] / small[0]:.1f}"
    )


def chosen(typed: str) -> dict[str, object]:
    return {"statements": [{"id": "s1", "source": "chosen", "takes": [{"typed": typed}]}]}


def in_process() -> tuple[float, float]:
    document = mate_and_stack()
    changed = []
    for i in range(ROUNDS + 2):
        document["dims"]["plate_mm"]["statements"][0]["takes"][0]["typed"] = thickness(i)
        changed.append(Build.model_validate(document))
    read = timed(lambda i: Build.model_validate(document))
    found = timed(lambda i: assess(changed[i], ()))
    inputs = [resolve(b) for b in changed]
    answers = [assess_inputs(i, ()) for i in inputs]
    drawn = timed(lambda i: boards(inputs[i], answers[i], ""))
    line("read the document (pydantic)", read)
    line("assess Mate and Stack, another plate each time", found, "aim 15 ms")
    line("draw all of its pictures", drawn)
    print(
        f"  assess is {found[0] / read[0]:.1f} times reading the document,"
        f" {len(answers[0].findings)} findings"
    )
    whole = resolve(pump_tender(), Memory())
    answer = assess_inputs(whole, ())
    with_way = [f.id for f in answer.findings if f.verdict in (Verdict.FOULS, Verdict.TIGHT)]
    ways = timed(lambda i: opened(resolve(pump_tender()), with_way[i % len(with_way)]))
    again = timed(lambda i: opened(whole, with_way[i % len(with_way)]))
    line("ways out of one finding, from nothing", ways)
    line("the same of a build that is at hand", again, "aim 10 ms")
    return found


def mate_and_stack() -> dict[str, object]:
    """The pump tender on the bench: the engine, the gearbox and what stands between them."""
    document = pump_tender().model_dump(mode="json")
    for key in (
        "mounts",
        "solids",
        "pulleys",
        "joints",
        "steps",
        "log",
        "fits",
        "modifications",
        "provisional",
        "parts",
        "money",
        "hours",
    ):
        document[key] = []
    return document


def serve() -> tuple[subprocess.Popen[bytes], str]:
    """The app in a process of its own, as it is used: a client that shared it would wait for the
    same interpreter.
    """
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    server = subprocess.Popen(
        [
            sys.executable,
            "-m",
            "pindo.cli",
            "demo",
            "--port",
            str(port),
            "--data",
            tempfile.mkdtemp(),
        ],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    base = f"http://127.0.0.1:{port}"
    for _ in range(200):
        try:
            httpx2.get(f"{base}/api/health").raise_for_status()
            return server, base
        except httpx2.TransportError:
            time.sleep(0.05)
    raise SystemExit("The server did not start.")


def over_http(base: str, process: tuple[float, float]) -> None:
    with httpx2.Client(base_url=base) as client:

        def entries(id: str, question: str, act: dict[str, object], dry: bool) -> httpx2.Response:
            query = {"question": question} | ({"dry": "true"} if dry else {})
            url = f"/api/builds/{id}/entries"
            return client.post(url, params=query, json=act | {"lapse": True}).raise_for_status()

        def near(id: str, question: str, act: Callable[[int], dict[str, object]]) -> None:
            """The same while a hand moves: the question that is looked at alone."""
            url, query = f"/api/builds/{id}/entries", {"question": question, "near": "true"}
            found = timed(lambda i: client.post(url, params=query, json=act(i)).raise_for_status())
            line(f"the same while a hand moves, {question}", found)
            print(f"  {found[0] / health[0]:.1f} times an empty answer")

        def asked(id: str, question: str, act: Callable[[int], dict[str, object]]) -> float:
            """Trials of one build, as a ratio to an empty answer."""
            client.get(f"/api/builds/{id}/boards", params={"question": question})
            found = timed(lambda i: entries(id, question, act(i), True))
            size = len(entries(id, question, act(99), True).content) / 1024
            line(f"trial over HTTP, {question} looked at, {size:.0f} kB", found)
            print(f"  {found[0] / health[0]:.1f} times an empty answer")
            return found[0]

        health = timed(lambda i: client.get("/api/health").raise_for_status())
        line("an empty answer over HTTP", health)
        whole = client.get("/api/builds/pump-tender").raise_for_status()
        print(f"  a whole answer is {len(whole.content) / 1024:.0f} kB")
        plate = asked("pump-tender", "stack.spacing", trial)
        near("pump-tender", "stack.spacing", trial)
        asked("pump-tender", "stack.spacing", nose_trial)
        pose = asked("pump-tender", "seat.place", pose_trial)
        near("pump-tender", "seat.place", pose_trial)
        made = client.post("/api/builds/import", json=mate_and_stack()).raise_for_status()
        alone = asked(made.json()["id"], "stack.spacing", trial)

        def stored(i: int) -> None:
            id, tag = at["id"], at["tag"]
            url = f"/api/builds/{id}/entries"
            query = {"question": "stack.spacing", "shown": tag}
            answer = client.post(url, params=query, json=trial(i) | {"lapse": True})
            at["tag"] = answer.raise_for_status().json()["tag"]
            at["size"] = max(at.get("size", 0), len(answer.content))

        copy = client.post("/api/builds", json={"name": "Copy", "demo": "pump-tender"}).json()
        at = {"id": copy["id"], "tag": copy["tag"]}
        kept = timed(stored, 40)
        line(f"a stored plate over HTTP, at most {at['size'] / 1024:.0f} kB", kept, "aim 40 kB")
        print(f"  {kept[0] / plate:.1f} times its trial")
        sheet = timed(
            lambda i: client.get("/api/builds/pump-tender/sheets/stack.pdf").raise_for_status(), 6
        )
        line("a printed sheet", sheet, "aim 600 ms")
    placed = placed_solids(resolve(pump_tender()))
    queries = timed(lambda i: bare(placed))
    print(
        f"  plate trial {alone / process[0]:.1f} times assess of Mate and Stack in process;"
        f" pose trial {pose / queries[0]:.1f} times its bare distance queries ({queries[0]:.1f} ms)"
    )


def screen_size() -> None:
    dist = ROOT / "frontend" / "dist"
    page = (dist / "index.html").read_text("utf-8")
    first = [f for f in (dist / "assets").glob("*.js") if f.name in page]
    size = sum(len(gzip.compress(f.read_bytes(), 9)) for f in first)
    print(
        f"{'first screen, compressed script':52} {size / 1024:10.0f} kB                      aim"
        " 200 kB"
    )


FRAMES = """() => new Promise(done => {
  const grip = document.querySelector('[role=slider] .grip').getBoundingClientRect()
  const times = []
  let i = 0
  const element = document.querySelector('[role=slider]')
  const at = (x) => ({ bubbles: true, pointerId: 1, clientX: x, clientY: grip.y + 10 })
  const send = (type, x) => element.dispatchEvent(new PointerEvent(type, at(x)))
  element.setPointerCapture = () => {}
  // A finding that is drawn anew: its sentence or its gauge.
  let drawn = 0
  let due = false
  const count = () => {
    if (due) return
    due = true
    requestAnimationFrame(() => { due = false; drawn += 1 })
  }
  const look = new MutationObserver(count)
  const all = { subtree: true, childList: true, characterData: true, attributes: true }
  look.observe(document.querySelector('.findinglist'), all)
  performance.clearResourceTimings()
  send('pointerdown', grip.x)
  const step = now => {
    times.push(now)
    send('pointermove', grip.x + 18 * Math.sin(i / 9))
    i += 1
    if (i < 150) requestAnimationFrame(step)
    else {
      send('pointerup', grip.x)
      look.disconnect()
      const asked = performance.getEntriesByType('resource').filter(e => e.name.includes('near='))
      const wire = asked.map(e => e.duration)
      const server = asked.map(e => e.responseStart - e.requestStart)
      done({ times, drawn, answers: asked.length, wire, server })
    }
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
            found = page.evaluate(FRAMES)
            times = found["times"]
            gaps = sorted(b - a for a, b in itertools.pairwise(times))
            frames = 1000 * (len(times) - 1) / (times[-1] - times[0])
            print(
                f"{f'a drag at {station}, findings following':52} {frames:7.0f} frames/s, slowest 5"
                f" % {gaps[int(0.95 * len(gaps))]:5.0f} ms   aim 30"
            )
            seconds = (times[-1] - times[0]) / 1000
            server, wire = (statistics.mean(found[k] or [0.0]) for k in ("server", "wire"))
            print(
                f"  answers {found['answers'] / seconds:.0f} a second, two under way at once,"
                f" findings drawn anew {found['drawn'] / seconds:.0f} a second; of an answer:"
                f" server {server:.0f} ms, wire {wire - server:.0f} ms"
            )
        browser.close()


def main() -> int:
    print(
        f"{platform.processor() or platform.machine()}, {os.cpu_count()} cores, Python"
        f" {platform.python_version()}, {platform.system()} {platform.release()}"
    )
    line(
        "a plain loop of 100 000 squares, to compare machines",
        timed(lambda i: sum(x * x for x in range(100_000))),
    )
    process = in_process()
    server, base = serve()
    try:
        over_http(base, process)
        with_solids()
        of_three()
        screen_size()
        drag(base)
    finally:
        server.terminate()
        server.wait()
    return 0


if __name__ == "__main__":
    sys.exit(main())
