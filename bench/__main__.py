"""Measure everything and write docs/bench.md: `make bench`; `python -m bench drafting` renews its last section only,
`python -m bench photos` that of photos, `python -m bench second 0 40` the second camera's with the lots from 0 to 39,
`python -m bench served` that of a workshop in use, `python -m bench intake` that of large photos,
`python -m bench job` that of a job as it is changed, `python -m bench covers` that of covers from measures,
`python -m bench clicks` and `python -m bench tasks` those of clicks, `python -m bench frames` that of frames,
`python -m bench "pen line, 500 mm"` the rows of one set of photos."""

from __future__ import annotations

import os
import platform
import statistics
import subprocess
import sys
import tempfile
import time
from collections import defaultdict
from dataclasses import replace
from pathlib import Path

import numpy as np

from bench.by_hand import by_hand
from bench.clicks import clicks
from bench.compare import signed_errors
from bench.covers import covers
from bench.frames import frames
from bench.intake import intake
from bench.large_job import large_job
from bench.outlines import cutting_lines
from bench.scenes import Case, cases
from bench.second_camera import second_camera
from bench.served import served
from bench.tasks import tasks
from bench.timing import forget, paired
from bench.timing import timed as _timed
from bench.yardstick import bare_outline, bare_parallel
from tests import shapes
from ypsicline.core.capture.capture import Capture, capture_piece
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.sheets import make_sheets
from ypsicline.core.drafting.cutting_line import cut_ring
from ypsicline.core.drafting.draft import draft_panel, draft_panels
from ypsicline.core.drafting.inflated import inflate, inflating
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.outline_json import sheets_json
from ypsicline.core.formats.pdf import panels_pdf
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.trueing.shape import true_edges, true_up
from ypsicline.core.wording import render
from ypsicline.server.operations.collector import settle
from ypsicline.standins.camera import take_photo

# a process's own peak: what the parent held when it started the child isn't counted
OWN_PEAK = """
import sys
from ypsicline.cli import main
code = main(sys.argv[1:])
print(next(l for l in open("/proc/self/status") if l.startswith("VmHWM")).split()[1])
sys.exit(code)
"""
LOT = 10_000
# of a picture, in shares of its width and height: all pieces lie there
IN_THE_MIDDLE = (0.5, 0.5)
# the size at which the smooth ring flattens to 200 points
SMOOTH_200 = 0.19
OUT = Path(__file__).parents[1] / "docs" / "bench.md"


def main() -> None:
    if renewed := [case.group for case in cases() if case.group in sys.argv[1:]]:
        _renew(renewed[0])
        return
    if "photos" in sys.argv[1:]:
        with tempfile.TemporaryDirectory() as folder:
            _renew_section("Photo to outline", _accuracy(Path(folder)))
        return
    if "second" in sys.argv[1:]:
        lots = [int(v) for v in sys.argv if v.isdigit()]
        _renew_section("A second camera", second_camera(*lots[:2]))
        return
    if "served" in sys.argv[1:]:
        _renew_section("A workshop in use", served())
        return
    if "job" in sys.argv[1:]:
        _renew_section("A job as it is changed", large_job())
        return
    if "clicks" in sys.argv[1:]:
        _renew_section("Clicks from a ticket to ready to cut", clicks())
        return
    if "tasks" in sys.argv[1:]:
        _renew_section("Clicks of ten tasks", tasks())
        return
    if "frames" in sys.argv[1:]:
        _renew_section("Frames under the hand", frames())
        return
    if "covers" in sys.argv[1:]:
        _renew_section("Covers from measures", covers())
        return
    if "intake" in sys.argv[1:]:
        _renew_section("Photos as they come in", intake())
        return
    lines = [
        "# Bench",
        "",
        "Written by `make bench`. Photos are the stand-in camera's, 12 megapixels, of pieces of 600 × 450 mm if nothing else is said; errors are",
        "the distances of the found outline from the camera's truth once a shift and a turn are taken out, in mm. The",
        "yardstick is bare OpenCV and Shapely calls in the same run (`bench/yardstick.py`).",
        "",
        f"Machine: {os.cpu_count()} cores, {platform.machine()}, Python {platform.python_version()}.",
        "",
    ]
    if "drafting" in sys.argv[1:]:
        # the photos' figures stay as the last whole run found them
        lines += _kept()
    else:
        with tempfile.TemporaryDirectory() as folder:
            lines += _accuracy(Path(folder))
        lines += by_hand()
        lines += second_camera()
        lines += served()
        lines += intake()
        lines += large_job()
        lines += [*covers(), *clicks(), *tasks(), *frames()]
    lines += _drafting()
    OUT.write_text("\n".join(lines) + "\n")
    print(f"Written to {OUT.name}.")


