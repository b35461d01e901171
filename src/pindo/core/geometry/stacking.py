"""Pieces that are laid on one another to a length: which of a stock to take."""

from collections.abc import Sequence

MOST_STACKED = 4
"""Pieces that are laid on one another at most."""


def stack_to(
    thick: Sequence[float], low: float, high: float, aim: float, most: int = MOST_STACKED
) -> tuple[int, ...] | None:
    """Which pieces of a stock add up to between ``low`` and ``high``: the fewest, of those the
    nearest to ``aim``. [mm]

    Parameters
    ----------
    thick : sequence of float
        Thickness of every piece of the stock, each as often as there is one.

    Returns
    -------
    tuple of int or None
        Indices; empty where nothing at all does; None where no choice of them does.
    """
    if low <= 1e-9 and high >= -1e-9:
        return ()
    sums: dict[int, tuple[tuple[int, ...], int]] = {0: ((), -1)}
    for _ in range(most):
        # One choice for each sum, to a hundredth of a millimetre, is enough.
        longer: dict[int, tuple[tuple[int, ...], int]] = {}
        for total, (chosen, last) in sums.items():
            for i in range(last + 1, len(thick)):
                new = total + round(thick[i] * 100)
                if new <= round(high * 100) and (new not in longer or longer[new][1] > i):
                    longer[new] = ((*chosen, i), i)
        fits = [t for t in longer if low - 1e-6 <= t / 100.0 <= high + 1e-6]
        if fits:
            return longer[min(fits, key=lambda t: abs(t / 100.0 - aim))][0]
        sums = longer
    return None
