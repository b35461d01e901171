"""The vehicle: the sizes that everything is placed by."""

from pindo.core.drawing.board import Board
from pindo.core.drawing.profile import profile
from pindo.core.inputs.dimensions import Station
from pindo.core.judging.question import Question

QUESTION = Question(
    path="vehicle",
    station=Station.SURVEY,
    name="Vehicle",
    asks="How large are vehicle and unit?",
    options=("bonnet", "build_type"),
    dimensions={
        "A": "wheelbase_mm",
        "B": "tyre_mm",
        "C": "rail_height_mm",
        "D": "bonnet_height_mm",
        "E": "engine_length_mm",
        "F": "engine_top_mm",
        "G": "sump_mm",
        "H": "gearbox_length_mm",
    },
    board=lambda inputs, seen: Board(drawings=(profile(inputs),)),
)
