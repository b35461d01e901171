"""A fabricator's run through the screen: new build, fractions, a trial by dragging, undo, files,
reload, two tabs.
"""

import io
import json
import re

import ezdxf
import pypdf
from playwright.sync_api import expect

from tests.browser.case import BrowserCase

STATIONS = ("survey", "mate", "stack", "seat", "line", "clear", "assemble", "log")


class ANewBuild(BrowserCase):
    def test_from_nothing_to_a_verdict(self):
        page = self.open("/")
        page.get_by_label("Name", exact=True).fill("Yard crane")
        page.get_by_label("Vehicle", exact=True).fill("Crane on a three-axle frame")
        page.get_by_role("button", name="Start").click()
        page.wait_for_selector(".findings .finding")
        page.keyboard.press("Alt+3")
        expect(page.get_by_role("main", name="stack station")).to_be_visible()
        self.ask(page, "stack.match")
        page.keyboard.press("F2")
        disc, face = (
            page.get_by_label(x)
            for x in ("Disc diameter, mm", "Friction face of the flywheel, outside, mm")
        )
        disc.fill("8 31/32 in")
        expect(page.locator("#figure-disc_od_mm-said")).to_contain_text("227.806 mm = 8 31/32 in")
        disc.press("Enter")
        self.verdict(page, "stack.disc_on_face", "unmeasured")
        face.fill("200")
        face.press("Enter")
        self.verdict(page, "stack.disc_on_face", "fouls")
        expect(page.locator('[data-finding="stack.disc_on_face"]')).to_contain_text("by 27.81 mm")
        page.get_by_role("button", name="in", exact=True).click()
        expect(page.locator('[data-finding="stack.disc_on_face"]')).to_contain_text("by 1.0947 in")

    def test_awkward_entries_are_asked_about_in_place_and_keep_their_text(self):
        page, id = self.demo_copy()
        field = page.get_by_label("Nose length, tip to shoulder, mm")
        for typed, words in (
            ("1,234", "Is 1,234 1234, or 1.234"),
            ("3/4", "Is 3/4 in inches"),
            ("24..1", "not understood|do not group"),
        ):
            field.fill(typed)
            field.press("Enter")
            expect(page.locator("#figure-nose_mm-said.wrong")).to_have_text(re.compile(words))
            expect(field).to_have_value(typed)
        self.assertEqual(self.document(id)["version"], 1)
        field.fill("142.6 - 12.7/2 - 112.25")
        field.press("Enter")
        expect(field).to_have_value("24.00")
        page.keyboard.press("Escape")
        page.keyboard.press("Alt+2")
        self.ask(page, "mate.runout")
        page.get_by_label("Runout of the bell's bore, mm").fill("hardly any")
        page.get_by_label("Runout of the bell's bore, mm").press("Enter")
        expect(page.locator("#line-bore_tir_mm")).to_contain_text("“hardly any” hides a number")
        self.verdict(page, "mate.bore_tir", "unmeasured")

    def test_forty_five_readings_without_a_pause_land_each_on_its_line(self):
        page = self.open("/")
        page.get_by_label("Name", exact=True).fill("Blank")
        page.get_by_role("button", name="Start").click()
        page.wait_for_selector(".findings .finding")
        id = page.url.split("/")[4]
        self.ask(page, "survey.evidence")
        page.wait_for_selector("main .line")
        keys = page.evaluate(
            "() => [...document.querySelectorAll('main .line')].filter(l =>"
            " l.querySelector('.unit').textContent === 'mm').map(l => l.id.slice(5))"
        )[:45]
        self.assertEqual(len(keys), 45)
        typed = {key: f"{10 + n}.5" for n, key in enumerate(keys)}
        ends = ("Enter", "Tab", "Tab Enter")
        for n, (key, text) in enumerate(typed.items()):
            if page.evaluate("document.activeElement.id") != f"figure-{key}":
                page.locator(f"#figure-{key}").focus()
            for letter in "01A+00" + text if n % 5 == 0 else text:
                page.keyboard.press(letter)
            for end in ends[n % 3].split():
                page.keyboard.press(end)
        expect(page.locator(".saved")).to_have_text(
            re.compile(r"^saved \d\d:\d\d$"), timeout=90_000
        )
        dims = self.document(id)["document"]["dims"]
        self.assertEqual(
            {
                key: dims[key]["statements"][-1]["takes"][-1]["typed"].replace("01A+00", "")
                for key in typed
                if key in dims
            },
            typed,
        )

    def test_what_is_typed_goes_on_while_an_answer_is_late(self):
        page, _ = self.demo_copy()
        held = []
        page.route("**/entries*", lambda route: route.continue_() if held else held.append(route))
        page.get_by_label("Nose chamfer, mm").fill("1.7")
        with page.expect_request("**/entries*"):
            page.get_by_label("Nose chamfer, mm").press("Enter")
        width = page.get_by_label("Pilot bearing width, mm")
        width.click()
        page.keyboard.type("1")
        expect(page.locator(".saved")).to_contain_text("1 not stored yet")
        held[0].continue_()
        expect(page.locator("#figure-nose_chamfer_mm")).to_have_value("1.70")
        page.keyboard.type("3.2")
        expect(width).to_have_value("13.2")

    def test_a_refusal_keeps_its_text_and_stops_the_run_after_the_field_in_hand(self):
        page, id = self.demo_copy()
        nose = page.locator("#figure-nose_mm")
        before = nose.input_value()
        nose.fill("1,234")
        nose.press("Enter")
        expect(page.locator("#figure-nose_mm-said.wrong")).to_have_text(
            re.compile("Is 1,234 1234, or 1.234")
        )
        second = page.evaluate("document.activeElement.id")
        self.assertNotEqual(second, "figure-nose_mm")
        page.keyboard.type("21.5")
        page.keyboard.press("Enter")
        page.keyboard.type("99")
        page.keyboard.press("Enter")
        self.assertEqual(page.evaluate("document.activeElement.id"), "home")
        expect(page.locator(".saved")).to_contain_text("1 refused")
        expect(page.locator(f"#{second}")).to_have_value("21.50")
        dims = self.document(id)["document"]["dims"]
        self.assertNotIn(
            "99", [t["typed"] for d in dims.values() for x in d["statements"] for t in x["takes"]]
        )
        self.assertEqual(
            dims[second.removeprefix("figure-")]["statements"][-1]["takes"][-1]["typed"], "21.5"
        )
        page.reload()
        expect(nose).to_have_value("1,234")
        page.get_by_role("button", name="1 refused").click()
        expect(nose).to_be_focused()
        page.keyboard.press("Escape")
        expect(nose).to_have_value(before)

    def test_a_face_is_entered_hole_by_hole_and_nothing_is_invented(self):
        page = self.open("/")
        page.get_by_label("Name", exact=True).fill("Blank")
        page.get_by_role("button", name="Start").click()
        page.wait_for_selector(".findings .finding")
        page.get_by_role("button", name="change", exact=True).click()
        page.get_by_label("The engine stands").select_option("reversed")
        expect(page.get_by_label("Profile of the build")).to_contain_text(
            "accessory end = vehicle rear"
        )
        page.keyboard.press("Alt+2")
        page.get_by_role("button", name="open the holes").first.click()
        page.get_by_role("button", name="Add a hole").click()
        expect(page.get_by_label("E1 across, mm")).to_be_focused()
        expect(page.get_by_label("E1 across, mm")).to_have_value("")
        expect(page.locator('[data-finding="mate.holes.engine"]')).to_contain_text(
            "engine hole 1, across, engine hole 1, up, engine hole 1, diameter (not measured)"
        )
        for typed in ("-2 5/8 in", "4-1/2 in", "3/8 in"):
            page.keyboard.type(typed)
            page.keyboard.press("Enter")
            expect(page.locator(".figure input:focus")).to_have_value("")
        expect(page.locator('[data-finding="mate.holes.engine"]')).to_have_count(0)
        page.keyboard.press("F2")
        page.get_by_role("button", name="Add a dowel").click()
        for words, typed in (
            ("across", "80"),
            ("up", "0"),
            ("size", "12"),
            ("stands out", "9"),
            ("depth for it", "8.4"),
        ):
            page.get_by_label(f"E2 {words}, mm").fill(typed)
            page.get_by_label(f"E2 {words}, mm").press("Tab")
        self.verdict(page, "mate.dowel_bottom.E2", "fouls")
        page.get_by_role("button", name="Add another land").click()
        page.get_by_label("land 1 of the engine, name").fill("drain nib")
        page.get_by_label("land 1 of the engine, name").press("Tab")
        expect(page.locator('[data-finding="mate.holes.engine"]')).to_contain_text("drain nib")

    def test_the_state_that_a_reading_was_taken_in_can_be_said_afterwards(self):
        page, _ = self.demo_copy()
        finding = page.locator('[data-finding="stack.cover_to_bell"]')
        expect(finding).to_contain_text("taken hung")
        self.ask(page, "stack.release")
        page.locator("#line-bell_depth_mm .source").click()
        page.get_by_label(re.compile("Unit position, Bell depth")).select_option("bench")
        expect(finding).not_to_contain_text("taken hung")

    def test_a_lapsed_row_counts_again_once_it_was_read_again(self):
        page, id = self.demo_copy("seat")
        point = {
            "n": 1,
            "on_back": "0",
            "on_left": "0",
            "on_up": "0",
            "evidence": {"lapsed": {"event": "unit hung"}},
        }
        patch = json.dumps([{"op": "add", "path": "/pose_points/-", "value": point}])
        page.request.patch(
            f"{self.base}/api/builds/{id}",
            data=patch,
            headers={
                "Content-Type": "application/json-patch+json",
                "If-Match": f'"{self.document(id)["tag"]}"',
            },
        )
        page.reload()
        page.get_by_role("button", name="open points to find the pose").click()
        row = page.locator("tr.lapsed")
        expect(row).to_contain_text("lapsed: unit hung")
        row.get_by_role("button", name="read again").click()
        expect(row).to_have_count(0)
        self.assertEqual(
            self.document(id)["document"]["pose_points"][0]["evidence"]["state"]["position"],
            "stand",
        )

    def test_enter_goes_to_the_next_line_that_is_unmeasured(self):
        page = self.open("/")
        page.get_by_label("Name", exact=True).fill("Blank")
        page.get_by_role("button", name="Start").click()
        page.wait_for_selector(".findings .finding")
        page.keyboard.press("Alt+3")
        expect(page.get_by_role("main", name="stack station")).to_be_visible()
        page.keyboard.press("Alt+n")
        expect(page.locator("#figure-crank_flange_mm")).to_be_focused()
        page.keyboard.type("4.1")
        page.keyboard.press("Enter")
        expect(page.locator("#figure-crank_bore_depth_mm")).to_be_focused()


