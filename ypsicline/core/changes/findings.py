"""Findings that the maker lives with."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.checks.checked import accepted_as, checked
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.typed import Words

__all__ = ["AcceptFinding"]


@dataclass(frozen=True)
class AcceptFinding:
    """A finding, by its id, that the maker lives with for a reason, as long as its figures stay; without a reason it is
    open again."""

    finding: str
    reason: Words
    kind: Literal["accept_finding"] = "accept_finding"

    def on(self, job: JobDocument) -> JobDocument:
        rest = tuple(a for a in job.accepted if a.finding != self.finding)
        if not self.reason:
            return replace(job, accepted=rest)
        drafts = draft_panels(job.panels, job.house)
        findings = [c.finding for c in checked(job, drafts) if c.finding.id == self.finding]
        if not findings:
            raise Refusal(message("finding_gone"), "finding")
        return replace(job, accepted=(*rest, *(accepted_as(f, self.reason) for f in findings)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("finding_accepted", reason=self.reason) if self.reason else message("finding_opened")
