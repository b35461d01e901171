"""Puts the built screen into the package: everything else stands in pyproject.toml."""

import shutil
import subprocess
from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

ROOT = Path(__file__).resolve().parent
FRONTEND = ROOT / "frontend"


class WithScreen(build_py):
    """Copies the screen beside the modules; builds it first where that was not done."""

    def run(self) -> None:
        """Everything that setuptools does, and the screen."""
        super().run()
        if not (FRONTEND / "dist" / "index.html").exists():
            npm = shutil.which("npm")
            if npm is None:
                raise SystemExit("The screen is not built, and there is no npm to build it with.")
            subprocess.run([npm, "ci", "--no-fund", "--no-audit"], cwd=FRONTEND, check=True)
            subprocess.run([npm, "run", "build"], cwd=FRONTEND, check=True)
        screen = Path(self.build_lib) / "pindo" / "screen"
        shutil.copytree(FRONTEND / "dist", screen, dirs_exist_ok=True)


setup(cmdclass={"build_py": WithScreen})
