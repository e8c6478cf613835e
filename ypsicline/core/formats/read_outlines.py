"""Outlines out of SVG and DXF files, as rings of edges in millimetres."""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import ezdxf
import ezdxf.path
import numpy as np
import shapely
import svgelements
from ezdxf.filemanagement import dxf_stream_info

from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Edge, Point, circle_of, edge_length, flatten
from ypsicline.core.geometry.rings import check_ring, is_counter_clockwise, reverse_ring

__all__ = ["ReadOutline", "read_dxf", "read_svg"]

MAX_FILE_BYTES = 20_000_000
MOST_EDGES = 20_000
CLOSES_WITHIN_MM = 0.5
_MM_PER_PIXEL = 25.4 / 96
_PIXELS_PER_INCH = 96.0
_DXF_UNITS = {0: 1.0, 1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}

EdgeRing = tuple[Edge, ...]


@dataclass(frozen=True)
class ReadOutline:
    """An outline counter-clockwise and the holes in it clockwise."""

    outline: EdgeRing
    holes: tuple[EdgeRing, ...]


def read_svg(data: bytes) -> tuple[ReadOutline, ...]:
    """Every closed outline of an SVG with the holes inside it, largest first, y turned up; our own files by their seam lines.

    A length without a unit is a CSS pixel (1/96 in) unless the drawing's width says otherwise.
    Raises `Refused` (reason `file`).
    """
    _check_size(data, "SVG")
    if b"<!ENTITY" in data.upper():
        raise Refused("The SVG defines entities of its own and is not read; save it as a plain SVG.", "file")
    try:
        picture = svgelements.SVG.parse(io.BytesIO(data), reify=True, ppi=_PIXELS_PER_INCH)
        shapes = [e for e in picture.elements() if isinstance(e, svgelements.Shape)]
        own = [e for e in shapes if e.values.get("class") == "seam_line"]
        paths = [abs(svgelements.Path(e)) for e in own or shapes]
        runs = [_svg_run(sub) for path in paths for sub in path.as_subpaths()]
    except Refused:
        raise
    except Exception as e:  # the parser raises anything at all on broken files
        raise Refused("The SVG is broken and can't be read; save it again.", "file") from e
    return _sorted_out([r for r in runs if r], "SVG")


def read_dxf(data: bytes) -> tuple[ReadOutline, ...]:
    """Every closed outline of a DXF's model space, largest first; our own files by their seam lines.

    Takes polylines, circles, ellipses, splines, and lines and arcs that meet end to end; units
    from $INSUNITS, millimetres where it says none. Raises `Refused` (reason `file`).
    """
    _check_size(data, "DXF")
    try:
        document = ezdxf.read(io.StringIO(_dxf_text(data)))
        factor = _DXF_UNITS.get(int(document.header.get("$INSUNITS", 0)))
        found = [e for e in document.modelspace() if e.dxftype() in _DRAWN]
        own = [e for e in found if e.dxf.layer == "SEAM_LINE"]
        runs = [run for e in own or found for run in _dxf_runs(e)]
    except Refused:
        raise
    except Exception as e:  # the parser raises anything at all on broken files
        raise Refused(
            "The DXF is broken and can't be read; save it again as text DXF, version 2000 or later.", "file"
        ) from e
    if factor is None:
        raise Refused("The DXF is in a unit that isn't used for cloth; save it in millimetres or inches.", "file")
    return _sorted_out([_scaled(r, factor) for r in runs if r], "DXF")


_DRAWN = {"LWPOLYLINE", "POLYLINE", "LINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE"}


def _check_size(data: bytes, what: str) -> None:
    if not data:
        raise Refused(f"The {what} is empty.", "file")
    if len(data) > MAX_FILE_BYTES:
        raise Refused(f"The {what} has {len(data) / 1e6:.0f} MB; {MAX_FILE_BYTES / 1e6:.0f} MB is the most.", "file")


def _dxf_text(data: bytes) -> str:
    if data.startswith(b"AutoCAD Binary DXF"):
        raise Refused("This is a binary DXF; save it as text DXF.", "file")
    encoding = dxf_stream_info(io.StringIO(data.decode("latin-1"))).encoding
    return data.decode(encoding, errors="replace").replace("\r\n", "\n")


def _svg_run(path: svgelements.Subpath) -> list[Edge]:
    run: list[Edge] = []
    for s in path:
        if isinstance(s, svgelements.Move) or s.start is None or s.end is None:
            continue
        if isinstance(s, svgelements.Arc) and abs(s.rx - s.ry) < 1e-6 * max(s.rx, 1e-9):
            cuts = max(1, math.ceil(abs(s.sweep) / (0.9 * math.pi)))
            for k in range(cuts):
                a, m, b = (_up(s.point((k + f) / cuts)) for f in (0, 0.5, 1))
                run.append(_edge("arc", a, m, b))
        elif isinstance(s, svgelements.Arc):
            for c in s.as_cubic_curves():
                run.append(_edge("curve", *(_up(p) for p in (c.start, c.control1, c.control2, c.end))))
        elif isinstance(s, svgelements.CubicBezier):
            run.append(_edge("curve", *(_up(p) for p in (s.start, s.control1, s.control2, s.end))))
        elif isinstance(s, svgelements.QuadraticBezier):
            run.append(_raised(_up(s.start), _up(s.control), _up(s.end)))
        else:
            run.append(_edge("line", _up(s.start), _up(s.end)))
    return [e for e in run if edge_length(e) > 1e-6]


