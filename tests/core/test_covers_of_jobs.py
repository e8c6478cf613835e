"""Covers in a job: drafted, drafted again with what was done by hand kept, joined by hand, let go."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.families import FAMILIES, lot
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.covers import DraftCover, LetGoOfCover, TracedPiece
from ypsicline.core.changes.edges import MergeEdges, SetEdges, SplitEdge
from ypsicline.core.changes.features import SetFeature
from ypsicline.core.changes.joins import JoinEdges, RemoveJoin, SetJoin
from ypsicline.core.changes.panels import AddPanels, RemovePanel, SetPanel
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import PanelsFile, drafted_file, dump, dump_bundle, load_bundle, load_panels
from ypsicline.core.formats.measures_json import family_adapter
from ypsicline.core.formats.stored import pack, unpack
from ypsicline.core.identified import ids_of
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.paired_notches import notches_along, parts_apart
from ypsicline.core.joins.walk import walks
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.join import Along
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import true_up


def family(name: str, **parts: Any) -> Any:
    return family_adapter().validate_python({"family": name, **parts}, context={"unit": "mm"})


def drum(**measures: float) -> Any:
    return family("drum", measures={"girth": 1000, "height": 100} | measures, choices={"usable_width": 3000})


JOB = changed(JobDocument("cushion"), DraftCover(drum()))


def named(job: JobDocument, name: str) -> Panel:
    return next(p for p in job.panels if p.name == name)


def edge(panel: Panel, name: str) -> str:
    return next(e.id for e in panel.seam_line if e.name == name)


def verdicts(job: JobDocument) -> set[str]:
    return {w.verdict for w in walks(job.joins, job.panels)}


@pytest.mark.parametrize("name", FAMILIES)
def test_every_family_in_a_job_has_ids_of_its_own_and_is_stored(name: str) -> None:
    file = lot(name, 3)
    job = changed(JOB, DraftCover(family(name, **file)))
    ids = list(ids_of(job))
    assert len(set(ids)) == len(ids)
    assert all(len(i) <= 6 for i in ids)
    assert "mismatch" not in verdicts(job)
    one = pack(job)
    assert unpack(one.manifest, one.parts) == job
    assert load_bundle(dump_bundle(job)).job == job


@pytest.mark.parametrize("name", FAMILIES)
def test_drafted_again_from_the_same_measures_nothing_changes(name: str) -> None:
    result = family(name, **lot(name, 4))
    job = changed(JobDocument("job"), DraftCover(result))
    again = changed(job, DraftCover(result, of=job.covers[0].id))
    assert again.panels == job.panels
    assert [(j.first, j.second) for j in again.joins] == [(j.first, j.second) for j in job.joins]


class TestByHand:
    def test_other_measures_keep_what_was_set_by_hand(self) -> None:
        wall = named(JOB, "wall")
        job = changed(JOB, SetEdges((edge(wall, "top"),), allowance=20.0))
        job = changed(job, SetPanel(wall.id, "side", "canvas", 1, "single", 90.0, ""))
        job = changed(job, SetFeature(wall.id, MarkAt("button", (50.0, 50.0), text="button")))
        again = changed(job, DraftCover(drum(height=140), of=job.covers[0].id))
        side = named(again, "side")
        assert side.id == wall.id
        assert side.cloth == "canvas"
        assert {e.name: e.allowance for e in side.seam_line}["top"] == 20.0
        assert max(p[1] for e in side.seam_line for p in e.points) == 140
        assert [m.text for m in side.of(MarkAt)] == ["button"]
        assert "mismatch" not in verdicts(again)

    def test_a_notch_that_was_taken_off_stays_off(self) -> None:
        wall = named(JOB, "wall")
        gone = wall.of(Notch)[0]
        job = replace(
            JOB,
            panels=tuple(
                replace(p, features=tuple(f for f in p.features if f != gone)) if p is wall else p for p in JOB.panels
            ),
        )
        again = changed(job, DraftCover(drum(), of=job.covers[0].id))
        assert len(named(again, "wall").of(Notch)) == len(wall.of(Notch)) - 1

    def test_what_cant_be_kept_is_said(self) -> None:
        """With a zip the lower edge is in three parts; without, the two of them are gone and what stood on one."""
        wall = named(JOB, "wall")
        job = changed(JOB, SetFeature(wall.id, Notch(edge(wall, "bottom 3"), 20.0)))
        plain = family(
            "drum", measures={"girth": 1000, "height": 100}, choices={"usable_width": 3000, "closure": "none"}
        )
        change = DraftCover(plain, of=job.covers[0].id)
        again = changed(job, change)
        assert len(named(again, "wall").seam_line) == 4
        assert change.words(job, again).code == "cover_drafted_again_without"
        assert "mismatch" not in verdicts(again)

    def test_panels_that_other_choices_make_come_and_go(self) -> None:
        bagged = family(
            "drum", measures={"girth": 1000, "height": 100}, choices={"inner_bag": True, "usable_width": 3000}
        )
        more = changed(JOB, DraftCover(bagged, of=JOB.covers[0].id))
        assert len(more.panels) == 2 * len(JOB.panels)
        assert len(changed(more, DraftCover(drum(), of=more.covers[0].id)).panels) == len(JOB.panels)

    def test_two_covers_of_one_family_stay_apart(self) -> None:
        job = changed(JOB, DraftCover(drum(girth=600)))
        assert len({p.name for p in job.panels}) == len(job.panels)
        assert len({j.letter for j in job.joins}) == len(job.joins)
        again = changed(job, DraftCover(drum(girth=700), of=job.covers[1].id))
        assert again.panels[: len(JOB.panels)] == JOB.panels


class TestJoins:
    def test_a_split_edge_is_walked_in_both_its_parts_and_merged_in_one(self) -> None:
        wall = named(JOB, "wall")
        top = edge(wall, "top")
        split = changed(JOB, SplitEdge(top, 300.0))
        (join,) = (j for j in split.joins if any(a.edge == top for a in j.second))
        assert len(join.second) == 2
        assert verdicts(split) == {"equal"}
        merged = changed(split, MergeEdges(top))
        assert [(j.first, j.second) for j in merged.joins] == [(j.first, j.second) for j in JOB.joins]

    def test_the_joins_of_a_panel_go_with_it(self) -> None:
        job = changed(JOB, RemovePanel(named(JOB, "top").id))
        assert len(job.joins) == len(JOB.joins) - 1
        assert verdicts(job) == {"equal"}

    def test_by_hand_between_any_edges_and_taken_off_again(self) -> None:
        top, wall = named(JOB, "top"), named(JOB, "wall")
        one, other = Along(top.id, top.seam_line[0].id), Along(wall.id, edge(wall, "right"))
        job = changed(JOB, JoinEdges((one,), (other,)))
        assert job.joins[-1].letter == "E"
        assert "mismatch" in verdicts(job)
        assert changed(job, RemoveJoin(job.joins[-1].id)).joins == JOB.joins
        with pytest.raises(Refusal):
            changed(JOB, JoinEdges((one,), (Along(wall.id, "e999"),)))
        with pytest.raises(Refusal):
            changed(JOB, RemoveJoin("j999"))

    def test_a_seam_brings_the_finishes_of_both_sides(self) -> None:
        wall = named(JOB, "wall")
        top, right = edge(wall, "top"), edge(wall, "right")
        job = changed(JOB, JoinEdges((Along(wall.id, top),), (Along(wall.id, right),), seam="felled"))
        edges = {e.id: e for e in named(job, "wall").seam_line}
        assert (edges[top].finish, edges[right].finish) == ("felled_wide", "felled_narrow")
        assert (edges[top].allowance, edges[right].allowance) == (18, 8)


def test_a_cover_let_go_leaves_its_panels() -> None:
    job = changed(JOB, LetGoOfCover(JOB.covers[0].id))
    assert (job.panels, job.joins, job.covers) == (JOB.panels, JOB.joins, ())
    with pytest.raises(Refusal):
        changed(job, DraftCover(drum(), of=JOB.covers[0].id))


def test_a_captured_piece_stands_for_the_plan() -> None:
    ring = [(0.0, 0.0), (500.0, 0.0), (500.0, 300.0), (0.0, 300.0)]
    job = JobDocument("tray").with_outline(true_up(ring))
    box = family("box_cover", measures={"height": 100})
    result = changed(job, DraftCover(box, traces=(TracedPiece("plan", job.open),)))
    assert "mismatch" not in verdicts(result)
    assert max(p[0] for e in named(result, "top").seam_line for p in e.points) == pytest.approx(500, abs=0.3)
    with pytest.raises(Refusal):
        changed(job, DraftCover(box, traces=(TracedPiece("roof", job.open),)))


class TestNotchesOfAJoin:
    def joined(self, parts: int | None, **join: Any) -> JobDocument:
        """Squares of 300 and of 312 with a corner cut off, along the side of the one and two sides of the other."""
        flat = {"width": 300, "length": 200}
        job = changed(JobDocument("two"), DraftCover(family("flat_panel", measures=flat, choices={"finish": "plain"})))
        job = changed(
            job, DraftCover(family("flat_panel", measures=flat | {"width": 312}, choices={"finish": "plain"}))
        )
        job = replace(job, panels=tuple(replace(p, middle_notches=False) for p in job.panels))
        one, other = job.panels
        job = changed(job, SplitEdge(other.seam_line[2].id, 100.0))
        back = job.panels[1].seam_line[2:4]
        second = tuple(Along(other.id, e.id, backward=True) for e in reversed(back))
        return changed(job, JoinEdges((Along(one.id, one.seam_line[0].id),), second, parts=parts, **join))

    @pytest.mark.parametrize("parts", [2, 3, 4, 8])
    def test_both_sides_are_notched_at_the_same_shares(self, parts: int) -> None:
        """Along the straight sides of 300 and 312: read off the drafted seam lines."""
        job = self.joined(parts, meant="eased")
        one, other = draft_panels(job.panels)
        first = sorted(0.5 + n.on_seam[0] / 300 for n in one.notches)
        second = sorted(0.5 + n.on_seam[0] / 312 for n in other.notches)
        assert first == pytest.approx([k / parts for k in range(1, parts)])
        assert second == pytest.approx(first)
        assert [n.double for n in one.notches].count(True) == (1 if parts in (4, 8) else 0)

    def test_where_the_difference_sits(self) -> None:
        job = self.joined(4, meant="eased")
        (lengths,) = walks(job.joins, job.panels)
        panels = {p.id: p for p in job.panels}
        assert parts_apart(lengths, panels) == pytest.approx([3, 3, 3, 3])
        after = changed(job, JoinEdges(job.joins[0].first, job.joins[0].second))
        assert [at for at, _ in notches_along(lengths.first, panels)] == pytest.approx([75, 150, 225])
        assert len(after.panels[0].of(Notch)) == 3

    def test_of_sides_notched_otherwise_the_whole_is_told(self) -> None:
        job = self.joined(None)
        job = changed(job, SetFeature(job.panels[0].id, Notch(job.joins[0].first[0].edge, 20.0)))
        (lengths,) = walks(job.joins, job.panels)
        assert parts_apart(lengths, {p.id: p for p in job.panels}) == pytest.approx([12])

    def test_notched_later_and_once(self) -> None:
        job = self.joined(None, meant="eased")
        once = changed(job, SetJoin(job.joins[0].id, parts=2))
        assert changed(once, SetJoin(job.joins[0].id, parts=2)).panels == once.panels
        assert [len(p.of(Notch)) for p in once.panels] == [1, 1]

    def test_notches_pass_darts(self) -> None:
        """A dart of 30 in the middle of a side: the sewn side is shorter by it, its quarters lie 67.5 from either end."""
        job = self.joined(None, meant="eased")
        edge_id = job.joins[0].first[0].edge
        job = changed(job, SetFeature(job.panels[0].id, Dart(edge_id, 150.0, 30.0, 60.0)))
        job = changed(job, SetJoin(job.joins[0].id, parts=4))
        (lengths,) = walks(job.joins, job.panels)
        assert lengths.first.length == pytest.approx(270)
        at = [mm for mm, _ in notches_along(lengths.first, {p.id: p for p in job.panels})]
        assert at == pytest.approx([67.5, 135, 202.5])
        set_at = sorted(n.along for n in job.panels[0].of(Notch))
        assert (set_at[0], set_at[-1]) == pytest.approx((67.5, 232.5))

    @pytest.mark.parametrize(
        ("join", "code"), [({"meant": "eased"}, "on_top_eased"), ({"seam": "lapped"}, "on_top_lapped"), ({}, None)]
    )
    def test_which_side_lies_on_top(self, join: dict[str, Any], code: str | None) -> None:
        job = self.joined(None, **join)
        (lengths,) = walks(job.joins, job.panels)
        assert (lengths.on_top.code if lengths.on_top else None) == code


def test_a_panels_file_brings_its_joins() -> None:
    """Written by one job and read by another, into which the same was read before: joined as they were, under other letters."""
    written = dump(drafted_file(PanelsFile(JOB.panels, joins=JOB.joins, house=JOB.house)))
    read = load_panels(written)
    job = changed(JobDocument("other"), AddPanels(read.panels, "cushion.json", read.joins))
    job = changed(job, AddPanels(read.panels, "cushion.json", read.joins))
    assert len(job.panels) == 2 * len(JOB.panels)
    result = walks(job.joins, job.panels)
    expected = [(w.verdict, round(w.first.length, 6), round(w.second.length, 6)) for w in walks(JOB.joins, JOB.panels)]
    assert [(w.verdict, round(w.first.length, 6), round(w.second.length, 6)) for w in result] == 2 * expected
    assert len({j.letter for j in job.joins}) == len(job.joins)
    ids = list(ids_of(job))
    assert len(set(ids)) == len(ids)
    sewn = [{a.panel for a in (*j.first, *j.second)} for j in job.joins]
    half = len(JOB.joins)
    assert not set().union(*sewn[:half]) & set().union(*sewn[half:])
