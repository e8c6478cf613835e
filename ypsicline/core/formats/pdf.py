"""True-size prints on ordinary paper: pages with an overlap, a trim line, a map, and test marks on every one.

Each panel is drawn once, as a form, and placed on each of its pages through a window.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ypsicline.core.capture.sheets import PAPERS
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.drawing import LINE_MM, Drawing, Layer, draw_panel
from ypsicline.core.formats.page_words import PageWords, words_on
from ypsicline.core.formats.pages import OVERLAP_MM, Page, page_plan, sheets_of, turns_for_paper
from ypsicline.core.formats.pdf_text import FONT, FONT_BOLD, register_fonts
from ypsicline.core.formats.scale_marks import draw_test_marks
from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of, flatten
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel, cutting_note
from ypsicline.core.wording import render

__all__ = ["MARGIN_MM", "Sheet", "draw", "panels_pdf", "sheet_for"]

MARGIN_MM = 14.0
FAR_MARGIN_MM = 8.0
LONGEST_HEADING = 60
# the two lines that mustn't be taken for one another, as a legend on every page says
_LINES: tuple[tuple[Layer, Message], ...] = (
    ("cutting_line", message("print_cut_here")),
    ("seam_line", message("print_sew_here")),
)


@dataclass(frozen=True)
class Sheet:
    """A page of a printer that draws `scale` times too small per axis, mm."""

    width: float
    height: float
    scale: tuple[float, float]

    @property
    def window(self) -> tuple[float, float]:
        """Width and height of a page's window in the drawing's mm."""
        return (
            (self.width / self.scale[0]) - MARGIN_MM - FAR_MARGIN_MM,
            (self.height / self.scale[1]) - MARGIN_MM - FAR_MARGIN_MM,
        )


def sheet_for(paper: str, print_scale: tuple[float, float]) -> Sheet:
    """A page of this paper, drawn larger by `print_scale`. Raises `Refusal` for an unknown paper or an unlikely scale."""
    if paper not in PAPERS:
        raise Refusal(message("no_prints_on_paper", paper=paper), "paper")
    if not all(0.8 <= s <= 1.25 for s in print_scale):
        raise Refusal(message("print_scale_to_check"), "print_scale")
    return Sheet(*PAPERS[paper].size_mm, print_scale)


def panels_pdf(
    panels: Sequence[DraftedPanel],
    *,
    paper: str = "a4",
    print_scale: tuple[float, float] = (1.0, 1.0),
    title: str = "",
    unit: Unit = "mm",
) -> bytes:
    """Pages of all panels, true to size: first the map and the cut list, then only pages that show something.

    `print_scale` enlarges the whole page per axis to undo what the printer does (wanted ÷
    measured); the test marks are enlarged with it. Figures of allowances and the like are in `unit`. Raises `Refusal` for an unknown paper or over 600 pages.
    """
    sheet = sheet_for(paper, print_scale)
    register_fonts()
    as_drafted = [draw_panel(p, unit) for p in panels]
    turns = turns_for_paper(as_drafted, sheet.window)
    drawings = [d.carried(t) for d, t in zip(as_drafted, turns, strict=True)]
    plan = page_plan(drawings, sheet.window)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(sheet.width * mm, sheet.height * mm), pageCompression=1, invariant=1)
    canvas.setTitle(title or "Ypsicline pattern")
    canvas.setCreator("Ypsicline")
    for k, drawing in enumerate(drawings):
        low, high = drawing.bounds()
        box = ((low[0] - 20) * mm, (low[1] - 20) * mm, (high[0] + 20) * mm, (high[1] + 20) * mm)
        canvas.beginForm(f"panel{k}", *box)
        draw(canvas, drawing)
        canvas.endForm()
    maps = _map_pages(canvas, panels, turns, plan, sheet, title, unit)
    sheets = sheets_of(plan)
    for number, pages in enumerate(sheets, start=maps + 1):
        # a panel that lies whole on its page has its own words there
        first = pages[0]
        words = None
        if len(pages) == 1:
            k = first.panel
            words = words_on(panels[k], turns[k], drawings[k], first.low, sheet.window, unit)
        name = ", ".join(panels[p.panel].name for p in pages)
        page_of = render(message("print_page_of", page=number, pages=maps + len(sheets)))
        _tile(
            canvas,
            pages,
            plan,
            sheet,
            name if len(name) <= LONGEST_HEADING else name[:LONGEST_HEADING] + " …",
            page_of,
            words,
        )
    canvas.save()
    return out.getvalue()


def draw(canvas: Canvas, drawing: Drawing) -> None:
    """Draw a drawing on a page, from the page's origin, mm."""
    canvas.setLineJoin(1)
    canvas.setLineCap(1)
    for ring in drawing.rings:
        path = canvas.beginPath()
        path.moveTo(*_pt(ring.edges[0].start))
        for edge in ring.edges:
            _append(path, edge)
        path.close()
        canvas.setLineWidth(LINE_MM[ring.layer] * mm)
        canvas.drawPath(path, stroke=1, fill=0)
    for stroke in drawing.strokes:
        path = canvas.beginPath()
        path.moveTo(*_pt(stroke.points[0]))
        for p in stroke.points[1:]:
            path.lineTo(*_pt(p))
        canvas.setLineWidth(LINE_MM[stroke.layer] * mm)
        canvas.drawPath(path, stroke=1, fill=0)
    for text in drawing.texts:
        canvas.saveState()
        canvas.translate(*_pt(text.at))
        canvas.rotate(text.turn_deg)
        canvas.setFont(FONT, text.size_mm * mm)
        canvas.drawCentredString(0, -0.36 * text.size_mm * mm, text.text)
        canvas.restoreState()


