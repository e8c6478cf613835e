"""A scale model on card: its pieces in rows on as few pages as they need."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.card_model import card_pieces
from ypsicline.core.formats.drawing import Drawing
from ypsicline.core.formats.pdf import MARGIN_MM, draw, sheet_for
from ypsicline.core.formats.pdf_text import FONT, FONT_BOLD, register_fonts
from ypsicline.core.formats.rows import in_rows
from ypsicline.core.formats.scale_marks import draw_test_marks
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.wording import render

__all__ = ["MODELS", "card_pdf"]

MODELS = (4, 5, 8, 10, 20)
"""How many times smaller than the cover models usually are."""
MOST_PAGES = 60
GAP_MM = 4.0


def card_pdf(
    panels: Sequence[DraftedPanel],
    joins: Sequence[Join],
    *,
    model: float,
    paper: str = "a4",
    print_scale: tuple[float, float] = (1.0, 1.0),
    title: str = "",
    unit: Unit = "mm",
) -> bytes:
    """The pieces of a model `model` times smaller, with tabs and letters along their joins, to be cut out and folded.

    `print_scale` undoes what the printer does, as in prints of the pattern. Raises `Refusal` for a paper that there isn't,
    for a piece that is larger than the paper, with the model that would do, and over 60 pages.
    """
    sheet = sheet_for(paper, print_scale)
    register_fonts()
    pages = _packed(card_pieces(panels, joins, 1 / model, unit), sheet.window, model)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(sheet.width * mm, sheet.height * mm), pageCompression=1, invariant=1)
    canvas.setTitle(title or "Ypsicline model")
    canvas.setCreator("Ypsicline")
    width, height = sheet.window
    for number, page in enumerate(pages, start=1):
        canvas.saveState()
        canvas.scale(*sheet.scale)
        draw_test_marks(
            canvas, horizontal=(MARGIN_MM + width / 2, 10.0, 5.5), vertical=(10.0, 5.5, MARGIN_MM + height / 2)
        )
        canvas.setFont(FONT_BOLD, 11)
        canvas.drawString(MARGIN_MM * mm, (MARGIN_MM + height + 1.5) * mm, title[:50])
        canvas.setFont(FONT, 7)
        heading = message("card_heading", model=model, page=number, pages=len(pages))
        canvas.drawRightString((MARGIN_MM + width) * mm, (MARGIN_MM + height + 4.6) * mm, render(heading))
        how = render(message("card_how"))
        canvas.drawRightString((MARGIN_MM + width) * mm, (MARGIN_MM + height + 1.5) * mm, how)
        canvas.translate(MARGIN_MM * mm, MARGIN_MM * mm)
        for piece in page:
            draw(canvas, piece)
        canvas.restoreState()
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _packed(pieces: Sequence[Drawing], window: tuple[float, float], model: float) -> list[list[Drawing]]:
    """The pieces on their pages, in rows. Raises `Refusal` for one that no page has room for."""
    width, height = window
    lies = [_lying(p, height > width) for p in pieces]
    if any(w > width or h > height for w, h in map(_size, lies)):
        raise Refusal(_too_large(pieces, window, model), "scale")
    places = in_rows([_size(p) for p in lies], window, GAP_MM)
    if max(page for page, _, _ in places) >= MOST_PAGES:
        raise Refusal(message("too_many_pages", most_pages=MOST_PAGES), "pages")
    pages: list[list[Drawing]] = [[] for _ in range(1 + max(page for page, _, _ in places))]
    for piece, (page, x, y) in zip(lies, places, strict=True):
        low, _ = piece.bounds()
        pages[page].append(piece.carried(Transform(x=x - low[0], y=y - low[1])))
    return pages


def _lying(piece: Drawing, upright: bool) -> Drawing:
    """The piece with its longer side along that of the page."""
    wide, high = _size(piece)
    return piece.carried(Transform.turn(math.pi / 2)) if upright == (wide > high) else piece


def _size(piece: Drawing) -> tuple[float, float]:
    (x0, y0), (x1, y1) = piece.bounds()
    return x1 - x0, y1 - y0


def _too_large(pieces: Sequence[Drawing], window: tuple[float, float], model: float) -> Message:
    """Which piece is too large, and which model isn't: tabs count as if they grew with it."""

    def over(piece: Drawing) -> float:
        short, long = sorted(_size(piece))
        return max(short / min(window), long / max(window))

    worst = max(pieces, key=over)
    smaller = next((m for m in MODELS if over(worst) * model / m <= 1), None)
    figures: dict[str, Value] = {"panel": worst.name, "long_mm": max(_size(worst)), "model": model}
    return message("model_too_large", **figures, smaller=smaller) if smaller else message("model_never_fits", **figures)
