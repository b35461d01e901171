"""Findings that are no sum: a list that is not complete, a line of money that cannot be, a gate
that is shut.
"""

from pindo.core.document.words import filled
from pindo.core.inputs.units import write
from pindo.core.judging.question import QUESTIONS
from pindo.core.judging.verdict import Finding, Missing, Sentence, Verdict


def notice(
    id: str,
    question: str,
    title: str,
    verdict: Verdict,
    text: str | Sentence,
    *,
    why: str = "",
    caution: str = "",
    condition: str = "",
    missing: tuple[Missing, ...] = (),
    inputs: tuple[str, ...] = (),
    row: str = "",
) -> Finding:
    """A finding in words alone; words with lengths in them come as a sentence in both systems."""
    sentence = Sentence(mm=text, inch=text) if isinstance(text, str) else text
    return Finding(
        id=id,
        station=QUESTIONS[question].station,
        question=question,
        title=title,
        verdict=verdict,
        condition=condition,
        sentence=sentence,
        why=why,
        caution=caution,
        missing=missing,
        inputs=inputs,
        row=row,
    )


def in_kinds(template: str, **figures: tuple[float, str]) -> Sentence:
    """A sentence with figures of any kind, each a value in its base unit and its kind, told in both
    systems.
    """

    def told(system: str) -> str:
        fields = {k: write(v, kind, system) for k, (v, kind) in figures.items()}
        return filled(template, fields.get)

    return Sentence(mm=told("mm"), inch=told("in"))


def in_both(template: str, at: str, places: int = 1, **lengths: float | None) -> Sentence:
    """A sentence about a place with its lengths in both systems, to so many decimals. [mm]"""

    def told(system: str) -> str:
        fields = {"at": at} | {
            k: "" if v is None else write(v, "length", system, places) for k, v in lengths.items()
        }
        return filled(template, fields.get)

    return Sentence(mm=told("mm"), inch=told("in"))
