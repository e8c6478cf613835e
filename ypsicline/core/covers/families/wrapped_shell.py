"""A skin from the pieces of a taped shell, with a gusset and its mirror image (rules 10 and 12)."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family
from ypsicline.core.covers.parts.edging import Edging, panel
from ypsicline.core.covers.parts.outline import OutlineEdges, with_edging
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Edge, circle_of, edge_length
from ypsicline.core.joins.walk import EASED_SHARE
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.limits import within
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.typed import LengthOrNone, Share, Words

__all__ = [
    "ShellPiece",
    "ShellSeam",
    "WrappedShell",
    "WrappedShellChoices",
    "WrappedShellMeasures",
    "WrappedShellShapes",
]

MOST_PIECES = 40


@dataclass(frozen=True)
class ShellPiece:
    """A piece of the shell as it lay flat. `rises` is how far its middle stood off the table when its rim was pressed down."""

    name: Words
    outline: OutlineEdges = ()
    rises: LengthOrNone = 0.0


@dataclass(frozen=True)
class ShellSeam:
    """Two edges that were one on the shell: of a piece, by its name and the edge's number, from 1."""

    first: Words
    first_edge: int
    second: Words
    second_edge: int


@dataclass(frozen=True)
class WrappedShellMeasures:
    """The gusset that is let in to relieve a strain: how long and how wide it is in its middle."""

    gusset_length: LengthOrNone = 0.0
    gusset_width: LengthOrNone = 0.0

    def __post_init__(self) -> None:
        within(message("figure_gusset_length"), self.gusset_length, 0, 3000)
        within(message("figure_gusset_width"), self.gusset_width, 0, 1000)


@dataclass(frozen=True)
class WrappedShellShapes:
    """The pieces, and which of their edges are sewn together."""

    pieces: tuple[ShellPiece, ...] = ()
    seams: tuple[ShellSeam, ...] = ()


@dataclass(frozen=True)
class WrappedShellChoices(Choices):
    """Whether the other side of the object is the mirror image; by what share the cloth stretches along its grain and
    across."""

    mirrored: bool = False
    stretch_along: Share = 0.0
    stretch_across: Share = 0.0
    no_allowances: bool = False


@dataclass(frozen=True)
class WrappedShell(Family):
    """The pieces, joined where the shell was cut, and a gusset shaped like a leaf."""

    measures: WrappedShellMeasures = WrappedShellMeasures()
    choices: WrappedShellChoices = WrappedShellChoices()
    shapes: WrappedShellShapes = WrappedShellShapes()
    family: Literal["wrapped_shell"] = "wrapped_shell"

    def cover(self, house: House) -> Cover:
        m, c, s = self.measures, self.choices, self.shapes
        if not 1 <= len(s.pieces) <= MOST_PIECES:
            raise Refusal(message("shell_needs_pieces", most=MOST_PIECES), "shape")
        if len({p.name for p in s.pieces}) < len(s.pieces):
            raise Refusal(message("shell_piece_twice"), "shape")
        edging = Edging("raw") if c.no_allowances else Edging("plain", c.allowance)
        panels = {p.name: self._piece(k, p, edging) for k, p in enumerate(s.pieces)}
        joins = [self._seam(seam, panels) for seam in s.seams]
        findings = [*_dont_lie_flat(s.pieces), *self._without_allowances(list(panels.values()), house)]
        workings: list[Message] = []
        cut_panels = list(panels.values())
        if m.gusset_length and m.gusset_width:
            gusset, line = _gusset(m.gusset_length, m.gusset_width, edging, c.cloth)
            cut_panels.append(replace(gusset, hand="pair" if c.mirrored else "single"))
            workings.append(line)
        if not s.seams and len(s.pieces) > 1:
            findings.append(Finding("look", message("shell_seams_not_named")))
            findings += _likely_mates(list(panels.values()))
        return put_together(cut_panels, joins, house, workings=workings, findings=findings)

    def _piece(self, k: int, piece: ShellPiece, edging: Edging) -> Panel:
        c = self.choices
        if not piece.outline:
            raise Refusal(message("piece_has_no_outline", piece=piece.name), "shape")
        hand: Literal["pair", "single"] = "pair" if c.mirrored else "single"
        cut_panel = panel(f"piece{k + 1}", piece.name, with_edging(piece.outline, edging), cloth=c.cloth, hand=hand)
        if not (c.stretch_along or c.stretch_across):
            return cut_panel
        return replace(cut_panel, fit=Fit(stretched=(c.stretch_along, c.stretch_across)))

    def _seam(self, seam: ShellSeam, panels: Mapping[str, Panel]) -> Paired:
        runs: list[Along] = []
        for name, number in ((seam.first, seam.first_edge), (seam.second, seam.second_edge)):
            piece = panels.get(name)
            if piece is None or not 1 <= number <= len(piece.seam_line):
                raise Refusal(message("shell_seam_unknown", piece=name, number=number), "shape")
            runs.append(Along(piece.id, piece.seam_line[number - 1].id, backward=len(runs) == 1))
        return Paired(
            Join((runs[0],), (runs[1],), "any" if self.choices.no_allowances else "plain", "eased"), (0.25, 0.5, 0.75)
        )

    def _without_allowances(self, panels: Sequence[Panel], house: House) -> list[Finding]:
        """Left out on cloth that stretches both ways, allowances are missing from the width: held against the stretch."""
        c = self.choices
        if not c.no_allowances:
            return []
        missing = 2 * c.seam(house)
        narrowest = min(min(_size(p)) for p in panels)
        needed = missing / narrowest
        have = min(c.stretch_along, c.stretch_across)
        figures = {"missing_mm": missing, "across_mm": narrowest}
        text = message("allowances_left_out", percent=100 * needed, have=100 * have, **figures)
        return [Finding("stop" if needed > have else "fine", text)]


