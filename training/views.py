"""Views by lot: a table as a photograph laid flat shows it, with the truth of what on it is piece and what is shadow.

No camera is needed: what the network is given at run time is the photograph laid flat in the plane
of the pieces' faces, so that is what is painted. A view shows either the whole of the photograph
(first look) or a part of it more closely, together with what a first look might have said (`prior`).
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry import Point, Polygon, box

from training.layout import TableScene, close_grid, lay_out, whole_grid
from training.textures import Grid, Image, clouds, colour, mottled, near, piece_surface, table_surface

__all__ = ["View", "paint_view"]

Rng = np.random.Generator


@dataclass(frozen=True)
class View:
    """`pixels` (n, n, 3) uint8, where sheets lie that were read and what the photo shows (n, n) bool, `prior` and
    `taps` (n, n) float32 as the network takes them, and the truth (n, n) uint8: shares of piece and of shadow, of 255."""

    pixels: NDArray[np.uint8]
    sheets: NDArray[np.bool_]
    seen: NDArray[np.bool_]
    prior: NDArray[np.float32]
    taps: NDArray[np.float32]
    piece: NDArray[np.uint8]
    shadow: NDArray[np.uint8]


def paint_view(rng: Rng, size: int = 128) -> View:
    scene = lay_out(rng)
    close = rng.random() < 0.5
    grid = close_grid(rng, scene, size) if close else whole_grid(rng, scene, size)
    return _painted(rng, scene, grid, close)


def _raster(grid: Grid, shape: shapely.Geometry) -> Image:
    mask = np.zeros((grid.size, grid.size), dtype=np.uint8)
    rings = []
    for part in shapely.get_parts(shape):
        if part.geom_type == "Polygon" and not part.is_empty:
            rings += [
                np.rint(grid.to_px(np.asarray(r.coords)) * 16).astype(np.int32)
                for r in (part.exterior, *part.interiors)
            ]
    if rings:
        cv2.fillPoly(mask, rings, 255, cv2.LINE_AA, 4)
    return mask.astype(np.float32) / 255


def _over(picture: Image, surface: Image, share: Image) -> Image:
    return picture + (surface - picture) * share[..., None]


def _painted(rng: Rng, scene: TableScene, grid: Grid, close: bool) -> View:
    picture = _table(rng, scene, grid)
    table_mean = picture.reshape(-1, 3)[::37].mean(axis=0)
    _drawn_clutter(rng, scene, grid, picture)
    n = grid.size
    shadow, piece = np.zeros((n, n), np.float32), np.zeros((n, n), np.float32)
    sheets_first = rng.random() < 0.75
    if sheets_first:
        picture = _sheets(rng, scene, grid, picture, piece)
    light = rng.uniform(0, 2 * np.pi), np.tan(np.radians(rng.uniform(20, 75)))
    alike = rng.random() < 0.33
    base = near(rng, table_mean, rng.uniform(0.06, 0.16)) if alike else colour(rng)
    own = rng.random() < 0.6
    surface = piece_surface(grid, rng, base)
    masks = []
    for k, (outline, height) in enumerate(zip(scene.pieces, scene.heights, strict=True)):
        if k and not own:
            surface = piece_surface(grid, rng, near(rng, table_mean, 0.16) if alike else colour(rng))
        face = _raster(grid, outline)
        dark = _cast(rng, grid, outline, height, light)
        picture = picture * (1 - dark[..., None])
        shadow = np.maximum(shadow, dark)
        if height > 2:
            wall = _wall(scene, outline, height)
            if not wall.is_empty:
                seen = _raster(grid, wall)
                tone = surface * rng.uniform(0.45, 1.15) + rng.uniform(-0.05, 0.05)
                picture = _over(picture, tone.astype(np.float32), seen)
        picture = _over(picture, surface, face)
        if rng.random() < 0.25:
            picture = _rim_of_piece(rng, grid, outline, picture, face)
        piece = np.maximum(piece, face)
        masks.append(face)
    if not sheets_first:
        picture = _sheets(rng, scene, grid, picture, piece)
        for m in masks:
            np.minimum(m, piece, out=m)
    picture = _things(rng, scene, grid, picture, piece)
    for m in masks:
        np.minimum(m, piece, out=m)
    shadow *= 1 - piece
    picture, more = _lit(rng, grid, picture)
    shadow = np.maximum(shadow, more)
    seen = _raster(grid, scene.photo) > 0.5
    return _taken(rng, grid, picture, seen, scene, piece, shadow, masks, close)


def _table(rng: Rng, scene: TableScene, grid: Grid) -> Image:
    picture = table_surface(grid, rng)
    x0, y0, x1, y1 = shapely.union_all([*scene.pieces, *scene.sheets]).bounds
    if rng.random() < 0.3:  # the table ends, and a floor or another table is seen
        turn = rng.uniform(0, 360)
        gap = rng.uniform(10, 250)
        content = shapely.union_all([*scene.pieces, *scene.sheets])
        turned = affinity.rotate(content, -turn, origin=(0, 0)).bounds
        floor = affinity.rotate(box(turned[2] + gap, -9000, 9000, 9000), turn, origin=(0, 0))
        if rng.random() < 0.3:
            floor = floor.union(
                affinity.rotate(box(-9000, turned[3] + rng.uniform(10, 250), 9000, 9000), turn, origin=(0, 0))
            )
        other = table_surface(grid, rng) * rng.uniform(0.25, 1.1)
        picture = _over(
            picture, other, cv2.GaussianBlur(_raster(grid, floor), (0, 0), max(0.3, rng.uniform(0, 6) / grid.mm))
        )
        if rng.random() < 0.4:
            edge = _raster(grid, floor.boundary.buffer(rng.uniform(1, 12)))
            picture = _over(picture, np.full_like(picture, rng.uniform(0.05, 0.9)), edge)
    if rng.random() < 0.14:  # a cloth, paper or mat under everything, or under the pieces
        grow = rng.uniform(15, 160)
        under = shapely.union_all(
            scene.pieces if rng.random() < 0.5 else [*scene.pieces, *scene.sheets]
        ).minimum_rotated_rectangle.buffer(grow, join_style="mitre")
        picture = _over(picture, table_surface(grid, rng), _raster(grid, under))
    if rng.random() < 0.12:  # a patch of another material somewhere
        spot = Point(rng.uniform(x0, x1), rng.uniform(y0, y1)).buffer(rng.uniform(40, 200))
        spot = spot.difference(shapely.union_all(scene.pieces).buffer(20))
        picture = _over(picture, table_surface(grid, rng), _raster(grid, spot) * rng.uniform(0.2, 1))
    return np.ascontiguousarray(picture)


def _drawn_clutter(rng: Rng, scene: TableScene, grid: Grid, picture: Image) -> None:
    if rng.random() > 0.15:
        return
    x0, y0, x1, y1 = scene.photo.bounds
    for _ in range(int(rng.integers(1, 7))):
        points = np.cumsum(rng.normal(0, rng.uniform(10, 120), (int(rng.integers(2, 7)), 2)), axis=0) + rng.uniform(
            [x0, y0], [x1, y1]
        )
        pixels = np.rint(grid.to_px(points) * 16).astype(np.int32)[None]
        width = max(1, round(rng.uniform(0.5, 3) / grid.mm))
        cv2.polylines(picture, pixels, bool(rng.random() < 0.3), colour(rng, 0.02, 0.5).tolist(), width, cv2.LINE_AA, 4)


def _cast(rng: Rng, grid: Grid, outline: Polygon, height: float, light: tuple[float, float]) -> Image:
    """How much light a piece takes from the table beside it, 0 to 1."""
    length = min(height / light[1], 120)
    away = np.array([np.cos(light[0]), np.sin(light[0])]) * length
    mask = _raster(grid, outline)
    if length > grid.mm:
        steps = int(np.clip(length / grid.mm, 2, 10))
        for t in np.linspace(1 / steps, 1, steps):
            mask = np.maximum(mask, _raster(grid, affinity.translate(outline, *(away * t))))
    soft = max(0.25 * length * rng.uniform(0.1, 1.5), 0.5) / grid.mm
    soft_mask = cv2.GaussianBlur(mask, (0, 0), max(soft, 0.3))
    contact = cv2.GaussianBlur(
        _raster(grid, outline.buffer(0.6 * min(height, 8))),
        (0, 0),
        max(rng.uniform(0.4, 1.0) * min(height, 40) / grid.mm, 0.3),
    )
    strength = rng.uniform(0.1, 0.75)
    return np.maximum(strength * soft_mask, rng.uniform(0.1, 0.5) * contact)


def _wall(scene: TableScene, outline: Polygon, height: float) -> shapely.Geometry:
    """What of a piece's side wall is seen, in the plane of its face: its foot lies nearer to the point below the eye."""
    ex, ey, ez = scene.eye
    shrink = max(0.6, (ez - height) / ez)
    parts = [affinity.scale(outline, f, f, origin=(ex, ey)) for f in np.linspace(shrink, 1, 5)]
    hulls = [shapely.union(a, b) for a, b in zip(parts, parts[1:], strict=False)]
    return shapely.union_all(hulls).buffer(0.01)


