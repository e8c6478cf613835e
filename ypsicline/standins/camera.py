"""A stand-in camera: photographs of described flat pieces beside real reference sheets.

For tests, the bench and the demo, where there is no phone. It shares no formula with the
capture: rays and distortion are OpenCV's, the sheets are the application's own printed pages,
and edges are area-sampled. The truth lies beside each picture.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray
from PIL import Image

from ypsicline.core.capture.sheets import MM_PER_PX, Sheet
from ypsicline.core.formats.raster import rasterise_page
from ypsicline.core.formats.sheets_pdf import sheets_pdf
from ypsicline.standins.patterns import Pattern, second_share

__all__ = ["Cast", "Floor", "LaidSheet", "Piece", "Scene", "Shadow", "Shot", "Stroke", "page_of", "take_photo"]

Array = NDArray[np.float64]
Image8 = NDArray[np.uint8]
Box = tuple[slice, slice]
# rows that are reckoned at a time
BAND = 32
_SUB = 8
_WALL_SUB = 3


@dataclass(frozen=True)
class Piece:
    """A piece on the table: rings (n, 2) in mm, y up; `weave` is how much its cloth varies, of 1.

    With `height_mm` its face lies that far above the table, with a wall of `wall` below its
    outline, straight down; without a `wall` it floats. `casts` is the shadow that it throws on the
    table: how far and which way, mm, and how dark.
    """

    outline: Array
    holes: tuple[Array, ...] = ()
    colour: tuple[int, int, int] = (62, 84, 110)
    weave: float = 0.04
    height_mm: float = 0.0
    wall: tuple[int, int, int] | None = None
    pattern: Pattern | None = None
    casts: Cast | None = None


@dataclass(frozen=True)
class Cast:
    """The shadow of a piece: its outline moved by `by`, mm, blurred by `soft_mm`, takes the share `depth` of the light."""

    by: tuple[float, float] = (12.0, -8.0)
    soft_mm: float = 2.0
    depth: float = 0.5


@dataclass(frozen=True)
class Floor:
    """What lies beyond the table's end, a line `offset_mm` from the origin towards `towards_deg`."""

    colour: tuple[int, int, int] = (70, 66, 62)
    towards_deg: float = -90.0
    offset_mm: float = 400.0


@dataclass(frozen=True)
class Stroke:
    """A pen's stroke along a polyline (n, 2) in mm, on top of everything."""

    path: Array
    width_mm: float = 1.5
    colour: tuple[int, int, int] = (34, 40, 70)


@dataclass(frozen=True)
class LaidSheet:
    """A sheet on the table: its centre in mm, its turn in degrees, how high its middle stands off (negative: its ends
    do), how high its upper right corner is lifted, and how large it came out of the printer."""

    sheet: Sheet
    centre: tuple[float, float]
    turn_deg: float = 0.0
    bow_mm: float = 0.0
    corner_mm: float = 0.0
    print_scale: float = 1.0


@dataclass(frozen=True)
class Shadow:
    """A soft shadow over all of the table on one side of a line.

    The line lies `offset_mm` from the origin towards `towards_deg`; over about four times `soft_mm`
    the light falls by the share `depth`.
    """

    towards_deg: float = 40.0
    offset_mm: float = 50.0
    soft_mm: float = 12.0
    depth: float = 0.45


@dataclass(frozen=True)
class Scene:
    """Sheets lie over pieces, and `things` (coins, pencils, tapes) over both."""

    sheets: tuple[LaidSheet, ...]
    pieces: tuple[Piece, ...]
    table: tuple[int, int, int] = (196, 178, 150)
    grain: float = 0.05
    strokes: tuple[Stroke, ...] = ()
    shadow: Shadow | None = None
    pattern: Pattern | None = None
    floor: Floor | None = None
    things: tuple[Piece, ...] = ()


@dataclass(frozen=True)
class Shot:
    """How the photograph is taken. Distances in mm, angles in degrees, distortion k1 k2 p1 p2 k3; `exposure` under 1 is a
    dim room."""

    look_at: tuple[float, float] = (0.0, 0.0)
    distance_mm: float = 1150.0
    tilt_deg: float = 0.0
    tilt_towards_deg: float = 0.0
    roll_deg: float = 0.0
    size: tuple[int, int] = (4032, 3024)
    focal_px: float = 3050.0
    centre_off_px: tuple[float, float] = (9.0, -6.0)
    distortion: tuple[float, float, float, float, float] = (0.08, -0.16, 2e-4, -3e-4, 0.02)
    blur_px: float = 0.8
    noise: float = 2.5
    light: float = 0.25
    exposure: float = 1.0
    quality: int = 92
    exif: bool = True
    orientation: int = 1
    seed: int = 1
    extra: dict[str, str] = field(default_factory=dict)


