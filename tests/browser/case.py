"""A served Pindo with the demo and a chromium for tests that work it as a fabricator would."""

import re
import tempfile
import threading
import time
import unittest
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from pindo.serve import seed
from pindo.web.app import create_app
from pindo.web.serving import Server, listen

ROOT = Path(__file__).parents[2]
CHROMIUM = "/usr/bin/chromium"
ARGS = [
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--use-fake-device-for-media-stream",
    "--use-fake-ui-for-media-stream",
    "--disable-quic",
]
# A busy machine may take its time: how fast the screen answers is measured in bench/, not here.
expect.set_options(timeout=20_000)
AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


class BrowserCase(unittest.TestCase):
    """One server and one browser for the class; a fresh copy of the demo for each test."""

    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        database = Path(folder.name) / "pindo.sqlite"
        listening = listen("127.0.0.1", 0)
        port = listening.getsockname()[1]
        app = create_app(database, ROOT / "frontend" / "dist", port=port)
        seed(database)
        cls.database = database
        cls.server = Server(app, "127.0.0.1", port)
        thread = threading.Thread(target=cls.server.run, kwargs={"sockets": [listening]})
        thread.start()
        cls.addClassCleanup(thread.join)
        cls.addClassCleanup(setattr, cls.server, "should_exit", True)
        while not cls.server.started:
            time.sleep(0.02)
        cls.base = f"http://127.0.0.1:{port}"
        driver = sync_playwright().start()
        cls.addClassCleanup(driver.stop)
        cls.browser = driver.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        cls.addClassCleanup(cls.browser.close)

    def setUp(self):
        self.context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, accept_downloads=True
        )
        self.addCleanup(self.context.close)
        self.context.set_default_timeout(20_000)
        self.trouble: list[str] = []

    def open(self, path: str, context=None) -> Page:
        page = (context or self.context).new_page()
        page.on("pageerror", lambda error: self.trouble.append(str(error)))
        page.on(
            "request",
            lambda request: (
                self.trouble.append(request.url)
                if not request.url.startswith((self.base, "data:", "blob:"))
                else None
            ),
        )
        page.goto(self.base + path)
        return page

    def touched(self, page: Page, what: str):
        """A part of what a trial touches, opened where it is not yet."""
        less = page.get_by_role("button", name="less", exact=True)
        more = page.get_by_role("button", name="what it touches")
        expect(less.or_(more)).to_be_visible()
        if not less.is_visible():
            more.click()
        return page.get_by_label(what)

    def demo_copy(self, station: str = "stack", demo: str = "pump-tender") -> tuple[Page, str]:
        answer = self.context.request.post(
            f"{self.base}/api/builds", data={"name": "Copy", "demo": demo}
        )
        id = answer.json()["id"]
        page = self.open(f"/build/{id}/{station}")
        page.wait_for_selector(".findings .finding")
        return page, id

    def ask(self, page: Page, question: str) -> None:
        """Goes to a question of the station that is shown."""
        tab = page.locator(f'[data-question="{question}"]')
        tab.click()
        expect(tab).to_have_attribute("aria-selected", "true")

    def document(self, id: str) -> dict:
        """The build as it is stored, when nothing that was entered is on its way any more."""
        for page in self.context.pages:
            for words in page.locator(".saved").all():
                expect(words).not_to_have_text(re.compile("saving|not stored"))
        return self.stored(id)

    def stored(self, id: str) -> dict:
        """The build as it is stored now, whatever still waits."""
        return self.context.request.get(f"{self.base}/api/builds/{id}").json()

    def verdict(self, page: Page, finding: str, verdict: str) -> None:
        expect(page.locator(f'[data-finding="{finding}"]')).to_have_attribute(
            "data-verdict", verdict
        )

    def axe(
        self,
        page: Page,
        only: tuple[str, ...] = ("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "best-practice"),
    ) -> list[str]:
        """Serious and critical findings of axe, in words. The policy forbids inline scripts, so
        it is evaluated.
        """
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE.read_text("utf-8"))
        result = page.evaluate("only => axe.run(document, { runOnly: only })", list(only))
        return [
            f"{v['id']}: {v['nodes'][0]['html'][:160]} {v['nodes'][0]['failureSummary'][:200]}"
            for v in result["violations"]
            if v["impact"] in ("serious", "critical")
        ]

    def tearDown(self):
        self.assertEqual(self.trouble, [], "errors in the page, or requests to other hosts")
