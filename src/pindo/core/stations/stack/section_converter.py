"""A converter and its flexplate in the section, the converter home in its pump. [mm]"""

from pindo.core.drawing.callouts import Stretch
from pindo.core.drawing.shapes import Gap, Point, Shape, Usual, box
from pindo.core.geometry.axial import flywheel_flange_s, mouth_s

LONG = 105.0  # body behind the pads, drawn only
PAD = 9.0
CONVERTER_DIAMETERS = (
    "converter_pilot_d_mm",
    "converter_od_mm",
    "pad_pcd_mm",
    "flexplate_pad_pcd_mm",
)
"""Sizes that the section shows from the axis upwards."""


def _pads_s(g: Usual) -> float:
    return float(mouth_s(g("separator_mm"), g("plate_mm"))) + g("pad_depth_mm")


def _plate_s(g: Usual) -> tuple[float, float]:
    """Flange face and pad face of the flexplate."""
    back = flywheel_flange_s(g("crank_flange_mm"), g("crank_spacer_mm"))
    return back, back + g("flexplate_offset_mm")


def converter_shapes(g: Usual, end: float) -> list[Shape]:
    """Flexplate with ring gear, converter home, input shaft behind it."""
    back, face = _plate_s(g)
    pads, thick = _pads_s(g), g("flexplate_thick_mm")
    edge, bore = g("crank_pcd_mm") / 2 + 13, g("flywheel_register_mm") / 2
    rim, pad, od = g("flywheel_od_mm") / 2, g("flexplate_pad_pcd_mm") / 2, g("converter_od_mm") / 2
    ring = back + g("ring_front_mm")
    own, low = g("pad_pcd_mm") / 2, max(edge, 30.0)
    body = pads + 14.0
    shapes = [
        Shape(
            part="flexplate",
            points=(
                (back, bore),
                (back, edge),
                (face - thick, pad - 22),
                (face - thick, rim - 4),
                (face, rim - 4),
                (face, pad - 22),
                (back + thick, edge),
                (back + thick, bore),
            ),
            known=g.known("flexplate_offset_mm", "flexplate_thick_mm", "flywheel_od_mm"),
        ),
        Shape(
            part="ring gear",
            points=box(ring, ring + g("ring_width_mm"), rim - 10, rim),
            known=g.known("ring_front_mm", "ring_width_mm"),
        ),
        Shape(
            part="converter",
            points=(
                (body - 6, 0),
                (body, low),
                (body, od - 14),
                (body + 14, od),
                (body + LONG - 40, od),
                (body + LONG, od * 0.45),
                (body + LONG, 0),
            ),
            style="body",
            known=g.known("converter_od_mm", "pad_depth_mm"),
        ),
        Shape(
            part="pad",
            points=box(pads, body + 2, own - PAD, own + PAD),
            known=g.known("pad_depth_mm", "pad_pcd_mm"),
        ),
        Shape(
            part="converter pilot",
            points=box(pads - g("converter_pilot_mm"), body, 0, g("converter_pilot_d_mm") / 2),
            style="body",
            known=g.known("converter_pilot_mm", "converter_pilot_d_mm"),
        ),
        Shape(
            part="converter hub",
            points=box(body + LONG, max(end, body + LONG + 10), 16, 24),
            known=g.known("hub_in_pump_mm"),
        ),
    ]
    if g("crank_spacer_mm") > 0:
        shapes.append(
            Shape(
                part="crank spacer",
                points=box(g("crank_flange_mm"), back, bore, edge),
                known=g.known("crank_spacer_mm"),
            )
        )
    return shapes


def converter_anchors(g: Usual) -> dict[str, Point]:
    """The point of the section that each size of converter and flexplate speaks of."""
    face = _plate_s(g)[1]
    pads, own = _pads_s(g), g("pad_pcd_mm") / 2
    pad, tip = g("flexplate_pad_pcd_mm") / 2, pads - g("converter_pilot_mm")
    body = pads + 14.0
    return {
        "pad_depth_mm": (pads, own + PAD + 6),
        "seated_depth_mm": (pads, own + PAD + 20),
        "flexplate_offset_mm": (face, pad - 34),
        "flexplate_thick_mm": (face - g("flexplate_thick_mm") / 2, pad + 18),
        "converter_pilot_mm": (tip, g("converter_pilot_d_mm") / 4),
        "pilot_lead_mm": (tip + g("pilot_lead_mm"), g("converter_pilot_d_mm") / 2 + 3),
        "converter_pilot_d_mm": (pads - 4, g("converter_pilot_d_mm") / 2),
        "hub_in_pump_mm": (body + LONG + 6, 20.0),
        "hub_in_pump_least_mm": (body + LONG + 14, 26.0),
        "converter_od_mm": (body + LONG / 2, g("converter_od_mm") / 2),
        "pad_count": (pads + 4, own),
        "flexplate_pads": (face, pad),
        "pad_pcd_mm": (pads + 8, own),
        "flexplate_pad_pcd_mm": (face - 3, pad),
        "pad_bolt_mm": (pads + 3, own - 5),
        "flexplate_pad_hole_mm": (face - 2, pad - 6),
        "pad_bolt_long_mm": (face + g("pad_bolt_long_mm") / 2, pad + 3),
        "pad_thread_mm": (pads + g("pad_thread_mm") / 2, own + 4),
    }


def converter_sizes(g: Usual, at: dict[str, Point]) -> dict[str, Stretch]:
    """The two ends of each of them."""
    back, face = _plate_s(g)
    mouth, pads = mouth_s(g("separator_mm"), g("plate_mm")), _pads_s(g)
    along = {
        "pad_depth_mm": (mouth, pads),
        "flexplate_offset_mm": (back, face),
        "flexplate_thick_mm": (face - g("flexplate_thick_mm"), face),
        "converter_pilot_mm": (pads - g("converter_pilot_mm"), pads),
        "pad_thread_mm": (pads, pads + g("pad_thread_mm")),
    }
    found = {k: (a, at[k][1], b, at[k][1]) for k, (a, b) in along.items()}
    return found | {k: (at[k][0], 0.0, at[k][0], at[k][1]) for k in CONVERTER_DIAMETERS}


def converter_gaps(g: Usual, at: dict[str, Point]) -> list[Gap]:
    """The gap that it is drawn forward by, and what is left round and ahead of it."""
    _, face = _plate_s(g)
    pads, own = _pads_s(g), g("pad_pcd_mm") / 2
    half = g("converter_od_mm") / 2
    x = at["converter_od_mm"][0]
    return [
        Gap(finding="stack.pull_forward", x1=face, y1=own, x2=pads, y2=own),
        Gap(
            finding="stack.converter_in_bell",
            x1=x,
            y1=half,
            x2=x,
            y2=g("bell_bore_mm") / 2,
        ),
    ]
