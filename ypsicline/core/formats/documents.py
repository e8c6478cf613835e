"""Panels files and job bundles: documented JSON, version 1, written and read back. See docs/formats.md."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal, TypeVar

from pydantic import TypeAdapter, ValidationError

from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.panel import DraftedPanel, Finding, Panel, SeamEdge
from ypsicline.core.errors import Place, Refused
from ypsicline.core.job import MOST_PANELS, JobDocument

__all__ = [
    "DraftedFile",
    "JobBundle",
    "PanelsFile",
    "check_plain",
    "drafted_file",
    "dump",
    "dump_bundle",
    "load",
    "load_bundle",
    "load_job",
    "load_panels",
]

MAX_DOCUMENT_BYTES = 20_000_000
LARGEST_NUMBER = 1e9
_PIECES = re.compile(rb'"pieces"\s*:')
# a job's brief comes first; its pieces are named within this many bytes
_HEAD = 40_000
_DRAFTED = b'"cutting_points"'
# marks that a panel has because somebody asked for them
_ASKED_FOR = frozenset({
    "dart", "pleat", "gather", "slit", "button", "tie", "exit", "patch", "hand_sewn", "centre", "cross", "wrong_side", "top", "note",
})  # fmt: skip
T = TypeVar("T")


@dataclass(frozen=True)
class PanelsFile:
    """A panels file as it is handed in. `joins` are kept as they came. A drafted file says what its panels were
    `drafted_from`; `house` are the rules and cloths that they go by."""

    panels: tuple[Panel, ...]
    version: Literal[1] = 1
    unit: Literal["mm"] = "mm"
    joins: tuple[dict[str, Any], ...] = ()
    drafted_from: tuple[Panel, ...] = ()
    house: House = field(default_factory=House)


@dataclass(frozen=True)
class DraftedFile:
    """A panels file as drafting hands it out: the panels drafted, and as they were set (`drafted_from`)."""

    panels: tuple[DraftedPanel, ...]
    drafted_from: tuple[Panel, ...] = ()
    house: House = field(default_factory=House)
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


def drafted_file(
    panels: Sequence[Panel], house: House, drafted: Sequence[DraftedPanel], joins: Sequence[dict[str, Any]] = ()
) -> DraftedFile:
    """The file of panels as set and drafted; their worked lines, each with its panel's name, and findings at its top."""
    return DraftedFile(
        tuple(drafted), tuple(panels), house, joins=tuple(joins),
        worked=tuple(f"{p.name} · {line}" for p in drafted for line in p.worked),
        findings=tuple(f for p in drafted for f in p.findings),
    )  # fmt: skip


def load_panels(data: bytes) -> PanelsFile:
    """Read a panels file; of a drafted one, the panels that it was drafted from.

    Raises `Refused` that names the place in the file, also where drafted panels were changed by hand,
    or carry darts, pleats or marks without saying what they were drafted from.
    """
    check_plain(data, "panels file")
    found = load(PanelsFile, data, "panels file")
    if not 1 <= len(found.panels) <= MOST_PANELS:
        raise Refused(f"The panels file has {len(found.panels)} panels; 1 to {MOST_PANELS} can be read.", "document")
    if found.drafted_from:
        _check_unchanged(found)
        return replace(found, panels=found.drafted_from, drafted_from=())
    if _DRAFTED in data:
        _check_bare(load(DraftedFile, data, "panels file"))
    return found


def _check_unchanged(found: PanelsFile) -> None:
    """Refused where the drafted panels of a file aren't those that drafting makes."""
    anew = {p.name: p.seam_line for p in draft_panels(found.drafted_from, house=found.house)}
    for panel in found.panels:
        if not _alike(panel.seam_line, anew.get(panel.name, ())):
            raise Refused(
                f"Panel “{panel.name}” of this drafted file isn't what drafting makes of `drafted_from`. Make the change there, "
                "or draft anew from the file that it came from.",
                "document", Place(panel=panel.name),
            )  # fmt: skip


def _alike(one: Sequence[SeamEdge], other: Sequence[SeamEdge]) -> bool:
    """Whether two rings have the same edges, points within a millionth of a millimetre."""
    return len(one) == len(other) and all(
        e.kind == f.kind
        and (e.name, e.allowance, e.finish) == (f.name, f.allowance, f.finish)
        and len(e.points) == len(f.points)
        and all(math.dist(p, q) < 1e-6 for p, q in zip(e.points, f.points, strict=True))
        for e, f in zip(one, other, strict=True)
    )


def _check_bare(found: DraftedFile) -> None:
    """Refused where drafting again would lose what a drafted panel shows."""
    for panel in found.panels:
        lost = sorted({m.kind for m in panel.marks} & _ASKED_FOR)
        if lost:
            raise Refused(
                f"Panel “{panel.name}” shows what was asked for when it was drafted ({', '.join(lost).replace('_', ' ')}), but the "
                "file doesn't say what it was drafted from, so that drafting again would lose it. Take the file that it came from.",
                "document", Place(panel=panel.name),
            )  # fmt: skip


def load_bundle(data: bytes) -> JobBundle:
    """Read a job bundle. Raises `Refused` that names the place in the file."""
    check_plain(data, "job bundle")
    return load(JobBundle, _with_pieces(data), "job bundle")


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


def check_plain(data: bytes, what: str) -> None:
    """Refuse numbers that no length can be, and what is nested or written so that it can't be kept."""

    def number(text: str) -> float:
        value = float(text)
        if not abs(value) <= LARGEST_NUMBER:
            raise Refused(f"The {what} holds the number {text[:20]}, which nothing here can be.", "document")
        return value

    if len(data) > MAX_DOCUMENT_BYTES:
        return
    try:
        read = json.loads(data, parse_constant=number, parse_float=number, parse_int=number)
        if b"\\u" in data:
            json.dumps(read, ensure_ascii=False).encode()
    except RecursionError as e:
        raise Refused(f"The {what} is nested too deeply to be read.", "document") from e
    except UnicodeError as e:
        raise Refused(f"The {what} holds half a letter (a lone surrogate); write its texts anew.", "document") from e
    except ValueError:
        return  # what is wrong with it is said where it is read


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


def dump_bundle(job: JobDocument) -> bytes:
    """A whole job as one file, without blanks. Raises `Refused` where it would be larger than can be read."""
    data = _adapter(JobBundle).dump_json(JobBundle(job))
    if len(data) > MAX_DOCUMENT_BYTES:
        raise Refused(
            f"This job would be a file of {len(data) / 1e6:.0f} MB; {MAX_DOCUMENT_BYTES / 1e6:.0f} MB is the most that can be "
            "read again. Take captured pieces off that aren't needed any more.",
            "document",
        )
    return data


_ADAPTERS: dict[Any, TypeAdapter[Any]] = {}


def _adapter(kind: Any) -> TypeAdapter[Any]:
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]
