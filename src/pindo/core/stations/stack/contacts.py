"""In which order things meet while the gearbox comes on: each feature by the gap between the faces
at which it reaches its counterpart. [mm]

Feature at s_A (of the gearbox, where it stands when the faces meet) and counterpart at s_B: they
meet when the faces are s_B - s_A apart; negative for what never meets.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from pindo.core.inputs.couplings import clutched, converter, packed
from pindo.core.inputs.derived import derived
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.discs import disc_count

Read = Mapping[str, Numbers]


@dataclass(frozen=True, kw_only=True)
class Feature:
    """Something of the gearbox that meets something of the engine."""

    name: str
    reads: tuple[str, ...]
    gap: Callable[[Read], Numbers]
    enters: bool
    """Whether it goes in there by rights: a spline, a nose, a dowel. What does not holds the faces
    off.
    """


@dataclass(frozen=True, kw_only=True)
class Contact:
    """A feature with the gap at which it meets, its standard uncertainty and its sources."""

    feature: Feature
    at: float
    u: float
    parts: Mapping[str, float]
    wants: tuple[str, ...]


def _hub_rear(r: Read) -> Numbers:
    return r["friction_face_s"] + r["hub_front_mm"] + r["hub_mm"]


SPLINE = "spline into the disc's hub"
"""What has to be in before any screw draws."""
TUBE = "guide tube on the disc's hub"
RIDER = "release bearing on the fingers"
"""What is pushed back while the faces close, where the bearing rides."""
CLUTCH = (
    Feature(
        name=SPLINE,
        reads=("friction_face_s", "hub_front_mm", "hub_mm", "tip_s", "spline_start_mm"),
        gap=lambda r: _hub_rear(r) - (r["tip_s"] + r["spline_start_mm"]),
        enters=True,
    ),
    Feature(
        name="nose into its bearing",
        reads=("pilot_rear_s", "tip_s"),
        gap=lambda r: r["pilot_rear_s"] - r["tip_s"],
        enters=True,
    ),
    Feature(
        name="shaft shoulder on the bearing",
        reads=("pilot_rear_s", "tip_s", "nose_mm"),
        gap=lambda r: r["pilot_rear_s"] - (r["tip_s"] + r["nose_mm"]),
        enters=False,
    ),
    Feature(
        name="shaft tip in the bottom of the bore",
        reads=("crank_flange_mm", "crank_bore_depth_mm", "tip_s"),
        gap=lambda r: r["crank_flange_mm"] - r["crank_bore_depth_mm"] - r["tip_s"],
        enters=False,
    ),
    Feature(
        name=RIDER,
        reads=(
            "friction_face_s",
            "finger_height_mm",
            "mouth_s",
            "release_parked_mm",
            "release_shim_mm",
        ),
        gap=lambda r: (
            r["friction_face_s"]
            + r["finger_height_mm"]
            - (r["mouth_s"] + r["release_parked_mm"] - r["release_shim_mm"])
        ),
        enters=False,
    ),
    Feature(
        name=TUBE,
        reads=("friction_face_s", "hub_front_mm", "hub_mm", "mouth_s", "guide_tube_mm"),
        gap=lambda r: _hub_rear(r) - (r["mouth_s"] + r["guide_tube_mm"]),
        enters=False,
    ),
    Feature(
        name="clutch cover on the bell's floor",
        reads=("friction_face_s", "cover_height_mm", "bell_mouth_s", "bell_depth_mm"),
        gap=lambda r: (
            r["friction_face_s"] + r["cover_height_mm"] - (r["bell_mouth_s"] + r["bell_depth_mm"])
        ),
        enters=False,
    ),
)
CONVERTER = (
    Feature(
        name="converter pilot into its bore",
        reads=("converter_bore_s", "mouth_s", "pad_depth_mm", "converter_pilot_mm"),
        gap=lambda r: (
            r["converter_bore_s"] - (r["mouth_s"] + r["pad_depth_mm"] - r["converter_pilot_mm"])
        ),
        enters=True,
    ),
    Feature(
        name="converter pads on the flexplate",
        reads=("flywheel_flange_s", "flexplate_offset_mm", "mouth_s", "pad_depth_mm"),
        gap=lambda r: (
            r["flywheel_flange_s"] + r["flexplate_offset_mm"] - (r["mouth_s"] + r["pad_depth_mm"])
        ),
        enters=False,
    ),
    Feature(
        name="converter pilot in the bottom of the bore",
        reads=(
            "crank_flange_mm",
            "crank_bore_depth_mm",
            "mouth_s",
            "pad_depth_mm",
            "converter_pilot_mm",
        ),
        gap=lambda r: (
            r["crank_flange_mm"]
            - r["crank_bore_depth_mm"]
            - (r["mouth_s"] + r["pad_depth_mm"] - r["converter_pilot_mm"])
        ),
        enters=False,
    ),
)


def _last_rear(r: Read) -> Numbers:
    return r["friction_face_s"] + r["hub2_front_mm"] + r["hub2_mm"]


OF_SEVERAL = (
    Feature(
        name="spline into the last disc's hub",
        reads=("friction_face_s", "hub2_front_mm", "hub2_mm", "tip_s", "spline_start_mm"),
        gap=lambda r: _last_rear(r) - (r["tip_s"] + r["spline_start_mm"]),
        enters=True,
    ),
    Feature(
        name="guide tube on the last disc's hub",
        reads=("friction_face_s", "hub2_front_mm", "hub2_mm", "mouth_s", "guide_tube_mm"),
        gap=lambda r: _last_rear(r) - (r["mouth_s"] + r["guide_tube_mm"]),
        enters=False,
    ),
)
"""The last of several discs is met first; the guide tube stands beside its hub."""
DOWELS = Feature(
    name="dowels into their holes",
    reads=("dowel_out_mm",),
    gap=lambda r: r["dowel_out_mm"],
    enters=True,
)


def features(inputs: Inputs) -> tuple[Feature, ...]:
    """What meets in this build, by what the engine drives through."""
    if converter(inputs):
        return (*CONVERTER, DOWELS)
    if clutched(inputs):
        rides = inputs.options.get("release_type") == "rides on the fingers"
        own = (replace(f, enters=f.enters or (rides and f.name == RIDER)) for f in CLUTCH)
        if disc_count(inputs.options.get("discs", "one")) == 1.0:
            return (*own, DOWELS)
        return (*(f for f in own if f.name != TUBE), *OF_SEVERAL, DOWELS)
    return (CLUTCH[0], DOWELS) if packed(inputs) else ()


def contacts(inputs: Inputs) -> tuple[list[Contact], list[tuple[Feature, tuple[str, ...]]]]:
    """Features in the order in which they meet; those that cannot be said, with what they want."""
    found: list[Contact] = []
    open_: list[tuple[Feature, tuple[str, ...]]] = []
    for feature in features(inputs):
        blank = Resolved(address=feature.name, name=feature.name)
        at = derived(inputs, feature.gap, blank, feature.reads)
        if at.value is None:
            gone = tuple(a for a in at.wants if inputs.value(a) is None)
            open_.append((feature, gone))
            continue
        found.append(
            Contact(feature=feature, at=at.value, u=at.u, parts=at.parts or {}, wants=at.wants)
        )
    return sorted(found, key=lambda c: -c.at), open_


def explaining(inputs: Inputs, contact: Contact, stop: float) -> list[tuple[str, float, float]]:
    """Which size, read otherwise, would let a feature meet at a stop: address, as it stands, as it
    would have to be. Those that carry most of the doubt first.
    """
    made = []
    for address in contact.wants:
        d, q = DIMENSIONS.get(address), inputs.quantities.get(address)
        if d is None or q is None or q.value is None or d.kind != "length":
            continue
        moved = inputs.with_value(address, q.value + 1.0)
        then = derived(
            moved,
            contact.feature.gap,
            Resolved(address="", name=""),
            contact.feature.reads,
        )
        if then.value is None or abs(slope := then.value - contact.at) < 1e-9:
            continue
        made.append(
            (abs(contact.parts.get(address, 0.0)), address, q.value, (stop - contact.at) / slope)
        )
    made.sort(key=lambda x: -x[0])
    return [(a, now, now + by) for _, a, now, by in made]
