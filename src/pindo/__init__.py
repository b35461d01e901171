"""Pindo: does the engine and gearbox go into this chassis, and if not, what is the least to
change.
"""

__version__ = "0.1.0"
