"""Units of every kind of number that a fabricator types, and how a number is written back.

Exact by definition: 1 in = 25.4 mm, 1 lb = 0.45359237 kg, standard gravity 9.80665 m/s^2
(international yard and pound agreement 1959; ISO 80000-4).
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from types import MappingProxyType

from pindo.core.inputs.threads import INCH_MM

LBF_N = 0.45359237 * 9.80665
LBF_FT_NM = LBF_N * 0.3048
MECHANICAL_HP_KW = 0.7456998715822702  # 550 lbf·ft/s
PSI_BAR = LBF_N / INCH_MM**2 * 10.0
METRIC_HP_KW = 0.73549875  # 75 kgf·m/s
US_GALLON_L = 231 * INCH_MM**3 / 1e6  # 231 in³
IMPERIAL_GALLON_L = 4.54609


@dataclass(frozen=True, kw_only=True)
class Kind:
    """One kind of number: its base unit, the units it may be typed in, and its inch-system
    partner.
    """

    name: str
    unit: str
    factors: Mapping[str, float]
    imperial: str = ""
    decimals: int = 2


_LENGTH = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "µm": 1e-3,
    "um": 1e-3,
    "in": INCH_MM,
    "inch": INCH_MM,
    "inches": INCH_MM,
    '"': INCH_MM,
    "″": INCH_MM,
    "thou": INCH_MM / 1000,
    "ft": 12 * INCH_MM,
    "feet": 12 * INCH_MM,
    "'": 12 * INCH_MM,
    "′": 12 * INCH_MM,
    "MM": 1.0,
    "IN": INCH_MM,
    "INCH": INCH_MM,
}
_TORQUE = {
    "N·m": 1.0,
    "N.m": 1.0,
    "Nm": 1.0,
    "N m": 1.0,
    "lbf·ft": LBF_FT_NM,
    "lbf.ft": LBF_FT_NM,
    "lbf-ft": LBF_FT_NM,
    "lb-ft": LBF_FT_NM,
    "lb.ft": LBF_FT_NM,
    "lbft": LBF_FT_NM,
    "ft-lb": LBF_FT_NM,
    "ftlb": LBF_FT_NM,
    "ft·lbf": LBF_FT_NM,
    "ft lbs": LBF_FT_NM,
    "ft lb": LBF_FT_NM,
    "ft-lbs": LBF_FT_NM,
    "ft.lb": LBF_FT_NM,
    "ft·lb": LBF_FT_NM,
    "ftlbs": LBF_FT_NM,
    "lb ft": LBF_FT_NM,
    "lbs ft": LBF_FT_NM,
    "lbf ft": LBF_FT_NM,
    "foot pounds": LBF_FT_NM,
    "foot-pounds": LBF_FT_NM,
    "lbf·in": LBF_FT_NM / 12,
    "in-lb": LBF_FT_NM / 12,
    "in-lbs": LBF_FT_NM / 12,
    "in lb": LBF_FT_NM / 12,
    "in lbs": LBF_FT_NM / 12,
    "lb in": LBF_FT_NM / 12,
    "inch pounds": LBF_FT_NM / 12,
    "kgf·m": 9.80665,
    "kgf.m": 9.80665,
    "kgm": 9.80665,
}

_AREA = {
    "mm²": 1.0,
    "mm2": 1.0,
    "cm²": 100.0,
    "cm2": 100.0,
    "m²": 1e6,
    "m2": 1e6,
    "in²": INCH_MM**2,
    "in2": INCH_MM**2,
    "sq in": INCH_MM**2,
    "ft²": (12 * INCH_MM) ** 2,
    "sq ft": (12 * INCH_MM) ** 2,
}
_VOLUME = {
    "l": 1.0,
    "L": 1.0,
    "dm³": 1.0,
    "ml": 1e-3,
    "cm³": 1e-3,
    "cm3": 1e-3,
    "cc": 1e-3,
    "m³": 1e3,
    "in³": INCH_MM**3 / 1e6,
    "in3": INCH_MM**3 / 1e6,
    "cu in": INCH_MM**3 / 1e6,
    "US qt": US_GALLON_L / 4,
    "US gal": US_GALLON_L,
    "imp gal": IMPERIAL_GALLON_L,
}
_FLOW = {
    "l/min": 1.0,
    "L/min": 1.0,
    "l/s": 60.0,
    "l/h": 1 / 60,
    "m³/h": 1e3 / 60,
    "US gal/min": US_GALLON_L,
    "imp gal/min": IMPERIAL_GALLON_L,
}


def _kind(
    name: str, unit: str, factors: Mapping[str, float], imperial: str = "", decimals: int = 2
) -> Kind:
    return Kind(
        name=name,
        unit=unit,
        factors=MappingProxyType(dict(factors)),
        imperial=imperial,
        decimals=decimals,
    )


KINDS: Mapping[str, Kind] = MappingProxyType(
    {
        kind.name: kind
        for kind in (
            _kind("length", "mm", _LENGTH, "in"),
            # A thread is told by its diameter; its name carries the pitch too.
            _kind("thread", "mm", _LENGTH, "in"),
            _kind(
                "time",
                "min",
                {
                    "min": 1.0,
                    "mins": 1.0,
                    "minutes": 1.0,
                    "h": 60.0,
                    "hr": 60.0,
                    "hrs": 60.0,
                    "hour": 60.0,
                    "hours": 60.0,
                },
                decimals=0,
            ),
            _kind(
                "angle", "deg", {"deg": 1.0, "°": 1.0, "rad": 180 / math.pi, "mrad": 0.18 / math.pi}
            ),
            _kind("count", "", {"off": 1.0}, decimals=0),
            _kind("ratio", "", {"%": 0.01}),
            _kind("percent", "%", {"%": 1.0}, decimals=1),
            _kind("torque", "N·m", _TORQUE, "lbf·ft", 1),
            _kind("force", "N", {"N": 1.0, "kN": 1e3, "lbf": LBF_N, "kgf": 9.80665}, "lbf", 1),
            _kind(
                "stiffness",
                "N/mm",
                {"N/mm": 1.0, "kN/m": 1.0, "lbf/in": LBF_N / INCH_MM},
                "lbf/in",
                1,
            ),
            _kind(
                "mass",
                "kg",
                {"kg": 1.0, "g": 1e-3, "t": 1e3, "lb": 0.45359237, "lbs": 0.45359237},
                "lb",
                1,
            ),
            _kind("frequency", "Hz", {"Hz": 1.0}, decimals=1),
            _kind(
                "road speed",
                "km/h",
                {"km/h": 1.0, "kmh": 1.0, "mph": 1.609344, "m/s": 3.6},
                "mph",
                1,
            ),
            _kind("acceleration", "rad/s²", {"rad/s²": 1.0}, decimals=0),
            _kind("money", "", {}, decimals=2),
            _kind("speed", "rpm", {"rpm": 1.0, "/min": 1.0}, decimals=0),
            _kind(
                "power",
                "kW",
                {"kW": 1.0, "W": 1e-3, "hp": MECHANICAL_HP_KW, "PS": METRIC_HP_KW},
                "hp",
                1,
            ),
            # Pressure is kept as typed against its reference: the parser asks where gauge or
            # absolute matters.
            _kind("pressure", "bar", {"bar": 1.0, "kPa": 0.01, "MPa": 10.0, "psi": PSI_BAR}, "psi"),
            _kind("temperature", "°C", {"°C": 1.0, "C": 1.0, "°F": 5 / 9, "F": 5 / 9}, "°F", 1),
            _kind("area", "mm²", _AREA, "in²", 0),
            # A bare gallon is two sizes: it is not taken.
            _kind("volume", "l", _VOLUME, "US gal"),
            _kind("flow", "l/min", _FLOW, "US gal/min", 1),
            _kind("wire", "mm²", {"mm²": 1.0, "mm2": 1.0}),
            _kind("module", "mm", {"mm": 1.0}, decimals=3),
        )
    }
)

_OFFSETS = {"°F": -32.0, "F": -32.0}  # added before the factor


def to_base(amount: float, unit: str, kind: str) -> float:
    """``amount`` in ``unit`` as the base unit of its kind. Raises KeyError for an unknown unit."""
    return (amount + _OFFSETS.get(unit, 0.0)) * KINDS[kind].factors[unit]


def from_base(value: float, unit: str, kind: str) -> float:
    """``value`` in the base unit of its kind as ``unit``: the inverse of :func:`to_base`."""
    return value / KINDS[kind].factors[unit] - _OFFSETS.get(unit, 0.0)


def wire_section_mm2(gauge: int) -> float:
    """Copper section of an American wire gauge; 2/0 is gauge -1. [mm²]

    0.012668 x 92^((36 - n)/19.5), ASTM B258 (from memory).
    """
    return 0.012668 * math.pow(92.0, (36 - gauge) / 19.5)


def inch_fraction(
    value_mm: float, denominator: int = 64, tolerance_mm: float = 0.0005
) -> str | None:
    """``1 1/8`` for a length that is a fraction of an inch to within ``tolerance_mm``, else
    None. [mm]
    """
    inches = value_mm / INCH_MM
    fraction = Fraction(round(inches * denominator), denominator)
    if abs(float(fraction) - inches) * INCH_MM > tolerance_mm or fraction == 0:
        return None
    sign, fraction = ("-", -fraction) if fraction < 0 else ("", fraction)
    whole, rest = divmod(fraction.numerator, fraction.denominator)
    if rest == 0:
        return f"{sign}{whole}"
    return (
        f"{sign}{whole} {rest}/{fraction.denominator}"
        if whole
        else f"{sign}{rest}/{fraction.denominator}"
    )


def number_and_unit(
    value: float, kind: str, system: str = "mm", decimals: int | None = None
) -> tuple[str, str]:
    """A value as it stands in a sentence, and its unit: ``4.20`` and ``mm``.

    ``system`` is ``mm`` or ``in``; kinds without an inch-system unit read the same in both.
    """
    k = KINDS[kind]
    places = k.decimals if decimals is None else decimals
    unit = k.imperial if system == "in" and k.imperial else k.unit
    if unit == "in":
        places += 2
    text = f"{from_base(value, unit, kind) if unit else value:.{places}f}"
    if text.startswith("-"):
        text = text[1:] if not text.strip("-0.") else f"\u2212{text[1:]}"
    return text, unit


def write(value: float, kind: str, system: str = "mm", decimals: int | None = None) -> str:
    """A value with its unit: ``4.20 mm``, ``0.165 in``, ``12``."""
    return " ".join(number_and_unit(value, kind, system, decimals)).rstrip()


def echo_inches(value: float, kind: str) -> str:
    """A value in its inch-system unit, a length as a fraction where it is one; empty for other
    kinds.
    """
    k = KINDS[kind]
    if not k.imperial:
        return ""
    fraction = inch_fraction(value) if k.imperial == "in" else None
    other = from_base(value, k.imperial, kind)
    shown = fraction or f"{other:.{k.decimals + 2}f}".rstrip("0").rstrip(".")
    return f"{shown} {k.imperial}"
