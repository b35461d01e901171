"""The server over HTTP: versions, refusals in plain words, limits, files."""

import io
import json
import tempfile
from contextlib import closing
from pathlib import Path
from unittest import mock

import pypdf
from PIL import Image

from pindo.core.judging.question import QUESTIONS
from pindo.demo import pump_tender
from pindo.store import builds
from pindo.store.database import connect
from pindo.web.guard import MAX_BODY
from tests.robust.case import AppCase

ROOT = Path(__file__).parents[2]
PATCH = {"Content-Type": "application/json-patch+json"}
JSON = {"Content-Type": "application/json"}


def plate(typed, pm="0.05"):
    return {
        "op": "add",
        "path": "/dims/plate_mm",
        "value": {
            "statements": [{"id": "s1", "source": "drawing", "pm": pm, "takes": [{"typed": typed}]}]
        },
    }


def picture(form, size=(8, 6), **more):
    """A picture of one colour, as a camera might write it."""
    stream = io.BytesIO()
    Image.new("RGB", size, "teal").save(stream, form, **more)
    return stream.getvalue()


class ApiCase(AppCase):
    def setUp(self):
        super().setUp()
        self.epoch = self.made["tag"].split("-")[0]
        self.url = f"/api/builds/{self.build_id}"

    def at(self, version):
        return {"If-Match": f'"{self.epoch}-{version}"'}

    def patch(self, *operations, version=1, **query):
        return self.client.patch(
            self.url,
            content=json.dumps(operations),
            headers={**PATCH, **self.at(version)},
            params=query,
        )

    def send_photo(self, content, id=None, kind="image/png"):
        return self.client.post(
            f"/api/builds/{id or self.build_id}/photos",
            content=content,
            headers={"Content-Type": kind},
        )

    def problem(self, answer, status, words):
        self.assertEqual(answer.status_code, status, answer.text[:400])
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        body = answer.json()
        self.assertEqual(body["status"], status)
        self.assertRegex(
            body["title"]
            + " "
            + body["detail"]
            + " "
            + " ".join(e["detail"] for e in body["errors"]),
            words,
        )
        return body


class Library(ApiCase):
    def test_a_part_goes_from_one_build_into_another(self):
        kept = self.client.post("/api/library", json={"build": self.build_id, "part": 6})
        self.assertEqual(kept.status_code, 201)
        (part,) = self.client.get("/api/library").json()["parts"]
        self.assertEqual((part["kind"], part["sizes"], part["id"]), ("disc", 10, kept.json()["id"]))
        row = {k: v for k, v in part["row"].items() if k != "n"}
        other = self.client.post("/api/builds", json={"name": "Other"}).json()
        url = f"/api/builds/{other['id']}"
        acts = [{"do": "add", "list": "parts", "row": row}, {"do": "fit", "part": 1}]
        made = self.client.post(f"{url}/entries", json={"acts": acts}).json()
        hub = made["assessment"]["quantities"]["hub_mm"]
        self.assertEqual((hub["value"], hub["source"]), (26.0, "measured elsewhere"))
        found = self.client.get(f"{url}/candidates", params={"kind": "disc"}).json()
        self.assertEqual([c["library"] for c in found if c["library"]], [part["id"]])

    def test_files_go_out_and_in_and_duplicates_are_merged(self):
        for n in (6, 6):
            self.client.post("/api/library", json={"build": self.build_id, "part": n})
        (pair,) = self.client.get("/api/library").json()["alike"]
        gone = {"id": pair[0], "gone": pair[1]}
        self.assertEqual(self.client.post("/api/library/merge", json=gone).status_code, 200)
        for form in ("json", "csv"):
            content = self.client.get(f"/api/library/parts.{form}").content
            taken = self.client.post(
                "/api/library/table",
                content=content,
                headers={"Content-Type": "application/octet-stream"},
            )
            self.assertEqual(taken.status_code, 201, taken.text)
        parts = self.client.get("/api/library").json()["parts"]
        self.assertEqual([(p["name"], p["sizes"]) for p in parts], [("disc, 11 inch", 10)] * 3)
        for bad in (b"{", b"[]", b"part;kind\nx;disc", b"PK\0", b"[" * 100_000):
            refused = self.client.post(
                "/api/library/table",
                content=bad,
                headers={"Content-Type": "application/octet-stream"},
            )
            self.assertEqual(refused.status_code, 422, bad[:20])
            self.assertIn("Nothing was", refused.json()["detail"])
        for p in parts:
            self.assertEqual(self.client.delete(f"/api/library/{p['id']}").status_code, 204)
        self.assertEqual(self.client.delete("/api/library/none").status_code, 404)
        self.assertEqual(self.client.get("/api/library").json(), {"parts": [], "alike": []})


class Tables(ApiCase):
    def understood(self, content, **query):
        return self.client.post(
            f"{self.url}/table",
            content=content,
            headers={"Content-Type": "application/octet-stream"},
            params=query,
        )

    def test_a_table_is_understood_and_nothing_is_stored(self):
        answer = self.understood(
            "18,2\n24".encode("utf-16"), question="stack.spacing", start="plate_mm"
        )
        self.assertEqual(
            [(x["to"], x["act"]["typed"]) for x in answer.json()["lines"]],
            [("Adapter plate", "18,2"), ("Shaft tip out of the mouth", "24")],
        )
        self.assertEqual(self.client.get(self.url).json()["version"], 1)

    def test_what_is_no_table_is_refused_in_words(self):
        for content, query, status, words in (
            (b"PK\0\0", {}, 422, "no text"),
            (b"1\n" * 2001, {"question": "stack.spacing"}, 422, "2000 can be taken"),
            (b"1", {"into": "nonsense"}, 422, "no list nonsense"),
            (b"1" * (MAX_BODY + 1), {}, 413, "At most 4 MB"),
        ):
            with self.subTest(words):
                answer = self.understood(content, **query)
                self.assertEqual(answer.status_code, status)
                self.assertIn(words, answer.json()["detail"])

    def test_ledger_and_lists_go_out(self):
        for name, head in (("ledger", "key,size"), ("lists/engine_face.holes", "no.,name")):
            answer = self.client.get(f"{self.url}/{name}.csv")
            self.assertTrue(answer.text.lstrip("\ufeff").startswith(head), answer.text[:80])
            self.assertIn("attachment", answer.headers["content-disposition"])
        self.assertEqual(self.client.get(f"{self.url}/lists/no.csv").status_code, 422)


