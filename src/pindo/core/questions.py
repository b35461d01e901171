"""The questions of each station, by key: what checks belong to, what a step of the plan watches."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from pindo.core.dimensions import Station


@dataclass(frozen=True)
class Question:
    """One question of a station, in plain words."""

    station: Station
    name: str


QUESTIONS: Mapping[str, Question] = MappingProxyType(
    {
        "survey.said": Question(Station.SURVEY, "What is said twice or can hardly be"),
        "mate.pattern": Question(Station.MATE, "Hole patterns of both faces"),
        "mate.plate": Question(Station.MATE, "The plate: spacing, edges, window, threads"),
        "mate.screws": Question(Station.MATE, "Screws and heads"),
        "mate.dowels": Question(Station.MATE, "Dowels"),
        "mate.starter": Question(Station.MATE, "The starter's opening"),
        "mate.runout": Question(Station.MATE, "Runout of bore and face"),
        "stack.spacing": Question(Station.STACK, "Crank spacing"),
        "stack.release": Question(Station.STACK, "Release"),
        "stack.starter": Question(Station.STACK, "Starter mesh"),
        "stack.match": Question(Station.STACK, "What has to match"),
        "stack.strength": Question(Station.STACK, "Ratings"),
        "seat.place": Question(Station.SEAT, "Where it sits"),
        "seat.mounts": Question(Station.SEAT, "Mounts"),
        "line.angles": Question(Station.LINE, "Joint angles and the shaft"),
        "line.travel": Question(Station.LINE, "Over the travel"),
        "line.chain": Question(Station.LINE, "Chain"),
        "clear.pairs": Question(Station.CLEAR, "Tight pairs"),
        "clear.belt": Question(Station.CLEAR, "Belt run"),
        "assemble.steps": Question(Station.ASSEMBLE, "Steps"),
        "assemble.joints": Question(Station.ASSEMBLE, "Bolted joints"),
        "log.fits": Question(Station.LOG, "Trial fits"),
        "log.items": Question(Station.LOG, "For now"),
        "log.changes": Question(Station.LOG, "Modifications"),
        "log.money": Question(Station.LOG, "Money"),
    }
)
