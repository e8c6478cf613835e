"""The outline file that `ypsicline outline` writes, and the list of sheets that it reads."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.capture.capture import Capture, Ring
from ypsicline.core.capture.sheets import MM_PER_PX, Sheet, sheets_by_id
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import dump, load
from ypsicline.core.messages import message
from ypsicline.core.wording import render_all

__all__ = ["outline_json", "read_sheets_json", "sheets_json"]

_Rows = tuple[tuple[float, float, float], ...]


@dataclass(frozen=True)
class _PlacedSheet:
    id: str
    to_outline: _Rows


@dataclass(frozen=True)
class _Doubtful:
    line: Ring
    off_mm: float


@dataclass(frozen=True)
class _OutlineFile:
    """Version 1: outline counter-clockwise, holes clockwise, mm, y up; `to_outline` takes a sheet's mm to the outline's."""

    version: Literal[1]
    unit: Literal["mm"]
    outline: Ring
    holes: tuple[Ring, ...]
    error_mm: float
    mm_per_px: float
    sheets: tuple[_PlacedSheet, ...]
    warnings: tuple[str, ...]
    doubtful: tuple[_Doubtful, ...]


@dataclass(frozen=True)
class _ListedSheet:
    id: str
    size_mm: tuple[float, float] = (0.0, 0.0)
    mm_per_px: float = 0.0
    png: str = ""


@dataclass(frozen=True)
class _SheetsFile:
    """Version 1: which sheets there are, how large, and what frame their coordinates are in."""

    sheets: tuple[_ListedSheet, ...]
    version: Literal[1] = 1
    unit: Literal["mm"] = "mm"
    frame: str = "origin at the lower left corner of the paper, x right, y up, printed side towards the reader"


def outline_json(capture: Capture) -> bytes:
    """The file of a captured outline, to a tenth of a micrometre."""
    return dump(
        _OutlineFile(
            version=1,
            unit="mm",
            outline=_rounded(capture.outline),
            holes=tuple(_rounded(h) for h in capture.holes),
            error_mm=capture.error_mm,
            mm_per_px=capture.mm_per_px,
            sheets=tuple(_PlacedSheet(s.id, s.to_outline.rows) for s in capture.sheets),
            warnings=render_all(capture.warnings),
            doubtful=tuple(_Doubtful(_rounded(s.line), s.off_mm) for s in capture.doubtful),
        )
    )


def sheets_json(sheets: Sequence[Sheet]) -> bytes:
    """The file of the sheets that are printed."""
    listing = (
        _ListedSheet(s.id, (round(s.size_mm[0], 4), round(s.size_mm[1], 4)), MM_PER_PX, f"sheet-{k:02d}.png")
        for k, s in enumerate(sheets, start=1)
    )
    return dump(_SheetsFile(tuple(listing)))


def read_sheets_json(data: bytes) -> tuple[Sheet, ...]:
    """The sheets that were printed; raises `Refusal` for another file."""
    ids = [s.id for s in load(_SheetsFile, data, message("document_sheets_file")).sheets]
    if not ids:
        raise Refusal(message("sheets_file_empty"), "sheets")
    return sheets_by_id(ids)


def _rounded(ring: Ring) -> Ring:
    return tuple((round(x, 4), round(y, 4)) for x, y in ring)