def _rim_of_piece(rng: Rng, grid: Grid, outline: Polygon, picture: Image, face: Image) -> Image:
    """Stitching, a hem, binding or a lighter cut along the rim, within the piece."""
    inset, width = rng.uniform(0, 14), rng.uniform(0.6, 9)
    ring = outline.buffer(-inset).boundary.buffer(width / 2)
    share = _raster(grid, ring) * face * rng.uniform(0.3, 1)
    tone = np.full_like(picture, 0) + colour(rng)
    return _over(picture, tone, share)


def _sheets(rng: Rng, scene: TableScene, grid: Grid, picture: Image, piece: Image) -> Image:
    white = rng.uniform(0.8, 1.0)
    for sheet in scene.sheets:
        share = _raster(grid, sheet)
        if not share.any():
            continue
        rows, columns = (slice(*np.flatnonzero(share.any(axis=k))[[0, -1]] + [0, 1]) for k in (1, 0))
        page = _page(rng, sheet, grid, white)[rows, columns]
        dim = cv2.GaussianBlur(share, (0, 0), max(3 / grid.mm, 0.4)) * rng.uniform(0, 0.25)
        picture = picture * (1 - dim[..., None])
        picture[rows, columns] = _over(picture[rows, columns], page, share[rows, columns])
        piece *= 1 - share
    return picture


