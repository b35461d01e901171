"""An application over a fresh data file with one demo build."""

import tempfile
import unittest
from pathlib import Path

from fastapi.testclient import TestClient

from pindo.web.app import create_app


class AppCase(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        screen = self.folder / "screen"
        screen.mkdir()
        (screen / "index.html").write_text(
            '<html><meta name="csp-nonce" content="__NONCE__"></html>'
        )
        self.database = self.folder / "data" / "pindo.sqlite"
        self.app = create_app(self.database, screen)
        self.client = TestClient(
            self.app, base_url="http://127.0.0.1:8137", raise_server_exceptions=False
        )
        self.made = self.client.post(
            "/api/builds", json={"name": "Tender", "demo": "pump-tender"}
        ).json()
        self.build_id = self.made["id"]
