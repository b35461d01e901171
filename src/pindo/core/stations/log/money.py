"""The ledger of money: a credit names one payment and cannot exceed it; unpriced is not nil."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from pindo.core.drawing.board import Board, Reading
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict

CREDITS = ("refund asked", "refund received")


@dataclass(frozen=True, kw_only=True)
class Totals:
    """What was paid, came back, is asked back, is still to pay, and what it will be; never
    without the unpriced count.
    """

    paid: float
    refunded: float
    refunds_asked: float
    due: float
    forecast: float
    """Paid and due, refunds that were received taken off."""
    if_refunded: float
    """The same once the refunds asked for have come."""
    wasted: float
    unpriced: int
    refused: tuple[int, ...]
    """Credit lines that do not count."""


def refused_credits(inputs: Inputs) -> dict[int, str]:
    """Credit lines that cannot be, with the reason."""
    lines = {m.n: m for m in inputs.build.money}
    left = {
        n: inputs.value(f"money.{n}.amount") or 0.0
        for n, m in lines.items()
        if m.state in ("paid", "wasted")
    }
    bad: dict[int, str] = {}
    for m in inputs.build.money:
        if m.state not in CREDITS:
            continue
        amount = inputs.value(f"money.{m.n}.amount")
        if m.credit_of is None:
            bad[m.n] = "names no payment"
        elif m.credit_of not in left:
            bad[m.n] = f"names line {m.credit_of}, which is no payment"
        elif amount is None:
            bad[m.n] = "has no amount"
        elif amount > left[m.credit_of] + 1e-9:
            bad[m.n] = (
                f"gives back {amount:.2f}, but line {m.credit_of} has {left[m.credit_of]:.2f} left"
                " to give back"
            )
        else:
            left[m.credit_of] -= amount
    return bad


def totals(inputs: Inputs) -> Totals:
    """The sums; refused credits and unpriced lines are left out and counted."""
    bad = refused_credits(inputs)

    def total(*states: str) -> float:
        return sum(
            (
                inputs.value(f"money.{m.n}.amount") or 0.0
                for m in inputs.build.money
                if m.state in states and m.n not in bad
            ),
            0.0,
        )

    paid, due = total("paid", "wasted"), total("planned", "quoted", "ordered")
    received, asked = total("refund received"), total("refund asked")
    unpriced = sum(
        m.state == "unpriced"
        or (m.state not in CREDITS and inputs.value(f"money.{m.n}.amount") is None)
        for m in inputs.build.money
    )
    return Totals(
        paid=paid,
        refunded=received,
        refunds_asked=asked,
        due=due,
        forecast=paid + due - received,
        if_refunded=paid + due - received - asked,
        wasted=total("wasted"),
        unpriced=unpriced,
        refused=tuple(bad),
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Credits that are refused, and what is not priced."""
    names = {m.n: m.name for m in inputs.build.money}
    for n, reason in refused_credits(inputs).items():
        yield notice(
            f"log.credit.{n}",
            "log.money",
            f"Credit, line {n}",
            Verdict.FOULS,
            f"Credit on line {n}, {names[n]}, does not count: it {reason}",
            why="One refund set against two purchases makes the job look cheaper than it was.",
        )
    if count := totals(inputs).unpriced:
        yield notice(
            "log.unpriced",
            "log.money",
            "Unpriced lines",
            Verdict.UNMEASURED,
            f"{count} line{'s are' if count > 1 else ' is'} unpriced: every total is short by what"
            f" {'they cost' if count > 1 else 'it costs'}",
            why="Unpriced is not nil.",
        )


def minutes_worked(inputs: Inputs) -> float:
    """All hours as they were typed, added once for the screen and every sheet. [min]"""
    return math.fsum(inputs.value(f"hours.{h.n}.minutes") or 0.0 for h in inputs.build.hours)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The sums; never without the count of what is unpriced."""
    t = totals(inputs)
    sums = (
        ("paid", t.paid),
        ("still to pay", t.due),
        ("refunds received", t.refunded),
        ("refunds asked for", t.refunds_asked),
        ("forecast", t.forecast),
        ("once they are refunded", t.if_refunded),
    )
    money = tuple(Reading(name=name, value=value, kind="money", places=2) for name, value in sums)
    unpriced = Reading(name="unpriced lines", value=float(t.unpriced), kind="count")
    return Board(readings=(*money, unpriced))


QUESTION = Question(
    path="money",
    station=Station.LOG,
    name="Money",
    asks="What was paid, what is still to pay, what is not priced?",
    lists=("money",),
    notices=notices,
    board=board,
)
HOURS = Question(
    path="hours",
    station=Station.LOG,
    name="Hours",
    asks="How long did it take?",
    lists=("hours",),
    board=lambda inputs, seen: Board(
        readings=(Reading(name="worked in all", value=minutes_worked(inputs), kind="time"),)
    ),
)
