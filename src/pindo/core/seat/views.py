"""The Seat boards: side, plan and front view with mounts, mass centre and the points that matter, engine draggable."""

from dataclasses import dataclass

import numpy as np
import shapely

from pindo.core.clear.solids import Placed, pose_of
from pindo.core.dimensions import DIMENSIONS, LEDGERS, Station
from pindo.core.drawing import Callout, Drawing, Handle, Note, Round, Shape
from pindo.core.frames import side_in_vehicle
from pindo.core.resolve import Inputs
from pindo.core.seat import mounts as m
from pindo.core.seat.checks import movement_at, on_mounts
from pindo.core.views import TITLES, project, solid_shapes

EDGE = 140.0
USUAL_SIDE = 230.0  # half-width of an engine that nobody measured, drawn dashed


@dataclass(frozen=True, kw_only=True)
class Readout:
    """A place of the unit in the vehicle. [mm]"""

    name: str
    back: float
    left: float
    above_rail: float
    above_ground: float | None


def _unit_points(inputs: Inputs) -> dict[str, tuple[float, float, float]]:
    """Named points of the unit: behind block face, left, up. [mm]"""
    v = inputs.value
    thickness = (v("separator_mm") or 0.0) + (v("plate_mm") or 0.0)
    found: dict[str, tuple[float, float, float]] = {"block face, crank axis": (0.0, 0.0, 0.0)}
    if (length := v("engine_length_mm")) is not None:
        found["accessory end, crank axis"] = (-length, 0.0, 0.0)
    if (box := v("gearbox_length_mm")) is not None:
        found["output joint"] = (thickness + box, v("output_left_mm") or 0.0, v("output_up_mm") or 0.0)
    if (low := v("sump_mm")) is not None and (at := v("sump_back_mm")) is not None:
        found["sump, lowest"] = (at, 0.0, -low)
    if (high := v("engine_top_mm")) is not None and (at := v("top_back_mm")) is not None:
        found["engine, highest"] = (at, 0.0, high)
    if all(v(k) is not None for k in ("mass_back_mm", "mass_left_mm", "mass_up_mm")):
        found["mass centre"] = (v("mass_back_mm") or 0.0, v("mass_left_mm") or 0.0, v("mass_up_mm") or 0.0)
    for mount in inputs.build.mounts:
        at3 = [v(f"mounts.{mount.n}.{f}") for f in ("back", "left", "up")]
        if all(x is not None for x in at3):
            found[f"mount {mount.n}"] = ((at3[0] or 0.0) + (thickness if mount.body == "gearbox" else 0.0), at3[1] or 0.0, at3[2] or 0.0)
    return found


def _carried(matrix: np.ndarray, points: list[tuple[float, float, float]]) -> np.ndarray:
    own = np.array([(-b, le, u) for b, le, u in points])
    return np.asarray(own @ matrix[:3, :3].T + matrix[:3, 3])


def readouts(inputs: Inputs) -> list[Readout]:
    """Where the named points of the unit stand in the vehicle; empty until the pose is known."""
    matrix = pose_of(inputs)
    if matrix is None:
        return []
    names = _unit_points(inputs)
    floor = inputs.value("rail_height_mm")
    return [
        Readout(name=name, back=-float(p[0]), left=float(p[1]), above_rail=float(p[2]), above_ground=None if floor is None else float(p[2]) + floor)
        for name, p in zip(names, _carried(matrix, list(names.values())), strict=True)
    ]


@dataclass(frozen=True, kw_only=True)
class MountRow:
    """What a mount carries and how far it moves in each load case. [%, mm]"""

    n: int
    name: str
    share: float
    squash: float
    moves: tuple[float, ...]
    """In the order of :data:`pindo.core.seat.mounts.CASES`."""


