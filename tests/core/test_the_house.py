"""The house rules as tests: who imports whom, that public functions speak, that tables have
sources.
"""

import ast
import inspect
import re
import unittest
from importlib import import_module
from pathlib import Path

from pindo.core.inputs.rules import RULES
from pindo.core.judging.question import QUESTIONS
from pindo.core.tables import source_of

ROOT = Path(__file__).parents[2]
SRC = ROOT / "src" / "pindo"
CORE_MAY = {
    "__future__",
    "abc",
    "ast",
    "collections",
    "copy",
    "json",
    "csv",
    "dataclasses",
    "datetime",
    "enum",
    "fractions",
    "functools",
    "importlib",
    "inspect",
    "itertools",
    "logging",
    "math",
    "re",
    "textwrap",
    "threading",
    "types",
    "typing",
    "weakref",
    "numpy",
    "scipy",
    "shapely",
    "networkx",
    "pydantic",
    "coal",
    "pindo",
}
NEIGHBOURS = {
    "core": set(),
    "formats": {"core"},
    "store": {"core"},
    "demo": {"core"},
    "web": {"core", "formats", "store", "demo"},
}


def imported(path):
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            yield from (a.name for a in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


def module_of(path):
    """The module of a file of the package."""
    parts = path.relative_to(ROOT / "src").with_suffix("").parts
    return import_module(".".join(p for p in parts if p != "__init__"))


class Imports(unittest.TestCase):
    def test_the_core_stays_pure(self):
        for path in (SRC / "core").rglob("*.py"):
            for name in imported(path):
                self.assertIn(name.split(".")[0], CORE_MAY, path.name)
            self.assertNotRegex(
                path.read_text("utf-8"), r"\b(eval|exec|open)\(|datetime\.now|time\.time", path.name
            )

    def test_neighbours_do_not_look_over_the_fence(self):
        for folder, may in NEIGHBOURS.items():
            for path in (SRC / folder).rglob("*.py"):
                for name in imported(path):
                    if name.startswith("pindo."):
                        self.assertIn(name.split(".")[1], may | {folder}, path)

    FLOORS = {
        "tables": set(),
        "document": {"tables"},
        "inputs": {"tables", "document"},
        "geometry": {"tables", "document", "inputs"},
        "drawing": {"tables", "document", "inputs", "geometry"},
        "judging": {"tables", "document", "inputs", "geometry", "drawing"},
        "stations": {"tables", "document", "inputs", "geometry", "drawing", "judging"},
    }

    def test_each_floor_uses_only_those_below(self):
        for floor, may in self.FLOORS.items():
            for path in (SRC / "core" / floor).rglob("*.py"):
                for name in imported(path):
                    parts = name.split(".")
                    if parts[:2] == ["pindo", "core"]:
                        self.assertIn(
                            parts[2], may | {floor, "errors", "numbers"}, f"{path.name}: {name}"
                        )

    def test_stations_never_import_one_another(self):
        folder = SRC / "core" / "stations"
        for path in folder.rglob("*/*.py"):
            for name in imported(path):
                if name.startswith("pindo.core.stations."):
                    self.assertEqual(name.split(".")[3], path.parent.name, f"{path}: {name}")

    def test_what_is_general_names_no_question_and_no_check(self):
        names = [q.key for q in QUESTIONS.values()]
        general = [
            SRC / "core" / "assessment.py",
            SRC / "core" / "boards.py",
            SRC / "core" / "ripple.py",
            SRC / "formats" / "sheet_pdf.py",
            *(SRC / "web").glob("*.py"),
            *(SRC / "core" / "judging").glob("*.py"),
            *(SRC / "core" / "drawing").glob("*.py"),
        ]
        for path in general:
            text = path.read_text("utf-8")
            for name in names:
                self.assertNotRegex(text, rf"[\"']{re.escape(name)}[\"'.]", path.name)

    def test_no_file_is_longer_than_can_be_read(self):
        for path in (*SRC.rglob("*.py"), *(ROOT / "frontend" / "src").rglob("*.ts*")):
            lines = len(path.read_text("utf-8").splitlines())
            self.assertLessEqual(lines, 400, path.name)


class Errors(unittest.TestCase):
    def test_every_error_of_its_own_has_one_root(self):
        for path in SRC.rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                bases = {b.id for b in getattr(node, "bases", ()) if isinstance(b, ast.Name)}
                if isinstance(node, ast.ClassDef) and bases & {"Exception", "ValueError"}:
                    self.assertTrue("PindoError" in bases or node.name == "PindoError", node.name)


class Words(unittest.TestCase):
    def test_public_functions_of_the_core_have_docstrings(self):
        for path in (SRC / "core").rglob("*.py"):
            module = module_of(path)
            for name, thing in vars(module).items():
                if name.startswith("_") or getattr(thing, "__module__", "") != module.__name__:
                    continue
                if inspect.isfunction(thing) and len(inspect.getsource(thing).splitlines()) > 4:
                    self.assertTrue(thing.__doc__, f"{module.__name__}.{name}")

    def test_what_a_function_raises_stands_in_its_docstring(self):
        for path in (SRC / "core").rglob("*.py"):
            for node in ast.parse(path.read_text("utf-8")).body:
                if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
                    continue
                said = ast.get_docstring(node) or ""
                for inner in ast.walk(node):
                    if isinstance(inner, ast.Raise) and isinstance(inner.exc, ast.Call):
                        name = getattr(inner.exc.func, "id", "")
                        self.assertIn(name, said, f"{path.name}: {node.name}")

    def test_formulas_of_the_geometry_say_shape_or_unit_of_what_they_give(self):
        for path in (SRC / "core" / "geometry").rglob("*.py"):
            module = module_of(path)
            for name, thing in vars(module).items():
                if name.startswith("_") or not inspect.isfunction(thing):
                    continue
                given = str(inspect.signature(thing).return_annotation)
                own = thing.__module__ == module.__name__
                if own and re.search(r"ndarray|float|Any\b|Vector", given):
                    self.assertRegex(
                        thing.__doc__ or "", r"\[[^\]]+\]|shape", f"{path.name}: {name}"
                    )

    def test_formulas_name_the_unit_of_what_they_return(self):
        unit = r"\[(mm|-|deg|N·m|kg|%|N|Hz|rpm|rad|min)"
        for path in (SRC / "core" / "stations").rglob("*.py"):
            module = module_of(path)
            for name, thing in vars(module).items():
                if name.startswith("_"):
                    continue
                own = inspect.isfunction(thing) and thing.__module__ == module.__name__
                if own and any(p.endswith("_mm") for p in inspect.signature(thing).parameters):
                    self.assertRegex(thing.__doc__ or "", unit, f"{path.name}: {name}")

    def test_no_limit_without_source(self):
        self.assertTrue(all(rule.source and rule.reason for rule in RULES.values()))

    def test_every_table_starts_with_its_source(self):
        for path in (SRC / "core" / "tables").glob("*.csv"):
            self.assertRegex(
                source_of(path.stem), r"(ISO|ASME|EN|DIN|SAE|no published source|own source)"
            )

    def test_the_rules_page_is_the_rules_table(self):
        page = (ROOT / "docs" / "rules.md").read_text("utf-8")
        for rule in RULES.values():
            self.assertIn(
                f"| {rule.name} | {rule.value:g} {rule.unit}".rstrip(),
                page,
                "run: ./pindo rules > docs/rules.md",
            )
            self.assertIn(rule.reason, page)


class Shipped(unittest.TestCase):
    def test_nothing_is_fetched_from_elsewhere(self):
        """The screen names no other host; the lock file names no registry."""
        allowed = re.compile(r"https?://(127\.0\.0\.1|localhost|\{|www\.w3\.org)")
        files = [
            *(ROOT / "frontend" / "src").rglob("*.*"),
            *SRC.rglob("*.py"),
            ROOT / "frontend" / "index.html",
        ]
        for path in files:
            for found in re.findall(r"https?://[^\s\"'`)]+", path.read_text("utf-8")):
                self.assertRegex(found, allowed, path)
        self.assertNotIn('"resolved"', (ROOT / "frontend" / "package-lock.json").read_text("utf-8"))
