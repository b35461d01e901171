"""The screen of questions: all in sight, sizes in the picture, lists, another screen."""

import gzip
import re

from playwright.sync_api import expect

from tests.browser.case import BrowserCase

SEEN = """() => {
  const visible = (e) => {
    const r = e.getBoundingClientRect()
    const at = document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2)
    const shown = at !== null && (e.contains(at) || at.contains(e))
    return r.height > 0 && r.bottom <= innerHeight && shown
  }
  const all = (what) => [...document.querySelectorAll(what)]
  const picture = document.querySelector('.picture')
  const page = document.documentElement
  const lines = all('.bench .ledger > ul > .line')
  return {
    over: [page.scrollHeight - innerHeight, page.scrollWidth - innerWidth],
    picture: picture === null ? null : picture.getBoundingClientRect().height,
    lines: lines.length,
    linesSeen: lines.filter(visible).length,
    findings: all('.finding').length,
    findingsSeen: all('.finding').filter(visible).length,
    tabs: all('.questions button').every(visible),
    foot: all('.footline').every(visible),
  }
}"""

BOXES = """() => [...document.querySelectorAll(
  '.bubble, .gap text, .handle text, .holelabel')].map(e => {
  const r = e.getBoundingClientRect()
  return [r.x, r.y, r.right, r.bottom, e.parentElement.textContent]
})"""


class InSight(BrowserCase):
    def questions(self, page):
        catalogue = page.request.get(f"{self.base}/api/catalogue").json()["questions"]
        return {q["key"]: f"{q['station']}/{q['path']}" for q in catalogue}

    def seen(self, page, id, path):
        page.goto(f"{self.base}/build/{id}/{path}")
        page.wait_for_selector(".findings .finding")
        expect(page.locator(".bench")).to_be_visible()
        return page.evaluate(SEEN)

    def test_every_question_shows_its_picture_its_lines_and_four_findings_without_scrolling(self):
        page, id = self.demo_copy("survey")
        asked = set(self.document(id)["assessment"]["asked"])
        pictured = 0
        for key, path in self.questions(page).items():
            if key not in asked:
                continue
            with self.subTest(key):
                seen = self.seen(page, id, path)
                self.assertEqual(seen["over"], [0, 0])
                self.assertTrue(seen["tabs"] and seen["foot"])
                if seen["picture"] is not None:
                    pictured += 1
                    self.assertGreaterEqual(seen["picture"], 340)
                self.assertGreaterEqual(seen["findingsSeen"], min(4, seen["findings"]))
                if key in ("stack.spacing", "stack.disc", "stack.release", "stack.starter"):
                    self.assertGreaterEqual(seen["linesSeen"], min(5, seen["lines"]))
        self.assertGreater(pictured, 12)

    def test_on_a_tablet_and_at_large_type_the_worst_finding_stands_by_the_field(self):
        page, id = self.demo_copy("stack")
        for width, height in ((820, 1180), (853, 533)):
            with self.subTest(width=width, height=height):
                page.set_viewport_size({"width": width, "height": height})
                page.goto(f"{self.base}/build/{id}/stack/release")
                page.locator("#figure-finger_height_mm").focus()
                expect(page.locator(".footworst")).to_be_in_viewport()
                expect(page.locator(".footworst")).to_contain_text("Release bearing stands")
                expect(page.locator("#figure-finger_height_mm")).to_be_in_viewport()
                over = page.evaluate("document.documentElement.scrollHeight - innerHeight")
                self.assertEqual(over, 0)

    def test_what_a_reading_settled_is_said_at_the_foot_and_a_turned_finding_stays(self):
        page, _ = self.demo_copy("stack")
        page.goto(page.url.replace("/stack", "/stack/spacing"))
        first = page.locator(".findinglist .finding").first
        expect(first).to_have_attribute("data-finding", "stack.pilot_engagement")
        page.locator("#figure-shaft_tip_out_mm").fill("28.5")
        page.locator("#figure-shaft_tip_out_mm").press("Enter")
        expect(page.locator(".footline")).to_contain_text("Shaft tip out of the mouth, mm 28.5")
        expect(page.locator(".footline")).to_contain_text("turned")
        expect(page.locator(".footline")).to_contain_text("Nose in the pilot bearing")
        expect(first).to_have_attribute("data-finding", "stack.pilot_engagement")
        self.verdict(page, "stack.pilot_engagement", "goes")


