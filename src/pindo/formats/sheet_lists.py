"""What was typed into the lists of a build, as a sheet prints it: as typed, and with boxes to fill
in for what is wanting.
"""

import io
from collections.abc import Mapping, Sequence
from typing import Any

from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader

from pindo.core.document.build import Build
from pindo.core.document.faces import Face, Hole, Land
from pindo.core.document.list_model import ColumnOf, PartList
from pindo.core.document.lists import COLUMNS, LISTS, PARTS
from pindo.core.document.records import LogEntry
from pindo.core.document.rows import MeasuredRow, Part, Row
from pindo.core.document.typed import Evidence
from pindo.core.inputs.units import KINDS, number_and_unit, write
from pindo.core.judging.verdict import Finding
from pindo.formats.paper import SOFT
from pindo.formats.pdf_page import EDGE, LINE, Sheet, table

MOST_ROWS = 60
MOST_GAPS = 12
MOST_PHOTOS = 12
ROOM_FOR_MORE = 2
"""Empty rows under a list that is measured, for a pencil."""
NUMBER_MM, NAME_MM, FIGURE_MM, WORDS_MM = 9.0, 34.0, 19.0, 28.0

Row_ = Sequence[str | None]


def evidence_words(evidence: Evidence) -> str:
    """Where figures come from, in a few words; struck where they lapsed."""
    said = [evidence.source.value]
    if evidence.tool:
        said.append(evidence.tool.value)
    if evidence.pm:
        said.append(f"± {evidence.pm}")
    if evidence.lapsed:
        said.append(f"lapsed: {evidence.lapsed.event}")
    return ", ".join(said)


def _said(value: Any) -> str:
    if value is None or value is False:
        return ""
    if value is True:
        return "yes"
    if isinstance(value, list):
        return ", ".join(map(str, value))
    return str(value)


def _cell(row: Row | Part, column: ColumnOf) -> str | None:
    """A cell as typed; None, a box, where a figure is wanted and missing."""
    text = _said(getattr(row, column.field))
    return None if column.needed and text == "" else text


def _head(column: ColumnOf) -> str:
    unit = KINDS[column.kind].unit if column.kind in KINDS else ""
    return f"{column.label}, {unit}" if unit else column.label


def _shown(rows: Sequence[Row | Part], columns: Sequence[ColumnOf]) -> list[ColumnOf]:
    """Columns that anything stands in or is wanted in."""
    return [c for c in columns if c.needed or any(_said(getattr(r, c.field)) for r in rows)]


def _in_widths(columns: Sequence[ColumnOf], room: float) -> list[list[tuple[ColumnOf, float]]]:
    """Columns in groups that fit the page beside number and name; words share what is left."""
    groups: list[list[tuple[ColumnOf, float]]] = []
    left = 0.0
    for c in columns:
        wide = WORDS_MM if _in_words(c) else FIGURE_MM
        if wide > left:
            groups.append([])
            left = room - NUMBER_MM - NAME_MM
        groups[-1].append((c, wide))
        left -= wide
    for i, group in enumerate(groups):
        words = sum(c.kind == "text" for c, _ in group)
        over = room - NUMBER_MM - NAME_MM - sum(w for _, w in group)
        groups[i] = [(c, w + (over / words if c.kind == "text" else 0.0)) for c, w in group]
    return groups


def _in_words(column: ColumnOf) -> bool:
    return column.kind not in KINDS and column.kind not in ("yes", "whole")


