"""What is said of a row's figure a second time: put beside it, and settled by somebody."""

from pindo.core.acts import Beside, CannotEnter, MovedOn, Patch, Settle
from pindo.core.document.build import Build
from pindo.core.document.evidence import TAKEN_WITH_A_TOOL, State, as_said, tool_for
from pindo.core.document.faces import Hole, Land
from pindo.core.document.lists import COLUMNS, NOT_FIGURES, kind_of_words
from pindo.core.document.patch import put
from pindo.core.document.rows import MeasuredRow, Part
from pindo.core.document.typed import Evidence, Other
from pindo.core.inputs.quantity import parse
from pindo.core.places import face_of, kind_of, row_at

NO_TEXT = frozenset({"whole", "yes", "numbers", "words"})
"""Kinds of column that hold no text as it was typed."""


def beside(build: Build, act: Beside, at: str) -> Patch:
    """The operations that put a statement beside what a row says.

    Raises
    ------
    CannotEnter, MovedOn, EntryError
        The row has no such column; it is not there any more; the text is no figure of its kind.
    """
    path, row = row_at(build, act.list, act.row, act.of)
    if isinstance(row, Land):
        raise CannotEnter("A land without a hole has one statement only. Nothing was changed.")
    kind = kind_of_words(act.list, act.field) or kind_of(act.list, row, act.field)
    tool = None
    if kind not in NOT_FIGURES:
        parse(
            act.typed,
            kind,
            None if act.list in COLUMNS else face_of(build, act.list, act.of)[0].unit,
        )
        tool = tool_for(act.tool, "length" if kind == "thread" else kind)
    taken = act.source in TAKEN_WITH_A_TOOL
    evidence = Evidence(
        source=as_said(act.source, kind == "torque"),
        tool=tool if taken else None,
        who=act.who,
        state=build.state if taken else State(),
    )
    other = Other(field=act.field, typed=act.typed.strip(), evidence=evidence)
    return [put(f"{path}/others/-", other.model_dump(mode="json"))]


def settled(build: Build, act: Settle, at: str) -> Patch:
    """The operations after which one of two statements holds; the other stays with the reason.

    Raises
    ------
    CannotEnter, MovedOn
        The column takes no text as it was typed; the statement is not there any more.
    """
    path, row = row_at(build, act.list, act.row, act.of)
    others = [] if isinstance(row, Land) else row.others
    if act.other >= len(others) or others[act.other].settled:
        raise MovedOn("That statement is not there any more. Nothing was stored.")
    other = others[act.other]
    if not act.holds:
        return [put(f"{path}/others/{act.other}/settled", act.why)]
    own = getattr(row, other.field)
    worded = kind_of_words(act.list, other.field)
    if worded in NO_TEXT:
        raise CannotEnter("Type it into its cell, then settle the other. Nothing was changed.")
    patch = [put(f"{path}/{other.field}", other.typed)]
    if isinstance(row, Part) and row.lapsed:
        patch.append(put(f"{path}/lapsed", None))
    before = Evidence()
    if not worded and isinstance(row, MeasuredRow | Hole):
        before = (
            row.said.get(other.field)
            or row.evidence
            or face_of(build, act.list, act.of)[0].evidence
        )
        said = other.evidence.model_dump(mode="json")
        patch.append(put(f"{path}/said/{other.field}", said))
    if own in (None, ""):
        return [*patch, {"op": "remove", "path": f"{path}/others/{act.other}"}]
    kept = Other(field=other.field, typed=str(own), evidence=before, settled=act.why)
    at_other = f"{path}/others/{act.other}"
    return [*patch, {"op": "replace", "path": at_other, "value": kept.model_dump(mode="json")}]
