"""What several tests share: builds with a few values, the demo with changes, findings by id."""

from collections.abc import Mapping, Sequence
from typing import Any

import jsonpatch

from pindo.core.assessment import Assessment, assess, assess_inputs
from pindo.core.boards import boards, overview
from pindo.core.document.build import Build
from pindo.core.document.typed import Model
from pindo.core.drawing.board import Board
from pindo.core.entries import operations
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.gates import OpenItem
from pindo.core.judging.question import Seen
from pindo.core.judging.verdict import Finding
from pindo.core.stations.assemble.steps import StepState, step_states
from pindo.demo import pump_tender

Boards = Mapping[str, Board]
AT = "2026-11-26T12:00:00Z"


def statement(
    typed: str | tuple[str, ...],
    source: str = "measured",
    tool: str | None = None,
    id: str = "s1",
    **more: Any,
) -> dict[str, Any]:
    takes = (typed,) if isinstance(typed, str) else typed
    return {
        "id": id,
        "source": source,
        "tool": tool,
        "takes": [{"typed": t} for t in takes],
        **more,
    }


def said(**values: str) -> dict[str, Any]:
    """Dimensions that are known for certain: a drawing with no doubt."""
    return {
        key: {"statements": [statement(typed, "drawing", pm="0")]} for key, typed in values.items()
    }


def build(dims: dict[str, Any] | None = None, **more: Any) -> Build:
    known = {"name": "bench piece", "layout": "lengthwise", "dims": dims or {}}
    return Build.model_validate(known | more)


def demo(changes: dict[str, str] | None = None, **more: Any) -> Build:
    """The pump tender with some dimensions set for certain."""
    document = pump_tender().model_dump(mode="json")
    document["dims"] |= said(**(changes or {}))
    return Build.model_validate(document | more)


def entered(of: Build, *acts: Model) -> Build:
    """The build after some acts, one after the other."""
    for act in acts:
        of = Build.model_validate(
            jsonpatch.apply_patch(of.model_dump(mode="json"), operations(of, act, AT))
        )
    return of


def drawn(of: Build, today: str = "") -> Boards:
    """Every board of a build by question, the profile under an empty key."""
    inputs = resolve(of)
    answer = assess_inputs(inputs, (), today)
    return {"": overview(inputs, answer), **boards(inputs, answer, today)}


def open_items(of: Build) -> Sequence[OpenItem]:
    """What is open until a gate."""
    return assess(of, ()).opens


def states(of: Build, findings: Sequence[Finding] = (), today: str = "") -> list[StepState]:
    """How the steps stand."""
    return step_states(resolve(of), Seen(findings=findings, opens=open_items(of), today=today))


def finding(of: Build | Assessment, id: str) -> Finding:
    """The finding of that id; fails with the ids that there are."""
    answer = assess(of) if isinstance(of, Build) else of
    for found in answer.findings:
        if found.id == id:
            return found
    raise AssertionError(f"no finding {id} among {[f.id for f in answer.findings]}")


def hole(n: int, u: str, v: str, d: str = "10", **more: Any) -> dict[str, Any]:
    return {"n": n, "u": u, "v": v, "d": d, "backing": "metal", **more}


def face(*holes: dict[str, Any], **more: Any) -> dict[str, Any]:
    """A face whose coordinates are certain."""
    return {
        "taken_from": "behind",
        "evidence": {"source": "drawing", "pm": "0"},
        "holes": list(holes),
        **more,
    }


RING = (
    (0, 200),
    (100, 173.2),
    (173.2, 100),
    (200, 0),
    (100, -173.2),
    (0, -200),
    (-100, -173.2),
    (-200, 0),
    (-173.2, 100),
    (-100, 173.2),
)


def ring_face(first: int = 1, **more: Any) -> dict[str, Any]:
    """Ten holes round the crank, enough for an outline."""
    return face(*(hole(first + i, f"{u}", f"{v}", **more) for i, (u, v) in enumerate(RING)))
