"""Marks that a maker places on a panel."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import shapely

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.anchors import Inside
from ypsicline.core.pattern.features.feature import Carrying, DrawnInside, Feature
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.mark import MARK_NAMES, Mark
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.typed import SignedLength, Words

__all__ = ["MarkAt", "MarkKind"]

MarkKind = Literal[
    "button", "tie", "exit", "bar", "lock", "patch", "hand_sewn", "centre", "cross", "wrong_side", "top", "note",
]  # fmt: skip
_ON_IT_MM = 0.05


@dataclass(frozen=True)
class MarkAt(Feature):
    """A mark at a point of the panel, or from `at` to `to` (a hand-sewn stretch, a centre line), with words."""

    mark: MarkKind
    at: tuple[SignedLength, SignedLength]
    to: tuple[SignedLength, SignedLength] | None = None
    text: Words = ""
    id: str = ""
    kind: Literal["mark"] = "mark"

    title = message("feature_mark")

    def __post_init__(self) -> None:
        for value in (*self.at, *(self.to or ())):
            within(message("figure_place_of_a_mark"), value, -1e6, 1e6)
        if len(self.text) > 80 or any(ord(c) < 32 for c in self.text):
            raise Refusal(message("mark_text_out_of_range"), "name", Place(point=self.at))

    @property
    def anchor(self) -> Inside:
        return Inside(self.at)

    def words(self, edges: Mapping[str, str]) -> Message:  # noqa: ARG002 - a feature's signature
        return message("mark_with_text", text=self.text) if self.text else MARK_NAMES[self.mark]

    def carried(self, by: Carrying) -> Iterable[MarkAt]:
        shape = shapely.LineString([self.at, self.to]) if self.to else shapely.Point(self.at)
        to = by.plane.of(shape, message("thing_mark"), self.at)
        yield replace(self, at=to.point(self.at), to=self.to and to.point(self.to))

    def fitted(self, ring: FittedRing) -> MarkAt:
        return replace(self, at=ring.point(self.at), to=self.to and ring.point(self.to))

    def inside(self, seam: Sequence[SeamEdge], around: Array, cloth: Transform | None) -> DrawnInside:  # noqa: ARG002
        """The mark; one that lies off the panel is said."""
        points = (self.at, self.to) if self.to else (self.at,)
        body = shapely.Polygon(around).buffer(_ON_IT_MM)
        findings: tuple[Finding, ...] = ()
        if not all(body.covers(shapely.Point(p)) for p in points):
            text = message("mark_outside", mark=self.text or self.mark.replace("_", " "))
            findings = (Finding("look", text, Place(point=self.at)),)
        return DrawnInside(marks=(Mark(self.mark, points, (self.text,) if self.text else (), 3.0),), findings=findings)

    def in_layer(self, *, soft: bool, lines: bool) -> None:  # noqa: ARG002 - a feature's signature
        return None
