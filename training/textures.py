"""Surfaces by lot: what tables, floors and cloths may look like, as colours over a grid of millimetres.

Every texture is a function of a `Grid` and a random generator and gives (rows, columns, 3) float32
in 0 to 1. Detail finer than a pixel is left out, as a lens would.
"""

from __future__ import annotations

import colorsys
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image as Image8

__all__ = ["TABLES", "Colour", "Grid", "Image", "colour", "mottled", "near", "piece_surface", "table_surface"]

Image = NDArray[np.float32]
Rng = np.random.Generator
Colour = NDArray[np.float32]


@dataclass(frozen=True)
class Grid:
    """A square of `size` × `size` pixels over the table, `mm` a pixel, its middle at (x, y) mm, y up."""

    size: int
    mm: float
    x: float = 0.0
    y: float = 0.0

    def axes(self, turn: float = 0.0) -> tuple[Image, Image]:
        """Coordinates in mm along two axes turned by `turn` radians."""
        steps = (np.arange(self.size, dtype=np.float32) - (self.size - 1) / 2) * self.mm
        X, Y = (np.float32(self.x) + steps)[None, :], (np.float32(self.y) - steps)[:, None]
        c, s = np.float32(np.cos(turn)), np.float32(np.sin(turn))
        return X * c + Y * s, Y * c - X * s

    def to_px(self, points: NDArray[np.float64]) -> NDArray[np.float64]:
        half = (self.size - 1) / 2
        return np.column_stack([(points[:, 0] - self.x) / self.mm + half, half - (points[:, 1] - self.y) / self.mm])


def colour(rng: Rng, low: float = 0.06, high: float = 0.95) -> Colour:
    """Any colour, mostly muted, as cloth, wood and stone are."""
    saturation = rng.uniform(0, 0.25) if rng.random() < 0.45 else rng.uniform(0.1, 0.9)
    return np.array(colorsys.hls_to_rgb(rng.random(), rng.uniform(low, high), saturation), dtype=np.float32)


def near(rng: Rng, base: Colour, reach: float) -> Colour:
    """A colour not far from `base`."""
    shade, tint = rng.uniform(-reach, reach), rng.normal(0, reach / 3, 3)
    return np.clip(base + shade + tint, 0.02, 0.98).astype(np.float32)


def mottled(grid: Grid, rng: Rng, cell_mm: float) -> Image:
    """Smooth noise (rows, columns) of about unit spread whose patches are `cell_mm` wide."""
    cells = int(np.clip(np.ceil(grid.size * grid.mm / max(cell_mm, grid.mm)), 1, grid.size)) + 3
    small = rng.standard_normal((cells, cells), dtype=np.float32)
    step = (cells - 3) / grid.size
    shift = rng.uniform(0.5, 1.5, 2)
    matrix = np.array([[step, 0, shift[0]], [0, step, shift[1]]], dtype=np.float32)
    return cv2.warpAffine(
        small,
        matrix,
        (grid.size, grid.size),
        flags=cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REFLECT,
    )


def clouds(grid: Grid, rng: Rng, largest_mm: float, octaves: int = 4, fall: float = 0.6) -> Image:
    """Several sizes of smooth noise together."""
    total, strength = mottled(grid, rng, largest_mm), 1.0
    for k in range(1, octaves):
        strength *= fall
        total = total + strength * mottled(grid, rng, largest_mm / 2**k)
    return total


def streaks(grid: Grid, rng: Rng, turn: float, long_mm: float, short_mm: float) -> Image:
    """Noise drawn out along one direction."""
    u, v = grid.axes(turn)
    tile = rng.standard_normal((128, 128), dtype=np.float32)
    tile = cv2.GaussianBlur(tile, (0, 0), 0.8) * 2.4
    x, y = u / np.float32(long_mm) + 64, v / np.float32(max(short_mm, grid.mm)) + 64
    return cv2.remap(tile, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_WRAP)


