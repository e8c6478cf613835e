"""A faced edge: a strip of its own shape is sewn along it and turned to the wrong side."""

from __future__ import annotations

from ypsicline.core.pattern.finish import OfOneRule

__all__ = ["Faced"]


class Faced(OfOneRule):
    name = "faced"
    rule = "faced"
    has_facing = True
    right_angles = 2
