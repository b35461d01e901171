"""What Pindo ships with and under which licence, from the locked lists of packages: ``./pindo
licences > docs/licences.md``.
"""

import json
import re
from importlib.metadata import PackageNotFoundError, metadata
from pathlib import Path

_PINNED = re.compile(r"^([A-Za-z0-9._-]+)==(\S+)")


def _python_licence(name: str) -> str:
    """Licence of an installed package, as short as it says it itself."""
    try:
        said = metadata(name)
    except PackageNotFoundError:
        return "not installed here"
    found = said.json
    classified = [
        c.rsplit(" :: ", 1)[1]
        for c in found.get("classifier", [])
        if c.startswith("License :: ") and c.count(" :: ") > 1
    ]
    whole = str(
        found.get("license_expression")
        or str(found.get("license") or "").strip().partition("\n")[0]
    )
    return (whole if 0 < len(whole) <= 60 else ", ".join(classified)) or whole[:60] or "not said"


def python_rows(requirements: Path) -> list[tuple[str, str, str]]:
    """Name, version and licence of each package that is installed to run Pindo."""
    pinned = [
        m for line in requirements.read_text("utf-8").splitlines() if (m := _PINNED.match(line))
    ]
    return [(m[1], m[2], _python_licence(m[1])) for m in pinned]


def screen_rows(lock: Path) -> list[tuple[str, str, str]]:
    """Name, version and licence of each package that the screen is made with and that its script
    may hold.
    """
    packages = json.loads(lock.read_text("utf-8"))["packages"]
    return sorted(
        (
            path.rpartition("node_modules/")[2],
            p.get("version", ""),
            str(p.get("license", "not said")),
        )
        for path, p in packages.items()
        if path and not p.get("dev") and not p.get("optional")
    )


def page(root: Path) -> str:
    """All of it as a page."""
    parts = [
        "# What Pindo ships with\n\nMade by `./pindo licences > docs/licences.md` from the locked"
        " lists; a test compares them. All versions are pinned, the Python ones and the screen's by"
        " hash.\n"
    ]
    for title, rows in (
        ("Python, to run", python_rows(root / "requirements" / "run.txt")),
        ("The screen", screen_rows(root / "frontend" / "package-lock.json")),
    ):
        parts.append(
            f"\n## {title}\n\n| package | version | licence |\n|---|---|---|\n"
            + "".join(f"| {a} | {b} | {c} |\n" for a, b, c in rows)
        )
    parts.append(
        "\n## Type\n\n| type | used for | licence |\n|---|---|---|\n| Atkinson Hyperlegible Next,"
        " Mono | screen and paper | OFL-1.1 |\n| DejaVu Sans | letters of other scripts on paper |"
        " Bitstream Vera, changes in the public domain |\n\n## Known weaknesses of these"
        " versions\n\nNo kept tool reads a list of known weaknesses from a copy on the disk:"
        " `pip-audit -r requirements/run.txt` and `npm audit` ask their registries, and are run by"
        " hand before a version is given out. Pindo itself never asks anybody.\n"
    )
    return "".join(parts)
