"""The worked example of docs/add-a-check.md runs as it is printed."""

import re
import unittest
from pathlib import Path


class TheExample(unittest.TestCase):
    def test_it_runs_and_holds(self):
        page = (Path(__file__).parents[2] / "docs" / "add-a-check.md").read_text("utf-8")
        blocks = re.findall(r"```python\n(.*?)```", page, re.S)
        self.assertEqual(len(blocks), 3)
        names: dict[str, object] = {}
        exec("\n".join(blocks), names)
        self.assertEqual(names["finding"].id, "stack.shield_to_ring")
