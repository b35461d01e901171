"""Builds, journal, undo, migrations, backup: nothing acknowledged is lost."""

import json
import os
import signal
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
import unittest
from contextlib import closing
from pathlib import Path
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from pindo.store import builds, copies, photos, undo
from pindo.store.copies import backup, make_copy, restore
from pindo.store.database import atomic, connect, migrate, migrations, prepare
from pindo.store.merge import GONE, merged
from pindo.store.soundness import look_through
from pindo.store.stored import Author, NotFound, Stale, Version
from pindo.store.trouble import StoreError, Trouble

ROOT = Path(__file__).parents[2]


def laying(make):
    """An edit that makes something of the document it was made for, and lays it on what stands."""
    return lambda editing: editing.lay(editing.base, make(editing.base), editing.current.document)


def sound(document):
    return "" if isinstance(document, dict) and "n" in document else "no n"


class StoreCase(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "pindo.sqlite"
        prepare(self.path)
        self.conn = connect(self.path)
        self.addCleanup(self.conn.close)

    def at(self, id, version):
        return Version(epoch=builds.version_of(self.conn, id).epoch, number=version)

    def put(self, id, version, hand="", **values):
        """A change that was made of the document as it was at ``version``."""
        return builds.change(
            self.conn,
            id,
            self.at(id, version),
            laying(lambda base: base | values),
            Author(who="me", hand=hand),
            "because",
        )

    def step(self, kind, hand="", of=None, id="one"):
        return undo.step(
            self.conn, id, builds.version_of(self.conn, id), kind, Author(hand=hand), of
        )


class Changes(StoreCase):
    def test_a_change_sent_again_because_its_answer_was_lost_is_stored_once(self):
        builds.create(self.conn, {"n": 0}, id="keyed")
        for _ in range(3):
            after = builds.change(
                self.conn, "keyed", None, lambda e: {"n": e.base["n"] + 1}, key="a1"
            )
            self.assertEqual((after.version, after.document), (2, {"n": 1}))
        self.assertEqual(
            builds.change(
                self.conn, "keyed", None, lambda e: {"n": e.base["n"] + 1}, key="a2"
            ).document,
            {"n": 2},
        )

    def test_a_change_is_a_version_with_patch_and_inverse(self):
        made = builds.create(self.conn, {"name": "a", "plate": 18}, Author(who="me"), "new", "one")
        after = self.put("one", 1, plate=19)
        self.assertEqual((made.version, after.version, after.document["plate"]), (1, 2, 19))
        latest, first = builds.journal(self.conn, "one")
        self.assertEqual((latest.who, latest.why, latest.kind), ("me", "because", "change"))
        self.assertEqual(latest.patch, [{"op": "replace", "path": "/plate", "value": 19}])
        self.assertEqual(latest.inverse, [{"op": "replace", "path": "/plate", "value": 18}])
        self.assertEqual(first.kind, "create")

    def test_a_stale_change_leaves_no_trace_and_hands_over_both_versions(self):
        builds.create(self.conn, {"plate": 18}, id="one")
        self.put("one", 1, plate=19)
        with self.assertRaises(Stale) as caught:
            self.put("one", 1, plate=20)
        self.assertEqual((caught.exception.yours, caught.exception.current.version), (1, 2))
        self.assertEqual([c.patch[0]["value"] for c in caught.exception.since], [19])
        self.assertEqual(builds.get(self.conn, "one").document["plate"], 19)

    def test_what_an_edit_refuses_leaves_no_trace(self):
        builds.create(self.conn, {"plate": 18}, id="one")
        with self.assertRaisesRegex(ValueError, "no"):
            builds.change(self.conn, "one", None, lambda _: (_ for _ in ()).throw(ValueError("no")))
        self.assertEqual(builds.get(self.conn, "one").version, 1)
        self.assertFalse(self.conn.in_transaction)

    def test_undo_goes_back_through_everything_and_redo_forward(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for n in (1, 2, 3):
            self.put("one", n, n=n)
        seen = []
        for kind in ("undo", "undo", "undo", "redo", "redo"):
            seen.append(self.step(kind).document["n"])
        self.assertEqual(seen, [2, 1, 0, 1, 2])

    def test_nothing_to_undo_says_so(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for kind in ("undo", "redo"):
            with self.assertRaisesRegex(undo.NothingToUndo, f"nothing to {kind}"):
                self.step(kind)

    def test_delete_takes_the_journal_along(self):
        builds.create(self.conn, {"n": 0}, id="one")
        builds.delete(self.conn, "one", self.at("one", 1))
        self.assertEqual(self.conn.execute("SELECT count(*) FROM journal").fetchone()[0], 0)
        with self.assertRaisesRegex(NotFound, "no build one"):
            builds.get(self.conn, "one")

    def test_two_writers_one_wins(self):
        builds.create(self.conn, {"n": 0}, id="one")
        won, lost, at = [], [], self.at("one", 1)

        def write(n):
            with closing(connect(self.path)) as conn:
                try:
                    won.append(
                        builds.change(conn, "one", at, laying(lambda base: base | {"n": n + 1}))
                    )
                except Stale as error:
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
        self.now, self.back, self.forth = 0, [], []

    @rule(n=st.integers(0, 5))
    def change(self, n):
        builds.change(self.conn, "x", None, lambda e: e.base | {"n": n})
        self.back.append(self.now)
        self.now, self.forth = n, []

    @rule(kind=st.sampled_from(["undo", "redo"]))
    def step(self, kind):
        out, into = (self.back, self.forth) if kind == "undo" else (self.forth, self.back)
        if not out:
            try:
                undo.step(self.conn, "x", builds.version_of(self.conn, "x"), kind)
            except undo.NothingToUndo:
                return
            raise AssertionError(f"there was nothing to {kind}")
        undo.step(self.conn, "x", builds.version_of(self.conn, "x"), kind)
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
        steps = [
            *migrations(),
            ("9998_good.sql", "CREATE TABLE good (a INTEGER) STRICT;"),
            (
                "9999_bad.sql",
                "CREATE TABLE half (a INTEGER) STRICT;\nINSERT INTO nowhere VALUES (1);",
            ),
        ]
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
        for row in self.conn.execute(
            "SELECT sql FROM sqlite_master WHERE type = 'table' AND sql IS NOT NULL"
        ):
            self.assertIn("STRICT", row["sql"])
        with self.assertRaises(sqlite3.IntegrityError), atomic(self.conn):
            self.conn.execute(
                "INSERT INTO journal VALUES ('nobody', 1, 'change', NULL, '[]', '[]', '', '', '',"
                " '', '')"
            )
        self.assertEqual(self.conn.execute("PRAGMA journal_mode").fetchone()[0], "wal")


class BackupAndRestore(StoreCase):
    def test_a_backup_while_others_write_is_whole(self):
        builds.create(self.conn, {"n": 0}, id="one")
        stop = threading.Event()

        def keep_writing():
            with closing(connect(self.path)) as conn:
                while not stop.is_set():
                    builds.change(conn, "one", None, lambda e: e.base | {"n": e.base["n"] + 1})

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
                self.assertEqual(
                    copy.execute("SELECT count(*) FROM journal").fetchone()[0], version
                )

    def test_restore_keeps_what_was_there_and_no_old_version_fits(self):
        builds.create(self.conn, {"n": 1}, id="one")
        old = self.at("one", 1)
        backup(self.path, self.folder / "copy # 100%?.sqlite")
        self.put("one", 1, n=2)
        kept_as = restore(self.folder / "copy # 100%?.sqlite", self.path, sound)
        self.assertEqual(builds.get(self.conn, "one").document["n"], 1)
        with closing(connect(self.folder / kept_as)) as conn:
            self.assertEqual(builds.get(conn, "one").document["n"], 2)
        with self.assertRaisesRegex(Stale, "restored or made anew"):
            builds.change(self.conn, "one", old, laying(lambda base: base | {"n": 5}))
        self.assertNotEqual(restore(self.folder / "copy # 100%?.sqlite", self.path, sound), kept_as)

    def spoiled(self, sql):
        """A copy in which somebody did something."""
        file = self.folder / f"spoiled{len(list(self.folder.iterdir()))}.sqlite"
        backup(self.path, file)
        with closing(sqlite3.connect(file, isolation_level=None)) as conn:
            conn.execute("PRAGMA ignore_check_constraints = ON")
            for statement in sql:
                conn.execute(statement)
        return file

    SPOILED = [
        (
            ["CREATE TRIGGER gone AFTER UPDATE ON build BEGIN DELETE FROM build; END"],
            "triggers or views",
        ),
        (["CREATE TABLE extra (a INTEGER) STRICT"], "tables that are not Pindo's"),
        (["DROP INDEX build_changed"], "tables that are not Pindo's"),
        (["INSERT INTO migration (name) VALUES ('9999_future.sql')"], "newer Pindo"),
        (["UPDATE build SET document = '{}'"], "build one: no n"),
        (["UPDATE build SET document = '[1]'"], "build one: no n"),
        (["DELETE FROM journal WHERE version = 1"], "history has gaps"),
        (
            [
                'UPDATE journal SET inverse = \'[{"op":"remove","path":"/nowhere"}]\' WHERE'
                " version = 2"
            ],
            "does not lead back",
        ),
        (
            [
                'UPDATE journal SET inverse = \'[{"op":"copy","from":"/n","path":"/n"}]\' WHERE'
                " version = 2"
            ],
            "not Pindo's",
        ),
        (
            [
                "INSERT INTO journal VALUES ('nobody', 1, 'change', NULL, '[]', '[]', '', '', '',"
                " '', '')"
            ],
            "lead nowhere",
        ),
    ]

    def test_what_is_no_sound_copy_is_refused_and_nothing_changes(self):
        builds.create(self.conn, {"n": 1}, id="one")
        self.put("one", 1, n=2)
        bad = self.folder / "bad.sqlite"
        bad.write_bytes(b"not a database, only words" * 100)
        with closing(sqlite3.connect(self.folder / "other.sqlite")) as other:
            other.execute("CREATE TABLE theirs (a)")
        files = [
            (bad, "not a database"),
            (self.folder / "other.sqlite", "not Pindo's data"),
            (self.folder / "none.sqlite", "no file"),
        ]
        for file, words in files + [(self.spoiled(sql), words) for sql, words in self.SPOILED]:
            with (
                self.subTest(words),
                self.assertRaisesRegex(StoreError, f"{words}.*Nothing was changed"),
            ):
                restore(file, self.path, sound)
        self.assertEqual(builds.get(self.conn, "one").document["n"], 2)
        self.assertEqual(
            list(self.folder.glob("*.restoring*")) + list(self.folder.glob("before-*")), []
        )

    def test_an_older_copy_is_brought_up(self):
        old = self.folder / "old.sqlite"
        with closing(sqlite3.connect(old, isolation_level=None)) as conn:
            conn.row_factory = sqlite3.Row
            migrate(conn, migrations()[:3])
            conn.execute("INSERT INTO build VALUES ('old', 1, '{\"n\":7}', '2020', '2020')")
            conn.execute(
                "INSERT INTO journal VALUES ('old', 1, 'create', NULL, '[]', '[]', 'me', '',"
                " '2020')"
            )
            conn.execute("INSERT INTO photo VALUES ('abc', 'old', 'image/png', x'89', '2020')")
        self.assertEqual(
            (look_through(old, sound).builds, look_through(old, sound).problems), (1, ())
        )
        backup(old, self.folder / "copy of old.sqlite")
        restore(self.folder / "copy of old.sqlite", self.path, sound)
        self.assertEqual(
            (builds.get(self.conn, "old").document, photos.get(self.conn, "old", "abc")),
            ({"n": 7}, ("image/png", b"\x89")),
        )

    def test_a_damaged_data_file_never_stops_a_restore(self):
        builds.create(self.conn, {"n": 1}, id="one")
        backup(self.path, self.folder / "copy.sqlite")
        self.conn.close()
        for spoil in (
            lambda: self.path.write_bytes(b"words" * 3000),
            lambda: self.path.write_bytes(b""),
            lambda: self.path.write_bytes(self.path.read_bytes()[:5000]),
            self.path.unlink,
        ):
            spoil()
            with self.assertRaises(Trouble):
                connect(self.path).execute("SELECT * FROM build")
            kept_as = restore(self.folder / "copy.sqlite", self.path, sound)
            self.assertEqual(bool(kept_as), spoil != self.path.unlink)
            with closing(connect(self.path)) as conn:
                self.assertEqual(builds.get(conn, "one").document["n"], 1)

    def test_a_sound_file_that_is_held_or_cannot_be_kept_stays_in_its_place(self):
        builds.create(self.conn, {"n": 1}, id="one")
        backup(self.path, self.folder / "copy.sqlite")
        self.put("one", 1, n=2)
        with (
            closing(sqlite3.connect(self.path, isolation_level=None)) as other,
            mock.patch("pindo.store.copies.BUSY_SECONDS", 0.2),
        ):
            other.execute("BEGIN IMMEDIATE")
            with self.assertRaisesRegex(StoreError, "Another program holds.*The data is as it was"):
                restore(self.folder / "copy.sqlite", self.path, sound)
        with (
            mock.patch("pindo.store.copies.backup", side_effect=StoreError("no room.")),
            self.assertRaisesRegex(StoreError, "no room. The data is as it was"),
        ):
            restore(self.folder / "copy.sqlite", self.path, sound)
        self.assertEqual(
            (builds.get(self.conn, "one").document["n"], list(self.folder.glob("before-*"))),
            (2, []),
        )

    def test_a_backup_never_goes_onto_the_data_or_another_file(self):
        (self.folder / "letter.txt").write_text("dear")
        (self.folder / "link.sqlite").symlink_to(self.path)
        for to in (
            self.path,
            self.folder / "pindo.sqlite-wal",
            self.folder / "x" / ".." / "pindo.sqlite",
            self.folder / "link.sqlite",
        ):
            with self.assertRaisesRegex(StoreError, "the data file itself"):
                backup(self.path, to)
        with self.assertRaisesRegex(StoreError, "no copy of Pindo's data"):
            backup(self.path, self.folder / "letter.txt")
        with self.assertRaisesRegex(StoreError, "is not there any more"):
            backup(self.folder / "nothing.sqlite", self.folder / "copy.sqlite")
        with self.assertRaisesRegex(StoreError, "could not be written"):
            backup(self.path, self.folder / "no" / "such" / "folder.sqlite")
        self.assertEqual((self.folder / "letter.txt").read_text(), "dear")

    def test_copies_rotate_and_are_private(self):
        builds.create(self.conn, {"n": 1}, id="one")
        made = [make_copy(self.path).name for _ in range(12)]
        there = [c.name for c in copies.copies(self.path)]
        self.assertEqual(there, made[:3:-1])
        self.path.chmod(0o644)
        prepare(self.path)
        modes = {
            oct(f.stat().st_mode & 0o777)
            for f in (self.path, *copies.folder_of(self.path).iterdir())
        }
        self.assertEqual(modes, {"0o600"})
        self.assertEqual(look_through(copies.folder_of(self.path) / there[0], sound).problems, ())

    def test_the_keeper_copies_at_the_start_after_changes_and_after_hours_not_without(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for before, changes, after, how in (
            (1, 0, 1, {}),
            (1, 0, 1, {"hours": 1e-9}),
            (1, 2, 1, {"changes": 3}),
            (2, 3, 3, {"changes": 3}),
            (3, 1, 4, {"changes": 100, "hours": 1e-9}),
        ):
            with (
                self.subTest(many=changes, **how),
                mock.patch("pindo.store.copies._count", wraps=copies._count) as looks,
            ):
                keeper = copies.Keeper(self.path, look_seconds=0.01, **how)
                keeper.start()
                for expected, more in ((before, changes), (after, 0)):
                    end, seen = time.monotonic() + 60, looks.call_count
                    # Some looks more than it takes: one copy too many would be there by then.
                    while (
                        looks.call_count < seen + 5 or len(copies.copies(self.path)) < expected
                    ) and time.monotonic() < end:
                        time.sleep(0.01)
                    self.assertEqual(
                        (len(copies.copies(self.path)), keeper.trouble), (expected, "")
                    )
                    for _ in range(more):
                        builds.change(self.conn, "one", None, lambda e: {"n": e.base["n"] + 1})
                keeper.stop()

    def test_an_empty_file_never_takes_the_place_of_data_that_was_there(self):
        make_copy(self.path)
        self.conn.close()
        self.path.unlink()
        for open_it in (connect, prepare):
            with self.assertRaisesRegex(Trouble, "not there any more"):
                open_it(self.path)
        self.assertFalse(self.path.exists())


class TwoHands(StoreCase):
    def rows(self, **values):
        return builds.create(
            self.conn,
            {"rows": [{"n": 1, "a": 0}, {"n": 2, "a": 0}, {"n": 3, "a": 0}], "log": [], **values},
            id="one",
        )

    def test_changes_of_different_places_both_land_by_number_not_by_place(self):
        self.rows(x=0)
        first = self.at("one", 1)
        builds.change(
            self.conn,
            "one",
            first,
            laying(lambda b: b | {"rows": b["rows"][1:], "log": ["theirs"]}),
            Author(hand="other"),
        )
        after = builds.change(
            self.conn,
            "one",
            first,
            laying(
                lambda b: (
                    b
                    | {
                        "x": 5,
                        "rows": [*b["rows"][:1], {"n": 2, "a": 7}, b["rows"][2]],
                        "log": ["mine"],
                    }
                )
            ),
            Author(hand="me"),
        )
        self.assertEqual(
            after.document,
            {"rows": [{"n": 2, "a": 7}, {"n": 3, "a": 0}], "log": ["theirs", "mine"], "x": 5},
        )

    def test_the_same_place_is_refused_with_both(self):
        self.rows()
        first = self.at("one", 1)
        for theirs, mine, place in (
            (
                lambda b: b | {"rows": [{"n": 1, "a": 1}, *b["rows"][1:]]},
                lambda b: b | {"rows": [{"n": 1, "a": 2}, *b["rows"][1:]]},
                ("rows", "1", "a"),
            ),
            (
                lambda b: b | {"rows": b["rows"][1:]},
                lambda b: b | {"rows": [{"n": 1, "a": 2}, *b["rows"][1:]]},
                ("rows", "1"),
            ),
        ):
            builds.change(
                self.conn,
                "one",
                None,
                lambda e, t=theirs: t(builds.document_at(self.conn, e.current, 1)),
            )
            with self.assertRaisesRegex(Stale, "nothing of theirs was lost") as caught:
                builds.change(self.conn, "one", first, laying(mine))
            self.assertEqual([c.place for c in caught.exception.conflicts], [place])

    def test_undo_takes_back_ones_own_and_names_whose_it_is_else(self):
        self.rows(x=0, y=0)
        self.put("one", 1, "me", x=1)
        self.put("one", 2, "other", y=1)
        self.assertEqual(
            (self.step("undo", "me").document["x"], builds.get(self.conn, "one").document["y"]),
            (0, 1),
        )
        with self.assertRaisesRegex(undo.SomeoneElses, "not yours: me, version 3") as caught:
            self.step("undo", "me")
        self.assertEqual(
            self.step("undo", "me", of=caught.exception.change.version).document["y"], 0
        )
        self.assertEqual(self.step("redo", "me").document["y"], 1)
        with self.assertRaises(
            undo.SomeoneElses
        ):  # it is theirs again, whoever took it out and put it back
            self.step("undo", "me")
        with self.assertRaises(undo.NothingToUndo):
            self.step("undo", "me", of=99)

    def test_an_undo_under_what_another_built_on_it_is_refused(self):
        self.rows(x=0)
        self.put("one", 1, "me", x=1)
        self.put("one", 2, "other", x=2)
        with self.assertRaises(Stale) as caught:
            self.step("undo", "me")
        self.assertEqual(
            (caught.exception.conflicts[0].place, builds.get(self.conn, "one").document["x"]),
            (("x",), 2),
        )

    def test_an_undo_sent_twice_steps_once(self):
        self.rows(x=0)
        self.put("one", 1, "me", x=1)
        self.put("one", 2, "me", x=2)
        at = self.at("one", 3)
        undo.step(self.conn, "one", at, "undo", Author(hand="me"))
        with self.assertRaises(Stale):
            undo.step(self.conn, "one", at, "undo", Author(hand="me"))
        self.assertEqual(builds.get(self.conn, "one").document["x"], 1)

    def test_the_order_of_builds_is_that_of_their_changes_whatever_the_clock_says(self):
        for id, time_of_day in (("first", "2030"), ("second", "2020"), ("third", "2010")):
            with mock.patch("pindo.store.builds.now", return_value=time_of_day):
                builds.create(self.conn, {"n": 0}, id=id)
        self.put("first", 1, n=1)
        self.assertEqual([b.id for b in builds.all_builds(self.conn)], ["first", "third", "second"])

    def test_a_version_that_a_slow_change_was_worked_out_against_is_gone_it_is_worked_out_again(
        self,
    ):
        self.rows(x=0)
        tries = []

        def edit(editing):
            if not tries:
                self.put("one", 1, "other", y=1)
            tries.append(editing.current.version)
            return editing.base | {"x": 1}

        after = builds.change(self.conn, "one", None, edit)
        self.assertEqual(
            (tries, after.version, after.document["x"], after.document["y"]), ([1, 2], 3, 1, 1)
        )

    def test_pages_of_the_history_lead_to_its_beginning(self):
        self.rows()
        for n in range(1, 8):
            self.put("one", n, x=n)
        seen, before = [], builds.END
        while page := builds.journal(self.conn, "one", most=3, before=before):
            seen += [c.version for c in page]
            before = seen[-1]
        self.assertEqual(seen, [8, 7, 6, 5, 4, 3, 2, 1])


JSON = st.recursive(
    st.none() | st.integers(0, 3),
    lambda inner: (
        st.dictionaries(st.sampled_from("abc"), inner, max_size=3) | st.lists(inner, max_size=3)
    ),
    max_leaves=6,
)
ROWS = st.lists(
    st.fixed_dictionaries({"n": st.integers(1, 4), "a": st.integers(0, 2)}),
    max_size=4,
    unique_by=lambda r: r["n"],
)
DOCUMENTS = st.dictionaries(st.sampled_from("pqr"), JSON | ROWS, max_size=3)


class Merging(unittest.TestCase):
    @given(DOCUMENTS, DOCUMENTS, DOCUMENTS)
    def test_nothing_of_either_is_lost(self, base, mine, theirs):
        both, conflicts = merged(base, mine, theirs)
        other, same = merged(base, theirs, mine)
        self.assertEqual({c.place for c in conflicts}, {c.place for c in same})
        self.assertEqual(merged(base, base, theirs), (theirs, []))
        self.assertEqual(merged(base, mine, base), (mine, []))
        if not conflicts:
            self.assertEqual(self.plain(both), self.plain(other))
            # The other way round: taking mine out again leaves theirs, unless they were the same.
            for key in {*mine, *base}:
                if mine.get(key, GONE) != base.get(key, GONE) and theirs.get(key, GONE) == base.get(
                    key, GONE
                ):
                    self.assertEqual(both.get(key, GONE), mine.get(key, GONE))

    def plain(self, value):
        """Without the order of rows, and of what both wrote on."""
        if isinstance(value, list):
            return sorted(repr(self.plain(v)) for v in value)
        return (
            {k: self.plain(v) for k, v in sorted(value.items())}
            if isinstance(value, dict)
            else value
        )


class Pictures(StoreCase):
    def test_a_quota_and_deleting(self):
        builds.create(self.conn, {"n": 0}, id="one")
        with mock.patch.object(photos, "MOST_PICTURES", 2):
            ids = [photos.keep(self.conn, "one", "image/png", bytes([i])) for i in (1, 2, 2)]
            with self.assertRaisesRegex(photos.TooManyPictures, "delete some"):
                photos.keep(self.conn, "one", "image/png", b"3")
            photos.delete(self.conn, "one", ids[0])
            photos.keep(self.conn, "one", "image/png", b"3")
        with mock.patch.object(photos, "MOST_BYTES", 4), self.assertRaises(photos.TooManyPictures):
            photos.keep(self.conn, "one", "image/png", b"444")
        self.assertEqual(len(photos.listed(self.conn, "one")), 2)
        for missing in (
            lambda: photos.delete(self.conn, "one", ids[0]),
            lambda: photos.get(self.conn, "one", ids[0]),
            lambda: photos.keep(self.conn, "nobody", "image/png", b"5"),
        ):
            with self.assertRaises(NotFound):
                missing()


WRITER = """
import sys
from pathlib import Path
from pindo.store import builds
from pindo.store.database import connect
conn = connect(Path(sys.argv[1]))
while True:
    after = builds.change(conn, "one", None, lambda e: e.base | {"n": e.base["n"] + 1})
    print(after.document["n"], flush=True)
"""


class Killed(StoreCase):
    def test_killed_at_any_moment_it_loses_nothing_acknowledged(self):
        builds.create(self.conn, {"n": 0}, id="one")
        for rounds in range(4):
            process = subprocess.Popen(
                [sys.executable, "-c", WRITER, str(self.path)],
                stdout=subprocess.PIPE,
                text=True,
                env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
            )
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
                self.assertEqual(
                    conn.execute("SELECT count(*) FROM journal").fetchone()[0], kept.version
                )
