"""At the bench: runs of readings, tables from elsewhere, gauges, another part fitted."""

import io
import re
import subprocess
import sys

from PIL import Image, ImageDraw
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


class Tables(BrowserCase):
    def test_a_table_is_looked_at_before_it_is_taken_and_the_rest_lies_in_the_tray(self):
        page, id = ARunOfReadings.blank(self, "stack")
        page.locator("#figure-crank_flange_mm").click()
        page.evaluate(
            """text => {
              const data = new DataTransfer()
              data.setData('text/plain', text)
              const pasted = new ClipboardEvent('paste', {clipboardData: data, bubbles: true})
              document.activeElement.dispatchEvent(pasted)
            }""",
            "4,03\n42.5\nNaN\n28.1 in in\n1\n",
        )
        panel = page.get_by_role("dialog", name="Tables in and out")
        expect(panel.get_by_role("row")).to_have_count(6)
        expect(panel).to_contain_text("4.03 mm = 0.1587 in")
        panel.get_by_label("Its figures are").select_option("measured")
        panel.get_by_label("Take line 2, Crank bore, depth from its flange").uncheck()
        panel.get_by_role("button", name="Take 2 lines").click()
        expect(panel).to_have_count(0)
        expect(page.locator("#figure-separator_mm")).to_have_value("1.00")
        tray = page.get_by_label("Tray of loose readings")
        expect(tray.get_by_role("listitem")).to_have_count(2)
        page.reload()
        line = tray.get_by_role("listitem").nth(1)
        line.get_by_label("Loose reading 28.1 in in").fill("28.1")
        expect(line.get_by_role("combobox")).to_have_value("flywheel_mm")
        line.get_by_role("button", name="Put it there").click()
        expect(page.locator("#figure-flywheel_mm")).to_have_value("28.10")
        tray.get_by_role("button", name="throw away NaN").click()
        expect(tray).to_have_count(0)
        dims = self.document(id)["document"]["dims"]
        self.assertEqual(set(dims), {"crank_flange_mm", "separator_mm", "flywheel_mm"})
        page.keyboard.press("Alt+u")
        expect(page.locator("#figure-flywheel_mm")).to_have_value("")

    def test_a_list_goes_out_as_a_file_and_comes_in_as_new_rows(self):
        page, id = self.demo_copy("seat")
        before = len(self.document(id)["document"]["mounts"])
        page.goto(f"{self.base}/build/{id}/seat/mounts")
        page.get_by_role("button", name="open mounts").click()
        page.get_by_role("button", name="table of mounts").click()
        panel = page.get_by_role("dialog", name="Tables in and out")
        with page.expect_download() as got:
            panel.get_by_role("link", name="this list (CSV)").click()
        rows = got.value.path().read_text("utf-8-sig").splitlines()
        self.assertEqual(len(rows), before + 1)
        text = "\n".join([rows[0], *(row.partition(",")[2].join((",", "")) for row in rows[1:])])
        panel.get_by_label("A column or a table, pasted").fill(text)
        panel.get_by_role("button", name=f"Take {before} lines").click()
        expect(page.locator(".rowstable tbody tr")).to_have_count(2 * before)
        mounts = self.document(id)["document"]["mounts"]
        self.assertEqual(mounts[-1]["evidence"]["source"], "measured elsewhere")
        self.assertEqual(mounts[-1]["left"], mounts[before - 1]["left"])

    def test_marked_rows_are_done_with_at_once_and_a_cell_said_twice_is_settled(self):
        page, id = self.demo_copy("seat")
        page.goto(f"{self.base}/build/{id}/seat/mounts")
        page.get_by_role("button", name="open mounts").click()
        rows = self.document(id)["document"]["mounts"]
        page.get_by_label(f"Mark Mount {rows[0]['n']}").click()
        page.get_by_label(f"Mark Mount {rows[-1]['n']}").click(modifiers=["Shift"])
        bar = page.get_by_label("Marked rows of Mounts", exact=True)
        expect(bar).to_contain_text(f"{len(rows)} rows marked")
        bar.get_by_role("button", name="copy to the other side").click()
        expect(page.locator(".rowstable tbody tr")).to_have_count(2 * len(rows))
        page.keyboard.press("Alt+u")
        expect(page.locator(".rowstable tbody tr")).to_have_count(len(rows))
        menu = page.get_by_label("Mount 1: copy, mirror or move it")
        menu.select_option("otherwise")
        others = page.get_by_label("What others say of Mount 1")
        others.get_by_label("Said otherwise of").select_option("up")
        others.get_by_label("it is", exact=True).fill("75")
        others.get_by_role("button", name="Put beside").click()
        said = page.locator('[data-finding="contradiction.mounts.1.up"]')
        expect(said).to_contain_text("137.00 mm apart")
        self.verdict(page, "seat.share.1", "unmeasured")
        others.get_by_label("why that one").fill("read at the rubber")
        others.get_by_role("button", name="75 holds").click()
        expect(said).to_have_count(0)
        expect(page.locator("#mounts-1-up")).to_have_value("75")
        (kept,) = self.document(id)["document"]["mounts"][0]["others"]
        self.assertEqual((kept["typed"], kept["settled"]), (rows[0]["up"], "read at the rubber"))

    def test_a_gauge_that_types_while_no_field_is_in_hand_fills_the_tray(self):
        page, _ = ARunOfReadings.blank(self, "stack")
        page.evaluate("localStorage.setItem('pindo.settings', JSON.stringify({bareKeys: true}))")
        page.reload()
        page.wait_for_function(
            "performance.getEntriesByType('resource').some(e => e.name.includes('gauge'))"
        )
        expect(page.locator("#home")).to_be_focused()
        for reading in ("4.03", "42.5"):
            # As fast as a gauge: however busy this machine is, the keys come at one go.
            page.evaluate(
                """text => [...text, 'Enter'].forEach(key => document.getElementById('home')
                  .dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true})))""",
                reading,
            )
        tray = page.get_by_label("Tray of loose readings")
        expect(tray.get_by_role("listitem")).to_have_count(2)
        self.assertIn("/stack", page.url)
        tray.get_by_role("button", name="put them in order into what is wanted here").click()
        expect(page.locator("#figure-crank_bore_depth_mm")).to_have_value("42.50")
        page.locator("#home").focus()
        page.keyboard.press("4")
        expect(page.locator('main[aria-label="seat station"]')).to_be_visible()


