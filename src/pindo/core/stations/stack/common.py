"""What several questions of the Stack share: the state that its readings are taken in, cautions."""

from types import MappingProxyType

# A stack reading is taken with the gearbox off and the unit standing: a hung crank lies on its
# thrust bearing.
STACK_STATES = MappingProxyType(
    {
        "gearbox": frozenset({"off"}),
        "position": frozenset({"bench", "stand", "resting loaded"}),
    }
)
ROTATING = (
    "Uncertified or altered rotating parts can burst. Keep out of their plane; the makers' sheets"
    " and a licensed shop decide."
)
STRENGTH = "Screening only, not an approval. The makers' ratings and the rules of the place decide."
JOINING = "Never draw the faces together with the bolts: find what stands in the way."
