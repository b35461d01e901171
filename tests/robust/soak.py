"""The robust tests for as long as one likes, with counts: ``./pindo soak MINUTES``. Ends with 1
when anything was lost or failed.
"""

import random
import sys
import tempfile
import time
import unittest
import warnings
from pathlib import Path

from tests.robust import killing, load, test_fuzz

LOAD_SECONDS = 60.0
KILLS = 20


def fuzz(seed: int) -> list[str]:
    """A longer fuzz of documents and routes than the short run has; failures in words."""
    test_fuzz.TAKEN, test_fuzz.EXAMPLES, test_fuzz.NAMED, test_fuzz.SEED = 8, 12, 3, seed
    test_fuzz.MOST_DOCUMENTS = 4000
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        result = unittest.TestResult()
        unittest.defaultTestLoader.loadTestsFromModule(test_fuzz).run(result)
    return [text[-1500:] for _, text in (*result.failures, *result.errors)]


def main(argv: list[str]) -> int:
    minutes = float(argv[0]) if argv else 10.0
    seed = int(argv[1]) if len(argv) > 1 else random.randrange(10**6)
    print(f"soak of {minutes:g} minutes, seed {seed}", flush=True)
    end, dice = time.monotonic() + 60.0 * minutes, random.Random(seed)
    counts: dict[str, int] = {}
    requests, faults, slow, lost, failed, grown = 0, [], [], [], [], 0.0
    while time.monotonic() < end:
        with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
            for _ in range(KILLS):
                lost += killing.round_of(Path(folder) / "killed", dice, counts)
                if time.monotonic() > end:
                    break
            seen, more = load.run(
                Path(folder) / "loaded", min(LOAD_SECONDS, max(5.0, end - time.monotonic())), seed
            )
        requests, grown = requests + seen.requests, max(grown, more)
        faults, slow, lost = faults + seen.faults, slow + seen.slow, lost + seen.lost
        if time.monotonic() < end:
            failed += fuzz(dice.randrange(8, 10**6))
        longest = max(seen.seconds, default=0.0)
        print(
            f"{counts.get('kills', 0)} kills, {counts.get('acknowledged', 0)} changes acknowledged"
            f" under them; {requests} requests under load, {len(faults)} 5xx, {len(slow)} slower"
            f" than {load.SLOW_SECONDS:g} s (longest {longest:.2f} s), {len(lost)} lost, memory"
            f" +{grown:.0f} MB; {len(failed)} fuzz failures",
            flush=True,
        )
    for words in (*lost, *faults[:20], *slow[:20], *failed):
        print(" ", words)
    return 1 if lost or faults or failed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
