"""A stand-in for a digitising tablet: it touches two marks and then an outline, over a socket, as a hand would.

Run as `python -m ypsicline.standins.tablet`; what it draws is a kidney of 300 × 200 mm.
"""

from __future__ import annotations

import argparse
import math
import socket
import time
from collections.abc import Sequence

import numpy as np

from ypsicline.core.geometry.edges import Point

__all__ = ["kidney", "lines_of", "send"]


def kidney(width_mm: float = 300.0, height_mm: float = 200.0, count: int = 120) -> list[Point]:
    """A kidney-shaped outline, counter-clockwise."""
    t = np.linspace(0, 2 * math.pi, count, endpoint=False)
    x = width_mm / 2 * np.cos(t)
    y = height_mm / 2 * np.sin(t) + 0.18 * height_mm * np.cos(2 * t)
    return [(float(a + width_mm), float(b + height_mm)) for a, b in zip(x, y, strict=True)]


def lines_of(touches: Sequence[Point], *, shake_mm: float = 0.0, seed: int = 1) -> list[str]:
    """The lines that a tablet sends for these touches, mm, each off by a shaking hand."""
    rng = np.random.default_rng(seed)
    shaken = np.asarray(touches) + rng.normal(0, shake_mm, (len(touches), 2))
    return [f"T {round(100 * x)} {round(100 * y)}" for x, y in shaken]


def send(lines: Sequence[str], port: int, *, host: str = "127.0.0.1", pause_s: float = 0.0) -> None:
    """Send lines to the station that listens, one after the other."""
    with socket.create_connection((host, port), timeout=10) as out:
        for line in lines:
            out.sendall(f"{line}\r\n".encode("ascii"))
            time.sleep(pause_s)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=8379)
    parser.add_argument("--pause", type=float, default=0.03, help="seconds between touches")
    options = parser.parse_args()
    marks = [(50.0, 40.0), (550.0, 40.0)]
    lines = lines_of([*marks, *kidney()], shake_mm=0.1)
    send(lines, options.port, pause_s=options.pause)
    print(f"{len(lines)} touches sent; the two marks lie 500 mm apart.")


if __name__ == "__main__":
    main()
