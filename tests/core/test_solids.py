"""Covers put together in space: their joins close there, which lengths alone don't tell."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely

from tests.families import cover_of, lot
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.covers import DraftCover
from ypsicline.core.covers.cover import Cover
from ypsicline.core.covers.of_job import object_under, standing_in
from ypsicline.core.formats.measures_json import family_adapter
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.join import backward
from ypsicline.core.solids.assembled import JoinGap, assembled, join_gaps

BUILT = ("band_over_profile", "box_cover", "cap", "cone_sleeve", "drum")


def gaps(cover: Cover) -> tuple[JoinGap, ...]:
    return join_gaps(cover.joins, cover.standing, {p.id: p for p in cover.panels})


@pytest.mark.parametrize(("family", "k"), [(f, k) for f in BUILT for k in range(12)])
def test_every_join_closes_in_space(family: str, k: int) -> None:
    cover = cover_of(family, **lot(family, k))
    result = gaps(cover)
    stands = {s.panel for s in cover.standing}
    assert len(result) == sum(all(a.panel in stands for a in (*j.first, *j.second)) for j in cover.joins)
    assert all(g.gap_mm < 0.5 for g in result)


def test_a_drum_is_as_large_as_its_measures() -> None:
    cover = cover_of("drum", {"girth": 1000, "height": 200}, choices={"usable_width": 700})
    points = np.array([p for a in assembled(cover.standing, {p.id: p for p in cover.panels}) for p in a.points])
    assert np.ptp(points[:, 2]) == pytest.approx(200)
    assert np.hypot(points[:, 0], points[:, 1]).max() == pytest.approx(1000 / (2 * math.pi), abs=0.05)


def test_a_box_is_as_large_as_its_measures() -> None:
    cover = cover_of("box_cover", {"width": 600, "depth": 400, "height": 250}, choices={"usable_width": 1000})
    points = np.array([p for a in assembled(cover.standing, {p.id: p for p in cover.panels}) for p in a.points])
    assert np.ptp(points, axis=0) == pytest.approx([600, 400, 250])


def test_a_panel_that_was_made_larger_by_hand_leaves_its_joins_open() -> None:
    cover = cover_of("cap", {"girth": 900, "height": 300})
    wide = tuple(replace(p, fit=Fit(clearance=5)) if p.id == "top" else p for p in cover.panels)
    (_, top) = gaps(replace(cover, panels=wide))
    assert top.gap_mm == pytest.approx(5, abs=0.2)


def test_a_join_that_is_walked_the_wrong_way_doesnt_close() -> None:
    """Its lengths are the same: only in space it shows."""
    cover = cover_of("band_over_profile", {"width": 300, "height_front": 200, "height_back": 320, "depth": 400})
    turned = tuple(replace(j, second=backward(j.second)) for j in cover.joins)
    assert max(g.gap_mm for g in gaps(replace(cover, joins=turned))) > 50


class TestAllInOneSheet:
    def test_it_folds_down_to_the_box(self) -> None:
        cover = cover_of("box_cover", {"width": 600, "depth": 400, "height": 250}, choices={"walls": "cross"})
        (sheet,) = assembled(cover.standing, {p.id: p for p in cover.panels})
        points = np.array(sheet.points)
        assert np.ptp(points, axis=0) == pytest.approx([600, 400, 250])
        corners = points[np.array(sheet.triangles)]
        area = np.linalg.norm(np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1).sum() / 2
        assert area == pytest.approx(600 * 400 + 2 * 1000 * 250)
        assert max(g.gap_mm for g in gaps(cover)) < 1e-6

    def test_a_sheet_that_is_wider_by_hand_leaves_its_seams_unlike(self) -> None:
        """8 more over 1 100 of width: walls at the sides are 250 · 8 / 1 100 longer than those they are sewn to."""
        cover = cover_of("box_cover", {"width": 600, "depth": 400, "height": 250}, choices={"walls": "cross"})
        wide = tuple(replace(p, fit=Fit(width=8)) for p in cover.panels)
        assert max(g.gap_mm for g in gaps(replace(cover, panels=wide))) == pytest.approx(250 * 8 / 1100, abs=0.01)


@pytest.mark.parametrize(
    ("family", "measures", "gap"),
    [
        ("cap", {"girth": 900, "height": 300, "girth_ease": 62.832}, 10.0),
        ("box_cover", {"width": 600, "depth": 400, "height": 250, "ease_width": 20, "ease_depth": 20}, 10.0),
        ("cone_sleeve", {"girth_top": 700, "girth_bottom": 900, "slant": 300, "girth_ease": 62.832}, 10.0),
        (
            "band_over_profile",
            {"width": 300, "height_front": 200, "height_back": 320, "depth": 400, "ease_width": 20},
            10.0,
        ),
    ],
)
def test_ease_is_a_gap_to_what_is_covered(family: str, measures: dict[str, float], gap: float) -> None:
    """By shapely, seen from above: what is covered lies in the cover, and its outline so far inside it."""
    result = cover_of(family, measures)
    job = changed(
        JobDocument("job"), DraftCover(family_adapter().validate_python({"family": family, "measures": measures}))
    )
    (cover,) = job.covers
    pieces = assembled(standing_in(cover, job.house), {p.id: p for p in job.panels})
    assert len(pieces) == len(result.standing)
    cloth, under = (
        shapely.MultiPoint([p[:2] for a in parts for p in a.points]).convex_hull
        for parts in (pieces, object_under(cover, job.house, pieces))
    )
    assert cloth.contains(under)
    inside = np.abs(np.array(under.bounds) - cloth.bounds)
    assert inside[[1, 3]] == pytest.approx(gap, abs=0.3)
    assert object_under(replace(cover, family=cover.family.without_ease), job.house, pieces) == ()
