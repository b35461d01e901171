"""The command line: exit codes, words, files."""

import contextlib
import io
import json
import socket
import tempfile
import unittest
from pathlib import Path

from pindo.cli import main, parser
from pindo.demo import pump_tender
from pindo.formats.bundle import read_bundle
from pindo.serve import seed
from pindo.web.serving import listen
from tests.support import build, said

ROOT = Path(__file__).parents[1]


def run(*words):
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = main([str(w) for w in words])
    return code, out.getvalue(), err.getvalue()


class CommandCase(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, content):
        path = self.folder / "build.json"
        path.write_text(content if isinstance(content, str) else content.model_dump_json(), "utf-8")
        return path


class AssessAFile(CommandCase):
    def test_a_build_that_fouls_exits_1_with_its_ways_out(self):
        code, out, _ = run("assess", self.file(pump_tender()))
        self.assertEqual(code, 1)
        self.assertLess(out.index("FOULS"), out.index("TIGHT"))
        self.assertIn("way out: Shim under the slave 2.5 to 0.9", out)

    def test_a_build_without_a_foul_exits_0(self):
        code, out, _ = run(
            "assess", self.file(build(said(friction_face_mm="282", disc_od_mm="275")))
        )
        self.assertEqual(code, 0)
        self.assertIn("goes", out)

    def test_json(self):
        _, out, _ = run("assess", self.file(pump_tender()), "--json")
        self.assertEqual(json.loads(out)["tallies"]["stack"]["fouls"], 3)

    def test_a_bad_file_exits_2_with_every_problem(self):
        bad = pump_tender()
        bad.dims["nose_mm"].statements[0].takes[0].typed = "12..5"
        bad.engine_face.holes[0].v = "1,234"
        code, _, err = run("assess", self.file(bad))
        self.assertEqual(code, 2)
        self.assertIn("/dims/nose_mm/statements/0/takes/0/typed", err)
        self.assertIn("/engine_face/holes/0/v", err)
        for content in ("{", "[]", '{"name": ""}', "\x00"):
            self.assertEqual(run("assess", self.file(content))[0], 2, content)
        self.assertEqual(run("assess", self.folder / "none.json")[0], 2)


class Serving(CommandCase):
    def test_answers_are_not_held_back_for_an_acknowledgement(self):
        with listen("127.0.0.1", 0) as listening:
            listening.listen()
            with socket.create_connection(listening.getsockname()) as client:
                served, _ = listening.accept()
                with served, client:
                    self.assertTrue(served.getsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY))

    def test_a_port_that_is_taken_is_said(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            code, _, err = run("serve", "--port", taken.getsockname()[1], "--data", self.folder)
        self.assertEqual(code, 2)
        self.assertIn("is taken. Choose another with --port", err)


class Others(CommandCase):
    def test_every_command_that_the_launcher_names_is_there(self):
        named = (ROOT / "pindo").read_text("utf-8").split('"""')[1].split("./pindo ")[1]
        commands = {words.split()[0] for words in named.split("|")}
        known = {action.dest: action for action in parser()._actions}["command"].choices
        self.assertEqual(commands - set(known), {"test", "mutate", "soak", "bench"})

    def test_a_build_is_exported_with_everything_and_never_over_a_file(self):
        database = self.folder / "pindo.sqlite"
        seed(database)
        file = self.folder / "out.zip"
        self.assertEqual(run("export", "garden-trolley", file, "--data", self.folder)[0], 0)
        self.assertEqual(read_bundle(io.BytesIO(file.read_bytes())).history[0]["kind"], "create")
        self.assertIn(
            "is there already", run("export", "garden-trolley", file, "--data", self.folder)[2]
        )
        code, _, err = run("export", "nobody", self.folder / "none.zip", "--data", self.folder)
        self.assertEqual(
            (code, "no build nobody" in err, (self.folder / "none.zip").exists()), (2, True, False)
        )

    def test_the_data_is_looked_through(self):
        seed(self.folder / "pindo.sqlite")
        code, out, _ = run("check", "--data", self.folder)
        self.assertEqual((code, "4 builds" in out, "sound" in out), (0, True, True))

    def test_backup_without_data_says_so(self):
        code, _, err = run("backup", self.folder / "copy.sqlite", "--data", self.folder)
        self.assertEqual(code, 2)
        self.assertIn("is not there any more", err)

    def test_schemas_rules_and_demo_are_printed(self):
        self.assertEqual(json.loads(run("schema")[1])["title"], "Build")
        self.assertIn("/api/builds/{id}", json.loads(run("schema", "--openapi")[1])["paths"])
        self.assertIn("| limit | default |", run("rules")[1])
        self.assertEqual(
            run("licences")[1],
            (ROOT / "docs" / "licences.md").read_text("utf-8"),
            "run: ./pindo licences > docs/licences.md",
        )
        self.assertEqual(json.loads(run("demo-file")[1])["name"], pump_tender().name)
