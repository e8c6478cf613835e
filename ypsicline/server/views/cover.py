"""Covers of families, joins and what is checked, as they are shown; and what each family asks."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, partial
from typing import Any

from ypsicline.core.checks.checked import checked
from ypsicline.core.covers.backwards import results_of
from ypsicline.core.covers.family import Family
from ypsicline.core.covers.form import FormField, FormFieldKind, Part, asked_by
from ypsicline.core.covers.of_job import FamilyCover, drafted_cover
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Severity
from ypsicline.core.formats.measures_json import family_names
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.corners import begins_at, meeting_corners
from ypsicline.core.joins.paired_notches import notches_along, parts_apart
from ypsicline.core.joins.walk import Verdict, Walk, walk
from ypsicline.core.lengths import Unit, is_rounded, show_length, show_set_length, show_signed
from ypsicline.core.making.from_brief import suggestions
from ypsicline.core.pattern.join import Along, Join, Meant, SeamType
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.wording import render, term
from ypsicline.core.wording.english.families import FAMILIES

__all__ = [
    "CheckedView", "CornerDotView", "CoverView", "FamilyView", "JoinView", "checked_views", "corner_dot_views", "cover_view",
    "family_views", "join_views",
]  # fmt: skip

# parts of a join that differ by less are shown as alike, mm
SHOWN_FROM_MM = 0.05
# more places than these nobody has typed
MOST_TYPED_PLACES = 40


@dataclass(frozen=True)
class AskedView:
    """A field of a family as it is asked; `usual` is what it is where nothing is typed, `rows` the fields of each row."""

    part: Part
    name: str
    title: str
    kind: FormFieldKind
    needed: bool
    usual: str
    choices: list[str]
    rows: list[AskedView]


@dataclass(frozen=True)
class SuggestedView:
    """What the brief suggests for a field, as it is typed, and why."""

    part: Part
    name: str
    value: str
    why: str


@dataclass(frozen=True)
class FamilyView:
    """A family of covers: what it is called and what it makes, what it asks, and what the brief suggests, lengths in the job's
    unit."""

    family: str
    title: str
    makes: str
    asks: list[AskedView]
    suggested: list[SuggestedView]


@dataclass(frozen=True)
class NotionView:
    kind: str
    words: str


@dataclass(frozen=True)
class ResultView:
    """A length that a cover comes to and that could be asked for instead."""

    id: str
    what: str
    length: str


@dataclass(frozen=True)
class CoverView:
    """A cover of a family: its values as they are typed, by `part.name`; rows by `part.name.number.name`; its sums, what
    to buy, and its results. `exact` are the lengths among them that are shown rounded, in mm; `outlines` the shapes that
    it has."""

    id: str
    family: str
    title: str
    values: dict[str, str]
    exact: dict[str, float]
    outlines: list[str]
    workings: list[str]
    notions: list[NotionView]
    results: list[ResultView]
    panels: list[str]
    refusal: str | None


@dataclass(frozen=True)
class CornerDotView:
    """Where on a panel three meet and seams end."""

    panel: str
    at: tuple[float, float]


@dataclass(frozen=True)
class SideView:
    """A side of a join as it is walked, mm along it: whose it is, its length, where its edges meet, and its notches, double or
    not."""

    panels: str
    length: float
    stops: list[float]
    notches: list[tuple[float, bool]]


@dataclass(frozen=True)
class WalkView:
    """Both sides laid against each other. Where both have as many notches, `apart` says by how much each part of the second is
    longer than that of the first; it is empty for parts that match."""

    sides: tuple[SideView, SideView]
    apart: list[str]
    on_top: str


@dataclass(frozen=True)
class JoinView:
    """A join: its letter, what walking it says, and the edges of both sides, each with its panel."""

    id: str
    letter: str
    words: str
    verdict: Verdict | None
    seam: SeamType
    meant: Meant
    fullness: str
    first: list[Along]
    second: list[Along]
    walk: WalkView | None


@dataclass(frozen=True)
class CheckedView:
    """A finding with where it is, of which join, if of one, and for which reason the maker lives with it."""

    id: str
    severity: Severity
    sentence: str
    place: Place
    join: str
    reason: str


def family_views(job: JobDocument) -> list[FamilyView]:
    """Every family, by its title, with what the job's brief suggests."""
    views = []
    for name, kind in family_names().items():
        title, makes = FAMILIES[name]
        views.append(FamilyView(name, title, makes, _asks(kind, job.unit), _suggestions(kind, job)))
    return sorted(views, key=lambda v: v.title)


@cache
def _asks(kind: type[Family], unit: Unit) -> list[AskedView]:
    return [_asked_view(part, a, unit) for part, questions in asked_by(kind).items() for a in questions]


def _suggestions(kind: type[Family], job: JobDocument) -> list[SuggestedView]:
    fields = {(part, a.name): a for part, questions in asked_by(kind).items() for a in questions}
    views: dict[tuple[Part, str], SuggestedView] = {}
    for s in suggestions(kind, job.brief, job.house, job.unit):
        # what is proposed is just what is shown
        text = _text(fields[s.part, s.name], s.value, job.unit, partial(show_length, denominator=64))
        # of two that speak for the same field, the first stands
        views.setdefault((s.part, s.name), SuggestedView(s.part, s.name, text, render(s.why, job.unit)))
    return list(views.values())


