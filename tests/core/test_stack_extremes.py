"""No figure and no word stops a question of the Stack: nought, minus, huge, choices that there are
not, in every size, choice and list that it has.
"""

import random
import unittest

from pindo.core.document.build import Build
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.evaluate import evaluate
from pindo.core.judging.question import QUESTIONS, Seen

FIGURES = ("0", "-1", "1e-9", "5", "17", "120", "1e6", "1e200", "-1e200")
BESIDE = ("tyre_mm", "final_drive_ratio", "first_gear_ratio", "reverse_ratio")
COUPLINGS = ("", "converter automatic", "dual clutch box", "belt drive", "clutch and bellhousing")
PAPER = {"source": "maker's paper", "pm": "0"}
LISTS = {
    "gears": ("ratio",),
    "links": ("rating", "share", "power", "speed"),
    "pins": ("pin", "go", "no_go", "pins", "across", "torque"),
    "join_gaps": ("at", "gap"),
    "spacer_pieces": ("thick", "pcd", "bolt", "long", "clamped", "depth", "spigot", "bore"),
    "made_for": ("made_for", "size", "more"),
}


def document(rng):
    """A build whose every size is somebody's word that it is so."""
    sizes = [k for k, d in DIMENSIONS.items() if d.station == "stack" or k in BESIDE]
    dims = {
        k: {
            "statements": [
                {"id": "s1", "takes": [{"typed": rng.choice(FIGURES)}]}
                | PAPER
                | {"pm": rng.choice(("0", "3"))}
            ],
            "sure": "seen",
        }
        for k in sizes
        if rng.random() < 0.93
    }
    options = {
        k: rng.choice((*o.choices, "what there is not", ""))
        for k, o in OPTIONS.items()
        if o.station == "stack" and o.choices
    }
    rows = {
        name: [
            {"n": n, "evidence": PAPER} | {f: rng.choice(FIGURES) for f in fields}
            for n in range(1, 5)
        ]
        for name, fields in LISTS.items()
    }
    loose = [
        {"n": n, "use": use, "thick": rng.choice(FIGURES), "across": rng.choice(FIGURES)}
        for n, use in enumerate(("crank spacer", "core or offcut", "shim under the slave"), 1)
    ]
    return Build.model_validate(
        {
            "name": "hostile",
            "dims": dims,
            "options": options | {"coupling": rng.choice(COUPLINGS)},
            "spacers": loose,
            "sheets": [{"n": 1, "thick": rng.choice(FIGURES)}],
            **rows,
        }
    )


class Extremes(unittest.TestCase):
    def test_every_question_answers_and_draws(self):
        rng = random.Random(5)
        for _ in range(30):
            inputs = resolve(document(rng))
            for question in QUESTIONS.values():
                if question.station != "stack" or not question.when(inputs):
                    continue
                with self.subTest(question.key):
                    found = [evaluate(c, inputs) for c in question.checks(inputs)]
                    found += question.notices(inputs)
                    question.board(inputs, Seen(findings=found))
                    for f in found:
                        self.assertTrue(f.sentence.mm and f.sentence.inch, f.id)
                        self.assertNotRegex(f.sentence.mm, r"\bnan\b")


if __name__ == "__main__":
    unittest.main()