class SizesInThePicture(BrowserCase):
    def test_a_size_is_shown_between_its_ends_and_typed_right_there(self):
        page, id = self.demo_copy("mate")
        page.goto(f"{self.base}/build/{id}/mate/plate")
        # What moves the lines away from under the pointer has to be there first.
        page.wait_for_selector(".findings .finding")
        page.wait_for_selector(".round.opening")
        page.locator("#line-window_mm").hover()
        box = page.locator(".sizebox")
        expect(box).to_have_text("326.0 ± 0.5 mm")
        ends = page.locator(".sizeline path").get_attribute("d")
        at = [float(x) for x in re.findall(r"-?\d+\.?\d*", ends)[:4]]
        circle = page.locator(".round.opening").first.get_attribute("r")
        scale = 2.0 * float(circle) / 326.0
        self.assertAlmostEqual(
            ((at[0] - at[2]) ** 2 + (at[1] - at[3]) ** 2) ** 0.5 / scale, 326.0, delta=0.5
        )
        page.locator("[data-callout=window_mm]").click()
        field = page.get_by_label("Plate window diameter, mm, in the picture")
        expect(field).to_be_focused()
        page.keyboard.type("328")
        page.keyboard.press("Enter")
        expect(page.locator("#figure-window_mm")).to_have_value("328.00")
        quantities = self.document(id)["assessment"]["quantities"]
        self.assertEqual(quantities["window_mm"]["value"], 328.0)

    def test_letters_begin_at_a_and_cover_neither_one_another_nor_a_value(self):
        page, id = self.demo_copy("stack")
        for path in ("stack/spacing", "stack/match", "mate/plate", "seat/place", "line/angles"):
            with self.subTest(path):
                page.goto(f"{self.base}/build/{id}/{path}")
                page.wait_for_selector(".callout")
                boxes = page.evaluate(BOXES)
                letters = page.locator(".callout text").all_text_contents()
                self.assertLessEqual(len(letters), 14)
                self.assertEqual(page.locator(".line .letter").first.inner_text(), "A")
                for i, (x1, y1, x2, y2, words) in enumerate(boxes):
                    for a1, b1, a2, b2, other in boxes[i + 1 :]:
                        across, down = min(x2, a2) - max(x1, a1), min(y2, b2) - max(y1, b1)
                        covered = max(0, across) * max(0, down)
                        self.assertLess(covered, 80.0, f"{words} and {other}")


class Alternatives(BrowserCase):
    def test_two_trials_lie_side_by_side_and_one_is_taken_up(self):
        page, id = self.demo_copy("stack")
        grip = page.get_by_role("slider", name="Adapter plate, drag to try")
        for name, key, count in (("thin", "ArrowLeft", 5), ("thick", "ArrowRight", 40)):
            grip.focus()
            for _ in range(count):
                page.keyboard.press(key)
            page.get_by_role("button", name="Set aside").click()
            page.get_by_label("Its name").fill(name)
            page.keyboard.press("Enter")
            expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        page.get_by_role("button", name="2 set aside").click()
        dialog = page.get_by_role("dialog", name="Trials that were set aside")
        expect(dialog).to_contain_text("Adapter plate 17.50 mm")
        expect(dialog).to_contain_text("Adapter plate 22.00 mm")
        expect(dialog).to_contain_text("Nose in the pilot bearing")
        self.assertEqual(self.axe(page), [])
        dialog.get_by_role("button", name="Take it up").first.click()
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("18.00 mm → 17.50 mm")
        self.verdict(page, "stack.pilot_engagement", "goes")
        self.assertEqual(self.document(id)["version"], 1)


