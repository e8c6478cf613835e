"""Named scenes as they are met on a maker's table, for tests and the bench: other tables, pieces, light and company."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ypsicline.core.capture.sheets import Sheet, make_sheets
from ypsicline.standins.camera import Array, Cast, Floor, LaidSheet, Piece, Scene, Shadow, Shot, ring_of_sheets
from ypsicline.standins.patterns import Boards, Checks, Dots, Stripes, Tiles

__all__ = ["WorkshopScene", "workshop_scenes"]

_NAVY, _PALE, _RUST = (58, 80, 104), (226, 214, 188), (150, 70, 52)
_BIRCH, _SLATE, _OAK, _GREEN = (206, 190, 160), (92, 98, 100), (176, 132, 84), (48, 92, 70)


@dataclass(frozen=True)
class WorkshopScene:
    """A scene, how it is photographed, and the outline that is true; at `height_mm` over the sheets."""

    scene: Scene
    shot: Shot
    truth: Array
    height_mm: float = 0.0


def workshop_scenes(size: tuple[int, int] = (2016, 1512)) -> dict[str, WorkshopScene]:
    """The scenes by name, photographed at `size` px."""
    shot = Shot(
        size=size, focal_px=0.7565 * size[0], distance_mm=900, tilt_deg=12, tilt_towards_deg=70, roll_deg=4,
        centre_off_px=(4, -3), seed=11,
    )  # fmt: skip
    a4 = make_sheets("a4", 4)
    ring = ring_of_sheets(a4, 400, 300, gap=40, seed=6)
    pad, bean = _pad(), _bean()
    scenes = {
        "one sheet on boards": Scene(_beside(a4[0]), (Piece(bean, (), _NAVY),), _OAK, pattern=Boards((96, 66, 40))),
        "two sheets on checked cloth": Scene(ring[:2], (Piece(pad, (), _GREEN),), (214, 196, 190), pattern=Checks(_RUST)),
        "dots on tiles": Scene(
            ring, (Piece(bean, (), _PALE, pattern=Dots(_RUST, 22, 5)),), (150, 156, 150), pattern=Tiles((84, 84, 80))
        ),
        "stripes on boards": Scene(
            ring[:3], (Piece(pad, (), _PALE, pattern=Stripes(_NAVY)),), _OAK, pattern=Boards((96, 66, 40))
        ),
        "the table ends": Scene(ring[:3], (Piece(bean, (), _RUST),), _BIRCH, floor=Floor(offset_mm=205)),
        "a hard shadow": Scene(ring, (Piece(bean, (), _PALE, casts=Cast((16, -12), 1.0, 0.6)),), _OAK),
        "coins and a pencil": Scene(ring, (Piece(pad, (), _GREEN),), _BIRCH, things=_company()),
        "a lifted corner": Scene(
            tuple(replace(s, corner_mm=8.0 if k == 0 else 0.0) for k, s in enumerate(ring)), (Piece(pad, (), _NAVY),), _BIRCH
        ),
        "sheets cut off by the frame": Scene(
            ring_of_sheets(a4, 640, 440, gap=20, seed=6), (Piece(pad * 1.3, (), _NAVY),), _BIRCH
        ),
        "someone's shadow": Scene(ring, (Piece(bean, (), _RUST),), _BIRCH, shadow=Shadow(200, 20, 5, 0.5)),
        "A4 and Letter": Scene(
            (*ring[:2], *(replace(s, sheet=o) for s, o in zip(ring[2:], make_sheets("letter", 2), strict=True))),
            (Piece(pad, (), _RUST),), _SLATE,
        ),
    }  # fmt: skip
    by_name = {name: WorkshopScene(s, shot, s.pieces[0].outline) for name, s in scenes.items()}
    dim = replace(shot, exposure=0.28, noise=5.0)
    by_name["a dim room"] = WorkshopScene(Scene(ring, (Piece(bean, (), _PALE),), _SLATE), dim, bean)
    slab = Piece(pad, (), _NAVY, height_mm=18, wall=(34, 48, 64), casts=Cast((14, 10), 2.5, 0.45))
    by_name["a thick slab in the sun"] = WorkshopScene(Scene(ring, (slab,), _BIRCH), shot, pad, height_mm=18)
    return by_name


def _pad() -> Array:
    """A pad of 360 × 240 mm with round corners."""
    angle = np.radians(np.arange(0, 91, 4.5))
    corners = [
        np.column_stack([x * 140 + 40 * np.cos(angle + turn), y * 80 + 40 * np.sin(angle + turn)])
        for x, y, turn in ((1, 1, 0.0), (-1, 1, np.pi / 2), (-1, -1, np.pi), (1, -1, 3 * np.pi / 2))
    ]
    return np.vstack(corners)


def _bean() -> Array:
    angle = np.linspace(0, 2 * np.pi, 720, endpoint=False)
    r = 1 + 0.16 * np.cos(2 * angle + 0.4) - 0.12 * np.sin(3 * angle)
    return np.column_stack([165 * r * np.cos(angle), 120 * r * np.sin(angle)])


def _beside(sheet: Sheet) -> tuple[LaidSheet, ...]:
    return (LaidSheet(sheet, (345.0, -12.0), 7.0),)


def _company() -> tuple[Piece, ...]:
    """Two coins and a pencil, one coin close to the piece."""
    angle = np.linspace(0, 2 * np.pi, 60, endpoint=False)
    coin = np.column_stack([11 * np.cos(angle), 11 * np.sin(angle)])
    pencil = np.array([[-85, -3.6], [80, -3.6], [92, 0], [80, 3.6], [-85, 3.6]])
    turn = np.radians(24)
    outline = pencil @ np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    return (
        Piece(coin + [-170, 140], (), (184, 184, 178)),
        Piece(coin + [110, 150], (), (176, 150, 96)),
        Piece(outline + [60, -165], (), (206, 170, 40)),
    )
