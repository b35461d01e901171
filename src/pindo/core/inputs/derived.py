"""Quantities worked out from others, each with its parts by source."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from pindo.core.inputs.dimensions import OPTIONS
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved, Status


def moved(q: Resolved, sources: Sequence[str]) -> Any:
    """A quantity moved by each source in turn: its value where none of them moves it.

    Shape (2 sources + 1,): row 0 the nominal, rows 2i+1 and 2i+2 one standard uncertainty of
    source i up and down. In the unit of the quantity.
    """
    if not q.spread:
        return q.value
    column = np.full(2 * len(sources) + 1, q.value or 0.0)
    for source, part in q.spread.items():
        at = 2 * sources.index(source) + 1
        column[at] += part
        column[at + 1] -= part
    return column


def said(inputs: Inputs, option: str) -> str:
    """A choice as it stands; empty for nothing, or for something that there is not."""
    text, choices = inputs.options.get(option, ""), OPTIONS[option].choices
    return text if not choices or text in choices else ""


def derived(
    inputs: Inputs,
    solve: Callable[[Mapping[str, Any]], Any],
    blank: Resolved,
    reads: tuple[str, ...],
    choices: tuple[str, ...] = (),
) -> Resolved:
    """A quantity worked out from others by a formula that takes arrays, with its parts by source.

    Parameters
    ----------
    solve
        The formula, of what is read by address; takes numbers or arrays of one shape.
    blank : Resolved
        Its address, name and kind.
    reads, choices
        What it reads, and the options that decide how; while one is missing it has no value.

    Returns
    -------
    Resolved
        Its parts are central differences over one standard uncertainty of each source, JCGM 100,
        5.1.3, note 2.
    """
    found = [inputs.quantities[a] for a in reads]
    sources = tuple(dict.fromkeys(s for q in found for s in q.wants or (q.address,)))
    more = tuple(dict.fromkeys((*choices, *(c for q in found for c in q.choices))))
    blank = replace(blank, wants=sources, choices=more, parts={})
    if any(q.value is None for q in found) or any(not said(inputs, c) for c in choices):
        return blank
    moving = tuple(dict.fromkeys(s for q in found for s in q.spread))
    read: dict[str, Any] = {q.address: moved(q, moving) for q in found}
    rows = np.broadcast_to(np.asarray(solve(read), float), 2 * len(moving) + 1)
    value = float(rows[0])
    parts = dict(zip(moving, ((rows[1::2] - rows[2::2]) / 2.0).tolist(), strict=True))
    pm = 2.0 * math.hypot(*parts.values())
    return replace(blank, status=Status.STANDING, value=value, pm=pm, parts=parts)
