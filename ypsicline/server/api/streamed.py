"""Long work told as it goes: one line of JSON after another."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from queue import Queue
from threading import Event, Thread

from django.http import StreamingHttpResponse
from ninja import Schema

__all__ = ["LINES", "in_lines"]

# one JSON value a line
LINES = "application/x-ndjson"


class _NobodyListens(Exception):
    """The reader has gone; the work is given up."""


def in_lines(work: Callable[[Callable[[Schema], None]], None]) -> StreamingHttpResponse:
    """What `work` hands out, each sent at once as a line of JSON.

    `work` runs in a thread of its own and doesn't use the database. What it raises before it has
    handed out anything is raised here, so that it gets its status; later, the answer breaks off.
    Once the reader has gone, handing out ends the work.
    """
    told: Queue[str | Exception | None] = Queue()
    gone = Event()

    def hand_out(thing: Schema) -> None:
        if gone.is_set():
            raise _NobodyListens
        told.put(f"{thing.model_dump_json()}\n")

    def run() -> None:
        try:
            work(hand_out)
            told.put(None)
        except _NobodyListens:
            pass
        except Exception as e:  # raised again where it is read
            told.put(e)

    Thread(target=run, daemon=True).start()
    first = told.get()
    if isinstance(first, Exception):
        raise first

    def lines() -> Iterator[str]:
        line: str | Exception | None = first
        try:
            while line is not None:
                if isinstance(line, Exception):
                    raise line
                yield line
                line = told.get()
        finally:
            gone.set()

    return StreamingHttpResponse(lines(), content_type=LINES, headers={"Cache-Control": "no-store"})
