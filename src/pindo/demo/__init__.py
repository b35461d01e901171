"""Made-up builds that the app ships with. Every name in them is invented."""

import json
from functools import partial
from importlib.resources import files

from pindo.core.document.build import Build
from pindo.core.document.written import read


def _shipped(name: str) -> Build:
    return read(json.loads((files(__name__) / f"{name}.json").read_text("utf-8"))).build


pump_tender = partial(_shipped, "pump_tender")
garden_trolley = partial(_shipped, "garden_trolley")
timber_winch = partial(_shipped, "timber_winch")
dune_car = partial(_shipped, "dune_car")
DEMOS = {
    "pump-tender": pump_tender,
    "garden-trolley": garden_trolley,
    "timber-winch": timber_winch,
    "dune-car": dune_car,
}

__all__ = ["DEMOS", "dune_car", "garden_trolley", "pump_tender", "timber_winch"]
