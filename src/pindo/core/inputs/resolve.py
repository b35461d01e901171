"""From a build to its inputs: every dimension, hole and cell resolved to what stands.

Piece by piece: what a change leaves as it was is not read again.
"""

from collections.abc import Hashable, Mapping
from dataclasses import replace
from typing import Any

from pindo.core.document.build import Build
from pindo.core.document.lists import LISTS
from pindo.core.inputs.cells import resolve_rows
from pindo.core.inputs.dimensions import DIMENSIONS, options_of
from pindo.core.inputs.faces import resolve_face
from pindo.core.inputs.inputs import Inputs, Memory
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.inputs.ranges import TOGETHER
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.statements import resolve_dimension

Pieces = dict[Hashable, tuple[Any, Mapping[str, Resolved]]]
"""Each piece of a document with what it was resolved to."""


def _pieces(build: Build, before: Pieces) -> Pieces:
    """Every piece of a build; those that are the same object as before are taken over."""
    found: Pieces = {}

    def take(name: Hashable, of: Any, read: Any) -> None:
        kept = before.get(name)
        found[name] = kept if kept is not None and kept[0] is of else (of, read())

    for key in DIMENSIONS:
        said = build.dims.get(key)
        take(key, said, lambda key=key, said=said: {key: resolve_dimension(key, said)})
    for side, face in (("engine", build.engine_face), ("gearbox", build.gearbox_face)):
        take((side, ""), face, lambda side=side, face=face: resolve_face(side, face))
    for name in LISTS:
        for row in getattr(build, name):
            take(
                (name, row.n),
                row,
                lambda name=name, row=row: {q.address: q for q in resolve_rows(name, [row])},
            )
    return found


def _together(build: Build, quantities: dict[str, Resolved]) -> None:
    """Marks the sizes of each set that can hardly hold together, until somebody says that they
    do.
    """
    for rule in TOGETHER:
        values = [quantities[a].value for a in rule.reads]
        known = [v for v in values if v is not None]
        if len(known) == len(values) and rule.key not in build.sure and not rule.holds(*known):
            for a in rule.reads:
                quantities[a] = replace(
                    quantities[a],
                    value=None,
                    asked=quantities[a].value,
                    status=Status.QUESTION,
                    detail=rule.asks,
                )


class Standing(Inputs):
    """Inputs of a build as it stands, with the pieces that they were resolved from."""

    pieces: Pieces


def resolve(build: Build, memory: Memory | None = None, before: Inputs | None = None) -> Inputs:
    """All inputs of a build. A bad or missing one never stops the others.

    Parameters
    ----------
    build : Build
        The document.
    memory : Memory, optional
        What was worked out before for this build.
    before : Inputs, optional
        Inputs of the build as it was: what a change left as it was is taken over.
    """
    pieces = _pieces(build, before.pieces if isinstance(before, Standing) else {})
    quantities: dict[str, Resolved] = {}
    for _, resolved in pieces.values():
        quantities |= resolved
    _together(build, quantities)
    overrides = build.rules
    rules = {
        id: overrides[id].value if id in overrides else rule.value for id, rule in RULES.items()
    }
    near = before if before is not None and before.memory is memory else None
    options = options_of(build.options)
    found = Standing(build, quantities, rules, options, memory, before=near)
    found.pieces = pieces
    return found