class AnotherPart(BrowserCase):
    def test_a_part_from_the_shelf_is_ranked_tried_kept_and_taken_back(self):
        page, id = self.demo_copy("survey")
        page.goto(f"{self.base}/build/{id}/survey/parts")
        page.get_by_role("button", name="what fits? disc").click()
        ranked = page.get_by_label("What fits: disc").get_by_role("listitem")
        expect(ranked.first).to_contain_text("disc out of the old set")
        expect(ranked.first).to_contain_text("0 foul")
        page.get_by_role("button", name="Fit this one disc out of the old set").click()
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("disc out of the old set")
        self.touched(page, "Findings that turn")
        self.assertEqual(self.document(id)["document"]["parts"][6]["fitted"], False)
        page.keyboard.press("Alt+k")
        expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        fitted = page.locator(".fittedpart", has_text="disc out of the old set")
        expect(fitted).to_be_visible()
        page.goto(f"{self.base}/build/{id}/stack/release")
        self.verdict(page, "stack.release_gap", "goes")
        page.keyboard.press("Alt+u")
        self.verdict(page, "stack.release_gap", "fouls")
        parts = self.document(id)["document"]["parts"]
        self.assertEqual(len(parts[6]["sizes"]), 6)

    def test_a_new_part_gets_its_own_sizes_on_the_shelf(self):
        page, id = self.demo_copy("survey")
        before = self.document(id)["document"]["dims"]
        page.goto(f"{self.base}/build/{id}/survey/parts")
        page.get_by_role("button", name="Add to parts").click()
        name = page.get_by_label("Part 10, name")
        expect(name).to_be_focused()
        name.fill("flywheel of the other engine")
        page.get_by_label("Part 10, kind").select_option("flywheel")
        page.get_by_role("button", name="More of Part 10").click()
        page.get_by_label(
            "Flywheel or flexplate bolt circle of flywheel of the other engine, mm"
        ).fill("81")
        page.keyboard.press("Enter")
        expect(page.locator('[data-part="10"]')).to_contain_text("1 of 19 sizes")
        document = self.document(id)["document"]
        self.assertEqual(document["dims"], before)
        (read,) = document["parts"][9]["sizes"]["flywheel_pcd_mm"]["statements"]
        self.assertEqual(read["takes"][0]["typed"], "81")


