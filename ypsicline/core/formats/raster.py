"""A PDF page as an image, for sheets shown on a screen and for checking prints."""

from __future__ import annotations

import numpy as np
import pypdfium2 as pdfium
from numpy.typing import NDArray

__all__ = ["rasterise_page"]


def rasterise_page(pdf: bytes, page: int = 0, *, dpi: float = 300) -> NDArray[np.uint8]:
    """Page `page` (from 0) in grey (rows, columns), `dpi` pixels to the inch. Of colours only the green is told."""
    document = pdfium.PdfDocument(pdf)
    try:
        bitmap = document[page].render(scale=dpi / 72 * (1 - 1e-6))
        return np.array(bitmap.to_numpy()[:, :, 1])
    finally:
        document.close()
