"""The Line board: the drive in side view or plan, to scale, and the chart over the axle's
travel.
"""

import itertools
from dataclasses import replace
from typing import Any

import numpy as np

from pindo.core.drawing.callouts import Stretch, lettered
from pindo.core.drawing.shapes import Chart, Drawing, Note, Round, Series, Shape
from pindo.core.geometry import joints
from pindo.core.geometry.chains import SPROCKETS, chain_of
from pindo.core.geometry.frames import angle_deg, length_of, minus
from pindo.core.geometry.half_shafts import half_shafts_of
from pindo.core.geometry.shafts import rises, shaft_of
from pindo.core.inputs.inputs import Inputs

POINTS = 41  # places over the travel in the chart


def _empty(view: str) -> Drawing:
    return Drawing(view=view, x_low=-500.0, x_high=3500.0, y_low=-100.0, y_high=900.0)


def shaft_drawing(inputs: Inputs, question: str) -> Drawing:
    """The shaft from the left, to scale, with the letters of one question."""
    body, floor = shaft_of(inputs), inputs.value("rail_height_mm") or 600.0
    read = inputs.known(body.reads) if body else None
    if body is None or read is None:
        return _empty("side view; the shaft is drawn once its joints are known")
    at = [(-float(p[0]), float(p[2]) + floor) for p in body.places(read)]
    axes = body.axes(read)
    angles = [float(angle_deg(a, b)) for a, b in itertools.pairwise(axes)]
    tyre = inputs.value("tyre_mm")
    shapes = [
        Shape(
            part="ground",
            points=((-600.0, 0.0), (at[-1][0] + 900.0, 0.0)),
            style="ground",
            closed=False,
        )
    ]
    for (x1, y1), (x2, y2) in itertools.pairwise(at):
        shapes.append(Shape(part="shaft", points=((x1, y1), (x2, y2)), style="shaft", closed=False))
    for (x, y), axis, sign in ((at[0], axes[0], -1.0), (at[-1], axes[-1], 1.0)):
        # A stub along the axis of gearbox and pinion shows what the joint's angle is taken from.
        shapes.append(
            Shape(
                part="axis",
                points=(
                    (x, y),
                    (x - sign * 320.0 * float(axis[0]), y + sign * 320.0 * float(axis[2])),
                ),
                style="axis",
                closed=False,
            )
        )
    rounds = [Round(part="joint", x=x, y=y, d=80.0, style="joint") for x, y in at]
    if tyre and (base := inputs.value("wheelbase_mm")) is not None:
        rounds += [
            Round(part="wheel", x=float(x), y=tyre / 2, d=tyre, style="wheel") for x in (0.0, base)
        ]
    marks = {
        "output_up_mm": at[0],
        "pinion_drop_mm": at[-1],
        "pinion_forward_mm": (at[-1][0], at[-1][1] - 40),
        "pinion_angle_deg": (at[-1][0] + 200.0, at[-1][1] - 10),
        "axle_drop_mm": (at[-1][0] + 60.0, at[-1][1] + 60),
        "tube_od_mm": ((at[-2][0] + at[-1][0]) / 2, (at[-2][1] + at[-1][1]) / 2),
    }
    if body.two:
        marks |= {
            "centre_bearing_back_mm": at[1],
            "centre_bearing_drop_mm": (at[1][0], at[1][1] + 45),
        }
    notes = tuple(
        Note(text=f"{a:.1f}°", x=x - 60, y=y + 75) for (x, y), a in zip(at, angles, strict=True)
    )
    high, back = max(y for _, y in at) + 330.0, max(x for x, _ in at) + 700.0
    return Drawing(
        view="from the left, vehicle front to the left; each joint's true angle beside it",
        x_low=min(-500.0, *(x for x, _ in at)),
        x_high=back,
        y_low=-30.0,
        y_high=max(0.0, high, (tyre or 0.0) + 60.0),
        shapes=tuple(shapes),
        rounds=tuple(rounds),
        callouts=lettered(
            question, marks, _sizes(at, body.two, floor, inputs.value("wheelbase_mm"))
        ),
        notes=notes,
    )


