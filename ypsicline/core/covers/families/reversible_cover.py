"""Two complete covers joined at the hem, either of which may be outside (rules 3 and 9)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import accumulate
from typing import Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family, NoShapes
from ypsicline.core.covers.parts.edging import Edging, line, panel, rounded_corners
from ypsicline.core.covers.parts.goods import HAND_MM, opening_finding
from ypsicline.core.covers.parts.sums import summed
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Hand, Panel
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, SignedLength

__all__ = ["ReversibleCover", "ReversibleCoverChoices", "ReversibleCoverMeasures"]

_LEAST_BULK_LAYERS = 4


@dataclass(frozen=True)
class ReversibleCoverMeasures:
    """The object's width and depth, its height at the left and the right of the back, its height in front; the radius of
    its upper edges; and ease on width and girth."""

    width: Length
    depth: Length
    height_left: Length
    height_right: LengthIfTyped = None
    height_front: LengthIfTyped = None
    corner_radius: LengthOrNone = 0.0
    ease_width: SignedLength = 0.0
    ease_girth: SignedLength = 0.0

    def __post_init__(self) -> None:
        for what, value in (
            (message("figure_width"), self.width),
            (message("figure_depth"), self.depth),
            (message("figure_height_at_the_left"), self.height_left),
        ):
            within(what, value, 10, 10_000)
        within(message("figure_ease_on_the_width"), self.ease_width, -200, 1000)
        within(message("figure_ease_on_the_girth"), self.ease_girth, -200, 1000)

    @property
    def right(self) -> float:
        return self.height_left if self.height_right is None else self.height_right

    @property
    def front(self) -> float:
        return min(self.height_left, self.right) if self.height_front is None else self.height_front


@dataclass(frozen=True)
class ReversibleCoverChoices(Choices):
    """How the layers go together: nested for one way round, or equal, with ease enough for either outside; how wide the gap
    is that the cover is turned through."""

    layers: Literal["equal", "nested"] = "equal"
    turning_gap: Length = 200.0


@dataclass(frozen=True)
class ReversibleCover(Family):
    """A body from the front's foot over to the back's, and two ends; all of it twice."""

    measures: ReversibleCoverMeasures
    choices: ReversibleCoverChoices = ReversibleCoverChoices()
    shapes: NoShapes = NoShapes()
    family: Literal["reversible_cover"] = "reversible_cover"

    eased_by = (("ease_girth", 4.0), ("ease_width", 2.0))

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        t = c.thickness(house)
        growth = 2 * t
        findings: list[Finding] = []
        # the inner of two nested layers is smaller by a thickness a side
        inward = t if c.layers == "nested" else 0.0
        panels, joins = self._layer("outer", "", c.cloth, 0.0)
        more, more_joins = self._layer("inner", "inner ", "lining", inward)
        panels, joins = [*panels, *more], [*joins, *more_joins]
        joins += self._hem_seam(panels)
        if c.layers == "equal" and min(m.ease_width, m.ease_girth) < growth:
            text = message("layers_bind", ease_mm=min(m.ease_width, m.ease_girth), growth_mm=growth)
            eases = {"ease_width": m.ease_width, "ease_girth": m.ease_girth}
            wide_enough = tuple((f"measures.{n}", growth) for n, ease in eases.items() if ease < growth)
            findings.append(Finding("stop", text, instead=wide_enough))
        bulk = _LEAST_BULK_LAYERS * t * 10
        findings += opening_finding("choices.turning_gap", c.turning_gap, max(HAND_MM, bulk), "hand")
        seam = c.seam(house)
        workings: list[Message] = [
            summed(
                "width",
                m.width + m.ease_width + 2 * seam,
                {"width": m.width, "ease": m.ease_width, "allowances": 2 * seam},
            ),
            message("layers_growth", thickness_mm=t, growth_mm=growth),
            message("turned_through", gap_mm=c.turning_gap),
        ]
        return put_together(panels, joins, house, workings=workings, findings=findings)

    def _end(self, height: float, inward: float) -> tuple[list[Edge], Edge]:
        """The edges of an end from the back's foot over to the front's, and its foot on the ground."""
        m = self.measures
        # what the girth has more of, shared between front, top and back
        more = m.ease_girth / 4
        depth = m.depth + 2 * more - 2 * inward
        back, front = height + more - inward, m.front + more - inward
        if min(depth, back, front) <= 1:
            raise Refusal(message("ease_takes_all"), "measure")
        radius = max(m.corner_radius - inward, 0.0)
        ring = rounded_corners([(0.0, 0.0), (depth, 0.0), (depth, back), (0.0, front)], [0.0, 0.0, radius, radius])
        return list(ring[1:]), ring[0]

    def _layer(self, id: str, prefix: str, cloth: str, inward: float) -> tuple[list[Panel], list[Paired]]:
        m, c = self.measures, self.choices
        plain = Edging("plain", c.allowance)
        ends, runs = [], []
        heights: tuple[tuple[str, float, Hand], ...] = (("left", m.height_left, "left"), ("right", m.right, "right"))
        if m.right == m.height_left:
            heights = (("end", m.height_left, "pair"),)
        for name, height, hand in heights:
            over, foot = self._end(height, inward)
            edges = [plain.edge(e, f"over {k + 1}") for k, e in enumerate(over)]
            layer = panel(
                f"{id[:5]}.{name}", f"{prefix}{name}", [*edges, plain.edge(foot, "foot")], cloth=cloth, hand=hand
            )
            if name == "right":
                layer = _flipped(layer)
            ends.append(layer)
            runs.append(sum(map(edge_length, over)))
        body, sides = self._body(id, prefix, cloth, runs, plain, m.width + m.ease_width - 2 * inward)
        left = ends[0]
        right = ends[-1]
        over_left = tuple(Along(left.id, e.id) for e in left.seam_line if e.name != "foot")
        over_right = tuple(
            Along(right.id, e.id, piece=2 if right is left else 1) for e in right.seam_line if e.name != "foot"
        )
        if right is not left:
            over_right = tuple(replace(a, backward=True) for a in reversed(over_right))
        # both runs go from the back's foot to the front's
        joins = [
            Paired(Join(over_left, (Along(body.id, sides[0]),)), self._corners(left, over_left), (0.5,)),
            Paired(
                Join(over_right, (Along(body.id, sides[1], backward=True),)), self._corners(right, over_right), (0.5,)
            ),
        ]
        return [body, *ends], joins

    def _corners(self, end: Panel, run: Sequence[Along]) -> tuple[float, ...]:
        """Where along a run its edges meet, as shares of it."""
        by_id = {e.id: edge_length(e) for e in end.seam_line}
        reached = list(accumulate(by_id[a.edge] for a in run))
        return tuple(s / reached[-1] for s in reached[:-1] if abs(s / reached[-1] - 0.5) > 0.001)

    def _body(
        self, id: str, prefix: str, cloth: str, runs: Sequence[float], plain: Edging, width: float
    ) -> tuple[Panel, tuple[str, str]]:
        """The body: its left and right side as long as the ends' runs; its front edge square to both."""
        left, right = runs[0], runs[-1]
        skew = right - left
        if abs(skew) > width:
            raise Refusal(message("heights_too_unlike"), "measure")
        corners = [(0.0, 0.0), (width, 0.0), (width, right), (0.0, left)]
        names = ("front foot", "right side", "back foot", "left side")
        edges = [plain.edge(line(a, b), n) for a, b, n in zip(corners, [*corners[1:], corners[0]], names, strict=True)]
        body = panel(f"{id[:5]}.body", f"{prefix}body", edges, cloth=cloth)
        if skew:
            body = replace(body, way_up=message("back_at_top"))
        return body, (body.seam_line[3].id, body.seam_line[1].id)

    def _hem_seam(self, panels: Sequence[Panel]) -> list[Paired]:
        """The hems of both layers, sewn all round but for the turning gap: foot to foot."""
        half = len(panels) // 2
        joins = []
        for outer, inner in zip(panels[:half], panels[half:], strict=True):
            feet = {e.name: e.id for e in inner.seam_line}
            for one, other in ((e.id, feet[e.name]) for e in outer.seam_line if "foot" in e.name):
                joins.append(Paired(Join((Along(outer.id, one),), (Along(inner.id, other),), "plain", "eased"), (0.5,)))
        gap = self.choices.turning_gap
        foot = next(e for e in panels[0].seam_line if e.name == "back foot")
        within(message("figure_turning_gap"), gap, 20, 0.9 * edge_length(foot))
        return joins


def _flipped(layer: Panel) -> Panel:
    """The end of the other hand: the same outline seen from its own outer side."""
    return replace(mirrored(layer), id=layer.id, name=layer.name, hand=layer.hand)
