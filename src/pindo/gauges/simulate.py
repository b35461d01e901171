"""A simulated instrument as a process: it listens on a socket of this machine and sends a line for
each reading, as a serial line does. ``docs/gauges.md`` has the protocol.
"""

import argparse
import asyncio
import contextlib
import random
import sys
import time

from pindo.gauges.instruments import INSTRUMENTS, Simulated

HOST = "127.0.0.1"
HELP = (
    "Enter sends a reading; a number is held against it; noise, drift, unit and garbage switch"
    " what is wrong with it on or off; q ends."
)


class Bench:
    """The instrument and whoever listens to it."""

    def __init__(self, gauge: Simulated) -> None:
        self.gauge = gauge
        self.began = time.monotonic()
        self.listeners: set[asyncio.StreamWriter] = set()

    async def send(self) -> str:
        """Sends a reading to all who listen; returns it."""
        line = self.gauge.reading(time.monotonic() - self.began)
        for writer in list(self.listeners):
            writer.write(f"{line}\r\n".encode())
            with contextlib.suppress(ConnectionError):
                await writer.drain()
        return line

    async def listen(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """One who listens: R asks for a reading, Z sets zero, I asks what it is."""
        self.listeners.add(writer)
        try:
            while line := await reader.readline():
                said = line.strip().upper()
                if said == b"R":
                    await self.send()
                elif said == b"Z":
                    self.gauge.zero = self.gauge.truth
                elif said == b"I":
                    kind = self.gauge.kind
                    writer.write(f"# {kind.name} {kind.resolution:g} {kind.unit}\r\n".encode())
        except (ConnectionError, ValueError):
            pass
        finally:
            self.listeners.discard(writer)
            writer.close()

    def told(self, words: str) -> bool:
        """Takes what was typed at the instrument; whether it asks for a reading."""
        gauge = self.gauge
        if words == "noise":
            gauge.noisy = not gauge.noisy
        elif words == "drift":
            gauge.drifts = not gauge.drifts
        elif words == "unit":
            gauge.wrong_unit = not gauge.wrong_unit
        elif words == "garbage":
            gauge.garbage = 0.0 if gauge.garbage else 0.5
        elif words:
            try:
                gauge.truth = float(words.replace(",", "."))
            except ValueError:
                print(HELP, file=sys.stderr)
                return False
        return True


async def run(bench: Bench, port: int, every: float, count: int) -> None:
    """Serves the instrument until it is ended; with ``every`` it sends by itself, ``count`` lines
    where that is not nought.
    """
    server = await asyncio.start_server(bench.listen, HOST, port)
    at = server.sockets[0].getsockname()[1]
    print(f"{bench.gauge.kind.name} at {HOST}:{at}. {HELP}", flush=True)
    async with server:
        sent = 0
        while every and (not count or sent < count):
            await asyncio.sleep(every)
            if bench.listeners:
                await bench.send()
                sent += 1
        while not every and (typed := await asyncio.to_thread(sys.stdin.readline)):
            if typed.strip().lower() == "q":
                return
            if bench.told(typed.strip().lower()):
                print(await bench.send(), flush=True)
        await server.serve_forever()


def add_arguments(sub: argparse.ArgumentParser) -> None:
    """What a simulated instrument may be told when it is started."""
    sub.add_argument("kind", choices=[name.replace(" ", "-") for name in INSTRUMENTS])
    sub.add_argument("--port", type=int, default=0, help="of this machine; a free one by itself")
    sub.add_argument("--truth", type=float, default=25.0, help="what it is held against")
    sub.add_argument("--no-noise", action="store_true", help="every reading the same")
    sub.add_argument("--drift", action="store_true", help="its zero walks")
    sub.add_argument("--wrong-unit", action="store_true", help="somebody switched it over")
    sub.add_argument("--garbage", type=float, default=0.0, help="share of lines that are none")
    sub.add_argument("--every", type=float, default=0.0, help="send by itself, each so many s")
    sub.add_argument("--count", type=int, default=0, help="lines that it sends by itself")
    sub.add_argument("--seed", type=int, default=None, help="the same noise again")


def gauge_command(arguments: argparse.Namespace) -> int:
    """Run a simulated instrument on a socket of this machine."""
    gauge = Simulated(
        kind=INSTRUMENTS[arguments.kind.replace("-", " ")],
        truth=arguments.truth,
        noisy=not arguments.no_noise,
        drifts=arguments.drift,
        wrong_unit=arguments.wrong_unit,
        garbage=arguments.garbage,
        rng=random.Random(arguments.seed),
    )
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(run(Bench(gauge), arguments.port, arguments.every, arguments.count))
    return 0
