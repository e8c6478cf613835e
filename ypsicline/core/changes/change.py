"""What every change is."""

from __future__ import annotations

from typing import Protocol

from ypsicline.core.job import JobDocument

__all__ = ["Change"]


class Change(Protocol):
    """A change of a job. Lengths are in mm; what people type is read by `formats.changes`."""

    @property
    def kind(self) -> str:
        """Its name in files and calls."""
        ...

    def on(self, job: JobDocument) -> JobDocument:
        """The job after it. Raises `Refused` where it can't be."""
        ...

    def words(self, before: JobDocument, after: JobDocument) -> str:
        """What was done, for the history."""
        ...
