"""The studio's things, as flat pieces in mm, y up, centred near the origin."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def arc(centre: tuple[float, float], radius: float, start_deg: float, end_deg: float, count: int = 180) -> Array:
    angle = np.radians(np.linspace(start_deg, end_deg, count))
    return np.column_stack([centre[0] + radius * np.cos(angle), centre[1] + radius * np.sin(angle)])


def circle(centre: tuple[float, float], radius: float) -> Array:
    return arc(centre, radius, 0, 360, 361)[:-1]


def splash_tray() -> tuple[Array, tuple[Array, ...]]:
    """An arched tray with a slot at its lip for the wheel's shaft and a drain hole."""
    outline = np.vstack(
        [
            [[-255, -205], [-34, -205], [-34, -144]],
            arc((0, -144), 34, 180, 0)[1:-1],
            [[34, -144], [34, -205], [255, -205], [255, -40]],
            arc((0, -40), 255, 0, 180)[1:-1],
            [[-255, -40]],
        ]
    )
    return outline, (circle((-105, 12), 18),)


def bench_top() -> Array:
    """A kidney-shaped bench top: one smooth line, no corner."""
    angle = np.linspace(0, 2 * np.pi, 1600, endpoint=False)
    radius = 235 * (1 + 0.16 * np.cos(2 * angle) - 0.11 * np.sin(angle) + 0.05 * np.cos(3 * angle))
    return np.column_stack([1.18 * radius * np.cos(angle), 0.86 * radius * np.sin(angle)])


def lid(radius: float = 118.0) -> Array:
    """A bucket lid with a handle lug."""
    lug = np.array([[30, radius + 22], [-30, radius + 22]])
    at = np.degrees(np.arcsin(30 / radius))
    return np.vstack([arc((0, 0), radius, 90 + at, 450 - at, 300), lug])


def stool_pad() -> Array:
    """A trapezoid: the back is shorter than the front."""
    return np.array([[-190, -180], [190, -180], [165, 175], [-165, 175]], dtype=float)


def handle_pads() -> tuple[Array, Array]:
    """Two wrist pads, alike but for their size."""
    return (
        np.array([[-230, -90], [-40, -90], [-60, 90], [-215, 90]], dtype=float),
        np.array([[60, -80], [225, -80], [210, 80], [75, 80]], dtype=float),
    )


def stand_foot() -> Array:
    """The foot of a trimming stand: a rounded triangle."""
    angle = np.linspace(0, 2 * np.pi, 1200, endpoint=False)
    radius = 165 * (1 + 0.1 * np.cos(3 * angle - np.pi / 2))
    return np.column_stack([radius * np.cos(angle), radius * np.sin(angle)])


def glaze_table() -> Array:
    """A table top over a metre wide, its front corners round and a bite out of its back for a pipe."""
    return np.vstack(
        [
            arc((-420, -120), 100, 180, 270, 60),
            arc((420, -120), 100, 270, 360, 60),
            [[520, 220], [160, 220]],
            arc((80, 220), 80, 360, 180, 90)[1:-1],
            [[0, 220], [-520, 220]],
        ]
    )


def with_gaps(ring: Array, places: tuple[float, ...], gap_mm: float) -> list[Array]:
    """The closed ring as pen strokes, lifted for `gap_mm` at shares of its length."""
    closed = np.vstack([ring, ring[:1]])
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    starts = [p * along[-1] + gap_mm / 2 for p in places]
    ends = [p * along[-1] - gap_mm / 2 for p in (*places[1:], places[0] + 1)]
    return [
        np.column_stack([np.interp(np.arange(a, b, 0.5) % along[-1], along, closed[:, k]) for k in (0, 1)])
        for a, b in zip(starts, ends, strict=True)
    ]


def old_slip() -> tuple[Array, Array, Array]:
    """An old slip of the throwing stool, cut open along its seams: the seat, half of the wall, and a tab."""
    seat = np.vstack([arc((-150, 0), 118, 90, 270), arc((-90, 0), 118, -90, 90)])
    wall = np.array([[70, -125], [290, -110], [290, 20], [70, 35]], dtype=float)
    tab = np.vstack([[[90, 75], [180, 75]], arc((180, 105), 30, -90, 90, 60)[1:], [[90, 135]]])
    return seat, wall, tab


def funnel_marks() -> Array:
    """A glaze funnel rolled once along paper: dots along both rims, girths 220 and 430, slant height 190."""
    slant, angle = 190.0, (430 - 220) / 190.0
    at = np.linspace(-angle / 2, angle / 2, 11) - np.pi / 2
    inner = 220 / angle
    rows = [r * np.column_stack([np.cos(at), np.sin(at)]) for r in (inner, inner + slant)]
    rng = np.random.default_rng(41)
    points = np.vstack(rows) + rng.normal(0, 0.25, (22, 2))
    return np.asarray(points - (points.max(axis=0) + points.min(axis=0)) / 2)