def _edges(phase: Image, px_mm: float) -> Image:
    """A soft step from 0 to 1 where `phase`, in mm, passes 0."""
    return np.clip(phase / max(px_mm, 0.3) + 0.5, 0, 1)


def _blend(a: Image | Colour, b: Image | Colour, share: Image) -> Image:
    return np.asarray(a + (b - a) * share[..., None], dtype=np.float32)


def _flat(grid: Grid, base: Colour) -> Image:
    return np.broadcast_to(base, (grid.size, grid.size, 3)).astype(np.float32)


def plain(grid: Grid, rng: Rng, base: Colour) -> Image:
    rough = rng.choice([0.004, 0.012, 0.03, 0.06])
    shade = rough * clouds(grid, rng, rng.uniform(20, 300), 4, rng.uniform(0.4, 0.9))
    return _flat(grid, base) + shade[..., None]


def woven(grid: Grid, rng: Rng, base: Colour) -> Image:
    u, v = grid.axes(rng.uniform(0, np.pi))
    pitch = rng.uniform(0.8, 6.0)
    seen = float(np.clip(pitch / grid.mm / 2 - 0.6, 0, 1)) * rng.uniform(0.02, 0.14)
    threads = seen * np.sin(u * (2 * np.pi / pitch)) * np.sin(v * (2 * np.pi / pitch))
    slubs = rng.uniform(0, 0.03) * (streaks(grid, rng, 0, 60, 1.5) + streaks(grid, rng, np.pi / 2, 60, 1.5))
    return plain(grid, rng, base) + (threads + slubs)[..., None]


def rough(grid: Grid, rng: Rng, base: Colour) -> Image:
    """Carpet, towelling, felt, gravel."""
    grain = rng.uniform(0.04, 0.16) * clouds(grid, rng, rng.uniform(3, 25), 3, 0.8)
    tint = rng.uniform(0, 0.05) * mottled(grid, rng, rng.uniform(3, 12))
    return _flat(grid, base) + grain[..., None] + tint[..., None] * rng.uniform(-1, 1, 3).astype(np.float32)


def boards(grid: Grid, rng: Rng, base: Colour) -> Image:
    turn, width = rng.uniform(-np.pi, np.pi), rng.uniform(50, 260)
    _u, v = grid.axes(turn)
    v = v + np.float32(rng.uniform(0, width))
    which = np.floor(v / width).astype(int) % 64
    tone = rng.normal(0, rng.uniform(0.01, 0.08), 64).astype(np.float32)[which]
    bend = mottled(grid, rng, 300) * rng.uniform(0, 0.5)
    grain = streaks(grid, rng, turn, rng.uniform(80, 400), rng.uniform(1.0, 6)) + bend
    grain = grain + 0.6 * streaks(grid, rng, turn, rng.uniform(300, 900), rng.uniform(5, 25))
    dark = near(rng, base * rng.uniform(0.5, 0.85), 0.05)
    share = np.clip(0.35 + rng.uniform(0.08, 0.35) * grain, 0, 1)
    out = _blend(base, dark, share) + tone[..., None]
    if rng.random() < 0.7:
        gap = np.abs((v % width) - width / 2) - width / 2 + rng.uniform(0.5, 2.5)
        out *= 1 - (rng.uniform(0.3, 0.8) * _edges(gap, grid.mm))[..., None]
    for _ in range(int(rng.integers(0, 4))):
        X, Y = grid.axes(turn)
        span = grid.size * grid.mm / 2
        r = np.hypot((X - rng.uniform(-span, span)) / rng.uniform(1, 3), Y - rng.uniform(-span, span))
        knot = np.exp(-((r / rng.uniform(5, 14)) ** 2))
        out = _blend(out, dark * 0.6, 0.8 * knot)
    return out


