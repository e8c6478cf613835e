"""What is said where a request couldn't even be taken as one, by its HTTP status; and what is said of a full disk."""

from __future__ import annotations

import errno

from django.db import OperationalError

from ypsicline.core.messages import Message, message

__all__ = ["is_full_disk", "message_for"]

_MESSAGES = {
    400: message("http_400"),
    401: message("http_401"),
    403: message("http_403"),
    404: message("http_404"),
    405: message("http_405"),
    413: message("http_413"),
    503: message("http_503"),
    507: message("http_507"),
}


def message_for(status: int) -> Message:
    """What the maker is told."""
    return _MESSAGES.get(status, _MESSAGES[400] if status < 500 else message("http_500"))


def is_full_disk(e: BaseException) -> bool:
    """Whether an error of a file or of the database means that the disk, or what one may use of it, is full."""
    if isinstance(e, OperationalError):
        return "full" in str(e)
    return isinstance(e, OSError) and e.errno in (errno.ENOSPC, errno.EDQUOT)
