"""Gauges on a line: sockets of this machine that send a reading a line, and the screen that takes
them. Nothing is stored here: a reading goes where the hands are, or into the tray.
"""

import asyncio
import contextlib
import re
import time
from collections import deque
from dataclasses import dataclass

from pindo.core.errors import PindoError

MOST_GAUGES = 12
MOST_LINE = 64
"""Letters of one reading."""
MOST_A_SECOND = 20
"""Readings of one gauge: no hand measures faster, so the rest of a flood is counted, not sent."""
KEPT = 200
AGAIN_SECONDS = 2.0
_ADDRESS = re.compile(r"^(?:127\.0\.0\.1|localhost):(\d{1,5})$")
_READING = re.compile(r"^(?:([A-Z]{1,3}) +)?([+-]?\d{1,7}(?:[.,]\d{1,6})?) *([A-Za-z·°]{0,5})$")


class NoGauge(PindoError, ValueError):
    """The address is none that a gauge may be at, or there are too many."""


@dataclass(frozen=True, kw_only=True)
class GaugeReading:
    """A line of a gauge: its figure as it would be typed, or why it is none."""

    id: int
    gauge: str
    text: str
    label: str
    wrong: str


@dataclass(kw_only=True)
class Gauge:
    """A gauge and how it is with it."""

    address: str
    state: str = "not connected"
    last: str = ""
    read: int = 0
    garbage: int = 0
    flooded: int = 0
    """Readings that came too fast and were left out."""


def understood(line: bytes) -> tuple[str, str, str]:
    """Figure, label and what is wrong of a line. A figure keeps the unit that the gauge says."""
    if len(line) > MOST_LINE:
        return "", "", f"a line of {len(line)} letters is no reading"
    text = line.decode("ascii", "replace").strip()
    match = _READING.match(text)
    if match is None:
        shown = "".join(c if c.isprintable() else "·" for c in text)
        return "", "", f"“{shown[:40]}” is no reading"
    label, figure, unit = match.groups(default="")
    return f"{figure} {unit}".strip(), label, ""


class Gauges:
    """Every gauge that is listened to. All of it runs on the server's own loop."""

    def __init__(self) -> None:
        self.gauges: dict[str, Gauge] = {}
        self.tasks: dict[str, asyncio.Task[None]] = {}
        self.readings: deque[GaugeReading] = deque(maxlen=KEPT)
        self.news = asyncio.Condition()
        self.count = 0
        self.taker = ""
        """The screen that takes the readings: the last one that asked to."""

    def add(self, address: str) -> Gauge:
        """Listens to a gauge from now on. Raises NoGauge."""
        match = _ADDRESS.match(address.strip())
        if match is None or not 0 < int(match[1]) < 65536:
            raise NoGauge(
                f"“{address[:60]}” is no socket of this machine: 127.0.0.1 and a port, as the gauge"
                " printed it."
            )
        at = f"127.0.0.1:{int(match[1])}"
        if at not in self.gauges:
            if len(self.gauges) >= MOST_GAUGES:
                raise NoGauge(f"{MOST_GAUGES} gauges are listened to already: let one go first.")
            self.gauges[at] = Gauge(address=at)
            self.tasks[at] = asyncio.get_running_loop().create_task(self._listen(self.gauges[at]))
        return self.gauges[at]

    def remove(self, address: str) -> None:
        """Lets a gauge go."""
        if (task := self.tasks.pop(address, None)) is not None:
            task.cancel()
        self.gauges.pop(address, None)

    async def end(self) -> None:
        """Lets all of them go."""
        tasks = list(self.tasks.values())
        for address in list(self.gauges):
            self.remove(address)
        await asyncio.gather(*tasks, return_exceptions=True)

    async def _listen(self, gauge: Gauge) -> None:
        host, port = gauge.address.split(":")
        while True:
            try:
                reader, writer = await asyncio.open_connection(host, int(port), limit=4096)
            except OSError:
                gauge.state = "does not answer"
                await asyncio.sleep(AGAIN_SECONDS)
                continue
            gauge.state = "listened to"
            try:
                with contextlib.suppress(OSError):
                    await self._lines(gauge, reader)
            finally:
                writer.close()
            gauge.state = "gone: it is tried again"
            await asyncio.sleep(AGAIN_SECONDS)

    async def _lines(self, gauge: Gauge, reader: asyncio.StreamReader) -> None:
        recent: deque[float] = deque(maxlen=MOST_A_SECOND)
        while True:
            try:
                line = await reader.readuntil(b"\n")
            except asyncio.IncompleteReadError:
                return
            except asyncio.LimitOverrunError as error:
                await reader.readexactly(error.consumed)
                gauge.garbage += 1
                continue
            if line.startswith(b"#") or not line.strip():
                continue
            now = time.monotonic()
            if len(recent) == MOST_A_SECOND and now - recent[0] < 1.0:
                gauge.flooded += 1
                continue
            recent.append(now)
            await self._came(gauge, line)

    async def _came(self, gauge: Gauge, line: bytes) -> None:
        text, label, wrong = understood(line.rstrip(b"\r\n"))
        gauge.last = text or wrong
        gauge.read += not wrong
        gauge.garbage += bool(wrong)
        if wrong:
            return
        async with self.news:
            self.count += 1
            self.readings.append(
                GaugeReading(
                    id=self.count, gauge=gauge.address, text=text, label=label, wrong=wrong
                )
            )
            self.news.notify_all()

    async def after(self, last: int, seconds: float) -> list[GaugeReading]:
        """Readings after one, waiting for the next where there is none yet."""
        async with self.news:
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(self.news.wait_for(lambda: self.count > last), seconds)
            return [r for r in self.readings if r.id > last]
