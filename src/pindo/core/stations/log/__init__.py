"""Log: what was done, what is for now, what it cost."""

from pindo.core.stations.log import changes, fits, items, journal, money, parts

QUESTIONS = (
    journal.QUESTION,
    fits.QUESTION,
    items.QUESTION,
    changes.QUESTION,
    parts.QUESTION,
    money.QUESTION,
    money.HOURS,
)
