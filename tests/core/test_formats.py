"""What is printed and exchanged, read back by other hands than wrote it."""

from __future__ import annotations

import io
import itertools
import json
import math
import re
import tempfile
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from xml.etree import ElementTree as ET

import cv2
import numpy as np
import pyogrio
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from pypdf import PdfReader

from tests import shapes
from tests.close import farthest, same_ring
from tests.lots import panel_by_lot
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import DraftedFile, JobBundle, PanelsFile, dump, load_bundle, load_panels
from ypsicline.core.formats.drawing import Drawing, draw_panel
from ypsicline.core.formats.dxf import panels_dxf
from ypsicline.core.formats.pages import OVERLAP_MM, page_plan, sheets_of, turns_for_paper
from ypsicline.core.formats.pdf import panels_pdf
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.formats.read_dxf import read_dxf
from ypsicline.core.formats.read_svg import read_svg
from ypsicline.core.formats.svg import panels_svg
from ypsicline.core.geometry import flatten_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.identified import identified
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.panel import DraftedPanel, Panel

ROUND = draft_panel(
    Panel("round & <co>", shapes.bitten_square(20, allowance=8), holes=(shapes.circle(12, (40, 40), allowance=3),))
)
LARGE = draft_panel(Panel("large", shapes.square(420, allowance=15)))
WAVE = draft_panel(Panel("wave", shapes.wave()))


class TestPdf:
    def test_a_100_mm_mark_measures_100_mm_both_ways_after_rasterising(self) -> None:
        page = rasterise_page(panels_pdf([ROUND]), 0, dpi=600) < 128
        per_mm = 600 / 25.4
        rows = page.shape[0]
        across = (
            self.longest_run(page[round(rows - 10 * per_mm) - 3 : round(rows - 10 * per_mm) + 4].any(axis=0)) / per_mm
        )
        column = round(10 * per_mm)
        up = self.longest_run(page[:, column - 3 : column + 4].any(axis=1)) / per_mm
        # the end ticks stick out by half a stroke on either side
        assert across == pytest.approx(100.25, abs=0.1)
        assert up == pytest.approx(100.25, abs=0.1)

    @staticmethod
    def longest_run(row: np.ndarray) -> int:
        edges = np.flatnonzero(np.diff(np.concatenate([[0], row.astype(int), [0]])))
        return int((edges[1::2] - edges[::2]).max())

    def test_the_print_scale_enlarges_pattern_and_marks_alike(self) -> None:
        page = rasterise_page(panels_pdf([ROUND], print_scale=(1.02, 1.0)), 0, dpi=300) < 128
        row = page.shape[0] - round(10 * 300 / 25.4)
        run = self.longest_run(page[row - 2 : row + 3].any(axis=0)) * 25.4 / 300
        assert run == pytest.approx(102.25, abs=0.2)

    def test_pages_overlap_and_cover_the_panel_and_none_is_empty(self) -> None:
        window = (188.0, 275.0)
        plan = page_plan([draw_panel(LARGE)], window)
        boxes = [shapely.box(*p.low, p.low[0] + window[0], p.low[1] + window[1]) for p in plan]
        cloth = shapely.Polygon(LARGE.cutting_points)
        assert shapely.union_all(boxes).contains(cloth)
        assert all(b.intersects(cloth) for b in boxes)
        assert boxes[0].intersection(boxes[1]).area == pytest.approx(OVERLAP_MM * 275)
        assert {p.label for p in plan} == {"A1", "A2", "A3", "B1", "B2", "B3"}

    def test_every_page_says_which_it_is_and_the_first_is_the_map(self) -> None:
        reader = PdfReader(io.BytesIO(panels_pdf([LARGE], title="Tray")))
        texts = [p.extract_text() for p in reader.pages]
        assert "6 pages of pattern" in texts[0]
        assert all("100 mm" in t and "4 in" in t for t in texts)
        assert "A1" in texts[1]
        assert "page 2 of 7" in texts[1]

    def test_every_page_says_whose_it_is_and_which_line_is_cut(self) -> None:
        big = draft_panel(Panel("bench top", shapes.square(900, allowance=15), grain_deg=0))
        pages = [p.extract_text() for p in PdfReader(io.BytesIO(panels_pdf([big]))).pages]
        assert all("cut here" in t and "sew here" in t for t in pages[1:])
        # its own words fall on few pages; the others say its name in their middle, those at an edge what is added there
        names = [t.count("bench top") for t in pages[1:]]
        assert min(names) >= 1
        assert sum(n >= 2 for n in names) > len(names) / 2
        assert sum("15 plain" in t for t in pages[1:]) > 10

    def test_page_numbers_count_the_maps_pages(self) -> None:
        many = [draft_panel(Panel(f"tag {k}", shapes.square(60))) for k in range(14)]
        texts = [p.extract_text() for p in PdfReader(io.BytesIO(panels_pdf(many))).pages]
        maps = sum(not re.search(r"page \d", t) for t in texts)
        assert maps > 1
        assert f"page {maps + 1} of {len(texts)}" in texts[maps]
        assert f"page {len(texts)} of {len(texts)}" in texts[-1]

    @pytest.mark.parametrize(("paper", "size"), [("a4", (210, 297)), ("letter", (215.9, 279.4)), ("a3", (297, 420))])
    def test_papers_have_their_size(self, paper: str, size: tuple[float, float]) -> None:
        box = PdfReader(io.BytesIO(panels_pdf([ROUND], paper=paper))).pages[0].mediabox
        assert (float(box.width) / 72 * 25.4, float(box.height) / 72 * 25.4) == pytest.approx(size, abs=0.06)

    def test_what_cant_be_printed_is_refused(self) -> None:
        vast = draft_panel(Panel("vast", shapes.square(20_000)))
        for how, words in (({"paper": "a5"}, "a4"), ({"print_scale": (3, 1)}, "0.8"), ({}, "600 pages")):
            with pytest.raises(Refusal, match=words):
                panels_pdf([vast], **how)  # type: ignore[arg-type]


