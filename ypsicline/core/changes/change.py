"""What every change is, and how it is made."""

from __future__ import annotations

from typing import Protocol

from ypsicline.core.identified import identified
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message

__all__ = ["Change", "changed"]


class Change(Protocol):
    """A change of a job. Lengths are in mm; what people type is read by `formats.changes`."""

    @property
    def kind(self) -> str:
        """Its name in files and calls."""
        ...

    def on(self, job: JobDocument) -> JobDocument:
        """The job after it, what is new in it without an id of its own yet. Raises `Refusal` where it can't be."""
        ...

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        """What was done, for the history."""
        ...


def changed(job: JobDocument, change: Change) -> JobDocument:
    """The job after a change, all that is new in it with its ids. Raises `Refusal` where the change can't be."""
    return identified(change.on(job), job)
