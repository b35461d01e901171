"""The package as it is installed: the wheel with all that it ships, and the page for notebooks."""

import doctest
import re
import subprocess
import sys
import sysconfig
import tempfile
import unittest
import venv
import zipfile
from importlib.metadata import Distribution
from pathlib import Path

ROOT = Path(__file__).parents[1]
SHIPPED = (
    "pindo/py.typed",
    "pindo/core/tables/dimensions.csv",
    "pindo/demo/pump_tender.json",
    "pindo/formats/fonts/LICENSE",
    "pindo/store/migrations/0001_builds.sql",
    "pindo/screen/index.html",
)
ASSESS = """
from pathlib import Path
import pindo
from pindo.core import Build, assess
from pindo.demo import pump_tender
assert Path(pindo.__file__).is_relative_to({env!r}), pindo.__file__
print(sum(f.verdict.value == "fouls" for f in assess(pump_tender(), ()).findings))
"""


class TheWheel(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        source = cls.folder / "source"
        # From a copy: building leaves folders behind.
        names = cls.must(["git", "ls-files", "src", "setup.py", "pyproject.toml"], cwd=ROOT)
        for name in names.splitlines():
            if (ROOT / name).exists():
                (source / name).parent.mkdir(parents=True, exist_ok=True)
                (source / name).write_bytes((ROOT / name).read_bytes())
        (source / "frontend").mkdir()
        (source / "frontend" / "dist").symlink_to(ROOT / "frontend" / "dist")
        options = ("--quiet", "--no-deps", "--no-build-isolation", "--no-index")
        cls.must(
            [sys.executable, "-m", "pip", "wheel", *options, "-w", str(cls.folder), str(source)]
        )
        (cls.wheel,) = cls.folder.glob("*.whl")

    @staticmethod
    def run_in(folder, command, **more):
        return subprocess.run(command, cwd=folder, capture_output=True, text=True, **more)

    @classmethod
    def must(cls, command, cwd=None):
        done = cls.run_in(cwd or cls.folder, command)
        assert done.returncode == 0, done.stdout + done.stderr
        return done.stdout

    def test_it_ships_everything_and_declares_what_it_uses(self):
        with zipfile.ZipFile(self.wheel) as file:
            names = set(file.namelist())
            self.assertLessEqual(set(SHIPPED), names)
            self.assertFalse([n for n in names if n.startswith("tests")])
            (metadata,) = (n for n in names if n.endswith("METADATA"))
            text = file.read(metadata).decode()
        declared = set(re.findall(r"^Requires-Dist: ([A-Za-z-]+)", text, re.MULTILINE))
        locked = (ROOT / "requirements" / "run.in").read_text("utf-8")
        self.assertEqual(declared, set(re.findall(r"^([A-Za-z-]+)", locked, re.MULTILINE)))

    def test_an_empty_environment_assesses_a_demo_with_it(self):
        env = self.folder / "env"
        venv.create(env, with_pip=False)
        python = env / "bin" / "python"
        install = ("install", "--quiet", "--no-deps", "--no-index", str(self.wheel))
        self.must([sys.executable, "-m", "pip", "--python", str(python), *install])
        # Its dependencies are those of the tests' own environment.
        (site,) = (env / "lib").glob("python*/site-packages")
        (site / "dependencies.pth").write_text(
            f"import site; site.addsitedir({sysconfig.get_paths()['purelib']!r})"
        )
        self.assertTrue(Distribution.at(next(site.glob("pindo-*.dist-info"))).version)
        empty = self.folder / "empty"
        empty.mkdir()
        clean = {"PATH": "/usr/bin:/bin"}
        said = self.run_in(empty, [python, "-c", ASSESS.format(env=str(env))], env=clean)
        self.assertEqual((said.stdout.strip(), said.stderr), ("14", ""))
        demo = self.run_in(empty, [env / "bin" / "pindo", "demo-file"], env=clean)
        (empty / "build.json").write_text(demo.stdout)
        done = self.run_in(empty, [env / "bin" / "pindo", "assess", "build.json"], env=clean)
        self.assertEqual(done.returncode, 1, done.stderr)
        self.assertIn("FOULS", done.stdout)


class TheNotebookPage(unittest.TestCase):
    def test_every_line_of_it_holds(self):
        page = ROOT / "docs" / "notebook.md"
        found = doctest.testfile(
            str(page), module_relative=False, optionflags=doctest.IGNORE_EXCEPTION_DETAIL
        )
        self.assertGreater(found.attempted, 8)
        self.assertEqual(found.failed, 0)