def _asked_view(part: Part, question: FormField, unit: Unit) -> AskedView:
    return AskedView(
        part, question.name, term(question.name), question.kind, question.is_needed, _text(question, question.usual, unit),
        list(question.choices), [_asked_view(part, a, unit) for a in question.rows],
    )  # fmt: skip


def _text(question: FormField, value: Any, unit: Unit, show: Callable[[float, Unit], str] = show_set_length) -> str:
    """A value as it is typed; lengths in the unit as `show` has them, shares in per cent."""
    if value is None or value == ():
        return ""
    if question.kind == "yes":
        return "yes" if value else ""
    if question.kind == "length":
        return show(value, unit)
    if question.kind == "points":
        return " / ".join("; ".join(show(v, unit) for v in place) for place in value)
    if question.kind in ("lengths", "place"):
        return "; ".join(show(v, unit) for v in value)
    if question.kind == "percent":
        return f"{100 * value:.6g}"
    if question.kind == "number":
        return f"{value:g}"
    return str(value)


def cover_view(cover: FamilyCover, job: JobDocument) -> CoverView:
    """A cover as it is shown; where its family can't draft it any more, why."""
    family, unit = cover.family, job.unit
    title, _ = FAMILIES[family.family]
    asked: dict[str, tuple[FormField, Any]] = {}
    outlines: list[str] = []
    for part, questions in asked_by(type(family)).items():
        for a in questions:
            value = getattr(getattr(family, part), a.name)
            if a.kind == "outline" or (a.kind == "points" and len(value) > MOST_TYPED_PLACES):
                outlines += [a.name] if value else []
            elif a.kind == "rows":
                asked |= {
                    f"{part}.{a.name}.{k}.{f.name}": (f, getattr(row, f.name))
                    for k, row in enumerate(value)
                    for f in a.rows
                    if f.kind != "outline"
                }
            else:
                asked[f"{part}.{a.name}"] = (a, value)
    values = {key: _text(a, value, unit) for key, (a, value) in asked.items()}
    lengths = {key: value for key, (a, value) in asked.items() if a.kind == "length" and value is not None}
    exact = {key: mm for key, mm in lengths.items() if is_rounded(mm, unit)}
    draft, refusal = _draft_of(family, job)
    return CoverView(
        cover.id, family.family, title, values, exact, outlines, [render(line, unit) for line in draft.workings] if draft else [],
        [NotionView(n.kind.replace("_", " "), render(n.working, unit)) for n in draft.notions] if draft else [],
        [ResultView(r.id, render(r.what, unit), show_length(r.length_mm, unit)) for r in results_of(draft)] if draft else [],
        [panel for _, panel in cover.panels], refusal.render(unit) if refusal else None,
    )  # fmt: skip


def _draft_of(family: Family, job: JobDocument) -> Any:
    try:
        return drafted_cover(family, job.house), None
    except Refusal as e:
        return None, e


def join_views(job: JobDocument) -> list[JoinView]:
    """The joins of a job, walked."""
    panels = {p.id: p for p in job.panels}

    def view(join: Join) -> JoinView:
        try:
            one_walk = walk(join, panels)
            words, verdict, walk_shown = (
                render(one_walk.words, job.unit),
                one_walk.verdict,
                _walk_view(one_walk, panels, job.unit),
            )
        except Refusal as e:
            words, verdict, walk_shown = e.render(job.unit), None, None
        return JoinView(
            join.id, join.letter, words, verdict, join.seam, join.meant, f"{join.fullness:g}", list(join.first),
            list(join.second), walk_shown,
        )  # fmt: skip

    return [view(j) for j in job.joins]


def _walk_view(one_walk: Walk, panels: Mapping[str, Panel], unit: Unit) -> WalkView:
    sides = tuple(zip(one_walk.sides, (one_walk.first, one_walk.second), strict=True))
    first, second = (
        SideView(panels_called, side.length, [*side.starts[1:]], list(notches_along(side, panels)))
        for panels_called, side in sides
    )
    apart = [show_signed(d, unit) if abs(d) > SHOWN_FROM_MM else "" for d in parts_apart(one_walk, panels)]
    return WalkView((first, second), apart, render(one_walk.on_top, unit) if one_walk.on_top else "")


def corner_dot_views(job: JobDocument, drafts: Sequence[DraftedPanel]) -> list[CornerDotView]:
    """The dots of a job, each of a panel and a place once."""
    by_id = {p.id: p for p in drafts}
    corners = {
        (c.panel, c.edge) for meeting in meeting_corners(job.joins, job.panels) for c in meeting if c.panel in by_id
    }
    places = ((panel, begins_at(by_id[panel], edge)) for panel, edge in sorted(corners))
    return [CornerDotView(panel, at) for panel, at in places if at]


def checked_views(job: JobDocument, drafts: Sequence[DraftedPanel]) -> list[CheckedView]:
    """All that is found of a job, the worst first."""
    return [
        CheckedView(
            c.finding.id,
            c.finding.severity,
            render(c.finding.message, job.unit),
            c.finding.place,
            c.finding.join,
            c.reason,
        )
        for c in checked(job, drafts)
    ]
