"""Patterns out of drawings and pictures: circles read back against truth that is known, and files
that are none.
"""

import io
import math
import time
import unittest
from functools import cache

import ezdxf
import numpy as np
from PIL import Image

from pindo.core.geometry.circles import fit_circle
from pindo.core.geometry.photo import Known, NotSeen
from pindo.formats.pattern_in import NoPattern, drawing_pattern
from pindo.formats.pictures import NotAPicture
from pindo.formats.scan import picture_pattern

HOLES = ((0.0, 0.0, 10.0), (120.5, 0.0, 8.5), (120.5, 80.25, 12.0), (-40.0, 66.6, 11.0))


def dxf(units=4, draw=None):
    doc = ezdxf.new("R2010")
    doc.header["$INSUNITS"] = units
    space = doc.modelspace()
    if draw is None:
        for x, y, d in HOLES:
            space.add_circle((x, y), d / 2, dxfattribs={"layer": "HOLES"})
    else:
        draw(doc, space)
    text = io.StringIO()
    doc.write(text)
    return text.getvalue().encode()


def of(pattern):
    return sorted(
        (round(f.circle.x, 3), round(f.circle.y, 3), round(f.circle.d, 3)) for f in pattern.circles
    )


class Dxf(unittest.TestCase):
    def test_circles_come_out_in_millimetres_whatever_the_unit(self):
        self.assertEqual(of(drawing_pattern(dxf())), sorted(HOLES))
        inches = drawing_pattern(dxf(1))
        self.assertEqual(inches.unit, "mm")
        self.assertIn((round(120.5 * 25.4, 3), 0.0, round(8.5 * 25.4, 3)), of(inches))

    def test_a_unit_that_is_not_said_is_asked_for(self):
        unsaid = drawing_pattern(dxf(0))
        self.assertEqual(unsaid.unit, "")
        self.assertEqual(drawing_pattern(dxf(0), "cm").circles[1].circle.d, 85.0)

    def test_closed_curves_that_are_meant_as_circles_are_and_others_are_told(self):
        def draw(doc, space):
            t = np.linspace(0, 2 * math.pi, 40)
            ring = [(50 + 6 * math.cos(a), 20 + 6 * math.sin(a), 0) for a in t]
            spline = space.add_spline(fit_points=ring)
            spline.closed = False
            space.add_lwpolyline(
                [(10, 0, 0, 0, 1), (0, 0, 0, 0, 1)], close=True, dxfattribs={"layer": "ROUND"}
            )
            space.add_lwpolyline([(0, 0), (100, 0), (100, 50), (0, 50)], close=True)
            space.add_spline(fit_points=[(0, 0), (10, 5), (20, -3)])
            space.add_arc((0, 0), 50, 0, 90)
            block = doc.blocks.new("HOLE")
            block.add_circle((1, 1), 2)
            space.add_blockref("HOLE", (200, 100), dxfattribs={"rotation": 90})

        found = drawing_pattern(dxf(4, draw))
        places = of(found)
        np.testing.assert_allclose(places[0], (5, 0, 10), atol=0.01)
        np.testing.assert_allclose(places[1], (50, 20, 12), atol=0.02)
        np.testing.assert_allclose(places[2], (199, 101, 4), atol=0.01)
        self.assertEqual(len(places), 3)
        told = "; ".join(found.notes)
        self.assertIn("1 splines that are no circles left out", told)
        self.assertIn("1 arcs left out", told)
        # The rectangle is no hole, but it may be an outline.
        (line,) = found.lines
        self.assertEqual(set(line.points), {(0, 0), (100, 0), (100, 50), (0, 50)})
        self.assertIn("ROUND", found.layers)

    def test_what_is_no_dxf_or_holds_no_circle_is_refused_in_words(self):
        for content in (b"", b"not a drawing", b"\x00" * 5000, b"0\nSECTION\n2\nENTITIES\n0"):
            with self.assertRaises(NoPattern):
                drawing_pattern(content)
        with self.assertRaisesRegex(NoPattern, "holds no circle"):
            drawing_pattern(dxf(4, lambda doc, space: space.add_line((0, 0), (1, 1))))