def _sizes(
    at: list[tuple[float, float]], two: bool, floor: float, wheelbase: float | None
) -> dict[str, Stretch]:
    """The two ends of the lengths that the shaft's picture shows, joints at ``at``. [mm]"""
    (x, y), centre = at[-1], at[1]
    found = {"pinion_drop_mm": (x, floor, x, y)}
    if wheelbase is not None:
        found["pinion_forward_mm"] = (x, y - 40.0, wheelbase, y - 40.0)
    if two:
        found["centre_bearing_back_mm"] = (0.0, centre[1], *centre)
        found["centre_bearing_drop_mm"] = (centre[0], floor, *centre)
    return found


def half_drawing(inputs: Inputs) -> Drawing:
    """Both half shafts from behind, to scale."""
    body, floor = half_shafts_of(inputs), inputs.value("rail_height_mm") or 600.0
    read = inputs.known(body.reads) if body else None
    if body is None or read is None:
        return _empty("from behind; the half shafts are drawn once their joints are known")
    shapes, rounds = [], []
    for left in (True, False):
        ends = [(-float(p[1]), float(p[2]) + floor) for p in body.ends(left, read)]
        shapes.append(Shape(part="half shaft", points=tuple(ends), style="shaft", closed=False))
        rounds += [Round(part="joint", x=x, y=y, d=70.0, style="joint") for x, y in ends]
    shapes.append(
        Shape(part="ground", points=((-1100.0, 0.0), (1100.0, 0.0)), style="ground", closed=False)
    )
    return Drawing(
        view="from behind, forwards",
        x_low=-1100.0,
        x_high=1100.0,
        y_low=-30.0,
        y_high=floor + 200.0,
        shapes=tuple(shapes),
        rounds=tuple(rounds),
    )


def chain_drawing(inputs: Inputs, question: str) -> Drawing:
    """The chain on its sprockets, to scale, with the letters of a question."""
    drive = chain_of(inputs)
    read = inputs.known(tuple(dict.fromkeys((*drive.centre_reads, *SPROCKETS)))) if drive else None
    if (
        drive is None
        or read is None
        or min(read[a] for a in SPROCKETS) <= 0.0
        or (far := float(drive.centre(read))) <= 0.0
    ):
        return _empty(
            "side view; the chain is drawn once centre distance, pitch and teeth are known"
        )
    centre, pitch = far, read["chain_pitch_mm"]
    r1, r2 = (
        pitch / (2.0 * np.sin(np.pi / max(read[k], 6.0))) for k in ("driver_teeth", "driven_teeth")
    )
    tilt = np.arcsin(np.clip((r2 - r1) / centre, -1.0, 1.0))
    c, s = np.cos(tilt), np.sin(tilt)
    spans = [(((-r1 * s), k * r1 * c), (centre - r2 * s, k * r2 * c)) for k in (1.0, -1.0)]
    shapes = [
        Shape(
            part="chain",
            points=((float(a[0]), float(a[1])), (float(b[0]), float(b[1]))),
            style="shaft",
            closed=False,
        )
        for a, b in spans
    ]
    shapes.append(
        Shape(
            part="centre distance", points=((0.0, 0.0), (centre, 0.0)), style="axis", closed=False
        )
    )
    if (slide := inputs.value("take_up_mm")) is not None:
        shapes.append(
            Shape(
                part="take-up",
                points=((-slide, -r1 - 18.0), (slide, -r1 - 18.0)),
                style="thin",
                closed=False,
            )
        )
    rounds = [
        Round(part="driver sprocket", x=0.0, y=0.0, d=float(2 * r1), style="opening", label=""),
        Round(part="driven sprocket", x=centre, y=0.0, d=float(2 * r2), style="opening"),
    ]
    marks = {
        "driver_teeth": (0.0, float(r1)),
        "driven_teeth": (centre, float(r2)),
        "chain_centre_mm": (centre / 2, 0.0),
        "take_up_mm": (0.0, float(-r1) - 18.0),
    }
    sizes = {"chain_centre_mm": (0.0, 0.0, centre, 0.0)}
    if slide is not None:
        sizes["take_up_mm"] = (0.0, float(-r1) - 18.0, slide, float(-r1) - 18.0)
    high = float(max(r1, r2)) + 40.0
    return Drawing(
        view="along the sprocket shafts, pitch circles and chain to scale",
        x_low=float(-r1) - 50.0,
        x_high=centre + float(r2) + 50.0,
        y_low=-high,
        y_high=high,
        shapes=tuple(shapes),
        rounds=tuple(rounds),
        callouts=lettered(question, marks, sizes),
    )