class Trials(BrowserCase):
    def test_dragging_the_plate_turns_findings_before_anything_is_saved(self):
        page, id = self.demo_copy()
        self.verdict(page, "stack.pilot_engagement", "tight")
        grip = page.get_by_role("slider", name="Adapter plate, drag to try")
        box = grip.locator(".grip").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        for step in range(1, 9):
            page.mouse.move(x - step, y)
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("Trial, not saved")
        page.mouse.up()
        self.verdict(page, "stack.pilot_engagement", "goes")
        thickness = float(grip.get_attribute("aria-valuenow"))
        self.assertLess(thickness, 17.5)
        self.assertEqual(self.document(id)["version"], 1)
        expect(self.touched(page, "Findings that turn")).to_contain_text(
            "Nose in the pilot bearing: tight → goes"
        )
        page.keyboard.press("Escape")
        self.verdict(page, "stack.pilot_engagement", "tight")

    def test_a_trial_dropped_before_its_answer_came_does_not_swallow_the_next(self):
        page, _ = self.demo_copy()
        held = []
        page.route(
            "**/entries?*dry=true*", lambda route: route.continue_() if held else held.append(route)
        )
        page.get_by_role("slider", name="Adapter plate, drag to try").focus()
        with page.expect_request("**/entries?*dry=true*"):
            page.keyboard.press("ArrowLeft")
        page.keyboard.press("Escape")
        page.get_by_role("slider", name="Adapter plate, drag to try").focus()
        for _ in range(4):
            page.keyboard.press("ArrowLeft")
        held[0].continue_()
        expect(self.touched(page, "Findings that turn")).to_contain_text(
            "Nose in the pilot bearing: tight → goes"
        )
        expect(page.get_by_label("Trial", exact=True)).to_contain_text("17.60 mm")

    def test_keep_then_undo_then_redo(self):
        page, id = self.demo_copy()
        page.get_by_role("slider", name="Adapter plate, drag to try").focus()
        for _ in range(4):
            page.keyboard.press("ArrowLeft")
        expect(self.touched(page, "Readings that lapse")).to_contain_text(
            "0.11 Runout of the bell's face"
        )
        page.keyboard.press("Alt+k")
        expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        kept = self.document(id)
        self.assertEqual(kept["version"], 2)
        self.assertEqual(kept["assessment"]["quantities"]["plate_mm"]["value"], 17.6)
        self.assertEqual(kept["assessment"]["quantities"]["face_tir_mm"]["status"], "lapsed")
        self.assertEqual(
            kept["document"]["events"][-1]["event"], "plate, shield, spacer or adapter thickness"
        )
        page.keyboard.press("Alt+u")
        expect(page.locator("#figure-plate_mm")).to_have_value("18.00")
        page.keyboard.press("Alt+r")
        expect(page.locator("#figure-plate_mm")).to_have_value("17.60")

    def test_an_entry_that_spoils_readings_becomes_a_trial_first(self):
        page, id = self.demo_copy()
        field = page.get_by_label("Adapter plate, mm")
        field.fill("17.7")
        field.press("Enter")
        expect(self.touched(page, "Readings that lapse")).to_contain_text(
            "Runout of the bell's face"
        )
        self.assertEqual(self.document(id)["version"], 1)
        page.get_by_role("button", name="Keep Alt K").click()
        expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        self.assertEqual(self.document(id)["assessment"]["quantities"]["plate_mm"]["value"], 17.7)

    def test_a_correction_is_a_save_and_a_choice_belongs_to_the_trial_that_is_open(self):
        page, id = self.demo_copy("stack/match")
        page.get_by_label("Disc diameter, mm").fill("284")
        page.get_by_label("Disc diameter, mm").press("Enter")
        self.verdict(page, "stack.disc_on_face", "fouls")
        trial = page.get_by_label("Trial", exact=True)
        expect(trial).to_have_count(0)
        said = self.document(id)["document"]["dims"]["disc_od_mm"]["statements"]
        self.assertEqual(
            [(s["source"], s["tool"], s["lapsed"] is None) for s in said][-1],
            ("measured", None, True),
        )
        self.ask(page, "stack.spacing")
        nose = page.get_by_label("Nose chamfer, mm")
        nose.fill("1.7")
        nose.press("Shift+Enter")
        expect(trial).to_contain_text("Nose chamfer, mm")
        page.get_by_label("Pilot bearing or converter pilot sits in").select_option("")
        expect(trial).to_contain_text("Pilot bearing or converter pilot sits in")
        self.assertEqual(self.document(id)["version"], 2)
        page.reload()
        expect(trial).to_contain_text("Pilot bearing or converter pilot sits in")
        page.get_by_role("button", name="Drop Esc").click()
        expect(trial).to_have_count(0)
        self.assertEqual(self.document(id)["version"], 2)

    def test_a_row_is_tried_before_it_spoils_anything(self):
        page, id = self.demo_copy("seat/mounts")
        page.get_by_role("button", name="open mounts").click()
        stiff = page.get_by_label("Mount 1, stiffness upright, N/mm")
        stiff.fill("90")
        stiff.press("Shift+Enter")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text(
            "Mount 1, stiffness upright, N/mm 880 → 90"
        )
        self.verdict(page, "seat.squash.1", "fouls")
        expect(stiff).to_have_value("90")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Drop Esc").click()
        expect(stiff).to_have_value("880")
        self.assertEqual(self.document(id)["version"], 1)

    def test_any_figure_can_be_tried_before_it_is_kept(self):
        page, id = self.demo_copy()
        field = page.get_by_label("Nose chamfer, mm")
        field.fill("1.7")
        field.press("Shift+Enter")
        expect(page.get_by_label("Trial", exact=True)).to_contain_text(
            "Nose chamfer, mm 1.50 → 1.7"
        )
        expect(field).to_be_focused()
        self.assertEqual(self.document(id)["version"], 1)
        page.get_by_role("button", name="Drop Esc").click()
        expect(field).to_have_value("1.50")

    def test_a_way_out_is_tried_from_its_finding(self):
        page, id = self.demo_copy()
        page.locator('[data-finding="stack.release_gap"] .findinghead').click()
        page.get_by_role("button", name="Try Shim under the slave").click()
        self.verdict(page, "stack.release_gap", "goes")
        page.get_by_role("button", name="Keep Alt K").click()
        expect(page.get_by_label("Trial", exact=True)).to_have_count(0)
        self.assertEqual(self.document(id)["assessment"]["tallies"]["stack"]["fouls"], 1)

    def test_turning_the_gearbox_clears_the_pocket(self):
        page, _ = self.demo_copy("mate")
        self.verdict(page, "mate.pocket.G9", "fouls")
        expect(page.get_by_role("slider")).not_to_have_count(0)
        page.keyboard.press("Alt+t")
        for _ in range(3):
            page.keyboard.press("ArrowRight")
        expect(self.touched(page, "Findings that turn")).to_contain_text(
            "Starter pocket at hole G9: fouls → goes"
        )


