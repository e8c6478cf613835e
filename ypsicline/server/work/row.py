"""What every row has that long work is done for."""

from __future__ import annotations

from django.db import models

__all__ = ["LongWork"]


class LongWork(models.Model):
    """Long work and how far it is.

    `stage` and `sentence` are messages: what is being done, and how it ended where that needs words. Whoever works on it
    has a `claim`, and says by `beat` now and then that it is still there; a row is changed by its claim's holder alone.
    """

    class Status(models.TextChoices):
        WAITING = "waiting"
        WORKING = "working"
        DONE = "done"
        CHOOSE = "choose"
        REFUSED = "refused"
        FAILED = "failed"
        STOPPED = "stopped"

    status = models.CharField(max_length=10, choices=Status.choices, default=Status.WAITING)
    stage = models.JSONField(blank=True, default=str)
    share = models.FloatField(default=0)
    sentence = models.JSONField(blank=True, default=str)
    tries = models.PositiveSmallIntegerField(default=0)
    claim = models.CharField(max_length=32, blank=True)
    beat = models.DateTimeField(null=True)

    class Meta:
        abstract = True

    @property
    def is_under_way(self) -> bool:
        return self.status in (self.Status.WAITING, self.Status.WORKING)

    def ended(self) -> None:
        """Called within the transaction that ends the work, or stops it."""
