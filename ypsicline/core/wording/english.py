"""English words for every message of the core, by its code; how values are written is in `said`."""

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
        "{allowance_mm}: the cutting line loses a loop there. Snip the allowance, or face the edge."
    ),
    "allowance_out_of_range": "Edge “{edge}” has an allowance of {allowance_mm:g}; give 0 to {most_mm:g}.",
    "allowance_too_narrow_to_notch": "The allowance of “{edge}” is too narrow to notch; mark it with chalk.",
    "aperture_finished": "{aperture}: {size}{in_cloth}, {finish}",
    "aperture_hemmed": "{aperture}: {size}{in_cloth}; − 2 × {depth_mm:0g} hem = {cut} to cut",
    "aperture_in_cloth": ", {size} in this cloth",
    "aperture_near_seam": (
        "“{aperture}” lies {gap_mm} from the seam line of “{edge}”, closer than three times its allowance of "
        "{allowance_mm:g}: there is little room to sew both."
    ),
    "aperture_round": "{passes_mm:0g} + 2 × {clearance_mm:0g} = {across_mm:0} finished",
    "aperture_sides": (
        "{passes_mm:0g} × {passes_up_mm:0g} + 2 × {clearance_mm:0g} = {across_mm:0} × {up_mm:0} finished"
    ),
    "bent_edge_on_fold": "Edge “{edge}” isn't straight, so it can't lie on the cloth's fold.",
    "bound_with_allowance": (
        "Edge “{edge}” is bound yet carries {allowance_mm}; such an edge is cut on the seam line."
    ),
    "camera_in_doubt": (
        "One photo leaves the camera in doubt, by up to {doubt_mm} along the outline. Take two or three more "
        "of the same scene from other sides, or use a camera profile."
    ),
    "cant_be_symmetric": "It can't be symmetric with BC {bc_mm:0g} and DA {da_mm:g}: those are equal then.",
    "casing_out_of_range": (
        "The casing of edge “{edge}” carries a cord of 0 to {cord_most_mm:g} or elastic of 0 to {elastic_most_mm:g}."
    ),
    "cloth_too_thick": "A cloth is 0 to {most_mm:g} thick; {thickness_mm:g} was given for “{cloth}”.",
    "corner_cut_across": (
        "The corner between “{edge}” and “{other}” can't be drawn as asked: a curved edge bends away before "
        "the allowances meet. It is cut straight across; look at it, or choose another corner."
    ),
    "corner_dart_drawn": "dart at the end of {edge}: intake {intake_mm:0}, half on each edge, {length_mm:0} long",
    "corner_dart_too_wide": "Half of the dart's intake, {half_mm}, is longer than edge “{edge}”.",
    "corner_radius_found": "diagonal {diagonal_mm:0g} through the rounded corners: their radius is {radius_mm:0}",
    "cut_for_stretch": "{name}: {on_mm:0} ÷ {stretched:.3f} = {cut_mm:0}",
    "dart_and_pleat": "A dart and a pleat",
    "dart_cant_open_there": (
        "The dart can't be opened {along_mm} along “{edge}”; choose a place away from its ends and from the dart."
    ),
    "dart_drawn": "dart on {edge}: intake {intake_mm:0} at {along_mm:0}, {length_mm:0} long",
    "dart_legs_uneven": (
        "The legs of the dart on “{edge}” are {first_mm:0} and {second_mm} long; sewn together one runs out "
        "by {apart_mm}. Move its point, or ease one leg in."
    ),
    "dart_point_outside": "The point of the dart on “{edge}” lies outside the panel; make the dart shorter.",
    "dart_taken": " − {taken_mm:0} dart",
    "dart_through_opening": "The dart on “{edge}” runs through {opening}; move one of them or make the dart shorter.",
    "darts_cross": "The darts on “{edge}” and “{other}” cross; make them shorter or move them apart.",
    "darts_of_edge_cross": "Two darts on “{edge}” cross; make them shorter or move them apart.",
    "diagonal_cant_be": (
        "A diagonal of {diagonal_mm:g} can't be right: with sharp corners it is {sharp_mm}, with the roundest"
        " {least_mm}."
    ),
    "diagonal_comes_to": "{diagonal} comes to {length_mm:0}",
    "diagonals_come_to": "{diagonal} comes to {length_mm:0}; {other} comes to {other_mm:0}",
    "doesnt_fit_on_edge": (
        "The {what} on edge “{edge}” runs from {from_mm:0} to {to_mm} along it; the edge is {length_mm} long,"
        " or something else stands there. Move it or make it smaller."
    ),
    "drop_out_of_range": "A drop is {least_mm:g} to {most_mm:g}, and what tucks under 0 to {tuck_most_mm:g}.",
    "edge_cut_on_seam": "{edge} · {finish}",
    "edge_is_weak": (
        "Along {percent:.0f} % of its edge the piece is hard to tell from what lies beside it; it may be "
        "{doubt_mm} off there. Look along it, or lay something plain of another shade under the piece."
    ),
    "edge_moved_too_far": "An edge can be moved by {most_mm:g} at most; {given_mm:g} was given.",
    "edge_on_seam_line": "{edge}: {length_mm:0} on the seam line, + {allowance_mm:0g} {finish}",
    "edge_sewn": "{edge} sewn: {length_mm:0}{taken} = {left_mm:0}",
    "edge_taken_in_whole": "The darts and pleats on “{edge}” take in all of its length and more; take in less.",
    "edge_turned_under": "{edge} · {allowance_mm:0g} {finish} ({under_mm:0g} turned under)",
    "edge_with_allowance": "{edge} · {allowance_mm:0g} {finish}",
    "fell_too_narrow": "A flat-felled seam shows {least_mm:g} at least; less can't be turned under.",
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
    "fold_under": "fold {under_mm:0g} under",
    "fold_with_allowance": (
        "Edge “{edge}” is on the fold yet carries {allowance_mm}; such an edge is cut on the seam line."
    ),
    "gather_drawn": "gathered: {edge} {length_mm:0} ÷ {ratio:g} = {gathered_mm:0}",
    "gather_here": "gather {length_mm:0} to {gathered_mm:0}",
    "girth_across": "girth {girth_mm:0g} ÷ π = {across_mm:0} across",
    "girth_of_pencil_across": "girth {girth_mm:0g} ÷ π − 2 × {pencil_mm:0g} = {across_mm:0} across",
    "hem_longer": (
        "Folded flat, the raw edge of “{edge}” is {percent:.0f} % longer than its place{most}; gather it, or "
        "take a facing."
    ),
    "hem_shorter": (
        "Folded flat, the raw edge of “{edge}” is {percent:.0f} % shorter than its place{most}; snip it, or "
        "take a facing."
    ),
    "hem_stands_out": (
        "Folded back, the hem of “{edge}” stands out by {stands_out_mm} at its end. Turn the corner there, or"
        " trim it once it is folded."
    ),
    "hem_too_deep": (
        "The hem of {hem_mm} on “{edge}” is deeper than the curve's radius of {radius_mm}: it can't be "
        "folded. Take a facing or bind it."
    ),
    "hole_is_filled": (
        "The allowance inside the hole leaves nothing of it to cut: the hole is only about {across_mm} "
        "across. Give it a smaller allowance, or face or bind it."
    ),
    "hole_number": "hole {number}",
    "house_rule_out_of_range": "The house rule for “{rule}” is {value_mm:g}; give 0 to {most_mm:g}.",
    "in_file": "{file}: {refusal}",
    "in_panel": "Panel “{panel}”: {refusal}",
    "in_photo": "Photo {photo}: {refusal}",
    "inlet_closes": (
        "The allowances on both sides of an inlet meet, so that it closes up; slit it open after cutting."
    ),
    "intakes_overlap": "{which} on “{edge}” lie on one another; set them farther apart or take in less.",
    "length_out_of_range": "{what} is {value_mm:g}; give {low_mm:g} to {high_mm:g}.",
    "listed": "{parts}",
    "locked": "{mark}, locked",
    "mark_outside": "The mark “{mark}” lies outside the seam line; move it inward.",
    "marks_not_of_an_outline": (
        "{count} marks were found between the sheets; {least} to {most} make an outline. Use a dark pen on "
        "plain paper, dots of {small_mm:g} to {large_mm:g}, and take off what isn't a mark."
    ),
    "measure_out_of_range": "{measure} of {length_mm:g} can't be right; give more than 0 and at most {most_mm:g}.",
    "measures_agree": "all measures within {within_mm}, {measure} the worst",
    "measures_dont_fit": (
        "The measures don't fit one another: {measure} is out by {out_mm} at the least. Measure it again."
    ),
    "moved_in_to_nothing": "Moving the seam line in by {distance_mm} leaves nothing of the panel; take less.",
    "no_closed_line": (
        "No closed drawn line was found: {why}. Draw over gaps of more than {gap_mm}, use a darker pen, and "
        "keep the sheets off the line."
    ),
    "no_edge_on_fold": (
        "The panel is cut on the fold, but no edge of it is marked to lie there: choose one straight edge and"
        " finish it “on the fold”."
    ),
    "notch_cut_away": "The notch on “{edge}” stood where the edge was cut away; place it anew.",
    "notch_off_its_edge": "A notch stands {along_mm} along edge “{edge}”, which is {length_mm} long.",
    "nothing": "",
    "off_longer_than_on": (
        "The {name} is longer off the frame ({off_mm:g}) than on it ({on_mm:g}). Are the two swapped? If the "
        "cover really hung loose, give the measure on the frame alone."
    ),
    "opening_called": "“{opening}”",
    "outside_the_sheets": (
        "{percent:.0f} % of the outline lies outside the ring of sheets, up to {away_mm}; it is less sure "
        "there. Lay sheets on all sides of the piece."
    ),
    "panel_size": (
        "seam line {width_mm:0} × {height_mm:0}; with allowances {cut_width_mm:0} × {cut_height_mm:0} to cut"
    ),
    "pleat_drawn": "pleat on {edge}: {count} × {each_mm:0} = {intake_mm:0} at {along_mm:0}",
    "pleat_taken": " − {taken_mm:0} pleat",
    "pleats_drawn": "{count} pleats on {edge}: {count} × {each_mm:0} = {intake_mm:0} at {along_mm:0}",
    "point_too_thin": (
        "Between “{edge}” and “{other}” the panel runs out in a point too thin to be cut or sewn. Cut it off,"
        " or turn one of the edges."
    ),
    "pointing_didnt_help": (
        "Even so the outline would be up to {doubt_mm} off: too much of the piece's edge is like what lies "
        "beside it. Lay something plain of another shade under the piece and take the photo again, or follow "
        "its edge by hand."
    ),
    "radius_doesnt_fit": "A corner radius of {radius_mm:g} doesn't fit; {most_mm:g} is the most for this size.",
    "raw_with_allowance": (
        "Edge “{edge}” is cut raw yet carries {allowance_mm}; such an edge is cut on the seam line."
    ),
    "ring_crosses_itself": (
        "The {what} touches or crosses itself near ({x_mm:0}, {y_mm}), at {edges}; move an edge so that it doesn't."
    ),
    "ring_is_open": "The {what} is open: edge “{edge}” starts {gap_mm:.2} from the end of “{other}”.",
    "rolled_arcs": "arcs of {inner_mm:0} and {outer_mm:0} about one centre, {angle:.1f}°",
    "rolled_girths": (
        "girths rolled: {small_mm:0} and {large_mm:0}; slant height {slant_mm:0}; marks stray by up to {strays_mm:0}"
    ),
    "rolled_marks_stray": (
        "The marks don't lie in two rows: they stray by up to {strays_mm} from the best two arcs. Take off "
        "what isn't a mark of the roll."
    ),
    "rolled_off": "{name} girth taped {taped_mm:0}, rolled {rolled_mm:0}: off by {by_mm:+0.1}",
    "rolled_slipped": "{name} girth taped {taped_mm:0}, rolled {rolled_mm:0}: slipped by {by_mm:+0.1}",
    "rolled_uneven": "start and finish of the two rows don't answer: {apart_mm:0} apart along the large one",
    "rule_casing": (
        "{room}; stitched {stitched_mm:0g} from the fold, rounded up {depth_mm:0g}; + turn-under "
        "{under_mm:0g} = {total_mm:0g}"
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
    "sheet_bows": "Sheet {sheet} is not flat: it seems to bow by {bow_mm}. Press the sheets down.",
    "sheets_apart_out_of_range": "Two sheets can't lie {apart_mm:g} apart; give {least_mm:g} to {most_mm:g}.",
    "sides_cant_bridge": "AB {ab_mm:0g} and CD {cd_mm:g} differ by more than the slanted sides can bridge.",
    "slit_drawn": "slit of {aperture}: {length_mm:0} to {edge}",
    "slit_turned_back": (
        "each side of it turned back by {shows_mm:0g} ÷ 2 = {turned_mm:0g}, so that the girth doesn't change"
    ),
    "slit_with_zip": "slit of {aperture}: {length_mm:0} to {edge}; zip {zip_mm:0g}",
    "slit_without_zip": (
        "slit of {aperture}: {length_mm:0} to {edge}; no zip in stock is that long, take one from the roll: "
        "{length_mm:0} + ends"
    ),
    "smoothing_out_of_range": (
        "Smoothing may move the outline by {least_mm:g} to {most_mm:g}; {given_mm:g} was given."
    ),
    "split_too_near_an_end": "Edge “{edge}” is {length_mm} long; split it between {least_mm:g} and {most_mm}.",
    "station_upside_down": "At {at_mm:g} the lower side lies above the upper one; swap them.",
    "stations_at_one_place": "Two stations stand at {at_mm:g}; each needs a place of its own.",
    "stretch_in_use": "{name}: ({on_mm:0} − {off_mm:0}) ÷ {off_mm:0} = {percent:.1f} % stretch in use",
    "stroke_out_of_range": "A stroke has 1 to 5000 points and is {least_mm:g} to {most_mm:g} wide.",
    "tablet_marks_too_near": "The two marks lie at least {least_mm:g} apart, better as far as the tablet reaches.",
    "tablet_out_of_scale": (
        "The tablet says {tablet_mm} between the marks, you say {typed_mm}: over 5 % apart. Touch the marks "
        "again, or check the tape."
    ),
    "tape_between_sheets_left_out": (
        "The tape says {tape_mm} between sheets {first} and {second}, the photos {photos_mm}. The tape was "
        "left out; measure between the upper left corners of their chequers."
    ),
    "tape_contradicts": (
        "The measures contradict one another: no outline meets them all; {measure} stays {apart_mm} apart. "
        "Measure again, or take one off the list."
    ),
    "tape_too_far": (
        "{measure} would have to change by {by_mm}. That is more than a photo can be wrong: check the tape, "
        "its unit, and which corners you measured between."
    ),
    "taper_drawn": (
        "taper at the end of {edge}: reach {reach_mm:0} and {reach_after_mm:0}, inset {inset_mm:0}: "
        "{before:.1f}° becomes {after:.1f}°"
    ),
    "taper_inside_out": (
        "The corner at the end of “{edge}” can't be tapered by {inset_mm:g} over a reach of {reach_mm:g}: it "
        "would turn inside out. Reach farther or go in less."
    ),
    "taper_reaches_too_far": (
        "The taper reaches {reach_mm} along edge “{edge}”, which is {length_mm} long; it may reach less than "
        "half of it."
    ),
    "tiles_disagree": "The tiles disagree by {apart_mm} where they overlap; lay the paper flat on the glass.",
    "tolerance_out_of_range": (
        "A tolerance of {tolerance_mm:g} makes no sense here; give {least_mm:g} to {most_mm:g}."
    ),
    "triangle_cant_be": (
        "{measure} of {length_mm:g} can't be right: {one} and {two} together are only {together_mm:g}. "
        "Measure them again."
    ),
    "turn_under_too_wide": (
        "Edge “{edge}” turns {turn_under_mm:g} under, of {allowance_mm:g}; at most half of the allowance can "
        "be turned under."
    ),
    "two_darts": "Two darts",
    "two_edges_on_fold": "“{edge}” and “{other}” can't both lie on the fold: only one straight edge can.",
    "two_pleats": "Two pleats",
    "wall_left_out": (
        "The side wall is seen on the near side, {wide_mm} wide; it was left out, its foot taken to stand "
        "straight below the rim."
    ),
    "wall_may_be_seen": (
        "If a side wall of the same shade is seen on the near side, the outline is up to {wide_mm} too large "
        "there. Take the photo from straighter above."
    ),
    "where_it_bends_most": " where it bends most",
    "which_is_the_piece": (
        "What is piece and what is table can be read in more than one way here, and the outline would be up "
        "to {doubt_mm} off. Point at the piece in the photo; if that doesn't help, lay something plain of "
        "another shade under it."
    ),
    "zips_out_of_range": "At most 40 zip lengths, each over {least_mm:g}, can be in stock.",
}