def stone(grid: Grid, rng: Rng, base: Colour) -> Image:
    """Concrete or marble: clouds, stains, and veins."""
    out = _flat(grid, base) + (rng.uniform(0.01, 0.06) * clouds(grid, rng, rng.uniform(60, 400), 5, 0.7))[..., None]
    if rng.random() < 0.5:
        wander = clouds(grid, rng, rng.uniform(120, 500), 4, 0.5)
        vein = np.exp(-((wander / rng.uniform(0.02, 0.12)) ** 2))
        out = _blend(out, near(rng, base, 0.35), rng.uniform(0.2, 0.8) * vein)
    for _ in range(int(rng.integers(0, 3))):
        stain = _edges((mottled(grid, rng, rng.uniform(80, 300)) - rng.uniform(0.8, 1.6)) * 20, rng.uniform(2, 15))
        out = _blend(out, near(rng, base, 0.15), rng.uniform(0.2, 0.7) * stain)
    return out


def _bands(phase: Image, rng: Rng, colours: list[Colour], period: float, px_mm: float) -> Image:
    """Colours that follow one another along `phase`, again after each `period`."""
    cuts = (
        np.sort(rng.uniform(0, period, len(colours) - 1))
        if len(colours) > 2
        else np.array([rng.uniform(0.2, 0.8) * period])
    )
    wrapped = np.mod(phase, period)
    out = np.broadcast_to(colours[0], (*wrapped.shape, 3)).astype(np.float32)
    for cut, tone in zip(cuts, colours[1:], strict=False):
        out = _blend(out, tone, _edges(wrapped - cut, px_mm))
    return _blend(out, colours[0], _edges(wrapped - period + px_mm, px_mm))


def stripes(grid: Grid, rng: Rng, base: Colour) -> Image:
    _, v = grid.axes(rng.uniform(-np.pi, np.pi))
    v = v + rng.uniform(0, 3) * mottled(grid, rng, rng.uniform(100, 300))
    count = int(rng.integers(2, 6))
    colours = [base, *(near(rng, base, 0.25) if rng.random() < 0.3 else colour(rng) for _ in range(count - 1))]
    return _bands(v, rng, colours, rng.uniform(8, 140), grid.mm) + (0.015 * clouds(grid, rng, 60))[..., None]


def checks(grid: Grid, rng: Rng, base: Colour) -> Image:
    u, v = grid.axes(rng.uniform(-np.pi, np.pi))
    bend = rng.uniform(0, 2.5) * mottled(grid, rng, 200)
    period = rng.uniform(8, 90)
    other = colour(rng)
    across = _bands(u + bend, rng, [base, other], period, grid.mm)
    along = _bands(v + bend, rng, [base, other if rng.random() < 0.7 else colour(rng)], period, grid.mm)
    return 0.5 * across + 0.5 * along + (0.012 * clouds(grid, rng, 60))[..., None]


def chequers(grid: Grid, rng: Rng, base: Colour) -> Image:
    u, v = grid.axes(rng.uniform(-np.pi, np.pi))
    pitch = rng.uniform(10, 120)
    a = np.clip(np.sin(u * np.pi / pitch) * pitch / grid.mm / 2, -1, 1)
    b = np.clip(np.sin(v * np.pi / pitch) * pitch / grid.mm / 2, -1, 1)
    other = near(rng, base, 0.4) if rng.random() < 0.5 else colour(rng)
    return _blend(base, other, 0.5 + 0.5 * a * b) + (0.02 * clouds(grid, rng, 90))[..., None]


def tiles(grid: Grid, rng: Rng, base: Colour) -> Image:
    u, v = grid.axes(rng.uniform(-np.pi, np.pi))
    wide = rng.uniform(40, 330)
    high = wide * rng.choice([1.0, 1.0, 0.5, 0.3])
    row = np.floor(v / high)
    shift = 0.5 * wide * (row % 2) if rng.random() < 0.5 else 0.0 * row
    column = np.floor((u + shift) / wide)
    tone = rng.normal(0, rng.uniform(0.0, 0.08), 97).astype(np.float32)[((column * 7 + row * 13) % 97).astype(int)]
    out = _flat(grid, base) + tone[..., None] + (rng.uniform(0.005, 0.04) * clouds(grid, rng, 60))[..., None]
    joint = rng.uniform(1, 8)
    near_u = wide / 2 - np.abs((u + shift) % wide - wide / 2)
    near_v = high / 2 - np.abs(v % high - high / 2)
    grout = 1 - np.minimum(_edges(near_u - joint / 2, grid.mm), _edges(near_v - joint / 2, grid.mm))
    return _blend(out, near(rng, base, 0.35), rng.uniform(0.5, 1.0) * grout)