def take_photo(scene: Scene, shot: Shot) -> bytes:
    """A JPEG of the scene."""
    return encode_jpeg(render(scene, shot), shot)


def render(scene: Scene, shot: Shot) -> Image8:
    """The photograph before it is stored, (rows, columns, 3) RGB."""
    rng = np.random.default_rng(shot.seed)
    width, height = shot.size
    camera = _camera(shot)
    slopes, eye = _slopes(camera, shot)
    ground = _meet(slopes, eye, 0.0)
    picture = _surface(ground, scene.table, scene.grain, rng, grain_long=12.0)
    if scene.pattern:
        share = second_share(scene.pattern, ground)[..., None]
        picture += (_surface(ground, scene.pattern.colour, scene.grain, rng, grain_long=12.0) - picture) * share
    if scene.floor:
        picture = _beyond(picture, ground, scene.floor, rng)
    for piece in scene.pieces:
        _lay_piece(picture, piece, ground, shot, rng)
    for stroke in scene.strokes:
        inked = shapely.LineString(stroke.path).buffer(stroke.width_mm / 2)
        rings = [np.asarray(r.coords)[:-1] for r in (inked.exterior, *inked.interiors)]
        _paste(picture, _coverage(shot, rings), _ink(stroke.colour))
    for sheet in scene.sheets:
        _paste_sheet(picture, slopes, ground, eye, sheet)
    for thing in scene.things:
        _lay_piece(picture, thing, ground, shot, rng)
    if scene.shadow:
        _dim(picture, _shade(ground, scene.shadow))
    x = np.linspace(-1, 1, width, dtype=np.float32)[None, :]
    y = np.linspace(-1, 1, height, dtype=np.float32)[:, None]
    a, b = rng.uniform(-1, 1, 2).astype(np.float32)
    for rows in _bands(height):
        light = (
            1 + np.float32(shot.light / 1.5) * (a * x + b * y[rows]) - np.float32(0.12) * (x * x + y[rows] * y[rows])
        )
        _dim(picture[rows], light * np.float32(shot.exposure))
    if shot.blur_px:
        picture = cv2.GaussianBlur(picture, (0, 0), shot.blur_px)
    pixels = np.empty(picture.shape, dtype=np.uint8)
    cv2.setRNGSeed(shot.seed)
    grain = np.empty(picture[:BAND].shape, dtype=np.float32)
    for rows in _bands(height):
        band = picture[rows]
        if shot.noise:
            cv2.randn(grain, (0.0,) * 3, (float(shot.noise),) * 3)
            band += grain[: len(band)] * np.sqrt(np.maximum(band, 4) / np.float32(120))
        pixels[rows] = cv2.add(band, 0.0, dtype=cv2.CV_8U)
    return pixels


def _dim(picture: NDArray[np.float32], light: NDArray[np.float32]) -> None:
    """Let so much light (rows, columns) on a picture (rows, columns, 3)."""
    for rows in _bands(len(picture)):
        cv2.multiply(picture[rows], cv2.merge([light[rows]] * 3), picture[rows])


def _bands(height: int) -> Iterator[slice]:
    """Rows a few at a time: what is reckoned of them stays in the processor's cache."""
    return (slice(top, top + BAND) for top in range(0, height, BAND))


def _lay_piece(
    picture: NDArray[np.float32], piece: Piece, ground: NDArray[np.float32], shot: Shot, rng: np.random.Generator
) -> None:
    if piece.casts:
        dark = _coverage(shot, [_lifted(piece.outline + piece.casts.by, 0.0)])
        px_per_mm = shot.focal_px / shot.distance_mm
        dark = cv2.GaussianBlur(dark, (0, 0), max(piece.casts.soft_mm * px_per_mm, 0.3))
        _dim(picture, 1 - np.float32(piece.casts.depth) * dark)
    if piece.wall:
        _paste(picture, _wall_coverage(shot, piece), _cloth(ground, piece.wall, piece.weave, rng))
    face = _coverage(shot, [_lifted(r, piece.height_mm) for r in (piece.outline, *piece.holes)])
    _paste(picture, face, _cloth(ground, piece.colour, piece.weave, rng, piece.pattern))


def _beyond(
    picture: NDArray[np.float32], ground: NDArray[np.float32], floor: Floor, rng: np.random.Generator
) -> NDArray[np.float32]:
    angle = np.radians(floor.towards_deg)
    along = ground[..., 0] * np.float32(np.cos(angle)) + ground[..., 1] * np.float32(np.sin(angle))
    below = _surface(ground, floor.colour, 0.08, rng, grain_long=1.0)
    return np.asarray(np.where((along > floor.offset_mm)[..., None], below, picture), dtype=np.float32)


