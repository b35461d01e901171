"""Made-up builds that the app ships with. Every name in them is invented."""

from pindo.demo.garden_trolley import garden_trolley
from pindo.demo.pump_tender import pump_tender

DEMOS = {"pump-tender": pump_tender, "garden-trolley": garden_trolley}

__all__ = ["DEMOS", "garden_trolley", "pump_tender"]
