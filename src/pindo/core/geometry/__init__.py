"""Frames, poses, places along the crank, solids and springs: shared by stations, knows none of
them.
"""