def _renew_section(title: str, fresh: list[str]) -> None:
    """Put a section, measured again, in its place, or before the last one."""
    text = OUT.read_text()
    start = text.find(f"## {title}")
    start = text.index("## Drafting") if start < 0 else start
    end = text.find("\n## ", start) + 1 if text.startswith(f"## {title}", start) else start
    OUT.write_text(text[:start] + "\n".join([*fresh, text[end:]]))


def _renew(group: str) -> None:
    """Measure the photos of one set again and put their rows in the table's places."""
    text = OUT.read_text().splitlines()
    figures = []
    for number, case in enumerate(cases(), start=1):
        if case.group == group:
            row, result = _one(case, [take_photo(case.scene, shot) for shot in case.shots], defaultdict(list))
            figures.append(result)
            start = f"| {number} {case.name}, {case.group} |"
            text = [f"{start} {row}" if line.startswith(start) else line for line in text]
    text = [_summary(group, figures) if line.startswith(f"| {group} |") else line for line in text]
    OUT.write_text("\n".join(text) + "\n")


def _summary(group: str, figures: list[list[float]]) -> str:
    a = np.array(figures)
    return (
        f"| {group} | {len(a)} | {a[np.abs(a[:, 0]).argmax(), 0]:+.3f} | {a[:, 1].mean():.3f} | {np.median(a[:, 2]):.3f}, {a[:, 2].max():.3f} | "
        f"{int((a[:, 2] <= a[:, 3]).sum())} of {len(a)} |"
    )


def _kept() -> list[str]:
    """The section on photos as it stands."""
    text = OUT.read_text()
    return text[text.index("## Photo to outline") : text.index("## Drafting")].rstrip().splitlines()


def _accuracy(folder: Path) -> list[str]:
    rows = [
        "## Photo to outline",
        "",
        "| photo | bias | mean | p95 | max | stated | inside | seconds | bare: p95 | bare: seconds |",
        "|---|---|---|---|---|---|---|---|---|---|",
    ]
    stages: dict[str, list[float]] = defaultdict(list)
    groups: dict[str, list[list[float]]] = defaultdict(list)
    last: Path | None = None
    for number, case in enumerate(cases(), start=1):
        print(f"{number}: {case.name}, {case.group}", flush=True)
        data = [take_photo(case.scene, shot) for shot in case.shots]
        row, figures = _one(case, data, stages)
        rows.append(f"| {number} {case.name}, {case.group} | {row}")
        groups[case.group].append(figures)
        if last is None:
            last = folder / "photo.jpg"
            last.write_bytes(data[0])
    rows += [
        "",
        "| set | photos | worst bias | mean | p95 (median, worst) | truth inside the stated error at p95 |",
        "|---|---|---|---|---|---|",
    ]
    rows += [_summary(group, result) for group, result in groups.items()]
    rows += ["", "| stage | seconds (median) |", "|---|---|"]
    rows += [f"| {stage} | {statistics.median(times):.2f} |" for stage, times in stages.items()]
    if last:
        seconds, peak = _whole_process(folder, last)
        rows += [
            "",
            f"As a whole process from the command line: {seconds:.1f} s (median of 3), peak memory {peak:.0f} MB.",
            "",
        ]
    return rows


def _one(case: Case, data: list[bytes], stages: dict[str, list[float]]) -> tuple[str, list[float]]:
    marks: list[tuple[str, float]] = [("reading the photo", time.perf_counter())]
    photos = [read_photo(d) for d in data]
    asked = ""
    try:
        result = capture_piece(
            photos, kind=case.kind, height_mm=case.height_mm,
            progress=lambda stage, _share: marks.append((render(stage), time.perf_counter())),
        )  # fmt: skip
    except Refusal as e:
        if e.reason != "which_piece":
            raise
        asked = ", pointed at"
        result = capture_piece(photos, kind=case.kind, height_mm=case.height_mm, at=[IN_THE_MIDDLE])
    end = time.perf_counter()
    if case.group == "four sheets, flat":
        for (stage, t0), t1 in zip(marks, [t for _, t in marks[1:]] + [end], strict=True):
            stages[stage].append(t1 - t0)
    seconds = end - marks[0][1]
    if not isinstance(result, Capture):
        raise SystemExit(f"{case.name}: several pieces were found where there is one")
    truth = case.truth
    e = signed_errors(np.array(result.outline), truth)
    a = np.abs(e)
    p95 = float(np.percentile(a, 95))
    bare_p95, bare_seconds = "—", 0.0
    if len(photos) == 1 and case.kind == "piece":
        t0 = time.perf_counter()
        bare = bare_outline(photos[0].pixels)
        bare_seconds = time.perf_counter() - t0
        bare_p95 = f"{np.percentile(np.abs(signed_errors(bare, truth)), 95):.2f}" if len(bare) else "not found"
    share = 100 * float((a <= result.error_mm).mean())
    row = (
        f"{e.mean():+.3f} | {a.mean():.3f} | {p95:.3f} | {a.max():.3f} | ± {result.error_mm:.2f}{asked} | {share:.0f} % | {seconds:.1f} | "
        f"{bare_p95} | {bare_seconds:.1f} |"
    )
    return row, [float(e.mean()), float(a.mean()), p95, result.error_mm]


