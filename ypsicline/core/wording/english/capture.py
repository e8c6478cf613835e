"""English words on photos and sheets."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "calibration_from_one_side": (
        "The photos are all from nearly the same side, within {spread:.0f}°. Tilt the camera by 20 to 30° to "
        "the left, the right, forward and back between them."
    ),
    "calibration_held_two_ways": "Some photos are upright and some lie; hold the camera the same way for all of them.",
    "calibration_needs_photos": (
        "A calibration takes at least {least_photos} photos of the sheets, from different sides; these are {count}."
    ),
    "calibration_of_several_cameras": (
        "The photos are of different cameras or sizes; calibrate one camera at one setting."
    ),
    "camera_in_doubt": (
        "One photo leaves the camera in doubt, by up to {doubt_mm} along the outline. Take two or three more "
        "of the same scene from other sides, or use a camera profile."
    ),
    "colour_near_the_table": (
        "No piece stands out: its colour is too near that of what it lies on. Lay it on something plain, dark "
        "under a light piece or light under a dark one."
    ),
    "distance_needs_two_sheets": "A distance runs from one sheet to another; name two.",
    "drawn_hole_left_out": (
        "A closed line drawn inside the outline wasn't made a hole: other lines touch it, or it can't be followed. "
        "If it is a hole, paint inside it with “this is table”."
    ),
    "edge_is_weak": (
        "Along {percent:.0f} % of its edge the piece is hard to tell from what lies beside it; it may be "
        "{doubt_mm} off there. Look along it, or lay something plain of another shade under the piece."
    ),
    "edge_like_the_table": (
        "The piece hardly differs from the table along its edge. Put something plain of another shade under it."
    ),
    "edge_not_followed": "The piece's edge could not be followed; light it more evenly.",
    "focal_length_in_doubt": (
        "The focal length is still in doubt by {percent:.1f} %. Take more photos, closer and from further aside."
    ),
    "height_of_the_camera": "The height given is that of the camera itself; measure from the sheets up to the outline.",
    "height_out_of_range": "The outline lies 0 to {highest_mm:g} above the sheets; {height_mm:g} was given.",
    "in_photo": "Photo {photo}: {refusal}",
    "joined_scans_too_large": "The joined scans are too large; scan at fewer dots per inch, 150 is plenty.",
    "line_bridged": (
        "{percent:.0f} % of the line is missing or crossed by other lines and was bridged; look at it closely."
    ),
    "line_doesnt_stand_out": "no line stands out from the paper",
    "line_hardly_followed": "too little of the line can be followed",
    "line_not_closed": "the line is not closed",
    "marks_not_of_an_outline": (
        "{count} marks were found between the sheets; {least} to {most} make an outline. Use a dark pen on "
        "plain paper, dots of {small_mm:g} to {large_mm:g}, and take off what isn't a mark."
    ),
    "no_closed_line": (
        "No closed drawn line was found: {why}. Draw over gaps of more than {gap_mm}, use a darker pen, and "
        "keep the sheets off the line."
    ),
    "no_piece_stands_out": (
        "No piece stands out from the table. Point at it in the photo; if that doesn't help, lay something "
        "plain of another shade under the piece and the reference sheets."
    ),
    "no_sheet_in_photo": (
        "No reference sheet was found. Lay printed sheets flat beside the piece, whole, in even light, and "
        "take the photo again; if they are there, come closer or hold the camera stiller."
    ),
    "no_sheets_on_paper": "There are no reference sheets on “{paper}”; choose a4, letter or a3.",
    "no_such_piece_in_photo": "There is no piece {piece}; the photo shows {count}.",
    "no_such_piece_in_scan": "There is no piece {piece}; the scan shows {count}.",
    "not_a_photo": "This file is not a photo that can be read; send a JPEG, PNG, TIFF, WebP or HEIC.",
    "not_one_of_our_sheets": "“{sheet}” is not one of our reference sheets; print them afresh.",
    "no_line_round_place": (
        "No closed line goes round the place that you pointed at. Point at the middle of the drawn shape, or follow its "
        "line by hand."
    ),
    "nothing_where_pointed": (
        "Nothing that stands out from the table lies where you pointed. Point at the middle of the piece, or "
        "lay something plain of another shade under it."
    ),
    "only_one_sheet": "Only one sheet was found; lay sheets on all sides of the piece for a surer outline.",
    "outside_the_sheets": (
        "{percent:.0f} % of the outline lies outside the ring of sheets, up to {away_mm}; it is less sure "
        "there. Lay sheets on all sides of the piece."
    ),
    "photo_blurred": (
        "No reference sheet can be read: the whole photo is blurred. Hold the camera still or lean it on "
        "something, let it focus, and take it again."
    ),
    "photo_blurred_at_sheet": (
        "The photo is blurred: edges on sheet {sheet} are smeared over {smeared_px:.0f} pixels. Hold the "
        "camera still or lean it on something, let it focus, and take it again."
    ),
    "photo_broken": "The photo is broken and can't be read to its end; send it again.",
    "photo_mirrored": (
        "The sheets are mirrored here: the photo was mirrored, as some cameras towards oneself do, or the sheets were printed so. "
        "Take it with the camera at the back, of sheets that can be read."
    ),
    "photo_seems_cropped": (
        "The photo seems to be cropped: the lens doesn't look at its middle. It was measured all the same, "
        "less surely; send the whole photo."
    ),
    "photo_shares_no_sheet": (
        "Photo {apart} shares no sheet with the others, so they can't be joined. Take the photos so that "
        "neighbours show at least one sheet, better two, in common."
    ),
    "photo_tilted": "The photo is tilted by {tilt:.0f}°; straight from above is better.",
    "photo_too_heavy": "The photo has {megabytes:.0f} MB; {most:.0f} MB is the most.",
    "photo_too_many_megapixels": (
        "The photo has {megapixels:.0f} megapixels; {most:.0f} is the most that a {kind} may have. Send a "
        "smaller one, or a JPEG."
    ),
    "photo_too_many_pixels": "The photo has too many pixels; send a smaller one.",
    "photo_too_oblique": (
        "{photo} was taken too obliquely, {tilt:.0f}° from straight above; {tilt_at_most_deg:.0f}° is the "
        "most. Hold the camera over the middle of the piece and look straight down."
    ),
    "photo_too_small": "The photo is only {width} × {height} pixels, too few to measure in; send it at full size.",
    "piece_hardly_seen": (
        "What looks like the piece hardly differs from the table along its edge. Point at the piece in the photo; "
        "if that doesn't help, put something plain of another shade under it."
    ),
    "piece_out_of_picture": (
        "What looks like the piece runs out of the picture. If the piece is something else, point at it in the "
        "photo; if not, step back until all of it and the sheets round it are in view, or take several photos "
        "that overlap."
    ),
    "piece_over_scan_edge": (
        "The piece runs over the scan's edge. Scan it in tiles that overlap by a hand's breadth, and leave a "
        "finger's breadth of the lid showing all round."
    ),
    "point_outside_picture": "That lies outside the picture.",
    "pointing_didnt_help": (
        "Even so the outline would be up to {doubt_mm} off: too much of the piece's edge is like what lies "
        "beside it. Lay something plain of another shade under the piece and take the photo again, or follow "
        "its edge by hand."
    ),
    "profile_impossible": "This camera profile holds impossible numbers; calibrate the camera again.",
    "profile_incomplete": "This camera profile is incomplete; calibrate the camera again.",
    "profile_of_other_photos": (
        "The camera profile was made with photos of {profile_width} × {profile_height} pixels, this photo has "
        "{width} × {height}: another shape, so it was cropped or taken at another setting. Measure without the "
        "profile."
    ),
    "scan_joins_no_other": (
        "Scan {alone} can't be joined to the others: nothing on it is seen on another. Let tiles overlap by a "
        "hand's breadth, and draw a few letters where they do."
    ),
    "scan_resolution_out_of_range": "A scan has {least_dpi:.0f} to {most_dpi:.0f} dots per inch; {dpi:g} was given.",
    "scanner_to_check": (
        "A scanner is true to about 0.1 %, one that isn't known to no more than 1 %: scan a steel rule once "
        "and measure it here."
    ),
    "sheet_against_piece": (
        "A sheet lies against the piece along {percent:.0f} % of its edge; where one covers the other the edge "
        "isn't known. Leave two fingers' breadth between them."
    ),
    "sheet_bows": "Sheet {sheet} is not flat: it seems to bow by {bow_mm}. Press the sheets down.",
    "sheet_cut_off": "Sheet {sheet} is cut off by the edge of the picture; the rest of it was used.",
    "sheet_fits_no_view": "The sheet can't be measured: its corners fit no view of a flat sheet.",
    "sheet_moved": (
        "Sheet {sheet} doesn't lie where the other sheets put it: it moved between photos or is curled. It was left out."
    ),
    "sheet_not_used": "Sheet {sheet} was not used. {why}",
    "sheet_of_another_job": "A reference sheet is in the picture, but not one of those that were printed for this job.",
    "sheet_over_piece": (
        "A reference sheet lies against or over the piece along {percent:.0f} % of its edge, which can't be "
        "seen there. Leave two fingers' breadth between them; or point at the piece, and settle that stretch "
        "by hand."
    ),
    "sheet_printed_at_another_scale": (
        "Sheet {sheet} measures {percent:.1f} % of the others' size: it was printed at another scale and left "
        "out. Print all sheets at 100 %, in one go."
    ),
    "sheet_too_small": (
        "Sheet {sheet} is too small in the picture: its squares are only {square_px:.0f} pixels wide, "
        "{least_px:.0f} are needed. Come closer, or send the photo at full size."
    ),
    "sheet_unreadable": (
        "Too little of sheet {sheet} can be read: it is cut off, covered, creased or in glare. Show it whole and flat."
    ),
    "sheets_apart_out_of_range": "Two sheets can't lie {apart_mm:g} apart; give {least_mm:g} to {most_mm:g}.",
    "sheets_count_out_of_range": (
        "There are 1 to {sheets_per_paper} different sheets on a paper; {count} were asked for."
    ),
    "sheets_fit_no_camera": (
        "The sheets fit no ordinary camera: they may be printed at different scales, have moved, or not lie "
        "flat, or the photo was altered. Measure the test marks on each, press them flat, and take the photo "
        "again."
    ),
    "sheets_not_flat": (
        "The sheets don't lie on one flat table: their corners miss by {residual_px:.1f} pixels. Press curled "
        "sheets flat, lay all of them on the surface that the piece lies on, and move none between photos."
    ),
    "sheets_of_unlike_size": (
        "Beside sheet {smaller}, sheet {larger} measures {percent:.1f} % too large: one of the two was printed at another "
        "scale, or {larger} lies on something. Measure the test marks on both, lay them flat on the table, and take the photo "
        "again."
    ),
    "smooth_through_marks": "A smooth outline was laid through {count} marks; they stray from it by up to {strays_mm}.",
    "stage_finding_line": "finding the line",
    "stage_finding_marks": "finding the marks",
    "stage_finding_piece": "finding the piece",
    "stage_finding_sheets": "looking for the sheets",
    "stage_following_edge": "following its edge",
    "stage_judging_error": "judging the error",
    "stage_solving_camera": "working out camera and lens",
    "stroke_out_of_range": "A stroke has 1 to 5000 points and is {least_mm:g} to {most_mm:g} wide.",
    "strokes_leave_nothing": "With these strokes nothing of the piece would be left; take one back.",
    "table_hardly_shows": (
        "Too little of what the piece lies on shows to know its colour. Leave a hand's breadth free round it."
    ),
    "tablet_marks_too_near": "The two marks lie at least {least_mm:g} apart, better as far as the tablet reaches.",
    "tablet_out_of_scale": (
        "The tablet says {tablet_mm} between the marks, you say {typed_mm}: over 5 % apart. Touch the marks "
        "again, or check the tape."
    ),
    "tablet_sent_no_touch": "The tablet sent something other than touches; set it to send `T x y` lines.",
    "tablet_touch_far_away": "The tablet sent a touch that lies metres beside it; check what it measures in.",
    "tablet_touches_too_few": (
        "Touch the two marks first, then {least_points} places round the outline at least; {count} touches came."
    ),
    "tape_between_sheets_left_out": (
        "The tape says {tape_mm} between sheets {first} and {second}, the photos {photos_mm}. The tape was "
        "left out; measure between the upper left corners of their chequers."
    ),
    "tiles_disagree": "The tiles disagree by {apart_mm} where they overlap; lay the paper flat on the glass.",
    "too_many_photos_together": "One to {most_photos} photos can be measured together; these are {count}.",
    "too_many_scans": "One to {most_tiles} scans can be joined; these are {count}.",
    "wall_left_out": (
        "The side wall is seen on the near side, {wide_mm} wide; it was left out. There the outline "
        "follows the edge of the top's own colour."
    ),
    "wall_may_be_seen": (
        "If a side wall of the same shade is seen on the near side, the outline is up to {wide_mm} too large "
        "there. Take the photo from straighter above."
    ),
    "way_outside_picture": "A point lies outside the picture; the edge can only be followed where it is seen.",
    "way_points_out_of_range": "A way along the edge has {least} to {most_points} points.",
    "which_is_the_piece": (
        "What is piece and what is table can be read in more than one way here, and the outline would be up to "
        "{doubt_mm} off. Point at the piece in the photo; if that doesn't help, lay something plain of another "
        "shade under it."
    ),
}
