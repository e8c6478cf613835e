"""Where pieces, sheets, the eye and the photo's frame lie on a table, by lot, and which part of it a view shows."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import Polygon, box

from training.outlines import piece_outline
from training.textures import Grid

__all__ = ["TableScene", "close_grid", "lay_out", "whole_grid"]

Rng = np.random.Generator
SHEETS_MM = ((210.0, 297.0), (210.0, 297.0), (215.9, 279.4), (297.0, 420.0))


@dataclass
class TableScene:
    """Pieces with their heights, sheets and which of them were read, the eye above the table, and what the photo shows; mm."""

    pieces: list[Polygon]
    heights: list[float]
    sheets: list[Polygon]
    read: list[bool]
    eye: tuple[float, float, float] = (0, 0, 1000)
    photo: Polygon = field(default_factory=Polygon)


def lay_out(rng: Rng) -> TableScene:
    """One to four pieces among one to six sheets, some of which lie over a piece or under it."""
    size = float(np.exp(rng.uniform(np.log(110), np.log(1100))))
    pieces = [piece_outline(rng, size)]
    count = 1 if rng.random() < 0.78 else int(rng.integers(2, 5))
    for _ in range(count - 1):
        other = piece_outline(rng, size * rng.uniform(0.35, 1.0))
        far = _clear_of(rng, other, pieces, rng.uniform(12, 80))
        if far is not None:
            pieces.append(far)
    kinds = rng.choice(["cloth", "card", "thick"], p=[0.55, 0.2, 0.25])
    heights = [{"cloth": rng.uniform(0.3, 2), "card": 0.15, "thick": rng.uniform(3, 60)}[kinds]] * len(pieces)
    sheets: list[Polygon] = []
    paper = SHEETS_MM[int(rng.integers(len(SHEETS_MM)))]
    bearing = rng.uniform(0, 2 * np.pi)
    for k in range(int(rng.choice([1, 2, 3, 4, 4, 5, 6], p=[0.22, 0.24, 0.12, 0.22, 0.1, 0.05, 0.05]))):
        turn = rng.uniform(0, 360)
        sheet = affinity.rotate(box(-paper[0] / 2, -paper[1] / 2, paper[0] / 2, paper[1] / 2), turn, origin=(0, 0))
        overlap = rng.random() < 0.07
        gap = rng.uniform(-60, 0) if overlap else rng.uniform(4, 70)
        turned = bearing + 2 * np.pi * k / 4 + rng.normal(0, 0.3)
        placed = _slid_out(sheet, turned, pieces, sheets, gap)
        sheets.append(placed)
    read = [bool(rng.random() > 0.07) for _ in sheets]
    if not any(read):
        read[0] = True
    scene = TableScene(pieces, heights, sheets, read)
    everything = shapely.union_all([*pieces, *sheets])
    middle = everything.envelope.centroid
    span = max(everything.bounds[2] - everything.bounds[0], everything.bounds[3] - everything.bounds[1])
    scene.eye = (
        middle.x + rng.normal(0, 0.35) * span,
        middle.y + rng.normal(0, 0.35) * span,
        span * rng.uniform(0.9, 1.8),
    )
    scene.photo = _photo_quad(rng, everything)
    return scene


def _clear_of(rng: Rng, other: Polygon, pieces: list[Polygon], gap: float) -> Polygon | None:
    turned = rng.uniform(0, 2 * np.pi)
    return _slid_out(other, turned, pieces, [], gap)


def _slid_out(shape: Polygon, bearing: float, pieces: list[Polygon], others: list[Polygon], gap: float) -> Polygon:
    obstacles = shapely.union_all(
        [p.buffer(gap) if gap >= 0 else p.buffer(gap, join_style="mitre") for p in pieces]
        + [o.buffer(8) for o in others]
    )
    start = pieces[0].centroid
    step = 14.0
    distance = 0.0
    direction = np.array([np.cos(bearing), np.sin(bearing)])
    while distance < 4000:
        after = affinity.translate(shape, start.x + direction[0] * distance, start.y + direction[1] * distance)
        if not after.intersects(obstacles):
            return after
        distance += step
    return after


def _photo_quad(rng: Rng, everything: shapely.Geometry) -> Polygon:
    """What of the table the photo shows: a rectangle of 4:3 about everything, seen at a slant."""
    turn = rng.uniform(0, 360)
    hull = affinity.rotate(everything.convex_hull, -turn, origin=(0, 0))
    x0, y0, x1, y1 = hull.bounds
    w, h = x1 - x0, y1 - y0
    margin = rng.uniform(0.02, 0.3) if rng.random() < 0.85 else rng.uniform(-0.12, 0.02)
    aspect = rng.choice([4 / 3, 3 / 4, 16 / 9, 9 / 16, 1.5])
    w, h = w * (1 + 2 * margin), h * (1 + 2 * margin)
    w, h = max(w, h * aspect), max(h, w / aspect)
    cx, cy = (x0 + x1) / 2 + rng.normal(0, 0.04) * w, (y0 + y1) / 2 + rng.normal(0, 0.04) * h
    taper, shear = rng.uniform(0, 0.3), rng.normal(0, 0.05)
    corners = np.array([[-1, -1], [1, -1], [1 + taper + shear, 1 + taper], [-1 - taper + shear, 1 + taper]]) * [
        w / 2,
        h / 2,
    ]
    return affinity.rotate(Polygon(corners + [cx, cy]), turn, origin=(0, 0))


def whole_grid(rng: Rng, scene: TableScene, size: int) -> Grid:
    """A grid over all that the photo shows, or nearly."""
    x0, y0, x1, y1 = scene.photo.bounds
    grown = rng.uniform(0.75, 1.05)
    return Grid(size, max(x1 - x0, y1 - y0) * grown / size, (x0 + x1) / 2, (y0 + y1) / 2)


def close_grid(rng: Rng, scene: TableScene, size: int) -> Grid:
    """A grid over the first piece, or over a part of its rim."""
    piece = scene.pieces[0]
    x0, y0, x1, y1 = piece.bounds
    reach = max(x1 - x0, y1 - y0)
    if rng.random() < 0.4:
        mm = reach * rng.uniform(1.1, 1.7) / size
        return Grid(size, mm, (x0 + x1) / 2 + rng.normal(0, 0.05) * reach, (y0 + y1) / 2 + rng.normal(0, 0.05) * reach)
    mm = float(np.exp(rng.uniform(np.log(0.8), np.log(4.0))))
    at = piece.exterior.interpolate(rng.random(), normalized=True)
    off = rng.uniform(-0.55, 0.55, 2) * size * mm
    return Grid(size, mm, at.x + off[0], at.y + off[1])
