"""Measures that have to be given where no outline stands for them."""

from __future__ import annotations

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["needed"]


def needed(**measures: float | None) -> tuple[float, ...]:
    """The measures, by the names of their fields. Raises `Refusal` that names the first which wasn't given."""
    values = []
    for name, value in measures.items():
        if value is None:
            raise Refusal(message("measure_or_outline_missing", measure_term=name), "measure")
        values.append(value)
    return tuple(values)
