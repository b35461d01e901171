"""Serving: on this machine alone, or to the shop with its key."""

import argparse
import contextlib
import errno
import fcntl
import os
import secrets
import socket
import sys
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from pindo.core.inputs.problems import document_trouble
from pindo.demo import DEMOS
from pindo.store import copies, soundness
from pindo.store.database import connect, prepare
from pindo.store.stored import Author, NotFound
from pindo.store.trouble import StoreError

HERE = Path(__file__).resolve().parent
ROOT = HERE.parents[1]
INSTALLED = (HERE / "screen").exists()
SCREEN = HERE / "screen" if INSTALLED else ROOT / "frontend" / "dist"
DATA = Path("data") if INSTALLED else ROOT / "data"
BAD_FILE = 2


def seed(database: Path) -> None:
    """Put each demo build into the store that is not there yet."""
    from pindo.store import builds

    prepare(database)
    with closing(connect(database)) as conn:
        for id, make in DEMOS.items():
            try:
                builds.get(conn, id)
            except NotFound:
                builds.create(
                    conn,
                    make().model_dump(mode="json"),
                    Author(who="demo"),
                    "invented demo build",
                    id,
                )


@contextmanager
def only_server(database: Path) -> Iterator[None]:
    """Held while this data is served. Raises StoreError when another Pindo serves it, or puts a
    copy in its place.
    """
    try:
        database.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        lock = os.fdopen(
            os.open(database.parent / "pindo.lock", os.O_RDWR | os.O_CREAT, 0o600), "r+b"
        )
    except OSError as error:
        if not database.is_file():
            raise StoreError(
                f"The folder {database.parent} cannot be written: {error.strerror}. Nothing was"
                " made."
            ) from error
        yield  # a read-only disk: nobody can write it, however many serve it
        return
    with lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise StoreError(
                f"Another Pindo is at work on {database}. Stop it first, or use its own screen."
            ) from error
        yield


def own_addresses() -> tuple[str, ...]:
    """Names that mean this machine alone."""
    return ("127.0.0.1", "localhost", "::1")


def shop_address() -> str | None:
    """The address that this machine has in the network that it is in; nothing is sent for it."""
    with contextlib.closing(socket.socket(socket.AF_INET, socket.SOCK_DGRAM)) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # RFC 5737: an address that is nobody's
            found = str(probe.getsockname()[0])
        except OSError:
            return None
    return None if found in own_addresses() or found == "0.0.0.0" else found


def shop_key(data: Path) -> str:
    """The key that every device of the shop shows once; made the first time, for its owner's
    eyes.
    """
    file = data / "shop.key"
    if not file.exists():
        data.mkdir(parents=True, exist_ok=True, mode=0o700)
        handle = os.open(file, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600)
        with os.fdopen(handle, "w") as out:
            out.write(secrets.token_urlsafe(18))
    return file.read_text().strip()


def serve_command(arguments: argparse.Namespace) -> int:
    """Serve until stopped; ``demo`` seeds the demo build first."""
    from pindo.formats.picture_code import code_letters
    from pindo.web.app import LOCAL_HOSTS, create_app
    from pindo.web.serving import Server, listen

    database, host = arguments.data / "pindo.sqlite", arguments.host
    if host is None:
        host = shop_address() if arguments.shop else "127.0.0.1"
    if host is None:
        print("This machine has no address in a network: give one with --host.", file=sys.stderr)
        return BAD_FILE
    if host not in own_addresses() and not arguments.shop:
        print(
            f"{host} can be reached by others, and whoever reaches Pindo may change builds. Add"
            " --shop: every device then shows the shop's key once.",
            file=sys.stderr,
        )
        return BAD_FILE
    if host in ("0.0.0.0", "::"):
        print(
            f"{host} is no address that a browser can open: give the one that this machine has in"
            " the shop.",
            file=sys.stderr,
        )
        return BAD_FILE
    try:
        listening = listen(host, arguments.port)
    except OSError as error:
        words = (
            "is taken"
            if error.errno == errno.EADDRINUSE
            else f"cannot be served at {host} ({error.strerror})"
        )
        print(f"Port {arguments.port} {words}. Choose another with --port.", file=sys.stderr)
        return BAD_FILE
    port = listening.getsockname()[1]
    name = f"[{host}]" if ":" in host else host  # as a Host header and an address have it
    try:
        with only_server(database):
            key = shop_key(arguments.data) if arguments.shop else ""
            app = create_app(
                database,
                SCREEN,
                tuple(dict.fromkeys((*LOCAL_HOSTS, name))),
                port,
                key,
                arguments.gauge,
            )
            if arguments.command == "demo" and os.access(database, os.W_OK):
                seed(database)
            if key:
                print(code_letters(f"http://{name}:{port}/?key={key}"))
                print(
                    "Whoever scans this, or has the address below, may change every build. It goes"
                    " over the air unencrypted: a network of the shop's own, and nobody else on it."
                )
            print(
                f"Pindo is serving at http://{name}:{port}/{f'?key={key}' if key else ''}  (data in"
                f" {arguments.data}; stop with Ctrl-C)",
                flush=True,
            )
            Server(app, host, port).serve_and_end(listening)
    except (StoreError, OSError) as error:
        print(f"Pindo cannot serve this: {error}", file=sys.stderr)
        name_good_copy(database)
        return BAD_FILE
    return 0


def name_good_copy(database: Path) -> None:
    """Name the newest copy that is sound, for who has to put one back."""
    for copy in copies.copies(database):
        file = copies.folder_of(database) / copy.name
        if not soundness.look_through(file, document_trouble).problems:
            print(
                f"The newest good copy is {file}, of {copy.made_at[:16].replace('T', ' ')}: ./pindo"
                f" restore {file}",
                file=sys.stderr,
            )
            return


def serve_arguments(sub: argparse.ArgumentParser) -> None:
    """What serving may be told."""
    sub.add_argument("--port", type=int, default=8137)
    sub.add_argument(
        "--host",
        help=(
            "an address that others in the shop can reach; it needs --shop, which finds one itself"
        ),
    )
    sub.add_argument(
        "--shop",
        action="store_true",
        help=(
            "serve the local network: every device shows the shop's key once, by the picture code"
            " or the address that is printed"
        ),
    )
    sub.add_argument(
        "--gauge",
        action="append",
        default=[],
        help="a socket of this machine that sends readings, as 127.0.0.1:7801; more than once",
    )
