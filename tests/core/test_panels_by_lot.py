"""What must hold of any panel's cutting line, seen to by shapely: however it lies and wherever its edges begin.

`YPSICLINE_LOTS=20000` makes it the long form.
"""

from __future__ import annotations

import math
import os
from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
import shapely
from shapely import affinity

from tests.lots import panel_by_lot
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import flatten, transformed
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.pattern.edge_changes import mirrored
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render

CASES = {
    "a hem mitre beside a slot that closes": (3, (
        ("line", ((0, 0), (346.41, 200)), 20, "hem", "hem_mitre", 0),
        ("line", ((346.41, 200), (196.41, 459.808)), 20, "hem", "mitre", 0),
        ("line", ((196.41, 459.808), (36.195, 367.308)), 20, "plain", "mitre", 0),
        ("line", ((36.195, 367.308), (111.195, 237.404)), 20, "plain", "mitre", 0),
        ("line", ((111.195, 237.404), (85.215, 222.404)), 20, "plain", "mitre", 0),
        ("line", ((85.215, 222.404), (10.215, 352.308)), 20, "plain", "mitre", 0),
        ("line", ((10.215, 352.308), (-150, 259.808)), 20, "plain", "mitre", 0),
        ("line", ((-150, 259.808), (0, 0)), 20, "plain", "mitre", 0),
    )),
    "a bound edge beside a tight concave one": (3, (
        ("line", ((0, 0), (300, 0)), 0, "bound", "mitre", 0),
        ("arc", ((300, 0), (366.69, 9.6), (423.4, -40)), 20, "plain", "mitre", 0),
        ("line", ((423.4, -40), (378, 300)), 10, "plain", "mitre", 0),
        ("line", ((378, 300), (0, 300)), 10, "plain", "mitre", 0),
        ("line", ((0, 300), (0, 0)), 10, "plain", "mitre", 0),
    )),
    "hems on an S-curve": (6, (
        ("curve", ((110.567, 193.328), (52.117, -60.525), (64.784, -41.504), (-150.19, -126.465)), 18.9, "hem", "mitre", 0),
        ("curve", (
            (-150.19, -126.465), (-117.635, -130.18), (-116.305, -103.018), (-82.759, -113.912), (-49.213, -124.805), (-39.641, -78.345),
            (-6.904, -94.724),
        ), 15.8, "hem", "mitre", 0),
        ("arc", ((-6.904, -94.724), (154.292, 7.517), (110.567, 193.328)), 0, "casing", "mitre", 0),
    )),
    "allowances wider than an inlet": (6, (
        ("line", ((86.398, 160.845), (58.721, 209.458)), 47.5, "hem", "bevel", 0),
        ("line", ((58.721, 209.458), (-100.6, 23.103)), 47.5, "double_hem", "mitre", 23.75),
        ("line", ((-100.6, 23.103), (-238.944, 33.205)), 47.5, "hem", "mirror", 0),
        ("line", ((-238.944, 33.205), (-192.409, 18.746)), 47.5, "casing", "hem_mitre", 9.5),
        ("line", ((-192.409, 18.746), (-97.944, -172.772)), 47.5, "casing", "hem_mitre", 9.5),
        ("line", ((-97.944, -172.772), (-116.819, -93.792)), 47.5, "casing", "hem_mitre", 0),
        ("line", ((-116.819, -93.792), (67.402, -180.026)), 47.5, "hem", "hem_mitre", 0),
        ("line", ((67.402, -180.026), (70.615, -23.793)), 47.5, "hem", "square", 0),
        ("line", ((70.615, -23.793), (196.488, -29.013)), 47.5, "hem", "mitre", 0),
        ("line", ((196.488, -29.013), (148.146, -23.177)), 47.5, "casing", "by_rule", 0),
        ("line", ((148.146, -23.177), (86.398, 160.845)), 47.5, "casing", "by_rule", 0),
    )),
    "a turned corner beside a hemmed arc": (6, (
        ("line", ((412.421, 124.505), (48.689, 362.901)), 27.4, "plain", "hem_mitre", 0),
        ("arc", ((48.689, 362.901), (-13.418, 341.022), (-57.744, 292.326)), 20.9, "hem", "mirror", 0),
        ("curve", (
            (-57.744, 292.326), (-77.724, 312.312), (-71.295, 337.048), (-81.665, 347.219), (-92.035, 357.39), (-83.127, 382.79),
            (-104.26, 402.763),
        ), 19.3, "plain", "mirror", 0),
        ("arc", ((-104.26, 402.763), (-311.154, 190.742), (-179.652, -74.71)), 0, "plain", "mirror", 0),
        ("arc", ((-179.652, -74.71), (-150.205, -100.14), (-138.286, -137.178)), 16, "plain", "hem_mitre", 0),
        ("line", ((-138.286, -137.178), (-185.259, -187.127)), 1.6, "double_hem", "by_rule", 0.8),
        ("line", ((-185.259, -187.127), (412.421, 124.505)), 11, "hem", "hem_mitre", 0),
    )),
}  # fmt: skip
LOTS = int(os.environ.get("YPSICLINE_LOTS", "60"))
GROUP = 20
SAME_MM = 0.01
Region = shapely.Geometry


