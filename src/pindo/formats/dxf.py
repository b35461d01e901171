"""The plate as DXF R2010 in millimetres: a layer for each kind of line, seen from behind, crank
axis at (0, 0).
"""

import io

from ezdxf import units
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new

from pindo.core.stations.mate.outline import Plate
from pindo.formats.plain_text import dxf_text

LAYERS = {
    "OUTLINE": 7,
    "WINDOW": 5,
    "FIRST_CUT": 9,
    "CLEARANCE": 3,
    "TAP_DRILL": 1,
    "DOWEL": 6,
    "RECESS": 4,
    "CENTRE": 8,
    "TEXT": 2,
}
LAYER_OF = {"clearance": "CLEARANCE", "tapped": "TAP_DRILL", "dowel": "DOWEL"}
MILLIMETRES = "origin at 0, 0; millimetres"


def plate_dxf(plate: Plate, title: str) -> bytes:
    """DXF of a plate: outline, openings, holes on the layer of their kind, centre marks,
    numbers.
    """
    doc = new("R2010", setup=["linetypes"])
    doc.units = units.MM
    for name, colour in LAYERS.items():
        doc.layers.add(name, color=colour, linetype="CENTER" if name == "CENTRE" else "CONTINUOUS")
    space = doc.modelspace()
    if plate.outline:
        space.add_lwpolyline(plate.outline, close=True, dxfattribs={"layer": "OUTLINE"})
    for opening in (plate.window, plate.pocket):
        if opening:
            space.add_circle((opening.u, opening.v), opening.d / 2, dxfattribs={"layer": "WINDOW"})
    for line in plate.lines:
        space.add_lwpolyline(line, close=True, dxfattribs={"layer": "WINDOW"})
    for line in plate.rough:
        space.add_lwpolyline(line, close=True, dxfattribs={"layer": "FIRST_CUT"})
    for row in plate.drilling:
        space.add_circle((row.u, row.v), row.d / 2, dxfattribs={"layer": LAYER_OF[row.layer]})
        if row.recess and row.recess_d:
            space.add_circle((row.u, row.v), row.recess_d / 2, dxfattribs={"layer": "RECESS"})
        arm = row.d / 2 + 3
        space.add_line((row.u - arm, row.v), (row.u + arm, row.v), dxfattribs={"layer": "CENTRE"})
        space.add_line((row.u, row.v - arm), (row.u, row.v + arm), dxfattribs={"layer": "CENTRE"})
        words = (
            f"{row.called} {row.what}"
            + (f", {row.drill}" if row.drill else "")
            + (f", recess {row.recess:g} deep" if row.recess else "")
        )
        space.add_text(dxf_text(words), height=3, dxfattribs={"layer": "TEXT"}).set_placement(
            (row.u + arm, row.v + 2), align=TextEntityAlignment.LEFT
        )
    space.add_text(
        dxf_text(f"{title}: {plate.seen}; {MILLIMETRES}"), height=4, dxfattribs={"layer": "TEXT"}
    ).set_placement((0, 6), align=TextEntityAlignment.MIDDLE_CENTER)
    text = io.StringIO()
    doc.write(text)
    return text.getvalue().encode("utf-8")
