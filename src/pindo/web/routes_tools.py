"""Drawings of tools that a build asks for: the centring tool of its clutch."""

from functools import partial
from typing import Literal

from fastapi import APIRouter, Response

from pindo.core.stations.mate.outline import Plate
from pindo.core.stations.stack.cover import tool_profile
from pindo.web.asked import PROBLEMS, Conn
from pindo.web.problems import Refused
from pindo.web.routes_files import as_file, asked_of, drawn_as
from pindo.web.turns import Working

router = APIRouter(prefix="/api/builds")


@router.get("/{id}/centring-tool.{form}", response_class=Response, responses=PROBLEMS)
def centring_tool_file(
    conn: Conn,
    _: Working,
    id: str,
    form: Literal["dxf", "svg", "pdf"],
    paper: Literal["A4", "A3", "Letter"] = "A4",
) -> Response:
    """The centring tool's profile, to be turned: half above and half below its axis."""
    stored, now = asked_of(conn, id)
    profile = tool_profile(now.inputs)
    if profile is None:
        raise Refused(
            409,
            "no-tool",
            "The centring tool is not known yet",
            "It takes the pilot bearing's bore, the nose's length, the hub and its minor diameter."
            " Enter them at Stack, Cover.",
        )
    made = Plate(
        holes=(),
        outline=profile,
        window=None,
        pocket=None,
        drilling=(),
        shared=(),
        mass_kg=None,
        seen="seen from its side",
    )
    title = f"{now.written.build.name}, centring tool"
    make = partial(drawn_as, made, title, form, paper, [], None)
    return as_file(make, title, form, paper, stored.version)
