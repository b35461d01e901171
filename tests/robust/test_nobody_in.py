"""Nobody in: other pages, other hosts, other people's files; nothing that a user typed runs in
the screen.
"""

import http.server
import resource
import socket
import tempfile
import threading
import unittest
import urllib.request
from pathlib import Path

from fastapi.testclient import TestClient
from playwright.sync_api import expect

from pindo.web.app import create_app
from pindo.web.guard import COOKIE
from tests.browser.case import BrowserCase
from tests.robust.case import AppCase
from tests.robust.hostile import TEXTS
from tests.robust.killing import Served

HEADERS = {
    "content-security-policy",
    "x-content-type-options",
    "referrer-policy",
    "cross-origin-resource-policy",
    "cache-control",
}
JSON = {"Content-Type": "application/json"}


class Origins(AppCase):
    def ask(self, **headers):
        return self.client.post("/api/builds", json={"name": "x"}, headers=headers)

    def test_writes_come_from_this_origin_or_from_no_browser(self):
        for headers in (
            {},
            {"origin": "http://127.0.0.1:8137"},
            {"sec-fetch-site": "same-origin", "origin": "http://127.0.0.1:8137"},
        ):
            self.assertEqual(self.ask(**headers).status_code, 201, headers)
        for headers in (
            {"origin": "http://127.0.0.1:9000"},
            {"origin": "https://127.0.0.1:8137"},
            {"origin": "null"},
            {"origin": "http://localhost:8137"},
            {"origin": "http://evil.example"},
            {"sec-fetch-site": "cross-site"},
            {"sec-fetch-site": "same-site"},
            {"sec-fetch-site": "same-site", "origin": "http://127.0.0.1:8137"},
        ):
            answer = self.ask(**headers)
            self.assertEqual(
                (answer.status_code, answer.json()["type"]), (403, "/problems/origin"), headers
            )
        self.assertEqual(len(self.client.get("/api/builds").json()), 4)

    def test_what_a_form_or_a_beacon_can_send_is_not_taken(self):
        body = b'{"name": "x"}'
        for kind in (
            "text/plain",
            "application/x-www-form-urlencoded",
            "multipart/form-data; boundary=x",
            "",
            "text/html",
            "application/jsonp",
        ):
            for path in (
                "/api/builds",
                "/api/builds/import",
                f"/api/builds/{self.build_id}/photos",
                f"/api/builds/{self.build_id}/entries",
                "/api/data/restored",
                "/api/builds/bundle",
            ):
                answer = self.client.post(
                    path, content=body, headers={"Content-Type": kind} if kind else {}
                )
                self.assertEqual(answer.status_code, 415, (kind, path))
        self.assertEqual(
            self.client.post(
                f"/api/builds/{self.build_id}/photos", content=body, headers=JSON
            ).status_code,
            415,
        )

    def test_data_is_no_part_of_other_sites_pages_and_may_be_opened_by_hand(self):
        url = f"/api/builds/{self.build_id}/handover.pdf"
        for mode, status in (("no-cors", 403), ("cors", 403), ("navigate", 200)):
            self.assertEqual(
                self.client.get(
                    url, headers={"sec-fetch-site": "cross-site", "sec-fetch-mode": mode}
                ).status_code,
                status,
            )

    def test_every_answer_carries_its_headers_refusals_too(self):
        gone = self.client.get("/api/nowhere")
        asked = [
            gone,
            self.ask(origin="null"),
            self.client.get("/", headers={"host": "evil"}),
            self.client.get("/build/x/mate"),
            self.client.get(f"/api/builds/{self.build_id}/bundle"),
        ]
        asked += [
            self.client.post(
                "/api/builds", content=b"", headers={"content-length": "99999999999", **JSON}
            ),
            self.client.put("/api/builds"),
        ]
        for answer in asked:
            self.assertEqual(HEADERS - set(answer.headers), set(), answer.status_code)
            self.assertEqual(answer.headers["cache-control"], "no-store")
        self.assertIn("sandbox", gone.headers["content-security-policy"])

    def shop(self):
        app = create_app(self.folder / "shop.sqlite", hosts=("shop.lan",), key="secret")
        return lambda: TestClient(app, base_url="http://shop.lan:8137", follow_redirects=False)

    def test_the_shop_mode_asks_every_device_for_its_key_once(self):
        client = self.shop()()
        for path in ("/", "/api/builds", "/?key=wrong", "/api/builds?key=secret"):
            self.assertEqual(client.get(path).status_code, 401, path)
        self.assertEqual(client.post("/api/builds", json={"name": "x"}).status_code, 401)
        cookie = client.get("/?key=secret").headers["set-cookie"]
        for word in (f"{COOKIE}=", "HttpOnly", "SameSite=Strict"):
            self.assertIn(word, cookie)
        self.assertNotIn("secret", cookie)
        self.assertEqual(client.get("/api/builds").status_code, 200)
        self.assertEqual(
            client.post(
                "/api/builds", json={"name": "x"}, headers={"sec-fetch-site": "cross-site"}
            ).status_code,
            403,
        )

    def test_a_device_is_named_in_the_history_and_sent_away(self):
        device = self.shop()
        phone, desk = device(), device()
        for client in (phone, desk):
            client.get("/?key=secret")
        first, second = desk.get("/api/shop").json()["devices"]
        self.assertEqual((first["here"], second["here"]), (False, True))
        desk.put(f"/api/shop/devices/{first['id']}", json={"name": "phone in the pit"})
        made = phone.post("/api/builds", json={"name": "x"}, params={"who": "I."}).json()
        lines = desk.get(f"/api/builds/{made['id']}/history").json()
        self.assertEqual(lines[0]["who"], "I., phone in the pit")
        self.assertEqual(desk.delete(f"/api/shop/devices/{first['id']}").status_code, 200)
        self.assertEqual(phone.get("/api/builds").status_code, 401)
        self.assertEqual(desk.get("/api/builds").status_code, 200)
        self.assertEqual(desk.delete("/api/shop/devices/none").status_code, 404)
        code = desk.get("/api/shop/code.svg")
        self.assertEqual(code.headers["content-type"], "image/svg+xml")

    def test_keys_cannot_be_tried_and_one_device_cannot_flood(self):
        device = self.shop()
        client, other = device(), device()
        other.get("/?key=secret")
        tried = [client.get(f"/?key={i}").status_code for i in range(12)]
        self.assertEqual(tried, [401] * 7 + [429] * 5)
        # The right one too, until a minute is over: a guess that hits is not told from it.
        self.assertEqual(client.get("/?key=secret").status_code, 429)
        bucket = client.app.state.shop.requests
        bucket.a_second = 0.0
        asked = [other.get("/api/health").status_code for _ in range(int(bucket.burst) + 2)]
        self.assertEqual(set(asked), {200, 429})
        self.assertEqual(asked[-1], 429)

    def test_only_this_machine_is_served_without_it(self):
        app = create_app(self.folder / "alone.sqlite")
        client = TestClient(app, base_url="http://localhost:8137")
        self.assertEqual(client.get("/api/shop").json()["open"], False)
        self.assertEqual(client.get("/api/shop/code.svg").status_code, 404)


