"""What readings between points say of themselves: which the rest contradicts, which points are not
held or fit at two places, whether all agree. One way of telling it, whatever the points are.
"""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from pindo.core.geometry.network.adjust import LEAST_FREEDOM, LEAST_REDUNDANCY
from pindo.core.geometry.network.placed import Placed
from pindo.core.inputs.threads import INCH_MM
from pindo.core.inputs.units import write
from pindo.core.judging.notice import notice
from pindo.core.judging.verdict import Finding, Sentence, Verdict

ROUND_SLIPS = (1000.0, 500.0, 200.0, 100.0, 50.0, 10.0)
MOST_NAMED = 6


@dataclass(frozen=True, kw_only=True)
class Told:
    """How the points and readings of a network are spoken of."""

    key: str
    """What the ids of its findings begin with."""
    question: str
    thing: str
    """What a point is: mark, hole."""
    title: str
    """Title of the finding on all readings: Readings of the bay."""
    why: str
    """What a misreading does."""
    label: Callable[[int], str]
    """What a point is called."""
    between: Callable[[str], str]
    """What a reading is between, by its address."""
    row_of: Callable[[str], str]
    """Row of a reading, by its address."""
    row_for: Callable[[int], str]
    """Row of a point."""
    next_pm: float
    """± of the distance that is proposed next. [mm]"""
    places: int = 1
    """Decimals of its lengths."""


def named(labels: Sequence[str | int]) -> str:
    """Some names, the first few of many."""
    shown = ", ".join(map(str, labels[:MOST_NAMED]))
    more = len(labels) - MOST_NAMED
    return f"{shown} and {more} more" if more > 0 else shown


def slip(read: float, expected: float, pm: float) -> str:
    """How a reading may have come out wrong, in words; empty where nothing common explains it.
    [mm]
    """
    off = read - expected
    near = max(pm, 1.5)
    digits = f"{read:g}"
    for i in range(len(digits) - 1):
        if set(digits[i : i + 2]) & {".", "-"}:
            continue
        swapped = digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :]
        if swapped != digits and abs(float(swapped) - expected) <= near:
            return f"two digits swapped: {swapped}"
    for step in ROUND_SLIPS:
        if abs(abs(off) - step) <= near:
            return f"read {step:g} mm {'short' if off < 0 else 'long'}"
    if abs(read * INCH_MM - expected) <= near * INCH_MM / 2:
        return "read in inches, written as millimetres"
    return ""


def both(template: str, places: int, **lengths: tuple[float, float | None]) -> Sentence:
    """A sentence with lengths, each with its ± or none, in both systems. [mm]"""

    def told(system: str) -> str:
        words = {}
        for name, (value, pm) in lengths.items():
            text = write(value, "length", system, places)
            if pm is not None:
                number, unit = text.rsplit(" ", 1)
                text = f"{number} ± {write(pm, 'length', system, places).rsplit(' ', 1)[0]} {unit}"
            words[name] = text
        return template.format(**words)

    return Sentence(mm=told("mm"), inch=told("in"))


def suspects(told: Told, found: Placed) -> Iterator[Finding]:
    """Readings that the rest contradicts, with what the rest says."""
    for s in found.answer.suspects:
        name = told.between(s.id)
        why = slip(s.read, s.expected, s.pm)
        off = s.read - s.expected
        more = f" ({why})" if why else ""
        others = [told.between(r) for r in s.rivals]
        if others:
            more += f", unless it is {' or '.join(others[:MOST_NAMED])} that is wrong: a distance"
            more += " more would tell"
        doubtful = [n for i, n in enumerate(found.numbers) if i in s.doubtful]
        if doubtful:
            points = named([told.label(n) for n in doubtful])
            one = len(doubtful) == 1
            have = f"{told.thing} {points} has" if one else f"{told.thing}s {points} have"
            more += f", and {have} no place till then"
        text = (
            f"{name[0].upper()}{name[1:]} was read {{read}}; the rest says {{rest}}: {{off}}"
            f" {'short' if off < 0 else 'long'}{more}. It is left out until it is read again"
        )
        yield notice(
            f"{told.key}.{s.id}",
            told.question,
            f"Reading {name}",
            Verdict.UNMEASURED,
            both(
                text,
                told.places,
                read=(s.read, None),
                rest=(s.expected, s.pm),
                off=(abs(off), None),
            ),
            condition="contradiction",
            why=told.why,
            row=told.row_of(s.id),
        )


