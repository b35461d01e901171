"""Steps, hold points, tightening, fasteners; money, fits, provisional items; the ripple of a change."""

import unittest

import networkx

from pindo.core.assemble.fasteners import centre_out, screws, stages, star_order, stress_area, tightening
from pindo.core.assemble.steps import blocks, cycle, open_items, step_states
from pindo.core.assemble.templates import TEMPLATES, template_steps
from pindo.core.assess import assess
from pindo.core.log.money import refused_credits, totals
from pindo.core.resolve import resolve
from pindo.core.ripple import ripple
from pindo.core.verdict import Verdict
from tests.support import build, demo, finding, ring_face, said


def steps(*rows):
    return [{"n": n, "name": f"step {n}", "needs": list(needs), **more} for n, needs, more in rows]


class StepGraph(unittest.TestCase):
    def test_states_follow_the_links(self):
        made = build(steps=steps((1, (), {"state": "done"}), (2, (1,), {}), (3, (2,), {}), (4, (), {"state": "left out"}), (5, (4,), {})))
        found = {s.n: (s.status, s.waits_for) for s in step_states(made, ())}
        self.assertEqual(found, {1: ("done", ()), 2: ("can do", ()), 3: ("waits", (2,)), 4: ("left out", ()), 5: ("can do", ())})

    def test_a_step_may_not_bury_what_is_unfinished(self):
        made = build(steps=steps((1, (), {}), (2, (), {"hides": [1]})))
        self.assertEqual(step_states(made, ())[1].blocked_by, ("would bury step 1",))

    def test_a_ring_is_found(self):
        made = build(steps=steps((1, (3,), {}), (2, (1,), {}), (3, (2,), {})))
        self.assertEqual(set(cycle(made)), {1, 2, 3})
        self.assertEqual(finding(made, "assemble.ring").verdict, Verdict.FOULS)
        crossed = build(steps=steps((1, (2,), {}), (2, (), {"hides": [1]})))
        self.assertEqual(set(cycle(crossed)), {1, 2}, "what buries a step cannot also be its need")

    def test_a_step_waits_for_its_hold(self):
        """A fan hub is tightened against the belt, so the belt comes first though nothing is missing."""
        made = build(steps=steps((1, (), {}), (2, (), {"needs_hold": [1]}), (3, (1,), {"needs_hold": [1]})))
        self.assertEqual([(s.status, s.waits_for, s.no_hold) for s in step_states(made, ())][1:], [("waits", (1,), (1,))] * 2)
        made.steps[0].state = "done"
        self.assertEqual([s.status for s in step_states(made, ())], ["done", "can do", "can do"])

    def test_templates_against_networkx(self):
        """General-purpose graph library: no ring, every link known, what can be done first is what has no ancestor."""
        for kind in TEMPLATES:
            rows = template_steps(kind)
            graph = networkx.DiGraph()
            graph.add_nodes_from(r["n"] for r in rows)
            graph.add_edges_from((need, r["n"]) for r in rows for need in (*r["needs"], *r.get("needs_hold", ())))
            self.assertTrue(networkx.is_directed_acyclic_graph(graph), kind)
            self.assertEqual(set(graph.nodes), {r["n"] for r in rows}, kind)
            self.assertTrue(networkx.is_directed_acyclic_graph(networkx.compose(graph, networkx.DiGraph((b, r["n"]) for r in rows for b in r["hides"]))), kind)
            made = build(steps=rows)
            for done in list(networkx.topological_sort(graph))[:-1]:
                next(s for s in made.steps if s.n == done).state = "done"
                ready = {s.n for s in step_states(made, ()) if not s.waits_for and next(x for x in made.steps if x.n == s.n).state == "open"}
                finished = {s.n for s in made.steps if s.state == "done"}
                self.assertEqual(ready, {n for n in graph if n not in finished and set(networkx.ancestors(graph, n)) <= finished})

    def test_hold_points_wait_for_findings_and_say_which(self):
        hold = finding(assess(demo(), ()), "assemble.hold.3")
        self.assertEqual((hold.verdict, hold.condition), (Verdict.UNMEASURED, "blocked"))
        self.assertIn("Release gap fouls", hold.sentence.mm)
        fouled = build(said(friction_face_mm="200", disc_od_mm="228"), steps=steps((1, (), {"hold": True, "stations": ["stack"]})))
        waived = fouled.model_copy(update={"waivers": {}})
        self.assertIn("Disc on its friction face fouls", " ".join(step_states(waived, assess(waived, ()).findings)[0].blocked_by))

    def test_a_foul_stops_any_step_that_rests_on_it_and_what_is_unmeasured_only_a_hold(self):
        made = build(said(friction_face_mm="200", disc_od_mm="228"), steps=steps((1, (), {"stations": ["stack"]}), (2, (), {"stations": ["seat"]}), (3, (), {"stations": ["seat"], "hold": True})))
        self.assertEqual([s.status for s in step_states(made, assess(made, ()).findings)], ["blocked", "can do", "blocked"])

    def test_a_step_done_before_what_it_needs(self):
        self.assertIn("step 3, Measure faces", finding(assess(demo(), ()), "assemble.early.5").sentence.mm)

    def test_as_built_is_asked_for(self):
        made = build(steps=steps((1, (), {"state": "done", "asks": "size as cut"})))
        self.assertIn("size as cut", finding(made, "assemble.asks.1").sentence.mm)

    def test_open_items_shut_their_gate_and_every_later_one(self):
        items = {i.text: i for i in open_items(demo())}
        rag = items["Rag in the intake"]
        self.assertEqual([blocks(rag, g) for g in ("lift", "start", "motion", "hand-over")], [False, True, True, True])
        self.assertNotIn("Wooden plate", items)
        self.assertIn("plate to block: started", items)


