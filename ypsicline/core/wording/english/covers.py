"""English words on covers drafted from measures, and on joins."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "reckoned_disc": "disc",
    "reckoned_wall": "wall",
    "reckoned_right": "Your {what} of {own_mm} is right.",
    "reckoned_long": "Your {what} of {own_mm} is {off_mm} too long; it is cut {right_mm}. {why}",
    "reckoned_short": "Your {what} of {own_mm} is {off_mm} too short; it is cut {right_mm}. {why}",
    "reckoned_otherwise": "No usual shortcut comes to that; go through its sum line by line.",
    "reckoned_ease_on_diameter": "The ease is of the girth; on the diameter it was added more than three times over.",
    "reckoned_allowance_once": "The allowance is added on both sides of the circle.",
    "reckoned_allowance_forgotten": "The allowance is missing.",
    "reckoned_ease_forgotten": "The ease is missing.",
    "reckoned_cut_circle": "It was reckoned round the cut circle; it is sewn on the seam line.",
    "reckoned_cut_circle_without_joins": "It was reckoned round the cut circle, and without its joins; it is sewn on the seam line.",
    "reckoned_eased_diameter": "The ease was added to the diameter; round the circle that is more than three times as much.",
    "reckoned_joins_forgotten": "The allowances of its join are missing.",
    "slit_meets_no_edge": "From “{post}” the edge isn’t reached towards {degrees:g}°; turn the slit, or leave its direction out.",
    "buttons_both_sides": "{count:button/buttons} on either side, laced through the filling",
    "lock_outside": "the cord’s lock is reached from outside",
    "lock_inside": "the cord’s lock is reached from inside: the exits are in the casing’s inner side",
    "unpicked_edge": "the old edge was opened flat: {casing_mm} of casing is taken off, {added_mm} cut away is put back",
    "sewn_sides_need_no_ties": "Sides that are sewn need no ties; take one of the two.",
    "flaps_overlap": "opening of {opening_mm}: two flaps of doubled cloth that overlap by {overlap_mm}",
    "ease_of_the_brief": "{ease_term} {ease_mm}: {looseness}, {clearance_mm} off it all round",
    "clearance_of_the_brief": "{looseness}, by the brief: {clearance_mm} off it all round",
    "cloth_of_the_brief": "{cloth}: the brief’s cloth",
    "suits_cord_under": "a cord under it: the foot carries one",
    "suits_wind": "against weather: a cord at the foot keeps the wind from lifting it",
    "suits_zipped": "zipped: it opens by a zip",
    "suits_inner_bag": "filled: loose filling stays in a bag of its own when the cover comes off",
    "suits_piping": "against wear: piping takes the wear at the seams",
    "suits_pulled_over": "pulled over: elastic draws it in again",
    "suits_tied": "tied under: ties on either side",
    "suits_padding": "for padding: a soft layer inside",
    "suits_bound": "a bound edge wears best and looks finished",
    "suits_hemmed": "against dust: a hem is enough",
    "suits_felled": "a felled seam holds most and keeps water out",
    "suits_flue": "something hot is near: distances are looked at",
    "suits_person": "it carries a person: it is to be tried by somebody competent",
    "on_top_lapped": "“{over}” lies over “{under}”.",
    "on_top_gathered": "Sew it with “{longer}” on top, where its gathers are seen; “{shorter}” lies beneath.",
    "on_top_eased": "Sew it with “{longer}” beneath, where the machine feeds more; “{shorter}” lies on top.",
    "join_notched": "Both sides of join {letter} were notched",
    "mouth_opens": "The mouth is {mouth_mm} round; to pass {widest_mm} it needs {needed_mm}, 2 % more than that.",
    "mouth_stretched": (
        "The mouth is {mouth_mm} round, {opens_mm} stretched by {percent:g} %; to pass {widest_mm} it needs {needed_mm}, "
        "2 % more than that."
    ),
    "mouth_passes": "The mouth opens to {opens_mm} and passes the widest on the way, {widest_mm}.",
    "mouth_too_narrow": (
        "The mouth opens to {opens_mm}, but {needed_mm} are needed to pass the widest on the way, {widest_mm}: it won’t go on."
    ),
    "corners_meet": "{panels} meet at {count:corner/corners}, of {each} = {whole:g}°: end each seam at the dot there.",
    "corners_over_all_round": (
        "Where {panels} meet, their corners are {each} = {whole:g}°, more than all round: the cloth can only stand in a fold there."
    ),
    "pieces_too_few": "“{panel}” is cut {cut:time/times}, and {sewn:piece is/pieces are} sewn.",
    "pieces_left_over": "“{panel}” is cut {cut:time/times}, but only {sewn:piece is/pieces are} sewn to anything.",
    "upside_down_alike": "“{panel}” upside down looks the same but is {apart_mm} off. Say on it which way up it goes.",
    "hands_alike": (
        "“{panel}” is cut {count:time/times}, all of one hand, and differs from its mirror image by {apart_mm}. If they are a left and "
        "a right one, cut pairs."
    ),
    "relief_cuts_drawn": "“{panel}” has {count:snip/snips} drawn where it turns tightly{wedges}, to {short_mm} from the seam line.",
    "all_cuts_wedges": ", all of them wedges",
    "wedges_among_cuts": ", {wedges:g} of them wedges",
    "facing_not_drawn": "{count:facing/facings} of “{panel}” can’t be drawn here: trace along the panel’s edge, {wide_mm} wide.",
    "places_unreadable": "“{given}” can’t be read as places; type each as across; up, with a stroke between: 0; 0 / 640; 0.",
    "mend_facing": "Turn the edge with a facing, cut in its own shape",
    "mend_way_up": "Write on it that it lies as drawn",
    "mend_sew_first": "Sew “{letter}” before “{by}”",
    "mend_pairs": "Cut {count:pair/pairs}",
    "mend_count": "Cut {count:piece/pieces}",
    "this_way_up": "this way up",
    "back_at_top": "the back at the top",
    "mouth_at_bottom": "the mouth at the bottom",
    "measure_below_zero": "The {measure_term} can’t be below zero.",
    "measure_instead": "{measure_term} {length_mm} instead of {now_mm}",
    "result_to_buy": "{goods_term}, length",
    "result_in_one_piece": "{strip}, cloth that it takes in one piece",
    "no_such_result": "The cover has no such result any more.",
    "mend_shorten": "Make “{edge}” of “{panel}” {by_mm} shorter, {length_mm}",
    "mend_remove_join": "Take the join out",
    "mend_measures": "Take {measures}",
    "mend_measure_too": ", {measure_term} {length_mm}",
    "mend_measure": "{measure_term} {length_mm}",
    "mend_lengthen": "Make “{edge}” of “{panel}” {by_mm} longer, {length_mm}",
    "mend_house_allowance": "Give them the house’s allowance",
    "mend_gather": "Gather the longer side {fullness:g} times",
    "mend_finish": "Finish both sides for a {seam} seam",
    "mend_ease_in": "Ease {over_mm} in",
    "mend_allowances": "Give both sides the house’s allowance",
    "only_squared_panels_drawn_out": "Only a panel of straight edges square to one another can be drawn out; “{panel}” isn’t one.",
    "edge_length_too_short": "An edge is {least_mm} long at least.",
    "allowances_left_out": (
        "Without allowances {missing_mm} is missing over {across_mm}: the cloth has to give {percent:.1f} %, and it gives "
        "{have:.1f} %."
    ),
    "area_called": "“{area}”, cut {count}:",
    "area_named_twice": "Two areas are called “{area}”; give each its own name.",
    "area_needs_name": "Each area needs a name of 1 to 40 letters.",
    "area_not_captured": "Not captured yet: {areas}. A slip with a panel forgotten can't be sewn.",
    "band_snipped": (
        "The band turns on a radius of {radius_mm}: its allowance of {allowance_mm} is snipped there so that it lies flat."
    ),
    "binding_corners": " + {corners:corner/corners} × {width_mm:0}",
    "binding_in_packs": (
        "binding: {run_mm:0} + {overlap_mm:0} overlap{at_corners} = {length_mm}; "
        "{packs:pack/packs} of {pack_mm}, {left_mm} left over"
    ),
    "binding_length": "binding: {run_mm:0} + {overlap_mm:0} overlap{at_corners} = {length_mm}",
    "binding_too_wide": (
        "A binding of {binding_mm} doesn't lie flat round a radius of {radius_mm}. Take a narrower one, or round the corner "
        "to {least_mm}."
    ),
    "binds_upside_down": (
        "Top and bottom differ by {apart_mm} ({percent:.1f} %): put on upside down it binds. TOP is marked on the panel."
    ),
    "bore_too_small": "A hole of {bore_mm} doesn't let a rope of {rope_mm} through.",
    "carries_weight": (
        "What carries a person is to be tried by somebody competent, with more than that weight, before anyone sits on it."
    ),
    "casing_too_shallow": "A casing of {depth_mm} is too shallow for what runs in it; it needs {least_mm}.",
    "casing_typed": "casing: {depth_mm:0} deep + {under_mm:0} turned under = {total_mm}",
    "cloth_roughly": (
        "{cloth}: about {length_mm:~} of cloth {width_mm:~} wide, by the boxes of its panels in rows and 15 % more; rough, before they "
        "are laid out"
    ),
    "closed_line": "drawn in, the edge lies on a line of {under_mm}; the plan is {plan_mm} round",
    "closed_line_too_long": (
        "Drawn in, the edge is {under_mm} and the plan {plan_mm} round: it doesn't hook under. Let it tuck under further."
    ),
    "closing_seam_walked": (
        "Sew the body to the disc from its middle outwards and walk the rest: the closing seam goes where both ends meet, "
        "at most {limit_mm} from its mark."
    ),
    "cloth_too_narrow_for_joins": "Cloth {usable_mm} wide leaves nothing between joins of {join_mm}.",
    "cone_arc_inner": "check the inner arc with a ruler: {chord_mm:0} straight across, {sagitta_mm:0} deep",
    "cone_arc_outer": "check the outer arc with a ruler: {chord_mm:0} straight across, {sagitta_mm:0} deep",
    "cone_ring": (
        "({large_mm:0} − {small_mm:0}) ÷ {slant_mm:0} = {angle:.4f}, which is {degrees:.2f}°; outer radius {large_mm:0} ÷ "
        "{angle:.4f} = {outer_mm}, inner {inner_mm}"
    ),
    "cord_has_no_slack": (
        "Led out at the slits the cord needs {needed_mm} more than it has, and it has {slack_mm} to spare. Put in a longer "
        "one."
    ),
    "cord_holds_too_little": (
        "Between exits {exit_mm} from a corner the bare cord holds {holds_mm} deep, and more than {needed_mm} is needed. Set "
        "the exits farther from the corner."
    ),
    "cord_led_out": "the cord is cut and led out {exit_mm} either side of each slit: {count:end/ends}",
    "cord_length": "cord: {run_mm:0} + 2 × {tail_mm:0} tails = {length_mm}",
    "corner_gathers": "On corners of radius {radius_mm} the edge gathers to 1 ÷ {ratio:.2f}.",
    "corner_gathers_much": (
        "On corners of radius {radius_mm} the edge gathers very much when it wraps under by {wrap_mm}: it folds there. Wrap "
        "less, or cut a dart."
    ),
    "corner_taken_in": (
        "each of {count:corner/corners}, radius {radius_mm:0}, turning {degrees:.1f}°: taken in {at_drop_mm:0} at the drop "
        "of {drop_mm:0}, {at_edge_mm} at the edge; the cord gathers {gathered_mm:0}"
    ),
    "corner_taken_square": "each square corner: 2 × ({drop_mm:0} + {tuck_mm:0}) = {intake_mm} taken in",
    "corners_will_stand_out": "Filled, a pad's corners stand out like ears unless they are tapered.",
    "cross_needs_rectangle": "Only a rectangle can be cut as one sheet with its corners cut out.",
    "cross_saves_seams": "A square of {square_mm} is cut out at each corner; its two sides are sewn together.",
    "cut_away_restored": "{added_mm} was cut away from the old edge and is put back all round",
    "dart_as_pinned": (
        "Pinned {pinned_mm}, reckoned {reckoned_mm}: {count:dart takes/darts take} in what was pinned. A dart that is off "
        "by {apart_mm:+} twists."
    ),
    "darts_before_casing": "Sew the {count:dart/darts} before the casing, so that it runs over closed seams.",
    "diagonal_or_radius": "Give the diagonal or the corner's radius, not both: the one follows from the other.",
    "disc_across": (
        "disc: girth {girth_mm:0} + ease {ease_mm:0} = {whole_mm:0}; ÷ π = {across_mm} across the seam line; "
        "+ 2 × {allowance_mm:0} = {cut_mm} to cut"
    ),
    "division_too_narrow": "A pocket of {each_mm} is narrow: a hand needs more. Ask for fewer divisions, or {least_mm} each.",
    "drape_parted": "front {front_mm:0} and back {back_mm:0}, joined with seams of {seam_mm}",
    "drawn_in_added": "{by_mm} added all round, because filling draws the plan in",
    "ease_added_twice": (
        "If ease of {ease_mm} were added to the diameter as well as to the girth, disc and wall would differ by {over_mm}."
    ),
    "ease_takes_girth": "An ease of {ease_mm} leaves nothing of a girth of {girth_mm}.",
    "elastic_length": "elastic: {run_mm:0} less {percent:.0f} % + {overlap_mm:0} overlap = {length_mm}",
    "ends_are_a_pair": "The two ends are a pair: one is the mirror image of the other. Mark them left and right.",
    "eyelet_for_rope": "an eyelet of {bore_mm} for a rope of {rope_mm}",
    "capture_coarse_for_ease": (
        "“{piece}” may be off by {error_mm:^}, and its clearance is {clearance_mm}: capture it more closely, or give more ease."
    ),
    "edges_without_allowance": "{count:edge needs/edges need} an allowance: {edges}.",
    "face_size": "{width_mm:0} × {length_mm:0}, {round_mm} round",
    "filling_in_bags": "{how}: {volume:.1f} litres × {firmness:g} = {litres:.1f} litres; {bags:bag/bags} of {bag:g}",
    "filling_litres": "{how}: {volume:.1f} litres × {firmness:g} = {litres:.1f} litres",
    "flue_needs_distance": (
        "Cloth near a flue can burn: keep the distance that its maker and your local rules ask for, or leave it to somebody "
        "licensed."
    ),
    "foot_slides_over": "The turned sleeve takes {taken_mm} off the ease of {ease_mm}: {left_mm} is left to slide it over.",
    "foot_too_tight": (
        "The turned sleeve takes {taken_mm} off the girth and the ease is {ease_mm}: it won't slide over. Give it more ease."
    ),
    "frill_depth": "frill: {width_mm:0} deep + its double hem + {seam_mm:0} seam",
    "frill_length": "frill: {fullness:g} × {run_mm:0} = {length_mm}",
    "furnishing_flammability": (
        "On seating, local rules on flammability hold: ask for the cloth's certificate, and mind what the rules say."
    ),
    "gas_needs_air": "Over gas: leave the cover open to the air at its foot and top, and never cover it while it runs.",
    "girth_or_diameter": "Give the girth or the diameter, one of them.",
    "girths_or_rolled": "Give both girths, or a trace rolled over one full turn.",
    "gusset_slit": (
        "gusset {length_mm:0} × {width_mm:0}: both sides are arcs of radius {radius_mm:0}, {slit_mm} long; slit the panel as "
        "long and ease it in"
    ),
    "gusset_too_wide": "A gusset {width_mm} wide has to be longer than {length_mm}.",
    "half_needs_centre_line": "A half profile has its centre line as a straight, upright edge at its left.",
    "half_needs_straight_edge": "A half has a straight edge that lies on the fold.",
    "halves_alike": "The halves agree to within {apart_mm:^}.",
    "halves_differ": (
        "The halves differ by up to {apart_mm}. If the object does too, keep it and mark left and right; else fold the "
        "outline along its middle."
    ),
    "narrows": (
        "The profile narrows from {widest_mm:0} at {above_mm:0} above the mouth to {mouth_mm}, by {by_mm}. A trace leans easily, "
        "and a hood that narrows where its object doesn't binds: measure across at both. If it does narrow, type the widest "
        "girth on the way; else true its sides up."
    ),
    "narrowing_measured": (
        "The profile narrows from {widest_mm:0} at {above_mm:0} above the mouth to {mouth_mm}, by {by_mm}; the widest girth on "
        "the way is measured."
    ),
    "heights_too_unlike": "The heights at the left and the right differ by more than the cover is wide.",
    "hem_fills_opening": "A hem of {hem_mm} fills the opening for “{post}” of {across_mm}.",
    "hooks_under_nothing": "Without anything tucked under, wind or a knee lifts it off.",
    "hooks_under_too_little": (
        "It tucks under by {tuck_mm}; to hold it needs more than {needed_mm}, or wind and knees lift it off."
    ),
    "inner_bag_closed": "Close the inner bag for good: loose beads choke and smother.",
    "join_allowances_differ": "{join}: allowances from {least_mm} to {most_mm}, though the seam asks for equal ones.",
    "join_at_opening_end": (
        "A join of the wall lies {away_mm} from an end of the opening, where it is pulled at; {wanted_mm} would be better."
    ),
    "join_eased": "{join}: {first_mm:0} and {second_mm:0}; {over_mm} ({percent:.1f} %) eased in",
    "join_edge_gone": "A join of “{panel}” is sewn along an edge that is no longer there.",
    "and_after_join": " and {join}",
    "join_closed_off": (
        "{join} is sewn after {by}, which runs over its end: it can't be sewn to there any more. Sew it earlier."
    ),
    "join_closed_in": (
        "{join} is sewn after {by}, which run over both of its ends: it is closed in, to be reached through an opening at "
        "most. Sew it earlier."
    ),
    "join_equal": "{join}: {first_mm:0} and {second_mm:0}, they match",
    "join_finish_differs": "{join}: edge “{edge}” is finished as {finish}, the seam asks for {wanted}.",
    "join_fullness_off": "{join}: gathered {ratio:.2f} times, asked for {asked:.2f}.",
    "join_gathered": "{join}: {second_mm:0} gathered to {first_mm:0}, {ratio:.2f} times",
    "join_letter_too_long": "A join's letter is one to three letters.",
    "join_lettered": "join {letter}, {first} to {second}",
    "join_mismatch": (
        "{join}: {first_mm:0} and {second_mm:0} don't match; {over_mm} ({percent:.1f} %) too long on one side."
    ),
    "join_near_corner": (
        "A join of the walls lies {away_mm} from a corner; {wanted_mm} would be better. Take wider cloth, or walls by side."
    ),
    "join_needs_both_sides": "A join has at least one edge on either side, and {most_edges} at most.",
    "join_of": "{first} to {second}",
    "join_panel_gone": "A join names the panel “{panel}”, which isn't there.",
    "join_under_aperture": "The opening at {at_mm} lies over the join at {join_mm}. Move one of them.",
    "layers_bind": (
        "Two equal layers need ease of at least {growth_mm}, twice the cloth, and have {ease_mm}: the inner one binds. Give "
        "more ease, or nest them."
    ),
    "layers_growth": "a layer over another {thickness_mm:0} thick grows by 2 × that = {growth_mm} across",
    "let_in_contrast": (
        "strip let in at {at_mm:0}: finished {width_mm:0} + 2 × {join_mm:0} = {cut_mm} to cut; the band is as much shorter"
    ),
    "let_in_repair": (
        "strip let in at {at_mm:0}: adds {width_mm:0}, + 2 × {join_mm:0} = {cut_mm} to cut; slit the band there, either side "
        "loses its own seam"
    ),
    "let_in_too_wide": "A strip of {width_mm} leaves nothing of a band of {girth_mm}.",
    "likely_mates": (
        "Perhaps mates: edge {first_edge} of “{first}” ({first_mm}) and edge {second_edge} of “{second}” ({second_mm})."
    ),
    "lining_as_large": "A lining as large as the outer binds once there is wadding between; say how thick the layers are.",
    "lining_smaller": "lining {thickness_mm:0} smaller a side, {growth_mm} across, since it lies inside the wadding",
    "locks_for_exits": "a lock at {count:exit/exits}",
    "loft_beyond_bag": "A loft of {loft_mm} is more than the plies hold; as full as they go they take {litres:.1f} litres.",
    "loop_at_top": "a loop of {length_mm} in the seam at the top",
    "loose_filling": "Loose beads choke and smother: fill an inner bag, and close it for good.",
    "mark_before_cutting": (
        "Mark each opening with the cover centred and drawn tight on the object, and try the template there. Cut last."
    ),
    "measure_or_outline_missing": "Type in the {measure_term} too, or choose an outline.",
    "mouth_needs_straight_edge": "The mouth is the lowest straight edge of the profile, and it has none.",
    "no_metal_here": "A metal eyelet marks a delicate finish. Overstitch the hole instead.",
    "no_zip_as_long": "The opening is {opening_mm} and the longest zip in stock {longest_mm}.",
    "not_an_outline": "An outline is a list of points, or the content of an outline file.",
    "opening_too_small": "An opening of {opening_mm} is too small for {passes}, which needs {needed_mm}.",
    "openings_need_four_walls": "Handles and a vent are cut into the middle of four straight walls; this plan has others.",
    "outline_edges_vanish": "Moved in so far, edges of the outline vanish. Move it less.",
    "outline_point_twice": "Two points of the outline that follow one another are the same.",
    "outline_points_out_of_range": "An outline has 3 to {most} points, not {count}.",
    "passes_filling": "filling",
    "passes_hand": "a hand",
    "piece_has_no_outline": "“{piece}” has no outline yet; choose the captured piece that it is.",
    "piece_rises": (
        "“{piece}” stands off the table by {rises_mm}. Cut it from the rim to its middle, where it opens by about {opens_mm}, "
        "and capture it again in two pieces."
    ),
    "piping_length": "piping: {run_mm:0} + 2 × {end_mm:0} = {length_mm}",
    "pocket_over_join": "The pocket ends {top_mm} above the hem, beyond the front. Lower it.",
    "post_leans": "“{post}” leans by {degrees:g}°: the opening is {along_mm} long that way",
    "post_opening": ("“{post}”: {diameter_mm:0} + 2 × {clearance_mm:0} = {across_mm} finished, {cut_mm} to cut"),
    "post_over_edge": "The opening for “{post}” reaches over the cover's edge.",
    "post_relief": "{count} relief cuts round it, one every {spacing_mm}",
    "posts_out_of_range": "Give 1 to {most} posts.",
    "posts_overlap": (
        "Between the openings of “{first}” and “{second}” {gap_mm} is left, and their hems need {needed_mm}. Make one "
        "opening for both."
    ),
    "print_upside_down": (
        "In one length a directional print hangs upside down at the back. Join a front and a back so that it stands upright "
        "on both."
    ),
    "profile_has_two_feet": "A profile has two feet, not {count}.",
    "profile_needs_feet": "Mark the two feet of the profile: it has no straight edge to stand on.",
    "radii_overlap": "The corners' radii are larger than the sides between them.",
    "radius_of_diagonal": ("diagonal {diagonal_mm:0} on {width_mm:0} × {length_mm:0}: corners of radius {radius_mm}"),
    "rail_pocket": "room for the rail: half of its girth {girth_mm:0} a side, 2 × {each_mm:0}; {width_mm} across",
    "rolled_off_tape": (
        "Rolled {rolled_mm}, taped {taped_mm}: {off_mm:+}. It slipped, or start and finish aren't one full turn."
    ),
    "rough_only": (
        "These are rough pieces with {margin_mm} all round, to be pinned on, chalked and captured; they aren't a pattern yet."
    ),
    "seam_doesnt_close_sleeve": "A sleeve is closed by a plain, French, felled, lapped, piped or bound seam.",
    "sector_overlaps": "In one piece the sleeve would lie over itself. Take {least:panel/panels} or more.",
    "shell_eased": "ease {across_mm:0} across and {up_mm:0} up",
    "shell_needs_pieces": "Give 1 to {most} captured pieces.",
    "shell_piece_twice": "Two pieces have the same name.",
    "shell_seam_unknown": "“{piece}” has no edge {number} to be sewn.",
    "shell_seams_not_named": "Say which edges were one on the shell, so that they can be walked.",
    "slant_of_height": "slant: √({height_mm:0}² + {inward_mm:0}²) = {slant_mm}",
    "slant_or_height": "Give the slant or the height, one of them.",
    "slant_too_short": "A slant of {slant_mm} can't be: the girths alone ask for more than {least_mm}.",
    "sleeve_straight": "the girths differ by {percent:.2f} %, less than 0.2 %: cut straight, {girth_mm} round",
    "slip_needs_areas": "List the areas to be covered, or choose captured pieces.",
    "slip_not_joined_yet": "Join the edges of the {count:panel/panels}: each is joined to another or finished.",
    "slit_needs_edge": "Give the cover's edge that slits lead to, or choose none.",
    "slit_to_edge": (
        "“{post}”: slit {slit_mm} straight to the nearest edge, each side turned back by {turned_mm:0} so that the girth stays"
    ),
    "slots_close": "Slots {slot_mm} long stand only {apart_mm} apart.",
    "slots_differ_by_side": "Left and right have different stations: the back ply is the front's mirror image.",
    "square_corners_fold": "At square corners the edge folds instead of gathering; round them a little.",
    "stations_out_of_order": "The stations on the {side} have to rise from one to the next.",
    "strap_across": "strap at {at_mm:0}: {length_mm} across",
    "strap_beside_board": "There is no board where the strap is.",
    "strip_in_one": "{what}: {length_mm:0} comes out of cloth {usable_mm:0} wide in one piece",
    "strip_of_several": (
        "{what}: {length_mm:0} out of cloth {usable_mm:0} wide with joins of {join_mm:0}: {count} pieces of {each_mm}; in one "
        "piece it takes cloth {in_one_mm} wide"
    ),
    "sum_alone": "{what}: {total_mm}",
    "sum_first": "{name} {value_mm:0}",
    "sum_minus": " − {name} {value_mm:0}",
    "sum_of": "{what}: {parts} = {total_mm}",
    "sum_plus": " + {name} {value_mm:0}",
    "tape_for_strap": "fastener tape {length_mm} at the strap's end",
    "taper_taken_as_straight": "Top and bottom differ by {apart_mm}, too little to matter: it is cut straight.",
    "term_allowance": "allowance",
    "term_allowances": "allowances",
    "term_band": "band",
    "term_body": "body",
    "term_body_height": "body, height",
    "term_bottom": "bottom",
    "term_depth": "depth",
    "term_ease": "ease",
    "term_girth": "girth",
    "term_height": "height",
    "term_hems": "hems",
    "term_joins": "joins",
    "term_length": "length",
    "term_margin": "margin",
    "term_over_two": "over",
    "term_sleeve": "sleeve",
    "term_strip": "strip",
    "term_thickness": "thickness",
    "term_top": "top",
    "term_tuck": "tuck",
    "term_wall": "wall",
    "term_wall_height": "wall, height",
    "term_width": "width",
    "term_wrap": "wrap",
    "ties_at_back": "{count} ties, {length_mm:0} × {width_mm:0}, folded in four",
    "ties_level": "ties {height_mm:0} above both hems, so that they meet level; {from_back_mm:0} along the girth",
    "ties_near_children": "Ties near children: keep them short, or let them come undone when they are pulled.",
    "ties_of_ribbon": "{count} ties of {length_mm}",
    "too_many_areas": "A slip has {most} areas at most.",
    "too_many_stations": "A side has {most} stations at most.",
    "too_many_strips": "That would take {count} pieces, and {most} is the most.",
    "top_at_top": "TOP at the top",
    "tuck_beyond_middle": "A tuck of {tuck_mm} meets in the middle of the plan.",
    "turned_through": "leave {gap_mm} open in the back's hem, to turn it through",
    "underlay_draws_in": (
        "Quilting draws wadding in: cut it larger, some {wanted_mm}, not {margin_mm}, and trim it back."
    ),
    "underlay_trimmed": "the underlay is cut {margin_mm} larger all round, stitched, and trimmed back",
    "underside_line": "wrapped {wrap_mm:0} under, the elastic holds a line of {line_mm}",
    "vent_under_flap": "Sew a flap over the vent, so that rain runs off.",
    "volume_of_bag": "a bag {width_mm:0} × {length_mm:0} as full as it goes",
    "volume_of_drum": "a drum {across_mm:0} across and {height_mm:0} high",
    "volume_of_loft": "two thirds of the plan × {loft_mm:0}",
    "wall_of_cut_circle": (
        "A wall as long as the cut circle is round would be {over_mm} too long: it is sewn on the seam line."
    ),
    "wall_round_plan": "the walls are {round_mm} round, as long as the top's seam line",
    "wrap_too_small": "A wrap of {wrap_mm} doesn't hold; take {least_mm} or more.",
    "wraps_meet": "A wrap of {wrap_mm} meets under the board.",
    "zip_cut": "zip cut from the length: {opening_mm:0} + 2 × {end_mm:0} = {length_mm}",
    "zip_stocked": "opening {opening_mm:0}: the next zip in stock is {length_mm}",
}
