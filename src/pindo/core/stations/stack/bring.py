"""What to bring to the bench: the tools and papers that the sizes still wanted take."""

from pindo.core.drawing.board import Column, Table, TableRow
from pindo.core.inputs.dimensions import DIMENSIONS, Station, holds
from pindo.core.inputs.inputs import Inputs

MOST_NAMED = 5


def bring_table(inputs: Inputs) -> Table:
    """Every tool with what it reads, the one with most to read first; papers last."""
    options = {k: inputs.options.get(k, "") for d in DIMENSIONS.values() for k, _ in d.when}
    by_tool: dict[str, list[str]] = {}
    for key, d in DIMENSIONS.items():
        if d.station == Station.STACK and holds(d.when, options) and inputs.value(key) is None:
            by_tool.setdefault(d.tool.value if d.tool else "", []).append(d.name.lower())
    ranked = sorted(by_tool.items(), key=lambda t: (not t[0], -len(t[1])))
    rows = tuple(
        TableRow(
            cells=(
                tool or "makers' papers",
                float(len(names)),
                "; ".join(names[:MOST_NAMED]) + (" …" if len(names) > MOST_NAMED else ""),
            )
        )
        for tool, names in ranked
    )
    columns = (
        Column(key="tool", label="tool"),
        Column(key="count", label="sizes", kind="count", places=0),
        Column(key="what", label="for"),
    )
    return Table(key="bring", title="Bring to the bench", columns=columns, rows=rows)
