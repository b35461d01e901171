"""Converter: does it reach its flexplate without leaving the pump, and may its screws be drawn?

Lengths mm along the crank, arrays broadcast. Pull-forward g = mouth + pads behind it - pad face of
the flexplate: the converter stands home before and is drawn forward by g. Sums along one axis:
closed forms, no published source.
"""

from collections.abc import Iterator
from functools import partial

from pindo.core.drawing.board import Board, Reading
from pindo.core.inputs.couplings import converter
from pindo.core.inputs.dimensions import OPTIONS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.evaluate import judge, missing_inputs
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Missing, Verdict
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.bolts import thread_beyond, thread_in_use, thread_wanted
from pindo.core.stations.stack.common import JOINING, ROTATING, STACK_STATES, chosen, not_done
from pindo.core.stations.stack.converter_kind import KEY, of_this_gearbox
from pindo.core.stations.stack.match import bolt_circle_play
from pindo.core.stations.stack.section import section_for

check = partial(Check, station=Station.STACK, question=KEY, accepts=STACK_STATES)


def pull_forward(
    mouth_s: Numbers,
    pad_depth_mm: Numbers,
    flywheel_flange_s: Numbers,
    flexplate_offset_mm: Numbers,
) -> Numbers:
    """Pads of the converter, home, to the flexplate's pad face; negative when the flexplate pushes
    it back. [mm]
    """
    return mouth_s + pad_depth_mm - (flywheel_flange_s + flexplate_offset_mm)


def hub_in_pump(
    hub_in_pump_mm: Numbers,
    mouth_s: Numbers,
    pad_depth_mm: Numbers,
    flywheel_flange_s: Numbers,
    flexplate_offset_mm: Numbers,
) -> Numbers:
    """What of the hub still drives the pump once the converter is drawn forward. [mm]"""
    return hub_in_pump_mm - pull_forward(
        mouth_s, pad_depth_mm, flywheel_flange_s, flexplate_offset_mm
    )


def pilot_in_bore(
    flywheel_flange_s: Numbers,
    flexplate_offset_mm: Numbers,
    converter_pilot_mm: Numbers,
    pilot_lead_mm: Numbers,
    converter_bore_s: Numbers,
) -> Numbers:
    """Straight part of the converter's pilot inside its bore, joined; negative when it does not
    reach it. [mm]
    """
    end = flywheel_flange_s + flexplate_offset_mm - converter_pilot_mm + pilot_lead_mm
    return converter_bore_s - end


def pilot_to_bottom(
    flywheel_flange_s: Numbers,
    flexplate_offset_mm: Numbers,
    converter_pilot_mm: Numbers,
    crank_flange_mm: Numbers,
    crank_bore_depth_mm: Numbers,
) -> Numbers:
    """End of the joined converter's pilot to the bottom of the crank's bore. [mm]"""
    end = flywheel_flange_s + flexplate_offset_mm - converter_pilot_mm
    return end - (crank_flange_mm - crank_bore_depth_mm)


def pilot_clearance(pilot_seat_mm: Numbers, converter_pilot_d_mm: Numbers) -> Numbers:
    """Diametral clearance of the converter's pilot in its bore. [mm]"""
    return pilot_seat_mm - converter_pilot_d_mm


def short_of_home(pad_depth_mm: Numbers, seated_depth_mm: Numbers) -> Numbers:
    """How far the pads stand short of the depth that the paper gives. [mm]"""
    return seated_depth_mm - pad_depth_mm


def converter_in_bell(bell_bore_mm: Numbers, converter_od_mm: Numbers) -> Numbers:
    """Radial gap of the converter in the bell. [mm]"""
    return (bell_bore_mm - converter_od_mm) / 2.0


def pad_play(
    pad_pcd_mm: Numbers,
    flexplate_pad_pcd_mm: Numbers,
    pad_bolt_mm: Numbers,
    flexplate_pad_hole_mm: Numbers,
) -> Numbers:
    """Play left at a pad's bolt: (H - F)/2 less the difference of the radii. [mm]"""
    return bolt_circle_play(pad_pcd_mm, flexplate_pad_pcd_mm, pad_bolt_mm, flexplate_pad_hole_mm)


