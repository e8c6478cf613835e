"""Panels files and job bundles: documented JSON, version 1, written and read back. See docs/formats.md."""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, Literal, TypeVar

from pydantic import PlainSerializer, TypeAdapter, ValidationError
from pydantic_core import from_json

from ypsicline.core.covers.cover import Cover
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding, Severity
from ypsicline.core.formats.joins_json import (
    WrittenJoin,
    WrittenNotion,
    joined_by_ids,
    written_joins,
    written_notions,
)
from ypsicline.core.formats.upgrades import job_of_today, panels_with_ids
from ypsicline.core.identified import taken_in
from ypsicline.core.job import MOST_PANELS, JobDocument
from ypsicline.core.joins.corners import draft_joined
from ypsicline.core.joins.walk import seam_findings, walk_findings, walks
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.mark import Mark, letters_mm
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render, render_all

__all__ = [
    "DraftedFile",
    "JobBundle",
    "PanelsFile",
    "check_plain",
    "cover_file",
    "drafted_file",
    "dump",
    "dump_bundle",
    "load",
    "load_bundle",
    "load_job",
    "load_panels",
    "parsed",
]

MAX_DOCUMENT_BYTES = 20_000_000
LARGEST_NUMBER = 1e9
# marks that a panel has because somebody asked for them
_ASKED_FOR = frozenset({
    "dart", "pleat", "gather", "slit", "button", "tie", "exit", "patch", "hand_sewn", "centre", "cross", "wrong_side", "top", "note",
})  # fmt: skip
T = TypeVar("T")


@dataclass(frozen=True)
class PanelsFile:
    """A panels file as it is handed in. A drafted file says what its panels were `drafted_from`; `house` are the rules and
    cloths that they go by, `notions` what was reckoned to be bought."""

    panels: tuple[Panel, ...]
    version: Literal[1] = 1
    unit: Literal["mm"] = "mm"
    joins: tuple[Join, ...] = ()
    drafted_from: tuple[Panel, ...] = ()
    house: House = field(default_factory=House)
    notions: tuple[WrittenNotion, ...] = ()


@dataclass(frozen=True)
class WrittenFinding:
    """A finding as a file has it: in words, with its figures."""

    severity: Severity
    sentence: str
    place: Place
    numbers: dict[str, float]
    id: str


def _written_finding(finding: Finding) -> WrittenFinding:
    m = finding.message
    return WrittenFinding(finding.severity, render(m), finding.place, m.numbers, finding.id)


def _written_mark(mark: Mark) -> dict[str, Any]:
    lines = render_all(mark.lines)
    plain: dict[str, Any] = _adapter(Mark).dump_python(replace(mark, size_mm=letters_mm(mark, lines)), mode="json")
    return {k: v for k, v in plain.items() if k != "room_mm"} | {"lines": list(lines)}


def _drafted_panel(panel: DraftedPanel) -> dict[str, Any]:
    """A drafted panel as a file has it, what it says in words."""
    plain: dict[str, Any] = _adapter(DraftedPanel).dump_python(panel, mode="json")
    findings = [_adapter(WrittenFinding).dump_python(_written_finding(f)) for f in panel.findings]
    marks = [_written_mark(m) for m in panel.marks]
    return {k: v for k, v in plain.items() if k != "workings"} | {
        "way_up": render(panel.way_up),
        "marks": marks,
        "worked": [render(line) for line in panel.workings],
        "findings": findings,
    }


@dataclass(frozen=True)
class DraftedFile:
    """A panels file as drafting hands it out: the panels drafted, and as they were set (`drafted_from`)."""

    panels: tuple[Annotated[DraftedPanel, PlainSerializer(_drafted_panel)], ...]
    drafted_from: tuple[Panel, ...] = ()
    house: House = field(default_factory=House)
    version: Literal[1] = 1
    unit: Literal["mm"] = "mm"
    joins: tuple[WrittenJoin, ...] = ()
    notions: tuple[WrittenNotion, ...] = ()
    worked: tuple[str, ...] = ()
    findings: tuple[WrittenFinding, ...] = ()