def _page(rng: Rng, sheet: Polygon, grid: Grid, white: float) -> Image:
    """White paper with chequers, every other one with a marker of small cells."""
    ring = np.asarray(sheet.exterior.coords)[:4]
    a, b = ring[1] - ring[0], ring[3] - ring[0]
    X, Y = grid.axes()
    X, Y = X - np.float32(ring[0][0]), Y - np.float32(ring[0][1])
    long_a, long_b = float(np.hypot(*a)), float(np.hypot(*b))
    s = (X * np.float32(a[0]) + Y * np.float32(a[1])) / np.float32(long_a)
    t = (X * np.float32(b[0]) + Y * np.float32(b[1])) / np.float32(long_b)
    margin, pitch = 17.0, np.float32(25.0)
    inside = (s > margin) & (s < long_a - margin) & (t > margin) & (t < long_b - margin)
    column, row = np.floor(s / pitch), np.floor(t / pitch)
    black = (column + row) % 2 == 0
    marker = (np.abs(s - (column + 0.5) * pitch) < 9) & (np.abs(t - (row + 0.5) * pitch) < 9)
    cell = ((np.floor(s / 3.6) * 7 + np.floor(t / 3.6) * 13 + column * 5) % 3) < 2
    ink = inside & (black | (marker & cell))
    return np.where(ink[..., None], np.float32(rng.uniform(0.02, 0.15)), np.float32(white))


def _things(rng: Rng, scene: TableScene, grid: Grid, picture: Image, piece: Image) -> Image:
    """Coins, pencils, tapes, rulers, pins, scissors, cups, cables and hands, on the table or at a piece's rim."""
    if rng.random() > 0.5:
        return picture
    x0, y0, x1, y1 = scene.photo.bounds
    body = shapely.union_all(scene.pieces)
    for _ in range(int(rng.integers(1, 6))):
        thing, height = _thing(rng)
        if rng.random() < 0.25:
            at = scene.pieces[0].exterior.interpolate(rng.random(), normalized=True)
            at = (at.x + rng.normal(0, 20), at.y + rng.normal(0, 20))
        else:
            at = (rng.uniform(x0, x1), rng.uniform(y0, y1))
        placed = affinity.translate(affinity.rotate(thing, rng.uniform(0, 360), origin=(0, 0)), *at)
        if placed.within(body) and rng.random() < 0.8:
            continue  # what lies wholly on the piece is its own pattern as often as not
        share = _raster(grid, placed)
        if not share.any():
            continue
        dark = cv2.GaussianBlur(
            _raster(grid, affinity.translate(placed, *(rng.normal(0, 0.6, 2) * height))),
            (0, 0),
            max(height / 3 / grid.mm, 0.3),
        )
        picture = picture * (1 - rng.uniform(0.1, 0.6) * dark[..., None])
        tone = np.zeros_like(picture) + colour(rng)
        if rng.random() < 0.5:
            tone = tone * (1 + 0.15 * clouds(grid, rng, 30)[..., None])
        picture = _over(picture, tone, share)
        if not placed.within(body):
            piece *= 1 - share
    if rng.random() < 0.08:
        picture = _hand(rng, scene, grid, picture, piece)
    return picture