def _append(path: object, edge: Edge) -> None:
    if edge.kind == "curve":
        for k in range(1, len(edge.points), 3):
            path.curveTo(*(c for p in edge.points[k : k + 3] for c in _pt(p)))  # type: ignore[attr-defined]
    elif edge.kind == "arc" and circle_of(edge):
        for x, y in flatten(edge)[1:]:
            path.lineTo(*_pt((float(x), float(y))))  # type: ignore[attr-defined]
    else:
        path.lineTo(*_pt(edge.end))  # type: ignore[attr-defined]


def _tile(
    canvas: Canvas, pages: Sequence[Page], plan: Sequence[Page], sheet: Sheet, name: str, number: str,
    words: PageWords | None,
) -> None:  # fmt: skip
    width, height = sheet.window
    canvas.saveState()
    canvas.scale(*sheet.scale)
    canvas.saveState()
    window = canvas.beginPath()
    window.rect(MARGIN_MM * mm, MARGIN_MM * mm, width * mm, height * mm)
    canvas.clipPath(window, stroke=0, fill=0)
    for page in pages:
        canvas.saveState()
        canvas.translate((MARGIN_MM - page.low[0]) * mm, (MARGIN_MM - page.low[1]) * mm)
        canvas.doForm(f"panel{page.panel}")
        if words:
            _draw_words(canvas, words)
        canvas.restoreState()
    canvas.restoreState()
    canvas.setLineWidth(0.15 * mm)
    canvas.rect(MARGIN_MM * mm, MARGIN_MM * mm, width * mm, height * mm, stroke=1, fill=0)
    if len(pages) == 1:
        _trim_lines(canvas, pages[0], plan, width, height)
    draw_test_marks(
        canvas,
        horizontal=(MARGIN_MM + width / 2, 10.0, 5.5),
        vertical=(10.0, 5.5, MARGIN_MM + height / 2),
    )
    canvas.setFont(FONT_BOLD, 11)
    canvas.drawString((MARGIN_MM + 2) * mm, (MARGIN_MM + height + 1.5) * mm, pages[0].label)
    canvas.setFont(FONT, 7)
    heading = render(message("print_heading", title=name, page=number))
    canvas.drawString((MARGIN_MM + 14) * mm, (MARGIN_MM + height + 1.5) * mm, heading)
    canvas.drawString((MARGIN_MM + 14) * mm, (MARGIN_MM + height + 4.6) * mm, render(message("print_at_100")))
    _legend(canvas, MARGIN_MM + width, MARGIN_MM + height + 2.4)
    canvas.restoreState()
    canvas.showPage()


def _legend(canvas: Canvas, right: float, y: float) -> None:
    """What the two kinds of line mean, ending at `right`; mm."""
    x = right - 62
    for layer, words in _LINES:
        canvas.setLineWidth(LINE_MM[layer] * mm)
        canvas.line(x * mm, (y + 0.9) * mm, (x + 9) * mm, (y + 0.9) * mm)
        canvas.drawString((x + 10.5) * mm, y * mm, render(words))
        x += 31


def _draw_words(canvas: Canvas, words: PageWords) -> None:
    canvas.saveState()
    canvas.setFillGray(0.25)
    x, y = words.at
    for k, line in enumerate(words.lines):
        canvas.setFont(FONT_BOLD if k == 0 else FONT, words.size_mm * mm)
        canvas.drawCentredString(x * mm, (y - 1.5 * k * words.size_mm) * mm, line)
    canvas.setLineWidth(LINE_MM["grain"] * mm)
    for run in words.grain:
        path = canvas.beginPath()
        path.moveTo(*_pt(run[0]))
        for p in run[1:]:
            path.lineTo(*_pt(p))
        canvas.drawPath(path, stroke=1, fill=0)
    canvas.restoreState()


