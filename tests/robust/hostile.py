"""What nobody means to type, and somebody does: texts, figures, documents, requests. Shared by
the short tests and the long soak.
"""

import copy
import random
from typing import Any

from pindo.demo import DEMOS

TEXTS = (
    "{x}",
    "{",
    "}",
    "{value:>99999999}",
    "{0.__class__}",
    "%s%n",
    "%%",
    "[b]",
    "'\"`",
    "<script>alert(1)</script>",
    "</text></svg>",
    "]]>",
    "&amp;&bogus;",
    "\u202eedocne\u202c",
    "\u200b\ufeff",
    "\x01\x02\x1b[31m",
    "a\r\nb",
    "\t=1+1",
    "=cmd()",
    "+1",
    "-1",
    "@x",
    "\\P{\\f;",
    "../../etc/passwd",
    "CON",
    "nul.txt",
    "x" * 1900,
    "дизель",
    "ディーゼル",
    "محرك",
    "🔧" * 20,
    "\ud7ff\ue000\uffff",
    ".",
    " a ",
)
FIGURES = (
    "0",
    "-0",
    "1e9",
    "-1e9",
    "999999999",
    "1e-9",
    "-1e-9",
    "0.0000001",
    "400000",
    "-400000",
    "0 ± 0",
    "5 ± 900000000",
    "1/64",
    "45",
    "90",
    "360",
    "-90",
    "0.5",
    "1000",
    "3000",
    "about 7",
    "none",
    "",
)
NUMBERS = (0, 1, -1, 999, 10**9, -(10**9))


def _places(value: Any, place: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    if isinstance(value, dict):
        return [p for k, v in value.items() for p in _places(v, (*place, k))]
    if isinstance(value, list):
        return [p for i, v in enumerate(value) for p in _places(v, (*place, i))] + [place]
    return [place]


def _set(document: Any, place: tuple[Any, ...], new: Any) -> None:
    for key in place[:-1]:
        document = document[key]
    document[place[-1]] = new


def _at(document: Any, place: tuple[Any, ...]) -> Any:
    for key in place:
        document = document[key]
    return document


def _figured(place: tuple[Any, ...], old: Any) -> bool:
    return (isinstance(old, str) and old[:1].isdigit()) or place[-1] in (
        "typed",
        "pm",
        "u",
        "v",
        "d",
        "back",
        "left",
        "up",
        "a",
        "b",
        "c",
        "hole",
        "kz",
        "angle",
        "torque",
        "size",
        "level",
    )


def document(dice: random.Random) -> dict[str, Any]:
    """A demo with some of its values replaced by hostile ones, many of them still readable."""
    made: dict[str, Any] = copy.deepcopy(
        dice.choice(list(DEMOS.values()))().model_dump(mode="json")
    )
    places = _places(made)
    if dice.random() < 0.2:  # all figures alike: nothing has a size, or everything the same
        figure = dice.choice(FIGURES)
        for place in places:
            if place[-1] == "typed":
                _set(made, place, figure)
    for _ in range(dice.choice((1, 3, 10, 40))):
        place = dice.choice(places)
        try:
            old = _at(made, place)
        except (KeyError, IndexError, TypeError):
            continue  # went with another one
        if isinstance(old, list):
            _set(
                made,
                place,
                (
                    old * 2
                    if dice.random() < 0.2
                    else old[: len(old) // 2]
                    if dice.random() < 0.8
                    else []
                ),
            )
        elif _figured(place, old):
            _set(made, place, dice.choice(FIGURES))
        elif isinstance(old, str) or old is None:
            _set(made, place, dice.choice(TEXTS))
        elif isinstance(old, int | float) and not isinstance(old, bool):
            _set(made, place, dice.choice(NUMBERS))
    return made


ROUTES = (
    "",
    "/build.json",
    "/bundle",
    "/history",
    "/now",
    "/handover.pdf",
    "/plate.dxf",
    "/plate.svg",
    "/plate.pdf",
    "/plate.csv",
    "/photos",
) + tuple(
    f"/sheets/{s}.pdf"
    for s in ("survey", "mate", "stack", "seat", "line", "clear", "assemble", "log")
)
"""All that can be asked of a build."""
