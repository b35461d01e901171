"""Assemble: the build's own steps, hold points, tightening, fasteners."""