@dataclass(frozen=True)
class JobBundle:
    """A whole job as one file."""

    job: JobDocument
    format: Literal["ypsicline-job"] = "ypsicline-job"
    version: Literal[1, 2, 3] = 3


def drafted_file(file: PanelsFile) -> DraftedFile:
    """The file of panels as set and drafted; joins walked; worked lines, each with its panel's name, and findings at its
    top. Raises `Refusal` where a panel can't be drafted, or a join names what isn't there."""
    return _drafted_file(file, file.notions)


def cover_file(cover: Cover, house: House) -> DraftedFile:
    """The file of a cover: its panels drafted, joins walked, what to buy, its sums and findings before those of the
    panels. Raises `Refusal` where a panel can't be drafted."""
    draft = _drafted_file(PanelsFile(cover.panels, joins=cover.joins, house=house), written_notions(cover.notions))
    return replace(
        draft,
        worked=(*(render(line) for line in cover.workings), *draft.worked),
        findings=(*(_written_finding(f) for f in cover.findings), *draft.findings),
    )


def _drafted_file(file: PanelsFile, notions: Sequence[WrittenNotion]) -> DraftedFile:
    drafts = draft_joined(file.panels, file.joins, file.house)
    by_id = {p.id: p for p in file.panels}
    join_findings = [f for w in walks(file.joins, file.panels) for f in walk_findings(w)]
    seams = [f for j in file.joins for f in seam_findings(j, by_id)]
    return DraftedFile(
        drafts, file.panels, file.house, joins=written_joins(file.joins, file.panels), notions=tuple(notions),
        worked=tuple(f"{p.name} · {render(line)}" for p in drafts for line in p.workings),
        findings=tuple(_written_finding(f) for f in (*join_findings, *seams, *(f for p in drafts for f in p.findings))),
    )  # fmt: skip


def load_panels(data: bytes) -> PanelsFile:
    """Read a panels file; of a drafted one, the panels that it was drafted from.

    Raises `Refusal` that names the place in the file, also where drafted panels were changed by hand,
    or carry darts, pleats or marks without saying what they were drafted from.
    """
    check_plain(data, message("document_panels_file"))
    document = parsed(data, message("document_panels_file"))
    file = _checked(PanelsFile, panels_with_ids(document), message("document_panels_file"))
    if not 1 <= len(file.panels) <= MOST_PANELS:
        raise Refusal(message("panels_count_out_of_range", count=len(file.panels), most_panels=MOST_PANELS), "document")
    if file.drafted_from:
        _check_unchanged(file)
        file = replace(file, panels=file.drafted_from, drafted_from=())
    else:
        _check_bare(document)
    if not file.joins:
        return file
    joins, panels = joined_by_ids(file.joins, file.panels)
    walks(joins, panels)
    return replace(file, joins=joins, panels=panels)


