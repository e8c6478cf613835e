"""A scale model in card, held against the panels by shapely and read back from its page."""

from __future__ import annotations

import io
import math
from collections import Counter
from typing import Any

import cv2
import numpy as np
import pytest
import shapely
from pypdf import PdfReader

from tests.families import FAMILIES, cover_of, lot
from ypsicline.core.covers.cover import Cover
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.card_model import card_pieces
from ypsicline.core.formats.card_pdf import card_pdf
from ypsicline.core.formats.drawing import Drawing
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.joins.corners import draft_joined

BOX = {"width": 700, "depth": 420, "height": 300}


def pieces_of(cover: Cover, model: float = 10) -> tuple[Drawing, ...]:
    return card_pieces(draft_joined(cover.panels, cover.joins), cover.joins, 1 / model)


def outline(piece: Drawing) -> shapely.Polygon:
    return shapely.Polygon(flatten_ring(piece.rings[0].edges))


def model_of(cover: Cover, **printed: Any) -> bytes:
    return card_pdf(draft_joined(cover.panels, cover.joins), cover.joins, **printed)


@pytest.mark.parametrize("family", FAMILIES)
@pytest.mark.parametrize("k", range(3))
def test_pieces_of_any_cover_are_its_panels_with_tabs(family: str, k: int) -> None:
    """The finished panel lies in its piece; what is more are tabs of 6 mm at most, beside it and clear of one another."""
    file = lot(family, k)
    cover = cover_of(family, file["measures"], shapes=file["shapes"], choices=file["choices"])
    pieces = iter(pieces_of(cover))
    for panel in draft_joined(cover.panels, cover.joins):
        sewn = [a.piece for j in cover.joins for a in (*j.first, *j.second) if a.panel == panel.id]
        whole = shapely.affinity.scale(shapely.Polygon(panel.seam_points), 0.1, 0.1, origin=(0, 0))
        for number in range(1, max(sewn, default=1) + 1):
            own = outline(next(pieces))
            assert own.is_valid
            if panel.on_fold:
                assert own.area >= 2 * whole.area - 1
                continue
            there = whole if panel.hand != "pair" or number % 2 else shapely.affinity.scale(whole, -1, 1, origin=(0, 0))
            assert there.difference(own).area < 0.01 * there.length
            assert own.difference(there.buffer(6.1, join_style="mitre")).area < 0.01 * there.length
    assert next(pieces, None) is None


def test_each_letter_is_on_both_sides_and_on_one_of_them_with_tabs() -> None:
    pieces = pieces_of(cover_of("box_cover", BOX, choices={"walls": "by_side"}))
    letters = Counter(t.text for p in pieces for t in p.texts if len(t.text) == 1)
    assert letters == Counter(dict.fromkeys("ABCDEFGH", 2))
    more = [outline(p).area for p in pieces]
    plain = [70 * 42, *(w * 30 for w in (70, 42, 70, 42))]
    tabs = sum(more) - sum(plain)
    # 8 joins with a tab of 6 each: a trapezium with ends of 4.2
    edges = [70, 42, 70, 42, 30, 30, 30, 30]
    assert tabs == pytest.approx(sum((e - 4.2) * 6 for e in edges), rel=1e-3)


def test_where_a_wall_bends_its_tabs_are_teeth_and_the_disc_has_none() -> None:
    pieces = {p.name: outline(p) for p in pieces_of(cover_of("drum", {"girth": 900, "height": 200}))}
    assert pieces["top"].area == pytest.approx(math.pi * (90 / 2 / math.pi) ** 2, rel=2e-3)
    wall = pieces["wall"]
    assert wall.area > 90 * 20
    # 9 teeth of at most 10 mm on either side
    spikes = shapely.intersection(wall.boundary, shapely.LineString([(-50, 25.9), (150, 25.9)]))
    assert len(shapely.get_parts(spikes)) == 18


def test_a_sheet_sewn_to_itself_says_where_it_is_folded() -> None:
    (sheet,) = pieces_of(cover_of("box_cover", BOX, choices={"walls": "cross"}))
    middle = shapely.box(0, 0, 70, 42)
    dashes = shapely.union_all([shapely.LineString(s.points) for s in sheet.strokes if s.layer == "seam_line"])
    on_folds = dashes.intersection(middle.boundary.buffer(0.01))
    assert on_folds.length == pytest.approx(middle.length / 2, rel=0.05)


def test_page_is_true_to_its_scale() -> None:
    """Discs of 1 000 across printed at 1:10, seen on the page at 300 dots an inch: 100 mm both ways and half of a line's width
    of 0.9 on either side."""
    drum = cover_of("drum", {"girth": 1000 * math.pi, "height": 60}, choices={"usable_width": 3200})
    page = (rasterise_page(model_of(drum, model=10, paper="a3"), 0, dpi=300) < 128).astype(np.uint8)
    boxes = cv2.connectedComponentsWithStats(page)[2][1:, 2:4] / 300 * 25.4
    discs = [tuple(box) for box in boxes if min(box) > 60 and abs(box[0] - box[1]) < 1]
    assert discs == [pytest.approx((100.9, 100.9), abs=0.2)] * 2


def test_page_says_what_it_is() -> None:
    data = model_of(cover_of("drum", {"girth": 900, "height": 200}), model=8, title="Stool")
    text = PdfReader(io.BytesIO(data)).pages[0].extract_text()
    assert all(words in text for words in ("Stool", "model 1:8 in card", "page 1 of 1", "wall", "100 mm", "4 in"))


def test_what_is_larger_than_the_paper_is_refused_with_the_model_that_does() -> None:
    long = cover_of("drape", {"girth_over": 3400, "width": 600})
    with pytest.raises(Refusal, match=r"At 1:5 “.*” is 6.* mm long and doesn’t go on one page\. Take 1:20, or"):
        model_of(long, model=5)
    assert model_of(long, model=20).startswith(b"%PDF")


def test_second_of_a_pair_is_the_mirror_image() -> None:
    cover = cover_of("band_over_profile", {"height_front": 300, "height_back": 420, "depth": 500, "width": 300})
    one, other = (outline(p) for p in pieces_of(cover) if p.name == "end")
    assert shapely.affinity.scale(one, -1, 1, origin=(0, 0)).symmetric_difference(other).area < 1e-6
