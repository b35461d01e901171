"""Findings that are no sum: a list that is not complete, a line of money that cannot be, a gate that is shut."""

from pindo.core.dimensions import Station
from pindo.core.verdict import Finding, Missing, Sentence, Verdict


def notice(
    id: str,
    station: Station,
    title: str,
    verdict: Verdict,
    text: str,
    *,
    why: str = "",
    caution: str = "",
    condition: str = "",
    missing: tuple[Missing, ...] = (),
    inputs: tuple[str, ...] = (),
) -> Finding:
    """A finding in words alone."""
    return Finding(id=id, station=station, title=title, verdict=verdict, condition=condition, sentence=Sentence(mm=text, inch=text), why=why, caution=caution, missing=missing, inputs=inputs)
