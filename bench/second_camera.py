"""The second camera's scenes, where its folder lies beside the project: another renderer's photographs, judged by its own judge."""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
from pathlib import Path

import shapely

__all__ = ["second_camera"]

ROOT = Path(__file__).parents[1]
FOLDER = Path(os.environ.get("YPSICLINE_SECOND_CAMERA", ROOT.parent / "shared" / "second_camera"))
CACHE = Path(os.environ.get("YPSICLINE_SECOND_CAMERA_CACHE", ROOT / "var" / "second_camera"))
NAMED = ("easy", "medium", "ring")
HEAD = "| scene | verdict | bias | p95 | largest | stated | s | what it says |\n|---|---|---|---|---|---|---|---|"


def second_camera(low: int = 0, high: int = 40) -> list[str]:
    """The section of the bench: named scenes, and those by lot from `low` to `high`; nothing where the folder isn't there."""
    if not (FOLDER / "judge.py").exists():
        return []
    rows = [*_judged(*NAMED), *_judged("--lot", str(low), str(high))]
    counts = {v: sum(r[1] == v for r in rows) for v in ("true", "FALSE", "refused", "crash")}
    tapped = [_pointed_at(r[0]) for r in rows if r[1] == "refused"]
    settled = sum(r[1] == "true" for r in tapped)
    ratios = [float(r[6]) / float(r[4]) for r in rows if r[1] in ("true", "FALSE")]
    lines = [
        "## A second camera",
        "",
        "Photographs of 12 megapixels by a renderer that shares nothing with the stand-in camera, measured without help by the",
        f"command line and judged by that renderer's own judge: all its named scenes, and those by lot from {low} to {high - 1}.",
        "True: 95 % of the outline lies within what is stated.",
        "",
        f"{counts['true']} true, {counts['FALSE']} false, {counts['refused']} refused, {counts['crash']} crashed; the stated "
        f"error is {statistics.median(ratios):.1f} times the true one in the median.",
        "",
        *_table(rows),
        "",
        f"With one tap in the piece's midst, of the {len(tapped)} refused {settled} are true: {counts['true'] + settled} of {len(rows)} in all.",
        "",
        *_table(tapped),
    ]
    return [*lines, ""]


def _table(rows: list[list[str]]) -> list[str]:
    return [
        HEAD,
        *(
            f"| {name} | {verdict} | {bias} | {p95} | {largest} | {stated} | {seconds} | {says if verdict != 'true' else ''} |"
            for name, verdict, bias, _rms, p95, largest, stated, seconds, says in rows
        ),
    ]


def _pointed_at(name: str) -> list[str]:
    """The row of a scene whose piece is pointed at where it is farthest from its edge, as the truth has it."""
    (truth,) = CACHE.glob(f"photos-*-1.0/{name}/truth.json")
    image = json.loads(truth.read_text())["images"][0]
    width, height = image["size_px"][:: -1 if image["exif_orientation"] in (6, 8) else 1]
    at = shapely.maximum_inscribed_circle(shapely.Polygon(image["outline_px_displayed"]).buffer(0), 5.0).coords[0]
    which = ["--lot", name[4:], str(int(name[4:]) + 1)] if name.startswith("lot-") else [name]
    (row,) = _judged(*which, "--extra", f"--at {at[0] / width:.4f} {at[1] / height:.4f}")
    return row


def _judged(*names: str) -> list[list[str]]:
    CACHE.mkdir(parents=True, exist_ok=True)
    subprocess.run([sys.executable, str(FOLDER / "judge.py"), str(ROOT), str(CACHE), *names], check=True, cwd=FOLDER)
    return [[str(v) for v in row] for row in json.loads((CACHE / "rows.json").read_text())]