class LimitsAndEvents(BrowserCase):
    def test_a_limit_is_changed_for_the_build_with_its_reason(self):
        page, id = self.demo_copy()
        page.locator('[data-finding="stack.pilot_engagement"] .findinghead').click()
        page.get_by_role(
            "button", name=re.compile("change pilot engagement, share of the bearing")
        ).click()
        form = page.get_by_role("form", name=re.compile("change pilot engagement, share"))
        form.get_by_label("Limit").fill("0.6")
        form.get_by_role("button", name="Keep").click()
        expect(form.get_by_role("alert")).to_contain_text("Say why")
        form.get_by_label("Why").fill("short nose, light duty")
        form.get_by_role("button", name="Keep").click()
        self.verdict(page, "stack.pilot_engagement", "goes")
        expect(page.locator('[data-finding="stack.pilot_engagement"]')).to_contain_text(
            "limit changed"
        )
        self.assertEqual(
            self.document(id)["document"]["rules"]["pilot_share"],
            {"value": 0.6, "note": "short nose, light duty"},
        )

    def test_an_event_lists_what_lapses_before_it_is_confirmed(self):
        page, id = self.demo_copy("mate")
        page.get_by_role("button", name="Something happened").click()
        page.get_by_label("Event").select_option("dowel out, in or replaced")
        expect(page.get_by_role("dialog")).to_contain_text("Runout of the bell's face")
        self.assertEqual(self.document(id)["version"], 1)
        page.get_by_role("button", name="It happened").click()
        expect(page.locator('[data-finding="mate.face_tir"]')).to_contain_text("lapsed")
        page.keyboard.press("Alt+u")
        self.verdict(page, "mate.face_tir", "goes")

    def test_a_contradiction_is_settled_by_choosing(self):
        page, _ = self.demo_copy()
        page.locator('[data-finding="contradiction.engine_torque_nm"] .findinghead').click()
        page.locator('[data-finding="contradiction.engine_torque_nm"]').get_by_role(
            "button", name="Choose"
        ).first.click()
        expect(page.locator('[data-finding="contradiction.engine_torque_nm"]')).to_have_count(0)
        self.verdict(page, "stack.gearbox_torque", "goes")


