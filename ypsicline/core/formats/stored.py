"""A job as it is stored, version 3: a small manifest, and parts by the hash of their content.

Each piece and each panel is a part, and so is each long run of points in them, so that a change costs what it changes
and a trace is stored once however often it is trued up. A part is compact JSON, packed; in it
`{"points": hash}` stands for a run. Version 2 called some of a piece's parts otherwise, version 1 had no ids, and features
in lists by kind; what was stored before, the whole document in one, is version 0.
"""

from __future__ import annotations

import json
import zlib
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property
from hashlib import blake2b
from threading import Lock
from typing import Any, Literal
from weakref import ref

from pydantic import TypeAdapter, ValidationError

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import MAX_DOCUMENT_BYTES, load_job
from ypsicline.core.formats.upgrades import panel_with_ids, piece_of_today
from ypsicline.core.identified import identified
from ypsicline.core.job import JobDocument, Piece
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import Panel

__all__ = ["Fetch", "StoredJob", "pack", "parts_of", "unpack"]

VERSION = 3
# a manifest is told from a whole document, version 0, by how it begins
_BEGINS = b'{"version":'
Fetch = Callable[[Collection[str]], Mapping[str, bytes]]
"""Gives the parts of these names, as they were stored."""
Kind = Literal["pieces", "panels"]
_KINDS: dict[Kind, type] = {"pieces": Piece, "panels": Panel}
_UPGRADES: dict[Kind, Callable[[Any], Any]] = {"pieces": piece_of_today, "panels": panel_with_ids}
_LEAST_RUN = 24
# in memory they take some five times as much
_CACHE_BYTES = 16_000_000


@dataclass(frozen=True)
class _Entry:
    """A piece or panel in the manifest: its part's name, and those of the runs of points in it."""

    name: str
    runs: tuple[str, ...]

    @property
    def names(self) -> tuple[str, ...]:
        return (self.name, *self.runs)


@dataclass(frozen=True)
class StoredJob:
    """A job to be stored: its `manifest`, and which parts belong to it; `parts` gives their content."""

    manifest: bytes
    entries: tuple[tuple[_Entry, Kind, Any], ...]

    @cached_property
    def names(self) -> frozenset[str]:
        return frozenset(n for entry, _, _ in self.entries for n in entry.names)

    def parts(self, names: Collection[str]) -> dict[str, bytes]:
        """The content of these parts, by name."""
        names = set(names)
        by_name: dict[str, bytes] = {}
        for entry, kind, value in self.entries:
            if names & set(entry.names):
                by_name |= {n: zlib.compress(p) for n, p in _taken_apart(value, kind)[1].items() if n in names}
        return by_name


def pack(job: JobDocument) -> StoredJob:
    """The job as it is stored. Raises `Refusal` where it couldn't be read again as it is."""
    entries = [(_entry(v, kind), kind, v) for kind, values in _values(job) for v in values]
    rest = _adapter(JobDocument).dump_python(replace(job, pieces=(), panels=(), open=""), mode="json")
    manifest: dict[str, Any] = {
        "version": VERSION,
        "job": {k: v for k, v in rest.items() if k not in ("pieces", "panels")} | {"open": job.open},
        **{kind: [[e.name, e.runs] for e, k, _ in entries if k == kind] for kind in _KINDS},
    }
    try:
        plain = _to_bytes(manifest)
        if _rest(json.loads(plain)) != replace(job, pieces=(), panels=(), open=""):
            raise Refusal(message("read_differs_from_written"), "document")
    except (Refusal, ValueError) as e:
        raise _unreadable(e) from e
    return StoredJob(zlib.compress(plain), tuple(entries))


def unpack(manifest: bytes, fetch: Fetch) -> JobDocument:
    """A job from what is stored, of this version or before. Raises `Refusal` where that can't be read."""
    plain = _inflated(manifest)
    if not plain.startswith(_BEGINS):
        return load_job(plain)
    data = _parsed(plain)
    if data["version"] not in range(1, VERSION + 1):
        raise Refusal(message("stored_by_later_version"), "document")
    try:
        entries = {k: [_Entry(str(n), tuple(map(str, r))) for n, r in data[k]] for k in _KINDS}
        values = _read_entries(entries, fetch)
        whole = replace(_rest(data), pieces=values["pieces"], panels=values["panels"])
        at = data["job"].get("open", "")
        if data["version"] > 1:
            return replace(whole, open=at)
        return identified(replace(whole, open=whole.pieces[at].id if at < len(whole.pieces) else ""))
    except ValidationError as e:
        first = e.errors(include_url=False, include_context=False)[0]
        where = " → ".join(str(p) for p in first["loc"])
        raise Refusal(message("stored_unreadable_at", where=where, detail=first["msg"]), "document") from e
    except (KeyError, TypeError, ValueError, zlib.error) as e:
        raise Refusal(message("stored_damaged"), "document") from e


def parts_of(manifest: bytes) -> frozenset[str]:
    """The names of all parts that a stored job needs; none of one from before there were parts."""
    plain = _inflated(manifest)
    if not plain.startswith(_BEGINS):
        return frozenset()
    data = _parsed(plain)
    return frozenset(n for kind in _KINDS for name, runs in data[kind] for n in (name, *runs))


def _rest(manifest: Mapping[str, Any]) -> JobDocument:
    """What of a job is neither piece nor panel."""
    job: JobDocument = _adapter(JobDocument).validate_python({**manifest["job"], "open": ""})
    return job


@cache
def _adapter(kind: type) -> TypeAdapter[Any]:
    return TypeAdapter(kind)