def dots(grid: Grid, rng: Rng, base: Colour) -> Image:
    u, v = grid.axes(rng.uniform(-np.pi, np.pi))
    pitch = rng.uniform(8, 70)
    row = np.floor(v / pitch)
    shift = 0.5 * pitch * (row % 2) if rng.random() < 0.5 else 0.0 * row
    r = np.hypot((u + shift) % pitch - pitch / 2, v % pitch - pitch / 2)
    share = 1 - _edges(r - pitch * rng.uniform(0.12, 0.42), grid.mm)
    other = near(rng, base, 0.3) if rng.random() < 0.3 else colour(rng)
    return _blend(base, other, share) + (0.012 * clouds(grid, rng, 60))[..., None]


def printed(grid: Grid, rng: Rng, base: Colour) -> Image:
    """Motifs of a few colours strewn over a ground: petals, leaves, polygons, rings, sprigs."""
    out = np.ascontiguousarray(_flat(grid, base))
    tones = [colour(rng) for _ in range(int(rng.integers(1, 5)))]
    size = rng.uniform(6, 60)
    span = grid.size * grid.mm
    count = int(np.clip((span / size) ** 2 * rng.uniform(0.15, 0.9), 4, 260))
    petals = int(rng.integers(3, 9))
    pointed = rng.uniform(0, 0.7)
    angle = np.linspace(0, 2 * np.pi, 28, endpoint=False)
    for _ in range(count):
        tone = tones[int(rng.integers(len(tones)))].tolist()
        at = rng.uniform(0, grid.size, 2)
        r = size / grid.mm * rng.uniform(0.25, 0.6)
        ring = r * (1 + pointed * np.cos(petals * angle)) / (1 + pointed)
        turn = rng.uniform(0, 2 * np.pi)
        squash = rng.uniform(0.4, 1)
        x, y = ring * np.cos(angle), ring * squash * np.sin(angle)
        points = np.column_stack([x * np.cos(turn) - y * np.sin(turn), x * np.sin(turn) + y * np.cos(turn)]) + at
        pixels = np.rint(points * 16).astype(np.int32)[None]
        kind = rng.random()
        if kind < 0.75:
            cv2.fillPoly(out, pixels, tone, cv2.LINE_8, 4)
        else:
            cv2.polylines(out, pixels, True, tone, max(1, round(size * 0.08 / grid.mm)), cv2.LINE_8, 4)
        if kind < 0.25:
            cv2.circle(out, tuple(np.rint(at).astype(int).tolist()), max(1, round(r * 0.3)), tones[0].tolist(), -1)
    return out + (0.012 * clouds(grid, rng, 60))[..., None]


def blotched(grid: Grid, rng: Rng, base: Colour) -> Image:
    """Ragged patches of several colours over one another: camouflage, marbled paper, a large print."""
    out = _flat(grid, base)
    size, ragged = rng.uniform(8, 160), rng.uniform(0.4, 0.95)
    octaves, soft = int(rng.integers(2, 6)), rng.uniform(0.3, 2) if rng.random() < 0.7 else rng.uniform(2, 12)
    for _ in range(int(rng.integers(1, 6))):
        patches = clouds(grid, rng, size * rng.uniform(0.6, 1.4), octaves, ragged)
        share = _edges((patches - rng.uniform(-0.2, 1.2)) * size / 4, soft)
        out = _blend(out, near(rng, base, 0.4) if rng.random() < 0.3 else colour(rng), share)
    return out