class KeyboardOnly(BrowserCase):
    def test_a_small_job_takes_fewer_than_200_presses(self):
        """From no build to a spacing that is judged, tried, kept and printed, hands on the keys."""
        page, presses = self.context.new_page(), 0

        def press(*keys):
            nonlocal presses
            for key in keys:
                presses += 1
                page.keyboard.press("Space" if key == " " else key)

        page.goto(self.base)
        page.wait_for_selector(".newbuild")
        press("Alt+n", *"Tug", "Enter")
        page.wait_for_selector('main[aria-label="survey station"]')
        press("Alt+3")
        page.wait_for_selector("#figure-crank_flange_mm")
        press("F3", "Alt+n")
        taken = ("4.03", "42", "10", "28.1", "1", "18", "26.7", "24", "1.5", "0", "14", "317.9")
        for i, typed in enumerate(taken):
            expect(page.locator(".line input:focus")).to_have_value("")
            if i == 6:
                press("F4")
            press(*typed, "Enter")
        press("Alt+f", *"pilot bearing sits", "Enter")
        expect(page.get_by_label("Pilot bearing or converter pilot sits in")).to_be_focused()
        press("c")
        expect(page.locator(".saved")).to_contain_text(re.compile("^saved"))
        self.verdict(page, "stack.pilot_engagement", "tight")
        press("Alt+f", *"adapter plate", "Enter")
        expect(page.locator("#figure-plate_mm")).to_be_focused()
        press(*"17.8", "Shift+Enter")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("18.00 → 17.8")
        press("Alt+k")
        expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        with page.context.expect_page() as opened:
            press("Alt+p")
        opened.value.close()
        expect(page.locator("#figure-plate_mm")).to_have_value("17.80")
        self.assertLess(presses, 200)


class FirstScreen(BrowserCase):
    def test_what_the_first_screen_needs_is_less_than_200_kb_compressed(self):
        page = self.context.request.get(self.base).text()
        needed = [f"/{name}" for name in re.findall(r'"/(assets/[^"]+\.(?:js|css))"', page)]
        self.assertGreater(len(needed), 1)
        files = [self.context.request.get(f"{self.base}{name}").body() for name in needed]
        self.assertLess(sum(len(gzip.compress(f, 9)) for f in files), 200_000)

    def test_what_was_not_opened_before_opens_while_the_server_is_away(self):
        page, _ = self.demo_copy("stack")
        page.wait_for_function(
            "() => ['Panels', 'StatementEditor', 'Money'].every(part => performance"
            ".getEntriesByType('resource').some(e => e.name.includes(part) && e.responseEnd > 0))"
        )
        page.route("**/assets/**", lambda route: route.abort())
        page.keyboard.press("Alt+0")
        expect(page.get_by_role("dialog")).to_contain_text("print the sheet of this station")
        page.keyboard.press("Escape")
        page.locator("#line-plate_mm .source").click()
        expect(page.locator("#line-plate_mm .statements")).to_be_visible()


class Paper(BrowserCase):
    def test_ctrl_p_opens_the_sheet_and_a_file_that_is_refused_says_why_on_the_screen(self):
        page, id = self.demo_copy("stack")
        with page.context.expect_page() as opened:
            page.keyboard.press("Control+p")
        opened.value.close()
        made = self.context.request.post(f"{self.base}/api/builds", data={"name": "Blank"}).json()
        page.goto(f"{self.base}/build/{made['id']}/mate/plate")
        page.get_by_role("link", name="1:1 on A4").click()
        expect(page.get_by_role("main").get_by_role("alert")).to_contain_text("takes three holes")
        page.goto(f"{self.base}/build/{id}/mate/plate")
        with page.expect_download() as download:
            page.get_by_role("link", name="1:1 on A4").click()
        self.assertEqual(download.value.suggested_filename, "Copy plate A4 v1.pdf")


