"""Two processes that take the demo's photos and measure them while the jobs are made."""

from __future__ import annotations

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
    # two helpers keep both processors at work: more threads within each would only change places
    with ProcessPoolExecutor(
        2, mp_context=get_context("forkserver"), initializer=cv2.setNumThreads, initargs=(1,)
    ) as pool:
        yield Helpers(pool, {name: pool.submit(take_photo, *setting) for name, setting in settings().items()})


def _measure(photo: int, names: Sequence[str]) -> None:
    from ypsicline.server.jobs.models import Photo
    from ypsicline.server.photos import photos

    photos.measure.call(photo)
    if names:
        photos.choose_pieces(Photo.objects.get(pk=photo), list(names))
        photos.measure.call(photo)
