"""What is bought beside the cloth."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsicline.core.messages import Message

__all__ = ["Notion", "NotionKind"]

NotionKind = Literal[
    "binding", "button", "cord", "cord_lock", "edging", "elastic", "eyelet", "filling", "loop", "piping", "ribbon",
    "fastener_tape", "zip",
]  # fmt: skip


@dataclass(frozen=True)
class Notion:
    """Something of a `kind` to buy: `count` pieces of `length_mm` each and `size_mm` wide or thick, 0 where that doesn't
    apply, or so many `litres`; and how that was reckoned."""

    kind: NotionKind
    working: Message
    count: int = 1
    length_mm: float = 0.0
    size_mm: float = 0.0
    litres: float = 0.0
