"""Ids: what a panel, an edge or a feature is known by, through whatever is done to it.

They are short and unique in a job. A panel by itself, as a file holds it, has ids that are unique in it, a word and a
number; its job gives it others when it is taken in, a letter and a number, see `identified`.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from itertools import count
from typing import Protocol, TypeVar

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["Identified", "check_id", "free_ids", "once_each", "with_ids"]

_ID = re.compile(r"[A-Za-z0-9._-]{1,16}")


class Identified(Protocol):
    @property
    def id(self) -> str: ...


T = TypeVar("T", bound=Identified)


def check_id(id: str) -> None:
    """Raise `Refusal` for what can't be an id; none at all is none yet."""
    if id and not _ID.fullmatch(id):
        raise Refusal(message("not_an_id", given=id[:20]), "id")


def free_ids(word: str, ids: Iterable[str]) -> Iterator[str]:
    """Ids with this word that aren't taken: edge1, edge2 and so on."""
    names = set(ids)
    return (name for k in count(1) if (name := f"{word}{k}") not in names)


def with_ids(word: str, things: Sequence[T]) -> tuple[T, ...]:
    """The things, those without an id with the first ones that are free; just as they are where each has one.

    Raises `Refusal` where two have the same.
    """
    own = [t.id for t in things if t.id]
    if len(set(own)) < len(own):
        twice = next(name for k, name in enumerate(own) if name in own[:k])
        raise Refusal(message("id_given_twice", twice=twice), "id")
    if len(own) == len(things):
        return tuple(things)
    free = free_ids(word, own)
    return tuple(t if t.id else replace(t, id=next(free)) for t in things)  # type: ignore[type-var]


def once_each(word: str, things: Sequence[T], ids_elsewhere: Iterable[str] = ()) -> tuple[T, ...]:
    """The things, of which several may come from one: the first keeps its id, the others get ids that are free and not
    `ids` elsewhere."""
    free = free_ids(word, {*ids_elsewhere, *(t.id for t in things)})
    ids: set[str] = set()
    unique = []
    for thing in things:
        own = replace(thing, id=next(free)) if thing.id in ids or not thing.id else thing  # type: ignore[type-var]
        ids.add(own.id)
        unique.append(own)
    return tuple(unique)
