"""Every check of the project in one run: lint, types, logic of the screen, unit tests, browser
tests; then the share of tests. Modules run side by side, as many as there are processors.

Run through ``./pindo test``; words after it name test modules to run alone, such as
``tests.core.test_quantity``.
"""

import os
import re
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BIN = Path(sys.executable).parent
STEPS = {
    "lint, Python": ([str(BIN / "ruff"), "check", "."], ROOT),
    "format, Python": ([str(BIN / "ruff"), "format", "--check", "--quiet", "."], ROOT),
    "types, Python": ([str(BIN / "mypy")], ROOT),
    "types, screen": (["npx", "--no-install", "tsc", "-b"], ROOT / "frontend"),
    "lint, screen": (["npx", "--no-install", "eslint", "src"], ROOT / "frontend"),
    "logic, screen": (["npx", "--no-install", "vitest", "run"], ROOT / "frontend"),
}
# The longest first, so that the last to end is a short one.
ORDER = ("browser", "robust", "core", "web", "reference", "formats", "store")
RAN = re.compile(r"^Ran (\d+) tests? in", re.MULTILINE)
BAD = re.compile(r"(?:failures|errors|skipped|unexpected successes)=(\d+)")


@dataclass(frozen=True)
class Done:
    """How a check ended: how many passed and failed, and what it said."""

    name: str
    passed: int
    failed: int
    said: str
    seconds: float


def step(name: str) -> Done:
    """A check that is a command."""
    start = time.monotonic()
    command, folder = STEPS[name]
    done = subprocess.run(
        command, cwd=folder, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
    )
    good = done.returncode == 0
    return Done(name, int(good), int(not good), done.stdout, time.monotonic() - start)


def module(name: str) -> Done:
    """A module of tests, in a process of its own. A skipped test counts as failed."""
    start = time.monotonic()
    done = subprocess.run(
        [sys.executable, "-m", "unittest", name],
        cwd=ROOT,
        env={**os.environ, "PYTHONPATH": os.pathsep.join((str(ROOT / "src"), str(ROOT)))},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
    )
    found = RAN.search(done.stdout)
    ran = int(found[1]) if found else 0
    bad = sum(map(int, BAD.findall(done.stdout[found.end() :]))) if found else 0
    if (done.returncode != 0 or ran == 0) and bad == 0:
        bad = 1  # it ended before it could count
    return Done(name, max(ran - bad, 0), bad, done.stdout, time.monotonic() - start)


def modules() -> list[str]:
    """Every module of tests, by its dotted name."""
    paths = (ROOT / "tests").rglob("test_*.py")
    names = [".".join(p.relative_to(ROOT).with_suffix("").parts) for p in paths]

    def rank(name: str) -> tuple[int, str]:
        folder = name.split(".")[1]
        return ORDER.index(folder) if folder in ORDER else len(ORDER), name

    return sorted(names, key=rank)


def told(done: Done) -> Done:
    """The check in one line, with what it said where it failed."""
    words = "passed" if not done.failed else f"FAILED {done.failed}"
    print(f"{done.name}: {done.passed} {words} ({done.seconds:.0f} s)", flush=True)
    if done.failed:
        print(done.said[-20_000:], flush=True)
    return done


def lines(folder: Path, suffixes: tuple[str, ...]) -> int:
    """Lines of all files of these kinds below a folder."""
    return sum(
        len(p.read_text("utf-8").splitlines()) for p in folder.rglob("*") if p.suffix in suffixes
    )


def main() -> int:
    """Runs what is named, or everything; 1 where something failed."""
    names = sys.argv[1:]
    steps = [] if names else list(STEPS)
    with ThreadPoolExecutor(max(2, os.cpu_count() or 2)) as pool:
        tests = pool.map(lambda name: told(module(name)), names or modules())
        others = pool.map(lambda name: told(step(name)), steps)
        done = [*tests, *others]
    size = lines(ROOT / "tests", (".py", ".ts"))
    code = lines(ROOT / "src", (".py", ".sql", ".csv")) + lines(
        ROOT / "frontend" / "src", (".ts", ".tsx", ".css")
    )
    print(
        f"tests {size} lines, code {code} lines: {100 * size / code:.0f} % (generated types not"
        " counted)"
    )
    if failed := [d.name for d in done if d.failed]:
        print("failed: " + ", ".join(failed))
    passed, bad = sum(d.passed for d in done), sum(d.failed for d in done)
    print(f"{passed} passed, {bad} failed", flush=True)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
