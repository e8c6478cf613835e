"""The fixed set of scenes that the bench measures."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from demo.pieces import arc, circle, with_gaps
from ypsicline.core.capture.capture import Kind
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.standins.camera import LaidSheet, Piece, Scene, Shadow, Shot, Stroke, ring_of_sheets
from ypsicline.standins.patterns import Dots

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Case:
    """Photos to be taken, the outline that they show, and the set that its figures belong to."""

    name: str
    group: str
    scene: Scene
    shots: tuple[Shot, ...]
    truth: Array
    kind: Kind = "piece"
    height_mm: float = 0.0


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
    result: list[Case] = []
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
        result.append(Case(f"{name}, tilt {tilt}°", "four sheets, flat", flat, (shot,), outline))
        if k < 4:
            opposite = replace(flat, sheets=flat.sheets[:2] if k % 2 == 0 else flat.sheets[2:])
            result.append(Case(f"{name}, tilt {tilt}°", "two sheets, flat", opposite, (shot,), outline))
            bowed = replace(flat, sheets=ring_of_sheets(sheets, 600, 450, gap=45, bow_mm=1.0, seed=k))
            result.append(Case(f"{name}, tilt {tilt}°", "four sheets, bowed 1 mm", bowed, (shot,), outline))
    return (*result, *_held_out(), *_high(), *_hard(), *_drawn(), *_marked(), *_wide())


def _held_out() -> list[Case]:
    """Scenes drawn by lot, by which nothing was tuned: piece, view, lens, light of colour, and sheets."""
    sheets, result = make_sheets("a4", 4), []
    for k in range(6):
        rng = np.random.default_rng(9000 + k)
        name = str(rng.choice(list(pieces())))
        outline, holes = pieces()[name]
        focal, tilt = float(rng.uniform(2700, 3400)), float(rng.uniform(0, 25))
        lens = tuple(float(v) for v in rng.normal(0, (0.06, 0.1, 3e-4, 3e-4, 0.04)))
        shot = Shot(
            distance_mm=0.37 * focal, tilt_deg=tilt, tilt_towards_deg=float(rng.uniform(0, 360)), focal_px=focal,
            distortion=lens, roll_deg=float(rng.uniform(-20, 20)), seed=9000 + k, exif=bool(rng.integers(2)),
        )  # fmt: skip
        dark = rng.integers(2)
        shades = [tuple(int(v) for v in rng.integers(*span, 3)) for span in ((30, 110), (185, 235))]
        scene = Scene(
            ring_of_sheets(sheets, 600, 450, gap=50, seed=9000 + k),
            (Piece(outline, holes, shades[1 - dark]),),
            shades[dark],
        )
        result.append(Case(f"{name}, tilt {tilt:.0f}°", "held out, by lot", scene, (shot,), outline))
    return result


def _high() -> list[Case]:
    """A top face 30 mm above the sheets, its walls darker, and once of its own shade, seen at a tilt of 20°."""
    sheets, result = make_sheets("a4", 4), []
    for k, (name, wall) in enumerate((("pad", (40, 56, 72)), ("kidney", (40, 56, 72)), ("pad", (58, 80, 104)))):
        outline, _ = pieces()[name]
        piece = Piece(outline, (), (58, 80, 104), height_mm=30, wall=wall)
        scene = Scene(ring_of_sheets(sheets, 600, 450, gap=60, seed=4), (piece,), (206, 190, 160))
        shot = Shot(distance_mm=1150, tilt_deg=20, tilt_towards_deg=200 * k, seed=2)
        group = "wall of the face's shade" if wall == piece.colour else "top face 30 mm up"
        result.append(Case(f"{name}, tilt 20°", group, scene, (shot,), outline, height_mm=30))
    return result


def _hard() -> list[Case]:
    """A soft shadow across the piece, and a printed pattern."""
    sheets, result = make_sheets("a4", 4), []
    kidney, tray = pieces()["kidney"][0], pieces()["tray"][0]
    looks = [
        ("kidney in a soft shadow", Piece(kidney, (), (226, 214, 188)), (92, 98, 100), Shadow()),
        ("dotted tray", Piece(tray, (), (58, 80, 104), pattern=Dots((150, 60, 40))), (206, 190, 160), None),
        ("tray with dots of the table's colour", Piece(tray, (), (58, 80, 104), pattern=Dots((206, 190, 160))), (206, 190, 160), None),
    ]  # fmt: skip
    for name, piece, table, shadow in looks:
        scene = Scene(ring_of_sheets(sheets, 600, 450, gap=45, seed=4), (piece,), table, shadow=shadow)
        shot = Shot(distance_mm=1120, tilt_deg=9, tilt_towards_deg=40, seed=2)
        result.append(Case(name, "patterns and shadows", scene, (shot,), piece.outline))
    return result


def _drawn() -> list[Case]:
    """A pen line of about 500 mm on paper, with gaps, construction lines, a box round it and a note."""
    sheets, result = make_sheets("a4", 4), []
    angle = np.linspace(0, 2 * np.pi, 3000, endpoint=False)
    blob = np.column_stack(
        [250 * np.cos(angle) * (1 + 0.12 * np.cos(3 * angle)), 190 * np.sin(angle) * (1 + 0.1 * np.sin(2 * angle))]
    )
    corners = np.array([[-250, -180], [250, -180], [250, 60], [140, 190], [-140, 190], [-250, 60]], dtype=float)
    paper = np.array([[-400, -290], [400, -290], [400, 290], [-400, 290]], dtype=float)
    step = np.arange(50)
    note = Stroke(np.column_stack([-60 + 1.2 * step, 40 + 6 * np.sin(1.1 * step)]), 0.9)
    faint = [
        Stroke(np.array(path, dtype=float), 0.5, (120, 116, 110))
        for path in (
            [[-330, 0], [330, 0]], [[0, -260], [0, 260]], [[-300, -200], [200, 250]],
            [[-290, -215], [290, -215], [290, 225], [-290, 225], [-290, -215]],
        )
    ]  # fmt: skip
    for k, (name, ring, pen) in enumerate((("blob", blob, 1.5), ("house", corners, 0.8), ("blob", blob, 3.0))):
        lines = [Stroke(part, pen) for part in with_gaps(ring, (0.08, 0.4, 0.77), 8)]
        scene = Scene(
            ring_of_sheets(sheets, 760, 560, gap=30, seed=k), (Piece(paper, (), (222, 204, 170), 0.015),), (92, 98, 100),
            strokes=(*lines, *faint, note),
        )  # fmt: skip
        shot = Shot(distance_mm=1200, tilt_deg=4 + 5 * k, tilt_towards_deg=70 * k, seed=k)
        result.append(Case(f"{name}, pen {pen} mm", "pen line, 500 mm", scene, (shot,), ring, kind="line"))
    return result


def _marked() -> list[Case]:
    """Forty dots round an oval, 2.4 mm across, on kraft paper."""
    sheets = make_sheets("a4", 4)
    angle = np.linspace(0, 2 * np.pi, 4000, endpoint=False)
    oval = np.column_stack([250 * np.cos(angle), 170 * np.sin(angle)])
    paper = np.array([[-320, -230], [320, -230], [320, 230], [-320, 230]], dtype=float)
    dots = tuple(Stroke(np.array([p - [0.01, 0], p + [0.01, 0]]), 2.4) for p in oval[::100])
    scene = Scene(
        ring_of_sheets(sheets, 620, 440, gap=30, seed=5), (Piece(paper, (), (222, 204, 170), 0.015),), (92, 98, 100),
        strokes=dots,
    )  # fmt: skip
    return [
        Case("oval, 40 dots", "marks only", scene, (Shot(distance_mm=1150, tilt_deg=9, seed=5),), oval, kind="marks")
    ]


def _wide() -> list[Case]:
    """2.4 m ringed by twelve sheets, four photos; the sheets flat, and bowed by 1 mm."""
    angle = np.linspace(0, 2 * np.pi, 6000, endpoint=False)
    oval = np.column_stack([1200 * np.cos(angle), 330 * np.sin(angle) * (1 + 0.2 * np.cos(3 * angle))])
    places = [(x, y) for x in (-1000, -500, 0, 500, 1000) for y in (560, -560)] + [(1370, 0), (-1370, 0)]
    result = []
    for bow in (0.0, 1.0):
        rng = np.random.default_rng(3)
        laid = tuple(
            LaidSheet(
                sheet, (x + rng.uniform(-15, 15), y + rng.uniform(-10, 10)),
                (90 if y else 0) + rng.uniform(-6, 6), bow * rng.choice([-1, 1]),
            )
            for sheet, (x, y) in zip(make_sheets("a4", 12), places, strict=True)
        )  # fmt: skip
        shots = tuple(
            Shot(
                look_at=(x, rng.uniform(-30, 30)), distance_mm=1500, tilt_deg=rng.uniform(3, 12),
                tilt_towards_deg=rng.uniform(0, 360), roll_deg=rng.uniform(-4, 4), seed=k,
            )
            for k, x in enumerate((-900, -320, 320, 900))
        )  # fmt: skip
        scene = Scene(laid, (Piece(oval, (), (58, 80, 104)),), (206, 190, 160))
        result.append(Case(f"oval, sheets {'bowed 1 mm' if bow else 'flat'}", "2.4 m, four photos", scene, shots, oval))
    return result
