"""English words for every message, by its code; how values are written is in `render`."""

from __future__ import annotations

from ypsicline.core.wording.english import capture, covers, drafting, files, history, nouns, trueing, workshop

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    **capture.WORDS,
    **covers.WORDS,
    **drafting.WORDS,
    **files.WORDS,
    **history.WORDS,
    **nouns.WORDS,
    **trueing.WORDS,
    **workshop.WORDS,
}