def _check_unchanged(file: PanelsFile) -> None:
    """Refused where the drafted panels of a file aren't those that drafting makes."""
    anew = {p.name: p.seam_line for p in draft_panels(file.drafted_from, house=file.house)}
    for panel in file.panels:
        if not _alike(panel.seam_line, anew.get(panel.name, ())):
            raise Refusal(
                message("drafted_panel_changed", panel=panel.name),
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


def _check_bare(file: Any) -> None:
    """Refused where drafting again would lose what a drafted panel shows."""
    for panel in file["panels"]:
        marks = panel.get("marks")
        kinds = {str(m.get("kind")) for m in marks if isinstance(m, dict)} if isinstance(marks, list) else set()
        if forgotten_kinds := sorted(kinds & _ASKED_FOR):
            raise Refusal(
                message("drafted_from_missing", panel=panel['name'], lost=', '.join(forgotten_kinds).replace('_', ' ')),
                "document", Place(panel=panel["name"]),
            )  # fmt: skip


def load_bundle(data: bytes) -> JobBundle:
    """Read a job bundle. Raises `Refusal` that names the place in the file."""
    check_plain(data, message("document_job_bundle"))
    document = parsed(data, message("document_job_bundle"))
    if isinstance(document, dict) and "job" in document:
        document = document | {"job": job_of_today(document["job"])}
    bundle = _checked(JobBundle, document, message("document_job_bundle"))
    return replace(bundle, job=taken_in(bundle.job))


def load_job(data: bytes) -> JobDocument:
    """Read a job's whole document as it was stored once."""
    return taken_in(
        _checked(
            JobDocument, job_of_today(parsed(data, message("document_stored_job"))), message("document_stored_job")
        )
    )


def check_plain(data: bytes, what: Message) -> None:
    """Refuse numbers that no length can be, and what is nested or written so that it can't be kept."""

    def number(text: str) -> float:
        value = float(text)
        if not abs(value) <= LARGEST_NUMBER:
            raise Refusal(message("impossible_number", what=what, text=text[:20]), "document")
        return value

    if len(data) > MAX_DOCUMENT_BYTES:
        return
    try:
        document = json.loads(data, parse_constant=number, parse_float=number, parse_int=number)
        if b"\\u" in data:
            json.dumps(document, ensure_ascii=False).encode()
    except RecursionError as e:
        raise Refusal(message("nested_too_deeply", what=what), "document") from e
    except UnicodeError as e:
        raise Refusal(message("half_a_letter", what=what), "document") from e
    except ValueError:
        return  # what is wrong with it is said where it is read


def load(kind: type[T], data: bytes, what: Message) -> T:
    """Read JSON into a core dataclass; raises `Refusal` (reason `document`) with the place of the first fault."""
    return _checked(kind, parsed(data, what), what)


def parsed(data: bytes, what: Message) -> Any:
    """JSON as plain values. Raises `Refusal` for what is too large, or no JSON."""
    if len(data) > MAX_DOCUMENT_BYTES:
        raise Refusal(
            message(
                "document_too_large", what=what, megabytes=len(data) / 1000000.0, most=MAX_DOCUMENT_BYTES / 1000000.0
            ),
            "document",
        )
    try:
        return from_json(data)
    except ValueError as e:
        raise Refusal(message("not_json", what=what, detail=str(e)), "document") from e


def _checked(kind: type[T], document: Any, what: Message) -> T:
    try:
        return _adapter(kind).validate_python(document)
    except ValidationError as e:
        first = e.errors(include_url=False)[0]
        where = " → ".join(str(p + 1) if isinstance(p, int) else str(p) for p in first["loc"])
        more = message("more_like_it", count=e.error_count() - 1) if e.error_count() > 1 else ""
        place = where or message("document_start")
        refusal = message("document_unreadable_at", what=what, where=place, detail=first["msg"], more=more)
        raise Refusal(refusal, "document") from e


def dump(document: object) -> bytes:
    """A core dataclass as JSON, indented."""
    adapter: TypeAdapter[Any] = _adapter(type(document))
    return adapter.dump_json(document, indent=1)


def dump_bundle(job: JobDocument) -> bytes:
    """A whole job as one file, without blanks. Raises `Refusal` where it would be larger than can be read."""
    data = _adapter(JobBundle).dump_json(JobBundle(job))
    if len(data) > MAX_DOCUMENT_BYTES:
        raise Refusal(
            message("job_too_large", megabytes=len(data) / 1000000.0, most=MAX_DOCUMENT_BYTES / 1000000.0), "document"
        )
    return data


_ADAPTERS: dict[Any, TypeAdapter[Any]] = {}


def _adapter(kind: Any) -> TypeAdapter[Any]:
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]
