"""The demo's photographs."""

from __future__ import annotations

from demo import pieces
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.standins.camera import Piece, Scene, Shot, ring_of_sheets, take_photo

__all__ = ["take_all"]


def take_all() -> dict[str, bytes]:
    """Name -> JPEG, the same at every build."""
    sheets = make_sheets("a4", 4)
    tray, drain = pieces.splash_tray()
    lid = pieces.lid()
    left, right = pieces.handle_pads()

    def scene(width: float, height: float, *laid: Piece, seed: int, table: tuple[int, int, int]) -> Scene:
        return Scene(ring_of_sheets(sheets, width, height, seed=seed), laid, table)

    wood, slate, birch = (176, 138, 98), (92, 98, 100), (206, 190, 160)
    return {
        "splash_tray": take_photo(
            scene(510, 430, Piece(tray, drain, (58, 80, 104)), seed=4, table=birch),
            Shot(tilt_deg=9, tilt_towards_deg=250, distance_mm=1010, seed=11),
        ),
        "bench_top": take_photo(
            scene(640, 450, Piece(pieces.bench_top(), (), (225, 214, 188)), seed=6, table=slate),
            Shot(tilt_deg=12, tilt_towards_deg=300, distance_mm=1080, roll_deg=-2, seed=12),
        ),
        "bucket_lid": take_photo(
            scene(300, 300, Piece(lid, (), (150, 62, 48)), seed=8, table=birch),
            Shot(tilt_deg=6, tilt_towards_deg=80, distance_mm=900, seed=13),
        ),
        "wrist_pads": take_photo(
            scene(520, 240, Piece(left, (), (120, 84, 58)), Piece(right, (), (120, 84, 58)), seed=9, table=wood),
            Shot(tilt_deg=8, tilt_towards_deg=200, distance_mm=900, seed=14),
        ),
    }
