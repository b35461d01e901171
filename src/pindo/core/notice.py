"""Findings that are no sum: a list that is not complete, a line of money that cannot be, a gate that is shut."""

from pindo.core.dimensions import Station
from pindo.core.verdict import Finding, Missing, Sentence, Verdict


def notice(
    id: str,
    station: Station,
    title: str,
    verdict: Verdict,
    text: str | Sentence,
    *,
    why: str = "",
    caution: str = "",
    condition: str = "",
    missing: tuple[Missing, ...] = (),
    inputs: tuple[str, ...] = (),
) -> Finding:
    """A finding in words alone; words with lengths in them come as a sentence in both systems."""
    sentence = Sentence(mm=text, inch=text) if isinstance(text, str) else text
    return Finding(id=id, station=station, title=title, verdict=verdict, condition=condition, sentence=sentence, why=why, caution=caution, missing=missing, inputs=inputs)
