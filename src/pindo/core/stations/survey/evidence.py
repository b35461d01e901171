"""Every size of the build with its evidence."""

from pindo.core.inputs.dimensions import Station
from pindo.core.judging.question import Question

QUESTION = Question(
    path="evidence",
    station=Station.SURVEY,
    name="Every size",
    asks="What is said of each size of the build, by whom, and how well is it known?",
)
