"""Mate: whether both castings meet at the plate, and the plate itself."""

from pindo.core.stations.mate import (
    clocking,
    dowels,
    locators,
    patterns,
    plate,
    proving,
    runout,
    screws,
    starter,
    trim,
)

QUESTIONS = (
    patterns.QUESTION,
    plate.QUESTION,
    clocking.QUESTION,
    screws.QUESTION,
    proving.QUESTION,
    dowels.QUESTION,
    locators.QUESTION,
    starter.QUESTION,
    trim.QUESTION,
    runout.QUESTION,
)
