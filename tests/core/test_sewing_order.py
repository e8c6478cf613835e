"""The order of sewing over all families: what any shuffle of their joins is put into, held against walking it step by step."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from tests.families import FAMILIES, cover_of, lot
from ypsicline.core.covers.cover import Cover
from ypsicline.core.joins.order import closed_off, sewing_order
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.panel import Panel

LOTS = range(4)
SEED = 15


def covers(family: str) -> list[Cover]:
    return [c for c in (cover_of(family, **lot(family, k)) for k in LOTS) if len(c.joins) > 1]


def corner(along: Along, panels: dict[str, Panel], *, last: bool) -> tuple[str, int, tuple[float, float]]:
    """The place on its own panel where a walk of an edge begins or ends: told by its coordinates, not by ids."""
    edge = next(e for e in panels[along.panel].seam_line if e.id == along.edge)
    x, y = edge.start if last == along.backward else edge.end
    return along.panel, along.piece, (round(x, 6), round(y, 6))


def overrun(seam: Join, other: Join, panels: dict[str, Panel]) -> bool:
    """Whether a seam passes from piece to piece, or back to its beginning, just where the other ends."""
    ends = [{corner(other.first[k], panels, last=k < 0), corner(other.second[k], panels, last=k < 0)} for k in (0, -1)]
    return any(
        {corner(a, panels, last=True), corner(b, panels, last=False)} in ends
        for side in (seam.first, seam.second)
        for a, b in pairwise([*side, side[0]])
        if corner(a, panels, last=True) != corner(b, panels, last=False)
    )


@pytest.mark.parametrize("family", FAMILIES)
def test_a_familys_own_order_closes_nothing_off(family: str) -> None:
    for cover in covers(family):
        assert closed_off(cover.joins, cover.panels) == ()
        assert sewing_order(cover.joins, cover.panels) == tuple(range(len(cover.joins)))


@pytest.mark.parametrize("family", FAMILIES)
def test_any_shuffle_is_put_in_an_order_that_closes_nothing_off(family: str) -> None:
    chance = np.random.default_rng(SEED)
    for cover in covers(family):
        panels = {p.id: p for p in cover.panels}
        joins = list(cover.joins)
        joins = [joins[k] for k in chance.permutation(len(joins))]
        order = sewing_order(joins, cover.panels)
        assert sorted(order) == list(range(len(joins)))
        sewn = [joins[k] for k in order]
        assert closed_off(sewn, cover.panels) == ()
        for k, seam in enumerate(sewn):
            assert not any(overrun(seam, later, panels) for later in sewn[k + 1 :])


@pytest.mark.parametrize("family", ["band_over_profile", "box_cover", "cap", "drum", "pad"])
def test_what_is_said_to_be_closed_off_is_just_what_is_overrun(family: str) -> None:
    chance = np.random.default_rng(SEED)
    count = 0
    for cover in covers(family):
        panels = {p.id: p for p in cover.panels}
        for _ in range(4):
            joins = list(cover.joins)
            joins = [joins[k] for k in chance.permutation(len(joins))]
            said = {(shut.join.letter, by.letter) for shut in closed_off(joins, cover.panels) for by in shut.by}
            lengths = {
                (later.letter, seam.letter)
                for k, seam in enumerate(joins)
                for later in joins[k + 1 :]
                if overrun(seam, later, panels)
            }
            assert said == lengths
            count += len(lengths)
    assert count > 0
