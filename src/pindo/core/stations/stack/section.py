"""The axial section of the stack, to scale: upper half, x is the station s, y the radius."""

from collections.abc import Callable
from dataclasses import replace

from pindo.core.drawing.board import Board
from pindo.core.drawing.callouts import lettered
from pindo.core.drawing.shapes import Drawing, Note, Shape, Usual, box
from pindo.core.geometry.axial import (
    BEHIND_THE_BELL,
    bell_mouth_s,
    flywheel_flange_s,
    friction_face_s,
    mouth_s,
    pilot_rear_s,
    starter_flange_s,
    tip_s,
)
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.question import Seen
from pindo.core.stations.stack.section_marks import (
    CASTING,
    DIAMETERS,
    anchors,
    gaps,
    handles,
    sizes,
)
from pindo.core.stations.stack.usual import USUAL

FRONT = -62.0  # where the picture ends towards the engine


def _engine_side(g: Usual, rim: float) -> list[Shape]:
    flange, bore = g("crank_flange_mm"), g("pilot_seat_mm") / 2
    edge = g("crank_pcd_mm") / 2 + 13
    bottom = flange - g("crank_bore_depth_mm")
    seat = g("pilot_width_mm") + g("pilot_sunk_mm")
    return [
        Shape(part="block", points=box(FRONT, 0, edge + 8, rim)),
        Shape(
            part="crank",
            points=(
                (FRONT, 0),
                (bottom, 0),
                (bottom, bore * 0.75),
                (flange - seat, bore * 0.75),
                (flange - seat, bore),
                (flange, bore),
                (flange, edge),
                (flange - 16, edge),
                (flange - 16, edge * 0.66),
                (FRONT, edge * 0.66),
            ),
            known=g.known("crank_flange_mm", "crank_bore_depth_mm"),
        ),
    ]


def _flywheel(g: Usual) -> list[Shape]:
    flange = g("crank_flange_mm")
    back = flywheel_flange_s(flange, g("crank_spacer_mm"))
    face = friction_face_s(flange, g("crank_spacer_mm"), g("flywheel_mm"))
    edge, bore, rim = (
        g("crank_pcd_mm") / 2 + 13,
        g("flywheel_register_mm") / 2,
        g("flywheel_od_mm") / 2,
    )
    ring = back + g("ring_front_mm")
    heads = face + g("bolt_heads_mm")
    web = min(back + 9.0, heads - 4.0)
    pcd = g("flywheel_pcd_mm") / 2
    shapes = [
        Shape(
            part="flywheel",
            points=(
                (back, bore),
                (web, bore),
                (web, edge + 6),
                (face, edge + 16),
                (face, rim - 6),
                (back + 4, rim - 6),
                (back + 4, edge + 4),
                (back, edge + 4),
            ),
            known=g.known("flywheel_mm", "flywheel_od_mm"),
        ),
        Shape(
            part="ring gear",
            points=box(ring, ring + g("ring_width_mm"), rim - 12, rim),
            known=g.known("ring_front_mm", "ring_width_mm"),
        ),
        Shape(
            part="flywheel bolts",
            points=box(web, heads, pcd - 9, pcd + 9),
            style="body",
            known=g.known("bolt_heads_mm"),
        ),
    ]
    if g("crank_spacer_mm") > 0:
        shapes.append(
            Shape(
                part="crank spacer",
                points=box(flange, back, bore, edge),
                known=g.known("crank_spacer_mm"),
            )
        )
    return shapes


def _housing(g: Usual, rim: float, plate_at: str) -> list[Shape]:
    mouth = bell_mouth_s(g("separator_mm"), g("plate_mm"), plate_at)
    window = g("window_mm") / 2 if g("window_mm") > 0 else 30.0
    inside, floor = g("bell_bore_mm") / 2, mouth + g("bell_depth_mm")
    shapes = []
    if g("separator_mm") > 0:
        shapes.append(
            Shape(
                part="shield",
                points=box(0, g("separator_mm"), window, rim),
                known=g.known("separator_mm"),
            )
        )
    if g("plate_mm") > 0:
        back = floor + CASTING
        at = (
            box(back, back + g("plate_mm"), 30.0, 62.0 + 60.0)
            if plate_at == BEHIND_THE_BELL
            else box(g("separator_mm"), mouth, window, rim)
        )
        shapes.append(Shape(part="adapter plate", points=at, known=g.known("plate_mm")))
    neck = 62.0
    shapes.append(
        Shape(
            part="bellhousing",
            points=(
                (mouth, inside),
                (mouth + 45, inside),
                (floor, neck + 30),
                (floor, neck - 30),
                (floor + CASTING, neck - 30),
                (floor + CASTING, neck + 34),
                (mouth + 50, inside + CASTING),
                (mouth + 13, inside + CASTING),
                (mouth + 13, rim),
                (mouth, rim),
            ),
            known=g.known("bell_depth_mm", "bell_bore_mm"),
        )
    )
    return shapes


