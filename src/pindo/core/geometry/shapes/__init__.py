"""The shapes that solids have, one file a shape."""

from collections.abc import Mapping
from types import MappingProxyType

from pindo.core.geometry.shapes.box import Box
from pindo.core.geometry.shapes.capsule import Capsule
from pindo.core.geometry.shapes.cone import Cone
from pindo.core.geometry.shapes.cylinder import Cylinder
from pindo.core.geometry.shapes.panel import Panel
from pindo.core.geometry.shapes.ring import Ring
from pindo.core.geometry.shapes.shape import Shape
from pindo.core.geometry.shapes.sphere import Sphere

SHAPES: Mapping[str, Shape] = MappingProxyType(
    {s.name: s for s in (Box(), Cylinder(), Capsule(), Cone(), Sphere(), Ring(), Panel())}
)
