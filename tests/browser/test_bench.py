"""At the bench: runs of readings, tables from elsewhere, gauges, another part fitted."""

from playwright.sync_api import expect

from tests.browser.case import BrowserCase

# fmt: off
STACK = [
    "4.03", "42.5", "0", "28.1", "1", "18", "26.7", "24", "1.5", "0", "14", "318",
    "330", "322", "2", "25", "32", "38", "30", "9", "1", "46", "40", "0",
]
# fmt: on


class ARunOfReadings(BrowserCase):
    def blank(self, station):
        made = self.context.request.post(
            f"{self.base}/api/builds",
            data={"name": "Tug", "options": {"coupling": "clutch and bellhousing"}},
        ).json()
        page = self.open(f"/build/{made['id']}/{station}")
        page.wait_for_selector(".findings .finding")
        return page, made["id"]

    def hand(self, page):
        return page.locator(".runnow").get_attribute("data-reading")

    def test_a_stack_of_24_readings_takes_fewer_than_90_keys_with_tool_and_source(self):
        page, id = self.blank("stack")
        expect(page.locator("#figure-crank_flange_mm")).to_be_visible()
        presses, read = 0, {}

        def press(*keys):
            nonlocal presses
            for key in keys:
                presses += 1
                page.keyboard.press(key)

        press("F3", "Alt+m")
        expect(page.locator(".runnow input")).to_be_focused()
        for typed in STACK:
            read[self.hand(page)] = float(typed)
            press(*typed, "Enter")
        self.assertEqual(len(read), 24)
        self.assertLess(presses, 90)
        expect(page.locator(".saved")).to_contain_text("saved")
        # The picture went along: the run crossed into the second question and the third.
        expect(page.locator('[data-question="stack.release"]')).to_have_attribute(
            "aria-selected", "true"
        )
        expect(
            page.locator(f'.bubble.lit, [data-callout="{self.hand(page)}"].lit').first
        ).to_be_visible()
        dims = self.document(id)["document"]["dims"]
        self.assertEqual(set(dims), set(read))
        for key, value in read.items():
            (said,) = dims[key]["statements"]
            with self.subTest(key):
                self.assertEqual(float(said["takes"][0]["typed"]), value)
                if said["source"] == "measured":
                    self.assertEqual(said["tool"], "vernier depth gauge")
        measured = [d for d in dims.values() if d["statements"][0]["source"] == "measured"]
        self.assertGreater(len(measured), 20)

    def test_back_skipped_put_off_taken_now_and_refused(self):
        page, id = self.blank("stack")
        page.keyboard.press("Alt+m")
        expect(page.locator(".runnow input")).to_be_focused()
        page.keyboard.type("4")
        page.keyboard.press("Enter")
        page.keyboard.type("41")
        page.keyboard.press("Shift+Enter")
        self.assertEqual(self.hand(page), "crank_flange_mm")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        self.assertEqual(self.hand(page), "crank_spacer_mm")
        page.keyboard.press("Alt+ArrowDown")
        self.assertEqual(self.hand(page), "flywheel_mm")
        page.keyboard.type("28 lbft")
        page.keyboard.press("Enter")
        alert = page.get_by_role("alert").filter(has_text="28 lbft")
        expect(alert).to_contain_text("was refused")
        alert.get_by_role("button", name="read it again").click()
        expect(page.locator("#run-flywheel_mm")).to_be_focused()
        page.keyboard.type("28")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_have_count(0)
        page.get_by_label("What comes next").get_by_role("button").nth(1).click()
        self.assertEqual(self.hand(page), "plate_mm")
        expect(page.locator("#run-plate_mm")).to_be_focused()
        page.get_by_role("button", name="End Alt M").click()
        expect(page.locator("#figure-flywheel_mm")).to_have_value("28.00")
        dims = self.document(id)["document"]["dims"]
        self.assertEqual(
            {k: d["statements"][0]["takes"][0]["typed"] for k, d in dims.items()},
            {"crank_flange_mm": "4", "crank_bore_depth_mm": "41", "flywheel_mm": "28"},
        )
