"""Outlines measured in with a tape, and outlines made square, alike, and true to the tape."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit, parse_length, show_length
from ypsicline.core.trueing.folding import Keep, fold
from ypsicline.core.trueing.measured import Measured, four_sided, from_edges, from_stations, rectangle, round_of_girth
from ypsicline.core.trueing.scaling import scale_to_tape
from ypsicline.core.trueing.shape import TracedRing
from ypsicline.core.trueing.squaring import equal_edges, parallel_edges, square_corner
from ypsicline.server.api.access import apply
from ypsicline.server.api.shape import ring_changed, shape_of
from ypsicline.server.jobs.view import JobView

router = Router()


class FourSidesIn(Schema):
    """Sides and diagonals as typed; a diagonal may be left empty."""

    ab: str
    bc: str
    cd: str
    da: str
    ac: str = ""
    bd: str = ""
    symmetric: bool = False


class RectangleIn(Schema):
    """Width and length as typed, and what is known of the corners: their radius, or the diagonal through them."""

    width: str
    length: str
    radius: str = ""
    diagonal: str = ""


class RoundIn(Schema):
    """A girth as typed, and how far the pencil stood off, if it was drawn round."""

    girth: str
    pencil: str = ""


class StationIn(Schema):
    at: str
    lower: str = ""
    upper: str


class StationsIn(Schema):
    """Offsets from a base line, as typed; a lower offset left empty is none."""

    stations: list[StationIn]
    smooth: bool = True


class PairIn(Schema):
    """An edge, and the one that it is held against."""

    edge: int
    to: int


class FoldIn(Schema):
    first: int
    second: int
    keep: Keep = "average"


class ScaleIn(Schema):
    per_axis: bool = False


@router.post("/jobs/{job_id}/measured/four-sided", response=JobView, operation_id="measure_four_sided")
def measure_four_sided(request: HttpRequest, job_id: int, given: FourSidesIn) -> JobView:
    def how(unit: Unit) -> Measured:
        sides = (parse_length(t, unit) for t in (given.ab, given.bc, given.cd, given.da))
        return four_sided(*sides, _typed(given.ac, unit), _typed(given.bd, unit), symmetric=given.symmetric)

    return _measured_in(request, job_id, how)


@router.post("/jobs/{job_id}/measured/rectangle", response=JobView, operation_id="measure_rectangle")
def measure_rectangle(request: HttpRequest, job_id: int, given: RectangleIn) -> JobView:
    return _measured_in(
        request, job_id,
        lambda unit: rectangle(
            parse_length(given.width, unit), parse_length(given.length, unit),
            radius=_typed(given.radius, unit), diagonal=_typed(given.diagonal, unit),
        ),
    )  # fmt: skip


@router.post("/jobs/{job_id}/measured/round", response=JobView, operation_id="measure_round")
def measure_round(request: HttpRequest, job_id: int, given: RoundIn) -> JobView:
    return _measured_in(
        request, job_id,
        lambda unit: round_of_girth(parse_length(given.girth, unit), pencil=_typed(given.pencil, unit) or 0.0),
    )  # fmt: skip


@router.post("/jobs/{job_id}/measured/stations", response=JobView, operation_id="measure_stations")
def measure_stations(request: HttpRequest, job_id: int, given: StationsIn) -> JobView:
    def how(unit: Unit) -> Measured:
        def offset(text: str) -> float:
            return parse_length(text, unit, signed=True) if text.strip() else 0.0

        return from_stations(
            [(offset(s.at), offset(s.lower), offset(s.upper)) for s in given.stations], smooth=given.smooth
        )

    return _measured_in(request, job_id, how)


@router.post("/jobs/{job_id}/shape/{ring}/joints/{index}/square", response=JobView, operation_id="square_corner")
def make_square(request: HttpRequest, job_id: int, ring: int, index: int) -> JobView:
    return apply(
        request, job_id, "Corner made square", lambda d: ring_changed(d, ring, lambda r: square_corner(r, index))
    )


@router.post("/jobs/{job_id}/shape/{ring}/parallel", response=JobView, operation_id="parallel_edges")
def make_parallel(request: HttpRequest, job_id: int, ring: int, given: PairIn) -> JobView:
    return _pair(request, job_id, ring, "Edges made parallel", lambda r: parallel_edges(r, given.edge, given.to))


@router.post("/jobs/{job_id}/shape/{ring}/equal", response=JobView, operation_id="equal_edges")
def make_equal(request: HttpRequest, job_id: int, ring: int, given: PairIn) -> JobView:
    return _pair(request, job_id, ring, "Edges made equally long", lambda r: equal_edges(r, given.edge, given.to))


@router.post("/jobs/{job_id}/fold", response=JobView, operation_id="fold_shape")
def fold_shape(request: HttpRequest, job_id: int, given: FoldIn) -> JobView:
    said: list[str] = []

    def how(d: JobDocument) -> JobDocument:
        folded = fold(shape_of(d), given.first, given.second, given.keep)
        said.append(f"Folded: the halves lay up to {show_length(folded.apart_mm, d.unit, with_unit=True)} apart")
        return replace(d, shape=folded.shape, tape=())

    return apply(request, job_id, lambda: said[-1], how)


@router.post("/jobs/{job_id}/scale-to-tape", response=JobView, operation_id="scale_to_tape")
def scale(request: HttpRequest, job_id: int, given: ScaleIn) -> JobView:
    said: list[str] = []

    def how(d: JobDocument) -> JobDocument:
        scaled = scale_to_tape(shape_of(d), d.tape, per_axis=given.per_axis)
        across, up = (100 * (f - 1) for f in scaled.factors)
        words = f"{across:+.2f} % across, {up:+.2f} % up" if given.per_axis else f"{across:+.2f} %"
        left = max(abs(a) for a in scaled.apart_mm)
        said.append(
            f"Scaled to the tape by {words}; it is still up to {show_length(left, d.unit, with_unit=True)} apart"
        )
        return replace(d, shape=scaled.shape)

    return apply(request, job_id, lambda: said[-1], how)


def _pair(request: HttpRequest, job_id: int, ring: int, what: str, how: Callable[[TracedRing], TracedRing]) -> JobView:
    return apply(request, job_id, what, lambda d: ring_changed(d, ring, how))


def _typed(text: str, unit: Unit) -> float | None:
    return parse_length(text, unit) if text.strip() else None


def _measured_in(request: HttpRequest, job_id: int, how: Callable[[Unit], Measured]) -> JobView:
    said: list[str] = []

    def change(d: JobDocument) -> JobDocument:
        measured = how(d.unit)
        said.append("Measured in" + "".join(f"; {line}" for line in measured.worked))
        return replace(d, shape=from_edges(measured.edges), tape=())

    return apply(request, job_id, lambda: said[-1], change)
