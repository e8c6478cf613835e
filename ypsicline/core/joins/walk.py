"""Walking a join: both sides measured along the seam line and held against one another (rule 10)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.findings import Finding
from ypsicline.core.joins.lengths import sewn_edges
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.join import SEAM_FINISHES, Along, Join
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["JoinSide", "Verdict", "Walk", "edge_walked", "join_name", "seam_findings", "walk", "walk_findings", "walks"]

EQUAL_MM, EQUAL_SHARE, EASED_SHARE = 0.5, 0.001, 0.04
# how far a gather may be from the fullness that was asked for, as a share of it
FULLNESS_SHARE = 0.03
_SAME_ALLOWANCE_MM = 0.05
Verdict = Literal["equal", "eased", "gathered", "mismatch"]


@dataclass(frozen=True)
class JoinSide:
    """One side of a join as it is sewn: its whole `length` along the seam line, and of each edge where it begins, mm."""

    run: tuple[Along, ...]
    starts: tuple[float, ...]
    length: float


@dataclass(frozen=True)
class Walk:
    """A join walked: both sides with the names of their panels, and what becomes of the difference. The `ratio` is the second side over the first."""

    join: Join
    first: JoinSide
    second: JoinSide
    verdict: Verdict
    name: Message
    sides: tuple[str, str]

    @property
    def difference_mm(self) -> float:
        """By how much the second side is longer; below zero where it is shorter."""
        return self.second.length - self.first.length

    @property
    def ratio(self) -> float:
        return self.second.length / self.first.length

    @property
    def words(self) -> Message:
        """What was walked and what it says."""
        over = max(self.ratio, 1 / self.ratio)
        if self.verdict == "mismatch" and self.join.meant == "gathered":
            return message("join_fullness_off", join=self.name, ratio=over, asked=self.join.fullness)
        return message(
            "join_equal" if self.verdict == "equal" else "join_eased" if self.verdict == "eased"
            else "join_gathered" if self.verdict == "gathered" else "join_mismatch",
            join=self.name, first_mm=self.first.length, second_mm=self.second.length,
            over_mm=abs(self.difference_mm), percent=100 * (over - 1), ratio=over,
        )  # fmt: skip

    @property
    def on_top(self) -> Message | None:
        """Which side lies on top as it is sewn, and why; None where it doesn't matter."""
        first, second = self.sides
        longer, shorter = (first, second) if self.first.length >= self.second.length else (second, first)
        if self.join.seam == "lapped":
            return message("on_top_lapped", over=first, under=second)
        if self.verdict == "gathered":
            return message("on_top_gathered", longer=longer, shorter=shorter)
        return message("on_top_eased", longer=longer, shorter=shorter) if self.verdict == "eased" else None


def walk(join: Join, panels: Mapping[str, Panel]) -> Walk:
    """Walk a join of `panels`, told by their ids. Raises `Refusal` where a panel or an edge of it isn't there."""
    first, second = _side(join.first, panels), _side(join.second, panels)
    return Walk(
        join, first, second, _verdict(join, first.length, second.length), join_name(join, panels), _sides(join, panels)
    )


def walks(joins: Sequence[Join], panels: Sequence[Panel]) -> tuple[Walk, ...]:
    """All of them walked; raises as `walk` does."""
    by_id = {p.id: p for p in panels}
    return tuple(walk(j, by_id) for j in joins)


def _side(run: tuple[Along, ...], panels: Mapping[str, Panel]) -> JoinSide:
    starts, at = [], 0.0
    for along in run:
        edge_walked(along, panels)
        starts.append(at)
        at += sewn_edges(panels[along.panel])[along.edge].sewn
    return JoinSide(run, tuple(starts), at)


def edge_walked(along: Along, panels: Mapping[str, Panel]) -> SeamEdge:
    """The edge of a run. Raises `Refusal` where its panel or the edge isn't there."""
    panel = panels.get(along.panel)
    if panel is None:
        raise Refusal(message("join_panel_gone", panel=along.panel), "join")
    edge = next((e for e in panel.seam_line if e.id == along.edge), None)
    if edge is None:
        raise Refusal(message("join_edge_gone", panel=panel.name), "join", Place(panel=panel.name))
    return edge


def _verdict(join: Join, first: float, second: float) -> Verdict:
    longer, shorter = max(first, second), min(first, second)
    if join.meant == "gathered":
        fullness = join.fullness
        return "gathered" if abs(longer / max(shorter, 1e-9) - fullness) <= FULLNESS_SHARE * fullness else "mismatch"
    over = longer - shorter
    if over <= max(EQUAL_MM, EQUAL_SHARE * longer):
        return "equal"
    return "eased" if join.meant == "eased" and over <= EASED_SHARE * shorter else "mismatch"


def join_name(join: Join, panels: Mapping[str, Panel]) -> Message:
    """What a join is called: by its letter and the panels that it joins."""
    first, second = _sides(join, panels)
    names: dict[str, Value] = {"first": first, "second": second}
    return message("join_lettered", letter=join.letter, **names) if join.letter else message("join_of", **names)


def _sides(join: Join, panels: Mapping[str, Panel]) -> tuple[str, str]:
    """The names of the panels on either side."""
    first, second = (", ".join(dict.fromkeys(panels[a.panel].name for a in run)) for run in (join.first, join.second))
    return first, second


def walk_findings(one_walk: Walk) -> list[Finding]:
    """A stop where the sides don't match, something to look at where one is eased in."""
    if one_walk.verdict == "mismatch":
        return [Finding("stop", one_walk.words, join=one_walk.join.id)]
    return [Finding("look", one_walk.words, join=one_walk.join.id)] if one_walk.verdict == "eased" else []


def seam_findings(join: Join, panels: Mapping[str, Panel]) -> list[Finding]:
    """What the seam type asks of the edges and doesn't get: another finish, or allowances that differ."""
    if join.seam == "any":
        return []
    findings, widths = [], []
    for run, finish in zip((join.first, join.second), SEAM_FINISHES[join.seam], strict=True):
        for along in run:
            edge = edge_walked(along, panels)
            widths.append(edge.allowance)
            if edge.finish != finish:
                text = message(
                    "join_finish_differs", edge=edge.name, finish=edge.finish.replace("_", " "),
                    wanted=finish.replace("_", " "), join=join_name(join, panels),
                )  # fmt: skip
                findings.append(Finding("look", text, Place(panels[along.panel].name, edge.name), join=join.id))
    alike = len(set(SEAM_FINISHES[join.seam])) == 1
    if alike and max(widths) - min(widths) > _SAME_ALLOWANCE_MM and not findings:
        text = message(
            "join_allowances_differ", join=join_name(join, panels), least_mm=min(widths), most_mm=max(widths)
        )
        findings.append(Finding("look", text, join=join.id))
    return findings
