"""English words on jobs and the workshop."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "belongs_to_no_workshop": "You are signed in but belong to no workshop; ask whoever keeps the workshop to add you.",
    "brief_note_too_long": "A note in the brief is over {longest_text} letters long; shorten it.",
    "calibration_photos_out_of_range": "A calibration takes three to {most_photos} photos; these are {count}.",
    "copy_damaged": "{copy} is damaged or no copy of a workshop.",
    "copy_database_damaged": "The database in {copy} is damaged.",
    "copy_file_changed": "A file in {copy} isn't what it was: {file}…",
    "corner_without_taper": "This corner isn't tapered, so it needs no template.",
    "drawing_too_many_outlines": (
        "This drawing holds {count} outlines; {most_panels} panels is the most. Leave only what is to be cut."
    ),
    "fewer_pieces_than_names": "There are fewer pieces in the photo than names were given.",
    "file_kind_unread": "Only SVG, DXF and panels files (.svg, .dxf, .json) can be read here.",
    "file_takes_too_long": (
        "The {kind} takes too long or too much memory to read. Leave only the outline in it, and save it again."
    ),
    "file_too_large_here": "The file has {megabytes:.0f} MB; {most:.0f} MB is the most.",
    "grain_out_of_range": "The grainline's angle lies between -360° and 360°.",
    "height_to_measure": (
        "The outline lies 0 to {highest_mm:g} above the sheets; measure from the sheets straight up to it."
    ),
    "in_file": "{file}: {refusal}",
    "job_hangs_on_wall": "This job hangs on the wall; put it away before you delete it.",
    "length_below_zero": "“{typed}” is below zero; give a length of zero or more.",
    "length_divides_by_zero": "“{typed}” divides by zero; check the fraction.",
    "length_over_100_m": "“{typed}” is over 100 m; check the unit.",
    "length_read_two_ways": "“{typed}” can be read two ways; type {thousands} or {point}.",
    "length_typed_in_cm": "type it like 31.4, 314 mm or 12 3/8 in",
    "length_typed_in_inches": "type it like 12 3/8, 12.375 or 3' 2 1/2\"",
    "length_typed_in_mm": "type it like 314, 31.4 cm or 12 3/8 in",
    "length_unreadable": "“{typed}” can't be read as a length; {how}.",
    "measure_gone": "This measure is no longer on the list.",
    "models_to_choose": "Models are printed at 1:{models}.",
    "name_a_piece": "Name at least one of the pieces.",
    "name_unpicked_edges": "Say which edges were unpicked or cut away, and by how much.",
    "no_length_typed": "No length was typed; {how}.",
    "no_network_for_phones": (
        "A phone can't reach this server: it answers this machine only. Start it for the workshop's own "
        "network with make serve LAN=1."
    ),
    "no_outline_for_panel": "There is no outline yet to make a panel of; send a photo or read a file at Shape.",
    "no_outline_to_mend": "There is no outline here yet to mend: walk all the way round the piece.",
    "no_outline_yet": "There is no outline yet; send a photo first.",
    "no_panel_to_print": "There is no panel to print yet; make one at Draft.",
    "no_piece_asked_for": "This photo doesn't ask for a piece to be chosen.",
    "no_such_house_rule": "The house has no rule called “{rule}”.",
    "no_such_panel": "There is no such panel in this job.",
    "no_workshop_to_copy": "There is no workshop in {data}; nothing was copied.",
    "not_a_number": "“{given}” isn't a number; type it like 2.5.",
    "not_a_resolution": "“{text}” is no number of dots per inch; look at how the scan was made.",
    "only_owner_can": "Only the workshop's owner can {what}.",
    "open_piece_missing": "The job's open piece isn't among its pieces.",
    "outline_in_doubt": (
        "Along {count:stretch/stretches} of its edge the photo leaves the outline in doubt by up to "
        "{off_mm:^}. Look along each at Shape, and say that it is right or mend it, before a panel is made of "
        "it."
    ),
    "owner_stays": "The owner stays; hand the workshop over to another member first.",
    "owner_takes_invitations_back": "Only the workshop's owner can take invitations back.",
    "part_outside_photo": "A part lies outside the photo.",
    "phone_link_used_up": "This link has brought its {most_photos} photos; make another one at the bench.",
    "photo_being_measured": "This photo is being measured just now; wait until it is done.",
    "photo_in_use": "“{piece}” was found in this photo, so it stays; take that piece off the table first.",
    "photo_not_measured": "This photo has not been measured, so it can't be laid under the outline.",
    "piece_gone": "This piece is no longer there.",
    "point_at_piece_first": "Point at the piece first.",
    "point_inside_photo": "Point at up to {most_taps} places inside the photo.",
    "points_off_the_table": "These points lie off the table.",
    "print_scale_unlikely": (
        "That would make the print out by a factor of {scale:.3f}; a printer is never that far off. Check what "
        "the test mark measures and its unit."
    ),
    "restore_place_not_empty": "{into} isn't empty; restore into a new place, so that nothing is written over.",
    "revision_missing": "It isn't said which state of the job this changes; reload the page and try again.",
    "scan_cant_be_pointed_at": "Pieces on a scan can't be pointed at; crop the scan to one piece instead.",
    "step_gone": "This step is no longer on the list.",
    "stored_state_missing": "The state that this job stands at is missing.",
    "stretch_not_in_doubt": "This stretch is no longer in doubt.",
    "strokes_change_nothing": (
        "These strokes change nothing: what they say is what was found. Paint over what is wrong, or walk "
        "along the edge there."
    ),
    "table_piece_of_other_photo": "The piece on the table isn't from this photo.",
    "tapers_cant_reach_further": "These tapers reach as far as they can; a fuller pad wants another shape.",
    "target_gone": "What this is about is no longer in this job.",
    "text_missing": "The {what} is missing; type it in.",
    "text_too_long": "The {what} is one line of {most} letters at most.",
    "too_many_invitations": "{most_open} invitations are open; take them back before you write more.",
    "too_many_members": "A workshop has {most_members} members at most.",
    "too_many_panels": "A job has {most_panels} panels at most; this would be {count}.",
    "too_many_parts_in_photo": "A photo has {most_parts} numbered parts at most.",
    "too_many_photos_in_job": "A job keeps {most_kept} photos at most; take some away first.",
    "too_many_photos_sent": "One to {most_photos} photos can be sent together; these are {count}.",
    "too_many_pieces": "A job has {most_pieces} captured pieces at most; take one away first.",
    "too_many_steps": "This piece has been trued up in {most_steps} steps; start again from the photo.",
    "type_in_too": "Type in the {field} too.",
}
