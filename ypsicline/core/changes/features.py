"""Changes of what a panel has beyond its edges: ease, tapers, darts, pleats, gathers, apertures, marks, layers.

`index` is the place of the one that is replaced among those of its kind; None adds one.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from dataclasses import replace as replaced
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, ValidationInfo, WithJsonSchema

from ypsicline.core.changes.change import Change
from ypsicline.core.changes.panels import panel_at, panel_changed, with_panel
from ypsicline.core.drafting.apertures import placed_from
from ypsicline.core.drafting.drop import with_drop
from ypsicline.core.drafting.edge_changes import Feature, FeatureList, with_feature, without_feature
from ypsicline.core.drafting.features import (
    Aperture,
    ApertureFinish,
    Dart,
    Fit,
    Gather,
    Layer,
    LayerRole,
    MarkAt,
    MarkKind,
    Pleats,
    Taper,
)
from ypsicline.core.drafting.pad import deeper, with_tapers
from ypsicline.core.drafting.panel import Panel
from ypsicline.core.drafting.pivot import pivot_dart
from ypsicline.core.drafting.tapers import Preset
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Edge, Point
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import parse_length
from ypsicline.core.trueing.shape import true_edges
from ypsicline.core.typed import (
    Length,
    LengthOrNone,
    Number,
    NumberOrNone,
    Share,
    SignedLength,
    SignedLengthIfTyped,
    Words,
)

__all__ = [
    "InsideEdge", "OutlineOf", "PivotDart", "RemoveFeature", "SetAperture", "SetDart", "SetDrop", "SetFit", "SetGather", "SetLayer",
    "SetMark", "SetPleats", "SetTaper", "SetTapers", "setting_again",
]  # fmt: skip

_PLEAT_DEPTH_MM = 50.0
_CALLED: dict[FeatureList, str] = {
    "tapers": "Taper", "darts": "Dart", "pleats": "Pleats", "gathers": "Gather", "apertures": "Aperture", "placed": "Mark",
    "layers": "Layer",
}  # fmt: skip


def _stocked(given: Any, info: ValidationInfo) -> Any:
    if not isinstance(given, str):
        return given
    return tuple(parse_length(t, (info.context or {}).get("unit", "mm")) for t in given.split(";") if t.strip())


Stocked = Annotated[
    tuple[float, ...],
    BeforeValidator(_stocked),
    WithJsonSchema({"anyOf": [{"type": "string"}, {"type": "array", "items": {"type": "number"}}]}),
]
"""Lengths in stock, mm; as text with semicolons between."""


@dataclass(frozen=True)
class SetFit:
    """A panel's ease: in percent of its size, lengths in mm, and the cloth's stretch in use along and across the grain."""

    panel: int
    percent: NumberOrNone = 0.0
    width: SignedLength = 0.0
    height: SignedLength = 0.0
    clearance: SignedLength = 0.0
    girth: SignedLength = 0.0
    over: SignedLength = 0.0
    warp_stretched: Share = 0.0
    weft_stretched: Share = 0.0
    kind: Literal["set_fit"] = "set_fit"

    def on(self, job: JobDocument) -> JobDocument:
        fit = Fit(
            self.percent, self.width, self.height, self.clearance, self.girth, self.over,
            stretched=(self.warp_stretched, self.weft_stretched),
        )  # fmt: skip
        return panel_changed(job, self.panel, lambda p: replaced(p, fit=fit))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Ease set"


class _Feature(ABC):
    """A change that puts one feature on a panel."""

    panel: int
    index: int | None
    _list: FeatureList

    @abstractmethod
    def feature(self, job: JobDocument) -> Feature:
        """What is put on."""

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(job, self.panel, lambda p: with_feature(p, self.feature(job), self.index))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return f"{_CALLED[self._list]} set"


@dataclass(frozen=True)
class SetTaper(_Feature):
    """A tapered corner at the end of an edge; as far along the next edge where nothing else is said."""

    panel: int
    edge: int
    reach: Length
    inset: Length
    reach_after: LengthOrNone = 0.0
    curved: bool = False
    index: int | None = None
    kind: Literal["set_taper"] = "set_taper"
    _list = "tapers"

    def feature(self, job: JobDocument) -> Taper:
        return Taper(self.edge, self.reach, self.reach_after or self.reach, self.inset, self.curved)


@dataclass(frozen=True)
class SetDart(_Feature):
    panel: int
    edge: int
    intake: Length
    length: Length
    along: LengthOrNone = 0.0
    lean: SignedLength = 0.0
    bow: SignedLength = 0.0
    towards: Literal["start", "end"] = "start"
    cut: bool = False
    corner: bool = False
    index: int | None = None
    kind: Literal["set_dart"] = "set_dart"
    _list = "darts"

    def feature(self, job: JobDocument) -> Dart:
        return Dart(
            self.edge, self.along, self.intake, self.length, self.lean, self.bow, self.towards, self.cut, self.corner
        )


@dataclass(frozen=True)
class SetPleats(_Feature):
    panel: int
    edge: int
    intake: Length
    along: LengthOrNone = 0.0
    count: int = 1
    pitch: LengthOrNone = 0.0
    towards: Literal["start", "end", "box"] = "start"
    depth: LengthOrNone = _PLEAT_DEPTH_MM
    index: int | None = None
    kind: Literal["set_pleats"] = "set_pleats"
    _list = "pleats"

    def feature(self, job: JobDocument) -> Pleats:
        depth = self.depth or _PLEAT_DEPTH_MM
        return Pleats(self.edge, self.along, self.intake, self.count, self.pitch, self.towards, depth)


@dataclass(frozen=True)
class SetGather(_Feature):
    panel: int
    edge: int
    ratio: Number = 2.0
    index: int | None = None
    kind: Literal["set_gather"] = "set_gather"
    _list = "gathers"

    def feature(self, job: JobDocument) -> Gather:
        return Gather(self.edge, self.ratio)


@dataclass(frozen=True)
class OutlineOf:
    """Whose outline an aperture has: a captured piece's, trued, or a panel's."""

    what: Literal["piece", "panel"]
    at: int


@dataclass(frozen=True)
class InsideEdge:
    """A place by how far it lies inside an edge of the outline."""

    edge: int
    by: LengthOrNone


@dataclass(frozen=True)
class SetAperture(_Feature):
    """An opening with its middle at (`x`, `y`), or where it lies so far inside two edges. `across` and `up` are what
    passes through it; a round one needs only the first, one with the outline of something else neither."""

    panel: int
    shape: Literal["round", "slot", "rectangle", "outline"] = "round"
    name: Words = "aperture"
    x: SignedLength = 0.0
    y: SignedLength = 0.0
    across: LengthOrNone = 0.0
    up: LengthOrNone = 0.0
    finish: ApertureFinish = "hemmed"
    clearance: LengthOrNone = 0.0
    turn_deg: NumberOrNone = 0.0
    depth: LengthOrNone = 0.0
    slit: bool = False
    slit_deg: Number | None = None
    stocked: Stocked = ()
    zip_shows: LengthOrNone = 0.0
    cord_exit: LengthOrNone = 0.0
    outline_of: OutlineOf | None = None
    inside: tuple[InsideEdge, InsideEdge] | None = None
    index: int | None = None
    kind: Literal["set_aperture"] = "set_aperture"
    _list = "apertures"

    def feature(self, job: JobDocument) -> Aperture:
        at = (self.x, self.y)
        if self.inside:
            one, other = self.inside
            at = placed_from(panel_at(job, self.panel).seam_line, one.edge, one.by, other.edge, other.by)
        ring: tuple[Point, ...] = ()
        size = (self.across, self.across if self.shape == "round" else self.up)
        if self.shape == "outline":
            ring = _drawn(job, self.outline_of)
            xs, ys = zip(*ring, strict=True)
            size = (max(xs) - min(xs), max(ys) - min(ys))
        elif not all(size):
            raise Refused("Type in how large what passes through the aperture is.", "measure")
        return Aperture(
            self.shape, at, size, self.finish, self.name or "aperture", self.clearance, self.turn_deg, self.depth, self.slit,
            self.slit_deg, self.stocked, self.zip_shows, self.cord_exit, ring,
        )  # fmt: skip


def _drawn(job: JobDocument, of: OutlineOf | None) -> tuple[Point, ...]:
    """The outline of a captured piece, trued, or of a panel, about its middle."""
    lines: Sequence[Edge] = ()
    if of and of.what == "panel" and 0 <= of.at < len(job.panels):
        lines = job.panels[of.at].seam_line
    elif of and of.what == "piece" and 0 <= of.at < len(job.pieces):
        shape = job.pieces[of.at].shape
        lines = true_edges(shape.outline, shape.tolerance_mm)
    if not lines:
        raise Refused("Choose the captured piece or the panel whose outline the aperture has.", "aperture")
    points = flatten_ring(lines, 0.05)
    middle = (points.min(axis=0) + points.max(axis=0)) / 2
    return tuple((float(x), float(y)) for x, y in points - middle)


@dataclass(frozen=True)
class SetMark(_Feature):
    """A mark at a point, or from there to another."""

    panel: int
    mark: MarkKind
    x: SignedLength = 0.0
    y: SignedLength = 0.0
    to_x: SignedLengthIfTyped = None
    to_y: SignedLengthIfTyped = None
    text: Words = ""
    index: int | None = None
    kind: Literal["set_mark"] = "set_mark"
    _list = "placed"

    def feature(self, job: JobDocument) -> MarkAt:
        goes_on = self.to_x is not None or self.to_y is not None
        return MarkAt(self.mark, (self.x, self.y), (self.to_x or 0.0, self.to_y or 0.0) if goes_on else None, self.text)


@dataclass(frozen=True)
class SetLayer(_Feature):
    """Another layer cut from the panel's seam line; its cloth is called as what it is where nothing else is said."""

    panel: int
    role: LayerRole = "lining"
    cloth: Words = ""
    grown: SignedLength = 0.0
    allowance: LengthOrNone = 0.0
    cut_larger: LengthOrNone = 0.0
    index: int | None = None
    kind: Literal["set_layer"] = "set_layer"
    _list = "layers"

    def feature(self, job: JobDocument) -> Layer:
        return Layer(self.role, self.cloth or self.role, self.grown, self.allowance, self.cut_larger)


