"""Two processes that take the demo's photos and measure them while the jobs are made."""

from __future__ import annotations

import os
from collections.abc import Iterator, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from multiprocessing import get_context

import cv2

from demo.photos import settings
from ypsicline.standins.camera import take_photo

__all__ = ["Helpers", "helpers"]


@dataclass(frozen=True)
class Helpers:
    """The processes, and the photos that they take, by name."""

    pool: ProcessPoolExecutor
    album: dict[str, Future[bytes]]

    def photo(self, name: str) -> bytes:
        return self.album[name].result()

    def measure(self, photo: int, names: Sequence[str] = ()) -> Future[None]:
        """The photo of this number in the database measured, as the worker would do it; where pieces are given `names`, measured
        for what pieces it shows, and then for these, as when a maker named them."""
        return self.pool.submit(_measure, photo, names)


@contextmanager
def helpers() -> Iterator[Helpers]:
    # pictures of 100 MB come and go: glibc is to keep their memory instead of having it cleared anew each time
    os.environ.setdefault("MALLOC_MMAP_THRESHOLD_", str(1 << 30))
    os.environ.setdefault("MALLOC_TRIM_THRESHOLD_", str(1 << 32))
    # two helpers keep both processors at work: more threads within each would only change places
    context = get_context("forkserver")
    context.set_forkserver_preload(["demo.imported"])
    with ProcessPoolExecutor(2, mp_context=context, initializer=cv2.setNumThreads, initargs=(1,)) as pool:
        yield Helpers(pool, {name: pool.submit(take_photo, *setting) for name, setting in settings().items()})


def _measure(photo: int, names: Sequence[str]) -> None:
    from ypsicline.server.jobs.models import Photo
    from ypsicline.server.photos import photos

    photos.measure.call(photo)
    if names:
        photos.choose_pieces(Photo.objects.get(pk=photo), list(names))
        photos.measure.call(photo)
