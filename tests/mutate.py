"""Deliberate mistakes: ``./pindo mutate [--most N] [--seed S] [FILE ...]`` makes one small mistake
at a time in a copy of the sources and tells which ones no test of the core sees.

Without files it takes those of ``src/pindo/core`` that differ from the last landed commit.
"""

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import FIRST_COMPLETED, ThreadPoolExecutor, wait
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SWAPS: dict[type[ast.AST], str] = {
    ast.Add: "-",
    ast.Sub: "+",
    ast.Mult: "/",
    ast.Div: "*",
    ast.Lt: "<=",
    ast.LtE: "<",
    ast.Gt: ">=",
    ast.GtE: ">",
    ast.Eq: "!=",
    ast.NotEq: "==",
    ast.And: "or",
    ast.Or: "and",
}
SIGNS: dict[type[ast.AST], str] = {
    ast.Add: "+",
    ast.Sub: "-",
    ast.Mult: "*",
    ast.Div: "/",
    ast.Lt: "<",
    ast.LtE: "<=",
    ast.Gt: ">",
    ast.GtE: ">=",
    ast.Eq: "==",
    ast.NotEq: "!=",
    ast.And: "and",
    ast.Or: "or",
}
CALLS = {"max": "min", "min": "max", "sin": "cos", "cos": "sin", "all": "any", "any": "all"}


FORM = {"test_the_house", "test_declarations", "test_memory", "test_add_a_question"}
"""Modules that look at how the code is written, or at one way of working out against another."""


@dataclass(frozen=True)
class Mistake:
    """A piece of a file put in place of another: from ``start`` to ``end``, in characters."""

    path: Path
    line: int
    start: int
    end: int
    old: str
    new: str


def mistakes(path: Path) -> Iterator[Mistake]:
    """Every mistake that is made in a file: a sign, a comparison, a call, a number, a condition."""
    text = path.read_text("utf-8")
    starts = [0]
    for row in text.splitlines(keepends=True):
        starts.append(starts[-1] + len(row))

    def at(line: int, column: int) -> int:
        # Columns of the tree count bytes.
        row = text[starts[line - 1] : starts[line]]
        return starts[line - 1] + len(row.encode()[:column].decode())

    def between(left: ast.expr, right: ast.expr, op: ast.AST) -> Iterator[Mistake]:
        low = at(left.end_lineno or 0, left.end_col_offset or 0)
        high = at(right.lineno, right.col_offset)
        sign = SIGNS.get(type(op))
        found = text.find(sign, low, high) if sign else -1
        if sign and found >= 0:
            new = SWAPS[type(op)]
            yield Mistake(path, left.lineno, found, found + len(sign), sign, new)

    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.BinOp):
            yield from between(node.left, node.right, node.op)
        elif isinstance(node, ast.Compare) and len(node.ops) == 1:
            yield from between(node.left, node.comparators[0], node.ops[0])
        elif isinstance(node, ast.BoolOp):
            yield from between(node.values[0], node.values[1], node.op)
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name | ast.Attribute):
            name = node.func.id if isinstance(node.func, ast.Name) else node.func.attr
            end = at(node.func.end_lineno or 0, node.func.end_col_offset or 0)
            if name in CALLS:
                yield Mistake(path, node.lineno, end - len(name), end, name, CALLS[name])
        elif isinstance(node, ast.Constant) and type(node.value) in (int, float) and node.value:
            start, end = at(node.lineno, node.col_offset), at(node.lineno, node.end_col_offset or 0)
            yield Mistake(path, node.lineno, start, end, text[start:end], f"({node.value} * 1.5)")


def changed() -> list[Path]:
    """Files of the core that differ from the last landed commit."""
    command = ["git", "diff", "--name-only", "origin/main", "--", "src/pindo/core"]
    said = subprocess.run(command, cwd=ROOT, capture_output=True, text=True)
    names = said.stdout.splitlines() if said.returncode == 0 else []
    return [ROOT / n for n in names if n.endswith(".py") and (ROOT / n).exists()]


def seen(mistake: Mistake, names: list[str]) -> str:
    """The first module of tests that sees a mistake; empty for none."""
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(ROOT / "src", Path(folder) / "src")
        path = Path(folder) / mistake.path.relative_to(ROOT)
        text = path.read_text("utf-8")
        path.write_text(text[: mistake.start] + mistake.new + text[mistake.end :], "utf-8")
        env = {**os.environ, "PYTHONPATH": os.pathsep.join((f"{folder}/src", str(ROOT)))}
        running: list[subprocess.Popen[bytes]] = []

        def run(name: str) -> str:
            quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
            command = [sys.executable, "-W", "ignore", "-m", "unittest", "-f", name]
            process = subprocess.Popen(command, cwd=ROOT, env=env, **quiet)
            running.append(process)
            return name if process.wait() != 0 else ""

        with ThreadPoolExecutor(max(2, os.cpu_count() or 2)) as pool:
            waiting = {pool.submit(run, name) for name in names}
            while waiting:
                done, waiting = wait(waiting, return_when=FIRST_COMPLETED)
                found = next((f.result() for f in done if f.result()), "")
                if found:
                    for other in waiting:
                        other.cancel()
                    for process in running:
                        process.kill()
                    return found
    return ""


def main() -> int:
    """Makes the mistakes; 1 where one was not seen."""
    parser = argparse.ArgumentParser(prog="pindo mutate", description=__doc__.splitlines()[0])
    parser.add_argument("files", nargs="*", type=Path)
    parser.add_argument("--most", type=int, default=30)
    parser.add_argument("--seed", type=int, default=1)
    arguments = parser.parse_args()
    paths = [p.resolve() for p in arguments.files] or changed()
    found = [m for p in paths for m in mistakes(p)]
    random.Random(arguments.seed).shuffle(found)
    folders = ("core", "reference")
    names = sorted(
        ".".join(p.relative_to(ROOT).with_suffix("").parts)
        for folder in folders
        for p in (ROOT / "tests" / folder).glob("test_*.py")
        if p.stem not in FORM
    )
    missed = 0
    for m in found[: arguments.most]:
        by = seen(m, names)
        missed += not by
        where = f"{m.path.relative_to(ROOT)}:{m.line}"
        print(f"{'seen' if by else 'MISSED':6} {where} {m.old} -> {m.new}  {by}", flush=True)
    print(f"{missed} of {min(len(found), arguments.most)} mistakes were not seen")
    return 1 if missed else 0


if __name__ == "__main__":
    sys.exit(main())
