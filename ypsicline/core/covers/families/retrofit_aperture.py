"""Openings for posts in a cover that exists: a template for each, its slit and closing (rule 13)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

import numpy as np
import shapely

from ypsicline.core.covers.cover import Cover, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.notion import Notion
from ypsicline.core.covers.parts.edging import Edging, circle, panel
from ypsicline.core.covers.parts.goods import zip_for
from ypsicline.core.covers.parts.outline import OutlineEdges
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.relief import relief_spacing
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, Point, flatten, point_at
from ypsicline.core.geometry.feet import nearest_parameters
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.aperture import Aperture, Stocked
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.typed import Length, LengthOrNone, NumberIfTyped, NumberOrNone, Places, SignedLength, Words

__all__ = ["Post", "RetrofitAperture", "RetrofitApertureChoices", "RetrofitApertureMeasures", "RetrofitApertureShapes"]

MOST_POSTS = 20
TEMPLATE_MARGIN_MM = 40.0
LEAST_RELIEF_CUTS = 8
ELLIPSE_POINTS = 96
FARTHEST_MM = 1e5


@dataclass(frozen=True)
class Post:
    """Something round that passes through: where its middle was marked on the cover, its diameter, and by how much it leans,
    towards which direction (degrees to the left from the x axis). Its slit runs to the nearest edge, or in the direction
    `slit_deg`, told in the same way."""

    at: tuple[SignedLength, SignedLength]
    diameter: Length
    name: Words = "post"
    leans_deg: NumberOrNone = 0.0
    towards_deg: NumberOrNone = 0.0
    slit_deg: NumberIfTyped = None

    def __post_init__(self) -> None:
        within(message("figure_diameter_of", name=self.name), self.diameter, 3, 2000)
        within(message("figure_lean_of", name=self.name), self.leans_deg, 0, 60, "°")


@dataclass(frozen=True)
class RetrofitApertureMeasures:
    """The posts, the room around them, the hem of their openings, and how far the cord of the cover's edge comes out
    either side of a slit."""

    posts: tuple[Post, ...]
    clearance: LengthOrNone = 10.0
    hem: LengthOrNone = 10.0
    cord_exit: LengthOrNone = 50.0
    cord_slack: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.posts) <= MOST_POSTS:
            raise Refusal(message("posts_out_of_range", most=MOST_POSTS), "measure")
        within(message("figure_clearance"), self.clearance, 0, 300)
        within(message("figure_hem"), self.hem, 0, 100)


@dataclass(frozen=True)
class RetrofitApertureShapes:
    """The existing cover's edge: its `outline`, or the `line` of the edge that slits lead to."""

    outline: OutlineEdges = ()
    line: Places = ()


@dataclass(frozen=True)
class RetrofitApertureChoices(Choices):
    """How openings are finished, which way slits run, and the zips in stock."""

    finish: Literal["hemmed", "faced"] = "hemmed"
    slit: bool = True
    stocked_zips: Stocked = ()
    zip_shows: LengthOrNone = 10.0
    cord_in_edge: bool = False
    near_flue: bool = False