def speckled(grid: Grid, rng: Rng, base: Colour) -> Image:
    out = _flat(grid, base)
    for _ in range(int(rng.integers(1, 4))):
        chips = _edges((mottled(grid, rng, rng.uniform(2, 18)) - rng.uniform(0.9, 1.8)) * 4, 1.0)
        out = _blend(out, colour(rng), chips)
    return out


def ruled(grid: Grid, rng: Rng, base: Colour) -> Image:
    """A cutting mat or squared paper: fine lines, heavier ones among them, and a few figures."""
    turn = rng.uniform(-np.pi, np.pi)
    out = plain(grid, rng, base)
    line = near(rng, base, 0.3)
    for pitch, width, strength in ((10.0, 0.4, 0.5), (50.0, 0.9, 0.9)) if rng.random() < 0.7 else ((25.4, 0.7, 0.8),):
        for axis in grid.axes(turn):
            away = np.abs((axis + pitch / 2) % pitch - pitch / 2)
            ink = np.clip((width + grid.mm - away) / grid.mm, 0, 1) * min(1.0, width / grid.mm)
            out = _blend(out, line, strength * ink)
    if rng.random() < 0.4:
        _, v = grid.axes(turn + np.pi / 4)
        out = _blend(out, line, 0.7 * np.clip((1.2 - np.abs(v)) / grid.mm, 0, 1))
    return out


def lettered(grid: Grid, rng: Rng, base: Colour) -> Image:
    """Newsprint: rows of dark dashes in columns."""
    turn = rng.uniform(-np.pi, np.pi)
    u, v = grid.axes(turn)
    line = rng.uniform(4, 14)
    words = streaks(grid, rng, turn, line * 1.2, line)
    rows = np.clip(np.sin(v * 2 * np.pi / line) * 2, 0, 1) * min(1.0, line / grid.mm / 3)
    margin = np.clip(np.abs(u % 90 - 45) - 4, 0, 1)
    return _blend(base, base * 0.25, 0.8 * rows * (words > -0.3) * margin) + (0.01 * clouds(grid, rng, 90))[..., None]


def patched(grid: Grid, rng: Rng, base: Colour) -> Image:
    """Two surfaces that meet along a line or a patch."""
    a, b = plain(grid, rng, base), _any_of(_SIMPLE, rng)(grid, rng, colour(rng))
    u, v = grid.axes(rng.uniform(-np.pi, np.pi))
    span = grid.size * grid.mm
    share = _edges(v - rng.uniform(-0.3, 0.3) * span, grid.mm)
    if rng.random() < 0.5:
        share = share * (1 - _edges(np.abs(u - rng.uniform(-0.3, 0.3) * span) - rng.uniform(0.05, 0.3) * span, grid.mm))
    return _blend(a, b, share)


_PHOTOGRAPHS = (
    "brick.png", "brick.png", "grass.png", "grass.png", "gravel.png", "gravel.png", "coffee.png", "chelsea.png",
    "ihc.png", "hubble_deep_field.jpg", "rocket.jpg", "retina.jpg", "moon.png", "coins.png", "cell.png", "page.png",
    "motorcycle_left.png",
)  # fmt: skip


@lru_cache(maxsize=len(_PHOTOGRAPHS))
def _photograph(name: str) -> Image:
    """One of the sample photographs that scikit-image ships, 0 to 1."""
    with files("skimage.data").joinpath(name).open("rb") as file:
        return np.asarray(Image8.open(file).convert("RGB"), dtype=np.float32) / 255


