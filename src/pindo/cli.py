"""The command line: serve, demo, check, backup, restore, export, assess, schema, rules."""

import argparse
import json
import sqlite3
import sys
from collections.abc import Sequence
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from pydantic import TypeAdapter, ValidationError

from pindo import licences
from pindo.core.assessment import Assessment, assess, worst_first
from pindo.core.document.build import Build
from pindo.core.document.upgrade import upgraded
from pindo.core.inputs.problems import document_trouble, problems
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import KINDS
from pindo.core.judging.verdict import Verdict
from pindo.demo import pump_tender
from pindo.gauges.simulate import add_arguments, gauge_command
from pindo.serve import (
    BAD_FILE,
    DATA,
    ROOT,
    name_good_copy,
    only_server,
    serve_arguments,
    serve_command,
)
from pindo.store import copies, soundness
from pindo.store.database import connect_to_read
from pindo.store.trouble import StoreError

FOULS = 1
MARKS = {
    "goes": "goes      ",
    "tight": "TIGHT     ",
    "fouls": "FOULS     ",
    "unmeasured": "unmeasured",
}


def read_file(path: Path) -> Build | list[str]:
    """A build file, or everything that is wrong with it."""
    try:
        build = Build.model_validate(upgraded(json.loads(path.read_bytes())))
    except OSError as error:
        return [f"{path}: {error.strerror}"]
    except ValueError as error:
        if not isinstance(error, ValidationError):
            return [f"{path}: it is no JSON ({error})"]
        return ["/" + "/".join(map(str, e["loc"])) + ": " + e["msg"] for e in error.errors()]
    return [f"{p.pointer}: {p.detail}" for p in problems(build)] or build


def assess_command(arguments: argparse.Namespace) -> int:
    """Findings of a build file; 0, 1 when something fouls, 2 when the file is bad."""
    build = read_file(arguments.file)
    if isinstance(build, list):
        print(f"{arguments.file} cannot be assessed:", *build, sep="\n  ", file=sys.stderr)
        return BAD_FILE
    result = assess(build, None, datetime.now(UTC).date().isoformat())
    if arguments.json:
        print(TypeAdapter(Assessment).dump_json(result, indent=1).decode())
    else:
        print(build.name)
        for finding in worst_first(result.findings):
            print(
                f"{MARKS[finding.verdict.value]}  {finding.station.value:8}  {finding.sentence.mm}"
            )
            for way in finding.ways_out:
                print(f"{'':22}way out: {way.name} {way.current:g} to {way.target:g}")
    return FOULS if any(f.verdict == Verdict.FOULS for f in result.findings) else 0


def check_command(arguments: argparse.Namespace) -> int:
    """Look through the data and its copies; 0 when all is well, 2 when not, naming the newest
    good copy.
    """
    database = arguments.data / "pindo.sqlite"
    report = soundness.look_through(database, document_trouble)
    print(
        f"{database}: {report.builds} builds, {report.size / 2**20:.1f} MB,"
        f" {'sound' if not report.problems else 'not sound'}"
    )
    for problem in report.problems:
        print(f"  {problem}")
    for copy in copies.copies(database):
        found = soundness.look_through(copies.folder_of(database) / copy.name, document_trouble)
        print(
            f"{copy.name}: {copy.made_at[:16].replace('T', ' ')}, {found.builds} builds,"
            f" {'sound' if not found.problems else found.problems[0]}"
        )
    if report.problems:
        name_good_copy(database)
        return BAD_FILE
    return 0


def backup_command(arguments: argparse.Namespace) -> int:
    """Copy the data while it is in use."""
    copies.backup(arguments.data / "pindo.sqlite", arguments.file)
    print(f"Backup written to {arguments.file}")
    return 0


def restore_command(arguments: argparse.Namespace) -> int:
    """Put a backup in place; what was there is kept beside it under a name of its own."""
    database = arguments.data / "pindo.sqlite"
    with only_server(database):
        kept_as = copies.restore(arguments.file, database, document_trouble)
    print(
        f"Restored from {arguments.file}"
        + (f"; what was there is kept as {database.parent / kept_as}" if kept_as else "")
    )
    return 0


def export_command(arguments: argparse.Namespace) -> int:
    """Write a build with its history and pictures to a bundle."""
    from pindo.web import bundles

    with closing(connect_to_read(arguments.data / "pindo.sqlite")) as conn:
        file = arguments.file or Path(f"{arguments.id}.pindo.zip")
        try:
            with file.open("xb") as stream:
                bundles.write(conn, arguments.id, stream)
        except FileExistsError:
            print(
                f"{file} is there already. Nothing was written: give another name.", file=sys.stderr
            )
            return BAD_FILE
        except BaseException:
            file.unlink(missing_ok=True)
            raise
    print(f"Build {arguments.id} written to {file}")
    return 0