def _size(shell: Panel) -> tuple[float, float]:
    xs, ys = zip(*(p for e in shell.seam_line for p in e.points), strict=True)
    return max(xs) - min(xs), max(ys) - min(ys)


def _dont_lie_flat(pieces: Sequence[ShellPiece]) -> list[Finding]:
    """Pieces that rise from the table, and how much a cut from the rim to the middle would have to open: of a cap of height
    h over a width w its rim is short by 2π·(arc − chord)/2, with arc ≈ w/2 + 4h²/3w."""
    findings = []
    for piece in pieces:
        xs, ys = zip(*(p for e in piece.outline for p in e.points), strict=True)
        half = min(max(xs) - min(xs), max(ys) - min(ys)) / 2
        if piece.rises > 0.02 * half:
            longer = 2 * piece.rises**2 / (3 * half)
            text = message("piece_rises", piece=piece.name, rises_mm=piece.rises, opens_mm=2 * math.pi * longer)
            findings.append(Finding("look", text))
    return findings


def _likely_mates(panels: Sequence[Panel]) -> list[Finding]:
    """Edges of different pieces that are nearly as long as one another, longest first: mates, perhaps."""
    edges = [(p, k, edge_length(e)) for p in panels for k, e in enumerate(p.seam_line)]
    pairs = [
        (a, b)
        for a, b in combinations(edges, 2)
        if a[0].id != b[0].id and abs(a[2] - b[2]) < EASED_SHARE * max(a[2], b[2])
    ]
    pairs.sort(key=lambda ab: -ab[0][2])
    return [
        Finding(
            "fine",
            message(
                "likely_mates",
                first=a[0].name,
                first_edge=a[1] + 1,
                second=b[0].name,
                second_edge=b[1] + 1,
                first_mm=a[2],
                second_mm=b[2],
            ),
        )
        for a, b in pairs[:6]
    ]


def _gusset(length: float, width: float, edging: Edging, cloth: str) -> tuple[Panel, Message]:
    """A leaf of two arcs, so wide in its middle; both edges are let into one slit, and close on it."""
    half = length / 2
    if width >= length:
        raise Refusal(message("gusset_too_wide", width_mm=width, length_mm=length), "measure")
    edges = [
        edging.edge(Edge("arc", ((-half, 0.0), (0.0, -width / 2), (half, 0.0))), "one side"),
        edging.edge(Edge("arc", ((half, 0.0), (0.0, width / 2), (-half, 0.0))), "other side"),
    ]
    gusset = panel("gusset", "gusset", edges, cloth=cloth)
    slit = edge_length(edges[0])
    circle = circle_of(edges[0])
    radius = circle.radius if circle else math.inf
    return gusset, message("gusset_slit", slit_mm=slit, length_mm=length, width_mm=width, radius_mm=radius)
