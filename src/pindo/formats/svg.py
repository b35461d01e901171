"""The plate as SVG at true size: one user unit is one millimetre."""

from xml.etree import ElementTree as ET

from pindo.core.stations.mate.outline import Plate
from pindo.formats.plain_text import one_line

EDGE_MM = 10.0


def plate_svg(plate: Plate, title: str) -> bytes:
    """SVG of a plate, seen from behind; y is turned round once, in the group."""
    points = [*plate.outline, *((r.u, r.v) for r in plate.drilling), (0.0, 0.0)]
    left, right = min(p[0] for p in points) - EDGE_MM, max(p[0] for p in points) + EDGE_MM
    low, high = min(p[1] for p in points) - EDGE_MM, max(p[1] for p in points) + EDGE_MM
    svg = ET.Element(
        "svg",
        {
            "xmlns": "http://www.w3.org/2000/svg",
            "width": f"{right - left:.3f}mm",
            "height": f"{high - low:.3f}mm",
            "viewBox": f"{left:.3f} {-high:.3f} {right - left:.3f} {high - low:.3f}",
        },
    )
    ET.SubElement(svg, "title").text = one_line(f"{title}, {plate.seen}")
    group = ET.SubElement(svg, "g", {"fill": "none", "stroke": "black", "stroke-width": "0.25"})
    if plate.outline:
        path = "M" + "L".join(f"{u:.4f},{-v:.4f}" for u, v in plate.outline) + "Z"
        ET.SubElement(group, "path", {"class": "outline", "d": path})
    for name, lines in (("window", plate.lines), ("first-cut", plate.rough)):
        for line in lines:
            path = "M" + "L".join(f"{u:.4f},{-v:.4f}" for u, v in line) + "Z"
            ET.SubElement(group, "path", {"class": name, "d": path})
    for name, opening in (("window", plate.window), ("pocket", plate.pocket)):
        if opening:
            ET.SubElement(
                group,
                "circle",
                {
                    "class": name,
                    "cx": f"{opening.u:.4f}",
                    "cy": f"{-opening.v:.4f}",
                    "r": f"{opening.d / 2:.4f}",
                },
            )
    for row in plate.drilling:
        ET.SubElement(
            group,
            "circle",
            {
                "class": f"hole {row.layer}",
                "id": row.label,
                "cx": f"{row.u:.4f}",
                "cy": f"{-row.v:.4f}",
                "r": f"{row.d / 2:.4f}",
            },
        )
        text = ET.SubElement(
            group,
            "text",
            {
                "x": f"{row.u + row.d / 2 + 1:.3f}",
                "y": f"{-row.v:.3f}",
                "font-size": "4",
                "fill": "black",
                "stroke": "none",
            },
        )
        text.text = one_line(row.called if row.layer != "tapped" else f"{row.called} {row.what}")
        if row.recess and row.recess_d:
            ET.SubElement(
                group,
                "circle",
                {
                    "class": "recess",
                    "cx": f"{row.u:.4f}",
                    "cy": f"{-row.v:.4f}",
                    "r": f"{row.recess_d / 2:.4f}",
                },
            )
    return bytes(ET.tostring(svg, encoding="utf-8", xml_declaration=True))