class TestSvg:
    def test_its_size_is_in_millimetres_one_unit_each(self) -> None:
        root = ET.fromstring(panels_svg([ROUND]))
        width = float(root.attrib["width"].removesuffix("mm"))
        assert width == pytest.approx(float(root.attrib["viewBox"].split()[2]), abs=1e-3)
        assert width == pytest.approx(120 + 2 * 8 + 10, abs=0.01)

    def test_reading_it_back_gives_the_seam_line_and_the_hole(self) -> None:
        (result,) = read_svg(panels_svg([ROUND]))
        low, _ = draw_panel(ROUND).bounds()
        after = [(x - low[0], y - low[1]) for x, y in flatten_ring(ROUND.seam_line)]
        back = flatten_ring(result.outline)
        shift = back.min(axis=0) - np.array(after).min(axis=0)
        assert same_ring(back - shift, after, within_mm=0.01)
        assert [e.kind for e in result.outline].count("arc") >= 1
        assert len(result.holes) == 1

    @pytest.mark.parametrize(
        ("body", "size"),
        [
            ('<rect x="0" y="0" width="100" height="50"/>', (100, 50)),
            ('<path d="M0 0 H100 V50 H0 Z"/>', (100, 50)),
            ('<g transform="scale(2)"><rect width="50" height="25"/></g>', (100, 50)),
            ('<circle cx="50" cy="50" r="25"/>', (50, 50)),
            ('<ellipse cx="50" cy="50" rx="50" ry="25"/>', (100, 50)),
            ('<polygon points="0,0 100,0 100,50 0,50"/>', (100, 50)),
            ('<path d="M0 0 Q50 0 100 0 V50 H0 Z"/>', (100, 50)),
        ],
    )
    def test_shapes_come_out_at_their_size(self, body: str, size: tuple[float, float]) -> None:
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">{body}</svg>'
        (result,) = read_svg(svg.encode())
        assert np.ptp(flatten_ring(result.outline), axis=0) == pytest.approx(size, abs=0.05)

    @pytest.mark.parametrize(
        "data",
        [
            b"", b"not xml", b"<svg", b"<html></html>", b'<svg xmlns="http://www.w3.org/2000/svg"></svg>',
            b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg>&b;</svg>',
            b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L10 10"/></svg>',
            b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L100 100 L100 0 L0 100 Z"/></svg>',
            b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 Lx 9 Z"/></svg>',
            b'<svg xmlns="http://www.w3.org/2000/svg"><rect width="1e300" height="5"/></svg>',
            b"\xff\xfe\x00<",
        ],
    )  # fmt: skip
    def test_hostile_files_are_refused_with_a_sentence(self, data: bytes) -> None:
        with pytest.raises(Refusal) as refusal:
            read_svg(data)
        assert refusal.value.sentence.endswith(".")