class Svg(unittest.TestCase):
    def test_circles_are_moved_turned_and_scaled_by_their_groups_and_turned_up(self):
        svg = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" viewBox="0 0 400 300">'
            b'<g id="holes" transform="translate(100,50) rotate(90) scale(2)">'
            b'<circle cx="10" cy="0" r="5"/><ellipse cx="0" cy="20" rx="4" ry="4"/></g>'
            b'<ellipse cx="0" cy="0" rx="4" ry="8"/><path d="M0,0L1,1"/>'
            b'<polygon points="0,0 40,0 40,20"/><rect x="2" y="4" width="6" height="8"/></svg>'
        )
        found = drawing_pattern(svg)
        # Half a millimetre a unit: (100, 50 + 20) and (100 - 40, 50).
        self.assertEqual(of(found), [(30.0, -25.0, 8.0), (50.0, -35.0, 10.0)])
        self.assertEqual(found.unit, "mm")
        self.assertIn("1 ellipses left out", found.notes)
        self.assertEqual(set(found.lines[0].points), {(0, 0), (20, 0), (20, -10)})
        self.assertEqual(set(found.lines[1].points), {(1, -2), (4, -2), (4, -6), (1, -6)})
        self.assertEqual(found.layers, ("holes",))

    def test_pixels_have_no_size_until_it_is_said(self):
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="200"><circle r="5"/></svg>'
        self.assertEqual(drawing_pattern(svg).unit, "")
        self.assertAlmostEqual(drawing_pattern(svg, "in").circles[0].circle.d, 254.0)

    def test_broken_ones_are_refused(self):
        for content in (b"<svg", b"<svg><circle r='x'/></svg>", b"<html>svg</html>"):
            with self.assertRaises(NoPattern):
                drawing_pattern(content)


RECT = (297.0, 210.0)
SQUARE = ((100.0, 90.0), (1500.0, 90.0), (1500.0, 1080.0), (100.0, 1080.0))
ASLANT = ((220.0, 90.0), (1400.0, 120.0), (1480.0, 1040.0), (150.0, 1100.0))
SIZE = (1600, 1200)


def homography(corners, rect):
    """Plane from pixels, by the library that computes it elsewhere."""
    import cv2

    there = np.array([[0, 0], [rect[0], 0], list(rect), [0, rect[1]]], np.float32)
    return cv2.getPerspectiveTransform(np.array(corners, np.float32), there)


@cache
def photo(holes, corners, noise=3.0, dark=True, seed=2, fine=3):
    """A picture of round holes in a plane seen through four corners (clockwise from the top left):
    every pixel the mean of its parts, the lens a little soft, grain over it.
    """
    rng = np.random.default_rng(seed)
    wide, tall = SIZE
    h = homography(corners, RECT)
    shares = np.zeros((tall, wide))
    offsets = (np.arange(fine) + 0.5) / fine - 0.5
    x0, y0 = np.meshgrid(np.arange(wide, dtype=float), np.arange(tall, dtype=float))
    for dx in offsets:
        for dy in offsets:
            w = h[2, 0] * (x0 + dx) + h[2, 1] * (y0 + dy) + h[2, 2]
            u = (h[0, 0] * (x0 + dx) + h[0, 1] * (y0 + dy) + h[0, 2]) / w
            v = (h[1, 0] * (x0 + dx) + h[1, 1] * (y0 + dy) + h[1, 2]) / w
            inside = np.zeros(u.shape, bool)
            for a, b, d in holes:
                # Told with v up: the plane of the picture counts down.
                inside |= (u - a) ** 2 + (v + b) ** 2 < d * d / 4
            shares += inside
    shares /= fine * fine
    ink, paper = (45.0, 215.0) if dark else (215.0, 45.0)
    grey = paper + (ink - paper) * shares
    kernel = np.exp(-(np.arange(-3, 4) ** 2) / 2.0)
    kernel /= kernel.sum()
    for axis in (0, 1):
        grey = np.apply_along_axis(lambda r: np.convolve(r, kernel, "same"), axis, grey)
    grey[:6], grey[-6:], grey[:, :6], grey[:, -6:] = paper, paper, paper, paper
    grey = np.clip(grey + rng.normal(0, noise, grey.shape), 0, 255).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(grey).save(out, "PNG")
    return out.getvalue()


SEEN = tuple(
    (40.0 + 53.3 * i + 2.0 * j, -(35.0 + 47.0 * j + 1.5 * i), 8.0 + 1.7 * ((i + 2 * j) % 4))
    for i in range(5)
    for j in range(4)
)


