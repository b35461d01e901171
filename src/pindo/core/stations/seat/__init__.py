"""Seat: where the unit sits, on what, and whether it moves too far."""

from pindo.core.stations.seat import mounts, place, room

QUESTIONS = (place.QUESTION, mounts.QUESTION, room.QUESTION)
