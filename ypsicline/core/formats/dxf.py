"""DXF in millimetres with named layers, for cutters and other programs."""

from __future__ import annotations

import io
import math
import re
from collections.abc import Sequence

from ypsicline.core.formats.drawing import draw_panel, side_by_side
from ypsicline.core.geometry.edges import Edge, circle_of, flatten, point_at
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["LAYERS", "panels_dxf"]

LAYERS = {"seam_line": 5, "cutting_line": 7, "notches": 1, "grain": 3, "marks": 6, "text": 8}
_MILLIMETRES = 4


def panels_dxf(panels: Sequence[DraftedPanel], *, scale: float = 1.0) -> bytes:
    """All panels side by side. Rings are closed polylines whose arcs are true arcs; curves are chords within 0.01 mm."""
    # a quarter of a second to load, for what few ask for
    import ezdxf
    from ezdxf.enums import TextEntityAlignment

    document = ezdxf.new("R2000", units=_MILLIMETRES)
    document.header["$INSUNITS"] = _MILLIMETRES
    document.header["$MEASUREMENT"] = 1
    for layer, colour in LAYERS.items():
        document.layers.add(layer.upper(), color=colour)
    space = document.modelspace()
    for d in side_by_side([draw_panel(p) for p in panels]):
        for ring in d.rings:
            vertices = [v for e in ring.edges for v in _vertices(e)]
            in_units = [(x * scale, y * scale, b) for x, y, b in vertices]
            space.add_lwpolyline(in_units, format="xyb", close=True, dxfattribs={"layer": ring.layer.upper()})
        for stroke in d.strokes:
            points = [(x * scale, y * scale) for x, y in stroke.points]
            space.add_lwpolyline(points, dxfattribs={"layer": stroke.layer.upper()})
        for text in d.texts:
            attributes = {
                "layer": text.layer.upper(),
                "height": text.size_mm * scale,
                "rotation": text.turn_deg,
            }
            entity = space.add_text(text.text, dxfattribs=attributes)
            entity.set_placement((text.at[0] * scale, text.at[1] * scale), align=TextEntityAlignment.MIDDLE_CENTER)
    out = io.StringIO()
    document.write(out)
    return _encoded(out.getvalue(), document.output_encoding)


def _encoded(text: str, encoding: str) -> bytes:
    """In the encoding that the header names, as readers of this version of DXF take it; other letters by their numbers, as \\U+0151."""

    def escaped(letter: re.Match[str]) -> str:
        try:
            letter[0].encode(encoding)
        except UnicodeEncodeError:
            units = letter[0].encode("utf-16-be").hex().upper()
            return "".join(f"\\U+{units[k : k + 4]}" for k in range(0, len(units), 4))
        return letter[0]

    return re.sub(r"[^\x00-\x7f]", escaped, text).encode(encoding)


def _vertices(edge: Edge) -> list[tuple[float, float, float]]:
    """The edge's vertices but the last, with bulges: the tangent of a quarter of the arc's sweep."""
    if edge.kind == "arc" and (circle := circle_of(edge)):
        # halves, so that no bulge stands for more than half a circle
        (x0, y0), (x1, y1) = edge.start, point_at(edge, 0.5)
        bulge = math.tan(circle.sweep / 8)
        return [(x0, y0, bulge), (x1, y1, bulge)]
    points = flatten(edge)[:-1]
    return [(float(x), float(y), 0.0) for x, y in points]
