"""The reference sheets as they are printed."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.formats.pdf_text import FONT, FONT_BOLD, register_fonts
from ypsicline.core.formats.scale_marks import draw_test_marks
from ypsicline.core.messages import message
from ypsicline.core.wording import render

__all__ = ["sheets_pdf"]

_HOW_TO = (
    message("sheets_print_and_measure"),
    message("sheets_lay_flat"),
    message("sheets_show_whole"),
)


def sheets_pdf(sheets: Sequence[Sheet]) -> bytes:
    """A PDF with one page a sheet, true to size: black squares, test marks both ways, and how to use it."""
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(render(message("sheets_title")))
    canvas.setCreator("Ypsicline")
    for sheet in sheets:
        width, height = sheet.size_mm
        canvas.setPageSize((width * mm, height * mm))
        canvas.setFillGray(0)
        # one path for all: renderers move a lone rectangle to whole pixels, but not a path of many
        squares = canvas.beginPath()
        for x, y, w, h in sheet.black_rectangles():
            squares.rect(x * mm, y * mm, w * mm, h * mm)
        canvas.drawPath(squares, stroke=0, fill=1)
        _words(canvas, sheet)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _words(canvas: Canvas, sheet: Sheet) -> None:
    width, height = sheet.size_mm
    bottom = float(sheet.board_corners()[:, 1].min()) - _square(sheet)
    middle = bottom + (height - bottom) / 2
    draw_test_marks(canvas, horizontal=(width / 2, bottom - 8, bottom - 15), vertical=(8.0, width - 8, middle))
    canvas.setFont(FONT_BOLD, 13)
    canvas.drawString(12 * mm, (bottom - 8) * mm, sheet.id.upper())
    canvas.setFont(FONT, 6.6)
    for k, line in enumerate(_HOW_TO):
        canvas.drawCentredString(width / 2 * mm, (bottom - 20 - 3.2 * k) * mm, render(line))


def _square(sheet: Sheet) -> float:
    corners = sheet.board_corners()
    return float(abs(corners[1, 0] - corners[0, 0]))
