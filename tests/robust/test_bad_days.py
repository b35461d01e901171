"""Bad days of the data: each says in words what happened, what is safe and what to do; nothing
is answered with an empty list.
"""

import json
import os
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import unittest
import urllib.request
from contextlib import closing
from pathlib import Path

from playwright.sync_api import expect

from pindo.cli import main
from pindo.store.copies import copies, folder_of, make_copy
from pindo.web.app import create_app
from tests.browser.case import BrowserCase
from tests.robust.case import AppCase
from tests.test_cli import run

ROOT = Path(__file__).parents[2]
READ = {"acts": [{"do": "read", "key": "nose_mm", "typed": "24.4"}]}


class DataCase(AppCase):
    def setUp(self):
        super().setUp()
        make_copy(self.database)

    def beside(self, end):
        return self.database.with_name(self.database.name + end)

    def settle(self):
        """All that is known in one file, as after a quiet end."""
        with closing(sqlite3.connect(self.database)) as conn:
            conn.execute("PRAGMA wal_checkpoint(TRUNCATE)")

    def told(self, answer, kind, words, status=503):
        self.assertEqual(
            (answer.status_code, answer.json().get("type")),
            (status, f"/problems/data-{kind}"),
            answer.text[:300],
        )
        self.assertRegex(answer.json()["detail"], words)

    def asks(self):
        url = f"/api/builds/{self.build_id}"
        yield self.client.get("/api/builds")
        yield self.client.get(url)
        yield self.client.post(f"{url}/entries", json=READ)
        yield self.client.get(f"{url}/bundle")
        yield self.client.get(f"{url}/now")


