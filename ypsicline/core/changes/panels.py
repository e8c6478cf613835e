"""Changes of panels as wholes: made, labelled, copied, removed, laid out on the table."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.edge_changes import changed_size, mirrored
from ypsicline.core.drafting.features import Lies
from ypsicline.core.drafting.from_shape import panel_from_shape
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.drafting.panel import Hand, Panel
from ypsicline.core.errors import Refused
from ypsicline.core.job import MOST_PANELS, JobDocument, check_text
from ypsicline.core.typed import Words

__all__ = [
    "AddPanels", "CopyPanel", "LayOut", "MakePanel", "PanelLies", "RemovePanel", "SetPanel", "panel_at", "panel_changed",
    "with_panel", "with_panels",
]  # fmt: skip


@dataclass(frozen=True)
class MakePanel:
    """A panel of the outline on the table."""

    name: Words
    kind: Literal["make_panel"] = "make_panel"

    def on(self, job: JobDocument) -> JobDocument:
        if job.shape is None:
            raise Refused("There is no outline yet to make a panel of; send a photo or read a file at Shape.", "shape")
        check_text("panel's name", self.name, required=True)
        return with_panels(job, (*job.panels, panel_from_shape(job.shape, self.name)))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Panel made of the outline"


@dataclass(frozen=True)
class AddPanels:
    """Panels read from a file; one whose name is taken gets a number after it."""

    panels: tuple[Panel, ...]
    file: str
    kind: Literal["add_panels"] = "add_panels"

    def on(self, job: JobDocument) -> JobDocument:
        panels = [*job.panels]
        for fresh in self.panels:
            panels.append(replace(fresh, name=_free_name(fresh.name, panels, numbered=False)))
        return with_panels(job, panels)

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return f"Panels read from {self.file}"


@dataclass(frozen=True)
class SetPanel:
    """A panel's label and grain."""

    panel: int
    name: Words
    cloth: str
    count: int
    hand: Hand
    grain_deg: float
    way_up: str
    on_fold: bool = False
    mitre_limit: float = 3.0
    kind: Literal["set_panel"] = "set_panel"

    def on(self, job: JobDocument) -> JobDocument:
        check_text("panel's name", self.name, required=True)
        if not -360 <= self.grain_deg <= 360:
            raise Refused("The grainline's angle lies between -360° and 360°.", "grain")
        changed = replace(
            panel_at(job, self.panel), name=self.name, cloth=self.cloth, count=self.count, hand=self.hand, on_fold=self.on_fold,
            grain_deg=self.grain_deg, way_up=self.way_up, mitre_limit=self.mitre_limit,
        )  # fmt: skip
        return with_panel(job, self.panel, changed)

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Label and grain set"


@dataclass(frozen=True)
class RemovePanel:
    panel: int
    kind: Literal["remove_panel"] = "remove_panel"

    def on(self, job: JobDocument) -> JobDocument:
        panel_at(job, self.panel)
        return replace(job, panels=tuple(p for k, p in enumerate(job.panels) if k != self.panel))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Panel removed"


@dataclass(frozen=True)
class CopyPanel:
    """A copy, of the other hand where `mirror`, and `times` as large."""

    panel: int
    mirror: bool = False
    times: float = 1.0
    kind: Literal["copy_panel"] = "copy_panel"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_at(job, self.panel)
        made = mirrored(panel) if self.mirror else panel
        made = changed_size(made, self.times) if self.times != 1 else made
        made = replace(made, name=_free_name(panel.name, job.panels, numbered=True), lies=None)
        return with_panels(job, (*job.panels, made))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Mirror image made" if self.mirror else "Panel copied"


@dataclass(frozen=True)
class PanelLies:
    """Where a panel is to lie on the table."""

    panel: int
    lies: Lies


@dataclass(frozen=True)
class LayOut:
    """Panels put elsewhere on the table; nothing about them changes."""

    panels: tuple[PanelLies, ...]
    kind: Literal["lay_out"] = "lay_out"

    def on(self, job: JobDocument) -> JobDocument:
        panels = list(job.panels)
        for moved in self.panels:
            panels[moved.panel] = replace(panel_at(job, moved.panel), lies=moved.lies)
        return replace(job, panels=tuple(panels))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Panels moved on the table"


def panel_at(job: JobDocument, index: int) -> Panel:
    """A panel by its place; raises `Refused` where there is none."""
    if not 0 <= index < len(job.panels):
        raise Refused("There is no such panel in this job.", "panel")
    return job.panels[index]


def with_panels(job: JobDocument, panels: Sequence[Panel]) -> JobDocument:
    """The job with these panels by its house rules; raises `Refused` where one of them can't be drafted."""
    housed = replace(job, panels=tuple(in_house(p, job.house) for p in panels))
    draft_panels(housed.panels, job.house)
    return housed


def with_panel(job: JobDocument, index: int, panel: Panel) -> JobDocument:
    """The job with one panel replaced; raises as `with_panels` does."""
    return with_panels(job, [panel if k == index else p for k, p in enumerate(job.panels)])


def panel_changed(job: JobDocument, index: int, how: Callable[[Panel], Panel]) -> JobDocument:
    """The job with something done to one panel; raises as `with_panels` does, and whatever `how` raises."""
    return with_panel(job, index, how(panel_at(job, index)))


def _free_name(name: str, panels: Sequence[Panel], *, numbered: bool) -> str:
    """The name with a number after it that no panel has; the name itself where that is free and needs no number."""
    taken = {p.name for p in panels}
    numbers = (f"{name[:70]} {k}" for k in range(2, MOST_PANELS + 3))
    return next(n for n in ((name,) * (not numbered) + tuple(numbers)) if n not in taken)
