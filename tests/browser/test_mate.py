"""The Mate worked as a fabricator does: a pattern out of a file, walks with a gauge, a dial that
turns by itself, the clocking tried on its chart, an outline taken in.
"""

import io
import tempfile
from pathlib import Path

import ezdxf
from playwright.sync_api import expect

from tests.browser.case import BrowserCase

RING = ((0, 150), (130, 75), (130, -75), (0, -150), (-130, -75), (-130, 75))


def drawing(units=4):
    """A bolt circle with its bore and rim, as somebody else drew it."""
    doc = ezdxf.new("R2010")
    doc.header["$INSUNITS"] = units
    space = doc.modelspace()
    for x, y in RING:
        space.add_circle((x, y), 5.5, dxfattribs={"layer": "HOLES"})
    space.add_circle((0, 0), 40, dxfattribs={"layer": "BORE"})
    rim = [(-160, -180), (160, -180), (160, 180), (-160, 180)]
    space.add_lwpolyline(rim, close=True, dxfattribs={"layer": "RIM"})
    text = io.StringIO()
    doc.write(text)
    return text.getvalue().encode()


class FromAFile(BrowserCase):
    def setUp(self):
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name, content):
        path = self.folder / name
        path.write_bytes(content)
        return str(path)

    def blank(self, question):
        made = self.context.request.post(
            f"{self.base}/api/builds",
            data={"name": "Tug", "options": {"coupling": "clutch and bellhousing"}},
        ).json()
        return self.open(f"/build/{made['id']}/mate/{question}"), made["id"]

    def test_a_pattern_out_of_a_drawing_becomes_holes_and_a_set_of_points(self):
        page, id = self.blank("pattern")
        page.get_by_role("button", name="open the holes").first.click()
        page.get_by_role("button", name="Holes out of a drawing or picture").first.click()
        panel = page.get_by_role("dialog", name="Holes of the engine out of a drawing")
        chooser = panel.locator("input[type=file]")
        chooser.set_input_files(self.file("unsaid.dxf", drawing(0)))
        found = panel.get_by_role("status", name="What was found")
        expect(found).to_contain_text("does not say its unit: choose it")
        expect(panel.get_by_role("button", name="into the pattern")).to_be_disabled()
        chooser.set_input_files(self.file("face.dxf", drawing()))
        expect(found).to_contain_text("7 circles and 1 other outlines found")
        # The bore stands in the middle of them: it is the axis.
        bore = panel.locator("tr", has=page.get_by_text("80.00", exact=True))
        bore.get_by_role("combobox").select_option("axis")
        panel.get_by_role("button", name="Take 7 into the pattern").click()
        expect(panel).to_have_count(0)
        expect(page.get_by_role("table", name="Points in sets of the engine")).to_be_visible()
        face = self.document(id)["document"]["engine_face"]
        self.assertEqual([h["bore"] for h in face["holes"]], ["11.000"] * 6)
        self.assertEqual((face["sets"][0]["name"], face["sets"][0]["scale"]), ("face.dxf", "true"))
        points = {(p["hole"], float(p["x"]), float(p["y"])) for p in face["points"]}
        self.assertEqual({(x, y) for n, x, y in points if n}, set(RING))
        self.assertIn((None, 0, 0), points)
        # One undo takes all of it back.
        page.get_by_role("button", name="Undo", exact=True).click()
        expect(page.get_by_role("table", name="Points in sets of the engine")).to_have_count(0)
        self.assertEqual(self.document(id)["document"]["engine_face"]["holes"], [])

    def test_what_is_no_drawing_is_told_in_the_panel(self):
        page, _ = self.blank("pattern")
        page.get_by_role("button", name="open the holes").first.click()
        page.get_by_role("button", name="Holes out of a drawing or picture").first.click()
        panel = page.get_by_role("dialog", name="Holes of the engine out of a drawing")
        panel.locator("input[type=file]").set_input_files(self.file("x.dxf", b"not a drawing"))
        found = panel.get_by_role("status", name="What was found")
        expect(found).to_contain_text("no DXF that can be read")

    def test_an_outline_out_of_a_drawing_is_taken_in_for_a_trim(self):
        page, id = self.blank("trim")
        page.get_by_role("button", name="Outlines out of a drawing or picture").click()
        panel = page.get_by_role("dialog", name="Outlines out of a drawing")
        panel.locator("input[type=file]").set_input_files(self.file("face.dxf", drawing()))
        expect(panel.get_by_role("combobox", name="Outline")).to_contain_text(
            "closed line 1, 4 corners"
        )
        panel.get_by_role("combobox", name="is", exact=True).select_option("part to trim")
        panel.get_by_label("called").fill("cover")
        panel.get_by_role("button", name="Take it in").click()
        expect(panel.get_by_role("status")).to_contain_text("Taken in as outline 1")
        panel.get_by_role("combobox", name="Outline").select_option(label="circle of 80.0 mm BORE")
        panel.get_by_role("combobox", name="is", exact=True).select_option("stays clear")
        panel.get_by_role("button", name="Take it in").click()
        expect(panel.get_by_role("status")).to_contain_text("Taken in as outline 2")
        panel.get_by_role("button", name="Close").click()
        cover, bore = self.document(id)["document"]["outlines"]
        self.assertEqual((cover["name"], len(cover["points"])), ("cover", 4))
        self.assertEqual(
            (bore["role"], bore["across"], len(bore["points"])), ("stays clear", "80.00", 1)
        )
        gap = page.locator("#outlines-2-gap")
        gap.fill("5")
        gap.press("Enter")
        # A ring is left: from the grown bore to the nearer sides of the cover.
        expect(page.locator('[data-finding="mate.trim.rim"]')).to_contain_text("is 115.0")


