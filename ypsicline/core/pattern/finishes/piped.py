"""A piped seam: a covered cord is sewn between its two edges."""

from __future__ import annotations

from ypsicline.core.pattern.finish import OfOneRule

__all__ = ["Piped"]


class Piped(OfOneRule):
    name = "piped"
    rule = "piped"
    right_angles = 1
