"""What several questions of the Seat share."""

from types import MappingProxyType

REST = MappingProxyType(
    {
        "position": frozenset({"resting loaded", "resting loose", "stand", "bench"}),
        "ride": frozenset({"rest"}),
    }
)
