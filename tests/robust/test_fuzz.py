"""Any request and any document: an answer, never a fault; what was accepted opens again and is
printed.
"""

import itertools
import random
import unittest
import warnings
from urllib.parse import quote

import schemathesis
from hypothesis import HealthCheck, given, settings

from pindo.demo import DEMOS
from tests.robust import hostile
from tests.robust.case import AppCase

TAKEN, EXAMPLES, NAMED = 4, 4, 3
"""Documents that must be taken, examples a route, sets of names."""
SEED = 7
"""The short run tries the same each time; the long one draws its own."""
MOST_DOCUMENTS = 400
HEADERS = (
    "content-security-policy",
    "x-content-type-options",
    "referrer-policy",
    "cross-origin-resource-policy",
    "cache-control",
)


class Documents(AppCase):
    def test_what_was_accepted_opens_again_and_what_was_not_says_why(self):
        taken, i = 0, 0
        while taken < TAKEN:
            i += 1
            self.assertLess(
                i, MOST_DOCUMENTS, "hardly any document is taken: the generator says too little"
            )
            with self.subTest(seed=f"{SEED}-{i}"):
                taken += self.try_document(hostile.document(random.Random(f"{SEED}-{i}")))

    def try_document(self, document):
        made = self.client.post("/api/builds/import", json=document)
        if made.status_code != 201:
            self.assertEqual(made.status_code, 422, made.text[:300])
            self.assertNotIn("fault", made.json()["type"], "refused because Pindo failed at it")
            return 0
        url = f"/api/builds/{made.json()['id']}"
        failed = [
            f["sentence"]["mm"]
            for f in made.json()["assessment"]["findings"]
            if "Pindo failed here" in f["sentence"]["mm"]
        ]
        self.assertEqual(failed, [])
        for route in hostile.ROUTES:
            answer = self.client.get(url + route)
            self.assertIn(answer.status_code, (200, 409), f"{route}: {answer.text[:300]}")
        self.client.delete(url, headers={"If-Match": f'"{made.json()["tag"]}"'})
        return 1

    def test_names_anywhere_are_literals(self):
        """Hostile texts as names of everything, another one for each row: nothing is formatted
        twice, nothing ends a file early.
        """
        for start in range(NAMED):
            texts = itertools.islice(itertools.cycle(hostile.TEXTS), start * 11, None)
            document = DEMOS["pump-tender"]().model_dump(mode="json")
            for rows in (
                "solids",
                "pulleys",
                "joints",
                "mounts",
                "steps",
                "parts",
                "fits",
                "provisional",
                "modifications",
                "log",
                "money",
                "hours",
            ):
                for row in document[rows]:
                    row["name"] = next(texts)
            for face in ("engine_face", "gearbox_face"):
                for row in (*document[face]["holes"], *document[face]["lands"]):
                    row["name"] = next(texts)
            document["name"] = "build " + next(t for t in texts if len(t) < 150)
            with self.subTest(start):
                self.assertEqual(self.try_document(document), 1)


class Routes(AppCase):
    def test_every_route_answers_every_request(self):
        app_schema = schemathesis.openapi.from_asgi(
            "/api/openapi.json", self.app, headers={"host": "127.0.0.1:8137"}
        )
        for found in app_schema.get_all_operations():
            operation = found.ok()
            with self.subTest(f"{operation.method} {operation.path}"):
                self.fuzz(operation)

    def fuzz(self, operation):
        @settings(
            max_examples=EXAMPLES,
            deadline=None,
            database=None,
            derandomize=SEED == 7,
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def ask(case):
            # Half of what is generated goes to a build that is there, at the version that it has.
            if "id" in case.path_parameters and len(str(case.path_parameters["id"])) % 2:
                case.path_parameters["id"] = self.build_id
                case.headers["if-match"] = (
                    f'"{self.client.get(f"/api/builds/{self.build_id}/now").json()["tag"]}"'
                    if operation.method != "delete"
                    else '"abc-1"'
                )
            case.headers["host"] = "127.0.0.1:8137"
            answer = case.call()
            self.assertLess(
                answer.status_code,
                500,
                f"{case.method} {case.path} {case.path_parameters} {case.query}"
                f" {str(case.body)[:200]}: {answer.content[:300]!r}",
            )
            self.assertEqual([h for h in HEADERS if h not in answer.headers], [])

        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            ask()

    def test_bodies_that_no_schema_makes(self):
        deep = "[" * 100_000 + "]" * 100_000
        nested = (
            '{"acts":[{"do":"patch","ops":[{"op":"add","path":"/notes","value":'
            + "[" * 900
            + "]" * 900
            + "}]}]}"
        )
        copies = [{"op": "copy", "from": "/parts/0", "path": "/parts/-"}] * 5 + [
            {"op": "copy", "from": "/parts", "path": f"/parts/0/{i}"} for i in range(40)
        ]
        double = [{"op": "add", "path": "/x", "value": ["y" * 2000]}] + [
            {"op": "copy", "from": "/x", "path": "/x/-"}
        ] * 40
        for content in (
            deep,
            nested,
            "{" * 5000,
            "1" * 100_000,
            '"\\ud800"',
            "nan",
            "[1e999]",
            "\x00",
            '{"a":' * 3000,
        ):
            for path, kind in (
                (f"/api/builds/{self.build_id}/entries", "application/json"),
                ("/api/builds/import", "application/json"),
                (f"/api/builds/{self.build_id}/entries?dry=true", "application/json"),
            ):
                answer = self.client.post(
                    path,
                    content=content.encode("utf-8", "surrogatepass"),
                    headers={"Content-Type": kind},
                )
                self.assertIn(
                    answer.status_code, (400, 413, 422), f"{content[:30]}: {answer.text[:200]}"
                )
        tag = self.client.get(f"/api/builds/{self.build_id}/now").json()["tag"]
        for operations in (
            copies,
            double,
            [{"op": "move", "from": "/parts", "path": "/parts/0/x"}],
            [{"op": "add", "path": "/a/" * 100, "value": 1}],
            [{"op": "copy", "from": "", "path": "/notes"}] * 30,
        ):
            answer = self.client.patch(
                f"/api/builds/{self.build_id}",
                json=operations,
                headers={"If-Match": f'"{tag}"', "Content-Type": "application/json-patch+json"},
            )
            self.assertEqual(answer.status_code, 422, answer.text[:200])

    def test_names_in_addresses(self):
        for name in (
            "%00",
            "x" * 300,
            "..%2f..",
            "%2e%2e",
            "%ff",
            "𝟙",
            "a/b",
            "%0d%0aSet-Cookie:x=1",
            "{id}",
            "'",
        ):
            for path in (
                f"/{name}",
                f"/api/{name}",
                f"/api/builds/{name}",
                f"/api/builds/{self.build_id}/photos/{name}",
                f"/api/builds/{self.build_id}/sheets/{name}.pdf",
                f"/assets/{name}",
                f"/api/data/copies/{name}/restore",
            ):
                answer = (
                    self.client.get(quote(path, safe="/%{}'"))
                    if "restore" not in path
                    else self.client.post(quote(path, safe="/%{}'"))
                )
                self.assertLess(answer.status_code, 500, path)
                self.assertNotIn("set-cookie", answer.headers)


if __name__ == "__main__":
    unittest.main()
