"""What must hold of any panel's cutting line, seen to by shapely: however it lies and wherever its edges begin.

`YPSICLINE_LOTS=20000` makes it the long form.
"""

from __future__ import annotations

import math
import os
from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
import shapely
from shapely import affinity

from tests.lots import panel_by_lot
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.edge_changes import mirrored
from ypsicline.core.drafting.panel import DraftedPanel, Panel
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import transformed
from ypsicline.core.geometry.rings import flatten_ring

LOTS = int(os.environ.get("YPSICLINE_LOTS", "60"))
GROUP = 20
SAME_MM = 0.01
Region = shapely.Geometry


def cloth_of(panel: DraftedPanel) -> Region:
    return shapely.Polygon(flatten_ring(panel.cutting_line, 0.0005))


def apart_mm(a: Region, b: Region) -> float:
    return float(a.boundary.hausdorff_distance(b.boundary))


def turned(panel: Panel, degrees: float) -> tuple[Panel, Callable[[Region], Region]]:
    """The panel turned and moved, and how its cloth is laid back."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    matrix, shift = np.array([[c, -s], [s, c]]), (11.3, -7.7)
    laid = replace(panel, seam_line=tuple(transformed(e, matrix, shift) for e in panel.seam_line))
    return laid, lambda g: affinity.rotate(affinity.translate(g, -shift[0], -shift[1]), -degrees, origin=(0, 0))


def whisker_mm(ring: np.ndarray) -> float:
    """How far the ring reaches out of itself where it is narrower than 0.02 mm."""
    whole = shapely.Polygon(ring)
    opened = whole.buffer(-0.01, join_style="mitre", mitre_limit=20).buffer(0.0105, join_style="mitre", mitre_limit=20)
    return float(shapely.distance(opened, shapely.points(ring)).max())


def faults_of(panel: Panel) -> dict[str, float]:
    drafted = draft_panel(panel)
    cloth = cloth_of(drafted)
    found = {"valid": 0.0 if cloth.is_valid else 1.0}
    found["seam outside its cloth"] = float(
        shapely.distance(cloth, shapely.points(np.asarray(drafted.seam_points))).max()
    )
    long = whisker_mm(np.asarray(drafted.cutting_points))
    found["whisker"] = long if long > 1.5 else 0.0
    for degrees in (30.0, 90.0, 17.3):
        laid, back = turned(panel, degrees)
        found[f"turned by {degrees:g}"] = apart_mm(back(cloth_of(draft_panel(laid))), cloth)
    on_from = replace(panel, seam_line=panel.seam_line[1:] + panel.seam_line[:1])
    found["started at another edge"] = apart_mm(cloth_of(draft_panel(on_from)), cloth)
    other_hand = affinity.scale(cloth_of(draft_panel(mirrored(panel))), -1, 1, origin=(0, 0))
    found["mirrored"] = apart_mm(other_hand, cloth)
    return {k: round(v, 3) for k, v in found.items() if v > (0.03 if "seam" in k else SAME_MM)}


@pytest.mark.parametrize("first", range(0, LOTS, GROUP))
def test_a_cutting_line_is_the_panels_own(first: int) -> None:
    faults, drafted = {}, 0
    for number in range(first, min(first + GROUP, LOTS)):
        panel = panel_by_lot(number)
        if panel is None:
            continue
        try:
            if found := faults_of(panel):
                faults[number] = found
            drafted += 1
        except Refused as e:
            # a seam line that crosses itself can't be drafted, and says so
            assert "touches or crosses itself" in e.sentence or "lie on one another" in e.sentence, (number, e.sentence)
    assert drafted > GROUP / 4
    assert not faults
