"""The photo that the first job's guide brings along: `python -m demo.guide_photo` takes it anew with the stand-in camera."""

from __future__ import annotations

from pathlib import Path

from demo import pieces
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.standins.camera import Piece, Scene, Shot, ring_of_sheets, take_photo

OUT = Path(__file__).parents[1] / "frontend" / "public" / "guide" / "splash-tray.jpg"


def main() -> None:
    tray, drain = pieces.splash_tray()
    scene = Scene(
        ring_of_sheets(make_sheets("a4", 4), 510, 430, seed=4), (Piece(tray, drain, (58, 80, 104)),), (206, 190, 160)
    )
    small = {"size": (2016, 1512), "focal_px": 1525.0, "centre_off_px": (4.0, -3.0), "noise": 1.5, "quality": 82}
    OUT.parent.mkdir(parents=True, exist_ok=True)
    OUT.write_bytes(take_photo(scene, Shot(tilt_deg=7, tilt_towards_deg=230, distance_mm=1010, seed=21, **small)))  # type: ignore[arg-type]


if __name__ == "__main__":
    main()
