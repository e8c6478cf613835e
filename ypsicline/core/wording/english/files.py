"""English words on files that are read and written."""

from __future__ import annotations

__all__ = ["WORDS"]

WORDS: dict[str, str] = {
    "in_change": "Change {number}: {refusal}",
    "measure_unknown": "This family's {part} have no “{name}”; they are: {known}.",
    "measures_not_an_object": "The {what} holds no names with values.",
    "measures_part_unknown": "A measures file holds measures, shapes and choices; “{name}” is none of them.",
    "measures_version_unknown": "This measures file is of version {version}; only version 1 can be read.",
    "no_such_family": "There is no family “{family}”. There are: {families}.",
    "none_of_them": "none",
    "document_start": "its start",
    "document_too_large": "The {what} has {megabytes:.0f} MB; {most:.0f} MB is the most.",
    "document_unreadable_at": "The {what} can't be read at {where}: {detail}{more}.",
    "drafted_from_missing": (
        "Panel “{panel}” shows what was asked for when it was drafted ({lost}), but the file doesn't say what "
        "it was drafted from, so that drafting again would lose it. Take the file that it came from."
    ),
    "drafted_panel_changed": (
        "Panel “{panel}” of this drafted file isn't what drafting makes of `drafted_from`. Make the change "
        "there, or draft anew from the file that it came from."
    ),
    "dxf_broken": "The DXF is broken and can't be read; save it again as text DXF, version 2000 or later.",
    "dxf_is_binary": "This is a binary DXF; save it as text DXF.",
    "dxf_layers_off": (
        "{unseen} of the {count} things in this DXF lie on layers that are switched off ({names}). Say whether "
        "to read them, too."
    ),
    "dxf_too_many_entities": "The DXF draws over {most_entities} things; it is a drawing rather than an outline.",
    "dxf_unit_unknown": "The DXF is in a unit that isn't used for cloth; save it in millimetres or inches.",
    "edge_cut_on_seam": "{edge} · {finish}",
    "edge_turned_under": "{edge} · {allowance_mm:0g} {finish} ({under_mm:0g} turned under)",
    "edge_with_allowance": "{edge} · {allowance_mm:0g} {finish}",
    "field_cant_be_used": "“{field_term}” can't be used: {detail}.",
    "file_empty": "The {what} is empty.",
    "file_too_large": "The {what} has {megabytes:.0f} MB; {most:.0f} MB is the most.",
    "half_a_letter": "The {what} holds half a letter (a lone surrogate); write its texts anew.",
    "holds_impossible_number": "It holds a number that nothing can be.",
    "impossible_number": "The {what} holds the number {text}, which nothing here can be.",
    "job_too_large": (
        "This job would be a file of {megabytes:.0f} MB; {most:.0f} MB is the most that can be read again. "
        "Remove captured pieces that aren't needed any more."
    ),
    "marking_out_corner": "{corner}:  {across} across, {up} up",
    "marking_out_corners": "From corner 1: across, up",
    "marking_out_curve": "Curve {first} to {second}: every {pitch} along the straight {chord}",
    "marking_out_diagonal": "{first} to {second}:  {length}",
    "marking_out_diagonals": "Check diagonals",
    "marking_out_head": "{note} · cutting line, in {unit} · mark the wrong side",
    "marking_out_hole": "radius {radius}, centre {across} across, {up} up",
    "marking_out_holes": "Round holes",
    "marking_out_scale": "drawn at 1 : {scale:.1f}, for orientation only: mark by the numbers",
    "marking_out_swing": "{first} to {second}:  radius {radius}, centre {across} across, {up} up",
    "marking_out_swings": "Swing with a trammel",
    "marking_out_title": "Ypsicline marking-out",
    "message_without_words": "It holds a message, “{code}”, that there are no words for.",
    "more_like_it": " ({count} more like it)",
    "nested_too_deeply": "The {what} is nested too deeply to be read.",
    "no_closed_outline": "The {what} holds no closed outline. Join its lines end to end and save it again.",
    "no_prints_on_paper": "Prints on “{paper}” can't be made; choose a4, letter or a3.",
    "not_a_print_model": "“{text}” is not a scale; write it like 1:10.",
    "not_json": "The {what} is not JSON that can be read: {detail}.",
    "outline_branches": (
        "Lines of the {what} branch at {x_mm}, {y_mm}, so that there is more than one way round. Take out those that aren't "
        "the outline and save it again."
    ),
    "outline_too_loose": (
        "Over {most} lines of the {what} don't meet end to end; that is more than can be read. Join the outline's lines and "
        "save it again."
    ),
    "outline_too_many_edges": "The {what} has over {most_edges} edges; it is a drawing rather than an outline.",
    "panels_count_out_of_range": "The panels file has {count} panels; 1 to {most_panels} can be read.",
    "part_too_large": "One part of it has {megabytes:.0f} MB; {most:.0f} MB is the most.",
    "photos_need_sheets": "Photos are measured by the sheets in them: give --sheets sheets.json, or --dpi for a scan.",
    "place_out_of_photo": (
        "A place is given in shares of the photo's width and height, from 0 to 1, as in --at 0.5 0.4."
    ),
    "print_at_100": "print at 100 %; both test marks must measure true",
    "print_cut_here": "cut here",
    "print_heading": "{title} · page {page}",
    "print_lay_on": "lay it on the dashed line of the page before, until the lines run on without a step.",
    "card_heading": "model 1:{model:g} in card · page {page:g} of {pages:g} · print at 100 %",
    "card_how": "cut the thick lines, fold the dashed ones, glue each letter to its own",
    "card_piece": "{panel}, piece {piece:g}",
    "model_too_large": (
        "At 1:{model:g} “{panel}” is {long_mm} long and doesn’t go on one page. Take 1:{smaller:g}, or larger paper."
    ),
    "model_never_fits": "At 1:{model:g} “{panel}” is {long_mm} long and doesn’t go on one page. Take larger paper.",
    "print_model_out_of_range": "A scale of {text} can't be printed; 1:1 to 1:100 can.",
    "print_page_here": "{page} here",
    "print_page_of": "{page} of {pages}",
    "print_pages": "{count:page/pages} of pattern. Print at 100 %, then measure both test marks on this page.",
    "print_pattern": "Pattern",
    "print_rows": (
        "Rows are lettered from the top, columns numbered from the left. Trim a page's left and bottom frame and"
    ),
    "print_scale_out_of_range": "The print scale is measured ÷ nominal and lies between 0.8 and 1.25.",
    "print_scale_to_check": "The print scale must lie between 0.8 and 1.25; check what the test mark measures.",
    "print_sew_here": "sew here",
    "profile_unreadable": "The camera profile can't be read; it is the file that calibrating the camera wrote.",
    "read_differs_from_written": "What would be read isn't what was written.",
    "scan_has_no_height": "Of a scan pieces and pen lines are found, without height and overlay.",
    "several_pieces_in_photo": "The photo shows {count} pieces: {where}. Choose one with --piece.",
    "sheets_file_empty": "The sheets file names no sheets; print them again with it.",
    "sheets_lay_flat": (
        "Lay sheets flat, face up, on the same table as the piece, round it on all sides, not on it and not under it."
    ),
    "sheets_print_and_measure": (
        "Print at 100 % (actual size), never “fit to page”. Measure the four marks with a steel rule; if one "
        "is off, type in what it measures."
    ),
    "sheets_show_whole": (
        "Show every sheet whole in the photo, from above, tilted as little as you can. Don't laminate: gloss "
        "hides the squares."
    ),
    "sheets_title": "Ypsicline reference sheets",
    "stored_by_later_version": "This job was stored by a later version of Ypsicline; it can't be read by this one.",
    "stored_damaged": "What is stored of this job is damaged.",
    "stored_is_no_list": "What a panel has as “{name}” is no list.",
    "stored_item_unreadable": "One of a panel's {name} can't be read.",
    "stored_parts_missing": "{count} parts of what is stored of this job are missing.",
    "stored_unreadable_at": "What is stored of this job can't be read at {where}: {detail}.",
    "svg_broken": "The SVG is broken and can't be read; save it again.",
    "svg_of_unknown_size": (
        "The SVG doesn't say how large it is in millimetres or inches. Type one known measure: how wide all "
        "that is drawn in it is together."
    ),
    "svg_too_many_points": (
        "The SVG has more points than an outline could need; it is a drawing rather than an outline."
    ),
    "svg_too_many_shapes": "The SVG draws over {most_shapes} shapes; leave only what is to be cut.",
    "svg_with_entities": "The SVG defines entities of its own and is not read; save it as a plain SVG.",
    "svg_without_width": "Nothing in the SVG has a width that could be measured by.",
    "too_many_pages": "The print would take over {most_pages} pages; print it on a roll, or as a scale model.",
    "unreadable_after_change": "The job couldn't be read again after this change, so it isn't made. {because}",
}
