"""The profile strip: the whole build in side view or plan, to scale, from the numbers known so far.

Every layout is drawn from the same pose: lengthwise, reversed, crosswise; shaft, half shafts or
chain. Findings are flagged where they are.
"""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import shapely

from pindo.core.drawing.shapes import Drawing, Gap, Note, Point, Round, Shape, Usual, box
from pindo.core.drawing.views import project
from pindo.core.geometry.frames import SIDE, YAW_DEG, Pose, side_in_vehicle, vehicle_from_powertrain
from pindo.core.geometry.shafts import shaft_of
from pindo.core.inputs.dimensions import SHAFTS
from pindo.core.inputs.inputs import Inputs

USUAL = {
    "wheelbase_mm": 2700.0,
    "tyre_mm": 700.0,
    "rail_height_mm": 600.0,
    "bonnet_height_mm": 560.0,
    "block_face_back_mm": 150.0,
    "crank_side_mm": 0.0,
    "crank_height_mm": 0.0,
    "roll_deg": 0.0,
    "inclination_deg": 3.0,
    "yaw_deg": 0.0,
    "engine_length_mm": 650.0,
    "engine_top_mm": 480.0,
    "sump_mm": 250.0,
    "gearbox_length_mm": 600.0,
    "plate_mm": 0.0,
    "separator_mm": 0.0,
    "chain_centre_mm": 300.0,
    "driven_axle_back_mm": 0.0,
}
BELL_SHARE = 0.33  # of the gearbox's length, in the picture
HALF_WIDE = 230.0  # half-width of an engine at the most, in the picture: nobody measures it


def _unit(g: Usual, layout: str, view: str) -> list[Shape]:
    """Engine, plate and gearbox as slices along the crank, carried by the pose and flattened;
    nothing while nobody has said how the unit stands.
    """
    if layout == "":
        return []
    pose = vehicle_from_powertrain(
        Pose(
            x_mm=-g("block_face_back_mm"),
            y_mm=g("crank_side_mm"),
            z_mm=g("crank_height_mm"),
            roll_deg=g("roll_deg"),
            pitch_deg=g("inclination_deg"),
            yaw_deg=g("yaw_deg") + YAW_DEG[layout],
        )
    )
    length, top, sump, thick, box_length = (
        g("engine_length_mm"),
        g("engine_top_mm"),
        g("sump_mm"),
        g("plate_mm") + g("separator_mm"),
        (0.0 if g.values.get("gearbox_length_mm") == 0.0 else g("gearbox_length_mm")),
    )
    floor = g("rail_height_mm")
    wide = min(HALF_WIDE, 0.45 * (top + sump))

    def flat(slices: list[tuple[float, float, float, float]]) -> tuple[Point, ...]:
        """Hull of slices (behind, low, high, half-width)."""
        corners = np.array(
            [
                (-s, side * w, z)
                for s, low, high, w in slices
                for side in (-1, 1)
                for z in (low, high)
            ]
        )
        flat_points = project(view, corners @ pose[:3, :3].T + pose[:3, 3], floor)
        hull = shapely.MultiPoint(flat_points).convex_hull
        return (
            tuple((float(x), float(y)) for x, y in hull.exterior.coords[:-1])
            if isinstance(hull, shapely.Polygon)
            else ()
        )

    shapes = [
        Shape(
            part="engine",
            points=flat(
                [
                    (-length, -sump * 0.45, top * 0.9, wide),
                    (-length * 0.7, -sump, top, wide),
                    (-length * 0.2, -sump, top, wide),
                    (0.0, -sump * 0.55, top * 0.8, wide),
                ]
            ),
            style="body",
            known=g.known(
                "engine_length_mm",
                "engine_top_mm",
                "sump_mm",
                "block_face_back_mm",
                "crank_height_mm",
            ),
        )
    ]
    if box_length > 0:
        bell = thick + box_length * BELL_SHARE
        shapes.append(
            Shape(
                part="bell",
                points=flat([(thick, -190.0, 190.0, 190.0), (bell, -120.0, 105.0, 115.0)]),
                style="casting",
                known=g.known("gearbox_length_mm"),
            )
        )
        shapes.append(
            Shape(
                part="gearbox",
                points=flat(
                    [(bell, -120.0, 105.0, 115.0), (thick + box_length, -70.0, 60.0, 70.0)]
                ),
                style="casting",
                known=g.known("gearbox_length_mm"),
            )
        )
    if thick > 0:
        shapes.append(
            Shape(
                part="adapter plate",
                points=flat([(0.0, -215.0, 215.0, 215.0), (thick, -215.0, 215.0, 215.0)]),
                style="accent",
                known=g.known("plate_mm"),
            )
        )
    return shapes


def _drive(g: Usual, inputs: Inputs, view: str) -> tuple[list[Shape], list[Round]]:
    """Shaft, half shafts or chain."""
    drive, floor = inputs.options.get("drive", ""), g("rail_height_mm")
    body = shaft_of(inputs)
    read = None if body is None else inputs.known(body.reads)
    if body is not None and read is not None:
        flat = [project(view, [p], floor)[0] for p in body.places(read)]
        joints = [(float(x), float(y)) for x, y in flat]
        return [Shape(part="shaft", points=tuple(joints), style="shaft", closed=False)], [
            Round(part="joint", x=x, y=y, d=70, style="joint") for x, y in joints
        ]
    if drive == "chain":
        tyre = g("tyre_mm")
        x0, y0 = (
            float(v)
            for v in project(
                view, [(-g("block_face_back_mm"), g("crank_side_mm"), g("crank_height_mm"))], floor
            )[0]
        )
        x1, y1 = g("wheelbase_mm"), tyre / 2 if view == "side" else y0
        small, large = tyre * 0.11, tyre * 0.3
        chain = [
            Shape(
                part="chain",
                points=((x0, y0 + k * small), (x1, y1 + k * large)),
                style="shaft",
                closed=False,
                known=inputs.value("chain_centre_mm") is not None,
            )
            for k in (1, -1)
        ]
        return chain, [
            Round(part="sprocket", x=x0, y=y0, d=2 * small, style="joint"),
            Round(part="sprocket", x=x1, y=y1, d=2 * large, style="joint"),
        ]
    if drive == "half shafts":
        x = g("driven_axle_back_mm")
        return [], (
            [Round(part="hub", x=x, y=g("tyre_mm") / 2, d=90, style="joint")]
            if view == "side"
            else []
        )
    return [], []


