"""The core from the command line. Exit 0 and a file; exit 2 and one sentence when the input is refused.

What only one command needs is imported by it, so that measuring a photo doesn't wait for the
libraries that write drawings.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PIL import Image

from ypsicline.core.capture.calibrate import calibrate
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_piece
from ypsicline.core.capture.photo import Photo, read_photo
from ypsicline.core.capture.sheets import PAPERS, make_sheets
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.camera_json import camera_json, read_camera_json
from ypsicline.core.formats.outline_json import outline_json, read_sheets_json, sheets_json
from ypsicline.core.messages import message

if TYPE_CHECKING:
    from ypsicline.core.formats.documents import DraftedFile

__all__ = ["main"]


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> None:  # type: ignore[override]
        print(f"{message[0].upper()}{message[1:]}; see {self.prog} --help.", file=sys.stderr)
        raise SystemExit(2)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; returns the exit code."""
    options = _parser().parse_args(arguments)
    try:
        options.run(options)
    except Refusal as e:
        print(" ".join(str(e).split()), file=sys.stderr)
        return 2
    except OSError as e:
        print(f"The file {e.filename or ''} can't be read or written: {e.strerror or e}.", file=sys.stderr)
        return 2
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="ypsicline", description="From a photograph to a true-size pattern.")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)

    sheets = commands.add_parser("sheets", help="reference sheets to print: sheets.pdf, a PNG each, sheets.json")
    sheets.add_argument("--paper", choices=list(PAPERS), default="a4")
    sheets.add_argument("--count", type=int, default=4)
    sheets.add_argument("--out", type=Path, required=True, metavar="DIR")
    sheets.set_defaults(run=_sheets)

    calibrate = commands.add_parser("calibrate", help="a camera's profile from photos of the sheets from several sides")
    calibrate.add_argument("photo", type=Path, nargs="+")
    calibrate.add_argument("--sheets", type=Path, required=True, metavar="sheets.json")
    calibrate.add_argument("--out", type=Path, required=True, metavar="PROFILE.json")
    calibrate.set_defaults(run=_calibrate)

    outline = commands.add_parser("outline", help="the outline of a piece in one photo, or several that overlap")
    outline.add_argument("photo", type=Path, nargs="+")
    outline.add_argument("--sheets", type=Path, metavar="sheets.json", help="the sheets in the photo; none in a scan")
    outline.add_argument(
        "--dpi", type=float, help="the photos are scans of so many dots per inch, joined where they overlap"
    )
    outline.add_argument("--out", type=Path, required=True, metavar="FILE.json")
    outline.add_argument(
        "--print-scale", type=float, nargs=2, default=(1.0, 1.0), metavar=("SX", "SY"),
        help="how large the sheets came out of the printer, across and up: measured ÷ nominal",
    )  # fmt: skip
    outline.add_argument(
        "--kind",
        choices=["piece", "line", "marks"],
        default="piece",
        help="what is looked for: a piece, a closed pen line, or a ring of dots",
    )
    outline.add_argument(
        "--side", choices=["centre", "inner", "outer"], default="centre", help="which side of the pen line is meant"
    )
    outline.add_argument(
        "--height", type=float, default=0.0, metavar="MM", help="how far the outline lies above the sheets"
    )
    outline.add_argument("--camera", type=Path, metavar="PROFILE.json", help="the camera's profile, by calibrate")
    outline.add_argument("--piece", type=int, help="which piece, from 1, where the photo shows several")
    for flag, dest, what in (
        ("--at", "at", "a place on the piece"),
        ("--not", "not_at", "a place on what isn't the piece"),
    ):
        outline.add_argument(
            flag, dest=dest, type=float, nargs=2, action="append", default=[], metavar=("X", "Y"),
            help=f"{what}, in shares of the first photo from its left and its top; may be given several times",
        )  # fmt: skip
    outline.add_argument("--overlay", type=Path, metavar="FILE.png", help="the photo with the outline drawn on it")
    outline.set_defaults(run=_outline)

    draft = commands.add_parser("draft", help="seam lines in; cutting lines, notches and findings out")
    draft.add_argument("panels", type=Path)
    draft.add_argument("--out", type=Path, required=True, metavar="PANELS.json")
    draft.set_defaults(run=_draft)

    change = commands.add_parser("change", help="changes made to a job bundle, as the interface makes them")
    change.add_argument("job", type=Path, metavar="JOB.json")
    change.add_argument("changes", type=Path, metavar="CHANGES.json", help="one change, or a list of them")
    change.add_argument("--out", type=Path, required=True, metavar="JOB.json")
    change.set_defaults(run=_change)

    cover = commands.add_parser("cover", help="panels, joins and what to buy for a cover of a family, from measures")
    cover.add_argument("family", metavar="FAMILY", help="drum, cap, pad … ; a name that isn't one lists them")
    cover.add_argument("--measures", type=Path, required=True, metavar="FILE.json")
    cover.add_argument("--choices", type=Path, metavar="FILE.json", help="choices that go before those in the measures")
    cover.add_argument("--unit", choices=["mm", "cm", "in"], default="mm", help="of lengths typed without one")
    cover.add_argument("--out", type=Path, required=True, metavar="PANELS.json")
    cover.set_defaults(run=_cover)

    prints = commands.add_parser("print", help="panels as a tiled PDF, an SVG, a DXF or a marking-out drawing")
    prints.add_argument("panels", type=Path)
    prints.add_argument("--format", choices=["pdf", "svg", "dxf", "marking"], required=True)
    prints.add_argument("--paper", choices=list(PAPERS), default="a4")
    prints.add_argument("--out", type=Path, required=True, metavar="FILE")
    prints.add_argument(
        "--print-scale", type=float, nargs=2, default=(1.0, 1.0), metavar=("SX", "SY"),
        help="enlarge the PDF per axis to undo the printer's error: wanted ÷ measured",
    )  # fmt: skip
    prints.add_argument("--unit", choices=["mm", "cm", "in"], default="mm", help="of the figures that are written")
    prints.add_argument(
        "--scale", default="1:1", metavar="1:N", help="a scale model; as a PDF to be cut from card, with tabs"
    )
    prints.set_defaults(run=_print)
    return parser