class Tightening(unittest.TestCase):
    def test_star_orders(self):
        for count in range(1, 25):
            self.assertEqual(sorted(star_order(count)), list(range(1, count + 1)))
        self.assertEqual(star_order(4), [1, 3, 2, 4])
        self.assertEqual(star_order(8), [1, 5, 3, 7, 2, 6, 4, 8])
        self.assertEqual(star_order(5), [1, 3, 5, 2, 4])
        for count in (6, 8, 10, 14):
            order = star_order(count)
            for a, b in zip(order[::2], order[1::2], strict=True):
                self.assertEqual(abs(a - b), count // 2, "opposite screws follow each other")
        self.assertEqual(centre_out(7), [4, 3, 5, 2, 6, 1, 7])

    def test_stages(self):
        self.assertEqual(stages("28, 62, 100"), [0.28, 0.62, 1.0])
        self.assertEqual(stages("hand tight"), [1.0])

    def test_the_tables_of_the_demo(self):
        tables = {t.name: t for t in tightening(resolve(demo()))}
        self.assertEqual(tables["flywheel to crank"].stages_nm, (27.3, 60.5, 97.6))
        self.assertEqual(tables["front mounts"].stages_nm, ())
        self.assertIn("no tick", tables["front mounts"].source)
        self.assertIn("locker not said", tables["plate to block"].note)

    def test_a_torque_by_hearsay_closes_no_strength_finding(self):
        self.assertEqual(finding(assess(demo(), ()), "assemble.preload.2").missing[0].status, "weak evidence")

    def test_preload_share_of_a_crank_screw(self):
        """M10 x 1.25 at 65 N·m, K 0.20: 32.5 kN on 61.2 mm², 64 % of 830 MPa, 92 % of 580 (common practice; single observation)."""
        self.assertAlmostEqual(stress_area(10, 1.25), 61.2, delta=0.05)
        for strength, share in (("10.9", 64.0), ("8.8", 91.6)):
            joint = {"n": 1, "name": "crank", "bolts": "8", "d": "10", "pitch": "1.25", "strength": strength, "torque": "65 N·m", "evidence": {"source": "drawing", "pm": "0"}}
            self.assertAlmostEqual(finding(build(joints=[joint]), "assemble.preload.1").value, share, delta=0.2)

    def test_screws_follow_the_plate(self):
        def of(plate):
            made = build(said(plate_mm=plate, separator_mm="1"), engine_face=ring_face(fastening="hex head"))
            return screws(resolve(made))[0]

        self.assertEqual((of("18").grip, of("18").least, of("18").stock), (19.0, 34.0, 35.0))
        # A plate thicker by an inch wants screws longer by an inch, to the next stock size.
        self.assertAlmostEqual(of("43.4").least - of("18").least, 25.4)
        self.assertEqual(of("43.4").stock, 60.0)


class Money(unittest.TestCase):
    def lines(self, *extra):
        paid = [("Engine", "1310"), ("Starter", "145"), ("Disc", "90")]
        rows = [{"n": i + 1, "name": name, "state": "paid", "amount": amount} for i, (name, amount) in enumerate(paid)]
        return resolve(build(money=[*rows, {"n": 4, "state": "unpriced"}, {"n": 5, "state": "unpriced"}, *extra]))

    def test_the_invented_ledger(self):
        """1310 + 145 + 90 = 1545; a credit of 145 for the second, once more against the third is refused; 1400 once refunded; 2 unpriced."""
        asked = self.lines({"n": 6, "state": "refund asked", "amount": "145", "credit_of": 2}, {"n": 7, "state": "refund asked", "amount": "145", "credit_of": 3})
        t = totals(asked)
        self.assertEqual((t.paid, t.forecast, t.if_refunded, t.unpriced, t.refused), (1545.0, 1545.0, 1400.0, 2, (7,)))
        received = self.lines({"n": 6, "state": "refund received", "amount": "145", "credit_of": 2})
        self.assertEqual(totals(received).forecast, 1400.0)

    def test_what_a_credit_may_not_be(self):
        cases = (
            ({"credit_of": None}, "names no payment"),
            ({"credit_of": 4}, "which is no payment"),
            ({"credit_of": 3}, "gives back 145.00, but line 3 has 90.00 left"),
            ({"credit_of": 2, "amount": None}, "has no amount"),
        )
        for more, words in cases:
            bad = refused_credits(self.lines({"n": 6, "state": "refund asked", "amount": "145"} | more))
            self.assertIn(words, bad[6])

    def test_a_credit_entered_twice_is_refused_the_second_time(self):
        twice = [{"n": n, "state": "refund received", "amount": "145", "credit_of": 2} for n in (6, 7)]
        self.assertEqual(set(refused_credits(self.lines(*twice))), {7})

    def test_unpriced_is_not_nil(self):
        self.assertIn("2 lines are unpriced", finding(self.lines().build, "log.unpriced").sentence.mm)


class Fits(unittest.TestCase):
    def test_reading_and_prediction_side_by_side(self):
        answer = assess(demo(), ())
        self.assertEqual(finding(answer, "log.fit.1.0").verdict, Verdict.GOES)
        wrong = finding(answer, "log.fit.1.1")
        self.assertEqual(wrong.verdict, Verdict.FOULS)
        self.assertIn("the reading wins", wrong.sentence.mm)
        self.assertEqual(finding(answer, "log.fit.1.2").verdict, Verdict.UNMEASURED)

    def test_structural_work_is_for_an_inspector(self):
        found = finding(assess(demo(), ()), "log.modification.1")
        self.assertIn("not inspected", found.sentence.mm)
        self.assertTrue(found.caution)


class Ripple(unittest.TestCase):
    def of(self, **changes):
        before, after = resolve(demo()), resolve(demo(changes))
        return ripple(before, after, assess(demo(), ()), assess(demo(changes), ()))

    def test_a_thinner_plate(self):
        r = self.of(plate_mm="17.5")
        self.assertEqual(r.events, ("plate, shield, spacer or adapter thickness",))
        self.assertIn(("stack.pilot_engagement", "tight", "goes"), [(t.id, t.before, t.after) for t in r.turns])
        self.assertIn("face_tir_mm", [x.address for x in r.lapsing])
        self.assertIn("plate", r.parts)
        self.assertGreater(r.read_by, 15)

    def test_a_thicker_plate_lengthens_screws_and_shortens_the_shaft(self):
        r = self.of(plate_mm="24")
        lengths = {x.name: x.after - x.before for x in r.lengths}
        self.assertAlmostEqual(lengths["Shaft, front piece, joint to joint"], -6.0, delta=0.1)
        self.assertGreater(lengths["Screw at E9"], 0)

    def test_moving_the_unit(self):
        r = self.of(crank_side_mm="4")
        self.assertIn("clear.pair.4-21", [t.id for t in r.turns])
        self.assertEqual(r.events, ("unit moved",))
        self.assertTrue(any(x.address.startswith("fits.") for x in r.lapsing))
        self.assertTrue(all(a.before == a.after for a in r.shifts))

    def test_nothing_changed_touches_nothing(self):
        r = self.of()
        self.assertEqual((r.changed, r.turns, r.shifts, r.lapsing, r.lengths), ((), (), (), (), ()))
