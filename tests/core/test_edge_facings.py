"""Facings of edges, held against their panels by shapely."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import shapely

from tests import shapes
from tests.core.test_checks import found
from tests.core.test_mends import mends_of
from tests.lots import panel_by_lot
from ypsicline.core.drafting.draft import draft_panel, draft_panels
from ypsicline.core.drafting.edge_facings import FACING_WIDE_MM
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, flatten
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.panel import DraftedPanel, Panel


def faced(panel: Panel, *which: int) -> Panel:
    edges = tuple(
        replace(e, finish="faced", allowance=10.0, turn_under=0.0, by_rule=False) if k in which else e
        for k, e in enumerate(panel.seam_line)
    )
    return replace(panel, seam_line=edges)


def drafted(panel: Panel) -> tuple[DraftedPanel, list[DraftedPanel]]:
    result, *rest = draft_panels([panel])
    return result, rest


def flipped(panel: DraftedPanel) -> shapely.Polygon:
    """The facing laid face to face with its panel again: its shape by its rings."""
    rings = [panel.seam_points, *panel.hole_seam_points]
    whole = shapely.Polygon(rings[0], rings[1:])
    return shapely.affinity.scale(whole, -1, 1, origin=(0, 0))


SQUARE = Panel("lid", shapes.square(400, allowance=12))


@pytest.mark.parametrize("turned", [0, 1, 2, 3])
def test_straight_edge_between_two_that_are_sewn(turned: int) -> None:
    """40 wide, sewn into both side seams: 400 by 40 and round its ends; by hand 400 · 40."""
    _, (facing,) = drafted(faced(SQUARE, turned))
    area = shapely.Polygon(facing.seam_points).area
    assert area == pytest.approx(400 * FACING_WIDE_MM, rel=1e-3)
    finishes = sorted((e.finish, round(e.allowance)) for e in facing.seam_line)
    assert finishes == [("faced", 10), ("plain", 12), ("plain", 12), ("raw", 0)]
    assert facing.name == "lid edge facing"


def test_all_round_it_is_a_frame() -> None:
    _, (facing,) = drafted(faced(SQUARE, 0, 1, 2, 3))
    assert flipped(facing).area == pytest.approx(400**2 - 320**2)


def test_over_the_start_and_apart() -> None:
    _, (one,) = drafted(faced(SQUARE, 3, 0))
    assert shapely.Polygon(one.seam_points).area == pytest.approx(2 * 400 * 40 - 40 * 40, rel=1e-3)
    _, both = drafted(faced(SQUARE, 0, 2))
    assert [p.name for p in both] == ["lid edge facing 1", "lid edge facing 2"]


@pytest.mark.parametrize(
    "ring", [shapes.bitten_square(30), shapes.wave(), shapes.keyhole()], ids=["bitten", "wave", "keyhole"]
)
def test_curved_edge_keeps_its_exact_shape(ring: Any) -> None:
    """Face to face the facing lies within the panel, reaches everywhere 40 in from the faced edges, and nowhere farther."""
    grown = [Edge(e.kind, tuple((3 * x, 3 * y) for x, y in e.points)) for e in ring]
    panel = Panel("piece", tuple(replace(e, points=g.points) for e, g in zip(ring, grown, strict=True)))
    which = [k for k, e in enumerate(panel.seam_line) if e.kind != "line"]
    result, facings = drafted(faced(panel, *which))
    body = shapely.Polygon(result.seam_points)
    run = shapely.union_all([shapely.LineString(flatten(result.seam_line[k])) for k in which])
    covered = shapely.union_all([flipped(f) for f in facings])
    assert covered.difference(body.buffer(0.1)).area < 1e-3
    assert covered.difference(run.buffer(FACING_WIDE_MM + 0.2)).area < 1e-3
    wanted = body.intersection(run.buffer(FACING_WIDE_MM - 0.2))
    assert wanted.difference(covered).area < 0.002 * wanted.area
    sewn = shapely.union_all(
        [shapely.LineString(flatten(e) * [-1, 1]) for f in facings for e in f.seam_line if e.finish == "faced"]
    )
    assert shapely.hausdorff_distance(sewn, run) < 0.05


def test_a_curved_hem_is_mended_by_a_facing() -> None:
    hemmed = tuple(replace(e, finish="hem", allowance=20.0, turn_under=8.0) for e in shapes.circle(120))
    job = JobDocument("lid", panels=(Panel("lid", hemmed),))
    assert found(job, "hem_longer")
    (after,) = {a.panels: a for words, a in mends_of(job).items() if "facing" in words}.values()
    assert not found(after, "hem_longer")
    assert [p.name for p in draft_panels(after.panels)] == ["lid", "lid edge facing"]


def test_any_panel_with_faced_edges_is_drafted_and_its_facings_lie_in_it() -> None:
    """By lot, where the panel itself can be drafted; a facing whose inside touches itself is left out, and said."""
    facings = missing = 0
    for number in range(254, 320):
        panel = panel_by_lot(number)
        if panel is None:
            continue
        rng = np.random.default_rng(number)
        faced_ones = [k for k in range(len(panel.seam_line)) if rng.random() < 0.5]
        panel = faced(panel, *faced_ones)
        try:
            draft_panel(panel)
        except Refusal:
            continue
        result, own = drafted(panel)
        body = shapely.Polygon(result.seam_points).buffer(0.2)
        assert all(flipped(f).difference(body).area < 0.5 for f in own)
        facings += len(own)
        left_out = found(JobDocument("lot", panels=(panel,)), "facing_not_drawn")
        missing += sum(int(f.message.numbers["count"]) for f in left_out)
    assert facings > 50
    assert missing >= 1


def test_a_facing_as_large_as_its_panel_is_sewn_into_each_of_the_other_seams() -> None:
    """A strip of 200 by 30: faced at the foot, its other sides with allowances of their own, also when it is mirrored."""
    ring = shapes.polygon([(0, 0), (200, 0), (200, 30), (0, 30)])
    widths = (10.0, 8.0, 0.0, 14.0)
    strip = Panel(
        "strip",
        tuple(replace(e, allowance=w, finish="plain" if w else "raw") for e, w in zip(ring, widths, strict=True)),
    )
    for panel in (strip, mirrored(strip)):
        foot = next(k for k, e in enumerate(panel.seam_line) if e.allowance == 10)
        result, (facing,) = drafted(faced(panel, foot))
        laid = shapely.affinity.scale(shapely.Polygon(facing.cutting_points), -1, 1, origin=(0, 0))
        assert laid.symmetric_difference(shapely.Polygon(result.cutting_points)).area < 1e-6
