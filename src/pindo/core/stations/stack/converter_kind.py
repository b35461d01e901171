"""Whether a converter is of the gearbox's kind: its lock-up, and how its hub drives the pump."""

from collections.abc import Iterator

from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import notice
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.stack.common import chosen, unsaid

KEY = "stack.converter"
KINDS = (
    (
        "converter_lockup",
        "gearbox_lockup",
        "Lock-up of the converter",
        "The converter is {own}, the gearbox works one {wanted}",
        "A clutch that nothing works drags and burns; one that is missing lets the oil boil.",
    ),
    (
        "converter_drive",
        "pump_drive",
        "Drive of the pump",
        "The converter's hub drives by {own}, the pump is driven by {wanted}",
        "A hub of another kind never drops home, or drops home and drives nothing.",
    ),
)
"""What makes a converter one of this gearbox: its choice, the gearbox's, name, words, why."""


def of_this_gearbox(inputs: Inputs) -> Iterator[Finding]:
    """Whether the converter is of the gearbox's kind: one that only fits is refused."""
    for own_key, wanted_key, title, words, why in KINDS:
        own, wanted = chosen(inputs, own_key), chosen(inputs, wanted_key)
        gone = unsaid(inputs, own_key, wanted_key)
        if gone:
            verdict, text = Verdict.UNMEASURED, f"{title} is not compared with the gearbox's yet"
        else:
            verdict = Verdict.GOES if own == wanted else Verdict.FOULS
            text = words.format(own=own, wanted=wanted)
        yield notice(
            f"stack.{own_key}",
            KEY,
            title,
            verdict,
            text if verdict != Verdict.FOULS else f"{text}: refused",
            why=why,
            missing=gone,
            inputs=(own_key, wanted_key),
        )
