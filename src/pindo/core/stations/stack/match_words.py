"""What has to match in words: balance, certificate, the pilot's place; every pair at order, at
delivery and before the bolts; the words for one call to the maker.
"""

from collections.abc import Callable, Iterator, Mapping

from pindo.core.document.evidence import TAKEN_WITH_A_TOOL, Source, refused_state
from pindo.core.document.sizes import Statement
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.couplings import clutched, converter
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.inputs import Inputs, Memory
from pindo.core.inputs.statements import resolve_dimension
from pindo.core.inputs.units import write
from pindo.core.judging.check import Check
from pindo.core.judging.evaluate import judge, missing_inputs
from pindo.core.judging.notice import in_kinds, notice
from pindo.core.judging.question import QUESTIONS, Seen
from pindo.core.judging.verdict import SEVERITY, Finding, Missing, Sentence, Verdict
from pindo.core.stations.stack.common import ROTATING, STACK_STATES, chosen, unsaid
from pindo.core.stations.stack.section import section_for

KEY = "stack.match"
PAIRS = ("stack.match", "stack.cover", "stack.fits", "stack.converter")
"""Questions whose checks are of two parts that meet."""
BALANCED: Mapping[tuple[str, str], Verdict] = {
    ("by itself", "no weight"): Verdict.GOES,
    ("with a weight on its flywheel", "the weight of this engine"): Verdict.GOES,
}
"""What suits; every other pair that was said does not."""


def _carrier(inputs: Inputs) -> str:
    return "flexplate" if converter(inputs) else "flywheel"


def _balance(inputs: Inputs) -> Finding:
    """Engine and flywheel balanced alike: a weight for another engine shakes this one."""
    keys = ("engine_balance", "flywheel_balance")
    engine, wheel = (chosen(inputs, k) for k in keys)
    missing, part = unsaid(inputs, *keys), _carrier(inputs)
    verdict = Verdict.UNMEASURED if missing else BALANCED.get((engine, wheel), Verdict.FOULS)
    text = (
        f"How engine and {part} are balanced is not said"
        if missing
        else f"Engine is balanced {engine}, {part} carries {wheel}"
        + ("" if verdict == Verdict.GOES else ": refused")
    )
    return notice(
        "stack.balance",
        KEY,
        "Balance",
        verdict,
        text,
        why="Same bolts are not same balance: the crank shakes itself and its bearings to pieces.",
        caution=ROTATING,
        missing=missing,
        inputs=keys,
    )


def _certificate(inputs: Inputs) -> Finding:
    """A part without a certificate is for the power that it was made for, and for a while."""
    said, part = chosen(inputs, "flywheel_certificate"), _carrier(inputs)
    now, made = inputs.value("engine_power_kw"), inputs.value("original_power_kw")
    missing = unsaid(inputs, "flywheel_certificate")
    more = tuple(
        Missing(address=k, name=DIMENSIONS[k].name, letter="", status="missing", detail="")
        for k, v in (("engine_power_kw", now), ("original_power_kw", made))
        if v is None
    )
    words: Mapping[str, tuple[Verdict, str | Sentence]] = {
        "": (Verdict.UNMEASURED, f"Whether the {part} comes with a certificate is not said"),
        "with a certificate": (Verdict.GOES, f"The {part} comes with a certificate"),
    }
    verdict, text = words.get(said, (Verdict.UNMEASURED, ""))
    if said == "without one":
        if now is None or made is None:
            missing = more
            text = f"The {part} has no certificate, and what it was made for is not known"
        elif now > made:
            verdict = Verdict.FOULS
            text = in_kinds(
                f"The {part} has no certificate and was made for {{made}}: never with {{now}}",
                made=(made, "power"),
                now=(now, "power"),
            )
        else:
            verdict = Verdict.TIGHT
            text = in_kinds(
                f"The {part} has no certificate: up to {{made}} that it was made for, shielded, for"
                " a while only",
                made=(made, "power"),
            )
    return notice(
        "stack.certificate",
        KEY,
        "Certificate of what turns",
        verdict,
        text,
        why="A part that bursts goes through floor and feet.",
        caution=ROTATING,
        missing=missing,
        inputs=("flywheel_certificate",),
    )


