"""The doubt of places, drawn: 95 % ellipses, magnified so that they can be seen."""

import math

import numpy as np

from pindo.core.drawing.shapes import Shape

GROWN = (1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)
SHOWN = 0.06
"""Share of the picture that the longest doubt may take."""
CHI_SQUARE = 5.991
"""95 % of two degrees of freedom."""


def grown_to(longest: float, size: float) -> float:
    """How many times the doubt is drawn, in a picture of a size, when the longest semi-axis is
    ``longest``. [mm]
    """
    return max((g for g in GROWN if g * longest <= SHOWN * size), default=1.0)


def ellipse(centre: tuple[float, float], covariance: np.ndarray, grown: float) -> Shape:
    """The 95 % ellipse of a place, drawn ``grown`` times. [mm]

    Parameters
    ----------
    centre : x, y
    covariance : shape (2, 2), [mm²]
    """
    values, vectors = np.linalg.eigh(covariance)
    axes = np.sqrt(np.maximum(values, 0.0) * CHI_SQUARE) * grown
    turn = np.linspace(0.0, 2 * math.pi, 33)[:-1]
    around = vectors @ (axes[:, None] * np.stack([np.cos(turn), np.sin(turn)]))
    points = tuple(
        (centre[0] + float(x), centre[1] + float(y)) for x, y in zip(*around, strict=True)
    )
    return Shape(part="doubt, 95 %", points=points, style="thin")
