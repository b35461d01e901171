"""One build through all stations: seat, line, clear, assemble, log; a trial that ripples; the
hand-over.
"""

import io
import re

import pypdf
from playwright.sync_api import expect

from tests.browser.case import BrowserCase

PNG = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de0000000c4944415408d763f8cfc000000301010018dd8db00000000049454e44ae426082"
)


class TheWholeBuild(BrowserCase):
    def test_from_a_blank_sheet_to_a_moving_trolley_on_paper(self):
        page = self.open("/")
        page.get_by_label("Name", exact=True).fill("Yard trolley")
        page.get_by_role("button", name="Start").click()
        page.wait_for_selector(".findings .finding")
        page.get_by_label("Engine drives through").select_option("centrifugal clutch")
        expect(page.get_by_role("button", name=re.compile("^Stack 3"))).not_to_contain_text(
            re.compile(r"\d\d")
        )

        page.get_by_role("heading", name="Measure next").click()
        page.keyboard.press("Alt+5")
        page.get_by_role("combobox", name="Drive", exact=True).select_option("chain")
        page.keyboard.press("F2")
        expect(page.get_by_label("Tool in hand")).to_have_value("digital calliper")
        for label, typed in (
            ("Driver sprocket, teeth", "12"),
            ("Driven sprocket, teeth", "36"),
            ("Chain pitch, mm", "1/2 in"),
            ("Chain, pitches", "66"),
            ("Centre distance of the sprockets, mm", "262"),
            ("Take-up of the chain, each way, mm", "10"),
        ):
            page.get_by_label(label).fill(typed)
            page.get_by_label(label).press("Enter")
        self.verdict(page, "line.chain_even", "goes")
        self.verdict(page, "line.chain_take_up", "goes")
        expect(page.get_by_role("region", name="Figures")).to_contain_text(
            "Chain, length in pitches"
        )

        page.get_by_role("button", name=re.compile("^Seat 4")).click()
        self.ask(page, "seat.mounts")
        page.get_by_role("button", name="open mounts").click()
        for n in (1, 2, 3):
            # A double click is one row, and a number is used once.
            page.get_by_role("button", name="Add to mounts").dblclick()
            back = page.get_by_label(f"Mount {n}, behind block face, or the mouth, mm")
            back.fill(str(-40 * n))
            back.press("Enter")
            expect(page.get_by_label(f"Mount {n}, name")).to_be_visible()
        expect(page.locator('[data-finding="seat.mounts"]')).to_have_count(0)
        expect(page.get_by_role("button", name=re.compile("^remove Mount"))).to_have_count(3)
        number = page.get_by_label("Mount 3, number")
        number.fill("2")
        number.press("Enter")
        expect(page.locator("#mounts-3-n-said")).to_contain_text("Number 2 is taken")
        number.fill("9")
        number.press("Enter")
        expect(page.get_by_label("Mount 9, name")).to_be_visible()

        page.get_by_role("button", name=re.compile("^Assemble 7")).click()
        page.get_by_label("Kind of build").select_option("chain")
        page.get_by_role("button", name="Lay out the steps").click()
        first = page.locator('[data-step="1"]')
        expect(first).to_have_attribute("data-status", "can do")
        first.get_by_role("button", name=re.compile("Receive and measure")).click()
        first.get_by_role("button", name="Done").click()
        expect(first.get_by_role("alert")).to_contain_text("Write it down first")
        first.get_by_label(re.compile("As built")).fill("all as on the papers")
        first.get_by_label("Signed by").fill("I.")
        first.get_by_role("button", name="Done").click()
        expect(first).to_have_count(0)
        page.get_by_role("tab", name="Hold points").click()
        expect(page.locator('[data-step="24"]')).to_have_attribute("data-status", "waits")
        page.get_by_role("tab", name="Links").click()
        page.get_by_role("button", name=re.compile("Chain guard on")).press("Enter")
        expect(page.locator("path.link.on title")).to_have_text(
            ["step 10 needs it done first: step 9", "step 24 needs it done first: step 10"]
        )

        page.get_by_role("button", name=re.compile("^Log 8")).click()
        page.get_by_label("What happened").fill("Engine offered up on its plate")
        page.set_input_files(
            ".logform input[type=file]", {"name": "up.png", "mimeType": "image/png", "buffer": PNG}
        )
        page.get_by_role("button", name="Write it down").click()
        picture = page.get_by_alt_text(re.compile("Photo with entry 1"))
        expect(picture).to_be_visible()
        page.wait_for_function("i => i.naturalWidth > 0", arg=picture.element_handle())
        self.ask(page, "log.money")
        page.get_by_role("button", name="Add to money").click()
        amount = page.get_by_label("Line 1, amount")
        amount.fill("180.50")
        amount.press("Enter")
        page.get_by_label("Line 1, state").select_option("paid")
        figures = page.get_by_role("region", name="Figures")
        expect(figures).to_contain_text(re.compile("paid.*180.50"))
        self.ask(page, "log.journal")
        with page.expect_download() as caught:
            page.get_by_role("link", name="Hand-over report (PDF)").click()
        with open(caught.value.path(), "rb") as file:
            text = " ".join(
                p.extract_text() for p in pypdf.PdfReader(io.BytesIO(file.read())).pages
            )
        self.assertIn("Yard trolley", text)
        self.assertIn("all as on the papers", text)