def _pilot(inputs: Inputs) -> Iterator[Finding]:
    """One pilot bearing, where the stack is worked out with it."""
    found, wanted = chosen(inputs, "pilot_found"), chosen(inputs, "pilot_in")
    missing = unsaid(inputs, "pilot_found", "pilot_in")
    place = {"in the crank": "crank", "in the flywheel": "flywheel"}.get(found, "")
    if missing:
        verdict, text = Verdict.UNMEASURED, "Where a pilot bearing is found is not said"
    elif found == "in both":
        verdict = Verdict.FOULS
        text = "A pilot bearing is found in crank and flywheel: one of the two is the wrong part"
    elif found == "in neither":
        verdict = Verdict.TIGHT
        text = f"No pilot bearing is fitted yet; the stack is worked out with one in the {wanted}"
    elif place != wanted:
        verdict = Verdict.FOULS
        text = f"A pilot bearing is found {found}, the stack is worked out with one in the {wanted}"
    else:
        verdict, text = Verdict.GOES, f"One pilot bearing, {found}"
    yield notice(
        "stack.pilot_place",
        KEY,
        "Place of the pilot bearing",
        verdict,
        text,
        why="Two bearings never line up, and none lets the shaft whip.",
        missing=missing,
        inputs=("pilot_found", "pilot_in"),
    )
    if inputs.options.get("flywheel_through") == "blind in its middle" and wanted == "crank":
        yield notice(
            "stack.blind",
            KEY,
            "Blind flywheel",
            Verdict.FOULS,
            "The flywheel is blind in its middle and the nose has to reach the crank",
            why="A flywheel that is closed stops the shaft before its bearing.",
            inputs=("flywheel_through", "pilot_in"),
        )


SINGLE_USE: Mapping[str, tuple[Verdict, str]] = {
    "not said": (Verdict.UNMEASURED, "whether its screws hold but once is not said"),
    "new": (Verdict.GOES, "its single-use screws are new"),
    "spent": (
        Verdict.FOULS,
        "its screws were drawn once and are spent; new ones before they go in",
    ),
}
"""What is told of the screws of a joint that turns; of those that may be drawn again nothing."""


