"""Further layers of a panel, cut from the same seam line (rule 3)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.feature import Carrying, Feature
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.typed import LengthOrNone, SignedLength, Words

__all__ = ["Layer", "LayerRole"]

LayerRole = Literal["lining", "wadding", "foam", "interlining"]
_LINES = ("lining", "interlining")
_SOFT = ("wadding", "foam")


@dataclass(frozen=True)
class Layer(Feature):
    """Another layer cut from the same seam line: of `cloth` (called as what it is where nothing is said), `grown` outward
    (negative: trimmed), with its own `allowance` all round; what is `cut_larger` is trimmed back once it is sewn."""

    role: LayerRole = "lining"
    cloth: Words = ""
    grown: SignedLength = 0.0
    allowance: LengthOrNone = 0.0
    cut_larger: LengthOrNone = 0.0
    id: str = ""
    kind: Literal["layer"] = "layer"

    title = message("feature_layer")

    def __post_init__(self) -> None:
        if not self.cloth:
            object.__setattr__(self, "cloth", self.role)
        if not 1 <= len(self.cloth) <= 40 or any(ord(c) < 32 for c in self.cloth):
            raise Refusal(message("layer_cloth_out_of_range"), "name")
        within(message("figure_layer_growth"), self.grown, -200, 200)
        within(message("figure_layer_allowance"), self.allowance, 0, 300)
        within(message("figure_a_layer_is_cut_larger_by"), self.cut_larger, 0, 300)

    @property
    def anchor(self) -> None:
        return None

    def words(self, edges: Mapping[str, str]) -> Message:  # noqa: ARG002 - a feature's signature
        return message("layer_listed", role=self.role, cloth=self.cloth, grown_mm=self.grown)

    def carried(self, by: Carrying) -> Iterable[Layer]:  # noqa: ARG002 - a feature's signature
        yield self

    def in_layer(self, *, soft: bool, lines: bool) -> None:  # noqa: ARG002 - a feature's signature
        return None

    def companions(self, panel: Panel) -> tuple[Panel, ...]:
        """The panel of this layer: nested inside, it is smaller by the layers around it.

        It has its own allowance all round; a fold stays a fold. What is cut larger is trimmed back
        once it is sewn, and says so. Wadding and foam have no darts, and are cut singly.
        """
        own = panel.fit or Fit()
        shrinkage = own.shrunk if self.cloth == panel.cloth else (0.0, 0.0)
        fit = replace(own, clearance=own.clearance + self.grown, shrunk=shrinkage)
        lines = self.role in _LINES
        features = (f.in_layer(soft=self.role in _SOFT, lines=lines) for f in panel.features)
        layer = replace(
            panel,
            name=f"{panel.name} {self.role}"[:80],
            cloth=self.cloth,
            way_up=message("cut_larger", by_mm=self.cut_larger) if self.cut_larger else "",
            seam_line=tuple(self._edge(e) for e in panel.seam_line),
            holes=tuple(tuple(self._edge(e, e.allowance) for e in ring) for ring in panel.holes),
            fit=None if fit == Fit() else fit,
            features=tuple(f for f in features if f),
            middle_notches=panel.middle_notches and lines,
            lies=None,
        )
        return (layer,)

    def _edge(self, edge: SeamEdge, most_mm: float = math.inf) -> SeamEdge:
        """An edge with the layer's allowance; a hole's isn't wider than it is in the panel, so that it isn't filled."""
        if edge.finishing.is_on_fold:
            return edge
        width = min(self.allowance + self.cut_larger, most_mm)
        finish = "raw" if width == 0 or (edge.is_cut_on_seam and not self.cut_larger) else "plain"
        plain = SeamEdge(edge.kind, edge.points, edge.name, id=edge.id)
        return replace(plain, allowance=0.0 if finish == "raw" else width, finish=finish)