class Begin(BrowserCase):
    def test_what_is_known_is_said_at_the_start_and_decides_what_is_asked(self):
        page = self.open("/")
        page.wait_for_selector(".interview")
        page.keyboard.press("Alt+n")
        page.keyboard.type("Yard kart")
        expect(page.get_by_label("Name", exact=True)).to_have_value("Yard kart")
        page.get_by_role("radio", name="crosswise, accessory end to the vehicle left").check()
        drive = page.get_by_role("group", name="How does the drive leave?")
        expect(drive.get_by_role("radio", name="not known yet")).to_be_checked()
        drive.get_by_role("radio", name="half shafts").check()
        page.get_by_role("button", name="Start").click()
        page.wait_for_selector(".findings .finding")
        expect(page.get_by_role("region", name="About the build")).to_contain_text("crosswise left")
        page.keyboard.press("Alt+5")
        expect(page.get_by_role("combobox", name="Drive", exact=True)).to_have_value("half shafts")


class TheEngineDragged(BrowserCase):
    def test_a_pose_is_tried_in_the_side_view_and_every_station_follows(self):
        page, id = self.demo_copy("seat")
        self.verdict(page, "seat.inclination", "goes")
        for question, table, rows in (
            ("seat.mounts", "On its mounts", 4),
            ("seat.place", "Where it sits", 9),
        ):
            self.ask(page, question)
            self.assertGreater(
                page.locator(f'section[aria-label^="{table}"]').first.bounding_box()["height"],
                20 * rows,
                "a table that is squeezed out of sight",
            )
        grip = page.get_by_role("slider", name=re.compile("Unit, fore and aft, up and down"))
        box = grip.locator(".grip").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        for step in range(1, 8):
            page.mouse.move(x + 2 * step, y - 2 * step)
        expect(page.get_by_label("Trial", exact=True)).to_contain_text(
            "Crank axis above top of rail"
        )
        page.mouse.up()
        expect(page.get_by_label("Trial", exact=True)).to_contain_text(
            "Block face behind the front axle line"
        )
        expect(self.touched(page, "Lengths and parts that follow")).to_contain_text(
            "Shaft, front piece, joint to joint"
        )
        expect(self.touched(page, "Readings that lapse")).to_contain_text("fit 1 trial hang")
        self.assertEqual(self.document(id)["version"], 1)
        page.keyboard.press("Escape")
        page.get_by_role("tab", name="From above").click()
        page.keyboard.press("Alt+t")
        for _ in range(8):
            page.keyboard.press("ArrowUp")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text(
            "Crank axis left of the centre plane 12.00 mm → 4.00 mm"
        )
        expect(self.touched(page, "Findings that turn")).to_contain_text(
            "Alternator to Left rail: fouls → goes"
        )
        page.keyboard.press("Alt+k")
        expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        kept = self.document(id)
        self.assertEqual(kept["assessment"]["quantities"]["crank_side_mm"]["value"], 4.0)
        self.assertEqual(kept["document"]["fits"][0]["gaps"][0]["lapsed"]["event"], "unit moved")
        page.keyboard.press("Alt+u")
        expect(page.locator("#figure-crank_side_mm")).to_have_value("12.00")
        expect(page.locator(".stepped")).to_contain_text(
            "Undone: Crank axis left of the centre plane"
        )
        page.keyboard.press("Alt+8")
        expect(page.get_by_role("main", name="log station")).to_be_visible()
        expect(page.locator('[data-finding="log.fit.1.2"]')).to_contain_text("the reading wins")


