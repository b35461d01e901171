"""Axial places on the station axis: mm rearwards from the block's rear face, along the crank
axis.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pindo.core.inputs.derived import derived
from pindo.core.inputs.dimensions import OPTIONS
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved

BEHIND_THE_BELL = "bell and gearbox"


def flywheel_flange_s(crank_flange_mm: Any, crank_spacer_mm: Any) -> Any:
    """Where the flywheel's flange face sits: crank flange plus all spacer pieces. [mm]"""
    return crank_flange_mm + crank_spacer_mm


def friction_face_s(crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any) -> Any:
    """Station of the flywheel's friction face. [mm]"""
    return flywheel_flange_s(crank_flange_mm, crank_spacer_mm) + flywheel_mm


def mouth_s(separator_mm: Any, plate_mm: Any) -> Any:
    """Where the gearbox's mouth stands: everything that stays in the joints counts.

    With a plate between bell and gearbox it is where the bell's mouth would be if it moved with the
    gearbox: what belongs to the gearbox (shaft, guide tube, slave) is measured from there with the
    bell on and the plate off. [mm]
    """
    return separator_mm + plate_mm


def bell_mouth_s(separator_mm: Any, plate_mm: Any, plate_at: str) -> Any:
    """Station of the bell's mouth: a plate between bell and gearbox moves the gearbox and leaves
    the bell. [mm]
    """
    return (
        separator_mm + 0.0 * plate_mm
        if plate_at == BEHIND_THE_BELL
        else mouth_s(separator_mm, plate_mm)
    )


def tip_s(separator_mm: Any, plate_mm: Any, shaft_tip_out_mm: Any) -> Any:
    """Station of the input shaft's tip, which stands out of the mouth towards the engine. [mm]"""
    return mouth_s(separator_mm, plate_mm) - shaft_tip_out_mm


def pilot_rear_s(
    crank_flange_mm: Any, crank_spacer_mm: Any, flywheel_mm: Any, pilot_sunk_mm: Any, pilot_in: str
) -> Any:
    """Station of the pilot bearing's rear end; it moves with the piece that it sits in. [mm]

    ``pilot_in`` is crank, spacer or flywheel; the bearing is sunk below that piece's rear face.
    """
    face = {
        "crank": crank_flange_mm + 0.0 * crank_spacer_mm,
        "spacer": flywheel_flange_s(crank_flange_mm, crank_spacer_mm),
        "flywheel": friction_face_s(crank_flange_mm, crank_spacer_mm, flywheel_mm),
    }[pilot_in]
    return face - pilot_sunk_mm


def converter_bore_s(crank_flange_mm: Any, crank_spacer_mm: Any, pilot_in: str) -> Any:
    """Station where the bore begins that a converter's pilot runs in: the crank's face, or that of
    the spacer that brings a bore of its own. [mm]
    """
    behind = 0.0 if pilot_in == "crank" else 1.0
    return crank_flange_mm + behind * crank_spacer_mm


def starter_flange_s(separator_mm: Any, plate_mm: Any, starter_on: str, plate_at: str) -> Any:
    """Station of the face that the starter bolts to: engine 0, plate its engine side, housing
    the bell's mouth. [mm]
    """
    return {
        "engine": 0.0 * plate_mm,
        "plate": separator_mm + 0.0 * plate_mm,
        "housing": bell_mouth_s(separator_mm, plate_mm, plate_at),
    }[starter_on]


Read = Mapping[str, Any]
_CRANK = ("crank_flange_mm", "crank_spacer_mm")
_FACE = (*_CRANK, "flywheel_mm")
_JOINT = ("separator_mm", "plate_mm")


@dataclass(frozen=True, kw_only=True)
class _Place:
    """A station along the crank that checks share. ``formula`` takes what ``reads`` names, in that
    order, and the choices by name.
    """

    address: str
    name: str
    reads: tuple[str, ...]
    choices: tuple[str, ...] = ()
    formula: Callable[..., Any]

    def solve(self, inputs: Inputs) -> Mapping[str, Resolved]:
        """The place as it stands, with its doubt by source."""
        chosen = {c: inputs.options.get(c, "") for c in self.choices}

        def place(read: Read) -> Any:
            return self.formula(*(read[a] for a in self.reads), **chosen)

        blank = Resolved(address=self.address, name=self.name)
        return {self.address: derived(inputs, place, blank, self.reads, self.choices)}


_PLACES = (
    _Place(
        address="flywheel_flange_s",
        name="Flywheel's flange face",
        reads=_CRANK,
        formula=flywheel_flange_s,
    ),
    _Place(address="friction_face_s", name="Friction face", reads=_FACE, formula=friction_face_s),
    _Place(address="mouth_s", name="Mouth of the bell", reads=_JOINT, formula=mouth_s),
    _Place(
        address="bell_mouth_s",
        name="Mouth of the bell, where it stands",
        reads=_JOINT,
        choices=("plate_at",),
        formula=bell_mouth_s,
    ),
    _Place(
        address="tip_s",
        name="Shaft tip",
        reads=(*_JOINT, "shaft_tip_out_mm"),
        formula=tip_s,
    ),
    _Place(
        address="pilot_rear_s",
        name="Rear end of the pilot bearing",
        reads=(*_FACE, "pilot_sunk_mm"),
        choices=("pilot_in",),
        formula=pilot_rear_s,
    ),
    _Place(
        address="converter_bore_s",
        name="Bore of the converter's pilot",
        reads=_CRANK,
        choices=("pilot_in",),
        formula=converter_bore_s,
    ),
    _Place(
        address="starter_flange_s",
        name="Face that the starter bolts to",
        reads=_JOINT,
        choices=("starter_on", "plate_at"),
        formula=starter_flange_s,
    ),
)


def places_at(read: Read, options: Mapping[str, str]) -> dict[str, Any]:
    """Every place along the crank for sizes by address, numbers or arrays of one shape; those of
    which a size or a choice is wanting are left out. [mm]
    """
    found = {}
    for place in _PLACES:
        chosen = {c: options.get(c, "") for c in place.choices}
        if all(v in OPTIONS[c].choices for c, v in chosen.items()) and all(
            a in read for a in place.reads
        ):
            found[place.address] = place.formula(*(read[a] for a in place.reads), **chosen)
    return found


AXIAL: tuple[Provider, ...] = tuple(
    Provider(key=place.address, gives=(place.address,), solve=place.solve) for place in _PLACES
)
"""Stations along the crank as derived quantities: what two checks share, they share with its
doubt.
"""