class Versions(ApiCase):
    def test_a_change_answers_with_version_findings_and_etag(self):
        answer = self.patch(plate("17.5"), why="thinner stock")
        self.assertEqual(
            (answer.status_code, answer.headers["etag"], answer.json()["version"]),
            (200, f'"{self.epoch}-2"', 2),
        )
        nose = next(
            f
            for f in answer.json()["assessment"]["findings"]
            if f["id"] == "stack.pilot_engagement"
        )
        self.assertEqual(nose["verdict"], "goes")

    def test_without_a_version_428(self):
        self.problem(
            self.client.patch(self.url, content="[]", headers=PATCH),
            428,
            "Send If-Match.*Nothing was stored",
        )

    def test_a_stale_version_412_with_both(self):
        self.patch(plate("17.5"), who="first tab", why="thinner")
        answer = self.patch(plate("19"))
        body = self.problem(
            answer,
            412,
            "at version 2; your change was made against version 1, and the same was changed since;"
            " nothing of yours was stored",
        )
        self.assertEqual(
            (body["your_version"], body["current_version"], body["current_tag"]),
            (1, 2, f"{self.epoch}-2"),
        )
        (conflict,) = body["conflicts"]
        self.assertEqual(
            (conflict["place"], conflict["yours"][0]["typed"], conflict["theirs"][0]["typed"]),
            ("/dims/plate_mm/statements/s1/takes", "19", "17.5"),
        )
        self.assertEqual(
            (body["since"][0]["who"], "17.5" in str(body["since"][0]["words"])), ("first tab", True)
        )
        self.assertLess(len(answer.content), 4000)
        self.problem(
            self.client.patch(self.url, content="[]", headers={**PATCH, "If-Match": "2"}),
            412,
            "in quotation marks",
        )

    def test_a_stale_change_of_another_place_is_laid_on_the_newer_version_and_says_so(self):
        self.patch({"op": "remove", "path": "/mounts/0"}, who="first tab")
        answer = self.patch({"op": "replace", "path": "/mounts/1/name", "value": "my mount"}).json()
        self.assertEqual(
            (answer["version"], answer["document"]["mounts"][0]["name"]), (3, "my mount")
        )
        self.assertEqual([(c["version"], c["who"]) for c in answer["between"]], [(2, "first tab")])
        self.assertEqual(self.patch(plate("17.5"), version=3).json()["between"], [])

    def test_a_version_of_another_life_never_fits(self):
        for tag in ("abc-1", f"{self.epoch}-99"):
            self.problem(
                self.client.patch(
                    self.url, content="[]", headers={**PATCH, "If-Match": f'"{tag}"'}
                ),
                412,
                "nothing of it was stored",
            )

    def test_undo_of_another_hands_change_is_asked_first(self):
        self.patch(plate("17.5"), who="I. Naumann", hand="theirs")
        body = self.problem(
            self.client.post(f"{self.url}/undo?hand=mine", headers=self.at(2)),
            409,
            "not yours: I. Naumann, version 2",
        )
        self.assertTrue(any("17.5" in w for w in body["change"]["words"]), body["change"])
        self.assertEqual(
            self.client.post(f"{self.url}/undo?hand=mine&of=2", headers=self.at(2)).json()[
                "version"
            ],
            3,
        )

    def test_where_a_build_is_now_is_told_in_few_words(self):
        self.patch(plate("17.5"), who="first tab", hand="h1")
        now = self.client.get(f"{self.url}/now")
        self.assertEqual(
            {k: now.json()[k] for k in ("tag", "version", "hand", "who")},
            {"tag": f"{self.epoch}-2", "version": 2, "hand": "h1", "who": "first tab"},
        )
        self.assertLess(len(now.content), 600)

    def test_a_trial_stores_nothing(self):
        answer = self.client.post(
            f"{self.url}/entries",
            params={"dry": True},
            json={"acts": [{"do": "patch", "ops": [plate("17.5")]}]},
        ).json()
        stored = self.client.get(self.url).json()
        self.assertEqual(stored["version"], 1)
        self.assertIn("stack.pilot_engagement", answer["order"])
        stood = {f["id"]: f for f in stored["assessment"]["findings"]}
        told = {id: stood[id] | fields for id, fields in answer["altered"].items()}
        told |= {f["id"]: f for f in answer["findings"]}
        self.assertEqual(told["stack.pilot_engagement"]["verdict"], "goes")
        # Only what reads otherwise is told: every other finding stands exactly as stored.
        self.assertNotIn("mate.dowel_pins.G22", told)
        self.assertFalse(
            [f["id"] for f in stored["assessment"]["findings"] if told.get(f["id"]) == f]
        )
        touched = answer["ripple"]
        self.assertEqual(touched["events"], ["plate, shield, spacer or adapter thickness"])
        self.assertIn("face_tir_mm", [x["address"] for x in touched["lapsing"]])
        self.assertIn(
            ("stack.pilot_engagement", "tight", "goes"),
            [(t["id"], t["before"], t["after"]) for t in touched["turns"]],
        )

    def test_undo_redo_and_history(self):
        before = self.client.get(self.url).json()["document"]
        self.patch(plate("17.5"), who="me", why="thinner")
        undone = self.client.post(f"{self.url}/undo", headers=self.at(2)).json()
        self.assertEqual(undone["document"], before)
        self.assertTrue(undone["can_redo"])
        redone = self.client.post(f"{self.url}/redo", headers=self.at(3)).json()
        self.assertEqual(
            redone["document"]["dims"]["plate_mm"]["statements"][0]["takes"][0]["typed"], "17.5"
        )
        lines = self.client.get(f"{self.url}/history").json()
        self.assertEqual([x["kind"] for x in lines], ["redo", "undo", "change", "create"])
        self.assertTrue(
            any("Adapter plate" in w and "17.5" in w for w in lines[2]["words"]), lines[2]
        )
        self.problem(
            self.client.post(f"{self.url}/redo", headers=self.at(4)), 409, "nothing to redo"
        )

    def test_an_event_is_previewed_then_kept(self):
        preview = self.client.get(
            f"{self.url}/events", params={"event": "dowel out, in or replaced"}
        ).json()
        self.assertEqual([x["shown"] for x in preview["lapsing"]], ["0.11"])
        act = {"do": "event", "event": "dowel out, in or replaced"}
        after = self.client.post(f"{self.url}/entries", json={"acts": [act], "lapse": True}).json()
        self.assertEqual(
            next(
                f["condition"]
                for f in after["assessment"]["findings"]
                if f["id"] == "mate.face_tir"
            ),
            "lapsed",
        )
        self.problem(
            self.client.get(f"{self.url}/events", params={"event": "full moon"}), 422, "no event"
        )
        self.problem(
            self.client.post(f"{self.url}/entries", json={"acts": [act | {"event": "full moon"}]}),
            422,
            "no event",
        )

    def test_what_was_stored_by_an_earlier_version_is_changed_and_undone(self):
        old = pump_tender().model_dump(mode="json") | {"schema_version": 2}
        for face in ("engine_face", "gearbox_face"):
            old[face]["lands"] = [
                {k: v for k, v in land.items() if k != "n"}
                for land in [{"name": "rib", "u": "5"}, *old[face]["lands"]]
            ]
        with closing(connect(self.app.state.database)) as conn:
            stored = builds.create(conn, old)
        url = f"/api/builds/{stored.id}"
        self.assertEqual(
            [x["n"] for x in self.client.get(url).json()["document"]["gearbox_face"]["lands"]],
            [1, 2],
        )
        after = self.client.post(
            f"{url}/entries",
            json={"acts": [{"do": "remove", "list": "gearbox_face.lands", "row": 1}]},
        ).json()
        self.assertEqual([x["n"] for x in after["document"]["gearbox_face"]["lands"]], [2])
        undone = self.client.post(f"{url}/undo", headers={"If-Match": f'"{after["tag"]}"'}).json()
        self.assertEqual(
            [x["name"] for x in undone["document"]["gearbox_face"]["lands"]], ["rib", "drain nib"]
        )
        back = self.client.post(
            "/api/builds/bundle",
            content=self.client.get(f"{url}/bundle").content,
            headers={"Content-Type": "application/zip"},
        )
        self.assertEqual((back.status_code, back.json()["document"]), (201, undone["document"]))


