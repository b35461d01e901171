"""Builds, journal, undo, migrations, backup: nothing acknowledged is lost."""

import json
import os
import signal
import sqlite3
import subprocess
import sys
import tempfile
import threading
import unittest
from contextlib import closing
from pathlib import Path

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from pindo.store import builds
from pindo.store.database import StoreError, atomic, backup, connect, migrate, migrations, restore

ROOT = Path(__file__).parents[2]


class StoreCase(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "pindo.sqlite"
        self.conn = connect(self.path)
        self.addCleanup(self.conn.close)
        migrate(self.conn)

    def put(self, id, version, **values):
        return builds.change(self.conn, id, version, lambda now: now.document | values, "me", "because")


class Changes(StoreCase):
    def test_a_change_sent_again_because_its_answer_was_lost_is_stored_once(self):
        builds.create(self.conn, {"n": 0}, id="keyed")
        for _ in range(3):
            after = builds.change(self.conn, "keyed", None, lambda now: {"n": now.document["n"] + 1}, key="a1")
            self.assertEqual((after.version, after.document), (2, {"n": 1}))
        self.assertEqual(builds.change(self.conn, "keyed", None, lambda now: {"n": now.document["n"] + 1}, key="a2").document, {"n": 2})

    def test_a_change_is_a_version_with_patch_and_inverse(self):
        made = builds.create(self.conn, {"name": "a", "plate": 18}, "me", "new", "one")
        after = self.put("one", 1, plate=19)
        self.assertEqual((made.version, after.version, after.document["plate"]), (1, 2, 19))
        (latest, first) = builds.journal(self.conn, "one")
        self.assertEqual((latest.who, latest.why, latest.kind), ("me", "because", "change"))
        self.assertEqual(latest.patch, [{"op": "replace", "path": "/plate", "value": 19}])
        self.assertEqual(latest.inverse, [{"op": "replace", "path": "/plate", "value": 18}])
        self.assertEqual(first.kind, "create")

    def test_a_stale_change_leaves_no_trace_and_hands_over_both_versions(self):
        builds.create(self.conn, {"plate": 18}, id="one")
        self.put("one", 1, plate=19)
        with self.assertRaises(builds.Stale) as caught:
            self.put("one", 1, plate=20)
        self.assertEqual((caught.exception.yours, caught.exception.current.version), (1, 2))
        self.assertEqual([c.patch[0]["value"] for c in caught.exception.since], [19])
        self.assertEqual(builds.get(self.conn, "one").document["plate"], 19)

    def test_what_an_edit_refuses_leaves_no_trace(self):
        builds.create(self.conn, {"plate": 18}, id="one")
        with self.assertRaisesRegex(ValueError, "no"):
            builds.change(self.conn, "one", 1, lambda _: (_ for _ in ()).throw(ValueError("no")))
        self.assertEqual(builds.get(self.conn, "one").version, 1)
        self.assertFalse(self.conn.in_transaction)

    def test_undo_goes_back_through_everything_and_redo_forward(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for n in (1, 2, 3):
            self.put("one", n, n=n)
        seen = []
        for kind in ("undo", "undo", "undo", "redo", "redo"):
            seen.append(builds.step(self.conn, "one", builds.get(self.conn, "one").version, kind).document["n"])
        self.assertEqual(seen, [2, 1, 0, 1, 2])

    def test_nothing_to_undo_says_so(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for kind in ("undo", "redo"):
            with self.assertRaisesRegex(builds.NothingToUndo, f"nothing to {kind}"):
                builds.step(self.conn, "one", 1, kind)

    def test_delete_takes_the_journal_along(self):
        builds.create(self.conn, {"n": 0}, id="one")
        builds.delete(self.conn, "one", 1)
        self.assertEqual(self.conn.execute("SELECT count(*) FROM journal").fetchone()[0], 0)
        with self.assertRaisesRegex(builds.NotFound, "no build one"):
            builds.get(self.conn, "one")

    def test_two_writers_one_wins(self):
        builds.create(self.conn, {"n": 0}, id="one")
        won, lost = [], []

        def write(n):
            with closing(connect(self.path)) as conn:
                try:
                    won.append(builds.change(conn, "one", 1, lambda now: now.document | {"n": n}))
                except builds.Stale as error:
                    lost.append(error)

        threads = [threading.Thread(target=write, args=(n,)) for n in range(6)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual((len(won), len(lost)), (1, 5))


class UndoMachine(RuleBasedStateMachine):
    """Any mixture of changes, undos and redos against the plain two-stack model."""

    def __init__(self):
        super().__init__()
        self.conn = sqlite3.connect(":memory:", isolation_level=None)
        self.conn.row_factory = sqlite3.Row
        migrate(self.conn)
        builds.create(self.conn, {"n": 0}, id="x")
        self.now, self.back, self.forth, self.version = 0, [], [], 1

    @rule(n=st.integers(0, 5))
    def change(self, n):
        self.version = builds.change(self.conn, "x", self.version, lambda now: now.document | {"n": n}).version
        self.back.append(self.now)
        self.now, self.forth = n, []

    @rule(kind=st.sampled_from(["undo", "redo"]))
    def step(self, kind):
        out, into = (self.back, self.forth) if kind == "undo" else (self.forth, self.back)
        if not out:
            return
        self.version = builds.step(self.conn, "x", self.version, kind).version
        into.append(self.now)
        self.now = out.pop()

    @invariant()
    def agrees(self):
        self.assert_equal(builds.get(self.conn, "x").document["n"], self.now)

    @staticmethod
    def assert_equal(a, b):
        assert a == b, (a, b)

    def teardown(self):
        self.conn.close()


UndoMachine.TestCase.settings = settings(max_examples=25, stateful_step_count=25, deadline=None)
UndoTest = UndoMachine.TestCase


class Migrations(StoreCase):
    def test_twice_is_once(self):
        self.assertEqual(migrate(self.conn), [])

    def test_a_failing_step_leaves_no_trace(self):
        steps = [*migrations(), ("9998_good.sql", "CREATE TABLE good (a INTEGER) STRICT;"), ("9999_bad.sql", "CREATE TABLE half (a INTEGER) STRICT;\nINSERT INTO nowhere VALUES (1);")]
        with self.assertRaises(sqlite3.OperationalError):
            migrate(self.conn, steps)
        tables = {r["name"] for r in self.conn.execute("SELECT name FROM sqlite_master")}
        self.assertIn("good", tables)
        self.assertNotIn("half", tables)
        self.assertEqual(self.conn.execute("PRAGMA foreign_keys").fetchone()[0], 1)

    def test_a_file_of_another_version_is_left_alone(self):
        with self.assertRaisesRegex(StoreError, "another version"):
            migrate(self.conn, [("0000_other.sql", "SELECT 1;")])

    def test_tables_are_strict_and_keys_are_on(self):
        for row in self.conn.execute("SELECT sql FROM sqlite_master WHERE type = 'table' AND sql IS NOT NULL"):
            self.assertIn("STRICT", row["sql"])
        with self.assertRaises(sqlite3.IntegrityError), atomic(self.conn):
            self.conn.execute("INSERT INTO journal VALUES ('nobody', 1, 'change', NULL, '[]', '[]', '', '', '')")
        self.assertEqual(self.conn.execute("PRAGMA journal_mode").fetchone()[0], "wal")


class BackupAndRestore(StoreCase):
    def test_a_backup_while_others_write_is_whole(self):
        builds.create(self.conn, {"n": 0}, id="one")
        stop = threading.Event()

        def keep_writing():
            with closing(connect(self.path)) as conn:
                while not stop.is_set():
                    builds.change(conn, "one", builds.get(conn, "one").version, lambda now: now.document | {"n": now.document["n"] + 1})

        writer = threading.Thread(target=keep_writing)
        writer.start()
        try:
            for i in range(5):
                backup(self.path, self.folder / f"copy{i}.sqlite")
        finally:
            stop.set()
            writer.join()
        for i in range(5):
            with closing(sqlite3.connect(self.folder / f"copy{i}.sqlite")) as copy:
                self.assertEqual(copy.execute("PRAGMA integrity_check").fetchone()[0], "ok")
                version, document = copy.execute("SELECT version, document FROM build").fetchone()
                self.assertEqual(version, json.loads(document)["n"] + 1)
                self.assertEqual(copy.execute("SELECT count(*) FROM journal").fetchone()[0], version)

    def test_restore_keeps_what_was_there(self):
        builds.create(self.conn, {"n": 1}, id="one")
        backup(self.path, self.folder / "copy.sqlite")
        self.put("one", 1, n=2)
        restore(self.folder / "copy.sqlite", self.path)
        with closing(connect(self.path)) as conn:
            self.assertEqual(builds.get(conn, "one").document["n"], 1)
        with closing(connect(self.folder / "pindo.sqlite.before-restore")) as conn:
            self.assertEqual(builds.get(conn, "one").document["n"], 2)

    def test_what_is_no_backup_is_refused_and_nothing_changes(self):
        bad = self.folder / "bad.sqlite"
        bad.write_bytes(b"not a database, only words" * 100)
        builds.create(self.conn, {"n": 1}, id="one")
        with self.assertRaisesRegex(StoreError, "not a Pindo backup.*Nothing was changed"):
            restore(bad, self.path)
        self.assertEqual(builds.get(self.conn, "one").document["n"], 1)
        with self.assertRaisesRegex(StoreError, "no data file"):
            backup(self.folder / "nothing.sqlite", self.folder / "copy.sqlite")
        with self.assertRaisesRegex(StoreError, "could not be written"):
            backup(self.path, self.folder / "no" / "such" / "folder.sqlite")


WRITER = """
import sys
from pathlib import Path
from pindo.store import builds
from pindo.store.database import connect
conn = connect(Path(sys.argv[1]))
while True:
    now = builds.get(conn, "one")
    after = builds.change(conn, "one", now.version, lambda now: now.document | {"n": now.document["n"] + 1})
    print(after.document["n"], flush=True)
"""


class Killed(StoreCase):
    def test_killed_at_any_moment_it_loses_nothing_acknowledged(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for rounds in range(4):
            process = subprocess.Popen([sys.executable, "-c", WRITER, str(self.path)], stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONPATH": str(ROOT / "src")})
            acknowledged = 0
            for line in process.stdout:
                acknowledged = int(line)
                if acknowledged % (17 + rounds) == 0:
                    break
            process.send_signal(signal.SIGKILL)
            rest = process.stdout.read().split()
            process.stdout.close()
            process.wait()
            acknowledged = int(rest[-1]) if rest else acknowledged
            with closing(connect(self.path)) as conn:
                self.assertEqual(conn.execute("PRAGMA integrity_check").fetchone()[0], "ok")
                kept = builds.get(conn, "one")
                self.assertGreaterEqual(kept.document["n"], acknowledged)
                self.assertEqual(kept.version, kept.document["n"] + 1)
                self.assertEqual(conn.execute("SELECT count(*) FROM journal").fetchone()[0], kept.version)
