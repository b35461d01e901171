"""How many discs a clutch has."""

DISCS = {"one": 1.0, "two": 2.0, "three": 3.0}


def disc_count(discs: str) -> float:
    """How many discs a choice means [-]."""
    return DISCS.get(discs, 1.0)