def setting_again(feature: Feature, panel: int, index: int) -> Change:
    """The change that puts a feature on as it is, to start from when it is to be changed."""
    match feature:
        case Taper():
            return SetTaper(
                panel, feature.edge, feature.reach, feature.inset, feature.reach_after, feature.curved, index
            )
        case Dart():
            return SetDart(
                panel, feature.edge, feature.intake, feature.length, feature.along, feature.lean, feature.bow,
                feature.towards, feature.cut, feature.corner, index,
            )  # fmt: skip
        case Pleats():
            return SetPleats(
                panel, feature.edge, feature.intake, feature.along, feature.count, feature.pitch, feature.towards,
                feature.depth, index,
            )  # fmt: skip
        case Gather():
            return SetGather(panel, feature.edge, feature.ratio, index)
        case Aperture():
            return SetAperture(
                panel, feature.kind, feature.name, *feature.at, *feature.size, feature.finish, feature.clearance,
                feature.turn_deg, feature.depth, feature.slit, feature.slit_deg, feature.stocked, feature.zip_shows,
                feature.cord_exit, index=index,
            )  # fmt: skip
        case MarkAt():
            to_x, to_y = feature.to or (None, None)
            return SetMark(panel, feature.kind, *feature.at, to_x, to_y, feature.words, index)
        case Layer():
            return SetLayer(
                panel, feature.role, feature.cloth, feature.grown, feature.allowance, feature.cut_larger, index
            )