class FilesAndReload(BrowserCase):
    def download(self, page, name):
        with page.expect_download() as caught:
            page.get_by_role("link", name=name, exact=True).click()
        with open(caught.value.path(), "rb") as file:
            return file.read()

    def test_the_dxf_read_back_by_ezdxf_and_the_template_by_pypdf(self):
        page, _ = self.demo_copy("mate/plate")
        doc = ezdxf.read(io.StringIO(self.download(page, "DXF").decode("utf-8")))
        self.assertEqual(
            len([c for c in doc.modelspace().query("CIRCLE") if c.dxf.layer == "TAP_DRILL"]), 10
        )
        pdf = pypdf.PdfReader(io.BytesIO(self.download(page, "1:1 on A4")))
        self.assertAlmostEqual(float(pdf.pages[0].mediabox.width) * 25.4 / 72, 210.0, delta=0.05)
        self.assertIn("100 mm: lay a rule on it", pdf.pages[0].extract_text())

    def test_the_shop_sheet_of_the_station(self):
        page, id = self.demo_copy()
        with page.context.expect_page() as opened:
            page.keyboard.press("Alt+p")
        self.assertIn(
            f"/api/builds/{id}/sheets/stack.pdf",
            opened.value.url or f"/api/builds/{id}/sheets/stack.pdf",
        )
        sheet = page.context.request.get(f"{self.base}/api/builds/{id}/sheets/stack.pdf")
        self.assertIn(
            "Release bearing stands",
            pypdf.PdfReader(io.BytesIO(sheet.body())).pages[0].extract_text(),
        )

    def test_holes_are_typed_as_they_were_read_and_survive_a_reload(self):
        page, _ = self.demo_copy("mate")
        page.get_by_role("button", name="open the holes").last.click()
        field = page.get_by_label("G1 across, in")
        field.fill("-2-5/8")
        field.press("Enter")
        expect(page.locator(".saved")).to_contain_text("saved")
        expect(field).not_to_be_focused()
        page.reload()
        page.get_by_role("button", name="open the holes").last.click()
        expect(page.get_by_label("G1 across, in")).to_have_value("-2-5/8")

    def test_a_build_goes_out_whole_and_comes_back_with_its_history_and_undo(self):
        page, id = self.demo_copy()
        entry = {"acts": [{"do": "read", "key": "nose_mm", "typed": "24.4"}]}
        page.request.post(f"{self.base}/api/builds/{id}/entries?why=nose", data=entry)
        page.goto(self.base)
        with page.expect_download() as download:
            page.get_by_role("link", name="Export Copy with its history and pictures").first.click()
        self.assertEqual(download.value.suggested_filename, "Copy.pindo.zip")
        page.set_input_files("input[type=file] >> nth=0", download.value.path())
        page.wait_for_url("**/survey")
        page.wait_for_selector(".findings .finding")
        page.keyboard.press("Alt+h")
        expect(page.get_by_role("dialog", name="History")).to_contain_text("24.4")
        page.keyboard.press("Escape")
        page.keyboard.press("Alt+u")
        page.get_by_role("button", name="Undo it all the same").click()
        expect(page.locator(".stepped")).to_contain_text("Undone: ")
        page.goto(self.base)
        page.set_input_files(
            "input[type=file] >> nth=0",
            {"name": "broken.json", "mimeType": "application/json", "buffer": b"{"},
        )
        expect(page.get_by_role("alert")).to_contain_text("broken.json is no build")

    def test_a_build_is_deleted_only_when_it_is_meant(self):
        page, id = self.demo_copy("log")
        page.get_by_label("Who", exact=True).fill("R.")
        page.get_by_label("What happened").fill("Wrong copy")
        page.get_by_role("button", name="Write it down").click()
        expect(page.locator(".entries")).to_contain_text("Wrong copy")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="History").click()
        expect(page.get_by_role("dialog").locator("li").first).to_contain_text("R. · change")
        page.goto(self.base)
        mine = page.locator(".buildlist li", has=page.locator(f'a[href="/build/{id}/survey"]'))
        mine.get_by_role("button", name="delete").click()
        mine.get_by_role("button", name="Leave it").click()
        self.assertEqual(self.document(id)["version"], 2)
        mine.get_by_role("button", name="delete").click()
        mine.get_by_role("button", name="Delete it").click()
        expect(mine).to_have_count(0)
        self.assertEqual(self.document(id)["status"], 404)