def _shaft(g: Usual, end: float) -> list[Shape]:
    tip = tip_s(g("separator_mm"), g("plate_mm"), g("shaft_tip_out_mm"))
    shoulder, nose, teeth = tip + g("nose_mm"), g("nose_d_mm") / 2, g("shaft_spline_od_mm") / 2
    chamfer = min(g("nose_chamfer_mm"), nose)
    start = max(tip + g("spline_start_mm"), shoulder)
    stop = start + g("spline_mm")
    body = teeth * 0.86
    return [
        Shape(
            part="input shaft",
            points=(
                (tip, 0),
                (tip, nose - chamfer),
                (tip + chamfer, nose),
                (shoulder, nose),
                (shoulder, body),
                (start, body),
                (start, teeth),
                (stop, teeth),
                (stop, body),
                (end, body),
                (end, 0),
            ),
            style="body",
            known=g.known("shaft_tip_out_mm", "nose_mm", "spline_start_mm", "spline_mm"),
        ),
        *(
            Shape(
                part="spline",
                points=((start, teeth * k), (stop, teeth * k)),
                style="thin",
                closed=False,
            )
            for k in (0.72, 0.44)
        ),
    ]


def _clutch(g: Usual) -> list[Shape]:
    face = friction_face_s(g("crank_flange_mm"), g("crank_spacer_mm"), g("flywheel_mm"))
    hub, teeth, disc = face + g("hub_front_mm"), g("disc_spline_od_mm") / 2, g("disc_od_mm") / 2
    cover, fingers = face + g("cover_height_mm"), face + g("finger_height_mm")
    inner, outer = g("friction_face_mm") / 2 - 62, g("flywheel_cover_pcd_mm") / 2
    parked = (
        mouth_s(g("separator_mm"), g("plate_mm")) + g("release_parked_mm") - g("release_shim_mm")
    )
    tube = g("guide_tube_od_mm") / 2
    return [
        Shape(
            part="disc", points=box(face, face + 8.5, disc - 52, disc), known=g.known("disc_od_mm")
        ),
        Shape(
            part="disc plate", points=box(face + 3.5, face + 5, teeth + 9, disc - 52), style="body"
        ),
        Shape(
            part="disc hub",
            points=box(hub, hub + g("hub_mm"), teeth, teeth + 9),
            known=g.known("hub_front_mm", "hub_mm"),
        ),
        Shape(
            part="pressure plate",
            points=box(face + 8.5, face + 24, inner, g("friction_face_mm") / 2),
            style="cut",
        ),
        Shape(
            part="clutch cover",
            points=(
                (face, outer + 6),
                (face + 3, outer + 6),
                (cover, inner + 20),
                (cover, inner - 8),
                (cover - 3, inner - 8),
                (cover - 3, inner + 16),
                (face, outer - 8),
            ),
            style="body",
            known=g.known("cover_height_mm"),
        ),
        Shape(
            part="fingers",
            points=(
                (face + 30, inner + 2),
                (face + 33, inner + 4),
                (fingers, tube + 11),
                (fingers, tube + 3),
                (fingers - 4, tube + 3),
            ),
            style="body",
            known=g.known("finger_height_mm"),
        ),
        Shape(
            part="release bearing",
            points=box(
                parked, parked + 15, g("release_bore_mm") / 2, g("release_bore_mm") / 2 + 17
            ),
            known=g.known("release_parked_mm"),
        ),
    ]


def _still(g: Usual, floor: float) -> list[Shape]:
    mouth = mouth_s(g("separator_mm"), g("plate_mm"))
    tube = g("guide_tube_od_mm") / 2
    return [
        Shape(
            part="guide tube",
            points=box(mouth + g("guide_tube_mm"), floor, tube - 4, tube),
            known=g.known("guide_tube_mm"),
        )
    ]