def _thing(rng: Rng) -> tuple[Polygon, float]:
    kind = rng.random()
    if kind < 0.3:
        return Point(0, 0).buffer(rng.uniform(4, 16)), 2.0
    if kind < 0.55:
        return box(-rng.uniform(40, 100), -rng.uniform(2, 5), rng.uniform(40, 100), rng.uniform(2, 5)), 7.0
    if kind < 0.75:
        half = rng.uniform(5, 17)
        return box(-rng.uniform(80, 500), -half, rng.uniform(80, 500), half), 1.0
    if kind < 0.85:
        return Point(0, 0).buffer(rng.uniform(30, 55)), 60.0
    blades = box(-10, -4, 110, 4)
    loops = (
        Point(-40, 22)
        .buffer(24)
        .difference(Point(-40, 22).buffer(15))
        .union(Point(-40, -22).buffer(24).difference(Point(-40, -22).buffer(15)))
    )
    return blades.union(loops), 6.0


_SKIN = np.array([[0.85, 0.66, 0.55], [0.62, 0.42, 0.32], [0.4, 0.26, 0.19], [0.93, 0.78, 0.7]], dtype=np.float32)


def _hand(rng: Rng, scene: TableScene, grid: Grid, picture: Image, piece: Image) -> Image:
    """An arm that reaches in from the photo's rim and ends in fingers."""
    rim = np.asarray(scene.photo.exterior.interpolate(rng.random(), normalized=True).coords[0])
    goal = np.asarray(scene.pieces[0].exterior.interpolate(rng.random(), normalized=True).coords[0])
    d = goal - rim
    length = float(np.hypot(*d))
    u = d / max(length, 1)
    across = np.array([-u[1], u[0]])
    palm = goal - u * rng.uniform(50, 120)
    parts = [shapely.LineString([rim - u * 100, palm]).buffer(rng.uniform(30, 45)), Point(palm).buffer(45)]
    for k in range(4):
        tip = palm + u * rng.uniform(80, 120) + across * (k - 1.5) * 22
        parts.append(shapely.LineString([palm + across * (k - 1.5) * 18, tip]).buffer(9))
    shape = shapely.union_all(parts)
    share = _raster(grid, shape)
    tone = _SKIN[int(rng.integers(len(_SKIN)))] * (1 + 0.08 * clouds(grid, rng, 40)[..., None])
    piece *= 1 - share
    return _over(picture, tone.astype(np.float32), share)


def _lit(rng: Rng, grid: Grid, picture: Image) -> tuple[Image, Image]:
    """Uneven light, someone's shadow, and light through a window; with where there is shadow."""
    span = grid.size * grid.mm
    u, v = grid.axes(rng.uniform(0, 2 * np.pi))
    slope = rng.uniform(0, 0.8) if rng.random() < 0.7 else 0.0
    light = 1 + slope * (u - grid.x) / max(span, 900) + rng.uniform(0, 0.06) * mottled(grid, rng, span / 2)
    r2 = ((u - grid.x) ** 2 + (v - grid.y) ** 2) / max(span, 900) ** 2
    light = np.clip(light * (1 - rng.uniform(0, 0.5) * r2), 0.15, 2.2)
    shadow = np.zeros((grid.size, grid.size), np.float32)
    if rng.random() < 0.25:
        edge = v - grid.y - rng.uniform(-0.5, 0.5) * span + rng.uniform(0, 60) * mottled(grid, rng, 250)
        soft = rng.uniform(2, 60)
        mask = np.clip(edge / soft + 0.5, 0, 1)
        if rng.random() < 0.6:
            mask = mask * np.clip((rng.uniform(0.1, 0.4) * span - np.abs(u - grid.x)) / soft + 0.5, 0, 1)
        depth = rng.uniform(0.15, 0.6)
        light = light * (1 - depth * mask)
        shadow = np.asarray(mask * depth, np.float32)
    if rng.random() < 0.15:
        beam = np.abs(v - grid.y - rng.uniform(-0.4, 0.4) * span) - rng.uniform(0.05, 0.25) * span
        light = light * (1 + rng.uniform(0.2, 0.9) * np.clip(-beam / rng.uniform(2, 20) + 0.5, 0, 1))
    picture = picture * light[..., None]
    if rng.random() < 0.15:  # a lamp's gleam on the table and on what lies on it
        at = rng.uniform(-0.5, 0.5, 2) * span
        X, Y = grid.axes()
        glow = np.exp(-(((X - grid.x - at[0]) ** 2 + (Y - grid.y - at[1]) ** 2) / (rng.uniform(0.05, 0.3) * span) ** 2))
        picture = picture + rng.uniform(0.1, 0.5) * glow[..., None]
    return picture.astype(np.float32), shadow