def half_chart(inputs: Inputs) -> tuple[Chart, ...]:
    """Angles and change of length of the half shafts over the travel; none until they can be
    told.
    """
    share, half = inputs.rules["spring_radius_share"], half_shafts_of(inputs)
    if half is None:
        return ()
    read = inputs.known(half.travel_reads) if half.sideways and half.guided else None
    if read is None:
        return ()
    at, series = rises(read, POINTS), []
    for left, side in ((True, "left"), (False, "right")):
        a, b = half.ends(left, read, at, share)
        series.append(
            Series(
                name=f"{side} angle",
                kind="angle",
                values=_over(angle_deg(minus(b, a), (0.0, 1.0, 0.0))),
                limit=inputs.rules["cv_angle_max_deg"],
            )
        )
        series.append(
            Series(
                name=f"{side} longer by",
                kind="length",
                values=_over(length_of(minus(b, a)) - length_of(minus(*half.ends(left, read)))),
            )
        )
    if all(
        np.allclose(np.array(a.values, float), np.array(b.values, float), atol=1e-6)
        for a, b in zip(series[:2], series[2:], strict=True)
    ):
        series = [replace(s, name=s.name.replace("left", "each")) for s in series[:2]]
    return _chart("Over the wheel's travel", "wheel above ride height", at, series)


def shaft_chart(inputs: Inputs) -> tuple[Chart, ...]:
    """Joint angles and change of length over the axle's travel; none until they can be told."""
    share = inputs.rules["spring_radius_share"]
    body = shaft_of(inputs)
    read = inputs.known((*body.travel_reads, "shaft_speed_rpm")) if body and body.guided else None
    if body is None or read is None:
        return ()
    at = rises(read, POINTS)
    limit = float(joints.angle_limit_deg(read["shaft_speed_rpm"]))
    axes, joint_at = body.axes(read, at, share), body.places(read, at, share)
    # Only the last piece moves with the axle.
    series = [
        Series(
            name=f"joint {i + 1}",
            kind="angle",
            values=_over(angle_deg(axes[i], axes[i + 1])),
            limit=limit,
        )
        for i in (body.count - 2, body.count - 1)
    ]
    series.append(
        Series(
            name="shaft longer by",
            kind="length",
            values=_over(length_of(minus(joint_at[-1], joint_at[-2])) - body.length(read)),
        )
    )
    return _chart("Over the axle's travel", "axle above ride height", at, series)


def _over(values: Any) -> tuple[float, ...]:
    return tuple(np.broadcast_to(values, (POINTS,)).tolist())


def _chart(title: str, x_name: str, at: np.ndarray, series: list[Series]) -> tuple[Chart, ...]:
    """A chart over the travel; none where the guide does not reach."""
    whole = all(np.isfinite(np.array(s.values, float)).all() for s in series)
    return (
        (Chart(title=title, x_name=x_name, x=tuple(at.tolist()), series=tuple(series)),)
        if whole
        else ()
    )
