"""The stations of the trade: one folder a station, one file a question.

Whoever imports this package has every question enrolled, in the order of the trade.
"""

from pindo.core.judging.question import enrol
from pindo.core.stations import assemble, clear, line, log, mate, seat, stack, survey

for _station in (survey, mate, stack, seat, line, clear, assemble, log):
    for _question in _station.QUESTIONS:
        enrol(_question)
