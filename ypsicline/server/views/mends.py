"""What would mend a job's findings, and which measure a result would take, ready to be applied."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import WithJsonSchema

from ypsicline.core.changes.change import Change
from ypsicline.core.changes.covers import ChangeMeasures, LengthInstead, cover_in
from ypsicline.core.changes.mends import try_mends
from ypsicline.core.covers.backwards import measures_for
from ypsicline.core.formats.changes import change_adapter
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.typed_lengths import parse_length
from ypsicline.core.wording import render

__all__ = ["MeasureView", "MendView", "measure_views", "mend_views"]

ChangeAsJson = Annotated[dict[str, Any], WithJsonSchema({"format": "change"})]
"""A change as the schema of the interface names it."""


@dataclass(frozen=True)
class MendView:
    """A change that mends the finding of this id; `then` is what is found after it that wasn't before."""

    finding: str
    words: str
    then: list[str]
    change: ChangeAsJson


@dataclass(frozen=True)
class MeasureView:
    """A measure that would bring a result to what was asked, and the change to it."""

    words: str
    change: ChangeAsJson


def mend_views(job: JobDocument) -> list[MendView]:
    """The mends of what is open, each tried."""
    return [
        MendView(t.mend.finding, render(t.mend.words, job.unit), [render(f.message, job.unit) for f in t.then], _json(t.mend.change))
        for t in try_mends(job)
    ]  # fmt: skip


def measure_views(job: JobDocument, cover: str, result: str, length: str) -> list[MeasureView]:
    """Each measure of a cover that would bring a result to a length, as it is typed. Raises `Refusal` where that can't be
    read, or the cover or its result isn't there."""
    family = cover_in(job, cover).family
    target = parse_length(length, job.unit)
    views = []
    for offer in measures_for(family, job.house, result, target):
        words = message(
            "measure_instead", measure_term=offer.measure.split(".")[1], length_mm=offer.length_mm,
            now_mm=offer.now_mm,
        )  # fmt: skip
        change = ChangeMeasures(cover, (LengthInstead(offer.measure, offer.length_mm),))
        views.append(MeasureView(render(words, job.unit), _json(change)))
    return views


def _json(change: Change) -> dict[str, Any]:
    fields: dict[str, Any] = change_adapter().dump_python(change, mode="json")
    return fields
