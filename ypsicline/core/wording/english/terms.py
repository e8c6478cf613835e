"""What fields and goods are called where that isn't just their name, by their names in the code."""

from __future__ import annotations

__all__ = ["TERMS"]

TERMS = {
    "at": "place",
    "closing_seam_moves": "closing seam may move",
    "gas": "over gas",
    "leans_deg": "leans by degrees",
    "feet": "its two feet, across; up / across; up",
    "line": "edge place by place, across; up / across; up",
    "rolled": "marks of the roll, across; up / across; up",
    "reckoned_disc": "disc as you reckoned it, cut",
    "reckoned_wall": "wall as you reckoned it, cut",
    "slit_deg": "slit towards, degrees",
    "towards_deg": "towards, degrees",
    "usable_width": "width of the cloth",
    "wall_ease": "ease on the girth",
    "girth_ease": "ease on the girth",
    "cord_exit": "cord out beside the slit",
    "tie_length": "length of ties",
    "let_in": "strip let in",
    "let_in_at": "let in at, share",
    "let_in_width": "let in by",
    "along": "distance along the edge",
    "by": "amount",
    "by_mm": "amount",
    "tape": "tape’s measure",
}
