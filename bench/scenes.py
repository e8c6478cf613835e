"""The fixed set of scenes that the bench measures."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from demo.pieces import arc, circle
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.standins.camera import Piece, Scene, Shot, ring_of_sheets

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Case:
    """A photo to be taken, the outline that it shows, and the set that its figures belong to."""

    name: str
    group: str
    scene: Scene
    shot: Shot


def pieces() -> dict[str, tuple[Array, tuple[Array, ...]]]:
    """Flat pieces of 600 × 450 mm, mm, y up."""
    angle = np.linspace(0, 2 * np.pi, 2400, endpoint=False)
    kidney = np.column_stack(
        [300 * np.cos(angle), 205 * np.sin(angle) * (1 - 0.12 * np.cos(2 * angle)) + 20 * np.cos(2 * angle)]
    )
    tray = np.array(
        [
            [-300, -225],
            [-40, -225],
            [-40, -150],
            [40, -150],
            [40, -225],
            [300, -225],
            [300, 60],
            [180, 225],
            [-180, 225],
            [-300, 60],
        ],
        dtype=float,
    )
    arch = np.vstack([[[-300, -225], [300, -225], [300, -75]], arc((0, -75), 300, 0, 180, 400)[1:-1], [[-300, -75]]])
    round_corners = np.vstack(
        [
            arc((x * 250, y * 175), 50, a, a + 90, 80)
            for x, y, a in ((1, 1, 0), (-1, 1, 90), (-1, -1, 180), (1, -1, 270))
        ]
    )
    return {
        "kidney": (kidney, ()),
        "tray": (tray, (circle((60, 80), 40),)),
        "arch": (arch, (circle((-120, 30), 18),)),
        "pad": (round_corners, ()),
    }


def cases() -> tuple[Case, ...]:
    """Four sheets, flat; two sheets; four sheets that bow; and the same with other lenses, light and cloth."""
    sheets = make_sheets("a4", 4)
    dark, pale, rust = (58, 80, 104), (226, 214, 188), (150, 70, 52)
    birch, slate = (206, 190, 160), (92, 98, 100)
    base = Shot(distance_mm=1060)
    found: list[Case] = []
    looks = [
        ("kidney", 0, 4, dark, birch), ("tray", 40, 12, pale, slate), ("arch", 130, 18, rust, birch), ("pad", 220, 25, dark, birch),
        ("kidney", 300, 25, pale, slate), ("tray", 90, 25, rust, birch), ("arch", 0, 8, pale, slate), ("pad", 170, 15, dark, birch),
    ]  # fmt: skip
    lenses = [
        (3050.0, (0.08, -0.16, 2e-4, -3e-4, 0.02)), (3300.0, (-0.05, 0.03, -4e-4, 2e-4, 0.0)), (2900.0, (0.12, -0.3, 5e-4, 5e-4, 0.12)),
        (3100.0, (0.02, 0.0, 0.0, 0.0, 0.0)),
    ]  # fmt: skip
    for k, (name, towards, tilt, colour, table) in enumerate(looks):
        outline, holes = pieces()[name]
        focal, lens = lenses[k % len(lenses)]
        shot = replace(
            base,
            tilt_deg=tilt,
            tilt_towards_deg=towards,
            focal_px=focal,
            distortion=lens,
            distance_mm=focal * 0.36,
            seed=k,
        )
        shot = replace(shot, exif=k % 3 != 2, centre_off_px=(9.0 - 4 * k, -6.0 + 3 * k))
        piece = Piece(outline, holes, colour)
        flat = Scene(ring_of_sheets(sheets, 600, 450, gap=45, seed=k), (piece,), table)
        found.append(Case(f"{name}, tilt {tilt}°", "four sheets, flat", flat, shot))
        if k < 4:
            opposite = replace(flat, sheets=flat.sheets[:2] if k % 2 == 0 else flat.sheets[2:])
            found.append(Case(f"{name}, tilt {tilt}°", "two sheets, flat", opposite, shot))
            bowed = replace(flat, sheets=ring_of_sheets(sheets, 600, 450, gap=45, bow_mm=1.0, seed=k))
            found.append(Case(f"{name}, tilt {tilt}°", "four sheets, bowed 1 mm", bowed, shot))
    return tuple(found)
