"""Stack: crank spacing along the station axis, and what has to match from crank to input shaft."""

from pindo.core.stations.stack import disc, match, release, spacing, starter, strength

QUESTIONS = (
    spacing.QUESTION,
    disc.QUESTION,
    release.QUESTION,
    starter.QUESTION,
    match.QUESTION,
    strength.QUESTION,
)
