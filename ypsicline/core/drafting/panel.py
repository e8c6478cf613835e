"""A panel: its seam line edge by edge, and what is to be done with each edge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ypsicline.core.drafting.features import Aperture, Dart, Fit, Gather, Layer, Lies, MarkAt, Pleats, Taper
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import Edge, Point

__all__ = [
    "CUT_ON_SEAM",
    "FOLDED_BACK",
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

Finish = Literal[
    "plain", "hem", "double_hem", "casing", "bound", "faced", "piped", "felled_wide", "felled_narrow", "french",
    "lapped_over", "lapped_under", "zip", "raw", "fold",
]  # fmt: skip
CornerKind = Literal["by_rule", "mitre", "bevel", "square", "mirror", "hem_mitre"]
Hand = Literal["single", "pair", "left", "right"]
Severity = Literal["stop", "look", "fine"]

# these are folded back over their seam line, which is their finished edge
FOLDED_BACK = frozenset({"hem", "double_hem", "casing"})
# and these are cut on it
CUT_ON_SEAM = frozenset({"bound", "raw", "fold"})
WIDEST_ALLOWANCE_MM = 500.0
MOST_PIECES = 500
MOST_FEATURES = 200


@dataclass(frozen=True)
class SeamEdge(Edge):
    """An edge of a seam line with its allowance in mm, its finish, and the corner at its end.

    `turn_under` of the allowance is folded a second time; `cord_mm` (diameter) or `elastic_mm` (width) is what a
    casing carries. `by_rule` says that the allowance follows from the house rules and changes with them.
    """

    name: str = ""
    allowance: float = 0.0
    finish: Finish = "plain"
    corner: CornerKind = "mitre"
    turn_under: float = 0.0
    cord_mm: float = 0.0
    elastic_mm: float = 0.0
    by_rule: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 0 <= self.allowance <= WIDEST_ALLOWANCE_MM:
            raise Refused(
                f"Edge “{self.name}” has an allowance of {self.allowance:g} mm; give 0 to {WIDEST_ALLOWANCE_MM:g} mm.",
                "allowance", Place(edge=self.name), {"allowance_mm": self.allowance},
            )  # fmt: skip
        if not 0 <= self.turn_under <= self.allowance / 2 + 1e-9:
            raise Refused(
                f"Edge “{self.name}” turns {self.turn_under:g} mm under, of {self.allowance:g} mm; at most half of the "
                "allowance can be turned under.",
                "allowance", Place(edge=self.name), {"turn_under_mm": self.turn_under},
            )  # fmt: skip
        if not (0 <= self.cord_mm <= 100 and 0 <= self.elastic_mm <= 200):
            raise Refused(
                f"The casing of edge “{self.name}” carries a cord of 0 to 100 mm or elastic of 0 to 200 mm.",
                "casing", Place(edge=self.name),
            )  # fmt: skip

    @property
    def is_folded_back(self) -> bool:
        return self.finish in FOLDED_BACK and self.allowance > 0

    @property
    def depth(self) -> float:
        """How deep it lies once it is folded, mm."""
        return self.allowance - self.turn_under


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
    """A mark drawn on the panel: a run of points, or one, with words and their letters' height, mm.

    `grain` and `centre` lines and the folds' lines are runs; `relief` cuts and `trim` lines are to
    be cut, `slit` only once the cover is fitted.
    """

    kind: Literal[
        "grain", "label", "fold", "stitch", "dart", "dart_point", "pleat", "gather", "relief", "trim", "slit", "on_fold", "corner_dot",
        "button", "tie", "exit", "bar", "lock", "patch", "hand_sewn", "centre", "cross", "wrong_side", "top", "note",
    ]  # fmt: skip
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

    `notches` None asks for one in the middle of every edge that is sewn. The seam line is the object's
    outline where there is a `fit`; drafting makes the seam line of it, and then its tapers and
    darts. `lies` says where it lies on the table. A drafted panel has all of that in its seam line.
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
    fit: Fit | None = None
    tapers: tuple[Taper, ...] = ()
    darts: tuple[Dart, ...] = ()
    pleats: tuple[Pleats, ...] = ()
    gathers: tuple[Gather, ...] = ()
    apertures: tuple[Aperture, ...] = ()
    placed: tuple[MarkAt, ...] = ()
    layers: tuple[Layer, ...] = ()
    lies: Lies | None = None
    mitre_limit: float = 3.0

    def __post_init__(self) -> None:
        if not 1 <= self.count <= MOST_PIECES:
            raise Refused(
                f"Panel “{self.name}” is to be cut {self.count} times; give 1 to {MOST_PIECES}.",
                "count", Place(panel=self.name),
            )  # fmt: skip
        if not 1 <= self.mitre_limit <= 20:
            raise Refused("A mitre's limit is 1 to 20 times the allowance.", "corner", Place(panel=self.name))
        for what, many in (("darts", self.darts), ("apertures", self.apertures), ("marks", self.placed)):
            if len(many) > MOST_FEATURES:
                raise Refused(f"A panel has {MOST_FEATURES} {what} at most.", what, Place(panel=self.name))
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
    """A panel with all that follows from it. Points are flattened within 0.02 mm, the first not repeated.

    `seam_of` names, for each edge of the drafted seam line, the edge of the panel as it was set that
    it comes from; rings after `own_rings` are the apertures'. `folded` are the hems as they lie once
    they are folded back.
    """

    cutting_line: tuple[CutEdge, ...] = ()
    cutting_points: tuple[Point, ...] = ()
    seam_points: tuple[Point, ...] = ()
    hole_cutting_lines: tuple[tuple[CutEdge, ...], ...] = ()
    hole_cutting_points: tuple[tuple[Point, ...], ...] = ()
    hole_seam_points: tuple[tuple[Point, ...], ...] = ()
    marks: tuple[Mark, ...] = ()
    worked: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()
    seam_of: tuple[int, ...] = ()
    own_rings: int = 1
    folded: tuple[tuple[Point, ...], ...] = ()


def instruction(panel: Panel) -> str:
    """What to cut, in words."""
    how = {"single": f"cut {panel.count}", "pair": f"cut {panel.count} pair{'s' if panel.count > 1 else ''}"}
    words = how.get(panel.hand, f"cut {panel.count} {panel.hand}")
    return f"{words} · {panel.cloth}" + (" · on the fold" if panel.on_fold else "")


def numbers(**values: Any) -> dict[str, float]:
    return {k: round(float(v), 4) for k, v in values.items()}