class TwoTabs(BrowserCase):
    def test_both_are_stored_and_the_same_figure_is_asked_about(self):
        first, id = self.demo_copy()
        second = self.open(f"/build/{id}/stack")
        second.wait_for_selector(".findings .finding")
        second.locator("#figure-nose_chamfer_mm").fill("1.9")
        first.locator("#figure-nose_chamfer_mm").fill("1.7")
        first.locator("#figure-nose_chamfer_mm").press("Enter")
        expect(first.locator("#figure-nose_chamfer_mm")).to_have_value("1.70")
        second.locator("#figure-nose_chamfer_mm").press("Enter")
        second.locator("#figure-pilot_width_mm").fill("13")
        second.locator("#figure-pilot_width_mm").press("Enter")
        expect(second.locator("#figure-nose_chamfer_mm-said.wrong")).to_contain_text(
            "Someone at another screen changed the same since you looked: Nose chamfer: 1.7"
        )
        expect(second.locator("#figure-nose_chamfer_mm")).to_have_value("1.9")
        expect(second.locator("#figure-pilot_width_mm")).to_have_value("13.00")
        quantities = self.document(id)["assessment"]["quantities"]
        self.assertEqual(
            (quantities["nose_chamfer_mm"]["value"], quantities["pilot_width_mm"]["value"]),
            (1.7, 13.0),
        )
        # Once it was told what stands there, typing it again is meant.
        second.locator("#figure-nose_chamfer_mm").fill("1.95")
        second.locator("#figure-nose_chamfer_mm").press("Enter")
        expect(second.locator("#figure-nose_chamfer_mm")).to_have_value("1.95")
        expect(second.locator(".saved")).to_have_text(re.compile("^saved"))
        self.assertEqual(
            self.document(id)["assessment"]["quantities"]["nose_chamfer_mm"]["value"], 1.95
        )

    def test_a_figure_that_changes_under_the_hands_is_replaced_by_what_they_type(self):
        first, id = self.demo_copy()
        second = self.open(f"/build/{id}/stack")
        second.wait_for_selector(".findings .finding")
        second.locator("#figure-nose_chamfer_mm").focus()
        first.locator("#figure-nose_chamfer_mm").fill("1.7")
        first.locator("#figure-nose_chamfer_mm").press("Enter")
        expect(second.locator("#figure-nose_chamfer_mm")).to_have_value("1.70")
        second.keyboard.type("1.9")
        expect(second.locator("#figure-nose_chamfer_mm")).to_have_value("1.9")


