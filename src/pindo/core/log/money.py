"""The ledger of money: a credit names one payment and cannot exceed it; unpriced is not nil."""

from collections.abc import Iterator
from dataclasses import dataclass

from pindo.core.notice import notice
from pindo.core.resolve import Inputs
from pindo.core.verdict import Finding, Verdict

CREDITS = ("refund asked", "refund received")


@dataclass(frozen=True, kw_only=True)
class Totals:
    """What was paid, came back, is asked back, is still to pay, and what it will be; never without the unpriced count."""

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
    left = {n: inputs.value(f"money.{n}.amount") or 0.0 for n, m in lines.items() if m.state in ("paid", "wasted")}
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
            bad[m.n] = f"gives back {amount:.2f}, but line {m.credit_of} has {left[m.credit_of]:.2f} left to give back"
        else:
            left[m.credit_of] -= amount
    return bad


def totals(inputs: Inputs) -> Totals:
    """The sums; refused credits and unpriced lines are left out and counted."""
    bad = refused_credits(inputs)

    def total(*states: str) -> float:
        return sum((inputs.value(f"money.{m.n}.amount") or 0.0 for m in inputs.build.money if m.state in states and m.n not in bad), 0.0)

    paid, due = total("paid", "wasted"), total("planned", "quoted", "ordered")
    received, asked = total("refund received"), total("refund asked")
    unpriced = sum(m.state == "unpriced" or (m.state not in CREDITS and inputs.value(f"money.{m.n}.amount") is None) for m in inputs.build.money)
    return Totals(
        paid=paid, refunded=received, refunds_asked=asked, due=due, forecast=paid + due - received, if_refunded=paid + due - received - asked, wasted=total("wasted"), unpriced=unpriced, refused=tuple(bad)
    )  # fmt: skip


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
            f"{count} line{'s are' if count > 1 else ' is'} unpriced: every total is short by what {'they cost' if count > 1 else 'it costs'}",
            why="Unpriced is not nil.",
        )
