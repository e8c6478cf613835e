"""A job checked: all that its rules find, worst first, and what of it the maker lives with."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import cache

from ypsicline.core.findings import Finding
from ypsicline.core.job import Accepted, JobDocument
from ypsicline.core.modules import modules_of
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["CheckedFinding", "Rule", "accepted_as", "checked", "figures_of", "rules"]

Rule = Callable[[JobDocument, Sequence[DraftedPanel]], Iterable[Finding]]
_WORST = {"stop": 0, "look": 1, "fine": 2}


@dataclass(frozen=True)
class CheckedFinding:
    """A finding, and for which `reason` the maker lives with it; none while it is open."""

    finding: Finding
    reason: str = ""

    @property
    def is_open(self) -> bool:
        """Whether it stands in the way of cutting."""
        return self.finding.severity != "fine" and not self.reason


@cache
def rules() -> tuple[Rule, ...]:
    """Every rule: one a module of the package `rules`."""
    return tuple(m.check for m in modules_of("ypsicline.core.checks.rules"))


def checked(job: JobDocument, drafts: Sequence[DraftedPanel]) -> tuple[CheckedFinding, ...]:
    """All that is found, the worst first; what was accepted counts as open again once its figures change."""
    reasons = {(a.finding, a.figures): a.reason for a in job.accepted}
    findings = [f for rule in rules() for f in rule(job, drafts)]
    results = [CheckedFinding(f, reasons.get((f.id, figures_of(f)), "")) for f in dict.fromkeys(findings)]
    return tuple(sorted(results, key=lambda c: (bool(c.reason), _WORST[c.finding.severity])))


def figures_of(finding: Finding) -> tuple[tuple[str, float], ...]:
    """The figures of a finding, as they are accepted."""
    return tuple(sorted(finding.message.numbers.items()))


def accepted_as(finding: Finding, reason: str) -> Accepted:
    """A finding as it is accepted for a reason. Raises `Refusal` for a reason that is none."""
    return Accepted(finding.id, reason, figures_of(finding))
