"""Outlines measured in with a tape."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core.capture.tablet import aligned
from ypsicline.core.errors import Refused
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import Unit, parse_length
from ypsicline.core.trueing.measured import Measured, four_sided, from_edges, from_stations, rectangle, round_of_girth
from ypsicline.core.trueing.on_off import on_off
from ypsicline.core.trueing.shape import true_up
from ypsicline.server.api.access import apply, job_of, workshop_of
from ypsicline.server.jobs.tablet import station
from ypsicline.server.jobs.view import JobView

router = Router()
# how well a hand touches a line with the tablet's pen
TOUCH_ERROR_MM = 0.5


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


class OnOffIn(Schema):
    """A worn cover on and off its frame, as typed: an off measure may be left empty. How much the new cloth stretches,
    in percent; as the old one where nothing is typed."""

    width_on: str
    width_off: str = ""
    length_on: str
    length_off: str = ""
    stretch_across: str = ""
    stretch_along: str = ""


class TouchedIn(Schema):
    """How far apart the two marks lie that were touched first, as typed."""

    apart: str


class TabletView(Schema):
    """What the workshop has touched so far, mm on the tablet; `taken` while another workshop uses it."""

    listening: bool
    taken: bool
    connected: bool
    touches: list[tuple[float, float]]
    wrong: str


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


@router.post("/jobs/{job_id}/measured/on-off", response=JobView, operation_id="measure_on_off")
def measure_on_off(request: HttpRequest, job_id: int, given: OnOffIn) -> JobView:
    def how(unit: Unit) -> Measured:
        sides = [
            on_off(name, parse_length(on, unit), _typed(off, unit), _percent(stretch))
            for name, on, off, stretch in (
                ("width", given.width_on, given.width_off, given.stretch_across),
                ("length", given.length_on, given.length_off, given.stretch_along),
            )
        ]
        made = rectangle(sides[0].cut_mm, sides[1].cut_mm)
        return Measured(made.edges, made.residuals, (*sides[0].worked, *sides[1].worked))

    return _measured_in(request, job_id, how)


@router.get("/tablet", response=TabletView, operation_id="tablet")
def tablet(request: HttpRequest) -> TabletView:
    at = station()
    seen = at.look(workshop_of(request).pk) if at else None
    touches, wrong = seen or ([], "")
    return TabletView(
        listening=at is not None, taken=at is not None and seen is None, connected=bool(at and at.connected),
        touches=touches, wrong=wrong,
    )  # fmt: skip


@router.delete("/tablet", response=TabletView, operation_id="clear_tablet")
def clear_tablet(request: HttpRequest) -> TabletView:
    if at := station():
        at.clear(workshop_of(request).pk)
    return tablet(request)


@router.post("/jobs/{job_id}/measured/tablet", response=JobView, operation_id="measure_tablet")
def measure_tablet(request: HttpRequest, job_id: int, given: TouchedIn) -> JobView:
    """What was touched on the tablet becomes the outline."""
    at, workshop = station(), job_of(request, job_id).workshop_id
    seen = at.look(workshop) if at else None
    touches = seen[0] if seen else []
    said: list[str] = []

    def change(d: JobDocument) -> JobDocument:
        ring, scale = aligned(touches, parse_length(given.apart, d.unit))
        said.append(f"Touched on the tablet; by the two marks {100 * (scale - 1):+.2f} %")
        return d.captured(true_up([(float(x), float(y)) for x, y in ring], error_mm=TOUCH_ERROR_MM))

    answer = apply(request, job_id, lambda: said[-1], change)
    if at:
        at.clear(workshop)
    return answer


def _percent(text: str) -> float | None:
    if not text.strip():
        return None
    try:
        return float(text.replace(",", ".").rstrip(" %")) / 100
    except ValueError as e:
        raise Refused(f"“{text[:20]}” is no percentage; type how much the cloth stretches, like 3.", "measure") from e


def _typed(text: str, unit: Unit) -> float | None:
    return parse_length(text, unit) if text.strip() else None


def _measured_in(request: HttpRequest, job_id: int, how: Callable[[Unit], Measured]) -> JobView:
    said: list[str] = []

    def change(d: JobDocument) -> JobDocument:
        measured = how(d.unit)
        said.append("Measured in" + "".join(f"; {line}" for line in measured.worked))
        return d.captured(from_edges(measured.edges))

    return apply(request, job_id, lambda: said[-1], change)