def schema_command(arguments: argparse.Namespace) -> int:
    """Print the JSON Schema of the build document, the OpenAPI document of the server, or the
    screen's table of units.
    """
    if arguments.units:
        shown = {
            k.name: {
                "unit": k.unit,
                "imperial": k.imperial,
                "factor": k.factors.get(k.imperial, 1.0),
                "decimals": k.decimals,
            }
            for k in KINDS.values()
        }
        print(json.dumps(shown, indent=1, ensure_ascii=False))
    elif arguments.openapi:
        import tempfile

        from pindo.web.app import create_app

        with tempfile.TemporaryDirectory() as folder:
            print(
                json.dumps(
                    create_app(Path(folder) / "x.sqlite").openapi(), indent=1, ensure_ascii=False
                )
            )
    else:
        print(json.dumps(Build.model_json_schema(), indent=1, ensure_ascii=False))
    return 0


def rules_command(arguments: argparse.Namespace) -> int:
    """Print the table of limits as a page."""
    print(
        "# Limits and their sources\n\nMade by `./pindo rules > docs/rules.md` from"
        " `core/rules.py`; a test compares them. Each can be changed for one build, with a note.\n"
    )
    print("| limit | default | why | source |\n|---|---|---|---|")
    for rule in RULES.values():
        print(
            f"| {rule.name} | {rule.value:g} {rule.unit}".rstrip()
            + f" | {rule.reason} | {rule.source} |"
        )
    return 0


def licences_command(arguments: argparse.Namespace) -> int:
    """Print what Pindo ships with, and under which licences, as a page."""
    print(licences.page(ROOT), end="")
    return 0


def demo_file_command(arguments: argparse.Namespace) -> int:
    """Print the demo build as a file."""
    print(pump_tender().model_dump_json(indent=1))
    return 0


def parser() -> argparse.ArgumentParser:
    top = argparse.ArgumentParser(
        prog="pindo", description="Fits an engine and gearbox into a chassis that never had them."
    )
    commands = top.add_subparsers(dest="command", required=True)
    for name in ("demo", "serve"):
        sub = commands.add_parser(name, help=serve_command.__doc__)
        serve_arguments(sub)
        sub.set_defaults(run=serve_command)
    for name, command in (("backup", backup_command), ("restore", restore_command)):
        sub = commands.add_parser(name, help=command.__doc__)
        sub.add_argument("file", type=Path)
        sub.set_defaults(run=command)
    sub = commands.add_parser("check", help=check_command.__doc__)
    sub.set_defaults(run=check_command)
    sub = commands.add_parser("export", help=export_command.__doc__)
    sub.add_argument("id")
    sub.add_argument("file", type=Path, nargs="?")
    sub.set_defaults(run=export_command)
    for sub in commands.choices.values():
        sub.add_argument("--data", type=Path, default=DATA)
    sub = commands.add_parser("gauge", help=gauge_command.__doc__)
    add_arguments(sub)
    sub.set_defaults(run=gauge_command)
    sub = commands.add_parser("assess", help=assess_command.__doc__)
    sub.add_argument("file", type=Path)
    sub.add_argument("--json", action="store_true")
    sub.set_defaults(run=assess_command)
    sub = commands.add_parser("schema", help=schema_command.__doc__)
    sub.add_argument("--openapi", action="store_true")
    sub.add_argument("--units", action="store_true")
    sub.set_defaults(run=schema_command)
    sub = commands.add_parser("rules", help=rules_command.__doc__)
    sub.set_defaults(run=rules_command)
    sub = commands.add_parser("licences", help=licences_command.__doc__)
    sub.set_defaults(run=licences_command)
    sub = commands.add_parser("demo-file", help=demo_file_command.__doc__)
    sub.set_defaults(run=demo_file_command)
    return top


def main(argv: Sequence[str] | None = None) -> int:
    arguments = parser().parse_args(argv)
    try:
        return int(arguments.run(arguments))
    except (StoreError, sqlite3.Error) as error:
        print(error, file=sys.stderr)
        return BAD_FILE
    except KeyboardInterrupt:
        return 130
    except BrokenPipeError:  # the reader of a pipe has seen enough
        sys.stderr.close()
        return 0


if __name__ == "__main__":
    sys.exit(main())