def _sheets(options: argparse.Namespace) -> None:
    from ypsicline.core.formats.raster import rasterise_page
    from ypsicline.core.formats.sheets_pdf import sheets_pdf

    sheets = make_sheets(options.paper, options.count)
    pdf = sheets_pdf(sheets)
    options.out.mkdir(parents=True, exist_ok=True)
    (options.out / "sheets.pdf").write_bytes(pdf)
    for k in range(len(sheets)):
        page = Image.fromarray(rasterise_page(pdf, k))
        page.save(options.out / f"sheet-{k + 1:02d}.png", dpi=(300, 300))
    (options.out / "sheets.json").write_bytes(sheets_json(sheets))


def _calibrate(options: argparse.Namespace) -> None:
    sheets = read_sheets_json(options.sheets.read_bytes())
    photos = [read_photo(p.read_bytes()) for p in options.photo]
    options.out.write_bytes(camera_json(calibrate(photos, sheets)))


def _outline(options: argparse.Namespace) -> None:
    if options.dpi is not None:
        _scanned(options)
        return
    if options.sheets is None:
        raise Refusal(message("photos_need_sheets"), "sheets")
    sheets = read_sheets_json(options.sheets.read_bytes())
    if not all(0.8 <= s <= 1.25 for s in options.print_scale):
        raise Refusal(message("print_scale_out_of_range"), "print_scale")
    at, not_at = _places(options.at), _places(options.not_at)
    profile = read_camera_json(options.camera.read_bytes()) if options.camera else None
    photos = [read_photo(p.read_bytes()) for p in options.photo]
    piece = capture_piece(
        photos, known_sheets=sheets, print_scale=tuple(options.print_scale), kind=options.kind,
        side=options.side, height_mm=options.height, profile=profile,
        piece=None if options.piece is None else options.piece - 1,
        at=at, not_at=not_at,
    )  # fmt: skip
    capture = _one_piece(photos[0], piece)
    options.out.write_bytes(outline_json(capture))
    if options.overlay:
        from ypsicline.core.formats.overlay import overlay_png

        options.overlay.write_bytes(overlay_png(photos[0], capture))


def _places(rows: list[list[float]]) -> list[tuple[float, float]]:
    places = [(x, y) for x, y in rows]
    if not all(0 <= v <= 1 for place in places for v in place):
        raise Refusal(message("place_out_of_photo"), "place")
    return places


