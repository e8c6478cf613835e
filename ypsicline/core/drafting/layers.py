"""The pieces that go with a panel: its layers, and the facings of its apertures."""

from __future__ import annotations

import math
from dataclasses import replace

from ypsicline.core.drafting.apertures import facing_of
from ypsicline.core.drafting.features import Fit, Layer
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.drafting.panel import CUT_ON_SEAM, Finish, Panel, SeamEdge

__all__ = ["companions", "layer_of"]

_LIKE_LINING = ("lining", "interlining")


def companions(panel: Panel, house: House | None = None) -> tuple[Panel, ...]:
    """Every piece that follows from a panel: its layers, each in its own cloth of the `house`, then the facings of its
    faced apertures."""
    layers = [layer_of(panel, layer) for layer in panel.layers]
    layers = [in_house(p, house) for p in layers] if house else layers
    facings = [facing_of(panel, a) for a in panel.apertures if a.finish == "faced"]
    return (*layers, *facings)


def layer_of(panel: Panel, layer: Layer) -> Panel:
    """Another layer from the same seam line (rule 3: nested inside, it is smaller by the layers around it).

    It has its own allowance all round; a fold stays a fold. What is cut larger is trimmed back
    once it is sewn, and says so. Wadding and foam have no darts, and are cut singly.
    """
    own = panel.fit or Fit()
    shrunk = own.shrunk if layer.cloth == panel.cloth else (0.0, 0.0)
    fit = replace(own, clearance=own.clearance + layer.grown, shrunk=shrunk)
    soft = layer.role in ("wadding", "foam")
    words = f"cut {layer.cut_larger:g} larger, trimmed back once it is sewn" if layer.cut_larger else ""
    return replace(
        panel,
        name=f"{panel.name} {layer.role}"[:80],
        cloth=layer.cloth,
        way_up=words,
        seam_line=tuple(_own(e, layer) for e in panel.seam_line),
        holes=tuple(tuple(_own(e, layer, e.allowance) for e in ring) for ring in panel.holes),
        fit=None if fit == Fit() else fit,
        darts=() if soft else panel.darts,
        pleats=() if soft else panel.pleats,
        gathers=() if soft else panel.gathers,
        apertures=tuple(
            replace(a, finish="raw", slit=False) if soft or a.finish == "faced" else a for a in panel.apertures
        ),
        notches=panel.notches if layer.role in _LIKE_LINING else (),
        placed=(),
        layers=(),
        lies=None,
    )


def _own(edge: SeamEdge, layer: Layer, most_mm: float = math.inf) -> SeamEdge:
    """The edge with the layer's allowance; a hole's isn't wider than it is in the panel, so that it isn't filled."""
    if edge.finish == "fold":
        return edge
    width = min(layer.allowance + layer.cut_larger, most_mm)
    finish: Finish = "raw" if width == 0 or (edge.finish in CUT_ON_SEAM and not layer.cut_larger) else "plain"
    plain = SeamEdge(edge.kind, edge.points, edge.name)
    return replace(plain, allowance=0.0 if finish == "raw" else width, finish=finish)