class NoServer(BrowserCase):
    def test_what_is_typed_waits_survives_a_reload_and_a_closed_tab_and_is_sent_once(self):
        page, id = self.demo_copy()
        page.route("**/entries*", lambda route: route.abort())
        for label, typed in (("Nose chamfer, mm", "1.7"), ("Pilot bearing width, mm", "13")):
            page.get_by_label(label).fill(typed)
            page.get_by_label(label).press("Enter")
        expect(page.locator(".saved")).to_have_text(re.compile(r"^2 not stored since \d\d:\d\d$"))
        page.locator("#figure-nose_mm").fill("24.0")
        page.reload()
        expect(page.locator("#figure-pilot_width_mm")).to_have_value("13")
        expect(page.locator("#figure-nose_mm")).to_have_value("24.0")
        page.get_by_role("button", name="Undo").click(force=True)
        self.assertEqual(self.stored(id)["version"], 1)
        page.close()
        page = self.open(f"/build/{id}/stack")
        expect(page.locator("#figure-pilot_width_mm")).to_have_value("13.00")
        expect(page.locator("#figure-nose_chamfer_mm")).to_have_value("1.70")
        expect(page.locator(".saved")).to_have_text("1 not entered")
        self.assertEqual(self.document(id)["version"], 3)
        expect(page.locator("#figure-nose_mm")).to_have_value("24.0")
        page.locator("#figure-nose_mm").press("Enter")
        expect(page.locator(".saved")).to_have_text(re.compile("^saved"))


