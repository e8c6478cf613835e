"""What a large photo costs as it comes in: memory and time of taking one in, each in a process of its own."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy as np
from PIL import Image

__all__ = ["intake"]

ROOT = Path(__file__).parents[1]
# kind, mode, megapixels wide and high: the most that each kind may have
LARGEST = {
    "JPEG of 120 megapixels": ("JPEG", "RGB", (12_000, 9_990)),
    "JPEG of 120 megapixels, CMYK": ("JPEG", "CMYK", (12_000, 9_990)),
    "PNG of 60 megapixels": ("PNG", "RGB", (9_000, 6_660)),
    "PNG of 60 megapixels, see-through": ("PNG", "RGBA", (9_000, 6_660)),
    "PNG of 60 megapixels, 16 bits of grey": ("PNG", "I;16", (9_000, 6_660)),
    "TIFF of 60 megapixels": ("TIFF", "RGB", (9_000, 6_660)),
    "WebP of 24 megapixels": ("WEBP", "RGB", (6_000, 3_990)),
}
CHILD = """
import sys, time
import django
django.setup()
import ypsicline.server.wsgi
from ypsicline.server.photos.intake import store_photos
data = open(sys.argv[1], "rb").read()
begun = time.perf_counter()
store_photos(1, [("a", data)])
taken = time.perf_counter() - begun
print(taken, next(l for l in open("/proc/self/status") if l.startswith("VmHWM")).split()[1])
"""


def intake() -> list[str]:
    """The section of the bench."""
    lines = [
        "## Photos as they come in",
        "",
        "The largest that each kind may be, taken in by the server: read, freed of what is private, stored with a preview. The "
        "peak is the whole process's, the server itself among it.",
        "",
        "| photo | s | peak, MB |",
        "|---|---|---|",
    ]
    with tempfile.TemporaryDirectory() as folder:
        own = {**os.environ, "YPSICLINE_DATA": folder, "DJANGO_SETTINGS_MODULE": "ypsicline.server.settings"}
        for name, (kind, mode, size) in LARGEST.items():
            path = Path(folder) / "photo"
            packed = {"compression": "tiff_adobe_deflate"} if kind == "TIFF" else {}
            _picture(mode, size).save(path, kind, **packed)
            command = [sys.executable, "-W", "ignore", "-c", CHILD, str(path)]
            done = subprocess.run(command, env=own, cwd=ROOT, capture_output=True, text=True, check=True)
            seconds, kilobytes = done.stdout.split()[-2:]
            lines.append(f"| {name} | {float(seconds):.1f} | {int(kilobytes) / 1000:.0f} |")
    return [*lines, ""]


def _picture(mode: str, size: tuple[int, int]) -> Image.Image:
    across, up = np.linspace(0, 255, size[0], dtype=np.float32), np.linspace(0, 1, size[1], dtype=np.float32)
    grey = np.outer(up, across).astype(np.uint8)
    if mode == "I;16":
        return Image.fromarray(grey.astype(np.uint16) * 200)
    return Image.fromarray(grey).convert("RGB").convert(mode)
