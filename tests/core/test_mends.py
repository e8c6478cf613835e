"""What would mend a finding, tried before it is offered."""

from __future__ import annotations

from typing import Any

import pytest
import shapely

from ypsicline.core.changes.change import changed
from ypsicline.core.changes.covers import DraftCover
from ypsicline.core.changes.edges import SetEdgeLength, SetEdges
from ypsicline.core.changes.features import SetFeature, SetFit
from ypsicline.core.changes.joins import JoinEdges, SetJoin
from ypsicline.core.changes.mends import try_mends
from ypsicline.core.changes.panels import RemovePanel
from ypsicline.core.checks.checked import checked
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.measures_json import family_adapter
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.walk import walks
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.join import Along
from ypsicline.core.wording import render


def cover(name: str, measures: dict[str, Any], **choices: Any) -> DraftCover:
    asked = {"family": name, "measures": measures, "choices": choices}
    return DraftCover(family_adapter().validate_python(asked, context={"unit": "mm"}))


def open_codes(job: JobDocument) -> list[str]:
    return [c.finding.message.code for c in checked(job, draft_panels(job.panels, job.house)) if c.is_open]


def mends_of(job: JobDocument) -> dict[str, JobDocument]:
    return {render(t.mend.words): changed(job, t.mend.change) for t in try_mends(job)}


def two_panels(second: float, **join: Any) -> JobDocument:
    """Panels of 400 and of `second` along the sides that are joined."""
    job = JobDocument("test")
    for width in (400.0, second):
        job = changed(job, cover("flat_panel", {"width": width, "length": 150}, finish="plain"))
    a, b = job.panels
    sides = (Along(a.id, a.seam_line[0].id),), (Along(b.id, b.seam_line[2].id, backward=True),)
    return changed(job, JoinEdges(*sides, **join))


def lengths(job: JobDocument) -> tuple[float, float]:
    (walked,) = walks(job.joins, job.panels)
    return walked.first.length, walked.second.length


def test_sides_that_differ_by_little() -> None:
    job = two_panels(401.8)
    first, second = job.panels[0], job.panels[1]
    mends = mends_of(job)
    bottom, top = first.seam_line[0].name, second.seam_line[2].name
    shorter = mends[f"Make “{top}” of “{second.name}” 1.8 mm shorter, 400.0 mm"]
    longer = mends[f"Make “{bottom}” of “{first.name}” 1.8 mm longer, 401.8 mm"]
    eased = mends["Ease 1.8 mm in"]
    assert len(mends) == 3
    assert lengths(shorter) == pytest.approx((400, 400))
    assert lengths(longer) == pytest.approx((401.8, 401.8))
    assert lengths(eased) == pytest.approx((400, 401.8))
    assert "join_mismatch" not in open_codes(shorter) + open_codes(longer) + open_codes(eased)


def test_panel_with_ease_is_made_as_long_as_it_is_sewn() -> None:
    """400 and ease of 10 against 401.8: 8.2 too long, whichever side is cut anew."""
    job = two_panels(401.8)
    eased = changed(job, SetFit(job.panels[0].id, width=10.0))
    mends = {words: after for words, after in mends_of(eased).items() if words.startswith("Make")}
    assert sorted(mends) == [
        f"Make “{job.panels[0].seam_line[0].name}” of “{job.panels[0].name}” 8.2 mm shorter, 391.8 mm",
        f"Make “{job.panels[1].seam_line[2].name}” of “{job.panels[1].name}” 8.2 mm longer, 410.0 mm",
    ]
    for after in mends.values():
        first, second = lengths(after)
        assert first == pytest.approx(second)


def test_sides_that_differ_by_much_are_gathered_or_cut_anew() -> None:
    job = two_panels(640)
    mends = mends_of(job)
    assert not [words for words in mends if words.startswith("Ease")]
    gathered = mends["Gather the longer side 1.6 times"]
    assert walks(gathered.joins, gathered.panels)[0].verdict == "gathered"


def test_panel_drawn_out_stays_square_and_carries_its_notches() -> None:
    job = two_panels(401.8)
    panel = job.panels[0]
    job = changed(job, SetFeature(panel.id, Notch(panel.seam_line[0].id, 100.0)))
    after = changed(job, SetEdgeLength(panel.seam_line[0].id, 500.0)).panels[0]
    shape = shapely.Polygon(flatten_ring(after.seam_line))
    assert shape.area == pytest.approx(500 * 150)
    assert shape.equals_exact(shape.envelope, 1e-6) or shape.symmetric_difference(shape.envelope).area < 1e-6
    assert [f.along for f in after.of(Notch)] == pytest.approx([125.0])


def test_round_panel_is_not_drawn_out() -> None:
    job = changed(JobDocument("test"), cover("cap", {"girth": 800, "height": 200}))
    disc = job.panels[0]
    with pytest.raises(Refusal):
        changed(job, SetEdgeLength(disc.seam_line[0].id, 500.0))
    with pytest.raises(Refusal):
        changed(job, SetEdgeLength(job.panels[1].seam_line[0].id, 0.2))


def test_seam_gets_its_finishes_and_allowances_back() -> None:
    job = two_panels(400, seam="plain")
    edge = job.joins[0].first[0].edge
    unlike = changed(job, SetEdges((edge,), allowance=30.0))
    assert "join_allowances_differ" in open_codes(unlike)
    assert "join_allowances_differ" not in open_codes(mends_of(unlike)["Give both sides the house’s allowance"])
    hemmed = changed(job, SetEdges((edge,), finish="hem"))
    assert "join_finish_differs" in open_codes(hemmed)
    assert "join_finish_differs" not in open_codes(mends_of(hemmed)["Finish both sides for a plain seam"])


def test_join_changed() -> None:
    job = two_panels(400)
    french = changed(job, SetJoin(job.joins[0].id, seam="french"))
    assert {french.panels[0].seam_line[0].finish, french.panels[1].seam_line[2].finish} == {"french"}
    with pytest.raises(Refusal):
        changed(job, SetJoin("nothing", meant="eased"))


@pytest.mark.parametrize(
    ("asked", "finding", "mend"),
    [
        (cover("cap", {"girth": 812, "height": 300, "girth_ease": 2}), "foot_too_tight", "Take ease on the girth"),
        (cover("drop_cover", {"width": 600, "length": 400, "drop": 100, "tuck_under": 20}), "hooks_under_too_little", "Take tuck under 35.0 mm"),
        (cover("reversible_cover", {"width": 300, "depth": 200, "height_left": 250}, layers="equal"), "layers_bind", "Take ease width"),
    ],
)  # fmt: skip
def test_measure_that_mends(asked: DraftCover, finding: str, mend: str) -> None:
    job = changed(JobDocument("test"), asked)
    assert finding in open_codes(job)
    after = next(after for words, after in mends_of(job).items() if words.startswith(mend))
    assert finding not in open_codes(after)


def test_nothing_is_offered_for_what_is_lived_with_or_gone() -> None:
    job = two_panels(401.8)
    gone = changed(job, RemovePanel(job.panels[1].id))
    assert not try_mends(gone)
    assert not try_mends(two_panels(400))
