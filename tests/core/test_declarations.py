"""What is declared is there: every check of every question, over both demos and a blank build."""

import re
import unittest

from pindo.core.assessment import asked, assess_inputs, evaluate_all
from pindo.core.boards import boards
from pindo.core.document.lists import LISTS
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, OPTIONS
from pindo.core.inputs.inputs import PROVIDERS
from pindo.core.inputs.resolve import resolve
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import KINDS
from pindo.core.judging.check import Choice, Constant, Limit, Quantity
from pindo.core.judging.evaluate import asked_for
from pindo.core.judging.question import QUESTIONS, asked_at
from pindo.demo import DEMOS
from tests.support import build, demo, face

FIELD = re.compile(r"(?<!\{)\{([a-z_0-9]+)\}(?!\})")
ALWAYS = {"value", "limit", "short", "over"}


def builds():
    """Builds that between them ask every question."""
    yield from ((name, make()) for name, make in DEMOS.items())
    yield "blank", build()
    for drive, options in (
        ("half shafts", {"axle_guide": "leaf springs", "wheel_guide": "wishbones"}),
        ("one-piece shaft", {"axle_guide": "links"}),
        ("chain", {}),
    ):
        yield drive, demo(options=demo().options | {"drive": drive} | options)
    yield "no place", build(engine_face=face({"n": 1}))
    for coupling in ("converter automatic", "dual clutch box", "belt drive"):
        yield coupling, demo(options=demo().options | {"coupling": coupling})
    pin = {"n": 1, "pin": "6", "go": "6", "no_go": "6.1", "pins": "1", "across": "20"}
    yield "pinned", build(pins=[pin | {"torque": "5"}])
    for release in ("rides on the fingers", "stands off, adjustable", "pulls the fingers", ""):
        yield release, demo(options=demo().options | {"release_type": release})


class Checks(unittest.TestCase):
    def test_every_address_limit_choice_and_sentence_field_exists(self):
        seen = set()
        for name, of in builds():
            inputs = resolve(of)
            for check, _ in evaluate_all(inputs).values():
                seen.add(check.question)
                with self.subTest(check.id, build=name):
                    self.assertIn(check.question, QUESTIONS)
                    self.assertEqual(check.station, QUESTIONS[check.question].station)
                    self.assertIn(check.kind, KINDS)
                    self.assertTrue(check.title and check.why)
                    self.assertTrue(check.at_least or check.at_most)
                    for declared in (*check.inputs.values(), *map(Quantity, check.reads)):
                        if isinstance(declared, Quantity):
                            self.assertIsNotNone(inputs.quantities.get(declared.address), declared)
                        elif isinstance(declared, Limit):
                            self.assertIn(declared.rule, RULES)
                        elif isinstance(declared, Choice):
                            self.assertIn(declared.option, OPTIONS)
                        else:
                            self.assertIsInstance(declared, Constant)
                            self.assertIn(declared.kind, {"", *KINDS})
                    told = {k for k, d in check.inputs.items() if self.told(d)}
                    for template in (check.says, check.fouls):
                        self.assertLessEqual(set(FIELD.findall(template)), ALWAYS | told)
        silent = {key for key, q in QUESTIONS.items() if key not in seen}
        self.assertEqual(silent, WITHOUT_CHECKS)

    def told(self, declared):
        return not isinstance(declared, Limit) and not (
            isinstance(declared, Constant) and not declared.kind
        )

    def test_every_notice_names_a_question_and_is_told_in_both_systems(self):
        for name, of in builds():
            for f in assess_inputs(resolve(of), ()).findings:
                with self.subTest(f.id, build=name):
                    self.assertIn(f.question, QUESTIONS)
                    self.assertTrue(f.sentence.mm and f.sentence.inch)
                    self.assertNotRegex(f.sentence.mm, r"\{[a-z_]+\}")


# Questions of notices, lists and records alone.
WITHOUT_CHECKS = {
    "survey.start",
    "stack.window",
    "stack.gate",
    "mate.clocking",
    "mate.trim",
    "survey.vehicle",
    "survey.parts",
    "survey.kits",
    "survey.versions",
    "survey.evidence",
    "survey.weak",
    "survey.said",
    "assemble.steps",
    "assemble.screws",
    "log.journal",
    "log.fits",
    "log.items",
    "log.changes",
    "log.money",
    "log.hours",
}


class Questions(unittest.TestCase):
    def test_letters_of_a_question_begin_at_a_and_are_never_read_as_figures(self):
        for question, ledger in LEDGERS.items():
            letters = list(ledger.values())
            self.assertEqual(len(letters), len(set(letters)), question)
            self.assertEqual(letters[:1], ["A"][: len(letters)], question)
            self.assertFalse(set("IO") & set("".join(letters)), question)

    def test_printed_letters_stay(self):
        """Letters that stand on sheets in somebody's shop."""
        for question, key, letter in (
            ("survey.vehicle", "gearbox_length_mm", "H"),
            ("mate.plate", "plate_mm", "D"),
            ("mate.starter", "pocket_mm", "C"),
            ("stack.spacing", "crank_flange_mm", "A"),
            ("stack.spacing", "plate_mm", "F"),
            ("stack.strength", "gearbox_torque_nm", "C"),
            ("seat.mounts", "engine_torque_nm", "M"),
            ("line.chain", "chain_pitch_mm", "C"),
            ("clear.belt", "belt_take_up_mm", "E"),
        ):
            self.assertEqual(LEDGERS[question][key], letter, key)

    def test_every_dimension_choice_and_list_belongs_to_a_question(self):
        in_ledgers = {key for q in QUESTIONS.values() for key in q.ledger}
        self.assertEqual(set(DIMENSIONS) - in_ledgers, set())
        self.assertEqual(set(OPTIONS) - {o for q in QUESTIONS.values() for o in q.options}, set())
        self.assertEqual(set(LISTS) - {x for q in QUESTIONS.values() for x in q.lists}, set())
        for q in QUESTIONS.values():
            self.assertTrue(q.name and q.asks.endswith("?"), q.key)

    def test_what_a_check_wants_can_be_typed_in_and_is_asked_at_its_own_station(self):
        for name, of in builds():
            inputs = resolve(of)
            on = set(asked(inputs))
            open_ones = {key: q for key, q in QUESTIONS.items() if key in on}
            wanted = {
                a for check, _ in evaluate_all(inputs).values() for a in asked_for(check, inputs)
            }
            for key in (wanted | on) & set(DIMENSIONS):
                with self.subTest(key, build=name):
                    self.assertIn(key, on)
                    at = {q.station for q in open_ones.values() if key in q.ledger}
                    home = DIMENSIONS[key].station
                    place = asked_at(key, inputs)
                    self.assertIn(key, open_ones[place].ledger)
                    self.assertTrue(open_ones[place].station == home or home not in at)

    def test_what_is_given_is_given_by_its_address(self):
        inputs = resolve(demo())
        for address, provider in PROVIDERS.items():
            self.assertIn(address, provider.gives)
            if provider.when(inputs):
                self.assertEqual(inputs.quantities[address].address, address)

    def test_a_table_has_a_cell_for_each_column(self):
        for name, of in builds():
            inputs = resolve(of)
            for key, board in boards(inputs, assess_inputs(inputs, ())).items():
                self.assertFalse(board.failed, (name, key))
                for t in board.tables:
                    for row in t.rows:
                        self.assertEqual(len(row.cells), len(t.columns), (key, t.key))
                    self.assertLessEqual({c.kind for c in t.columns}, {"", *KINDS})
                self.assertLessEqual({r.kind for r in board.readings}, set(KINDS), key)
