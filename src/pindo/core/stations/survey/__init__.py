"""Survey: the build, the vehicle, its parts, and what is said of it."""

from pindo.core.stations.survey import (
    bay,
    evidence,
    kits,
    parts,
    said,
    start,
    vehicle,
    versions,
    weak,
)

QUESTIONS = (
    start.QUESTION,
    vehicle.QUESTION,
    bay.QUESTION,
    parts.QUESTION,
    kits.QUESTION,
    versions.QUESTION,
    weak.QUESTION,
    evidence.QUESTION,
    said.QUESTION,
)
