"""Build the demo workshop: a user, photos by the stand-in camera, and jobs at different stages.

Run as `python -m demo`; where the workshop is there already it is only brought up to date.
"""

from __future__ import annotations

import datetime
import math
import os
import time
from concurrent.futures import FIRST_COMPLETED, wait

import django

from demo.covers import COVERS
from demo.forkserver import begin_forkserver


def main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsicline.server.settings")
    django.setup()
    from django.conf import settings

    if not settings.DEMO:
        raise SystemExit("The demo is built only with YPSICLINE_DEMO=1, apart from a real workshop's data.")
    if _is_there():
        from ypsicline.server.jobs.wall import renew_tickets

        _bring_up_to_date()
        renew_tickets()
        print("The demo workshop is there already.")
        return
    print(
        "Building the demo workshop; its photos are taken by the stand-in camera (about a minute).",
        flush=True,
    )
    start = time.monotonic()
    begin_forkserver()
    _bring_up_to_date()
    from demo.helpers import helpers

    with helpers() as hands:
        _fill(hands)
    print(f"Built in {time.monotonic() - start:.0f} s.")


def _is_there() -> bool:
    from django.db import connection

    from ypsicline.server.jobs.models import Workshop

    return Workshop._meta.db_table in connection.introspection.table_names() and Workshop.objects.exists()


def _bring_up_to_date() -> None:
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    call_command("collectstatic", interactive=False, verbosity=0)


def _fill(hands) -> None:  # type: ignore[no-untyped-def]
    """The workshop with its jobs. Those with photos are begun in their order, and go on once these are measured by the `hands`
    helpers."""
    from django.contrib.auth import get_user_model
    from django.db import transaction

    from ypsicline.server.jobs.models import Workshop
    from ypsicline.server.middleware import DEMO_USER

    user = get_user_model().objects.create_user(username=DEMO_USER)
    user.set_unusable_password()
    with transaction.atomic():
        user.save()
        workshop = Workshop.objects.create(name="Otterbeck Clay Rooms", owner=user)
        workshop.members.add(user)
    _house_rules(workshop)
    _calibrated_camera(workshop, hands)
    begun = []
    for make in (
        _splash_tray,
        _bench_top,
        _stool_pads,
        _bucket_sleeve,
        _wrist_pads,
        _slab_roller,
        _stand,
        _glaze_table,
        _stool_slip,
        _funnel_sleeve,
        _cart_cover,
        _wheel_cushion,
    ):
        job = make(workshop, user, hands)
        if job is not None:
            begun.append((job, next(job)))
    for cover in COVERS:
        _cover(workshop, user, cover)
    while begun:
        wait([measuring for _, measuring in begun], return_when=FIRST_COMPLETED)
        begun = [on for job, measuring in begun if (on := _went_on(job, measuring))]


def _went_on(job, measuring):  # type: ignore[no-untyped-def]
    """A job and what it waits for, gone on as far as it can; None where it is finished."""
    if not measuring.done():
        return job, measuring
    measuring.result()
    waits_for = next(job, None)
    return waits_for and (job, waits_for)


def _cover(workshop, user, cover) -> None:  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.covers import DraftCover
    from ypsicline.core.formats.measures_json import family_adapter

    job = _job(workshop, user, cover.name, cover.covers, _due(cover.days), cover.unit, **cover.brief)
    asked = {"family": cover.family, "measures": cover.measures, "shapes": cover.shapes, "choices": cover.choices}
    _changed(job, user, DraftCover(family_adapter().validate_python(asked, context={"unit": cover.unit})))


def _due(days: int) -> datetime.date:
    return datetime.date.today() + datetime.timedelta(days=days)


def _job(workshop, user, name, covers, due, unit="mm", **brief):  # type: ignore[no-untyped-def]
    from ypsicline.core.job import Brief, JobDocument
    from ypsicline.server.jobs import history
    from ypsicline.server.jobs.house import house_of

    document = JobDocument(
        name=name, for_whom="Otterbeck Clay Rooms", due=due, unit=unit, brief=Brief(covers=covers, **brief),
        house=house_of(workshop),
    )  # fmt: skip
    return history.take_in(workshop, document, user)


def _measured(job, hands, *names, pieces=(), **wanted):  # type: ignore[no-untyped-def]
    """Send photos as the interface does, and wait for them to be measured by one of the `hands` instead of the worker, and for
    the pieces that are given names."""
    from ypsicline.server.jobs.models import Photo
    from ypsicline.server.photos import photos

    sent = [(f"{name.replace('_', '-')}.jpg", hands.photo(name)) for name in names]
    photo = photos.take_photos_in(job, sent, photos.CaptureRequest(**wanted))
    yield hands.measure(photo.pk, pieces)
    job.refresh_from_db()
    return Photo.objects.get(pk=photo.pk)


