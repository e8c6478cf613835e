"""What checks find."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ypsicline.core.errors import Place

__all__ = ["Finding", "Severity", "numbers"]

Severity = Literal["stop", "look", "fine"]


@dataclass(frozen=True)
class Finding:
    """What a check found: the worst is `stop`. Lengths in mm among the numbers."""

    severity: Severity
    sentence: str
    place: Place = Place()
    numbers: dict[str, float] | None = None


def numbers(**values: Any) -> dict[str, float]:
    return {k: round(float(v), 4) for k, v in values.items()}
