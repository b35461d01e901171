"""One part for another: the sizes of the part that is fitted are the build's; every other part of
its kind lies on the shelf with its own.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from pindo.core.acts import CannotEnter, FitPart, Patch
from pindo.core.document.build import Build
from pindo.core.document.parts import Belongings, PartCard
from pindo.core.document.patch import put
from pindo.core.document.sizes import Dimension
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.lapse import event_patch, evidences
from pindo.core.places import row_at

CHANGED = "part or supplier changed"
MOVES: Mapping[str, str] = {"engine": "unit moved", "gearbox": "unit moved"}
"""Kinds of part whose change is another event too: no gap was read against this casting."""
CASTINGS: Mapping[str, str] = {"engine": "engine_face", "gearbox": "gearbox_face"}


OWN_OPTIONS: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "engine": ("strokes", "engine_balance"),
        "gearbox": ("final_drive_in", "shaft_spline_standard", "gearbox_lockup", "pump_drive"),
        "flywheel": ("flywheel_balance", "flywheel_certificate", "flywheel_through"),
        "flexplate": ("flywheel_balance", "flywheel_certificate"),
        "disc": ("disc_spline_standard",),
        "converter": ("converter_joint", "converter_lockup", "converter_drive"),
    }
)
"""Choices that are a part's own: another one says them anew."""
MOVED = ("solids", "mounts", "pulleys")
"""Lists whose rows go with the casting that they are fixed to."""


def sizes_of(kind: str) -> tuple[str, ...]:
    """Keys of the sizes that a kind of part has, in the order of the catalogue."""
    return tuple(k for k, d in DIMENSIONS.items() if kind == d.part or kind in d.also)


def _card(build: Build, n: int) -> tuple[str, PartCard]:
    """Path and card of a part. Raises MovedOn."""
    path, row = row_at(build, "parts", n)
    assert isinstance(row, PartCard)
    return path, row


def sizes_at(build: Build, part: int | None, key: str) -> tuple[str, Mapping[str, Dimension]]:
    """Where a size of a part is kept, and the sizes there: on the part's card while it lies on the
    shelf, else in the build.

    Raises
    ------
    CannotEnter, MovedOn
        The part is of another kind; it is not there any more.
    """
    if part is None:
        return "/dims", build.dims
    path, card = _card(build, part)
    if key not in sizes_of(card.kind):
        raise CannotEnter(
            f"{DIMENSIONS[key].name} is no size of {card.kind or 'a part whose kind is not said'}."
            " Nothing was changed."
        )
    return ("/dims", build.dims) if card.fitted else (f"{path}/sizes", card.sizes)


def _returned(key: str, dimension: Dimension, at: str) -> dict[str, Any]:
    """A size as it comes from the shelf: what was read of the unit as it stood then has lapsed."""
    said = dimension.model_dump(mode="json")
    if DIMENSIONS[key].reading:
        for statement in said["statements"]:
            statement["lapsed"] = statement["lapsed"] or {"event": CHANGED, "at": at}
    return said


def fitted(build: Build, act: FitPart, at: str) -> Patch:
    """The operations that fit a part from the shelf. What was fitted keeps its readings there; one
    that had no card gets one. Nothing is thrown away.

    Raises
    ------
    CannotEnter, MovedOn
        Its kind is not said, it is gone or fitted already; it is not there any more.
    """
    path, card = _card(build, act.part)
    name = card.name or f"Part {card.n}"
    if not card.kind:
        raise CannotEnter(f"Say first what kind of part {name} is. Nothing was changed.")
    if card.fitted or card.state == "gone":
        raise CannotEnter(
            f"{name} is {'fitted already' if card.fitted else 'gone'}. Nothing was changed."
        )
    keys = sizes_of(card.kind)
    own = {k: build.dims[k].model_dump(mode="json") for k in keys if k in build.dims}
    face = CASTINGS.get(card.kind)
    patch = event_patch(build, CHANGED, card.kind, at, spared=keys)
    if card.kind in MOVES:
        patch += event_patch(build, MOVES[card.kind], "", at, spared=keys)
    patch += _to_the_shelf(build, card.kind, own, face)
    if card.kind in OWN_OPTIONS:
        patch += _belongings_in(build, card, at)
    patch += [{"op": "remove", "path": f"/dims/{k}"} for k in own if k not in card.sizes]
    patch += [put(f"/dims/{k}", _returned(k, d, at)) for k, d in card.sizes.items()]
    if face is not None and card.face is not None:
        patch.append(put(f"/{face}", card.face.model_dump(mode="json")))
    elif face is not None:
        patch.append(put(f"/{face}/holes", []))
        patch.append(put(f"/{face}/lands", []))
    return [
        *patch,
        put(f"{path}/sizes", {}),
        put(f"{path}/face", None),
        put(f"{path}/belongs", None),
        put(f"{path}/fitted", True),
        *([put(f"{path}/state", "final")] if card.state == "spare" else []),
    ]