def _dxf_runs(entity: ezdxf.entities.DXFGraphic) -> Iterable[list[Edge]]:
    for part in ezdxf.path.make_path(entity).sub_paths():
        run: list[Edge] = []
        at = part.start
        for c in part.commands():
            p, q = (at.x, at.y), (c.end.x, c.end.y)
            if c.type == ezdxf.path.Command.CURVE4_TO:
                run.append(_plainer(_edge("curve", p, (c.ctrl1.x, c.ctrl1.y), (c.ctrl2.x, c.ctrl2.y), q)))
            elif c.type == ezdxf.path.Command.CURVE3_TO:
                run.append(_raised(p, (c.ctrl.x, c.ctrl.y), q))
            elif c.type == ezdxf.path.Command.LINE_TO:
                run.append(_edge("line", p, q))
            at = c.end
        if entity.dxftype() in ("LWPOLYLINE", "POLYLINE") and entity.is_closed and run and run[-1].end != run[0].start:
            run.append(_edge("line", run[-1].end, run[0].start))
        yield [e for e in run if edge_length(e) > 1e-6]


def _sorted_out(runs: list[list[Edge]], what: str) -> tuple[ReadOutline, ...]:
    """Chain open runs end to end, keep what closes, and put holes into the outlines round them."""
    if sum(len(r) for r in runs) > MOST_EDGES:
        raise Refused(f"The {what} has over {MOST_EDGES} edges; it is a drawing rather than an outline.", "file")
    rings = []
    for ring in _chained(runs):
        if len(ring) >= 2:
            check_ring(ring, [f"{what} edge {k + 1}" for k in range(len(ring))], f"outline in the {what}")
            rings.append(ring if is_counter_clockwise(ring) else reverse_ring(ring))
    if not rings:
        raise Refused(f"The {what} holds no closed outline. Join its lines end to end and save it again.", "file")
    shapes = [shapely.Polygon(np.vstack([flatten(e)[:-1] for e in r])) for r in rings]
    order = sorted(range(len(rings)), key=lambda k: -shapes[k].area)
    tops: dict[int, list[int]] = {}
    for k in order:
        around = [t for t in tops if shapely.contains(shapes[t], shapes[k])]
        if around:
            tops[around[-1]].append(k)
        else:
            tops[k] = []
    return tuple(
        ReadOutline(tuple(rings[t]), tuple(reverse_ring(rings[h]) for h in inside)) for t, inside in tops.items()
    )


def _chained(runs: list[list[Edge]]) -> list[EdgeRing]:
    closed = [_shut(r) for r in runs if math.dist(r[0].start, r[-1].end) <= CLOSES_WITHIN_MM and len(r) > 1]
    rest = [r for r in runs if math.dist(r[0].start, r[-1].end) > CLOSES_WITHIN_MM]
    while rest:
        chain = list(rest.pop())
        grew = True
        while grew and math.dist(chain[0].start, chain[-1].end) > CLOSES_WITHIN_MM:
            grew = False
            for k, other in enumerate(rest):
                if math.dist(chain[-1].end, other[0].start) <= CLOSES_WITHIN_MM:
                    chain += rest.pop(k)
                elif math.dist(chain[-1].end, other[-1].end) <= CLOSES_WITHIN_MM:
                    chain += reverse_ring(rest.pop(k))
                else:
                    continue
                grew = True
                break
        if math.dist(chain[0].start, chain[-1].end) <= CLOSES_WITHIN_MM:
            closed.append(_shut(chain))
    return closed


def _shut(run: Sequence[Edge]) -> EdgeRing:
    """Each edge's end moved onto the next one's start, over gaps of half a millimetre at most."""
    count = len(run)
    return tuple(Edge(e.kind, (*e.points[:-1], run[(k + 1) % count].start)) for k, e in enumerate(run))


def _plainer(edge: Edge) -> Edge:
    """A curve that is an arc or a line to within 2 µm, as that."""
    points = flatten(edge)
    a, m, b = edge.start, points[len(points) // 2], edge.end
    arc = Edge("arc", (a, (float(m[0]), float(m[1])), b))
    if circle := circle_of(arc):
        off = np.abs(np.hypot(*(points - np.asarray(circle.centre)).T) - circle.radius).max()
        return arc if off < 0.002 and circle.radius < 1e5 else edge
    return Edge("line", (a, b))


def _scaled(run: list[Edge], factor: float) -> list[Edge]:
    return run if factor == 1 else [Edge(e.kind, tuple((x * factor, y * factor) for x, y in e.points)) for e in run]


def _raised(a: Point, b: Point, c: Point) -> Edge:
    """A quadratic Bézier as a cubic one."""
    first = (a[0] + 2 / 3 * (b[0] - a[0]), a[1] + 2 / 3 * (b[1] - a[1]))
    second = (c[0] + 2 / 3 * (b[0] - c[0]), c[1] + 2 / 3 * (b[1] - c[1]))
    return _edge("curve", a, first, second, c)


def _edge(kind: str, *points: Point) -> Edge:
    return Edge(kind, tuple(points))  # type: ignore[arg-type]


def _up(p: svgelements.Point) -> Point:
    return float(p.x) * _MM_PER_PIXEL, -float(p.y) * _MM_PER_PIXEL
