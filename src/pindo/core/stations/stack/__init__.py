"""Stack: crank spacing along the station axis, and what has to match from crank to input shaft."""

from pindo.core.stations.stack import disc, made, match, release, spacing, starter, strength, window

QUESTIONS = (
    spacing.QUESTION,
    disc.QUESTION,
    release.QUESTION,
    window.QUESTION,
    made.QUESTION,
    starter.QUESTION,
    match.QUESTION,
    strength.QUESTION,
)