def _to_the_shelf(build: Build, kind: str, own: dict[str, Any], face: str | None) -> Patch:
    """What becomes of the part that was fitted until now."""
    pattern = getattr(build, face).model_dump(mode="json") if face is not None else None
    for i, other in enumerate(build.parts):
        if other.fitted and other.kind == kind:
            at = f"/parts/{i}"
            rests = "spare" if other.state in ("final", "temporary") else other.state
            return [
                put(f"{at}/sizes", own),
                put(f"{at}/face", pattern),
                put(f"{at}/belongs", _belongings(build, kind)),
                put(f"{at}/fitted", False),
                put(f"{at}/state", rests),
            ]
    belongs = _belongings(build, kind)
    kept = [
        row for part in ("holes", "readings", "points") for row in (pattern or {}).get(part, ())
    ]
    if not own and not kept and not any((belongs or {}).values()):
        return []
    number = max((p.n for p in build.parts), default=0) + 1
    made = PartCard(n=number, name=f"{kind} that was fitted", kind=kind, state="spare")
    fixed = {"sizes": own, "face": pattern, "belongs": belongs}
    return [put("/parts/-", made.model_dump(mode="json") | fixed)]


def _on(build: Build, name: str, kind: str) -> list[Any]:
    """Rows of a list that are fixed to a casting."""
    if name == "pulleys":
        return list(build.pulleys) if kind == "engine" else []
    return [row for row in getattr(build, name) if row.body == kind]


def _belongings(build: Build, kind: str) -> dict[str, Any] | None:
    """What goes to the shelf with a part: its choices, and of a casting what is fixed to it; None
    for a kind that has neither.
    """
    if kind not in OWN_OPTIONS:
        return None
    moved = MOVED if kind in CASTINGS else ()
    rows = {n: [r.model_dump(mode="json") for r in _on(build, n, kind)] for n in moved}
    options = {k: v for k in OWN_OPTIONS[kind] if (v := build.options.get(k))}
    return {**rows, "options": options}


def _belongings_in(build: Build, card: PartCard, at: str) -> Patch:
    """What was fixed to the other part goes out, what is fixed to this one comes in; points that
    were read on the other casting have lapsed.
    """
    own = card.belongs or Belongings()
    patch: Patch = []
    for name in MOVED if card.kind in CASTINGS else ():
        gone = {r.n for r in _on(build, name, card.kind)}
        stay = [r for r in getattr(build, name) if r.n not in gone]
        taken = {r.n for r in stay}
        rows = [r.model_dump(mode="json") for r in stay]
        for row in getattr(own, name):
            # Its number stays, unless another row has it meanwhile.
            n = row.n if row.n not in taken else max(taken) + 1
            taken.add(n)
            rows.append(row.model_dump(mode="json") | {"n": n})
        patch.append(put(f"/{name}", rows))
    for key in OWN_OPTIONS[card.kind]:
        if key in own.options:
            patch.append(put(f"/options/{key}", own.options[key]))
        elif key in build.options:
            patch.append({"op": "remove", "path": f"/options/{key}"})
    if card.kind not in CASTINGS:
        return patch
    lapsed = {"event": CHANGED, "at": at}
    return patch + [
        put(f"{path}/lapsed", lapsed)
        for i, point in enumerate(build.pose_points)
        for path, said in evidences(f"/pose_points/{i}", point)
        if said.lapsed is None
    ]
