"""What stands on a panel follows its outline: told by where drafting draws it before and after."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import pytest

from tests import shapes
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.eased import ease_drawn_in
from ypsicline.core.drafting.pivot import pivot_dart
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import message
from ypsicline.core.pattern.edge_changes import changed_size, merge_edges, mirrored, split_panel_edge
from ypsicline.core.pattern.edge_map import EdgeMap, Part
from ypsicline.core.pattern.features.aperture import Aperture
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.gather import Gather
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.features.pleats import Pleats
from ypsicline.core.pattern.features.taper import Taper
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.panel import Panel

FLAG = ((-20.0, -10.0), (20.0, -10.0), (0.0, 15.0))
FULL = Panel(
    "full", shapes.square(400, allowance=12),
    middle_notches=False,
    features=(
        Notch("edge1", 60.0, True),
        Notch("edge3", 350.0),
        Taper("edge1", 50.0, 70.0, 8.0),
        Dart("edge1", 150.0, 30.0, 90.0, lean=12.0, towards="end"),
        Dart("edge3", 0.0, 24.0, 60.0, corner=True),
        Pleats("edge2", 120.0, 40.0, 2, 45.0),
        Gather("edge4", 1.5),
        Aperture("slot", (200.0, 250.0), (60.0, 20.0), "raw", "grip", turn_deg=30.0),
        Aperture("outline", (290.0, 160.0), (40.0, 25.0), "raw", "flag", ring=FLAG),
        MarkAt("button", (90.0, 300.0)),
        MarkAt("hand_sewn", (40.0, 200.0), (90.0, 210.0))),
)  # fmt: skip
# words, the grain and the label are laid out anew
OWN = {"dart", "dart_point", "pleat", "gather", "button", "hand_sewn", "fold", "stitch"}


def drawn(panel: Panel) -> list[tuple[str, Point]]:
    """All that drafting draws of a panel's features, each by its kind and the middle of what is drawn."""
    outcome = draft_panel(panel)
    result = [(m.kind, middle(m.points)) for m in outcome.marks if m.kind in OWN]
    result += [("notch", n.on_seam) for n in outcome.notches if n.on_seam]
    result += [("opening", middle(p)) for p in outcome.hole_seam_points]
    return sorted(result, key=lambda f: (f[0], round(f[1][0], 3), round(f[1][1], 3)))


def middle(points: tuple[Point, ...]) -> Point:
    """The mean of where a run begins and ends, or of an opening's corners."""
    return math.fsum(x for x, _ in points) / len(points), math.fsum(y for _, y in points) / len(points)


def same(one: list[tuple[str, Point]], other: list[tuple[str, Point]], within: float = 1e-6) -> None:
    assert [k for k, _ in one] == [k for k, _ in other]
    for (_, p), (_, q) in zip(one, other, strict=True):
        assert math.dist(p, q) < within


def moved(found: list[tuple[str, Point]], to: Callable[[Point], Point]) -> list[tuple[str, Point]]:
    return sorted(((k, to(p)) for k, p in found), key=lambda f: (f[0], round(f[1][0], 3), round(f[1][1], 3)))


@pytest.mark.parametrize(("edge", "along"), [("edge1", 120.0), ("edge1", 280.0), ("edge2", 190.0), ("edge3", 100.0)])
def test_a_split_edge_leaves_everything_where_it_is_and_so_does_merging_it_again(edge: str, along: float) -> None:
    split = split_panel_edge(FULL, edge, along).panel
    same(drawn(split), drawn(FULL))
    same(drawn(merge_edges(split, edge).panel), drawn(FULL))


def test_both_parts_of_a_gathered_edge_are_gathered_and_one_alone_cant_be_merged() -> None:
    split = split_panel_edge(FULL, "edge4", 150.0).panel
    first, second = split.of(Gather)
    assert [(g.edge, g.ratio) for g in (first, second)] == [("edge4", 1.5), ("edge5", 1.5)]
    assert first.id == FULL.of(Gather)[0].id != second.id
    assert [g.id for g in merge_edges(split, "edge4").panel.of(Gather)] == [first.id]
    with pytest.raises(Refusal, match="Only a part"):
        merge_edges(replace(split, features=(first,)), "edge4")


