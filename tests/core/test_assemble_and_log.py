"""Steps, hold points, tightening, fasteners; money, fits, provisional items; the ripple of a
change.
"""

import unittest

import networkx

from pindo.core.assessment import assess
from pindo.core.document.lists import LISTS
from pindo.core.document.typed import Lapse
from pindo.core.geometry.screw_lengths import odd_ones, screws
from pindo.core.inputs.resolve import resolve
from pindo.core.inputs.threads import stress_area
from pindo.core.judging.gates import blocks
from pindo.core.judging.verdict import Verdict
from pindo.core.ripple import ripple
from pindo.core.stations.assemble.steps import cycle
from pindo.core.stations.assemble.templates import TEMPLATES, template_steps
from pindo.core.stations.assemble.torque import NoStages, centre_out, stages, star_order
from pindo.core.stations.log.money import refused_credits, totals
from pindo.demo import pump_tender, timber_winch
from tests.support import build, demo, drawn, finding, open_items, ring_face, said, states


def steps(*rows):
    return [{"n": n, "name": f"step {n}", "needs": list(needs), **more} for n, needs, more in rows]


class StepGraph(unittest.TestCase):
    def test_states_follow_the_links(self):
        made = build(
            steps=steps(
                (1, (), {"state": "done"}),
                (2, (1,), {}),
                (3, (2,), {}),
                (4, (), {"state": "left out"}),
                (5, (4,), {}),
            )
        )
        found = {s.n: (s.status, s.waits_for) for s in states(made)}
        self.assertEqual(
            found,
            {
                1: ("done", ()),
                2: ("can do", ()),
                3: ("waits", (2,)),
                4: ("left out", ()),
                5: ("waits", (4,)),
            },
        )

    def test_a_step_may_not_bury_what_is_unfinished(self):
        made = build(steps=steps((1, (), {}), (2, (), {"hides": [1]})))
        (one,) = states(made)[1].blocked_by
        self.assertEqual(
            (one.todo, one.text, one.row),
            ("do first", "would close the way to “step 1”", "steps.1"),
        )

    def test_a_ring_is_found(self):
        made = build(steps=steps((1, (3,), {}), (2, (1,), {}), (3, (2,), {})))
        self.assertEqual(set(cycle(made)), {1, 2, 3})
        self.assertEqual(finding(made, "assemble.ring").verdict, Verdict.FOULS)
        crossed = build(steps=steps((1, (2,), {}), (2, (), {"hides": [1]})))
        self.assertEqual(set(cycle(crossed)), {1, 2}, "what buries a step cannot also be its need")

    def test_a_step_waits_for_its_hold(self):
        """A fan hub is tightened against the belt, so the belt comes first though nothing is
        missing.
        """
        made = build(
            steps=steps((1, (), {}), (2, (), {"needs_hold": [1]}), (3, (1,), {"needs_hold": [1]}))
        )
        self.assertEqual(
            [(s.status, s.waits_for, s.no_hold) for s in states(made)][1:],
            [("waits", (1,), (1,))] * 2,
        )
        made.steps[0].state = "done"
        self.assertEqual([s.status for s in states(made)], ["done", "can do", "can do"])

    def test_templates_against_networkx(self):
        """General-purpose graph library: no ring, every link known, what can be done first is
        what has no ancestor.
        """
        for kind, way in [(k, w) for k, ways in TEMPLATES.items() for w in ways]:
            rows = template_steps(kind, way)
            graph = networkx.DiGraph()
            graph.add_nodes_from(r["n"] for r in rows)
            graph.add_edges_from(
                (need, r["n"]) for r in rows for need in (*r["needs"], *r.get("needs_hold", ()))
            )
            self.assertTrue(networkx.is_directed_acyclic_graph(graph), kind)
            self.assertEqual(set(graph.nodes), {r["n"] for r in rows}, kind)
            self.assertTrue(
                networkx.is_directed_acyclic_graph(
                    networkx.compose(
                        graph, networkx.DiGraph((b, r["n"]) for r in rows for b in r["hides"])
                    )
                ),
                kind,
            )
            made = build(steps=rows)
            for done in list(networkx.topological_sort(graph))[:-1]:
                next(s for s in made.steps if s.n == done).state = "done"
                ready = {
                    s.n
                    for s in states(made)
                    if not s.waits_for and next(x for x in made.steps if x.n == s.n).state == "open"
                }
                finished = {s.n for s in made.steps if s.state == "done"}
                self.assertEqual(
                    ready,
                    {
                        n
                        for n in graph
                        if n not in finished and set(networkx.ancestors(graph, n)) <= finished
                    },
                )

    def test_the_way_in_decides_the_steps_of_lifting_and_a_change_of_it_is_told(self):
        def order(way):
            rows = template_steps("half shafts", way)
            made = build(steps=rows)
            return {r["n"]: r for r in rows}, made

        above, _ = order("from above")
        below, _ = order("from below")
        stays, _ = order("to the gearbox that stays")
        self.assertEqual(above[17]["name"], "Lift in")
        self.assertIn("lowered over it", below[17]["name"])
        self.assertIn("raised body", below[17]["caution"])
        # The gearbox that stays is joined in the bay, after the gaps were read there.
        self.assertEqual((above[10]["needs"], stays[10]["needs"]), ([30], [16, 30]))
        self.assertEqual({r["hold"] for r in (above[10], below[10], stays[10])}, {True})
        laid = {"kind": "half shafts", "way": "from above"}
        for way, told in (("from below", True), ("from above", False), ("", False)):
            options = {"build_type": "half shafts"} | ({"way_in": way} if way else {})
            made = build(steps=[*above.values()], options=options, laid_out=laid)
            ids = {f.id: f for f in assess(made, ()).findings}
            self.assertEqual("assemble.laid_out" in ids, told, way)
            if told:
                self.assertEqual(ids["assemble.laid_out"].verdict, Verdict.UNMEASURED)
                self.assertIn("from above", ids["assemble.laid_out"].sentence.mm)

    def test_hold_points_wait_for_findings_and_say_which(self):
        hold = finding(assess(demo(), ()), "assemble.hold.30")
        self.assertEqual((hold.verdict, hold.condition), (Verdict.UNMEASURED, "blocked"))
        self.assertIn("Release gap fouls", hold.sentence.mm)
        fouled = build(
            said(friction_face_mm="200", disc_od_mm="228"),
            steps=steps((1, (), {"hold": True, "watches": ["stack.match"]})),
        )
        waived = fouled.model_copy(update={"waivers": {}})
        self.assertIn(
            "Disc on its friction face fouls",
            " ".join(a.text for a in states(waived, assess(waived, ()).findings)[0].blocked_by),
        )

    def test_a_foul_stops_any_step_that_rests_on_it_and_what_is_unmeasured_only_a_hold(self):
        made = build(
            said(friction_face_mm="200", disc_od_mm="228"),
            steps=steps(
                (1, (), {"watches": ["stack.match"]}),
                (2, (), {"watches": ["seat.place"]}),
                (3, (), {"watches": ["seat.place"], "hold": True}),
            ),
        )
        self.assertEqual(
            [s.status for s in states(made, assess(made, ()).findings)],
            ["blocked", "can do", "blocked"],
        )

    def test_a_step_done_before_what_it_needs(self):
        early = finding(assess(demo(), ()), "assemble.early.5")
        self.assertIn("but “Measure faces", early.sentence.mm)
        self.assertIn("nobody has said why", early.sentence.mm)
        told = demo()
        next(x for x in told.steps if x.n == 5).reason = "shop closed the day after"
        shown = finding(assess(told, ()), "assemble.early.5")
        self.assertEqual(shown.verdict, Verdict.TIGHT)
        self.assertIn("I.: shop closed the day after", shown.sentence.mm)

    def test_a_step_watches_a_question_or_one_finding_and_not_its_station(self):
        dims = said(friction_face_mm="200", disc_od_mm="228")
        made = build(
            dims,
            steps=steps(
                (1, (), {"watches": ["stack.disc_on_face"]}),
                (2, (), {"watches": ["stack.release"]}),
                (3, (), {"watches": ["stack.matsch"]}),
            ),
        )
        found = states(made, assess(made, ()).findings)
        self.assertEqual([s.status for s in found], ["blocked", "can do", "blocked"])
        self.assertEqual(
            [(a.todo, a.text, a.row) for a in found[2].blocked_by],
            [
                (
                    "put right",
                    "it watches stack.matsch, which is neither a question nor a finding here",
                    "steps.3",
                )
            ],
        )

    def test_what_is_left_out_is_a_waiver_and_opens_only_after_an_optional_step(self):
        whole = {
            "state": "left out",
            "by": "I.",
            "reason": "no heater in this one",
            "until": "2027-01-01",
        }
        for more, today, status in (
            (whole | {"optional": True}, "2026-12-01", "can do"),
            (whole | {"optional": True}, "2027-02-01", "waits"),
            (whole | {"optional": True}, "", "waits"),
            (whole | {"optional": True, "by": ""}, "2026-12-01", "waits"),
            (whole, "2026-12-01", "waits"),
        ):
            made = build(steps=steps((1, (), more), (2, (1,), {})))
            self.assertEqual(states(made, (), today)[1].status, status, (more, today))
            self.assertEqual(
                finding(assess(made, (), today), "assemble.left_out.1").verdict, Verdict.UNMEASURED
            )

    def test_no_step_of_a_template_waits_for_what_comes_after_it(self):
        """With everything that is read after plate, cover and bell are on taken out, the first
        measuring step is shut by none of it.
        """
        late = (
            "finger_height_mm",
            "cover_height_mm",
            "bore_tir_mm",
            "face_tir_mm",
            "release_parked_mm",
            "slave_stroke_mm",
        )
        made = demo()
        for key in late:
            del made.dims[key]
        missing = {
            m.address
            for f in assess(made, ()).findings
            if f.question in next(x for x in made.steps if x.n == 3).watches
            for m in f.missing
        }
        self.assertFalse(missing & set(late))
        for n, wanted in (
            (29, "Runout of the bell's bore unmeasured"),
            (30, "Release gap unmeasured"),
        ):
            self.assertIn(wanted, finding(assess(made, ()), f"assemble.hold.{n}").sentence.mm)

    def test_absent_parts_shut_the_step_that_needs_them(self):
        made = build(
            steps=steps((1, (), {}), (2, (), {})),
            parts=[{"n": 1, "name": "shaft", "state": "ordered", "step": 2}],
        )
        self.assertEqual(
            [(s.status, [(a.todo, a.text, a.row) for a in s.blocked_by]) for s in states(made)],
            [("can do", []), ("blocked", [("fit", "shaft is ordered", "parts.1")])],
        )

    def test_a_gate_names_what_shuts_it_by_what_to_do_and_leads_to_each(self):
        now = pump_tender()
        seen = assess(now, ())
        gate = next(s for s in now.steps if s.gate == "start")
        state = next(s for s in states(now, seen.findings) if s.n == gate.n)
        known = {f.id for f in seen.findings}
        rows = {f"{name}.{r.n}" for name in LISTS for r in getattr(now, name)}
        for one in state.blocked_by:
            self.assertTrue(one.finding in known or one.row in rows, one)
        said = finding(seen, f"assemble.hold.{gate.n}")
        self.assertEqual(said.row, f"steps.{gate.n}")
        for todo, words in (("cure", "to cure"), ("measure", "to measure"), ("close", "to close")):
            count = sum(a.todo == todo for a in state.blocked_by)
            self.assertGreater(count, 0)
            self.assertIn(f"{count} {words} (", said.sentence.mm)

    def test_as_built_is_asked_for(self):
        made = build(steps=steps((1, (), {"state": "done", "asks": "size as cut"})))
        self.assertIn("size as cut", finding(made, "assemble.asks.1").sentence.mm)

    def test_open_items_shut_their_gate_and_every_later_one(self):
        items = {i.text: i for i in open_items(demo())}
        rag = items["Rag in the intake"]
        self.assertEqual(
            [blocks(rag, g) for g in ("lift", "start", "motion", "hand-over")],
            [False, True, True, True],
        )
        self.assertNotIn("Wooden plate", items)
        self.assertEqual(
            {
                text: items[text].gate
                for text in (
                    "plate to block: started",
                    "flywheel to crank: open",
                    "front mounts: loose on purpose",
                    "adapter plate: dummy",
                )
            },
            {
                "plate to block: started": "motion",
                "flywheel to crank: open": "start",
                "front mounts: loose on purpose": "motion",
                "adapter plate: dummy": "start",
            },
        )

    def test_a_joint_shuts_the_gate_of_its_kind_until_it_is_torqued_from_a_source_and_marked(self):
        paper = {"source": "maker's paper"}
        rows = (
            ({"kind": "rotating", "state": "open"}, "start"),
            ({"kind": "rotating", "state": "torqued", "torque": "20", "evidence": paper}, "start"),
            ({"kind": "rotating", "state": "marked", "torque": "20", "evidence": paper}, None),
            (
                {
                    "kind": "rotating",
                    "state": "marked",
                    "torque": "20",
                    "evidence": {"source": "hearsay"},
                },
                "start",
            ),
            (
                {
                    "kind": "rotating",
                    "state": "marked",
                    "torque": "20",
                    "evidence": {"source": "measured"},
                },
                "start",
            ),
            ({"kind": "steering", "state": "snug"}, "motion"),
            ({"kind": "lifting gear", "state": "open"}, "lift"),
            ({"kind": "mounts", "state": "torqued", "torque": "20", "evidence": paper}, None),
            ({"state": "loose on purpose"}, "lift"),
        )
        for row, gate in rows:
            found = open_items(build(joints=[{"n": 1, "bolts": "4", "d": "M8"} | row]))
            self.assertEqual([i.gate for i in found], [gate] if gate else [], row)

    def test_wood_and_a_missing_guard_shut_the_start_whatever_was_chosen(self):
        made = build(
            provisional=[
                {"n": 1, "kind": "wood", "blocks": "hand-over"},
                {"n": 2, "kind": "loop", "blocks": "motion"},
                {"n": 3, "kind": "loop", "blocks": "motion", "state": "signed", "limit": "20 km/h"},
            ]
        )
        self.assertEqual([i.gate for i in open_items(made)], ["start", "motion", "motion"])
        self.assertIn("no name", finding(made, "log.provisional.3").sentence.mm)


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

    def test_stages_are_read_as_per_cents_or_torques_and_end_at_the_torque(self):
        nm = 1.3558179483314004
        for text, torque, typed, found, angles, words in (
            ("28, 62, 100", 100.0, "100", (28.0, 62.0, 100.0), (), "per cent"),
            (
                "20, 45, 72",
                72 * nm,
                "72 lbf·ft",
                (20 * nm, 45 * nm, 72 * nm),
                (),
                "torques in lbf·ft",
            ),
            (
                "20 ft lbs, 45 ft lbs, 72 ft lbs",
                72 * nm,
                "97.6 N·m",
                (20 * nm, 45 * nm, 72 * nm),
                (),
                "torques",
            ),
            ("30; 60 N·m", 60.0, "60", (30.0, 60.0), (), "torques in N·m"),
            ("50 %, 100 %, + 90 deg", 40.0, "40", (20.0, 40.0), (90.0,), "then 90 deg"),
            ("25, 40, + 90 deg, + 45°", 40.0, "40 N·m", (25.0, 40.0), (90.0, 45.0), "torques"),
        ):
            made = stages(text, torque, typed)
            for a, b in zip(made.torques, found, strict=True):
                self.assertAlmostEqual(a, b, places=6, msg=text)
            self.assertEqual(made.angles, angles)
            self.assertIn(words, made.read_as)

    def test_stages_that_do_not_end_at_the_torque_are_refused(self):
        for text, words in (
            ("20, 45, 60", "The last stage is 60.0 N·m, and the torque is 72.0"),
            ("30, 60", "The last stage is 60.0"),
            ("hand tight", "cannot be read"),
            ("90, 60, 100", "above the one before"),
            ("+ 90 deg", "No stage"),
            ("", "No stage"),
        ):
            with self.subTest(text), self.assertRaisesRegex(NoStages, words):
                stages(text, 72.0, "72 N·m")
        joint = {
            "n": 1,
            "name": "hub",
            "bolts": "4",
            "d": "M8",
            "torque": "72",
            "stages": "20, 45, 60",
        }
        self.assertIn(
            "The last stage is 60.0 N·m",
            finding(build(joints=[joint]), "assemble.stages.1").sentence.mm,
        )
        self.assertEqual(self.table(build(joints=[joint]))["hub"]["stages"], ())

    def table(self, of):
        """The tightening table by joint, each line by column."""
        (made,) = drawn(of)["assemble.joints"].tables
        keys = [c.key for c in made.columns]
        return {r.cells[0]: dict(zip(keys, r.cells, strict=True)) for r in made.rows}

    def test_the_tables_of_the_demo(self):
        lines = self.table(demo())
        flywheel = lines["flywheel to crank"]
        self.assertEqual(flywheel["stages"], (27.1, 65.1, 103.0))
        self.assertEqual(flywheel["thread"], "M12 x 1.25")
        self.assertEqual(lines["front mounts"]["stages"], ())
        for name in ("front mounts", "clutch cover"):
            self.assertIn("cannot be ticked off", lines[name]["source"])
        self.assertIn("locker not said", lines["plate to block"]["note"])

    def test_a_torque_by_hearsay_closes_no_strength_finding(self):
        self.assertEqual(
            finding(assess(demo(), ()), "assemble.preload.2").missing[0].status, "weak evidence"
        )

    def preload(self, **more):
        joint = {
            "n": 1,
            "name": "hub",
            "bolts": "8",
            "d": "M10",
            "strength": "8.8",
            "surface": "as delivered",
            "torque": "60 N·m",
            "evidence": {"source": "drawing", "pm": "0"},
        } | more
        answer = assess(build(joints=[joint]), ())
        return [
            next((f for f in answer.findings if f.id == f"assemble.{k}.1"), None)
            for k in ("preload", "clamp")
        ]

    def test_preload_at_both_ends_of_its_friction(self):
        """M10 8.8 at 60 N·m is 127 % of proof at friction 0.10 and 108 % at 0.12: past both,
        where one coefficient alone said 89 %.
        """
        low, high = self.preload()
        self.assertAlmostEqual(low.value, 127.0, delta=1.0)
        self.assertEqual(low.verdict, Verdict.FOULS)
        one, _ = self.preload(surface="locker", friction="0.12")
        self.assertAlmostEqual(one.value, 108.0, delta=1.0)
        self.assertLess(high.value, one.value)
        weak = self.preload(torque="20 N·m")
        self.assertEqual(
            [f.verdict for f in weak],
            [Verdict.GOES, Verdict.FOULS],
            "enough below the limit, too little clamp",
        )

    def test_pitch_surface_and_grade_are_asked(self):
        self.assertIn("thread pitch (not measured)", self.preload(d="10")[0].sentence.mm)
        self.assertIn("dry, as delivered, oiled", self.preload(surface="not said")[0].sentence.mm)
        inch = self.preload(d="3/8 in", strength="grade 8")[0]
        self.assertEqual(inch.verdict, Verdict.UNMEASURED, "a bare inch size has no pitch")
        self.assertGreater(
            self.preload(d="3/8-24", strength="grade 8", torque="40 ft lbs")[0].value, 40.0
        )
        self.assertIn(
            "not made in this size",
            finding(
                build(
                    joints=[{"n": 1, "d": "M20", "strength": "9.8", "torque": "60", "bolts": "4"}]
                ),
                "assemble.grade.1",
            ).sentence.mm,
        )
        self.assertAlmostEqual(stress_area(10, 1.25), 61.2, delta=0.05)

    def test_screws_clamp_what_is_there_and_never_bottom(self):
        def of(plate="18", depth="22", flange="16", material="aluminium", engine=True):
            screw = {"fastening": "hex head", "depth": depth, "d": "M10"}
            faces = {
                "engine_face": ring_face(**screw) | {"material": material},
                "gearbox_face": {} if engine else ring_face(**screw) | {"flange": flange},
            }
            return screws(resolve(build(said(plate_mm=plate, separator_mm="1"), **faces)))[
                0 if engine else -1
            ]

        through = of()
        self.assertEqual(
            (through.grip, through.least, through.most, through.stock), (19.0, 34.0, 39.5, 35.0)
        )
        self.assertAlmostEqual(of("43.4").least - through.least, 25.4)  # a plate thicker by an inch
        self.assertIn("2.5 mm too shallow", of(depth="14").note)  # least 34.0, most 31.5
        self.assertIn(
            "bottoms by", of("15.4", depth="16.5").note
        )  # 31.4 to 31.4 and a bit: no stock length
        untold = of(depth=None)
        self.assertEqual((untold.stock, untold.note), (None, "not told: depth of thread"))
        self.assertIn("block's material", of(material="").note)
        # The odd one is named, and stands in the picture of the heads.
        tender = resolve(demo())
        self.assertEqual(odd_ones(screws(tender)), {"E8": 25.0})
        (picture,) = drawn(demo())["mate.screws"].drawings
        self.assertIn("E8: 25 mm, the odd one", [n.text for n in picture.notes])
        (rows,) = drawn(demo())["assemble.screws"].tables
        self.assertIn("the odd one", next(r for r in rows.rows if r.cells[0] == "E8").cells[-1])
        # Half of one length and half of another are two patterns, and none of them odd.
        self.assertEqual(odd_ones(screws(resolve(timber_winch()))), {})
        # Without a plate the grip is the gearbox's flange, and the thread is the engine's.
        bare = of("0", engine=False)
        self.assertEqual((bare.hole[0], bare.grip, bare.least, bare.most), ("G", 17.0, 32.0, 37.5))