class TestDxf:
    def read_elsewhere(self, data: bytes) -> list[tuple[str, np.ndarray]]:
        """By an independent reader: layer and coordinates of everything that is a line."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "panel.dxf"
            path.write_bytes(data)
            meta, _, geometry, fields = pyogrio.raw.read(path, columns=["Layer"])
        del meta
        result = [(layer, shapely.from_wkb(g)) for layer, g in zip(fields[0], geometry, strict=True)]
        return [(layer, shapely.get_coordinates(g)) for layer, g in result if g.geom_type in ("LineString", "Polygon")]

    def test_another_reader_finds_the_same_coordinates_on_named_layers(self) -> None:
        result = self.read_elsewhere(panels_dxf([ROUND]))
        layers = {layer for layer, _ in result}
        assert {"SEAM_LINE", "CUTTING_LINE", "NOTCHES", "GRAIN"} <= layers
        low, _ = draw_panel(ROUND).bounds()
        wanted = np.asarray(ROUND.seam_points) - low
        seam = max((c for layer, c in result if layer == "SEAM_LINE"), key=lambda c: float(np.ptp(c)))
        # that reader draws arcs as chords of four degrees
        assert farthest(seam, wanted) < 0.03
        for x, y in ((e.start[0] - low[0], e.start[1] - low[1]) for e in ROUND.seam_line):
            assert np.hypot(*(seam - [x, y]).T).min() < 1e-6

    def test_reading_it_back_gives_the_seam_line(self) -> None:
        for panel in (ROUND, WAVE):
            (result,) = read_dxf(panels_dxf([panel]))
            low, _ = draw_panel(panel).bounds()
            assert same_ring(flatten_ring(result.outline), np.asarray(panel.seam_points) - low, within_mm=0.03)

    def test_lines_and_arcs_that_meet_end_to_end_are_chained_and_inches_read_as_inches(self) -> None:
        import ezdxf

        document = ezdxf.new("R2010", units=1)
        document.header["$INSUNITS"] = 1
        space = document.modelspace()
        space.add_line((0, 0), (4, 0))
        space.add_line((4, 2), (4, 0))
        space.add_arc((2, 2), 2, 0, 180)
        space.add_line((0, 0), (0, 2))
        space.add_circle((2, 1.5), 0.5)
        out = io.StringIO()
        document.write(out)
        (result,) = read_dxf(out.getvalue().encode())
        assert np.ptp(flatten_ring(result.outline), axis=0) == pytest.approx((101.6, 101.6), abs=0.03)
        assert sorted(e.kind for e in result.outline).count("line") == 3
        assert len(result.holes) == 1

    def test_lines_shorter_than_the_gaps_that_are_closed_make_one_outline(self) -> None:
        around = [(100 * math.cos(a), 100 * math.sin(a)) for a in np.linspace(0, 2 * math.pi, 2001)]
        # drawn either way, in any order, and one of them missing
        lines = [pair if k % 3 else pair[::-1] for k, pair in enumerate(itertools.pairwise(around)) if k != 999]
        (result,) = read_dxf(drawn([lines[k] for k in np.random.default_rng(5).permutation(len(lines))]))
        ring = shapely.Polygon(flatten_ring(result.outline))
        assert len(result.outline) == len(lines)
        assert ring.area == pytest.approx(shapely.Polygon(around).area, rel=1e-6)

    def test_where_lines_branch_the_place_is_said(self) -> None:
        square = [((0, 0), (90, 0)), ((90, 0), (90, 60)), ((90, 60), (0, 60)), ((0, 60), (0, 0))]
        spur = ((90, 60), (120, 80))
        (result,) = read_dxf(drawn([*square, spur]))
        assert np.ptp(flatten_ring(result.outline), axis=0) == pytest.approx((90, 60))
        with pytest.raises(Refusal, match=r"branch at (0|90).0 mm, (0|60).0 mm"):
            read_dxf(drawn([*square, ((0, 0), (90, 60))]))

    @pytest.mark.parametrize(
        "data", [b"", b"0\nSECTION", b"garbage\n" * 50, b"AutoCAD Binary DXF\r\n\x1a\x00xx", b"\x00" * 200]
    )
    def test_hostile_files_are_refused_with_a_sentence(self, data: bytes) -> None:
        with pytest.raises(Refusal) as refusal:
            read_dxf(data)
        assert refusal.value.sentence.endswith(".")


def drawn(lines: Sequence[tuple[tuple[float, float], tuple[float, float]]]) -> bytes:
    import ezdxf

    document = ezdxf.new("R2010", units=4)
    for a, b in lines:
        document.modelspace().add_line(a, b)
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


class TestDocuments:
    def test_a_drafted_file_reads_back_as_the_panels_it_came_from(self) -> None:
        again = load_panels(dump(DraftedFile((ROUND, WAVE))))
        assert [p.name for p in again.panels] == [ROUND.name, WAVE.name]
        assert again.panels[0].seam_line == ROUND.seam_line
        assert draft_panel(again.panels[0]).cutting_points == ROUND.cutting_points

    def test_a_drafted_panel_that_would_lose_its_darts_is_refused(self) -> None:
        darted = draft_panel(Panel("tray", shapes.square(400), features=(Dart("edge1", 200, 40, 90),)))
        with pytest.raises(Refusal, match="would lose it"):
            load_panels(dump(DraftedFile((darted,))))

    def test_a_job_bundle_reads_back_as_itself(self) -> None:
        panels = (Panel("p", shapes.wave()),)
        job = JobDocument("Tray", for_whom="Otterbeck", unit="in", brief=Brief("tray", near=("heat",)), panels=panels)
        job = identified(job)
        assert load_bundle(dump(JobBundle(job))).job == job

    @pytest.mark.parametrize(
        "change",
        [
            lambda d: d.update(version=2),
            lambda d: d.update(unit="in"),
            lambda d: d.update(panels=[]),
            lambda d: d["panels"][0].pop("seam_line"),
            lambda d: d["panels"][0]["seam_line"][0].update(kind="spiral"),
            lambda d: d["panels"][0]["seam_line"][0].update(points=[[0, 0]]),
            lambda d: d["panels"][0]["seam_line"][0].update(points=[[0, "x"], [1, 1]]),
            lambda d: d["panels"][0]["seam_line"][0].update(allowance=-3),
            lambda d: d["panels"][0]["seam_line"][0].update(finish="glued"),
            lambda d: d["panels"][0].update(count=10**9),
            lambda d: d["panels"][0].update(name="a\nb"),
        ],
    )
    def test_a_wrong_panels_file_is_refused_with_the_place(self, change: object) -> None:
        document = json.loads(dump(PanelsFile((Panel("p", shapes.square()),))))
        change(document)  # type: ignore[operator]
        with pytest.raises(Refusal) as refusal:
            load_panels(json.dumps(document).encode())
        assert re.search(r"\.$", refusal.value.sentence)

    @pytest.mark.parametrize(
        "data", [b"", b"[]", b"null", b"{", b"[" * 100_000, b"\xff", b'{"version":1,"panels":NaN}']
    )
    def test_what_is_no_panels_file_is_refused(self, data: bytes) -> None:
        with pytest.raises(Refusal):
            load_panels(data)


def test_a_drawing_moved_is_the_same_drawing() -> None:
    drawing = draw_panel(ROUND)
    low, high = drawing.carried(Transform(x=10, y=-20)).bounds()
    (ax, ay), (bx, by) = drawing.bounds()
    assert (*low, *high) == pytest.approx((ax + 10, ay - 20, bx + 10, by - 20))


def test_edge_texts_are_never_upside_down() -> None:
    for text in draw_panel(LARGE).texts:
        assert -90 <= text.turn_deg <= 90.01
    assert math.isfinite(sum(t.size_mm for t in draw_panel(replace(LARGE, marks=())).texts))


class TestPanelsAreTurnedForPaper:
    WINDOW = (188.0, 275.0)

    @staticmethod
    def drawn(*corners: tuple[float, float]) -> Drawing:
        return draw_panel(draft_panel(Panel("part", shapes.polygon(list(corners), allowance=8.0))))

    def pages(self, *drawings: Drawing) -> tuple[int, int, list[float]]:
        """How many sheets of paper they take as they lie, how many turned, and by how many degrees each is."""
        turns = turns_for_paper(drawings, self.WINDOW)
        laid = [d.carried(t) for d, t in zip(drawings, turns, strict=True)]
        plans = page_plan(drawings, self.WINDOW), page_plan(laid, self.WINDOW)
        for page in plans[1]:
            cloth = shapely.Polygon(flatten_ring(laid[page.panel].rings[0].edges))
            boxes = [shapely.box(*p.low, p.low[0] + 188, p.low[1] + 275) for p in plans[1] if p.panel == page.panel]
            assert shapely.union_all(boxes).contains(cloth)
        return *(len(sheets_of(plan)) for plan in plans), [t.direction_deg(0.0) for t in turns]

    def test_a_strip_lies_along_the_paper_and_what_fits_stays_as_it_lies(self) -> None:
        strip = self.drawn((0, 0), (500, 0), (500, 40), (0, 40))
        assert self.pages(strip) == (3, 2, [90.0])
        assert self.pages(self.drawn((0, 0), (150, 0), (150, 200), (0, 200))) == (1, 1, [0.0])

    def test_one_that_fits_no_page_squarely_is_laid_askew(self) -> None:
        c, s = math.cos(math.radians(30)), math.sin(math.radians(30))
        askew = [(x * c - y * s, x * s + y * c) for x, y in ((0, 0), (700, 0), (700, 120), (0, 120))]
        before, after, (turn,) = self.pages(self.drawn(*askew))
        assert after == 3 < before
        assert turn == pytest.approx(60, abs=0.01)

    def test_small_ones_are_laid_across_or_stand_where_that_takes_fewer_pages(self) -> None:
        standing = self.drawn((0, 0), (68, 0), (68, 160), (0, 160))
        before, after, turns = self.pages(*[standing] * 3)
        assert (before, after) == (2, 1)
        assert turns == [90.0] * 3

    @given(st.integers(0, 400))
    def test_never_more_pages_than_as_they_lie(self, number: int) -> None:
        panel = panel_by_lot(number)
        assume(panel is not None)
        try:
            drawing = draw_panel(draft_panel(panel))
        except Refusal:
            assume(False)
        before, after, _ = self.pages(drawing)
        assert after <= before

    def test_turned_it_is_true_to_size_and_no_word_stands_on_its_head(self) -> None:
        part = draft_panel(Panel("part", shapes.polygon([(0, 0), (240, 0), (240, 80), (0, 80)], allowance=8.0)))
        page = (rasterise_page(panels_pdf([part]), 1, dpi=200) < 128).astype(np.uint8)
        boxes = cv2.connectedComponentsWithStats(page)[2][1:, 2:4] / 200 * 25.4
        assert any(tuple(box) == pytest.approx((96.9, 256.9), abs=0.25) for box in boxes)
        turned = draw_panel(part).carried(Transform.turn(math.pi / 2))
        assert all(-90 <= t.turn_deg <= 90.01 for t in turned.texts)


class TestSmallPanelsSharePages:
    SIZES = ((90, 60), (120, 40), (80, 80), (60, 200), (400, 30))

    def panels(self) -> list[DraftedPanel]:
        result = []
        for k, (w, h) in enumerate(self.SIZES):
            ring = shapes.polygon([(0, 0), (w, 0), (w, h), (0, h)], allowance=8.0)
            result.append(draft_panel(Panel(f"part {k + 1}", ring)))
        return result

    def test_whole_and_clear_of_one_another(self) -> None:
        """By shapely: where the plan puts them, each cutting line lies in its page's window, no two of a page touch; the one that is
        larger than the paper has pages of its own."""
        panels = self.panels()
        window = (188.0, 275.0)
        plan = page_plan([draw_panel(p) for p in panels], window)
        on_page: dict[int, list[shapely.Polygon]] = {}
        for page in plan:
            if page.shared:
                x, y = page.low
                lies = shapely.affinity.translate(shapely.Polygon(panels[page.panel].cutting_points), -x, -y)
                assert shapely.box(0, 0, *window).contains(lies)
                on_page.setdefault(page.shared, []).append(lies)
        assert sum(map(len, on_page.values())) == 4
        assert len(on_page) == 2
        for parts in on_page.values():
            assert all(shapely.distance(a, b) > 5 for a, b in itertools.combinations(parts, 2))
        assert {p.panel for p in plan if not p.shared} == {4}

    def test_pages_are_few_and_name_what_is_on_them(self) -> None:
        reader = PdfReader(io.BytesIO(panels_pdf(self.panels())))
        texts = [page.extract_text() for page in reader.pages]
        printed = [t for t in texts if "cut here" in t]
        assert len(printed) == 2 + 2
        assert sum("part 3, part 4" in t for t in printed) == sum("part 1, part 2" in t for t in printed) == 1
        assert len([t for t in printed if "part 5" in t]) == 2

    def test_a_shared_page_is_true_to_size(self) -> None:
        """At 200 dots an inch the largest ring on it is 76 by 216 with half of its line's width on either side."""
        page = (rasterise_page(panels_pdf(self.panels()), 1, dpi=200) < 128).astype(np.uint8)
        boxes = cv2.connectedComponentsWithStats(page)[2][1:, 2:4] / 200 * 25.4
        assert any(tuple(box) == pytest.approx((76.9, 216.9), abs=0.25) for box in boxes)
