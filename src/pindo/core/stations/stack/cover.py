"""Cover and discs: dowels, screws, fingers and linings that meet; how many discs, and the tool that
centres them; what the clutch carries.

Capacity T = n mu F R, n = two faces a disc, R = (Ro + Ri)/2 (uniform wear) or
2/3 (Ro^3 - Ri^3)/(Ro^2 - Ri^2) (uniform pressure): machine element handbooks, from memory.
"""

from collections.abc import Iterator
from functools import partial

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Note, Shape
from pindo.core.inputs.couplings import bellhoused, clutched
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.numbers import Numbers, over
from pindo.core.stations.stack.common import ROTATING, STACK_STATES, STRENGTH, chosen
from pindo.core.stations.stack.discs import disc_count

KEY = "stack.cover"
check = partial(Check, station=Station.STACK, question=KEY, accepts=STACK_STATES)
HANDLE = 40.0
"""Length that the tool stands out of the last hub. [mm]"""


def mean_radius(disc_od_mm: Numbers, lining_in_mm: Numbers) -> Numbers:
    """(Ro + Ri)/2, uniform wear. [mm]"""
    return (disc_od_mm + lining_in_mm) / 4.0


def pressure_radius(disc_od_mm: Numbers, lining_in_mm: Numbers) -> Numbers:
    """2/3 (Ro^3 - Ri^3)/(Ro^2 - Ri^2), uniform pressure. [mm]"""
    out, inside = disc_od_mm / 2.0, lining_in_mm / 2.0
    return over(2.0 / 3.0 * (out**3 - inside**3), out**2 - inside**2)


def capacity(
    clamp_n: Numbers,
    lining_friction: Numbers,
    disc_od_mm: Numbers,
    lining_in_mm: Numbers,
    discs: str,
) -> Numbers:
    """Torque at which the clutch slips, by uniform wear. [N·m]"""
    faces = 2.0 * disc_count(discs)
    return faces * lining_friction * clamp_n * mean_radius(disc_od_mm, lining_in_mm) / 1000.0


def capacity_factor(
    clamp_n: Numbers,
    lining_friction: Numbers,
    disc_od_mm: Numbers,
    lining_in_mm: Numbers,
    discs: str,
    engine_torque_nm: Numbers,
) -> Numbers:
    """The same over the engine's torque [-]."""
    held = capacity(clamp_n, lining_friction, disc_od_mm, lining_in_mm, discs)
    return over(held, engine_torque_nm)


def ring_inside(finger_tip_mm: Numbers, release_face_in_mm: Numbers) -> Numbers:
    """Finger tips beyond the inside of the bearing's ring, on one side. [mm]"""
    return (finger_tip_mm - release_face_in_mm) / 2.0


def ring_outside(release_face_out_mm: Numbers, finger_tip_mm: Numbers) -> Numbers:
    """The ring beyond the finger tips, on one side. [mm]"""
    return (release_face_out_mm - finger_tip_mm) / 2.0


def sprung_gap(sprung_front_mm: Numbers, bolt_heads_mm: Numbers, disc_wear_mm: Numbers) -> Numbers:
    """Sprung centre of a worn disc to the heads of the flywheel bolts. [mm]"""
    return sprung_front_mm - disc_wear_mm / 2.0 - bolt_heads_mm


