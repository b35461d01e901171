"""Stack in the browser: the window is dragged, a converter's screws wait, papers come out."""

import re
import unittest

from playwright.sync_api import expect

from tests.browser.case import BrowserCase


class Window(BrowserCase):
    def test_the_point_moves_section_and_findings(self):
        page, id = self.demo_copy("stack/window")
        expect(page.locator(".picture.two .board")).to_have_count(2)
        point = page.get_by_role("slider", name="Adapter plate, crank spacer, all pieces, drag")
        point.focus()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("18.10 mm")
        page.keyboard.press("ArrowUp")
        trial = page.get_by_label("Trial", exact=True)
        expect(trial).to_contain_text("10.10 mm")
        finding = page.locator('[data-finding="stack.window"]')
        expect(finding).to_contain_text("No plate and crank spacer")
        page.keyboard.press("Escape")
        expect(trial).to_have_count(0)
        # The mouse takes both sizes along; Escape lets them go.
        box = point.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 45, y - 30, steps=6)
        page.mouse.up()
        expect(trial).to_contain_text("Adapter plate")
        expect(trial).to_contain_text("Crank spacer")
        page.keyboard.press("Escape")
        expect(trial).to_have_count(0)
        # Another shim opens it: the finding tells where its middle is.
        shim = page.get_by_label(re.compile("^Shim under the slave"))
        shim.first.fill("0.9")
        page.keyboard.press("Enter")
        expect(finding).to_contain_text("is its middle")
        quantities = self.document(id)["assessment"]["quantities"]
        self.assertEqual(quantities["release_shim_mm"]["value"], 0.9)
        page.get_by_role("button", name="Undo").click()
        expect(shim.first).to_have_value("2.50")
        expect(finding).to_contain_text("No plate and crank spacer")
        self.assertEqual(self.axe(page), [])


class Converter(BrowserCase):
    def test_screws_wait_for_the_gap_and_the_fingers(self):
        page, id = self.demo_copy("stack/converter", "dune-car")
        screws = page.locator('[data-finding="stack.converter_screws"]')
        expect(screws).to_contain_text("Draw no screw")
        page.get_by_label("Flexplate, crank face to pad face").first.fill("26")
        page.keyboard.press("Enter")
        self.verdict(page, "stack.pull_forward", "goes")
        expect(screws).to_contain_text("finger test with the faces together is not done")
        page.get_by_label("Finger test, faces together, before any screw").select_option(
            "moves freely"
        )
        expect(screws).to_contain_text("Screws may be drawn")
        self.document(id)
        self.assertEqual(self.axe(page), [])


class Papers(BrowserCase):
    def test_sheet_and_tool(self):
        page, id = self.demo_copy("stack/cover")
        for link, kind in (("Tool, DXF", ".dxf"), ("SVG", ".svg"), ("1:1 on A4", ".pdf")):
            with page.expect_download() as file:
                page.get_by_role("link", name=link).click()
            self.assertTrue(file.value.suggested_filename.endswith(kind))
        sheet = page.request.get(f"{self.base}/api/builds/{id}/sheets/stack.pdf")
        self.assertEqual((sheet.status, sheet.body()[:4]), (200, b"%PDF"))


if __name__ == "__main__":
    unittest.main()