def encode_jpeg(picture: Image8, shot: Shot) -> bytes:
    on_disk = {1: picture, 3: np.rot90(picture, 2), 6: np.rot90(picture, 1), 8: np.rot90(picture, -1)}
    image = Image.fromarray(np.ascontiguousarray(on_disk[shot.orientation]))
    exif = Image.Exif()
    exif[0x0112] = shot.orientation
    if shot.exif:
        exif[0x010F], exif[0x0110] = "Otterbeck", "Stand-in 12"
        focal_35 = round(shot.focal_px / float(np.hypot(*shot.size)) * 43.2666)
        exif.get_ifd(0x8769)[0xA405] = focal_35
    out = io.BytesIO()
    image.save(out, "JPEG", quality=shot.quality, exif=exif)
    return out.getvalue()


def project(shot: Shot, points: Array) -> Array:
    """Where points (n, 2) on the table or (n, 3) above it, in mm, are seen, in px."""
    turn, shift, K, distortion = _camera(shot)
    deep = np.column_stack([points, np.zeros(len(points))]) if points.shape[1] == 2 else points
    pixels, _ = cv2.projectPoints(deep.astype(float), turn, shift, K, distortion)
    return np.asarray(pixels.reshape(-1, 2), dtype=float)


def ring_of_sheets(
    sheets: Sequence[Sheet],
    width: float,
    height: float,
    gap: float = 30.0,
    bow_mm: float = 0.0,
    seed: int = 0,
) -> tuple[LaidSheet, ...]:
    """Sheets laid by hand round a piece of `width` × `height` centred on the origin: right, left, top, bottom."""
    rng = np.random.default_rng(seed)
    sheets_laid = []
    for k, sheet in enumerate(sheets):
        w = sheet.size_mm[0]
        side = k % 4
        if side < 2:
            x, y, turn = (width / 2 + gap + w / 2) * (1 - 2 * side), 0.0, 0.0
        else:
            x, y, turn = 0.0, (height / 2 + gap + w / 2) * (1 if side == 2 else -1), 90.0
        x, y = x + rng.uniform(-6, 6), y + rng.uniform(-6, 6)
        sheets_laid.append(LaidSheet(sheet, (x, y), turn + rng.uniform(-5, 5), bow_mm * rng.choice([-1, 1])))
    return tuple(sheets_laid)


def _camera(shot: Shot) -> tuple[Array, Array, Array, Array]:
    tilt, towards, roll = np.radians([shot.tilt_deg, shot.tilt_towards_deg, shot.roll_deg])
    out = np.array([np.sin(tilt) * np.cos(towards), np.sin(tilt) * np.sin(towards), np.cos(tilt)])
    target = np.array([*shot.look_at, 0.0])
    eye = target + out * shot.distance_mm
    ahead = -out
    up = np.array([-np.sin(roll), np.cos(roll), 0.0])
    right = np.cross(ahead, up)
    right /= np.linalg.norm(right)
    down = np.cross(ahead, right)
    R = np.stack([right, down, ahead])
    turn, _ = cv2.Rodrigues(R)
    centre = (np.array(shot.size) - 1) / 2 + shot.centre_off_px
    K = np.array([[shot.focal_px, 0, centre[0]], [0, shot.focal_px, centre[1]], [0, 0, 1]])
    return turn, -R @ eye, K, np.array(shot.distortion)


def _slopes(camera: tuple[Array, Array, Array, Array], shot: Shot) -> tuple[NDArray[np.float32], Array]:
    """How far every pixel's ray runs along the table's x and y for each mm up, (rows, columns, 2), and the eye."""
    turn, shift, K, distortion = camera
    width, height = shot.size
    step = 8
    u, v = np.arange(0, width + step, step), np.arange(0, height + step, step)
    grid = np.stack(np.meshgrid(u, v), axis=-1).reshape(-1, 1, 2).astype(float)
    criteria = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 60, 1e-12)
    ideal = cv2.undistortPointsIter(grid, K, distortion, None, None, criteria).reshape(len(v), len(u), 2)
    x, y = np.meshgrid(np.arange(width, dtype=np.float32) / step, np.arange(height, dtype=np.float32) / step)
    R, _ = cv2.Rodrigues(turn)
    slopes = cv2.perspectiveTransform(cv2.remap(ideal.astype(np.float32), x, y, cv2.INTER_LINEAR), R.T)
    return np.asarray(slopes, dtype=np.float32), np.asarray(-R.T @ shift).ravel()


