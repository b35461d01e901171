"""The journal: what was done and seen, with pictures."""

from pindo.core.inputs.dimensions import Station
from pindo.core.judging.question import Question

QUESTION = Question(
    path="journal",
    station=Station.LOG,
    name="Journal",
    asks="What was done and seen?",
    lists=("log",),
    files=(("handover.pdf", "Hand-over report (PDF)"),),
)
