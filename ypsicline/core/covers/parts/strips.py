"""Strips longer than the cloth is wide (rule 11)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise

from ypsicline.core.covers.parts.edging import Edging, line, panel
from ypsicline.core.covers.parts.sums import TERMS, Term
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import Along, Join, SeamType
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.solids.assembled import Standing
from ypsicline.core.solids.placement import AlongRun

__all__ = ["Strip", "StripLengths", "bent_strip", "ends_joined", "strip_lengths", "strip_panels"]

MOST_STRIPS = 60
_SAME_MM = 0.01


@dataclass(frozen=True)
class StripLengths:
    """How a strip is put together: the finished `lengths` of its pieces, mm, in order."""

    lengths: tuple[float, ...]
    working: Message

    @property
    def joins_at(self) -> tuple[float, ...]:
        """Where pieces meet, mm from the start."""
        return tuple(accumulate(self.lengths))[:-1]


def strip_lengths(
    what: Term,
    length: float,
    usable: float,
    join: float,
    *,
    is_closed: bool,
    ends: float = 0.0,
    even: bool = True,
) -> StripLengths:
    """The least number of pieces of cloth `usable` wide that make a strip of finished `length`, each losing `join` at either
    end; an open one takes `ends` at its two outer ends together instead. All alike, or full widths and the rest.

    A closed ring needs n·(usable − 2·join) ≥ length; an open run n·usable − 2·join·(n − 1) − ends ≥ length. Raises
    `Refusal` where the cloth is too narrow for its own joins, or the strip has too many.
    """
    own = usable - 2 * join
    if own <= 1:
        raise Refusal(message("cloth_too_narrow_for_joins", usable_mm=usable, join_mm=join), "measure")
    # both sums leave the same to each piece but for the outer ends
    room = length if is_closed else length + ends - 2 * join
    count = max(1, math.ceil(room / own - 1e-9))
    if count > MOST_STRIPS:
        raise Refusal(message("too_many_strips", count=count, most=MOST_STRIPS), "measure")
    if even or count == 1:
        lengths = (length / count,) * count
    else:
        first = own if is_closed else usable - join - ends / 2
        lengths = (first, *(own,) * (count - 2))
        lengths = (*lengths, length - sum(lengths))
    in_one = length + (2 * join if is_closed else ends)
    figures = {"length_mm": length, "usable_mm": usable, "in_one_mm": in_one}
    if count == 1:
        return StripLengths(lengths, message("strip_in_one", what=TERMS[what], **figures))
    working = message("strip_of_several", what=TERMS[what], join_mm=join, count=count, each_mm=lengths[0], **figures)
    return StripLengths(lengths, working)


@dataclass(frozen=True)
class Strip:
    """The pieces of a strip with the runs along their long edges, from left to right."""

    panels: tuple[Panel, ...]
    top: tuple[Along, ...]
    bottom: tuple[Along, ...]


def strip_panels(
    id: str,
    name: str,
    pieces: StripLengths,
    depth: float,
    *,
    bottom: Edging,
    top: Edging,
    ends: Edging,
    outer_ends: Edging | None = None,
    bottom_parts: Sequence[tuple[float, float, Edging]] = (),
    top_parts: Sequence[tuple[float, float, Edging]] = (),
    cloth: str = "outer",
) -> Strip:
    """The panels of a strip `depth` high, their `ends` joined to one another and, where nothing else is said, in a ring.

    `bottom_parts` and `top_parts` are stretches, from and to in mm along the whole strip, that are finished otherwise.
    """
    panels, tops, bottoms = [], [], []
    last = len(pieces.lengths) - 1
    for k, (start, length) in enumerate(zip((0.0, *pieces.joins_at), pieces.lengths, strict=True)):
        own = f"{id}{k + 1}" if last else id
        titled = f"{name} {k + 1} of {last + 1}" if last else name
        low = _side(start, length, bottom, bottom_parts, "bottom")
        high = _side(start, length, top, top_parts, "top")
        left = outer_ends if k == 0 and outer_ends else ends
        right = outer_ends if k == last and outer_ends else ends
        edges: list[SeamEdge] = [e.edge(line((a, 0.0), (b, 0.0)), n) for a, b, n, e in low]
        edges.append(right.edge(line((length, 0.0), (length, depth)), "right"))
        edges += [e.edge(line((b, depth), (a, depth)), n) for a, b, n, e in reversed(high)]
        edges.append(left.edge(line((0.0, depth), (0.0, 0.0)), "left"))
        strip = panel(own, titled, edges, cloth=cloth)
        panels.append(strip)
        ids = [e.id for e in strip.seam_line]
        bottoms += [Along(own, e) for e in ids[: len(low)]]
        tops += [Along(own, e, backward=True) for e in reversed(ids[len(low) + 1 : -1])]
    return Strip(tuple(panels), tuple(tops), tuple(bottoms))


def _side(
    start: float, length: float, edging: Edging, parts: Sequence[tuple[float, float, Edging]], name: str
) -> list[tuple[float, float, str, Edging]]:
    """A long edge of one piece in stretches (from, to, name, edging), from left to right, mm from the piece's left."""
    cuts = sorted(
        {0.0, length, *(x - start for a, b, _ in parts for x in (a, b) if _SAME_MM < x - start < length - _SAME_MM)}
    )
    side: list[tuple[float, float, str, Edging]] = []
    for a, b in pairwise(cuts):
        middle = start + (a + b) / 2
        own = next((e for low, high, e in parts if low < middle < high), None)
        called = name if len(cuts) == 2 else f"{name} {len(side) + 1}"
        side.append((a, b, called, own or edging))
    return side


def bent_strip(panels: Sequence[Panel], run: Sequence[Edge], z: float = 0.0) -> list[Standing]:
    """The pieces of a strip in space, upright round a closed run that is seen from above, its start at the strip's."""
    strips, start = [], 0.0
    for made_panel in panels:
        strips.append(Standing(made_panel.id, AlongRun(tuple(run), start, (0.0, 0.0, z))))
        start += max(p[0] for e in made_panel.seam_line for p in e.points)
    return strips


def ends_joined(strip: Strip, *, is_closed: bool, seam: SeamType = "plain") -> list[Join]:
    """The joins of a strip's pieces, each one's right end to the next one's left; the last one's to the first's where it is
    `is_closed`."""
    count = len(strip.panels)
    joins = []
    for k in range(count if is_closed else count - 1):
        one, other = strip.panels[k], strip.panels[(k + 1) % count]
        right = next(e.id for e in one.seam_line if e.name == "right")
        left = next(e.id for e in other.seam_line if e.name == "left")
        joins.append(Join((Along(one.id, right),), (Along(other.id, left, backward=True),), seam))
    return joins
