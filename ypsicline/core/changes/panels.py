"""Changes of panels as wholes: made, labelled, copied, removed, laid out on the table."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.from_shape import panel_from_shape
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.likeness import SAME_MM, apart_mirrored
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.job import MOST_PANELS, JobDocument, Piece, check_text
from ypsicline.core.joins.walk import walks
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.carried import OutlineChange
from ypsicline.core.pattern.edge_changes import changed_size, mirrored
from ypsicline.core.pattern.fit import Lies
from ypsicline.core.pattern.join import Join, carried_joins, free_letter, without_panels
from ypsicline.core.pattern.panel import Hand, Panel
from ypsicline.core.typed import Number, Whole, Words

__all__ = [
    "AddPanels", "CopyPanel", "LayOut", "MakePanel", "MakePanels", "PanelLies", "RemovePanel", "SetPanel", "free_name", "panel_of",
    "panel_with", "pieces_without_panel",
    "with_outline", "with_panel", "with_panels",
]  # fmt: skip


@dataclass(frozen=True)
class MakePanel:
    """A panel of the outline on the table."""

    name: Words
    kind: Literal["make_panel"] = "make_panel"

    def on(self, job: JobDocument) -> JobDocument:
        if job.shape is None:
            raise Refusal(message("no_outline_for_panel"), "shape")
        check_text(message("text_panel_name"), self.name, required=True)
        return with_panels(job, (*job.panels, panel_from_shape(job.shape, self.name)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("panel_made_of_the_outline")


@dataclass(frozen=True)
class MakePanels:
    """A panel of every captured piece that none is called after, each by its piece's name."""

    kind: Literal["make_panels"] = "make_panels"

    def on(self, job: JobDocument) -> JobDocument:
        fresh = [panel_from_shape(p.shape, p.name) for p in pieces_without_panel(job)]
        if not fresh:
            raise Refusal(message("every_piece_is_a_panel"), "shape")
        return with_panels(job, (*job.panels, *fresh))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("panels_made_of_pieces", count=len(after.panels) - len(before.panels))


def pieces_without_panel(job: JobDocument) -> list[Piece]:
    """The captured pieces that no panel is called after."""
    names = {p.name for p in job.panels}
    return [p for p in job.pieces if p.name not in names]


@dataclass(frozen=True)
class AddPanels:
    """Panels read from a file, with the joins between them; one whose name is taken gets a number after it, a join whose
    letter is taken another."""

    panels: tuple[Panel, ...]
    file: str
    joins: tuple[Join, ...] = ()
    kind: Literal["add_panels"] = "add_panels"

    def on(self, job: JobDocument) -> JobDocument:
        panels, joins, ids = [*job.panels], [*job.joins], {}
        for k, fresh in enumerate(self.panels):
            # until the job gives it its own
            ids[fresh.id] = f"added{k}"
            panels.append(replace(fresh, name=free_name(fresh.name, panels, is_numbered=False), id=f"added{k}"))
        for join in self.joins:
            first, second = (
                tuple(replace(a, panel=ids.get(a.panel, a.panel)) for a in run) for run in (join.first, join.second)
            )
            letters = {j.letter for j in joins}
            letter = join.letter if join.letter not in letters else free_letter(letters)
            joins.append(replace(join, first=first, second=second, letter=letter, id=""))
        after = replace(with_panels(job, panels), joins=tuple(joins))
        walks(after.joins, after.panels)
        return after

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("panels_read", file=self.file)


@dataclass(frozen=True)
class SetPanel:
    """A panel's label and grain."""

    panel: str
    name: Words
    cloth: str
    count: Whole
    hand: Hand
    grain_deg: Number
    way_up: str
    on_fold: bool = False
    mitre_limit: Number = 3.0
    kind: Literal["set_panel"] = "set_panel"

    def on(self, job: JobDocument) -> JobDocument:
        check_text(message("text_panel_name"), self.name, required=True)
        if not -360 <= self.grain_deg <= 360:
            raise Refusal(message("grain_out_of_range"), "grain")
        panel_after = replace(
            panel_of(job, self.panel), name=self.name, cloth=self.cloth, count=self.count, hand=self.hand, on_fold=self.on_fold,
            grain_deg=self.grain_deg, way_up=self.way_up, mitre_limit=self.mitre_limit,
        )  # fmt: skip
        return with_panel(job, panel_after)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("label_and_grain_set")


