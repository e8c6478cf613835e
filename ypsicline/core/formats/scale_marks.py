"""Test marks: lines of known length, both ways, by which a print's true scale is found."""

from __future__ import annotations

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ypsicline.core.formats.pdf_text import FONT
from ypsicline.core.making.print_scale import TEST_MARKS

__all__ = ["draw_test_marks"]

_MARKS = list(dict.fromkeys(TEST_MARKS.values()))


def draw_test_marks(
    canvas: Canvas, *, horizontal: tuple[float, float, float], vertical: tuple[float, float, float]
) -> None:
    """A 100 mm and a 4 in line across and another pair up the page, all positions in mm.

    `horizontal` is (centre x, y of the 100 mm line, y of the 4 in line); `vertical` is
    (x of the 100 mm line, x of the 4 in line, centre y).
    """
    canvas.saveState()
    canvas.setLineWidth(0.25 * mm)
    canvas.setFont(FONT, 7)
    centre_x, *rows = horizontal
    *columns, centre_y = vertical
    for (label, length), y in zip(_MARKS, rows, strict=True):
        _bar(canvas, centre_x - length / 2, y, length, label)
    for (label, length), x in zip(_MARKS, columns, strict=True):
        canvas.saveState()
        canvas.translate(x * mm, (centre_y - length / 2) * mm)
        canvas.rotate(90)
        _bar(canvas, 0, 0, length, label)
        canvas.restoreState()
    canvas.restoreState()


def _bar(canvas: Canvas, x: float, y: float, length: float, label: str) -> None:
    canvas.line(x * mm, y * mm, (x + length) * mm, y * mm)
    for end in (x, x + length):
        canvas.line(end * mm, (y - 2) * mm, end * mm, (y + 2) * mm)
    canvas.drawCentredString((x + length / 2) * mm, (y + 1) * mm, label)
