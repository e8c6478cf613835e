"""Round ends, and the wall that is sewn round them (rule 4)."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ypsicline.core.covers.parts.edging import Edging, circle, panel
from ypsicline.core.findings import Finding
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import Along
from ypsicline.core.pattern.panel import Panel

__all__ = ["disc", "disc_sums", "round_run", "shortcuts"]


def disc(
    id: str,
    name: str,
    girth: float,
    edging: Edging,
    parts: Sequence[tuple[float, float, Edging]] = (),
    *,
    cloth: str = "outer",
) -> Panel:
    """A disc whose seam line is `girth` round, from its lowest point; `parts` (from, to, as shares of the turn) are
    finished otherwise."""
    cuts = sorted({0.0, 0.5, *(s for a, b, _ in parts for s in (a, b) if 0 < s < 1)})
    edges = []
    for k, (a, b) in enumerate(zip(cuts, [*cuts[1:], 1.0], strict=True)):
        own = next((e for low, high, e in parts if low < (a + b) / 2 < high), edging)
        edges.append((a, f"round {k + 1}", own))
    return panel(id, name, circle(girth / (2 * math.pi), edges), cloth=cloth)


def round_run(disc: Panel, *, backward: bool = False) -> tuple[Along, ...]:
    """A disc's whole edge from its lowest point, counter-clockwise, or the other way."""
    run = tuple(Along(disc.id, e.id, backward) for e in disc.seam_line)
    return run[::-1] if backward else run


def disc_sums(girth: float, ease: float, allowance: float) -> list[Message]:
    """A disc from its girth, as sums: seam line, across it, and what to cut."""
    whole = girth + ease
    across = whole / math.pi
    return [
        message(
            "disc_across", girth_mm=girth, ease_mm=ease, whole_mm=whole, across_mm=across, allowance_mm=allowance,
            cut_mm=across + 2 * allowance,
        )
    ]  # fmt: skip


def shortcuts(ease: float, allowance: float) -> list[Finding]:
    """What the common shortcuts would spoil: a wall as long as the cut circle is round, and one ease added twice."""
    notes = [message("wall_of_cut_circle", over_mm=2 * math.pi * allowance)] if allowance else []
    if ease:
        notes.append(message("ease_added_twice", ease_mm=ease, over_mm=(math.pi - 1) * ease))
    return [Finding("fine", text) for text in notes]
