"""Notches: where an edge is matched with its mate (rule 10)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.anchors import OnEdge
from ypsicline.core.pattern.features.feature import Carrying, Feature
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.typed import Length

__all__ = ["Notch", "middle_notches", "notches_of"]

SHORTEST_NOTCHED_MM = 20.0
_SAME_PLACE_MM = 1.0


@dataclass(frozen=True)
class Notch(Feature):
    """A notch `along` an edge of the outline from its start; single or double."""

    edge: str
    along: Length
    double: bool = False
    id: str = ""
    kind: Literal["notch"] = "notch"

    title = message("feature_notch")
    is_listed = False

    @property
    def anchor(self) -> OnEdge:
        return OnEdge(self.edge, self.along)

    def words(self, edges: Mapping[str, str]) -> Message:
        values: dict[str, Value] = {"edge": edges.get(self.edge, "?"), "along_mm": self.along}
        return message("double_notch_listed", **values) if self.double else message("notch_listed", **values)

    def carried(self, by: Carrying) -> Iterable[Notch]:
        place = by.edges.at(self.edge, self.along)
        if place is not None:
            yield replace(self, edge=place[0], along=place[1])

    def in_layer(self, *, soft: bool, lines: bool) -> Notch | None:  # noqa: ARG002 - a feature's signature
        return self if lines else None

    def put_on(self, panel: Panel, before: Feature | None) -> Notch:
        others = (n for n in notches_of(panel) if before is None or n.id != before.id)
        if any(n.edge == self.edge and abs(n.along - self.along) < _SAME_PLACE_MM for n in others):
            raise Refusal(message("notch_here_already"), "notch")
        return self


def notches_of(panel: Panel) -> tuple[Notch, ...]:
    """All notches of a panel: those in the middle of its edges, where it has them, and those that were placed."""
    return (*(middle_notches(panel.seam_line) if panel.middle_notches else ()), *panel.of(Notch))


def middle_notches(seam: Sequence[SeamEdge]) -> tuple[Notch, ...]:
    """One notch in the middle of every edge that is sewn to another and long enough for one, a double one on an edge
    that is called the back. It is known by its edge."""
    return tuple(
        Notch(e.id, length / 2, "back" in e.name.lower(), f"{e.id}.middle")
        for e in seam
        if e.allowance > 0
        and not (e.is_folded_back or e.is_cut_on_seam)
        and (length := edge_length(e)) >= SHORTEST_NOTCHED_MM
    )
