"""A cover of every family by lot: legal measures, shapes and choices, as a measures file has them."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from typing import Any

import numpy as np

from ypsicline.core.covers.cover import Cover
from ypsicline.core.drafting.house import House
from ypsicline.core.formats.measures_json import read_measures

__all__ = ["FAMILIES", "cover_of", "lot"]

Rng = np.random.Generator
File = dict[str, Any]


def cover_of(family: str, measures: File, *, unit: str = "mm", **parts: Any) -> Cover:
    """The cover of a measures file, by the rules of a new house."""
    file = json.dumps({"version": 1, "measures": measures, **parts}).encode()
    return read_measures(file, family, unit=unit).cover(House())  # type: ignore[arg-type]


def lot(family: str, k: int) -> File:
    """A measures file for a family by lot; lengths in whole tenths of a millimetre."""
    rng = np.random.default_rng([k, sorted(FAMILIES).index(family)])
    result = FAMILIES[family](rng)
    return {"measures": {}, "shapes": {}, "choices": {}} | result


def _mm(rng: Rng, low: float, high: float) -> float:
    return round(float(rng.uniform(low, high)), 1)


def _one(rng: Rng, *of: Any) -> Any:
    return of[int(rng.integers(len(of)))]


def _blob(rng: Rng, size: float) -> list[list[float]]:
    """A convex outline with five to nine corners."""
    n = int(rng.integers(5, 10))
    angles = np.sort(np.arange(n) * 2 * math.pi / n + rng.uniform(-0.25, 0.25, n) * 2 * math.pi / n)
    return [[round(size * math.cos(a), 1), round(0.8 * size * math.sin(a), 1)] for a in angles.tolist()]


def _flat_panel(rng: Rng) -> File:
    measures = {"width": _mm(rng, 100, 1500), "length": _mm(rng, 100, 1500), "corner_radius": _mm(rng, 0, 45)}
    under = _one(rng, "none", "wadding", "foam")
    return {
        "measures": measures,
        "choices": {
            "finish": _one(rng, "bound", "hem", "plain"),
            "underlay": under,
            "underlay_margin": 25,
            "finished_otherwise": [{"edge": int(rng.integers(1, 5)), "finish": "plain"}] if rng.random() < 0.4 else [],
        },
    }


def _pad(rng: Rng) -> File:
    front, back, left = _mm(rng, 350, 700), _mm(rng, 300, 650), _mm(rng, 300, 600)
    right = left + _mm(rng, -20, 20)
    diagonal = round(math.hypot((front + back) / 2, (left + right) / 2) + _mm(rng, -15, 15), 1)
    choices = {
        "taper": _one(rng, "none", "straight", "curved"), "piping": _one(rng, True, False), "ties": _one(rng, 0, 2, 4),
        "frill": _one(rng, True, False), "frill_fullness": _mm(rng, 1.4, 2.6), "usable_width": _mm(rng, 900, 1600),
    }  # fmt: skip
    measures = {"front": front, "right": right, "back": back, "left": left, "diagonal": diagonal}
    return {"measures": measures | {"drawn_in": _mm(rng, 0, 20)}, "choices": choices}


def _drum(rng: Rng) -> File:
    choices = {
        "closure": _one(rng, "zip", "gap", "none"), "notches": _one(rng, 4, 8), "inner_bag": _one(rng, True, False),
        "strip_joins": _one(rng, "even", "full_widths"), "usable_width": _mm(rng, 900, 1600),
    }  # fmt: skip
    measures = {"girth": _mm(rng, 700, 3000), "height": _mm(rng, 50, 700), "wall_ease": _mm(rng, -10, 40)}
    return {"measures": measures, "choices": choices}


def _cap(rng: Rng) -> File:
    measures = {"girth": _mm(rng, 300, 2500), "height": _mm(rng, 100, 900), "girth_ease": _mm(rng, 0, 60)}
    choices = {"disc_hole": _one(rng, "none", "eyelet", "overstitched"), "rope": 8, "cord_exits": _one(rng, 1, 2)}
    return {"measures": measures | {"foot_tuck": _mm(rng, 0, 80)}, "choices": choices}


def _cone_sleeve(rng: Rng) -> File:
    top, bottom = _mm(rng, 300, 1500), _mm(rng, 300, 1500)
    slant = round(abs(top - bottom) / (2 * math.pi) + _mm(rng, 60, 500), 1)
    seam = _one(rng, "plain", "french", "felled", "lapped")
    choices = {"panels": int(rng.integers(1, 5)), "closing_seam": seam, "top": _one(rng, "bound", "hem"), "top_hem": 15}
    return {"measures": {"girth_top": top, "girth_bottom": bottom, "slant": slant}, "choices": choices}


def _band_over_profile(rng: Rng) -> File:
    measures = {
        "width": _mm(rng, 100, 900), "height_front": _mm(rng, 150, 500), "height_back": _mm(rng, 150, 500),
        "depth": _mm(rng, 200, 700), "radius_front": _mm(rng, 0, 60), "radius_back": _mm(rng, 0, 60),
        "ease_girth": _mm(rng, 0, 40), "ease_width": _mm(rng, 0, 20),
    }  # fmt: skip
    let_in = _one(rng, "none", "contrast", "repair")
    return {"measures": measures, "choices": {"let_in": let_in, "let_in_width": _mm(rng, 40, 120)}}


def _drape(rng: Rng) -> File:
    length = _mm(rng, 900, 2400)
    measures = {
        "girth_over": length, "width": _mm(rng, 300, 900), "drop_margin": _mm(rng, 0, 40), "pocket_height": 180,
        "ties_height": _mm(rng, 100, 300), "aperture_x": 150, "aperture_y": round(0.2 * length, 1),
        "aperture_width": 60, "aperture_height": 80,
    }  # fmt: skip
    joined = _one(rng, True, False)
    choices = {
        "ties": True, "aperture": _one(rng, "none", "faced"), "joined_at_back": joined, "directional": joined,
        "lining": _one(rng, True, False), "pocket_divisions": int(rng.integers(1, 4)), "sides": _one(rng, "bound", "hem"),
    }  # fmt: skip
    if rng.random() < 0.4:
        choices |= {"ties": False, "sides_sewn_up_to": _mm(rng, 50, 350)}
    return {"measures": measures, "choices": choices}


def _drop_cover(rng: Rng) -> File:
    measures = {
        "width": _mm(rng, 400, 1200), "length": _mm(rng, 400, 1200), "corner_radius": _mm(rng, 60, 180),
        "drop": _mm(rng, 60, 350), "tuck_under": _mm(rng, 40, 60),
    }  # fmt: skip
    return {
        "measures": measures,
        "choices": {"corners": _one(rng, "dart", "pleats"), "casing": _one(rng, "cord", "elastic", "none")},
    }


def _box_cover(rng: Rng) -> File:
    measures = {
        "width": _mm(rng, 200, 1200), "depth": _mm(rng, 200, 900), "height": _mm(rng, 100, 900),
        "ease_width": _mm(rng, 0, 20), "ease_depth": _mm(rng, 0, 20), "cloth_thickness": _mm(rng, 0, 3),
    }  # fmt: skip
    choices = {"walls": _one(rng, "one_strip", "by_side", "cross"), "foot": _one(rng, "hem", "casing")}
    openings = {"handle_width": 60, "handle_from_top": 40, "handle_height": 25} if rng.random() < 0.3 else {}
    return {"measures": measures, "choices": choices | openings | {"zip_at_corner": _one(rng, True, False)}}


def _elasticated_top(rng: Rng) -> File:
    measures = {"thickness": _mm(rng, 5, 60), "wrap_under": _mm(rng, 35, 70)}
    choices = {"elastic": _one(rng, "casing", "stitched"), "strap": _one(rng, True, False)}
    if rng.random() < 0.5:
        return {"measures": measures, "shapes": {"outline": _blob(rng, _mm(rng, 400, 700))}, "choices": choices}
    size = {"width": _mm(rng, 500, 1400), "length": _mm(rng, 400, 600), "corner_radius": _mm(rng, 0, 180)}
    return {"measures": measures | size, "choices": choices}


def _lined_shell(rng: Rng) -> File:
    measures = {
        "width": _mm(rng, 200, 600), "height": _mm(rng, 250, 600), "radius": _mm(rng, 20, 90),
        "layers_thickness": _mm(rng, 1, 8), "ease_width": _mm(rng, 0, 20),
    }  # fmt: skip
    return {
        "measures": measures,
        "choices": {"mouth": _one(rng, "bound", "hem"), "wadding_allowance": _one(rng, 0, 10)},
    }


def _envelope_sling(rng: Rng) -> File:
    on = {"width_on": _mm(rng, 300, 900), "length_on": _mm(rng, 400, 1500)}
    off = {"width_off": round(on["width_on"] * 0.96, 1), "length_off": round(on["length_on"] * 0.98, 1)}
    stations = [round(on["length_on"] * s, 1) for s in (0.2, 0.45, 0.75)]
    slots = {"stations_left": stations, "stations_right": stations, "slot_length": 30, "slot_inset": 45}
    finish = _one(rng, "plain", "felled", "bound")
    return {"measures": on | off | slots, "choices": {"finish": finish, "stretch_width": 0.03}}


def _fitted_slip(rng: Rng) -> File:
    if rng.random() < 0.5:
        names = ("seat", "inside back", "arm")
        areas = [{"name": n, "width": _mm(rng, 200, 900), "height": _mm(rng, 200, 900), "tucks_up": 1} for n in names]
        opening = {"opening": _one(rng, "none", "zip", "flaps"), "opening_length": 300, "elastic_hem": 1800}
        return {"measures": {"areas": areas, "margin": _mm(rng, 40, 120)}, "choices": opening}
    pieces = [{"name": n, "outline": _blob(rng, _mm(rng, 200, 400))} for n in ("seat", "back")]
    return {"shapes": {"pieces": pieces}, "choices": {"piping": _one(rng, True, False)}}


def _wrapped_shell(rng: Rng) -> File:
    blob = _blob(rng, _mm(rng, 150, 400))
    pieces = [{"name": "face", "outline": blob}, {"name": "side", "outline": blob}]
    seams = [{"first": "face", "first_edge": 2, "second": "side", "second_edge": 2}]
    gusset = {"gusset_length": _mm(rng, 100, 200), "gusset_width": _mm(rng, 10, 60)}
    return {
        "measures": gusset,
        "shapes": {"pieces": pieces, "seams": seams},
        "choices": {"mirrored": _one(rng, True, False)},
    }


def _reversible_cover(rng: Rng) -> File:
    measures = {
        "width": _mm(rng, 300, 900), "depth": _mm(rng, 200, 600), "height_left": _mm(rng, 200, 400),
        "height_right": _mm(rng, 200, 400), "corner_radius": _mm(rng, 0, 50), "ease_width": 12, "ease_girth": 12,
    }  # fmt: skip
    return {"measures": measures, "choices": {"layers": _one(rng, "equal", "nested")}}


def _retrofit_aperture(rng: Rng) -> File:
    posts = [
        {"at": [300.0, _mm(rng, 100, 300)], "diameter": _mm(rng, 30, 90), "name": "left post"},
        {
            "at": [900.0, _mm(rng, 100, 300)],
            "diameter": _mm(rng, 30, 90),
            "name": "right post",
            "leans_deg": _mm(rng, 0, 20),
        },
    ]
    return {
        "measures": {"posts": posts}, "shapes": {"line": [[0, 0], [1200, 0]]},
        "choices": {"finish": _one(rng, "hemmed", "faced")},
    }  # fmt: skip


FAMILIES: dict[str, Callable[[Rng], File]] = {
    "band_over_profile": _band_over_profile, "box_cover": _box_cover, "cap": _cap, "cone_sleeve": _cone_sleeve,
    "drape": _drape, "drop_cover": _drop_cover, "drum": _drum, "elasticated_top": _elasticated_top,
    "envelope_sling": _envelope_sling, "fitted_slip": _fitted_slip, "flat_panel": _flat_panel, "lined_shell": _lined_shell,
    "pad": _pad, "retrofit_aperture": _retrofit_aperture, "reversible_cover": _reversible_cover,
    "wrapped_shell": _wrapped_shell,
}  # fmt: skip
