"""The second camera's scenes, where its folder lies beside the project: another renderer's photographs, judged by its own judge."""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
from pathlib import Path

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
        HEAD,
    ]
    lines += [
        f"| {name} | {verdict} | {bias} | {p95} | {largest} | {stated} | {seconds} | {says if verdict != 'true' else ''} |"
        for name, verdict, bias, _rms, p95, largest, stated, seconds, says in rows
    ]
    return [*lines, ""]


def _judged(*names: str) -> list[list[str]]:
    CACHE.mkdir(parents=True, exist_ok=True)
    subprocess.run([sys.executable, str(FOLDER / "judge.py"), str(ROOT), str(CACHE), *names], check=True, cwd=FOLDER)
    return [[str(v) for v in row] for row in json.loads((CACHE / "rows.json").read_text())]
