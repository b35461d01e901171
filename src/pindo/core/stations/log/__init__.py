"""Log: what was done, what is for now, what it cost."""

from pindo.core.stations.log import changes, fits, items, journal, money

QUESTIONS = (
    journal.QUESTION,
    fits.QUESTION,
    items.QUESTION,
    changes.QUESTION,
    money.QUESTION,
    money.HOURS,
)
