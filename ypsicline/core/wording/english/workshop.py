"""English words on jobs and the workshop."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "allowances_missing": "{count:needs/need} an allowance",
    "as_exact_as_its_measures": "Measured in with a tape: as exact as its measures.",
    "belongs_to_no_workshop": "You are signed in but belong to no workshop; ask whoever keeps the workshop to add you.",
    "brief_note_too_long": "A note in the brief is over {longest_text} letters long; shorten it.",
    "bug_of_request": "Something went wrong on our side (request {number}); nothing was changed.",
    "calibrating_broken_off": "Calibrating was broken off twice; send the photos again.",
    "calibrating_failed": "Calibrating failed, which is our fault; send other photos.",
    "calibration_photos_out_of_range": "A calibration takes three to {most_photos} photos; these are {count}.",
    "camera_known": (
        "focal length known to {percent:.2f} %, corners met within {residual_px:.2f} px, from {photos:photo/photos}"
    ),
    "camera_without_name": "a camera without a name",
    "captured_within": "± {error_mm:^}",
    "caution_cord": (
        "A cord or tie can strangle: keep ends short, use a breakaway lock, and don't use it within children's reach."
    ),
    "caution_dust": "Clay and glaze dust harms lungs: shake the old cover out wet or outdoors, and wear a mask.",
    "caution_filling": (
        "Loose filling chokes and smothers: put it in an inner bag with a closed-off zip, away from small children."
    ),
    "caution_heat": (
        "Never cover anything hot or running: let it cool and unplug it first, and keep cloth away from kilns "
        "and lamps."
    ),
    "caution_motor": "No cover while the machine runs; switch it off and unplug it, and leave its vents free.",
    "caution_seating": (
        "Flammability rules for seating differ by country: follow your local code and the cloth's certificate."
    ),
    "caution_vehicle": "Never leave the cover on while a vehicle or boat moves, nor over vents, controls or lights.",
    "caution_weight": "What carries a person is to be tested by somebody competent before it is used.",
    "choose_of_lines": "The photo shows {count:closed line/closed lines}; point at those you want.",
    "choose_of_pieces": "The photo shows {count:piece/pieces}; point at those you want.",
    "copy_damaged": "{copy} is damaged or no copy of a workshop.",
    "copy_database_damaged": "The database in {copy} is damaged.",
    "copy_file_changed": "A file in {copy} isn't what it was: {file}…",
    "corner_without_taper": "This corner isn't tapered, so it needs no template.",
    "done": "done",
    "drawing_too_many_outlines": (
        "This drawing holds {count} outlines; {most_panels} panels is the most. Leave only what is to be cut."
    ),
    "drawn": "drawn",
    "ease_too_small_for_error": (
        "The capture's error is a good part of the ease of {ease_mm}: it takes an ease of {needed_mm:^} or "
        "more, or a better photo."
    ),
    "fewer_pieces_than_names": "There are fewer pieces in the photo than names were given.",
    "file_kind_unread": "Only SVG, DXF and panels files (.svg, .dxf, .json) can be read here.",
    "filling_broken_off": "Filling this panel was broken off twice; fill it again.",
    "filling_failed": "Filling this panel failed, which is our fault; nothing was changed.",
    "file_takes_too_long": (
        "The {kind} takes too long or too much memory to read. Leave only the outline in it, and save it again."
    ),
    "file_too_large_here": "The file has {megabytes:.0f} MB; {most:.0f} MB is the most.",
    "good_for_an_ease": (
        "Good for an ease of {needed_mm:^} or more: the capture's error should stay well below the ease."
    ),
    "good_for_the_ease": "Good for the ease of {ease_mm}: the capture's error is {times:.0f} times smaller.",
    "grain_out_of_range": "The grainline's angle lies between -360° and 360°.",
    "height_left_out": "Each {each_mm} left out puts the outline out by up to {off_mm:^}.",
    "height_to_measure": (
        "The outline lies 0 to {highest_mm:g} above the sheets; measure from the sheets straight up to it."
    ),
    "http_400": "The request can't be read; reload the page and try again.",
    "http_401": "Sign in first.",
    "http_403": "This page isn't signed in any more, or the request came from elsewhere; reload it and try again.",
    "http_404": "There is no such thing in this workshop; it may have been put away.",
    "http_405": "That can't be done here.",
    "http_413": "That is more data than one step may carry.",
    "http_500": "Something went wrong on our side; nothing was changed.",
    "http_503": "The workshop's server is busy with other changes; try again in a moment.",
    "http_507": "The disk of the workshop's server is full, so nothing was stored. Make room on it, then try again.",
    "in_file": "{file}: {refusal}",
    "job_by_ticket": "Job {ticket}",
    "job_changed_meanwhile": (
        "The job was changed meanwhile, in another window or by somebody else; it is shown afresh."
    ),
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
    "measuring_broken_off": "Measuring this photo was broken off twice; send it again, or another one.",
    "measuring_failed": "Measuring this photo failed, which is our fault; send it again or take another.",
    "models_to_choose": "Models are printed at 1:{models}.",
    "name_a_piece": "Name at least one of the pieces.",
    "name_unpicked_edges": "Say which edges were unpicked or cut away, and by how much.",
    "next_allowances": "{count:edge needs/edges need} an allowance",
    "next_choose_piece": "choose the piece in the photo",
    "next_look": "{count:finding/findings} to look at, then print",
    "next_make_panel": "make a panel of the outline",
    "next_measure_again": "measure the photo again",
    "next_open": "open it",
    "next_photo_again": "take the photo again",
    "next_photograph": "photograph the piece",
    "next_print": "print and cut",
    "next_say_what_is_covered": "say what is covered",
    "next_settle": "{count:finding/findings} to settle",
    "no_length_typed": "No length was typed; {how}.",
    "no_network_for_phones": (
        "A phone can't reach this server: it answers this machine only. Start it for the workshop's own "
        "network: make serve LAN=1, or make demo LAN=1 for the demo."
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
    "not_a_whole_number": "“{given}” isn't a whole number; type it like 4.",
    "not_a_resolution": "“{text}” is no number of dots per inch; look at how the scan was made.",
    "only_owner_can": "Only the workshop's owner can {what}.",
    "open_piece_missing": "The job's open piece isn't among its pieces.",
    "or_walk_round_by_hand": "{why} Or walk round its edge by hand.",
    "outline_in_doubt": (
        "Along {count:stretch/stretches} of its edge the photo leaves the outline in doubt by up to "
        "{off_mm:^}. Look along each at Shape, and say that it is right or mend it, before a panel is made of "
        "it."
    ),
    "owner_stays": "The owner stays; hand the workshop over to another member first.",
    "owner_takes_invitations_back": "Only the workshop's owner can withdraw invitations.",
    "panel_changed_meanwhile": "The panel was changed meanwhile, so no tapers were put on it. Propose them again.",
    "panels": "{count:panel/panels}",
    "part_outside_photo": "A part lies outside the photo.",
    "phone_link_used_up": "This link has brought its {most_photos} photos; make another one at the bench.",
    "photo_being_measured": "This photo is being measured just now; wait until it is done.",
    "photo_in_use": "“{piece}” was found in this photo, so it stays; remove that piece first.",
    "photo_not_measured": "This photo has not been measured, so it can't be laid under the outline.",
    "piece_gone": "This piece is no longer there.",
    "point_at_piece_first": "Point at the piece first.",
    "point_inside_photo": "Point at up to {most_taps} places inside the photo.",
    "points_off_the_table": "These points lie off the table.",
    "print_scale_unlikely": (
        "That would make the print out by a factor of {scale:.3f}; a printer is never that far off. Check what "
        "the test mark measures and its unit."
    ),
    "ready_to_cut": "ready to cut",
    "ready_to_print": "ready to print",
    "restore_place_not_empty": "{into} isn't empty; restore into a new place, so that nothing is written over.",
    "revision_missing": "This change doesn't say which state of the job it is for; reload the page and try again.",
    "scan_cant_be_pointed_at": "Pieces on a scan can't be pointed at; crop the scan to one piece instead.",
    "stage_filling": "filling it",
    "stage_trying_tapers": "trying tapers that start {percent:.0f} % of the way along the side",
    "stage_laying_photo": "laying the photo under it",
    "stage_reading_photo": "reading the photo",
    "state_cant_be_read": "its last state can't be read any more",
    "station_brief": "Brief",
    "station_check": "Check",
    "station_draft": "Draft",
    "station_make": "Make",
    "station_shape": "Shape",
    "step_gone": "This step is no longer on the list.",
    "stored_state_missing": "The state that this job stands at is missing.",
    "stretch_not_in_doubt": "This stretch is no longer in doubt.",
    "strokes_change_nothing": (
        "These strokes change nothing: what they say is what was found. Paint over what is wrong, or walk "
        "along the edge there."
    ),
    "table_piece_of_other_photo": "The piece on the table isn't from this photo.",
    "target_gone": "What this is about is no longer in this job.",
    "text_missing": "The {what} is missing; type it in.",
    "text_too_long": "The {what} is one line of {most} letters at most.",
    "to_be_settled": "{count} open",
    "too_many_invitations": "{most_open} invitations are open; withdraw some before you write more.",
    "too_many_members": "A workshop has {most_members} members at most.",
    "too_many_panels": "A job has {most_panels} panels at most; this would be {count}.",
    "too_many_parts_in_photo": "A photo has {most_parts} numbered parts at most.",
    "too_many_photos_in_job": "A job keeps {most_kept} photos at most; remove some first.",
    "too_many_photos_sent": "One to {most_photos} photos can be sent together; these are {count}.",
    "too_many_pieces": "A job has {most_pieces} captured pieces at most; remove one first.",
    "too_many_steps": "This piece has been trued up in {most_steps} steps; start again from the photo.",
    "type_in_too": "Type in the {field_term} too.",
    "work_is_over": "This has finished already, so there is nothing to stop.",
    "work_stopped": "It was stopped.",
}
