"""The axial section of the stack, to scale: upper half, x is the station s, y the radius."""

from collections.abc import Callable, Mapping
from dataclasses import replace

from pindo.core.drawing.board import Board
from pindo.core.drawing.callouts import lettered
from pindo.core.drawing.shapes import Drawing, Note, Point, Shape, Usual, box
from pindo.core.geometry.axial import (
    BEHIND_THE_BELL,
    bell_mouth_s,
    flywheel_flange_s,
    mouth_s,
    starter_flange_s,
)
from pindo.core.inputs.couplings import converter, packed
from pindo.core.inputs.dimensions import DIMENSIONS, holds
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.question import Seen
from pindo.core.stations.stack.discs import disc_count
from pindo.core.stations.stack.section_clutch import (
    clutch_shapes,
    dual_mass_shapes,
    flywheel_shapes,
    further_discs,
    pack_shapes,
    pilot_shape,
    shaft_shapes,
    still_shapes,
)
from pindo.core.stations.stack.section_converter import (
    CONVERTER_DIAMETERS,
    converter_anchors,
    converter_gaps,
    converter_shapes,
    converter_sizes,
)
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


def _between(inputs: Inputs, g: Usual, pilot_in: str, end: float) -> list[Shape]:
    """What turns between crank and gearbox, by what the engine drives through."""
    if converter(inputs):
        return converter_shapes(g, end)
    turning = [*flywheel_shapes(g), *shaft_shapes(g, end)]
    if packed(inputs):
        return [*turning, *pack_shapes(g)]
    if inputs.options.get("flywheel_kind") == "dual-mass":
        turning += dual_mass_shapes(g)
    turning += further_discs(g, disc_count(inputs.options.get("discs", "one")))
    return [*turning, *clutch_shapes(g), pilot_shape(g, pilot_in), *still_shapes(g, end)]


def _joints(inputs: Inputs, g: Usual) -> list[Shape]:
    """Where one piece of the crank spacer ends and the next begins."""
    s, found = g("crank_flange_mm"), []
    for row in inputs.build.spacer_pieces[:-1]:
        thick = inputs.value(f"spacer_pieces.{row.n}.thick")
        if thick is None:
            return []
        s += thick
        edge = g("crank_pcd_mm") / 2 + 13
        ends = ((s, g("flywheel_register_mm") / 2), (s, edge))
        found.append(Shape(part="joint of the spacer", points=ends, style="thin", closed=False))
    return found


def _asked(inputs: Inputs, at: Mapping[str, Point]) -> dict[str, Point]:
    """Of the sizes with a place in the picture those that the build is asked for."""
    options = {k: inputs.options.get(k, "") for a in at for k, _ in DIMENSIONS[a].when}
    return {a: point for a, point in at.items() if holds(DIMENSIONS[a].when, options)}


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
        *_between(inputs, g, pilot_in, end),
        *_joints(inputs, g),
        *_housing(g, rim, plate_at),
        *_starter(g, starter_on, plate_at),
        Shape(part="crank axis", points=((FRONT - 6, 0), (end + 4, 0)), style="axis", closed=False),
        Shape(part="block face", points=((0, -8), (0, rim + 4)), style="hidden", closed=False),
    ]
    at = anchors(g, pilot_in, starter_on, plate_at)
    if converter(inputs):
        at |= converter_anchors(g)
    ends, spoken = sizes(g, at, starter_on, plate_at), gaps(g, at, pilot_in)
    if converter(inputs):
        ends |= converter_sizes(g, at)
        spoken = [*spoken, *converter_gaps(g, at)]
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
        callouts=lettered(question, _asked(inputs, at), ends, (*DIAMETERS, *CONVERTER_DIAMETERS)),
        gaps=tuple(spoken),
        handles=tuple(handles(inputs, at, mouth, back, rim)),
        notes=(
            Note(text="block face", x=FRONT - 8, y=rim + 5),
            Note(text="engine", x=FRONT + 4, y=rim - 14),
            Note(text="gearbox", x=end - 34, y=rim - 14),
        ),
    )


def section_for(inputs: Inputs, question: str, seen: Seen) -> Drawing:
    """The section with the letters of one question, and the gaps that its findings speak of."""
    own, drawn = {f.id for f in seen.findings}, section(inputs, question)
    return replace(drawn, gaps=tuple(g for g in drawn.gaps if g.finding in own))


def section_board(question: str) -> Callable[[Inputs, Seen], Board]:
    """The section as the board of one question of the station."""

    def board(inputs: Inputs, seen: Seen) -> Board:
        return Board(drawings=(section_for(inputs, question, seen),))

    return board
