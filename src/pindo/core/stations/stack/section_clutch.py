"""Flywheel, disc, cover, release and shaft in the section. [mm]"""

from pindo.core.drawing.shapes import Shape, Usual, box
from pindo.core.geometry.axial import (
    flywheel_flange_s,
    friction_face_s,
    mouth_s,
    pilot_rear_s,
    tip_s,
)


def flywheel_shapes(g: Usual) -> list[Shape]:
    """Flywheel, ring gear, bolts and spacer."""
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


def shaft_shapes(g: Usual, end: float) -> list[Shape]:
    """The input shaft, to where the picture ends."""
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


def clutch_shapes(g: Usual) -> list[Shape]:
    """Disc, cover, fingers and release bearing."""
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


def still_shapes(g: Usual, floor: float) -> list[Shape]:
    """The guide tube."""
    mouth = mouth_s(g("separator_mm"), g("plate_mm"))
    tube = g("guide_tube_od_mm") / 2
    return [
        Shape(
            part="guide tube",
            points=box(mouth + g("guide_tube_mm"), floor, tube - 4, tube),
            known=g.known("guide_tube_mm"),
        )
    ]


def pilot_shape(g: Usual, pilot_in: str) -> Shape:
    """The pilot bearing in its piece."""
    rear = pilot_rear_s(
        g("crank_flange_mm"), g("crank_spacer_mm"), g("flywheel_mm"), g("pilot_sunk_mm"), pilot_in
    )
    return Shape(
        part="pilot bearing",
        points=box(rear - g("pilot_width_mm"), rear, g("pilot_bore_mm") / 2, g("pilot_od_mm") / 2),
        style="body",
        known=g.known("pilot_width_mm", "pilot_sunk_mm"),
    )


def pack_shapes(g: Usual) -> list[Shape]:
    """A clutch pack that the gearbox brings, its front to the damper."""
    front = mouth_s(g("separator_mm"), g("plate_mm")) + g("pack_front_mm")
    half = g("pack_od_mm") / 2
    return [
        Shape(
            part="clutch pack",
            points=(
                (front, 26),
                (front, half - 12),
                (front + 12, half),
                (front + 78, half),
                (front + 92, half * 0.6),
                (front + 92, 26),
            ),
            style="body",
            known=g.known("pack_front_mm", "pack_od_mm"),
        )
    ]


def dual_mass_shapes(g: Usual) -> list[Shape]:
    """Where a dual-mass flywheel is two: its springs, and the gap between its masses."""
    back = flywheel_flange_s(g("crank_flange_mm"), g("crank_spacer_mm"))
    face = friction_face_s(g("crank_flange_mm"), g("crank_spacer_mm"), g("flywheel_mm"))
    rim, middle = g("flywheel_od_mm") / 2, (back + face) / 2
    known = g.known("flywheel_mm", "flywheel_od_mm")
    inner = g("crank_pcd_mm") / 2 + 20
    return [
        Shape(
            part="gap between the masses",
            points=((middle, inner), (middle, rim - 6)),
            style="thin",
            closed=False,
            known=known,
        ),
        Shape(
            part="springs of the dual-mass flywheel",
            points=box(back + 5, middle, rim - 34, rim - 18),
            style="body",
            known=False,
        ),
    ]


def further_discs(g: Usual, discs: float) -> list[Shape]:
    """The second and third disc with the plate between, drawn at the first one's sizes."""
    face = friction_face_s(g("crank_flange_mm"), g("crank_spacer_mm"), g("flywheel_mm"))
    disc, long = g("disc_od_mm") / 2, 8.5 + 9.0
    found = []
    for k in range(1, int(discs)):
        at = face + k * long
        found += [
            Shape(part="plate between the discs", points=box(at - 9, at, disc - 56, disc + 6)),
            Shape(part=f"disc {k + 1}", points=box(at, at + 8.5, disc - 52, disc), known=False),
        ]
    if discs > 1.0:
        hub, teeth = face + g("hub2_front_mm"), g("disc_spline_od_mm") / 2
        last = box(hub, hub + g("hub2_mm"), teeth, teeth + 9)
        known = g.known("hub2_front_mm", "hub2_mm")
        found.append(Shape(part="last disc's hub", points=last, known=known))
    return found
