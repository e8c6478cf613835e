"""Marking-out drawings: a page a panel, drawn small, with every number that its maker needs at the bench."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Sequence
from functools import partial

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ypsicline.core.capture.sheets import PAPERS
from ypsicline.core.drafting.marking_out import ROUNDING_SAID_MM, MarkingOut, mark_out, rounded_mm
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.pdf_text import FONT, FONT_BOLD, register_fonts
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.lengths import Unit, show_length
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.panel import DraftedPanel, cutting_note
from ypsicline.core.wording import render

__all__ = ["marking_pdf"]

MARGIN_MM = 14.0
_LINE_MM = 4.6
_SIZE = 8.0
_DRAWING_SHARE = 0.5


def marking_pdf(panels: Sequence[DraftedPanel], unit: Unit, *, paper: str = "a4", title: str = "") -> bytes:
    """One page or more for each panel: the cutting line with its corners numbered, then running dimensions from corner
    1, check diagonals, radii and ordinates, each with its rounding error where that passes 1 mm. Raises `Refusal`
    for an unknown paper."""
    if paper not in PAPERS:
        raise Refusal(message("no_prints_on_paper", paper=paper), "paper")
    register_fonts()
    width, height = PAPERS[paper].size_mm
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width * mm, height * mm), pageCompression=1, invariant=1)
    canvas.setTitle(title or render(message("marking_out_title")))
    canvas.setCreator("Ypsicline")
    for panel in panels:
        numbers = mark_out(panel, unit)
        _head(canvas, panel, unit, height)
        top = height - MARGIN_MM - 14
        foot = height * (1 - _DRAWING_SHARE)
        _draw(canvas, panel, numbers, (MARGIN_MM, foot, width - 2 * MARGIN_MM, top - foot))
        _write(
            canvas,
            _lines(numbers, unit),
            (MARGIN_MM, foot - 8),
            width,
            partial(_next_page, canvas, panel, unit, height),
        )
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _head(canvas: Canvas, panel: DraftedPanel, unit: Unit, height: float) -> None:
    """Whose numbers a page has, and their unit, once for all of them."""
    canvas.setFont(FONT_BOLD, 14)
    canvas.drawString(MARGIN_MM * mm, (height - MARGIN_MM - 4) * mm, panel.name)
    canvas.setFont(FONT, _SIZE)
    note = render(message("marking_out_head", note=cutting_note(panel), unit=unit), unit)
    canvas.drawString(MARGIN_MM * mm, (height - MARGIN_MM - 9) * mm, note)


def _next_page(canvas: Canvas, panel: DraftedPanel, unit: Unit, height: float) -> float:
    """A further page of the same panel; where its lines begin, mm."""
    canvas.showPage()
    _head(canvas, panel, unit, height)
    return height - MARGIN_MM - 18


def _draw(canvas: Canvas, panel: DraftedPanel, numbers: MarkingOut, box: tuple[float, float, float, float]) -> None:
    points = flatten_ring(panel.cutting_line, 0.5)
    centres = [*(s.centre for s in numbers.swings), *(h.centre for h in numbers.round_holes)]
    low, high = points.min(axis=0), points.max(axis=0)
    span = float(max((high - low)[0] / (box[2] - 16), (high - low)[1] / (box[3] - 16)))
    offset = (box[0] + (box[2] - (high - low)[0] / span) / 2, box[1] + (box[3] - (high - low)[1] / span) / 2)

    def at(p: Sequence[float]) -> tuple[float, float]:
        return (offset[0] + (p[0] - low[0]) / span) * mm, (offset[1] + (p[1] - low[1]) / span) * mm

    canvas.setLineWidth(0.4 * mm)
    for ring in (points, *(flatten_ring(h, 0.5) for h in panel.hole_cutting_lines)):
        path = canvas.beginPath()
        path.moveTo(*at(ring[0]))
        for p in ring[1:]:
            path.lineTo(*at(p))
        path.close()
        canvas.drawPath(path)
    canvas.setLineWidth(0.15 * mm)
    canvas.setDash(2, 2)
    by_number = {m.number: m.at for m in numbers.points}
    for d in numbers.diagonals:
        canvas.line(*at(by_number[d.first]), *at(by_number[d.second]))
    canvas.setDash()
    x0, y0 = at(numbers.points[0].at)
    canvas.line(x0, y0, x0 + 14 * mm, y0)
    canvas.line(x0, y0, x0, y0 + 14 * mm)
    canvas.setFont(FONT_BOLD, _SIZE)
    middle = points.mean(axis=0)
    for m in numbers.points:
        x, y = at(m.at)
        canvas.circle(x, y, 0.7 * mm, fill=1)
        away = (m.at[0] - float(middle[0]), m.at[1] - float(middle[1]))
        far = math.hypot(*away) or 1.0
        canvas.drawCentredString(x + 4 * mm * away[0] / far, y + 4 * mm * away[1] / far - 1 * mm, str(m.number))
    canvas.setFont(FONT, 6)
    for c in centres:
        if low[0] <= c[0] <= high[0] and low[1] <= c[1] <= high[1]:
            x, y = at(c)
            canvas.line(x - 1.5 * mm, y, x + 1.5 * mm, y)
            canvas.line(x, y - 1.5 * mm, x, y + 1.5 * mm)
    canvas.drawString((box[0]) * mm, (box[1] - 3) * mm, render(message("marking_out_scale", scale=span)))


def _lines(numbers: MarkingOut, unit: Unit) -> list[tuple[str, bool]]:
    """The numbers as lines of text, headings marked."""

    def shown(value: float) -> str:
        off = rounded_mm(value, unit) - value
        if abs(off) <= ROUNDING_SAID_MM:
            return show_length(value, unit)
        sign = "+" if off > 0 else "−"
        return f"{show_length(value, unit)} ({sign}{show_length(abs(off), unit, denominator=64)})"

    def line(text: Message) -> tuple[str, bool]:
        return render(text), False

    def heading(text: Message) -> tuple[str, bool]:
        return render(text), True

    lines = [heading(message("marking_out_corners"))]
    for p in numbers.points:
        lines.append(line(message("marking_out_corner", corner=p.number, across=shown(p.across), up=shown(p.up))))
    if numbers.diagonals:
        lines.append(heading(message("marking_out_diagonals")))
    for d in numbers.diagonals:
        lines.append(line(message("marking_out_diagonal", first=d.first, second=d.second, length=shown(d.length))))
    if numbers.swings:
        lines.append(heading(message("marking_out_swings")))
    for s in numbers.swings:
        circle = {"radius": shown(s.radius), "across": shown(s.across), "up": shown(s.up)}
        lines.append(line(message("marking_out_swing", first=s.first, second=s.second, **circle)))
    if numbers.round_holes:
        lines.append(heading(message("marking_out_holes")))
    for h in numbers.round_holes:
        circle = {"radius": shown(h.radius), "across": shown(h.across), "up": shown(h.up)}
        lines.append(line(message("marking_out_hole", **circle)))
    for c in numbers.curves:
        ends: dict[str, Value] = {
            "first": c.first,
            "second": c.second,
            "pitch": shown(c.pitch),
            "chord": shown(c.chord),
        }
        lines.append(heading(message("marking_out_curve", **ends)))
        row = [f"{shown(s)}: {shown(o)}" for s, o in c.ordinates]
        lines += [("   ".join(row[k : k + 3]), False) for k in range(0, len(row), 3)]
    return lines


def _write(
    canvas: Canvas,
    lines: Sequence[tuple[str, bool]],
    start: tuple[float, float],
    width: float,
    next_page: Callable[[], float],
) -> None:
    """The lines in two columns, and on further pages, each begun by `next_page`, where they don't fit."""
    column = (width - 2 * MARGIN_MM) / 2
    (x, y), top = start, start[1]
    for text, heading in lines:
        if y < MARGIN_MM:
            y = top
            x += column
            if x > width - MARGIN_MM - column / 2:
                x, y = MARGIN_MM, next_page()
                top = y
        canvas.setFont(FONT_BOLD if heading else FONT, _SIZE)
        canvas.drawString(x * mm, y * mm, text)
        y -= _LINE_MM
