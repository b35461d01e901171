"""The house rules as tests: who imports whom, that public functions speak, that tables have sources."""

import ast
import inspect
import re
import unittest
from importlib import import_module
from pathlib import Path

from pindo.core.rules import RULES
from pindo.core.tables import read_table

ROOT = Path(__file__).parents[2]
SRC = ROOT / "src" / "pindo"
CORE_MAY = {
    "__future__", "abc", "ast", "collections", "csv", "dataclasses", "datetime", "enum", "fractions", "functools", "importlib", "inspect", "itertools", "logging", "math", "re", "types", "typing",
    "numpy", "scipy", "shapely", "networkx", "pydantic", "coal", "pindo",
}  # fmt: skip
NEIGHBOURS = {"core": set(), "formats": {"core"}, "store": {"core"}, "demo": {"core"}, "web": {"core", "formats", "store", "demo"}}


def imported(path):
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            yield from (a.name for a in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


class Imports(unittest.TestCase):
    def test_the_core_stays_pure(self):
        for path in (SRC / "core").rglob("*.py"):
            for name in imported(path):
                self.assertIn(name.split(".")[0], CORE_MAY, path.name)
            self.assertNotRegex(path.read_text("utf-8"), r"\b(eval|exec|open)\(|datetime\.now|time\.time", path.name)

    def test_neighbours_do_not_look_over_the_fence(self):
        for folder, may in NEIGHBOURS.items():
            for path in (SRC / folder).rglob("*.py"):
                for name in imported(path):
                    if name.startswith("pindo."):
                        self.assertIn(name.split(".")[1], may | {folder}, path)


class Words(unittest.TestCase):
    def test_public_functions_of_the_core_have_docstrings(self):
        for path in (SRC / "core").rglob("*.py"):
            module = import_module(".".join(path.relative_to(ROOT / "src").with_suffix("").parts))
            for name, thing in vars(module).items():
                if name.startswith("_") or getattr(thing, "__module__", "") != module.__name__:
                    continue
                if inspect.isfunction(thing) and len(inspect.getsource(thing).splitlines()) > 4:
                    self.assertTrue(thing.__doc__, f"{module.__name__}.{name}")

    def test_check_functions_name_the_unit_of_what_they_return(self):
        for module in ("pindo.core.stack.spacing", "pindo.core.stack.interchange", "pindo.core.mate.geometry"):
            for name, thing in vars(import_module(module)).items():
                if inspect.isfunction(thing) and not name.startswith("_") and thing.__module__ == module:
                    self.assertRegex(thing.__doc__ or "", r"\[(mm|-|deg|N·m|kg)", name)

    def test_no_limit_without_source(self):
        self.assertTrue(all(rule.source and rule.reason for rule in RULES.values()))

    def test_every_table_starts_with_its_source(self):
        for path in (SRC / "core" / "tables").glob("*.csv"):
            rows, source = read_table(path.stem)
            self.assertRegex(source, r"(ISO|ASME|EN|DIN|SAE)", path.name)
            self.assertTrue(rows)

    def test_the_rules_page_is_the_rules_table(self):
        page = (ROOT / "docs" / "rules.md").read_text("utf-8")
        for rule in RULES.values():
            self.assertIn(f"| {rule.name} | {rule.value:g} {rule.unit}".rstrip(), page, "run: ./pindo rules > docs/rules.md")
            self.assertIn(rule.reason, page)


class Shipped(unittest.TestCase):
    def test_nothing_is_fetched_from_elsewhere(self):
        """The screen names no other host; the lock file names no registry."""
        allowed = re.compile(r"https?://(127\.0\.0\.1|localhost|\{|www\.w3\.org)")
        files = [*(ROOT / "frontend" / "src").rglob("*.*"), *SRC.rglob("*.py"), ROOT / "frontend" / "index.html"]
        for path in files:
            for found in re.findall(r"https?://[^\s\"'`)]+", path.read_text("utf-8")):
                self.assertRegex(found, allowed, path)
        self.assertNotIn('"resolved"', (ROOT / "frontend" / "package-lock.json").read_text("utf-8"))
