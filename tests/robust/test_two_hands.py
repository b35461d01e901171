"""Two hands on one build: at two screens, and as threads that meet at any moment. Nothing of
either is lost.
"""

import random
import threading
from concurrent.futures import ThreadPoolExecutor
from functools import partial

import httpx2 as httpx
from playwright.sync_api import expect

from tests.browser.case import BrowserCase


class AtTwoScreens(BrowserCase):
    def setUp(self):
        super().setUp()
        self.page, self.build_id = self.demo_copy("stack")
        other = self.browser.new_context(viewport={"width": 1280, "height": 800})
        self.addCleanup(other.close)
        other.set_default_timeout(20_000)
        self.other = self.open(f"/build/{self.build_id}/stack", other)
        self.other.wait_for_selector(".findings .finding")

    def enter(self, page, key, text):
        field = page.locator(f"#figure-{key}")
        field.fill(text)
        field.press("Enter")

    def test_changes_of_two_fields_both_land_and_each_screen_sees_the_others(self):
        self.enter(self.page, "nose_mm", "24.4")
        expect(self.other.locator("#figure-nose_mm")).to_have_value("24.40")
        expect(self.other.locator(".footbar")).to_contain_text("Another screen: ")
        self.enter(self.other, "pilot_width_mm", "13.3")
        expect(self.page.locator("#figure-pilot_width_mm")).to_have_value("13.30")
        expect(self.page.locator("#figure-nose_mm")).to_have_value("24.40")

    def test_the_same_field_shows_both_and_loses_neither(self):
        field = self.page.locator("#figure-nose_mm")
        field.fill("24.9")
        self.enter(self.other, "nose_mm", "24.1")
        expect(self.page.locator(".footbar")).to_contain_text("24.1")
        expect(field).to_have_value("24.9")
        field.press("Enter")
        said = self.page.locator("#figure-nose_mm-said")
        expect(said).to_contain_text("changed the same since you looked")
        expect(said).to_contain_text("24.1")
        expect(field).to_have_value("24.9")
        self.assertEqual(self.typed("nose_mm")[-1], "24.1")
        field.focus()
        field.press("Enter")
        expect(self.other.locator("#figure-nose_mm")).to_have_value("24.90")
        self.assertEqual(self.typed("nose_mm")[-2:], ["24.1", "24.9"])

    def typed(self, key):
        """Every take of a dimension as it was typed, in order."""
        statements = self.document(self.build_id)["document"]["dims"][key]["statements"]
        return [take["typed"] for s in statements for take in s["takes"]]

    def test_undo_takes_back_ones_own_and_asks_before_it_takes_the_others(self):
        self.enter(self.page, "nose_mm", "24.4")
        expect(self.other.locator("#figure-nose_mm")).to_have_value("24.40")
        self.enter(self.other, "pilot_width_mm", "13.3")
        expect(self.page.locator("#figure-pilot_width_mm")).to_have_value("13.30")
        self.page.keyboard.press("Alt+u")
        expect(self.page.locator("#figure-nose_mm")).not_to_have_value("24.40")
        expect(self.page.locator("#figure-pilot_width_mm")).to_have_value("13.30")
        self.page.keyboard.press("Alt+u")
        expect(self.page.locator(".footbar")).to_contain_text("The last change is not yours")
        self.page.get_by_role("button", name="Undo it all the same").click()
        expect(self.page.locator("#figure-pilot_width_mm")).not_to_have_value("13.30")

    def test_a_trial_that_is_kept_late_never_wipes_what_the_other_read_meanwhile(self):
        field = self.page.locator("#figure-nose_chamfer_mm")
        field.fill("1.1")
        field.press("Shift+Enter")
        expect(self.page.get_by_role("button", name="Keep Alt K")).to_be_enabled()
        self.enter(self.other, "nose_chamfer_mm", "2.2")
        expect(self.page.locator(".footbar")).to_contain_text("Another screen: ")
        self.page.get_by_role("button", name="Keep Alt K").click()
        expect(self.page.locator(".footbar")).to_contain_text("changed the same since you looked")
        # The trial is asked anew on what stands now: its answer does not take the words away.
        grip = self.page.get_by_role("slider", name="Adapter plate, drag to try")
        grip.focus()
        with self.page.expect_response(
            lambda r: "dry=true" in r.url and "near=" not in r.url and r.ok
        ):
            self.page.keyboard.press("ArrowLeft")
        self.verdict(self.page, "stack.pilot_engagement", "tight")
        expect(self.page.locator(".footbar")).to_contain_text("changed the same since you looked")
        self.assertEqual(self.typed("nose_chamfer_mm")[-1], "2.2")
        self.assertNotIn("1.1", self.typed("nose_chamfer_mm"))


class AsThreads(BrowserCase):
    def test_every_acknowledged_change_stands_and_no_row_of_another_is_touched(self):
        made = self.context.request.post(
            f"{self.base}/api/builds", data={"name": "Crowd", "demo": "pump-tender"}
        ).json()
        url = f"{self.base}/api/builds/{made['id']}"
        seed = random.randrange(10**6)
        print(f"two hands, seed {seed}")
        numbers = [m["n"] for m in made["document"]["solids"]]
        acknowledged: dict[str, str] = {}
        removed: set[int] = set()
        lock = threading.Lock()

        def hand(name):
            dice = random.Random(seed + name)
            mine = numbers[name::4]
            with httpx.Client(timeout=60) as client:
                for i in range(8):
                    n = dice.choice(mine)
                    out = {"do": "remove", "list": "solids", "row": n}
                    act = (
                        out
                        if i == 5
                        else {
                            "do": "put",
                            "list": "solids",
                            "row": n,
                            "field": "name",
                            "value": f"hand {name} time {i}",
                        }
                    )
                    send = partial(
                        client.post,
                        f"{url}/entries",
                        json={"acts": [act], "lapse": True},
                        params={"hand": f"h{name}", "key": f"{name}-{i}"},
                    )
                    # A build that is busy is asked again, as the screen does.
                    while (answer := send()).status_code == 503:
                        pass
                    if answer.status_code == 200:
                        with lock:
                            if act["do"] == "remove":
                                removed.add(n)
                                acknowledged.pop(str(n), None)
                            else:
                                acknowledged[str(n)] = act["value"]
                    else:
                        self.assertEqual(
                            (answer.status_code, n in removed), (409, True), answer.text
                        )

        with ThreadPoolExecutor(4) as pool:
            list(pool.map(hand, range(4)))
        rows = {
            str(r["n"]): r["name"]
            for r in self.context.request.get(url).json()["document"]["solids"]
        }
        self.assertEqual(set(rows), {str(n) for n in numbers if n not in removed})
        self.assertEqual({n: rows[n] for n in acknowledged}, acknowledged)