class Walked(BrowserCase):
    def blank(self, question, acts=()):
        made = self.context.request.post(
            f"{self.base}/api/builds",
            data={"name": "Tug", "options": {"coupling": "clutch and bellhousing"}},
        ).json()
        if acts:
            self.context.request.post(
                f"{self.base}/api/builds/{made['id']}/entries", data={"acts": list(acts)}
            )
        return self.open(f"/build/{made['id']}/mate/{question}"), made["id"]

    def test_pairs_are_walked_with_nothing_between_figures_but_enter(self):
        holes = [{"bore": "10"} for _ in range(3)]
        acts = [{"do": "rows", "list": "engine_face.holes", "rows": holes}]
        page, id = self.blank("pattern", acts)
        page.get_by_role("button", name="open the holes").first.click()
        page.get_by_role("button", name="Walk the 6 pairs").click()
        walk = page.get_by_role("region", name="Distances on the engine")
        for words, figure in (
            ("E1 to E2, outside edges", "210"),
            ("E2 to E3, outside edges", "nonsense!"),
            ("E3 to E1, outside edges", "190.5"),
        ):
            expect(walk.locator(".walknow b")).to_have_text(words)
            page.keyboard.type(figure)
            page.keyboard.press("Enter")
        # What was refused waits beside the walk and is read again.
        walk.get_by_role("button", name="read it again").click()
        page.keyboard.press("Control+a")
        page.keyboard.type("205")
        page.keyboard.press("Enter")
        expect(walk.get_by_role("button", name="read it again")).to_have_count(0)
        walk.get_by_role("button", name="End").click()
        expect(page.get_by_role("button", name="Walk the 3 pairs")).to_be_visible()
        read = self.document(id)["document"]["engine_face"]["readings"]
        self.assertEqual(
            {(r["a"], r["b"], r["value"]) for r in read},
            {(1, 2, "210"), (3, 1, "190.5"), (2, 3, "205")},
        )
        self.assertEqual({r["over"] for r in read}, {"outside edges"})

    def test_a_simulated_dial_turns_by_itself_and_the_runout_follows(self):
        page, id = self.blank("runout")
        page.get_by_label("positions").select_option("4")
        page.get_by_role("button", name="Walk round the clock").click()
        page.get_by_label("offset, mm").fill("0.2")
        page.get_by_label("oval by, mm").fill("0")
        page.locator(".walknow input").focus()
        page.get_by_role("button", name="Turn it").click()
        expect(page.get_by_text("All of it is read.")).to_be_visible()
        self.verdict(page, "mate.bore_tir", "fouls")
        dials = self.document(id)["document"]["dials"]
        self.assertEqual([d["at"] for d in dials], [f"{a} deg" for a in (0, 90, 180, 270, 0)])
        self.assertEqual({d["evidence"]["tool"] for d in dials}, {"dial indicator"})

    def test_the_clocking_is_tried_on_its_chart_and_kept(self):
        page, id = self.demo_copy("mate")
        self.ask(page, "mate.clocking")
        page.get_by_role("tab", name="Room by angle").click()
        grip = page.get_by_role("slider", name="Clocking of the gearbox, drag to try")
        grip.focus()
        for _ in range(5):
            page.keyboard.press("ArrowRight")
        expect(grip).to_have_attribute("aria-valuenow", "2.5")
        expect(page.locator('[data-finding="mate.clocking.inside"]')).to_contain_text(
            "lies in 1.3°"
        )
        self.assertEqual(
            self.stored(id)["document"]["dims"]["clocking_deg"]["statements"][0]["takes"][0][
                "typed"
            ],
            "0",
        )
        page.get_by_role("button", name="Keep Alt K").click()
        expect(page.locator("#figure-clocking_deg")).to_have_value("2.50")
        self.verdict(page, "mate.clocking.inside", "goes")

    def test_the_new_questions_are_free_of_serious_faults_day_and_night(self):
        page, _ = self.demo_copy("mate", "timber-winch")
        for question in ("clocking", "proving", "locators", "starter", "trim", "runout", "plate"):
            self.ask(page, f"mate.{question}")
            expect(page.locator(".picture, .tableview, .rows").first).to_be_visible()
            self.assertEqual(self.axe(page), [], question)
