"""What formulas take: one number, or an array of one shape with a place for every source that moves
it.
"""

import numpy as np
from numpy.typing import NDArray

Numbers = float | NDArray[np.float64]