def cloth_of(panel: DraftedPanel) -> Region:
    return shapely.Polygon(flatten_ring(panel.cutting_line, 0.0005))


def apart_mm(a: Region, b: Region) -> float:
    """How far the two borders lie apart, at the corners of both. In a point so sharp that where it ends is known ten times
    less well than its sides, up to 0.1 mm count as nothing where the cloth between isn't `SAME_MM` thick."""
    border, other = a.boundary, b.boundary
    shapely.prepare([border, other])
    pairs = ((border, other), (other, border))
    far = float(max(shapely.distance(x, shapely.points(shapely.get_coordinates(y))).max() for x, y in pairs))
    if SAME_MM < far <= 0.1 and shapely.make_valid(a).symmetric_difference(b).buffer(-SAME_MM / 2).is_empty:
        return 0.0
    return far


def turned(panel: Panel, degrees: float) -> tuple[Panel, Callable[[Region], Region]]:
    """The panel turned and moved, and how its cloth is laid back."""
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    matrix, shift = np.array([[c, -s], [s, c]]), (11.3, -7.7)
    laid = replace(panel, seam_line=tuple(transformed(e, matrix, shift) for e in panel.seam_line))
    return laid, lambda g: affinity.rotate(affinity.translate(g, -shift[0], -shift[1]), -degrees, origin=(0, 0))


def whisker_mm(ring: np.ndarray) -> float:
    """How far the ring reaches out of itself where it is narrower than 0.02 mm."""
    whole = shapely.Polygon(ring)
    opened = whole.buffer(-0.01, join_style="mitre", mitre_limit=20).buffer(0.0105, join_style="mitre", mitre_limit=20)
    return float(shapely.distance(opened, shapely.points(ring)).max())


def crossed_mm2(cloth: Region) -> float:
    """How much of the cloth is cut off where its border crosses itself."""
    parts = sorted(g.area for g in shapely.get_parts(shapely.make_valid(cloth)))
    return float(sum(parts[:-1]))


def says(drafted: DraftedPanel, *words: str) -> bool:
    return any(w in render(f.message) for f in drafted.findings for w in words)


def cut_short(drafted: DraftedPanel) -> set[str]:
    return {render(f.message) for f in drafted.findings if "is cut short there" in render(f.message)}


def faults_of(panel: Panel) -> dict[str, float]:
    draft = draft_panel(panel)
    cloth = cloth_of(draft)
    result = {}
    # where the panel itself runs out in nothing, which is said, its cloth does so too
    is_thin = says(draft, "too thin to be cut")
    if not is_thin:
        result["crossed"] = crossed_mm2(cloth)
        outside = shapely.distance(cloth, shapely.points(np.asarray(draft.seam_points))).max()
        result["seam outside its cloth"] = max(0.0, float(outside) - 0.02)
        long = whisker_mm(np.asarray(draft.cutting_points))
        result["whisker"] = long if long > 1.5 else 0.0
    result |= apart_however_it_lies(panel, cloth)
    # a corner that is turned follows its hem's depth, and may take a trifle in
    trifle = max(1.0, 0.005 * cloth.area)
    result["less cloth for more allowance"] = max(0.0, less_cloth_mm2(panel, draft, cloth) - trifle)
    return {k: round(v, 3) for k, v in result.items() if v > (0.1 if is_thin else SAME_MM)}


def apart_however_it_lies(panel: Panel, cloth: Region) -> dict[str, float]:
    result = {}
    for degrees in (30.0, 90.0, 17.3):
        laid, back = turned(panel, degrees)
        result[f"turned by {degrees:g}"] = apart_mm(back(cloth_of(draft_panel(laid))), cloth)
    on_from = replace(panel, seam_line=panel.seam_line[1:] + panel.seam_line[:1])
    result["started at another edge"] = apart_mm(cloth_of(draft_panel(on_from)), cloth)
    other_hand = affinity.scale(cloth_of(draft_panel(mirrored(panel))), -1, 1, origin=(0, 0))
    result["mirrored"] = apart_mm(other_hand, cloth)
    return result