@dataclass(frozen=True)
class RemoveFeature:
    """One of a panel's features of a kind taken off."""

    panel: int
    list: FeatureList
    index: int
    kind: Literal["remove_feature"] = "remove_feature"

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(job, self.panel, lambda p: without_feature(p, self.list, self.index))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return f"{_CALLED[self.list]} taken off"


@dataclass(frozen=True)
class SetTapers:
    """Tapers at the ends of these edges, by a preset, or by the next `deeper` step."""

    panel: int
    edges: tuple[int, ...]
    preset: Preset = "usual"
    curved: bool = False
    deeper: bool = False
    kind: Literal["set_tapers"] = "set_tapers"

    def on(self, job: JobDocument) -> JobDocument:
        def how(panel: Panel) -> Panel:
            step = deeper(panel) if self.deeper else None
            if self.deeper and step is None:
                raise Refused("These tapers reach as far as they can; a fuller pad wants another shape.", "taper")
            return with_tapers(panel, self.edges, self.preset, curved=self.curved, step=step)

        return panel_changed(job, self.panel, how)

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Corners tapered"


@dataclass(frozen=True)
class PivotDart:
    """A dart closed where it is, by a `share`, and opened `along` another edge from its start."""

    panel: int
    dart: int
    edge: int
    along: LengthOrNone
    share: Share = 1.0
    kind: Literal["pivot_dart"] = "pivot_dart"

    def on(self, job: JobDocument) -> JobDocument:
        made = pivot_dart(panel_at(job, self.panel), self.dart, self.edge, self.along, self.share)
        return with_panel(job, self.panel, made)

    def words(self, before: JobDocument, after: JobDocument) -> str:
        eased = panel_at(before, self.panel).fit != panel_at(after, self.panel).fit
        return "Dart turned about its point" + ("; the ease is in the outline now" if eased else "")


@dataclass(frozen=True)
class SetDrop:
    """A plan that hangs down all round by `drop`, its corners taken in by darts or pleats."""

    panel: int
    drop: LengthOrNone
    tuck: LengthOrNone = 0.0
    how: Literal["dart", "pleats"] = "dart"
    pleats: int = 2
    kind: Literal["set_drop"] = "set_drop"

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(
            job, self.panel, lambda p: with_drop(p, self.drop, self.tuck, how=self.how, pleats=self.pleats)
        )

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Dropped over its edge"
