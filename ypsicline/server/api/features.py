"""What a panel has beyond its edges: fit, tapers, darts, apertures, marks, layers; a pad filled; the house's rules."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import fields, replace
from typing import Any, Literal

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router, Schema

from ypsicline.core.drafting.apertures import placed_from
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.drafting.drop import with_drop
from ypsicline.core.drafting.edge_changes import with_feature, without_feature
from ypsicline.core.drafting.features import (
    Aperture,
    Dart,
    Fit,
    Gather,
    Layer,
    LayerRole,
    MarkAt,
    MarkKind,
    Pleats,
    Taper,
)
from ypsicline.core.drafting.house import Cloth, HouseRules
from ypsicline.core.drafting.inflated import bag_volume
from ypsicline.core.drafting.pad import FilledPad, corner_template, deeper, filling, with_tapers
from ypsicline.core.drafting.panel import Panel
from ypsicline.core.drafting.pivot import pivot_dart
from ypsicline.core.drafting.tapers import Preset
from ypsicline.core.errors import Refused
from ypsicline.core.formats.pdf import panels_pdf
from ypsicline.core.geometry.edges import Edge
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit, parse_length, show_length
from ypsicline.core.trueing.shape import true_edges
from ypsicline.server.api.access import apply, job_of
from ypsicline.server.api.draft import panel_changed, panel_of, with_panel, with_panels
from ypsicline.server.api.streamed import LINES, in_lines
from ypsicline.server.jobs import history
from ypsicline.server.jobs.drawn import box_of, polyline
from ypsicline.server.jobs.house import keep_house
from ypsicline.server.jobs.view import JobView, job_view

router = Router()
_LEAST_PROGRESS = 0.02
FeatureKind = Literal["tapers", "darts", "pleats", "gathers", "apertures", "placed", "layers"]


class FitIn(Schema):
    """Ease as typed: lengths in the job's unit, shares in percent; empty is none."""

    percent: str = ""
    width: str = ""
    height: str = ""
    clearance: str = ""
    girth: str = ""
    over: str = ""
    warp_stretched: str = ""
    weft_stretched: str = ""


class FeatureIn(Schema):
    """One feature, its `values` as typed and named as in the panels file; `index` is the one that it replaces."""

    kind: FeatureKind
    index: int | None = None
    values: dict[str, str]


class TapersIn(Schema):
    """Tapers at the ends of these edges, by a preset, or by the next deeper step."""

    edges: list[int]
    preset: Preset = "usual"
    curved: bool = False
    deeper: bool = False


class PivotIn(Schema):
    """Where a dart is to be opened instead: an edge, how far along it, and how much of the dart in percent."""

    edge: int
    along: str
    percent: str = "100"


class DropIn(Schema):
    drop: str
    tuck: str = ""
    how: Literal["dart", "pleats"] = "dart"
    pleats: int = 2


class PadCorner(Schema):
    at: tuple[float, float]
    stands_out: str
    percent: float


class PadView(Schema):
    """A pad filled: its plan, where its seam lay flat, both as paths; how far it draws in and its corners stand out."""

    plan: str
    flat: str
    box: tuple[float, float, float, float]
    corners: list[PadCorner]
    worst_percent: float
    enough: bool
    can_go_deeper: bool
    thickness: str
    litres: float
    formula_litres: float
    drawn_in: str


class PadStep(Schema):
    """How much of the filling is done, 0 to 1; and the pad, once as it looks roughly and at the end."""

    share: float
    pad: PadView | None = None


class Between(Schema):
    """How far two points of the table lie apart, and how far across and up."""

    length: str
    across: str
    up: str


class ClothIn(Schema):
    """A cloth of the house as typed; shares in percent."""

    name: str
    thickness: str = "0.5 mm"
    warp_shrinks: str = ""
    weft_shrinks: str = ""
    warp_stretches: str = ""
    weft_stretches: str = ""
    prewashed: bool = False
    own_rules: bool = False


class RulesIn(Schema):
    """House rules as typed, by name; of a `cloth` of the house, or of all."""

    rules: dict[str, str]
    cloth: str = ""


