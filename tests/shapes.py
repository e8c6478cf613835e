"""Awkward shapes by name, shared by all tests. Rings of seam edges in mm, counter-clockwise unless said."""

from __future__ import annotations

import math

from ypsicline.core.pattern.seam_edge import SeamEdge

Point = tuple[float, float]
Ring = tuple[SeamEdge, ...]


def polygon(points: list[Point], allowance: float = 10.0, corner: str = "mitre", finish: str = "plain") -> Ring:
    """Straight edges through the points, named a, b, c ..."""
    return tuple(
        SeamEdge("line", (p, points[(k + 1) % len(points)]), chr(97 + k), allowance, finish, corner)  # type: ignore[arg-type]
        for k, p in enumerate(points)
    )


def square(side: float = 100.0, **how: object) -> Ring:
    return polygon([(0, 0), (side, 0), (side, side), (0, side)], **how)  # type: ignore[arg-type]


def circle(radius: float = 50.0, centre: Point = (0, 0), allowance: float = 10.0, finish: str = "plain") -> Ring:
    """Two half circles, counter-clockwise."""
    x, y = centre
    return (
        SeamEdge("arc", ((x + radius, y), (x, y + radius), (x - radius, y)), "top", allowance, finish),  # type: ignore[arg-type]
        SeamEdge("arc", ((x - radius, y), (x, y - radius), (x + radius, y)), "bottom", allowance, finish),  # type: ignore[arg-type]
    )


def bitten_square(radius: float = 15.0, allowance: float = 10.0) -> Ring:
    """A square with a half-round bite out of its top, tighter than a wide allowance."""
    r = radius
    return (
        SeamEdge("line", ((0, 0), (120, 0)), "front", allowance),
        SeamEdge("line", ((120, 0), (120, 100)), "right", allowance),
        SeamEdge("line", ((120, 100), (60 + r, 100)), "top right", allowance),
        SeamEdge("arc", ((60 + r, 100), (60, 100 - r), (60 - r, 100)), "bite", allowance),
        SeamEdge("line", ((60 - r, 100), (0, 100)), "top left", allowance),
        SeamEdge("line", ((0, 100), (0, 0)), "left", allowance),
    )


def keyhole(allowance: float = 8.0) -> Ring:
    """A deep inlet that is wider inside than at its mouth."""
    mouth, r = 6.0, 20.0
    depth = math.sqrt(r * r - mouth * mouth)
    return (
        SeamEdge("line", ((-80, 0), (80, 0)), "front", allowance),
        SeamEdge("line", ((80, 0), (80, 120)), "right", allowance),
        SeamEdge("line", ((80, 120), (mouth, 120)), "top right", allowance),
        SeamEdge("line", ((mouth, 120), (mouth, 70 + depth)), "throat right", allowance),
        SeamEdge("arc", ((mouth, 70 + depth), (0, 50), (-mouth, 70 + depth)), "eye", allowance),
        SeamEdge("line", ((-mouth, 70 + depth), (-mouth, 120)), "throat left", allowance),
        SeamEdge("line", ((-mouth, 120), (-80, 120)), "top left", allowance),
        SeamEdge("line", ((-80, 120), (-80, 0)), "left", allowance),
    )


def needle(allowance: float = 10.0) -> Ring:
    """A triangle with a 6° point."""
    return polygon([(0, 0), (200, -10), (200, 10)], allowance)


def arrow(allowance: float = 10.0) -> Ring:
    """A concave arrowhead."""
    return polygon([(0, 0), (100, -60), (60, 0), (100, 60)], allowance)


def comb(allowance: float = 6.0) -> Ring:
    """Teeth with gaps narrower than two allowances."""
    points: list[Point] = [(0, 0), (90, 0)]
    for k in range(4, -1, -1):
        x = 18 * k
        points += [(x + 18, 60), (x + 8, 60), (x + 8, 20), (x, 20)] if k else [(18, 60), (0, 60)]
    return polygon(points, allowance)


def wave(allowance: float = 10.0) -> Ring:
    """A panel whose top is a smooth S-curve."""
    return (
        SeamEdge("line", ((0, 0), (200, 0)), "front", allowance),
        SeamEdge("line", ((200, 0), (200, 100)), "right", allowance),
        SeamEdge("curve", ((200, 100), (150, 160), (60, 30), (0, 100)), "wave", allowance),
        SeamEdge("line", ((0, 100), (0, 0)), "left", allowance),
    )


def bow_tie() -> Ring:
    """Crosses itself."""
    return polygon([(0, 0), (100, 100), (100, 0), (0, 100)])


ALL_SOUND = {
    "square": square,
    "circle": circle,
    "bitten square": bitten_square,
    "keyhole": keyhole,
    "needle": needle,
    "arrow": arrow,
    "comb": comb,
    "wave": wave,
}
