"""What earlier versions wrote, put into today's form before it is read: plain JSON in, plain JSON out."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["job_of_today", "panel_with_ids", "panels_with_ids", "piece_of_today"]

# features by lists, each with the place of its edge in the outline: the list, the kind, and what was called otherwise
_LISTS: dict[str, tuple[str, dict[str, str]]] = {
    "tapers": ("taper", {}),
    "darts": ("dart", {}),
    "pleats": ("pleats", {}),
    "gathers": ("gather", {}),
    "layers": ("layer", {}),
    "apertures": ("aperture", {"kind": "shape"}),
    "placed": ("mark", {"kind": "mark", "words": "text"}),
    "notches": ("notch", {"along_mm": "along"}),
}


def panel_with_ids(panel: Any) -> Any:
    """A panel whose features stood in lists, on edges told by their place: with ids, and features in one list. One that
    has neither is as it was. Raises `Refusal` where a list is none."""
    if not isinstance(panel, dict) or not _LISTS.keys() & panel.keys():
        return panel
    panel_after = {k: v for k, v in panel.items() if k not in _LISTS}
    seam_line = panel_after.get("seam_line")
    if isinstance(seam_line, list):
        panel_after["seam_line"] = [
            e | {"id": e.get("id") or _id(k)} if isinstance(e, dict) else e for k, e in enumerate(seam_line)
        ]
    features = panel_after.get("features", [])
    panel_after["features"] = [*(features if isinstance(features, list) else [features]), *_from_lists(panel)]
    # a list of notches is all that there are; none asks for those in the middle of the edges
    if panel.get("notches") is not None:
        panel_after["middle_notches"] = False
    return panel_after


def _from_lists(panel: dict[str, Any]) -> Iterator[Any]:
    for name, (kind, called) in _LISTS.items():
        listing = panel.get(name)
        if listing is None:
            continue
        if not isinstance(listing, list):
            raise Refusal(message("stored_is_no_list", name=name), "document")
        for one in listing:
            if not isinstance(one, dict):
                raise Refusal(message("stored_item_unreadable", name=name), "document")
            own = {called.get(k, k): v for k, v in one.items()} | {"kind": kind}
            if isinstance(edge := own.get("edge"), int):
                own["edge"] = _id(edge)
            yield own


def _id(place: int) -> str:
    """The id of an edge by its place in the outline, as edges without one are numbered."""
    return f"edge{place + 1}"


def panels_with_ids(file: Any) -> Any:
    """A panels file, also one as drafting hands it out."""
    if not isinstance(file, dict):
        return file
    lists = {k: file[k] for k in ("panels", "drafted_from") if isinstance(file.get(k), list)}
    return file | {k: [panel_with_ids(p) for p in panels] for k, panels in lists.items()}


def piece_of_today(piece: Any) -> Any:
    """A captured piece whose parts were called otherwise up to version 2."""
    if not isinstance(piece, dict):
        return piece
    piece = _renamed(piece, {"captured": "trace"})
    if "photo" in piece:
        piece["photo"] = _renamed(piece["photo"], {"found": "outline"})
    if isinstance(steps := piece.get("steps"), list):
        piece["steps"] = [_step_of_today(_renamed(step, {"said": "words", "skipped": "skip_reason"})) for step in steps]
    return piece


def _step_of_today(step: Any) -> Any:
    if not isinstance(step, dict):
        return step
    return step | {"step": _renamed(step.get("step"), {"wanted": "choice", "moved": "moves"})}


def _renamed(value: Any, names: dict[str, str]) -> Any:
    return {names.get(k, k): v for k, v in value.items()} if isinstance(value, dict) else value


def job_of_today(job: Any) -> Any:
    """A job's document: also one with a single outline instead of pieces."""
    if not isinstance(job, dict):
        return job
    if isinstance(job.get("shape"), dict) and "pieces" not in job:
        job = dict(job)
        shape, tape = job.pop("shape"), job.pop("tape", [])
        job["open"] = 0
        job["pieces"] = [{"name": "piece", "trace": shape, "shape": shape, "tape": tape}]
    job = panels_with_ids(job)
    pieces, at = job.get("pieces"), job.get("open", 0)
    if isinstance(pieces, list) and isinstance(at, int):
        panels = [
            piece_of_today(p) | {"id": p.get("id") or f"piece{k + 1}"} if isinstance(p, dict) else p
            for k, p in enumerate(pieces)
        ]
        job = job | {"pieces": panels, "open": f"piece{at + 1}" if 0 <= at < len(pieces) else ""}
    return job
