"""Long work of one kind: how it is queued, done, stopped and taken up again.

Workers and server share nothing but the database: a row is claimed by one worker at a time, which beats while it lives;
one whose worker fell silent is claimed anew.
"""

from __future__ import annotations

import datetime
import logging
import secrets
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from typing import Generic, NamedTuple, Protocol, TypeVar

from django.db import OperationalError, connection, transaction
from django.db.models import F, Q
from django.utils.timezone import now

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.message_json import as_json
from ypsicline.core.messages import Message, message
from ypsicline.server.answers import is_full_disk, message_for
from ypsicline.server.work.row import LongWork

__all__ = ["BEAT_S", "LOST_S", "MOST_TRIES", "End", "Tell", "WorkKind", "WorkStopped"]

log = logging.getLogger("ypsicline.work")
BEAT_S = 2.0
LOST_S = 12.0
MOST_TRIES = 2
# what waits this long may have lost its task
_WAITS_S = 600.0
_STATUS = LongWork.Status
Row = TypeVar("Row", bound=LongWork)


class WorkStopped(Exception):
    """The work was stopped, taken away, or is somebody else's by now: nothing more of it counts."""


class End(NamedTuple):
    """How work ended, why where that needs words, and what stores its outcome, in the transaction that ends it."""

    status: LongWork.Status
    sentence: Message | None = None
    store: Callable[[], object] = lambda: None


class Tell(Protocol):
    """Says what is being done and how far all of it is, 0 to 1, and stores what there is of the outcome so far, by the row's
    fields; raises `WorkStopped`."""

    def __call__(self, stage: Message, share: float, /, **so_far: object) -> None: ...


class Queued(Protocol):
    """A task that does the work of a row by its key."""

    def enqueue(self, key: int, /) -> object: ...


@dataclass(frozen=True)
class WorkKind(Generic[Row]):
    """A kind of long work: its `rows`, the `task` that does one, and what is said where it `failure` by our fault, or was
    `broken_off` too often."""

    rows: type[Row]
    task: Queued
    failure: Message
    broken_off: Message

    def queue(self, row: Row) -> None:
        """Put a row that waits into the queue, once the transaction that it is called in is through."""
        transaction.on_commit(lambda: self.task.enqueue(row.pk))

    def wait(self, row: Row) -> None:
        """Have a row wait as if it were new, and queue it; the row's other fields are stored with it."""
        row.status, row.stage, row.share, row.tries, row.claim = _STATUS.WAITING, "", 0, 0, ""
        row.save()
        self.queue(row)

    def carry_out(self, key: int, do: Callable[[Row, Tell], End]) -> None:
        """Do the work of a row that waits; one that doesn't is left alone. What is refused, and what goes wrong, ends it
        with a reason."""
        row = self._claim(key)
        if row is None:
            return
        with _beating(self._own(row)), suppress(WorkStopped):
            try:
                self._end(row, do(row, self._teller(row)))
            except Refusal as e:
                self._end(row, End(_STATUS.REFUSED, e.message))
            except WorkStopped:
                raise
            except Exception as e:
                if self._own(row).exists():
                    log.exception("%s %s failed", self.rows.__name__, key)
                self._end(row, End(_STATUS.FAILED, message_for(507) if is_full_disk(e) else self.failure))

    def _end(self, row: Row, end: End) -> None:
        """Write down how the work of a row ended, and its outcome. Raises `WorkStopped` where it counts no more; then nothing
        is written."""
        with transaction.atomic():
            sentence = as_json(end.sentence or "")
            if not self._own(row).update(status=end.status, sentence=sentence, share=1.0, stage=""):
                raise WorkStopped
            end.store()
            row.status = end.status
            row.ended()

    def stop(self, row: Row) -> None:
        """Stop work that waits or is under way; what is done of it counts no more. Raises `Refusal` where it is over."""
        with transaction.atomic():
            under_way = self.rows._default_manager.filter(pk=row.pk, status__in=(_STATUS.WAITING, _STATUS.WORKING))
            sentence = as_json(message("work_stopped"))
            if not under_way.update(status=_STATUS.STOPPED, sentence=sentence, stage="", share=0, claim=""):
                raise Refusal(message("work_is_over"), "work")
            row.refresh_from_db()
            row.ended()

    def resume(self, *, at_start: bool = False) -> int:
        """Queue again what a worker that fell silent left behind; what failed so too often is given up with a reason. What
        waits is queued again `at_start`, or after ten minutes: done once all the same."""
        count = 0
        silent = Q(beat=None) | Q(beat__lt=now() - datetime.timedelta(seconds=LOST_S))
        for row in self.rows._default_manager.filter(silent, status=_STATUS.WORKING):
            if row.tries >= MOST_TRIES:
                with suppress(WorkStopped):
                    self._end(row, End(_STATUS.FAILED, self.broken_off))
            elif self._own(row).update(status=_STATUS.WAITING, claim="", beat=now()):
                self.task.enqueue(row.pk)
                count += 1
        waiting = self.rows._default_manager.filter(status=_STATUS.WAITING)
        if not at_start:
            waiting = waiting.filter(beat__lt=now() - datetime.timedelta(seconds=_WAITS_S))
        for key in list(waiting.values_list("pk", flat=True)):
            self.rows._default_manager.filter(pk=key).update(beat=now())
            self.task.enqueue(key)
        return count

    def _claim(self, key: int) -> Row | None:
        claim = secrets.token_hex(16)
        waiting = self.rows._default_manager.filter(pk=key, status=_STATUS.WAITING)
        if not waiting.update(status=_STATUS.WORKING, claim=claim, tries=F("tries") + 1, beat=now(), share=0, stage=""):
            return None
        return self.rows._default_manager.filter(pk=key, claim=claim).first()

    def _own(self, row: Row):  # type: ignore[no-untyped-def]
        return self.rows._default_manager.filter(pk=row.pk, claim=row.claim, status=_STATUS.WORKING)

    def _teller(self, row: Row) -> Tell:
        def tell(stage: Message, share: float, /, **so_far: object) -> None:
            if not self._own(row).update(stage=as_json(stage), share=share, beat=now(), **so_far):
                raise WorkStopped

        return tell


@contextmanager
def _beating(own) -> Iterator[None]:  # type: ignore[no-untyped-def]
    """Says now and then that the work is still being done."""
    over = threading.Event()

    def beat() -> None:
        try:
            while not over.wait(BEAT_S):
                # a busy database is tried again at the next beat
                with suppress(OperationalError):
                    own.all().update(beat=now())
        finally:
            connection.close()

    thread = threading.Thread(target=beat, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join()