def _whole_process(folder: Path, photo: Path) -> tuple[float, float]:
    (folder / "sheets.json").write_bytes(sheets_json(make_sheets("a4", 4)))
    words = ["outline", str(photo), "--sheets", str(folder / "sheets.json"), "--out", str(folder / "o.json")]
    times, peaks = [], []
    for _ in range(3):
        t = time.perf_counter()
        done = subprocess.run([sys.executable, "-c", OWN_PEAK, *words], check=True, capture_output=True, text=True)
        times.append(time.perf_counter() - t)
        peaks.append(int(done.stdout) / 1024)
    return statistics.median(times), max(peaks)


def _drafting() -> list[str]:
    settle()
    rows = [
        "", "## Drafting", "",
        "Whatever the core remembers of edges that it has seen is cleared before each run; Python's collector is set as in",
        "the server.", "",
        "| work | ms (median) | bare mitred buffer, ms | ratio |", "|---|---|---|---|",
    ]  # fmt: skip
    rings = {name: tuple(replace(e, allowance=6.0) for e in make()) for name, make in shapes.ALL_SOUND.items()}
    large = {"200 lines": _many_lines(), "smooth": _smooth(SMOOTH_200), "smooth, large": _smooth(1.0)}
    large = {name: tuple(replace(e, allowance=6.0) for e in ring) for name, ring in large.items()}
    for name, ring in {**rings, **large}.items():
        points = flatten_ring(ring)
        panel = Panel(name, ring)
        own, bare, ratio = paired(lambda r=ring: cut_ring(r), lambda q=points: bare_parallel(q, 6))  # type: ignore[misc]
        rows.append(f"| cutting line, {name} ({len(points)} points) | {own:.2f} | {bare:.2f} | {ratio:.1f} |")
        rows.append(f"| whole draft, {name} | {_timed(lambda p=panel: draft_panel(p), before=forget):.2f} | | |")  # type: ignore[misc]
    for name, ring in large.items():
        panels = [Panel(f"p{k}", tuple(replace(e, allowance=6.0 + k / 10) for e in ring)) for k in range(40)]
        times = _timed(lambda p=panels: draft_panels(p), 9, before=forget)  # type: ignore[misc]
        rows.append(f"| whole draft of 40 panels, {name} ({len(flatten_ring(ring))} points each) | {times:.0f} | | |")
    square = flatten_ring(shapes.square(400))
    filled = inflate(square)
    rows.append(
        f"| a square pad filled, {filled.volume_mm3 / 400**3:.4f} a³ (known: 0.2055) | {_timed(lambda: inflate(square), 3):.0f} | | |"
    )
    rows.append(f"| its first, rough look | {_timed(lambda: next(inflating(square)), 3):.0f} | | |")
    start = time.perf_counter()
    result, refusal, wrong = cutting_lines(LOT)
    rows.append(
        f"| outlines drawn by lot: {result} cut, {refusal} refused with their place, {len(wrong)} faults | "
        f"{1000 * (time.perf_counter() - start) / LOT:.0f} each, checked | | |"
    )
    shape = true_up([(float(x), float(y)) for x, y in cases()[0].truth])
    rows.append(f"| fitting a traced kidney | {_timed(lambda: true_edges(shape.outline, 0.5)):.1f} | | |")
    wide = draft_panel(Panel("wide", shapes.square(1400)))
    rows.append(f"| PDF of 1.4 × 1.4 m on A4 | {_timed(lambda: panels_pdf([wide]), 5):.0f} | | |")
    return rows


def _many_lines() -> tuple[SeamEdge, ...]:
    """A wavy ring of 200 straight edges."""
    a = np.linspace(0, 2 * np.pi, 201)[:-1]
    r = 300 + 20 * np.sin(5 * a)
    return shapes.polygon([(float(x), float(y)) for x, y in np.column_stack([r * np.cos(a), r * np.sin(a)])])


def _smooth(size: float) -> tuple[SeamEdge, ...]:
    """A ring of a line, an arc and two curves, 900 mm high times `size`."""
    ring = (
        SeamEdge("line", ((0, 0), (800, 0)), "front"),
        SeamEdge("curve", ((800, 0), (860, 150), (760, 350), (800, 500)), "right"),
        SeamEdge("arc", ((800, 500), (400, 900), (0, 500)), "top"),
        SeamEdge("curve", ((0, 500), (60, 350), (-60, 150), (0, 0)), "left"),
    )
    return tuple(replace(e, points=tuple((x * size, y * size) for x, y in e.points)) for e in ring)


if __name__ == "__main__":
    main()
