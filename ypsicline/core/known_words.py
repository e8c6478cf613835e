"""Messages that came from a file or the database, held to the words that there are."""

from __future__ import annotations

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message
from ypsicline.core.wording import render

__all__ = ["check_words"]


def check_words(words: str | Message) -> None:
    """Raise `Refusal` where a message has no words, or not the values for them."""
    if isinstance(words, str):
        return
    try:
        render(words)
    except (KeyError, ValueError, TypeError, AttributeError, IndexError, RecursionError) as e:
        raise Refusal(message("message_without_words", code=words.code[:40]), "document") from e
