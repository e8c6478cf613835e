"""Regions of the plane that come out of cutting others."""

from __future__ import annotations

import shapely

__all__ = ["faces_of"]


def faces_of(shape: shapely.Geometry) -> shapely.MultiPolygon:
    """The parts that have an inside, without the lines and points along which two regions only touched."""
    return shapely.MultiPolygon([g for g in shapely.get_parts(shape) if g.geom_type == "Polygon"])
