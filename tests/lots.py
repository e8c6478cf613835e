"""Panels by lot: rings of lines, arcs and curves with slots, and any allowance, finish and corner on each edge."""

from __future__ import annotations

import math

import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["panel_by_lot"]

FINISHES = ("plain", "plain", "hem", "double_hem", "casing", "bound", "raw")
CORNERS = ("by_rule", "mitre", "bevel", "square", "mirror", "hem_mitre")
Point = tuple[float, float]


def panel_by_lot(number: int) -> Panel | None:
    """Panel `number`; None where chance made one whose edges can't be."""
    rng = np.random.default_rng((4711, number))
    corners = _corners(rng)
    allowances = [float(rng.choice([0, 5, 10, 12, 15, 20, 25, 30, 40])) for _ in range(3)]
    edges = []
    try:
        for k, a in enumerate(corners):
            kind, points = _edge(rng, a, corners[(k + 1) % len(corners)])
            finish = str(rng.choice(FINISHES))
            width = 0.0 if finish in ("bound", "raw") else allowances[int(rng.integers(3))]
            if finish in ("hem", "double_hem", "casing"):
                width = width or 20.0
            under = width / 3 if finish == "double_hem" else 0.0
            corner = str(rng.choice(CORNERS))
            edges.append(SeamEdge(kind, points, f"e{k}", width, finish, corner, under))  # type: ignore[arg-type]
        return Panel(f"lot {number}", tuple(edges))
    except Refusal:
        return None


def _corners(rng: np.random.Generator) -> list[Point]:
    count, size = int(rng.integers(3, 9)), math.exp(rng.uniform(math.log(40), math.log(1500)))
    angles = np.sort(rng.uniform(0, 2 * np.pi, count))
    radii = size * rng.uniform(0.35, 1, count)
    corners = [
        (round(float(r * np.cos(a)), 3), round(float(r * np.sin(a)), 3)) for a, r in zip(angles, radii, strict=True)
    ]
    return _with_slot(rng, corners) if rng.random() < 0.3 else corners


def _with_slot(rng: np.random.Generator, corners: list[Point]) -> list[Point]:
    k = int(rng.integers(len(corners)))
    a, b = np.array(corners[k]), np.array(corners[(k + 1) % len(corners)])
    length = float(np.hypot(*(b - a)))
    along = (b - a) / max(length, 1e-9)
    inward = np.array([-along[1], along[0]])
    wide, start = rng.uniform(8, 40), rng.uniform(0.25, 0.6) * length
    deep = rng.uniform(20, 0.4 * length + 20)
    if start + wide > length - 5:
        return corners
    mouth = [a + along * start, a + along * (start + wide)]
    slot = [mouth[0], mouth[0] + inward * deep, mouth[1] + inward * deep, mouth[1]]
    return [*corners[: k + 1], *((round(float(x), 3), round(float(y), 3)) for x, y in slot), *corners[k + 1 :]]


def _edge(rng: np.random.Generator, a: Point, b: Point) -> tuple[str, tuple[Point, ...]]:
    d = np.subtract(b, a)
    length = float(np.hypot(*d))
    kind = str(rng.choice(["line", "arc", "curve"], p=[0.5, 0.25, 0.25]))
    if length < 8 or kind == "line":
        return "line", (a, b)
    out = np.array([d[1], -d[0]]) / length

    def at(share: float, off: float) -> Point:
        x, y = np.asarray(a) + d * share + out * off
        return float(x), float(y)

    if kind == "arc":
        rise = rng.uniform(-0.35, 0.45) * length
        return "arc", (a, at(0.5, rise if abs(rise) > 0.01 * length else 0.05 * length), b)
    off = rng.uniform(-0.4, 0.4, 2) * length
    return "curve", (a, at(rng.uniform(0.15, 0.5), off[0]), at(rng.uniform(0.5, 0.85), off[1]), b)
