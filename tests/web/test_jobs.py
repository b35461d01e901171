"""Searches in the worker: what they find, how they are stopped, and what a killed worker leaves."""

import time

from pindo.core.assessment import assess
from pindo.core.judging.verdict import Verdict
from pindo.demo import pump_tender
from pindo.web import jobs
from tests.robust.case import AppCase


class Searches(AppCase):
    def setUp(self):
        super().setUp()
        self.addCleanup(self.app.state.jobs.end)

    def ask(self, kind="ways out", build=None):
        asked = {"kind": kind, "build": build or self.build_id}
        return self.client.post("/api/jobs", json=asked)

    def until(self, id, *states):
        """Waits for a state, not for a time; the limit is for a worker that hangs."""
        end = time.monotonic() + 120
        while time.monotonic() < end:
            job = self.client.get(f"/api/jobs/{id}").json()
            if job["state"] in states:
                return job
            time.sleep(0.02)
        raise AssertionError(f"still {job['state']}")

    def test_every_way_out_is_what_assess_finds(self):
        job = self.ask()
        self.assertEqual(job.status_code, 202, job.text)
        again = self.ask().json()
        self.assertEqual(again["id"], job.json()["id"], "the same is not searched twice")
        found = self.until(job.json()["id"], "done", "failed")
        self.assertEqual((found["state"], found["done"]), ("done", found["total"]), found["words"])
        wanting = {
            f.id: [(w.address, w.target) for w in f.ways_out]
            for f in assess(pump_tender()).findings
            if f.verdict in (Verdict.FOULS, Verdict.TIGHT) and f.margin is not None
        }
        told = {
            f["finding"]: [(w["address"], w["target"]) for w in f["ways"]] for f in found["found"]
        }
        self.assertEqual(told, wanting)
        self.assertTrue(any(wanting.values()))
        (listed,) = self.client.get("/api/jobs").json()
        self.assertEqual((listed["id"], listed["found"]), (found["id"], []))

    def test_one_that_is_stopped_and_one_that_was_killed_leave_the_next_alone(self):
        first = self.ask().json()["id"]
        self.until(first, "running", "done")
        stopped = self.client.delete(f"/api/jobs/{first}").json()
        self.assertIn(stopped["state"], ("stopped", "done"))
        other = self.client.post("/api/builds", json={"name": "B", "demo": "pump-tender"}).json()
        second = self.ask(build=other["id"]).json()["id"]
        self.until(second, "running")
        worker = self.app.state.jobs._worker
        while worker is None:
            worker = self.app.state.jobs._worker
        worker.kill()
        self.assertIn("ended from outside", self.until(second, "failed")["words"])
        third = self.ask(build=other["id"]).json()["id"]
        self.assertNotEqual(third, second)
        self.assertEqual(self.until(third, "done", "failed")["state"], "done")

    def test_what_cannot_be_asked(self):
        self.assertEqual(self.ask(kind="gold").status_code, 422)
        self.assertEqual(self.ask(build="nobody").status_code, 404)
        for method in (self.client.get, self.client.delete):
            self.assertEqual(method("/api/jobs/99").status_code, 404)

    def test_a_search_that_fails_says_so(self):
        queue = jobs.Jobs()
        self.addCleanup(queue.end)
        job = queue.start("ways out", "x", "1-1", {"name": "", "schema_version": 4}, "2026-11-26")
        while queue.get(job.id).state in ("waiting", "running"):
            time.sleep(0.02)
        self.assertEqual(queue.get(job.id).state, "failed")
        self.assertIn("Pindo failed at it", queue.get(job.id).words)

    def test_the_queue_is_bounded(self):
        queue = jobs.Jobs()
        self.addCleanup(queue.end)
        for n in range(jobs.MOST_WAITING + 1):
            queue.start("ways out", f"build {n}", "1-1", {}, "2026-11-26")
        with self.assertRaisesRegex(jobs.TooMany, "Stop one"):
            queue.start("ways out", "one more", "1-1", {}, "2026-11-26")