def other_side(told: Told, found: Placed) -> Iterator[Finding]:
    """Points that are said to lie on one side and are put on the other by their readings."""
    for n in found.belied:
        name = f"{told.thing.capitalize()} {told.label(n)}"
        yield notice(
            f"{told.key}.side.{n}",
            told.question,
            f"{name}, on which side?",
            Verdict.UNMEASURED,
            f"{name} is said to lie on one side of the datum, and its readings put it on the other:"
            f" no {told.thing} has a place till one of them is put right",
            condition="contradiction",
            why="One of them is wrong, and the whole may stand mirrored.",
            row=told.row_for(n),
        )


def two_places(told: Told, found: Placed, else_decides: str, why: str) -> Iterator[Finding]:
    """Points that fit at two places, with the distance that decides."""
    for t in found.twins:
        point = found.numbers[t.point]
        name = f"{told.thing.capitalize()} {told.label(point)}"
        if t.point in found.nailed:
            name = told.label(point).capitalize()
        to = None if t.to is None else told.label(found.numbers[t.to])
        decides = (
            f"the distance {told.label(point)} to {to} decides: {{here}} here, {{there}} there"
            if to is not None
            else else_decides
        )
        yield notice(
            f"{told.key}.twin.{point}",
            told.question,
            f"{name}, two places",
            Verdict.UNMEASURED,
            both(
                f"{name} fits at two places; {decides}",
                told.places,
                here=(t.here, None),
                there=(t.there, None),
            ),
            why=why,
            row=told.row_for(point),
        )


def next_words(told: Told, found: Placed, before: str) -> str:
    """The distance that is worth taking next, in words; empty for none."""
    pair = found.next(told.next_pm)
    if pair is None:
        return ""
    a, b = (told.label(n) for n in pair)
    return f"; {before} the distance {a} to {b}"


def agreement(told: Told, found: Placed, points: Sequence[int]) -> Iterator[Finding]:
    """Whether all readings agree, and which of the ``points`` that have a place is the least
    sure.
    """
    answer, thing = found.answer, told.thing
    held = [n for n in points if found.place(n) is not None]
    if not held:
        return
    worst = max(held, key=found.longest)
    alone = sum(r < LEAST_REDUNDANCY for r in answer.redundancy)
    more = next_words(told, found, "next")
    if answer.freedom < LEAST_FREEDOM:
        verdict, text = (
            Verdict.UNMEASURED,
            f"{len(held)} {thing}s have a place, but nothing checks their readings: a misreading"
            f" cannot be told{more}",
        )
    elif not answer.agrees:
        verdict, text = (
            Verdict.TIGHT,
            f"Readings differ {math.sqrt(answer.variance_factor):.1f} times as much as their ±"
            f" allow: the doubt of the {thing}s was enlarged. {thing.capitalize()}"
            f" {told.label(worst)} is the worst, to {{worst}}",
        )
    else:
        unchecked = f"; {alone} of them nothing checks" if alone else ""
        verdict, text = (
            Verdict.GOES,
            f"{len(held)} of {len(points)} {thing}s have a place, from"
            f" {len(answer.readings)} readings, {answer.freedom} more than needed{unchecked}."
            f" {thing.capitalize()} {told.label(worst)} is the least sure, to {{worst}}{more}",
        )
    yield notice(
        f"{told.key}.agree",
        told.question,
        told.title,
        verdict,
        both(text, told.places, worst=(found.longest(worst), None)),
        why=told.why,
    )
