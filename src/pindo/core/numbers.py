"""What formulas take: one number, or an array of one shape with a place for every source that moves
it.
"""

import numpy as np
from numpy.typing import NDArray

Numbers = float | NDArray[np.float64]


def over(a: Numbers, b: Numbers) -> Numbers:
    """a / b; not finite where b is nought, which is told as a finding and never raised."""
    with np.errstate(all="ignore"):
        found: Numbers = np.divide(a, b)
    return found
