"""Seventeen covers of the pottery studio that are drafted from measures, each by its family."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

__all__ = ["COVERS", "DemoCover"]


@dataclass(frozen=True)
class DemoCover:
    """A ticket: what is covered, due in so many days, its brief, and the measures file of its family."""

    name: str
    covers: str
    days: int
    family: str
    measures: dict[str, Any] = field(default_factory=dict)
    shapes: dict[str, Any] = field(default_factory=dict)
    choices: dict[str, Any] = field(default_factory=dict)
    unit: str = "mm"
    brief: dict[str, Any] = field(default_factory=dict)


def _blob(wide: float, high: float, corners: int = 9) -> list[list[float]]:
    """A carved outline, somewhat uneven."""
    angles = [2 * math.pi * k / corners for k in range(corners)]
    radii = [1 + 0.12 * math.sin(3 * a) + 0.06 * math.cos(5 * a) for a in angles]
    return [
        [round(wide * r * math.cos(a), 1), round(high * r * math.sin(a), 1)] for a, r in zip(angles, radii, strict=True)
    ]


COVERS = (
    DemoCover(
        "Hood throat sleeve", "throat of the extractor hood, a little wider below", 3, "cone_sleeve",
        {"girth_top": 914, "girth_bottom": 921, "slant": 430},
        choices={"panels": 2, "top": "hem", "bottom": "hem", "top_hem": 20, "bottom_hem": 20},
        brief={"against": ("dust",), "goes_on": "pulled over", "near": ("heat", "dust")},
    ),
    DemoCover(
        "Kneeling pads", "two pads for loading the kiln, filled", 4, "pad",
        {"front": 460, "right": 320, "back": 440, "left": 320, "diagonal": 553, "loft": 60},
        choices={"piping": True, "closing_gap": 180},
        brief={"against": ("padding",), "near": ("heat", "filling")},
    ),
    DemoCover(
        "Wheel table cover", "dust cover of the wheel's table, hooked under its rim", 5, "drop_cover",
        {"width": 620, "length": 540, "diagonal": 773, "drop": 180, "tuck_under": 45},
        choices={"exits_from_corner": 110}, brief={"against": ("dust",), "goes_on": "cord under", "near": ("dust", "cord")},
    ),
    DemoCover(
        "Glaze shelf drape", "drape over the glaze shelf, open for its post", 6, "drape",
        {
            "girth_over": 2140, "width": 780, "drop_margin": 15, "aperture_x": 390, "aperture_y": 720,
            "aperture_width": 70, "aperture_height": 110, "pocket_height": 200, "pocket_above_hem": 120, "ties_height": 340,
        },
        choices={"aperture": "faced", "pocket_divisions": 3, "ties": True, "directional": True, "joined_at_back": True},
        brief={"against": ("dust", "looks"), "goes_on": "tied under", "near": ("cord",)},
    ),
    DemoCover(
        "Glaze booth screen", "slip for the padded screen of the glaze booth", 9, "fitted_slip",
        {
            "areas": [
                {"name": "front", "width": 820, "height": 610}, {"name": "back", "width": 820, "height": 610},
                {"name": "side", "width": 60, "height": 610, "count": 2}, {"name": "top", "width": 820, "height": 60},
            ],
            "margin": 80,
        },
        brief={"against": ("wear",), "goes_on": "zipped", "near": ("seating",)},
    ),
    DemoCover(
        "Flywheel guard", "guard of the pug mill's flywheel: two ends and a band", 8, "band_over_profile",
        {
            "width": 240, "height_front": 380, "height_back": 380, "depth": 620, "radius_front": 150, "radius_back": 150,
            "ease_girth": 20, "ease_width": 8,
        },
        choices={"let_in": "repair", "let_in_width": 60, "let_in_at": 0.25}, brief={"against": ("dust",), "near": ("motor",)},
    ),
    DemoCover(
        "Wedging table mat", "padded mat, bound all round", 7, "flat_panel",
        {"width": 750, "length": 520, "corner_radius": 60},
        choices={"underlay": "wadding", "underlay_margin": 25, "binding_pack": 2500}, brief={"against": ("wear",)},
    ),
    DemoCover(
        "Drying frame bed", "cloth bed of the clay drying frame", 12, "envelope_sling",
        {
            "width_on": 610, "width_off": 588, "length_on": 1240, "length_off": 1212,
            "stations_left": [210, 520, 830, 1090], "stations_right": [210, 520, 830, 1090], "slot_length": 45,
            "slot_inset": 38, "rail_girth": 88,
        },
        choices={"stretch_width": 0.028, "stretch_length": 0.018, "finish": "felled"}, brief={"against": ("wear",)},
    ),
    DemoCover(
        "Show room cushion", "round floor cushion for the show room", 10, "drum",
        {"girth": 1900, "height": 190, "wall_ease": 12},
        choices={"opening": 600, "inner_bag": True, "stocked_zips": [300, 500, 650, 800], "usable_width": 1120, "bag_litres": 25},
        brief={"against": ("padding",), "goes_on": "zipped", "near": ("seating", "filling")},
    ),
    DemoCover(
        "Wheel seat pads", "pads for the wheel seats, back shorter than front, with frill and ties", 11, "pad",
        {"front": "17 1/2", "right": "15 3/4", "back": "14 1/4", "left": "15 3/4", "diagonal": "22 3/8"},
        choices={"frill": True, "frill_fullness": 1.8, "frill_width": "2 1/4", "ties": 4, "closing_gap": "7 1/2"},
        unit="in", brief={"against": ("padding", "looks"), "goes_on": "tied under", "near": ("seating", "cord")},
    ),
    DemoCover(
        "Carved sign skin", "skin for the carved sign by the gate", 14, "wrapped_shell",
        {"gusset_length": 160, "gusset_width": 24},
        {
            "pieces": [{"name": "face", "outline": _blob(210, 150)}, {"name": "edge", "outline": [[0, 0], [540, 0], [540, 70], [0, 70]], "rises": 4}],
        },
        {"mirrored": True, "stretch_along": 0.12, "stretch_across": 0.12}, brief={"against": ("weather",)},
    ),
    DemoCover(
        "Glaze table cover", "elasticated cover of the glaze table, its edge cut away", 13, "elasticated_top",
        {"thickness": 28, "wrap_under": 60, "width": 1180, "length": 560, "corner_radius": 200, "cut_away": 15, "strap_at": 280},
        choices={"strap": True, "elastic_reduction": 0.3}, brief={"against": ("wear",)},
    ),
    DemoCover(
        "Kick wheel motor hood", "hood for the kick wheel's motor, lined and padded", 15, "lined_shell",
        {"width": 310, "height": 280, "radius": 95, "layers_thickness": 4, "ease_width": 12},
        brief={"against": ("dust",), "goes_on": "lifts off", "near": ("motor",)},
    ),
    DemoCover(
        "Gas bottle cap", "cap for the gas bottle's guard", 16, "cap",
        {"girth": 1005, "height": 420, "girth_ease": 24, "foot_tuck": 30},
        choices={"disc_hole": "eyelet", "rope": 10, "bore": 14, "gas": True},
        brief={"against": ("weather",), "goes_on": "cord under", "near": ("heat", "cord")},
    ),
    DemoCover(
        "Glaze trolleys", "six glaze trolleys that stand in an L, two of them left-handed", 18, "box_cover",
        {"width": 640, "depth": 460, "height": 880, "ease_width": 16, "ease_depth": 16, "ease_height": 6},
        choices={"walls": "by_side", "handle_width": 140, "usable_width": 1450}, brief={"against": ("dust",)},
    ),
    DemoCover(
        "Slab roller, reversible", "reversible cover of the slab roller; a card model first", 20, "reversible_cover",
        {
            "width": 860, "depth": 540, "height_left": 330, "height_right": 350, "corner_radius": 40, "ease_width": 14,
            "ease_girth": 20,
        },
        choices={"turning_gap": 260}, brief={"against": ("dust", "looks")},
    ),
    DemoCover(
        "Awning openings", "openings for two posts in the awning over the kiln yard", 21, "retrofit_aperture",
        {
            "posts": [
                {"at": [640, 310], "diameter": 76, "name": "gate post"},
                {"at": [1820, 240], "diameter": 60, "name": "kiln post", "leans_deg": 8, "towards_deg": 90},
            ],
            "cord_slack": 240,
        },
        {"line": [[0, 0], [2600, 0]]}, {"stocked_zips": [250, 300, 400], "cord_in_edge": True, "near_flue": True},
        brief={"against": ("weather",), "near": ("heat",)},
    ),
)  # fmt: skip
