"""The outline file that `ypsicline outline` writes, and the list of sheets that it reads."""

from __future__ import annotations

import json
from collections.abc import Sequence

from ypsicline.core.capture.capture import Capture
from ypsicline.core.capture.sheets import MM_PER_PX, Sheet, sheets_by_id
from ypsicline.core.errors import Refused
from ypsicline.core.messages import message
from ypsicline.core.wording import in_words

__all__ = ["outline_json", "read_sheets_json", "sheets_json"]


def outline_json(capture: Capture) -> bytes:
    """Version 1: outline counter-clockwise, holes clockwise, mm, y up; `to_outline` takes a sheet's mm to the outline's."""
    document = {
        "version": 1,
        "unit": "mm",
        "outline": [[round(x, 4), round(y, 4)] for x, y in capture.outline],
        "holes": [[[round(x, 4), round(y, 4)] for x, y in h] for h in capture.holes],
        "error_mm": capture.error_mm,
        "mm_per_px": capture.mm_per_px,
        "sheets": [{"id": s.id, "to_outline": [list(row) for row in s.to_outline.rows]} for s in capture.sheets],
        "warnings": list(in_words(capture.warnings)),
        "doubtful": [
            {"line": [[round(x, 4), round(y, 4)] for x, y in s.line], "off_mm": s.off_mm} for s in capture.doubtful
        ],
    }
    return json.dumps(document, indent=1).encode()


def sheets_json(sheets: Sequence[Sheet]) -> bytes:
    """Which sheets there are, how large, and what frame their coordinates are in."""
    document = {
        "version": 1,
        "unit": "mm",
        "frame": "origin at the lower left corner of the paper, x right, y up, printed side towards the reader",
        "sheets": [
            {
                "id": s.id,
                "size_mm": [round(v, 4) for v in s.size_mm],
                "mm_per_px": MM_PER_PX,
                "png": f"sheet-{k:02d}.png",
            }
            for k, s in enumerate(sheets, start=1)
        ],
    }
    return json.dumps(document, indent=1).encode()


def read_sheets_json(data: bytes) -> tuple[Sheet, ...]:
    """The sheets that were printed; raises `Refused` for another file."""
    try:
        ids = [str(s["id"]) for s in json.loads(data)["sheets"]]
    except (ValueError, KeyError, TypeError, RecursionError) as e:
        raise Refused(message("sheets_file_unreadable"), "sheets") from e
    if not ids:
        raise Refused(message("sheets_file_empty"), "sheets")
    return sheets_by_id(ids)
