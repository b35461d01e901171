"""Survey: the build, the vehicle, and what is said of it."""

from pindo.core.stations.survey import evidence, said, vehicle

QUESTIONS = (vehicle.QUESTION, evidence.QUESTION, said.QUESTION)
