"""What is said where a request couldn't even be taken as one, by its HTTP status; and what is said of a full disk."""

from __future__ import annotations

import errno

from django.db import OperationalError

__all__ = ["is_full_disk", "sentence_for"]

_SENTENCES = {
    400: "The request can't be read; reload the page and try again.",
    401: "Sign in first.",
    403: "This page isn't signed in any more, or the request came from elsewhere; reload it and try again.",
    404: "There is no such thing in this workshop; it may have been put away.",
    405: "This can't be done with it.",
    413: "That is more data than one step may carry.",
    503: "The workshop's server is busy with other changes; try again in a moment.",
    507: "The disk of the workshop's server is full, so nothing was stored. Make room on it, then try again.",
}


def sentence_for(status: int) -> str:
    """A sentence for the maker."""
    return _SENTENCES.get(
        status, _SENTENCES[400] if status < 500 else "Something went wrong on our side; nothing was changed."
    )


def is_full_disk(e: BaseException) -> bool:
    """Whether an error of a file or of the database means that the disk, or what one may use of it, is full."""
    if isinstance(e, OperationalError):
        return "full" in str(e)
    return isinstance(e, OSError) and e.errno in (errno.ENOSPC, errno.EDQUOT)