def _meet(slopes: NDArray[np.float32], eye: Array, z: float | NDArray[np.float32]) -> NDArray[np.float32]:
    x, y, deep = eye.astype(np.float32)
    up = z - deep
    if isinstance(up, np.ndarray):
        return slopes * up[..., None] + np.array([x, y])
    return np.asarray(cv2.transform(slopes, np.array([[up, 0, x], [0, up, y]])), dtype=np.float32)


def _surface(
    at: NDArray[np.float32],
    colour: tuple[int, int, int],
    amount: float,
    rng: np.random.Generator,
    grain_long: float,
) -> NDArray[np.float32]:
    """Colour with a faint grain: noise on a 1.5 mm raster, drawn out `grain_long` times along x."""
    tile = rng.standard_normal((512, 512)).astype(np.float32)
    tile = cv2.GaussianBlur(tile, (0, 0), sigmaX=0.8 * grain_long, sigmaY=0.8, borderType=cv2.BORDER_REFLECT)
    tile /= tile.std()
    surface = np.empty((*at.shape[:2], 3), dtype=np.float32)
    for rows in _bands(len(at)):
        turns = at[rows] * np.float32(1 / (1.5 * 1022))
        folded_back = np.abs((turns - np.floor(turns)) * np.float32(1022) - np.float32(511))
        shade = 1 + np.float32(amount) * cv2.remap(tile, folded_back, None, cv2.INTER_LINEAR)
        cv2.merge([shade * np.float32(level) for level in colour], surface[rows])
    return surface


def _coverage(shot: Shot, rings: list[Array]) -> NDArray[np.float32]:
    """The share of each pixel that the piece covers: 8 × 8 samples, those on the rim counted half."""
    width, height = shot.size
    cover = np.zeros((height, width), dtype=np.float32)
    outlines = [np.rint(((project(shot, _dense(r)) + 0.5) * _SUB - 0.5) * 16).astype(np.int64) for r in rings]
    corners = np.concatenate(outlines) // (16 * _SUB)
    left, low = np.maximum(corners.min(axis=0) - 1, 0).tolist()
    right, high = np.minimum(corners.max(axis=0) + 2, (width, height)).tolist()
    columns = max(right - left, 0)
    for top in range(low, high if columns else low, 96):
        rows = min(96, high - top)
        strip = np.zeros((rows * _SUB, columns * _SUB), dtype=np.uint8)
        outlines_here = [(d - [left * _SUB * 16, top * _SUB * 16]).astype(np.int32) for d in outlines]
        cv2.fillPoly(strip, outlines_here, 254, shift=4)
        cv2.polylines(strip, outlines_here, True, 127, shift=4)
        share = cv2.resize(strip, (columns, rows), interpolation=cv2.INTER_AREA)
        cover[top : top + rows, left:right] = share / np.float32(254)
    return cover


def _dense(ring: Array) -> Array:
    loop = np.vstack([ring, ring[:1]])
    parts = [
        a + (b - a) * np.arange(n := max(1, int(np.linalg.norm(b - a) / 2)))[:, None] / n
        for a, b in zip(loop[:-1], loop[1:], strict=True)
    ]
    return np.vstack(parts)


def _lifted(ring: Array, z: float) -> Array:
    return np.column_stack([ring[:, :2], np.full(len(ring), z)])


def _wall_coverage(shot: Shot, piece: Piece) -> NDArray[np.float32]:
    """What the walls below the outline hide: the quadrilaterals below its sides, one by one."""
    width, height = shot.size
    cover = np.zeros((height * _WALL_SUB, width * _WALL_SUB), dtype=np.uint8)
    ring = _dense(piece.outline)
    top, foot = (project(shot, _lifted(ring, z)) for z in (piece.height_mm, 0.0))
    quads = np.stack([top, np.roll(top, -1, axis=0), np.roll(foot, -1, axis=0), foot], axis=1)
    corners = np.rint(((quads + 0.5) * _WALL_SUB - 0.5) * 16).astype(np.int32)
    for quad in corners:
        cv2.fillConvexPoly(cover, quad, 255, shift=4)
    return cv2.resize(cover, (width, height), interpolation=cv2.INTER_AREA).astype(np.float32) / 255


def _cloth(
    ground: NDArray[np.float32],
    colour: tuple[int, int, int],
    weave: float,
    rng: np.random.Generator,
    pattern: Pattern | None = None,
) -> Callable[[Box], NDArray[np.float32]]:
    def colours(box: Box) -> NDArray[np.float32]:
        at = ground[box]
        plain = _surface(at, colour, weave, rng, grain_long=1.0)
        if not pattern:
            return plain
        other = _surface(at, pattern.colour, weave, rng, grain_long=1.0)
        return plain + (other - plain) * second_share(pattern, at)[..., None]

    return colours