def _scanned(options: argparse.Namespace) -> None:
    from ypsicline.core.capture.scan import capture_scan, join_scans

    if options.overlay or options.kind == "marks" or options.height:
        raise Refusal(message("scan_has_no_height"), "scan")
    picture, apart_mm = join_scans([read_photo(p.read_bytes()) for p in options.photo], options.dpi)
    choice = None if options.piece is None else [options.piece - 1]
    scan = capture_scan(picture, apart_mm, kind=options.kind, side=options.side, pieces=choice)
    whole = Photo(picture.pixels)
    options.out.write_bytes(outline_json(_one_piece(whole, scan if isinstance(scan, SeveralPieces) else scan[0])))


def _one_piece(photo: Photo, capture: Capture | SeveralPieces) -> Capture:
    if isinstance(capture, Capture):
        return capture
    where = "; ".join(
        f"{k} at {100 * sum(x for x, _ in ring) / len(ring) / photo.width:.0f} % from the left and "
        f"{100 * sum(y for _, y in ring) / len(ring) / photo.height:.0f} % from the top"
        for k, ring in enumerate(capture.outlines_px, start=1)
    )
    raise Refusal(message("several_pieces_in_photo", count=len(capture.outlines_px), where=where), "several_pieces")


def _draft(options: argparse.Namespace) -> None:
    from ypsicline.core.formats.documents import dump

    options.out.write_bytes(dump(_draft_file(options.panels)))


def _draft_file(path: Path) -> DraftedFile:
    from ypsicline.core.formats.documents import drafted_file, load_panels

    return drafted_file(load_panels(path.read_bytes()))


def _change(options: argparse.Namespace) -> None:
    from ypsicline.core.formats.changes import with_changes
    from ypsicline.core.formats.documents import dump_bundle, load_bundle
    from ypsicline.core.wording import render

    job, history = with_changes(load_bundle(options.job.read_bytes()).job, options.changes.read_bytes())
    options.out.write_bytes(dump_bundle(job))
    for words in history:
        print(render(words, job.unit))


def _cover(options: argparse.Namespace) -> None:
    from ypsicline.core.drafting.house import House
    from ypsicline.core.formats.documents import cover_file, dump
    from ypsicline.core.formats.measures_json import read_measures

    choices = options.choices.read_bytes() if options.choices else None
    family = read_measures(options.measures.read_bytes(), options.family, choices, options.unit)
    house = House()
    options.out.write_bytes(dump(cover_file(family.cover(house), house)))


def _print(options: argparse.Namespace) -> None:
    from ypsicline.core.drafting.draft import without_companions
    from ypsicline.core.formats.card_pdf import card_pdf
    from ypsicline.core.formats.documents import drafted_file, load_panels
    from ypsicline.core.formats.dxf import panels_dxf
    from ypsicline.core.formats.marking_pdf import marking_pdf
    from ypsicline.core.formats.pdf import panels_pdf
    from ypsicline.core.formats.svg import panels_svg

    file = load_panels(options.panels.read_bytes())
    panels = drafted_file(file).panels
    scale = _model_scale(options.scale)
    if options.format == "marking":
        data = marking_pdf(panels, options.unit, paper=options.paper)
    elif options.format == "svg":
        data = panels_svg(panels, scale=scale, unit=options.unit)
    elif options.format == "dxf":
        data = panels_dxf(panels, scale=scale)
    elif scale == 1:
        data = panels_pdf(panels, paper=options.paper, print_scale=tuple(options.print_scale), unit=options.unit)
    else:
        data = card_pdf(
            without_companions(panels, file.panels),
            file.joins,
            model=1 / scale,
            paper=options.paper,
            print_scale=tuple(options.print_scale),
            unit=options.unit,
        )
    options.out.write_bytes(data)


def _model_scale(text: str) -> float:
    one, _, many = text.partition(":")
    try:
        scale = float(one) / float(many or 1)
    except (ValueError, ZeroDivisionError) as e:
        raise Refusal(message("not_a_print_model", text=text[:20]), "scale") from e
    if not 0.01 <= scale <= 1:
        raise Refusal(message("print_model_out_of_range", text=text), "scale")
    return scale


if __name__ == "__main__":
    sys.exit(main())
