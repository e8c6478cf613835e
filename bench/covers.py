"""What drafting covers from measures costs, by family, and how well their joins close in space."""

from __future__ import annotations

import json
import statistics
import time

import numpy as np
import shapely

from tests.families import FAMILIES, lot
from ypsicline.core.covers.cover import Cover
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.house import House
from ypsicline.core.formats.measures_json import read_measures
from ypsicline.core.joins.lengths import sewn_edges
from ypsicline.core.joins.walk import walks
from ypsicline.core.solids.assembled import join_gaps

__all__ = ["covers"]

LOTS = 40


def covers() -> list[str]:
    """The section of the bench."""
    return [
        "## Covers from measures",
        "",
        f"{LOTS} of each family by lot (`tests/families.py`), ms of computing: the cover with its joins, walked and notched; and drafting its "
        "panels. As a yardstick, shapely's buffer of the same seam lines. Joins: the most that two sides meant to be equal differ, and the most "
        "that one is open where the cover is put together in space.",
        "",
        "| family | cover, ms | p95 | drafting, ms | shapely, ms | joins | differ by, mm | open by, mm |",
        "|---|---|---|---|---|---|---|---|",
        *(_row(family) for family in FAMILIES),
        "",
    ]  # fmt: skip


def _row(family: str) -> str:
    times, drafting, yardstick, differ, gaps, joins = [], [], [], [0.0], [], 0
    for k in range(LOTS):
        asked = read_measures(json.dumps(lot(family, k)).encode(), family)
        sewn_edges.cache_clear()
        started = time.process_time()
        cover: Cover = asked.cover(House())
        times.append(1000 * (time.process_time() - started))
        started = time.process_time()
        draft = draft_panels(cover.panels, House())
        drafting.append(1000 * (time.process_time() - started))
        started = time.process_time()
        for panel in draft:
            shapely.Polygon(panel.seam_points).buffer(12, join_style="mitre")
        yardstick.append(1000 * (time.process_time() - started))
        lengths = walks(cover.joins, cover.panels)
        joins += len(lengths)
        differ += [abs(w.difference_mm) for w in lengths if w.verdict == "equal"]
        gaps += [g.gap_mm for g in join_gaps(cover.joins, cover.standing, {p.id: p for p in cover.panels})]
    return (
        f"| {family.replace('_', ' ')} | {statistics.median(times):.1f} | {np.percentile(times, 95):.1f} | {statistics.median(drafting):.1f} | "
        f"{statistics.median(yardstick):.2f} | {joins} | {max(differ):.4f} | {f'{max(gaps):.3f}' if gaps else '—'} |"
    )
