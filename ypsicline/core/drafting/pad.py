"""Tapers for a whole pad: put on, tried by filling it, as shallow as its corners stay in with; and their template."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import count

import numpy as np
import shapely

from ypsicline.core.drafting.draft import seam_runs
from ypsicline.core.drafting.inflated import Corner, Inflated, Progress, corners_of, inflating
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import Point, edge_length, tangent_at
from ypsicline.core.geometry.plane import turn_between
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.messages import message
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.taper import Preset, Taper, usual_taper
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["DEEPEST", "FilledPad", "TaperTrial", "corner_template", "filling", "least_tapers", "with_tapers"]

ENOUGH = 0.02
# a pad filled roughly whose corners stand out by so much more isn't filled finely to see that it's too much
_CLEARLY = 0.02
# tapers are tried from depth 1 to this; their reach and inset, of the shorter side, at depths evenly from first to last
DEEPEST = 16
_REACHES, _INSETS = (0.25, 0.3, 0.36, 0.42, 0.47), (0.03, 0.045, 0.06, 0.07, 0.075)
_CONVEX_RAD = math.radians(15)
_TEMPLATE_MARGIN_MM = 40.0


@dataclass(frozen=True)
class FilledPad:
    """A pad as it comes out filled, with its corners, and the sides that it was meant to have drawn in with them."""

    shape: Inflated
    corners: tuple[Corner, ...]
    worst: float

    @property
    def is_enough(self) -> bool:
        return self.worst < ENOUGH


@dataclass(frozen=True)
class TaperTrial:
    """A pad filled with tapers of a depth, 1 to `DEEPEST`."""

    depth: int
    pad: FilledPad

    @property
    def reach_share(self) -> float:
        """How far its tapers reach, of the shorter side at each corner."""
        return _of_depth(self.depth)[0]


def _of_depth(depth: int) -> tuple[float, float]:
    """Reach and inset of tapers, of the shorter side."""
    reach, inset = (
        float(np.interp(depth, np.linspace(1, DEEPEST, len(shares)), shares)) for shares in (_REACHES, _INSETS)
    )
    return reach, inset


def with_tapers(
    panel: Panel, edges: Sequence[str], preset: Preset = "usual", *, curved: bool = False, depth: int | None = None
) -> Panel:
    """The panel with a taper at the end of each of these edges, by the preset, or of a depth from 1 to `DEEPEST`.

    Raises `Refusal` where none of these corners can be tapered, and for another depth.
    """
    if depth is not None and not 1 <= depth <= DEEPEST:
        raise Refusal(message("no_such_taper_depth", deepest=DEEPEST), "taper", Place(panel=panel.name))
    plain = replace(panel, features=panel.without(Taper))
    runs = {r.source: r.edge for r in seam_runs(plain)}
    after = _following(panel)
    tapers: list[Taper] = []
    for edge in edges:
        first, second = runs.get(edge), runs.get(after.get(edge, ""))
        if first is None or second is None:
            raise Refusal(message("corner_gone"), "taper", Place(panel=panel.name))
        if turn_between(tangent_at(first, 1.0), tangent_at(second, 0.0)) < _CONVEX_RAD:
            continue
        lengths = edge_length(first), edge_length(second)
        taper = usual_taper(edge, *lengths, preset, curved=curved)
        if depth is not None:
            reach, inset = (min(lengths) * share for share in _of_depth(depth))
            taper = replace(taper, reach=reach, reach_after=reach, inset=inset)
        tapers.append(taper)
    if not tapers:
        raise Refusal(message("no_corner_to_taper"), "taper", Place(panel=panel.name))
    others = (f for f in panel.features if not (isinstance(f, Taper) and f.edge in edges))
    return replace(panel, features=(*others, *tapers))


def filling(panel: Panel, progress: Progress | None = None) -> Iterator[FilledPad]:
    """The panel as both plies of a pad, filled as tight as they go: what its plan becomes, roughly and then finely.

    It is filled as it is once finished, its cloth shrunk and stretched. Raises `Refusal` for a panel that can't be filled.
    """
    finished_panel = replace(panel, features=panel.without(Dart), fit=panel.fit and panel.fit.of_ease)
    sides = [r.edge for r in seam_runs(replace(finished_panel, features=finished_panel.without(Taper)))]
    runs = seam_runs(finished_panel)
    for state in inflating(flatten_ring([r.edge for r in runs], 0.2), progress=progress):
        corners = corners_of(sides, state)
        yield FilledPad(state, corners, max((c.share for c in corners), default=0.0))


def least_tapers(
    panel: Panel, edges: Sequence[str], *, curved: bool = False, progress: Progress | None = None
) -> Iterator[TaperTrial]:
    """Pads filled with tapers at the ends of these edges, each as far as it says something; the last is the shallowest that
    keeps the corners in, or the deepest there is where none does.

    The depth is halved in on: deeper tapers keep them in at least as well. Raises `Refusal` as `with_tapers` and `filling`.
    """
    too_shallow, deep_enough, tries = 0, DEEPEST + 1, math.ceil(math.log2(DEEPEST + 1))
    best: TaperTrial | None = None
    for k in count():
        depth = (too_shallow + deep_enough) // 2

        def here(share: float, k: int = k) -> None:
            if progress is not None:
                progress((k + share) / tries)

        for pad in filling(with_tapers(panel, edges, curved=curved, depth=depth), here):
            trial = TaperTrial(depth, pad)
            yield trial
            if pad.worst > ENOUGH + _CLEARLY:
                break
        if pad.is_enough:
            deep_enough, best = depth, trial
        else:
            too_shallow = depth
        if deep_enough - too_shallow == 1:
            break
    if best not in (None, trial):
        yield best


def _following(panel: Panel) -> dict[str, str]:
    """Of each edge of the outline the one that follows it."""
    names = [e.id for e in panel.seam_line]
    return dict(zip(names, [*names[1:], *names[:1]], strict=True))


def corner_template(draft: DraftedPanel, at: Point, reach_mm: float) -> Panel:
    """A card template of one corner, to be laid on the raw edges: the allowance is in it, the seam line drawn on it.

    Raises `Refusal` where the panel has no cloth at the corner.
    """
    cloth = shapely.Polygon(draft.cutting_points)
    size = reach_mm + _TEMPLATE_MARGIN_MM
    template = cloth.intersection(shapely.Point(at).buffer(size, quad_segs=24))
    parts = [g for g in shapely.get_parts(template) if g.geom_type == "Polygon"]
    if not parts:
        raise Refusal(message("no_corner_for_template"), "taper", Place(panel=draft.name, point=at))
    shape = max(parts, key=lambda g: float(g.area)).simplify(0.02)
    ring = np.asarray(shapely.geometry.polygon.orient(shape).exterior.coords)[:-1]
    points: list[Point] = [(float(x), float(y)) for x, y in ring]
    seam = tuple(
        SeamEdge("line", (p, points[(k + 1) % len(points)]), "cut edge", 0.0, "raw", "mitre")
        for k, p in enumerate(points)
    )
    line = shapely.LinearRing(draft.seam_points).intersection(shape.buffer(-0.01))
    marks = [
        MarkAt("note", (float(a[0]), float(a[1])), (float(b[0]), float(b[1])))
        for part in shapely.get_parts(line)
        if part.geom_type == "LineString"
        for a, b in zip(part.simplify(0.05).coords[:-1], part.simplify(0.05).coords[1:], strict=True)
    ]
    name = f"{draft.name} corner template"[:80]
    return Panel(
        name,
        seam,
        cloth="card",
        way_up=message("lay_on_raw_edges"),
        middle_notches=False,
        features=tuple(marks[:200]),
    )