def _shade(ground: NDArray[np.float32], shadow: Shadow) -> NDArray[np.float32]:
    angle = np.radians(shadow.towards_deg)
    along = ground[..., 0] * np.float32(np.cos(angle)) + ground[..., 1] * np.float32(np.sin(angle))
    steps = np.clip((along - shadow.offset_mm) / shadow.soft_mm, -30, 30)
    return np.asarray(1 - shadow.depth / (1 + np.exp(-steps)), dtype=np.float32)


def _ink(colour: tuple[int, int, int]) -> Callable[[Box], NDArray[np.float32]]:
    return lambda _box: np.asarray(colour, dtype=np.float32)


def _paste(
    picture: NDArray[np.float32], cover: NDArray[np.float32], surface: Callable[[Box], NDArray[np.float32]]
) -> None:
    """Lay a surface over the picture where it covers it; `surface` gives its colours in a box of the picture."""
    rows, columns = np.flatnonzero(cover.any(axis=1)), np.flatnonzero(cover.any(axis=0))
    if not len(rows):
        return
    box = slice(int(rows[0]), int(rows[-1]) + 1), slice(int(columns[0]), int(columns[-1]) + 1)
    share, colours = cover[box], surface(box)
    for channel in range(3):
        part = picture[box][..., channel]
        part += (colours[..., channel] - part) * share


def _paste_sheet(
    picture: NDArray[np.float32], slopes: NDArray[np.float32], ground: NDArray[np.float32], eye: Array, sheet: LaidSheet
) -> None:
    page = page_of(sheet.sheet)
    w, h = sheet.sheet.size_mm
    angle = np.radians(sheet.turn_deg)
    c, s = float(np.cos(angle)), float(np.sin(angle))
    turned = np.array([[c, s], [-s, c]]) / sheet.print_scale
    to_sheet = np.column_stack([turned, -turned @ sheet.centre])
    coarse = ground[::8, ::8] - np.asarray(sheet.centre, dtype=np.float32)
    near = np.hypot(coarse[..., 0], coarse[..., 1]) < np.hypot(w, h) / 2 + 20
    if not near.any():
        return
    r, k = np.flatnonzero(near.any(axis=1)) * 8, np.flatnonzero(near.any(axis=0)) * 8
    box = slice(int(r[0]), int(r[-1]) + 8), slice(int(k[0]), int(k[-1]) + 8)
    x, y = cv2.split(cv2.transform(ground[box], to_sheet))
    if sheet.bow_mm or sheet.corner_mm:
        for _ in range(2):
            x, y = cv2.split(cv2.transform(_meet(slopes[box], eye, _height(sheet, x, y)), to_sheet))
    middle = x.shape[0] // 2
    gap = np.median(np.hypot(np.diff(x[middle]), np.diff(y[middle]))) / MM_PER_PX
    soft = cv2.GaussianBlur(page, (0, 0), max(0.35 * float(gap), 0.3))
    column, row = (x + w / 2) / MM_PER_PX - 0.5, (h / 2 - y) / MM_PER_PX - 0.5
    ink = cv2.remap(soft, column, row, cv2.INTER_LINEAR)
    inside = (np.abs(x) < w / 2) & (np.abs(y) < h / 2)
    tone = np.float32(14) + ink * np.float32(222 / 255)
    for channel, white in enumerate((1.0, 0.99, 0.97)):
        np.copyto(picture[box][..., channel], tone * np.float32(white), where=inside)


def _height(sheet: LaidSheet, x: NDArray[np.float32], y: NDArray[np.float32]) -> NDArray[np.float32]:
    """How far a sheet that doesn't lie flat stands off the table at places of its own, mm."""
    w, h = sheet.sheet.size_mm
    if sheet.corner_mm:
        towards = np.clip(x / w + y / h - 0.4, 0, 0.6) / 0.6
        return np.asarray(sheet.corner_mm * towards**2, dtype=np.float32)
    off_middle = np.clip((2 * y / h) ** 2, 0, 1)
    return np.asarray(sheet.bow_mm * (1 - off_middle if sheet.bow_mm > 0 else -off_middle), dtype=np.float32)


@lru_cache(maxsize=16)
def page_of(sheet: Sheet) -> Image8:
    """A sheet as it lies on the table, in grey."""
    return rasterise_page(sheets_pdf([sheet]))