def _pilot(g: Usual, pilot_in: str) -> Shape:
    rear = pilot_rear_s(
        g("crank_flange_mm"), g("crank_spacer_mm"), g("flywheel_mm"), g("pilot_sunk_mm"), pilot_in
    )
    return Shape(
        part="pilot bearing",
        points=box(rear - g("pilot_width_mm"), rear, g("pilot_bore_mm") / 2, g("pilot_od_mm") / 2),
        style="body",
        known=g.known("pilot_width_mm", "pilot_sunk_mm"),
    )


def _starter(g: Usual, starter_on: str, plate_at: str) -> list[Shape]:
    flange = starter_flange_s(g("separator_mm"), g("plate_mm"), starter_on, plate_at)
    tip = g("pinion_module_mm") * (g("pinion_teeth") + 2) / 2
    low, high = g("starter_centre_mm") - tip, g("starter_centre_mm") + tip
    known = g.known("starter_parked_mm", "starter_centre_mm")
    parked, thrown = flange + g("starter_parked_mm"), flange + g("starter_out_mm")
    return [
        Shape(
            part="starter pinion, parked",
            points=box(parked - g("pinion_mm"), parked, low, high),
            style="body",
            known=known,
        ),
        Shape(
            part="starter pinion, thrown",
            points=box(thrown - g("pinion_mm"), thrown, low, high),
            style="hidden",
            known=known,
        ),
    ]


def section(inputs: Inputs, question: str) -> Drawing:
    """The section as it stands, with the letters of one question; a part whose size is missing is
    drawn dashed at a usual size.
    """
    g = Usual({key: inputs.value(key) for key in USUAL}, USUAL)
    pilot_in = inputs.options.get("pilot_in", "crank")
    starter_on = inputs.options.get("starter_on", "engine")
    pilot_in = pilot_in if pilot_in in ("crank", "spacer", "flywheel") else "crank"
    starter_on = starter_on if starter_on in ("engine", "plate", "housing") else "engine"
    plate_at = inputs.options["plate_at"]
    rim = max(g("bell_bore_mm"), g("window_mm"), g("flywheel_od_mm")) / 2 + 36
    mouth = mouth_s(g("separator_mm"), g("plate_mm"))
    end = mouth + g("bell_depth_mm") + CASTING + 14
    shapes = [
        *_engine_side(g, rim),
        *_flywheel(g),
        *_clutch(g),
        *_housing(g, rim, plate_at),
        *_starter(g, starter_on, plate_at),
        _pilot(g, pilot_in),
        *_shaft(g, end),
        *_still(g, end),
        Shape(part="crank axis", points=((FRONT - 6, 0), (end + 4, 0)), style="axis", closed=False),
        Shape(part="block face", points=((0, -8), (0, rim + 4)), style="hidden", closed=False),
    ]
    at = anchors(g, pilot_in, starter_on, plate_at)
    back = flywheel_flange_s(g("crank_flange_mm"), g("crank_spacer_mm"))
    return Drawing(
        rules=True,
        view=(
            "section through the crank axis, upper half, engine to the left; s is mm behind the"
            " block face"
        ),
        x_low=FRONT - 8,
        x_high=max(end, 0.0) + 6,
        y_low=-14,
        y_high=max(rim, 0.0) + 10,
        shapes=tuple(shapes),
        callouts=lettered(question, at, sizes(g, at, starter_on, plate_at), DIAMETERS),
        gaps=tuple(gaps(g, at, pilot_in)),
        handles=tuple(handles(inputs, at, mouth, back, rim)),
        notes=(
            Note(text="block face", x=FRONT + 4, y=rim + 5),
            Note(text="engine", x=FRONT + 4, y=rim - 8),
            Note(text="gearbox", x=end - 34, y=rim - 8),
        ),
    )


def section_board(question: str) -> Callable[[Inputs, Seen], Board]:
    """The section as the board of one question of the station, with the gaps that it speaks of."""

    def board(inputs: Inputs, seen: Seen) -> Board:
        own, drawn = {f.id for f in seen.findings}, section(inputs, question)
        spoken = tuple(g for g in drawn.gaps if g.finding in own)
        return Board(drawings=(replace(drawn, gaps=spoken),))

    return board