CRANK_DOWELS = check(
    id="stack.crank_dowels",
    title="Crank to flywheel, dowels",
    value=plain.difference,
    at_least=plain.zero,
    at_most=plain.zero,
    given={"a": "crank_dowels", "b": "flywheel_dowels"},
    kind="count",
    says="Crank has {a} dowels, flywheel {b} holes for them",
    why="A dowel says where the weights and the timing marks stand; a missing one shears bolts.",
    caution=ROTATING,
)
CHECKS = (
    CRANK_DOWELS,
    check(
        id="stack.cover_thread",
        title="Clutch cover to flywheel, thread",
        value=plain.difference,
        at_least=plain.minus,
        at_most="thread_same_mm",
        given={
            "a": "cover_thread_mm",
            "b": "flywheel_cover_thread_mm",
            "limit": "thread_same_mm",
        },
        says="Cover takes bolts of {a}, flywheel has threads of {b}",
        why="Sleeves and larger holes lose the cover's place.",
    ),
    check(
        id="stack.cover_dowels",
        title="Clutch cover to flywheel, dowels",
        value=plain.difference,
        at_least=plain.zero,
        at_most=plain.zero,
        given={"a": "cover_dowels", "b": "flywheel_cover_dowels"},
        kind="count",
        says="Cover has {a} holes for dowels, flywheel {b} dowels",
        why="Screws clamp the cover; dowels keep it true. One too many holds it off its face.",
        caution=ROTATING,
    ),
    check(
        id="stack.ring_inside",
        title="Release bearing under the fingers, inside",
        value=ring_inside,
        at_least="finger_contact_mm",
        says="Finger tips stand {value} outside the ring's inner edge; needs {limit}",
        fouls="Finger tips stand {over} inside the bearing's ring: they miss it",
        why="Fingers that run off the ring cut it, and themselves.",
    ),
    check(
        id="stack.ring_outside",
        title="Release bearing under the fingers, outside",
        value=ring_outside,
        at_least="finger_contact_mm",
        says="The bearing's ring stands {value} beyond the finger tips; needs {limit}",
        fouls="Finger tips stand {over} outside the bearing's ring: they miss it",
        why="Fingers that run off the ring cut it, and themselves.",
    ),
    check(
        id="stack.capacity",
        title="Clutch capacity from its clamp",
        value=capacity_factor,
        at_least="clutch_torque_factor",
        given={"discs": "discs"},
        kind="ratio",
        safety=True,
        says="By clamp, lining and radius the clutch holds {value} times the engine's torque; wants"
        " {limit}",
        why="What the maker rates and what its figures carry should say the same.",
        caution=STRENGTH,
    ),
)
SPRUNG = check(
    id="stack.sprung",
    title="Sprung centre to flywheel bolts",
    value=sprung_gap,
    at_least="sprung_gap_mm",
    says="Sprung centre clears the flywheel bolts by {value} with a worn disc; needs {limit}",
    fouls="Sprung centre runs {over} into the flywheel bolts with a worn disc",
    why="Springs turn against the hub and lean: what they touch they mill away.",
)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Dowels of every flywheel or flexplate; the rest with a clutch."""
    if not clutched(inputs):
        yield CRANK_DOWELS
        return
    yield from CHECKS
    if inputs.options.get("disc_centre") == "sprung":
        yield SPRUNG


def notices(inputs: Inputs) -> Iterator[Finding]:
    """The tool that centres, and a disc that suits its flywheel."""
    if not clutched(inputs):
        return
    discs, tool = chosen(inputs, "discs") or "one", chosen(inputs, "centring_tool")
    more = discs != "one"
    if tool != "at hand":
        verdict = Verdict.UNMEASURED if not tool else Verdict.FOULS if more else Verdict.TIGHT
        what = {"": "not said", "none": "none", "ordered or to be made": "not there yet"}[tool]
        yield notice(
            "stack.centring_tool",
            KEY,
            "Centring tool",
            verdict,
            f"Centring tool: {what}. With {discs} disc{'s' if more else ''} it is"
            f" {'needed: no eye centres two' if more else 'advised'}; its drawing is here",
            why="A disc off centre stops the joining hours later, with the box on the crane.",
            inputs=("centring_tool", "discs"),
        )
    kind, centre = (chosen(inputs, k) for k in ("flywheel_kind", "disc_centre"))
    if kind and centre and (kind == "dual-mass") == (centre == "sprung"):
        words = (
            "A sprung disc on a dual-mass flywheel: two sets of springs swing against each other"
            if kind == "dual-mass"
            else "A solid disc on a one-piece flywheel: nothing takes the engine's swing, the box"
            " rattles"
        )
        yield notice(
            "stack.disc_centre",
            KEY,
            "Disc and flywheel",
            Verdict.TIGHT,
            words,
            why="One of the two carries the springs, as a rule.",
            inputs=("flywheel_kind", "disc_centre"),
        )


def tool_steps(inputs: Inputs) -> list[tuple[str, float, float]] | None:
    """The centring tool as steps from its nose: what each enters, its diameter and length; None
    while one of the sizes is not known. [mm]
    """
    known = inputs.known(
        ("pilot_bore_mm", "nose_mm", "disc_spline_in_mm", "hub_mm", "hub_front_mm", "tip_s")
    )
    face = inputs.value("friction_face_s")
    if known is None or face is None:
        return None
    more = disc_count(inputs.options.get("discs", "one"))
    play = inputs.rules["tool_play_mm"]
    shoulder = known["tip_s"] + known["nose_mm"]
    rear = face + known["hub_front_mm"] + known["hub_mm"]
    if more > 1:
        last = inputs.known(("hub2_front_mm", "hub2_mm"))
        if last is None:
            return None
        rear = face + last["hub2_front_mm"] + last["hub2_mm"]
    return [
        ("pilot bearing", known["pilot_bore_mm"] - play, known["nose_mm"]),
        (
            "hubs of the discs" if more > 1 else "hub of the disc",
            known["disc_spline_in_mm"] - play,
            max(rear - shoulder, known["hub_mm"]) + HANDLE,
        ),
    ]


def tool_profile(inputs: Inputs) -> tuple[tuple[float, float], ...] | None:
    """The tool's outline about its axis, nose first, counter-clockwise; None while a size is not
    known. [mm]
    """
    steps = tool_steps(inputs)
    if steps is None:
        return None
    x, above = 0.0, []
    for _, d, long in steps:
        above += [(x, d / 2.0), (x + long, d / 2.0)]
        x += long
    return (*((a, -b) for a, b in above), *reversed(above))


def tool_drawing(inputs: Inputs) -> Drawing | None:
    """The centring tool to scale, its nose to the left."""
    steps = tool_steps(inputs)
    if steps is None:
        return None
    x = 0.0
    notes: list[Note] = []
    for name, d, long in steps:
        words = f"Ø {d:.2f} x {long:.0f}, {name}"
        notes.append(Note(text=words, x=x + 2.0, y=steps[-1][1] / 2.0 + 8.0 + 8.0 * len(notes)))
        x += long
    top = steps[-1][1] / 2.0 + 30.0
    return Drawing(
        name="Centring tool",
        view="turned from one piece, nose to the left; mm",
        rules=True,
        x_low=-8.0,
        x_high=x + 8.0,
        y_low=-steps[-1][1] / 2.0 - 10.0,
        y_high=top,
        shapes=(
            Shape(part="centring tool", points=tool_profile(inputs) or (), style="body"),
            Shape(part="axis", points=((-6.0, 0.0), (x + 6.0, 0.0)), style="axis", closed=False),
        ),
        notes=tuple(notes),
    )


def _capacities(inputs: Inputs) -> Table | None:
    """Capacity by both theories."""
    known = inputs.known(("clamp_n", "lining_friction", "disc_od_mm", "lining_in_mm"))
    if known is None or known["lining_in_mm"] >= known["disc_od_mm"]:
        return None
    discs = inputs.options.get("discs", "one")
    faces = 2.0 * disc_count(discs)
    engine = inputs.value("engine_torque_nm")
    rows = []
    theories = (("uniform wear, run in", mean_radius), ("uniform pressure, new", pressure_radius))
    for name, of in theories:
        radius = float(of(known["disc_od_mm"], known["lining_in_mm"]))
        torque = faces * known["lining_friction"] * known["clamp_n"] * radius / 1000.0
        rows.append(TableRow(cells=(name, radius, torque, torque / engine if engine else None)))
    columns = (
        Column(key="by", label="by"),
        Column(key="r", label="working radius", kind="length", places=1),
        Column(key="t", label="slips at", kind="torque", places=0),
        Column(key="x", label="times the engine's", kind="ratio", places=2),
    )
    return Table(key="capacity", title="What the clutch holds", columns=columns, rows=tuple(rows))


def board(inputs: Inputs, seen: Seen) -> Board:
    """The centring tool, and the clutch's capacity by both theories."""
    drawing, table = tool_drawing(inputs), _capacities(inputs)
    if not clutched(inputs):
        return Board()
    return Board(
        drawings=(drawing,) if drawing is not None else (),
        tables=(table,) if table is not None else (),
    )


QUESTION = Question(
    path="cover",
    station=Station.STACK,
    name="Cover",
    asks="Do dowels, screws, fingers and linings meet, and what centres the discs?",
    options=("discs", "disc_centre", "flywheel_kind", "centring_tool"),
    dimensions={
        "A": "crank_dowels",
        "B": "flywheel_dowels",
        "C": "cover_thread_mm",
        "D": "flywheel_cover_thread_mm",
        "E": "cover_dowels",
        "F": "flywheel_cover_dowels",
        "G": "finger_tip_mm",
        "H": "release_face_in_mm",
        "J": "release_face_out_mm",
        "K": "sprung_front_mm",
        "L": "disc_spline_in_mm",
        "M": "lining_in_mm",
        "N": "lining_friction",
        "P": "clamp_n",
    },
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    files=(
        ("centring-tool.dxf", "Tool, DXF"),
        ("centring-tool.svg", "SVG"),
        ("centring-tool.pdf", "1:1 on A4"),
    ),
    where="block face",
)
