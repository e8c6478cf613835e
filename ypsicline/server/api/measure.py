"""Outlines measured in with a tape."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit, parse_length
from ypsicline.core.trueing.measured import Measured, four_sided, from_edges, from_stations, rectangle, round_of_girth
from ypsicline.server.api.access import apply
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


def _typed(text: str, unit: Unit) -> float | None:
    return parse_length(text, unit) if text.strip() else None


def _measured_in(request: HttpRequest, job_id: int, how: Callable[[Unit], Measured]) -> JobView:
    said: list[str] = []

    def change(d: JobDocument) -> JobDocument:
        measured = how(d.unit)
        said.append("Measured in" + "".join(f"; {line}" for line in measured.worked))
        return d.captured(from_edges(measured.edges))

    return apply(request, job_id, lambda: said[-1], change)
