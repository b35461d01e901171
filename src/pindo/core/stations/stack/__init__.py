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
    pedal.QUESTION,
    converter.QUESTION,
    pack.QUESTION,
    hub.QUESTION,
    window.QUESTION,
    made.QUESTION,
    starter.QUESTION,
    match.QUESTION,
    cover.QUESTION,
    fits.QUESTION,
    strength.QUESTION,
    pins.QUESTION,
    gate.QUESTION,
)