class Picture(unittest.TestCase):
    def nearest(self, found, hole):
        return min(
            found.circles, key=lambda f: math.hypot(f.circle.x - hole[0], f.circle.y - hole[1])
        ).circle

    def test_circles_come_out_to_a_fraction_of_a_pixel_square_on_and_aslant(self):
        for corners, dark in ((SQUARE, True), (ASLANT, True), (ASLANT, False)):
            known = Known(points=corners, width=RECT[0], height=RECT[1])
            found = picture_pattern(photo(SEEN, corners, dark=dark), known)
            self.assertEqual((len(found.circles), found.unit), (len(SEEN), "mm"))
            pixel = RECT[0] / (corners[1][0] - corners[0][0])
            for hole in SEEN:
                c = self.nearest(found, hole)
                self.assertLess(math.hypot(c.x - hole[0], c.y - hole[1]), 0.15 * pixel)
                self.assertLess(abs(c.d - hole[2]), 0.3 * pixel)
                # What it says of itself is no smaller than the truth, and no scare.
                self.assertLess(math.hypot(c.x - hole[0], c.y - hole[1]), c.pm)
                self.assertLess(c.pm, 5 * pixel)

    def test_corners_may_be_picked_the_other_way_round(self):
        other = (ASLANT[3], ASLANT[2], ASLANT[1], ASLANT[0])
        known = Known(points=other, width=RECT[0], height=RECT[1])
        found = picture_pattern(photo(SEEN, ASLANT), known)
        # From the lower left upwards: the pattern is the same, its origin another, never mirrored.
        for hole in SEEN:
            c = self.nearest(found, (hole[0], hole[1] + RECT[1]))
            self.assertLess(math.hypot(c.x - hole[0], c.y - hole[1] - RECT[1]), 0.1)

    def test_without_anything_known_it_is_in_pixels_and_upright(self):
        found = picture_pattern(photo(SEEN, SQUARE))
        self.assertEqual((found.unit, found.size), ("px", SIZE))
        scale = (SQUARE[1][0] - SQUARE[0][0]) / RECT[0]
        x = np.array([[f.circle.x, f.circle.y] for f in found.circles])
        for hole in SEEN:
            want = np.array([100 + scale * hole[0], -90 + (1080 - 90) / RECT[1] * hole[1]])
            self.assertLess(np.min(np.hypot(*(x - want).T)), 0.2)

    def test_a_length_alone_doubts_by_how_far_it_was_looked_at_from_the_side(self):
        known = Known(points=SQUARE[:2], width=RECT[0])
        found = picture_pattern(photo(SEEN, SQUARE), known)
        far = max(found.circles, key=lambda f: math.hypot(f.circle.x, f.circle.y)).circle
        self.assertGreater(far.pm, 0.02 * math.hypot(far.x, far.y))

    def test_what_shows_no_hole_and_what_is_no_plane_is_refused(self):
        with self.assertRaisesRegex(NoPattern, "No round hole"):
            picture_pattern(photo((), SQUARE, noise=2.0))
        with self.assertRaises(NotSeen):
            crossed = Known(points=(SQUARE[0], SQUARE[2], SQUARE[1], SQUARE[3]), width=1, height=1)
            picture_pattern(photo(SEEN[:2], SQUARE, fine=1), crossed)
        with self.assertRaises(NotAPicture):
            picture_pattern(b"\x89PNG and then nothing")

    def test_a_picture_of_a_hundred_million_pixels_is_refused_before_it_is_decoded(self):
        out = io.BytesIO()
        Image.new("1", (10_000, 10_000)).save(out, "PNG")
        start = time.monotonic()
        with self.assertRaisesRegex(NotAPicture, "at most 60 million"):
            picture_pattern(out.getvalue())
        self.assertLess(time.monotonic() - start, 20)


class PictureOutline(unittest.TestCase):
    def test_the_rim_of_a_dark_part_comes_out_to_scale_and_only_with_something_known(self):
        wide = (148.5, -105.0, 120.0)
        png = photo((wide,), ASLANT)
        known = Known(points=ASLANT, width=RECT[0], height=RECT[1])
        line = picture_pattern(png, known).lines[0]
        far = np.hypot(*(np.array(line.points) - wide[:2]).T)
        np.testing.assert_allclose(far, 60.0, atol=max(line.pm, 0.5))
        self.assertLess(line.pm, 1.5)
        self.assertEqual(len(line.px), len(line.points))
        with self.assertRaises(NoPattern):
            picture_pattern(png)


class Fit(unittest.TestCase):
    def test_exact_points_an_outlier_and_points_in_a_line(self):
        t = np.linspace(0, 2 * math.pi, 24, endpoint=False)
        ring = np.stack([3 + 5 * np.cos(t), -2 + 5 * np.sin(t)], 1)
        c = fit_circle(ring)
        np.testing.assert_allclose((c.x, c.y, c.d), (3, -2, 10), atol=1e-9)
        spoiled = ring.copy()
        spoiled[4] += (3.0, 1.0)
        c = fit_circle(spoiled)
        np.testing.assert_allclose((c.x, c.y, c.d), (3, -2, 10), atol=1e-6)
        self.assertIsNone(fit_circle(np.stack([t, 2 * t], 1)))
        self.assertIsNone(fit_circle(ring[:2]))

    def test_its_doubt_is_as_large_as_its_scatter(self):
        rng, t = np.random.default_rng(4), np.linspace(0, 2 * math.pi, 40, endpoint=False)
        inside = 0
        for _ in range(300):
            ring = np.stack([np.cos(t), np.sin(t)], 1) * (5 + rng.normal(0, 0.05, (40, 1)))
            c = fit_circle(ring)
            inside += abs(c.x) < c.pm
        self.assertGreater(inside / 300, 0.88)


if __name__ == "__main__":
    unittest.main()
