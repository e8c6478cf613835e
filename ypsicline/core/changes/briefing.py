"""Changes of what a job is for, and of how its figures and prints are shown."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.capture.distances import SheetDistance
from ypsicline.core.capture.sheets import sheets_by_id
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.lengths import Unit
from ypsicline.core.looseness import read_looseness, show_looseness
from ypsicline.core.making.print_scale import compensation, measured_scale
from ypsicline.core.messages import Message, message
from ypsicline.core.typed import LengthIfTyped, PrintedLength

__all__ = ["ClearPrintScale", "SetBrief", "SetPrintScale", "SetSheetDistance", "SetSheetScale", "SetUnit"]


@dataclass(frozen=True)
class SetBrief:
    name: str
    brief: Brief
    for_whom: str = ""
    due: datetime.date | None = None
    kind: Literal["set_brief"] = "set_brief"

    def on(self, job: JobDocument) -> JobDocument:
        brief, kept = self.brief, job.brief.looseness
        # what was shown rounded and sent back is as it was
        is_same = brief.looseness in (kept, show_looseness(kept, job.unit))
        looseness = kept if is_same else read_looseness(brief.looseness, job.unit)
        return replace(
            job, name=self.name, for_whom=self.for_whom, due=self.due, brief=replace(brief, looseness=looseness)
        )

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("brief_changed")


@dataclass(frozen=True)
class SetUnit:
    unit: Unit
    kind: Literal["set_unit"] = "set_unit"

    def on(self, job: JobDocument) -> JobDocument:
        return replace(job, unit=self.unit)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("shown_in_unit", unit=self.unit)


@dataclass(frozen=True)
class SetPrintScale:
    """Later prints scaled by what the last print's two test marks measured, on top of what it was scaled by already."""

    across: PrintedLength
    up: PrintedLength
    kind: Literal["set_print_scale"] = "set_print_scale"

    def on(self, job: JobDocument) -> JobDocument:
        x, y = compensation(self.across, self.up, job.unit)
        return replace(job, print_scale=(job.print_scale[0] * x, job.print_scale[1] * y))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("test_marks_measured")


@dataclass(frozen=True)
class ClearPrintScale:
    kind: Literal["clear_print_scale"] = "clear_print_scale"

    def on(self, job: JobDocument) -> JobDocument:
        return replace(job, print_scale=(1.0, 1.0))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("prints_true_to_size_again")


@dataclass(frozen=True)
class SetSheetScale:
    """What the two test marks on the reference sheets measured; it counts from the next photo on."""

    across: PrintedLength
    up: PrintedLength
    kind: Literal["set_sheet_scale"] = "set_sheet_scale"

    def on(self, job: JobDocument) -> JobDocument:
        return replace(job, sheet_scale=measured_scale(self.across, self.up, job.unit))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("sheets_test_marks_measured")


@dataclass(frozen=True)
class SetSheetDistance:
    """A tape between two reference sheets, for the next photo or the next measuring of this one; none where nothing
    was typed."""

    first: str
    second: str
    tape: LengthIfTyped = None
    kind: Literal["set_sheet_distance"] = "set_sheet_distance"

    def on(self, job: JobDocument) -> JobDocument:
        first, second = self.first.strip().lower(), self.second.strip().lower()
        sheets_by_id([first, second])
        distances = [s for s in job.sheet_distances if {s.first, s.second} != {first, second}]
        if self.tape is not None:
            distances.append(SheetDistance(first, second, self.tape))
        return replace(job, sheet_distances=tuple(distances))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("tape_between_sheets")
