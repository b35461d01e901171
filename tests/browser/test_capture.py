"""Full hands: a phone that captures, with the server away and back."""

import io

from PIL import Image
from playwright.sync_api import expect

from tests.browser.case import BrowserCase


def picture(colour):
    stream = io.BytesIO()
    Image.new("RGB", (320, 240), colour).save(stream, "JPEG")
    return {"name": "photo.jpg", "mimeType": "image/jpeg", "buffer": stream.getvalue()}


class OnAPhone(BrowserCase):
    def setUp(self):
        super().setUp()
        self.context = self.browser.new_context(
            viewport={"width": 390, "height": 844}, has_touch=True, permissions=["microphone"]
        )
        self.addCleanup(self.context.close)
        self.context.set_default_timeout(20_000)

    def capturing(self):
        made = self.context.request.post(
            f"{self.base}/api/builds",
            data={"name": "Tug", "options": {"coupling": "clutch and bellhousing"}},
        ).json()
        page = self.open(f"/build/{made['id']}/capture")
        expect(page.get_by_role("button", name="Reading")).to_be_visible()
        return page, made["id"]

    def taken(self, id):
        document = self.document(id)["document"]
        dims = {k: d["statements"][0]["takes"][0]["typed"] for k, d in document["dims"].items()}
        return dims, document["log"], document["hours"]

    def test_readings_photo_note_and_clock_wait_while_the_server_is_away_and_none_is_lost(self):
        page, id = self.capturing()
        page.locator(".catchreading select").select_option("stack.spacing")
        entry = page.locator(".catchentry input")
        first = page.locator("[data-reading]")
        expect(first).to_have_attribute("data-reading", "crank_flange_mm")
        entry.fill("4.03")
        page.get_by_role("button", name="Reading").click()
        expect(page.get_by_label("Read back")).to_contain_text("4.03")
        expect(first).to_have_attribute("data-reading", "crank_bore_depth_mm")
        page.get_by_role("button", name="Start the clock").click()
        self.context.set_offline(True)
        entry.fill("42.5")
        page.get_by_role("button", name="Reading").click()
        expect(page.locator(".capture header")).to_contain_text("Pindo is away: 1 readings wait")
        page.get_by_label("About, for photo and note").fill("crank bore")
        page.get_by_label("Photo", exact=True).set_input_files(picture("teal"))
        waits = page.get_by_label("Waiting to be sent")
        expect(waits.get_by_role("listitem")).to_have_count(1)
        page.get_by_role("button", name="Voice note").click()
        stop = page.get_by_role("button", name="Stop the note")
        expect(stop).not_to_contain_text("0:00")
        stop.click()
        expect(waits.get_by_role("listitem")).to_have_count(2)
        page.get_by_role("button", name="Stop the clock").click()
        self.assertEqual(self.taken(id)[0], {"crank_flange_mm": "4.03"})
        self.context.set_offline(False)
        expect(waits).to_have_count(0)
        expect(page.locator(".capture header")).to_contain_text("all sent")
        dims, log, hours = self.taken(id)
        self.assertEqual(dims, {"crank_flange_mm": "4.03", "crank_bore_depth_mm": "42.5"})
        self.assertEqual([h["minutes"] for h in hours], ["1"])
        self.assertEqual([(len(e["photos"]), len(e["sounds"])) for e in log], [(1, 0), (0, 1)])
        self.assertEqual({e["about"] for e in log}, {"crank bore"})
        kept = {
            line["id"]: line
            for line in self.context.request.get(f"{self.base}/api/builds/{id}/photos").json()
        }
        note = kept[log[1]["sounds"][0]]
        self.assertTrue(note["named"] and note["media_type"].startswith("audio/"))
        page.goto(f"{self.base}/build/{id}/log/journal")
        expect(page.locator("audio")).to_have_count(1)
        expect(page.locator(".photo img")).to_have_count(1)

    def test_what_waits_outlives_the_page_and_what_is_refused_stays_with_its_reason(self):
        page, id = self.capturing()
        page.route("**/photos", lambda route: route.abort())
        page.get_by_label("Photo", exact=True).set_input_files(picture("red"))
        waits = page.get_by_label("Waiting to be sent")
        expect(waits.get_by_role("listitem")).to_have_count(1)
        page.close()
        page = self.open(f"/build/{id}/survey")
        page.wait_for_selector(".findings .finding")
        page.goto(f"{self.base}/build/{id}/log/journal")
        expect(page.locator(".photo img")).to_have_count(1)
        page.goto(f"{self.base}/build/{id}/capture")
        waits = page.get_by_label("Waiting to be sent")
        bad = {"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
        page.get_by_label("Photo", exact=True).set_input_files(bad)
        expect(waits).to_contain_text("refused: This is no JPEG, PNG or WebP picture")
        expect(waits.get_by_role("link", name="keep it as a file")).to_be_visible()
        waits.get_by_role("button", name="throw it away").click()
        expect(waits).to_have_count(0)
        self.assertEqual(len(self.taken(id)[1]), 1)

    def test_buttons_fit_a_glove_and_nothing_is_cut(self):
        page, _ = self.capturing()
        for button in page.locator(".big").all():
            box = button.bounding_box()
            self.assertGreaterEqual(min(box["width"], box["height"]), 80)
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertEqual(wide, 390)
        self.assertEqual(self.axe(page), [])