class Entries(ApiCase):
    READ = {"do": "read", "key": "nose_mm", "typed": "24.4"}
    PLATE = {"do": "plan", "key": "plate_mm", "typed": "17.6", "unit": "mm"}

    def enter(self, *acts, lapse=False, **query):
        return self.client.post(
            f"{self.url}/entries", json={"acts": list(acts), "lapse": lapse}, params=query
        )

    def test_an_entry_needs_no_version_and_is_stored_once(self):
        first = self.enter(self.READ, key="k1", who="I.", why="Nose length")
        again = self.enter(self.READ, key="k1")
        other = self.enter({"do": "read", "key": "hub_mm", "typed": "27"}, key="k2")
        self.assertEqual([a.json()["version"] for a in (first, again, other)], [2, 2, 3])
        line = self.client.get(f"{self.url}/history").json()[1]
        self.assertEqual((line["who"], line["why"]), ("I.", "Nose length"))

    def test_what_would_lapse_readings_is_told_first(self):
        body = self.problem(
            self.enter(self.PLATE), 409, "Keeping this lapses .*Nothing was stored yet"
        )
        self.assertIn("face_tir_mm", [x["address"] for x in body["lapsing"]])
        self.assertEqual(self.client.get(self.url).json()["version"], 1)
        kept = self.enter(self.PLATE, lapse=True).json()
        self.assertEqual(
            (
                kept["assessment"]["quantities"]["plate_mm"]["value"],
                kept["assessment"]["quantities"]["face_tir_mm"]["status"],
            ),
            (17.6, "lapsed"),
        )

    def test_a_patch_from_a_script_lapses_the_same_readings(self):
        kept = self.patch(plate("17.6")).json()
        self.assertEqual(kept["assessment"]["quantities"]["face_tir_mm"]["status"], "lapsed")

    def test_all_acts_or_none_and_each_refusal_in_words(self):
        for act, status, words in (
            ({"do": "read", "key": "hub_mm", "typed": "2..7"}, 422, "not understood|do not group"),
            (
                {"do": "step", "n": 3, "state": "done"},
                422,
                "signed with a name|Write it down first",
            ),
            ({"do": "remove", "list": "mounts", "row": 99}, 409, "not there any more"),
            ({"do": "fly"}, 422, "do"),
        ):
            with self.subTest(act):
                self.problem(self.enter(self.READ, act), status, words)
        self.assertEqual(self.client.get(self.url).json()["version"], 1)

    SAME = [
        (
            {"do": "read", "key": "hub_mm", "typed": "27"},
            {"do": "read", "key": "hub_mm", "typed": "28"},
        ),
        (
            {"do": "put", "list": "joints", "row": 1, "field": "locker", "value": "sealant"},
            {
                "do": "patch",
                "ops": [{"op": "replace", "path": "/joints/0/locker", "value": "none"}],
            },
        ),
        (
            {"do": "remove", "list": "solids", "row": 2},
            {"do": "put", "list": "solids", "row": 2, "field": "name", "value": "x"},
        ),
    ]

    def test_what_another_hand_changed_since_it_was_on_the_screen_is_never_written_over(self):
        for theirs, mine in self.SAME:
            with self.subTest(mine):
                tag = self.client.get(self.url).json()["tag"]
                self.assertEqual(
                    self.enter(
                        theirs, lapse=True, who="I. Naumann", hand="theirs", seen=tag
                    ).status_code,
                    200,
                )
                if theirs["do"] != "remove":  # a row that is gone says so by itself
                    body = self.problem(
                        self.enter(mine, lapse=True, hand="mine", seen=tag),
                        409,
                        "I. Naumann changed the same since you looked",
                    )
                    self.assertEqual(body["type"], "/problems/moved-on")
                    self.assertEqual(
                        self.enter(mine, lapse=True, hand="theirs", seen=tag).status_code,
                        200,
                        "one's own is no other hand's",
                    )
                else:
                    self.problem(self.enter(mine, hand="mine", seen=tag), 409, "not there any more")
                other = {"do": "read", "key": "nose_mm", "typed": "24.4"}
                self.assertEqual(
                    self.enter(other, lapse=True, hand="mine", seen=tag).status_code, 200
                )
        self.problem(self.enter(self.READ, seen="abc-1"), 412, "enter it again")
        self.problem(self.enter(self.READ, seen="yesterday"), 422, "cannot be read")

    def test_an_undo_leaves_no_reading_standing_that_was_taken_with_the_other_size(self):
        self.enter(self.PLATE, lapse=True, hand="mine")
        reading = {"do": "read", "key": "face_tir_mm", "typed": "0.06"}
        self.enter(reading, hand="theirs", who="I. Naumann")
        told = self.problem(
            self.client.post(f"{self.url}/undo?hand=mine", headers=self.at(3)),
            409,
            "Since then was taken: Runout of the bell's face \\(0.06\\)|Since then was taken:"
            " .*0.06",
        )
        self.assertIn("undo those first", told["detail"])
        self.assertEqual(self.client.get(self.url).json()["version"], 3)
        # A reading that the size does not spoil is no hindrance, and one's own in turn are undone
        # as they stood.
        self.assertEqual(
            self.client.post(f"{self.url}/undo?hand=theirs", headers=self.at(3)).status_code, 200
        )
        self.enter({"do": "read", "key": "nose_mm", "typed": "24.4"}, hand="theirs")
        undone = self.client.post(f"{self.url}/undo?hand=mine", headers=self.at(5)).json()
        self.assertEqual(
            (
                undone["assessment"]["quantities"]["plate_mm"]["value"],
                undone["assessment"]["quantities"]["face_tir_mm"]["status"],
            ),
            (18.0, "standing"),
        )
        again = self.client.post(f"{self.url}/redo?hand=mine", headers=self.at(6)).json()
        self.assertEqual(again["assessment"]["quantities"]["face_tir_mm"]["status"], "lapsed")

    def test_rules_hold_for_raw_patches_too(self):
        self.problem(
            self.patch({"op": "replace", "path": "/steps/2/state", "value": "done"}),
            422,
            "signed with a name|Write it down first",
        )
        self.problem(
            self.patch({"op": "replace", "path": "/steps/4/state", "value": "left out"}),
            422,
            "by name, with a reason and an end",
        )

    def test_a_trial_shows_what_keeping_it_would_leave(self):
        tried = self.client.post(
            f"{self.url}/entries", params={"dry": True}, json={"acts": [self.PLATE]}
        ).json()
        kept = self.enter(self.PLATE, lapse=True).json()
        told = {id: f["verdict"] for id, f in tried["altered"].items() if "verdict" in f}
        told |= {f["id"]: f["verdict"] for f in tried["findings"]}
        self.assertEqual(
            told, {f["id"]: f["verdict"] for f in kept["assessment"]["findings"] if f["id"] in told}
        )
        self.assertEqual(told["mate.face_tir"], "unmeasured")

    def test_undo_says_what_it_undid_and_where(self):
        self.enter(self.PLATE, lapse=True)
        stepped = self.client.post(f"{self.url}/undo", headers=self.at(2)).json()["stepped"]
        self.assertEqual(
            (stepped["kind"], stepped["places"][0]),
            ("undo", {"station": "stack", "address": "plate_mm"}),
        )
        self.assertTrue(any("Adapter plate" in w for w in stepped["words"]), stepped)
        self.assertIsNone(self.client.get(self.url).json()["stepped"])


