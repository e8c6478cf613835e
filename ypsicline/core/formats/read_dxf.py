"""Outlines out of DXF files."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from itertools import islice

import ezdxf
import ezdxf.path
from ezdxf import disassemble, units
from ezdxf.filemanagement import dxf_stream_info
from ezdxf.math import cubic_bezier_from_ellipse
from scipy.interpolate import BSpline

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.read_outlines import HiddenLayers, ReadOutline, check_size, outlines_of, plainer, raised
from ypsicline.core.geometry.edges import Edge, Point, edge_length, reverse_edge
from ypsicline.core.messages import message

__all__ = ["read_dxf"]


MOST_ENTITIES = 50_000
# drawings without a unit are in millimetres
_FOR_CLOTH = {units.IN, units.FT, units.MM, units.CM, units.M}
_DRAWN = {"LWPOLYLINE", "POLYLINE", "LINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE"}
# so that a Bézier keeps within 1e-7 of an ellipse's half axis
_PARTS_OF_ELLIPSE = 16


def read_dxf(data: bytes, *, hidden_layers: HiddenLayers = "ask") -> tuple[ReadOutline, ...]:
    """Every closed outline of a DXF's model space, largest first; our own files by their seam lines.

    Takes polylines, circles, ellipses, splines, and lines and arcs that meet end to end, also in
    blocks; circles and arcs stay arcs. Units from $INSUNITS, millimetres where it says none. What lies
    on layers that are `hidden_layers` is read, left out, or asked about. Raises `Refusal`: reason
    `hidden_layers` to ask, `file` where it can't be read.
    """
    check_size(data, "DXF")
    try:
        document = ezdxf.read(io.StringIO(_text(data)))
        unit = int(document.header.get("$INSUNITS", 0)) or units.MM
        every = list(islice(disassemble.recursive_decompose(document.modelspace()), MOST_ENTITIES + 1))
        entities = [e for e in every if e.dxftype() in _DRAWN]
        off = {v.dxf.name for v in document.layers if v.is_off() or v.is_frozen()}
        unseen = [e for e in entities if e.dxf.layer in off]
        own = [e for e in entities if e.dxf.layer == "SEAM_LINE"]
        runs = [run for e in own or entities if hidden_layers != "leave" or e.dxf.layer not in off for run in _runs(e)]
    except Refusal:
        raise
    except Exception as e:  # the parser raises anything at all on broken files
        raise Refusal(message("dxf_broken"), "file") from e
    if len(every) > MOST_ENTITIES:
        raise Refusal(message("dxf_too_many_entities", most_entities=MOST_ENTITIES), "file")
    if unit not in _FOR_CLOTH:
        raise Refusal(message("dxf_unit_unknown"), "file")
    factor = units.conversion_factor(unit, units.MM)
    if unseen and not own and hidden_layers == "ask":
        names = ", ".join(f"“{n}”" for n in sorted({e.dxf.layer for e in unseen})[:3])
        raise Refusal(message("dxf_layers_off", unseen=len(unseen), count=len(entities), names=names), "hidden_layers")  # fmt: skip
    return outlines_of([_scaled(r, factor) for r in runs if r], "DXF")


def _text(data: bytes) -> str:
    if data.startswith(b"AutoCAD Binary DXF"):
        raise Refusal(message("dxf_is_binary"), "file")
    encoding = dxf_stream_info(io.StringIO(data.decode("latin-1"))).encoding
    return data.decode(encoding, errors="replace").replace("\r\n", "\n")


def _runs(entity: ezdxf.entities.DXFGraphic) -> Iterator[list[Edge]]:
    kind = entity.dxftype()
    if kind in ("ARC", "CIRCLE"):
        yield _round(entity)
    elif kind in ("LWPOLYLINE", "POLYLINE") and entity.has_arc:
        yield _with_bulges(entity)
    elif kind == "ELLIPSE":
        parts = cubic_bezier_from_ellipse(entity.construction_tool(), segments=_PARTS_OF_ELLIPSE)
        yield [_curve(*((p.x, p.y) for p in part.control_points)) for part in parts]
    elif kind == "SPLINE" and _is_polynomial(entity):
        yield _pieces_of(entity)
    else:
        yield from _by_path(entity)


def _round(entity: ezdxf.entities.DXFGraphic) -> list[Edge]:
    """A circle in three arcs, or an arc in as many as keep each under 160 degrees."""
    start, sweep = 0.0, 360.0
    if entity.dxftype() == "ARC":
        start = float(entity.dxf.start_angle)
        sweep = (float(entity.dxf.end_angle) - start) % 360 or 360.0
    count = max(1, math.ceil(sweep / 160))
    stops = [(p.x, p.y) for p in entity.vertices([start + sweep * k / (2 * count) for k in range(2 * count + 1)])]
    if sweep == 360.0:
        stops[-1] = stops[0]
    return [Edge("arc", (stops[2 * k], stops[2 * k + 1], stops[2 * k + 2])) for k in range(count)]


def _with_bulges(entity: ezdxf.entities.DXFGraphic) -> list[Edge]:
    run: list[Edge] = []
    for part in entity.virtual_entities():
        if part.dxftype() == "LINE":
            edges = [Edge("line", ((part.dxf.start.x, part.dxf.start.y), (part.dxf.end.x, part.dxf.end.y)))]
        else:
            edges = _round(part)
        if run and math.dist(run[-1].end, edges[0].start) > math.dist(run[-1].end, edges[-1].end):
            edges = [reverse_edge(e) for e in reversed(edges)]
        run += edges
    # the first part has nothing before it to tell which way it runs
    if len(run) > 1 and math.dist(run[0].end, run[1].start) > math.dist(run[0].start, run[1].start):
        run[0] = reverse_edge(run[0])
    return [e for e in run if edge_length(e) > 1e-6]


def _is_polynomial(entity: ezdxf.entities.DXFGraphic) -> bool:
    count, degree = len(entity.control_points), entity.dxf.degree
    return 1 <= degree <= 3 < count + degree and len(entity.knots) == count + degree + 1 and not len(entity.weights)


def _pieces_of(entity: ezdxf.entities.DXFGraphic) -> list[Edge]:
    """A spline as the cubic pieces between its knots, exactly; of a closed one, one round."""
    knots, degree = [float(k) for k in entity.knots], int(entity.dxf.degree)
    spline = BSpline(knots, [(float(p[0]), float(p[1])) for p in entity.control_points], degree)
    slope = spline.derivative()
    stops = sorted(set(knots[degree : len(knots) - degree]))
    edges = []
    for a, b in zip(stops[:-1], stops[1:], strict=True):
        third = (b - a) / 3
        just = 1e-9 * (b - a)
        p, q, u, v = spline(a + just), spline(b - just), slope(a + just), slope(b - just)
        points = [p, p + third * u, q - third * v, q]
        edges.append(_curve(*((float(x), float(y)) for x, y in points)))
    return [plainer(e) for e in edges if edge_length(e) > 1e-6]


def _by_path(entity: ezdxf.entities.DXFGraphic) -> Iterator[list[Edge]]:
    for part in ezdxf.path.make_path(entity).sub_paths():
        run: list[Edge] = []
        at = part.start
        for c in part.commands():
            p, q = (at.x, at.y), (c.end.x, c.end.y)
            if c.type == ezdxf.path.Command.CURVE4_TO:
                run.append(plainer(_curve(p, (c.ctrl1.x, c.ctrl1.y), (c.ctrl2.x, c.ctrl2.y), q)))
            elif c.type == ezdxf.path.Command.CURVE3_TO:
                run.append(raised(p, (c.ctrl.x, c.ctrl.y), q))
            elif c.type == ezdxf.path.Command.LINE_TO:
                run.append(Edge("line", (p, q)))
            at = c.end
        if entity.dxftype() in ("LWPOLYLINE", "POLYLINE") and entity.is_closed and run and run[-1].end != run[0].start:
            run.append(Edge("line", (run[-1].end, run[0].start)))
        yield [e for e in run if edge_length(e) > 1e-6]


def _curve(*points: Point) -> Edge:
    return Edge("curve", tuple(points))


def _scaled(run: list[Edge], factor: float) -> list[Edge]:
    return run if factor == 1 else [Edge(e.kind, tuple((x * factor, y * factor) for x, y in e.points)) for e in run]