def _taken(
    rng: Rng, grid: Grid, picture: Image, seen: NDArray[np.bool_], scene: TableScene, piece: Image, shadow: Image,
    masks: list[Image], close: bool,
) -> View:  # fmt: skip
    """As a camera would have it: exposure, tint, blur, noise, compression; and what the network is told beside."""
    n = grid.size
    picture = picture * rng.uniform(0.55, 1.25) * rng.uniform(0.88, 1.12, 3).astype(np.float32)
    picture = np.clip(picture, 0, 1) ** rng.uniform(0.75, 1.3)
    blur = rng.uniform(0, 0.7) if rng.random() < 0.7 else rng.uniform(0, 1.4)
    if blur > 0.2:
        picture = cv2.GaussianBlur(picture, (0, 0), blur)
    noise = rng.standard_normal(picture.shape, dtype=np.float32) * np.float32(rng.choice([0.003, 0.01, 0.03]))
    pixels = np.clip((picture + noise) * 255, 0, 255).astype(np.uint8)
    if rng.random() < 0.3:
        _, data = cv2.imencode(".jpg", pixels, [cv2.IMWRITE_JPEG_QUALITY, int(rng.integers(50, 95))])
        pixels = cv2.imdecode(data, cv2.IMREAD_COLOR)
    visible = seen
    papers = sum((_raster(grid, s) for s, r in zip(scene.sheets, scene.read, strict=True) if r), np.zeros_like(piece))
    sheets = papers > 0.5
    taps = np.zeros((n, n), np.float32)
    truth = piece
    if rng.random() < 0.25:
        which = int(rng.integers(len(masks)))
        inside = masks[which] > 0.9
        if (inside & visible).any():
            truth = masks[which]
            taps += _tap(rng, inside & visible)
    if rng.random() < 0.15:
        outside = visible & (truth < 0.02) & ~sheets
        if outside.any():
            taps -= _tap(rng, outside)
    truth, dark = truth * visible, shadow * visible
    prior = _prior(rng, truth, dark) if close else np.zeros((n, n), np.float32)
    pixels[~visible] = 0
    return View(
        pixels, sheets & visible, visible, prior, taps.astype(np.float32),
        np.rint(truth * 255).astype(np.uint8), np.rint(np.clip(dark * 2, 0, 1) * 255).astype(np.uint8),
    )  # fmt: skip


def _tap(rng: Rng, where: NDArray[np.bool_]) -> Image:
    from ypsicline.core.capture.piece_net import tap_mark

    rows, columns = np.nonzero(where)
    k = int(rng.integers(len(rows)))
    return tap_mark(where.shape, float(columns[k]), float(rows[k]))


def _prior(rng: Rng, truth: Image, dark: Image) -> Image:
    """What a coarser look might have said: blurred, wavy, with a shadow or a motif taken for the wrong thing."""
    n = len(truth)
    coarse = rng.uniform(1.5, 4.5)
    said = truth.copy()
    if rng.random() < 0.25:
        said = np.maximum(said, (dark > rng.uniform(0.1, 0.4)).astype(np.float32))
    for _ in range(int(rng.choice([0, 0, 1, 2]))):
        blob = np.zeros_like(said)
        axes = rng.uniform(0.02, 0.12, 2) * n
        cv2.ellipse(
            blob,
            tuple(rng.integers(0, n, 2).tolist()),
            tuple(int(a) + 1 for a in axes),
            float(rng.uniform(0, 180)),
            0,
            360,
            1.0,
            -1,
        )
        said = np.maximum(said, blob) if rng.random() < 0.5 else said * (1 - blob)
    wave = mottled(Grid(n, 1.0), rng, rng.uniform(8, 50)) * rng.uniform(0, 0.25) + rng.normal(0, 0.12)
    soft = cv2.GaussianBlur(said, (0, 0), coarse) + wave * (cv2.GaussianBlur(said, (0, 0), coarse * 1.5) > 0.03)
    sharp = rng.uniform(1, 5)
    return np.clip((soft - 0.5) * 2 * sharp, -1, 1).astype(np.float32)