class Refusals(ApiCase):
    def test_all_entries_that_cannot_be_read_at_once_each_on_its_field(self):
        bad = [
            {"op": "replace", "path": "/dims/nose_mm/statements/0/takes/0/typed", "value": "12..5"},
            {"op": "replace", "path": "/engine_face/holes/0/u", "value": "1,234"},
            {"op": "add", "path": "/options/pilot_in", "value": "sump"},
        ]
        body = self.problem(self.patch(*bad), 422, "what you typed is still in its field")
        self.assertEqual(
            {e["pointer"] for e in body["errors"]},
            {
                "/dims/nose_mm/statements/0/takes/0/typed",
                "/engine_face/holes/0/u",
                "/options/pilot_in",
            },
        )
        self.assertEqual(self.client.get(self.url).json()["version"], 1)

    CASES = [
        ([{"op": "remove", "path": "/dims/nothing_here"}], "does not fit this build"),
        ([{"op": "replace", "path": "/layout", "value": "upside down"}], "lengthwise"),
        (
            [{"op": "add", "path": "/dims/unheard_of_mm", "value": {"statements": []}}],
            "no dimension unheard_of_mm",
        ),
        (
            [{"op": "add", "path": "/rules/gravity", "value": {"value": 9, "note": "on the moon"}}],
            "no rule gravity",
        ),
        ([{"op": "jump", "path": "/layout"}], "'add', 'remove'"),
        ([{"op": "test", "path": "/layout", "value": "reversed"}], "does not fit this build"),
        ([plate("1")] * 2001, "2000 operations"),
    ]

    def test_more_acts_than_a_build_of_its_size_takes_are_sent_in_parts(self):
        with mock.patch("pindo.web.service.MOST_WORK", 1000):
            acts = [{"do": "read", "key": "nose_mm", "typed": "24"}]
            self.assertEqual(
                self.client.post(
                    f"{self.url}/entries", params={"dry": True}, json={"acts": acts}
                ).status_code,
                200,
            )
            self.problem(
                self.client.post(
                    f"{self.url}/entries", params={"dry": True}, json={"acts": acts * 9}
                ),
                422,
                "9 changes at once are too many",
            )

    def test_a_patch_that_cannot_be_kept(self):
        for operations, words in self.CASES:
            with self.subTest(words):
                self.problem(self.patch(*operations), 422, words)

    def test_bodies_that_are_no_patch(self):
        for content in ("", "{", "null", '"x"', "[1]", '[{"op":"add"}]'):
            with self.subTest(content):
                answer = self.client.patch(
                    self.url, content=content, headers={**PATCH, **self.at(1)}
                )
                self.problem(answer, 422, "cannot be read")

    def test_quantities_are_read_or_refused(self):
        def ask(**q):
            return self.client.get("/api/quantity", params=q)

        read = ask(typed='3/4"').json()
        self.assertAlmostEqual(read.pop("value"), 19.05)
        self.assertEqual(read, {"pm": None, "word": None, "echo": "19.05 mm = 3/4 in"})
        self.assertEqual(ask(typed="plenty").json()["word"], "plenty")
        self.problem(ask(typed="3/4", unit="mm"), 422, "Is 3/4 in inches")
        self.problem(ask(typed="3", kind="smell"), 422, "no smell")

    def test_a_name_of_blanks_is_refused_with_and_without_a_demo(self):
        before = len(self.client.get("/api/builds").json())
        for demo in ("", "pump-tender"):
            self.problem(
                self.client.post("/api/builds", json={"name": " ", "demo": demo}), 422, "name"
            )
        self.assertEqual(len(self.client.get("/api/builds").json()), before)

    def test_what_cannot_be_answered_is_not_stored_and_its_trace_has_a_number(self):
        with (
            mock.patch("pindo.web.answers.assess_inputs", side_effect=KeyError("x")),
            self.assertLogs("pindo.web.service", "ERROR") as log,
        ):
            body = self.problem(
                self.patch(plate("17.5")), 422, "Nothing was stored; the log has the trace under"
            )
        self.assertIn(body["detail"].split()[-1].rstrip("."), log.output[0])
        self.assertEqual(self.client.get(self.url).json()["version"], 1)

    def test_a_build_with_braces_in_its_names_opens_again_and_is_printed(self):
        names = [
            {"op": "replace", "path": path, "value": "{x} {value:>99999999}"}
            for path in (
                "/solids/0/name",
                "/pulleys/0/name",
                "/joints/0/name",
                "/gearbox_face/lands/0/name",
                "/fits/0/name",
                "/name",
            )
        ]
        self.assertEqual(self.patch(*names).status_code, 200)
        again = self.client.get(self.url)
        self.assertEqual(
            (again.status_code, again.json()["document"]["solids"][0]["name"]),
            (200, "{x} {value:>99999999}"),
        )
        for path in (
            "sheets/clear.pdf",
            "sheets/mate.pdf",
            "plate.dxf",
            "plate.svg",
            "handover.pdf",
            "history",
        ):
            self.assertEqual(self.client.get(f"{self.url}/{path}").status_code, 200, path)

    def test_no_such_thing(self):
        self.problem(self.client.get("/api/builds/nobody"), 404, "no build nobody")
        self.problem(self.client.get("/api/nowhere"), 404, "No such address")
        self.problem(self.client.delete(self.url), 428, "If-Match")
        self.assertEqual(self.client.delete(self.url, headers=self.at(1)).status_code, 204)


