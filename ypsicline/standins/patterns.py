"""What is printed on, woven into or laid as a surface: dots, stripes, checks, boards and tiles, in two colours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

__all__ = ["Boards", "Checks", "Dots", "Pattern", "Stripes", "Tiles", "second_share"]

Colour = tuple[int, int, int]
Places = NDArray[np.float32]


@dataclass(frozen=True)
class Dots:
    """Dots on a square grid."""

    colour: Colour
    pitch_mm: float = 30.0
    radius_mm: float = 6.0


@dataclass(frozen=True)
class Stripes:
    """Stripes of both colours, each half the pitch wide, turned by `turn_deg`."""

    colour: Colour
    pitch_mm: float = 36.0
    turn_deg: float = 25.0


@dataclass(frozen=True)
class Checks:
    """Woven checks: both colours where bands cross, their mean where one passes."""

    colour: Colour
    pitch_mm: float = 24.0


@dataclass(frozen=True)
class Boards:
    """Boards along x, alternating a little in tone, with dark gaps of 2 mm."""

    colour: Colour
    width_mm: float = 120.0


@dataclass(frozen=True)
class Tiles:
    """Square tiles with joints of the second colour."""

    colour: Colour
    pitch_mm: float = 150.0
    joint_mm: float = 4.0


Pattern = Dots | Stripes | Checks | Boards | Tiles


def second_share(pattern: Pattern, at: Places) -> Places:
    """The share of the pattern's own colour at places (rows, columns, 2), mm; the rest is the surface's."""
    x, y = at[..., 0], at[..., 1]
    share: np.ndarray[tuple[int, ...], np.dtype[np.generic]]
    match pattern:
        case Dots(pitch_mm=pitch, radius_mm=radius):
            off = np.mod(at, pitch) - pitch / 2
            share = np.hypot(off[..., 0], off[..., 1]) < radius
        case Stripes(pitch_mm=pitch, turn_deg=turn):
            a = np.radians(turn)
            share = np.mod(x * np.cos(a) + y * np.sin(a), pitch) < pitch / 2
        case Checks(pitch_mm=pitch):
            share = ((np.mod(x, pitch) < pitch / 2).astype(np.float32) + (np.mod(y, pitch) < pitch / 2)) / 2
        case Boards(width_mm=width):
            tone = 0.25 * (np.mod(np.floor(y / width), 3) / 2)
            share = np.where(np.mod(y, width) < 2.0, 1.0, tone)
        case Tiles(pitch_mm=pitch, joint_mm=joint):
            share = (np.mod(x, pitch) < joint) | (np.mod(y, pitch) < joint)
    return np.asarray(share, dtype=np.float32)