def less_cloth_mm2(panel: Panel, drafted: DraftedPanel, cloth: Region) -> float:
    """How much less cloth there is with allowances 8 % wider; none where a corner or hem can't be drawn any more, an inlet
    closes up or one more edge is cut short, which is said."""
    wider = [replace(e, allowance=1.08 * e.allowance, turn_under=1.08 * e.turn_under) for e in panel.seam_line]
    larger = draft_panel(replace(panel, seam_line=tuple(wider)))
    said = ("can't be drawn as asked", "loses a loop", "can't be folded", "stand out too far", "closes up")
    if says(drafted, *said) or says(larger, *said) or cut_short(larger) - cut_short(drafted):
        return 0.0
    return float(cloth.area - cloth_of(larger).area)


@pytest.mark.parametrize("first", range(0, LOTS, GROUP))
def test_a_cutting_line_is_the_panels_own(first: int) -> None:
    faults, draft = {}, 0
    for number in range(first, min(first + GROUP, LOTS)):
        panel = panel_by_lot(number)
        if panel is None:
            continue
        try:
            if result := faults_of(panel):
                faults[number] = result
            draft += 1
        except Refusal as e:
            # a seam line that crosses itself can't be drafted, and says so
            assert any(w in e.sentence for w in ("crosses itself", "lie on one another", "clockwise")), (
                number,
                e.sentence,
            )
    assert draft > GROUP / 4
    assert not faults


@pytest.mark.parametrize("clearance", [4.0, -2.0])
@pytest.mark.parametrize("first", range(200, 200 + LOTS // 2, GROUP))
def test_with_clearance_a_panel_is_cut_alike_however_it_lies(first: int, clearance: float) -> None:
    """The allowances of an edge hold for what the clearance adds to it at its corners, and for no more."""
    apart, draft = {}, 0
    for number in range(first, min(first + GROUP, 200 + LOTS // 2)):
        panel = panel_by_lot(number)
        if panel is None:
            continue
        after = replace(panel, fit=Fit(clearance=clearance))
        try:
            cloth = cloth_of(draft_panel(after))
        except Refusal:
            continue
        draft += 1
        # edges of a tenth of a millimetre, which clearance leaves in tight corners, point somewhere only nearly
        result = {k: v for k, v in apart_however_it_lies(after, cloth).items() if v > 0.2}
        # a corner that is just as long as its limit is drawn or not, by chance
        if result and max(result.values()) > 2 * reach_at_the_limit_mm(after):
            apart[number] = result
    assert draft
    assert not apart


def reach_at_the_limit_mm(panel: Panel) -> float:
    """How far the cutting line moves when the longest corner that is drawn is a thousandth longer or shorter."""
    less, more = (draft_panel(replace(panel, mitre_limit=panel.mitre_limit * k)) for k in (0.999, 1.001))
    return apart_mm(cloth_of(less), cloth_of(more))


@pytest.mark.parametrize("name", CASES)
def test_panels_that_once_failed(name: str) -> None:
    limit, rows = CASES[name]
    edges = tuple(
        SeamEdge(kind, points, f"e{k}", allowance, finish, corner, under)  # type: ignore[arg-type]
        for k, (kind, points, allowance, finish, corner, under) in enumerate(rows)
    )
    panel = Panel(name, edges, mitre_limit=limit)
    assert not faults_of(panel)


@pytest.mark.parametrize("number", [252, 2429, 14438, 16709, 19961])
def test_lots_that_failed_once(number: int) -> None:
    # a face of the plane with a neck at half its height; a hem beside a curve with nothing of it left to look at;
    # two hems at a point of under two degrees; hems deeper than their curve's radius at a turned corner
    panel = panel_by_lot(number)
    assert panel is not None
    assert not faults_of(panel)


def test_a_corner_that_a_curve_bends_away_from_is_cut_straight_across_and_said() -> None:
    _, rows = CASES["a bound edge beside a tight concave one"]
    edges = tuple(SeamEdge(kind, points, f"e{k}", a, f, c) for k, (kind, points, a, f, c, _) in enumerate(rows))  # type: ignore[arg-type]
    draft = draft_panel(Panel("beak", edges))
    assert any("between “e0” and “e1” can't be drawn as asked" in render(f.message) for f in draft.findings)
    # the whole band beside the curve is there: of each of its points the one 20 mm outside, square to it
    cloth = shapely.Polygon(draft.cutting_points).buffer(0.03)
    curve = flatten(edges[1], 0.5)[1:-1]
    way = np.gradient(curve, axis=0)
    out = curve + 20 * np.column_stack([way[:, 1], -way[:, 0]]) / np.hypot(*way.T)[:, None]
    inside = shapely.contains_xy(cloth, *out[2 : len(out) * 2 // 3].T)
    assert inside.mean() > 0.98
