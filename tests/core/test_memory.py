"""What is kept answers as if it were worked out anew, whatever was changed before."""

import copy
import random
import unittest

from pydantic import ValidationError

from pindo.core.assessment import assess_inputs
from pindo.core.boards import boards, overview
from pindo.core.document.patch import PatchError, applied
from pindo.core.document.written import read, rewritten, written
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.inputs import Memory
from pindo.core.inputs.resolve import resolve
from pindo.demo import DEMOS

TODAY = "2026-11-26"
LENGTHS = ("-3", "0", "4.5", "17", "17 ± 2", "120", "3/4 in", "plenty")


def _dims(rng, document):
    key = rng.choice(sorted(DIMENSIONS))
    path = f"/dims/{key}"
    if key in document["dims"] and rng.random() < 0.2:
        return [{"op": "remove", "path": path}]
    source = rng.choice(("measured", "drawing", "memory", "chosen"))
    said = {"id": "s1", "source": source, "takes": [{"typed": rng.choice(LENGTHS)}]}
    if rng.random() < 0.3:
        said["state"] = {"position": rng.choice(("hung", "bench", "resting loaded"))}
    return [{"op": "add", "path": path, "value": {"statements": [said]}}]


def _options(rng, document):
    option = OPTIONS[rng.choice(sorted(OPTIONS))]
    said = rng.choice(("", *option.choices)) if option.choices else "straight 10 x 35"
    return [{"op": "add", "path": f"/options/{option.key}", "value": said}]


def _rows(rng, document):
    name = rng.choice(
        ("mounts", "solids", "pulleys", "joints", "fits", "pose_points", "money", "parts", "steps")
    )
    rows = document[name]
    if not rows or rng.random() < 0.15:
        return [{"op": "add", "path": f"/{name}/-", "value": {"n": rng.randint(900, 990)}}]
    i = rng.randrange(len(rows))
    if rng.random() < 0.15:
        return [{"op": "remove", "path": f"/{name}/{i}"}]
    typed = [k for k, v in rows[i].items() if v is None or (isinstance(v, str) and v[:1].isdigit())]
    if not typed:
        return []
    return [
        {"op": "replace", "path": f"/{name}/{i}/{rng.choice(typed)}", "value": rng.choice(LENGTHS)}
    ]


def _faces(rng, document):
    face = rng.choice(("engine_face", "gearbox_face"))
    holes = document[face]["holes"]
    if not holes:
        return []
    i = rng.randrange(len(holes))
    field, value = rng.choice(
        (
            ("u", rng.choice(LENGTHS)),
            ("recess", rng.choice(("8", None))),
            ("fastening", rng.choice(("tapped", "hex head", "nut", None))),
            ("backing", rng.choice(("metal", "oil", "unknown"))),
        )
    )
    return [{"op": "replace", "path": f"/{face}/holes/{i}/{field}", "value": value}]


def _others(rng, document):
    return rng.choice(
        (
            [{"op": "replace", "path": "/layout", "value": rng.choice(("reversed", "lengthwise"))}],
            [
                {
                    "op": "add",
                    "path": "/rules/tip_gap_min_mm",
                    "value": {"value": rng.uniform(0, 9), "note": "tried"},
                }
            ],
            [{"op": "replace", "path": "/rules", "value": {}}],
            [
                {
                    "op": "add",
                    "path": "/waivers/stack.release_gap",
                    "value": {"who": "I.", "reason": "bench only", "until": "2027-01-01"},
                }
            ],
        )
    )


def random_patch(rng, document):
    """A change such as a fabricator, a script or a slip might make."""
    kinds = (_dims, _dims, _options, _rows, _rows, _faces, _others)
    return rng.choice(kinds)(rng, document)


def walk(make, rounds, seed, check):
    """Lays random patches on a demo one after the other; ``check(before, after)`` after each."""
    rng = random.Random(seed)
    now = start = written(make())
    done = 0
    while done < rounds:
        try:
            after = rewritten(now, applied(now.document, random_patch(rng, now.document)))
        except (PatchError, ValidationError):
            continue
        check(now, after)
        done += 1
        # Far from the demo nothing is asked any more: it begins again now and then.
        now = start if done % 25 == 0 else after


class Kept(unittest.TestCase):
    ROUNDS, SEED = 60, 8

    def test_the_incremental_answer_is_the_one_from_scratch(self):
        for name, make in DEMOS.items():
            memory, last = Memory(), [resolve(make())]

            def check(_, after, name=name, memory=memory, last=last):
                kept = resolve(after.build, memory, last[0])
                fresh = resolve(read(copy.deepcopy(after.document)).build)
                answers = [assess_inputs(i, (), TODAY) for i in (kept, fresh)]
                self.assertEqual(answers[0].quantities, answers[1].quantities)
                for a, b in zip(answers[0].findings, answers[1].findings, strict=True):
                    self.assertEqual(a, b, f"{name} {a.id}")
                self.assertEqual(answers[0], answers[1])
                shown = [
                    {"": overview(i, a), **boards(i, a, TODAY)}
                    for i, a in zip((kept, fresh), answers, strict=True)
                ]
                self.assertEqual(shown[0], shown[1])
                last[0] = kept

            with self.subTest(name):
                walk(make, self.ROUNDS, self.SEED, check)

    def test_what_a_change_leaves_alone_is_the_same_object(self):
        now = written(DEMOS["pump-tender"]())
        memory = Memory()
        before = resolve(now.build, memory)
        stood = assess_inputs(before, (), TODAY)
        # A note of the log touches no solid: nothing of Clear is worked out again.
        patch = [{"op": "replace", "path": "/notes", "value": "rain"}]
        after = rewritten(now, applied(now.document, patch))
        again = assess_inputs(resolve(after.build, memory, before), (), TODAY)
        for a, b in zip(stood.findings, again.findings, strict=True):
            self.assertIs(a, b)

    def test_a_trial_that_touches_no_solid_asks_no_distance(self):
        from unittest import mock

        now = written(DEMOS["pump-tender"]())
        memory = Memory()
        before = resolve(now.build, memory)
        assess_inputs(before, (), TODAY)
        path = "/dims/nose_mm/statements/0/takes/0/typed"
        after = rewritten(
            now, applied(now.document, [{"op": "replace", "path": path, "value": "25"}])
        )
        with mock.patch("pindo.core.geometry.solids.coal.distance", side_effect=AssertionError):
            assess_inputs(resolve(after.build, memory, before), (), TODAY)


class Documents(unittest.TestCase):
    def test_what_is_read_where_it_differs_is_what_is_read_whole(self):
        def check(_, after):
            self.assertEqual(after.document, after.build.model_dump(mode="json"))
            self.assertEqual(after.build, read(copy.deepcopy(after.document)).build)

        for make in DEMOS.values():
            walk(make, 120, 3, check)

    def test_unchanged_parts_are_the_same_objects(self):
        now = written(DEMOS["pump-tender"]())
        path = "/solids/2/a"
        after = rewritten(
            now, applied(now.document, [{"op": "replace", "path": path, "value": "7"}])
        )
        self.assertIs(after.document["dims"], now.document["dims"])
        self.assertIs(after.build.dims["nose_mm"], now.build.dims["nose_mm"])
        self.assertIs(after.build.solids[1], now.build.solids[1])
        self.assertEqual(after.build.solids[2].a, "7")
        self.assertNotEqual(now.build.solids[2].a, "7")


if __name__ == "__main__":
    unittest.main()
