"""The worker of the searches: ``python -m pindo.web.searcher``. It reads what is asked from its
input and writes each step to its output, then None for the end; both are pickles of the process
that started it, and of nobody else.
"""

import pickle
import sys
import traceback
from typing import Any, BinaryIO

from pindo.core.search import SEARCHES


def work(asks: BinaryIO, answers: BinaryIO) -> None:
    """Searches what it is asked until nobody asks any more."""

    def say(what: Any) -> None:
        pickle.dump(what, answers)
        answers.flush()

    while True:
        try:
            asked = pickle.load(asks)
        except EOFError:
            return
        try:
            for step in SEARCHES[asked.kind](asked.document, asked.today):
                say(step)
            say(None)
        except OSError:
            return  # nobody listens any more
        except Exception:
            say(traceback.format_exc(limit=4)[-600:])


if __name__ == "__main__":
    work(sys.stdin.buffer, sys.stdout.buffer)
