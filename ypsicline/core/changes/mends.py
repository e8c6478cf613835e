"""What would mend a finding: changes that a maker may apply, each tried on the job before it is offered."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from ypsicline.core.changes.change import Change, changed
from ypsicline.core.changes.covers import ChangeMeasures, LengthInstead
from ypsicline.core.changes.edges import SetEdgeLength, SetEdges
from ypsicline.core.changes.joins import RemoveJoin, SetJoin, SewJoin
from ypsicline.core.changes.panels import SetPanel, panel_with
from ypsicline.core.checks.checked import checked
from ypsicline.core.covers.of_job import drafted_cover
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.errors import Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.order import closed_off
from ypsicline.core.joins.walk import EASED_SHARE, JoinSide, Walk, walk
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.wording import render

__all__ = ["Mend", "TriedMend", "try_mends"]

_GATHERED = 1.15
_SEAMS = frozenset({"join_finish_differs", "join_allowances_differ"})
_CLOSED = frozenset({"join_closed_off", "join_closed_in"})
_BENT_HEMS = frozenset({"hem_longer", "hem_shorter", "hem_too_deep"})


@dataclass(frozen=True)
class Mend:
    """A `change` that would mend the finding of this id, in `words`."""

    finding: str
    words: Message
    change: Change


@dataclass(frozen=True)
class TriedMend:
    """A mend and what is found after it that wasn't before."""

    mend: Mend
    then: tuple[Finding, ...]


def try_mends(job: JobDocument) -> tuple[TriedMend, ...]:
    """The mends of what is open that can be made and do mend it."""
    before = _open(job)
    ids = {f.id for f in before}
    offers = []
    for mend in (m for own in _KINDS for m in own(job, before)):
        try:
            after = _open(changed(job, mend.change))
        except Refusal:
            continue
        if not any(f.id == mend.finding for f in after):
            offers.append(TriedMend(mend, tuple(f for f in after if f.id not in ids)))
    return tuple(offers)


def _open(job: JobDocument) -> list[Finding]:
    return [c.finding for c in checked(job, draft_panels(job.panels, job.house)) if c.is_open]


def _of_joins(job: JobDocument, findings: Sequence[Finding]) -> Iterator[Mend]:
    panels = {p.id: p for p in job.panels}
    ids = {f.id for f in findings}
    for join in job.joins:
        try:
            one_walk = walk(join, panels)
        except Refusal as e:
            refusal = Finding("stop", e.message, e.place).id
            if refusal in ids:
                yield Mend(refusal, message("mend_remove_join"), RemoveJoin(join.id))
            continue
        for finding in (f for f in findings if f.join == join.id):
            if finding.message.code in _CLOSED:
                yield Mend(finding.id, *_of_order(job, join))
            elif finding.message.code in _SEAMS:
                yield Mend(finding.id, *_of_seam(join, finding))
            elif one_walk.verdict == "mismatch":
                yield from (Mend(finding.id, *m) for m in _of_lengths(job, one_walk))


def _of_lengths(job: JobDocument, one_walk: Walk) -> Iterator[tuple[Message, Change]]:
    """Ways to have both sides of a join agree: one made shorter or longer, the longer eased in, or gathered."""
    ratio = one_walk.join.fullness if one_walk.join.meant == "gathered" else 1.0
    long, short = sorted((one_walk.first, one_walk.second), key=lambda side: -side.length)
    for side, length_mm in ((long, short.length * ratio), (short, long.length / ratio)):
        yield _made_as_long(job, side, length_mm)
    over = long.length / short.length - 1
    if one_walk.join.meant == "equal" and over <= EASED_SHARE:
        yield message("mend_ease_in", over_mm=long.length - short.length), SetJoin(one_walk.join.id, meant="eased")
    if over + 1 >= _GATHERED:
        fullness = round(long.length / short.length, 3)
        yield message("mend_gather", fullness=fullness), SetJoin(one_walk.join.id, meant="gathered", fullness=fullness)


