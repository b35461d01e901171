"""What a millimetre more of plate or crank spacer does everywhere else. [mm per mm]"""

from dataclasses import dataclass

from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.evaluate import asked_for, missing_inputs
from pindo.core.judging.question import QUESTIONS
from pindo.core.judging.uncertainty import margin_at
from pindo.core.stations.stack.pieces import CHOSEN

FELT = 0.005
"""Smallest change for each millimetre that is told."""
ONE = 1.0


@dataclass(frozen=True, kw_only=True)
class Effect:
    """A thing that moves with the two, by how much for each millimetre more."""

    title: str
    station: str
    kind: str
    by_plate: float | None
    by_spacer: float | None
    finding: str = ""


def _checks(inputs: Inputs) -> list[Check]:
    """Checks of the other stations that rest on plate or spacer and can be answered."""
    return [
        c
        for q in QUESTIONS.values()
        if q.station.value != "stack" and q.when(inputs)
        for c in q.checks(inputs)
        if not set(CHOSEN[:2]).isdisjoint(asked_for(c, inputs)) and not missing_inputs(c, inputs)
    ]


def effects(inputs: Inputs) -> list[Effect]:
    """Findings of the other stations and lengths that are ordered, by what they lose soonest."""
    moved = {}
    for address in CHOSEN[:2]:
        value = inputs.value(address)
        moved[address] = None if value is None else inputs.with_value(address, value + ONE)
    rows: list[tuple[float, Effect]] = []
    for check in _checks(inputs):
        at = margin_at(check, inputs)
        by = [
            None if m is None or a not in asked_for(check, inputs) else margin_at(check, m) - at
            for a, m in moved.items()
        ]
        felt = [b for b in by if b is not None and abs(b) != float("inf")]
        if not any(abs(b) > FELT for b in felt):
            continue
        rows.append(
            (
                at + min(0.0, *felt),
                Effect(
                    title=check.title,
                    station=check.station.value,
                    kind=check.kind,
                    by_plate=by[0],
                    by_spacer=by[1],
                    finding=check.id,
                ),
            )
        )
    told = [e for _, e in sorted(rows, key=lambda r: r[0])]
    return [*_ordered(inputs, moved), *told]


def _ordered(inputs: Inputs, moved: dict[str, Inputs | None]) -> list[Effect]:
    """Lengths that are ordered or cut, and how they change."""
    found = []
    for question in QUESTIONS.values():
        if not question.when(inputs):
            continue
        now = {r.name: r for r in question.orders(inputs)}
        if not now:
            continue
        then = {
            a: {} if m is None else {r.name: r.value for r in question.orders(m)}
            for a, m in moved.items()
        }
        for name, r in now.items():
            by = [then[a][name] - r.value if name in then[a] else None for a in moved]
            if any(b is not None and abs(b) > FELT for b in by):
                found.append(
                    Effect(
                        title=f"{name}, ordered length",
                        station=question.station.value,
                        kind=r.kind,
                        by_plate=by[0],
                        by_spacer=by[1],
                    )
                )
    return found