PAD_BOLT = {
    "long": "pad_bolt_long_mm",
    "clamped": "flexplate_thick_mm",
    "bolt": "pad_bolt_mm",
    "depth": "pad_thread_mm",
}
"""What a pad's bolt is, and what it goes through and into."""
PULL = check(
    id="stack.pull_forward",
    title="Converter pulled forward to its flexplate",
    value=pull_forward,
    at_least="pull_forward_min_mm",
    at_most="pull_forward_max_mm",
    monte_carlo=True,
    says="Converter is drawn forward {value} to its flexplate; wants {limit}",
    fouls="Flexplate pushes the converter back by {over}: faces drawn up would break the pump",
    why=(
        "Home in the pump is not where it runs: too little grinds the pump's face, too much leaves"
        " its drive."
    ),
    caution=JOINING,
)
CHECKS = (
    check(
        id="stack.seated",
        title="Converter home",
        value=short_of_home,
        at_most="seated_short_mm",
        says="Pads stand {value} short of the depth by the paper; at most {limit}",
        why=(
            "A converter that has not dropped over its last drive looks home, and breaks the pump"
            " when the faces are drawn up."
        ),
        caution=JOINING,
    ),
    PULL,
    check(
        id="stack.hub_in_pump",
        title="Converter hub in the pump",
        value=hub_in_pump,
        at_least=plain.given,
        given={"x": "hub_in_pump_least_mm"},
        says="Hub drives the pump by {value} once it is drawn forward; needs {limit}",
        fouls="Hub has left the pump by {over}",
        why="The pump's drive carries on its ends and strips: no oil, no drive.",
    ),
    check(
        id="stack.converter_pilot",
        title="Converter pilot in its bore",
        value=pilot_in_bore,
        at_least="converter_pilot_min_mm",
        says="Converter pilot sits {value} in its bore; needs {limit}",
        fouls="Converter pilot misses its bore by {over}",
        why="The pilot centres the converter; its bolts hold it there and do not.",
        caution=ROTATING,
    ),
    check(
        id="stack.converter_bottom",
        title="Converter pilot to the bore's bottom",
        value=pilot_to_bottom,
        at_least="tip_gap_min_mm",
        says="Converter pilot clears the bottom of the bore by {value}; needs {limit}",
        fouls="Converter pilot goes {over} into the bottom of the bore",
        why="A converter grows with heat and oil pressure: a pilot that bottoms pushes the crank.",
        caution=JOINING,
    ),
    check(
        id="stack.converter_fit",
        title="Converter pilot, fit",
        value=pilot_clearance,
        at_least="converter_pilot_clearance_min_mm",
        at_most="converter_pilot_clearance_max_mm",
        says="Converter pilot has {value} of clearance in its bore; wants {limit}",
        fouls="Converter pilot is {over} too large for its bore",
        why="A bore that is too large wants a ring; one that is too small holds the converter off.",
        caution=ROTATING,
    ),
    check(
        id="stack.pads",
        title="Converter to flexplate, pads",
        value=plain.difference,
        given={"a": "pad_count", "b": "flexplate_pads"},
        at_least=plain.zero,
        at_most=plain.zero,
        kind="count",
        says="Converter has {a} pads, flexplate {b} holes",
        why="Every pad carries its share of the torque.",
        caution=ROTATING,
    ),
    check(
        id="stack.pad_circle",
        title="Converter to flexplate, bolt circle",
        value=pad_play,
        at_least=plain.zero,
        says="Pad bolts have {value} of play left in the flexplate's holes",
        fouls="Pad bolts miss the flexplate's holes by {over}",
        why="A flexplate of the same crank bolts may carry another converter.",
        caution=ROTATING,
    ),
    check(
        id="stack.pad_thread",
        title="Pad bolts, thread in use",
        value=thread_in_use,
        at_least=thread_wanted,
        given=PAD_BOLT,
        safety=True,
        says="Pad bolts have {value} of thread in use; wants {limit}",
        fouls="Pad bolts end {over} inside the flexplate",
        why="A bolt on few threads strips them.",
        caution=ROTATING,
    ),
    check(
        id="stack.pad_bottom",
        title="Pad bolts, room before the thread ends",
        value=thread_beyond,
        at_least="thread_spare_mm",
        given=PAD_BOLT,
        safety=True,
        says="Pad bolts leave {value} of thread; wants {limit}",
        fouls="Pad bolts press {over} into the converter's cover",
        why="A bolt that is too long dents the cover and the clutch behind it.",
        caution=ROTATING,
    ),
    check(
        id="stack.converter_in_bell",
        title="Converter in the bell",
        value=converter_in_bell,
        at_least="rotating_gap_mm",
        says="Converter clears the bell by {value} all round; needs {limit}",
        fouls="Converter is {over} too large for the bell all round",
        why="It swells with pressure and heat.",
    ),
)
STUDS = "studs with nuts"
OF_BOLTS = frozenset({thread_in_use, thread_beyond})
MOMENTS = (
    ("finger_before", "before any screw is drawn"),
    ("finger_during", "while the screws are drawn"),
    ("finger_after", "with all screws tight"),
)
"""The three moments of the finger test, and when each is."""