def mount_rows(inputs: Inputs) -> list[MountRow]:
    """One row a mount; empty until mass, mounts and ratios are known."""
    body, matrix = on_mounts(inputs), pose_of(inputs)
    names = [f"mount {m.n}" for m in inputs.build.mounts]
    points = _unit_points(inputs)
    if body is None or matrix is None or any(name not in points for name in names):
        return []
    moved = movement_at(inputs, _carried(matrix, [points[name] for name in names]))
    if moved is None or not inputs.value("unit_mass_kg"):
        return []
    read = {a: np.asarray(inputs.quantities[a].value, float) for a in body.rest_reads}
    far = np.linalg.norm(moved, axis=-1)
    return [
        MountRow(n=m.n, name=m.name, share=float(body.share(i, read)[0]), squash=float(body.squash(i, read)[0]), moves=tuple(map(float, far[:, i])))
        for i, m in enumerate(inputs.build.mounts)
    ]  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class ModeRow:
    """One natural frequency of the unit on its mounts."""

    hertz: float
    about_crank: float
    """Share of its movement that is turn about the crank. [%]"""


def mode_rows(inputs: Inputs) -> list[ModeRow]:
    """All six modes, lowest first; empty until mass, mounts and radii of gyration are known."""
    body = on_mounts(inputs)
    wanted = () if body is None else (*body.rest_reads, *m.GYRATION)
    if body is None or any(inputs.value(a) is None for a in wanted) or min(inputs.value(a) or 0.0 for a in (*m.GYRATION, "unit_mass_kg")) <= 0.0:
        return []
    with np.errstate(all="ignore"):
        hertz, turn = body.modes({a: np.asarray(inputs.quantities[a].value, float) for a in wanted})
    return [ModeRow(hertz=float(h), about_crank=100.0 * float(t)) for h, t in zip(hertz[0], turn[0], strict=True)] if np.isfinite(hertz).all() and np.isfinite(turn).all() else []


def _boxes(inputs: Inputs, matrix: np.ndarray, view: str, floor: float) -> list[Shape]:
    """Engine and gearbox as boxes from their sizes, for a build without solids of its own."""
    v = inputs.value
    length, top, sump = v("engine_length_mm") or 650.0, v("engine_top_mm") or 480.0, v("sump_mm") or 250.0
    known = all(v(k) is not None for k in ("engine_length_mm", "engine_top_mm", "sump_mm"))
    found = []
    for part, (a, b), (low, high), side in (("engine", (-length, 0.0), (-sump, top), USUAL_SIDE), ("gearbox", (0.0, v("gearbox_length_mm") or 0.0), (-130.0, 110.0), 120.0)):
        if b - a <= 0:
            continue
        corners = [(x, y, z) for x in (a, b) for y in (-side, side) for z in (low, high)]
        flat = project(view, _carried(matrix, corners), floor)
        hull = _hull(flat)
        found.append(Shape(part=part, points=hull, style="body", known=known))
    return found


def _hull(points: np.ndarray) -> tuple[tuple[float, float], ...]:
    hull = shapely.MultiPoint(points).convex_hull
    return tuple((float(x), float(y)) for x, y in hull.exterior.coords[:-1]) if isinstance(hull, shapely.Polygon) else ()


def _vehicle(inputs: Inputs, view: str, floor: float) -> tuple[list[Shape], list[Round]]:
    tyre, wheelbase = inputs.value("tyre_mm"), inputs.value("wheelbase_mm")
    shapes, rounds = [], []
    if view != "plan":
        shapes.append(Shape(part="ground", points=((-4000.0, 0.0), (8000.0, 0.0)), style="ground", closed=False))
    if view == "side" and tyre:
        rounds = [Round(part="wheel", x=x, y=tyre / 2, d=tyre, style="wheel") for x in (0.0, wheelbase) if x is not None]
    bonnet = inputs.value("bonnet_height_mm")
    if view != "plan" and bonnet is not None:
        y = floor + bonnet
        xs = (-650.0, 400.0) if view == "side" else (-450.0, 450.0)
        shapes.append(Shape(part="bonnet", points=((xs[0], y), (xs[1], y)), style="hidden", closed=False))
    return shapes, rounds