ATTACK = """
<iframe name=sink></iframe>
<form id=f method=post enctype=text/plain target=sink action="{base}/api/builds"><input name='{{"name":"evil form","x":"' value='"}}'></form>
<img id=i src="{base}/api/builds">
<script>
document.getElementById('f').submit();
const say = [];
const tell = (name) => say.push(name);
navigator.sendBeacon('{base}/api/builds', new Blob(['{{"name":"evil beacon"}}'], {{type: 'text/plain'}}));
const tries = [
  fetch('{base}/api/builds', {{method: 'POST', mode: 'no-cors', body: '{{"name":"evil fetch"}}'}}),
  fetch('{base}/api/builds', {{method: 'POST', headers: {{'Content-Type': 'application/json'}}, body: '{{"name":"evil json"}}'}}),
  fetch('{base}/api/builds/pump-tender/photos', {{method: 'POST', mode: 'no-cors', body: new Blob(['x'], {{type: ''}})}}),
  fetch('{base}/api/builds').then((r) => r.text()).then((t) => tell('READ ' + t.length)),
];
Promise.allSettled(tries).then(() => setTimeout(() => (document.title = 'done ' + say.join()), 300));
</script>
"""


class InChromium(BrowserCase):
    def test_a_page_of_another_origin_neither_writes_nor_reads(self):
        page_text = ATTACK.format(base=self.base).encode()

        class Evil(http.server.BaseHTTPRequestHandler):
            def do_GET(self):
                self.send_response(200)
                self.send_header("Content-Type", "text/html")
                self.end_headers()
                self.wfile.write(page_text)

            def log_message(self, *_):
                pass

        server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Evil)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.shutdown)
        before = self.context.request.get(f"{self.base}/api/builds").json()
        for host in ("127.0.0.1", "localhost"):
            page = self.context.new_page()
            page.goto(f"http://{host}:{server.server_address[1]}/")
            page.wait_for_function("document.title.startsWith('done')")
            self.assertEqual(page.title().strip(), "done")
        after = self.context.request.get(f"{self.base}/api/builds").json()
        self.assertEqual([b["tag"] for b in after], [b["tag"] for b in before])
        self.assertEqual(
            self.context.request.get(f"{self.base}/api/builds/pump-tender/photos").json(), []
        )

    def test_nothing_that_a_user_typed_runs_in_the_screen(self):
        document = self.context.request.get(f"{self.base}/api/builds/pump-tender/build.json").json()
        evil = '"><img src=x onerror="window.ran=1"><script>window.ran=1</script>{{window.ran=1}}'
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
                row["name"] = evil
                if "note" in row:
                    row["note"] = "javascript:window.ran=1"
        document |= dict.fromkeys(("name", "vehicle", "engine", "gearbox", "notes"), evil)
        made = self.context.request.post(f"{self.base}/api/builds/import", data=document)
        self.assertEqual(made.status, 201, made.text()[:300])
        page = self.open("/")
        page.get_by_role("link", name=evil).first.wait_for()
        for station in ("survey", "mate", "stack", "seat", "line", "clear", "assemble", "log"):
            page.goto(f"{self.base}/build/{made.json()['id']}/{station}")
            page.wait_for_selector(".findings .finding")
            expect(page.locator(".buildname")).to_contain_text("onerror")
            self.assertIsNone(page.evaluate("window.ran ?? null"), station)
            self.assertEqual(page.locator("img[src=x]").count(), 0)

    def test_names_of_every_kind_are_shown_as_they_are(self):
        for text in TEXTS[:12]:
            made = self.context.request.post(
                f"{self.base}/api/builds", data={"name": f"name {text}"}
            )
            self.assertEqual(made.status, 201)
        page = self.open("/")
        expect(page.locator(".buildlist")).to_contain_text("name {value:>99999999}")


class Connections(unittest.TestCase):
    def test_four_hundred_that_ask_nothing_or_slowly_shut_nobody_out_of_a_server_with_few_handles(
        self,
    ):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        served = Served(folder / "data", limits=((resource.RLIMIT_NOFILE, 256),))
        self.addCleanup(served.kill)
        port = int(served.url.rsplit(":", 1)[1])
        held = []
        self.addCleanup(lambda: [c.close() for c in held])
        head = (
            b"POST /api/builds HTTP/1.1\r\nHost: 127.0.0.1:%d\r\nContent-Type:"
            b" application/json\r\nContent-Length: 50\r\n\r\n{" % port
        )
        for i in range(400):
            held.append(socket.create_connection(("127.0.0.1", port)))
            held[-1].sendall((b"", b"GET /api/health HTTP/1.1\r\nHost: ", head)[i % 3])
        for _ in range(5):
            with urllib.request.urlopen(f"{served.url}/api/builds", timeout=60) as answer:
                self.assertEqual(answer.status, 200)
        self.assertNotIn("out of system resource", served.log.read_text())


if __name__ == "__main__":
    unittest.main()
