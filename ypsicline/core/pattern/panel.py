"""A panel: its seam line edge by edge, what is to be done with each edge, and its features."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate, chain, pairwise
from typing import Literal, TypeVar

import numpy as np

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.likeness import apart_upside_down
from ypsicline.core.geometry.rings import signed_area
from ypsicline.core.known_words import check_words
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.features.feature import AnyFeature, Feature
from ypsicline.core.pattern.fit import Fit, Lies
from ypsicline.core.pattern.ids import check_id, with_ids
from ypsicline.core.pattern.mark import DraftedNotch, Mark
from ypsicline.core.pattern.seam_edge import CutEdge, SeamEdge

__all__ = ["DraftedPanel", "Hand", "Panel", "cutting_note", "instruction"]

Hand = Literal["single", "pair", "left", "right"]
MOST_PIECES = 500
MOST_FEATURES = 200
F = TypeVar("F", bound=Feature)


@dataclass(frozen=True)
class Panel:
    """A panel as its maker sets it; see the panels file in docs/formats.md.

    `middle_notches` asks for one in the middle of every edge that is sewn, beside those among its `features`. The seam line
    is the object's outline where there is a `fit`; drafting makes the seam line of it, and then its tapers and darts.
    `lies` says where it lies on the table. A drafted panel has all of that in its seam line. Edges and features without an
    id are given one that is free in the panel.
    """

    name: str
    seam_line: tuple[SeamEdge, ...]
    holes: tuple[tuple[SeamEdge, ...], ...] = ()
    cloth: str = "outer"
    count: int = 1
    hand: Hand = "single"
    on_fold: bool = False
    grain_deg: float = 90.0
    way_up: str | Message = ""
    middle_notches: bool = True
    features: tuple[AnyFeature, ...] = ()
    fit: Fit | None = None
    lies: Lies | None = None
    mitre_limit: float = 3.0
    id: str = ""

    def __post_init__(self) -> None:
        self._number()
        if not 1 <= self.count <= MOST_PIECES:
            raise Refusal(
                message("panel_count_out_of_range", panel=self.name, count=self.count, most_pieces=MOST_PIECES),
                "count", Place(panel=self.name),
            )  # fmt: skip
        if not 1 <= self.mitre_limit <= 20:
            raise Refusal(message("mitre_limit_out_of_range"), "corner", Place(panel=self.name))
        for kind, many in Counter(type(f) for f in self.features).items():
            if many > MOST_FEATURES:
                raise Refusal(message("too_many_features", most_features=MOST_FEATURES, kind=kind.title), "feature")
        for what, text, most in (
            (message("text_name"), self.name, 80),
            (message("text_cloth"), self.cloth, 40),
            (message("text_way_up"), self.way_up, 60),
        ):
            if isinstance(text, Message):
                check_words(text)
                continue
            if len(text) > most or any(ord(c) < 32 for c in text):
                raise Refusal(message("panel_text_too_long", what=what, most=most), "name", Place(panel=self.name[:80]))

    def _number(self) -> None:
        """Edges and features without an id get one."""
        check_id(self.id)
        flat = tuple(chain.from_iterable(self.rings()))
        edges, features = with_ids("edge", flat), with_ids("feature", self.features)
        if edges != flat:
            stops = accumulate((len(r) for r in self.rings()), initial=0)
            seam_line, *holes = (edges[a:b] for a, b in pairwise(stops))
            object.__setattr__(self, "seam_line", seam_line)
            object.__setattr__(self, "holes", tuple(holes))
        if features != self.features:
            object.__setattr__(self, "features", features)

    def of(self, kind: type[F]) -> tuple[F, ...]:
        """Its features of one kind."""
        return tuple(f for f in self.features if isinstance(f, kind))

    def without(self, *kinds: type[Feature]) -> tuple[Feature, ...]:
        """Its features but those of these kinds."""
        return tuple(f for f in self.features if not isinstance(f, kinds))

    @property
    def pieces(self) -> int:
        """How many pieces are cut by it: two of each pair."""
        return self.count * (2 if self.hand == "pair" else 1)

    def rings(self) -> Sequence[tuple[SeamEdge, ...]]:
        return (self.seam_line, *self.holes)


@dataclass(frozen=True)
class DraftedPanel(Panel):
    """A panel with all that follows from it. Points are flattened within 0.02 mm, the first not repeated.

    `seam_of` names, for each edge of the drafted seam line, the id of the edge of the panel as it was set
    that it comes from; rings after `own_rings` are the apertures'. `hem_cloth` are the hems as they are
    cut, with what their corners have, `folded` as they lie once they are folded back.
    """

    cutting_line: tuple[CutEdge, ...] = ()
    cutting_points: tuple[Point, ...] = ()
    seam_points: tuple[Point, ...] = ()
    hole_cutting_lines: tuple[tuple[CutEdge, ...], ...] = ()
    hole_cutting_points: tuple[tuple[Point, ...], ...] = ()
    hole_seam_points: tuple[tuple[Point, ...], ...] = ()
    notches: tuple[DraftedNotch, ...] = ()
    marks: tuple[Mark, ...] = ()
    workings: tuple[Message, ...] = ()
    findings: tuple[Finding, ...] = ()
    seam_of: tuple[str, ...] = ()
    own_rings: int = 1
    folded: tuple[tuple[Point, ...], ...] = ()
    hem_cloth: tuple[tuple[Point, ...], ...] = ()

    @cached_property
    def upside_down_mm(self) -> float:
        """How far its seam line and itself turned by 180° are apart at most, mm; reckoned once."""
        return apart_upside_down(self.seam_points)

    @cached_property
    def size_mm(self) -> float:
        """The side of a square as large as it is inside its seam line, mm; reckoned once."""
        return math.sqrt(abs(signed_area(np.asarray(self.seam_points))))


def cutting_note(panel: Panel) -> Message:
    """What to cut, and which way up."""
    pieces = instruction(panel)
    return message("cut_and_way_up", cut=pieces, way_up=panel.way_up) if panel.way_up else pieces


def instruction(panel: Panel) -> Message:
    """What to cut."""
    values: dict[str, Value] = {
        "count": panel.count,
        "cloth": panel.cloth,
        "fold": message("on_the_fold") if panel.on_fold else "",
    }
    return {
        "single": message("cut_single", **values), "pair": message("cut_pairs", **values),
        "left": message("cut_left", **values), "right": message("cut_right", **values),
    }[panel.hand]  # fmt: skip