@dataclass(frozen=True)
class RemovePanel:
    panel: str
    kind: Literal["remove_panel"] = "remove_panel"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        panels = tuple(p for p in job.panels if p is not panel)
        return replace(job, panels=panels, joins=without_panels(job.joins, {panel.id}))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("panel_removed")


@dataclass(frozen=True)
class CopyPanel:
    """A copy, of the other hand where `mirror`, and `times` as large.

    One of no hand that isn't its own mirror image becomes the left of the two.
    """

    panel: str
    mirror: bool = False
    times: float = 1.0
    kind: Literal["copy_panel"] = "copy_panel"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        if self.mirror and panel.hand == "single" and not panel.on_fold and _has_hands(panel):
            panel = replace(panel, hand="left")
        after = mirrored(panel) if self.mirror else panel
        after = changed_size(after, self.times) if self.times != 1 else after
        after = replace(after, name=free_name(panel.name, job.panels, is_numbered=True), lies=None, id="")
        return with_panels(job, (*(panel if p.id == panel.id else p for p in job.panels), after))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("mirror_image_made" if self.mirror else "panel_copied")


@dataclass(frozen=True)
class PanelLies:
    """Where a panel is to lie on the table."""

    panel: str
    lies: Lies


@dataclass(frozen=True)
class LayOut:
    """Panels put elsewhere on the table; nothing about them changes."""

    panels: tuple[PanelLies, ...]
    kind: Literal["lay_out"] = "lay_out"

    def on(self, job: JobDocument) -> JobDocument:
        lies = {place.panel: place.lies for place in self.panels}
        for panel in lies:
            panel_of(job, panel)
        return replace(job, panels=tuple(replace(p, lies=lies[p.id]) if p.id in lies else p for p in job.panels))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("panels_moved_on_the_table")


def panel_of(job: JobDocument, panel: str) -> Panel:
    """The panel of this id; raises `Refusal` where there is none."""
    of_job = next((p for p in job.panels if p.id == panel), None)
    if of_job is None:
        raise Refusal(message("no_such_panel"), "panel")
    return of_job


def panel_with(job: JobDocument, part: str) -> Panel:
    """The panel that has an edge or a feature of this id; raises `Refusal` where there is none."""
    for panel in job.panels:
        if any(e.id == part for ring in panel.rings() for e in ring) or any(f.id == part for f in panel.features):
            return panel
    raise Refusal(message("target_gone"), "panel")


def _has_hands(panel: Panel) -> bool:
    return apart_mirrored(tuple((float(x), float(y)) for x, y in flatten_ring(panel.seam_line))) > SAME_MM


def with_panels(job: JobDocument, panels: Sequence[Panel]) -> JobDocument:
    """The job with these panels by its house rules; raises `Refusal` where one of them can't be drafted."""
    housed = replace(job, panels=tuple(in_house(p, job.house) for p in panels))
    draft_panels(housed.panels, job.house)
    return housed


def with_panel(job: JobDocument, panel: Panel) -> JobDocument:
    """The job with the panel of its id replaced; raises as `with_panels` does."""
    return with_panels(job, [panel if p.id == panel.id else p for p in job.panels])


def with_outline(job: JobDocument, change: OutlineChange) -> JobDocument:
    """The job with a panel whose outline has changed, and its joins where they come to lie; raises as `with_panels` does."""
    joins = carried_joins(job.joins, change.panel.id, change.edges)
    return replace(with_panel(job, change.panel), joins=joins)


def free_name(name: str, panels: Sequence[Panel], *, is_numbered: bool) -> str:
    """The name with a number after it that no panel has; the name itself where that is free and needs no number."""
    names = {p.name for p in panels}
    numbers = (f"{name[:70]} {k}" for k in range(2, MOST_PANELS + 3))
    return next(n for n in ((name,) * (not is_numbered) + tuple(numbers)) if n not in names)
