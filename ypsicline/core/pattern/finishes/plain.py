"""A plain seam: sewn right sides together and pressed open or to one side."""

from __future__ import annotations

from ypsicline.core.pattern.finish import OfOneRule

__all__ = ["Plain"]


class Plain(OfOneRule):
    name = "plain"
    rule = "seam"
    right_angles = 1
    is_trimmed_at_points = True