def _trim_lines(canvas: Canvas, page: Page, plan: Sequence[Page], width: float, height: float) -> None:
    """Where a neighbour is glued on, to the right and above: trim the neighbour's frame and lay it on this line."""
    mine = {(p.row, p.column): p for p in plan if p.panel == page.panel}
    canvas.saveState()
    canvas.setDash(2 * mm, 1.5 * mm)
    canvas.setFont(FONT, 6)
    right, above = mine.get((page.row, page.column + 1)), mine.get((page.row - 1, page.column))
    if right:
        x = MARGIN_MM + width - OVERLAP_MM
        canvas.line(x * mm, MARGIN_MM * mm, x * mm, (MARGIN_MM + height) * mm)
        canvas.drawString((x + 1) * mm, (MARGIN_MM + 2) * mm, render(message("print_page_here", page=right.label)))
    if above:
        y = MARGIN_MM + height - OVERLAP_MM
        canvas.line(MARGIN_MM * mm, y * mm, (MARGIN_MM + width) * mm, y * mm)
        canvas.drawString((MARGIN_MM + 2) * mm, (y + 1) * mm, render(message("print_page_here", page=above.label)))
    canvas.restoreState()


def _map_pages(
    canvas: Canvas,
    panels: Sequence[DraftedPanel],
    turns: Sequence[Transform],
    plan: Sequence[Page],
    sheet: Sheet,
    title: str,
    unit: Unit,
) -> int:
    """Draw the map and the cut list, and tell how many pages they took."""
    count = 1
    width, height = sheet.window
    canvas.saveState()
    canvas.scale(*sheet.scale)
    draw_test_marks(
        canvas,
        horizontal=(MARGIN_MM + width / 2, 10.0, 5.5),
        vertical=(10.0, 5.5, MARGIN_MM + height / 2),
    )
    y = MARGIN_MM + height - 6
    canvas.setFont(FONT_BOLD, 15)
    canvas.drawString((MARGIN_MM + 4) * mm, y * mm, (title or render(message("print_pattern")))[:60])
    canvas.setFont(FONT, 8.5)
    for line in (message("print_pages", count=len(sheets_of(plan))), message("print_rows"), message("print_lay_on")):
        y -= 5
        canvas.drawString((MARGIN_MM + 4) * mm, y * mm, render(line))
    y -= 9
    room = max(16.0, min(70.0, (y - 40) / max(1, min(len(panels), 6)) - 12))
    for k, panel in enumerate(panels):
        if y < MARGIN_MM + room + 14:
            canvas.restoreState()
            canvas.showPage()
            count += 1
            canvas.saveState()
            canvas.scale(*sheet.scale)
            y = MARGIN_MM + height - 10
        canvas.setFont(FONT_BOLD, 10)
        canvas.drawString((MARGIN_MM + 4) * mm, y * mm, panel.name[:50])
        canvas.setFont(FONT, 8.5)
        canvas.drawString((MARGIN_MM + 4) * mm, (y - 4.5) * mm, render(cutting_note(panel), unit)[:90])
        _small_map(
            canvas,
            turns[k].points(np.asarray(panel.cutting_points)),
            [p for p in plan if p.panel == k],
            sheet.window,
            (MARGIN_MM + 4, y - 8 - room),
            room,
        )
        y -= room + 16
    canvas.restoreState()
    canvas.showPage()
    return count


def _small_map(
    canvas: Canvas, points: Array, pages: Sequence[Page], window: tuple[float, float], at: Point, room: float,
) -> None:  # fmt: skip
    """A panel's outline small, with its pages over it."""
    low = np.min([p.low for p in pages], axis=0)
    high = np.max([np.asarray(p.low) + window for p in pages], axis=0)
    small = min(room / (high[1] - low[1]), 150 / (high[0] - low[0]))
    canvas.saveState()
    canvas.translate(at[0] * mm, at[1] * mm)
    canvas.setLineWidth(0.3 * mm)
    path = canvas.beginPath()
    for n, p in enumerate((points - low) * small * mm):
        (path.moveTo if n == 0 else path.lineTo)(float(p[0]), float(p[1]))
    path.close()
    canvas.setFillGray(0.9)
    canvas.drawPath(path, stroke=1, fill=1)
    canvas.setFillGray(0)
    canvas.setLineWidth(0.12 * mm)
    letters = max(4.0, min(9.0, small * window[0] * 0.8))
    canvas.setFont(FONT, letters)
    for page in pages:
        x, y = (np.asarray(page.low) - low) * small
        canvas.rect(x * mm, y * mm, window[0] * small * mm, window[1] * small * mm, stroke=1, fill=0)
        canvas.drawCentredString(
            (x + window[0] * small / 2) * mm, (y + window[1] * small / 2) * mm - letters / 3, page.label
        )
    canvas.restoreState()


def _pt(p: Point) -> Point:
    return p[0] * mm, p[1] * mm