class Rows(BrowserCase):
    def test_rows_are_copied_mirrored_moved_pasted_and_filled(self):
        page, id = self.demo_copy("seat")
        page.goto(f"{self.base}/build/{id}/seat/mounts")
        page.get_by_role("button", name="open mounts").click()
        rows = page.locator(".rowstable tbody tr")
        expect(rows.first).to_be_visible()
        count = rows.count()
        left = self.document(id)["document"]["mounts"][0]["left"]
        page.get_by_label("Mount 1: copy, mirror or move it").select_option("mirror")
        expect(rows).to_have_count(count + 1)
        made = self.document(id)["document"]["mounts"][1]
        self.assertEqual(made["left"], left[1:] if left.startswith("-") else f"-{left}")
        self.assertEqual(made["evidence"]["source"], "guess")
        page.get_by_label(f"Mount {made['n']}: copy, mirror or move it").select_option("down")
        expect(rows.nth(2).locator("input.whole").first).to_have_value(str(made["n"]))
        cell = page.get_by_label(f"Mount {made['n']}, left of crank axis, mm")
        cell.focus()
        page.evaluate(
            "([text, id]) => { const data = new DataTransfer(); data.setData('text/plain', text);"
            " document.getElementById(id).dispatchEvent(new ClipboardEvent('paste',"
            " { clipboardData: data, bubbles: true, cancelable: true })) }",
            ["-210\t33\n-211\t34\n-212\t35\n", cell.get_attribute("id")],
        )
        expect(cell).to_have_value("-210")
        mounts = self.document(id)["document"]["mounts"]
        at = next(i for i, m in enumerate(mounts) if m["n"] == made["n"])
        self.assertEqual([m["left"] for m in mounts[at : at + 3]], ["-210", "-211", "-212"])
        below = page.get_by_label(f"Mount {mounts[at + 1]['n']}, left of crank axis, mm")
        below.focus()
        page.keyboard.press("Control+d")
        expect(below).to_have_value("-210")
        mounts = self.document(id)["document"]["mounts"]
        self.assertEqual(mounts[at]["said"]["left"]["source"], "measured elsewhere")
        self.assertEqual(mounts[at + 1]["said"]["left"]["source"], "guess")

    def test_holes_have_what_every_list_has(self):
        page, id = self.demo_copy("mate")
        page.goto(f"{self.base}/build/{id}/mate/pattern")
        page.get_by_role("button", name="open the holes").first.click()
        table = page.get_by_role("table", name="Bolt holes of the engine")
        count = table.locator("tbody tr").count()
        page.get_by_label("E3: copy, mirror or move it").select_option("mirror")
        expect(table.locator("tbody tr")).to_have_count(count + 1)
        holes = self.document(id)["document"]["engine_face"]["holes"]
        self.assertEqual(
            (holes[3]["u"], holes[3]["evidence"]["source"]), (f"-{holes[2]['u']}", "guess")
        )
        page.get_by_label("fastened by of all rows").select_option("hex head")
        expect(page.get_by_label("E1 fastened by")).to_have_value("hex head")
        field = page.get_by_label("E2 land, mm")
        page.get_by_label("E1 land, mm").fill("27.5")
        page.get_by_label("E1 land, mm").press("Enter")
        field.focus()
        page.keyboard.press("Control+d")
        expect(field).to_have_value("27.5")
        seen = table.evaluate(
            "t => { const edge = t.parentElement.getBoundingClientRect().right + 1;"
            " return [...t.querySelectorAll('thead th')]"
            ".filter(h => h.getBoundingClientRect().right <= edge).length }"
        )
        self.assertGreaterEqual(seen, 8)

    def test_what_shuts_a_gate_leads_to_where_it_is_done(self):
        page, id = self.demo_copy("assemble")
        gate = next(s for s in self.document(id)["document"]["steps"] if s["gate"] == "start")
        page.locator(f'[data-finding="assemble.hold.{gate["n"]}"] .findinghead').click()
        page.get_by_role("button", name="Show all of it").click()
        row = page.locator(f'[data-step="{gate["n"]}"]')
        expect(row.get_by_label("To measure", exact=True)).to_be_visible()
        row.get_by_label("To close").get_by_role("button", name="Rag in the intake").click()
        rag = next(x for x in self.document(id)["document"]["provisional"] if "Rag" in x["name"])
        expect(page.locator(f"#provisional-{rag['n']}-n")).to_be_focused()
        self.assertIn("/log/items", page.url)

    def test_an_input_that_is_wanting_in_a_closed_list_is_opened_and_in_hand(self):
        page, id = self.demo_copy("mate")
        page.goto(f"{self.base}/build/{id}/mate/pattern")
        page.get_by_role("button", name="open the holes").first.click()
        page.get_by_label("E5 across, mm").fill("")
        page.get_by_label("E5 across, mm").press("Enter")
        line = page.locator('[data-finding="mate.holes.engine"]')
        expect(line).to_contain_text("engine hole 5, across")
        page.reload()
        line.locator(".findinghead").click()
        line.get_by_role("button", name="Engine hole 5, across", exact=True).click()
        expect(page.get_by_label("E5 across, mm")).to_be_focused()


class Live(BrowserCase):
    def test_another_screens_change_is_told_without_being_asked_for(self):
        first, id = self.demo_copy()
        second = self.context.new_page()
        second.route("**/now", lambda route: route.abort())
        second.goto(f"{self.base}/build/{id}/stack")
        second.wait_for_selector(".findings .finding")
        first.locator("#figure-nose_chamfer_mm").fill("1.7")
        first.locator("#figure-nose_chamfer_mm").press("Enter")
        expect(second.locator("#figure-nose_chamfer_mm")).to_have_value("1.70")
        expect(second.locator(".stepped")).to_contain_text("Nose chamfer")