@dataclass(frozen=True, kw_only=True)
class Flag:
    """A finding that the strip marks: at its own place, or at the part that its question is of."""

    finding: str
    at: tuple[float, float, float] | None = None
    """Behind the front axle line, left, above the ground. [mm]"""
    where: str = ""
    """block face, engine, driven axle; empty for no place at all."""


def _place(flag: Flag, inputs: Inputs, g: Usual, view: str) -> Point | None:
    """Where a flag stands in a view; None where it has no place."""
    if flag.at is not None:
        return flag.at[0], flag.at[2] if view == "side" else -flag.at[1]
    side = -g("crank_side_mm")
    up = g("rail_height_mm") + g("crank_height_mm")
    if flag.where == "driven axle":
        # Half shafts and chains belong to the axle that they drive.
        driven = inputs.value("driven_axle_back_mm")
        shafted = inputs.options.get("drive") in SHAFTS
        x = g("wheelbase_mm") - 200.0 if shafted or driven is None else driven
        return x, (up if shafted else g("tyre_mm") / 2) if view == "side" else side
    back = g("block_face_back_mm")
    ahead = back - 0.5 * g("engine_length_mm")
    at = {"block face": back, "engine": ahead}.get(flag.where)
    return None if at is None else (at, up if view == "side" else side)


def profile(inputs: Inputs, flags: Iterable[Flag] = (), view: str = "side") -> Drawing:
    """The strip; ``flags`` are the findings to mark where they are."""
    g = Usual({key: inputs.value(key) for key in USUAL}, USUAL)
    rail, wheelbase, tyre = g("rail_height_mm"), g("wheelbase_mm"), g("tyre_mm")
    scale = min(1.0, wheelbase / 2700.0)
    front, rear = -650.0 * scale, wheelbase + 750.0 * scale
    shapes, rounds = [], []
    if view == "side":
        shapes = [
            Shape(
                part="ground",
                points=((front - 150 * scale, 0), (rear + 150 * scale, 0)),
                style="ground",
                closed=False,
            ),
            Shape(
                part="frame rail",
                points=box(front + 100 * scale, rear, rail - 90 * scale, rail),
                style="casting",
                known=g.known("rail_height_mm", "wheelbase_mm"),
            ),
        ]
        rounds = [
            Round(
                part="front wheel", x=0, y=tyre / 2, d=tyre, style="wheel", known=g.known("tyre_mm")
            ),
            Round(
                part="rear wheel",
                x=wheelbase,
                y=tyre / 2,
                d=tyre,
                style="wheel",
                known=g.known("tyre_mm", "wheelbase_mm"),
            ),
        ]
        if g.known("bonnet_height_mm"):
            high = rail + g("bonnet_height_mm")
            shapes.append(
                Shape(
                    part="bonnet",
                    points=(
                        (front, high - 130),
                        (front + 180, high - 20),
                        (g("block_face_back_mm") - 60, high),
                        (g("block_face_back_mm") + 220, high - 10),
                    ),
                    style="hidden",
                    closed=False,
                )
            )
    else:
        wide = 430.0 * scale
        shapes = [
            Shape(
                part="frame rail",
                points=box(front + 100 * scale, rear, k * wide - 35 * scale, k * wide + 35 * scale),
                style="casting",
                known=False,
            )
            for k in (-1, 1)
        ]
        shapes += [
            Shape(
                part="axle", points=((x, -wide * 1.9), (x, wide * 1.9)), style="axis", closed=False
            )
            for x in (0.0, wheelbase)
        ]
    shapes += _unit(g, inputs.build.layout, view)
    drive, joints = _drive(g, inputs, view)
    shapes += drive
    rounds += joints
    gaps = []
    for f in flags:
        if (at := _place(f, inputs, g, view)) is not None:
            gaps.append(Gap(finding=f.finding, x1=at[0], y1=at[1], x2=at[0], y2=at[1]))
    points = [p for s in shapes for p in s.points] + [(r.x, r.y + r.d / 2) for r in rounds]
    nicknames = inputs.build.nicknames
    ahead = SIDE["vehicle_front"].called(nicknames)
    looks = side_in_vehicle("accessory_end", inputs.build.layout, nicknames)
    low = min(y for _, y in points)
    return Drawing(
        view=(
            f"{'side view' if view == 'side' else 'from above'}, vehicle front to the left; {looks}"
        ),
        x_low=min(front - 150.0 * scale, min(x for x, _ in points)),
        x_high=max(rear + 150.0 * scale, max(x for x, _ in points)),
        y_low=min(-40.0 * scale, low - 20.0),
        y_high=max(max(y for _, y in points), 0.0) + 60.0 * scale,
        shapes=tuple(shapes),
        rounds=tuple(rounds),
        gaps=tuple(gaps),
        notes=(
            Note(
                text=ahead,
                x=front - 130 * scale,
                y=30,
            ),
        ),
    )
