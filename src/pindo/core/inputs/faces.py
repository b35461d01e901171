"""Inputs of the castings' faces: holes and lands, as seen from behind."""

from collections.abc import Mapping
from dataclasses import replace
from functools import partial
from types import MappingProxyType

from pindo.core.document.evidence import default_pm
from pindo.core.document.faces import Face
from pindo.core.document.typed import Doubled, Evidence
from pindo.core.inputs.beside import with_others
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.statements import given_pm
from pindo.core.inputs.threads import nominal, threads

HOLE_FIELDS = {
    "u": "across",
    "v": "up",
    "d": "diameter",
    "land": "land",
    "plate_hole": "hole in the plate",
    "recess": "recess depth",
    "stand_out": "pin stand-out",
    "mating_depth": "depth of the pin's hole",
    "pitch": "pitch",
    "bore": "diameter of the hole itself",
    "depth": "full thread",
    "flange": "flange thickness",
    "free": "free circle for its head",
    "off_u": "drilled off, across",
    "off_v": "drilled off, up",
}


def face_u(u: float, taken_from: str) -> float:
    """u as seen from behind: a face taken from the front (a bell mouth) is mirrored on entry."""
    return -u if taken_from == "front" else u


def reading_at(side: str, n: int) -> str:
    """Address of what a reading between holes says."""
    return f"{side}.reading{n}.value"


def point_at(side: str, n: int, field: str) -> str:
    """Address of a coordinate of a point of a set: its x or y."""
    return f"{side}.point{n}.{field}"


def resolve_face(side: str, face: Face) -> Mapping[str, Resolved]:
    """Inputs ``<side>.<number>.<field>`` for each hole and ``<side>.land<i>.<field>`` for each
    land.

    u comes out as seen from behind, whichever side the face was taken from. Optional fields that
    were left empty have no entry, save an offset whose other one was said.
    """
    found: dict[str, Resolved] = {}

    def add(
        address: str,
        name: str,
        typed: str | None,
        kind: str,
        mirrored: bool,
        evidence: Evidence,
        size: bool,
        spoken: tuple[str, Doubled] | None = None,
    ) -> None:
        blank = Resolved(address=address, name=name, kind=kind)
        read = partial(_resolve_figure, blank, face, mirrored, size)
        own = read(typed, evidence)
        if spoken is not None:
            field, of = spoken
            own = with_others(own, typed, field, of, lambda o: read(o.typed, o.evidence), face.unit)
        found[address] = own

    def counted(address: str, name: str, value: float | None, evidence: Evidence) -> None:
        status = Status.MISSING if value is None else Status.STANDING
        found[address] = Resolved(
            address=address,
            name=name,
            kind="count",
            value=value,
            status=status,
            source=evidence.source,
        )

    for hole in face.holes:
        of_hole = hole.evidence or face.evidence
        label = f"{side.capitalize()} hole {hole.n}" + (f" {hole.name}" if hole.name else "")
        for field_name, words in HOLE_FIELDS.items():
            typed = getattr(hole, field_name) or (
                face.flange if field_name == "flange" and hole.role == "bolt" else None
            )
            doubled = any(o.field == field_name for o in hole.others)
            beside = field_name in _OFFSETS and any(getattr(hole, f) for f in _OFFSETS)
            if typed or doubled or beside or field_name in ("u", "v", "d"):
                kind = "thread" if field_name == "d" and hole.role == "bolt" else "length"
                add(
                    f"{side}.{hole.n}.{field_name}",
                    f"{label}, {words}",
                    typed,
                    kind,
                    field_name in ("u", "off_u"),
                    hole.said.get(field_name, of_hole),
                    field_name in _ABOVE_NOUGHT,
                    (field_name, hole),
                )
        thread = found[f"{side}.{hole.n}.d"]
        if thread.kind == "thread" and thread.value is not None and hole.d and not hole.pitch:
            named = parse(hole.d, "thread", face.unit).pitch
            if named is not None:
                found[f"{side}.{hole.n}.pitch"] = replace(
                    thread,
                    address=f"{side}.{hole.n}.pitch",
                    name=f"{label}, pitch",
                    kind="length",
                    value=named,
                    pm=0.0,
                )
        known = hole.backing != "unknown"
        counted(
            f"{side}.{hole.n}.backing",
            f"{label}, what is behind",
            float(hole.backing == "metal") if known else None,
            of_hole,
        )
        if hole.role == "dowel":
            # One pin each: in the casting, and in the plate where that was said.
            pin = hole.pin_in_casting
            counted(
                f"{side}.{hole.n}.pin_in_casting",
                f"{side.capitalize()} dowel {hole.n}, pin in the casting",
                None if pin is None else float(pin),
                of_hole,
            )
            pin = hole.pin_in_plate
            counted(
                f"{side}.{hole.n}.pin_in_plate",
                f"{side.capitalize()} dowel {hole.n}, pin in the plate",
                None if pin is None else float(pin),
                of_hole,
            )
    if face.register_d:
        label = f"{side.capitalize()} register"
        add(f"{side}.register", label, face.register_d, "length", False, face.evidence, True)
    for r in face.readings:
        ends = " to ".join(f"hole {n}" if n else "axis" for n in (r.a, r.b))
        add(
            reading_at(side, r.n),
            f"{side.capitalize()} reading {r.n}, {ends}",
            r.value,
            "length",
            r.along == "across",
            r.said.get("value", r.evidence),
            r.along == "straight",
            ("value", r),
        )
    seen = {s.n: s for s in face.sets}
    for p in face.points:
        own = seen.get(p.of or 0)
        # What was seen from the other side is mirrored, as the set says and not as the face does.
        as_set = face.model_copy(update={"taken_from": "behind" if own is None else own.taken_from})
        for field_name, mirrored in (("x", True), ("y", False)):
            address = point_at(side, p.n, field_name)
            evidence = p.said.get(field_name, p.evidence)
            what = "the axis" if p.hole is None else f"hole {p.hole}"
            words = "right" if mirrored else "up"
            blank = Resolved(
                address=address,
                name=f"{side.capitalize()} point {p.n}, {what}, {words}",
                kind="length",
            )
            read = partial(_resolve_figure, blank, as_set, mirrored, False)
            typed = getattr(p, field_name)
            own_figure = read(typed, evidence)
            found[address] = with_others(
                own_figure,
                typed,
                field_name,
                p,
                lambda o, read=read: read(o.typed, o.evidence),  # type: ignore[misc]
                face.unit,
            )
    for land in face.lands:
        for field_name in ("u", "v", "d"):
            add(
                f"{side}.land{land.n}.{field_name}",
                f"{side.capitalize()} {land.name or f'land {land.n}'}, {HOLE_FIELDS[field_name]}",
                getattr(land, field_name),
                "length",
                field_name == "u",
                face.evidence,
                field_name in _ABOVE_NOUGHT,
            )
    return MappingProxyType(found)


