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
DEMOS = {
    "pump-tender": pump_tender,
    "garden-trolley": garden_trolley,
    "timber-winch": timber_winch,
}

__all__ = ["DEMOS", "garden_trolley", "pump_tender", "timber_winch"]
