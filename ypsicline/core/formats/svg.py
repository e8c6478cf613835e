"""SVG in millimetres: one unit of the drawing is one millimetre, and so is one of its width and height."""

from __future__ import annotations

import math
from collections.abc import Sequence
from xml.etree import ElementTree as ET

from ypsicline.core.formats.drawing import LINE_MM, Drawing, Layer, draw_panel, side_by_side
from ypsicline.core.geometry.edges import Edge, Point, circle_of
from ypsicline.core.lengths import Unit
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["panels_svg", "path_data"]

MARGIN_MM = 5.0
_INK = "#1F2D2B"
_LAYERS: tuple[Layer, ...] = ("cutting_line", "seam_line", "notches", "grain", "marks", "text")
_WORDS = {"fill": _INK, "stroke": "none", "font-family": "sans-serif", "text-anchor": "middle"}
# on a screen lines keep their width however small the drawing is shown
_SCREEN_PX_PER_MM = 2.2


def panels_svg(
    panels: Sequence[DraftedPanel], *, scale: float = 1.0, unit: Unit = "mm", on_screen: bool = False
) -> bytes:
    """All panels side by side, a group a layer inside a group a panel; `scale` 0.1 makes a 1:10 model; figures in its
    words are in `unit`. A picture to be looked at `on_screen` has lines that stay as wide at any size."""
    drawings = side_by_side([draw_panel(p, unit) for p in panels])
    low, high = _bounds(drawings)
    width, height = high[0] - low[0] + 2 * MARGIN_MM, high[1] - low[1] + 2 * MARGIN_MM
    root = ET.Element(
        "svg",
        {
            "xmlns": "http://www.w3.org/2000/svg",
            "width": f"{width * scale:.4f}mm",
            "height": f"{height * scale:.4f}mm",
            "viewBox": f"{low[0] - MARGIN_MM:.4f} {-high[1] - MARGIN_MM:.4f} {width:.4f} {height:.4f}",
        },
    )
    still = {"vector-effect": "non-scaling-stroke"} if on_screen else {}
    for d in drawings:
        group = ET.SubElement(root, "g", {"class": "panel"})
        ET.SubElement(group, "title").text = d.name
        for layer in _LAYERS:
            part = ET.SubElement(group, "g", {"class": layer, **_style(layer, _SCREEN_PX_PER_MM if on_screen else 1.0)})
            for ring in (r for r in d.rings if r.layer == layer):
                ET.SubElement(part, "path", {"class": layer, "d": path_data(ring.edges), **still})
            for stroke in (s for s in d.strokes if s.layer == layer):
                points = " ".join(f"{x:.4f},{-y:.4f}" for x, y in stroke.points)
                ET.SubElement(part, "polyline", {"points": points, **still})
            for text in (t for t in d.texts if t.layer == layer):
                x, y = text.at
                at = {"x": f"{x:.3f}", "y": f"{-y:.3f}", "font-size": f"{text.size_mm:.2f}"}
                if text.turn_deg:
                    at["transform"] = f"rotate({-text.turn_deg:.3f} {x:.3f} {-y:.3f})"
                ET.SubElement(part, "text", at).text = text.text
    return ET.tostring(root, encoding="utf-8", xml_declaration=True)


def _style(layer: Layer, wide: float) -> dict[str, str]:
    """How a layer is drawn, its lines so many times as wide as on paper."""
    return _WORDS if layer == "text" else {"fill": "none", "stroke": _INK, "stroke-width": f"{wide * LINE_MM[layer]:g}"}


def path_data(edges: Sequence[Edge]) -> str:
    """A closed path with y turned down, as SVG has it; arcs stay arcs and curves stay curves."""
    words = [f"M{_xy(edges[0].start)}"]
    for edge in edges:
        if edge.kind == "curve":
            inner = edge.points[1:]
            words += [f"C{' '.join(_xy(p) for p in inner[k : k + 3])}" for k in range(0, len(inner), 3)]
        elif edge.kind == "arc" and (circle := circle_of(edge)):
            large = int(abs(circle.sweep) > math.pi)
            sweep = int(circle.sweep < 0)
            words.append(f"A{circle.radius:.4f} {circle.radius:.4f} 0 {large} {sweep} {_xy(edge.end)}")
        else:
            words.append(f"L{_xy(edge.end)}")
    return " ".join([*words, "Z"])


def _xy(p: Point) -> str:
    return f"{p[0]:.4f} {-p[1]:.4f}"


def _bounds(drawings: Sequence[Drawing]) -> tuple[Point, Point]:
    bounds = [d.bounds() for d in drawings]
    return (
        (min(b[0][0] for b in bounds), min(b[0][1] for b in bounds)),
        (max(b[1][0] for b in bounds), max(b[1][1] for b in bounds)),
    )
