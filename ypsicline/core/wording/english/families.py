"""What families of covers are called, and what they make, in English."""

from __future__ import annotations

__all__ = ["FAMILIES"]

FAMILIES: dict[str, tuple[str, str]] = {
    "band_over_profile": ("Band over a profile", "two mirrored ends and a band over them, from foot to foot"),
    "box_cover": ("Box cover", "a top and walls, or one sheet with its corners cut out"),
    "cap": ("Cap", "a disc and a body round a cylinder, with a cord at the foot"),
    "cone_sleeve": ("Cone sleeve", "a sleeve round a body that tapers, its top marked"),
    "drape": ("Drape", "one length laid over, from hem to hem"),
    "drop_cover": ("Drop cover", "one sheet that hangs over an edge and hooks under, drawn in at its hem"),
    "drum": ("Drum", "two discs and a wall"),
    "elasticated_top": ("Elasticated top", "over a board and round its edge, held by elastic"),
    "envelope_sling": ("Envelope sling", "two plies over a frame's rails, with slots"),
    "fitted_slip": ("Fitted slip", "many panels pinned on, chalked and captured"),
    "flat_panel": ("Flat panel", "bound or hemmed, alone or on wadding"),
    "lined_shell": ("Lined shell", "a hood of two halves, with wadding and lining"),
    "pad": ("Pad", "filled, of two plies, its corners tapered"),
    "retrofit_aperture": ("Openings for posts", "templates for openings in a cover that exists"),
    "reversible_cover": ("Reversible cover", "two complete covers joined at the hem"),
    "wrapped_shell": ("Wrapped shell", "a skin from the pieces of a taped shell"),
}
"""By the family's name in files: its title, and what it makes."""
