"""Sums as a maker would write them down."""

from __future__ import annotations

from typing import Literal

from ypsicline.core.messages import Message, message

__all__ = ["TERMS", "Term", "summed"]

Term = Literal[
    "allowance", "allowances", "band", "body", "body_height", "depth", "ease", "girth", "height",
    "hems", "joins", "length", "margin", "over_two", "bottom", "sleeve", "strip", "thickness", "top", "tuck", "wall",
    "wall_height", "width", "wrap",
]  # fmt: skip

TERMS: dict[Term, Message] = {
    "allowance": message("term_allowance"), "allowances": message("term_allowances"), "band": message("term_band"),
    "body": message("term_body"), "body_height": message("term_body_height"),
    "depth": message("term_depth"),
    "ease": message("term_ease"), "girth": message("term_girth"), "height": message("term_height"),
    "hems": message("term_hems"), "joins": message("term_joins"),
    "length": message("term_length"), "margin": message("term_margin"), "over_two": message("term_over_two"),
    "bottom": message("term_bottom"), "sleeve": message("term_sleeve"), "strip": message("term_strip"),
    "thickness": message("term_thickness"), "top": message("term_top"), "tuck": message("term_tuck"),
    "wall": message("term_wall"), "wall_height": message("term_wall_height"), "width": message("term_width"),
    "wrap": message("term_wrap"),
}  # fmt: skip


def summed(what: Term, total_mm: float, terms: dict[Term, float]) -> Message:
    """“wall: girth 812 + ease 12 = 824”, the terms by their names, those below zero taken off.

    Terms that are nothing are left out, but the first; alone it is the sum.
    """
    (first, start), *rest = terms.items()
    parts = [message("sum_first", name=TERMS[first], value_mm=start)]
    for name, value in rest:
        if abs(value) > 1e-9:
            parts.append(message("sum_plus" if value > 0 else "sum_minus", name=TERMS[name], value_mm=abs(value)))
    if len(parts) == 1:
        return message("sum_alone", what=TERMS[what], total_mm=total_mm)
    return message("sum_of", what=TERMS[what], parts=tuple(parts), total_mm=total_mm)
