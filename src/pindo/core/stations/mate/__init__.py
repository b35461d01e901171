"""Mate: whether both castings meet at the plate, and the plate itself."""

from pindo.core.stations.mate import dowels, patterns, plate, runout, screws, starter

QUESTIONS = (
    patterns.QUESTION,
    plate.QUESTION,
    screws.QUESTION,
    dowels.QUESTION,
    starter.QUESTION,
    runout.QUESTION,
)