def list_table(s: Sheet, build: Build, key: str, for_more: bool = True) -> None:
    """The rows of a list: number, name, figures as typed; a list that is measured has room for
    more.
    """
    of = LISTS[key]
    measured = issubclass(of.model, MeasuredRow) and not of.record
    every: list[Row] = getattr(build, key)
    rows = every[-MOST_ROWS:]
    blanks = ROOM_FOR_MORE if measured and for_more else 0
    if not rows and not blanks:
        return
    s.heading(f"{of.title}, as typed")
    if of.origin:
        s.y -= s.text(EDGE, f"Places: {of.origin}.", size=8, ink=SOFT) * LINE * 0.85
    columns = [c for c in _shown(rows, COLUMNS[key]) if c.field != "name"]
    columns.sort(key=lambda c: c.field == "note")
    for group in _in_widths(columns, s.width - 2 * EDGE) or [[]]:
        heads = [("no.", NUMBER_MM), ("name", NAME_MM), *((_head(c), w) for c, w in group)]
        made: list[Row_] = [[str(r.n), r.name, *(_cell(r, c) for c, _ in group)] for r in rows]
        made += [["", None, *(None for _ in group)]] * blanks
        table(s, heads, made)
    if measured:
        for row in rows:
            if isinstance(row, MeasuredRow):
                own = "; ".join(f"{f}: {evidence_words(e)}" for f, e in row.said.items())
                words = f"{row.n} {row.name}: {evidence_words(row.evidence)}"
                s.room(6)
                s.y -= s.text(EDGE, f"{words}{'; ' + own if own else ''}", size=7.5, ink=SOFT) * 4
    if len(every) > len(rows):
        words = f"the last {len(rows)}; {len(every) - len(rows)} before them on the screen"
        s.y -= s.text(EDGE, words, size=8, ink=SOFT) * LINE
    for parts in PARTS[key]:
        for row in rows:
            _parts_table(s, row, parts)


def _parts_table(s: Sheet, row: Row, parts: PartList) -> None:
    """The parts of a row: what was predicted, what was read, a box where nothing was."""
    found: list[Part] = getattr(row, parts.field)
    if not found:
        return
    s.heading(f"{row.name or row.n}: {parts.title.lower()}")
    columns = [c for c in COLUMNS[parts.key] if c.kind not in ("choice", "numbers")]
    predicted = any(getattr(p, "predicted", None) is not None for p in found)
    shares = sum(3 if c.kind == "text" else 1 for c in columns) + predicted
    wide = (s.width - 2 * EDGE - NUMBER_MM) / max(1, shares)
    heads = [("no.", NUMBER_MM)]
    heads += [(_head(c), 3 * wide if c.kind == "text" else wide) for c in columns]
    if predicted:
        unit = number_and_unit(0.0, "length", s.system)[1]
        heads.append((f"predicted then, {unit}", wide))
    made: list[Row_] = []
    for p in found:
        cells: list[str | None] = [str(p.n)]
        for c in columns:
            text = _said(getattr(p, c.field))
            lapsed = f"{text} (lapsed)" if p.lapsed and text else text
            cells.append(lapsed if text or c.kind == "text" else None)
        if predicted:
            cells.append(_predicted(p, s.system))
        made.append(cells)
    table(s, heads, made)


def _predicted(part: Part, system: str) -> str:
    value, pm = getattr(part, "predicted", None), getattr(part, "predicted_pm", None)
    if value is None:
        return ""
    beside = "" if pm is None else f" ± {number_and_unit(pm, 'length', system)[0]}"
    return f"{number_and_unit(value, 'length', system)[0]}{beside}"


def gaps_to_read(s: Sheet, findings: Sequence[Finding]) -> None:
    """The tightest gaps with a box for what a feeler says at the next fit."""
    if not findings:
        return
    s.heading("Gaps to read at the next fit")
    heads = (("gap", 92.0), ("predicted", 44.0), ("read", 24.0), ("by, when", 22.0))
    rows: list[Row_] = []
    for f in sorted(findings, key=lambda f: f.margin or 0.0)[:MOST_GAPS]:
        if f.value is None:
            continue
        beside = (
            "" if f.value_pm is None else f" ± {number_and_unit(f.value_pm, f.kind, s.system)[0]}"
        )
        rows.append([f.title, f"{write(f.value, f.kind, s.system)}{beside}", None, None])
    table(s, heads, rows)


BOLT = (
    ("u", "across"),
    ("v", "up"),
    ("d", "size"),
    ("land", "land"),
    ("plate_hole", "plate hole"),
    ("recess", "recess"),
    ("fastening", "fastened by"),
    ("backing", "behind it"),
)
DOWEL = (
    ("u", "across"),
    ("v", "up"),
    ("d", "size"),
    ("land", "land"),
    ("stand_out", "stands out"),
    ("mating_depth", "depth for it"),
)
LAND = (("u", "across"), ("v", "up"), ("d", "size"))
WANTED = frozenset({"u", "v", "d"})