class WhileServing(DataCase):
    def test_the_file_is_taken_away_or_a_folder_stands_in_its_place(self):
        self.settle()
        shutil.move(self.database, self.folder / "kept")
        for answer in self.asks():
            self.told(answer, "missing", "not there any more. Nothing was made in its place.*check")
        self.assertFalse(self.database.exists())
        self.database.mkdir()
        for answer in self.asks():
            self.told(answer, "missing", "is a folder")
        self.database.rmdir()
        shutil.move(self.folder / "kept", self.database)
        self.assertEqual(self.client.get(f"/api/builds/{self.build_id}").status_code, 200)

    def test_a_damaged_file_says_so_and_is_left_as_it_is(self):
        self.settle()
        whole = self.database.read_bytes()
        page = int.from_bytes(whole[16:18], "big")
        for spoiled in (
            b"",
            b"only words " * 4000,
            b"\0" * page + whole[page:],
            whole[: len(whole) // 2],
            b"".join(
                b"\xaa" * page if n % 5 == 4 else whole[n * page : n * page + page]
                for n in range(len(whole) // page)
            ),
        ):
            with self.subTest(len(spoiled)):
                for end in ("-wal", "-shm"):
                    self.beside(end).unlink(missing_ok=True)
                self.database.write_bytes(spoiled)
                answers = list(self.asks())
                self.assertNotEqual(answers[0].text, "[]")
                self.assertFalse([a.status_code for a in answers if a.status_code == 500])
                bad = [a for a in answers if a.status_code != 200]
                self.assertTrue(bad)
                for answer in bad:
                    self.told(answer, "damaged", "left as it is.*check")
                self.assertEqual(
                    self.client.get("/api/data").json()["copies"][0]["name"],
                    copies(self.database)[0].name,
                )
                code, out, err = run("check", "--data", self.database.parent)
                self.assertEqual(code, 2, out)
                self.assertIn(f"restore {folder_of(self.database)}", err)
                restored = self.client.post(
                    f"/api/data/copies/{copies(self.database)[0].name}/restore"
                )
                self.assertEqual(
                    (restored.status_code, restored.json()["builds"]), (200, 1), restored.text[:300]
                )
                self.assertEqual((self.database.parent / restored.json()["kept_as"]).exists(), True)
                self.assertEqual(self.client.get(f"/api/builds/{self.build_id}").status_code, 200)

    def test_reading_goes_on_while_another_program_holds_it(self):
        with closing(sqlite3.connect(self.database, isolation_level=None)) as other:
            other.execute("BEGIN IMMEDIATE")
            answers = list(self.asks())
            self.assertEqual([a.status_code for i, a in enumerate(answers) if i != 2], [200] * 4)
            self.told(answers[2], "held", "Another program holds.*Nothing of this was stored")
            other.execute("ROLLBACK")
        self.assertEqual(
            self.client.post(f"/api/builds/{self.build_id}/entries", json=READ).status_code, 200
        )

    def test_a_database_of_another_program_or_without_tables_is_not_pindos(self):
        self.settle()
        self.database.unlink()
        with closing(sqlite3.connect(self.database)) as conn:
            conn.execute("CREATE TABLE theirs (a)")
        for answer in self.asks():
            self.told(answer, "damaged", "not Pindo's")


class AtTheStart(DataCase):
    def served(self, *more):
        return run("serve", "--port", 0, "--data", self.database.parent, *more)

    def test_it_does_not_start_over_damage_or_nothing_and_names_the_newest_good_copy(self):
        self.settle()
        for spoil in (
            lambda: self.database.write_bytes(b"words" * 3000),
            lambda: self.database.write_bytes(self.database.read_bytes()[:9000]),
            self.database.unlink,
            self.database.mkdir,
        ):
            if self.database.is_dir():
                self.database.rmdir()
            spoil()
            for end in ("-wal", "-shm"):
                self.beside(end).unlink(missing_ok=True)
            code, _, err = self.served()
            self.assertEqual(code, 2)
            self.assertIn(f"./pindo restore {folder_of(self.database)}/copy-", err)
        self.database.rmdir()
        self.assertEqual(
            main(
                [
                    "restore",
                    str(folder_of(self.database) / copies(self.database)[0].name),
                    "--data",
                    str(self.database.parent),
                ]
            ),
            0,
        )
        self.assertEqual(create_app(self.database).state.database, self.database)

    def test_two_at_once_and_a_restore_under_a_server_are_refused(self):
        from pindo.serve import only_server

        with only_server(self.database):
            self.assertIn("Another Pindo is at work", self.served()[2])
            code, _, err = run(
                "restore",
                folder_of(self.database) / copies(self.database)[0].name,
                "--data",
                self.database.parent,
            )
            self.assertEqual((code, "Stop it first" in err), (2, True))

    def test_addresses_that_others_reach_want_the_shop_mode(self):
        self.assertIn("Add --shop", self.served("--host", "192.0.2.1")[2])
        self.assertIn(
            "no address that a browser can open", self.served("--host", "0.0.0.0", "--shop")[2]
        )


LIMITED = """
import json, os, resource, signal, sys
from pathlib import Path
from fastapi.testclient import TestClient
from pindo.web.app import create_app
database, how = Path(sys.argv[1]), sys.argv[2]
client = TestClient(create_app(database), base_url="http://127.0.0.1:8137", raise_server_exceptions=False)
id = client.get("/api/builds").json()[0]["id"]
read = lambda typed: client.post(f"/api/builds/{id}/entries", json={"acts": [{"do": "read", "key": "nose_mm", "typed": typed}]})
assert read("24").status_code == 200
client.get(f"/api/builds/{id}/bundle"), client.get("/api/nowhere")
limit = lambda most: resource.setrlimit(resource.RLIMIT_FSIZE, (most, resource.RLIM_INFINITY))
if how == "full":
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    limit(max(p.stat().st_size for p in database.parent.glob("pindo.sqlite*")))
else:
    for file in database.parent.iterdir():
        file.chmod(0o555 if file.is_dir() else 0o444)
    database.parent.chmod(0o555)
    if os.geteuid() == 0:
        os.setuid(65534)
    client = TestClient(create_app(database), base_url="http://127.0.0.1:8137", raise_server_exceptions=False)
answers = [read(str(20 + n / 10)) for n in range(40)]
bad = next(a for a in answers if a.status_code != 200)
listed, opened, bundle = client.get("/api/builds"), client.get(f"/api/builds/{id}"), client.get(f"/api/builds/{id}/bundle")
if how == "full":
    limit(8192)
copied = client.post("/api/data/copies")
from pindo.store.copies import backup
where = Path(sys.argv[3]) / "backup.sqlite"
try:
    backup(database, where)
    backed = "written"
except Exception as error:
    backed = str(error)
print(json.dumps({"said": [bad.status_code, bad.json()["type"], bad.json()["detail"]], "reads": [listed.status_code, len(listed.json()), opened.status_code, bundle.status_code],
    "copy": [copied.status_code, copied.json().get("detail", "")], "backup": backed}))
"""


class Limited(DataCase):
    def limited(self, how):
        elsewhere = self.folder / "elsewhere"
        elsewhere.mkdir()
        for folder in (self.folder, elsewhere):
            folder.chmod(0o777)
        self.addCleanup(self.database.parent.chmod, 0o700)
        words = [
            sys.executable,
            "-W",
            "ignore",
            "-c",
            LIMITED,
            str(self.database),
            how,
            str(elsewhere),
        ]
        done = subprocess.run(
            words,
            capture_output=True,
            text=True,
            env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
        )
        self.assertEqual(done.returncode, 0, done.stderr[-900:])
        return json.loads(done.stdout)

    def test_a_full_disk_says_so_and_reading_goes_on(self):
        found = self.limited("full")
        self.assertEqual(found["said"][:2], [507, "/problems/data-full"], found)
        self.assertRegex(
            found["said"][2], "takes nothing more. Nothing of this was stored.*Make room"
        )
        self.assertEqual(found["reads"], [200, 1, 200, 200])
        self.assertEqual(found["copy"][0], 409)
        self.assertRegex(
            found["copy"][1] + found["backup"],
            "could not be written.*The data file is untouched.*could not be written",
        )
        with closing(sqlite3.connect(self.database)) as conn:
            self.assertEqual(conn.execute("PRAGMA integrity_check").fetchone()[0], "ok")

    def test_a_read_only_folder_is_read_and_copied_elsewhere(self):
        found = self.limited("read-only")
        self.assertEqual(found["said"][:2], [503, "/problems/data-read-only"], found)
        self.assertRegex(found["said"][2], "read-only. Nothing of this was stored.*./pindo backup")
        self.assertEqual(
            (found["reads"], found["copy"][0], found["backup"]),
            ([200, 1, 200, 200], 409, "written"),
        )


class Stopped(DataCase):
    def test_ctrl_c_ends_it_whatever_it_is_doing(self):
        process = subprocess.Popen(
            [
                sys.executable,
                "-m",
                "pindo.cli",
                "serve",
                "--port",
                "0",
                "--data",
                str(self.folder / "own"),
            ],
            stdout=subprocess.PIPE,
            text=True,
            env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
        )
        self.addCleanup(process.stdout.close)
        self.addCleanup(process.kill)
        line = process.stdout.readline()
        port = int(line.split("http://127.0.0.1:")[1].split("/")[0])
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health") as answer:
            self.assertEqual(answer.status, 200)
        held = [socket.create_connection(("127.0.0.1", port)) for _ in range(3)]
        self.addCleanup(lambda: [c.close() for c in held])
        held[0].sendall(
            b"POST /api/builds HTTP/1.1\r\nHost: 127.0.0.1:%d\r\nContent-Type:"
            b" application/json\r\nContent-Length: 50\r\n\r\n{" % port
        )
        held[1].sendall(b"GET /api/catalogue HTTP/1.1\r\nHost: 127.0.0.1:%d\r\n\r\n" % port)
        process.send_signal(signal.SIGINT)
        self.assertEqual(process.wait(timeout=60), 0)


class AtTheScreen(BrowserCase):
    def test_what_is_typed_on_a_bad_day_is_kept_and_sent_later(self):
        page, id = self.demo_copy("stack")
        with closing(sqlite3.connect(self.database, isolation_level=None)) as other:
            other.execute("BEGIN IMMEDIATE")
            field = page.locator("#figure-nose_mm")
            field.fill("24.4")
            field.press("Enter")
            expect(page.locator(".footbar")).to_contain_text("Another program holds the data file")
            expect(page.locator(".saved")).to_contain_text("1 not stored since")
            other.execute("ROLLBACK")
        expect(page.locator(".saved")).to_contain_text("saved")
        expect(page.locator(".footbar")).to_have_count(0)
        self.assertIn(
            "24.4",
            [
                t["typed"]
                for s in self.document(id)["document"]["dims"]["nose_mm"]["statements"]
                for t in s["takes"]
            ],
        )

    def test_a_build_that_does_not_open_has_ways_on(self):
        page, id = self.demo_copy("stack")
        self.context.request.post(f"{self.base}/api/builds/{id}/entries?hand=other", data=READ)
        with closing(sqlite3.connect(self.database)) as conn:
            conn.execute(
                "UPDATE build SET document = json_set(document, '$.layout', 'upside down') WHERE"
                " id = ?",
                (id,),
            )
            inverse = '[{"op":"replace","path":"/layout","value":"lengthwise"}]'
            conn.execute(
                "UPDATE journal SET inverse = json_insert(inverse, '$[#]', json(?)) WHERE build_id"
                " = ? AND version = 2",
                (inverse[1:-1], id),
            )
            conn.commit()
        page.goto(f"{self.base}/build/{id}/stack")
        expect(page.get_by_role("heading", name="This build cannot be opened")).to_be_visible()
        expect(page.get_by_role("region", name="History")).to_contain_text("Nose length")
        with page.expect_download() as download:
            page.get_by_role("link", name="Export the document").click()
        self.assertIn("upside down", Path(download.value.path()).read_text())
        page.get_by_role("button", name="Undo the last change").click()
        page.wait_for_selector(".findings .finding")

    def test_the_data_is_copied_checked_and_restored_at_the_screen(self):
        page, id = self.demo_copy("stack")
        page.goto(self.base)
        panel = page.get_by_role("region", name="The data")
        panel.get_by_role("button", name="Copy now").click()
        expect(panel.get_by_role("status")).to_contain_text("Copied as copy-")
        self.context.request.post(f"{self.base}/api/builds/{id}/entries", data=READ)
        panel.get_by_role("button", name="check the copy of").first.click()
        expect(panel.locator(".copies li").first).to_contain_text("sound, ")
        panel.get_by_role("button", name="restore the copy of").first.click()
        panel.get_by_role("button", name="Restore it").click()
        expect(panel.get_by_role("status")).to_contain_text(
            "What was there is kept as before-restore-"
        )
        self.assertEqual(self.document(id)["version"], 1)
        page.set_input_files(
            "section[aria-label='The data'] input[type=file]",
            {"name": "letter.sqlite", "mimeType": "application/octet-stream", "buffer": b"dear"},
        )
        panel.get_by_role("button", name="Restore it").click()
        expect(panel.get_by_role("alert")).to_contain_text("Nothing was changed")


if __name__ == "__main__":
    unittest.main()