class Money(unittest.TestCase):
    def lines(self, *extra):
        paid = [("Engine", "1310"), ("Starter", "145"), ("Disc", "90")]
        rows = [
            {"n": i + 1, "name": name, "state": "paid", "amount": amount}
            for i, (name, amount) in enumerate(paid)
        ]
        return resolve(
            build(
                money=[*rows, {"n": 4, "state": "unpriced"}, {"n": 5, "state": "unpriced"}, *extra]
            )
        )

    def test_the_invented_ledger(self):
        """1310 + 145 + 90 = 1545; a credit of 145 for the second, once more against the third is
        refused; 1400 once refunded; 2 unpriced.
        """
        asked = self.lines(
            {"n": 6, "state": "refund asked", "amount": "145", "credit_of": 2},
            {"n": 7, "state": "refund asked", "amount": "145", "credit_of": 3},
        )
        t = totals(asked)
        self.assertEqual(
            (t.paid, t.forecast, t.if_refunded, t.unpriced, t.refused),
            (1545.0, 1545.0, 1400.0, 2, (7,)),
        )
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
            bad = refused_credits(
                self.lines({"n": 6, "state": "refund asked", "amount": "145"} | more)
            )
            self.assertIn(words, bad[6])

    def test_a_credit_entered_twice_is_refused_the_second_time(self):
        twice = [
            {"n": n, "state": "refund received", "amount": "145", "credit_of": 2} for n in (6, 7)
        ]
        self.assertEqual(set(refused_credits(self.lines(*twice))), {7})

    def test_unpriced_is_not_nil(self):
        self.assertIn(
            "2 lines are unpriced", finding(self.lines().build, "log.unpriced").sentence.mm
        )


