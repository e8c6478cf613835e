"""The words: every message of the core in the reader's language and unit."""

from ypsicline.core.wording.said import in_words, said

__all__ = ["in_words", "said"]
