"""The ledger and the lists of a build as CSV: everything as it was typed, so that it can be taken
in again.
"""

from typing import Any

from pindo.core.columns import columns_of, has_evidence
from pindo.core.document.build import Build
from pindo.core.document.lists import NOT_FIGURES
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.units import KINDS
from pindo.core.places import FITTED_FACES, face_of, list_at
from pindo.formats.tables import csv_of

LEDGER_HEADS = "key size station reading unit ± source tool state by when note stands".split()  # noqa: SIM905


def ledger_csv(build: Build) -> bytes:
    """Every statement of every size, a line for each reading: as it was typed, in the unit that its
    field showed.
    """
    rows = []
    for key, dimension in build.dims.items():
        known = DIMENSIONS.get(key)
        for s in dimension.statements:
            state = ", ".join(str(v) for v in s.state.model_dump().values() if v)
            stands = (
                f"lapsed: {s.lapsed.event}"
                if s.lapsed
                else "chosen"
                if dimension.chosen == s.id
                else ""
            )
            rows += [
                [
                    key,
                    known.name if known else "",
                    known.station.value if known else "",
                    take.typed,
                    take.unit or (KINDS[known.kind].unit if known else ""),
                    s.pm or "",
                    s.source.value,
                    s.tool.value if s.tool else "",
                    state,
                    s.who,
                    take.at or "",
                    s.note,
                    stands,
                ]
                for take in s.takes
            ]
    return csv_of(LEDGER_HEADS, rows)


def _text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list):
        return "; ".join(str(v) for v in value)
    return str(value)


def list_csv(build: Build, name: str) -> bytes:
    """A list as it was typed, a line a row: its number, its columns, where its figures come from.

    Raises
    ------
    CannotEnter
        There is no such list.
    """
    columns = columns_of(name)
    _, rows = list_at(build, name, None)
    unit = face_of(build, name)[0].unit if name in FITTED_FACES else "mm"

    def head(label: str, kind: str) -> str:
        shown = unit if kind == "length" else ("" if kind in NOT_FIGURES else KINDS[kind].unit)
        return f"{label}, {shown}" if shown else label

    evident = has_evidence(name)
    found = []
    for row in rows:
        said = [str(row.n), *(_text(getattr(row, c.field)) for c in columns)]
        evidence = getattr(row, "evidence", None) or (
            face_of(build, name)[0].evidence if name in FITTED_FACES else None
        )
        found.append([*said, evidence.source.value if evidence else ""] if evident else said)
    heads = ["no.", *(head(c.label, c.kind) for c in columns)]
    return csv_of([*heads, "figures from"] if evident else heads, found)
