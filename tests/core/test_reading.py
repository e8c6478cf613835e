"""Drawings from elsewhere: blocks, closed splines, exact arcs, hidden layers, unknown sizes, very many lines."""

from __future__ import annotations

import io
import math
import time
from pathlib import Path

import ezdxf
import numpy as np
import pyogrio
import pytest
import shapely
from ezdxf.lldxf.encoding import decode_dxf_unicode
from scipy.interpolate import BSpline

from tests import shapes
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.dxf import panels_dxf
from ypsicline.core.formats.read_dxf import read_dxf
from ypsicline.core.formats.read_svg import read_svg
from ypsicline.core.geometry import flatten_ring
from ypsicline.core.pattern.panel import Panel


def drawing() -> ezdxf.document.Drawing:
    return ezdxf.new("R2010", units=4)


def saved(document: ezdxf.document.Drawing) -> bytes:
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


class TestDxf:
    def test_what_lies_in_blocks_is_read_where_they_are_put(self) -> None:
        document = drawing()
        inner = document.blocks.new("INNER")
        inner.add_circle((0, 0), 20)
        outer = document.blocks.new("OUTER")
        outer.add_lwpolyline([(-100, -50), (100, -50), (100, 50), (-100, 50)], close=True)
        outer.add_blockref("INNER", (30, 0))
        document.modelspace().add_blockref("OUTER", (500, 200), dxfattribs={"rotation": 90, "xscale": 2, "yscale": 2})
        (result,) = read_dxf(saved(document))
        assert sorted(np.ptp(flatten_ring(result.outline), axis=0)) == pytest.approx([200, 400])
        (hole,) = result.holes
        assert flatten_ring(hole).mean(axis=0) == pytest.approx((500, 260), abs=0.1)

    @pytest.mark.parametrize(("unit", "mm"), [(0, 1), (1, 25.4), (2, 304.8), (4, 1), (5, 10), (6, 1000)])
    def test_a_drawing_is_read_in_its_own_unit(self, unit: int, mm: float) -> None:
        document = ezdxf.new("R2010", units=unit)
        document.modelspace().add_lwpolyline([(0, 0), (4, 0), (4, 3), (0, 3)], close=True)
        (result,) = read_dxf(saved(document))
        assert np.ptp(flatten_ring(result.outline), axis=0) == pytest.approx((4 * mm, 3 * mm))

    def test_a_drawing_in_miles_is_refused(self) -> None:
        document = ezdxf.new("R2010", units=3)
        document.modelspace().add_lwpolyline([(0, 0), (4, 0), (4, 3), (0, 3)], close=True)
        with pytest.raises(Refusal, match="isn't used for cloth"):
            read_dxf(saved(document))

    def test_circles_and_arcs_stay_on_their_circle(self) -> None:
        document = drawing()
        document.modelspace().add_circle((1000, 0), 700)
        document.modelspace().add_lwpolyline(
            [(0, 2000, 0), (600, 2000, 0.6), (600, 2400, -0.3), (0, 2400, 0)], format="xyb", close=True
        )
        tall, round_ = sorted(read_dxf(saved(document)), key=lambda o: -len(o.outline))
        assert {e.kind for e in round_.outline} == {"arc"}
        points = np.array([p for e in round_.outline for p in e.points])
        assert np.hypot(points[:, 0] - 1000, points[:, 1]) == pytest.approx(np.full(len(points), 700.0), abs=1e-9)
        # a bulge is the tangent of a quarter of the sweep: the arc's rise is half its chord times it
        kinds = [e.kind for e in tall.outline]
        assert kinds.count("line") == 2
        assert flatten_ring(tall.outline)[:, 0].max() == pytest.approx(600 + 200 * 0.6, abs=0.02)

    def test_a_mirrored_circle_lies_on_the_other_side(self) -> None:
        document = drawing()
        document.modelspace().add_circle((100, 50), 30, dxfattribs={"extrusion": (0, 0, -1)})
        (result,) = read_dxf(saved(document))
        assert flatten_ring(result.outline).mean(axis=0) == pytest.approx((-100, 50), abs=0.5)

    @pytest.mark.parametrize("degree", [2, 3])
    def test_a_closed_spline_is_read_as_it_is(self, degree: int) -> None:
        control = [(0, 0, 0), (100, -20, 0), (140, 80, 0), (60, 130, 0), (-20, 70, 0)]
        document = drawing()
        spline = document.modelspace().add_spline()
        spline.set_closed(control, degree=degree)
        (result,) = read_dxf(saved(document))
        wrapped = np.array([*control, *control[:degree]])[:, :2]
        knots = np.arange(len(wrapped) + degree + 1, dtype=float)
        truth = BSpline(knots, wrapped, degree)(np.linspace(degree, len(control) + degree, 500))
        ring = shapely.LinearRing(flatten_ring(result.outline))
        assert float(shapely.distance(ring, shapely.points(truth)).max()) < 0.02
        assert ring.length == pytest.approx(shapely.LineString(truth).length, rel=1e-3)

    def test_layers_that_are_off_are_asked_about(self) -> None:
        document = drawing()
        document.layers.add("OLD").off()
        document.modelspace().add_circle((0, 0), 10, dxfattribs={"layer": "OLD"})
        document.modelspace().add_circle((0, 0), 30)
        with pytest.raises(Refusal, match="“OLD”") as asked:
            read_dxf(saved(document))
        assert asked.value.reason == "hidden_layers"
        assert [len(o.holes) for how in ("read", "leave") for o in read_dxf(saved(document), hidden_layers=how)] == [
            1,
            0,
        ]  # type: ignore[arg-type]

    def test_names_are_in_the_encoding_that_the_header_names(self, tmp_path: Path) -> None:
        path = tmp_path / "panel.dxf"
        path.write_bytes(panels_dxf([draft_panel(Panel("Ärmel – links Nº 1, Győr", shapes.square(300)))]))
        document = ezdxf.readfile(path)
        assert path.read_bytes().decode(document.encoding)
        texts = {decode_dxf_unicode(t.dxf.text) for t in document.modelspace().query("TEXT")}
        assert "Ärmel – links Nº 1, Győr" in texts
        _, _, _, fields = pyogrio.raw.read(path, columns=["Text"])
        assert any(t and t.startswith("Ärmel") for t in fields[0])

    @pytest.mark.parametrize("kind", ["circles", "lines", "blocks"])
    def test_very_many_things_are_read_or_refused_soon(self, kind: str) -> None:
        document = drawing()
        space = document.modelspace()
        if kind == "circles":
            for k in range(2000):
                space.add_circle((k % 50 * 30, k // 50 * 30), 10)
        elif kind == "lines":
            for k in range(15_000):
                space.add_line((k % 140 * 30, k // 140 * 30), (k % 140 * 30 + 10, k // 140 * 30))
        else:
            document.blocks.new("B0").add_circle((0, 0), 5)
            for level in range(1, 5):
                block = document.blocks.new(f"B{level}")
                for k in range(20):
                    block.add_blockref(f"B{level - 1}", (12 * k * 20**level, 0))
            space.add_blockref("B4", (0, 0))
        data = saved(document)
        started = time.process_time()
        if kind == "circles":
            assert len(read_dxf(data)) == 2000
        else:
            with pytest.raises(Refusal):
                read_dxf(data)
        assert time.process_time() - started < 60


class TestSvg:
    def test_a_drawing_inside_another_lies_at_its_place(self) -> None:
        for inner, wanted in (
            ('<svg x="50" y="20" width="100" height="100" viewBox="0 0 50 50">', (50, 150, -70, -20)),
            ('<svg x="50" y="20">', (50, 100, -45, -20)),
            ('<svg x="25%" y="20" transform="translate(3 0)">', (53, 103, -45, -20)),
        ):
            head = '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">'
            data = f'{head}{inner}<rect width="50" height="25"/></svg></svg>'
            (result,) = read_svg(data.encode())
            (x0, y0), (x1, y1) = (f(flatten_ring(result.outline), axis=0) for f in (np.min, np.max))
            assert (x0, x1, y0, y1) == pytest.approx(wanted)

    @pytest.mark.parametrize("size", ["", 'width="400" height="300"', 'width="400px"', 'width="100%"'])
    def test_a_drawing_without_a_true_size_asks_for_a_measure(self, size: str) -> None:
        data = f'<svg xmlns="http://www.w3.org/2000/svg" {size} viewBox="0 0 400 300"><circle cx="90" cy="90" r="80"/></svg>'.encode()
        with pytest.raises(Refusal) as asked:
            read_svg(data)
        assert asked.value.reason == "unknown_size"
        (result,) = read_svg(data, width_mm=314.0)
        assert np.ptp(flatten_ring(result.outline), axis=0) == pytest.approx((314, 314), abs=0.02)
        assert {e.kind for e in result.outline} == {"arc"}

    def test_a_true_size_needs_no_measure(self) -> None:
        data = b'<svg xmlns="http://www.w3.org/2000/svg" width="4in" height="3in" viewBox="0 0 400 300"><rect width="100" height="50"/></svg>'
        (result,) = read_svg(data, width_mm=7)
        assert np.ptp(flatten_ring(result.outline), axis=0) == pytest.approx((25.4, 12.7))
        assert math.isclose(shapely.Polygon(flatten_ring(result.outline)).area, 25.4 * 12.7)
