"""Seat: where the unit sits, and what holds it."""
