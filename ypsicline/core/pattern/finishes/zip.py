"""An edge with one tape of a zip under it."""

from __future__ import annotations

from ypsicline.core.pattern.finish import OfOneRule

__all__ = ["Zip"]


class Zip(OfOneRule):
    name = "zip"
    rule = "zip"
    right_angles = 1
    strengthened_by = "bar"
