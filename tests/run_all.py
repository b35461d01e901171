"""Every check of the project in one run: lint, types, logic of the screen, unit tests, browser tests; then the share of tests.

Run through ``./pindo test``; words after it name test modules to run alone, such as ``tests.core.test_quantity``.
"""

import subprocess
import sys
import time
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BIN = Path(sys.executable).parent
STEPS = (
    ("lint, Python", [str(BIN / "ruff"), "check", "."], ROOT),
    ("format, Python", [str(BIN / "ruff"), "format", "--check", "--quiet", "."], ROOT),
    ("types, Python", [str(BIN / "mypy")], ROOT),
    ("types, screen", ["npx", "--no-install", "tsc", "-b"], ROOT / "frontend"),
    ("lint, screen", ["npx", "--no-install", "eslint", "src"], ROOT / "frontend"),
    ("logic, screen", ["npx", "--no-install", "vitest", "run"], ROOT / "frontend"),
)


def lines(folder: Path, suffixes: tuple[str, ...]) -> int:
    """Lines of all files of these kinds below a folder."""
    return sum(len(p.read_text("utf-8").splitlines()) for p in folder.rglob("*") if p.suffix in suffixes)


def main() -> int:
    sys.path[:0] = [str(ROOT), str(ROOT / "src")]
    names = sys.argv[1:]
    failed = []
    for words, command, folder in () if names else STEPS:
        start = time.monotonic()
        done = subprocess.run(command, cwd=folder, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        print(f"{words}: {'passed' if done.returncode == 0 else 'FAILED'} ({time.monotonic() - start:.0f} s)", flush=True)
        if done.returncode != 0:
            print(done.stdout, flush=True)
            failed.append(words)
    loader = unittest.TestLoader()
    suite = loader.loadTestsFromNames(names) if names else loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT))
    result = unittest.TextTestRunner(verbosity=1).run(suite)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses) + len(result.skipped)
    tests = lines(ROOT / "tests", (".py", ".ts"))
    code = lines(ROOT / "src", (".py", ".sql", ".csv")) + lines(ROOT / "frontend" / "src", (".ts", ".tsx", ".css"))
    print(f"tests {tests} lines, code {code} lines: {100 * tests / code:.0f} % (generated types not counted)")
    if failed:
        print("steps that failed: " + ", ".join(failed))
    print(f"{result.testsRun - bad + (0 if names else len(STEPS) - len(failed))} passed, {bad + len(failed)} failed", flush=True)
    return 1 if bad or failed else 0


if __name__ == "__main__":
    sys.exit(main())
