"""Stack: crank spacing along the station axis, and what has to match from crank to input shaft."""

from pindo.core.stations.stack import (
    converter,
    cover,
    disc,
    fits,
    gate,
    hub,
    made,
    match,
    pack,
    pedal,
    pins,
    release,
    spacing,
    starter,
    strength,
    window,
)

QUESTIONS = (
    spacing.QUESTION,
    disc.QUESTION,
    release.QUESTION,
    converter.QUESTION,
    pack.QUESTION,
    hub.QUESTION,
    window.QUESTION,
    made.QUESTION,
    match.QUESTION,
    cover.QUESTION,
    fits.QUESTION,
    strength.QUESTION,
    pedal.QUESTION,
    pins.QUESTION,
    gate.QUESTION,
    starter.QUESTION,
)
"""In the order of the work: measure and compute, choose and order, fit, join, spin."""