class KeysAndFinder(BrowserCase):
    def test_the_finder_goes_to_a_dimension_a_finding_and_a_command(self):
        page, _ = self.demo_copy("survey")
        page.keyboard.press("Alt+f")
        page.get_by_role("combobox", name="Find").fill("guide tube end")
        page.keyboard.press("Enter")
        expect(page.locator("#figure-guide_tube_mm")).to_be_focused()
        page.keyboard.press("Escape")
        expect(page.locator("#figure-guide_tube_mm")).not_to_be_focused()
        page.get_by_role("button", name="History").focus()
        page.keyboard.press("Alt+f")
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="History")).to_be_focused()
        page.keyboard.press("Alt+f")
        page.get_by_role("combobox", name="Find").fill("pins at dowel place g22")
        page.keyboard.press("Enter")
        expect(page.locator('[data-finding="mate.dowel_pins.G22"] .findingbody')).to_be_visible()

    def test_keys_do_nothing_while_typing(self):
        page, id = self.demo_copy()
        field = page.get_by_label("Nose chamfer, mm")
        field.click()
        page.keyboard.type("1.6")
        for key in ("u", "r", "2", "t", "?"):
            page.keyboard.press(key)
        expect(field).to_have_value("1.6ur2t?")
        page.keyboard.press("Escape")
        self.assertEqual(self.document(id)["version"], 1)

    def test_the_rail_counts_and_keys_go_to_every_station(self):
        page, _ = self.demo_copy()
        # A letter or figure that no field takes does nothing, unless somebody switched that on.
        for key in ("5", "u", "k"):
            page.keyboard.press(key)
        expect(page.get_by_role("button", name=re.compile("^Stack 3"))).to_have_attribute(
            "aria-current", "page"
        )
        page.keyboard.press("Alt+0")
        page.get_by_label(re.compile("The letter alone")).check()
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.keyboard.press("5")
        expect(page.get_by_role("main", name="line station")).to_be_visible()
        for key, name in enumerate(STATIONS, 1):
            page.keyboard.press(f"Alt+{key}")
            expect(page.get_by_role("main", name=f"{name} station")).to_be_visible()

    def test_what_is_open_and_the_profile_from_above(self):
        page, _ = self.demo_copy()
        page.keyboard.press("Alt+l")
        drawer = page.get_by_role("dialog", name="What is open")
        expect(drawer).to_contain_text("Coolant hose looped")
        drawer.get_by_role("tab", name="Start").click()
        expect(drawer).to_contain_text("Rag in the intake")
        expect(drawer).not_to_contain_text("Coolant hose")
        page.keyboard.press("Escape")
        page.keyboard.press("Alt+v")
        expect(page.get_by_label("Profile of the build")).to_contain_text("from above")


