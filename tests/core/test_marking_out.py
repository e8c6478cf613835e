"""Marking out by hand (rule 15)."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pypdfium2
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests import shapes
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.marking_out import mark_out, rounded_mm
from ypsicline.core.formats.marking_pdf import marking_pdf
from ypsicline.core.geometry.edges import points_at
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge


def test_a_square_has_its_corners_from_one_datum_and_two_diagonals() -> None:
    result = mark_out(draft_panel(Panel("p", shapes.square(100, allowance=10))), "mm")
    assert [(p.across, p.up) for p in result.points] == [(0, 0), (120, 0), (120, 120), (0, 120)]
    assert [(d.first, d.second) for d in result.diagonals] == [(1, 3), (2, 4)]
    assert all(d.length == pytest.approx(120 * math.sqrt(2)) for d in result.diagonals)


def test_arcs_are_swung_and_holes_marked_by_their_centre_or_corners() -> None:
    openings = (
        Aperture("round", (60, 30), (20, 20), "raw", "post"),
        Aperture("rectangle", (60, 70), (30, 10), "raw", "slot"),
    )
    result = mark_out(draft_panel(Panel("p", shapes.bitten_square(15, 5), features=(*openings,))), "mm")
    (bite,) = result.swings
    assert bite.radius == pytest.approx(10)
    assert (bite.across, bite.up) == pytest.approx((65, 105))
    (hole,) = result.round_holes
    assert (hole.radius, hole.across, hole.up) == pytest.approx((10, 65, 35))
    assert [p.number for p in result.points] == list(range(1, len(result.points) + 1))
    assert {(round(p.across), round(p.up)) for p in result.points[-4:]} == {(50, 70), (80, 70), (80, 80), (50, 80)}


@pytest.mark.parametrize("unit", ["mm", "cm", "in"])
def test_ordinates_follow_a_curve_within_half_a_millimetre(unit: str) -> None:
    draft = draft_panel(Panel("p", shapes.wave(8)))
    (curve,) = mark_out(draft, unit).curves  # type: ignore[arg-type]
    edge = next(e for e in draft.cutting_line if e.kind == "curve")
    start, end = np.asarray(edge.start), np.asarray(edge.end)
    d = (end - start) / np.hypot(*(end - start))
    points = points_at(edge, np.linspace(0, 1, 500)) - start
    along, off = points @ d, points @ np.array([-d[1], d[0]])
    stops = [(0.0, 0.0), *curve.ordinates, (curve.chord, 0.0)]
    read = np.interp(along, [s for s, _ in stops], [o for _, o in stops])
    assert np.abs(read - off).max() <= 0.501
    assert curve.pitch >= 2


@given(st.floats(-5000, 5000))
def test_what_is_read_off_is_within_half_a_mark(mm: float) -> None:
    assert abs(rounded_mm(mm, "mm") - mm) <= 0.5
    assert abs(rounded_mm(mm, "in", 8) - mm) <= 25.4 / 16 + 1e-9


def test_many_corners_go_on_to_further_pages() -> None:
    teeth = draft_panel(replace(Panel("comb", shapes.comb(1.0))))
    assert marking_pdf([teeth], "in").startswith(b"%PDF")


def test_a_turned_corner_on_a_curve_is_swung_not_pricked_out() -> None:
    hem = SeamEdge("arc", ((0, 0), (150, -60), (300, 0)), "hem", 30, "hem", "mirror")
    rest = [((300, 0), (300, 200), "right"), ((300, 200), (0, 200), "top"), ((0, 200), (0, 0), "left")]
    panel = Panel("apron", (hem, *(SeamEdge("line", (a, b), name, 12, "plain", "mirror") for a, b, name in rest)))
    draft = draft_panel(panel)
    result = mark_out(draft, "mm")
    assert len(draft.cutting_line) > 15
    assert result.swings
    assert len(result.points) <= 10
    ring = shapely.LinearRing(draft.cutting_points)
    for s in result.swings:
        a, b = (next(p.at for p in result.points if p.number == n) for n in (s.first, s.second))
        middle = np.mean([a, b], axis=0) - s.centre
        on_arc = np.asarray(s.centre) + middle / np.hypot(*middle) * s.radius
        assert ring.distance(shapely.Point(on_arc)) < 0.6


def test_every_page_names_its_panel_and_the_unit_once() -> None:
    points = [(300 * math.cos(a), 300 * math.sin(a)) for a in np.linspace(0, 2 * np.pi, 150, endpoint=False)]
    pdf = pypdfium2.PdfDocument(marking_pdf([draft_panel(Panel("comb", shapes.polygon(points)))], "in"))
    texts = [page.get_textpage().get_text_range() for page in pdf]
    assert len(texts) > 1
    assert all("comb" in t and t.count("in in") == 1 for t in texts)
    assert not any("mm" in t for t in texts)
