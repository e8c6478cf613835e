"""Type for what is printed: the open Vera faces, whose files come with the PDF library."""

from __future__ import annotations

from functools import lru_cache

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

__all__ = ["FONT", "FONT_BOLD", "register_fonts"]

FONT = "Vera"
FONT_BOLD = "VeraBd"


@lru_cache(maxsize=1)
def register_fonts() -> None:
    """Have the fonts ready that every print writes in."""
    for name in (FONT, FONT_BOLD):
        pdfmetrics.registerFont(TTFont(name, f"{name}.ttf"))