def _made_as_long(job: JobDocument, side: JoinSide, length_mm: float) -> tuple[Message, Change]:
    """The last edge of a side drawn out or shortened by what the side lacks: on the outline, to which ease is added."""
    last, lacks = side.run[-1], length_mm - side.length
    panel = panel_with(job, last.edge)
    edge = next(e for e in panel.seam_line if e.id == last.edge)
    length = edge_length(edge) + lacks
    values: dict[str, Value] = {"edge": edge.name, "panel": panel.name, "by_mm": abs(lacks), "length_mm": length}
    words = message("mend_shorten", **values) if lacks < 0 else message("mend_lengthen", **values)
    return words, SetEdgeLength(last.edge, length)


def _of_seam(join: Join, finding: Finding) -> tuple[Message, Change]:
    if finding.message.code == "join_finish_differs":
        return message("mend_finish", seam=join.seam.replace("_", " ")), SetJoin(join.id, seam=join.seam)
    edges = tuple(a.edge for a in (*join.first, *join.second))
    return message("mend_allowances"), SetEdges(edges, by_rule=True)


def _of_order(job: JobDocument, join: Join) -> tuple[Message, Change]:
    """The join sewn before the first of those that close it off."""
    first = next(shut.by[0] for shut in closed_off(job.joins, job.panels) if shut.join is join)
    return message("mend_sew_first", letter=join.letter, by=first.letter), SewJoin(join.id, job.joins.index(first) + 1)


def _of_panels(job: JobDocument, findings: Sequence[Finding]) -> Iterator[Mend]:
    """What is said of one panel."""
    panels = {p.name: p for p in job.panels}
    for finding in findings:
        panel = panels.get(finding.place.panel or "")
        mend = _of_panel(panel, finding, findings) if panel else None
        if mend:
            yield Mend(finding.id, *mend)


def _of_panel(panel: Panel, finding: Finding, findings: Sequence[Finding]) -> tuple[Message, Change] | None:
    code, edges = finding.message.code, [e for ring in panel.rings() for e in ring]
    if code == "edges_without_allowance":
        return message("mend_house_allowance"), SetEdges(tuple(e.id for e in edges if e.is_bare), by_rule=True)
    if code in _BENT_HEMS:
        # all of the panel's at once; what carries a cord or elastic stays as it is
        bent_edges = {f.place.edge for f in findings if f.message.code in _BENT_HEMS and f.place.panel == panel.name}
        own = tuple(e.id for e in edges if e.name in bent_edges and not e.cord_mm and not e.elastic_mm)
        return (message("mend_facing"), SetEdges(own, finish="faced")) if own else None
    if code == "upside_down_alike":
        return message("mend_way_up"), replace(_label(panel), way_up=render(message("this_way_up")))
    if code == "hands_alike":
        pairs = panel.count // 2
        return message("mend_pairs", count=pairs), replace(_label(panel), count=pairs, hand="pair")
    if code in ("pieces_too_few", "pieces_left_over") and panel.hand != "pair":
        count = int(finding.message.numbers["sewn"])
        return message("mend_count", count=count), replace(_label(panel), count=count)
    return None


def _label(panel: Panel) -> SetPanel:
    """The panel's label as it is."""
    return SetPanel(
        panel.id, panel.name, panel.cloth, panel.count, panel.hand, panel.grain_deg, render(panel.way_up), panel.on_fold,
        panel.mitre_limit,
    )  # fmt: skip


def _of_families(job: JobDocument, open_findings: Sequence[Finding]) -> Iterator[Mend]:
    ids = {f.id for f in open_findings}
    for cover in job.covers:
        try:
            findings: Sequence[Finding] = drafted_cover(cover.family, job.house).findings
        except Refusal:
            continue
        for finding in findings:
            if finding.instead and finding.id in ids:
                lengths = tuple(LengthInstead(name, mm) for name, mm in finding.instead)
                messages = tuple(
                    message("mend_measure_too" if k else "mend_measure", measure_term=name.split(".")[1], length_mm=mm)
                    for k, (name, mm) in enumerate(finding.instead)
                )
                yield Mend(finding.id, message("mend_measures", measures=messages), ChangeMeasures(cover.id, lengths))


_KINDS: tuple[Callable[[JobDocument, Sequence[Finding]], Iterator[Mend]], ...] = (_of_joins, _of_panels, _of_families)