class Reachable(BrowserCase):
    def test_axe_on_every_question_in_both_themes(self):
        page, _ = self.demo_copy()
        for theme in ("paper", "night"):
            page.evaluate(
                "theme => { localStorage.setItem('pindo.settings', JSON.stringify({ theme, system:"
                " 'mm' })) }",
                theme,
            )
            page.reload()
            page.wait_for_selector(".findings")
            for key, name in enumerate(STATIONS, 1):
                page.keyboard.press(f"Alt+{key}")
                expect(page.get_by_role("main", name=f"{name} station")).to_be_visible()
                for at in range(max(1, page.locator(".questions [role=tab]").count())):
                    tab = page.locator(".questions [role=tab]").nth(at)
                    tab.click()
                    expect(tab).to_have_attribute("aria-selected", "true")
                    # What the themes differ in is contrast; the rest is asked once.
                    only = () if theme == "paper" else (("color-contrast",),)
                    self.assertEqual(self.axe(page, *only), [], f"{name} {at}, {theme}")
        page.keyboard.press("Alt+3")
        page.locator('[data-finding="stack.release_gap"] .findinghead').click()
        self.ask(page, "stack.strength")
        page.locator("#line-engine_torque_nm .source").click()
        self.assertEqual(self.axe(page), [], "opened finding and statement")

    def test_axe_on_the_list_of_builds_and_the_dialogs(self):
        page, _ = self.demo_copy()
        for key in ("Alt+0", "Alt+f", "Alt+h"):
            page.keyboard.press(key)
            page.get_by_role("dialog").wait_for()
            self.assertEqual(self.axe(page), [], f"dialog {key}")
            page.keyboard.press("Escape")
        page.goto(self.base)
        page.wait_for_selector(".buildlist li")
        self.assertEqual(self.axe(page), [])

    def test_nothing_is_cut_on_a_tablet_held_upright(self):
        page, _ = self.demo_copy()
        page.set_viewport_size({"width": 820, "height": 1180})
        for key, name in enumerate(STATIONS, 1):
            page.keyboard.press(f"Alt+{key}")
            expect(page.get_by_role("main", name=f"{name} station")).to_be_visible()
            wide = page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 820, f"station {key}")
