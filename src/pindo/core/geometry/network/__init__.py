"""Points from readings between them: distances, heights, levels, plumb offsets, in two or three
dimensions.

Least squares with the gauges' own doubt as weights (Gauss-Newton damped after Levenberg and
Marquardt); the frame is held by coordinates that the user fixes. Redundancy, the global test and
the search for misreadings after Baarda, A testing procedure for use in geodetic networks (1968),
from memory: w = v / (sigma sqrt(r)), 3.29 for one false alarm in a thousand.
"""
