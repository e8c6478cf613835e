"""English words on truing up."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "cant_be_symmetric": "It can't be symmetric with BC {bc_mm:0g} and DA {da_mm:g}: those are equal then.",
    "choose_edge_for_length": "Choose another edge for it to be as long as.",
    "choose_edge_for_parallel": "Choose another edge for it to be parallel with.",
    "corner_here_already": "There is a corner here already.",
    "corner_midway": "This corner lies midway between its neighbours, so it has no way to become square.",
    "corner_radius_found": "diagonal {diagonal_mm:0g} through the rounded corners: their radius is {radius_mm:0}",
    "corner_too_far_away": "A corner can't lie there: it would be over 100 m away.",
    "cut_for_stretch": "{name}: {on_mm:0} ÷ {stretched:.3f} = {cut_mm:0}",
    "diagonal_cant_be": (
        "A diagonal of {diagonal_mm:g} can't be right: with sharp corners it is {sharp_mm}, with the roundest "
        "{least_mm}."
    ),
    "diagonal_comes_to": "{diagonal} comes to {length_mm:0}",
    "diagonals_come_to": "{diagonal} comes to {length_mm:0}; {other} comes to {other_mm:0}",
    "edges_far_from_parallel": "Edges {edge} and {other} are over 45° apart; they aren't meant to be parallel.",
    "fold_corners_are_neighbours": (
        "These two corners are neighbours too close to fold between; choose two across from each other."
    ),
    "fold_cuts_more_than_once": (
        "The fold line cuts the outline more than once, so it has no two halves. Choose two corners across "
        "from each other."
    ),
    "fold_needs_two_corners": "The fold runs from one corner of the outline to another; choose two.",
    "fold_runs_along_edge": "The fold line runs along an edge; choose two corners across from each other.",
    "measures_contradict": (
        "These measures contradict one another by more than a tape is off: “{measure}” is typed as {given_mm:g}, and fits best at "
        "{found_mm}, {off_mm} away. Measure it and its neighbours again, or leave one diagonal out."
    ),
    "four_sides_can_lean": (
        "Four sides alone don't fix the shape: it can lean. Measure a diagonal, or say that it is symmetric."
    ),
    "girth_across": "girth {girth_mm:0g} ÷ π = {across_mm:0} across",
    "girth_of_pencil_across": "girth {girth_mm:0g} ÷ π − 2 × {pencil_mm:0g} = {across_mm:0} across",
    "marked_in_eighths_at_most": "An outline is marked in halves, quarters or eighths.",
    "measure_corner_removed": "This measure's corner has been removed; take the measure off the list.",
    "measure_for_scale_not_typed": (
        "Type what your tape says for a measure first, a straight one if width and height may differ."
    ),
    "measure_missing": "A measure is missing or over {most:.0f} m.",
    "measure_not_typed": "Type what your tape says for a measure first.",
    "measure_out_of_range": "{measure} of {length_mm:g} can't be right; give more than 0 and at most {most_mm:g}.",
    "measures_agree": "all measures within {within_mm}, {measure} the worst",
    "measures_dont_fit": (
        "The measures don't fit one another: {measure} is out by {out_mm} at the least. Measure it again."
    ),
    "measures_run_alike": "All measures run much the same way; type one across it too, or scale both alike.",
    "must_be_longer_than_nothing": "The {name} must be longer than nothing.",
    "no_such_corner": "There is no corner {corner} on this outline; it has {count}.",
    "no_such_hole": "There is no such hole in the outline.",
    "off_longer_than_on": (
        "The {name} is longer off the frame ({off_mm:g}) than on it ({on_mm:g}). Are the two swapped? If the "
        "cover really hung loose, give the measure on the frame alone."
    ),
    "outline_needs_two_corners": "An outline needs two corners at least; add another before removing this one.",
    "outline_too_many_corners": (
        "The outline has over {max_joints} corners; raise the tolerance or trace it more plainly."
    ),
    "outline_without_inside": "The outline has no inside; trace at least three points round it.",
    "pencil_wider_than_radius": "The pencil stands off by more than the radius; check both measures.",
    "quarter_corner_gone": "The corner that the quarters start from is gone; mark them afresh.",
    "radius_doesnt_fit": "A corner radius of {radius_mm:g} doesn't fit; {most_mm:g} is the most for this size.",
    "rolled_arcs": "arcs of {inner_mm:0} and {outer_mm:0} about one centre, {angle:.1f}°",
    "rolled_girths": (
        "girths rolled: {small_mm:0} and {large_mm:0}; slant height {slant_mm:0}; marks stray by up to {strays_mm:0}"
    ),
    "rolled_marks_not_in_rows": "The marks don't lie in two rows; mark both edges of the body as it rolls.",
    "rolled_marks_stray": (
        "The marks don't lie in two rows: they stray by up to {strays_mm} from the best two arcs. Take off "
        "what isn't a mark of the roll."
    ),
    "rolled_marks_too_few": "A rolled trace takes two rows of {least_in_a_row} marks at least; {count} were found.",
    "rolled_off": "{name} girth taped {taped_mm:0}, rolled {rolled_mm:0}: off by {by_mm:+0.1}",
    "rolled_slipped": "{name} girth taped {taped_mm:0}, rolled {rolled_mm:0}: slipped by {by_mm:+0.1}",
    "rolled_uneven": "the ends of the two rows don't match: {apart_mm:0} apart along the large one",
    "sides_cant_bridge": "AB {ab_mm:0g} and CD {cd_mm:g} differ by more than the slanted sides can bridge.",
    "smoothing_out_of_range": "Smoothing may move the outline by {least_mm:g} to {most_mm:g}; {given_mm:g} was given.",
    "square_corner_needs_neighbours": "A square corner needs two other corners beside it.",
    "station_upside_down": "At {at_mm:g} the lower side lies above the upper one; swap them.",
    "stations_at_one_place": "Two stations stand at {at_mm:g}; each needs a place of its own.",
    "stations_out_of_range": "Give 3 to {most_stations} stations; these are {count}.",
    "step_corner_gone": "The corner that this step is about isn't there any more.",
    "stretch_in_use": "{name}: ({on_mm:0} − {off_mm:0}) ÷ {off_mm:0} = {percent:.1f} % stretch in use",
    "stretch_of_measure_out_of_range": (
        "The {what} would stretch by {percent:.0f} % in its {name}; 0 to {most:.0f} % can be. Measure again."
    ),
    "tape_changes_too_much": (
        "The tape would change the outline by {percent:.0f} %. That is more than a photo can be wrong: check "
        "the tape, its unit, and which corners you measured between."
    ),
    "tape_contradicts": (
        "The measures contradict one another: no outline meets them all; {measure} stays {apart_mm} apart. "
        "Measure again, or take one off the list."
    ),
    "tape_measure_without_ends": "A tape measure runs between two corners or along an edge; name one.",
    "tape_too_far": (
        "{measure} would have to change by {by_mm}. That is more than a photo can be wrong: check the tape, "
        "its unit, and which corners you measured between."
    ),
    "tolerance_out_of_range": "A tolerance of {tolerance_mm:g} makes no sense here; give {least_mm:g} to {most_mm:g}.",
    "triangle_cant_be": (
        "{measure} of {length_mm:g} can't be right: {one} and {two} together are only {together_mm:g}. Measure "
        "them again."
    ),
    "way_ends_at_one_place": "Start and finish at two places of the outline, with what is wrong between them.",
    "way_ends_off_outline": (
        "Start and finish the way on the outline, where it is right; what lies between is replaced."
    ),
    "way_needs_two_points": "The way along the edge needs two points at least.",
}