def _splash_tray(workshop, user, hands):  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.edges import SetEdges
    from ypsicline.core.changes.features import SetFeature
    from ypsicline.core.changes.panels import MakePanel
    from ypsicline.core.changes.pieces import AddMeasure
    from ypsicline.core.geometry.edges import edge_length
    from ypsicline.core.pattern.features.aperture import Aperture
    from ypsicline.core.pattern.features.layer import Layer

    job = _job(
        workshop, user, "Splash tray, wheel 3", "splash tray, arched, with a drain hole", _due(1), against=("dust", "wear"),
        goes_on="lifts off", looseness="close", sticks_out="wheel shaft, drain", cloth="waxed cotton", near=("motor",),
    )  # fmt: skip
    yield from _measured(job, hands, "splash_tray")
    (panel,) = _changed(job, user, MakePanel("tray")).panels
    ids = [e.id for e in panel.seam_line]
    arch = max(panel.seam_line, key=edge_length).id
    middle = [k for k, e in enumerate(panel.seam_line) if e.kind == "arc" and e.id != arch]
    slot = {ids[n % len(ids)] for k in middle for n in (k - 1, k, k + 1)}
    rest = [name for name in ids if name != arch and name not in slot]
    x, y = _inside(panel, 0.3)
    _changed(
        job, user,
        _label(panel, cloth="waxed cotton", way_up="TOP to the wheel"),
        SetEdges((arch,), finish="hem", allowance=25.0, name="rim"),
        SetEdges(tuple(sorted(slot)), finish="bound"),
        SetEdges(tuple(rest), allowance=12.0),
        SetEdges(tuple(e.id for e in panel.holes[0]), allowance=6.0),
        SetFeature(panel.id, Aperture("slot", (x, y), (90.0, 28.0), "faced", "handle")),
        SetFeature(panel.id, Layer("lining", "ripstop", -1.0, 12.0)),
        AddMeasure(edge=0), AddMeasure(between=(0, 1)),
    )  # fmt: skip


def _changed(job, user, *changes):  # type: ignore[no-untyped-def]
    """Make changes as the interface does, one after the other; the document after them."""
    from ypsicline.server.jobs import history

    for change in changes:
        job = history.change(job.pk, change, user)
    return history.current(job)


def _label(panel, **changes):  # type: ignore[no-untyped-def]
    """The change that sets a panel's label as it is, but for these."""
    from ypsicline.core.changes.panels import SetPanel

    names = ("name", "cloth", "count", "hand", "grain_deg", "way_up", "on_fold", "mitre_limit")
    return SetPanel(panel.id, **{n: getattr(panel, n) for n in names} | changes)


def _inside(panel, up):  # type: ignore[no-untyped-def]
    """A place on the panel's upright middle, at a share of its height down from the top."""
    from ypsicline.core.geometry.rings import flatten_ring

    points = flatten_ring(panel.seam_line)
    low, high = points.min(axis=0), points.max(axis=0)
    return float((low[0] + high[0]) / 2), float(high[1] - up * (high[1] - low[1]))


