"""What is drawn on a panel."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.geometry.edges import Point
from ypsicline.core.messages import Message, message

__all__ = ["MARK_NAMES", "DraftedNotch", "Mark", "letters_mm"]


_LEAST_MM, _MOST_MM = 1.5, 12.0
_DASHED = frozenset({"fold", "stitch", "dart", "pleat", "hand_sewn", "centre", "trim"})


MARK_NAMES = {
    "button": message("mark_button"), "tie": message("mark_tie"), "exit": message("mark_exit"), "bar": message("mark_bar"),
    "lock": message("mark_lock"), "patch": message("mark_patch"), "hand_sewn": message("mark_hand_sewn"),
    "centre": message("mark_centre"), "cross": message("mark_cross"), "wrong_side": message("mark_wrong_side"),
    "top": message("mark_top"), "note": message("mark_note"),
}  # fmt: skip


@dataclass(frozen=True)
class Mark:
    """A mark drawn on the panel: a run of points, or one, with words and their letters' height, mm. A label's letters are
    that high at most, and no higher than its longest line has room for, see `letters_mm`.

    `grain` and `centre` lines and the folds' lines are runs; `relief` cuts and `trim` lines are to
    be cut, `slit` only once the cover is fitted.
    """

    kind: Literal[
        "grain", "label", "fold", "stitch", "dart", "dart_point", "pleat", "gather", "relief", "trim", "slit", "on_fold", "corner_dot",
        "button", "tie", "exit", "bar", "lock", "patch", "hand_sewn", "centre", "cross", "wrong_side", "top", "note",
    ]  # fmt: skip
    points: tuple[Point, ...]
    lines: tuple[str | Message, ...] = ()
    size_mm: float = 0.0
    room_mm: float = 0.0

    @property
    def is_dashed(self) -> bool:
        """Whether its line is folded, sewn or looked along, not cut: it is drawn dashed."""
        return self.kind in _DASHED


def letters_mm(mark: Mark, lines: Sequence[str]) -> float:
    """How high the letters of a mark are when it says `lines`, mm."""
    if not mark.room_mm:
        return mark.size_mm
    return min(max(min(mark.size_mm, mark.room_mm / max(map(len, lines), default=1)), _LEAST_MM), _MOST_MM)


@dataclass(frozen=True)
class DraftedNotch:
    """A notch `along_mm` from the start of edge number `edge` of the drafted seam line; single or double.

    It stands at `on_seam` on the seam line and `on_cut` on the cutting line, from which it is snipped `depth_mm`
    inward: half the allowance, 6 mm at most. `of` is the id of the notch that was set, or of the edge's own notch in its
    middle.
    """

    edge: int
    along_mm: float
    double: bool
    on_seam: Point
    on_cut: Point
    depth_mm: float
    of: str = ""