def _single_use(inputs: Inputs) -> Iterator[Finding]:
    """Screws of what turns that hold once: they are new, or they do not go in."""
    for joint in inputs.build.joints:
        if joint.kind != "rotating" or joint.single_use not in SINGLE_USE:
            continue
        name = joint.name or f"Joint {joint.n}"
        verdict, words = SINGLE_USE[joint.single_use]
        yield notice(
            f"stack.single_use.{joint.n}",
            KEY,
            f"Single-use screws, {name}",
            verdict,
            f"{name}: {words}",
            why="A screw drawn past its yield holds less every time, and nobody sees it.",
            caution=ROTATING,
            row=f"joints.{joint.n}",
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Balance and certificate of what turns, its single-use screws; with a clutch, the pilot
    bearing's place.
    """
    yield _balance(inputs)
    yield _certificate(inputs)
    yield from _single_use(inputs)
    if clutched(inputs):
        yield from _pilot(inputs)


def _at_order(s: Statement) -> bool:
    return s.source != Source.MEASURED


def _at_delivery(s: Statement) -> bool:
    return s.source in TAKEN_WITH_A_TOOL


def _before_bolts(s: Statement) -> bool:
    return s.source == Source.MEASURED and not refused_state(s.state, STACK_STATES)


MOMENTS: tuple[tuple[str, str, Callable[[Statement], bool]], ...] = (
    ("order", "at order", _at_order),
    ("delivery", "at delivery", _at_delivery),
    ("bolts", "before the bolts", _before_bolts),
)
"""When a pair is compared, and which readings count then."""


def at_moment(inputs: Inputs, check: Check, counts: Callable[[Statement], bool]) -> Inputs:
    """The inputs with those statements alone that count at a moment, of the sizes of one check."""
    said = dict(inputs.said)
    for address in check.addresses:
        of = inputs.document.dims.get(address)
        if of is None:
            continue
        # What nobody has said so is compared by what is known of it: the own engine is measured.
        kept = [s for s in of.statements if counts(s)]
        if not kept and counts is _at_order:
            kept = list(of.statements)
        chosen = of.chosen if any(s.id == of.chosen for s in kept) else None
        few = of.model_copy(update={"statements": kept, "chosen": chosen})
        said[address] = resolve_dimension(address, few)
    return Inputs(inputs.document, said, inputs.rules, inputs.options, Memory())


def _pairs(inputs: Inputs) -> list[Check]:
    """Every check of two parts that meet and are bought or measured by themselves."""
    return [
        c
        for key in PAIRS
        if key in QUESTIONS and QUESTIONS[key].when(inputs)
        for c in QUESTIONS[key].checks(inputs)
        if all(a in DIMENSIONS for a in c.addresses)
    ]


def moments_table(inputs: Inputs) -> Table:
    """Every pair at the three moments, and what it still wants at the first that is open."""
    rows = []
    for check in _pairs(inputs):
        marks, want = [], ""
        for _, words, counts in MOMENTS:
            then = at_moment(inputs, check, counts)
            gone = missing_inputs(check, then)
            verdict = Verdict.UNMEASURED if gone else judge(check, then)
            marks.append(verdict)
            if gone and not want:
                want = f"{words}: {', '.join(m.name.lower() for m in gone[:2])}"
        known = [m for m in marks if m != Verdict.UNMEASURED]
        worst = min(known, key=SEVERITY.__getitem__, default=Verdict.UNMEASURED)
        rows.append(
            TableRow(
                cells=(check.title, *(_told(m) for m in marks), want),
                finding=check.id,
                mark=worst.value,
            )
        )
    columns = (
        Column(key="pair", label="pair"),
        *(Column(key=k, label=words) for k, words, _ in MOMENTS),
        Column(key="want", label="open"),
    )
    note = (
        "At order papers and sellers count, at delivery what was measured, before the bolts what"
        " was measured here on the bench. A pair that goes on paper may foul when it comes."
    )
    return Table(
        key="moments",
        title="At order, at delivery, before the bolts",
        columns=columns,
        rows=tuple(rows),
        note=note,
        first=12,
    )


def _told(verdict: Verdict) -> str:
    return "open" if verdict == Verdict.UNMEASURED else verdict.value


CLUTCH_CALL = (
    ("Disc", ("disc_od_mm", "disc_splines", "disc_spline_od_mm", "hub_mm", "hub_front_mm")),
    ("Shaft that it slides on", ("shaft_splines", "shaft_spline_od_mm", "spline_mm")),
    ("Flywheel", ("friction_face_mm", "flywheel_cover_pcd_mm", "flywheel_cover_bolts")),
    ("Cover", ("finger_height_mm", "cover_height_mm", "finger_travel_mm")),
    ("Release", ("release_bore_mm", "guide_tube_od_mm", "slave_stroke_mm")),
    ("Pilot", ("pilot_bore_mm", "pilot_od_mm", "pilot_width_mm", "nose_d_mm")),
    ("Has to carry", ("engine_torque_nm",)),
)
CONVERTER_CALL = (
    ("Flexplate", ("crank_pcd_mm", "crank_bolts", "crank_register_mm", "flexplate_offset_mm")),
    ("Ring gear", ("ring_teeth", "flywheel_od_mm", "ring_width_mm", "ring_front_mm")),
    ("Pads", ("pad_count", "pad_pcd_mm", "pad_bolt_mm")),
    ("Converter", ("converter_pilot_d_mm", "converter_pilot_mm", "seated_depth_mm")),
    ("Has to carry", ("engine_torque_nm",)),
)
"""What one call to the maker has to tell, in the order in which it is asked."""


def order_table(inputs: Inputs) -> Table:
    """The words for one call: every size that the maker asks for, with its ±, and what to measure
    before the call.
    """
    rows = []
    for what, keys in CONVERTER_CALL if converter(inputs) else CLUTCH_CALL:
        told, gone = [], []
        for key in keys:
            q = inputs.quantities[key]
            if q.value is None:
                gone.append(q.name.lower())
                continue
            pm = f" ± {write(q.pm, q.kind)}" if q.pm and q.kind == "length" else ""
            told.append(f"{q.name.lower()} {write(q.value, q.kind)}{pm}")
        rows.append(TableRow(cells=(what, "; ".join(told), ", ".join(gone))))
    words = {
        k: inputs.options.get(k, "")
        for k in ("disc_spline_standard", "shaft_spline_standard", "engine_balance")
    }
    said = "; ".join(f"{OPTIONS[k].name.lower()}: {v}" for k, v in words.items() if v)
    rows.append(TableRow(cells=("In words", said, "")))
    columns = (
        Column(key="what", label="tell"),
        Column(key="sizes", label="sizes"),
        Column(key="gone", label="measure before the call"),
    )
    title = "Words for one call to the maker"
    return Table(key="order", title=title, columns=columns, rows=tuple(rows))


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section, every pair at its three moments, and the words for the maker."""
    return Board(
        drawings=(section_for(inputs, KEY, seen),),
        tables=(moments_table(inputs), order_table(inputs)),
    )
