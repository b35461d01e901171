"""The Seat's pictures: side, plan and front view with mounts, mass centre and the points that
matter, engine draggable.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from pindo.core.drawing.callouts import Stretch, lettered
from pindo.core.drawing.shapes import Callout, Drawing, Handle, Note, Round, Shape
from pindo.core.drawing.views import NAMES, TITLES, VIEWS, project, solid_shapes
from pindo.core.geometry.frames import SIDE, side_in_vehicle, turned_left_up
from pindo.core.geometry.solids import Placed, clocking_of, placed_solids, pose_of
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs

EDGE = 140.0
USUAL_SIDE = 230.0  # half-width of an engine that nobody measured, drawn dashed
Place = tuple[float, float, float]


@dataclass(frozen=True, kw_only=True)
class UnitPoint:
    """A named point of the unit: behind block face, left, up. [mm]"""

    name: str
    at: Place
    mount: int = 0
    """Number of the mount that it is; 0 for none."""
    end: bool = False
    """Whether it is the accessory end of the crank axis."""


def unit_points(inputs: Inputs) -> list[UnitPoint]:
    """The points of the unit that are known."""
    v = inputs.value
    thickness = (v("separator_mm") or 0.0) + (v("plate_mm") or 0.0)
    turn = clocking_of(inputs, "gearbox") or 0.0
    found = [UnitPoint(name="block face, crank axis", at=(0.0, 0.0, 0.0))]
    if (length := v("engine_length_mm")) is not None:
        at = (-length, 0.0, 0.0)
        found.append(UnitPoint(name="accessory end, crank axis", at=at, end=True))
    if (box := v("gearbox_length_mm")) is not None:
        left, up = turned_left_up(
            {"clocking_deg": turn}, v("output_left_mm") or 0.0, v("output_up_mm") or 0.0
        )
        at = (thickness + box, float(left), float(up))
        found.append(UnitPoint(name="output joint", at=at))
    if (low := v("sump_mm")) is not None and (back := v("sump_back_mm")) is not None:
        found.append(UnitPoint(name="sump, lowest", at=(back, 0.0, -low)))
    if (high := v("engine_top_mm")) is not None and (back := v("top_back_mm")) is not None:
        found.append(UnitPoint(name="engine, highest", at=(back, 0.0, high)))
    centre = inputs.known(("mass_back_mm", "mass_left_mm", "mass_up_mm"))
    if centre is not None:
        x, y, z = centre.values()
        found.append(UnitPoint(name="mass centre", at=(x, y, z)))
    for mount in inputs.build.mounts:
        place = inputs.known(tuple(f"mounts.{mount.n}.{f}" for f in ("back", "left", "up")))
        if place is not None:
            x, y, z = place.values()
            if mount.body == "gearbox":
                x += thickness
                y, z = turned_left_up({"clocking_deg": turn}, y, z)
            name = f"mount {mount.n} {mount.name}".strip()
            found.append(UnitPoint(name=name, at=(x, y, z), mount=mount.n))
    return found


def carried(matrix: np.ndarray, points: Sequence[Place]) -> np.ndarray:
    """Points of the unit in the vehicle, shape (n, 3). [mm]"""
    own = np.array([(-b, le, u) for b, le, u in points])
    return np.asarray(own @ matrix[:3, :3].T + matrix[:3, 3])


def _boxes(inputs: Inputs, matrix: np.ndarray, view: str, floor: float) -> list[Shape]:
    """Engine and gearbox as boxes from their sizes, for a build without solids of its own."""
    v = inputs.value
    length, top, sump = (
        v("engine_length_mm") or 650.0,
        v("engine_top_mm") or 480.0,
        v("sump_mm") or 250.0,
    )
    known = all(v(k) is not None for k in ("engine_length_mm", "engine_top_mm", "sump_mm"))
    found = []
    for part, (a, b), (low, high), side in (
        ("engine", (-length, 0.0), (-sump, top), USUAL_SIDE),
        ("gearbox", (0.0, v("gearbox_length_mm") or 0.0), (-130.0, 110.0), 120.0),
    ):
        if b - a <= 0:
            continue
        corners = [(x, y, z) for x in (a, b) for y in (-side, side) for z in (low, high)]
        flat = project(view, carried(matrix, corners), floor)
        hull = _hull(flat)
        found.append(Shape(part=part, points=hull, style="body", known=known))
    return found


def _hull(points: np.ndarray) -> tuple[tuple[float, float], ...]:
    hull = shapely.MultiPoint(points).convex_hull
    return (
        tuple((float(x), float(y)) for x, y in hull.exterior.coords[:-1])
        if isinstance(hull, shapely.Polygon)
        else ()
    )


def _vehicle(inputs: Inputs, view: str, floor: float) -> tuple[list[Shape], list[Round]]:
    tyre, wheelbase = inputs.value("tyre_mm"), inputs.value("wheelbase_mm")
    shapes, rounds = [], []
    if view != "plan":
        shapes.append(
            Shape(
                part="ground", points=((-4000.0, 0.0), (8000.0, 0.0)), style="ground", closed=False
            )
        )
    if view == "side" and tyre:
        rounds = [
            Round(part="wheel", x=x, y=tyre / 2, d=tyre, style="wheel")
            for x in (0.0, wheelbase)
            if x is not None
        ]
    bonnet = inputs.value("bonnet_height_mm")
    if view != "plan" and bonnet is not None:
        y = floor + bonnet
        xs = (-650.0, 400.0) if view == "side" else (-450.0, 450.0)
        shapes.append(
            Shape(part="bonnet", points=((xs[0], y), (xs[1], y)), style="hidden", closed=False)
        )
    return shapes, rounds


_LIMITS = {
    "side": ("block_face_back_mm", 1.0, "crank_height_mm", 1.0),
    "plan": ("block_face_back_mm", 1.0, "crank_side_mm", -1.0),
    "front": ("crank_side_mm", -1.0, "crank_height_mm", 1.0),
}


_MARKS = {
    "side": ("block_face_back_mm", "crank_height_mm", "inclination_deg"),
    "plan": ("crank_side_mm", "yaw_deg"),
    "front": ("roll_deg",),
}


def _handle(inputs: Inputs, view: str, at: np.ndarray) -> list[Handle]:
    x_key, sense, y_key, sense_y = _LIMITS[view]
    limits = DIMENSIONS[x_key].adjustable
    x_value, y_value = inputs.value(x_key), inputs.value(y_key)
    if (
        limits is None
        or x_value is None
        or y_value is None
        or inputs.options.get("pose_from") == "points"
    ):
        return []
    name = (
        "Unit, "
        + {
            "side": "fore and aft, up and down",
            "plan": "fore and aft, sideways",
            "front": "sideways, up and down",
        }[view]
    )
    return [
        Handle(
            address=x_key,
            name=name,
            x=float(at[0]),
            y=float(at[1]),
            turns=False,
            value=x_value,
            low=limits.low,
            high=limits.high,
            step=limits.step,
            sense=sense,
            address_y=y_key,
            value_y=y_value,
            sense_y=sense_y,
        )
    ]


def _sizes(inputs: Inputs, view: str, x: float, y: float, floor: float) -> dict[str, Stretch]:
    """The two ends of each size of the pose in a view; ``x``, ``y`` the block face there. [mm]"""
    if view == "side":
        found = {
            "block_face_back_mm": (0.0, y, x, y),
            "crank_height_mm": (x, floor, x, y),
            "ground_clear_mm": (x, 0.0, x, floor),
        }
        if (tyre := inputs.value("tyre_mm")) is not None:
            found["tyre_mm"] = (0.0, 0.0, 0.0, tyre)
        return found
    return {"crank_side_mm": (x, 0.0, x, y) if view == "plan" else (0.0, y, x, y)}


def seat_view(inputs: Inputs, view: str, placed: Sequence[Placed], question: str) -> Drawing:
    """One view of the vehicle with the unit in it, and the letters of a question."""
    floor = inputs.value("rail_height_mm") or 600.0
    shapes, rounds = _vehicle(inputs, view, floor)
    matrix = pose_of(inputs)
    shapes += solid_shapes(placed, view, floor)
    handles: list[Handle] = []
    callouts: tuple[Callout, ...] = ()
    if matrix is not None:
        if all(p.solid.body == "chassis" for p in placed):
            shapes += _boxes(inputs, matrix, view, floor)
        points = unit_points(inputs)
        flat = project(view, carried(matrix, [p.at for p in points]), floor)
        for p, (x, y) in zip(points, flat, strict=True):
            rounds.append(
                Round(
                    part=p.name,
                    x=float(x),
                    y=float(y),
                    d=46.0 if p.mount else 22.0,
                    style="mount" if p.mount else "joint",
                    label=p.name.removeprefix("mount ") if p.mount else "",
                )
            )
        handles = _handle(inputs, view, flat[0])
        ends = [xy for p, xy in zip(points, flat, strict=True) if p.end]
        for end in ends:
            shapes.append(
                Shape(
                    part="crank axis",
                    points=((float(flat[0][0]), float(flat[0][1])), (float(end[0]), float(end[1]))),
                    style="axis",
                    closed=False,
                )
            )
        spread = {
            "block_face_back_mm": (0.0, -40.0),
            "crank_height_mm": (0.0, 40.0),
            "inclination_deg": (-120.0, 0.0),
            "crank_side_mm": (0.0, 30.0),
            "yaw_deg": (-120.0, 0.0),
            "roll_deg": (0.0, 60.0),
        }
        x0, y0 = map(float, flat[0])
        marks = {k: (x0 + spread[k][0], y0 + spread[k][1]) for k in _MARKS[view]}
        callouts = lettered(question, marks, _sizes(inputs, view, x0, y0, floor))
    corners = np.array(
        [p for s in shapes if s.style != "ground" for p in s.points]
        + [(r.x + s * r.d / 2, r.y + s * r.d / 2) for r in rounds for s in (-1, 1)]
        + [(-400.0, 0.0), (400.0, 0.0)]
    )
    low, high = corners.min(axis=0) - EDGE, corners.max(axis=0) + EDGE
    nicknames = inputs.build.nicknames
    ahead = SIDE["vehicle_front"].called(nicknames)
    looks = side_in_vehicle("accessory_end", inputs.build.layout, nicknames)
    return Drawing(
        name=NAMES[view],
        view=TITLES[view] + (f"; {looks}" if view != "front" else ""),
        x_low=float(low[0]),
        x_high=float(high[0]),
        y_low=float(low[1]) if view == "plan" else min(float(low[1]) + EDGE - 30.0, -30.0),
        y_high=float(high[1]),
        shapes=tuple(
            (
                Shape(
                    part=s.part,
                    points=((float(low[0]), 0.0), (float(high[0]), 0.0)),
                    style=s.style,
                    closed=False,
                )
                if s.style == "ground"
                else s
            )
            for s in shapes
        ),
        rounds=tuple(rounds),
        callouts=callouts,
        handles=tuple(handles),
        notes=(
            (
                Note(
                    text=ahead,
                    x=float(low[0]) + 20,
                    y=float(high[1]) - 60,
                ),
            )
            if view != "front"
            else ()
        ),
    )


def seat_drawings(inputs: Inputs, question: str, *views: str) -> tuple[Drawing, ...]:
    """Views of the vehicle with the unit in it, all three unless some are named, with the letters
    of a question.
    """
    placed = placed_solids(inputs)
    return tuple(seat_view(inputs, view, placed, question) for view in views or VIEWS)