_LIMITS = {"side": ("block_face_back_mm", 1.0, "crank_height_mm", 1.0), "plan": ("block_face_back_mm", 1.0, "crank_side_mm", -1.0), "front": ("crank_side_mm", -1.0, "crank_height_mm", 1.0)}
_MARKS = {"side": ("block_face_back_mm", "crank_height_mm", "inclination_deg"), "plan": ("crank_side_mm", "yaw_deg"), "front": ("roll_deg",)}


def _handle(inputs: Inputs, view: str, at: np.ndarray) -> list[Handle]:
    x_key, sense, y_key, sense_y = _LIMITS[view]
    limits = DIMENSIONS[x_key].adjustable
    x_value, y_value = inputs.value(x_key), inputs.value(y_key)
    if limits is None or x_value is None or y_value is None or inputs.options.get("pose_from") == "points":
        return []
    name = "Unit, " + {"side": "fore and aft, up and down", "plan": "fore and aft, sideways", "front": "sideways, up and down"}[view]
    return [Handle(address=x_key, name=name, x=float(at[0]), y=float(at[1]), turns=False, value=x_value, low=limits.low, high=limits.high, step=limits.step, sense=sense, address_y=y_key, value_y=y_value, sense_y=sense_y)]  # fmt: skip


def seat_view(inputs: Inputs, view: str, placed: list[Placed]) -> Drawing:
    """One view of the vehicle with the unit in it."""
    floor = inputs.value("rail_height_mm") or 600.0
    shapes, rounds = _vehicle(inputs, view, floor)
    matrix = pose_of(inputs)
    shapes += solid_shapes(placed, view, floor)
    handles: list[Handle] = []
    callouts: list[Callout] = []
    if matrix is not None:
        if all(p.solid.body == "chassis" for p in placed):
            shapes += _boxes(inputs, matrix, view, floor)
        names = _unit_points(inputs)
        flat = project(view, _carried(matrix, list(names.values())), floor)
        for name, (x, y) in zip(names, flat, strict=True):
            mount = name.startswith("mount")
            rounds.append(Round(part=name, x=float(x), y=float(y), d=46.0 if mount else 22.0, style="mount" if mount else "joint", label=name.removeprefix("mount ") if mount else ""))
        handles = _handle(inputs, view, flat[0])
        if "accessory end, crank axis" in names:
            end = flat[list(names).index("accessory end, crank axis")]
            shapes.append(Shape(part="crank axis", points=((float(flat[0][0]), float(flat[0][1])), (float(end[0]), float(end[1]))), style="axis", closed=False))
        letters = LEDGERS[Station.SEAT]
        spread = {"block_face_back_mm": (0.0, -40.0), "crank_height_mm": (0.0, 40.0), "inclination_deg": (-120.0, 0.0), "crank_side_mm": (0.0, 30.0), "yaw_deg": (-120.0, 0.0), "roll_deg": (0.0, 60.0)}
        callouts = [Callout(letter=letters[key], address=key, x=float(flat[0][0]) + spread[key][0], y=float(flat[0][1]) + spread[key][1]) for key in _MARKS[view]]
    points = np.array([p for s in shapes if s.style != "ground" for p in s.points] + [(r.x + s * r.d / 2, r.y + s * r.d / 2) for r in rounds for s in (-1, 1)] + [(-400.0, 0.0), (400.0, 0.0)])
    low, high = points.min(axis=0) - EDGE, points.max(axis=0) + EDGE
    return Drawing(
        view=TITLES[view] + (f"; {side_in_vehicle(1, inputs.build.layout)}" if view != "front" else ""),
        x_low=float(low[0]), x_high=float(high[0]), y_low=float(low[1]) if view == "plan" else min(float(low[1]) + EDGE - 30.0, -30.0), y_high=float(high[1]),
        shapes=tuple(Shape(part=s.part, points=((float(low[0]), 0.0), (float(high[0]), 0.0)), style=s.style, closed=False) if s.style == "ground" else s for s in shapes),
        rounds=tuple(rounds), callouts=tuple(callouts), handles=tuple(handles), notes=(Note(text="vehicle front", x=float(low[0]) + 20, y=float(high[1]) - 60),) if view != "front" else (),
    )  # fmt: skip
