"""Hems on curves: what folding does to their raw edge, and when it can't be done (rule 2)."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.bends import tightest, tightest_concave, tightest_convex
from ypsicline.core.geometry.edges import point_at
from ypsicline.core.messages import message
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["bent_hem_findings", "can_be_folded"]

HEM_CURVE_AT_MOST = 0.03
# a cord or elastic gathers far more than what a casing is too long by
DRAWN_IN_AT_MOST_PERCENT = 25.0


def can_be_folded(edge: SeamEdge) -> bool:
    """Whether an edge's hem isn't deeper than its curve's radius; of an edge without a hem it is true."""
    return not edge.is_folded_back or not _is_too_deep(edge.depth, tightest(edge) or math.inf)


def bent_hem_findings(ring: Sequence[SeamEdge]) -> list[Finding]:
    """A hem of depth h folded on a curve of radius r is out by (r + h)/(r − h): said beyond 3 %."""
    findings = []
    for edge in ring:
        is_bent = edge.kind != "line" and edge.is_folded_back
        for is_convex, r in ((True, tightest_convex(edge)), (False, tightest_concave(edge))) if is_bent else ():
            if r is None:
                continue
            h, place = edge.depth, Place(edge=edge.name, point=point_at(edge, 0.5))
            if _is_too_deep(h, r):
                text = message("hem_too_deep", edge=edge.name, hem_mm=h, radius_mm=r)
                findings.append(Finding("stop", text, place))
            elif (r + h) / (r - h) - 1 > HEM_CURVE_AT_MOST:
                most = message("nothing" if edge.kind == "arc" else "where_it_bends_most")
                percent = 100 * ((r + h) / (r - h) - 1)
                drawn_in = is_convex and bool(edge.cord_mm or edge.elastic_mm) and percent <= DRAWN_IN_AT_MOST_PERCENT
                text = message(
                    "casing_drawn_in" if drawn_in else "hem_longer" if is_convex else "hem_shorter",
                    edge=edge.name,
                    percent=percent,
                    most=most,
                    radius_mm=r,
                    hem_mm=h,
                )
                findings.append(Finding("fine" if drawn_in else "look", text, place))
    return findings


def _is_too_deep(depth_mm: float, radius_mm: float) -> bool:
    return depth_mm >= radius_mm
