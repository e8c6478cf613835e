"""The words: every message of the core in the reader's language and unit."""

from ypsicline.core.wording.rendering import render, render_all, term

__all__ = ["render", "render_all", "term"]