def checks(inputs: Inputs) -> Iterator[Check]:
    """A stud brings its thread with it: what a bolt leaves in its pad is not asked."""
    studs = inputs.options.get("converter_joint") == STUDS
    yield from (c for c in CHECKS if not (studs and c.value in OF_BOLTS))


def _freedom(inputs: Inputs) -> str:
    """How a converter that is free moves under two fingers."""
    kind = inputs.options.get("converter_joint", "")
    if kind == STUDS:
        return "on studs it only rocks to and fro in their holes"
    return "without studs it spins" if kind else "without studs it spins, on studs it only rocks"


def drawn_allowed(inputs: Inputs) -> tuple[Verdict, str, tuple[Missing, ...]]:
    """Whether the screws of the faces may be drawn, why, and what is wanting for that."""
    if refused := next((f for f in of_this_gearbox(inputs) if f.verdict == Verdict.FOULS), None):
        return Verdict.FOULS, f"it is not a converter of this gearbox ({refused.title.lower()})", ()
    gone = tuple(missing_inputs(PULL, inputs))
    tests = {key: chosen(inputs, key) or "not yet" for key, _ in MOMENTS}
    stuck = [words for key, words in MOMENTS if tests[key] == "does not move"]
    if stuck:
        return Verdict.FOULS, f"the converter did not move {stuck[0]}: part the faces again", ()
    if gone:
        return Verdict.UNMEASURED, "its depth to the flexplate is not known", gone
    gap = judge(PULL, inputs)
    if gap != Verdict.GOES:
        sure = "is" if gap == Verdict.FOULS else "is not sure not to be"
        return gap, f"the gap at its pads {sure} outside its limits", ()
    if tests["finger_before"] != "moves freely":
        why = "the finger test with the faces together is not done"
        return Verdict.UNMEASURED, why, not_done(inputs, "finger_before")
    return Verdict.GOES, "it moved freely with the faces together", ()


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Whether screws may be drawn, the finger test at its three moments, the converter's kind."""
    verdict, why, missing = drawn_allowed(inputs)
    may = verdict == Verdict.GOES
    yield notice(
        "stack.converter_screws",
        KEY,
        "Screws between the faces",
        verdict,
        f"Screws may be drawn, evenly and feeling: {why}" if may else f"Draw no screw: {why}",
        why="Screws pull with tons: the pump breaks before the hand feels anything.",
        caution=JOINING,
        missing=missing,
        inputs=tuple(key for key, _ in MOMENTS),
    )
    for key, words in MOMENTS[1:]:
        said = chosen(inputs, key) or "not yet"
        moved = {"moves freely": Verdict.GOES, "does not move": Verdict.FOULS}
        yield notice(
            f"stack.{key}",
            KEY,
            OPTIONS[key].name,
            moved.get(said, Verdict.UNMEASURED),
            f"Finger test {words}: {said}; {_freedom(inputs)}",
            why="What binds while it is drawn up is found by two fingers, not by the wrench.",
            caution=JOINING,
            inputs=(key,),
        )
    yield from of_this_gearbox(inputs)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section with the converter home, its gap to the flexplate, and that gap as a figure."""
    own = {f.id: f for f in seen.findings}
    gap = own.get("stack.pull_forward")
    readings = (
        (
            Reading(
                name="Drawn forward",
                value=gap.value,
                kind="length",
                pm=gap.value_pm,
                places=2,
            ),
        )
        if gap is not None and gap.value is not None
        else ()
    )
    return Board(drawings=(section_for(inputs, KEY, seen),), readings=readings)


QUESTION = Question(
    path="converter",
    station=Station.STACK,
    name="Converter",
    asks="Does the converter reach its flexplate, and may the screws be drawn?",
    options=(
        "converter_joint",
        "finger_before",
        "finger_during",
        "finger_after",
        "converter_lockup",
        "gearbox_lockup",
        "converter_drive",
        "pump_drive",
    ),
    dimensions={
        "A": "pad_depth_mm",
        "B": "seated_depth_mm",
        "C": "flexplate_offset_mm",
        "D": "hub_in_pump_mm",
        "E": "hub_in_pump_least_mm",
        "F": "converter_pilot_mm",
        "G": "pilot_lead_mm",
        "H": "converter_pilot_d_mm",
        "J": "converter_od_mm",
        "K": "pad_count",
        "L": "flexplate_pads",
        "M": "pad_pcd_mm",
        "N": "flexplate_pad_pcd_mm",
        "P": "pad_bolt_mm",
        "Q": "flexplate_pad_hole_mm",
        "R": "flexplate_thick_mm",
        "S": "pad_bolt_long_mm",
        "T": "pad_thread_mm",
    },
    when=converter,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