@dataclass(frozen=True)
class RetrofitAperture(Family):
    """A marking template for each post, and a facing where it is faced."""

    measures: RetrofitApertureMeasures
    choices: RetrofitApertureChoices = RetrofitApertureChoices()
    shapes: RetrofitApertureShapes = RetrofitApertureShapes()
    family: Literal["retrofit_aperture"] = "retrofit_aperture"

    suits = (Suits("near", "heat", "near_flue", True, message("suits_flue")),)

    def cover(self, house: House) -> Cover:
        m, c = self.measures, self.choices
        edges = self._edges()
        if c.slit and not edges:
            raise Refusal(message("slit_needs_edge"), "shape")
        panels: list[Panel] = []
        workings: list[Message] = []
        findings = self._overlaps()
        notions: list[Notion] = []
        for k, post in enumerate(m.posts):
            across, along_it = self._finished_size(post)
            workings += self._sums(post, across, along_it)
            foot, away = _slit_ends(edges, post) if edges else (None, 0.0)
            panels.append(self._template(k, post, across, along_it, foot))
            if not (c.slit and foot):
                continue
            slit = away - across / 2
            if slit <= 0:
                findings.append(Finding("stop", message("post_over_edge", post=post.name)))
                continue
            workings.append(message("slit_to_edge", post=post.name, slit_mm=slit, turned_mm=c.zip_shows / 2))
            notions.append(zip_for(slit, c.stocked_zips))
        if c.cord_in_edge and c.slit:
            count = 2 * len(m.posts)
            needed = 2 * m.cord_exit * len(m.posts)
            workings.append(message("cord_led_out", exit_mm=m.cord_exit, count=count))
            notions.append(Notion("cord_lock", message("locks_for_exits", count=count), count))
            if m.cord_slack < needed:
                findings.append(Finding("stop", message("cord_has_no_slack", slack_mm=m.cord_slack, needed_mm=needed)))
        findings.append(Finding("look", message("mark_before_cutting")))
        if c.near_flue:
            findings.append(Finding("stop", message("flue_needs_distance")))
        return put_together(panels, [], house, notions=notions, workings=workings, findings=findings)

    def _edges(self) -> tuple[Edge, ...]:
        s = self.shapes
        if s.outline:
            return s.outline
        if len(s.line) == 1:
            raise Refusal(message("not_an_outline"), "shape")
        return tuple(Edge("line", (a, b)) for a, b in zip(s.line, s.line[1:], strict=False))

    def _finished_size(self, post: Post) -> tuple[float, float]:
        """The finished opening across the post's lean and along it, mm: a leaning post cuts the cover in an ellipse."""
        across = post.diameter + 2 * self.measures.clearance
        return across, post.diameter / math.cos(math.radians(post.leans_deg)) + 2 * self.measures.clearance

    def _sums(self, post: Post, across: float, along_it: float) -> list[Message]:
        m = self.measures
        cut = across - 2 * m.hem if self.choices.finish == "hemmed" else across
        if cut <= 1:
            raise Refusal(message("hem_fills_opening", post=post.name, hem_mm=m.hem, across_mm=across), "measure")
        sums = [
            message(
                "post_opening",
                post=post.name,
                diameter_mm=post.diameter,
                clearance_mm=m.clearance,
                across_mm=across,
                cut_mm=cut,
            )
        ]
        if post.leans_deg:
            sums.append(message("post_leans", post=post.name, degrees=post.leans_deg, along_mm=along_it))
        spacing = relief_spacing(across / 2, m.hem, flat=True)
        if self.choices.finish == "hemmed" and spacing:
            count = max(LEAST_RELIEF_CUTS, math.ceil(math.pi * across / spacing))
            sums.append(message("post_relief", count=count, spacing_mm=math.pi * across / count))
        return sums

    def _template(self, k: int, post: Post, across: float, along_it: float, foot: Point | None) -> Panel:
        """A round sheet of card with the opening cut out of it, and the way of the slit drawn on it."""
        m, c = self.measures, self.choices
        half = max(across, along_it) / 2 + TEMPLATE_MARGIN_MM
        raw = Edging("raw")
        template = panel(
            f"post{k + 1}",
            f"{post.name} template",
            circle(half, [(0.0, "rim 1", raw), (0.5, "rim 2", raw)]),
            cloth="card",
        )
        hem = m.hem if c.finish == "hemmed" else 0.0
        finish: Literal["hemmed", "faced"] = c.finish
        if post.leans_deg:
            ring = _ellipse(post.diameter, along_it - 2 * m.clearance, post.towards_deg)
            opening = Aperture(
                "outline", (0.0, 0.0), finish=finish, name=post.name, clearance=m.clearance, depth=hem, ring=ring
            )
        else:
            size = (post.diameter, post.diameter)
            opening = Aperture("round", (0.0, 0.0), size, finish, post.name, clearance=m.clearance, depth=hem)
        features: list[Feature] = [opening]
        if foot is not None and c.slit:
            dx, dy = foot[0] - post.at[0], foot[1] - post.at[1]
            far = math.hypot(dx, dy) or 1.0
            start, end = ((dx / far * r, dy / far * r) for r in (along_it / 2, half - 3))
            features.append(MarkAt("note", start, end, "slit this way"))
        return replace(template, features=tuple(features))

    def _overlaps(self) -> list[Finding]:
        """Posts so near to one another that their openings or hems touch."""
        m = self.measures
        findings = []
        for one, other in combinations(m.posts, 2):
            gap = math.dist(one.at, other.at) - (one.diameter + other.diameter) / 2 - 2 * m.clearance
            if gap <= 2 * m.hem:
                text = message("posts_overlap", first=one.name, second=other.name, gap_mm=gap, needed_mm=2 * m.hem)
                findings.append(Finding("stop", text))
        return findings


def _slit_ends(edges: Sequence[Edge], post: Post) -> tuple[Point, float]:
    """Where a post's slit reaches the cover's edge, and how far off that is: the nearest place, or the first in its direction.
    Raises `Refusal` where the edge doesn't lie that way."""
    if post.slit_deg is None:
        return _nearest(edges, post.at)
    turn = math.radians(post.slit_deg)
    far = (post.at[0] + FARTHEST_MM * math.cos(turn), post.at[1] + FARTHEST_MM * math.sin(turn))
    rim = shapely.MultiLineString([flatten(e) for e in edges])
    crossings = shapely.get_coordinates(shapely.LineString([post.at, far]).intersection(rim))
    if not len(crossings):
        raise Refusal(message("slit_meets_no_edge", post=post.name, degrees=post.slit_deg), "measure")
    x, y = min(crossings.tolist(), key=lambda p: math.dist(p, post.at))
    return (x, y), math.dist((x, y), post.at)


def _nearest(edges: Sequence[Edge], at: Point) -> tuple[Point, float]:
    """The nearest place on the cover's edge, and how far it is."""
    feet = [point_at(e, float(nearest_parameters(e, np.array([at]))[0])) for e in edges]
    best = min(feet, key=lambda p: math.dist(p, at))
    return best, math.dist(best, at)


def _ellipse(across: float, along_it: float, towards_deg: float) -> tuple[Point, ...]:
    """An ellipse about the origin, its long axis that way, as points counter-clockwise."""
    turn = Transform.turn(math.radians(towards_deg))
    angles = np.linspace(0, 2 * math.pi, ELLIPSE_POINTS, endpoint=False).tolist()
    return tuple(turn.point((along_it / 2 * math.cos(a), across / 2 * math.sin(a))) for a in angles)