def _bench_top(workshop, user, hands):  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.pieces import AddMeasure, SetMeasure

    job = _job(
        workshop, user, "Wedging bench top", "kidney-shaped bench top", _due(2), "in", against=("wear",),
        goes_on="tied under", looseness="close", cloth="canvas", near=("dust", "cord"),
    )  # fmt: skip
    yield from _measured(job, hands, "bench_top")

    joints = _changed(job, user).shape.outline.joints
    across = math.dist(joints[0].point, joints[len(joints) // 2].point)
    taped = round(across / 3.175) * 3.175
    listed = _changed(job, user, AddMeasure(between=(0, len(joints) // 2)), AddMeasure(edge=0)).piece.tape
    _changed(job, user, SetMeasure(listed[0].id, taped))


def _stool_pads(workshop, user, _hands) -> None:  # type: ignore[no-untyped-def]
    from demo.pieces import stool_pad
    from ypsicline.core.changes.panels import AddPanels
    from ypsicline.core.pattern.panel import Panel
    from ypsicline.core.pattern.seam_edge import SeamEdge

    job = _job(
        workshop, user, "Stool pads", "six stool pads, back shorter than front", _due(2), against=("padding",),
        goes_on="tied to the legs", looseness="close", cloth="wool felt", near=("seating", "cord"),
    )  # fmt: skip
    corners = [(float(x), float(y)) for x, y in stool_pad()]
    names = ("front", "right", "back", "left")
    given = (12.0, 0.0, 12.0, 0.0)
    seam = tuple(SeamEdge("line", (corners[k], corners[(k + 1) % 4]), names[k], given[k]) for k in range(4))
    panel = Panel("pad top", seam, count=6, cloth="wool felt", way_up="back to the rail")
    _changed(job, user, AddPanels((panel,), "stool-pads.json"))


def _bucket_sleeve(workshop, user, hands):  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.edges import SetEdges
    from ypsicline.core.changes.panels import MakePanel

    job = _job(
        workshop, user, "Glaze bucket lid", "lid of the glaze bucket, with its lug", _due(5), against=("dust",),
        goes_on="pulled over", looseness="easy", cloth="cotton drill", near=("dust", "cord"),
    )  # fmt: skip
    yield from _measured(job, hands, "bucket_lid")

    (panel,) = _changed(job, user, MakePanel("lid")).panels
    edges = tuple(e.id for e in panel.seam_line)
    _changed(job, user, SetEdges(edges, allowance=10.0), _label(panel, count=4, cloth="cotton drill"))


def _wrist_pads(workshop, user, hands):  # type: ignore[no-untyped-def]
    job = _job(
        workshop, user, "Wrist pads", "two wrist pads for the trimming table", None, against=("padding",), cloth="leather",
        near=("filling",),
    )  # fmt: skip
    yield from _measured(job, hands, "wrist_pads")


def _slab_roller(workshop, user, _hands) -> None:  # type: ignore[no-untyped-def]
    _job(
        workshop,
        user,
        "Slab roller",
        "slab roller between sessions",
        _due(9),
        against=("dust",),
        near=("dust", "motor"),
    )


def _stand(workshop, user, hands):  # type: ignore[no-untyped-def]
    job = _job(
        workshop, user, "Trimming stand", "foot of the trimming stand, drawn round on paper", _due(6), against=("wear",),
        goes_on="pulled over", looseness="close", cloth="canvas",
    )  # fmt: skip
    yield from _measured(job, hands, "stand_trace", kind="line")


def _glaze_table(workshop, user, hands):  # type: ignore[no-untyped-def]
    job = _job(
        workshop, user, "Glaze table", "glaze table, wider than one photo", _due(12), against=("dust", "weather"),
        goes_on="lifts off", looseness="easy", cloth="oilcloth", near=("dust",),
    )  # fmt: skip
    yield from _measured(job, hands, *(f"glaze_table_{k}" for k in (1, 2)))


def _calibrated_camera(workshop, hands) -> None:  # type: ignore[no-untyped-def]
    from ypsicline.server.photos import cameras

    sent = [(f"camera-{k}.jpg", hands.photo(f"camera_{k}")) for k in range(1, 4)]
    cameras.calibrate_camera.call(cameras.take_camera_in(workshop, sent).pk)


def _stool_slip(workshop, user, hands):  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.pieces import OldCover, OpenPiece
    from ypsicline.server.photos import kept

    job = _job(
        workshop, user, "Throwing stool slip", "throwing stool, after its old slip", _due(8), against=("wear", "dust"),
        goes_on="pulled over", looseness="6 mm", cloth="cotton drill", near=("seating",),
    )  # fmt: skip
    yield from _measured(job, hands, "old_slip", pieces=("seat", "wall", "tab"))
    seat = _changed(job, user).pieces[0].id
    _changed(job, user, OpenPiece(seat), OldCover((), 10.0))
    (shown,) = kept.keep_photos(job, [("old-slip-on-the-bench.jpg", hands.photo("old_slip"))])
    kept.mark_parts(
        shown,
        "cut open along all seams",
        [(0.4, 0.52, "seat, nap to the front"), (0.62, 0.56, "wall, half"), (0.6, 0.4, "tab")],
    )


def _funnel_sleeve(workshop, user, hands):  # type: ignore[no-untyped-def]
    job = _job(
        workshop, user, "Glaze funnel sleeve", "glaze funnel, rolled along paper", _due(15), against=("dust",),
        goes_on="pulled over", looseness="easy", cloth="oilcloth",
    )  # fmt: skip
    yield from _measured(job, hands, "funnel", kind="roll", small_girth_mm=220.0, large_girth_mm=432.0)


def _house_rules(workshop) -> None:  # type: ignore[no-untyped-def]
    from ypsicline.core.drafting.house import Cloth, House
    from ypsicline.core.pattern.house_rules import HouseRules
    from ypsicline.server.jobs.house import keep_house

    cloths = (
        Cloth("canvas", 0.8, warp_shrinks=0.04, weft_shrinks=0.03),
        Cloth("cotton drill", 0.5, warp_shrinks=0.03, weft_shrinks=0.02, prewashed=True),
        Cloth("oilcloth", 0.6, rules=HouseRules(seam=8.0, hem=20.0)),
        Cloth("ripstop", 0.1),
        Cloth("waxed cotton", 0.6),
        Cloth("wool felt", 2.0),
    )
    keep_house(workshop, House(HouseRules(), cloths))


def _cart_cover(workshop, user, _hands) -> None:  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.edges import SetEdges
    from ypsicline.core.changes.features import SetDrop, SetFeature
    from ypsicline.core.changes.panels import AddPanels
    from ypsicline.core.pattern.features.mark_at import MarkAt
    from ypsicline.core.pattern.panel import Panel
    from ypsicline.core.pattern.seam_edge import SeamEdge

    job = _job(
        workshop, user, "Drying cart", "drying cart, hangs over its top board", _due(14), against=("dust",), goes_on="pulled over",
        looseness="easy", cloth="oilcloth", near=("cord", "dust"),
    )  # fmt: skip
    r, w, h = 70.0, 560.0, 420.0
    k = r * (1 - math.sqrt(0.5))
    seam = (
        SeamEdge("line", ((r, 0.0), (w - r, 0.0)), "front"),
        SeamEdge("arc", ((w - r, 0.0), (w - k, k), (w, r)), "front right"),
        SeamEdge("line", ((w, r), (w, h)), "right"),
        SeamEdge("line", ((w, h), (0.0, h)), "back"),
        SeamEdge("line", ((0.0, h), (0.0, r)), "left"),
        SeamEdge("arc", ((0.0, r), (k, k), (r, 0.0)), "front left"),
    )

    cover = Panel("cover", seam, cloth="oilcloth", middle_notches=False, way_up="back to the wall")
    (cover,) = _changed(job, user, AddPanels((cover,), "drying-cart.json")).panels
    _changed(
        job, user,
        SetDrop(cover.id, 140.0, 30.0),
        SetEdges(tuple(e.id for e in cover.seam_line), finish="casing", cord=5.0, corner="by_rule"),
        SetFeature(cover.id, MarkAt("exit", (w / 2 - 110, -90.0), text="cord out")),
        SetFeature(cover.id, MarkAt("exit", (w / 2 + 110, -90.0), text="cord out")),
    )  # fmt: skip


def _wheel_cushion(workshop, user, _hands) -> None:  # type: ignore[no-untyped-def]
    from ypsicline.core.changes.edges import SetEdges
    from ypsicline.core.changes.features import SetFeature, SetTapers
    from ypsicline.core.changes.panels import AddPanels
    from ypsicline.core.pattern.features.gather import Gather
    from ypsicline.core.pattern.panel import Panel
    from ypsicline.core.pattern.seam_edge import SeamEdge

    job = _job(
        workshop, user, "Bench cushion", "cushion for the throwing bench, with a frill", _due(20), against=("padding",),
        goes_on="tied", looseness="close", cloth="canvas", near=("seating", "filling", "cord"),
    )  # fmt: skip
    corners = [(0.0, 0.0), (440.0, 0.0), (440.0, 380.0), (0.0, 380.0)]
    names = ("front", "right", "back", "left")
    seam = tuple(SeamEdge("line", (corners[k], corners[(k + 1) % 4]), names[k]) for k in range(4))
    frill = [(520.0, 0.0), (1400.0, 0.0), (1400.0, 70.0), (520.0, 70.0)]
    strip = tuple(
        SeamEdge("line", (frill[k], frill[(k + 1) % 4]), ("edge", "end", "top", "start")[k]) for k in range(4)
    )

    top = Panel("cushion", seam, count=2, cloth="canvas")
    band = Panel("frill", strip, count=4, cloth="canvas", middle_notches=False)
    top, band = _changed(job, user, AddPanels((top, band), "bench-cushion.json")).panels
    around, (foot, *others) = ([e.id for e in panel.seam_line] for panel in (top, band))
    _changed(
        job, user,
        SetEdges((*around, *others), by_rule=True),
        SetEdges((foot,), finish="double_hem"),
        SetFeature(band.id, Gather(others[1], 2.0)),
        SetTapers(top.id, tuple(around)),
    )  # fmt: skip
