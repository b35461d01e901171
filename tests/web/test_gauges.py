"""Gauges on a line: what is a reading, what is none, floods, and the simulated instruments."""

import asyncio
import random
import statistics
import unittest

from pindo.core.inputs.quantity import parse
from pindo.gauges.instruments import INSTRUMENTS, Simulated
from pindo.gauges.simulate import HOST, Bench
from pindo.web.gauges import MOST_A_SECOND, MOST_GAUGES, Gauges, NoGauge, understood
from tests.robust.case import AppCase

KIND = {"mm": "length", "in": "length", "deg": "angle", "kg": "mass", "lb": "mass"}
KIND |= {"Nm": "torque", "lbft": "torque"}


def simulated(name, **more):
    return Simulated(kind=INSTRUMENTS[name], rng=random.Random(20), **more)


class Instruments(unittest.TestCase):
    def test_each_sends_what_is_read_as_its_own_size_in_either_unit(self):
        for name in INSTRUMENTS:
            for wrong in (False, True):
                gauge = simulated(name, truth=31.75, noisy=False, wrong_unit=wrong)
                line = gauge.reading(0.0)
                text, _, trouble = understood(line.encode())
                with self.subTest(name, wrong=wrong):
                    self.assertEqual(trouble, "")
                    unit = gauge.kind.other_unit if wrong else gauge.kind.unit
                    kind = KIND[unit or gauge.kind.unit]
                    value = parse(text, kind, (unit or None) if gauge.kind.types else None).value
                    self.assertAlmostEqual(value, 31.75, delta=0.7)

    def test_noise_drift_labels_and_garbage_are_as_they_were_switched(self):
        gauge = simulated("dial", truth=1.0)
        taken = [float(gauge.reading(0.0).split()[0]) for _ in range(2000)]
        self.assertAlmostEqual(statistics.fmean(taken), 1.0, delta=0.0006)
        self.assertAlmostEqual(statistics.stdev(taken), 0.004, delta=0.0015)
        walks = simulated("dial", truth=1.0, noisy=False, drifts=True)
        self.assertEqual([walks.reading(s) for s in (0, 7200)], ["1.00 mm", "1.01 mm"])
        pads = simulated("tyre scales", truth=300.0, noisy=False)
        labels = [understood(pads.reading(0).encode())[1] for _ in range(5)]
        self.assertEqual(labels, ["FL", "FR", "RL", "RR", "FL"])
        bad = simulated("dial", truth=1.0, garbage=1.0)
        self.assertTrue(all(understood(bad.reading(0).encode())[2] for _ in range(50)))

    def test_what_is_no_reading(self):
        for line in (b"", b"hello", b"1.2.3 mm", b"NaN mm", b"1e5 mm", b"\xff\xfe", b"=1+1"):
            self.assertTrue(understood(line)[2], line)
        for line, text in (
            (b"+012.345 mm", "+012.345 mm"),
            (b"FL 312,5 kg", "312,5 kg"),
            (b"0.5000", "0.5000"),
        ):
            self.assertEqual(understood(line)[::2], (text, ""))


class Lines(unittest.IsolatedAsyncioTestCase):
    async def asyncSetUp(self):
        self.gauges = Gauges()
        self.addAsyncCleanup(self.gauges.end)

    async def serving(self, serve):
        server = await asyncio.start_server(serve, HOST, 0)
        self.addCleanup(server.close)
        return f"{HOST}:{server.sockets[0].getsockname()[1]}"

    async def until(self, true):
        async with asyncio.timeout(15):
            while not true():
                await asyncio.sleep(0.01)

    async def test_a_simulated_instrument_is_heard_and_heard_again_after_it_was_gone(self):
        bench = Bench(simulated("dial", truth=1.25, noisy=False))
        address = await self.serving(bench.listen)
        gauge = self.gauges.add(address)
        await self.until(lambda: bench.listeners)
        await bench.send()
        (reading,) = await self.gauges.after(0, 10.0)
        self.assertEqual((reading.text, reading.gauge), ("1.25 mm", address))
        for writer in list(bench.listeners):
            writer.close()
        await self.until(lambda: gauge.state.startswith("gone"))
        await self.until(lambda: gauge.state == "listened to" and bench.listeners)
        bench.gauge.truth = 2.5
        await bench.send()
        (again,) = await self.gauges.after(reading.id, 10.0)
        self.assertEqual(again.text, "2.50 mm")
        await self.gauges.end()
        await self.until(lambda: not bench.listeners)

    async def test_garbage_is_counted_and_a_flood_is_bounded(self):
        lines = [b"# dial", b"E", b"9" * 5000, b"\x00\x1b[2J", *[b"1.0 mm"] * 500]

        async def flood(reader, writer):
            writer.write(b"\r\n".join(lines) + b"\r\n")
            await writer.drain()
            await reader.read()
            writer.close()
            await writer.wait_closed()

        gauge = self.gauges.add(await self.serving(flood))
        await self.until(lambda: gauge.read + gauge.flooded + gauge.garbage >= 503)
        self.assertEqual(gauge.garbage, 3)
        self.assertLess(gauge.read, 10 * MOST_A_SECOND)
        self.assertEqual(gauge.read + gauge.flooded, 500)

    async def test_only_sockets_of_this_machine_and_not_too_many(self):
        for address in ("10.0.0.5:80", "example.org:80", "127.0.0.1", "127.0.0.1:99999", ""):
            with self.subTest(address), self.assertRaisesRegex(NoGauge, "no socket"):
                self.gauges.add(address)
        for port in range(1, MOST_GAUGES + 1):
            self.gauges.add(f"localhost:{port}")
        with self.assertRaisesRegex(NoGauge, "let one go"):
            self.gauges.add("127.0.0.1:7800")


class OverHttp(AppCase):
    def test_the_screen_that_asked_last_takes_the_readings(self):
        asked = {"address": "127.0.0.1:1"}
        first = self.client.post("/api/gauges", json=asked, params={"screen": "a"}).json()
        self.assertEqual((len(first["gauges"]), first["here"]), (1, True))
        self.assertFalse(self.client.get("/api/gauges", params={"screen": "b"}).json()["here"])
        self.client.post("/api/gauges/here", params={"screen": "b"})
        self.assertFalse(self.client.get("/api/gauges", params={"screen": "a"}).json()["here"])
        gone = self.client.delete("/api/gauges/127.0.0.1:1", params={"screen": "b"})
        self.assertEqual(gone.json()["gauges"], [])
        bad = self.client.post("/api/gauges", json={"address": "10.1.1.1:80"})
        self.assertEqual((bad.status_code, bad.json()["type"]), (422, "/problems/gauge"))
