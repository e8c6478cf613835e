"""Outlines out of SVG files."""

from __future__ import annotations

import io
import math
import re
from itertools import islice
from typing import Literal
from xml.etree import ElementTree

import numpy as np
import svgelements

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.read_outlines import ReadOutline, check_size, outlines_of, raised
from ypsicline.core.geometry.edges import Edge, Point, edge_length, flatten
from ypsicline.core.messages import message

__all__ = ["read_svg"]

MOST_NUMBERS = 200_000
MOST_SHAPES = 2_000
_NUMBER = re.compile(rb"\d+")
_MM_PER_PIXEL = 25.4 / 96
_PIXELS_PER_INCH = 96.0
_SVG = "{http://www.w3.org/2000/svg}"
_TRUE_LENGTH = re.compile(r"\s*[\d.eE+-]+\s*(mm|cm|in|pt|pc|q)\s*", re.IGNORECASE)


def read_svg(data: bytes, *, width_mm: float | None = None) -> tuple[ReadOutline, ...]:
    """Every closed outline of an SVG with the holes inside it, largest first, y turned up; our own files by their seam lines.

    `width_mm` is how wide all of them are together, for a drawing that doesn't say its size. Raises
    `Refusal`: reason `unknown_size` where it doesn't and no width was given, `file` where it can't be read.
    """
    check_size(data, "SVG")
    if b"<!ENTITY" in data.upper():
        raise Refusal(message("svg_with_entities"), "file")
    if next(islice(_NUMBER.finditer(data), MOST_NUMBERS, None), None):
        raise Refusal(message("svg_too_many_points"), "file")
    try:
        root = ElementTree.fromstring(data)  # noqa: S314 - what defines entities was refused above
        is_true = bool(_TRUE_LENGTH.fullmatch(root.get("width", ""))) and "%" not in root.get("height", "")
        runs = _runs_of(_with_nested_placed(root))
    except Refusal:
        raise
    except Exception as e:  # the parsers raise anything at all on broken files
        raise Refusal(message("svg_broken"), "file") from e
    if not is_true and width_mm is None:
        raise Refusal(message("svg_of_unknown_size"), "unknown_size")  # fmt: skip
    if width_mm is not None and not is_true:
        runs = _scaled_to(runs, width_mm)
    return outlines_of(runs, "SVG")


def _with_nested_placed(root: ElementTree.Element) -> bytes:
    """The drawing with every inner `svg` as a group at its place: its own view box is that group's transform, and its
    place isn't taken for its children's."""
    _place_inner(root, _room_of(root, (100.0, 100.0)))
    return ElementTree.tostring(root)


def _place_inner(element: ElementTree.Element, room: tuple[float, float]) -> None:
    for child in element:
        inside = room
        if child.tag == f"{_SVG}svg":
            x, y = (_pixels(child.attrib.pop(k, "0"), of) for k, of in (("x", room[0]), ("y", room[1])))
            wide, high = (
                _pixels(child.attrib.pop(k, "100%"), of) for k, of in (("width", room[0]), ("height", room[1]))
            )
            move = f"translate({x},{y})"
            inside = (wide, high)
            if box := child.attrib.pop("viewBox", None):
                inside = _room_of(child, inside, box)
                numbers = [float(v) for v in re.split(r"[\s,]+", box.strip())]
                aspect = child.get("preserveAspectRatio")
                move = svgelements.Viewbox.viewbox_transform(x, y, wide, high, *numbers, aspect)
            child.tag = f"{_SVG}g"
            child.set("transform", f"{child.get('transform', '')} {move}".strip())
        _place_inner(child, inside)


def _room_of(svg: ElementTree.Element, otherwise: tuple[float, float], box: str | None = None) -> tuple[float, float]:
    """How wide and high a drawing is in its own units."""
    if box := box or svg.get("viewBox"):
        _, _, wide, high = (float(v) for v in re.split(r"[\s,]+", box.strip()))
        return wide, high
    return _pixels(svg.get("width", "100%"), otherwise[0]), _pixels(svg.get("height", "100%"), otherwise[1])


def _pixels(length: str, of: float) -> float:
    return float(svgelements.Length(length).value(ppi=_PIXELS_PER_INCH, relative_length=of))


def _runs_of(data: bytes) -> list[list[Edge]]:
    picture = svgelements.SVG.parse(io.BytesIO(data), reify=True, ppi=_PIXELS_PER_INCH)
    shapes = [e for e in picture.elements() if isinstance(e, svgelements.Shape)]
    own = [e for e in shapes if e.values.get("class") == "seam_line"]
    if len(own or shapes) > MOST_SHAPES:
        raise Refusal(message("svg_too_many_shapes", most_shapes=MOST_SHAPES), "file")
    paths = [abs(svgelements.Path(e)) for e in own or shapes]
    return [run for path in paths for sub in path.as_subpaths() if (run := _run(sub))]


def _scaled_to(runs: list[list[Edge]], width_mm: float) -> list[list[Edge]]:
    points = np.vstack([flatten(e) for r in runs for e in r]) if runs else np.zeros((1, 2))
    width = float(np.ptp(points[:, 0]))
    if width <= 0:
        raise Refusal(message("svg_without_width"), "file")
    k = width_mm / width
    return [[Edge(e.kind, tuple((x * k, y * k) for x, y in e.points)) for e in r] for r in runs]


def _run(path: svgelements.Subpath) -> list[Edge]:
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
            run.append(raised(_up(s.start), _up(s.control), _up(s.end)))
        else:
            run.append(_edge("line", _up(s.start), _up(s.end)))
    return [e for e in run if edge_length(e) > 1e-6]


def _edge(kind: Literal["line", "arc", "curve"], *points: Point) -> Edge:
    return Edge(kind, tuple(points))


def _up(p: svgelements.Point) -> Point:
    return float(p.x) * _MM_PER_PIXEL, -float(p.y) * _MM_PER_PIXEL
