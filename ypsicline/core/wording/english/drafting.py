"""English words on drafting."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "across": "{across_mm:0}",
    "across_and_up": "{across_mm:0} × {up_mm:0}",
    "allowance_cut_short": (
        "The allowance of edge “{edge}” runs into another edge's and is cut short there. Give one of them "
        "less, or cut and face it."
    ),
    "allowance_loses_loop": (
        "Edge “{edge}” curves inward with a radius of {radius_mm}, tighter than its allowance of "
        "{allowance_mm:g}: the cutting line loses a loop there. Snip the allowance, or face the edge."
    ),
    "allowance_out_of_range": "Edge “{edge}” has an allowance of {allowance_mm:g}; give 0 to {most_mm:g}.",
    "allowance_too_narrow_to_notch": "The allowance of “{edge}” is too narrow to notch; mark it with chalk.",
    "aperture_finished": "{aperture}: {size}{in_cloth}, {finish}",
    "aperture_hemmed": "{aperture}: {size}{in_cloth}; − 2 × {depth_mm:0g} hem = {cut} to cut",
    "aperture_in_cloth": ", {size} in this cloth",
    "aperture_listed": "{name}: {shape} {size}, {finish}{slit}",
    "aperture_name_out_of_range": "An aperture's name is one line of 1 to 40 letters.",
    "aperture_near_seam": (
        "“{aperture}” lies {gap_mm} from the seam line of “{edge}”, closer than three times its allowance of "
        "{allowance_mm:g}: there is little room to sew both."
    ),
    "aperture_over_seam_line": "“{aperture}” reaches over the panel's seam line; move it inward or make it smaller.",
    "aperture_points_out_of_range": "The outline of “{aperture}” has 3 to 2000 points.",
    "aperture_round": "{passes_mm:0g} + 2 × {clearance_mm:0g} = {across_mm:0} finished",
    "aperture_sides": "{passes_mm:0g} × {passes_up_mm:0g} + 2 × {clearance_mm:0g} = {across_mm:0} × {up_mm:0} finished",
    "aperture_without_outline": "“{aperture}” has no outline yet; choose one for it.",
    "bent_edge_on_fold": "Edge “{edge}” isn't straight, so it can't lie on the cloth's fold.",
    "bound_with_allowance": "Edge “{edge}” is bound yet carries {allowance_mm:g}; such an edge is cut on the seam line.",
    "casing_out_of_range": (
        "The casing of edge “{edge}” carries a cord of 0 to {cord_most_mm:g} or elastic of 0 to {elastic_most_mm:g}."
    ),
    "choose_edge_for_dart": "Choose an edge of the outline to open the dart on.",
    "choose_outline_of_aperture": "Choose the captured piece or the panel whose outline the aperture takes.",
    "cloth_name_out_of_range": "A cloth's name is one line of 1 to 40 letters.",
    "cloth_too_thick": "A cloth is 0 to {most_mm:g} thick; {thickness_mm:g} was given for “{cloth}”.",
    "coordinate_out_of_range": "An edge has a coordinate that isn't a number within 1 km.",
    "copy_size_out_of_range": "A copy can be 1/50 to 50 times as large.",
    "cord_out": "cord out",
    "corner_between_edges": (
        "There is a corner between “{edge}” and “{other}”; only edges that run on into each other can be merged."
    ),
    "corner_cut_across": (
        "The corner between “{edge}” and “{other}” can't be drawn as asked: a curved edge bends away before "
        "the allowances meet. It is cut straight across; look at it, or choose another corner."
    ),
    "corner_flares": (
        "The turned corner between “{edge}” and “{other}” would stand out too far at so sharp a point: a plain one is "
        "drawn. Bind one of the two edges, face it, or choose another corner."
    ),
    "corner_dart_drawn": "dart at the end of {edge}: intake {intake_mm:0g}, half on each edge, {length_mm:0g} long",
    "corner_dart_too_wide": "Half of the dart's intake, {half_mm}, is longer than edge “{edge}”.",
    "corner_gone": "This corner isn't there.",
    "curve_too_many_points": "A curve may have {max_curve_points} points at most; this one has {count}.",
    "cut_and_way_up": "{cut} · {way_up}",
    "cut_larger": "cut {by_mm:g} larger, trimmed back once it is sewn",
    "cut_left": "cut {count} left · {cloth}{fold}",
    "cut_out": "cut out",
    "cut_pairs": "cut {count:pair/pairs} · {cloth}{fold}",
    "cut_right": "cut {count} right · {cloth}{fold}",
    "cut_single": "cut {count} · {cloth}{fold}",
    "dart_and_pleat": "A dart and a pleat",
    "dart_at_corner_listed": "dart at the end of {edge}: intake {intake_mm:0g}, {length_mm:0g} long",
    "dart_cant_be_pivoted": "Only a folded dart that stands away from the corners can be turned about its point.",
    "dart_cant_open_there": (
        "The dart can't be opened {along_mm} along “{edge}”; choose a place away from its ends and from the dart."
    ),
    "dart_drawn": "dart on {edge}: intake {intake_mm:0g} at {along_mm:0g}, {length_mm:0g} long",
    "dart_gone": "This dart is no longer there.",
    "dart_legs_uneven": (
        "The legs of the dart on “{edge}” are {first_mm:0} and {second_mm} long; sewn together the fold twists and one runs out "
        "by {apart_mm}. Move its point, or ease one leg in."
    ),
    "dart_listed": "dart on {edge} at {along_mm:0g}: intake {intake_mm:0g}, {length_mm:0g} long",
    "dart_point_outside": "The point of the dart on “{edge}” lies outside the panel; make the dart shorter.",
    "dart_share_out_of_range": "Give a share over 0 and up to 100 % of the dart.",
    "dart_taken": " − {taken_mm:0} dart",
    "dart_through_opening": "The dart on “{edge}” runs through {opening}; move one of them or make the dart shorter.",
    "darts_cross": "The darts on “{edge}” and “{other}” cross; make them shorter or move them apart.",
    "darts_of_edge_cross": "Two darts on “{edge}” cross; make them shorter or move them apart.",
    "doesnt_fit_on_edge": (
        "The {what} on edge “{edge}” runs from {from_mm:0} to {to_mm} along it; the edge is {length_mm} long, "
        "or something else stands there. Move it or make it smaller."
    ),
    "double_notch_listed": "double notch on {edge} at {along_mm:0g}",
    "drop_out_of_range": "A drop is {least_mm:g} to {most_mm:g}, and what tucks under 0 to {tuck_most_mm:g}.",
    "ease_takes_all": "The ease takes away more than there is; give less.",
    "edge_moved_too_far": "An edge can be moved by {most_mm:g} at most; {given_mm:g} was given.",
    "edge_name_out_of_range": "An edge's name has 1 to 40 letters.",
    "edge_on_seam_line": "{edge}: {length_mm:0} on the seam line, + {allowance_mm:0g} {finish}",
    "edge_points_dont_fit": "A line has 2 points, an arc 3 and a curve 1 + 3n; this {kind} has {count}.",
    "edge_sewn": "{edge} sewn: {length_mm:0}{taken} = {left_mm:0}",
    "edge_taken_in_whole": "The darts and pleats on “{edge}” take in all of its length and more; take in less.",
    "edge_without_length": "Edge “{edge}” of the {what} has no length; remove it.",
    "edges_on_seam_line": "{first} to {last}, {count:edge/edges}: {length_mm:0} on the seam line, + {allowance_mm:0g} {finish}",
    "edges_run_alike": "These two edges run alike; measure from two that meet.",
    "feature_crosses_pivot": (
        "The {what} lies across the line from where the dart is to open to its point; {else_do}."
    ),
    "feature_to_change_gone": "What you are changing is no longer there.",
    "feature_to_remove_gone": "What you are removing is no longer there.",
    "fell_too_narrow": "A flat-felled seam shows {least_mm:g} at least; less can't be turned under.",
    "first_to_last": "{first} to {last}, {count:g} alike",
    "fit_clearance": "clearance {clearance_mm:0g}",
    "fit_girth": "girth ease {girth_mm:0g} ÷ 2π = {each_side_mm:0.2}",
    "fit_outline": "outline {width_mm:0} × {height_mm:0}, {round_mm:0} round",
    "fit_outward": "{parts}: {outward_mm:0.2} all round, {before_mm:0} becomes {after_mm:0} round",
    "fit_over": "over a layer of {over_mm:0g}: {over_mm:0g} a side, {across_mm:0g} across",
    "fit_percent": "{percent:+g} % = {width_mm:0} × {height_mm:0}",
    "fit_seam_line": "seam line {width_mm:0} × {height_mm:0}",
    "fit_shrunk": "shrinkage: ÷ (1 − {warp:g}) along the grain, ÷ (1 − {weft:g}) across it",
    "fit_stretched": "stretch used: ÷ (1 + {warp:g}) along the grain, ÷ (1 + {weft:g}) across it",
    "fit_width_and_height": "ease {across_mm:+0g} across, {up_mm:+0g} up, half a side = {width_mm:0} × {height_mm:0}",
    "fold_to_the_end": "fold to the end",
    "fold_to_the_start": "fold to the start",
    "fold_under": "fold {under_mm:0g} under",
    "fold_with_allowance": (
        "Edge “{edge}” is on the fold yet carries {allowance_mm:g}; such an edge is cut on the seam line."
    ),
    "gather_drawn": "gathered: {edge} {length_mm:0} ÷ {ratio:g} = {gathered_mm:0}",
    "gather_here": "gather {length_mm:0} to {gathered_mm:0}",
    "gather_listed": "{edge} gathered {ratio:g} : 1",
    "gather_of_merged_part": "Only a part of what becomes one edge is gathered; {else_do}.",
    "gather_on_no_edge": "A gather stands on an edge that isn't there.",
    "casing_drawn_in": (
        "Folded flat, the raw edge of “{edge}” is {percent:.0f} % longer than its place{most}; lay it in small tucks, what is "
        "drawn through takes them up."
    ),
    "hem_longer": (
        "Folded flat, the raw edge of “{edge}” is {percent:.0f} % longer than its place{most}; gather it, or "
        "take a facing."
    ),
    "hem_shorter": (
        "Folded flat, the raw edge of “{edge}” is {percent:.0f} % shorter than its place{most}; snip it, or "
        "take a facing."
    ),
    "hem_stands_out": (
        "Folded back, the hem of “{edge}” stands out by {stands_out_mm} at its end. Turn the corner there, or "
        "trim it once it is folded."
    ),
    "hem_too_deep": (
        "The hem of {hem_mm:g} on “{edge}” is deeper than the curve's radius of {radius_mm}: it can't be folded. "
        "Take a facing or bind it."
    ),
    "hole_is_filled": (
        "The allowance inside the hole leaves nothing of it to cut: the hole is only about {across_mm} across. "
        "Give it a smaller allowance, or face or bind it."
    ),
    "hole_number": "hole {number}",
    "hole_outside_panel": "Hole {hole} isn't inside the seam line; move it inward.",
    "holes_overlap": "Holes {hole} and {other} overlap; move them apart or make them one.",
    "house_rule_out_of_range": "The house rule for “{rule}” is {value_mm:g}; give 0 to {most_mm:g}.",
    "id_given_twice": "The id “{twice}” is given twice; give each thing one of its own.",
    "in_panel": "Panel “{panel}”: {refusal}",
    "inlet_closes": "The allowances on both sides of an inlet meet, so that it closes up; slit it open after cutting.",
    "intakes_overlap": "{which} on “{edge}” lie on one another; set them farther apart or take in less.",
    "lay_on_raw_edges": "lay it on the raw edges; the line is the seam line",
    "layer_cloth_out_of_range": "A layer's cloth is one line of 1 to 40 letters.",
    "layer_listed": "{role} of {cloth}, {grown_mm:0} grown",
    "length_out_of_range": "{what} is {value_mm:g}; give {low_mm:g} to {high_mm:g}.",
    "listed": "{parts}",
    "locked": "{mark}, locked",
    "mark_across": "across",
    "mark_bar": "bar",
    "mark_button": "button",
    "mark_centre": "centre",
    "mark_cross": "cross",
    "mark_exit": "exit",
    "mark_hand_sewn": "hand sewn",
    "mark_lock": "lock",
    "mark_note": "note",
    "mark_outside": "The mark “{mark}” lies outside the seam line; move it inward.",
    "mark_patch": "patch",
    "mark_text_out_of_range": "A mark's words are one line of 80 letters at most.",
    "mark_tie": "tie",
    "mark_top": "top",
    "mark_up_the_page": "up the page",
    "mark_with_text": "{text}",
    "mark_wrong_side": "wrong side",
    "measure_from_straight_edges": "Distances can be measured from straight edges only; choose another edge.",
    "measure_from_two_edges": "Measure from two edges that are there.",
    "mitre_limit_out_of_range": "A mitre's limit is 1 to 20 times the allowance.",
    "moved_in_to_nothing": "Moving the seam line in by {distance_mm} leaves nothing of the panel; take less.",
    "neaten_outer_edge": "neaten its outer edge first",
    "neaten_inner_edge": "neaten its inner edge first",
    "no_corner_for_template": "There is no corner here to make a template of.",
    "no_such_taper_depth": "Tapers have depths from 1 to {deepest}.",
    "no_corner_to_taper": "None of these corners stands out, so there is nothing to taper.",
    "no_edge_on_fold": (
        "The panel is cut on the fold, but no edge of it is marked to lie there: choose one straight edge and "
        "finish it “on the fold”."
    ),
    "no_such_edge_of_panel": "Panel “{panel}” has no such edge; choose one that is there.",
    "not_an_id": "“{given}” can't be an id; use 1 to 16 letters and digits.",
    "notch_cut_away": "The notch on “{edge}” stood where the edge was cut away; place it anew.",
    "notch_here_already": "There is a notch here already.",
    "notch_listed": "notch on {edge} at {along_mm:0g}",
    "notch_off_its_edge": "A notch would stand {along_mm} along edge “{edge}”, which is only {length_mm} long.",
    "notch_on_no_edge": "A notch stands on an edge that isn't there.",
    "notch_removed_already": "This notch has been removed already.",
    "nothing": "",
    "on_the_fold": " · on the fold",
    "opening_called": "“{opening}”",
    "pad_touches_itself": "The pad's seam line touches itself; it can't be filled.",
    "panel_count_out_of_range": "Panel “{panel}” is to be cut {count} times; give 1 to {most_pieces}.",
    "panel_name_twice": "Two panels are called “{panel}”; give each a name of its own.",
    "panel_size": "seam line {width_mm:0} × {height_mm:0}; with allowances {cut_width_mm:0} × {cut_height_mm:0} to cut",
    "panel_text_too_long": "The {what} of a panel is one line of {most} letters at most.",
    "place_on_fold": "place on the fold",
    "plan_has_no_corner": "This plan has no corner that would have to be taken in.",
    "pleat_drawn": "pleat on {edge}: {count} × {each_mm:0g} = {intake_mm:0g} at {along_mm:0g}",
    "pleat_fold": "fold",
    "pleat_lay_here": "lay here",
    "pleat_meet": "meet",
    "pleat_taken": " − {taken_mm:0} pleat",
    "pleats_drawn": "{count} pleats on {edge}: {count} × {each_mm:0g} = {intake_mm:0g} at {along_mm:0g}",
    "pleats_listed": "{count:pleat/pleats} on {edge}: intake {intake_mm:0g}",
    "every_piece_is_a_panel": "Every captured piece is a panel already.",
    "point_too_thin": (
        "Between “{edge}” and “{other}” the panel runs out in a point too thin to be cut or sewn. Cut it off, "
        "or turn one of the edges."
    ),
    "raw_with_allowance": "Edge “{edge}” is cut raw yet carries {allowance_mm:g}; such an edge is cut on the seam line.",
    "redrawn_edges_differ": "The outline has {count} edges; amounts were given for {amounts}. Look at it again.",
    "ring_crosses_itself": (
        "The {what} touches or crosses itself near ({x_mm:0}, {y_mm}), at {edges}; move an edge so that it doesn't."
    ),
    "ring_is_open": "The {what} is open: edge “{edge}” starts {gap_mm:.2} from the end of “{other}”.",
    "ring_needs_two_edges": "A ring needs two edges at least; these can't be merged.",
    "ring_without_edges": "The {what} has no edges.",
    "ring_without_inside": "The {what} has no inside: its edges lie on one another.",
    "rule_casing": (
        "{room}; stitched {stitched_mm:0g} from the fold, rounded up {depth_mm:0g}; + turn-under {under_mm:0g} "
        "= {total_mm:0g}"
    ),
    "rule_cord": "cord {cord_mm:0g}: π × {cord_mm:0g} ÷ 2 + {more_mm:0g} = {room_mm:0}",
    "rule_double_hem": "hem {hem_mm:0g} + turn-under {under_mm:0g} = {total_mm:0g}",
    "rule_elastic": "elastic {elastic_mm:0g} + {more_mm:0g} = {room_mm:0g}",
    "rule_felled_narrow": "fell {felled_mm:0g} wide − {inside_mm:0g} to lie inside it = {total_mm:0g}",
    "rule_felled_wide": "fell {felled_mm:0g} wide + {under_mm:0g} turned under = {total_mm:0g}",
    "rule_french": "first pass {first_mm:0g} + second pass {second_mm:0g} = {total_mm:0g}",
    "rule_hem": "hem {hem_mm:0g}, its raw edge neatened",
    "rule_lapped_over": "turned under by {seam_mm:0g}, lies over its mate by {lap_mm:0g}",
    "rule_lapped_under": "lies {lap_mm:0g} under its mate",
    "rule_on_seam": "cut on the seam line",
    "rule_plain": "{allowance_mm:0g} for this finish",
    "seam_line_clockwise": "The seam line runs clockwise; list its edges counter-clockwise, x to the right, y up.",
    "seam_line_parts_out_of_range": "Divide the seam line into 2 to 16 parts, from an edge that is there.",
    "shrinkage_out_of_range": "“{cloth}” shrinks by {percent:g} %; give 0 to 50 %.",
    "size_of_what_passes_missing": "Type in how large what passes through the aperture is.",
    "slit": "slit",
    "slit_drawn": "slit of {aperture}: {length_mm:0} to {edge}",
    "slit_misses_edge": "The slit of “{aperture}” never meets the edge; give it another direction.",
    "slit_once_faced": "slit once it is faced",
    "slit_turned_back": (
        "each side of it turned back by {shows_mm:0g} ÷ 2 = {turned_mm:0g}, so that the girth doesn't change"
    ),
    "slit_with_zip": "slit of {aperture}: {length_mm:0} to {edge}; zip {zip_mm:0g}",
    "slit_without_zip": (
        "slit of {aperture}: {length_mm:0} to {edge}; no zip in stock is that long, take one from the roll: "
        "{length_mm:0} + ends"
    ),
    "split_too_near_an_end": "Edge “{edge}” is {length_mm} long; split it between {least_mm:g} and {most_mm}.",
    "stands_at_corner_taken": "The {what} stands at a corner that the change takes away; {else_do}.",
    "stands_on_no_edge": "A {what} stands on an edge that isn't there.",
    "stands_where_outline_changes": "The {what} stands where the outline changes; {else_do}.",
    "stitch_facing": "stitch the facing here",
    "stretch_out_of_range": "“{cloth}” stretches by {percent:g} %; give 0 to 200 %.",
    "taper_drawn": (
        "taper at the end of {edge}: reach {reach_mm:0g} and {reach_after_mm:0g}, inset {inset_mm:0g}: "
        "{before:.1f}° becomes {after:.1f}°"
    ),
    "taper_inside_out": (
        "The corner at the end of “{edge}” can't be tapered by {inset_mm:g} over a reach of {reach_mm:g}: it "
        "would turn inside out. Reach farther or go in less."
    ),
    "taper_listed": "taper at the end of {edge}: {reach_mm:0g} along the edge, {inset_mm:0g} inwards",
    "taper_reaches_too_far": (
        "The taper reaches {reach_mm:g} along edge “{edge}”, which is {length_mm} long; it may reach less than "
        "half of it."
    ),
    "test_mark_unlikely": (
        "The {mark} mark {where} can't measure {measured_mm}; print again at 100 %, and check which mark you measured."
    ),
    "too_many_cloths": "A workshop keeps {most_cloths} cloths at most, each with a name of its own.",
    "too_many_features": "Of one kind of feature (“{kind}”) a panel has {most_features} at most.",
    "trim_once_sewn": "trim once sewn",
    "turn_under_too_wide": (
        "Edge “{edge}” turns {turn_under_mm:g} under, of {allowance_mm:g}; at most half of the allowance can "
        "be turned under."
    ),
    "two_darts": "Two darts",
    "two_edges_on_fold": "“{edge}” and “{other}” can't both lie on the fold: only one straight edge can.",
    "two_pleats": "Two pleats",
    "value_out_of_range": "{what} is {value:g} {unit}; give {low:g} to {high:g} {unit}.",
    "where_it_bends_most": " where it bends most",
    "with_slit": ", slit",
    "zips_out_of_range": "At most 40 zip lengths, each over {least_mm:g}, can be in stock.",
}
