"""Parts: what is there, where it is from, what is claimed of it, what lies on the shelf."""

from collections.abc import Iterator

from pindo.core.document.parts import PartCard
from pindo.core.inputs.beside import soonest
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.versions import ruled_out
from pindo.core.judging.gates import HAND_OVER, START, OpenItem
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.survey.kits import SOON, days_left

KEY = "survey.parts"
ORIGIN_COUNTS = frozenset(
    {
        "flywheel",
        "clutch cover",
        "clutch",
        "converter",
        "crank",
        "shaft",
        "half shaft",
        "axle",
        "screws",
    }
)
"""Kinds whose origin is asked: what rotates, holds or carries, and cannot be proved by a look."""


def _called(card: PartCard) -> str:
    return card.name or card.kind or f"part {card.n}"


def applying(inputs: Inputs) -> Iterator[PartCard]:
    """Cards of the parts that apply under the versions of the build and are still about."""
    out = ruled_out(inputs.build, "part")
    for card in inputs.build.parts:
        if card.state != "gone" and str(card.n) not in out:
            yield card


def opens(inputs: Inputs) -> Iterator[OpenItem]:
    """Parts that are not the final ones."""
    for p in applying(inputs):
        if p.state in ("dummy", "mock-up", "temporary"):
            gate = HAND_OVER if p.state == "temporary" else START
            yield OpenItem(
                kind="part",
                text=f"{p.name or f'part {p.n}'}: {p.state}",
                gate=gate,
                row=f"parts.{p.n}",
            )


def _claims(card: PartCard) -> Iterator[Finding]:
    for claim in card.claims:
        if not claim.what or claim.checked == "holds":
            continue
        who = claim.who or "somebody"
        hand = {"did it himself": ", who did it himself", "heard of it": ", who heard of it"}.get(
            claim.himself, ""
        )
        set_up = f" ({claim.set_up})" if claim.set_up else ", in a set-up that is not said"
        untrue = claim.checked == "does not hold"
        seen = f": {claim.seen}" if claim.seen else ""
        yield notice(
            f"survey.claim.{card.n}.{claim.n}",
            KEY,
            f"{_called(card)}, {'a claim that does not hold' if untrue else 'a claim'}",
            Verdict.FOULS if untrue else Verdict.UNMEASURED,
            f"{_called(card)}: {who}{hand} says “{claim.what}”{set_up};"
            f" {f'the own check says otherwise{seen}' if untrue else 'nobody has checked it here'}",
            why=(
                "What else he said of it stands on the same foot."
                if untrue
                else "A claim closes nothing: look, measure, or find the paper."
            ),
            row=f"parts.{card.n}",
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Claims that nobody checked or that do not hold; parts that carry or rotate and are from
    nowhere.
    """
    for card in applying(inputs):
        yield from _claims(card)
        used = card.fitted or card.state in ("final", "temporary")
        if card.kind in ORIGIN_COUNTS and used and not (card.source or card.donor):
            yield notice(
                f"survey.origin.{card.n}",
                KEY,
                f"{_called(card)}, from nowhere",
                Verdict.UNMEASURED,
                f"Nobody has said where {_called(card)} is from: neither a seller nor a donor",
                why="It carries or rotates: without an origin it has neither a rating nor a life.",
                row=f"parts.{card.n}",
            )


def _for_now(inputs: Inputs, card: PartCard, today: str) -> Iterator[Finding]:
    """A part that is there for now: until when, and whether that is over."""
    if card.state != "temporary":
        return
    until = soonest(card, "until")
    left = days_left(until, today)
    if not until:
        told, verdict = "for now, and nobody has said until when", Verdict.UNMEASURED
    elif left is not None and left < 0:
        told, verdict = f"for now until {until}: that was {-left} days ago", Verdict.FOULS
    elif left is not None and left <= inputs.rules[SOON]:
        told, verdict = f"for now until {until}, {left} days from now", Verdict.TIGHT
    else:
        return
    yield notice(
        f"survey.until.{card.n}",
        KEY,
        f"{_called(card)}, for now",
        verdict,
        f"{_called(card)} is there {told}",
        why="What is there for now is driven for years.",
        row=f"parts.{card.n}",
    )


def concludes(inputs: Inputs, seen: Seen) -> Iterator[Finding]:
    """Dates of parts: what is due, and what is over."""
    for card in applying(inputs):
        yield from _for_now(inputs, card, seen.today)
        for due in card.due:
            on = soonest(due, "on")
            left = days_left(on, seen.today)
            if due.done or not due.what:
                continue
            if left is None:
                if not on:
                    told, verdict = "on a day that is not said", Verdict.UNMEASURED
                else:
                    continue
            elif left < 0:
                told, verdict = f"on {on}: that was {-left} days ago", Verdict.FOULS
            elif left <= inputs.rules[SOON]:
                told, verdict = f"on {on}, {left} days from now", Verdict.TIGHT
            else:
                continue
            yield notice(
                f"survey.due.{card.n}.{due.n}",
                KEY,
                f"{_called(card)}, due",
                verdict,
                f"{_called(card)}: {due.what} is due {told}",
                row=f"parts.{card.n}",
            )


QUESTION = Question(
    path="parts",
    station=Station.SURVEY,
    name="Parts",
    asks="What is there, what is a dummy, what is on its way, what lies on the shelf?",
    lists=("parts",),
    notices=notices,
    opens=opens,
    concludes=concludes,
)