def face_tables(s: Sheet, face: Face, side: str, for_more: bool = True) -> None:
    """The hole tables of a casting as they were typed, with boxes for what is wanting and room for
    holes that nobody wrote down yet.
    """
    seen = "from behind, looking forwards"
    if face.taken_from == "front":
        seen = "from the front, looking rearwards"
    s.heading(f"{side.capitalize()} face, as typed, {face.unit}")
    words = (
        f"Across, to the right, and up from the crank axis, taken {seen};"
        f" {evidence_words(face.evidence)}."
    )
    s.y -= s.text(EDGE, words, size=8, ink=SOFT) * LINE * 0.85
    bolts = [h for h in face.holes if h.role == "bolt"]
    dowels = [h for h in face.holes if h.role == "dowel"]
    letter = side[:1].upper()
    _hole_table(s, "hole", letter, bolts, BOLT, ROOM_FOR_MORE if for_more else 0)
    _hole_table(s, "dowel", letter, dowels, DOWEL, 1 if for_more else 0)
    if face.lands:
        _hole_table(s, "other land", "", face.lands, LAND, 0)


def _hole_table(
    s: Sheet,
    one: str,
    letter: str,
    holes: Sequence[Hole] | Sequence[Land],
    columns: Sequence[tuple[str, str]],
    for_more: int,
) -> None:
    if not holes and not for_more:
        return
    wide = (s.width - 2 * EDGE - 26.0) / len(columns)
    heads = [(one, 26.0), *((words, wide) for _, words in columns)]
    rows: list[Row_] = []
    for h in holes:
        cells = [_said(getattr(h, field)) for field, _ in columns]
        rows.append(
            [
                f"{letter}{h.n} {h.name}".strip(),
                *(
                    None if field in WANTED and text == "" else text
                    for (field, _), text in zip(columns, cells, strict=True)
                ),
            ]
        )
    rows += [["", *(None for _ in columns)]] * for_more
    table(s, heads, rows)


def photos_of(s: Sheet, entries: Sequence[LogEntry], pictures: Mapping[str, bytes]) -> None:
    """The last photos of the log, three beside one another, each with its entry."""
    named = [(e, p) for e in entries for p in e.photos if p in pictures][-MOST_PHOTOS:]
    if not named:
        return
    s.heading("Photos")
    wide, tall = (s.width - 2 * EDGE) / 3, 48.0
    for i in range(0, len(named), 3):
        s.room(tall + 10)
        lines = 1
        top = s.y
        for j, (entry, photo) in enumerate(named[i : i + 3]):
            x = EDGE + j * wide
            s.c.drawImage(
                ImageReader(io.BytesIO(pictures[photo])),
                x * mm,
                (top - tall) * mm,
                (wide - 4) * mm,
                tall * mm,
                preserveAspectRatio=True,
                anchor="nw",
            )
            s.y = top - tall - 4
            words = " · ".join(x for x in (f"entry {entry.n}", entry.at[:10], entry.name) if x)
            lines = max(lines, s.text(x, words, size=7.5, ink=SOFT, width=wide - 4))
        s.y = top - tall - 5 - lines * LINE * 0.85


def sign_line(s: Sheet, *labels: str, x: float = EDGE) -> None:
    """Lines to sign on, with what is signed under each."""
    s.room(14)
    s.y -= 7
    s.c.setLineWidth(0.2 * mm)
    s.c.setStrokeColor(SOFT)
    wide = (s.width - EDGE - x) / len(labels)
    for i in range(len(labels)):
        left = x + i * wide
        s.c.line(left * mm, s.y * mm, (left + wide - 6) * mm, s.y * mm)
    s.y -= 3.4
    for i, label in enumerate(labels):
        s.text(x + i * wide, label, size=7.5, ink=SOFT, width=wide - 6)
    s.y -= LINE