class Gauges(BrowserCase):
    def test_a_gauge_on_a_line_types_into_the_field_in_hand_and_else_into_the_tray(self):
        gauge = subprocess.Popen(
            [sys.executable, "-m", "pindo.cli", "gauge", "dial", "--no-noise", "--truth", "4.03"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            text=True,
        )
        self.addCleanup(gauge.stdout.close)
        self.addCleanup(gauge.wait)
        self.addCleanup(gauge.kill)
        self.addCleanup(gauge.stdin.close)
        address = re.search(r"127\.0\.0\.1:\d+", gauge.stdout.readline())[0]

        def press(held=""):
            gauge.stdin.write(f"{held}\n")
            gauge.stdin.flush()

        page, id = ARunOfReadings.blank(self, "stack")
        page.keyboard.press("Alt+g")
        box = page.get_by_label("Gauges", exact=True)
        box.get_by_label("Listen to").fill(address)
        box.get_by_role("button", name="Listen", exact=True).click()
        expect(box).to_contain_text("listened to")
        page.locator("#figure-crank_flange_mm").focus()
        press()
        expect(page.locator("#figure-crank_flange_mm")).to_have_value("4.03")
        expect(page.locator("#figure-crank_bore_depth_mm")).to_be_focused()
        press("42.5")
        expect(page.locator("#figure-crank_bore_depth_mm")).to_have_value("42.50")
        page.locator("#home").focus()
        press("18")
        tray = page.get_by_label("Tray of loose readings")
        expect(tray.get_by_label("Loose reading 18.00 mm")).to_be_visible()
        box.get_by_label("held against, mm").fill("26.7")
        box.get_by_label("noise").uncheck()
        page.locator("#figure-shaft_tip_out_mm").focus()
        box.get_by_role("button", name="Press its button").click()
        expect(page.locator("#figure-shaft_tip_out_mm")).to_have_value("26.70")
        dims = self.document(id)["document"]["dims"]
        self.assertEqual(
            {k: d["statements"][0]["takes"][0]["typed"] for k, d in dims.items()},
            {
                "crank_flange_mm": "4.03 mm",
                "crank_bore_depth_mm": "42.50 mm",
                "shaft_tip_out_mm": "26.70",
            },
        )


class OffAPhoto(BrowserCase):
    def test_a_length_is_read_off_a_photo_and_kept_as_a_reading_that_the_photo_is_pinned_to(self):
        """A plate of 300 x 200 mm drawn at 4 px a mm, two marks 120 mm apart."""
        picture = Image.new("RGB", (1600, 1200), "white")
        draw = ImageDraw.Draw(picture)
        draw.rectangle((200, 200, 1400, 1000), outline="black", width=3)
        stream = io.BytesIO()
        picture.save(stream, "PNG")
        page, id = ARunOfReadings.blank(self, "stack")
        kept = page.request.post(
            f"{self.base}/api/builds/{id}/photos",
            data=stream.getvalue(),
            headers={"Content-Type": "image/png"},
        ).json()
        row = {"name": "plate on the bench", "photos": [kept["id"]]}
        page.request.post(
            f"{self.base}/api/builds/{id}/entries",
            data={"acts": [{"do": "add", "list": "log", "row": row}]},
        )
        page.goto(f"{self.base}/build/{id}/log/journal")
        page.get_by_role("button", name="measure Photo with entry 1").click()
        stage = page.get_by_role("img", name="The photo, with what is known and what is read")
        box = stage.bounding_box()
        told = page.get_by_label("Read off", exact=True)

        def pick(x, y):
            page.mouse.click(
                box["x"] + x * box["width"] / 1600, box["y"] + y * box["height"] / 1200
            )

        expect(told).to_contain_text("ends of the known length: 2 to go")
        pick(200, 200)
        pick(1400, 200)
        page.get_by_label("its length, mm").fill("300")
        expect(told).to_contain_text("and its ±")
        page.get_by_label("±, mm").fill("0.5")
        pick(400, 300)
        pick(880, 300)
        expect(told).to_contain_text(re.compile(r"1[12]\d(\.\d+)? ± "))
        told.get_by_role("combobox").select_option("nose_mm")
        # Nothing in the photo says in which plane it lies: who reads says it.
        keep = told.get_by_role("button", name="Keep as a reading")
        expect(keep).to_be_disabled()
        told.get_by_label("it lies in the plane").check()
        keep.click()
        expect(page.get_by_role("dialog")).to_contain_text("is kept as")
        document = self.document(id)["document"]
        (said,) = document["dims"]["nose_mm"]["statements"]
        value, pm = map(float, said["takes"][0]["typed"].split(" ± "))
        self.assertEqual((said["source"], said["tool"]), ("measured", "photo"))
        self.assertLess(abs(value - 120), 2.0)
        self.assertLess(abs(value - 120), pm)
        # 2 % for a camera that nobody saw, and more than that for the hand.
        self.assertTrue(2.4 < pm < 6.0, pm)
        self.assertEqual(document["log"][0]["pin"], "nose_mm")
        page.get_by_role("button", name="Close").click()
        expect(page.get_by_role("button", name="Nose length, tip to shoulder")).to_be_visible()


class HolesByDistances(BrowserCase):
    def test_distances_are_typed_and_the_holes_find_their_places(self):
        page, id = ARunOfReadings.blank(self, "mate")
        true = {1: (-120, 90), 2: (110, 100), 3: (20, -140)}
        holes = [{"n": n, "d": "M10", "lies": "above" if n == 2 else ""} for n in true]
        holes[1]["lies"], holes[0]["lies"] = "right", "above"
        page.request.post(
            f"{self.base}/api/builds/{id}/entries",
            data={
                "acts": [
                    {"do": "rows", "list": "engine_face.holes", "rows": holes},
                    {
                        "do": "add",
                        "list": "engine_face.readings",
                        "row": {"a": 1, "b": 2, "along": "up", "value": "10"},
                    },
                ]
            },
        )
        page.reload()
        page.get_by_role("button", name="open the holes").first.click()
        table = page.get_by_role("table", name="Distances on the engine")
        for a, b in ((1, 2), (2, 3), (1, 3), (None, 1), (None, 2), (None, 3)):
            page.get_by_role("button", name="Add a distance").click()
            row = table.locator("tbody tr").last
            expect(row.locator("[data-field=a] input")).to_be_focused()
            p, q = (true.get(n, (0, 0)) for n in (a, b))
            row.locator("[data-field=a] input").fill("" if a is None else str(a))
            page.keyboard.press("Tab")
            page.keyboard.type(str(b))
            page.keyboard.press("Tab")
            page.keyboard.type(f"{((p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2) ** 0.5:.2f}")
            page.keyboard.press("Enter")
            expect(page.locator(".saved")).to_contain_text("saved")
        agree = page.locator('[data-finding="mate.read.engine.agree"]')
        expect(agree).to_contain_text("3 holes have a place, but nothing checks")
        expect(page.locator("#engine-3-v")).to_have_attribute("placeholder", "≈ -140.0")
        found = self.document(id)["assessment"]["quantities"]
        for n, place in true.items():
            for field, value in zip("uv", place, strict=True):
                self.assertAlmostEqual(found[f"engine.{n}.{field}"]["value"], value, delta=0.1)


class APhotoDropped(BrowserCase):
    DROP = """async () => {
        const canvas = document.createElement('canvas')
        const blob = await new Promise((done) => canvas.toBlob(done))
        const data = new DataTransfer()
        data.items.add(new File([blob], 'seen.png', { type: 'image/png' }))
        window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, cancelable: true }))
    }"""

    CELLS = """async () => {
        const canvas = document.createElement('canvas')
        const blob = await new Promise((done) => canvas.toBlob(done))
        const data = new DataTransfer()
        data.setData('text/plain', '1\\t2')
        data.items.add(new File([blob], 'cells.png', { type: 'image/png' }))
        window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, cancelable: true }))
    }"""

    def test_a_photo_dropped_anywhere_is_pinned_to_a_part_with_its_version(self):
        page, id = self.demo_copy("stack")
        expect(page.locator("#figure-nose_mm")).to_be_visible()
        # Cells of a spreadsheet bring a picture of themselves: no panel opens, which would be
        # pinned to nothing.
        page.evaluate(self.DROP)
        page.get_by_role("form", name="Photos").get_by_role("button", name="Close").click()
        page.locator("#home").focus()
        page.evaluate(self.CELLS)
        page.locator("#figure-nose_mm").focus()
        page.evaluate(self.DROP)
        panel = page.get_by_role("form", name="Photos")
        expect(panel.get_by_role("img")).to_have_count(1)
        # What is in hand is what it shows, unless somebody says otherwise.
        expect(panel.get_by_label("Pinned to")).to_have_value("nose_mm")
        parts = self.document(id)["document"]["parts"]
        part = next(p for p in parts if p["version"])
        panel.get_by_label("Pinned to").select_option(f"parts.{part['n']}")
        panel.get_by_label("What it shows").fill("casting number")
        panel.get_by_role("button", name="Keep in the log").click()
        expect(panel).to_have_count(0)
        kept = self.document(id)["document"]["log"][-1]
        self.assertEqual((kept["name"], kept["pin"]), ("casting number", f"parts.{part['n']}"))
        self.assertIn(part["version"], kept["pinned_version"])
        self.assertEqual(len(kept["photos"]), 1)
        page.goto(f"{self.base}/build/{id}/survey/parts")
        page.get_by_role("button", name=f"More of Part {part['n']}", exact=True).click()
        expect(page.get_by_role("img", name=re.compile("casting number"))).to_be_visible()


class Guided(BrowserCase):
    def test_a_first_build_by_keyboard_alone_from_the_first_page_to_a_sheet(self):
        page = self.open("/")
        page.get_by_role("button", name="Guided first build").focus()
        page.keyboard.press("Enter")
        guide = page.get_by_label("Guided first build", exact=True)

        def step(key):
            expect(guide.locator("[data-step]")).to_have_attribute("data-step", key)

        def there():
            guide.get_by_role("button", name="Take me there").focus()
            page.keyboard.press("Enter")

        step("fraction")
        there()
        expect(page.locator("#figure-plate_mm")).to_be_focused()
        page.keyboard.type("23/32 in")
        page.keyboard.press("Enter")
        step("pm")
        there()
        expect(page.locator("#figure-shaft_tip_out_mm")).to_be_focused()
        page.keyboard.type("26.7 ± 0.1")
        page.keyboard.press("Enter")
        step("run")
        page.keyboard.press("F3")
        page.keyboard.press("Alt+m")
        for typed in ("4.03", "42", "10", "28.1", "1", "24", "1.5", "0", "14"):
            expect(page.locator(".runnow input")).to_be_focused()
            page.keyboard.type(typed)
            page.keyboard.press("Enter")
        page.keyboard.press("Alt+m")
        step("choice")
        there()
        expect(page.get_by_label("Pilot bearing or converter pilot sits in")).to_be_focused()
        page.keyboard.press("c")
        step("source")
        page.locator("#line-plate_mm .source").focus()
        page.keyboard.press("Enter")
        source = page.locator("#line-plate_mm").get_by_label(re.compile("^Source")).first
        source.focus()
        page.keyboard.type("dr")
        step("trial")
        there()
        expect(page.locator("#figure-plate_mm")).to_be_focused()
        page.keyboard.press("F3")
        page.keyboard.type("16.3")
        page.keyboard.press("Shift+Enter")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("16.3")
        page.keyboard.press("Alt+k")
        expect(guide).to_contain_text("That was a first build")
        self.verdict(page, "stack.pilot_engagement", "goes")
        with page.context.expect_page() as opened:
            guide.get_by_role("button", name="The sheet of Stack").focus()
            page.keyboard.press("Enter")
        opened.value.close()
