"""The steps of trueing a captured outline up: kept in a list, switched off, and replayed.

A step names corners and edges by where they stood when it was made, so that it still finds them
when an earlier step is switched off. One that no longer finds its corner is skipped, with a reason.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import Field

from ypsicline.core.drafting.redrawn import redrawn
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import Point
from ypsicline.core.known_words import check_words
from ypsicline.core.messages import Message, message
from ypsicline.core.trueing.bending import bend_to_tape
from ypsicline.core.trueing.dividing import Parts, divide
from ypsicline.core.trueing.folding import FoldedShape, Keep, fold
from ypsicline.core.trueing.renewing import nearest_ring, renew, splice
from ypsicline.core.trueing.scaling import scaled
from ypsicline.core.trueing.shape import (
    EdgeKindChoice,
    Shape,
    TracedRing,
    add_joint,
    letter,
    move_joint,
    remove_joint,
    set_edge_kind,
    set_smooth,
    true_up,
)
from ypsicline.core.trueing.smoothing import smooth_shape
from ypsicline.core.trueing.squaring import equal_edges, parallel_edges, square_corner
from ypsicline.core.trueing.tape import TapeMeasure
from ypsicline.core.trueing.turning import turned_over
from ypsicline.core.typed import Length

__all__ = [
    "AddCorner",
    "Bend",
    "ConfirmEdge",
    "DivideOutline",
    "Find",
    "FoldOver",
    "HoldEdges",
    "Mend",
    "MoveCorner",
    "Redraw",
    "RemoveCorner",
    "ScaleBy",
    "SetKind",
    "SetSmooth",
    "Smooth",
    "SquareUp",
    "Step",
    "TakenStep",
    "TurnOver",
    "TypedStep",
    "corner_point",
    "replay",
]  # fmt: skip

FOUND_WITHIN_MM = 20.0


@dataclass(frozen=True)
class AddCorner:
    ring: int
    at: Point
    kind: Literal["add corner"] = "add corner"

    def on(self, shape: Shape) -> Shape:
        return _ring_changed(shape, self.ring, lambda r: add_joint(r, self.at))

    def words(self, before: Shape) -> Message:
        return message("corner_added")


@dataclass(frozen=True)
class RemoveCorner:
    ring: int
    corner: Point
    kind: Literal["remove corner"] = "remove corner"

    def on(self, shape: Shape) -> Shape:
        return _ring_changed(shape, self.ring, lambda r: remove_joint(r, _corner(r, self.corner)))

    def words(self, before: Shape) -> Message:
        return message("corner_removed", corner=_letter(before, self.ring, self.corner))


@dataclass(frozen=True)
class MoveCorner:
    ring: int
    corner: Point
    to: Point
    kind: Literal["move corner"] = "move corner"

    def on(self, shape: Shape) -> Shape:
        return _ring_changed(shape, self.ring, lambda r: move_joint(r, _corner(r, self.corner), self.to))

    def words(self, before: Shape) -> Message:
        return message("corner_moved", corner=_letter(before, self.ring, self.corner))


@dataclass(frozen=True)
class SetKind:
    """The edge that starts at `edge` is to be of this kind."""

    ring: int
    edge: Point
    choice: EdgeKindChoice
    kind: Literal["edge kind"] = "edge kind"

    def on(self, shape: Shape) -> Shape:
        return _ring_changed(shape, self.ring, lambda r: set_edge_kind(r, _corner(r, self.edge), self.choice))

    def words(self, before: Shape) -> Message:
        return {
            "line": message("edge_straightened"), "arc": message("edge_made_arc"),
            "curve": message("edge_made_curve"), "auto": message("edge_fitted"),
        }[self.choice]  # fmt: skip


@dataclass(frozen=True)
class SetSmooth:
    ring: int
    corner: Point
    smooth: bool
    kind: Literal["corner or smooth"] = "corner or smooth"

    def on(self, shape: Shape) -> Shape:
        return _ring_changed(shape, self.ring, lambda r: set_smooth(r, _corner(r, self.corner), smooth=self.smooth))

    def words(self, before: Shape) -> Message:
        corner = _letter(before, self.ring, self.corner)
        return message("corner_made_smooth" if self.smooth else "corner_made_sharp", corner=corner)


@dataclass(frozen=True)
class SquareUp:
    ring: int
    corner: Point
    kind: Literal["square"] = "square"

    def on(self, shape: Shape) -> Shape:
        return _ring_changed(shape, self.ring, lambda r: square_corner(r, _corner(r, self.corner)))

    def words(self, before: Shape) -> Message:
        return message("corner_made_square", corner=_letter(before, self.ring, self.corner))


@dataclass(frozen=True)
class HoldEdges:
    """The edge that starts at `edge` held against the one that starts at `to`: parallel, or equally long."""

    ring: int
    edge: Point
    to: Point
    alike: Literal["parallel", "equal"]
    kind: Literal["hold edges"] = "hold edges"

    def on(self, shape: Shape) -> Shape:
        hold = parallel_edges if self.alike == "parallel" else equal_edges
        return _ring_changed(shape, self.ring, lambda r: hold(r, _corner(r, self.edge), _corner(r, self.to)))

    def words(self, before: Shape) -> Message:
        return message("edges_made_parallel" if self.alike == "parallel" else "edges_made_equally_long")


@dataclass(frozen=True)
class FoldOver:
    first: Point
    second: Point
    keep: Keep
    kind: Literal["fold"] = "fold"

    def on(self, shape: Shape) -> Shape:
        return self._folded(shape).shape

    def words(self, before: Shape) -> Message:
        after, joints = self._folded(before), before.outline.joints
        near = min(range(len(joints)), key=lambda k: math.dist(joints[k].point, after.at))
        return message("folded", apart_mm=after.apart_mm, corner=letter(near))

    def _folded(self, shape: Shape) -> FoldedShape:
        first, second = (_corner(shape.outline, p) for p in (self.first, self.second))
        return fold(shape, first, second, self.keep)


@dataclass(frozen=True)
class ScaleBy:
    """Factors across and up, as the tape asked for."""

    factors: tuple[float, float]
    kind: Literal["scale"] = "scale"

    def on(self, shape: Shape) -> Shape:
        return scaled(shape, self.factors)


@dataclass(frozen=True)
class Bend:
    """The outline bent until each measure, between two corners or along an edge (`second` None), is what the tape says."""

    measures: tuple[tuple[Point, Point | None, float], ...]
    kind: Literal["bend"] = "bend"

    def on(self, shape: Shape) -> Shape:
        return bend_to_tape(shape, [_measure(shape.outline, *m) for m in self.measures]).shape


@dataclass(frozen=True)
class Smooth:
    by_mm: Length
    kind: Literal["smooth"] = "smooth"

    def on(self, shape: Shape) -> Shape:
        return smooth_shape(shape, self.by_mm)

    def words(self, before: Shape) -> Message:
        return message("smoothed", by_mm=self.by_mm)


@dataclass(frozen=True)
class Find:
    """All corners found afresh at another tolerance."""

    tolerance_mm: Length
    kind: Literal["find corners"] = "find corners"

    def on(self, shape: Shape) -> Shape:
        trued = true_up(
            shape.outline.points, [h.points for h in shape.holes],
            tolerance_mm=self.tolerance_mm, error_mm=shape.error_mm,
        )  # fmt: skip
        return replace(shape, outline=trued.outline, holes=trued.holes, tolerance_mm=self.tolerance_mm)

    def words(self, before: Shape) -> Message:
        return message("corners_refitted", within_mm=self.tolerance_mm)


@dataclass(frozen=True)
class DivideOutline:
    start: Point
    parts: Parts
    kind: Literal["divide"] = "divide"

    def on(self, shape: Shape) -> Shape:
        return divide(shape, _corner(shape.outline, self.start), self.parts)

    def words(self, before: Shape) -> Message:
        return {
            0: message("part_marks_removed"), 2: message("halves_marked"),
            4: message("quarters_marked"), 8: message("eighths_marked"),
        }[self.parts]  # fmt: skip


@dataclass(frozen=True)
class TurnOver:
    kind: Literal["turn over"] = "turn over"

    def on(self, shape: Shape) -> Shape:
        return turned_over(shape)

    def words(self, before: Shape) -> Message:
        return message("turned_over")


@dataclass(frozen=True)
class Redraw:
    """Edges, each by the corner that it starts at, moved outward by an amount (negative: inward); other edges and
    the holes by `rest_mm`."""

    moves: tuple[tuple[Point, float], ...]
    rest_mm: float = 0.0
    kind: Literal["redraw"] = "redraw"

    def on(self, shape: Shape) -> Shape:
        out = [self.rest_mm] * len(shape.outline.joints)
        for start, amount in self.moves:
            out[_corner(shape.outline, start)] = amount
        return redrawn(shape, out, self.rest_mm)


@dataclass(frozen=True)
class Mend:
    """Stretches of the trace found anew with a maker's help, each spliced into the outline or hole that it ends on; and the
    holes, where those changed. Corrections are kept where the trace runs as before."""

    ways: tuple[tuple[Point, ...], ...]
    holes: tuple[tuple[Point, ...], ...] | None = None
    kind: Literal["mend"] = "mend"

    def on(self, shape: Shape) -> Shape:
        holes = [h.points for h in shape.holes] if self.holes is None else self.holes
        rings: list[Sequence[Point]] = [shape.outline.points, *holes]
        for way in self.ways:
            k = nearest_ring(rings, way)
            rings[k] = [(float(x), float(y)) for x, y in splice(rings[k], way)]
        return renew(shape, rings[0], rings[1:])


@dataclass(frozen=True)
class ConfirmEdge:
    """The maker looked along a stretch that the photo leaves in doubt and says that its edge is right."""

    stretch: tuple[Point, ...]
    kind: Literal["confirm edge"] = "confirm edge"

    def on(self, shape: Shape) -> Shape:
        return shape


TypedStep = Annotated[
    AddCorner | RemoveCorner | MoveCorner | SetKind | SetSmooth | SquareUp | HoldEdges | FoldOver | Smooth | Find
    | DivideOutline | TurnOver,
    Field(discriminator="kind"),
]  # fmt: skip
"""Steps that a maker takes as they are; the others follow from what is asked for."""
Step = Annotated[
    AddCorner | RemoveCorner | MoveCorner | SetKind | SetSmooth | SquareUp | HoldEdges | FoldOver | ScaleBy | Bend | Smooth
    | Find | DivideOutline | TurnOver | Redraw | Mend | ConfirmEdge,
    Field(discriminator="kind"),
]  # fmt: skip


@dataclass(frozen=True)
class TakenStep:
    """A step, its words from when it was taken, whether it counts, and why it was skipped when replayed, if it was. Words
    were text alone in jobs of before. Raises `Refusal` for a message that has no words."""

    step: Step
    words: str | Message
    on: bool = True
    skip_reason: str | Message = ""

    def __post_init__(self) -> None:
        check_words(self.words)
        check_words(self.skip_reason)


def replay(trace: Shape, steps: Sequence[TakenStep]) -> tuple[Shape, tuple[TakenStep, ...]]:
    """The shape that the steps which are on make of the captured one; one that is refused is skipped and says why."""
    shape, steps_after = trace, []
    for taken_step in steps:
        skip_reason: str | Message = ""
        if taken_step.on:
            try:
                shape = _take(taken_step.step, shape)
            except Refusal as e:
                skip_reason = e.message
        steps_after.append(replace(taken_step, skip_reason=skip_reason))
    return shape, tuple(steps_after)


@lru_cache(maxsize=64)
def _take(step: Step, shape: Shape) -> Shape:
    """What a step makes of a shape: a list of steps is replayed again for every step that is added to it."""
    return step.on(shape)


def corner_point(shape: Shape, ring: int, index: int) -> Point:
    """Where a corner stands; raises `Refusal` where there is none of this number."""
    rings = (shape.outline, *shape.holes)
    if not 0 <= ring < len(rings):
        raise Refusal(message("no_such_hole"), "shape")
    joints = rings[ring].joints
    if not 0 <= index < len(joints):
        raise Refusal(message("no_such_corner", corner=index + 1, count=len(joints)), "joint")
    return joints[index].point


def _letter(shape: Shape, ring: int, at: Point) -> str:
    """The letter of a corner of ring 0, the outline, or 1.., a hole."""
    return letter(_corner((shape.outline, *shape.holes)[ring], at))


def _corner(ring: TracedRing, at: Point) -> int:
    nearest = min(range(len(ring.joints)), key=lambda k: math.dist(ring.joints[k].point, at))
    if math.dist(ring.joints[nearest].point, at) > FOUND_WITHIN_MM:
        raise Refusal(message("step_corner_gone"), "joint", Place(point=at))
    return nearest


def _measure(ring: TracedRing, first: Point, second: Point | None, mm: float) -> TapeMeasure:
    a = _corner(ring, first)
    return TapeMeasure(None, a, mm) if second is None else TapeMeasure((a, _corner(ring, second)), None, mm)


def _ring_changed(shape: Shape, ring: int, how: Callable[[TracedRing], TracedRing]) -> Shape:
    """The shape with one ring changed: 0 the outline, 1.. the holes."""
    if ring == 0:
        return replace(shape, outline=how(shape.outline))
    if not 1 <= ring <= len(shape.holes):
        raise Refusal(message("no_such_hole"), "shape")
    return replace(shape, holes=tuple(how(h) if k == ring - 1 else h for k, h in enumerate(shape.holes)))