def photographed(grid: Grid, rng: Rng, base: Colour) -> Image:
    """A real surface, as it is or in the tones of `base`."""
    source = _photograph(_PHOTOGRAPHS[int(rng.integers(len(_PHOTOGRAPHS)))])
    mm_per_px = rng.uniform(0.15, 2.5)
    level = max(0, int(np.floor(np.log2(max(grid.mm / mm_per_px, 1)))))
    for _ in range(min(level, 4)):
        source = cv2.resize(source, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        mm_per_px *= 2
    u, v = grid.axes(rng.uniform(-np.pi, np.pi))
    off = rng.uniform(0, 500, 2).astype(np.float32)
    x, y = u / np.float32(mm_per_px) + off[0], v / np.float32(mm_per_px) + off[1]
    out = cv2.remap(source, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
    if rng.random() < 0.5:
        grey = out.mean(axis=2, keepdims=True)
        out = base * (1 + rng.uniform(0.4, 1.6) * (grey - grey.mean()) / max(float(grey.mean()), 0.15))
    return np.asarray(out, dtype=np.float32)


Texture = Callable[[Grid, Rng, Colour], Image]
_SIMPLE: tuple[Texture, ...] = (plain, woven, rough, stripes, checks, dots)
TABLES: tuple[tuple[Texture, float], ...] = (
    (plain, 2.0), (woven, 1.3), (rough, 1.6), (boards, 4.5), (stone, 2.2), (stripes, 0.8), (checks, 1.6),
    (chequers, 0.8), (tiles, 2.0), (dots, 0.9), (printed, 0.7), (blotched, 0.5), (speckled, 0.8), (ruled, 1.8),
    (lettered, 0.4), (photographed, 2.6),
)  # fmt: skip
PIECES: tuple[tuple[Texture, float], ...] = (
    (plain, 3.0), (woven, 4.5), (rough, 1.2), (boards, 0.3), (stone, 0.3), (stripes, 2.5), (checks, 1.2),
    (chequers, 0.3), (tiles, 0.1), (dots, 1.2), (printed, 3.0), (blotched, 3.0), (speckled, 0.5), (ruled, 0.1),
    (patched, 0.5), (photographed, 1.0),
)  # fmt: skip


def _any_of(textures: tuple[Texture, ...] | tuple[tuple[Texture, float], ...], rng: Rng) -> Texture:
    if isinstance(textures[0], tuple):
        weights = np.array([w for _, w in textures])  # type: ignore[misc]
        return textures[int(rng.choice(len(textures), p=weights / weights.sum()))][0]  # type: ignore[index]
    return textures[int(rng.integers(len(textures)))]  # type: ignore[return-value]


_WOODS = np.array(
    [[0.76, 0.6, 0.42], [0.48, 0.32, 0.2], [0.86, 0.76, 0.6], [0.3, 0.2, 0.14], [0.62, 0.5, 0.4]], dtype=np.float32
)


def table_surface(grid: Grid, rng: Rng) -> Image:
    texture = _any_of(TABLES, rng)
    base = colour(rng, 0.1, 0.9)
    if texture is boards and rng.random() < 0.85:
        base = near(rng, _WOODS[int(rng.integers(len(_WOODS)))], 0.08)
    return texture(grid, rng, base)


def piece_surface(grid: Grid, rng: Rng, base: Colour) -> Image:
    """A cloth, paper, vinyl or foam: its texture, with wrinkles and gloss."""
    out = _any_of(PIECES, rng)(grid, rng, base)
    if rng.random() < 0.55:
        folds = streaks(grid, rng, rng.uniform(0, np.pi), rng.uniform(80, 400), rng.uniform(15, 60))
        folds = folds + clouds(grid, rng, rng.uniform(60, 300), 3)
        out = out * (1 + (rng.uniform(0.01, 0.12) * folds)[..., None])
    if rng.random() < 0.2:
        _, v = grid.axes(rng.uniform(-np.pi, np.pi))
        span = grid.size * grid.mm
        glow = np.exp(
            -(
                ((v - rng.uniform(-0.3, 0.3) * span + 20 * mottled(grid, rng, 150)) / rng.uniform(15, 0.15 * span + 16))
                ** 2
            )
        )
        out = out + (rng.uniform(0.1, 0.6) * glow)[..., None]
    return out