@pytest.mark.parametrize(("edge", "along"), [("edge1", 150.0), ("edge2", 130.0), ("edge2", 170.0), ("edge3", 395.0)])
def test_an_edge_isnt_split_under_what_stands_on_it(edge: str, along: float) -> None:
    with pytest.raises(Refusal, match="split the edge elsewhere"):
        split_panel_edge(FULL, edge, along)


def test_the_mirror_image_has_everything_in_its_mirror() -> None:
    flip = Transform.mirror()
    same(drawn(mirrored(FULL)), moved(drawn(FULL), flip.point))
    same(drawn(mirrored(mirrored(FULL))), drawn(FULL))


@pytest.mark.parametrize("factor", [0.5, 3.0])
def test_a_larger_copy_has_everything_larger(factor: float) -> None:
    bare = replace(FULL, features=FULL.without(Gather, Notch))
    by = Transform.scaling(factor)
    # stitched lines run at an allowance that stays
    own = [f for f in drawn(bare) if f[0] not in ("fold", "stitch")]
    same([f for f in drawn(changed_size(bare, factor)) if f[0] not in ("fold", "stitch")], moved(own, by.point), 1e-4)


def test_what_lies_on_the_side_that_a_dart_turns_goes_with_it_an_outline_too() -> None:
    panel = Panel(
        "p", shapes.square(400, allowance=10), middle_notches=False,
        features=(
            Dart("edge1", 100.0, 40.0, 200.0),
            Aperture("outline", (320.0, 120.0), (40.0, 25.0), "raw", "flag", ring=FLAG),
            MarkAt("button", (350.0, 60.0)),
            MarkAt("button", (40.0, 350.0))),
    )  # fmt: skip
    after = pivot_dart(panel, "feature1", "edge2", 300.0).panel
    turn = 2 * math.atan(20 / 200)
    turned = Transform.turn(turn if after.of(MarkAt)[0].at[1] > 60 else -turn, (100.0, 200.0))
    assert math.dist(after.of(MarkAt)[0].at, turned.point((350.0, 60.0))) < 1e-6
    assert after.of(MarkAt)[1].at == (40.0, 350.0)
    tips = [(after.of(Aperture)[0].at[0] + x, after.of(Aperture)[0].at[1] + y) for x, y in after.of(Aperture)[0].ring]
    for tip, (x, y) in zip(tips, FLAG, strict=True):
        assert math.dist(tip, turned.point((320.0 + x, 120.0 + y))) < 1e-6


def test_places_follow_edges_that_are_walked_the_other_way() -> None:
    back = EdgeMap(
        (Part("a", 0.0, 100.0, "a", 100.0, 0.0), Part("b", 0.0, 50.0, "b", 50.0, 0.0)),
        {"a": 100.0, "b": 50.0},
        {"b": 50.0, "a": 100.0},
        message("else_take_off"),
    )
    assert back.at("a", 30.0) == ("a", 70.0)
    assert back.span("a", 20.0, 30.0, message("thing_dart")) == ("a", 70.0, 80.0)
    # the corner at the end of a is where b began, and b now ends at
    assert (back.corner("a", message("thing_taper")), back.corner("b", message("thing_taper"))) == ("b", "a")
    assert back.at("c", 1.0) is None
    with pytest.raises(Refusal, match="take it off first"):
        back.span("a", 90.0, 110.0, message("thing_dart"))


def test_what_stood_at_a_corner_that_is_gone_is_refused() -> None:
    cut_short = EdgeMap((Part("a", 0.0, 80.0, "a", 0.0, 80.0),), {"a": 100.0}, {"a": 80.0}, message("else_move"))
    with pytest.raises(Refusal, match="a corner that the change takes away; move it"):
        cut_short.corner("a", message("thing_taper"))


def test_ease_drawn_in_keeps_a_dart_at_a_corner_that_comes_nearer() -> None:
    panel = Panel(
        "p",
        shapes.square(200, allowance=10),
        features=(Dart("edge2", 0.0, 30.0, 60.0, corner=True),),
        fit=Fit(width=-12.0, height=-12.0),
    )
    eased, _ = ease_drawn_in(panel)
    assert eased.of(Dart) == panel.of(Dart)
    same(drawn(eased), drawn(panel))
