"""The demo's photographs: what lies on the table, and where from it is seen."""

from __future__ import annotations

from typing import Any

import numpy as np

from demo import pieces
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.standins.camera import LaidSheet, Piece, Scene, Shot, Stroke, ring_of_sheets

__all__ = ["settings"]

Setting = tuple[Scene, Shot]
# an older phone's 6 megapixels, which are taken and measured sooner
SIZE_PX, FOCAL_PX, CENTRE_OFF_PX = (2880, 2160), 2180.0, (6.0, -4.5)


def _shot(**how: Any) -> Shot:
    return Shot(size=SIZE_PX, focal_px=FOCAL_PX, centre_off_px=CENTRE_OFF_PX, **how)


def settings() -> dict[str, Setting]:
    """By the photos' names, in the order in which the demo needs them."""
    sheets = make_sheets("a4", 4)
    tray, drain = pieces.splash_tray()
    lid = pieces.lid()
    left, right = pieces.handle_pads()

    def scene(width: float, height: float, *laid: Piece, seed: int, table: tuple[int, int, int]) -> Scene:
        return Scene(ring_of_sheets(sheets, width, height, seed=seed), laid, table)

    wood, slate, birch = (176, 138, 98), (92, 98, 100), (206, 190, 160)
    return {
        **_camera(),
        "splash_tray": (
            scene(510, 430, Piece(tray, drain, (58, 80, 104)), seed=4, table=birch),
            _shot(tilt_deg=9, tilt_towards_deg=250, distance_mm=1010, seed=11),
        ),
        "bench_top": (
            scene(640, 450, Piece(pieces.bench_top(), (), (225, 214, 188)), seed=6, table=slate),
            _shot(tilt_deg=12, tilt_towards_deg=300, distance_mm=1080, roll_deg=-2, seed=12),
        ),
        "bucket_lid": (
            scene(300, 300, Piece(lid, (), (150, 62, 48)), seed=8, table=birch),
            _shot(tilt_deg=6, tilt_towards_deg=80, distance_mm=900, seed=13),
        ),
        "wrist_pads": (
            scene(520, 240, Piece(left, (), (120, 84, 58)), Piece(right, (), (120, 84, 58)), seed=9, table=wood),
            _shot(tilt_deg=8, tilt_towards_deg=200, distance_mm=900, seed=14),
        ),
        "stand_trace": _stand_trace(),
        **_glaze_table(),
        "old_slip": (
            scene(620, 330, *(Piece(p, (), (72, 96, 84)) for p in pieces.old_slip()), seed=17, table=birch),
            _shot(tilt_deg=7, tilt_towards_deg=20, distance_mm=980, seed=17),
        ),
        "funnel": _funnel(),
    }


def _stand_trace() -> Setting:
    """A trimming stand's foot drawn round on kraft paper, with its centre lines and a note."""
    paper = np.array([[-330, -250], [330, -250], [330, 250], [-330, 250]], dtype=float)
    wiggle = np.arange(40)
    note = np.column_stack([-40 + 2.0 * wiggle, 40 + 6 * np.sin(1.2 * wiggle) * (wiggle % 5 / 4)])
    strokes = [Stroke(part, 1.4) for part in pieces.with_gaps(pieces.stand_foot(), (0.13, 0.48, 0.8), 7)]
    strokes += [
        Stroke(np.array(p, dtype=float), 0.5, (120, 116, 110)) for p in ([[-260, 0], [260, 0]], [[0, -200], [0, 200]])
    ]
    strokes.append(Stroke(note, 0.9))
    scene = Scene(
        ring_of_sheets(make_sheets("a4", 4), 620, 470, seed=21),
        (Piece(paper, (), (214, 196, 160), 0.015),),
        (92, 98, 100),
        strokes=tuple(strokes),
    )
    return scene, _shot(tilt_deg=7, tilt_towards_deg=130, distance_mm=1110, seed=15)


def _funnel() -> Setting:
    """The glaze funnel's rolled trace on kraft paper."""
    paper = np.array([[-270, -190], [270, -190], [270, 190], [-270, 190]], dtype=float)
    dots = tuple(Stroke(np.array([p - [0.01, 0], p + [0.01, 0]]), 3.0) for p in pieces.funnel_marks())
    scene = Scene(
        ring_of_sheets(make_sheets("a4", 4), 520, 370, gap=35, seed=23),
        (Piece(paper, (), (214, 196, 160), 0.015),),
        (92, 98, 100),
        strokes=dots,
    )
    return scene, _shot(tilt_deg=6, tilt_towards_deg=300, distance_mm=1000, seed=18)


def _camera() -> dict[str, Setting]:
    """One sheet from three sides, for the workshop's camera to be calibrated by."""
    board = Scene((LaidSheet(make_sheets("a3", 1)[0], (0, 0), 0),), (), (92, 98, 100))
    shots = [_shot(distance_mm=640, tilt_deg=24, tilt_towards_deg=120.0 * k + 20, seed=50 + k) for k in range(3)]
    return {f"camera_{k + 1}": (board, shot) for k, shot in enumerate(shots)}


def _glaze_table() -> dict[str, Setting]:
    """A table top wider than one photo: two photos that overlap, eight sheets round it."""
    rng = np.random.default_rng(22)
    places = [(x, y) for x in (-310, 0, 310) for y in (-360, 360)] + [(-660, 0), (660, 0)]
    sheets = tuple(
        LaidSheet(
            sheet,
            (x + rng.uniform(-12, 12), y + rng.uniform(-10, 10)),
            (0 if abs(x) > 600 else 90) + rng.uniform(-6, 6),
        )
        for sheet, (x, y) in zip(make_sheets("a4", 8), places, strict=True)
    )
    scene = Scene(sheets, (Piece(pieces.glaze_table(), (), (150, 62, 48)),), (206, 190, 160))
    shots = [
        _shot(
            look_at=(x, 8.0 * k), distance_mm=1030, tilt_deg=5 + 2 * k, tilt_towards_deg=100 * k, roll_deg=2 - 2 * k,
            seed=61 + k,
        )
        for k, x in enumerate((-180, 180))
    ]  # fmt: skip
    return {f"glaze_table_{k + 1}": (scene, shot) for k, shot in enumerate(shots)}
