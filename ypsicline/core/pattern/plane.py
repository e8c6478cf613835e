"""Maps of the plane that carry what lies inside a panel."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Protocol

import shapely

from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import reverse_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["Everywhere", "Plane", "ring_carried"]


class Plane(Protocol):
    """A map of the plane that may differ from place to place, but for the size and the hand of things."""

    @property
    def scale(self) -> float: ...

    @property
    def is_mirrored(self) -> bool: ...

    def of(self, shape: shapely.Geometry, what: Message, at: Point) -> Transform:
        """How a shape is carried. Raises `Refusal` where it would be torn."""
        ...


@dataclass(frozen=True)
class Everywhere:
    """The same map in all places."""

    transform: Transform

    @property
    def scale(self) -> float:
        return self.transform.scale

    @property
    def is_mirrored(self) -> bool:
        return self.transform.is_mirrored

    def of(self, shape: shapely.Geometry, what: Message, at: Point) -> Transform:  # noqa: ARG002 - a plane's signature
        return self.transform


def ring_carried(ring: tuple[SeamEdge, ...], transform: Transform) -> tuple[SeamEdge, ...]:
    """A ring as it comes out, walked the same way round as before."""
    ring_after = tuple(transform.edge(e) for e in ring)
    if not transform.is_mirrored:
        return ring_after
    back = reverse_ring(ring_after)
    # the corner belongs to the end of an edge: walked back, it is the next one's
    return tuple(replace(e, corner=back[(k + 1) % len(back)].corner) for k, e in enumerate(back))
