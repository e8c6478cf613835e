"""Edges, rings and their parallels. Millimetres, x to the right, y up, outlines counter-clockwise."""

from ypsicline.core.geometry.edges import (
    Edge,
    EdgeKind,
    Point,
    edge_length,
    flatten,
    point_at,
    reverse_edge,
    split_edge,
    tangent_at,
)
from ypsicline.core.geometry.parallel import parallel
from ypsicline.core.geometry.rings import (
    check_ring,
    flatten_ring,
    is_counter_clockwise,
    reverse_ring,
    ring_length,
    signed_area,
)

__all__ = [
    "Edge",
    "EdgeKind",
    "Point",
    "check_ring",
    "edge_length",
    "flatten",
    "flatten_ring",
    "is_counter_clockwise",
    "parallel",
    "point_at",
    "reverse_edge",
    "reverse_ring",
    "ring_length",
    "signed_area",
    "split_edge",
    "tangent_at",
]
