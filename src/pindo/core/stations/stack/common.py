"""What several questions of the Stack share: the state that its readings are taken in, cautions."""

from types import MappingProxyType

from pindo.core.inputs.dimensions import OPTIONS
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.verdict import Missing

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


def chosen(inputs: Inputs, key: str) -> str:
    """A choice as it stands; empty where nothing is said, or something that there is not."""
    said, choices = inputs.options.get(key, ""), OPTIONS[key].choices
    return said if said in choices else ""


def _missing(key: str) -> Missing:
    return Missing(address=key, name=OPTIONS[key].name, letter="", status="missing", detail="")


def unsaid(inputs: Inputs, *keys: str) -> tuple[Missing, ...]:
    """The choices of some that are not made."""
    return tuple(_missing(k) for k in keys if not chosen(inputs, k))


def not_done(inputs: Inputs, *keys: str) -> tuple[Missing, ...]:
    """The tests of some that are not done yet, or not said."""
    return tuple(_missing(k) for k in keys if chosen(inputs, k) in ("", "not yet"))