class Limits(ApiCase):
    def test_only_known_hosts(self):
        for host in (
            "evil.example",
            "evil.example:8137",
            "127.0.0.1.evil.example",
            "",
            "127.0.0.1:9",
            "localhost",
        ):
            self.problem(
                self.client.get("/api/health", headers={"host": host}), 400, "does not answer as"
            )
        for host in ("127.0.0.1:8137", "localhost:8137", "[::1]:8137"):
            self.assertEqual(
                self.client.get("/api/health", headers={"host": host}).status_code, 200
            )

    def test_a_body_has_a_limit_with_and_without_a_stated_length(self):
        self.problem(
            self.client.post("/api/builds/import", content=b" " * (MAX_BODY + 1), headers=JSON),
            413,
            "At most 4 MB",
        )

        def stream():
            for _ in range(MAX_BODY // 65536 + 2):
                yield b" " * 65536

        self.problem(
            self.client.post("/api/builds/import", content=stream(), headers=JSON),
            413,
            "At most 4 MB",
        )

    def test_what_a_page_may_load(self):
        page = self.client.get("/build/x/stack")
        policy = page.headers["content-security-policy"]
        nonce = page.text.split('content="')[1].split('"')[0]
        self.assertIn(f"'nonce-{nonce}'", policy)
        self.assertIn("default-src 'self'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertEqual(page.headers["x-content-type-options"], "nosniff")
        self.assertNotEqual(nonce, self.client.get("/").text.split('content="')[1].split('"')[0])

    def test_names_and_numbers_that_nothing_can_have_are_answered(self):
        for path in ("/%00", "/" + "a" * 300, "/build/" + "b" * 5000):
            self.assertEqual(self.client.get(path).status_code, 200, path[:20])
        self.problem(
            self.client.get(f"{self.url}/history", params={"after": 2**63}), 422, "cannot be read"
        )
        self.problem(self.client.get(f"/api/builds/{'x' * 5000}"), 404, "no build")

    def test_a_fault_answers_with_a_number_that_is_in_the_log(self):
        with (
            mock.patch("pindo.web.service.state", side_effect=RuntimeError("x")),
            self.assertLogs("pindo.web.problems", "ERROR") as log,
        ):
            body = self.problem(self.client.get(self.url), 500, "Pindo failed here")
        self.assertIn(body["detail"].split()[-1].rstrip("."), log.output[0])

    def test_no_file_outside_the_screen(self):
        for path in (
            "/../data/pindo.sqlite",
            "/%2e%2e/data/pindo.sqlite",
            "/..%2fdata%2fpindo.sqlite",
        ):
            self.assertNotIn(b"SQLite format", self.client.get(path).content)


class Files(ApiCase):
    def test_export_and_import_are_there_and_back(self):
        exported = self.client.get(f"{self.url}/build.json")
        self.assertIn("attachment", exported.headers["content-disposition"])
        back = self.client.post(
            "/api/builds/import",
            content=exported.content,
            headers={"Content-Type": "application/json"},
        )
        self.assertEqual(back.status_code, 201)
        self.assertEqual(back.json()["document"], json.loads(exported.content))
        self.assertNotEqual(back.json()["id"], self.build_id)

    def test_a_bad_file_is_refused_whole(self):
        document = pump_tender().model_dump(mode="json")
        document["dims"]["nose_mm"]["statements"][0]["takes"][0]["typed"] = "long"
        document["dims"]["hub_mm"]["statements"][0]["pm"] = "1..2"
        before = len(self.client.get("/api/builds").json())
        self.problem(
            self.client.post("/api/builds/import", json=document),
            422,
            "Some entries cannot be read",
        )
        self.assertEqual(len(self.client.get("/api/builds").json()), before)

    def test_files_of_the_plate_and_sheets(self):
        for path, start in (
            ("plate.dxf", b"  0\n"),
            ("plate.svg", b"<?xml"),
            ("plate.pdf", b"%PDF"),
            ("plate.pdf?paper=Letter", b"%PDF"),
            ("plate.csv", b"order,hole,"),
            ("plate.pdf?paper=A3", b"%PDF"),
            ("plate.pdf?of=wood", b"%PDF"),
            ("plate.stl", b"Pindo"),
        ):
            answer = self.client.get(f"{self.url}/{path}")
            self.assertEqual((answer.status_code, answer.content[: len(start)]), (200, start), path)
        for station in ("survey", "mate", "stack", "seat", "line", "clear", "assemble", "log"):
            self.assertEqual(
                self.client.get(f"{self.url}/sheets/{station}.pdf").content[:4], b"%PDF"
            )
        for name, words in (("MOST_WAYS", "the 1 worst"), ("MOST_SOLIDS", "were not looked for")):
            with mock.patch(f"pindo.web.service.{name}", 1):
                text = pypdf.PdfReader(
                    io.BytesIO(self.client.get(f"{self.url}/sheets/stack.pdf").content)
                ).pages
            self.assertIn(words, " ".join(" ".join(p.extract_text() for p in text).split()))
        blank = self.client.post("/api/builds", json={"name": "blank"}).json()["id"]
        self.problem(self.client.get(f"/api/builds/{blank}/plate.pdf"), 409, "three holes")
        self.problem(self.client.get(f"{self.url}/plate.exe"), 422, "'dxf', 'svg'")
        self.problem(self.client.get(f"/api/builds/{blank}/plate.stl"), 409, "has a thickness")
        self.problem(self.client.get(f"{self.url}/trim.dxf"), 409, "outline of the part")
        self.problem(self.client.get(f"{self.url}/other-plates.pdf"), 409, "two holes")

    def test_files_of_a_trim_and_of_other_plates(self):
        winch = {"name": "winch", "demo": "timber-winch"}
        url = f"/api/builds/{self.client.post('/api/builds', json=winch).json()['id']}"
        for path, start in (
            ("trim.dxf", b"  0\n"),
            ("trim.svg", b"<?xml"),
            ("trim.pdf?paper=A3", b"%PDF"),
            ("other-plates.dxf", b"  0\n"),
            ("other-plates.csv", b"order,hole,"),
        ):
            answer = self.client.get(f"{url}/{path}")
            self.assertEqual((answer.status_code, answer.content[: len(start)]), (200, start), path)

    def test_what_is_known_in_a_photo_is_said_with_its_pm(self):
        corners = [[0, 0], [300, 0], [300, 200], [0, 200]]
        asked = {"known": corners, "width": 300, "width_pm": 1, "height": 200, "height_pm": 1}
        asked |= {"points": [[10, 10], [110, 10]], "what": "length"}
        read = self.client.post("/api/off-a-photo", json=asked)
        self.assertAlmostEqual(read.json()["value"], 100.0)
        for gone in ("width_pm", "height_pm"):
            self.problem(
                self.client.post("/api/off-a-photo", json=asked | {gone: 0}), 422, "its ± in mm"
            )

    def test_a_pattern_is_read_out_of_a_file_and_nothing_is_kept(self):
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" viewBox="0 0 9 9">%s</svg>'
        circles = svg % b'<circle cx="3" cy="4" r="2"/><circle cx="7" cy="1" r="1"/>'

        def ask(content, query=""):
            head = {"Content-Type": "application/octet-stream"}
            return self.client.post(f"/api/pattern{query}", content=content, headers=head)

        found = ask(circles).json()
        self.assertEqual(found["unit"], "mm")
        self.assertEqual([c["circle"]["y"] for c in found["circles"]], [-4, -1])
        self.assertEqual(ask(circles, "?unit=in").json()["circles"][0]["circle"]["d"], 101.6)
        self.problem(ask(svg % b""), 422, "holds no circle")
        self.problem(ask(b"no drawing at all"), 422, "no DXF that can be read")
        self.problem(ask(b""), 422, "holds no circle")
        self.problem(ask(picture("PNG"), "?corners=1&corners=2"), 422, "four corners")
        ends = "?corners=1&corners=2&corners=30&corners=2&width=300"
        self.problem(ask(picture("PNG"), ends), 422, "its ± in mm")
        self.problem(ask(picture("PNG"), f"{ends}&width_pm=1"), 422, "No round hole")
        self.problem(ask(picture("PNG")), 422, "No round hole")
        self.problem(ask(b"\x89PNG\r\n but no picture"), 422, "no JPEG")
        self.problem(ask(circles, "?unit=furlong"), 422, "'mm'")
        self.problem(ask(b"0" * (25 * 1024 * 1024)), 413, "At most 24 MB")


class Vehicle(ApiCase):
    PNG = picture("PNG")

    def test_ways_out_are_asked_for_one_finding_with_or_without_a_trial(self):
        def ask(*operations, finding="stack.release_gap"):
            acts = [{"do": "patch", "ops": list(operations)}] if operations else []
            answer = self.client.post(
                f"{self.url}/opened", params={"finding": finding}, json={"acts": acts}
            )
            self.assertEqual(answer.status_code, 200, answer.text)
            return {w["address"]: w["target"] for w in answer.json()["ways"]}

        self.assertEqual(ask(), {"release_shim_mm": 0.9})
        self.assertNotEqual(ask(plate("17.5")), ask())
        self.assertEqual(ask(finding="stack.tip_clearance"), {})
        nothing = self.client.post(
            f"{self.url}/opened", params={"finding": "nothing.at.all"}, json={"acts": []}
        )
        self.problem(nothing, 404, "no finding nothing.at.all")

    def test_a_photo_is_kept_once_and_told_by_its_bytes(self):
        first = self.send_photo(self.PNG)
        self.assertEqual(first.status_code, 201)
        self.assertEqual(self.send_photo(self.PNG).json(), first.json())
        back = self.client.get(f"{self.url}/photos/{first.json()['id']}")
        self.assertEqual((back.content, back.headers["content-type"]), (self.PNG, "image/png"))
        self.problem(
            self.send_photo(b"<svg onload=alert(1)>"),
            422,
            "no JPEG, PNG or WebP picture. Nothing was stored",
        )
        self.problem(self.send_photo(self.PNG, "nobody"), 404, "no build nobody")
        other = self.client.post("/api/builds", json={"name": "other"}).json()["id"]
        self.problem(
            self.client.get(f"/api/builds/{other}/photos/{first.json()['id']}"), 404, "no picture"
        )

    def test_the_question_that_is_looked_at_answers_as_the_whole_trial_does(self):
        """Of each question: what the near answer leaves out of the stored build is what the whole
        one leaves, finding by finding, with its board.
        """
        stored = self.client.get(self.url).json()["assessment"]["findings"]
        named = {f["id"]: f["question"] for f in stored}
        acts = [
            {"do": "plan", "key": "plate_mm", "typed": "23.5", "unit": "mm"},
            {"do": "plan", "key": "clocking_deg", "typed": "7", "unit": "deg"},
            {"do": "plan", "key": "crank_side_mm", "typed": "40", "unit": "mm"},
        ]
        changed = 0
        for question in self.client.get("/api/catalogue").json()["questions"]:
            key = question["key"]
            ask = {"dry": True, "question": key}
            whole, near = (
                self.client.post(f"{self.url}/entries", params=p, json={"acts": acts}).json()
                for p in (ask, ask | {"near": True})
            )
            # What rests on all the others (steps, gates) waits for the whole answer.
            own = {f["id"]: f for f in whole["findings"] if f["question"] == key}
            own_altered = {k: v for k, v in whole["altered"].items() if named.get(k) == key}
            found = {f["id"]: f for f in near["findings"]}
            if key != "assemble.steps":
                self.assertEqual((found, near["altered"]), (own, own_altered), key)
                order = whole["order"] or list(named)
                gone = {id for id, q in named.items() if q == key} - set(order)
                self.assertEqual(set(near["without"]), gone, key)
                self.assertEqual(near["quantities"], whole["quantities"], key)
                # A board that shows what others find waits too.
                if QUESTIONS[key].sees_all:
                    self.assertEqual(near["boards"], {}, key)
                elif key in whole["boards"]:
                    self.assertEqual(near["boards"][key], whole["boards"][key], key)
            changed += len(near["altered"]) + len(near["findings"]) + len(near["without"])
        self.assertGreater(changed, 50)
        self.problem(
            self.client.post(
                f"{self.url}/entries",
                params={"near": True, "question": "no.such"},
                json={"acts": acts},
            ),
            404,
            "There is no question no.such",
        )

    def test_the_trial_of_a_pose_names_what_it_touches(self):
        move = {
            "op": "add",
            "path": "/dims/crank_side_mm",
            "value": {"statements": [{"id": "s1", "source": "drawing", "takes": [{"typed": "4"}]}]},
        }
        answer = self.client.post(
            f"{self.url}/entries",
            params={"dry": True},
            json={"acts": [{"do": "patch", "ops": [move]}]},
        ).json()
        self.assertEqual(answer["ripple"]["events"], ["unit moved"])
        kept = self.patch(move).json()
        self.assertEqual(
            [g["lapsed"]["event"] for g in kept["document"]["fits"][0]["gaps"][:2]],
            ["unit moved"] * 2,
        )
        self.assertEqual(kept["document"]["events"][-1]["event"], "unit moved")
        self.assertIn(
            "Trial fits, row 1", " ".join(self.client.get(f"{self.url}/history").json()[0]["words"])
        )

    def test_bad_cells_of_lists_are_refused_at_their_place(self):
        bad = [
            {"op": "replace", "path": "/mounts/0/kz", "value": "9..0"},
            {"op": "replace", "path": "/solids/3/a", "value": "1,234"},
        ]
        body = self.problem(self.patch(*bad), 422, "Some entries cannot be read")
        self.assertEqual({e["pointer"] for e in body["errors"]}, {"/mounts/0/kz", "/solids/3/a"})
        self.problem(
            self.patch({"op": "add", "path": "/solids/-", "value": {"n": 4}}),
            422,
            "Number 4 is used twice in solids",
        )

    def test_the_hand_over_report_says_what_stands_against_it(self):
        answer = self.client.get(f"{self.url}/handover.pdf")
        text = " ".join(
            " ".join(
                p.extract_text() for p in pypdf.PdfReader(io.BytesIO(answer.content)).pages
            ).split()
        )
        for words in (
            "Hand-over report",
            "a record, not a sign-off",
            "Stands against hand-over",
            "Rag in the intake (rag)",
            "two-piece shaft",
            "Front crossmember notched",
            "2 lines",
            "lapsed" if "lapsed" in text else "yes",
        ):
            self.assertIn(words, text)

    def test_what_is_known_of_a_new_build_decides_what_is_asked(self):
        said = {"name": "Kart", "layout": "crosswise left", "options": {"drive": "chain"}}
        made = self.client.post("/api/builds", json=said).json()
        self.assertEqual(made["document"]["layout"], "crosswise left")
        self.assertIn("line.chain", made["assessment"]["asked"])
        self.assertNotIn("line.angles", made["assessment"]["asked"])
        other = self.client.post("/api/builds", json=said | {"options": {}}).json()
        self.assertIn("line.angles", other["assessment"]["asked"])
        before = len(self.client.get("/api/builds").json())
        for bad in ({"layout": "upside down"}, {"options": {"drive": "rope"}}):
            answer = self.client.post("/api/builds", json=said | bad)
            self.assertEqual(answer.status_code, 422, bad)
        self.assertEqual(len(self.client.get("/api/builds").json()), before)

    def test_every_demo_can_be_copied(self):
        made = self.client.post("/api/builds", json={"name": "T", "demo": "garden-trolley"}).json()
        self.assertEqual({f["station"] for f in made["assessment"]["findings"]} & {"mate"}, set())
        for demo in ("pump-tender", "timber-winch", "dune-car"):
            copied = self.client.post("/api/builds", json={"name": "T", "demo": demo})
            self.assertEqual(copied.status_code, 201, demo)


class CentringTool(ApiCase):
    def test_its_drawing_and_what_it_wants(self):
        made = self.client.post("/api/builds", json={"name": "T", "demo": "pump-tender"}).json()
        for form, begins in (("dxf", b"  0"), ("svg", b"<?xml"), ("pdf", b"%PDF")):
            file = self.client.get(f"/api/builds/{made['id']}/centring-tool.{form}")
            self.assertEqual((file.status_code, file.content[: len(begins)]), (200, begins))
        drawn = self.client.get(f"/api/builds/{made['id']}/centring-tool.svg").text
        self.assertIn("seen from its side", drawn)
        self.assertNotIn("behind", drawn)
        blank = self.client.post("/api/builds", json={"name": "T", "demo": ""}).json()
        refused = self.client.get(f"/api/builds/{blank['id']}/centring-tool.svg")
        self.assertEqual(refused.status_code, 409)
        self.assertIn("pilot bearing's bore", refused.json()["detail"])
        gone = self.client.get("/api/builds/nowhere/centring-tool.svg")
        self.assertEqual(gone.status_code, 404)


class Published(ApiCase):
    def test_openapi_and_the_types_made_from_it_are_current(self):
        import subprocess

        published = json.loads((ROOT / "docs" / "openapi.json").read_text("utf-8"))
        self.assertEqual(
            published,
            json.loads(json.dumps(self.app.openapi())),
            "run: ./pindo schema --openapi > docs/openapi.json, then npm run types in frontend",
        )
        made = Path(tempfile.mkdtemp()) / "schema.ts"
        tool = ROOT / "frontend" / "node_modules" / ".bin" / "openapi-typescript"
        subprocess.run(
            [str(tool), str(ROOT / "docs" / "openapi.json"), "-o", str(made)],
            check=True,
            capture_output=True,
        )
        self.assertEqual(
            made.read_text("utf-8"),
            (ROOT / "frontend" / "generated" / "schema.ts").read_text("utf-8"),
            "run: npm run types in frontend",
        )

    def test_the_units_of_the_screen_are_the_cores(self):
        from pindo.core.inputs.units import KINDS

        shown = json.loads((ROOT / "frontend" / "generated" / "kinds.json").read_text("utf-8"))
        self.assertEqual(
            shown,
            {
                k.name: {
                    "unit": k.unit,
                    "imperial": k.imperial,
                    "factor": k.factors.get(k.imperial, 1.0),
                    "decimals": k.decimals,
                }
                for k in KINDS.values()
            },
        )

    def test_the_catalogue_holds_what_the_screen_needs(self):
        body = self.client.get("/api/catalogue").json()
        self.assertGreaterEqual(len(body["dimensions"]), 60)
        self.assertEqual(set(body["templates"]), {"shaft to a rear axle", "half shafts", "chain"})
        self.assertIn("solids", [x["key"] for x in body["lists"]])
        self.assertEqual(self.client.get("/api/schema/build.json").json()["title"], "Build")
        self.assertTrue(all(e["name"] for e in body["events"]))
