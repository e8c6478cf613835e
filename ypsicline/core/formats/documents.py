"""Panels files and job bundles: documented JSON, version 1, written and read back. See docs/formats.md."""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from typing import Any, Literal, TypeVar

from pydantic import TypeAdapter, ValidationError

from ypsicline.core.drafting.panel import DraftedPanel, Finding, Panel
from ypsicline.core.errors import Refused
from ypsicline.core.job import JobDocument

__all__ = ["DraftedFile", "JobBundle", "PanelsFile", "dump", "load", "load_bundle", "load_job", "load_panels"]

MAX_DOCUMENT_BYTES = 20_000_000
MOST_PANELS = 200
_PIECES = re.compile(rb'"pieces"\s*:')
# a job's brief comes first; its pieces are named within this many bytes
_HEAD = 40_000
T = TypeVar("T")


@dataclass(frozen=True)
class PanelsFile:
    """A panels file as it is handed in. `joins` are kept as they came."""

    panels: tuple[Panel, ...]
    version: Literal[1] = 1
    unit: Literal["mm"] = "mm"
    joins: tuple[dict[str, Any], ...] = ()


@dataclass(frozen=True)
class DraftedFile:
    """A panels file as drafting hands it out."""

    panels: tuple[DraftedPanel, ...]
    version: Literal[1] = 1
    unit: Literal["mm"] = "mm"
    joins: tuple[dict[str, Any], ...] = ()
    worked: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class JobBundle:
    """A whole job as one file."""

    job: JobDocument
    format: Literal["ypsicline-job"] = "ypsicline-job"
    version: Literal[1] = 1


def load_panels(data: bytes) -> PanelsFile:
    """Read a panels file. Raises `Refused` that names the place in the file."""
    found = load(PanelsFile, data, "panels file")
    if not 1 <= len(found.panels) <= MOST_PANELS:
        raise Refused(f"The panels file has {len(found.panels)} panels; 1 to {MOST_PANELS} can be read.", "document")
    return found


def load_bundle(data: bytes) -> JobBundle:
    """Read a job bundle. Raises `Refused` that names the place in the file."""
    found = load(JobBundle, _with_pieces(data), "job bundle")
    if len(found.job.panels) > MOST_PANELS:
        raise Refused(f"The job has {len(found.job.panels)} panels; {MOST_PANELS} is the most.", "document")
    return found


def load_job(data: bytes) -> JobDocument:
    """Read a job's document as it is stored."""
    return load(JobDocument, _with_pieces(data), "stored job")


def _with_pieces(data: bytes) -> bytes:
    """A job written before it could have several pieces: its one outline becomes a piece."""
    if len(data) > MAX_DOCUMENT_BYTES or _PIECES.search(data[:_HEAD]):
        return data
    try:
        read = json.loads(data)
    except ValueError:
        return data
    job = read.get("job", read) if isinstance(read, dict) else None
    if isinstance(job, dict) and isinstance(job.get("shape"), dict) and "pieces" not in job:
        shape, tape = job.pop("shape"), job.pop("tape", [])
        job["pieces"] = [{"name": "piece", "captured": shape, "shape": shape, "tape": tape}]
        return json.dumps(read).encode()
    return data


def load(kind: type[T], data: bytes, what: str) -> T:
    """Read JSON into a core dataclass; raises `Refused` (reason `document`) with the place of the first fault."""
    if len(data) > MAX_DOCUMENT_BYTES:
        raise Refused(
            f"The {what} has {len(data) / 1e6:.0f} MB; {MAX_DOCUMENT_BYTES / 1e6:.0f} MB is the most.",
            "document",
        )
    try:
        return _adapter(kind).validate_json(data)
    except ValidationError as e:
        first = e.errors(include_url=False)[0]
        where = " → ".join(str(p + 1) if isinstance(p, int) else str(p) for p in first["loc"])
        more = f" ({e.error_count() - 1} more like it)" if e.error_count() > 1 else ""
        if first["type"] == "json_invalid":
            raise Refused(f"The {what} is not JSON that can be read: {first['msg']}.", "document") from e
        raise Refused(f"The {what} can't be read at {where or 'its start'}: {first['msg']}{more}.", "document") from e


def dump(document: object) -> bytes:
    """A core dataclass as JSON, indented."""
    adapter: TypeAdapter[Any] = _adapter(type(document))
    return adapter.dump_json(document, indent=1)


_ADAPTERS: dict[Any, TypeAdapter[Any]] = {}


def _adapter(kind: Any) -> TypeAdapter[Any]:
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]
