"""A filled pad in words and paths."""

from __future__ import annotations

from dataclasses import dataclass

from ypsicline.core.drafting.inflated import bag_volume
from ypsicline.core.drafting.pad import FilledPad
from ypsicline.core.formats.message_json import from_json
from ypsicline.core.lengths import Unit, show_length
from ypsicline.core.wording import render
from ypsicline.server.jobs.fillings import pad_of
from ypsicline.server.jobs.models import PadFilling
from ypsicline.server.views.drawn import box_of, polyline

__all__ = ["FillingView", "filling_view"]


@dataclass(frozen=True)
class PadCorner:
    at: tuple[float, float]
    stands_out: str


@dataclass(frozen=True)
class PadView:
    """A pad filled: its plan, where its seam lay flat, both as paths; how far it draws in and its corners stand out."""

    plan: str
    flat: str
    box: tuple[float, float, float, float]
    corners: list[PadCorner]
    worst_percent: float
    enough: bool
    thickness: str
    litres: float
    formula_litres: float
    drawn_in: str


@dataclass(frozen=True)
class FillingView:
    """How far the filling of a pad is, and the pad: none yet, then as it looks roughly, at the end finely; and whether the least
    tapers for it are sought in that, which are put on at the end."""

    status: str
    stage: str
    share: float
    sentence: str
    pad: PadView | None
    seeks_tapers: bool


def filling_view(row: PadFilling, unit: Unit) -> FillingView:
    pad = pad_of(row)
    return FillingView(
        row.status, render(from_json(row.stage), unit), row.share, render(from_json(row.sentence), unit),
        None if pad is None else _pad_view(pad, unit), row.sought is not None,
    )  # fmt: skip


def _pad_view(pad: FilledPad, unit: Unit) -> PadView:
    flat, plan = box_of(pad.shape.flat), box_of(pad.shape.plan)
    return PadView(
        plan=polyline(pad.shape.plan), flat=polyline(pad.shape.flat), box=flat,
        corners=[
            PadCorner(c.at, show_length(c.stands_out_mm, unit, with_unit=True)) for c in pad.corners
        ],
        worst_percent=round(100 * pad.worst, 1), enough=pad.is_enough,
        thickness=show_length(pad.shape.thickness_mm, unit, with_unit=True), litres=round(pad.shape.volume_mm3 / 1e6, 2),
        formula_litres=round(bag_volume(flat[2], flat[3]) / 1e6, 2),
        drawn_in=f"{show_length(flat[2] - plan[2], unit)} × {show_length(flat[3] - plan[3], unit, with_unit=True)}",
    )  # fmt: skip