class TheMouse(BrowserCase):
    SIZES = ((1280, 800), (1920, 1080), (820, 1180))

    def test_a_drag_follows_the_pointer_in_every_window_with_the_trial_opening(self):
        page, _ = self.demo_copy("seat")
        grip = page.get_by_role("slider", name=re.compile("Unit, fore and aft, up and down"))
        for width, height in self.SIZES:
            with self.subTest(width=width):
                page.set_viewport_size({"width": width, "height": height})
                page.wait_for_function(
                    "w => { const s = document.querySelector('.board svg'); return s !== null &&"
                    " innerWidth === w && s.getAttribute('width') ==="
                    " String(Math.floor(s.parentElement.getBoundingClientRect().width)) }",
                    arg=width,
                )
                box = grip.locator(".grip").bounding_box()
                scale = page.evaluate(
                    "() => { const r = document.querySelector('.board"
                    " svg').getBoundingClientRect(); return r.height }"
                )
                x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
                before = grip.get_attribute("aria-valuetext")
                page.mouse.move(x, y)
                page.mouse.down()
                for step in range(1, 13):
                    page.mouse.move(x + 2 * step, y - step)
                expect(page.get_by_label("Trial", exact=True)).to_contain_text("Crank axis")
                now = grip.locator(".grip").bounding_box()
                self.assertAlmostEqual(now["x"] + now["width"] / 2, x + 24, delta=1.0)
                self.assertAlmostEqual(now["y"] + now["height"] / 2, y - 12, delta=1.0)
                self.assertEqual(
                    page.evaluate(
                        "() => document.querySelector('.board svg').getBoundingClientRect().height"
                    ),
                    scale,
                )
                self.assertNotEqual(grip.get_attribute("aria-valuetext"), before)
                page.mouse.up()
                # Let go, it stands where the pointer left it: nothing above it moved.
                rest = grip.locator(".grip").bounding_box()
                self.assertAlmostEqual(rest["y"] + rest["height"] / 2, y - 12, delta=12.0)
                page.get_by_role("button", name="Drop Esc").click()

    def test_clocking_turns_as_far_as_the_pointer_does(self):
        page, _ = self.demo_copy("mate")
        grip = page.get_by_role("slider").first
        box = grip.locator(".grip").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 20, y + 2)
        page.mouse.move(x + 40, y + 8)
        expect(page.get_by_label("Trial", exact=True)).to_be_visible()
        now = grip.locator(".grip").bounding_box()
        self.assertLess(abs(now["x"] + now["width"] / 2 - x - 40), 6.0)
        page.mouse.up()

    def test_the_page_itself_never_scrolls(self):
        page, _ = self.demo_copy("survey")
        for station in ("survey", "mate", "stack", "seat", "line", "clear", "assemble", "log"):
            page.goto(page.url.rsplit("/", 1)[0] + "/" + station)
            page.wait_for_selector(".findings .finding")
            self.assertEqual(
                page.evaluate(
                    "[document.documentElement.scrollHeight - innerHeight,"
                    " document.documentElement.scrollWidth - innerWidth]"
                ),
                [0, 0],
                station,
            )


class InSpace(BrowserCase):
    def test_the_view_in_space_loads_only_here_and_carries_the_gaps(self):
        loaded = []
        page, _ = self.demo_copy("stack")
        page.on("request", lambda r: loaded.append(r.url))
        page.keyboard.press("Alt+6")
        expect(page.get_by_label("Tightest pairs")).to_contain_text("every pair is measured: 240")
        self.assertFalse([u for u in loaded if "Space" in u])
        page.get_by_role("tab", name="In space").click()
        spot = page.locator(".spot.tight").first
        expect(spot).to_be_visible()
        self.assertTrue([u for u in loaded if "Space" in u])
        before = spot.bounding_box()
        page.get_by_role("application").focus()
        for _ in range(4):
            page.keyboard.press("ArrowLeft")
        page.wait_for_function(
            "was => { const now = document.querySelector('.spot.tight').getBoundingClientRect();"
            " return now.x !== was.x || now.y !== was.y }",
            arg=before,
        )
        spot.dispatch_event("click")
        expect(page.locator(".finding.open")).to_contain_text("clears")

    def test_what_a_step_and_a_solid_are_found_by(self):
        page, _ = self.demo_copy("stack")
        page.keyboard.press("Alt+f")
        page.get_by_role("combobox", name="Find").fill("injection pump solid")
        page.keyboard.press("Enter")
        expect(page.get_by_role("main", name="clear station")).to_be_visible()

    def test_the_trolley_draws_its_chain_and_asks_nothing_of_a_bell(self):
        page, _ = self.demo_copy("line", "garden-trolley")
        self.verdict(page, "line.chain_plane", "fouls")
        page.locator('[data-finding="line.chain_plane"] .findinghead').click()
        page.get_by_role("button", name="Try Driver sprocket left of the centre plane").click()
        self.verdict(page, "line.chain_plane", "goes")
        page.keyboard.press("Escape")
        page.keyboard.press("Alt+2")
        expect(page.locator("aside.findings .finding")).to_have_count(0)


class Searching(BrowserCase):
    def test_every_way_out_is_found_beside_the_work_and_tried(self):
        page, _ = self.demo_copy("stack/release")
        page.get_by_role("button", name="ways out", exact=True).click()
        drawer = page.get_by_role("dialog", name="Ways out")
        expect(drawer.get_by_role("status")).to_contain_text(
            re.compile(r"all \d+ looked at"), timeout=60_000
        )
        drawer.get_by_role("button", name="Try Shim under the slave").click()
        expect(drawer).to_have_count(0)
        self.verdict(page, "stack.release_gap", "goes")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("Shim under the slave")
