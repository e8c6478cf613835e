"""A panel: its seam line edge by edge, and what is to be done with each edge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import Edge, Point

__all__ = [
    "HOUSE_ALLOWANCE_MM",
    "CornerKind",
    "CutEdge",
    "DraftedPanel",
    "Finding",
    "Finish",
    "Hand",
    "Mark",
    "Notch",
    "Panel",
    "SeamEdge",
    "Severity",
]  # fmt: skip

Finish = Literal["plain", "hem", "bound"]
CornerKind = Literal["mitre", "bevel", "square", "mirror"]
Hand = Literal["single", "pair", "left", "right"]
Severity = Literal["stop", "look", "fine"]

HOUSE_ALLOWANCE_MM: dict[str, float] = {"plain": 12.0, "hem": 25.0, "bound": 0.0}
WIDEST_ALLOWANCE_MM = 500.0
MOST_PIECES = 500


@dataclass(frozen=True)
class SeamEdge(Edge):
    """An edge of a seam line with its allowance in mm, its finish, and the corner at its end."""

    name: str = ""
    allowance: float = 0.0
    finish: Finish = "plain"
    corner: CornerKind = "mitre"

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 0 <= self.allowance <= WIDEST_ALLOWANCE_MM:
            raise Refused(
                f"Edge “{self.name}” has an allowance of {self.allowance:g} mm; give 0 to {WIDEST_ALLOWANCE_MM:g} mm.",
                "allowance", Place(edge=self.name), {"allowance_mm": self.allowance},
            )  # fmt: skip


@dataclass(frozen=True)
class CutEdge(Edge):
    """An edge of a cutting line; `seam_edge` is the index of the seam line's edge it is parallel to, None at a corner."""

    name: str = ""
    seam_edge: int | None = None


@dataclass(frozen=True)
class Notch:
    """A notch `along_mm` from the start of an edge; single or double.

    Drafting adds where it stands on the seam line and on the cutting line, and `depth_mm`,
    how far it is snipped from the cutting line inward: half the allowance, 6 mm at most.
    """

    edge: int
    along_mm: float
    double: bool = False
    on_seam: Point | None = None
    on_cut: Point | None = None
    depth_mm: float | None = None


@dataclass(frozen=True)
class Mark:
    """A mark drawn on the panel: the grainline (two points) or the label (one point, its lines, its letters' height)."""

    kind: Literal["grain", "label"]
    points: tuple[Point, ...]
    lines: tuple[str, ...] = ()
    size_mm: float = 0.0


@dataclass(frozen=True)
class Finding:
    """What a check found: the worst is `stop`. Lengths in mm among the numbers."""

    severity: Severity
    sentence: str
    place: Place = Place()
    numbers: dict[str, float] | None = None


@dataclass(frozen=True)
class Panel:
    """A panel as its maker sets it; see the panels file in docs/formats.md.

    `notches` None asks for one in the middle of every edge that is sewn.
    """

    name: str
    seam_line: tuple[SeamEdge, ...]
    holes: tuple[tuple[SeamEdge, ...], ...] = ()
    cloth: str = "outer"
    count: int = 1
    hand: Hand = "single"
    on_fold: bool = False
    grain_deg: float = 90.0
    way_up: str = ""
    notches: tuple[Notch, ...] | None = None

    def __post_init__(self) -> None:
        if not 1 <= self.count <= MOST_PIECES:
            raise Refused(
                f"Panel “{self.name}” is to be cut {self.count} times; give 1 to {MOST_PIECES}.",
                "count", Place(panel=self.name),
            )  # fmt: skip
        for what, text, most in (
            ("name", self.name, 80),
            ("cloth", self.cloth, 40),
            ("way up", self.way_up, 60),
        ):
            if len(text) > most or any(ord(c) < 32 for c in text):
                raise Refused(
                    f"The {what} of a panel is one line of {most} letters at most.",
                    "name",
                    Place(panel=self.name[:80]),
                )

    def rings(self) -> Sequence[tuple[SeamEdge, ...]]:
        return (self.seam_line, *self.holes)


@dataclass(frozen=True)
class DraftedPanel(Panel):
    """A panel with all that follows from it. Points are flattened within 0.02 mm, the first not repeated."""

    cutting_line: tuple[CutEdge, ...] = ()
    cutting_points: tuple[Point, ...] = ()
    seam_points: tuple[Point, ...] = ()
    hole_cutting_lines: tuple[tuple[CutEdge, ...], ...] = ()
    hole_cutting_points: tuple[tuple[Point, ...], ...] = ()
    hole_seam_points: tuple[tuple[Point, ...], ...] = ()
    marks: tuple[Mark, ...] = ()
    worked: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()


def instruction(panel: Panel) -> str:
    """What to cut, in words."""
    how = {"single": f"cut {panel.count}", "pair": f"cut {panel.count} pair{'s' if panel.count > 1 else ''}"}
    words = how.get(panel.hand, f"cut {panel.count} {panel.hand}")
    return f"{words} · {panel.cloth}" + (" · on the fold" if panel.on_fold else "")


def numbers(**values: Any) -> dict[str, float]:
    return {k: round(float(v), 4) for k, v in values.items()}