def _values(job: JobDocument) -> Iterator[tuple[Kind, Sequence[Any]]]:
    yield "pieces", job.pieces
    yield "panels", job.panels


def _inflated(packed: bytes) -> bytes:
    try:
        return packed if packed.startswith(b"{") else zlib.decompress(packed)
    except zlib.error as e:
        raise Refusal(message("stored_damaged"), "document") from e


def _parsed(plain: bytes) -> Any:
    try:
        return json.loads(plain)
    except ValueError as e:
        raise Refusal(message("stored_damaged"), "document") from e


def _to_bytes(value: Any) -> bytes:
    plain = json.dumps(value, separators=(",", ":"), ensure_ascii=False, allow_nan=False).encode()
    if len(plain) > MAX_DOCUMENT_BYTES:
        raise Refusal(
            message("part_too_large", megabytes=len(plain) / 1000000.0, most=MAX_DOCUMENT_BYTES / 1000000.0), "document"
        )
    return plain


def _name(plain: bytes) -> str:
    return blake2b(plain, digest_size=16).hexdigest()


def _unreadable(e: Exception) -> Refusal:
    because = e.message if isinstance(e, Refusal) else message("holds_impossible_number")
    return Refusal(message("unreadable_after_change", because=because), "document")


def _taken_apart(value: Any, kind: Kind) -> tuple[_Entry, dict[str, bytes]]:
    """A piece or panel as its part and the runs of points in it, by their names, not packed yet."""
    runs: dict[str, bytes] = {}

    def without_runs(v: Any) -> Any:
        if isinstance(v, dict):
            return {k: without_runs(x) for k, x in v.items()}
        if not isinstance(v, list):
            return v
        if len(v) < _LEAST_RUN or not (isinstance(v[0], list) and len(v[0]) == 2 and isinstance(v[0][0], float)):
            return [without_runs(x) for x in v]
        plain = _to_bytes(v)
        runs[_name(plain)] = plain
        return {"points": _name(plain)}

    plain = _to_bytes(without_runs(_adapter(_KINDS[kind]).dump_python(value, mode="json")))
    return _Entry(_name(plain), tuple(runs)), {_name(plain): plain, **runs}


def _put_together(value: Any, runs: Mapping[str, Any]) -> Any:
    if isinstance(value, dict):
        if value.keys() == {"points"} and isinstance(value["points"], str):
            return runs[value["points"]]
        return {k: _put_together(v, runs) for k, v in value.items()}
    return [_put_together(v, runs) for v in value] if isinstance(value, list) else value


class _Cache:
    """Pieces and panels by the names of their parts, the last few megabytes of them, and the other way round for as long
    as they are about: reading and storing cost what is new."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._values: dict[str, tuple[Any, int]] = {}
        self._bytes = 0
        self._entries: dict[int, tuple[ref[Any], _Entry]] = {}

    def value(self, name: str) -> Any:
        with self._lock:
            value = self._values.pop(name, None)
            if value is None:
                return None
            self._values[name] = value
            return value[0]

    def entry(self, value: Any) -> _Entry | None:
        alive, entry = self._entries.get(id(value), (None, None))
        return entry if alive is not None and alive() is value else None

    def learn(self, value: Any, entry: _Entry, size: int) -> None:
        """Know a value by its entry; `size` is how many bytes its parts have."""
        at = id(value)
        with self._lock:
            self._entries[at] = ref(value, lambda _: self._entries.pop(at, None)), entry
            if entry.name not in self._values:
                self._values[entry.name] = value, size
                self._bytes += size
            while self._bytes > _CACHE_BYTES and len(self._values) > 1:
                self._bytes -= self._values.pop(next(iter(self._values)))[1]


_CACHE = _Cache()


def _entry(value: Any, kind: Kind) -> _Entry:
    """A piece or panel in the manifest; of a new one only once it is known that it reads as the same."""
    if cached := _CACHE.entry(value):
        return cached
    try:
        entry, parts = _taken_apart(value, kind)
        packed = {n: zlib.compress(p, 1) for n, p in parts.items()}
        if _read_entries({kind: [entry]}, lambda names: {n: packed[n] for n in names})[kind] != (value,):
            raise Refusal(message("read_differs_from_written"), "document")
    except (Refusal, ValueError) as e:
        raise _unreadable(e) from e
    _CACHE.learn(value, entry, sum(map(len, parts.values())))
    return entry


def _read_entries(entries: Mapping[Kind, Sequence[_Entry]], fetch: Fetch) -> dict[Kind, tuple[Any, ...]]:
    """The pieces and panels of a manifest; those that aren't known are fetched together."""
    values_by_name = {e.name: v for of in entries.values() for e in of if (v := _CACHE.value(e.name)) is not None}
    missing = {n for of in entries.values() for e in of if e.name not in values_by_name for n in e.names}
    plain = {n: zlib.decompress(p) for n, p in fetch(missing).items()} if missing else {}
    if parts_missing := missing - plain.keys():
        raise Refusal(message("stored_parts_missing", count=len(parts_missing)), "document")
    data = {n: json.loads(p) for n, p in plain.items()}
    for kind, of in entries.items():
        for entry in of:
            if entry.name not in values_by_name:
                plain_value = _UPGRADES[kind](_put_together(data[entry.name], data))
                value = _adapter(_KINDS[kind]).validate_python(plain_value)
                _CACHE.learn(value, entry, sum(len(plain[n]) for n in entry.names))
                values_by_name[entry.name] = value
    return {kind: tuple(values_by_name[e.name] for e in of) for kind, of in entries.items()}
