"""The command line: serve, demo, assess, backup, restore, export, schema."""

import argparse
import json
import socket
import sys
from collections.abc import Sequence
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from pydantic import TypeAdapter, ValidationError

from pindo.core.assess import Assessment, assess, worst_first
from pindo.core.build import Build
from pindo.core.problems import problems
from pindo.core.rules import RULES
from pindo.core.units import KINDS
from pindo.core.upgrade import upgraded
from pindo.core.verdict import Verdict
from pindo.store.database import StoreError, backup, connect, migrate, restore

if TYPE_CHECKING:
    import uvicorn

ROOT = Path(__file__).resolve().parents[2]
FOULS, BAD_FILE = 1, 2
MARKS = {"goes": "goes      ", "tight": "TIGHT     ", "fouls": "FOULS     ", "unmeasured": "unmeasured"}


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
            print(f"{MARKS[finding.verdict.value]}  {finding.station.value:8}  {finding.sentence.mm}")
            for way in finding.ways_out:
                print(f"{'':22}way out: {way.name} {way.current:g} to {way.target:g}")
    return FOULS if any(f.verdict == Verdict.FOULS for f in result.findings) else 0


def seed(database: Path) -> None:
    """Put each demo build into the store that is not there yet."""
    from pindo.demo import DEMOS
    from pindo.store import builds

    with closing(connect(database)) as conn:
        migrate(conn)
        for id, make in DEMOS.items():
            try:
                builds.get(conn, id)
            except builds.NotFound:
                builds.create(conn, make().model_dump(mode="json"), "demo", "invented demo build", id)


def listen(config: "uvicorn.Config") -> socket.socket:
    """The socket to serve on. Raises SystemExit when the port is taken."""
    listening = config.bind_socket()
    # An answer goes out in two pieces; without this the second waits 40 ms for the first to be acknowledged. Accepted sockets inherit it.
    listening.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    return listening


def serve_command(arguments: argparse.Namespace) -> int:
    """Serve until stopped; ``demo`` seeds the demo build first."""
    import uvicorn

    from pindo.web.app import LOCAL_HOSTS, create_app

    database = arguments.data / "pindo.sqlite"
    screen = ROOT / "frontend" / "dist"
    try:
        app = create_app(database, screen, (*LOCAL_HOSTS, arguments.host))
        if arguments.command == "demo":
            seed(database)
    except (StoreError, OSError) as error:
        print(f"Pindo cannot open {database}: {error}", file=sys.stderr)
        return BAD_FILE
    config = uvicorn.Config(app, host=arguments.host, port=arguments.port, log_level="warning", server_header=False)
    server = uvicorn.Server(config)
    try:
        listening = listen(config)
    except SystemExit:
        print(f"Port {arguments.port} is taken. Choose another with --port.", file=sys.stderr)
        return BAD_FILE
    print(f"Pindo is serving at http://{arguments.host}:{listening.getsockname()[1]}/  (data in {arguments.data}; stop with Ctrl-C)", flush=True)
    server.run(sockets=[listening])
    return 0


def backup_command(arguments: argparse.Namespace) -> int:
    """Copy the data while it is in use."""
    backup(arguments.data / "pindo.sqlite", arguments.file)
    print(f"Backup written to {arguments.file}")
    return 0


def restore_command(arguments: argparse.Namespace) -> int:
    """Put a backup in place; what was there is kept beside it."""
    restore(arguments.file, arguments.data / "pindo.sqlite")
    print(f"Restored from {arguments.file}; what was there is kept as pindo.sqlite.before-restore")
    return 0


def schema_command(arguments: argparse.Namespace) -> int:
    """Print the JSON Schema of the build document, the OpenAPI document of the server, or the screen's table of units."""
    if arguments.units:
        shown = {k.name: {"unit": k.unit, "imperial": k.imperial, "factor": k.factors.get(k.imperial, 1.0), "decimals": k.decimals} for k in KINDS.values()}
        print(json.dumps(shown, indent=1, ensure_ascii=False))
    elif arguments.openapi:
        import tempfile

        from pindo.web.app import create_app

        with tempfile.TemporaryDirectory() as folder:
            print(json.dumps(create_app(Path(folder) / "x.sqlite").openapi(), indent=1, ensure_ascii=False))
    else:
        print(json.dumps(Build.model_json_schema(), indent=1, ensure_ascii=False))
    return 0


def rules_command(arguments: argparse.Namespace) -> int:
    """Print the table of limits as a page."""
    print("# Limits and their sources\n\nMade by `./pindo rules > docs/rules.md` from `core/rules.py`; a test compares them. Each can be changed for one build, with a note.\n")
    print("| limit | default | why | source |\n|---|---|---|---|")
    for rule in RULES.values():
        print(f"| {rule.name} | {rule.value:g} {rule.unit}".rstrip() + f" | {rule.reason} | {rule.source} |")
    return 0


def demo_file_command(arguments: argparse.Namespace) -> int:
    """Print the demo build as a file."""
    from pindo.demo import DEMOS

    print(DEMOS["pump-tender"]().model_dump_json(indent=1))
    return 0


def parser() -> argparse.ArgumentParser:
    top = argparse.ArgumentParser(prog="pindo", description="Fits an engine and gearbox into a chassis that never had them.")
    commands = top.add_subparsers(dest="command", required=True)
    for name in ("demo", "serve"):
        sub = commands.add_parser(name, help=serve_command.__doc__)
        sub.add_argument("--port", type=int, default=8137)
        sub.add_argument("--host", default="127.0.0.1", help="another address than this machine's own is your own risk: there is no login")
        sub.set_defaults(run=serve_command)
    for name, command in (("backup", backup_command), ("restore", restore_command)):
        sub = commands.add_parser(name, help=command.__doc__)
        sub.add_argument("file", type=Path)
        sub.set_defaults(run=command)
    for sub in commands.choices.values():
        sub.add_argument("--data", type=Path, default=ROOT / "data")
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
    sub = commands.add_parser("demo-file", help=demo_file_command.__doc__)
    sub.set_defaults(run=demo_file_command)
    return top


def main(argv: Sequence[str] | None = None) -> int:
    arguments = parser().parse_args(argv)
    try:
        return int(arguments.run(arguments))
    except StoreError as error:
        print(error, file=sys.stderr)
        return BAD_FILE
    except BrokenPipeError:  # the reader of a pipe has seen enough
        sys.stderr.close()
        return 0


if __name__ == "__main__":
    sys.exit(main())
