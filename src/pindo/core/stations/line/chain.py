"""Chain: its length, its take-up, its plane, its speed and the hub that drives it."""

from collections.abc import Iterator, Mapping
from functools import partial
from types import MappingProxyType
from typing import Any

from pindo.core.drawing.board import Board, Reading
from pindo.core.geometry import chain
from pindo.core.geometry.chains import SPROCKETS, chain_of
from pindo.core.inputs.couplings import hubbed
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question, Seen
from pindo.core.stations.line.common import ordered
from pindo.core.stations.line.view import chain_drawing

CHAIN_STATES = MappingProxyType(
    {"position": frozenset({"resting loaded", "resting loose", "stand", "bench"})}
)
check = partial(Check, station=Station.LINE, question="line.chain", accepts=CHAIN_STATES)
Read = Mapping[str, Any]
CHAIN = (
    check(
        id="line.road_speed",
        title="Road speed with the clutch locked",
        value=chain.road_speed_kmh,
        at_most=plain.given,
        kind="road speed",
        given={"x": "road_speed_most"},
        says="At governed speed it runs {value}; at most {limit}",
        why=(
            "Gearing decides what brakes and track must stand. A worn engine or a slipping clutch"
            " proves nothing."
        ),
        caution="Brakes are proved before motion.",
    ),
)
HUB = check(
    id="line.hub_on_shaft",
    title="Clutch hub on its shaft",
    value=plain.given,
    at_least=chain.hub_wanted,
    given={"x": "clutch_on_shaft_mm"},
    safety=True,
    says="Clutch hub sits {value} on shaft and key; the key wants {limit}",
    why="A clutch on the end of its shaft shears its key or its shaft. Screening only.",
    caution="Guards on before it turns; nobody in its plane.",
)


def checks(inputs: Inputs) -> Iterator[Check]:
    """Length, take-up, plane, speed, hub."""
    drive = chain_of(inputs)
    if drive is None:
        return
    yield check(
        id="line.chain_even",
        title="Chain, even number of pitches",
        value=chain.odd_pitches,
        at_most=plain.zero,
        kind="count",
        says="Chain has {chain_links} pitches; an even number wants no cranked link",
        why="An odd number needs a cranked link, the weakest of the chain.",
    )
    yield check(
        id="line.chain_take_up",
        title="Take-up left for the chain",
        value=drive.take_up_left,
        reads=(*drive.centre_reads, *SPROCKETS),
        at_least=plain.zero,
        says="Engine slides to where the chain is straight with {value} of take-up left",
        fouls="Chain misses the range of the take-up by {over}",
        why="A chain that cannot be tightened jumps; one that cannot be slackened does not go on.",
    )
    yield check(
        id="line.chain_plane",
        title="Sprockets in one plane",
        value=drive.plane_angle,
        reads=tuple(dict.fromkeys((*drive.plane_reads, *drive.centre_reads, *SPROCKETS))),
        at_most="chain_offset_max_deg",
        kind="angle",
        says="Chain runs {value} off its plane; at most {limit}",
        why="A chain out of plane climbs its teeth and throws itself off.",
    )
    yield from CHAIN
    if hubbed(inputs):
        yield HUB


def orders(inputs: Inputs) -> Iterator[Reading]:
    """Pitches at the centre distance as it is: the even number next to it is ordered."""
    drive = chain_of(inputs)
    if drive is None or not all(inputs.value(a) for a in SPROCKETS):
        return
    reads = tuple(dict.fromkeys((*drive.centre_reads, *SPROCKETS)))
    name = "Chain, length in pitches"
    yield from ordered(inputs, name, "chain", reads, drive.length, "ratio")


def _facts(inputs: Inputs) -> tuple[Reading, ...]:
    """Figures of a chain drive that are no finding."""
    drive, teeth = chain_of(inputs), inputs.known(("driver_teeth", "driven_teeth"))
    if teeth is None or drive is None:
        return ()
    ratio = teeth["driven_teeth"] / max(teeth["driver_teeth"], 1.0)
    found = [Reading(name="gearing", value=ratio, kind="ratio")]
    if not drive.centre_read and (at := inputs.known(drive.centre_reads)) is not None:
        far = float(drive.centre(at))
        found.append(Reading(name="centre distance from the pose", value=far, kind="length"))
    if not drive.plane_read and (at := inputs.known(drive.plane_reads)) is not None:
        plane = float(drive.driver_plane(at))
        name = "driver sprocket left of centre, from the pose"
        found.append(Reading(name=name, value=plane, kind="length"))
    power, rpm = inputs.value("engine_power_kw"), inputs.value("engine_rpm")
    if power and rpm:
        torque = float(chain.torque_nm(power, rpm))
        found.append(Reading(name="engine torque", value=torque, kind="torque"))
    return tuple(found)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The chain on its sprockets, and its figures."""
    return Board(
        drawings=(chain_drawing(inputs, "line.chain"),), readings=(*orders(inputs), *_facts(inputs))
    )


QUESTION = Question(
    path="chain",
    station=Station.LINE,
    name="Chain",
    asks="Does the chain go on, stay straight and run at the right speed, on a hub that holds?",
    options=("drive",),
    dimensions={
        "A": "driver_teeth",
        "B": "driven_teeth",
        "C": "chain_pitch_mm",
        "D": "chain_links",
        "E": "chain_centre_mm",
        "F": "take_up_mm",
        "G": "driver_plane_mm",
        "H": "driven_plane_mm",
        "J": "sprocket_back_mm",
        "K": "sprocket_left_mm",
        "L": "sprocket_up_mm",
        "M": "engine_rpm",
        "N": "engine_power_kw",
        "P": "reduction_ratio",
        "Q": "road_speed_most",
        "R": "clutch_shaft_mm",
        "S": "clutch_key_mm",
        "T": "clutch_on_shaft_mm",
        "U": "tyre_mm",
        "V": "driven_axle_back_mm",
        "W": "axle_drop_mm",
    },
    when=lambda inputs: inputs.options.get("drive") == "chain",
    checks=checks,
    orders=orders,
    board=board,
    where="driven axle",
)
