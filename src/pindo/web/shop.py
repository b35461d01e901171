"""The shop: devices that its key let in, and how often each may ask."""

import hmac
import time
from collections import OrderedDict
from contextlib import closing
from pathlib import Path

from pindo.store import devices
from pindo.store.database import connect, connect_to_read
from pindo.store.devices import Device

WRONG_KEYS, WRONG_SECONDS = 8, 60.0
"""Wrong keys of one address before it has to wait."""
BURST, A_SECOND = 300.0, 100.0
"""Requests of one device: as many at once, and so many a second on and on. A drag asks forty."""
MOST_ADDRESSES = 1000


class Bucket:
    """So many at once and so many a second, for each of many; the longest unseen are forgotten."""

    def __init__(self, burst: float, a_second: float) -> None:
        self.burst, self.a_second = burst, a_second
        self.left: OrderedDict[str, tuple[float, float]] = OrderedDict()

    def take(self, whose: str) -> bool:
        """Whether one more may be had now."""
        now = time.monotonic()
        left, at = self.left.pop(whose, (self.burst, now))
        left = min(self.burst, left + (now - at) * self.a_second)
        allowed = left >= 1.0
        self.left[whose] = (left - 1.0 if allowed else left, now)
        while len(self.left) > MOST_ADDRESSES:
            self.left.popitem(last=False)
        return allowed


class Shop:
    """Who is let in. Devices are read once and kept here; every change goes to the file first."""

    def __init__(self, database: Path, key: str, address: str = "") -> None:
        self.database, self.key, self.address = database, key, address
        self.tries = Bucket(WRONG_KEYS, WRONG_KEYS / WRONG_SECONDS)
        self.requests = Bucket(BURST, A_SECOND)
        self.seen: dict[str, float] = {}
        self.devices: dict[str, Device] = {}
        self.read()

    def read(self) -> None:
        """The devices as the file has them."""
        with closing(connect_to_read(self.database)) as conn:
            self.devices = {d.token: d for d in devices.all_devices(conn)}

    def fits(self, key: str) -> bool:
        """Whether a key is the shop's."""
        return hmac.compare_digest(key.encode(), self.key.encode())

    def let_in(self, agent: str) -> str:
        """The token of a new device. Raises TooManyDevices."""
        with closing(connect(self.database)) as conn:
            device, token = devices.let_in(conn, agent)
        self.devices[device.token] = device
        return token

    def known(self, token: str) -> Device | None:
        """The device that shows a token."""
        device = self.devices.get(devices.hashed(token)) if token else None
        if device is not None:
            self.seen[device.id] = time.time()
        return device

    def rename(self, id: str, name: str) -> None:
        """Calls a device by another name. Raises NotFound."""
        with closing(connect(self.database)) as conn:
            devices.rename(conn, id, name)
        self.read()

    def send_away(self, id: str) -> None:
        """A device is let in no longer. Raises NotFound."""
        with closing(connect(self.database)) as conn:
            devices.send_away(conn, id)
        self.read()