_OFFSETS = ("off_u", "off_v")
_ABOVE_NOUGHT = frozenset({"d", "bore", "pitch", "land", "plate_hole", "flange", "free"})


def _resolve_figure(
    blank: Resolved, face: Face, mirrored: bool, size: bool, typed: str | None, evidence: Evidence
) -> Resolved:
    """One figure of a face as it stands. Nought or less is no size: the hole stays, and what
    stands there is asked about.
    """
    said = replace(blank, source=evidence.source, tool=evidence.tool, state=evidence.state)
    if not typed:
        return said
    if evidence.lapsed:
        return replace(said, status=Status.LAPSED, detail=evidence.lapsed.event)
    read = _face_figure(said, typed, face, mirrored, evidence)
    if not size or read.value is None or read.value > 0.0:
        return read
    return replace(
        read,
        value=None,
        asked=read.value,
        status=Status.QUESTION,
        detail="a size above nought is wanted",
    )


def _face_figure(
    blank: Resolved, typed: str, face: Face, mirrored: bool, evidence: Evidence
) -> Resolved:
    """One figure of a face, read. A screw's size is what it is called: its place has a doubt,
    its name has none.
    """
    try:
        entry = parse(typed, blank.kind, face.unit)
        given = given_pm(evidence, "length") if entry.pm is None else entry.pm
    except EntryError as error:
        return replace(blank, status=Status.BAD_ENTRY, detail=str(error))
    if entry.value is None:
        return replace(blank, status=Status.WORD, detail=entry.word or "")
    value = face_u(entry.value, face.taken_from) if mirrored else entry.value
    named = blank.kind == "thread" and (
        entry.pitch is not None or nominal(value, THREAD_SIZES) is not None
    )
    pm = (
        0.0
        if named
        else default_pm("length", value, evidence.source, evidence.tool)
        if given is None
        else given
    )
    return replace(blank, status=Status.STANDING, value=value, pm=pm)


THREAD_SIZES = tuple(sorted({t.d for t in threads()}))
