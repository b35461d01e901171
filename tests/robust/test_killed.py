"""Killed at any moment, with others writing, copying and restoring: nothing that was
acknowledged is lost.
"""

import random
import tempfile
import unittest
from pathlib import Path

from tests.robust.killing import round_of

ROUNDS = 4


class Killed(unittest.TestCase):
    def test_what_was_acknowledged_is_there_after_every_kill(self):
        seed = random.randrange(10**6)
        print(f"kills, seed {seed}")
        dice = random.Random(seed)
        counts: dict[str, int] = {}
        with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
            for _ in range(ROUNDS):
                self.assertEqual(round_of(Path(folder) / "data", dice, counts), [], f"seed {seed}")
        self.assertEqual(counts["kills"], ROUNDS)


if __name__ == "__main__":
    unittest.main()
