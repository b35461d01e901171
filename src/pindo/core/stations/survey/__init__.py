"""Survey: the build, the vehicle, and what is said of it."""

from pindo.core.stations.survey import bay, evidence, said, vehicle

QUESTIONS = (vehicle.QUESTION, bay.QUESTION, evidence.QUESTION, said.QUESTION)
