"""Changes of what a panel has beyond its edges: its ease, and its features."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from typing import Literal

from ypsicline.core.changes.panels import panel_of, panel_with, with_outline, with_panel
from ypsicline.core.drafting.drop import with_drop
from ypsicline.core.drafting.pad import with_tapers
from ypsicline.core.drafting.pivot import pivot_dart
from ypsicline.core.geometry.edges import Edge, Point
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_changes import with_feature, without_feature
from ypsicline.core.pattern.features.aperture import Aperture, placed_from
from ypsicline.core.pattern.features.feature import AnyFeature, Feature
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.taper import Preset
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.trueing.shape import true_edges
from ypsicline.core.typed import LengthOrNone, NumberOrNone, Share, SignedLength

__all__ = ["InsideEdge", "OutlineOf", "PivotDart", "RemoveFeature", "SetDrop", "SetFeature", "SetFit", "SetTapers"]


@dataclass(frozen=True)
class SetFit:
    """A panel's ease: in percent of its size, lengths in mm, and the cloth's stretch in use along and across the grain.
    What isn't told stays as it is."""

    panel: str
    percent: NumberOrNone | None = None
    width: SignedLength | None = None
    height: SignedLength | None = None
    clearance: SignedLength | None = None
    girth: SignedLength | None = None
    over: SignedLength | None = None
    warp_stretched: Share | None = None
    weft_stretched: Share | None = None
    kind: Literal["set_fit"] = "set_fit"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        fit = panel.fit or Fit()
        told = {f.name: getattr(self, f.name) for f in fields(fit) if getattr(self, f.name, None) is not None}
        warp, weft = fit.stretched
        stretched = (
            warp if self.warp_stretched is None else self.warp_stretched,
            weft if self.weft_stretched is None else self.weft_stretched,
        )
        return with_panel(job, replace(panel, fit=replace(fit, **told, stretched=stretched)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("ease_set")


@dataclass(frozen=True)
class OutlineOf:
    """Whose outline an aperture has: a captured piece's, trued, or a panel's."""

    what: Literal["piece", "panel"]
    id: str


@dataclass(frozen=True)
class InsideEdge:
    """A place by how far it lies inside an edge of the outline."""

    edge: str
    by: LengthOrNone


@dataclass(frozen=True)
class SetFeature:
    """A feature put on a panel, or, with the id of one that is there, changed. What stands inside may be placed by how far
    it lies `inside` two edges; an aperture may have the outline of something else."""

    panel: str
    feature: AnyFeature
    inside: tuple[InsideEdge, InsideEdge] | None = None
    outline_of: OutlineOf | None = None
    kind: Literal["set_feature"] = "set_feature"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        feature: Feature = self.feature
        if self.inside and isinstance(feature, Aperture | MarkAt):
            one, other = self.inside
            feature = replace(feature, at=placed_from(panel.seam_line, one.edge, one.by, other.edge, other.by))
        if self.outline_of and isinstance(feature, Aperture):
            feature = replace(feature, ring=_outline_of(job, self.outline_of), size=(0.0, 0.0))
        return with_panel(job, with_feature(panel, feature))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("feature_set", feature=self.feature.title)


def _outline_of(job: JobDocument, of: OutlineOf) -> tuple[Point, ...]:
    """The outline of a captured piece, trued, or of a panel, about its middle."""
    lines: Sequence[Edge]
    if of.what == "panel":
        lines = panel_of(job, of.id).seam_line
    else:
        shape = job.piece_of(of.id).shape
        lines = true_edges(shape.outline, shape.tolerance_mm)
    points = flatten_ring(lines, 0.05)
    middle = (points.min(axis=0) + points.max(axis=0)) / 2
    return tuple((float(x), float(y)) for x, y in points - middle)


@dataclass(frozen=True)
class RemoveFeature:
    feature: str
    kind: Literal["remove_feature"] = "remove_feature"

    def on(self, job: JobDocument) -> JobDocument:
        return with_panel(job, without_feature(panel_with(job, self.feature), self.feature))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        feature = next(f for p in before.panels for f in p.features if f.id == self.feature)
        return message("feature_removed", feature=feature.title)


@dataclass(frozen=True)
class SetTapers:
    """Tapers at the ends of these edges, by a preset, or of a `depth` as they are tried in."""

    panel: str
    edges: tuple[str, ...]
    preset: Preset = "usual"
    curved: bool = False
    depth: int | None = None
    kind: Literal["set_tapers"] = "set_tapers"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        return with_panel(job, with_tapers(panel, self.edges, self.preset, curved=self.curved, depth=self.depth))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("corners_tapered")


@dataclass(frozen=True)
class PivotDart:
    """A dart closed where it is, by a `share`, and opened `along` another edge from its start."""

    dart: str
    edge: str
    along: LengthOrNone
    share: Share = 1.0
    kind: Literal["pivot_dart"] = "pivot_dart"

    def on(self, job: JobDocument) -> JobDocument:
        return with_outline(job, pivot_dart(panel_with(job, self.dart), self.dart, self.edge, self.along, self.share))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        panel = panel_with(before, self.dart)
        has_other_ease = panel.fit != panel_of(after, panel.id).fit
        return message("dart_pivoted_ease_drawn_in" if has_other_ease else "dart_pivoted")


@dataclass(frozen=True)
class SetDrop:
    """A plan that hangs down all round by `drop`, its corners taken in by darts or pleats."""

    panel: str
    drop: LengthOrNone
    tuck: LengthOrNone = 0.0
    how: Literal["dart", "pleats"] = "dart"
    pleats: int = 2
    kind: Literal["set_drop"] = "set_drop"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        return with_panel(job, with_drop(panel, self.drop, self.tuck, how=self.how, pleats=self.pleats))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("dropped_over_its_edge")
