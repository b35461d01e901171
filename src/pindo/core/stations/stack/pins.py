"""Pins: does a pin fit the bore that is there, and does it carry?

Bore between the gauge that goes and the one that does not; play = bore - pin. Double shear
T = n A tau D, D the shaft that is crossed (machine element handbooks, from memory). Lengths mm.
"""

import math
from collections.abc import Iterator
from functools import partial

import numpy as np

from pindo.core.document.stack_rows import Pin
from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Missing, Verdict
from pindo.core.numbers import Numbers, over
from pindo.core.stations.stack.common import STRENGTH

KEY = "stack.pins"
FIGURES = ("pin", "go", "no_go")
check = partial(Check, station=Station.STACK, question=KEY)


def shear_torque(pin: Numbers, pins: Numbers, across: Numbers, key_shear_mpa: float) -> Numbers:
    """Torque that pins carry in double shear: n A tau D. [N·m]"""
    return pins * np.pi / 4.0 * pin * pin * key_shear_mpa * across / 1000.0


def shear_factor(
    pin: Numbers, pins: Numbers, across: Numbers, torque: Numbers, key_shear_mpa: float
) -> Numbers:
    """The same over what it carries [-]."""
    return over(shear_torque(pin, pins, across, key_shear_mpa), torque)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Shear of the pins that carry a torque."""
    for row in inputs.build.pins:
        if not row.torque:
            continue
        at, name = f"pins.{row.n}.", row.name or f"pin {row.n}"
        yield check(
            id=f"stack.pin.shear.{row.n}",
            title=f"{name[:1].upper()}{name[1:]}, shear",
            value=shear_factor,
            at_least="link_factor",
            given={k: f"{at}{k}" for k in ("pin", "pins", "across", "torque")},
            kind="ratio",
            safety=True,
            says=f"{literal(name[:1].upper() + name[1:])} carries {{value}} times its torque; wants"
            " {limit}",
            why="A sheared fork pin leaves the clutch engaged for good.",
            caution=STRENGTH,
        )


def _fit(inputs: Inputs, row: Pin) -> Finding:
    """The pin in a bore that lies between two gauges."""
    id, name = f"stack.pin.fit.{row.n}", row.name or f"pin {row.n}"
    title, at = f"{name[:1].upper()}{name[1:]}, fit", f"pins.{row.n}"
    told = {f: inputs.quantities.get(f"{at}.{f}") for f in FIGURES}
    values = {f: None if q is None else q.value for f, q in told.items()}
    gone = tuple(
        Missing(
            address=f"{at}.{f}",
            name=f"{name}, {Pin.model_fields[f].title}",
            letter="",
            status="missing",
            detail="",
        )
        for f, v in values.items()
        if v is None
    )
    why = "A loose pin hammers its bore; one that is driven splits the fork."
    if gone:
        text = f"{name[:1].upper()}{name[1:]}: the bore was not gauged, go and no-go"
        return notice(id, KEY, title, Verdict.UNMEASURED, text, why=why, missing=gone, row=at)
    pin, go, no_go = (values[f] or 0.0 for f in FIGURES)
    if no_go <= go:
        text = f"{name[:1].upper()}{name[1:]}: what goes in is larger than what does not"
        return notice(id, KEY, title, Verdict.UNMEASURED, text, why=why, row=at)
    u = {f: 0.0 if q is None else q.u for f, q in told.items()}
    factor = inputs.rules["guard_band_factor"]
    least = go - pin - factor * math.hypot(u["go"], u["pin"])
    most = no_go - pin + factor * math.hypot(u["no_go"], u["pin"])
    play, press = inputs.rules["pin_play_max_mm"], inputs.rules["press_max_mm"]
    if least > play:
        verdict, words = Verdict.FOULS, "{at} is refused: at least {least} loose in its bore"
    elif most < -press:
        verdict, words = Verdict.FOULS, "{at} is refused: {tight} too large for its bore at least"
    elif most <= play and least >= -press:
        verdict, words = Verdict.GOES, "{at} fits: its bore is {go} to {no_go}"
    else:
        words = "{at}: its bore is {go} to {no_go}, so play is {least} to {most}; gauge it nearer"
        verdict = Verdict.TIGHT
    return notice(
        id,
        KEY,
        title,
        verdict,
        in_both(
            words,
            f"{name[:1].upper()}{name[1:]}",
            2,
            least=least,
            most=most,
            tight=-most,
            go=go,
            no_go=no_go,
        ),
        why=why,
        row=at,
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Every pin in its bore."""
    yield from (_fit(inputs, row) for row in inputs.build.pins)


def board(inputs: Inputs, seen: Seen) -> Board:
    """Each bore between its gauges, the pin that would fit, and how much stronger it is."""
    rows = []
    for row in inputs.build.pins:
        pin, go, no_go = (inputs.value(f"pins.{row.n}.{f}") for f in FIGURES)
        middle = None if go is None or no_go is None else (go + no_go) / 2.0
        area = None if middle is None or not pin else (middle / pin) ** 2
        rows.append(
            TableRow(
                cells=(row.name or f"pin {row.n}", pin, go, no_go, middle, area),
                address=f"pins.{row.n}",
                finding=f"stack.pin.fit.{row.n}",
            )
        )
    columns = (
        Column(key="pin", label="pin"),
        Column(key="d", label="supplied", kind="length", places=2),
        Column(key="go", label="goes in", kind="length", places=2),
        Column(key="no", label="does not", kind="length", places=2),
        Column(key="wants", label="bore, about", kind="length", places=2),
        Column(key="area", label="its area over the supplied", kind="ratio", places=2),
    )
    table = Table(key="pins", title="Pins and their bores", columns=columns, rows=tuple(rows))
    return Board(tables=(table,) if rows else ())


QUESTION = Question(
    path="pins",
    station=Station.STACK,
    name="Pins",
    asks="Does every pin fit the bore that is there, and does it carry?",
    lists=("pins",),
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