class Fits(unittest.TestCase):
    def read(self, measured, state=None, lapsed=None, **more):
        return assess(self.made(measured, state, lapsed, **more), ())

    def made(self, measured, state=None, lapsed=None, **more):
        made = demo(**more)
        made.fits[0].gaps[0].measured, made.fits[0].gaps[0].lapsed = measured, lapsed
        if state:
            made.fits[0].evidence.state.position = state
        return made

    def test_the_reading_stands_in_the_verdict_of_its_pair(self):
        for measured, verdict in (("60", Verdict.GOES), ("10", Verdict.FOULS)):
            found = finding(self.read(measured), "clear.pair.4-21")
            self.assertEqual(
                (found.value, found.verdict, found.inputs),
                (float(measured), verdict, ("fits.1.gaps.1.measured",)),
            )
            self.assertIn("(read: trial hang)", found.sentence.mm)
            (tightest,) = (
                row
                for row in drawn(self.made(measured))["clear.pairs"].tables[0].rows
                if row.finding == "clear.pair.4-21"
            )
            self.assertIn(float(measured), tightest.cells)
            self.assertIn("read", tightest.cells)
            self.assertIn("as modelled", finding(self.read(measured), "clear.flagged.4-21.1").title)
        gate = finding(self.read("10"), "assemble.hold.15").sentence.mm
        self.assertIn("Alternator to Left rail fouls", gate)

    def test_a_reading_in_another_state_or_lapsed_does_not(self):
        for answer in (
            self.read("60", state="hung"),
            self.read("60", lapsed=Lapse(event="unit moved")),
        ):
            self.assertNotIn("fits.1.gaps.1.measured", finding(answer, "clear.pair.4-21").inputs)

    def test_a_fit_needs_no_model(self):
        gap = {"n": 1, "title": "filter to beam", "measured": "11", "class_": "metal to chassis"}
        fit = {
            "n": 1,
            "name": "hang",
            "state": {"position": "resting loaded"},
            "evidence": {"tool": "steel rule"},
            "gaps": [
                gap,
                gap | {"n": 2, "class_": "steering", "measured": "30"},
            ],
        }
        answer = assess(build(fits=[fit]), ())
        self.assertEqual(finding(answer, "clear.read.1.1").verdict, Verdict.FOULS)
        self.assertEqual(finding(answer, "clear.read.1.2").verdict, Verdict.GOES)
        self.assertNotIn("clear.solids", {f.id for f in answer.findings})

    def test_reading_and_prediction_side_by_side(self):
        answer = assess(demo(), ())
        self.assertEqual(finding(answer, "log.fit.1.1").verdict, Verdict.GOES)
        wrong = finding(answer, "log.fit.1.2")
        self.assertEqual(wrong.verdict, Verdict.FOULS)
        self.assertIn("the reading wins", wrong.sentence.mm)
        self.assertEqual(finding(answer, "log.fit.1.3").verdict, Verdict.UNMEASURED)

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
        self.assertIn(
            ("stack.pilot_engagement", "tight", "goes"),
            [(t.id, t.before, t.after) for t in r.turns],
        )
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
        self.assertEqual(r.events, ("unit moved",))
        self.assertTrue(any(x.address.startswith("fits.") for x in r.lapsing))
        self.assertTrue(all(a.before == a.after for a in r.shifts))

    def test_nothing_changed_touches_nothing(self):
        r = self.of()
        self.assertEqual((r.changed, r.turns, r.shifts, r.lapsing, r.lengths), ((), (), (), (), ()))