@router.put("/jobs/{job_id}/panels/{index}/fit", response=JobView, operation_id="set_fit")
def set_fit(request: HttpRequest, job_id: int, index: int, given: FitIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        panel = panel_of(d, index)
        lengths = {
            n: _length(getattr(given, n), d, signed=True) for n in ("width", "height", "clearance", "girth", "over")
        }
        fit = Fit(
            percent=_number(given.percent),
            stretched=(_share(given.warp_stretched), _share(given.weft_stretched)),
            **lengths,
        )
        return with_panel(d, index, replace(panel, fit=fit))

    return apply(request, job_id, "Ease set", how)


@router.post("/jobs/{job_id}/panels/{index}/features", response=JobView, operation_id="set_feature")
def set_feature(request: HttpRequest, job_id: int, index: int, given: FeatureIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        panel, typed = panel_of(d, index), _Typed(given.values, d)
        read = _READERS[given.kind](typed)
        if isinstance(read, Aperture) and typed.word("from_0") and typed.word("from_1"):
            edges = typed.whole("from_0"), typed.whole("from_1")
            at = placed_from(panel.seam_line, edges[0], typed.length("away_0"), edges[1], typed.length("away_1"))
            read = replace(read, at=at)
        return with_panel(d, index, with_feature(panel, read, given.index))

    return apply(request, job_id, f"{_WORDS[given.kind].capitalize()} set", how)


@router.delete("/jobs/{job_id}/panels/{index}/features/{kind}/{at}", response=JobView, operation_id="remove_feature")
def remove_feature(request: HttpRequest, job_id: int, index: int, kind: FeatureKind, at: int) -> JobView:
    words = f"{_WORDS[kind].capitalize()} taken off"
    return panel_changed(request, job_id, index, words, lambda p: without_feature(p, kind, at))


@router.post("/jobs/{job_id}/panels/{index}/tapers", response=JobView, operation_id="set_tapers")
def set_tapers(request: HttpRequest, job_id: int, index: int, given: TapersIn) -> JobView:
    def how(panel: Panel) -> Panel:
        step = deeper(panel) if given.deeper else None
        if given.deeper and step is None:
            raise Refused("These tapers reach as far as they can; a fuller pad wants another shape.", "taper")
        return with_tapers(panel, given.edges, given.preset, curved=given.curved, step=step)

    return panel_changed(request, job_id, index, "Corners tapered", how)


@router.post("/jobs/{job_id}/panels/{index}/darts/{at}/pivot", response=JobView, operation_id="pivot_dart")
def pivot(request: HttpRequest, job_id: int, index: int, at: int, given: PivotIn) -> JobView:
    """Move a dart about its point, or split it in two."""
    words = ["Dart turned about its point"]

    def how(d: JobDocument) -> JobDocument:
        panel = panel_of(d, index)
        made = pivot_dart(panel, at, given.edge, _length(given.along, d), _share(given.percent))
        if made.fit != panel.fit:
            words.append("the ease is in the outline now")
        return with_panel(d, index, made)

    return apply(request, job_id, lambda: "; ".join(words), how)


@router.post("/jobs/{job_id}/panels/{index}/drop", response=JobView, operation_id="set_drop")
def set_drop(request: HttpRequest, job_id: int, index: int, given: DropIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        drop, tuck = _length(given.drop, d), _length(given.tuck, d)
        return with_panel(d, index, with_drop(panel_of(d, index), drop, tuck, how=given.how, pleats=given.pleats))

    return apply(request, job_id, "Dropped over its edge", how)


@router.get(
    "/jobs/{job_id}/panels/{index}/pad",
    response=PadStep,
    operation_id="filled_pad",
    openapi_extra={"responses": {200: {"content": {LINES: {"schema": {"$ref": "#/components/schemas/PadStep"}}}}}},
)
def filled_pad(request: HttpRequest, job_id: int, index: int) -> StreamingHttpResponse:
    """The panel filled as a pad of two plies: a `PadStep` a line, twice with the pad, first roughly and then finely."""
    d = history.current(job_of(request, job_id))
    panel = panel_of(d, index)

    def work(hand_out: Callable[[Schema], None]) -> None:
        told = 0.0

        def progress(share: float) -> None:
            nonlocal told
            if share >= told + _LEAST_PROGRESS:
                told = share
                hand_out(PadStep(share=round(share, 3)))

        for pad in filling(panel, progress):
            hand_out(PadStep(share=round(told, 3), pad=_pad_view(pad, panel, d.unit)))

    return in_lines(work)


def _pad_view(pad: FilledPad, panel: Panel, unit: Unit) -> PadView:
    flat, plan = box_of(pad.filled.flat), box_of(pad.filled.plan)
    return PadView(
        plan=polyline(pad.filled.plan), flat=polyline(pad.filled.flat), box=flat,
        corners=[
            PadCorner(at=c.at, stands_out=show_length(c.stands_out_mm, unit, with_unit=True), percent=round(100 * c.share, 1))
            for c in pad.corners
        ],
        worst_percent=round(100 * pad.worst, 1), enough=pad.is_enough, can_go_deeper=deeper(panel) is not None,
        thickness=show_length(pad.filled.thickness_mm, unit, with_unit=True), litres=round(pad.filled.volume_mm3 / 1e6, 2),
        formula_litres=round(bag_volume(flat[2], flat[3]) / 1e6, 2),
        drawn_in=f"{show_length(flat[2] - plan[2], unit)} × {show_length(flat[3] - plan[3], unit, with_unit=True)}",
    )  # fmt: skip


@router.get("/jobs/{job_id}/between", response=Between, operation_id="between")
def between(request: HttpRequest, job_id: int, ax: float, ay: float, bx: float, by: float) -> Between:
    unit = history.current(job_of(request, job_id)).unit
    if not all(math.isfinite(v) and abs(v) < 1e6 for v in (ax, ay, bx, by)):
        raise Refused("These points lie off the table.", "measure")
    return Between(
        length=show_length(math.hypot(bx - ax, by - ay), unit, with_unit=True),
        across=show_length(abs(bx - ax), unit), up=show_length(abs(by - ay), unit),
    )  # fmt: skip


@router.get("/jobs/{job_id}/panels/{index}/corner.pdf", operation_id="corner_template", include_in_schema=False)
def corner_card(request: HttpRequest, job_id: int, index: int, edge: int = 0) -> HttpResponse:
    d = history.current(job_of(request, job_id))
    panel = panel_of(d, index)
    taper = next((t for t in panel.tapers if t.edge == edge), None)
    if taper is None:
        raise Refused("This corner isn't tapered, so it needs no template.", "taper")
    drafted = draft_panel(panel)
    sides = [k for k, source in enumerate(drafted.seam_of) if source == edge]
    at = drafted.seam_line[sides[-1]].end
    card = draft_panel(corner_template(drafted, at, max(taper.reach, taper.reach_after)))
    data = panels_pdf([card], print_scale=d.print_scale, title=f"{d.name}: corner template")
    named = {"Content-Disposition": 'attachment; filename="corner-template.pdf"'}
    return HttpResponse(data, content_type="application/pdf", headers=named)


@router.put("/jobs/{job_id}/house/rules", response=JobView, operation_id="set_house_rules")
def set_rules(request: HttpRequest, job_id: int, given: RulesIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        before = d.house.rules_for(given.cloth)
        known = {f.name for f in fields(HouseRules)}
        typed = {n: _length(v, d) for n, v in given.rules.items() if n in known}
        rules = replace(before, **typed)
        cloth = d.house.cloth(given.cloth)
        house = d.house.with_cloth(replace(cloth, rules=rules)) if cloth else replace(d.house, rules=rules)
        return with_panels(replace(d, house=house), d.panels)

    return apply(request, job_id, "House rules set", how)


@router.put("/jobs/{job_id}/house/cloths", response=JobView, operation_id="set_cloth")
def set_cloth(request: HttpRequest, job_id: int, given: ClothIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        old = d.house.cloth(given.name.strip())
        own = (old.rules if old and old.rules else d.house.rules) if given.own_rules else None
        cloth = Cloth(
            given.name.strip(), _length(given.thickness, d), _share(given.warp_shrinks), _share(given.weft_shrinks),
            _share(given.warp_stretches), _share(given.weft_stretches), given.prewashed, own,
        )  # fmt: skip
        return with_panels(replace(d, house=d.house.with_cloth(cloth)), d.panels)

    return apply(request, job_id, "Cloth set", how)


@router.post("/jobs/{job_id}/house/keep", response=JobView, operation_id="keep_house")
def keep(request: HttpRequest, job_id: int) -> JobView:
    """Let new jobs of the workshop start with this job's rules and cloths."""
    job = job_of(request, job_id)
    keep_house(job.workshop, history.current(job).house)
    return job_view(job)


class _Typed:
    """The values of a form: read as lengths in the job's unit, numbers, words."""

    def __init__(self, values: dict[str, str], document: JobDocument) -> None:
        self.values, self.document = values, document

    def length(self, name: str, *, signed: bool = False) -> float:
        return _length(self.values.get(name, ""), self.document, signed=signed)

    def needed(self, name: str) -> float:
        if not self.values.get(name, "").strip():
            raise Refused(f"Type in the {name.replace('_', ' ')} too.", "measure")
        return self.length(name)

    def number(self, name: str, default: float = 0.0) -> float:
        return _number(self.values.get(name, ""), default)

    def whole(self, name: str, default: int = 0) -> int:
        return round(self.number(name, default))

    def word(self, name: str, default: str = "") -> Any:
        return self.values.get(name, "").strip() or default

    def yes(self, name: str) -> bool:
        return bool(self.values.get(name, "").strip())

    def point(self, name: str) -> tuple[float, float]:
        return self.length(f"{name}_0", signed=True), self.length(f"{name}_1", signed=True)


def _aperture(v: _Typed) -> Aperture:
    kind = v.word("kind", "round")
    ring = _drawn(v) if kind == "outline" else ()
    if ring:
        xs, ys = zip(*ring, strict=True)
        v.values |= {"size_0": f"{max(xs) - min(xs)} mm", "size_1": f"{max(ys) - min(ys)} mm"}
    size = v.needed("size_0")
    stocked = tuple(parse_length(t, v.document.unit) for t in v.word("stocked").split(";") if t.strip())
    return Aperture(
        _one_of(kind, "round", "slot", "rectangle", "outline"), v.point("at"), (size, size if kind == "round" else v.needed("size_1")),
        _one_of(v.word("finish", "hemmed"), "hemmed", "faced", "bound", "eyelet", "raw"), v.word("name", "aperture"),
        v.length("clearance"), v.number("turn_deg"), v.length("depth"), v.yes("slit"),
        v.number("slit_deg") if v.word("slit_deg") else None, stocked, v.length("zip_shows"), v.length("cord_exit"), ring,
    )  # fmt: skip


def _drawn(v: _Typed) -> tuple[tuple[float, float], ...]:
    """The outline of a captured piece of the job, trued, or of one of its panels ("panel 2"), about its middle."""
    of = v.word("piece")
    is_panel = of.startswith("panel ")
    number = of.removeprefix("panel ")
    at = int(number) if number.isascii() and number.isdigit() and len(number) < 6 else -1
    lines: Sequence[Edge] = ()
    if is_panel and 0 <= at < len(v.document.panels):
        lines = v.document.panels[at].seam_line
    elif not is_panel and 0 <= at < len(v.document.pieces):
        shape = v.document.pieces[at].shape
        lines = true_edges(shape.outline, shape.tolerance_mm)
    if not lines:
        raise Refused("Choose the captured piece or the panel whose outline the aperture has.", "aperture")
    points = flatten_ring(lines, 0.05)
    middle = (points.min(axis=0) + points.max(axis=0)) / 2
    return tuple((float(x), float(y)) for x, y in points - middle)


def _mark(v: _Typed) -> MarkAt:
    to = v.point("to") if v.word("to_0") or v.word("to_1") else None
    return MarkAt(_one_of(v.word("kind", "note"), *MarkKind.__args__), v.point("at"), to, v.word("words"))  # type: ignore[attr-defined]


_READERS: dict[FeatureKind, Callable[[_Typed], Any]] = {
    "tapers": lambda v: Taper(
        v.whole("edge"), v.needed("reach"), v.length("reach_after") or v.needed("reach"), v.needed("inset"), v.yes("curved")
    ),
    "darts": lambda v: Dart(
        v.whole("edge"), v.length("along"), v.needed("intake"), v.needed("length"), v.length("lean", signed=True),
        v.length("bow", signed=True), _one_of(v.word("towards", "start"), "start", "end"), v.yes("cut"), v.yes("corner"),
    ),
    "pleats": lambda v: Pleats(
        v.whole("edge"), v.length("along"), v.needed("intake"), v.whole("count", 1), v.length("pitch"),
        _one_of(v.word("towards", "start"), "start", "end", "box"), v.length("depth") or 50.0,
    ),
    "gathers": lambda v: Gather(v.whole("edge"), v.number("ratio", 2.0)),
    "apertures": _aperture,
    "placed": _mark,
    "layers": lambda v: Layer(
        _one_of(v.word("role", "lining"), *LayerRole.__args__), v.word("cloth", v.word("role", "lining")),  # type: ignore[attr-defined]
        v.length("grown", signed=True), v.length("allowance"), v.length("cut_larger"),
    ),
}  # fmt: skip
_WORDS: dict[FeatureKind, str] = {
    "tapers": "taper", "darts": "dart", "pleats": "pleats", "gathers": "gather", "apertures": "aperture", "placed": "mark",
    "layers": "layer",
}  # fmt: skip


def _one_of(word: str, *choices: str) -> Any:
    if word not in choices:
        raise Refused(f"“{word[:20]}” isn't one of {', '.join(c.replace('_', ' ') for c in choices)}.", "choice")
    return word


def _length(text: str, d: JobDocument, *, signed: bool = False) -> float:
    return parse_length(text, d.unit, signed=signed) if text.strip() else 0.0


def _number(text: str, default: float = 0.0) -> float:
    if not text.strip():
        return default
    try:
        value = float(text.strip().rstrip("%°").replace(",", "."))
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise Refused(f"“{text[:20]}” isn't a number; type it like 2.5.", "number")
    return value


def _share(text: str) -> float:
    return _number(text) / 100
