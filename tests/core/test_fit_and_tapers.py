"""Ease, cloth, tapered corners and the filled pad (rules 3, 4, 7)."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests import shapes
from tests.cases import worked_cases
from tests.close import same_ring
from tests.words import sums_of
from ypsicline.core.drafting import pad
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.fit import fit_ring, grown_over, in_cloth, shrunk_to
from ypsicline.core.drafting.house import Cloth
from ypsicline.core.drafting.inflated import Inflated, bag_volume, corners_of, inflate
from ypsicline.core.drafting.inside import as_set
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import flatten_ring, ring_length, signed_area
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.taper import Taper, usual_taper
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import runs_of
from ypsicline.core.pattern.seam_edge import SeamEdge

SQUARE = shapes.square(400)


def fitted(ring: shapes.Ring, fit: Fit, grain: float = 90.0) -> np.ndarray:
    return flatten_ring([r.edge for r in fit_ring(runs_of(ring), fit, grain).runs])


def rectangle(width: float, length: float, allowance: float = 0.0) -> shapes.Ring:
    return shapes.polygon([(0, 0), (width, 0), (width, length), (0, length)], allowance)


@pytest.mark.parametrize("case", worked_cases("shrinkage"), ids=lambda c: c["name"])
def test_worked_cases_of_shrinkage(case: dict) -> None:
    g = case["given"]
    assert shrunk_to(g["finished"], g["shrinkage"]) == pytest.approx(case["expect"]["cut"], abs=case["tolerance"])
    size = np.ptp(fitted(rectangle(g["finished"], 100), Fit(shrunk=(0, g["shrinkage"]))), axis=0)
    assert size == pytest.approx([case["expect"]["cut"], 100], abs=case["tolerance"])


def test_clearance_all_round_is_the_exact_parallel_and_adds_2_pi_c_to_a_circle() -> None:
    ring = fit_ring(runs_of(shapes.circle(100)), Fit(clearance=7), 90).runs
    assert [r.edge.kind for r in ring] == ["arc", "arc"]
    assert ring_length([r.edge for r in ring]) == pytest.approx(2 * math.pi * 107)


def test_girth_ease_is_added_to_the_girth_and_not_to_the_diameter() -> None:
    ring = fit_ring(runs_of(shapes.circle(812 / (2 * math.pi))), Fit(girth=12), 90).runs
    assert ring_length([r.edge for r in ring]) == pytest.approx(824)


def test_a_layer_grows_by_its_thickness_a_side_and_by_2_pi_t_in_girth() -> None:
    assert np.ptp(fitted(SQUARE, Fit(over=3)), axis=0) == pytest.approx([406, 406])
    assert grown_over(3) == 6
    ring = fit_ring(runs_of(shapes.circle(50)), Fit(over=3), 90).runs
    assert ring_length([r.edge for r in ring]) == pytest.approx(2 * math.pi * 50 + grown_over(3, cylinder=True))


def test_ease_comes_before_stretch_and_shrinkage_and_follows_the_grain() -> None:
    fit = Fit(width=10, clearance=5, stretched=(0.0, 0.25), shrunk=(0.05, 0.0))
    upright = np.ptp(fitted(SQUARE, fit), axis=0)
    assert upright == pytest.approx([(400 + 10 + 10) / 1.25, 410 / 0.95])
    turned = np.ptp(fitted(SQUARE, fit, grain=0.0), axis=0)
    assert turned == pytest.approx([(400 + 10 + 10) / 0.95, 410 / 1.25])


def test_an_edge_that_ease_draws_out_round_a_slight_corner_is_one_in_the_sum() -> None:
    """An arch that turns by 7° from its sides: each of its ends runs straight on for a fifth of a millimetre."""
    sides = [((0.0, 0.0), (100.0, 0.0)), ((100.0, 0.0), (100.0, 60.0)), ((0.0, 60.0), (0.0, 0.0))]
    base, right, left = (
        SeamEdge("line", ends, name, 12.0) for ends, name in zip(sides, ("base", "right", "left"), strict=True)
    )
    arch = SeamEdge("arc", ((100.0, 60.0), (50.0, 104.0), (0.0, 60.0)), "arch", 12.0)
    panel = Panel("arch", (base, right, arch, left), fit=Fit(clearance=3.0))
    drafted = draft_panel(panel)
    assert len(drafted.seam_line) == 6
    lines = [line.split(": ") for line in sums_of(drafted) if "on the seam line" in line and "+" in line]
    assert [name for name, _ in lines] == ["base", "right", "arch", "left"]
    grown = shapely.Polygon(flatten_ring(panel.seam_line)).buffer(3, join_style="mitre", mitre_limit=5)
    assert sum(float(words.split(" ")[0]) for _, words in lines) == pytest.approx(grown.exterior.length, abs=0.3)


def test_the_parts_of_an_edge_that_a_dart_sets_apart_stay_apart_in_the_sum() -> None:
    dart = Dart("edge1", along=150.0, intake=30.0, length=90.0)
    drafted = draft_panel(Panel("pad", shapes.square(300, allowance=12), features=(dart,)))
    lines = [line for line in sums_of(drafted) if line.startswith("a: ") and line.endswith("+ 12 plain")]
    assert [line.split(" ")[1] for line in lines] == ["135.0", "15.9", "15.9", "135.0"]


def test_of_many_edges_the_sum_tells_those_that_follow_each_other_finished_alike_together() -> None:
    angles = 2 * np.pi * np.arange(14) / 14
    corners = [(200 * np.cos(a), 200 * np.sin(a)) for a in angles]
    ends = list(zip(corners, corners[1:] + corners[:1], strict=True))
    names = [f"side {k + 1}" for k in range(14)]
    ring = [SeamEdge("line", e, n, 12.0) for e, n in zip(ends, names, strict=True)]
    ring[3] = replace(ring[3], allowance=25.0, finish="hem")
    lines = [line for line in sums_of(draft_panel(Panel("drum", tuple(ring)))) if "on the seam line" in line]
    side = 2 * 200 * math.sin(math.pi / 14)
    assert lines == [
        f"side 1 to side 3, 3 edges: {3 * side:.1f} on the seam line, + 12 plain",
        f"side 4: {side:.1f} on the seam line, + 25 hem",
        f"side 5 to side 14, 10 edges: {10 * side:.1f} on the seam line, + 12 plain",
    ]


def test_openings_that_are_alike_are_told_together_in_the_sum() -> None:
    slots = [Aperture("slot", (100.0 * k, 100.0), (45.0, 6.0), "bound", f"slot {k}") for k in (1, 2, 3)]
    other = Aperture("round", (200.0, 250.0), (30.0, 30.0), "bound", "vent")
    lines = sums_of(draft_panel(Panel("bed", shapes.square(400, allowance=12), features=(*slots, other))))
    assert [line.split(":")[0] for line in lines if "finished" in line] == ["slot 1 to slot 3, 3 alike", "vent"]


def test_negative_clearance_takes_the_seam_line_in_and_too_much_of_it_is_refused() -> None:
    assert np.ptp(fitted(SQUARE, Fit(clearance=-10)), axis=0) == pytest.approx([380, 380])
    with pytest.raises(Refusal, match="leaves nothing"):
        fitted(SQUARE, Fit(clearance=-250))


@given(st.floats(-20, 60), st.floats(-5, 20), st.floats(-30, 30))
def test_edges_keep_their_names_whatever_the_ease(clearance: float, percent: float, width: float) -> None:
    runs = fit_ring(runs_of(shapes.wave()), Fit(percent=percent, width=width, clearance=clearance), 90).runs
    assert [r.source for r in runs if r.s0 == 0] == ["edge1", "edge2", "edge3", "edge4"]
    assert signed_area(flatten_ring([r.edge for r in runs])) > 0


def test_cloth_that_is_washed_before_isnt_drawn_larger() -> None:
    cloth = Cloth("canvas", warp_shrinks=0.04, weft_shrinks=0.02)
    assert in_cloth(None, cloth) == Fit(shrunk=(0.04, 0.02))
    assert in_cloth(None, replace(cloth, prewashed=True)) is None
    assert in_cloth(Fit(clearance=2, shrunk=(0.1, 0.1)), None) == Fit(clearance=2)


def test_the_sums_are_shown_in_their_order_and_a_drafted_panel_stays_as_it_is() -> None:
    panel = Panel("lid", rectangle(300, 200, 10), fit=Fit(percent=2, girth=12, shrunk=(0.03, 0.03)))
    draft = draft_panel(panel)
    text = "\n".join(sums_of(draft))
    assert text.index("+2 %") < text.index("girth ease 12 ÷ 2π = 1.91") < text.index("shrinkage")
    again = draft_panel(draft)
    assert same_ring(again.cutting_points, draft.cutting_points, within_mm=1e-6)
    assert [n.edge for n in draft.notches] == [0, 1, 2, 3]


@pytest.mark.parametrize("case", worked_cases("taper-rectangle"), ids=lambda c: c["name"])
def test_worked_cases_of_tapered_corners(case: dict) -> None:
    g, e = case["given"], case["expect"]
    tapers = tuple(Taper(f"edge{k + 1}", g["reach"], g["reach"], g["inset"]) for k in range(4))
    draft = draft_panel(Panel("pad", rectangle(g["width"], g["length"]), features=(*tapers,)))
    assert same_ring(draft.seam_points, e["ring"], within_mm=case["tolerance"])
    assert len(draft.seam_line) == len(e["ring"])
    assert signed_area(np.asarray(draft.seam_points)) == pytest.approx(e["area"], abs=0.1)
    assert ring_length(draft.seam_line) == pytest.approx(e["perimeter"], abs=case["tolerance"])
    assert any(f"becomes {e['corner_angle_deg']:.1f}°" in line for line in sums_of(draft))


def test_a_taper_is_a_seam_line_so_the_allowance_comes_after_it() -> None:
    draft = draft_panel(Panel("pad", rectangle(400, 300, 12), features=(Taper("edge1", 100, 90, 12, curved=True),)))
    taper = next(e for e in draft.seam_line if e.name == "a taper")
    assert (taper.kind, taper.allowance) == ("curve", 12)
    assert draft.seam_of == ("edge1", "edge1", "edge2", "edge2", "edge3", "edge4")


@pytest.mark.parametrize(
    ("taper", "words"),
    [(Taper("edge1", 200, 50, 10), "less than half"), (Taper("edge1", 60, 60, 31), "inside out"), (Taper("edge10", 60, 60, 10), "isn't there")],
)  # fmt: skip
def test_tapers_that_cant_be_drawn_are_refused(taper: Taper, words: str) -> None:
    with pytest.raises(Refusal, match=words):
        taper.on_seam(runs_of(SQUARE))


@given(st.floats(30, 2000), st.floats(30, 2000), st.sampled_from(["usual", "lean", "full"]))
def test_the_usual_taper_keeps_to_its_bounds(first: float, second: float, preset: str) -> None:
    taper = usual_taper("edge1", first, second, preset)  # type: ignore[arg-type]
    assert 6 <= taper.inset <= 25
    assert taper.reach == taper.reach_after <= 0.3 * min(first, second)


@pytest.mark.parametrize("case", worked_cases("flat-bag-volume"), ids=lambda c: c["name"])
def test_worked_cases_of_the_flat_bags_volume(case: dict) -> None:
    g = case["given"]
    assert bag_volume(g["width"], g["length"]) / 1e6 == pytest.approx(
        case["expect"]["volume_litres"], abs=case["tolerance"]
    )


def test_a_filled_square_bag_holds_what_is_known_of_it_and_the_answer_is_the_same_twice() -> None:
    points = flatten_ring(SQUARE)
    filled = inflate(points)
    # the best volume that is known of the square paper bag, 0.2055 a³
    assert filled.volume_mm3 / 400**3 == pytest.approx(0.2055, rel=0.03)
    assert inflate(points) == filled


def test_corners_of_a_filled_pad_stand_out_and_tapers_bring_them_in() -> None:
    plain = corners_of(SQUARE, inflate(flatten_ring(SQUARE), rows=14))
    assert len(plain) == 4
    assert all(c.share > 0.05 for c in plain)
    runs = runs_of(SQUARE)
    for k in range(4):
        runs = Taper(f"edge{k + 1}", 190, 190, 30).on_seam(runs).runs
    tapered = corners_of(SQUARE, inflate(flatten_ring([r.edge for r in runs]), rows=14))
    assert all(c.share < 0.02 for c in tapered)


def test_the_way_back_from_a_drafted_panel_to_the_outline_as_it_was_set() -> None:
    mark = MarkAt("button", (320, 60))
    fit = Fit(percent=4, width=20, clearance=10, stretched=(0.1, 0.0), shrunk=(0.0, 0.05))
    panel = Panel("p", SQUARE, middle_notches=False, features=(mark,), fit=fit, grain_deg=60)
    (drawn,) = (m for m in draft_panel(panel).marks if m.kind == "button")
    back = as_set(panel)
    assert back
    assert math.dist(drawn.points[0], mark.at) > 5
    assert back.point(drawn.points[0]) == pytest.approx(mark.at)
    assert as_set(replace(panel, fit=Fit(clearance=10))) is None
    assert as_set(replace(panel, fit=None)) is None


@pytest.mark.parametrize("least_depth", [1, 2, 7, 8, 9, 15, 16, 17])
def test_the_least_tapers_are_proposed_or_the_deepest_where_none_are_enough(
    least_depth: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    reach = 400 * float(np.interp(least_depth, np.linspace(1, pad.DEEPEST, 5), [0.25, 0.3, 0.36, 0.42, 0.47]))
    fills: list[float] = []

    def filling(panel: Panel, _: object) -> Iterator[pad.FilledPad]:
        """Corners stand out unless they are tapered so far; 17 is farther than tapers go."""
        fills.append(panel.of(Taper)[0].reach)
        is_enough = fills[-1] > reach - 0.1 and least_depth <= pad.DEEPEST
        yield pad.FilledPad(Inflated((), (), 0.0, 0.0), (), 0.0 if is_enough else 0.03)

    monkeypatch.setattr(pad, "filling", filling)
    *_, proposal = pad.least_tapers(Panel("p", SQUARE), [f"edge{k}" for k in (1, 2, 3, 4)])
    assert proposal.depth == min(least_depth, pad.DEEPEST)
    assert proposal.pad.is_enough == (least_depth <= pad.DEEPEST)
    assert len(fills) <= 5
