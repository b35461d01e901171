"""Letters in a picture: those of the question that it belongs to."""

from collections.abc import Collection, Mapping

from pindo.core.drawing.shapes import Callout, Point
from pindo.core.inputs.dimensions import LEDGERS

Stretch = tuple[float, float, float, float]
"""x, y of both ends of a size in a picture. [mm]"""


def lettered(
    question: str,
    anchors: Mapping[str, Point],
    sizes: Mapping[str, Stretch] | None = None,
    from_axis: Collection[str] = (),
) -> tuple[Callout, ...]:
    """The callouts of one question.

    Parameters
    ----------
    question
        Its key; anchors of sizes that its ledger does not hold are left out.
    anchors : mapping of dimension key to x, y [mm]
        The point that each size speaks of.
    sizes : mapping of dimension key to x, y of both ends [mm], optional
        The two ends between which each is measured, where the picture shows both.
    from_axis : collection of dimension keys, optional
        Diameters of which the picture shows the half above the axis.
    """
    letters = LEDGERS.get(question, {})
    return tuple(
        Callout(
            letter=letters[key],
            address=key,
            x=x,
            y=y,
            stretch=None if sizes is None else sizes.get(key),
            from_axis=key in from_axis,
        )
        for key, (x, y) in anchors.items()
        if key in letters
    )
